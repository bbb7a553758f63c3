"""Skins: read with the rest pose they hold, and written by their inverse bind matrices."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import numpy as np
from numpy.typing import NDArray

from oak_square.core.checked import readonly
from oak_square.core.placement import inverse, is_singular
from oak_square.core.scene import Asset, Bind, Hold, Mesh, Node
from oak_square.core.skins import rest_pose
from oak_square.core.words import say
from oak_square.formats.gltf.accessors import dense
from oak_square.formats.gltf.compression import is_packed
from oak_square.formats.gltf.document import GltfDocument
from oak_square.formats.limits import Limits

__all__ = ["bind_matrices", "unskinnable", "with_skins"]

Array = NDArray[np.float64]
_MOST_SETS = 4  # of four joints each; the specification asks for one


def joints_of(document: GltfDocument, skin: int) -> list[int]:
    """Return the nodes that are a skin's joints.

    Raises
    ------
    BadFile
        If they are no list of nodes.
    """
    joints, count = document.items("skins")[skin].get("joints"), len(document.items("nodes"))
    if not isinstance(joints, list) or not joints:
        raise document.fail(say("skin {skin} has no joints", skin=skin))
    for j in joints:
        if not isinstance(j, int) or isinstance(j, bool) or not 0 <= j < count:
            raise document.fail(say("skin {skin} names joint {j}, which is not there", skin=skin, j=j))
    return joints


def bind_matrices(document: GltfDocument, skin: int, limits: Limits) -> Array:
    """Return a skin's inverse bind matrices, shape (joints, 4, 4); identities where the file gives none.

    Raises
    ------
    BadFile
        If there are too few of them, or they are no matrices.
    """
    count = len(joints_of(document, skin))
    accessor = document.items("skins")[skin].get("inverseBindMatrices")
    if accessor is None:
        return np.broadcast_to(np.eye(4), (count, 4, 4))
    values = dense(document, accessor, limits)
    if values.shape[1] != 16 or values.dtype.kind != "f" or len(values) < count:
        raise document.fail(
            say(
                "skin {skin} has {count} inverse bind matrices for {count_2} joints",
                skin=skin,
                count=len(values),
                count_2=count,
            )
        )
    # Column by column in the file.
    found: Array = values[:count].reshape(count, 4, 4).transpose(0, 2, 1).astype(np.float64)
    if not np.isfinite(found).all():
        raise document.fail(say("skin {skin} has inverse bind matrices that are not finite", skin=skin))
    return found


def unskinnable(document: GltfDocument) -> str | None:
    """Return why the file's skins can't be carried exactly, if they can't."""
    meshes = document.items("meshes")
    if any(is_packed(document, s.get("inverseBindMatrices")) for s in document.items("skins")):
        return say("its skins are compressed, and this version can't read them")
    for item in document.items("nodes"):
        if isinstance(item.get("skin"), int) and isinstance(item.get("mesh"), int) and item["mesh"] < len(meshes):
            for primitive in meshes[item["mesh"]].get("primitives", []):
                names = primitive.get("attributes", {})
                if any(is_packed(document, a) for k, a in names.items() if k.startswith(("POS", "JOINTS", "WEIGHTS"))):
                    return say("it has a skinned mesh whose vertices are compressed, and this version can't read them")
                if "POSITION" in names and not {"JOINTS_0", "WEIGHTS_0"} <= set(names):
                    return say("it has a skinned mesh whose vertices name no joints")
    return None


def with_skins(document: GltfDocument, asset: Asset, limits: Limits) -> Asset:
    """Return the asset with its skins: what hangs on each joint, and skinned meshes as they rest.

    Raises
    ------
    BadFile
        If skins, joints or weights do not hold together.
    """
    skins = document.items("skins")
    nodes = list(asset.nodes)
    matrices: list[Array] = []
    for s in range(len(skins)):
        binds, joints = bind_matrices(document, s, limits), joints_of(document, s)
        matrices.append(asset.worlds[joints] @ binds)
        for place, j in enumerate(joints):
            bind = Bind(skin=s, place=place, joint_from_mesh=readonly(binds[place]))
            nodes[j] = replace(nodes[j], binds=(*nodes[j].binds, bind))
    users: dict[int, set[int | None]] = {}
    for i, item in enumerate(document.items("nodes")):
        skin = item.get("skin")
        if skin is not None and (not isinstance(skin, int) or isinstance(skin, bool) or not 0 <= skin < len(skins)):
            raise document.fail(say("node {i} names skin {skin}, which is not there", i=i, skin=skin))
        users.setdefault(-1 if (own := nodes[i].mesh) is None else own, set()).add(skin)
    meshes, rested = list(asset.meshes), dict[tuple[int, int], int]()
    for i, item in enumerate(document.items("nodes")):
        skin, mesh = item.get("skin"), nodes[i].mesh
        if skin is None or mesh is None:
            continue
        if (mesh, skin) not in rested:
            shaped = _hold_at_rest(document, meshes[mesh], item["mesh"], matrices[skin], limits)
            if len(users[mesh]) == 1:
                meshes[mesh], rested[mesh, skin] = shaped, mesh
            else:
                meshes.append(replace(shaped, drawn_from=mesh))
                rested[mesh, skin] = len(meshes) - 1
        nodes[i] = _make_skinned(nodes[i], asset.worlds[i], rested[mesh, skin], skin)
    return replace(asset, nodes=tuple(nodes), meshes=tuple(meshes))


def _make_skinned(node: Node, world: Array, mesh: int, skin: int) -> Node:
    # The rest pose is in world numbers; a frame that flattens space carries nothing here, so any will do.
    back = np.eye(4) if is_singular(world[:3, :3]) else inverse(world, what=node.name)
    return replace(node, mesh=mesh, skin=skin, local_from_mesh=readonly(back))


def _hold_at_rest(document: GltfDocument, mesh: Mesh, index: int, matrices: Array, limits: Limits) -> Mesh:
    """Return a mesh with its vertices where a skin holds them at rest, world, metres."""
    joints, weights = [], []
    for primitive in document.items("meshes")[index]["primitives"]:
        names = primitive["attributes"]
        if "POSITION" in names:
            own_joints, own_weights = _read_influences(document, names, index, limits)
            joints.append(own_joints)
            weights.append(own_weights)
    if not joints:
        return mesh  # nothing in it to hold
    widest = max((j.shape[1] for j in joints), default=4)
    rows = np.concatenate([np.pad(j, ((0, 0), (0, widest - j.shape[1]))) for j in joints])
    shares = np.concatenate([np.pad(w, ((0, 0), (0, widest - w.shape[1]))) for w in weights])
    if len(rows) != len(mesh.points):
        raise document.fail(
            say(
                "mesh {index} has joints for {count} of {count_2} vertices",
                index=index,
                count=len(rows),
                count_2=len(mesh.points),
            )
        )
    if len(rows) and int(rows.max()) >= len(matrices):
        raise document.fail(
            say("mesh {index} names joint {max} of {count}", index=index, max=int(rows.max()), count=len(matrices))
        )
    points = rest_pose(mesh.points, rows, shares, matrices)
    hold = Hold(points=mesh.points, joints=rows, weights=shares)
    return replace(mesh, points=points, hold=hold, normals=None, morphs=())


def _read_influences(
    document: GltfDocument, names: dict[str, Any], mesh: int, limits: Limits
) -> tuple[NDArray[np.int64], Array]:
    joints, weights = [], []
    for k in range(_MOST_SETS):
        if f"JOINTS_{k}" not in names or f"WEIGHTS_{k}" not in names:
            break
        own, shares = (dense(document, names[f"{kind}_{k}"], limits) for kind in ("JOINTS", "WEIGHTS"))
        if own.shape[1] != 4 or own.dtype.kind != "u" or shares.shape != own.shape:
            raise document.fail(say("mesh {mesh} has joints and weights that do not go together", mesh=mesh))
        joints.append(own.astype(np.int64))
        weights.append(shares.astype(np.float64))
    if not joints:
        return np.zeros((0, 4), dtype=np.int64), np.zeros((0, 4))
    return np.concatenate(joints, axis=1), np.concatenate(weights, axis=1)
