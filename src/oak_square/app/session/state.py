"""What of the session the facts are made from: values to read, nothing to change."""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping
from pathlib import Path
from typing import Protocol

from oak_square.app.session.aim import Scope
from oak_square.app.session.document import BatchRow, Document
from oak_square.app.session.outcomes import Outcome
from oak_square.core.scene import Asset
from oak_square.core.shown_units import ShownUnit
from oak_square.core.size_book import SizeBook
from oak_square.steps.setting import Setting
from oak_square.steps.step import Step

__all__ = ["State", "prepared"]


class State(Protocol):
    """The session as its readers know it; see `Session` for what each means."""

    @property
    def document(self) -> Document: ...
    @property
    def rows(self) -> Mapping[str, BatchRow]: ...
    @property
    def assets(self) -> Mapping[str, Asset]: ...
    @property
    def outcomes(self) -> Mapping[str, Outcome]: ...
    @property
    def paths(self) -> list[Path]: ...
    @property
    def selection(self) -> tuple[str, ...]: ...
    @property
    def lead(self) -> str | None: ...
    @property
    def nodes(self) -> tuple[int, ...]: ...
    @property
    def scope(self) -> Scope: ...
    @property
    def own_draft(self) -> Step | None: ...
    @property
    def setting(self) -> Setting: ...
    @property
    def stage(self) -> str: ...
    @property
    def unit(self) -> ShownUnit: ...
    @property
    def book(self) -> SizeBook | None: ...
    @property
    def to_read(self) -> int: ...
    @property
    def is_saved(self) -> bool: ...
    @property
    def measured_along(self) -> str: ...
    @property
    def chosen_measure(self) -> int | None: ...
    def included(self) -> list[str]: ...
    def stages_left(self) -> Counter[str]: ...
    def questions(self, state: str) -> list[str]: ...


def prepared(session: State) -> dict[str, Asset]:
    """Return the included assets that came through their steps, as they are after them."""
    return {
        f: o.after.asset
        for f in session.included()
        if (o := session.outcomes.get(f)) is not None and o.after.status == "ready"
    }
