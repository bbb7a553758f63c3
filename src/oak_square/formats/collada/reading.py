"""From a COLLADA document to an asset: nodes, their transformation stacks, their geometries, their looks."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Any, Literal

import numpy as np
from numpy.typing import NDArray

from oak_square.core.attached import Attached
from oak_square.core.errors import Refused
from oak_square.core.frames import WORKING
from oak_square.core.motion import with_reading
from oak_square.core.placement import REST, Placement
from oak_square.core.scene import PLAIN_COLOUR, Asset, Faces, Mesh, Node, Surface
from oak_square.core.words import say
from oak_square.formats.collada.document import ColladaDocument, name_of, transform_of
from oak_square.formats.collada.groups import Group
from oak_square.formats.collada.looks import looks_of, shading_of
from oak_square.formats.shared.look import Look
from oak_square.formats.shared.model_file import Beside, count_not_finite
from oak_square.formats.shared.plain import Plain, as_shaped, cut_out, plain_mesh, shaded
from oak_square.formats.shared.xml_spans import Element

__all__ = ["NodePlace", "asset_of", "attached_of", "plains_of"]

Array = NDArray[np.float64]
_LINES = {"lines", "linestrips"}
_SAID = {
    "NORMAL": "normals", "TEXCOORD": "texture coordinates", "TEXCOORD_1": "second texture coordinates",
    "COLOR": "vertex colours", "TANGENT": "tangents",
}  # fmt: skip
_CARRIED_AS: dict[str, Literal["normal", "vector"]] = {
    "NORMAL": "normal", "TANGENT": "vector", "TEXTANGENT": "vector", "BINORMAL": "vector", "TEXBINORMAL": "vector",
}  # fmt: skip
_INSTANCES = ("instance_geometry", "instance_controller")


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class NodePlace:
    """Where a node of the asset stands in the file.

    Attributes
    ----------
    element : Element
        Its `node`.
    stack : tuple of Element
        Its transformation elements, in order.
    instances : tuple of (Element, Element)
        What it places of geometries, each with that geometry.
    place : Element
        What hangs it from its parent: the `node` itself, or the `instance_node` that names it.
    """

    element: Element
    stack: tuple[Element, ...]
    instances: tuple[tuple[Element, Element], ...]
    place: Element


def asset_of(document: ColladaDocument, key: str) -> tuple[Asset, tuple[NodePlace, ...], tuple[str, ...]]:
    """Return the asset a document holds, where each node stands, and the files it refers to.

    Raises
    ------
    BadFile
        If nodes, sources or polygons do not hold together, or a texture lies outside the file's folder.
    """
    root, stands = document.root, list[NodePlace]()
    nodes, meshes, known = list[Node](), list[Mesh](), dict[tuple[tuple[object, ...], ...], int]()
    beside = Beside(document.folder, document.file)
    looks, textures = looks_of(document, beside)
    shown = _shown_scene(document)
    due: list[tuple[Element, Element, int | None, bool, frozenset[int]]] = [
        (node, node, None, scene is shown, frozenset())
        for scene in root.all("library_visual_scenes", "visual_scene")
        for node in reversed(scene.all("node"))
    ]
    reasons: list[str] = []
    while due:
        element, place, parent, is_shown, within = due.pop()
        if len(nodes) > document.limits.nodes:
            raise document.fail(say("has over {nodes} nodes", nodes=document.limits.nodes))
        stand = _find_place(document, element, place, reasons)
        mesh = None
        if stand.instances:
            # One geometry under other materials is another mesh: it looks otherwise.
            places = tuple((geometry.start, *sorted(_map_symbols(i).items())) for i, geometry in stand.instances)
            if places not in known:
                meshes.append(_read_mesh(document, stand, looks))
                known[places] = len(meshes) - 1
            mesh = known[places]
        stands.append(stand)
        nodes.append(_read_node(document, stand, parent, mesh, is_shown))
        within = within | {element.start} if _list_placed(element) else within
        below = [child for child in element.children if child.tag in {"node", "instance_node"}]
        due += [(_find_meant(document, c, within), c, len(nodes) - 1, is_shown, within) for c in reversed(below)]
    if root.one("library_animations", "animation") is not None:
        reasons.append(say("it has clips, which are not carried in COLLADA"))
    shading = shading_of(document, looks)
    asset = Asset(
        file=document.file,
        format=key,
        reading=WORKING,
        nodes=tuple(nodes),
        meshes=tuple(meshes),
        carries=tuple(sorted({*_list_carried(document, looks, textures), *(("shading",) if shading else ())})),
        shading=shading,
        rigid_reason=reasons[0] if reasons else None,
        astray=tuple(beside.astray),
    )
    return with_reading(asset, document.reading), tuple(stands), textures


def _shown_scene(document: ColladaDocument) -> Element | None:
    instance = document.root.one("scene", "instance_visual_scene")
    scene = document.target(instance.attributes.get("url")) if instance is not None else None
    scenes = document.root.all("library_visual_scenes", "visual_scene")
    return scene if scene in scenes else (scenes[0] if len(scenes) == 1 else None)


def _find_place(document: ColladaDocument, element: Element, place: Element, reasons: list[str]) -> NodePlace:
    stack = tuple(c for c in element.children if transform_of(document, c) is not None)
    found = []
    for child in element.children:
        if child.tag not in _INSTANCES:
            continue
        target = document.target(child.attributes.get("url"))
        if target is not None and target.tag == "controller":
            reasons.append(say("it has a skin or morph controller, which is not carried in COLLADA"))
            target = _find_controlled(document, target)
        if target is None or target.tag != "geometry":
            raise document.fail(
                say(
                    "node '{name_of}' places '{get}', not there",
                    name_of=name_of(element),
                    get=child.attributes.get("url", "")[:60],
                )
            )
        found.append((child, target))
    return NodePlace(element=element, stack=stack, instances=tuple(found), place=place)


def _list_placed(element: Element) -> list[Element]:
    """Return what a node places by reference."""
    return element.all("instance_node")


def _find_meant(document: ColladaDocument, child: Element, within: frozenset[int]) -> Element:
    """Return the node that an element is, or places by reference: its own frame then stands in the place of that.

    Raises
    ------
    BadFile
        If it is in another file, or not there, or holds itself.
    """
    if child.tag == "node":
        return child
    url = child.attributes.get("url", "")
    target = document.target(url)
    if not url.startswith("#"):
        raise document.fail(
            say("places '{url}' of another file, which is not read: bring them into one file first", url=url[:80])
        )
    if target is None or target.tag != "node":
        raise document.fail(say("places node '{url}', which is not there", url=url[:60]))
    at: Element | None = child
    while at is not None:
        if at is target:
            raise document.fail(say("node '{url}' is placed inside itself", url=url[:60]))
        at = at.parent
    if target.start in within:
        raise document.fail(say("node '{url}' is placed inside itself", url=url[:60]))
    return target


def _find_controlled(document: ColladaDocument, controller: Element) -> Element | None:
    """Return the geometry that a controller deforms."""
    for _ in range(8):  # a skin of a morph of a geometry, at most a few deep
        own = next((c for c in controller.children if c.tag in {"skin", "morph"}), None)
        target = document.target(own.attributes.get("source")) if own is not None else None
        if target is None or target.tag != "controller":
            return target
        controller = target
    return None


def _read_node(document: ColladaDocument, stand: NodePlace, parent: int | None, mesh: int | None, shown: bool) -> Node:
    matrix = np.eye(4)
    for element in stand.stack:
        own = transform_of(document, element)
        assert own is not None
        matrix = matrix @ own
    name = name_of(stand.element)
    try:
        placement = _as_channels(document, stand.stack) or Placement.as_read(
            matrix, what=say("node '{name}'", name=name)
        )
    except Refused as error:
        raise document.fail(str(error)) from error
    aimed = any(c.tag in {"instance_camera", "instance_light"} for c in stand.element.children)
    return Node(name=name, parent=parent, placement=placement, mesh=mesh, aimed=aimed, shown=shown)


def _as_channels(document: ColladaDocument, stack: tuple[Element, ...]) -> Placement | None:
    """Return the channels of a stack that is a translation and a scale alone, to the bit; None for any other."""
    if [e.tag for e in stack] not in ([], ["translate"], ["scale"], ["translate", "scale"]):
        return None
    if not stack:
        return REST
    values = {e.tag: document.numbers(e)[:3] for e in stack}
    return Placement.of(translation=values.get("translate", (0, 0, 0)), scale=values.get("scale", (1, 1, 1)))


def _read_mesh(document: ColladaDocument, stand: NodePlace, looks: dict[str, Look]) -> Mesh:
    """Return a node's geometries as one mesh: the rows of their position sources, one behind the other."""
    points, triangles, surfaces = list[Array](), list[NDArray[Any]](), list[Surface]()
    corners, counts = [np.empty(0, dtype=np.int64)], [np.empty(0, dtype=np.int64)]
    first = rows = 0
    names = list(looks)
    for instance, geometry in stand.instances:
        symbols = _map_symbols(instance)
        start: dict[str, int] = {}
        for group in document.groups_of(geometry):
            source = group.sources["POSITION"]
            if source.id not in start:
                start[source.id] = rows
                points.append(source.rows[:, :3])
                rows += len(source.rows)
            own = group.corners["POSITION"][group.triangles] + start[source.id]
            corners.append(group.corners["POSITION"] + start[source.id])
            counts.append(group.counts)
            material = symbols.get(group.material, group.material)
            look = looks.get(material)
            surfaces.append(
                Surface(
                    first=first,
                    count=len(own),
                    colour=look.colour if look is not None else PLAIN_COLOUR,
                    material=names.index(material) if look is not None else None,
                )
            )
            triangles.append(own.reshape(-1, 3))
            first += len(own)
    if rows > document.limits.vertices or first > document.limits.triangles:
        raise document.fail(
            say("has {rows} vertices and {first} triangles in one node, over the limit", rows=rows, first=first)
        )
    found = np.concatenate(points) if points else np.empty((0, 3))
    return Mesh(
        name=name_of(stand.instances[0][1]),
        points=np.ascontiguousarray(found),
        triangles=np.concatenate(triangles).astype(np.uint32) if triangles else np.empty((0, 3), dtype=np.uint32),
        surfaces=tuple(surfaces),
        not_finite=count_not_finite([found]),
        faces=Faces.where_any_is_wide(np.concatenate(corners), np.concatenate(counts)),
    )


def _map_symbols(instance: Element) -> dict[str, str]:
    """Return the material that each symbol of an instance means."""
    rows = instance.all("bind_material", "technique_common", "instance_material")
    return {r.attributes.get("symbol", ""): r.attributes.get("target", "#")[1:] for r in rows}


def _list_carried(document: ColladaDocument, looks: dict[str, Look], textures: tuple[str, ...]) -> tuple[str, ...]:
    root = document.root
    controllers = root.all("library_controllers", "controller")
    there = {
        "animation": root.one("library_animations", "animation") is not None,
        "cameras": root.one("library_cameras", "camera") is not None,
        "lights": root.one("library_lights", "light") is not None,
        "lines": any(c.tag in _LINES for m in root.all("library_geometries", "geometry", "mesh") for c in m.children),
        "materials": bool(looks),
        "morph": any(c.one("morph") is not None for c in controllers),
        "skin": any(c.one("skin") is not None for c in controllers),
        "texture-coordinates": any("TEXCOORD" in g.sources for groups in document.groups.values() for g in groups),
        "textures": bool(textures),
        "vertex-colours": any("COLOR" in g.sources for groups in document.groups.values() for g in groups),
    }
    return tuple(k for k, v in there.items() if v)


def attached_of(
    document: ColladaDocument, asset: Asset, stands: tuple[NodePlace, ...]
) -> dict[int, tuple[Attached, ...]]:
    """Return, for each node with geometry, what each run of its polygons names for its corners beside positions."""
    found: dict[int, tuple[Attached, ...]] = {}
    for i, (stand, node) in enumerate(zip(stands, asset.nodes, strict=False)):
        groups = [g for _, geometry in stand.instances for g in document.groups_of(geometry)]
        if node.mesh is None:
            continue
        counts = [len(g.corners["POSITION"]) for g in groups]
        starts, rows = np.cumsum([0, *counts]), list[Attached]()
        for semantic in dict.fromkeys(s for g in groups for s in g.sources if s != "POSITION"):
            width = max(g.sources[semantic].rows.shape[1] for g in groups if semantic in g.sources)
            values = np.full((int(starts[-1]), width), np.nan)
            for start, group in zip(starts.tolist(), groups, strict=False):
                if semantic in group.sources:
                    own = group.sources[semantic].rows[group.corners[semantic]]
                    values[start : start + len(own), : own.shape[1]] = own
            kind: Literal["normal", "vector", "kept"] = _CARRIED_AS.get(semantic, "kept")
            values = values if kind == "kept" else values[:, :3]
            rows.append(Attached(what=_SAID.get(semantic, semantic), kind=kind, values=values, of="corners"))
        found[i] = tuple(rows)
    return found


def plains_of(document: ColladaDocument, read: Asset, asset: Asset, stands: tuple[NodePlace, ...]) -> dict[int, Plain]:
    """Return the meshes of `asset`, made of what was read, a vertex for each set of position, normal and the like."""
    looks, _ = looks_of(document, Beside(document.folder, document.file))
    by_place = dict(enumerate(looks.values()))
    found: dict[int, Plain] = {}
    for i, node in enumerate(asset.nodes):
        if node.mesh is not None and node.mesh not in found:
            source = i if node.cut_from is None else node.cut_from
            groups = [g for _, geometry in stands[source].instances for g in document.groups_of(geometry)]
            whole = _add_values(plain_mesh(read.mesh_of(source), by_place), groups)
            found[node.mesh] = as_shaped(cut_out(whole, asset.meshes[node.mesh].cut), asset.meshes[node.mesh])
    return found


def _add_values(plain: Plain, groups: list[Group]) -> Plain:
    kinds = [k for k in ("NORMAL", "TEXCOORD", "TEXCOORD_1", "COLOR") if groups and all(k in g.sources for g in groups)]
    points, triangles, more = list[Array](), list[NDArray[Any]](), {k: list[Array]() for k in kinds}
    start = 0
    for group in groups:
        keys = np.column_stack([group.corners[k] for k in ("POSITION", *kinds)])
        rows, local = np.unique(keys, axis=0, return_inverse=True)
        points.append(group.sources["POSITION"].rows[rows[:, 0], :3])
        for k, kind in enumerate(kinds, 1):
            more[kind].append(group.sources[kind].rows[rows[:, k], : 2 if kind.startswith("TEXCOORD") else 3])
        triangles.append(local.ravel()[group.triangles].reshape(-1, 3) + start)
        start += len(rows)
    if not groups:
        return plain
    bare = replace(
        plain,
        points=np.concatenate(points),
        triangles=np.concatenate(triangles),
        normals=np.concatenate(more["NORMAL"]) if "NORMAL" in more else None,
        uvs=np.concatenate(more["TEXCOORD"]) if "TEXCOORD" in more else None,
        more_uvs=np.concatenate(more["TEXCOORD_1"]) if "TEXCOORD_1" in more else None,
    )
    return shaded(bare, np.concatenate(more["COLOR"]) if "COLOR" in more else None)
