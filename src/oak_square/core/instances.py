"""Instances: one mesh drawn many times from one node, each time under a matrix of its own.

A node's mesh is spread out over its instances when it is read, so that boxes, views and proofs see all that is drawn.
With `D` what the node's frame makes of the spread mesh, an instance's matrix `T` and the mesh's own numbers `v` become
`T'` and `v'` such that `T' v' = D T v`.
"""

from __future__ import annotations

from dataclasses import replace

import numpy as np
from numpy.typing import NDArray

from oak_square.core.checked import readonly
from oak_square.core.errors import Refused
from oak_square.core.geometry import cofactors
from oak_square.core.placement import completed, inverse
from oak_square.core.scene import Asset, Mesh, Surface
from oak_square.core.tolerances import SAME_BIND
from oak_square.core.words import say

__all__ = ["carried_spread", "channels_of", "check_spreads", "matrices_of", "spread_out"]

Array = NDArray[np.float64]


def matrices_of(translations: Array, rotations: Array, scales: Array) -> Array:
    """Return the (K, 4, 4) matrices of K translations (K, 3), unit quaternions (K, 4) and scales (K, 3)."""
    x, y, z, w = rotations.T
    turns = np.array(
        [
            [1 - 2 * (y * y + z * z), 2 * (x * y - z * w), 2 * (x * z + y * w)],
            [2 * (x * y + z * w), 1 - 2 * (x * x + z * z), 2 * (y * z - x * w)],
            [2 * (x * z - y * w), 2 * (y * z + x * w), 1 - 2 * (x * x + y * y)],
        ]
    ).transpose(2, 0, 1)
    found = np.zeros((len(translations), 4, 4))
    found[:, :3, :3] = turns * scales[:, None, :]
    found[:, :3, 3] = translations
    found[:, 3, 3] = 1.0
    return found


def spread_out(mesh: Mesh, spread: Array) -> Mesh:
    """Return `mesh` as its instances draw it: all of it once for each matrix of `spread`, shape (K, 4, 4)."""
    linear, count = spread[:, :3, :3], len(spread)
    size = len(mesh.points)
    points = np.einsum("kij,nj->kni", linear, mesh.points.astype(np.float64)) + spread[:, None, :3, 3]
    mirrored = np.linalg.det(linear) < 0
    triangles, surfaces, first = [], [], 0
    for surface in mesh.surfaces or (Surface(first=0, count=len(mesh.triangles)),):
        own = mesh.triangles[surface.first : surface.first + surface.count].astype(np.uint32)
        rows = own[None] + (np.arange(count, dtype=np.uint32) * np.uint32(size))[:, None, None]
        rows[mirrored] = rows[mirrored][:, :, [0, 2, 1]]
        triangles.append(rows.reshape(-1, 3))
        surfaces.append(replace(surface, first=first, count=surface.count * count))
        first += surface.count * count
    normals = None
    if mesh.normals is not None:
        carried = cofactors(linear)
        carried[mirrored] *= -1
        turned = np.einsum("kij,nj->kni", carried, mesh.normals.astype(np.float64)).reshape(-1, 3)
        lengths = np.linalg.norm(turned, axis=1, keepdims=True)
        normals = turned / np.where(lengths > 0, lengths, 1.0)
    return Mesh(
        name=mesh.name,
        points=points.reshape(-1, 3),
        triangles=np.concatenate(triangles) if triangles else np.empty((0, 3), dtype=np.uint32),
        surfaces=tuple(surfaces),
        normals=normals,
        morphs=tuple(np.einsum("kij,nj->kni", linear, m.astype(np.float64)).reshape(-1, 3) for m in mesh.morphs),
        morph_weights=mesh.morph_weights,
        sealed=mesh.sealed,
        strokes=tuple((start + k * size, run) for k in range(count) for start, run in mesh.strokes),
        not_finite=mesh.not_finite,
        spread=readonly(spread),
    )


def carried_spread(spread: Array, matrix: Array, name: str) -> tuple[Array, Array]:
    """Return the instances' new matrices, shape (K, 4, 4), and what the mesh's own numbers are multiplied by.

    The change goes into the mesh where the instances can then keep their channels; else into the instances.

    Parameters
    ----------
    spread : ndarray, shape (K, 4, 4)
    matrix : ndarray, shape (4, 4)
        What the spread mesh is carried by.

    Raises
    ------
    Refused
        If translation, rotation and scale can't hold an instance's new matrix either way.
    """
    inside = matrix @ spread @ inverse(matrix, what=say("node '{name}'", name=name))
    for moved, geometry in ((inside, matrix), (matrix @ spread, np.eye(4))):
        if _are_square(moved[:, :3, :3]):
            return moved, geometry
    raise Refused(say("the instances of '{name}' would be sheared, which their channels can't hold", name=name))


def check_spreads(asset: Asset) -> None:
    """Make sure that instances can be rewritten for what steps made of an asset.

    Raises
    ------
    Refused
        With the node that stands in the way.
    """
    for i, node in enumerate(asset.nodes):
        spread = asset.mesh_of(i).spread if node.mesh is not None else None
        if spread is not None:
            carried_spread(spread, node.local_from_mesh, node.name)


def _are_square(linear: Array) -> bool:
    """Tell whether each matrix's columns are at right angles: a rotation times scales."""
    products = linear.transpose(0, 2, 1) @ linear
    lengths = np.sqrt(np.diagonal(products, axis1=1, axis2=2))
    allowed = SAME_BIND * lengths[:, :, None] * lengths[:, None, :]
    off = np.abs(products) * (1 - np.eye(3))
    return bool((off <= allowed).all())


def channels_of(spread: Array, like: Array) -> tuple[Array, Array, Array]:
    """Return translations (K, 3), unit quaternions (K, 4) and scales (K, 3) of matrices with square columns.

    Scales are negative where those of `like`, shape (K, 3), are, as far as handedness allows.
    """
    # Heavy, and rarely wanted.
    from scipy.spatial.transform import Rotation

    linear = spread[:, :3, :3]
    scales = np.linalg.norm(linear, axis=1)
    mirror = np.where(np.linalg.det(linear) < 0, -1.0, 1.0)
    signs = np.where(like < 0, -1.0, 1.0)
    wrong = signs.prod(axis=1) != mirror
    signs[wrong] = 1.0
    signs[wrong, 0] = mirror[wrong]
    turns = linear * (signs / np.where(scales > 0, scales, 1.0))[:, None, :]
    flat = (scales <= 0).any(axis=1)
    turns[flat] = [completed(t) for t in turns[flat]] if flat.any() else turns[flat]
    return spread[:, :3, 3], Rotation.from_matrix(turns).as_quat(canonical=True), scales * signs
