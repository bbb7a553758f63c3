"""Proof: a delivered file re-opened, and all of it held against what it should be."""

from __future__ import annotations

import math
import re
from collections.abc import Mapping, Sequence
from dataclasses import replace
from typing import Any

import numpy as np
from numpy.typing import NDArray

from oak_square.core.attached import Attached, how_it_strays
from oak_square.core.boxes import node_box
from oak_square.core.errors import Failed, Refused
from oak_square.core.geometry import ends, flipped, is_mirror
from oak_square.core.lengths import format_length
from oak_square.core.placement import inverse, is_singular
from oak_square.core.reshaping import attached_now, corners_of
from oak_square.core.scene import Asset, Mesh
from oak_square.core.tolerances import COARSE_FLOAT32_M, COARSE_SHARE, FACING, PROOF, ROUNDED
from oak_square.core.words import say
from oak_square.formats.register import FORMATS
from oak_square.formats.shared.kept import Kept
from oak_square.formats.shared.model_file import Received
from oak_square.formats.shared.polygons import reversed_corners

__all__ = ["allowance", "deviation", "prove_asset", "prove_edited"]

Array = NDArray[np.float64]
Rows = NDArray[np.int64]
_CHUNK = 16_384


def deviation(wanted: Asset, there: Asset) -> float:
    """Return the largest distance between where a vertex should be and where the re-opened file has it, metres.

    Parameters
    ----------
    wanted : Asset
        As prepared: source geometry, carried by the steps' motions in float64.
    there : Asset
        The delivered file as read again, under the reading it was written in.

    Raises
    ------
    Failed
        If nodes or vertices are not the same ones, or a coordinate is no number.
    """
    return max(_measure_deviations(wanted, there).values(), default=0.0)


def _measure_deviations(wanted: Asset, there: Asset) -> dict[int, float]:
    """Return how far the vertices of each part are off, metres."""
    _check_finite(there)
    if len(wanted.nodes) != len(there.nodes):
        raise Failed(
            say("re-opened, it has {count} nodes for {count_2}", count=len(there.nodes), count_2=len(wanted.nodes))
        )
    found: dict[int, float] = {}
    for i, (a, b) in enumerate(zip(wanted.nodes, there.nodes, strict=True)):
        if a.name != b.name or (a.mesh is None) != (b.mesh is None):
            raise Failed(say("re-opened, node {i} is '{name}' in place of '{name_2}'", i=i, name=b.name, name_2=a.name))
        if a.parent != b.parent:
            raise Failed(say("re-opened, '{name}' hangs from another node", name=b.name))
        if a.mesh is not None:
            found[i] = _node_deviation(wanted, there, i)
    return found


def _check_finite(there: Asset) -> None:
    for node in there.nodes:
        bad = there.meshes[node.mesh].not_finite if node.mesh is not None else 0
        if bad:
            raise Failed(
                say("re-opened, '{name}' has {bad} coordinates that are NaN or infinite", name=node.name, bad=bad)
            )
    if not np.isfinite(there.worlds).all():
        raise Failed(say("re-opened, it has frames that are NaN or infinite"))


def _node_deviation(wanted: Asset, there: Asset, i: int) -> float:
    old, new = wanted.mesh_of(i).points, there.mesh_of(i).points
    if len(old) != len(new):
        raise Failed(
            say(
                "re-opened, '{name}' has {count} vertices for {count_2}",
                name=wanted.nodes[i].name,
                count=len(new),
                count_2=len(old),
            )
        )
    a, b = wanted.world_from_mesh(i), there.world_from_mesh(i)
    offset = (a[:3, 3] - b[:3, 3])[:, None]
    largest = 0.0
    order = _point_order(wanted, there, i)
    for start in range(0, len(old), _CHUNK):
        rows = slice(start, start + _CHUNK)
        after = new[rows] if order is None else new[order[rows]]
        apart = a[:3, :3] @ old[rows].T.astype(np.float64) - b[:3, :3] @ after.T.astype(np.float64) + offset
        # Not `max`: of 0 and what is not a number it gives 0.
        largest = float(np.maximum(largest, np.einsum("ij,ij->j", apart, apart).max()))
    return float(np.maximum(math.sqrt(largest), _morph_deviation(wanted, there, i)))


def _morph_deviation(wanted: Asset, there: Asset, i: int) -> float:
    """Return how far a vertex strays at the full weight of any one morph target, beyond where it strays at rest."""
    old, new = wanted.mesh_of(i).morphs, there.mesh_of(i).morphs
    if len(old) != len(new):
        raise Failed(
            say(
                "re-opened, '{name}' has {count} morph targets for {count_2}",
                name=wanted.nodes[i].name,
                count=len(new),
                count_2=len(old),
            )
        )
    a, b = wanted.world_from_mesh(i)[:3, :3], there.world_from_mesh(i)[:3, :3]
    pairs = zip(old, new, strict=True)
    apart = (np.asarray(x, dtype=np.float64) @ a.T - np.asarray(y, dtype=np.float64) @ b.T for x, y in pairs)
    return float(np.max([0.0, *(np.linalg.norm(d, axis=1).max(initial=0.0) for d in apart)]))


def _point_order(wanted: Asset, there: Asset, i: int) -> Rows | None:
    """Return the rows of the new points in the old order, where a format winds triangles by moving their corners."""
    if wanted.format != "stl" or not is_mirror(wanted.world_from_mesh(i)):
        return None
    rows = np.arange(len(there.mesh_of(i).points)).reshape(-1, 3)
    return rows[:, [0, 2, 1]].reshape(-1)


def allowance(wanted: Asset, i: int, there: Asset, j: int) -> float:
    """Return how far, metres, the vertices of the part at `i` may be off as the delivered file's part at `j` has them.

    Rounding to float32 grows with the numbers that are stored and with how far out the part is; past what a survey
    calls lost precision, or a share of the part's own size, it is no longer rounding but damage.
    """
    box = node_box(wanted, i)
    if box is None:
        return 0.0
    mesh, linear = there.mesh_of(j), there.world_from_mesh(j)[:3, :3]
    stored = float(np.abs(ends(mesh.points)).max()) * float(np.linalg.norm(linear, ord=2)) if len(mesh.points) else 0.0
    reach = float(np.abs([box.low, box.high]).max())
    return PROOF * box.diagonal + min(ROUNDED * (reach + stored), max(COARSE_SHARE * box.diagonal, COARSE_FLOAT32_M))


def prove_asset(wanted: Asset, there: Asset) -> float:
    """Return the deviation of a delivered file.

    Raises
    ------
    Failed
        If it is over what rounding to the file's numbers explains.
    """
    apart = _measure_deviations(wanted, there)
    for i, off in apart.items():
        if not (off <= allowance(wanted, i, there, i)):
            name = wanted.nodes[i].name
            raise Failed(
                say(
                    "its proof does not hold: a vertex of '{name}' is {off} from where it should be",
                    name=name,
                    off=format_length(off),
                )
            )
    return max(apart.values(), default=0.0)


def prove_edited(
    source: Received, wanted: Asset, again: Received, there: Asset, order: Sequence[int] | None = None
) -> float:
    """Return the deviation of a delivered file of the source's own kind, all of it proved.

    Vertices are where they should be; triangles have the corners they had, wound as they should be; normals and
    tangents point where the steps sent them; textures, materials, names and sharing are still there.

    Parameters
    ----------
    source, again : Received
        The source and the delivered file as read.
    wanted, there : Asset
        As prepared; as read again, under the reading it was written in, its nodes in the order of `wanted`.
    order : sequence of int, optional
        Which node of `wanted` each node of `again` is, where that is another order.

    Raises
    ------
    Failed
        With the part and what of it does not hold.
    """
    off = prove_asset(wanted, there)
    kind, other = FORMATS[source.asset.format], FORMATS[again.asset.format]
    is_rehung, order = order is not None, range(len(wanted.nodes)) if order is None else order
    before, after = kind.attached(source), {order[k]: v for k, v in other.attached(again).items()}
    materials: dict[int | None, int | None] | None = {None: None} if is_rehung else None
    for i, node in enumerate(wanted.nodes):
        if node.mesh is None:
            continue
        matrix = _find_matrix_between(wanted, there, i)
        _prove_faces(wanted, there, i, matrix)
        if matrix is not None:
            _prove_attached(wanted, there, i, matrix, (before, after))
        _prove_looks(wanted, there, i, materials)
    _prove_sharing(source.asset, wanted, there)
    _prove_belongings(source, wanted, again, order, is_rehung=is_rehung)
    return off


def _find_matrix_between(wanted: Asset, there: Asset, i: int) -> Array | None:
    """Return the matrix from the source's mesh numbers to the delivered file's; None where a frame flattens space."""
    if wanted.nodes[i].skin is not None:
        return np.eye(4)  # its joints carry it: the numbers of its mesh stay
    try:
        matrix = inverse(there.world_from_mesh(i), what=there.nodes[i].name) @ wanted.world_from_mesh(i)
    except Refused:
        return None
    return None if is_singular(matrix[:3, :3]) else matrix


def _prove_faces(wanted: Asset, there: Asset, i: int, matrix: Array | None) -> None:
    old, new, name = wanted.mesh_of(i), there.mesh_of(i), wanted.nodes[i].name
    mirrored = matrix is not None and is_mirror(matrix)
    if old.faces is not None:
        counts, corners = old.faces.counts, old.faces.corners
        if new.faces is None or not np.array_equal(new.faces.counts, counts):
            raise Failed(say("re-opened, the faces of '{name}' have other numbers of corners", name=name))
        if not np.array_equal(new.faces.corners, corners[reversed_corners(counts)] if mirrored else corners):
            raise Failed(say("re-opened, a face of '{name}' has other corners, or is turned inside out", name=name))
        return
    triangles = np.asarray(old.triangles)
    if len(new.triangles) != len(triangles):
        raise Failed(
            say(
                "re-opened, '{name}' has {count} triangles for {count_2}",
                name=name,
                count=len(new.triangles),
                count_2=len(triangles),
            )
        )
    if wanted.format == "stl":
        return  # its triangles are its points in a row
    if not same_triangles(flipped(triangles) if mirrored else triangles, np.asarray(new.triangles)):
        raise Failed(say("re-opened, a triangle of '{name}' has other corners, or is turned inside out", name=name))


def same_triangles(old: NDArray[np.integer], new: NDArray[np.integer]) -> bool:
    """Tell whether triangles are the same in the same order; each may start at any of its corners."""
    if np.array_equal(old, new):
        return True
    same = np.zeros(len(old), dtype=bool)
    for turn in ((0, 1, 2), (1, 2, 0), (2, 0, 1)):
        same |= (old == new[:, turn]).all(axis=1)
    return bool(same.all())


Attachments = Mapping[int, tuple[Attached, ...]]


def _prove_attached(wanted: Asset, there: Asset, i: int, matrix: Array, both: tuple[Attachments, Attachments]) -> None:
    mesh, name, origin = wanted.mesh_of(i), wanted.nodes[i].name, wanted.nodes[i].cut_from
    old = {a.what: a for a in both[0].get(i if origin is None else origin, ())}
    new = {a.what: a for a in both[1].get(i, ())}
    if mesh.spread is not None:
        # Instances hold a part of the change: what is drawn is held against what should be.
        old = {k: a for k, a in old.items() if a.kind == "kept"}
        new = {k: a for k, a in new.items() if a.kind == "kept"}
        if mesh.normals is not None:
            drawn = there.mesh_of(i).normals
            drawn = np.zeros((0, 3)) if drawn is None else drawn
            old["normals"] = Attached(what="normals", kind="normal", values=mesh.normals)
            new["normals"] = Attached(what="normals", kind="normal", values=drawn)
    if mesh.cut is not None:  # a piece has not what none of its own corners had
        old = {what: rows for what, rows in old.items() if what in new or not _is_blank(_of_piece(rows, mesh))}
    if old.keys() != new.keys():
        lost = ", ".join(sorted(old.keys() ^ new.keys()))
        raise Failed(say("re-opened, '{name}' has lost or gained {lost}", name=name, lost=lost))
    should = attached_now(mesh, {what: _of_piece(rows, mesh) for what, rows in old.items()})
    for what, rows in should.items():
        if rows.of != new[what].of:
            raise Failed(say("re-opened, '{name}' has lost or gained {lost}", name=name, lost=what))
        strays = how_it_strays(_in_new_order(rows, mesh, matrix), new[what], matrix, FACING)
        if strays is not None:
            raise Failed(
                say("its proof does not hold: the {what} of '{name}' {strays}", what=what, name=name, strays=strays)
            )


def _is_blank(rows: Attached) -> bool:
    values = np.asarray(rows.values)
    return values.dtype.kind == "f" and bool(np.isnan(values).all())


def _of_piece(rows: Attached, mesh: Mesh) -> Attached:
    if mesh.cut is None or rows.of == "rows":
        return rows
    return _in_order(rows, {"points": mesh.cut.points, "corners": mesh.cut.corners, "faces": mesh.cut.faces}[rows.of])


def _in_new_order(rows: Attached, mesh: Mesh, matrix: Array) -> Attached:
    if rows.of != "corners" or not is_mirror(matrix):
        return rows
    return _in_order(rows, reversed_corners(corners_of(mesh)[1]))


def _in_order(rows: Attached, order: NDArray[np.integer]) -> Attached:
    return replace(rows, values=rows.values[order], hands=None if rows.hands is None else rows.hands[order])


def _prove_looks(wanted: Asset, there: Asset, i: int, materials: dict[int | None, int | None] | None) -> None:
    """Check the materials of a part; with `materials` they may be others in number, each always the same one."""
    old, new = ([(s.count, s.material, s.colour) for s in a.mesh_of(i).surfaces if s.count] for a in (wanted, there))
    if materials is not None and len(old) == len(new):
        for a, b in zip(old, new, strict=True):
            materials.setdefault(a[1], b[1])
        old = [(count, materials[k], colour) for count, k, colour in old]
        if len(set(materials.values())) < len(materials):
            raise Failed(say("re-opened, two materials of '{name}' have become one", name=wanted.nodes[i].name))
    if old != new:
        raise Failed(say("re-opened, the materials of '{name}' are not what they were", name=wanted.nodes[i].name))
    if not _is_copy_of(there.mesh_of(i).name, wanted.mesh_of(i).name):
        raise Failed(
            say(
                "re-opened, the mesh of '{name}' is called '{name_2}'",
                name=wanted.nodes[i].name,
                name_2=there.mesh_of(i).name,
            )
        )


def _is_copy_of(name: str, original: str) -> bool:
    """Tell whether a mesh is called as another one, or as a copy or a piece of it: `post.2`."""
    return name.startswith(original) and re.fullmatch(r"([.]\d+)*", name[len(original) :]) is not None


def _prove_sharing(received: Asset, wanted: Asset, there: Asset) -> None:
    """Check that nodes which shared a mesh, and are carried alike, still share one."""
    known: dict[tuple[int, int | None, bytes], int] = {}
    for i, node in enumerate(received.nodes):
        if node.mesh is None or node.skin is not None or wanted.bearers(i) != (i,):
            continue
        carried = wanted.nodes[i].local_from_mesh
        # To the bit: what is carried alike but for rounding may or may not share.
        first = known.setdefault((node.mesh, wanted.nodes[i].mesh, carried.tobytes()), i)
        if there.nodes[first].mesh != there.nodes[i].mesh:
            raise Failed(
                say(
                    "re-opened, '{name}' and '{name_2}' no longer share their mesh",
                    name=node.name,
                    name_2=received.nodes[first].name,
                )
            )


def _still_there(old: Any, new: Any, *, is_rehung: bool) -> bool:
    if not isinstance(old, Kept):
        return bool(old == new)
    return old.is_told_in(new) if is_rehung else old.is_in(new)


def _prove_belongings(
    source: Received, wanted: Asset, again: Received, order: Sequence[int], *, is_rehung: bool
) -> None:
    """Check that all that no step changes is as it was: of the file, and of each part that is still one."""
    kind, other = FORMATS[source.asset.format], FORMATS[again.asset.format]
    old, new = kind.belongings(source), other.belongings(again)
    for what in old:
        if not _still_there(old[what], new.get(what), is_rehung=is_rehung):
            raise Failed(say("re-opened, its {what} are not what they were", what=what))
    mine = kind.belongings_of_parts(source)
    theirs = {order[k]: v for k, v in other.belongings_of_parts(again).items()}
    for i, node in enumerate(wanted.nodes):
        if node.mesh is not None and wanted.mesh_of(i).cut is None and mine.get(i) != theirs.get(i):
            raise Failed(
                say("re-opened, what the mesh of '{name}' has beside its numbers is not what it was", name=node.name)
            )
