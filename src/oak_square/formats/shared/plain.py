"""What one format hands another: a scene of named nodes and plain triangle meshes, with looks.

Texture coordinates count up from the image's lower left corner; colours are sRGB.
"""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Any

import numpy as np
from numpy.typing import NDArray

from oak_square.core.errors import Refused
from oak_square.core.frames import Reading
from oak_square.core.geometry import (
    TOO_LARGE,
    flipped,
    is_mirror,
    normal_matrix,
    within_float32,
    write_directions,
    write_points,
)
from oak_square.core.motion import in_basis
from oak_square.core.placement import Placement
from oak_square.core.reshaping import normals_at_triangles
from oak_square.core.scene import Asset, Cut, Mesh
from oak_square.formats.shared.look import Look
from oak_square.formats.shared.text_edit import digits_of

__all__ = [
    "MaterialRun",
    "Plain",
    "PlainScene",
    "SceneNode",
    "as_shaped",
    "carried",
    "cut_out",
    "flat_parts",
    "merged",
    "plain_mesh",
    "scene_of",
    "shaded",
    "to_linear",
    "to_srgb",
]

Array = NDArray[np.float64]
_HALVES = re.compile("[\ud800-\udfff]")


@dataclass(frozen=True, slots=True, kw_only=True)
class MaterialRun:
    """Triangles in a row, from `first`, that have one look."""

    first: int
    count: int
    look: Look


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Plain:
    """A triangle mesh.

    Attributes
    ----------
    points : ndarray, shape (N, 3)
    triangles : ndarray of integers, shape (M, 3)
    normals : ndarray, shape (N, 3), or None
    uvs, more_uvs : ndarray, shape (N, 2), or None
        First and second texture coordinates.
    colours : ndarray, shape (N, 3), 0 to 1, or None
    runs : tuple of MaterialRun
        All triangles, in order.
    digits : int
        How many digits its positions came with.
    """

    points: NDArray[Any]
    triangles: NDArray[Any]
    normals: NDArray[Any] | None = None
    uvs: NDArray[Any] | None = None
    more_uvs: NDArray[Any] | None = None
    colours: NDArray[Any] | None = None
    runs: tuple[MaterialRun, ...] = ()
    digits: int = 9


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class SceneNode:
    """A node: its place in its parent, its mesh, and where that mesh's numbers lie in its frame, shape (4, 4)."""

    name: str
    parent: int | None
    placement: Placement
    plain: int | None
    local_from_points: Array


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class PlainScene:
    """A model in the numbers of the file it is to become, under its reading; a parent stands before its children."""

    name: str
    reading: Reading
    nodes: tuple[SceneNode, ...]
    plains: tuple[Plain, ...]

    def worlds(self) -> list[Array]:
        """Return the file frame from each node's own."""
        found: list[Array] = []
        for node in self.nodes:
            local = node.placement.matrix
            found.append(local if node.parent is None else found[node.parent] @ local)
        return found


def plain_mesh(mesh: Mesh, looks: Mapping[int, Look] | None = None) -> Plain:
    """Return a mesh as it is; `looks` by material, else the colours of its surfaces."""
    runs = []
    for surface in mesh.surfaces or ():
        own = (looks or {}).get(-1 if surface.material is None else surface.material)
        if own is None:
            red, green, blue = (round(255 * c) for c in surface.colour)
            own = Look(name=f"colour_{red:02x}{green:02x}{blue:02x}", colour=surface.colour, is_ours=True)
        if surface.count:
            runs.append(MaterialRun(first=surface.first, count=surface.count, look=own))
    return Plain(
        points=mesh.points,
        triangles=mesh.triangles,
        normals=mesh.normals,
        runs=tuple(runs),
        digits=digits_of(mesh.points),
    )


def shaded(plain: Plain, colours: NDArray[Any] | None) -> Plain:
    """Return a mesh with a colour for each vertex; no colour of ours tints them."""
    if colours is None:
        return plain
    white = Look(name="white", colour=(1.0, 1.0, 1.0), is_ours=True)
    runs = tuple(replace(run, look=white) if run.look.is_ours else run for run in plain.runs)
    return replace(plain, colours=colours, runs=runs)


def scene_of(asset: Asset, plains: Mapping[int, Plain], reading: Reading) -> PlainScene:
    """Return what the default scene shows of `asset` in the numbers of a file under `reading`.

    `plains` holds each mesh that a shown part has, by its position in `asset.meshes`.
    """
    nodes = in_basis(asset, reading.file_from_working)
    place: dict[int, int] = {}
    used: dict[int, int] = {}
    found: list[SceneNode] = []
    for i in asset.depth_first:
        node = nodes[i]
        if not node.shown:
            continue
        plain = None
        if node.mesh is not None and len(plains[node.mesh].triangles):
            plain = used.setdefault(node.mesh, len(used))
        place[i] = len(found)
        found.append(
            SceneNode(
                name=_whole_characters(node.name),
                parent=None if node.parent is None else place.get(node.parent),
                placement=node.placement,
                plain=plain,
                local_from_points=node.local_from_mesh,
            )
        )
    told = tuple(_with_whole_names(plains[m]) for m in used)
    return PlainScene(name=_whole_characters(asset.name), reading=reading, nodes=tuple(found), plains=told)


def _whole_characters(name: str) -> str:
    """Return a name without halves of characters, which no file but JSON can hold."""
    return _HALVES.sub(chr(0xFFFD), name)


def _with_whole_names(plain: Plain) -> Plain:
    if not any(_HALVES.search(run.look.name) for run in plain.runs):
        return plain
    runs = (replace(r, look=replace(r.look, name=_whole_characters(r.look.name))) for r in plain.runs)
    return replace(plain, runs=tuple(runs))


def carried(plain: Plain, matrix: Array) -> Plain:
    """Return a mesh carried by a (4, 4) matrix: normals with it, and wound the other way by a mirror.

    Raises
    ------
    Refused
        If a coordinate is not finite, or grows past what float32 can hold.
    """
    if np.array_equal(matrix, np.eye(4)):
        if not within_float32(plain.points):
            raise Refused(TOO_LARGE)
        return plain
    points = np.empty((len(plain.points), 3))
    write_points(plain.points, matrix, points)
    normals = None
    if plain.normals is not None:
        normals = np.empty((len(plain.points), 3))
        write_directions(plain.normals, normal_matrix(matrix[:3, :3]), normals)
    triangles = flipped(plain.triangles) if is_mirror(matrix) else plain.triangles
    return replace(plain, points=points, normals=normals, triangles=triangles)


def cut_out(plain: Plain, cut: Cut | None) -> Plain:
    """Return the piece of a mesh that `cut` names by its triangles; the mesh itself where it names none."""
    if cut is None:
        return plain
    corners = plain.triangles[cut.triangles]
    rows, local = np.unique(corners, return_inverse=True)
    starts = np.array([run.first for run in plain.runs], dtype=np.int64)
    run_of = np.searchsorted(starts, cut.triangles, side="right") - 1
    firsts = np.flatnonzero(np.diff(run_of, prepend=-2)) if len(starts) else np.empty(0, dtype=np.int64)
    ends = np.append(firsts[1:], len(run_of))
    return replace(
        plain,
        points=plain.points[rows],
        triangles=local.reshape(corners.shape),
        normals=None if plain.normals is None else plain.normals[rows],
        uvs=None if plain.uvs is None else plain.uvs[rows],
        more_uvs=None if plain.more_uvs is None else plain.more_uvs[rows],
        colours=None if plain.colours is None else plain.colours[rows],
        runs=tuple(
            MaterialRun(first=int(a), count=int(b - a), look=plain.runs[run_of[a]].look)
            for a, b in zip(firsts, ends, strict=False)
        ),
    )


def as_shaped(plain: Plain, mesh: Mesh) -> Plain:
    """Return a mesh as the file has it, with its points and normals as `mesh`, whose triangles it has, is shaped."""
    if mesh.unshaped is None:
        return plain
    here, there = np.asarray(plain.triangles).reshape(-1), np.asarray(mesh.triangles).reshape(-1)
    points = np.array(plain.points, dtype=np.float64)
    points[here] = mesh.points[there]
    if plain.normals is None:
        return replace(plain, points=points)
    normals = np.array(plain.normals, dtype=np.float64)
    normals[here] = normals_at_triangles(mesh, normals[here])
    return replace(plain, points=points, normals=normals)


def flat_parts(scene: PlainScene) -> list[tuple[str, Plain]]:
    """Return each part with its mesh in the file's own frame, names told apart."""
    found: list[tuple[str, Plain]] = []
    taken: set[str] = set()
    for node, world in zip(scene.nodes, scene.worlds(), strict=True):
        if node.plain is None:
            continue
        name, number = node.name, 2
        while name in taken:
            name, number = f"{node.name}.{number}", number + 1
        taken.add(name)
        found.append((name, carried(scene.plains[node.plain], world @ node.local_from_points)))
    return found


def to_srgb(linear: NDArray[Any]) -> Array:
    """Return linear colours, cut to 0 to 1, as sRGB (IEC 61966-2-1)."""
    c = np.clip(np.asarray(linear, dtype=np.float64), 0, 1)
    found: Array = np.where(c <= 0.0031308, c * 12.92, 1.055 * c ** (1 / 2.4) - 0.055)
    return found


def to_linear(srgb: NDArray[Any]) -> Array:
    """Return sRGB colours, cut to 0 to 1, as linear ones (IEC 61966-2-1)."""
    c = np.clip(np.asarray(srgb, dtype=np.float64), 0, 1)
    found: Array = np.where(c <= 0.04045, c / 12.92, ((c + 0.055) / 1.055) ** 2.4)
    return found


def merged(parts: list[tuple[str, Plain]]) -> Plain:
    """Return parts as one mesh, in order; what only some of them have is left out, but for colours."""
    plains = [plain for _, plain in parts]
    starts = np.cumsum([0, *(len(p.points) for p in plains)])
    firsts = np.cumsum([0, *(len(p.triangles) for p in plains)])
    triangles = [p.triangles.astype(np.int64) + start for p, start in zip(plains, starts, strict=False)]
    colours = None
    if any(p.colours is not None for p in plains):
        colours = np.concatenate([np.ones((len(p.points), 3)) if p.colours is None else p.colours for p in plains])
    return Plain(
        points=np.concatenate([p.points for p in plains]) if plains else np.empty((0, 3)),
        triangles=np.concatenate(triangles) if plains else np.empty((0, 3), dtype=np.int64),
        normals=_all_or_none([p.normals for p in plains]),
        uvs=_all_or_none([p.uvs for p in plains]),
        more_uvs=_all_or_none([p.more_uvs for p in plains]),
        colours=colours,
        runs=tuple(
            replace(run, first=run.first + int(first))
            for p, first in zip(plains, firsts, strict=False)
            for run in p.runs
        ),
        digits=max((p.digits for p in plains), default=9),
    )


def _all_or_none(arrays: list[NDArray[Any] | None]) -> NDArray[Any] | None:
    there = [a for a in arrays if a is not None]
    return np.concatenate(there) if arrays and len(there) == len(arrays) else None
