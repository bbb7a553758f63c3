"""What of a USD layer no step changes: every field of its prims and properties but places and numbers of geometry."""

from __future__ import annotations

import hashlib
import zipfile
from collections import Counter
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


def belongings_of(path: Path) -> dict[str, Any]:
    """Return the fields of the root layer at `path`, and the other files of a package by their hash."""
    from pxr import Sdf

    found: dict[str, Any] = {}
    is_package = path.suffix.lower() == ".usdz"
    layer = Sdf.Layer.OpenAsAnonymous(str(path))
    if is_package:
        found["files beside its first layer"] = _digests_beside(path)
    if layer is not None:
        found["further fields"] = Kept(lines=Counter(_list_fields(layer)))
    return found


def _digests_beside(path: Path) -> dict[str, str]:
    with zipfile.ZipFile(path) as package:
        rows = package.infolist()[1:]
        return {row.filename: hashlib.sha256(package.read(row)).hexdigest() for row in rows}


def _list_fields(layer: Any) -> list[tuple[str, str, str]]:
    found: list[tuple[str, str, str]] = []
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
            found.append((str(path), key, _SHAPE if is_shape else _digest_value(value)))
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
