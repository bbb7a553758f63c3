"""Wavefront OBJ, with its material libraries."""

from oak_square.core.words import say
from oak_square.formats.register import enter

__all__ = ["OBJ"]

OBJ = enter(__name__, "obj", say("Wavefront OBJ"), ".obj")
