"""What an edit has left behind: accessors, views and bytes that nothing names any more go.

Only what the edit itself let go of: what nothing named in the source stays as it came. A file with an extension that
may name accessors or views in ways of its own is left alone.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from typing import Any

import numpy as np
from numpy.typing import NDArray

from oak_square.formats.gltf.editing import Edit

__all__ = ["sweep"]

Json = dict[str, Any]
Span = tuple[int, int]
_INSTANCING, _DRACO = "EXT_mesh_gpu_instancing", "KHR_draco_mesh_compression"
_KNOWN = {
    "KHR_animation_pointer", "KHR_lights_punctual", "KHR_mesh_quantization", "KHR_node_visibility",
    "KHR_texture_basisu", "KHR_texture_transform", "KHR_xmp_json_ld", "EXT_texture_webp", "EXT_texture_avif",
    "MSFT_texture_dds", "MSFT_lod",
    _INSTANCING, _DRACO,
}  # fmt: skip
_OWN_NAMES = {"accessor", "accessors", "bufferView", "bufferViews", "byteOffset"}


def sweep(edit: Edit) -> None:
    """Take out of an edited document what the edit has put other values in the place of."""
    source = edit.document.json
    if not edit.appended or not _is_known(edit.json):
        return
    before, after = set(_yield_accessors(source)), set(_yield_accessors(edit.json))
    dead = sorted(k for k in before - after if k < len(edit.layouts))
    if not dead:
        return
    views_before = set(_yield_views(source, edit.document.items("accessors")))
    accessors: list[Json] = edit.json["accessors"]
    rows, places = _fill_gaps(accessors, dead, len(edit.layouts))
    own_place = {k: places.get(k, k) for k in range(len(edit.layouts)) if k not in set(dead)}
    edit.json = _renumber_accessors(edit.json, lambda k: places.get(k, k))
    edit.json["accessors"] = rows
    views: list[Json] = edit.json["bufferViews"]
    gone = sorted(views_before - set(_yield_views(edit.json, rows)))
    cuts = _find_cuts(edit, dead, gone, own_place)
    _close_up(edit, cuts, own_place)
    kept, view_places = _fill_gaps(views, gone, len(edit.document.items("bufferViews")))
    edit.json["bufferViews"] = kept
    _rename_views(edit, lambda k: view_places.get(k, k))


def _is_known(document: Json) -> bool:
    """Tell whether all that a document holds names accessors and views in the ways that are looked at here."""
    due: list[Any] = [document]
    while due:
        item = due.pop()
        if isinstance(item, list):
            due += item
        elif isinstance(item, dict):
            extensions = item.get("extensions")
            if isinstance(extensions, dict) and any(
                name not in _KNOWN and not name.startswith("KHR_materials_") for name in extensions
            ):
                return False
            if _names_any(item.get("extras")):
                return False
            due += [v for k, v in item.items() if k != "extras"]
    return True


def _names_any(extras: Any) -> bool:
    due = [extras]
    while due:
        item = due.pop()
        if isinstance(item, list):
            due += item
        elif isinstance(item, dict):
            if _OWN_NAMES & set(item):
                return True
            due += item.values()
    return False


def _yield_accessors(document: Json) -> Iterator[int]:
    """Yield each accessor that is named."""
    for mesh in document.get("meshes", []):
        for primitive in mesh["primitives"]:
            yield from primitive["attributes"].values()
            for target in primitive.get("targets", []):
                yield from target.values()
            if "indices" in primitive:
                yield primitive["indices"]
    for skin in document.get("skins", []):
        if "inverseBindMatrices" in skin:
            yield skin["inverseBindMatrices"]
    for animation in document.get("animations", []):
        for sampler in animation.get("samplers", []):
            yield from (sampler[k] for k in ("input", "output") if k in sampler)
    for node in document.get("nodes", []):
        yield from node.get("extensions", {}).get(_INSTANCING, {}).get("attributes", {}).values()


def _yield_views(document: Json, accessors: list[Json]) -> Iterator[int]:
    """Yield each view that is named."""
    for item in accessors:
        yield from (part["bufferView"] for part in _list_viewed(item))
    for image in document.get("images", []):
        if "bufferView" in image:
            yield image["bufferView"]
    for mesh in document.get("meshes", []):
        for primitive in mesh["primitives"]:
            packed = primitive.get("extensions", {}).get(_DRACO, {})
            if "bufferView" in packed:
                yield packed["bufferView"]


def _list_viewed(accessor: Json) -> list[Json]:
    """Return the parts of an accessor that name a view."""
    sparse = accessor.get("sparse")
    inner = [sparse.get("indices", {}), sparse.get("values", {})] if isinstance(sparse, dict) else []
    return [part for part in (accessor, *inner) if "bufferView" in part]


def _fill_gaps(rows: list[Json], gone: list[int], count: int) -> tuple[list[Json], dict[int, int]]:
    """Return rows with what is new, from `count` on, in the places of what is gone; and where each row stands now.

    What has no new row in its place is taken out, and what follows moves up.
    """
    new = list(range(count, len(rows)))
    order: list[int] = []
    taken = set(gone)
    for k in range(count):
        if k not in taken:
            order.append(k)
        elif new:
            order.append(new.pop(0))
    order += new
    return [rows[k] for k in order], {k: place for place, k in enumerate(order)}


def _renumber_accessors(document: Json, place: Callable[[int], int]) -> Json:
    """Return a document whose references to accessors are those of `place`."""
    found = dict(document)

    def all_of(named: Json) -> Json:
        return {k: place(v) for k, v in named.items()}

    def primitive_of(old: Json) -> Json:
        new = {**old, "attributes": all_of(old["attributes"])}
        if "targets" in old:
            new["targets"] = [all_of(t) for t in old["targets"]]
        if "indices" in old:
            new["indices"] = place(old["indices"])
        return new

    def node_of(old: Json) -> Json:
        many = old.get("extensions", {}).get(_INSTANCING)
        if not many or "attributes" not in many:
            return old
        many = {**many, "attributes": all_of(many["attributes"])}
        return {**old, "extensions": {**old["extensions"], _INSTANCING: many}}

    def some_of(old: Json, keys: tuple[str, ...]) -> Json:
        return {**old, **{k: place(old[k]) for k in keys if k in old}}

    for key, change in (
        ("meshes", lambda m: {**m, "primitives": [primitive_of(p) for p in m["primitives"]]}),
        ("nodes", node_of),
        ("skins", lambda s: some_of(s, ("inverseBindMatrices",))),
        (
            "animations",
            lambda a: (
                {**a, "samplers": [some_of(s, ("input", "output")) for s in a["samplers"]]} if "samplers" in a else a
            ),
        ),
    ):
        if key in document:
            found[key] = [change(item) for item in document[key]]
    return found


def _rename_views(edit: Edit, place: Callable[[int], int]) -> None:
    def moved(item: Json) -> Json:
        return {**item, "bufferView": place(item["bufferView"])} if "bufferView" in item else item

    def accessor_of(item: Json) -> Json:
        sparse = item.get("sparse")
        new = moved(item)
        if isinstance(sparse, dict):
            new = {**new, "sparse": {**sparse, **{k: moved(sparse[k]) for k in ("indices", "values")}}}
        return new

    def primitive_of(item: Json) -> Json:
        packed = item.get("extensions", {}).get(_DRACO)
        return item if packed is None else {**item, "extensions": {**item["extensions"], _DRACO: moved(packed)}}

    edit.json["accessors"] = [accessor_of(a) for a in edit.json["accessors"]]
    if "images" in edit.json:
        edit.json["images"] = [moved(i) for i in edit.json["images"]]
    if "meshes" in edit.json:
        edit.json["meshes"] = [
            {**m, "primitives": [primitive_of(p) for p in m["primitives"]]} for m in edit.json["meshes"]
        ]


def _find_cuts(edit: Edit, dead: list[int], gone: list[int], own_place: dict[int, int]) -> dict[int, NDArray[np.int64]]:
    """Return what of each buffer goes, shape (K, 2), first byte and one past the last, in order.

    All that `dead` accessors and `gone` views covered, and nothing that stays covers; by fours, so that what follows
    stays where its numbers may begin.
    """
    views = edit.document.items("bufferViews")
    whole = {
        v for k, item in enumerate(edit.document.items("accessors")) for v in _sparse_views(item) if k in own_place
    }
    named = set(_yield_views(edit.json, [])) | whole
    away: dict[int, list[Span]] = {}
    stays: dict[int, list[Span]] = {}
    for k, layout in enumerate(edit.layouts):
        if layout.buffer is None:
            continue
        if k in own_place:
            stays.setdefault(layout.buffer, []).append((layout.offset, layout.end))
        else:
            # What fills up its last element goes with it.
            view = views[edit.document.items("accessors")[k]["bufferView"]]
            room = view.get("byteOffset", 0) + view["byteLength"]
            end = min(layout.offset + layout.stride * layout.count, room)
            away.setdefault(layout.buffer, []).append((layout.offset, end))
    for k, view in enumerate(views):
        span = view.get("byteOffset", 0), view.get("byteOffset", 0) + view["byteLength"]
        if k in gone:
            away.setdefault(view["buffer"], []).append(span)
        elif k in named:
            stays.setdefault(view["buffer"], []).append(span)
    found = {}
    for buffer, spans in away.items():
        if buffer < len(edit.document.buffers) and not edit.document.buffers[buffer].is_absent:
            edges = _subtract_spans(spans, stays.get(buffer, []))
            if len(edges):
                found[buffer] = edges
    return found


def _sparse_views(accessor: Json) -> list[int]:
    return [part["bufferView"] for part in _list_viewed(accessor)[1 if "bufferView" in accessor else 0 :]]


def _subtract_spans(away: list[Span], stays: list[Span]) -> NDArray[np.int64]:
    """Return what some spans cover and others do not, shape (K, 2), in whole fours."""
    edges = sorted([*((a, 0, 1) for a, _ in away), *((b, 0, -1) for _, b in away),
                    *((a, 1, 1) for a, _ in stays), *((b, 1, -1) for _, b in stays)])  # fmt: skip
    depth, start, found = [0, 0], None, list[Span]()
    for at, which, step in edges:
        depth[which] += step
        is_free = depth[0] > 0 and depth[1] == 0
        if is_free and start is None:
            start = at
        elif not is_free and start is not None:
            found.append((start, at))
            start = None
    joined: list[Span] = []
    for a, b in found:
        if joined and joined[-1][1] == a:
            joined[-1] = joined[-1][0], b
        else:
            joined.append((a, b))
    fours = [(-(-a // 4) * 4, b // 4 * 4) for a, b in joined]
    return np.array([(a, b) for a, b in fours if b > a], dtype=np.int64).reshape(-1, 2)


def _close_up(edit: Edit, cuts: dict[int, NDArray[np.int64]], own_place: dict[int, int]) -> None:
    """Take bytes out of buffers, and let views and accessors say where theirs lie now."""

    def gone_before(buffer: int, at: int) -> int:
        spans = cuts.get(buffer)
        return 0 if spans is None else int(np.clip(at - spans[:, 0], 0, spans[:, 1] - spans[:, 0]).sum())

    starts = [view.get("byteOffset", 0) for view in edit.json["bufferViews"]]
    for view, start in zip(edit.json["bufferViews"], starts, strict=True):
        buffer = view["buffer"]
        if buffer in cuts:
            less = gone_before(buffer, start)
            view["byteLength"] -= gone_before(buffer, start + view["byteLength"]) - less
            if less:
                view["byteOffset"] = start - less
    for k, place in own_place.items():
        layout, item = edit.layouts[k], edit.json["accessors"][place]
        if layout.buffer in cuts and layout.buffer is not None and item.get("byteOffset"):
            view = edit.json["bufferViews"][item["bufferView"]]
            new = layout.offset - gone_before(layout.buffer, layout.offset) - view.get("byteOffset", 0)
            edit.json["accessors"][place] = {**item, "byteOffset": new}
    for buffer, spans in cuts.items():
        data = edit.copies.get(buffer, edit.document.buffers[buffer].data)
        kept = np.ones(len(data), dtype=bool)
        for a, b in spans.tolist():
            kept[a:b] = False
        edit.copies[buffer] = data[kept]
        edit.json["buffers"][buffer]["byteLength"] -= int(len(data) - np.count_nonzero(kept))
