"""glTF 2.0 and its binary form GLB: JSON and buffers edited in place."""

from oak_square.formats.gltf import set_out
from oak_square.formats.gltf.files import Glb, GltfText

__all__ = ["Glb", "GltfText", "set_out"]
