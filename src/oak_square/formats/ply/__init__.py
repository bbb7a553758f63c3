"""PLY, the polygon file format, as text and binary."""

from oak_square.formats.ply.files import Ply

__all__ = ["Ply"]
