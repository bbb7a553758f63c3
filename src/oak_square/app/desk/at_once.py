"""Steps that one key, or one entry of a menu, tries on what is selected: no pick and no form is needed for them."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from oak_square.app.desk.hands_desk import HandsDesk
from oak_square.app.session.session import Session
from oak_square.core.node_names import name_of, patterns_for
from oak_square.steps.naming import globs_for

__all__ = ["AtOnce"]


class AtOnce:
    """Tries steps; a draft of another kind is kept before, as the hand does."""

    def __init__(self, session: Session, hands: HandsDesk) -> None:
        self._session, self._hands = session, hands

    def _settle_wish(self) -> None:
        if self._session.document.draft is not None:
            self._hands.settle_draft()

    def _try_in_stage(self, stage: str, words: Mapping[str, Any]) -> None:
        self._session.enter_stage(stage)
        self._session.drafts.try_whole(words)

    def pivot_to(self, told: Mapping[str, Any]) -> None:
        """Try the pivot of what is picked somewhere."""
        draft = self._session.document.draft
        if draft is not None and draft.do != "pivot":
            self._hands.settle_draft()
        self._try_in_stage("pivot", {**self._session.drafts.aimed({"do": "pivot"}), **told})

    def hang(self, nodes: tuple[int, ...], above: int) -> None:
        """Try to hang nodes of the lead asset from another one of it, or from none (-1)."""
        lead = self._session.lead
        if lead is None or lead not in self._session.outcomes:
            return
        there = self._hands.shown(lead)
        self._settle_wish()
        to = name_of(there, above) if above >= 0 else None
        words = {"do": "parent", "to": to, "parts": list(patterns_for(there, nodes))}
        self._try_in_stage("bake", {**words, "for": globs_for([lead])})

    def take_apart(self) -> None:
        """Try what is picked in its connected pieces."""
        self._settle_wish()
        self._try_in_stage("bake", self._session.drafts.aimed({"do": "split", "into": "pieces"}))

    def square_up(self) -> None:
        """Turn what is aimed at to the nearest right angles."""
        self._settle_wish()
        self._try_in_stage("turn", self._session.drafts.aimed({"do": "turn", "square": True}))

    def to_ground(self) -> None:
        """Set what is aimed at down on the ground, each by itself."""
        self._settle_wish()
        self._try_in_stage("place", self._session.drafts.aimed({"do": "place", "ground": True}))

    def to_zero(self) -> None:
        """Bring what is aimed at to 0, 0, 0 by its base; several parts as one."""
        self._settle_wish()
        words = self._session.drafts.aimed({"do": "place", "at": "origin", "by": "base"})
        together = {"as-one": True} if len(self._session.nodes) > 1 and "parts" in words else {}
        self._try_in_stage("place", {**words, **together})
