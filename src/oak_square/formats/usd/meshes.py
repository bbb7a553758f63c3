"""Meshes of a USD stage's prims: polygons, shapes, and what instancers draw."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import numpy as np
from numpy.typing import NDArray

from oak_square.core.errors import BadFile
from oak_square.core.scene import PLAIN_COLOUR, Faces, Mesh, Surface
from oak_square.core.words import say
from oak_square.formats.shared.model_file import count_not_finite
from oak_square.formats.shared.plain import Plain, plain_mesh, shaded, to_srgb
from oak_square.formats.shared.polygons import polygons_to_triangles, reversed_corners
from oak_square.formats.usd.instancers import drawn, drawn_plain
from oak_square.formats.usd.looks import NO_LOOK, StageMaterials
from oak_square.formats.usd.shapes import flattened, mesh_of_shape, rows_at_corners
from oak_square.formats.usd.stage import values_of

__all__ = ["is_left_handed", "mesh_of", "plain_of", "primvars_of"]

_SHARED = say("shared by instances")
_VOLUME, _MANY = say("a shape without points"), say("drawn by more instances than are written out")


def primvars_of(prim: Any) -> set[str]:
    """Return what a mesh has for its vertices or corners that some formats lack."""
    from pxr import UsdGeom

    primvars = UsdGeom.PrimvarsAPI(prim)
    found = {"texture-coordinates"} if _map_of(primvars) is not None else set()
    colours = primvars.GetPrimvar("displayColor")
    if colours and colours.HasAuthoredValue() and str(colours.GetInterpolation()) != "constant":
        found.add("vertex-colours")
    return found


def _map_of(primvars: Any, name: str = "") -> Any:
    """Return the texture coordinates of a prim: what its textures are laid on by, else `st`, else the first of all."""
    from pxr import Sdf

    kinds = {Sdf.ValueTypeNames.TexCoord2fArray, Sdf.ValueTypeNames.TexCoord2hArray, Sdf.ValueTypeNames.TexCoord2dArray}
    for known in (name, "st"):
        plain = primvars.GetPrimvar(known) if known else None
        if plain and plain.HasValue():
            return plain
    there = (p for p in primvars.GetPrimvarsWithValues() if p.GetTypeName() in kinds)
    return min(there, key=lambda p: str(p.GetName()), default=None)


def mesh_of(prim: Any, looks: StageMaterials, file: str, most: int) -> Mesh | None:
    """Return a prim's geometry; of what can't be written out, and of instances of over `most` vertices, the extent.

    Raises
    ------
    BadFile
        If a mesh or an instancer does not hold together.
    """
    from pxr import UsdGeom

    found = None
    if prim.IsA(UsdGeom.Mesh):
        found = _read_polygons(prim, looks, file)
    elif prim.IsA(UsdGeom.PointBased):
        found = _read_strokes(prim)
    elif prim.IsA(UsdGeom.PointInstancer):
        found = drawn(prim, lambda p: mesh_of(p, looks, file, most), most, file) or _read_extent(prim, _MANY)
    elif prim.IsA(UsdGeom.Gprim):
        shape = mesh_of_shape(prim)
        counts = np.full(0 if shape is None else len(shape.triangles), 3)
        found = (
            _read_extent(prim, _VOLUME)
            if shape is None
            else replace(shape, surfaces=_read_surfaces(prim, looks, counts))
        )
    return replace(found, sealed=_SHARED) if found is not None and prim.IsInstanceProxy() else found


def plain_of(prim: Any, mesh: Mesh, looks: StageMaterials, file: str, most: int) -> Plain:
    """Return a prim's geometry, read as `mesh`, its corners told apart where what they have is per corner."""
    from pxr import UsdGeom

    def of_prototype(source: Any) -> Plain | None:
        own = mesh_of(source, looks, file, most)
        return None if own is None else plain_of(source, own, looks, file, most)

    if not len(mesh.triangles):
        return plain_mesh(mesh)
    if prim.IsA(UsdGeom.PointInstancer):
        return drawn_plain(prim, of_prototype, file)
    plain = plain_mesh(mesh, dict(enumerate(looks.found)))
    if not prim.IsA(UsdGeom.Mesh):
        return plain if rows_at_corners(prim, "vertex") is None else _by_corner(prim, plain, looks.maps)
    if UsdGeom.Mesh(prim).GetDoubleSidedAttr().Get():
        plain = replace(plain, runs=tuple(replace(r, look=replace(r.look, both_sides=True)) for r in plain.runs))
    return _by_corner(prim, plain, looks.maps)


def _read_strokes(prim: Any) -> Mesh:
    from pxr import UsdGeom

    points = values_of(UsdGeom.PointBased(prim).GetPointsAttr(), 3)
    return Mesh(
        name=str(prim.GetName()),
        points=points,
        triangles=np.empty((0, 3), dtype=np.uint32),
        strokes=((0, len(points)),) if len(points) else (),
        not_finite=count_not_finite([points]),
    )


def _read_extent(prim: Any, why: str) -> Mesh | None:
    from pxr import UsdGeom

    extent = UsdGeom.Boundable.ComputeExtentFromPlugins(UsdGeom.Boundable(prim), 0.0)
    if not extent or len(extent) != 2:
        return None
    low, high = (np.array(e, dtype=np.float64) for e in extent)
    corners = np.array([[(low, high)[k][i] for i, k in enumerate(c)] for c in np.ndindex(2, 2, 2)])
    return Mesh(name=str(prim.GetName()), points=corners, triangles=np.empty((0, 3), dtype=np.uint32), sealed=why)


def _read_polygons(prim: Any, looks: StageMaterials, file: str) -> Mesh:
    from pxr import UsdGeom

    mesh = UsdGeom.Mesh(prim)
    points = values_of(mesh.GetPointsAttr(), 3)
    counts = values_of(mesh.GetFaceVertexCountsAttr(), 1).astype(np.int64)
    corners = values_of(mesh.GetFaceVertexIndicesAttr(), 1).astype(np.int64)
    if (counts < 0).any() or int(counts.sum()) != len(corners):
        raise BadFile(
            file,
            say(
                "'{getpath}' counts {sum} corners and has {count}",
                getpath=prim.GetPath(),
                sum=int(counts.sum()),
                count=len(corners),
            ),
        )
    if len(corners) and (corners.min() < 0 or corners.max() >= len(points)):
        raise BadFile(
            file,
            say(
                "'{getpath}' has a face that names a vertex that is not there ({count} are)",
                getpath=prim.GetPath(),
                count=len(points),
            ),
        )
    triangles = polygons_to_triangles(corners, counts, points)
    if is_left_handed(prim):
        triangles, corners = triangles[:, [0, 2, 1]], corners[reversed_corners(counts)]
    return Mesh(
        name=str(prim.GetName()),
        points=points,
        triangles=triangles,
        surfaces=_read_surfaces(prim, looks, counts),
        not_finite=count_not_finite([points]),
        faces=Faces.where_any_is_wide(corners, counts),
    )


def is_left_handed(prim: Any) -> bool:
    """Tell whether a prim's faces run round the other way; its mesh is read with them turned."""
    from pxr import UsdGeom

    return str(UsdGeom.Mesh(prim).GetOrientationAttr().Get()) == "leftHanded"


def _read_surfaces(prim: Any, looks: StageMaterials, counts: NDArray[np.int64]) -> tuple[Surface, ...]:
    """Return runs of triangles that are bound to one material: by face, in the order of faces."""
    from pxr import UsdGeom, UsdShade

    own = looks.of(prim)
    of_face = np.full(len(counts), own)
    for subset in UsdShade.MaterialBindingAPI(prim).GetMaterialBindSubsets():
        faces = values_of(subset.GetIndicesAttr(), 1).astype(np.int64)
        of_face[faces[(faces >= 0) & (faces < len(counts))]] = looks.of(subset.GetPrim())
    of_triangle = np.repeat(of_face, np.maximum(counts - 2, 0))
    if not len(of_triangle):
        return ()
    starts = np.flatnonzero(np.diff(of_triangle, prepend=NO_LOOK - 1))
    ends = np.append(starts[1:], len(of_triangle))
    shown = values_of(UsdGeom.Gprim(prim).GetDisplayColorPrimvar().GetAttr(), 3)
    plain = tuple(to_srgb(shown[0]).tolist()) if len(shown) else PLAIN_COLOUR
    return tuple(
        Surface(
            first=int(a),
            count=int(b - a),
            colour=looks.found[of_triangle[a]].colour if of_triangle[a] >= 0 else (plain[0], plain[1], plain[2]),
            material=int(of_triangle[a]) if of_triangle[a] >= 0 else None,
        )
        for a, b in zip(starts, ends, strict=True)
    )


def _corners_of(prim: Any, plain: Plain) -> tuple[NDArray[np.int64], NDArray[np.int64], dict[str, NDArray[np.int64]]]:
    """Return the point of each corner, the corners of each triangle, and which value a corner has by interpolation."""
    from pxr import UsdGeom

    if not prim.IsA(UsdGeom.Mesh):
        corners = np.asarray(plain.triangles, dtype=np.int64).reshape(-1)
        hows = ("vertex", "varying", "faceVarying", "uniform")
        rows = {how: found for how in hows if (found := rows_at_corners(prim, how)) is not None}
        return corners, np.arange(len(corners)).reshape(-1, 3), rows | {"drawn": corners}
    mesh = UsdGeom.Mesh(prim)
    counts = values_of(mesh.GetFaceVertexCountsAttr(), 1).astype(np.int64)
    corners = values_of(mesh.GetFaceVertexIndicesAttr(), 1).astype(np.int64)
    places = polygons_to_triangles(np.arange(len(corners)), counts, np.asarray(plain.points)[corners]).astype(np.int64)
    if is_left_handed(prim):
        places = places[:, [0, 2, 1]]
    face_of = np.repeat(np.arange(len(counts)), counts)
    rows = {"vertex": corners, "varying": corners, "faceVarying": np.arange(len(corners)), "uniform": face_of}
    return corners, places, rows


def _given_normals(prim: Any, plain: Plain, primvars: Any) -> tuple[str, int, Any, Any]:
    from pxr import UsdGeom

    mesh = UsdGeom.Mesh(prim)
    if not mesh:
        return "normals", 3, plain.normals, "drawn"
    normals = primvars.GetPrimvar("normals")
    if normals:
        return "normals", 3, flattened(normals), normals.GetInterpolation()
    own = values_of(mesh.GetNormalsAttr(), 3)
    return "normals", 3, own if len(own) else None, mesh.GetNormalsInterpolation()


def _by_corner(prim: Any, plain: Plain, maps: list[str]) -> Plain:
    from pxr import UsdGeom

    corners, places, rows_by = _corners_of(prim, plain)
    keys, rows = [corners], dict[str, NDArray[Any]]()
    primvars = UsdGeom.PrimvarsAPI(prim)
    first = _map_of(primvars, maps[0] if maps else "")
    second = primvars.GetPrimvar(maps[1]) if len(maps) > 1 else None
    given = [_given_normals(prim, plain, primvars)]
    for name, primvar in (("uvs", first), ("more_uvs", second)):
        given += [(name, 2, flattened(primvar), primvar.GetInterpolation())] if primvar and primvar.HasValue() else []
    shade = primvars.GetPrimvar("displayColor")
    if shade and shade.HasAuthoredValue() and str(shade.GetInterpolation()) != "constant":
        given.append(("colours", 3, flattened(shade), shade.GetInterpolation()))
    for name, width, value, how in given:
        if value is None:
            continue
        numbers = np.array(value, dtype=np.float64).reshape(-1, width)
        at = rows_by.get(str(how), np.zeros(len(corners), dtype=np.int64))
        if len(numbers) and (not len(at) or int(at.max()) < len(numbers)):
            _, same = np.unique(numbers, axis=0, return_inverse=True)
            keys.append(same.ravel()[at])
            rows[name] = numbers[at]
    _, kept, local = np.unique(np.column_stack(keys), axis=0, return_index=True, return_inverse=True)
    bare = replace(
        plain,
        points=np.asarray(plain.points)[corners[kept]],
        triangles=local.ravel()[places],
        normals=rows["normals"][kept] if "normals" in rows else None,
        uvs=rows["uvs"][kept] if "uvs" in rows else None,
        more_uvs=rows["more_uvs"][kept] if "more_uvs" in rows else None,
    )
    return shaded(bare, to_srgb(rows["colours"][kept]) if "colours" in rows else None)
