"""Animations: read as clips, and their sampled values rewritten."""

from __future__ import annotations

from typing import Any

import numpy as np
from numpy.typing import NDArray

from oak_square.core.clips import Clip, Path, Track
from oak_square.core.errors import BadFile
from oak_square.core.words import say
from oak_square.formats.gltf.accessors import dense
from oak_square.formats.gltf.compression import is_packed
from oak_square.formats.gltf.document import GltfDocument
from oak_square.formats.limits import Limits

__all__ = ["clips_of", "track_of"]

_WIDTHS = {"translation": 3, "rotation": 4, "scale": 3}
_KINDS = ("STEP", "LINEAR", "CUBICSPLINE")


def clips_of(document: GltfDocument, limits: Limits, morphs: tuple[int, ...]) -> tuple[tuple[Clip, ...], str | None]:
    """Return the clips of a file, and why they can't be rewritten, if they can't.

    `morphs` is how many morph targets each of its meshes has.

    Raises
    ------
    BadFile
        If an accessor does not hold together.
    """
    if any(_is_packed(document, item.get("samplers")) for item in document.items("animations")):
        return (), say("its clips are compressed, and this version can't read them")
    found = []
    for index, item in enumerate(document.items("animations")):
        tracks: list[Track] = []
        morphing: list[Track] = []
        channels = item.get("channels", [])
        for k in range(len(channels) if isinstance(channels, list) else 0):
            try:
                track = track_of(document, index, k, limits)
                weighed = None if track is not None else _weights_of(document, index, k, limits, morphs)
            except (KeyError, TypeError, IndexError, AttributeError, ValueError) as error:
                return (), say(
                    "its clip {index} has a channel that can't be read ({error})", index=index, error=repr(error)
                )
            except _Unknown as error:
                return (), str(error)
            if track is not None:
                tracks.append(track)
            elif weighed is not None:
                morphing.append(weighed)
        found.append(
            Clip(name=str(item.get("name") or f"clip_{index}"), tracks=tuple(tracks), morphing=tuple(morphing))
        )
    return tuple(found), None


def _is_packed(document: GltfDocument, samplers: object) -> bool:
    rows = [s for s in samplers if isinstance(s, dict)] if isinstance(samplers, list) else []
    return any(is_packed(document, s.get(k)) for s in rows for k in ("input", "output"))


class _Unknown(Exception):
    """A channel that this version does not know."""


def track_of(document: GltfDocument, animation: int, channel: int, limits: Limits) -> Track | None:
    """Return one channel as a track; None for what moves no frame (weights, or no node at all)."""
    item = document.items("animations")[animation]
    target = item["channels"][channel]["target"]
    path, node = target.get("path"), target.get("node")
    if target.get("extensions"):
        raise _Unknown(say("its clips animate what this version does not know"))
    if path == "weights" or node is None:
        return None
    if path not in _WIDTHS:
        raise _Unknown(say("its clips animate '{path}', which this version does not know", path=path))
    nodes = document.items("nodes")
    if not isinstance(node, int) or not 0 <= node < len(nodes) or "matrix" in nodes[node]:
        raise _Unknown(say("its clips animate node {node}, which is not there or has a matrix", node=node))
    return _read_track(document, animation, channel, path, _WIDTHS[path], limits)


def _weights_of(
    document: GltfDocument, animation: int, channel: int, limits: Limits, morphs: tuple[int, ...]
) -> Track | None:
    """Return a channel that morphs a mesh as a track of weights; None for what morphs none."""
    target = document.items("animations")[animation]["channels"][channel]["target"]
    node, nodes = target.get("node"), document.items("nodes")
    if not isinstance(node, int) or not 0 <= node < len(nodes):
        return None
    mesh = nodes[node].get("mesh")
    if not isinstance(mesh, int) or not 0 <= mesh < len(morphs) or not morphs[mesh]:
        return None
    return _read_track(document, animation, channel, "weights", morphs[mesh], limits)


def _read_track(document: GltfDocument, animation: int, channel: int, path: Path, width: int, limits: Limits) -> Track:
    item = document.items("animations")[animation]
    sampler = item["samplers"][item["channels"][channel]["sampler"]]
    kind = sampler.get("interpolation", "LINEAR")
    if kind not in _KINDS:
        raise _Unknown(say("its clips go '{kind}' between keys, which this version does not know", kind=kind))
    times = _read_rows(document, sampler["input"], 1, limits)[:, 0]
    if path == "weights":
        rows = _read_rows(document, sampler["output"], 1, limits)
        values = rows.reshape(-1, width) if len(rows) % width == 0 else rows
    else:
        values = _read_rows(document, sampler["output"], width, limits)
    each = 3 if kind == "CUBICSPLINE" else 1
    if not len(times) or len(values) != each * len(times) or (np.diff(times) < 0).any():
        raise document.fail(
            say(
                "animation {animation} has {count} values for {count_2} times",
                animation=animation,
                count=len(values),
                count_2=len(times),
            )
        )
    if each == 3:
        values = values.reshape(len(times), 3, -1)
    node = item["channels"][channel]["target"]["node"]
    return Track(node=node, path=path, times=times, values=values, interpolation=kind)


def _read_rows(document: GltfDocument, accessor: Any, width: int, limits: Limits) -> NDArray[np.float64]:
    found = dense(document, accessor, limits)
    if found.shape[1] != width or not np.isfinite(found).all():
        raise BadFile(
            document.file,
            say(
                "accessor {accessor} does not hold {width} finite numbers for each key", accessor=accessor, width=width
            ),
        )
    return found.astype(np.float64)
