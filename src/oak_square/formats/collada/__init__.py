"""COLLADA 1.4 and 1.5: text, edited in place."""

from oak_square.formats.register import enter

__all__ = ["COLLADA"]

COLLADA = enter(__name__, "dae", "COLLADA", ".dae")
