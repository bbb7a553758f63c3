"""Between picks of vertices and the session: what is taken becomes words of a shape, as what it means."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace
from typing import Any

import numpy as np
from numpy.typing import NDArray

from oak_square.app.desk.hands_desk import HandsDesk
from oak_square.app.facts.taken import taken_rows
from oak_square.app.instruments.aims import ClickTarget
from oak_square.app.instruments.wishes import ShapeAt, ShapeFramed
from oak_square.app.session.session import Session
from oak_square.core.features import features_of
from oak_square.core.frames import apply
from oak_square.core.marking import MARKABLE
from oak_square.core.node_names import patterns_for
from oak_square.core.pieces import pieces_of
from oak_square.core.scene import Asset
from oak_square.core.words import say
from oak_square.steps.naming import globs_for
from oak_square.steps.take import rows_of_feature, take_for

__all__ = ["ShapeDesk"]

Rows = NDArray[np.int64]


class ShapeDesk:
    """Takes hold of vertices: a pick by itself as a mark, what several come to as a side, a slab, or their numbers."""

    def __init__(self, session: Session, hands: HandsDesk) -> None:
        self._session, self._hands = session, hands

    def begin(self, take: Mapping[str, Any] | None) -> None:
        """Take hold of vertices from now on, of these first; of none, of things as wholes again."""
        session = self._session
        draft = session.document.draft
        if draft is not None and draft.do != "shape" and take is not None:
            self._hands.settle_draft()
        session.names.set_grip(lambda g: replace(g, take=None if take is None else dict(take)))

    def take_at(self, wish: ShapeAt) -> None:
        """Take hold of the vertices of what was picked."""
        aim = _on_its_edge(wish.aim)
        shown = self._find_kept_asset(aim.file)
        if shown is None or aim.anchor.node is None or aim.kind not in MARKABLE:
            return
        node = aim.anchor.index(shown)
        kind = MARKABLE[aim.kind]
        found = features_of(shown.mesh_of(node), kind, shown.world_from_mesh(node))
        number = int(found.numbers[int(np.argmin(np.linalg.norm(found.points - aim.at, axis=1)))])
        rows = rows_of_feature(shown.mesh_of(node), kind, number)
        if not wish.beside:
            of = {"do": "shape", "parts": list(patterns_for(shown, (node,))), "for": globs_for([shown.file])}
            mark = self._hands.point_words(aim, of)
            if mark is not None and "mark" in mark:
                self._take_vertices(shown, node, mark)
                return
        self._take_rows(shown, node, rows, beside=wish.beside)

    def take_framed(self, wish: ShapeFramed) -> None:
        """Take hold of what was framed."""
        shown = self._find_kept_asset(self._session.lead or "")
        if shown is not None:
            self._take_rows(shown, wish.node, wish.rows, beside=wish.beside)

    def take_connected(self, aim: ClickTarget) -> None:
        """Take hold of all that hangs together with what was picked."""
        shown = self._find_kept_asset(aim.file)
        if shown is None or aim.anchor.node is None:
            return
        node = aim.anchor.index(shown)
        mesh = shown.mesh_of(node)
        there = apply(np.asarray(np.linalg.inv(shown.world_from_mesh(node)), dtype=np.float64), aim.anchor.world(shown))
        near = int(np.argmin(np.linalg.norm(np.asarray(mesh.points, dtype=np.float64) - there, axis=1)))
        for piece in pieces_of(mesh):
            rows = np.arange(len(mesh.points)) if piece.cut is None else piece.cut.points
            if near in rows:
                self._take_rows(shown, node, rows, beside=False)

    def hang_at_mean(self) -> None:
        """Try the pivot of the part at the mean of what is taken."""
        session = self._session
        shown = self._find_kept_asset(session.lead or "")
        node = next(iter(reversed(session.nodes)), None)
        if shown is None or (node is None and len(shown.parts) != 1):
            session.messages.said.emit(say("Pick the part first whose pivot shall be there"))
            return
        node = shown.parts[0] if node is None else node
        rows = taken_rows(session, shown, node)
        if not len(rows):
            session.messages.said.emit(say("Nothing is taken whose mean that could be"))
            return
        words = {"at": {"vertices": rows.tolist()}, "parts": list(patterns_for(shown, (node,)))}
        session.enter_stage("pivot")
        session.drafts.try_whole({"do": "pivot", **words, "for": globs_for([shown.file])})

    def _find_kept_asset(self, file: str) -> Asset | None:
        """Return an asset as it is shown, once what is tried on it is kept; a kept step that is open stays open."""
        session = self._session
        if file not in session.outcomes:
            return None
        document = session.document
        if document.editing is not None:
            return session.outcomes[file].before.asset
        shown = self._hands.shown(file)
        if document.draft is not None:
            self._hands.settle_draft()
        return shown

    def _take_rows(self, shown: Asset, node: int, rows: Rows, *, beside: bool) -> None:
        if beside:
            had = taken_rows(self._session, shown, node)
            # What is taken already and picked again is let go.
            rows = np.setdiff1d(had, rows) if np.isin(rows, had).all() else np.union1d(had, rows)
        if not len(rows):
            self._session.messages.said.emit(say("Nothing is taken any more"))
            return
        self._take_vertices(shown, node, take_for(shown, node, rows).model_dump(by_alias=True, exclude_none=True))

    def _take_vertices(self, shown: Asset, node: int, take: Mapping[str, Any]) -> None:
        session = self._session
        session.names.set_grip(lambda g: replace(g, take=dict(take)))
        draft = session.document.draft
        if draft is not None and draft.do == "shape":
            parts = list(patterns_for(shown, (node,)))
            session.drafts.try_whole({**draft.words(), "take": dict(take), "parts": parts})
        elif node not in session.nodes:
            session.select(session.selection, (node,))


def _on_its_edge(aim: ClickTarget) -> ClickTarget:
    """Return a pick somewhere on an edge as one of the edge."""
    if aim.kind != "edge" or len(aim.ring) < 2:
        return aim
    ends = aim.ring[[0, -1]]
    return replace(aim, at=ends.mean(axis=0), anchor=replace(aim.anchor, kind="edge middle"))
