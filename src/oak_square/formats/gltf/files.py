"""The two formats of glTF: text and binary."""

from __future__ import annotations

from pathlib import Path
from typing import ClassVar

from oak_square.core.frames import WORKING, Reading
from oak_square.core.scene import Asset
from oak_square.formats.gltf.document import open_document
from oak_square.formats.gltf.reading import asset_of
from oak_square.formats.gltf.writing import written
from oak_square.formats.limits import LIMITS, Limits
from oak_square.formats.model_file import Format, Received, Written, registered


class _Gltf(Format):
    declares: ClassVar[bool] = True
    holds: ClassVar[tuple[str, ...]] = (
        "unit and axes",
        "names",
        "hierarchy",
        "pivots",
        "normals",
        "colours",
        "textures",
        "shared geometry",
        "animation",
        "skins",
    )

    def read(self, path: Path, file: str, limits: Limits = LIMITS) -> Received:
        """Return the model at `path`."""
        document = open_document(path, file, limits)
        companions = tuple(b.companion for b in document.buffers if b.companion)
        return Received(
            asset=asset_of(document, limits, self.key), carrier=document, companions=(*companions, *document.textures)
        )

    def write(self, received: Received, asset: Asset, reading: Reading) -> Written:
        """Return the document edited; its numbers are metres, Y up, whatever is asked for."""
        return written(received.carrier, received.asset, asset, LIMITS)

    def reading_out(self, wanted: Reading) -> Reading:
        """Return what every glTF declares: metres, +Y up, +Z front."""
        return WORKING


@registered
class Glb(_Gltf):
    """Binary glTF."""

    key: ClassVar[str] = "glb"
    title: ClassVar[str] = "glTF binary"
    suffixes: ClassVar[tuple[str, ...]] = (".glb",)


@registered
class GltfText(_Gltf):
    """Text glTF with its buffers beside it or inside."""

    key: ClassVar[str] = "gltf"
    title: ClassVar[str] = "glTF"
    suffixes: ClassVar[tuple[str, ...]] = (".gltf",)
