"""The format COLLADA."""

from __future__ import annotations

from dataclasses import dataclass, replace
from pathlib import Path
from typing import Any, ClassVar

from oak_square.core.attached import Attached
from oak_square.core.frames import WORKING, Reading
from oak_square.core.scene import Asset
from oak_square.core.words import say
from oak_square.formats.collada import COLLADA
from oak_square.formats.collada.document import ColladaDocument, open_document, opened_again, up_word
from oak_square.formats.collada.hanging import rehung_text
from oak_square.formats.collada.making import made
from oak_square.formats.collada.reading import NodePlace, asset_of, attached_of, plains_of
from oak_square.formats.collada.writing import written
from oak_square.formats.limits import LIMITS, Limits
from oak_square.formats.register import Entry
from oak_square.formats.shared.hanging import Rehanging, file_order, rehanging_of
from oak_square.formats.shared.model_file import Companion, Format, Received, Written, checked_size, registered
from oak_square.formats.shared.plain import Plain, PlainScene
from oak_square.formats.shared.text_edit import as_it_came
from oak_square.formats.shared.xml_rest import BySteps, rest_of_xml

__all__ = ["Collada"]


_CHANGED = BySteps(
    elements={
        **dict.fromkeys(("translate", "rotate", "scale", "matrix", "lookat", "skew"), frozenset({"node"})),
        "unit": frozenset({"asset"}),
        "up_axis": frozenset({"asset"}),
    },
    attributes={
        "float_array": frozenset({"count"}), "accessor": frozenset({"count"}), "instance_geometry": frozenset({"url"}),
    },
    texts=dict.fromkeys(("float_array", "p", "h", "vcount"), "library_geometries"),
    loose=frozenset({"count"}),
    hung=frozenset({"node", "geometry"}),
)  # fmt: skip


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class _ColladaCarrier:
    document: ColladaDocument
    stands: tuple[NodePlace, ...]


@registered
class Collada(Format):
    """COLLADA files."""

    entry: ClassVar[Entry] = COLLADA
    declares: ClassVar[bool] = True
    could: ClassVar[tuple[str, ...]] = (
        "points and lines",
        "emission",
        "second texture coordinates",
        "texture wrapping",
        "further shading",
        "scenes",
    )
    holds: ClassVar[tuple[str, ...]] = (
        "unit and axes", "names", "hierarchy", "pivots", "normals", "texture coordinates", "colours", "textures",
        "vertex colours", "shared geometry", "animation", "skins", "morph targets", "cameras and lights",
    )  # fmt: skip
    makes: ClassVar[tuple[str, ...]] = (
        "unit and axes", "names", "hierarchy", "pivots", "normals", "texture coordinates", "colours", "textures",
        "vertex colours", "shared geometry",
    )  # fmt: skip
    looks: ClassVar[tuple[str, ...]] = ("colour", "opacity", "texture", "glow", "glow_texture")
    shades: ClassVar[tuple[str, ...]] = ("emission", "second texture coordinates", "texture wrapping")

    def read(self, path: Path, file: str, limits: Limits = LIMITS) -> Received:
        """Return the model at `path`."""
        checked_size(path, file, limits)
        document = open_document(path, path.read_bytes(), file, limits)
        asset, stands, textures = asset_of(document, self.key)
        return Received(asset=asset, carrier=_ColladaCarrier(document=document, stands=stands), companions=textures)

    def write(self, received: Received, asset: Asset, reading: Reading) -> Written:
        """Return the text edited, in the unit and axes of `reading`."""
        carrier: _ColladaCarrier = received.carrier
        change = rehanging_of(received.asset, asset)
        if change is None:
            out = written(carrier.document, carrier.stands, received.asset, asset, reading)
        else:
            out = self._write_rehung(received, asset, reading, change)
        folder = carrier.document.folder
        companions = tuple(Companion(path=t, source=folder / t) for t in received.companions)
        return replace(out, companions=companions)

    def _write_rehung(self, received: Received, asset: Asset, reading: Reading, change: Rehanging) -> Written:
        old: ColladaDocument = received.carrier.document
        text = rehung_text(old, received.carrier.stands, asset, change)
        document = opened_again(old, text)
        there, stands, _ = asset_of(document, self.key)
        order = file_order(received.asset, asset, [n.name for n in asset.nodes], there)
        out = written(document, stands, there, asset.in_order(order), reading)
        chunks = (as_it_came(text, document.encoding),) if out.chunks is None else out.chunks
        return replace(out, chunks=chunks, order=order)

    def attached(self, received: Received) -> dict[int, tuple[Attached, ...]]:
        """Return what its polygons name for their corners beside positions."""
        return attached_of(received.carrier.document, received.asset, received.carrier.stands)

    def belongings(self, received: Received) -> dict[str, Any]:
        """Return all that its elements say but for places and numbers of geometry."""
        return {
            **super().belongings(received),
            "further elements": rest_of_xml((received.carrier.document.root,), _CHANGED),
        }

    def plains(self, received: Received, asset: Asset) -> dict[int, Plain]:
        """Return its meshes, a vertex for each set of position, normal and texture coordinate."""
        return plains_of(received.carrier.document, received.asset, asset, received.carrier.stands)

    def make(self, scene: PlainScene) -> Written:
        """Return a new file of a scene, in its unit and axes."""
        return made(scene)

    def reading_out(self, wanted: Reading) -> Reading:
        """Return `wanted` where an `up_axis` can name its axes, else metres, Y up."""
        return replace(wanted, source="declared") if up_word(wanted) is not None else WORKING

    def unnamed(self, wanted: Reading) -> tuple[str, ...]:
        """Return a warning where no `up_axis` can name the axes asked for."""
        if up_word(wanted) is not None:
            return ()
        return (
            say(
                "COLLADA can't name {up} up and {front} front: it is written in metres, Y up",
                up=wanted.up,
                front=wanted.front,
            ),
        )
