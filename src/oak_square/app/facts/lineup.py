"""From the session's state to what the line-up shows."""

from __future__ import annotations

from dataclasses import dataclass
from weakref import WeakKeyDictionary

from oak_square.app.facts.bench import bench_view
from oak_square.app.facts.picture import Picture
from oak_square.app.facts.units import QuestionFacts, question_facts
from oak_square.app.session.outcomes import Outcome
from oak_square.app.session.state import State
from oak_square.core.boxes import EXTENTS, asset_box
from oak_square.core.scene import Asset
from oak_square.core.shown_units import ShownUnit
from oak_square.core.terms import term
from oak_square.core.words import one_or_many, say

__all__ = ["FIGURE", "FIGURE_M", "FIGURE_WIDE_M", "ORDERS", "LineUpFacts", "LineUpItem", "Range", "RowOfAll"]

ORDERS = ("height", "name", "finding")
FIGURE = ""
"""The file of the figure among the items of a line-up."""

FIGURE_M, FIGURE_WIDE_M = 1.75, 0.52


@dataclass(frozen=True, slots=True, kw_only=True)
class Range:
    """A range of heights that is expected, metres, either end None where it is open; whether it is met."""

    low: float | None
    high: float | None
    met: bool


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class LineUpItem:
    """One that stands in the row.

    Attributes
    ----------
    file, name, words : str
        Its asset, its name, its extents in words.
    picture : Picture or None
        None for the figure.
    width, height : float, metres
        As seen in the elevation.
    wanted : Range or None
        The heights the size book expects.
    trouble : str
        What is wrong with its size, in a word or two; empty when nothing is.
    """

    file: str
    name: str
    words: str
    picture: Picture | None
    width: float
    height: float
    wanted: Range | None = None
    trouble: str = ""


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class RowOfAll:
    """The whole line-up.

    Attributes
    ----------
    items : tuple of LineUpItem
    selection : tuple of str
        The assets that are selected, the last one leading.
    unit : ShownUnit
    words : str
        How it stands to the size book.
    all_true : bool
        Nothing is outside it.
    question : QuestionFacts or None
        The unit question of the lead asset.
    asks : bool
        It is still open, or being tried.
    """

    items: tuple[LineUpItem, ...]
    selection: tuple[str, ...]
    unit: ShownUnit
    words: str
    all_true: bool
    question: QuestionFacts | None
    asks: bool


class LineUpFacts:
    """Makes the row; keeps each asset's picture for as long as the asset is the same."""

    def __init__(self) -> None:
        self._pictures: WeakKeyDictionary[Asset, Picture] = WeakKeyDictionary()

    def row(self, session: State, *, order: str, side: str) -> RowOfAll:
        """Return all that the line-up shows."""
        words, all_true = self.summary(session)
        question, draft = question_facts(session, session.lead), session.document.draft
        tried = draft is not None and draft.do == "unit" and question is not None and draft.covers(question.file)
        return RowOfAll(
            items=tuple(self.items(session, order=order, side=side)),
            selection=session.selection,
            unit=session.unit,
            words=words,
            all_true=all_true,
            question=question,
            asks=question is not None and (question.state != "settled" or tried),
        )

    def items(self, session: State, *, order: str, side: str) -> list[LineUpItem]:
        """Return the included assets in the order asked for, and the figure among them."""
        found = []
        for file in session.included():
            outcome = session.outcomes.get(file)
            item = None if outcome is None else self._make_item(session, outcome, side)
            if item is not None:
                found.append(item)
        figure = LineUpItem(
            file=FIGURE, name=say("figure"), words=session.unit.length(FIGURE_M), picture=None, width=FIGURE_WIDE_M,
            height=FIGURE_M,
        )  # fmt: skip
        if order == "name":
            return [figure, *sorted(found, key=lambda i: i.name.casefold())]
        if order == "finding":
            return [figure, *sorted(found, key=lambda i: (not i.trouble, i.height))]
        return sorted([figure, *found], key=lambda i: i.height)

    def summary(self, session: State) -> tuple[str, bool]:
        """Return how many stand within the size book, in words, and whether all do."""
        if session.book is None:
            return say("no size book"), True
        outside = within = 0
        for file in session.included():
            outcome = session.outcomes.get(file)
            entry = session.book.entry_for(file)
            box = asset_box(outcome.after.asset) if outcome is not None else None
            if entry is not None and box is not None:
                wrong = bool(entry.outside(box.size))
                outside += wrong
                within += not wrong
        words = one_or_many(within, "{count} stands within the size book", "{count} stand within the size book")
        return (
            (one_or_many(outside, "{words}, {count} does not", "{words}, {count} do not", words=words), False)
            if outside
            else (words, True)
        )

    def _make_item(self, session: State, outcome: Outcome, side: str) -> LineUpItem | None:
        asset = outcome.after.asset
        box = asset_box(asset)
        if box is None:
            return None
        picture = self._pictures.get(asset)
        if picture is None:
            picture, _ = bench_view([asset], unit=session.unit, previewed=False)
            self._pictures[asset] = picture
        width, height, depth = (float(v) for v in box.size)
        entry = session.book.entry_for(outcome.file) if session.book is not None else None
        wanted, trouble = None, ""
        if entry is not None:
            outside = entry.outside(box.size)
            span = entry.spans[1]
            if not span.is_open:
                wanted = Range(low=span.low, high=span.high, met=1 not in outside)
            if outside:
                trouble = say(
                    "{extents} outside the book",
                    extents=", ".join(term(EXTENTS[k]) for k in outside) if len(outside) < 3 else say("all"),
                )
        waits = outcome.question is not None and outcome.question.state != "settled"
        if not trouble and outcome.question is not None and waits and outcome.after.read.reading.source != "sheet":
            trouble = say("unit in doubt") if outcome.question.state == "open" else say("unit to be taken")
        if outcome.after.status != "ready":
            trouble = term(outcome.after.status)
        return LineUpItem(
            file=outcome.file, name=asset.name, words=session.unit.size(width, height, depth), picture=picture,
            width=width if side == "front" else depth, height=height, wanted=wanted, trouble=trouble,
        )  # fmt: skip
