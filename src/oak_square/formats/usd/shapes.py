"""Shape prims, which have a radius where a mesh has points: the meshes that they are drawn as.

A round one gets as many sides as make its extents true: its corners lie on its axes.
"""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

import numpy as np
from numpy.typing import NDArray

from oak_square.core.errors import Refused
from oak_square.core.scene import PLAIN_COLOUR, Mesh, Surface
from oak_square.core.tolerances import SAME_FACTOR
from oak_square.core.words import say

__all__ = ["PROPERTIES", "become_mesh", "flattened", "mesh_of_shape", "resized", "rows_at_corners", "shape_primvars"]

Array = NDArray[np.float64]
_SIDES = 64
_RINGS = 16  # of a quarter turn
PROPERTIES = ("size", "radius", "radiusTop", "radiusBottom", "height", "width", "length", "axis")
"""What a shape prim is told by, and a mesh has no use for."""
_LENGTHS = PROPERTIES[:-1]
# A cube's corners and faces in the order in which the library that draws it numbers them.
_CUBE_POINTS = np.array(
    [[1, 1, 1], [-1, 1, 1], [-1, -1, 1], [1, -1, 1], [-1, -1, -1], [-1, 1, -1], [1, 1, -1], [1, -1, -1]]
)
_CUBE_FACES = np.array([[0, 1, 2, 3], [4, 5, 6, 7], [0, 6, 5, 1], [4, 7, 3, 2], [0, 3, 7, 6], [4, 2, 1, 5]])


def mesh_of_shape(prim: Any) -> Mesh | None:
    """Return the closed mesh of a cube, sphere, cylinder, cone or capsule, or a plane's two triangles; of others None.

    Its numbers are the prim's own, and it has a normal for each vertex: edges are sharp where the shape has edges.
    """
    kind = str(prim.GetTypeName())
    if kind == "Cube":
        points, normals, triangles = _make_cube(_read_number(prim, "size"))
    elif kind == "Plane":
        points, normals, triangles = _make_plane(
            _read_number(prim, "width"), _read_number(prim, "length"), _read_axis(prim)
        )
    else:
        strips = _find_outline(prim, kind)
        if strips is None:
            return None
        points, normals, triangles = _sweep_outlines(strips)
        order = {"X": [2, 0, 1], "Y": [1, 2, 0]}.get(_read_axis(prim) if kind != "Sphere" else "Z")
        if order is not None:  # cyclic: nothing is mirrored
            points, normals = points[:, order], normals[:, order]
    return Mesh(
        name=str(prim.GetName()),
        points=np.ascontiguousarray(points),
        triangles=triangles.astype(np.uint32),
        normals=np.ascontiguousarray(normals),
        surfaces=(Surface(first=0, count=len(triangles), colour=PLAIN_COLOUR),),
        not_finite=int(np.count_nonzero(~np.isfinite(points))),
    )


def _read_number(prim: Any, name: str) -> float:
    from pxr import Usd

    value = prim.GetAttribute(name).Get(Usd.TimeCode.EarliestTime())
    return float(value) if value is not None else 0.0


def _read_axis(prim: Any) -> str:
    value = prim.GetAttribute("axis").Get()
    return str(value) if value is not None else "Z"


def _make_cube(size: float) -> tuple[Array, Array, NDArray[np.int64]]:
    corners = np.array([[-1, -1], [1, -1], [1, 1], [-1, 1]], dtype=np.float64)
    points, normals = list[Array](), list[Array]()
    for axis in range(3):
        for side in (-1.0, 1.0):
            face = np.empty((4, 3))
            face[:, axis], face[:, (axis + 1) % 3], face[:, (axis + 2) % 3] = side, side * corners[:, 0], corners[:, 1]
            points.append(face * (size / 2))
            normals.append(np.tile(np.eye(3)[axis] * side, (4, 1)))
    quads = 4 * np.arange(6)[:, None, None] + np.array([[0, 1, 2], [0, 2, 3]])
    return np.concatenate(points), np.concatenate(normals), quads.reshape(-1, 3)


def _make_plane(width: float, length: float, axis: str) -> tuple[Array, Array, NDArray[np.int64]]:
    # Which extent lies along which axis is as the schema of geometry has it.
    across, along = {"X": (2, 1), "Y": (0, 2)}.get(axis, (0, 1))
    up = 3 - across - along
    points, normals = np.zeros((4, 3)), np.zeros((4, 3))
    points[:, across] = np.array([-1, 1, 1, -1]) * (width / 2)
    points[:, along] = np.array([-1, -1, 1, 1]) * (length / 2)
    normals[:, up] = 1.0
    rows = np.array([[0, 1, 2], [0, 2, 3]])
    faces_up = np.cross(np.eye(3)[across], np.eye(3)[along])[up] > 0
    return points, normals, rows if faces_up else rows[:, [0, 2, 1]]


def _find_outline(prim: Any, kind: str) -> list[Array] | None:
    """Return a shape's outline from bottom to top in runs that are smooth in themselves.

    Each is of rows (radius, height, normal outwards, normal up); None where it is no shape of rotation.
    """
    if kind == "Sphere":
        return [_make_arc(_read_number(prim, "radius"), -90.0, 90.0, 0.0)]
    if kind not in {"Cylinder", "Cone", "Capsule", "Cylinder_1", "Capsule_1"}:
        return None
    half = _read_number(prim, "height") / 2
    low, high = (
        (_read_number(prim, "radiusBottom"), _read_number(prim, "radiusTop"))
        if kind.endswith("_1")
        else (_read_number(prim, "radius"), 0.0 if kind == "Cone" else _read_number(prim, "radius"))
    )
    slope = np.array([2 * half, low - high])
    length = float(np.linalg.norm(slope))
    out, up = slope / length if half > 0 else (1.0, 0.0)
    side = np.array([[low, -half, out, up], [high, half, out, up]])
    if kind.startswith("Capsule"):
        # Its ends are balls that the side runs into smoothly: where radii differ, less or more than half of each.
        tilt, lean = float(np.degrees(np.arctan2(up, out))), up / out
        bottom = _make_arc(low / out, -90.0, tilt, -half - low * lean)
        return [bottom, side, _make_arc(high / out, tilt, 90.0, half - high * lean)]
    bottom = np.array([[0, -half, 0, -1.0], [low, -half, 0, -1.0]])
    top = np.array([[high, half, 0, 1.0], [0, half, 0, 1.0]])
    return [strip for strip in (bottom, side, top) if strip[:, 0].max() > 0]


def _make_arc(radius: float, start: float, end: float, height: float) -> Array:
    steps = np.linspace(start, end, round(_RINGS * (end - start) / 90) + 1)
    angles = np.radians(np.unique(np.append(steps, 0.0)) if start < 0 < end else steps)  # it is widest at 0
    out, up = np.cos(angles), np.sin(angles)
    out[np.isclose(out, 0, atol=SAME_FACTOR)] = 0.0  # the poles are points
    return np.column_stack([radius * out, radius * up + height, out, up])


def _sweep_outlines(strips: list[Array]) -> tuple[Array, Array, NDArray[np.int64]]:
    """Return the surface that outlines sweep about +Z: points, normals and triangles, wound to face out."""
    angles = np.arange(_SIDES) * (2 * np.pi / _SIDES)
    around = np.column_stack([np.cos(angles), np.sin(angles)])
    around[np.abs(around) < SAME_FACTOR] = 0.0
    points, normals, triangles, start = list[Array](), list[Array](), list[NDArray[np.int64]](), 0
    here, onward = np.arange(_SIDES), (np.arange(_SIDES) + 1) % _SIDES
    for strip in strips:
        for rows, (a, b) in ((points, (0, 1)), (normals, (2, 3))):
            rings = np.empty((len(strip), _SIDES, 3))
            rings[:, :, :2] = strip[:, a, None, None] * around
            rings[:, :, 2] = strip[:, b, None]
            rows.append(rings.reshape(-1, 3))
        for k in range(len(strip) - 1):
            low, high = start + k * _SIDES, start + (k + 1) * _SIDES
            if strip[k + 1, 0] > 0:
                triangles.append(np.column_stack([low + here, high + onward, high + here]))
            if strip[k, 0] > 0:
                triangles.append(np.column_stack([low + here, low + onward, high + onward]))
        start += len(strip) * _SIDES
    return np.concatenate(points), np.concatenate(normals), np.concatenate(triangles)


def rows_at_corners(prim: Any, how: str) -> NDArray[np.int64] | None:
    """Return which value of a cube's primvar each corner of its mesh has, shape (36,); of other shapes None.

    Only a cube's corners have an order that files speak of; what a round shape is drawn with is left to who draws it.

    Parameters
    ----------
    how : str
        The primvar's interpolation.
    """
    if str(prim.GetTypeName()) != "Cube":
        return None
    points, normals, triangles = _make_cube(2.0)
    corners = triangles.reshape(-1)
    point = (points[corners][:, None] == _CUBE_POINTS).all(axis=2).argmax(axis=1)
    sides = _CUBE_POINTS[_CUBE_FACES].sum(axis=1) / 4
    face = (normals[corners][:, None] == sides).all(axis=2).argmax(axis=1)
    place = 4 * face + (_CUBE_FACES[face] == point[:, None]).argmax(axis=1)
    return {"vertex": point, "varying": point, "faceVarying": place, "uniform": face}.get(how)


def shape_primvars(prim: Any) -> Iterator[tuple[Any, NDArray[Any] | None]]:
    """Yield what a shape's primvars that are numbers say: as they stand, or at each corner of its mesh.

    Of a primvar that can't be laid on the mesh, None is yielded.
    """
    from pxr import Usd, UsdGeom

    for primvar in UsdGeom.PrimvarsAPI(prim).GetPrimvarsWithAuthoredValues():
        value = primvar.Get(Usd.TimeCode.EarliestTime())
        values = np.array(value) if value is not None and hasattr(value, "__len__") else np.empty(0)
        if not values.size or values.dtype.kind not in "fiu":
            continue
        how = str(primvar.GetInterpolation())
        if how == "constant":
            yield primvar, values
            continue
        rows, flat = rows_at_corners(prim, how), flattened(primvar)
        fits = rows is not None and flat is not None and len(flat) > int(rows.max())
        yield primvar, np.array(flat)[rows] if fits else None


def flattened(primvar: Any) -> Any:
    """Return a primvar's values without its indices; None where these lead out of its values, or there are none."""
    from pxr import Tf, Usd

    try:
        value = primvar.ComputeFlattened(Usd.TimeCode.EarliestTime())
    except Tf.ErrorException:
        return None
    return value if value is None or np.array(value).dtype.kind in "fiu" else None


def resized(prim: Any, matrix: Array) -> bool:
    """Author a shape prim larger or smaller, where a (4, 4) `matrix` does no more; tell whether so."""
    from pxr import Gf, UsdGeom

    factor = float(matrix[0, 0])
    still = np.diag([factor, factor, factor, 1.0])
    if prim.IsInstanceProxy() or factor <= 0 or np.abs(matrix - still).max() > SAME_FACTOR * factor:
        return False
    for name in _LENGTHS:
        attribute = prim.GetAttribute(name)
        if attribute:
            attribute.Set(_read_number(prim, name) * factor)
    extent = UsdGeom.Boundable(prim).GetExtentAttr()
    if extent.IsAuthored() and (ends := extent.Get()):
        extent.Set([Gf.Vec3f(*(float(v) * factor for v in end)) for end in ends])
    return True


def become_mesh(prim: Any, mesh: Mesh) -> None:
    """Author a shape prim as the mesh that it is drawn as, in the stage's edit target; its place and looks stay.

    Raises
    ------
    Refused
        If it has no such mesh, lies inside an instance, or has values for corners that the mesh has not.
    """
    from pxr import Gf, UsdGeom, Vt

    if prim.IsInstanceProxy() or not len(mesh.triangles) or mesh.normals is None:
        raise Refused(say("the geometry of '{getname}' can't be rewritten here", getname=prim.GetName()))
    for primvar, values in list(shape_primvars(prim)):
        if values is None:
            raise Refused(
                say(
                    "'{name}' of '{prim}' is laid on a shape by its drawing, and can't be laid on the mesh it would be",
                    name=primvar.GetPrimvarName(),
                    prim=prim.GetName(),
                )
            )
        if str(primvar.GetInterpolation()) != "constant":
            primvar.SetInterpolation(UsdGeom.Tokens.faceVarying)
            primvar.GetAttr().Set(type(primvar.Get()).FromNumpy(np.ascontiguousarray(values)))
            if primvar.IsIndexed():
                primvar.BlockIndices()
    prim.SetTypeName("Mesh")
    made = UsdGeom.Mesh(prim)
    made.CreatePointsAttr(Vt.Vec3fArray.FromNumpy(mesh.points.astype(np.float32)))
    made.CreateFaceVertexCountsAttr(Vt.IntArray.FromNumpy(np.full(len(mesh.triangles), 3, dtype=np.int32)))
    corners = np.ascontiguousarray(mesh.triangles.ravel().astype(np.int32))
    made.CreateFaceVertexIndicesAttr(Vt.IntArray.FromNumpy(corners))
    made.CreateNormalsAttr(Vt.Vec3fArray.FromNumpy(mesh.normals.astype(np.float32)))
    made.SetNormalsInterpolation(UsdGeom.Tokens.vertex)
    made.CreateSubdivisionSchemeAttr(UsdGeom.Tokens.none)
    made.CreateExtentAttr(Vt.Vec3fArray([Gf.Vec3f(0), Gf.Vec3f(0)]))
