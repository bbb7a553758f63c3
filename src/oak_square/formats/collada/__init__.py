"""COLLADA 1.4 and 1.5: text, edited in place."""

from oak_square.formats.collada.files import Collada

__all__ = ["Collada"]
