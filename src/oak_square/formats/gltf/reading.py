"""From a glTF document to an asset."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import numpy as np
from numpy.typing import NDArray

from oak_square.core.checked import floats
from oak_square.core.errors import BadArray, Refused
from oak_square.core.frames import WORKING
from oak_square.core.placement import REST, Placement
from oak_square.core.scene import PLAIN_COLOUR, Asset, Mesh, Node, Surface
from oak_square.core.words import say
from oak_square.formats.gltf.accessors import dense, layout_of
from oak_square.formats.gltf.clips import clips_of
from oak_square.formats.gltf.compression import DRACO, declared_corners, decode_draco, is_packed, is_sealed
from oak_square.formats.gltf.document import GltfDocument
from oak_square.formats.gltf.instances import instance_attributes, with_instances
from oak_square.formats.gltf.materials import shading_of
from oak_square.formats.gltf.morphs import default_weights, nodes_with_weights, primitive_morphs
from oak_square.formats.gltf.skins import unskinnable, with_skins
from oak_square.formats.limits import Limits
from oak_square.formats.shared.model_file import count_not_finite
from oak_square.formats.shared.plain import to_srgb

__all__ = ["asset_of", "material_colour", "triangles_of"]

_TRIANGLES, _FAN = 4, 6


def asset_of(document: GltfDocument, limits: Limits, key: str) -> Asset:
    """Return the asset a document holds; its numbers are metres, +Y up, +Z front, as glTF declares.

    Raises
    ------
    BadFile
        If nodes, meshes or accessors do not hold together.
    """
    parents = _find_parents(document, limits)
    for i in range(len(document.items("accessors"))):
        layout_of(document, i, limits)
    decode_draco(document, limits)
    meshes = [_read_mesh(document, i, item, limits) for i, item in enumerate(document.items("meshes"))]
    total = sum(len(m.points) for m in meshes)
    if total > limits.vertices:
        raise document.fail(
            say("has {total} vertices, over the limit of {vertices}", total=total, vertices=limits.vertices)
        )
    shown, shading = _find_shown(document, parents), shading_of(document)
    clips, unknown = clips_of(document, limits, tuple(len(m.morphs) for m in meshes))
    count = len(meshes)
    nodes = [
        _read_node(document, i, item, parents[i], shown[i], count) for i, item in enumerate(document.items("nodes"))
    ]
    _apply_node_weights(document, nodes, meshes, limits)
    asset = Asset(
        file=document.file,
        format=key,
        reading=WORKING,
        nodes=tuple(nodes),
        meshes=tuple(meshes),
        carries=tuple(sorted({*_list_extras(document), *(("shading",) if shading else ())})),
        shading=shading,
        rigid_reason=document.unread or _rigid_reason(document) or unknown,
        unread=document.unread,
        clips=clips,
        astray=document.astray,
    )
    if document.items("skins") and not unskinnable(document):
        asset = with_skins(document, asset, limits)
    return with_instances(document, asset, limits)


def _check_index(document: GltfDocument, value: object, count: int, what: str) -> int:
    if not isinstance(value, int) or isinstance(value, bool) or not 0 <= value < count:
        raise document.fail(say("{what} {value} is not there (there are {count})", what=what, value=value, count=count))
    return value


def _find_parents(document: GltfDocument, limits: Limits) -> list[int | None]:
    nodes = document.items("nodes")
    if len(nodes) > limits.nodes:
        raise document.fail(say("has {count} nodes, over the limit of {nodes}", count=len(nodes), nodes=limits.nodes))
    parents: list[int | None] = [None] * len(nodes)
    for i, item in enumerate(nodes):
        children = item.get("children", [])
        if not isinstance(children, list):
            raise document.fail(say("node {i} has children that are no list", i=i))
        for child in children:
            c = _check_index(document, child, len(nodes), say("node {i}'s child", i=i))
            if parents[c] is not None:
                raise document.fail(say("node {c} has two parents, {parent} and {i}", c=c, parent=parents[c], i=i))
            parents[c] = i
    depth = [0 if p is None else -1 for p in parents]
    front, level = [i for i, p in enumerate(parents) if p is None], 0
    while front:
        level += 1
        if level > limits.depth:
            raise document.fail(say("is nested over {depth} nodes deep", depth=limits.depth))
        front = [c for i in front for c in nodes[i].get("children", [])]
        for c in front:
            depth[c] = level
    if -1 in depth:
        raise document.fail(say("node {index} is its own ancestor", index=depth.index(-1)))
    return parents


def _find_shown(document: GltfDocument, parents: list[int | None]) -> list[bool]:
    scenes, nodes = document.items("scenes"), document.items("nodes")
    if not scenes and "scene" not in document.json:
        return [True] * len(parents)
    scene = scenes[_check_index(document, document.json.get("scene", 0), len(scenes), "scene")]
    roots = scene.get("nodes", [])
    if not isinstance(roots, list):
        raise document.fail(say("its scene's nodes are no list"))
    shown = [False] * len(parents)
    front = [_check_index(document, r, len(parents), say("the scene's node")) for r in roots]
    while front:
        for i in front:
            shown[i] = True
        front = [c for i in front for c in nodes[i].get("children", []) if not shown[c]]
    return shown


def _read_node(
    document: GltfDocument, i: int, item: dict[str, Any], parent: int | None, shown: bool, meshes: int
) -> Node:
    name = str(item.get("name") or f"node_{i}")
    mesh = None if "mesh" not in item else _check_index(document, item["mesh"], meshes, say("node {i}'s mesh", i=i))
    try:
        placement = _read_placement(item, say("node {i}", i=i))
    except (BadArray, Refused, ValueError, TypeError) as error:
        raise document.fail(str(error)) from error
    lamp = "KHR_lights_punctual" in item.get("extensions", {})
    return Node(name=name, parent=parent, placement=placement, mesh=mesh, aimed="camera" in item or lamp, shown=shown)


def _apply_node_weights(document: GltfDocument, nodes: list[Node], meshes: list[Mesh], limits: Limits) -> None:
    """Give each node that has morph weights of its own a mesh as those leave it, behind the file's own meshes."""
    made: dict[tuple[int, str], int] = {}
    for i, index in nodes_with_weights(document):
        item = document.items("meshes")[index]
        weights = document.items("nodes")[i]["weights"]
        key = index, repr(weights)
        if key not in made:
            if sum(len(m.points) for m in meshes) > limits.vertices:
                raise document.fail(
                    say(
                        "has over {vertices} vertices, counted at each node's own morph weights",
                        vertices=limits.vertices,
                    )
                )
            meshes.append(_read_mesh(document, index, {**item, "weights": weights}, limits))
            made[key] = len(meshes) - 1
        nodes[i] = replace(nodes[i], mesh=made[key])


def _read_placement(item: dict[str, Any], what: str) -> Placement:
    if not {"matrix", "translation", "rotation", "scale"} & item.keys():
        return REST
    if "matrix" in item:
        matrix = floats(item["matrix"], (16,), say("{what} matrix", what=what)).reshape(4, 4).T
        return Placement.as_read(matrix, what=what)
    return Placement.of(
        translation=item.get("translation", (0, 0, 0)),
        rotation=item.get("rotation", (0, 0, 0, 1)),
        scale=item.get("scale", (1, 1, 1)),
        what=what,
    )


def _list_primitives(document: GltfDocument, index: int, item: dict[str, Any]) -> list[dict[str, Any]]:
    primitives = item.get("primitives")
    if not isinstance(primitives, list) or not all(
        isinstance(p, dict) and isinstance(p.get("attributes"), dict) for p in primitives
    ):
        raise document.fail(say("mesh {index} has no list of primitives with attributes", index=index))
    return primitives


def _read_mesh(document: GltfDocument, index: int, item: dict[str, Any], limits: Limits) -> Mesh:
    points, triangles, normals, surfaces, morphs, strokes = [], [], [], [], [], []
    vertices = faces = 0
    weights: tuple[float, ...] = ()
    for primitive in _list_primitives(document, index, item):
        if "POSITION" not in primitive["attributes"]:
            continue
        own, rows, directions = _read_primitive(document, primitive, index, limits)
        deltas = (
            [] if is_sealed(document, primitive) else primitive_morphs(document, primitive, len(own), index, limits)
        )
        morphs.append(deltas)
        weights = tuple(default_weights(document, item, len(deltas), say("mesh {index}", index=index)))
        for weight, delta in zip(weights, deltas, strict=True):
            own = own if weight == 0 else (own + np.float32(weight) * delta).astype(np.float32)
        points.append(own)
        normals.append(directions)
        triangles.append(rows if vertices == 0 else rows.astype(np.uint32) + np.uint32(vertices))
        material = primitive.get("material")
        surfaces.append(
            Surface(
                first=faces,
                count=len(rows),
                colour=material_colour(document, material),
                material=material if isinstance(material, int) else None,
            )
        )
        if primitive.get("mode", _TRIANGLES) < _TRIANGLES and len(own):
            strokes.append((vertices, len(own)))
        vertices, faces = vertices + len(own), faces + len(rows)
    if len({len(d) for d in morphs}) > 1:
        raise document.fail(say("mesh {index} has primitives with different numbers of morph targets", index=index))
    counts = _sealed_counts(document, _list_primitives(document, index, item), limits)
    has_normals = bool(normals) and all(n is not None for n in normals)
    return Mesh(
        name=str(item.get("name") or f"mesh_{index}"),
        points=_join_arrays(points, np.float32),
        triangles=_join_arrays(triangles, np.uint32),
        surfaces=tuple(surfaces),
        normals=_join_arrays([n for n in normals if n is not None], np.float32) if has_normals else None,
        sealed="compressed" if counts else "",
        counts=counts,
        morph_weights=weights,
        morphs=tuple(_join_arrays(list(target), np.float32) for target in zip(*morphs, strict=True)),
        strokes=tuple(strokes),
        not_finite=count_not_finite(points),
    )


def _sealed_counts(document: GltfDocument, primitives: list[dict[str, Any]], limits: Limits) -> tuple[int, int] | None:
    """Return how many vertices and triangles a mesh that can't be read declares; None where all of it can."""
    if not any(is_sealed(document, p) for p in primitives):
        return None
    vertices = triangles = 0
    for primitive in primitives:
        own = layout_of(document, primitive["attributes"].get("POSITION"), limits).count
        corners = layout_of(document, primitive["indices"], limits).count if "indices" in primitive else own
        mode = primitive.get("mode", _TRIANGLES)
        vertices += own
        triangles += corners // 3 if mode == _TRIANGLES else max(0, corners - 2) if mode in (5, _FAN) else 0
    return vertices, triangles


def _join_arrays(arrays: list[NDArray[Any]], dtype: type) -> NDArray[Any]:
    if len(arrays) == 1:
        return arrays[0]
    return np.concatenate(arrays) if arrays else np.empty((0, 3), dtype=dtype)


def _read_primitive(
    document: GltfDocument, primitive: dict[str, Any], mesh: int, limits: Limits
) -> tuple[NDArray[Any], NDArray[Any], NDArray[Any] | None]:
    attributes = primitive["attributes"]
    place = attributes["POSITION"]
    if document.unread and place not in document.decoded and layout_of(document, place, limits).buffer is None:
        raise document.fail(
            say("mesh {mesh} has no positions that can be read: {unread}", mesh=mesh, unread=document.unread)
        )
    if is_sealed(document, primitive):
        corners = declared_corners(document, attributes["POSITION"], limits)
        return corners, np.empty((0, 3), dtype=np.uint32), None
    points = dense(document, attributes["POSITION"], limits)
    if points.shape[1] != 3:
        raise document.fail(say("mesh {mesh} has positions of {shape} numbers", mesh=mesh, shape=points.shape[1]))
    normals = dense(document, attributes["NORMAL"], limits) if "NORMAL" in attributes else None
    if normals is not None and normals.shape != points.shape:
        raise document.fail(
            say(
                "mesh {mesh} has {count} normals for {count_2} positions",
                mesh=mesh,
                count=len(normals),
                count_2=len(points),
            )
        )
    return points, triangles_of(document, primitive, len(points), mesh, limits), normals


def triangles_of(
    document: GltfDocument, primitive: dict[str, Any], vertices: int, mesh: int, limits: Limits
) -> NDArray[Any]:
    """Return a primitive's triangles, shape (M, 3); strips and fans taken apart, points and lines none.

    Raises
    ------
    BadFile
        If an index leads out of range, or the mode is unknown.
    """
    mode = primitive.get("mode", _TRIANGLES)
    if not isinstance(mode, int) or not 0 <= mode <= _FAN:
        raise document.fail(say("mesh {mesh} has an unknown primitive mode {mode}", mesh=mesh, mode=mode))
    if "indices" in primitive:
        indices = dense(document, primitive["indices"], limits)
        if indices.shape[1] != 1 or indices.dtype.kind != "u":
            raise document.fail(say("mesh {mesh} has indices that are no unsigned integers", mesh=mesh))
        indices = indices[:, 0]
        if len(indices) and int(indices.max()) >= vertices:
            raise document.fail(
                say(
                    "mesh {mesh} has an index {max} for {vertices} vertices",
                    mesh=mesh,
                    max=int(indices.max()),
                    vertices=vertices,
                )
            )
    else:
        indices = np.arange(vertices, dtype=np.uint32)
    if mode < _TRIANGLES:
        return np.empty((0, 3), dtype=np.uint32)
    if mode == _TRIANGLES:
        return indices[: len(indices) // 3 * 3].reshape(-1, 3)
    if len(indices) < 3:
        return np.empty((0, 3), dtype=np.uint32)
    if mode == _FAN:
        return np.stack([np.full(len(indices) - 2, indices[0]), indices[1:-1], indices[2:]], axis=1)
    rows = np.stack([indices[:-2], indices[1:-1], indices[2:]], axis=1)
    rows[1::2] = rows[1::2][:, [1, 0, 2]]
    return rows


def material_colour(document: GltfDocument, index: object) -> tuple[float, float, float]:
    """Return the base colour of a material, sRGB; a plain one where the file says none."""
    materials = document.items("materials")
    if not isinstance(index, int) or not 0 <= index < len(materials):
        return PLAIN_COLOUR
    surface = materials[index].get("pbrMetallicRoughness")
    factor: Any = surface.get("baseColorFactor") if isinstance(surface, dict) else None
    try:
        linear = floats(factor, (4,), "colour")[:3] if factor is not None else np.full(3, 0.7)
    except (BadArray, TypeError, ValueError):
        return PLAIN_COLOUR
    red, green, blue = to_srgb(linear).tolist()
    return red, green, blue


def _list_extras(document: GltfDocument) -> tuple[str, ...]:
    primitives = [p for m in document.items("meshes") for p in m.get("primitives", [])]
    there = {
        "animation": bool(document.items("animations")),
        "cameras": bool(document.json.get("cameras")),
        "compressed": any(DRACO in p.get("extensions", {}) or is_sealed(document, p) for p in primitives),
        "instances": any(instance_attributes(n) for n in document.items("nodes")),
        "lights": "KHR_lights_punctual" in document.json.get("extensions", {}),
        "materials": bool(document.items("materials")),
        "morph": any(p.get("targets") for p in primitives),
        "skin": bool(document.items("skins")),
        "texture-coordinates": any("TEXCOORD_0" in p.get("attributes", {}) for p in primitives),
        "textures": bool(document.json.get("textures")),
        "vertex-colours": any("COLOR_0" in p.get("attributes", {}) for p in primitives),
    }
    return tuple(k for k, v in there.items() if v)


def _rigid_reason(document: GltfDocument) -> str | None:
    bare = unskinnable(document) if document.items("skins") else None
    if bare is not None:
        return bare
    if any(is_packed(document, a) for n in document.items("nodes") for a in (instance_attributes(n) or {}).values()):
        return say("its instances are compressed, and this version can't read them")
    if any("skin" in n and instance_attributes(n) for n in document.items("nodes")):
        return say("it draws a skinned mesh as many instances, and a skin holds one")
    return None
