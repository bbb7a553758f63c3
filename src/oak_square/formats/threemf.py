"""3MF: a package whose model is edited in place; +Z up, front -Y, in its own unit.

A build item is a node, an object's components are nodes below it. Frames of any kind are held as matrices. Only
transforms and the numbers of vertices change; a mirror turns triangles round. Materials, colours and all other parts
stay.
"""

from __future__ import annotations

import io
import zipfile
from dataclasses import dataclass
from pathlib import Path
from typing import ClassVar

import numpy as np
from numpy.typing import NDArray

from oak_square.core.errors import BadFile, Refused
from oak_square.core.frames import WORKING, Reading
from oak_square.core.geometry import is_mirror, write_points
from oak_square.core.motion import same_matrix, with_reading
from oak_square.core.placement import Placement
from oak_square.core.scene import Asset, Mesh, Node, Surface
from oak_square.formats.limits import LIMITS, Limits
from oak_square.formats.model_file import (
    Format,
    Received,
    Written,
    checked_size,
    count_not_finite,
    file_nodes,
    is_unmoved,
    registered,
    same_placement,
)
from oak_square.formats.plain import Look, Plain, Scene, carried
from oak_square.formats.text_edit import nine_digits, spliced
from oak_square.formats.threemf_model import UNITS, Model, Shape, open_model, transform_text, transform_values
from oak_square.formats.threemf_package import Package, open_package, repacked
from oak_square.formats.xml_spans import Element, in_value

Array = NDArray[np.float64]
_GREY = (0.72, 0.68, 0.62)
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
        if len(asset.nodes) != len(places) or any(
            a.parent != b.parent for a, b in zip(received.asset.nodes, asset.nodes, strict=True)
        ):
            raise Refused("parts are not taken apart or hung elsewhere in a 3MF package: deliver it as glb or usda")
        edits: list[tuple[int, int, bytes]] = []
        if not reading.same_frame(received.asset.reading):
            edits += _declared(model.root, reading)
        before, nodes = file_nodes(received.asset, received.asset.reading), file_nodes(asset, reading)
        edits += _transforms(places, before, nodes)
        edits += _shapes(model, places, nodes)
        if not edits:
            return Written(pieces=None)
        starts, ends, texts = zip(*edits, strict=True)
        data = spliced(model.data, np.array(starts), np.array(ends), texts)
        return Written(pieces=(repacked(carrier.package, data),))

    def make(self, scene: Scene) -> Written:
        """Return a new package of a scene in its unit, +Z up."""
        return Written(pieces=(_made(scene),))

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
        return _GREY
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
    return rows[place] if place < len(rows) else _GREY


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


def _declared(root: Element, reading: Reading) -> list[tuple[int, int, bytes]]:
    word = next(name for name, metres in UNITS.items() if metres == reading.metres_per_unit).encode()
    span = root.value_span("unit")
    if span is not None:
        return [(*span, word)]
    at = root.start + 1 + len(root.data[root.start + 1 : root.opened].split(None, 1)[0].rstrip(b">"))
    return [(at, at, b' unit="%s"' % word)]


def _transforms(
    places: tuple[tuple[Element, str], ...], before: tuple[Node, ...], nodes: tuple[Node, ...]
) -> list[tuple[int, int, bytes]]:
    """Return the edits of what places an object; one that several nodes come from must move alike."""
    wanted: dict[int, tuple[Element, Array, Array, str]] = {}
    for (place, _), old, new in zip(places, before, nodes, strict=True):
        known = wanted.get(place.start)
        if known is not None and not same_matrix(known[2], new.placement.matrix):
            raise Refused(f"'{new.name}' is placed once in the file for several parts, which would have to move apart")
        if not same_placement(old.placement, new.placement):
            wanted[place.start] = place, old.placement.matrix, new.placement.matrix, new.name
        else:
            wanted.setdefault(place.start, (place, old.placement.matrix, old.placement.matrix, new.name))
    edits = []
    for place, old_matrix, matrix, _ in wanted.values():
        if same_matrix(old_matrix, matrix) or np.array_equal(old_matrix, matrix):
            continue
        span = place.value_span("transform")
        text = transform_text(matrix)
        if span is not None:
            edits.append((*span, text))
        else:
            end = place.opened - (2 if place.data[place.opened - 2 : place.opened] == b"/>" else 1)
            edits.append((end, end, b' transform="%s"' % text))
    return edits


def _shapes(
    model: Model, places: tuple[tuple[Element, str], ...], nodes: tuple[Node, ...]
) -> list[tuple[int, int, bytes]]:
    """Return the edits of vertices; an object that is placed several times is rewritten once, or not at all."""
    wanted: dict[str, tuple[Array, str]] = {}
    for (_, ident), node in zip(places, nodes, strict=True):
        if node.mesh is None:
            continue
        known = wanted.setdefault(ident, (node.local_from_mesh, node.name))
        if not same_matrix(known[0], node.local_from_mesh):
            raise Refused(
                f"object '{node.name}' is placed several times, and its places need other geometry: deliver it as glb"
            )
    edits: list[tuple[int, int, bytes]] = []
    for ident, (matrix, _) in wanted.items():
        if is_unmoved(matrix):
            continue
        shape = model.shapes[ident]
        points = np.empty_like(shape.points)
        write_points(shape.points, matrix, points)
        spans = shape.point_spans.reshape(-1, 2)
        edits += zip(spans[:, 0].tolist(), spans[:, 1].tolist(), nine_digits(points), strict=True)
        if is_mirror(matrix):
            spans = shape.corner_spans[:, [1, 2]].reshape(-1, 2)
            texts = [b"%d" % v for v in shape.triangles[:, [2, 1]].ravel().tolist()]
            edits += zip(spans[:, 0].tolist(), spans[:, 1].tolist(), texts, strict=True)
    return edits


_TYPES = """<?xml version="1.0" encoding="UTF-8"?>
<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types">
 <Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/>
 <Default Extension="model" ContentType="application/vnd.ms-package.3dmanufacturing-3dmodel+xml"/>
</Types>
"""
_RELS = """<?xml version="1.0" encoding="UTF-8"?>
<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships">
 <Relationship Target="/3D/3dmodel.model" Id="rel0" Type="http://schemas.microsoft.com/3dmanufacturing/2013/01/3dmodel"/>
</Relationships>
"""


def _made(scene: Scene) -> bytes:
    looks = list(dict.fromkeys(run.look for plain in scene.plains for run in plain.runs))
    unit = next(name for name, metres in UNITS.items() if metres == scene.reading.metres_per_unit)
    core = "http://schemas.microsoft.com/3dmanufacturing/core/2015/02"
    lines = ['<?xml version="1.0" encoding="UTF-8"?>', f'<model unit="{unit}" xml:lang="en-US" xmlns="{core}">']
    lines += [' <metadata name="Application">Oak Square</metadata>', " <resources>"]
    if looks:
        rows = [f"   <base name={in_value(k.name)} displaycolor={in_value(_hex(k))}/>" for k in looks]
        lines += ['  <basematerials id="1">', *rows, "  </basematerials>"]
    number, shapes = 2, dict[tuple[int, bytes], int]()
    for node in scene.nodes:
        if node.plain is not None:
            key = node.plain, np.round(node.local_from_points, 12).tobytes()
            if key not in shapes:
                shapes[key] = number
                lines += _object(number, node.name, carried(scene.plains[node.plain], node.local_from_points), looks)
                number += 1
    below: list[list[int]] = [[] for _ in scene.nodes]
    for i, node in enumerate(scene.nodes):
        if node.parent is not None:
            below[node.parent].append(i)
    ids: dict[int, int] = {}
    for i in reversed(range(len(scene.nodes))):  # children stand behind their parents: their objects come first
        node = scene.nodes[i]
        own = None if node.plain is None else shapes[node.plain, np.round(node.local_from_points, 12).tobytes()]
        if own is not None and not below[i]:
            ids[i] = own
            continue
        kept = [k for k in below[i] if k in ids]
        if own is None and not kept:
            continue  # a group of nothing: an object must be made of something
        rows = [f'<component objectid="{own}"/>'] if own is not None else []
        rows += [f'<component objectid="{ids[k]}"{_placed(scene, k)}/>' for k in kept]
        ids[i], number = number, number + 1
        lines.append(f'  <object id="{ids[i]}" type="model" name={in_value(node.name)}>')
        lines += [f"   <components>{''.join(rows)}</components>", "  </object>"]
    lines += [" </resources>", " <build>"]
    roots = [i for i, node in enumerate(scene.nodes) if node.parent is None and i in ids]
    lines += [f'  <item objectid="{ids[i]}"{_placed(scene, i)}/>' for i in roots]
    lines += [" </build>", "</model>", ""]
    return _zipped("\n".join(lines))


def _placed(scene: Scene, index: int) -> str:
    matrix = scene.nodes[index].placement.matrix
    return "" if np.array_equal(matrix, np.eye(4)) else f' transform="{transform_text(matrix).decode()}"'


def _hex(look: Look) -> str:
    return "#" + "".join(f"{round(255 * c):02X}" for c in look.colour)


def _object(number: int, name: str, plain: Plain, looks: list[Look]) -> list[str]:
    texts = [t.decode() for t in nine_digits(plain.points)]
    rows = zip(texts[::3], texts[1::3], texts[2::3], strict=True)
    lines = [f'  <object id="{number}" type="model" name={in_value(name)} pid="1" pindex="0"><mesh>', "   <vertices>"]
    lines += [f'<vertex x="{x}" y="{y}" z="{z}"/>' for x, y, z in rows]
    lines += ["   </vertices>", "   <triangles>"]
    for run in plain.runs:
        look = looks.index(run.look)
        own = plain.triangles[run.first : run.first + run.count].tolist()
        lines += [f'<triangle v1="{a}" v2="{b}" v3="{c}" pid="1" p1="{look}"/>' for a, b, c in own]
    return [*lines, "   </triangles>", "  </mesh></object>"]


def _zipped(model: str) -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        for name, text in (("[Content_Types].xml", _TYPES), ("_rels/.rels", _RELS), ("3D/3dmodel.model", model)):
            # A fixed time: the same input gives the same file.
            info = zipfile.ZipInfo(name, (1980, 1, 1, 0, 0, 0))
            info.compress_type = zipfile.ZIP_DEFLATED
            archive.writestr(info, text)
    return out.getvalue()
