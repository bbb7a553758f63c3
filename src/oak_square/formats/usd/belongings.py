"""What of a USD layer no step changes: every field of its prims and properties but places and numbers of geometry."""

from __future__ import annotations

import hashlib
import re
import zipfile
from collections import Counter
from functools import cache
from pathlib import Path
from typing import Any

import numpy as np

from oak_square.formats.shared.kept import Kept
from oak_square.formats.usd.shapes import PROPERTIES

__all__ = ["belongings_of"]

_LISTS = {"primChildren", "properties", "propertyChildren", "variantSetChildren", "variantChildren"}
_VALUES = {"default", "timeSamples"}
_NUMBERS = {"points", "extent", "orientation", "xformOpOrder"}
_NORMALS = {"normals", "primvars:normals", "primvars:normals:indices"}  # given anew as they are laid on corners
_PLACES = {"positions", "orientations", "orientationsf", "scales"}
_SHAPES = {"Cube", "Sphere", "Cylinder", "Cone", "Capsule", "Plane", "Cylinder_1", "Capsule_1"}
_SHAPE = "a shape"
_FACES = {"faceVertexCounts", "faceVertexIndices"}
_BINDING = "material:binding"
_PATHS = re.compile(r"/(?:\w+/)*(\w+)")


def belongings_of(path: Path) -> dict[str, Any]:
    """Return the fields of the root layer at `path`, and the other files of a package by their hash."""
    from pxr import Sdf

    found: dict[str, Any] = {}
    is_package = path.suffix.lower() == ".usdz"
    layer = Sdf.Layer.OpenAsAnonymous(str(path))
    if is_package:
        found["files beside its first layer"] = _digests_beside(path)
    if layer is not None:
        lines = list(_list_fields(layer))
        near = Counter(
            _place_in_node(layer, path, key, value) for path, key, value in lines if not _is_cut(layer, path, key)
        )
        made = frozenset(form for _, form in near if _may_be_made(form[0], form[1]))
        told = Counter((str(path), key, value) for path, key, value in lines)
        found["further fields"] = Kept(lines=told, near=near, made=made)
    return found


def _place_in_node(layer: Any, path: Any, key: str, value: str) -> tuple[tuple[str, ...], tuple[str, ...]]:
    """Return a field by the nearest prim with a place, and what it is without any place."""
    names = [p.name for p in path.GetPrimPath().GetPrefixes()]
    prims = [layer.GetPrimAtPath(p) for p in path.GetPrimPath().GetPrefixes()]
    at = max((k for k, prim in enumerate(prims) if prim is not None and _has_place(str(prim.typeName))), default=0)
    value = _PATHS.sub(r"\1", value)  # what it names may hang elsewhere too
    if key == "typeName" and value == "Xform":
        value = _SHAPE
    own = str(path.name) if path.IsPropertyPath() else ""
    return (*names[at:], own, key, value), (own, key, value)


def _may_be_made(name: str, key: str) -> bool:
    """Tell whether a field is one that a prim gets as it is placed, rewritten, or drawn with what it was drawn with."""
    is_by_steps = name.startswith("xformOp") or name in _NUMBERS | _NORMALS
    return is_by_steps or name == _BINDING or key == "apiSchemas"


@cache
def _has_place(kind: str) -> bool:
    from pxr import Tf, Usd, UsdGeom

    found = Usd.SchemaRegistry.GetTypeFromSchemaTypeName(kind)
    return bool(found) and bool(found.IsA(Tf.Type.Find(UsdGeom.Xformable)))


def _is_cut(layer: Any, path: Any, key: str) -> bool:
    """Tell whether a field is another for each piece of a mesh, and is held against the mesh instead."""
    if path == path.absoluteRootPath:
        return key == "defaultPrim"  # it may hang below another now
    if not path.IsPropertyPath():
        return False
    owner = layer.GetPrimAtPath(path.GetPrimPath())
    is_subset = owner is not None and str(owner.typeName) == "GeomSubset"
    name = str(path.name)
    return key in _VALUES and (name in _FACES or name.startswith("primvars:") or (is_subset and name == "indices"))


def _digests_beside(path: Path) -> dict[str, str]:
    with zipfile.ZipFile(path) as package:
        rows = package.infolist()[1:]
        return {row.filename: hashlib.sha256(package.read(row)).hexdigest() for row in rows}


def _list_fields(layer: Any) -> list[tuple[Any, str, str]]:
    """Return the path, the key and the value of each field."""
    found: list[tuple[Any, str, str]] = []
    paths: list[Any] = []
    layer.Traverse("/", paths.append)
    for path in sorted(paths):
        spec = layer.GetObjectAtPath(path)
        if spec is None:
            continue
        for key in spec.ListInfoKeys():
            if key in _LISTS or _is_by_steps(layer, path, key):
                continue
            value = spec.GetInfo(key)
            is_shape = key == "typeName" and path.IsPrimPath() and value in {*_SHAPES, "Mesh"}
            found.append((path, key, _SHAPE if is_shape else _digest_value(value)))
    return found


def _is_by_steps(layer: Any, path: Any, key: str) -> bool:
    """Tell whether a field is one that steps change, and that is held against them instead."""
    if path == path.absoluteRootPath:
        return key in {"metersPerUnit", "upAxis"}
    if not path.IsPropertyPath():
        return False
    name = str(path.name)
    if name in _NORMALS:
        return key in {*_VALUES, "interpolation"}
    if name.startswith("xformOp:") or name in _NUMBERS or name in _PLACES:
        return key in _VALUES
    owner = layer.GetPrimAtPath(path.GetPrimPath())
    is_shape = owner is not None and str(owner.typeName) in _SHAPES
    # A shape may become the mesh that it is drawn as: its lengths go, and its values are laid on corners.
    return is_shape and (name in PROPERTIES or name.startswith("primvars:"))


def _digest_value(value: Any) -> str:
    if hasattr(value, "__len__") and not isinstance(value, str | dict) and len(value) > 8:
        array = np.asarray(value)
        if array.dtype.kind in "fiub":
            return hashlib.sha256(array.tobytes()).hexdigest()
    return str(value)
