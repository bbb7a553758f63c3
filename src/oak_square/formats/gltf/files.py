"""The two formats of glTF: text and binary."""

from __future__ import annotations

from pathlib import Path
from typing import Any, ClassVar

from oak_square.core.attached import Attached
from oak_square.core.frames import WORKING, Reading
from oak_square.core.scene import Asset
from oak_square.formats.gltf import GLB, GLTF
from oak_square.formats.gltf.attached import attached_of
from oak_square.formats.gltf.belongings import belongings_of, belongings_of_parts
from oak_square.formats.gltf.compression import DRACO
from oak_square.formats.gltf.document import open_document
from oak_square.formats.gltf.making import made
from oak_square.formats.gltf.plains import plains_of
from oak_square.formats.gltf.reading import asset_of
from oak_square.formats.gltf.writing import written
from oak_square.formats.limits import LIMITS, Limits
from oak_square.formats.register import Entry
from oak_square.formats.shared.look import SHADING
from oak_square.formats.shared.model_file import CARRIED, Format, Received, Written, registered
from oak_square.formats.shared.plain import Plain, PlainScene

__all__ = ["Glb", "GltfText"]


class _Gltf(Format):
    is_binary: ClassVar[bool]
    declares: ClassVar[bool] = True
    could: ClassVar[tuple[str, ...]] = (
        "points and lines",
        "texture tints",
        "roughness and metalness",
        "normal maps",
        "normal map strength",
        "occlusion",
        "emission",
        "cut-outs",
        "second texture coordinates",
        "texture wrapping",
        "further shading",
        "scenes",
    )
    holds: ClassVar[tuple[str, ...]] = CARRIED
    makes: ClassVar[tuple[str, ...]] = CARRIED[:10]  # what moves does not cross
    looks: ClassVar[tuple[str, ...]] = (
        "colour", "opacity", "texture", "cutoff", "both_sides", "roughness", "metalness", "rough_metal", "normal",
        "bump", "occlusion", "shade", "glow", "glow_texture",
    )  # fmt: skip
    shades: ClassVar[tuple[str, ...]] = SHADING[:-1]
    leans: ClassVar[bool] = False
    family: ClassVar[str] = "gltf"

    def reads_in_c(self, path: Path) -> bool:
        """Tell whether the file has Draco streams."""
        if not path.is_file():  # a pipe would be waited for
            return False
        try:
            with path.open("rb") as stream:
                head = stream.read(20)
                size = int.from_bytes(head[12:16], "little") if head[:4] == b"glTF" else LIMITS.text_bytes
                return DRACO.encode() in head + stream.read(min(size, LIMITS.text_bytes))
        except OSError:
            return False  # reading will say so

    def read(self, path: Path, file: str, limits: Limits = LIMITS) -> Received:
        """Return the model at `path`."""
        document = open_document(path, file, limits)
        companions = tuple(b.companion for b in document.buffers if b.companion)
        return Received(
            asset=asset_of(document, limits, self.key), carrier=document, companions=(*companions, *document.textures)
        )

    def write(self, received: Received, asset: Asset, reading: Reading) -> Written:
        """Return the document edited; its numbers are metres, Y up, whatever is asked for."""
        return written(received.carrier, received.asset, asset, LIMITS, binary=self.is_binary)

    def plains(self, received: Received, asset: Asset) -> dict[int, Plain]:
        """Return its meshes with texture coordinates, vertex colours and looks."""
        return plains_of(received.carrier, asset, LIMITS)

    def attached(self, received: Received) -> dict[int, tuple[Attached, ...]]:
        """Return the vertex attributes of its nodes' meshes."""
        return attached_of(received.carrier, received.asset, LIMITS)

    def belongings(self, received: Received) -> dict[str, Any]:
        """Return its materials, textures and what else stands beside nodes and meshes."""
        return belongings_of(received.carrier, LIMITS)

    def belongings_of_parts(self, received: Received) -> dict[int, Any]:
        """Return the default weights and extras of its meshes, and the entries of their primitives."""
        return belongings_of_parts(received.carrier, received.asset)

    def make(self, scene: PlainScene) -> Written:
        """Return a new file of a scene in metres, Y up."""
        return made(scene, binary=self.is_binary)

    def reading_out(self, wanted: Reading) -> Reading:
        """Return what every glTF declares: metres, +Y up, +Z front."""
        return WORKING


@registered
class Glb(_Gltf):
    """Binary glTF."""

    entry: ClassVar[Entry] = GLB
    is_binary: ClassVar[bool] = True


@registered
class GltfText(_Gltf):
    """Text glTF with its buffers beside it or inside."""

    entry: ClassVar[Entry] = GLTF
    is_binary: ClassVar[bool] = False
