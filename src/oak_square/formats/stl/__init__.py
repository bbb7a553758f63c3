"""STL, as text and binary."""

from oak_square.formats.register import enter

__all__ = ["STL"]

STL = enter(__name__, "stl", "STL", ".stl")
