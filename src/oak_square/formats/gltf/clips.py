"""Animations: read as clips, and their sampled values rewritten."""

from __future__ import annotations

from typing import Any

import numpy as np
from numpy.typing import NDArray

from oak_square.core.clips import Clip, Track
from oak_square.core.errors import BadFile
from oak_square.formats.gltf.accessors import dense
from oak_square.formats.gltf.compression import is_packed
from oak_square.formats.gltf.document import Document
from oak_square.formats.limits import Limits

__all__ = ["clips_of", "track_of"]

_WIDTHS = {"translation": 3, "rotation": 4, "scale": 3}
_KINDS = ("STEP", "LINEAR", "CUBICSPLINE")


def clips_of(document: Document, limits: Limits) -> tuple[tuple[Clip, ...], str | None]:
    """Return the clips of a file, and why they can't be rewritten, if they can't.

    Raises
    ------
    BadFile
        If an accessor does not hold together.
    """
    if any(_is_packed(document, item.get("samplers")) for item in document.items("animations")):
        return (), "its clips are compressed, and this version can't read them"
    found = []
    for index, item in enumerate(document.items("animations")):
        tracks = []
        channels = item.get("channels", [])
        for k in range(len(channels) if isinstance(channels, list) else 0):
            try:
                track = track_of(document, index, k, limits)
            except (KeyError, TypeError, IndexError, AttributeError, ValueError) as error:
                return (), f"its clip {index} has a channel that can't be read ({error!r})"
            except _Unknown as error:
                return (), str(error)
            if track is not None:
                tracks.append(track)
        found.append(Clip(name=str(item.get("name") or f"clip_{index}"), tracks=tuple(tracks)))
    return tuple(found), None


def _is_packed(document: Document, samplers: object) -> bool:
    rows = [s for s in samplers if isinstance(s, dict)] if isinstance(samplers, list) else []
    return any(is_packed(document, s.get(k)) for s in rows for k in ("input", "output"))


class _Unknown(Exception):
    """A channel that this version does not know."""


def track_of(document: Document, animation: int, channel: int, limits: Limits) -> Track | None:
    """Return one channel as a track; None for what moves no frame (weights, or no node at all)."""
    item = document.items("animations")[animation]
    target = item["channels"][channel]["target"]
    path, node = target.get("path"), target.get("node")
    if target.get("extensions"):
        raise _Unknown("its clips animate what this version does not know")
    if path == "weights" or node is None:
        return None
    if path not in _WIDTHS:
        raise _Unknown(f"its clips animate '{path}', which this version does not know")
    nodes = document.items("nodes")
    if not isinstance(node, int) or not 0 <= node < len(nodes) or "matrix" in nodes[node]:
        raise _Unknown(f"its clips animate node {node}, which is not there or has a matrix")
    sampler = item["samplers"][item["channels"][channel]["sampler"]]
    kind = sampler.get("interpolation", "LINEAR")
    if kind not in _KINDS:
        raise _Unknown(f"its clips go '{kind}' between keys, which this version does not know")
    times = _rows(document, sampler["input"], 1, limits)[:, 0]
    values = _rows(document, sampler["output"], _WIDTHS[path], limits)
    each = 3 if kind == "CUBICSPLINE" else 1
    if not len(times) or len(values) != each * len(times) or (np.diff(times) < 0).any():
        raise document.fail(f"animation {animation} has {len(values)} values for {len(times)} times")
    if each == 3:
        values = values.reshape(len(times), 3, -1)
    return Track(node=node, path=path, times=times, values=values, interpolation=kind)


def _rows(document: Document, accessor: Any, width: int, limits: Limits) -> NDArray[np.float64]:
    found = dense(document, accessor, limits)
    if found.shape[1] != width or not np.isfinite(found).all():
        raise BadFile(document.file, f"accessor {accessor} does not hold {width} finite numbers for each key")
    return found.astype(np.float64)
