"""3MF, the 3D manufacturing format."""

from oak_square.formats.threemf.files import ThreeMf

__all__ = ["ThreeMf"]
