"""From the session to the datums and marks that are drawn on the lead asset, and listed."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np

from oak_square.app.facts.picture import BerthShown, DatumShown, MarkShown
from oak_square.app.session.state import State
from oak_square.core.boxes import asset_box
from oak_square.core.errors import DataTrouble
from oak_square.core.marking import is_unnamed
from oak_square.core.marks import mark_bearers
from oak_square.core.scene import Asset, Mesh
from oak_square.steps.misfits import named_in

__all__ = ["berths_shown", "named_things"]


def berths_shown(session: State, asset: Asset) -> tuple[BerthShown, ...]:
    """Return the berths to draw, each as large as an asset's footprint: where it would stand, set down there."""
    setting, box = session.document.sheet.setting(), asset_box(asset)
    half = np.array([0.5, 0.0, 0.5]) if box is None else np.maximum(box.size, box.diagonal / 20) / 2
    corners = np.array([[-1, 0, -1], [1, 0, -1], [1, 0, 1], [-1, 0, 1]]) * half * [1, 0, 1]
    found = list[BerthShown]()
    for name in session.document.sheet.berths:
        try:
            frame = setting.berth(name, asset)
        except DataTrouble:
            continue
        turn = frame[:3, :3] @ setting.working_from_delivery.T
        found.append(BerthShown(corners=corners @ turn.T + frame[:3, 3], name=name))
    return tuple(found)


def named_things(
    session: State, shown: Asset, before: Asset, ready: Callable[[Mesh], bool] = lambda _: True
) -> tuple[tuple[DatumShown, ...], tuple[MarkShown, ...]]:
    """Return the datums and marks there are on an asset: found before the draft, drawn as it is shown.

    What is not found on it is not drawn: the panel says why, where something needs it. `ready` tells whether a mesh's
    faces and edges are known: of a large one they are worked out meanwhile, and its marks are drawn then.
    """
    sheet, setting, grip = session.document.sheet, session.document.sheet.setting(), session.document.grip
    datums = list[DatumShown]()
    for name in sheet.datums:
        try:
            frame = setting.datum(name, before)
        except DataTrouble:
            continue
        datums.append(DatumShown(at=frame[:3, 3], axes=frame[:3, :3].T, name=name, used=grip.datum == name))
    draft = session.document.draft
    tried = set(named_in(draft.words(), "mark")) if draft is not None else set[str]()
    marks = list[MarkShown]()
    for name, mark in sheet.marks.items():
        if is_unnamed(name) and name not in tried:
            continue
        try:
            bearers = mark_bearers(before, setting.marks[name])
            if mark.kind != "vertex" and not all(ready(before.mesh_of(i)) for i in bearers):
                continue
            found = setting.mark(name, before)
        except DataTrouble:
            continue
        at = found.point
        if found.node < len(shown.nodes) and shown.nodes[found.node].mesh is not None:
            # It lies on its part's geometry, and goes where that goes.
            in_mesh = np.linalg.solve(before.world_from_mesh(found.node), np.append(at, 1.0))
            at = (shown.world_from_mesh(found.node) @ in_mesh)[:3]
        marks.append(MarkShown(at=at, kind=mark.kind, name=name, tried=name in tried))
    return tuple(datums), tuple(marks)
