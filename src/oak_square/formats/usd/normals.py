"""The normals of a USD mesh, by corner whatever they are given for, and what they become where its points move."""

from __future__ import annotations

from typing import Any

import numpy as np
from numpy.typing import NDArray

from oak_square.core.reshaping import corners_of, facets_now, normals_at_corners
from oak_square.core.scene import Mesh
from oak_square.formats.shared.polygons import reversed_corners
from oak_square.formats.usd.meshes import is_left_handed
from oak_square.formats.usd.stage import values_of

__all__ = ["Normals", "normals_of"]

Array = NDArray[np.float64]


class Normals:
    """A mesh's normals as a file gives them.

    Attributes
    ----------
    attribute : Usd.Attribute
    primvar : UsdGeom.Primvar or None
        Where they are one; they may have indices then.
    values : ndarray, shape (K, 3)
        As they are stored.
    how : str
        What there is one for: `vertex`, `varying`, `faceVarying`, `uniform` or `constant`.
    """

    def __init__(self, prim: Any, attribute: Any, primvar: Any, how: str) -> None:
        from pxr import Usd

        now = Usd.TimeCode.EarliestTime()
        self.prim, self.attribute, self.primvar, self.how = prim, attribute, primvar, how
        self.values: Array = values_of(attribute, 3).astype(np.float64)
        indices = primvar.GetIndices(now) if primvar is not None and primvar.IsIndexed() else None
        self._indices = None if indices is None else np.array(indices, dtype=np.int64)

    def at_corners(self, mesh: Mesh) -> Array | None:
        """Return the normal of each corner of the prim's faces, in the order that `mesh` has them.

        Those of whole faces are given for each of their corners. None where they don't fit the mesh.
        """
        place = self._find_corner_places(mesh)
        if place is None:
            return None
        found: Array = self.values[place]
        return found

    def _find_corner_places(self, mesh: Mesh) -> NDArray[np.int64] | None:
        corners, counts = corners_of(mesh)
        corners = np.asarray(corners, dtype=np.int64)
        face_of = np.repeat(np.arange(len(counts)), counts)
        own = {
            "vertex": corners,
            "varying": corners,
            "faceVarying": reversed_corners(counts) if is_left_handed(self.prim) else np.arange(len(corners)),
            "uniform": face_of,
            "constant": np.zeros(len(corners), dtype=np.int64),
        }.get(self.how)
        for rows in (self._indices, np.arange(len(self.values))):
            if own is None or rows is None:
                continue
            if len(own) and (int(own.max()) >= len(rows) or int(own.min()) < 0):
                return None
            own = rows[own]
        return own

    def author_now(self, mesh: Mesh) -> Array | None:
        """Return the values of the reshaped `mesh`, and author how they are given where that is told otherwise now.

        None where they don't fit their mesh.
        """
        given = self.at_corners(mesh)
        if given is None:
            return None
        corners, counts = corners_of(mesh)
        corners = np.asarray(corners, dtype=np.int64)
        if self.how == "uniform":
            first = np.concatenate([[0], np.cumsum(counts)[:-1]]).astype(np.int64)
            filled = np.asarray(counts) > 0
            facets = np.zeros((len(counts), 3))
            facets[filled] = given[first[filled]]
            self._author_unindexed("uniform")
            return np.asarray(facets_now(mesh, facets), dtype=np.float64)
        new = normals_at_corners(mesh, given)
        if np.array_equal(new, given):
            return self.values
        if self.how in {"vertex", "varying"}:
            found = np.zeros((len(mesh.points), 3))
            if self._indices is None and len(self.values) == len(found):
                found = self.values.copy()
            found[corners] = new
            self._author_unindexed(self.how)
            return found
        order = reversed_corners(counts) if is_left_handed(self.prim) else np.arange(len(corners))
        found = np.empty_like(new)
        found[order] = new
        self._author_unindexed("faceVarying")
        return found

    def _author_unindexed(self, how: str) -> None:
        """Author that there is one value after another, without indices, for each of `how`."""
        from pxr import UsdGeom

        if self.primvar is None:
            if how != self.how:
                UsdGeom.Mesh(self.prim).SetNormalsInterpolation(how)
            return
        if self._indices is not None:
            self.primvar.BlockIndices()
        if how != self.how:
            self.primvar.SetInterpolation(how)


def normals_of(prim: Any) -> list[Normals]:
    """Return what a prim's mesh is given as normals: its own attribute, and the primvar that speaks louder."""
    from pxr import Usd, UsdGeom

    now, found = Usd.TimeCode.EarliestTime(), list[Normals]()
    mesh = UsdGeom.Mesh(prim)
    own = mesh.GetNormalsAttr()
    if own and own.Get(now):
        found.append(Normals(prim, own, None, str(mesh.GetNormalsInterpolation())))
    primvar = UsdGeom.PrimvarsAPI(prim).GetPrimvar("normals")
    if primvar and primvar.GetAttr().Get(now):
        found.append(Normals(prim, primvar.GetAttr(), primvar, str(primvar.GetInterpolation())))
    return found
