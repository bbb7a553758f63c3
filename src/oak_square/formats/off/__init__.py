"""OFF, the object file format."""

from oak_square.formats.register import enter

__all__ = ["OFF"]

OFF = enter(__name__, "off", "OFF", ".off")
