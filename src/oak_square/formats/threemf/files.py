"""3MF: a package whose model is edited in place; +Z up, front -Y, in its own unit.

A build item is a node, an object's components are nodes below it. Frames of any kind are held as matrices. Only
transforms and the numbers of vertices change; a mirror turns triangles round. Materials, colours and all other parts
stay.
"""

from __future__ import annotations

import re
from dataclasses import dataclass, replace
from pathlib import Path
from typing import Any, ClassVar

import numpy as np
from numpy.typing import NDArray

from oak_square.core.errors import BadFile, Refused
from oak_square.core.frames import WORKING, Reading
from oak_square.core.motion import with_reading
from oak_square.core.placement import Placement
from oak_square.core.scene import PLAIN_COLOUR, Asset, Mesh, Node, Surface
from oak_square.core.words import say
from oak_square.formats.limits import LIMITS, Limits
from oak_square.formats.register import Entry
from oak_square.formats.shared.hanging import Rehanging, file_order, rehanging_of
from oak_square.formats.shared.look import Look
from oak_square.formats.shared.model_file import (
    Format,
    Received,
    Written,
    checked_size,
    count_not_finite,
    file_nodes,
    placements_reach,
    registered,
)
from oak_square.formats.shared.plain import Plain, PlainScene, plain_mesh
from oak_square.formats.shared.text_edit import spliced
from oak_square.formats.shared.xml_rest import BySteps, rest_of_xml
from oak_square.formats.shared.xml_spans import Element
from oak_square.formats.threemf import THREE_MF
from oak_square.formats.threemf.editing import declared, shape_edits, transform_edits
from oak_square.formats.threemf.hanging import rehung_model
from oak_square.formats.threemf.making import made
from oak_square.formats.threemf.model import UNITS, MeshRows, Model, open_model, transform_values
from oak_square.formats.threemf.package import Package, digests_beside, open_package, repacked

__all__ = ["ThreeMf"]

Array = NDArray[np.float64]
_DEEPEST = 100
_ALPHA = re.compile("#[0-9A-Fa-f]{8}")


_PLACED = frozenset({"transform", "objectid"})
_CHANGED = BySteps(
    attributes={"model": frozenset({"unit"}), "item": _PLACED, "component": _PLACED},
    loose=frozenset({"pid", "pindex", "UUID", "partnumber"}),
    hung=frozenset({"object", "item", "component"}),
    alike={"item": "component"},
)


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class _ThreeMfCarrier:
    package: Package
    model: Model
    places: tuple[tuple[Element, str], ...]  # for each node: the item or component that places it, and its object


@registered
class ThreeMf(Format):
    """3MF packages."""

    entry: ClassVar[Entry] = THREE_MF
    declares: ClassVar[bool] = True
    holds: ClassVar[tuple[str, ...]] = ("unit and axes", "names", "hierarchy", "pivots", "colours", "shared geometry")
    makes: ClassVar[tuple[str, ...]] = ("unit and axes", "names", "hierarchy", "pivots", "colours", "shared geometry")
    looks: ClassVar[tuple[str, ...]] = ("colour", "opacity")
    makes_empty_groups: ClassVar[bool] = False

    def read(self, path: Path, file: str, limits: Limits = LIMITS) -> Received:
        """Return the model at `path`."""
        checked_size(path, file, limits)
        package = open_package(path, file, limits)
        model = open_model(package.models, file, limits)
        asset, places = _make_asset(model, file, self.key, limits)
        return Received(asset=asset, carrier=_ThreeMfCarrier(package=package, model=model, places=places))

    def write(self, received: Received, asset: Asset, reading: Reading) -> Written:
        """Return the package with transforms and numbers of its model changed."""
        carrier: _ThreeMfCarrier = received.carrier
        model, places = carrier.model, carrier.places
        change = rehanging_of(received.asset, asset)
        if change is not None:
            return self._write_rehung(received, asset, reading, change)
        edits: list[tuple[int, int, bytes]] = []
        if not reading.same_frame(received.asset.reading):
            edits += declared(model.root, reading)
        before, nodes = file_nodes(received.asset, received.asset.reading), file_nodes(asset, reading)
        edits += transform_edits(places, before, nodes, placements_reach(before, received.asset.meshes))
        own, told = shape_edits(model, places, nodes, asset)
        edits += own
        if not edits:
            return Written(chunks=None)
        models = {**carrier.package.models, **_edit_models(model, edits)}
        return Written(chunks=(repacked(carrier.package, models),), warnings=told)

    def _write_rehung(self, received: Received, asset: Asset, reading: Reading, change: Rehanging) -> Written:
        carrier: _ThreeMfCarrier = received.carrier
        text = rehung_model(carrier.model, carrier.places, asset, change)
        models = {**carrier.package.models, next(iter(carrier.package.models)): text}
        model = open_model(models, asset.file, LIMITS)
        there, places = _make_asset(model, asset.file, self.key, LIMITS)
        order = file_order(received.asset, asset, [n.name for n in asset.nodes], there)
        package = replace(carrier.package, models=models)
        again = Received(asset=there, carrier=_ThreeMfCarrier(package=package, model=model, places=places))
        out = self.write(again, asset.in_order(order), reading)
        chunks = (repacked(package, models),) if out.chunks is None else out.chunks
        return replace(out, chunks=chunks, order=order)

    def belongings(self, received: Received) -> dict[str, Any]:
        """Return all that its models say but for places and meshes, and its other parts by their hash."""
        carrier: _ThreeMfCarrier = received.carrier
        models = rest_of_xml(carrier.model.roots, _CHANGED)
        return {"further elements": models, "parts beside its model": digests_beside(carrier.package)}

    def plains(self, received: Received, asset: Asset) -> dict[int, Plain]:
        """Return its meshes with the names of their materials."""
        looks = dict(enumerate(looks_of(received.carrier.model).values()))
        used = {node.mesh for node in asset.nodes if node.mesh is not None}
        return {k: plain_mesh(asset.meshes[k], looks) for k in used}

    def make(self, scene: PlainScene) -> Written:
        """Return a new package of a scene in its unit, +Z up."""
        return Written(chunks=(made(scene),))

    def reading_out(self, wanted: Reading) -> Reading:
        """Return the unit asked for where 3MF has it, else metres; +Z is always up."""
        metres = wanted.metres_per_unit if wanted.metres_per_unit in UNITS.values() else 1.0
        return Reading(metres_per_unit=metres, up="+Z", front="-Y", source="declared")

    def unnamed(self, wanted: Reading) -> tuple[str, ...]:
        """Return a warning where 3MF has no word for the unit."""
        if wanted.metres_per_unit in UNITS.values():
            return ()
        return (
            say(
                "3MF can't name a unit of {metres_per_unit:g} m: it is written in metres",
                metres_per_unit=wanted.metres_per_unit,
            ),
        )


def _edit_models(model: Model, edits: list[tuple[int, int, bytes]]) -> dict[str, bytes]:
    """Return the texts of the models that edits are in, by part."""
    found = {}
    for part, (first, last) in model.bounds.items():
        own = [(start - first, end - first, text) for start, end, text in edits if first <= start < last]
        if own:
            starts, ends, texts = zip(*own, strict=True)
            found[part] = spliced(model.data[first:last], np.array(starts), np.array(ends), texts)
    return found


def _make_asset(model: Model, file: str, key: str, limits: Limits) -> tuple[Asset, tuple[tuple[Element, str], ...]]:
    nodes, meshes, known = list[Node](), list[Mesh](), dict[str, int]()
    places: list[tuple[Element, str]] = []
    looks = looks_of(model)
    waiting: list[tuple[Element, int | None, str]] = [(i, None, "") for i in reversed(model.root.all("build", "item"))]
    _check_unfolded(model, [place for place, _, _ in waiting], file, limits)
    while waiting:
        place, parent, above = waiting.pop()
        ident = model.called(place, above, file)
        element, mesh = model.objects[ident], None
        if ident in model.shapes:
            if ident not in known:
                known[ident] = len(meshes)
                meshes.append(_make_mesh(element, ident, model.shapes[ident], looks))
            mesh = known[ident]
        matrix = transform_values(place.attributes.get("transform"), file)
        name = _read_name(element)
        try:
            placement = Placement.as_read(matrix, what=say("object '{name}'", name=name))
        except Refused as error:
            raise BadFile(file, str(error)) from error
        nodes.append(Node(name=name, parent=parent, placement=placement, mesh=mesh))
        places.append((place, ident))
        waiting += reversed([(c, len(nodes) - 1, ident) for c in element.all("components", "component")])
    reading = Reading(metres_per_unit=model.metres, up="+Z", front="-Y", source="declared")
    asset = Asset(
        file=file, format=key, reading=WORKING, nodes=tuple(nodes), meshes=tuple(meshes),
        carries=("materials",) if looks else (),
    )  # fmt: skip
    return with_reading(asset, reading), tuple(places)


def _read_name(element: Element) -> str:
    own = element.attributes.get("name") or element.attributes.get("partnumber")
    return own or f"object_{element.attributes.get('id', '')}"


def _check_unfolded(model: Model, items: list[Element], file: str, limits: Limits) -> None:
    """Count the nodes that objects come to before any is made: a few made of one another twice come to any number.

    Raises
    ------
    BadFile
        If they are more than the limits allow, or an object is made of itself.
    """
    counts: dict[str, int] = {}

    def count(ident: str, depth: int) -> int:
        if depth > _DEEPEST:
            raise BadFile(
                file,
                say("its objects are made of one another over {_deepest} deep, or of themselves", _deepest=_DEEPEST),
            )
        if ident not in counts:
            below = model.objects[ident].all("components", "component")
            counts[ident] = 1 + sum(count(model.called(c, ident, file), depth + 1) for c in below)
        return counts[ident]

    total = sum(count(model.called(item, "", file), 0) for item in items)
    if total > limits.nodes // 10:
        raise BadFile(
            file,
            say(
                "its objects come to {total} parts and groups, over the limit of {nodes}",
                total=total,
                nodes=limits.nodes // 10,
            ),
        )


def looks_of(model: Model) -> dict[tuple[str, int], Look]:
    """Return each look of the root model by its group and its place in that."""
    resources, found = model.root.one("resources"), dict[tuple[str, int], Look]()
    for group in resources.children if resources is not None else ():
        if group.tag in {"basematerials", "colorgroup"}:
            for k, row in enumerate(group.children):
                text = row.attributes.get("displaycolor") or row.attributes.get("color", "")
                name = row.attributes.get("name") or f"colour_{text.lstrip('#')[:6].lower() or k}"
                opacity = int(text[7:9], 16) / 255 if _ALPHA.fullmatch(text) else 1.0
                found[group.attributes.get("id", ""), k] = Look(name=name, colour=_parse_colour(text), opacity=opacity)
    return found


def _parse_colour(text: str) -> tuple[float, float, float]:
    try:
        red, green, blue = (int(text[k : k + 2], 16) / 255 for k in (1, 3, 5))
    except ValueError:
        return PLAIN_COLOUR
    return red, green, blue


def _make_mesh(element: Element, ident: str, shape: MeshRows, looks: dict[tuple[str, int], Look]) -> Mesh:
    group, index = element.attributes.get("pid", ""), element.attributes.get("pindex", "0")
    # Groups of another model of the package are not those of the root model that have their numbers.
    looks = looks if "#" not in ident else {}
    return Mesh(
        name=_read_name(element),
        points=shape.points,
        triangles=shape.triangles.astype(np.uint32),
        surfaces=_find_surfaces(shape, looks, group, int(index) if index.isdecimal() and len(index) < 9 else 0),
        not_finite=count_not_finite([shape.points]),
    )


def _find_surfaces(shape: MeshRows, looks: dict[tuple[str, int], Look], group: str, index: int) -> tuple[Surface, ...]:
    """Return runs of triangles of one look."""
    count = len(shape.triangles)
    if not count:
        return ()
    number = int(group) if group.isdecimal() and len(group) < 12 else -1
    groups = np.where(shape.groups >= 0, shape.groups, number)
    keys = np.where(shape.rows >= 0, groups * 1_000_003 + shape.rows, -1)
    starts = np.flatnonzero(np.diff(keys, prepend=keys[0] - 1))
    ends, order = np.append(starts[1:], count), list(looks)
    found = []
    for a, b in zip(starts.tolist(), ends.tolist(), strict=True):
        row = int(shape.rows[a])
        key = (group, index) if row < 0 else (str(int(groups[a])), row)
        material = order.index(key) if key in looks else None
        colour = looks[key].colour if key in looks else PLAIN_COLOUR
        found.append(Surface(first=a, count=b - a, colour=colour, material=material))
    return tuple(found)
