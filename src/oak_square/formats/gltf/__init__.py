"""glTF 2.0 and its binary form GLB: JSON and buffers edited in place."""

from oak_square.core.words import say
from oak_square.formats.register import enter

__all__ = ["GLB", "GLTF"]

GLB = enter(__name__, "glb", say("glTF binary"), ".glb", scenes=True)
GLTF = enter(__name__, "gltf", "glTF", ".gltf")
