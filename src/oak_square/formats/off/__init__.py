"""OFF, the object file format."""

from oak_square.formats.off.files import Off

__all__ = ["Off"]
