"""STL, as text and binary."""

from oak_square.formats.stl.files import Stl

__all__ = ["Stl"]
