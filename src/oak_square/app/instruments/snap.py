"""What a drag would snap to: a point of what stands still, under or near the pointer; drawn with its kind."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray
from PySide6.QtCore import QPointF
from PySide6.QtGui import QPen

from oak_square.app.facts.hold import HeldNodes
from oak_square.app.facts.picture import Shape
from oak_square.app.instruments.aim_marks import draw_kind, draw_ring
from oak_square.app.instruments.aims import ClickTarget, Target, aims_at
from oak_square.app.instruments.hint_label import draw_hint
from oak_square.app.instruments.instrument import Scene
from oak_square.app.view.overlay import Canvas
from oak_square.app.view.pointing import Pointing
from oak_square.app.widgets.theme import colour
from oak_square.core.boxes import Box, node_box
from oak_square.core.terms import term
from oak_square.core.words import say

__all__ = ["Snap", "draw_snap", "grip_of", "snap_at", "still_box"]

Array = NDArray[np.float64]
_SNAPS = 14.0  # pixels from which a point is taken


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Snap:
    """A candidate: what it is, and whether it is near enough to be taken."""

    aim: ClickTarget
    taken: bool


def _is_moved(hold: HeldNodes, shape: Shape) -> bool:
    return hold.moves(shape.file, shape.node)


def still_box(hold: HeldNodes) -> Box | None:
    """Return the box of what stands still in the asset; None where all of it moves."""
    boxes = [node_box(hold.asset, i) for i in hold.asset.parts if i not in hold.moved]
    still = [b for b in boxes if b is not None]
    if not still:
        return None
    return Box(np.min([b.low for b in still], axis=0), np.max([b.high for b in still], axis=0))


def snap_at(scene: Scene, hold: HeldNodes, at: Pointing, still: Box | None, *, surface: bool = False) -> Snap | None:
    """Return what a drag would snap to at the pointer; None where nothing stands still there, or nothing is wanted.

    `still` is the box of what stands still. With `surface`, any point of a surface will do where no other is near.
    """
    if at.free or not scene.kinds:
        return None
    # What only stands beside for the picture's sake is elsewhere in truth.
    apart = bool(scene.facts.beside)
    whole = not hold.nodes and not hold.datum
    target = replace(
        scene.target,
        box=still,
        kinds=frozenset(k for k in scene.kinds if not (whole and k in ("pivot", "box point"))),
    )
    found = aims_at(
        at, target, wide=True, passing=lambda s: _is_moved(hold, s) or (apart and s.file != hold.asset.file)
    )
    found = [a for a in found if not (a.kind == "pivot" and hold.moves(a.file, a.anchor.node))]
    # A point that holds still comes before the surface, which is wherever the pointer is.
    found = [a for a in found if a.kind != "surface"] or (found if surface else [])
    if not found:
        return None
    seen = at.lens.seen(found[0].at[None])[0]
    away = float(np.hypot(seen[0] - at.x, seen[1] - at.y))
    near = away <= _SNAPS or found[0].kind in ("surface", "circle centre")
    return Snap(aim=found[0], taken=near)


def grip_of(scene: Scene, hold: HeldNodes, at: Pointing) -> ClickTarget | None:
    """Return the point of the thing itself that is taken hold of; None where the pointer is not on it."""
    hit = at.hit(near=True)
    if hit is None or not _is_moved(hold, hit[0]):
        return None
    target = Target(kinds={*scene.kinds, "surface"} - {"pivot", "box point"}, ready=scene.ready)
    own = (aim for aim in aims_at(at, target) if hold.moves(aim.file, aim.anchor.node))
    return next(own, None)


def draw_snap(canvas: Canvas, snap: Snap, to_go: str, *, by: str = "") -> None:
    """Draw a candidate by its kind; where it is not taken yet, how far it still is.

    `by` is the kind of the moved point that comes onto it, where that is not the one that is gripped.
    """
    seen = canvas.lens.seen(snap.aim.at[None])[0]
    if seen[2] <= 0:
        return
    at = QPointF(float(seen[0]), float(seen[1]))
    canvas.painter.setPen(QPen(colour("verdigris"), 2.0 if snap.taken else 1.2))
    draw_ring(canvas.painter, canvas.lens, snap.aim.ring, snap.aim.kind)
    draw_kind(canvas.painter, at, snap.aim.kind)
    words = say("{kind} of {whose}", kind=term(snap.aim.kind), whose=snap.aim.whose) + (
        "" if snap.taken else say(", {to_go} to go", to_go=to_go)
    )
    words = say("{by} onto {words}", by=by, words=words) if by else words
    draw_hint(canvas, at + QPointF(14, -34), words, strong=snap.taken)
