"""The forms of the stages, each made when it is first looked at: together they are most of the window's controls."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping
from typing import TypeVar

from PySide6.QtWidgets import QBoxLayout, QWidget

from oak_square.app.panel.bake_body import BakeBody
from oak_square.app.panel.body import Body
from oak_square.app.panel.deliver_body import DeliverBody
from oak_square.app.panel.pivot_body import PivotBody
from oak_square.app.panel.place_body import PlaceBody
from oak_square.app.panel.receive_body import ReceiveBody
from oak_square.app.panel.size_body import SizeBody
from oak_square.app.panel.turn_body import TurnBody

__all__ = ["Bodies"]

_KINDS: dict[str, type[Body]] = {
    kind.stage: kind for kind in (ReceiveBody, SizeBody, TurnBody, PivotBody, BakeBody, PlaceBody, DeliverBody)
}
B = TypeVar("B", bound=Body)


class Bodies(Mapping[str, Body]):
    """Each stage's form by its stage; one that is asked for is made, hidden, in `home`."""

    def __init__(self, home: QWidget) -> None:
        self._home = home
        self._made: dict[str, Body] = {}
        self._due: list[tuple[type[Body], Callable[[Body], object]]] = []

    def __getitem__(self, stage: str) -> Body:
        if stage not in self._made:
            body = self._made[stage] = _KINDS[stage](self._home)
            body.hide()
            rows = body.layout()
            assert isinstance(rows, QBoxLayout)
            body.add_forms(rows)
            for kind, then in self._due:
                if isinstance(body, kind):
                    then(body)
        return self._made[stage]

    def __iter__(self) -> Iterator[str]:
        return iter(_KINDS)

    def __len__(self) -> int:
        return len(_KINDS)

    def of(self, kind: type[B]) -> B:
        """Return the form of a kind."""
        body = self[kind.stage]
        assert isinstance(body, kind)
        return body

    def made(self) -> Mapping[str, Body]:
        """Return those that are made by now, by their stages, in the order of these."""
        return {stage: self._made[stage] for stage in _KINDS if stage in self._made}

    def make_one(self) -> bool:
        """Make one that is not made yet; tell whether there was any."""
        due = next((stage for stage in _KINDS if stage not in self._made), None)
        if due is None:
            return False
        self[due]
        return True

    def whenever(self, kind: type[B], then: Callable[[B], object]) -> None:
        """Do something with each form of a kind, `Body` for all: at once with what is made, else as it is made."""
        self._due.append((kind, then))  # type: ignore[arg-type]  # it is given what is of its kind alone
        for body in list(self._made.values()):
            if isinstance(body, kind):
                then(body)
