"""Wavefront OBJ, with its material libraries."""

from oak_square.formats.obj.files import Obj

__all__ = ["Obj"]
