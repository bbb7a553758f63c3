"""Compressed geometry: `KHR_draco_mesh_compression` decoded when read and written plain, meshopt's left sealed.

A Draco stream stands in for a primitive's attributes and indices, so it is decoded into what their accessors would
hold. No package that decodes meshopt's buffer views is well known yet: of them only the declared bounds are read, and
steps may change frames but not numbers.
"""

from __future__ import annotations

from typing import Any

import numpy as np
from numpy.typing import NDArray

from oak_square.core.checked import floats
from oak_square.core.errors import BadArray
from oak_square.core.words import say
from oak_square.formats.gltf.accessors import layout_of
from oak_square.formats.gltf.document import GltfDocument
from oak_square.formats.gltf.editing import Edit
from oak_square.formats.limits import Limits

__all__ = ["DRACO", "MESHOPT", "declared_corners", "decode_draco", "forget_draco", "is_packed", "is_sealed", "unpacked"]

DRACO = "KHR_draco_mesh_compression"
MESHOPT = ("EXT_meshopt_compression", "KHR_meshopt_compression")
_CARRIED = ("POSITION", "NORMAL", "TANGENT")


def _find_extensions(item: dict[str, Any]) -> dict[str, Any]:
    found = item.get("extensions")
    return found if isinstance(found, dict) else {}


def is_packed(document: GltfDocument, accessor: object) -> bool:
    """Tell whether an accessor's elements lie in a buffer view that meshopt compressed."""
    packed = document.known.get("packed")
    if packed is None:
        views = document.items("bufferViews")
        packed = {k for k, view in enumerate(views) if any(name in _find_extensions(view) for name in MESHOPT)}
        document.known["packed"] = packed
    if not packed:
        return False
    accessors = document.items("accessors")
    if not isinstance(accessor, int) or not 0 <= accessor < len(accessors):
        return False
    view = accessors[accessor].get("bufferView")
    return isinstance(view, int) and view in packed


def is_sealed(document: GltfDocument, primitive: dict[str, Any]) -> bool:
    """Tell whether some of a primitive's numbers can't be read."""
    accessors = [*primitive["attributes"].values(), primitive.get("indices")]
    accessors += [a for target in primitive.get("targets", []) if isinstance(target, dict) for a in target.values()]
    return any(is_packed(document, a) for a in accessors)


def declared_corners(document: GltfDocument, index: object, limits: Limits) -> NDArray[np.float64]:
    """Return the eight corners of a sealed primitive's declared bounds, shape (8, 3): all that is known of it.

    Raises
    ------
    BadFile
        If it declares none that are finite.
    """
    layout = layout_of(document, index, limits)
    item = document.items("accessors")[index if isinstance(index, int) else 0]
    try:
        ends = [
            floats(item[k], (3,), say("accessor {index} {k}", index=index, k=k)) / layout.divisor
            for k in ("min", "max")
        ]
    except (BadArray, KeyError, TypeError, ValueError) as error:
        raise document.fail(say("compressed geometry without usable bounds: {error}", error=error)) from error
    return np.array([[ends[a][0], ends[b][1], ends[c][2]] for a in (0, 1) for b in (0, 1) for c in (0, 1)])


def decode_draco(document: GltfDocument, limits: Limits) -> None:
    """Decode every Draco primitive into `document.decoded`: elements by accessor.

    Raises
    ------
    BadFile
        If a stream can't be decoded, or does not hold what its accessors declare.
    """
    for index, mesh in enumerate(document.items("meshes")):
        primitives = mesh.get("primitives")
        for primitive in primitives if isinstance(primitives, list) else []:
            extension = _find_extensions(primitive).get(DRACO) if isinstance(primitive, dict) else None
            if isinstance(extension, dict) and isinstance(primitive.get("attributes"), dict):
                _decode_primitive(document, primitive, extension, index, limits)


def _decode_primitive(
    document: GltfDocument, primitive: dict[str, Any], extension: dict[str, Any], mesh: int, limits: Limits
) -> None:
    # Heavy, and rarely wanted.
    import DracoPy

    what = say("mesh {mesh}: its compressed geometry", mesh=mesh)
    names = extension.get("attributes")
    if primitive.get("mode", 4) != 4 or not isinstance(names, dict):
        raise document.fail(say("{what} is of a kind that can't be read", what=what))
    try:
        found = DracoPy.decode(_find_stream(document, extension.get("bufferView"), what))
    except (DracoPy.FileTypeException, ValueError, TypeError, AssertionError, MemoryError) as error:
        raise document.fail(say("{what} can't be decoded", what=what)) from error
    for name, unique in names.items():
        attribute = found.get_attribute_by_unique_id(unique) if isinstance(unique, int) else None
        if attribute is None or name not in primitive["attributes"]:
            raise document.fail(say("{what} lacks {name}", what=what, name=name))
        values = np.asarray(attribute["data"])
        _keep_decoded(
            document, primitive["attributes"][name], values.reshape(len(values), -1), f"{what}: {name}", limits
        )
    if "indices" in primitive:
        faces = np.asarray(getattr(found, "faces", np.empty((0, 3))))
        _keep_decoded(
            document, primitive["indices"], faces.reshape(-1, 1), say("{what}: its indices", what=what), limits
        )


def _keep_decoded(document: GltfDocument, accessor: object, values: NDArray[Any], what: str, limits: Limits) -> None:
    layout = layout_of(document, accessor, limits)
    if values.shape != (layout.count, layout.width):
        raise document.fail(
            say("{what}: {count} decoded, {count_2} declared", what=what, count=len(values), count_2=layout.count)
        )
    assert isinstance(accessor, int)
    document.decoded[accessor] = values.astype(layout.dtype)


def _find_stream(document: GltfDocument, index: object, what: str) -> bytes:
    views = document.items("bufferViews")
    if not isinstance(index, int) or isinstance(index, bool) or not 0 <= index < len(views):
        raise document.fail(say("{what} is not there", what=what))
    buffer, start, length = (views[index].get(k, 0) for k in ("buffer", "byteOffset", "byteLength"))
    whole = all(isinstance(n, int) and not isinstance(n, bool) and n >= 0 for n in (buffer, start, length))
    if not whole or buffer >= len(document.buffers) or start + length > len(document.buffers[buffer].data):
        raise document.fail(say("{what} reaches past its bytes", what=what))
    return bytes(document.buffers[buffer].data[start : start + length])


def unpacked(edit: Edit, primitive: dict[str, Any]) -> dict[str, Any]:
    """Return a primitive that is about to be rewritten without its compression, what was decoded written plain."""
    extensions = _find_extensions(primitive)
    if DRACO not in extensions:
        return primitive
    new = {k: v for k, v in primitive.items() if k != "extensions"}
    rest = {k: v for k, v in extensions.items() if k != DRACO}
    if rest:
        new["extensions"] = rest
    new["attributes"] = {
        name: accessor if name in _CARRIED else _unpack_accessor(edit, accessor)
        for name, accessor in primitive["attributes"].items()
    }
    if "indices" in primitive:
        new["indices"] = _unpack_accessor(edit, primitive["indices"], index=True)
    return new


def _unpack_accessor(edit: Edit, accessor: int, *, index: bool = False) -> int:
    values = edit.document.decoded.get(accessor)
    if values is None:
        return accessor
    key = accessor, "plain", b""
    if key not in edit.done:
        like = edit.document.items("accessors")[accessor]
        edit.done[key] = edit.append(np.ascontiguousarray(values), like) if index else edit.append_coded(values, like)
    return edit.done[key]


def forget_draco(edit: Edit) -> None:
    """Take Draco off the lists of extensions when no primitive is compressed any more."""
    primitives = [p for m in edit.json.get("meshes", []) for p in m["primitives"]]
    if any(DRACO in _find_extensions(p) for p in primitives):
        return
    for key in ("extensionsUsed", "extensionsRequired"):
        names = [n for n in edit.json.get(key, []) if n != DRACO]
        if names:
            edit.json[key] = names
        else:
            edit.json.pop(key, None)
