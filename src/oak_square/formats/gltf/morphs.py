"""Morph targets: what they add to a mesh, read and rewritten.

A target's numbers are differences, so a matrix acts on them without its translation. Normals and tangents are made unit
when a mesh is drawn: their differences are rewritten so that the sum points where the old sum is carried to.
"""

from __future__ import annotations

from typing import Any

import numpy as np
from numpy.typing import NDArray

from oak_square.core.checked import floats
from oak_square.core.errors import BadArray
from oak_square.core.geometry import normal_matrix
from oak_square.core.words import say
from oak_square.formats.gltf.accessors import dense
from oak_square.formats.gltf.document import GltfDocument
from oak_square.formats.limits import Limits

__all__ = ["MORPHED", "default_weights", "nodes_with_weights", "primitive_morphs", "rewritten_delta"]

Array = NDArray[np.float64]
MORPHED = ("POSITION", "NORMAL", "TANGENT")


def targets_of(document: GltfDocument, primitive: dict[str, Any], mesh: int) -> list[dict[str, Any]]:
    """Return a primitive's morph targets.

    Raises
    ------
    BadFile
        If they are no list of attributes.
    """
    targets = primitive.get("targets", [])
    if not isinstance(targets, list) or not all(isinstance(t, dict) for t in targets):
        raise document.fail(say("mesh {mesh} has morph targets that are no list of attributes", mesh=mesh))
    return targets


def primitive_morphs(
    document: GltfDocument, primitive: dict[str, Any], count: int, mesh: int, limits: Limits
) -> list[NDArray[Any]]:
    """Return what each target adds to a primitive's positions, shape (count, 3) each; zeros where it adds nothing.

    Raises
    ------
    BadFile
        If a target has another number of vertices.
    """
    found: list[NDArray[Any]] = []
    for target in targets_of(document, primitive, mesh):
        for kind in (k for k in MORPHED if k in target and k != "POSITION"):
            if dense(document, target[kind], limits).shape != (count, 3):
                raise document.fail(
                    say(
                        "mesh {mesh} has a morph target whose {kind} is not of {count} vertices",
                        mesh=mesh,
                        kind=kind,
                        count=count,
                    )
                )
        if "POSITION" not in target:
            found.append(np.zeros((count, 3), dtype=np.float32))
            continue
        delta = dense(document, target["POSITION"], limits)
        if delta.shape != (count, 3):
            raise document.fail(
                say(
                    "mesh {mesh} has a morph target of {count} vertices for {count_2}",
                    mesh=mesh,
                    count=len(delta),
                    count_2=count,
                )
            )
        found.append(delta)
    return found


def default_weights(document: GltfDocument, item: dict[str, Any], count: int, what: str) -> Array:
    """Return the weights a mesh, or a node, gives its `count` targets by default: zeros where it gives none.

    Raises
    ------
    BadFile
        If they are not that many finite numbers.
    """
    if "weights" not in item:
        return np.zeros(count)
    try:
        return floats(item["weights"], (count,), say("{what} weights", what=what))
    except (BadArray, TypeError, ValueError) as error:
        raise document.fail(str(error)) from error


def nodes_with_weights(document: GltfDocument) -> list[tuple[int, int]]:
    """Return the nodes that give a mesh with morph targets other default weights than its own, each with that mesh."""
    meshes, found = document.items("meshes"), []
    for i, node in enumerate(document.items("nodes")):
        own, mesh = node.get("weights"), node.get("mesh")
        if own is not None and isinstance(mesh, int) and 0 <= mesh < len(meshes):
            targets = any(p.get("targets") for p in meshes[mesh]["primitives"])
            if targets and own != meshes[mesh].get("weights"):
                found.append((i, mesh))
    return found


def rewritten_delta(kind: str, delta: NDArray[Any], base: NDArray[Any] | None, matrix: Array) -> NDArray[np.float32]:
    """Return a target's differences as `matrix`, shape (4, 4), carries them.

    Parameters
    ----------
    kind : {"POSITION", "NORMAL", "TANGENT"}
    delta : ndarray, shape (N, 3)
    base : ndarray, shape (N, 3) or wider, or None
        The unit directions that the differences are added to; not needed for positions.
    """
    linear = matrix[:3, :3]
    rows = delta.astype(np.float64)
    if kind == "POSITION" or base is None:
        moved: NDArray[np.float32] = (rows @ linear.T).astype(np.float32)
        return moved
    carry = normal_matrix(linear) if kind == "NORMAL" else linear
    before = base[:, :3].astype(np.float64)
    carried = before @ carry.T
    lengths = np.linalg.norm(carried, axis=1, keepdims=True)
    lengths[lengths == 0] = 1.0
    found: NDArray[np.float32] = (rows @ carry.T / lengths).astype(np.float32)
    return found
