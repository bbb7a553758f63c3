"""A mesh of a USD layer cut into pieces: prims below it, each with its own faces and what these need."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

import numpy as np
from numpy.typing import NDArray

from oak_square.core.errors import Refused
from oak_square.core.scene import Mesh
from oak_square.core.words import say

__all__ = ["cut_mesh"]

Ints = NDArray[np.int64]
_GEOMETRY = {
    "points", "faceVertexCounts", "faceVertexIndices", "normals", "extent", "orientation", "subdivisionScheme",
    "interpolateBoundary", "faceVaryingLinearInterpolation", "triangleSubdivisionRule", "doubleSided",
}  # fmt: skip
_UNCUT = (
    "holeIndices", "cornerIndices", "cornerSharpnesses", "creaseIndices", "creaseLengths", "creaseSharpnesses",
    "velocities", "accelerations",
)  # fmt: skip
_LAID = ("primvars:", "subsetFamily:")
_ARCS = ("references", "payload", "inheritPaths", "specializes", "variantSetNames")


def cut_mesh(layer: Any, source: Any, path: Any, pieces: Sequence[Mesh], names: Sequence[str]) -> None:
    """Let the mesh at `path` become a group, with a mesh below it for each of `pieces`.

    Parameters
    ----------
    layer : Sdf.Layer
        Which is changed; it has at `path` what `source` has.
    pieces : sequence of Mesh
        Each with its `cut`.
    names : sequence of str
        Of their prims.

    Raises
    ------
    Refused
        If what the mesh has can't be cut.
    """
    spec = layer.GetPrimAtPath(path)
    told = [n for n in _UNCUT if n in spec.attributes and spec.attributes[n].default]
    arcs = [key for key in _ARCS if spec.HasInfo(key)]
    if str(spec.typeName) != "Mesh" or arcs or told:
        what = ", ".join(told or arcs) or str(spec.typeName)
        raise Refused(say("'{name}' can't be cut into pieces: it has {what}", name=spec.name, what=what))
    faces = _MeshFaces(source.GetPrimAtPath(path), pieces)
    for number, (piece, name) in enumerate(zip(pieces, names, strict=True)):
        _add_piece(layer, source, path, name)
        faces.cut(layer.GetPrimAtPath(path.AppendChild(name)), number, piece)
    spec.typeName = "Xform"
    for attribute in list(spec.attributes):
        laid = attribute.name.startswith(_LAID) and not _is_constant(spec, attribute)
        if attribute.name in _GEOMETRY or attribute.name in _UNCUT or laid:
            spec.RemoveProperty(attribute)
    for child in list(spec.nameChildren):
        if str(child.typeName) == "GeomSubset":
            del spec.nameChildren[child.name]


def _is_constant(spec: Any, attribute: Any) -> bool:
    """Tell whether a primvar holds for a prim and all below it."""
    name = str(attribute.name).removesuffix(":indices")
    own = spec.attributes[name] if name in spec.attributes else attribute  # noqa: SIM401 - no mapping of Python's
    return name.startswith("primvars:") and _interpolation_of(own) == "constant"


def _interpolation_of(attribute: Any) -> str:
    found = attribute.GetInfo("interpolation") if attribute.HasInfo("interpolation") else None
    return str(found) if found else ("vertex" if attribute.name == "normals" else "constant")


def _add_piece(layer: Any, source: Any, path: Any, name: str) -> None:
    """Add a prim below a mesh that has its geometry and its subsets, and no more of it."""
    from pxr import Sdf

    target = path.AppendChild(name)
    Sdf.CreatePrimInLayer(layer, target)
    Sdf.CopySpec(source, path, layer, target)
    spec = layer.GetPrimAtPath(target)
    for child in list(spec.nameChildren):
        if str(child.typeName) != "GeomSubset":
            del spec.nameChildren[child.name]
    for own in list(spec.properties):
        if own.name not in _GEOMETRY and not own.name.startswith(_LAID):
            spec.RemoveProperty(own)
    for key in list(spec.ListInfoKeys()):
        if key not in {"specifier", "typeName"}:
            spec.ClearInfo(key)


class _MeshFaces:
    """The faces of a mesh, and the piece that each is in."""

    def __init__(self, spec: Any, pieces: Sequence[Mesh]) -> None:
        self.counts, self.corners = (
            _numbers_of(spec, n).astype(np.int64) for n in ("faceVertexCounts", "faceVertexIndices")
        )
        piece_of = np.full(len(_numbers_of(spec, "points")), -1)
        self.place = np.zeros(len(piece_of), dtype=np.int64)
        for number, piece in enumerate(pieces):
            assert piece.cut is not None
            piece_of[piece.cut.points] = number
            self.place[piece.cut.points] = np.arange(len(piece.cut.points))
        self.piece_of_face = np.full(len(self.counts), -1)
        filled = self.counts > 0
        self.piece_of_face[filled] = piece_of[self.corners[(np.cumsum(self.counts) - self.counts)[filled]]]

    def cut(self, spec: Any, number: int, piece: Mesh) -> None:
        """Leave a copy of the mesh what one piece has."""
        assert piece.cut is not None
        here = self.piece_of_face == number
        at_corner = np.repeat(here, self.counts)
        points, faces, corners = piece.cut.points, np.flatnonzero(here), np.flatnonzero(at_corner)
        rows = {"vertex": points, "varying": points, "uniform": faces, "faceVarying": corners}
        own = _numbers_of(spec, "points")[points]
        _put_numbers(spec, "points", own)
        _put_numbers(spec, "faceVertexCounts", self.counts[here])
        _put_numbers(spec, "faceVertexIndices", self.place[self.corners[at_corner]])
        if "extent" in spec.attributes:
            _put_numbers(spec, "extent", np.stack([own.min(axis=0), own.max(axis=0)]))
        for attribute in list(spec.attributes):
            name = str(attribute.name)
            if name == "normals" or (name.startswith("primvars:") and not name.endswith(":indices")):
                _cut_values(spec, name, rows.get(_interpolation_of(attribute)))
        for child in list(spec.nameChildren):
            self._cut_subset(spec, child, faces)

    def _cut_subset(self, spec: Any, subset: Any, faces: Ints) -> None:
        kind = subset.attributes["elementType"].default if "elementType" in subset.attributes else "face"
        if str(kind) != "face":
            raise Refused(say("'{name}' is a subset of {kind}s, which can't be cut", name=subset.name, kind=kind))
        named = _numbers_of(subset, "indices").astype(np.int64)
        own = named[np.isin(named, faces)]
        if len(own):
            _put_numbers(subset, "indices", np.searchsorted(faces, own))
        else:
            del spec.nameChildren[subset.name]


def _cut_values(spec: Any, name: str, rows: Ints | None) -> None:
    """Leave an attribute the rows of one piece, and of a list with indices the values that these name."""
    if rows is None:
        return
    indices, values = f"{name}:indices", _first_value(spec, name)
    is_indexed = indices in spec.attributes and _first_value(spec, indices)
    named = _numbers_of(spec, indices).astype(np.int64) if is_indexed else np.arange(len(values or ()))
    size = spec.attributes[name].GetInfo("elementSize") if spec.attributes[name].HasInfo("elementSize") else 1
    if size != 1 or len(named) <= int(rows.max(initial=0)) or int(named.max(initial=0)) >= len(values):
        raise Refused(say("'{name}' of '{prim}' does not fit its mesh, and can't be cut", name=name, prim=spec.name))
    kept, own = np.unique(named[rows], return_inverse=True)
    if is_indexed:
        _put_numbers(spec, indices, own.reshape(-1))
    if np.array(values).dtype.kind in "fiub":
        _put_numbers(spec, name, np.array(values)[kept])
    else:
        spec.attributes[name].default = type(values)([values[k] for k in kept.tolist()])


def _numbers_of(spec: Any, name: str) -> NDArray[Any]:
    """Return the numbers of an attribute, its first ones where it has any by time."""
    return np.array(_first_value(spec, name))


def _first_value(spec: Any, name: str) -> Any:
    attribute = spec.attributes[name]
    if attribute.default is not None:
        return attribute.default
    times = spec.layer.ListTimeSamplesForPath(attribute.path)
    return spec.layer.QueryTimeSample(attribute.path, times[0])


def _put_numbers(spec: Any, name: str, values: NDArray[Any]) -> None:
    attribute = spec.attributes[name]
    like = _first_value(spec, name)
    kind = np.array(like).dtype
    for time in spec.layer.ListTimeSamplesForPath(attribute.path):
        spec.layer.EraseTimeSample(attribute.path, time)
    attribute.default = type(like).FromNumpy(np.ascontiguousarray(values.astype(kind)))
