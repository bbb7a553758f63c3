"""3MF: a package whose model is edited in place; +Z up, front -Y, in its own unit.

A build item is a node, an object's components are nodes below it. Frames of any kind are held as matrices. Only
transforms and the numbers of vertices change; a mirror turns triangles round. Materials, colours and all other parts
stay.
"""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path
from typing import ClassVar

import numpy as np
from numpy.typing import NDArray

from oak_square.core.errors import BadFile, Refused
from oak_square.core.frames import WORKING, Reading
from oak_square.core.motion import with_reading
from oak_square.core.placement import Placement
from oak_square.core.scene import PLAIN_COLOUR, Asset, Mesh, Node, Surface
from oak_square.formats.limits import LIMITS, Limits
from oak_square.formats.model_file import (
    Format,
    Received,
    Written,
    check_same_tree,
    checked_size,
    count_not_finite,
    file_nodes,
    placements_reach,
    registered,
)
from oak_square.formats.plain import Scene
from oak_square.formats.text_edit import spliced
from oak_square.formats.threemf_editing import declared, shape_edits, transform_edits
from oak_square.formats.threemf_making import made
from oak_square.formats.threemf_model import UNITS, Model, Shape, open_model, transform_values
from oak_square.formats.threemf_package import Package, open_package, repacked
from oak_square.formats.xml_spans import Element

Array = NDArray[np.float64]
_DEEPEST = 100


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class _Carrier:
    package: Package
    model: Model
    places: tuple[tuple[Element, str], ...]  # for each node: the item or component that places it, and its object


@registered
class ThreeMf(Format):
    """3MF packages."""

    key: ClassVar[str] = "3mf"
    title: ClassVar[str] = "3MF"
    suffixes: ClassVar[tuple[str, ...]] = (".3mf",)
    declares: ClassVar[bool] = True
    is_made: ClassVar[bool] = True
    holds: ClassVar[tuple[str, ...]] = ("unit and axes", "names", "hierarchy", "pivots", "colours", "shared geometry")
    makes: ClassVar[tuple[str, ...]] = ("unit and axes", "names", "hierarchy", "pivots", "colours", "shared geometry")

    def read(self, path: Path, file: str, limits: Limits = LIMITS) -> Received:
        """Return the model at `path`."""
        checked_size(path, file, limits)
        package = open_package(path, file, limits)
        model = open_model(package.model, file, limits)
        asset, places = _asset(model, file, self.key, limits)
        return Received(asset=asset, carrier=_Carrier(package=package, model=model, places=places))

    def write(self, received: Received, asset: Asset, reading: Reading) -> Written:
        """Return the package with transforms and numbers of its model changed."""
        carrier: _Carrier = received.carrier
        model, places = carrier.model, carrier.places
        check_same_tree(received.asset, asset, "parts of a 3MF package", "glb or usda")
        edits: list[tuple[int, int, bytes]] = []
        if not reading.same_frame(received.asset.reading):
            edits += declared(model.root, reading)
        before, nodes = file_nodes(received.asset, received.asset.reading), file_nodes(asset, reading)
        edits += transform_edits(places, before, nodes, placements_reach(before, received.asset.meshes))
        own, told = shape_edits(model, places, nodes)
        edits += own
        if not edits:
            return Written(pieces=None)
        starts, ends, texts = zip(*edits, strict=True)
        data = spliced(model.data, np.array(starts), np.array(ends), texts)
        return Written(pieces=(repacked(carrier.package, data),), warnings=told)

    def make(self, scene: Scene) -> Written:
        """Return a new package of a scene in its unit, +Z up."""
        return Written(pieces=(made(scene),))

    def reading_out(self, wanted: Reading) -> Reading:
        """Return the unit asked for where 3MF has it, else metres; +Z is always up."""
        metres = wanted.metres_per_unit if wanted.metres_per_unit in UNITS.values() else 1.0
        return Reading(metres_per_unit=metres, up="+Z", front="-Y", source="declared")

    def unnamed(self, wanted: Reading) -> tuple[str, ...]:
        """Return a warning where 3MF has no word for the unit."""
        if wanted.metres_per_unit in UNITS.values():
            return ()
        return (f"3MF can't name a unit of {wanted.metres_per_unit:g} m: it is written in metres",)


def _asset(model: Model, file: str, key: str, limits: Limits) -> tuple[Asset, tuple[tuple[Element, str], ...]]:
    nodes, meshes, known = list[Node](), list[Mesh](), dict[str, int]()
    places: list[tuple[Element, str]] = []
    reasons: list[str] = []
    colours = _colours(model)
    due = [(item, None, 0) for item in reversed(model.root.all("build", "item"))]
    waiting: list[tuple[Element, int | None, int]] = list(due)
    while waiting:
        place, parent, depth = waiting.pop()
        ident = place.attributes.get("objectid", "")
        element = model.objects.get(ident)
        if "path" in place.attributes:
            reasons.append("it is made of several models, which are not carried")
            continue
        if element is None:
            raise BadFile(file, f"places object {ident[:40]}, which is not there")
        # A few objects made of one another twice over would come to any number of nodes.
        if depth > _DEEPEST or len(nodes) > limits.nodes // 10:
            raise BadFile(file, f"its objects are made of one another over {_DEEPEST} deep, or over the limit of nodes")
        mesh = None
        if ident in model.shapes:
            if ident not in known:
                known[ident] = len(meshes)
                meshes.append(_mesh(element, model.shapes[ident], colours))
            mesh = known[ident]
        matrix = transform_values(place.attributes.get("transform"), file)
        name = element.attributes.get("name") or element.attributes.get("partnumber") or f"object_{ident}"
        try:
            placement = Placement.as_read(matrix, what=f"object '{name}'")
        except Refused as error:
            raise BadFile(file, str(error)) from error
        nodes.append(Node(name=name, parent=parent, placement=placement, mesh=mesh))
        places.append((place, ident))
        below = [(c, len(nodes) - 1, depth + 1) for c in element.all("components", "component")]
        waiting += reversed(below)
    reading = Reading(metres_per_unit=model.metres, up="+Z", front="-Y", source="declared")
    asset = Asset(
        file=file, format=key, reading=WORKING, nodes=tuple(nodes), meshes=tuple(meshes),
        carries=("materials",) if colours else (), rigid_reason=reasons[0] if reasons else None,
    )  # fmt: skip
    return with_reading(asset, reading), tuple(places)


def _colours(model: Model) -> dict[str, list[tuple[float, float, float]]]:
    """Return the colours of each group of materials."""
    found: dict[str, list[tuple[float, float, float]]] = {}
    for group in model.root.one("resources").children if model.root.one("resources") is not None else ():  # type: ignore[union-attr]
        if group.tag in {"basematerials", "colorgroup"}:
            rows = [c.attributes.get("displaycolor") or c.attributes.get("color", "") for c in group.children]
            found[group.attributes.get("id", "")] = [_colour(text) for text in rows]
    return found


def _colour(text: str) -> tuple[float, float, float]:
    try:
        red, green, blue = (int(text[k : k + 2], 16) / 255 for k in (1, 3, 5))
    except ValueError:
        return PLAIN_COLOUR
    return red, green, blue


def _mesh(element: Element, shape: Shape, colours: dict[str, list[tuple[float, float, float]]]) -> Mesh:
    group, index = element.attributes.get("pid", ""), element.attributes.get("pindex", "0")
    own = _picked(colours, group, index)
    return Mesh(
        name=element.attributes.get("name") or f"object_{element.attributes.get('id', '')}",
        points=shape.points,
        triangles=shape.triangles.astype(np.uint32),
        surfaces=_surfaces(shape, colours, group, own),
        not_finite=count_not_finite([shape.points]),
    )


def _picked(colours: dict[str, list[tuple[float, float, float]]], group: str, index: str) -> tuple[float, float, float]:
    rows = colours.get(group, [])
    place = int(index) if index.isdecimal() and len(index) < 9 else 0
    return rows[place] if place < len(rows) else PLAIN_COLOUR


def _surfaces(
    shape: Shape, colours: dict[str, list[tuple[float, float, float]]], group: str, own: tuple[float, float, float]
) -> tuple[Surface, ...]:
    """Return runs of triangles of one colour."""
    count = len(shape.triangles)
    if not count:
        return ()
    number = int(group) if group.isdecimal() and len(group) < 12 else -1
    groups = np.where(shape.groups >= 0, shape.groups, number)
    keys = np.where(shape.rows >= 0, groups * 1_000_003 + shape.rows, -1)
    starts = np.flatnonzero(np.diff(keys, prepend=keys[0] - 1))
    ends = np.append(starts[1:], count)
    return tuple(
        Surface(
            first=int(a),
            count=int(b - a),
            colour=own if shape.rows[a] < 0 else _picked(colours, str(int(groups[a])), str(int(shape.rows[a]))),
        )
        for a, b in zip(starts, ends, strict=True)
    )
