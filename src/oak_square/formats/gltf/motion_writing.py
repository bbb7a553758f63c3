"""What moves in an edited glTF document: inverse bind matrices and animation keys."""

from __future__ import annotations

from collections import Counter
from typing import Any

import numpy as np
from numpy.typing import NDArray

from oak_square.core.clips import carried_values, clip_frames
from oak_square.core.motion import same_matrix
from oak_square.core.resampling import is_resampled, resampled_translation
from oak_square.core.scene import Asset, Node
from oak_square.core.tolerances import RESAMPLED, SAME_MATRIX
from oak_square.core.words import say
from oak_square.formats.gltf.accessors import strided
from oak_square.formats.gltf.clips import track_of
from oak_square.formats.gltf.editing import FLOAT, Edit
from oak_square.formats.gltf.skins import bind_matrices
from oak_square.formats.shared.model_file import placements_reach

__all__ = ["keep_skeletons", "write_clips", "write_skins"]

Array = NDArray[np.float64]


def write_skins(edit: Edit, before: tuple[Node, ...], after: tuple[Node, ...]) -> None:
    """Write the inverse bind matrices of each skin whose joints have moved under it."""
    for skin in range(len(edit.document.items("skins"))):
        pairs = [(o, n) for a, b in zip(before, after, strict=False) for o, n in zip(a.binds, b.binds, strict=True)]
        own = [(o, n) for o, n in pairs if n.skin == skin]
        if all(same_matrix(o.joint_from_mesh, n.joint_from_mesh) for o, n in own):
            continue
        edit.changed = True
        values = bind_matrices(edit.document, skin, edit.limits).copy()
        for _, bind in own:
            values[bind.place] = bind.joint_from_mesh
        columns = np.ascontiguousarray(values.transpose(0, 2, 1)).reshape(-1, 16).astype("<f4")
        _write_binds(edit, skin, columns)


def keep_skeletons(edit: Edit, nodes: tuple[Node, ...]) -> None:
    """Leave out a skin's hint at its skeleton's root where its joints no longer hang from that node."""
    for skin, item in enumerate(edit.document.items("skins")):
        root = item.get("skeleton")
        if (
            not isinstance(root, int)
            or not 0 <= root < len(nodes)
            or all(_hangs_from(nodes, joint, root) for joint in item["joints"])
        ):
            continue
        _own_skins(edit)[skin].pop("skeleton", None)
        edit.changed = True
        edit.warnings.append(
            say(
                "skin {skin} no longer hangs whole from '{name}': that is not said of it now",
                skin=skin,
                name=nodes[root].name,
            )
        )


def _hangs_from(nodes: tuple[Node, ...], index: int, root: int) -> bool:
    at: int | None = index
    while at is not None and at != root:
        at = nodes[at].parent
    return at is not None


def _own_skins(edit: Edit) -> list[dict[str, Any]]:
    """Return the skins to write in."""
    if "skins" not in edit.edited:
        edit.json["skins"] = [dict(s) for s in edit.document.items("skins")]
        edit.edited.add("skins")
    found: list[dict[str, Any]] = edit.json["skins"]
    return found


def write_clips(edit: Edit, received: Asset, asset: Asset) -> None:
    """Rewrite the keys of each animated channel whose frames have changed under it."""
    frames = clip_frames(received, asset)
    reach = placements_reach(received.nodes, received.meshes)
    due = {i for i, (a, b) in frames.items() if not (_is_rest(a, reach) and _is_rest(b, reach))}
    if not due:
        return
    edit.changed = True
    edit.json["animations"] = [
        {**item, **{k: [dict(each) for each in item.get(k, [])] for k in ("channels", "samplers")}}
        for item in edit.document.items("animations")
    ]
    for index, item in enumerate(edit.json["animations"]):
        channels = list(item["channels"])
        used = Counter(c["sampler"] for c in item["channels"])
        _resample_translation(edit, index, item, received, {i: frames[i] for i in due})
        for k, channel in enumerate(channels):
            track = track_of(edit.document, index, k, edit.limits)
            if track is None or track.node not in due:
                continue
            if track.path == "translation" and is_resampled(received, track.node, frames[track.node][1]):
                continue
            values = carried_values(track, received, *frames[track.node])
            rows = np.ascontiguousarray(values.reshape(-1, values.shape[-1]), dtype="<f4")
            like = {"componentType": FLOAT, "count": len(rows), "type": f"VEC{rows.shape[1]}"}
            if used[channel["sampler"]] > 1:
                item["samplers"].append(dict(item["samplers"][channel["sampler"]]))
                channel["sampler"] = len(item["samplers"]) - 1
            item["samplers"][channel["sampler"]]["output"] = edit.append(rows, like)


def _is_rest(matrix: Array, reach: float) -> bool:
    """Tell whether a frame's change is none, in a model whose numbers go up to `reach`."""
    # Two inverses and a product stand behind it: a hundred times what one product leaves.
    apart = np.abs(matrix - np.eye(4))
    return bool(apart[:3, :3].max() <= 100 * SAME_MATRIX and apart[:3, 3].max() <= 100 * SAME_MATRIX * reach)


def _resample_translation(
    edit: Edit, index: int, item: dict[str, Any], received: Asset, frames: dict[int, tuple[Array, Array]]
) -> None:
    """Give nodes whose pivot moved while they turn a translation of their own, in a sampler of its own."""
    for node, (_, below) in frames.items():
        if not is_resampled(received, node, below):
            continue
        track = resampled_translation(received, received.clips[index], node, frames)
        if track is None:
            continue
        count = len(track.times)
        times = {"componentType": FLOAT, "count": count, "type": "SCALAR"}
        entry = edit.append(np.ascontiguousarray(track.times.reshape(-1, 1), dtype="<f4"), times)
        edit.json["accessors"][entry].update(min=[float(track.times[0])], max=[float(track.times[-1])])
        values = {"componentType": FLOAT, "count": count, "type": "VEC3"}
        out = edit.append(np.ascontiguousarray(track.values, dtype="<f4"), values)
        item["samplers"].append({"input": entry, "output": out})
        target = {"node": node, "path": "translation"}
        place = next((c for c in item["channels"] if c["target"] == target), None)
        if place is None:
            place = {"target": target}
            item["channels"].append(place)
        place["sampler"] = len(item["samplers"]) - 1
        path = say(
            "clip '{name}': the path of '{name_2}' about its new pivot",
            name=received.clips[index].name,
            name_2=received.nodes[node].name,
        )
        edit.warnings.append(
            say(
                "{path} is resampled at {count} keys, within {resampled:g} of the asset's diagonal",
                path=path,
                count=count,
                resampled=RESAMPLED,
            )
        )


def _write_binds(edit: Edit, skin: int, columns: NDArray[np.float32]) -> None:
    skins = edit.document.items("skins")
    accessor = skins[skin].get("inverseBindMatrices")
    if accessor is not None and [s.get("inverseBindMatrices") for s in skins].count(accessor) == 1:
        layout = edit.layouts[accessor]
        if layout.is_plain and layout.count == len(columns) and edit.is_sole(accessor, layout):
            strided(edit.copy(layout.buffer or 0), layout)[:] = columns
            edit.bound(accessor, columns)
            return
    like = {"componentType": FLOAT, "count": len(columns), "type": "MAT4"}
    _own_skins(edit)[skin]["inverseBindMatrices"] = edit.append(columns, like)
