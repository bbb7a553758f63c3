"""PLY, the polygon file format, as text and binary."""

from oak_square.formats.register import enter

__all__ = ["PLY"]

PLY = enter(__name__, "ply", "PLY", ".ply")
