"""Which vertices are taken hold of, of what is selected."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

import numpy as np
from numpy.typing import NDArray
from pydantic import TypeAdapter

from oak_square.app.session.state import State
from oak_square.core.boxes import EXTENTS
from oak_square.core.errors import DataTrouble
from oak_square.core.frames import apply
from oak_square.core.reshaping import places_of
from oak_square.core.scene import Asset
from oak_square.core.words import say
from oak_square.steps.take import Take, taken

__all__ = ["as_shape", "as_usual", "is_shaping", "taken_points", "taken_rows"]

Array = NDArray[np.float64]
Rows = NDArray[np.int64]
_TAKE: TypeAdapter[Any] = TypeAdapter(Take)
_SHARED = ("for", "parts", "along", "about", "keep")


def is_shaping(session: State) -> bool:
    """Tell whether vertices are taken hold of in place of the things that are selected."""
    return session.stage == "bake" and session.document.grip.take is not None


def taken_rows(session: State, before: Asset, node: int, words: Mapping[str, Any] | None = None) -> Rows:
    """Return the rows of a part's points that are taken, as it stands before the draft; none where it can't be told."""
    take = session.document.grip.take if words is None else words
    none: Rows = np.empty(0, dtype=np.int64)
    if take is None or node >= len(before.nodes) or before.nodes[node].mesh is None:
        return none
    try:
        return taken(before, node, _TAKE.validate_python(take), session.setting)
    except (DataTrouble, ValueError):
        return none


def taken_points(session: State, before: Asset, shown: Asset, nodes: tuple[int, ...]) -> Array:
    """Return where the taken vertices of some parts are as they are shown, shape (N, 3), one of each place.

    Of none they are those of all parts.
    """
    found = [np.empty((0, 3))]
    for node in nodes or shown.parts:
        rows = taken_rows(session, before, node)
        if len(rows) and node < len(shown.nodes) and shown.nodes[node].mesh is not None:
            mesh = shown.mesh_of(node)
            rows = rows[rows < len(mesh.points)]
            _, first = np.unique(places_of(before.mesh_of(node))[rows], return_index=True)
            points = np.asarray(mesh.points[rows[first]], dtype=np.float64)
            found.append(apply(shown.world_from_mesh(node), points))
    return np.concatenate(found)


def as_shape(words: Mapping[str, Any], take: Mapping[str, Any], named: Array) -> dict[str, Any]:
    """Return what an instrument does to things as what it does to the vertices taken.

    Parameters
    ----------
    words : mapping
        A step that moves, turns or sizes.
    named : ndarray, shape (3, 3)
        The rotation from delivery axes to working axes.

    Raises
    ------
    ValueError
        If no shape does that.
    """
    shape: dict[str, Any] = {"do": "shape", **{k: words[k] for k in _SHARED if k in words}, "take": dict(take)}
    do = words["do"]
    if do == "place" and "shift" in words:
        return {**shape, "by": words["shift"]}
    if do == "place" and len(words.get("axes", ())) == 1 and isinstance(words.get("at"), list):
        letter = "xyz".index(words["axes"][0])
        extent = EXTENTS[int(np.argmax(np.abs(named[:, letter])))]
        return {**shape, "set": {extent: words["at"][letter]}}
    if do == "turn" and "by" in words:
        return {**shape, "turn": words["by"]}
    if do == "size" and not {"match", "between", "longest", "diagonal"} & set(words):
        return {**shape, **{k: words[k] for k in ("factor", *EXTENTS) if k in words}}
    raise ValueError(say("Vertices are moved, turned and sized: that is something else"))


def as_usual(words: Mapping[str, Any]) -> dict[str, Any]:
    """Return a shape as the instruments know it, so that a further gesture goes on from it."""
    if words.get("do") != "shape":
        return dict(words)
    shared = {k: words[k] for k in _SHARED if k in words}
    if "by" in words:
        return {"do": "place", "shift": words["by"], **shared}
    if "turn" in words:
        return {"do": "turn", "by": words["turn"], **shared}
    return {"do": "size", **shared, **{k: words[k] for k in ("factor", *EXTENTS) if k in words}}
