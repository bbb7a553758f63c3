"""Point instancers: prototypes drawn many times, each time under a matrix of its own."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import replace
from typing import Any

import numpy as np
from numpy.typing import NDArray

from oak_square.core.errors import BadFile, Refused
from oak_square.core.geometry import write_points
from oak_square.core.instances import matrices_of, spread_out
from oak_square.core.placement import Placement, turn_degrees
from oak_square.core.scene import Mesh, Surface
from oak_square.core.tolerances import SAME_MATRIX
from oak_square.core.words import say
from oak_square.formats.shared.plain import MaterialRun, Plain, merged
from oak_square.formats.usd.stage import values_of

__all__ = ["carry", "drawn", "drawn_plain"]

Array = NDArray[np.float64]
_DEEPEST = 8
_ASIDE = {"proxy", "guide"}
Instances = list[tuple[Any, Array]]


def drawn(prim: Any, mesh_of: Callable[[Any], Mesh | None], most: int, file: str) -> Mesh | None:
    """Return all that an instancer draws as one mesh in its own frame; None where that has over `most` vertices.

    `mesh_of` gives the mesh of a prim of a prototype. Lines and points of prototypes are left out.

    Raises
    ------
    BadFile
        If its instances do not hold together.
    """
    runs, total = [(mesh, spread) for p, spread in _read_instances(prim, file) if (mesh := mesh_of(p)) is not None], 0
    for mesh, spread in runs:
        total += len(mesh.points) * len(spread)
        if total > most:
            return None
    points, triangles, surfaces, start, first = list[Array](), list[NDArray[Any]](), list[Surface](), 0, 0
    for mesh, spread in runs:
        own = spread_out(mesh, spread)
        points.append(np.asarray(own.points, dtype=np.float64))
        triangles.append(own.triangles.astype(np.int64) + start)
        surfaces += [replace(s, first=s.first + first) for s in own.surfaces]
        start, first = start + len(own.points), first + len(own.triangles)
    return Mesh(
        name=str(prim.GetName()),
        points=np.concatenate(points) if points else np.empty((0, 3)),
        triangles=np.concatenate(triangles).astype(np.uint32) if triangles else np.empty((0, 3), dtype=np.uint32),
        surfaces=tuple(surfaces),
        not_finite=sum(int(np.count_nonzero(~np.isfinite(p))) for p in points),
    )


def drawn_plain(prim: Any, plain_of: Callable[[Any], Plain | None], file: str) -> Plain:
    """Return all that an instancer draws as one plain mesh in its own frame."""
    found = list[tuple[str, Plain]]()
    for source, spread in _read_instances(prim, file):
        plain = plain_of(source)
        if plain is not None and len(plain.triangles):
            found.append(("", _spread_plain(plain, spread)))
    return merged(found)


def _spread_plain(plain: Plain, spread: Array) -> Plain:
    count = len(spread)
    mesh = spread_out(
        Mesh(
            name="",
            points=plain.points,
            triangles=plain.triangles,
            normals=plain.normals,
            surfaces=tuple(Surface(first=r.first, count=r.count) for r in plain.runs),
        ),
        spread,
    )
    return replace(
        plain,
        points=mesh.points,
        triangles=mesh.triangles,
        normals=mesh.normals,
        uvs=None if plain.uvs is None else np.tile(plain.uvs, (count, 1)),
        more_uvs=None if plain.more_uvs is None else np.tile(plain.more_uvs, (count, 1)),
        colours=None if plain.colours is None else np.tile(plain.colours, (count, 1)),
        runs=tuple(
            MaterialRun(first=s.first, count=s.count, look=r.look)
            for s, r in zip(mesh.surfaces, plain.runs, strict=False)
        ),
    )


def _read_instances(prim: Any, file: str, depth: int = 0) -> Instances:
    """Return each prim that is drawn, with its matrices in the instancer's frame, shape (K, 4, 4)."""
    from pxr import Usd, UsdGeom

    instancer, now = UsdGeom.PointInstancer(prim), Usd.TimeCode.EarliestTime()
    which = values_of(instancer.GetProtoIndicesAttr(), 1).astype(np.int64)
    prototypes = [prim.GetStage().GetPrimAtPath(p) for p in instancer.GetPrototypesRel().GetForwardedTargets()]
    if not len(which) or not prototypes:
        return []
    if which.min() < 0 or which.max() >= len(prototypes):
        raise BadFile(
            file,
            say(
                "'{getpath}' draws a prototype that is not there ({count} are)",
                getpath=prim.GetPath(),
                count=len(prototypes),
            ),
        )
    places = values_of(instancer.GetPositionsAttr(), 3)
    if len(places) != len(which):
        raise BadFile(
            file,
            say(
                "'{getpath}' has {count} positions for {count_2} instances",
                getpath=prim.GetPath(),
                count=len(places),
                count_2=len(which),
            ),
        )
    if depth > _DEEPEST:
        raise BadFile(
            file,
            say("'{getpath}' draws instancers more than {_deepest} deep", getpath=prim.GetPath(), _deepest=_DEEPEST),
        )
    shown = np.array(instancer.ComputeMaskAtTime(now) or np.ones(len(which)), dtype=bool)
    turns, scales = _read_turns(instancer, len(which)), values_of(instancer.GetScalesAttr(), 3).astype(np.float64)
    scales = scales if len(scales) else np.ones((len(which), 3))
    if not len(turns) == len(scales) == len(shown) == len(which):
        raise BadFile(
            file,
            say("'{getpath}' has turns or scales that are not one for each of its instances", getpath=prim.GetPath()),
        )
    spread = matrices_of(values_of(instancer.GetPositionsAttr(), 3).astype(np.float64), turns, scales)
    found: Instances = []
    for k, prototype in enumerate(prototypes):
        own = spread[(which == k) & shown]
        if prototype and len(own) and prototype.IsA(UsdGeom.Xformable):
            own = own @ np.array(UsdGeom.Xformable(prototype).GetLocalTransformation(now), dtype=np.float64).T
        if prototype and len(own):
            for source, inside in _yield_within(prototype, file, depth):
                # Each under each: as the product of two lists of matrices.
                found.append((source, (own[:, None] @ inside[None]).reshape(-1, 4, 4)))
    return found


def _read_turns(instancer: Any, count: int) -> Array:
    """Return the unit quaternions of instances, shape (K, 4): x, y, z, w.

    Those that are stored as halves are up to a thousandth off their length, and are turns all the same.
    """
    floats = values_of(instancer.GetOrientationsfAttr(), 4)
    own = (floats if len(floats) else values_of(instancer.GetOrientationsAttr(), 4)).astype(np.float64)
    own = own if len(own) else np.tile([0.0, 0.0, 0.0, 1.0], (count, 1))
    lengths = np.linalg.norm(own, axis=1, keepdims=True)
    return np.where(lengths > 0, own / np.where(lengths > 0, lengths, 1.0), [0.0, 0.0, 0.0, 1.0])


def _yield_within(prototype: Any, file: str, depth: int) -> Iterator[tuple[Any, Array]]:
    """Yield what a prototype draws, with matrices in the frame inside its own place, shape (K, 4, 4)."""
    from pxr import Usd, UsdGeom

    cache = UsdGeom.XformCache(Usd.TimeCode.EarliestTime())
    prims = iter(Usd.PrimRange(prototype, Usd.TraverseInstanceProxies()))
    for prim in prims:
        imageable = UsdGeom.Imageable(prim)
        if not imageable:
            continue
        if str(imageable.GetVisibilityAttr().Get()) == "invisible" or str(imageable.ComputePurpose()) in _ASIDE:
            prims.PruneChildren()
            continue
        inside = np.eye(4)
        if prim != prototype:
            inside = np.array(cache.ComputeRelativeTransform(prim, prototype)[0], dtype=np.float64).T
        if prim.IsA(UsdGeom.PointInstancer):
            prims.PruneChildren()
            for source, spread in _read_instances(prim, file, depth + 1):
                yield source, inside @ spread
        elif prim.IsA(UsdGeom.Gprim):
            yield prim, inside[None]


def carry(prim: Any, matrix: Array) -> None:
    """Author an instancer's places carried by a (4, 4) matrix; its prototypes stay as they are.

    Raises
    ------
    Refused
        If the matrix sizes unevenly, shears or mirrors, which a turn and a scale of each instance can't hold.
    """
    from pxr import UsdGeom, Vt

    name = prim.GetName()
    if prim.IsInstanceProxy():
        raise Refused(say("'{name}' lies inside an instance, whose parts are shared", name=name))
    change = Placement.from_matrix(matrix, what=f"'{name}'")
    factor = float(change.scale[0])
    if change.is_sheared or factor <= 0 or np.abs(change.scale - factor).max() > SAME_MATRIX * factor:
        raise Refused(
            say("the instances of '{name}' would be sized unevenly or mirrored, which they can't hold", name=name)
        )
    instancer = UsdGeom.PointInstancer(prim)
    places = values_of(instancer.GetPositionsAttr(), 3).astype(np.float64)
    moved = np.empty_like(places)
    write_points(places, matrix, moved)
    instancer.GetPositionsAttr().Set(_make_vectors(moved))
    if abs(factor - 1) > SAME_MATRIX:
        scales = values_of(instancer.GetScalesAttr(), 3).astype(np.float64)
        instancer.CreateScalesAttr().Set(_make_vectors((scales if len(scales) else np.ones_like(places)) * factor))
    if turn_degrees(change.rotation) > 0:
        own = _read_turns(instancer, len(places))
        turned = np.ascontiguousarray(_multiply_quaternions(change.rotation, own).astype(np.float32))
        # In floats: the halves that the older attribute has are as coarse as a thousandth.
        instancer.CreateOrientationsfAttr().Set(Vt.QuatfArray.FromNumpy(turned))
    extent = UsdGeom.Boundable.ComputeExtentFromPlugins(UsdGeom.Boundable(prim), 0.0)
    if extent and instancer.GetExtentAttr().HasAuthoredValue():
        instancer.GetExtentAttr().Set(extent)


def _make_vectors(rows: Array) -> Any:
    from pxr import Vt

    return Vt.Vec3fArray.FromNumpy(np.ascontiguousarray(rows.astype(np.float32)))


def _multiply_quaternions(a: Array, b: Array) -> Array:
    """Return the quaternion `a`, shape (4,), times each of `b`, shape (K, 4): x, y, z, w."""
    xyz = a[3] * b[:, :3] + b[:, 3:] * a[:3] + np.cross(a[:3], b[:, :3])
    return np.column_stack([xyz, a[3] * b[:, 3] - b[:, :3] @ a[:3]])
