"""3MF, the 3D manufacturing format."""

from oak_square.formats.register import enter

__all__ = ["THREE_MF"]

THREE_MF = enter(__name__, "3mf", "3MF", ".3mf")
