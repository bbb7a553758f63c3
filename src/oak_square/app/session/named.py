"""What has a name on the sheet: marks and datums; and the grip, which may be by one of them."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import replace
from typing import Any

from oak_square.app.session.grip import Grip, renamed_grip
from oak_square.app.session.open_sheet import OpenSheet
from oak_square.core.terms import term
from oak_square.core.words import one_or_many, say
from oak_square.sheet.model import Frame, Mark, Sheet
from oak_square.sheet.text import in_words
from oak_square.steps.misfits import named_in
from oak_square.steps.setting import Setting
from oak_square.steps.step import STEPS, Step

__all__ = ["NamedThings", "renamed", "unused_name"]

_KEYS = {"mark": "marks", "datum": "datums", "berth": "berths"}


def renamed(words: Any, kind: str, old: str, new: str) -> Any:
    """Return a step's words with what they name as `{kind: old}`, at any depth, called `new`."""
    if isinstance(words, list | tuple):
        return [renamed(w, kind, old, new) for w in words]
    if not isinstance(words, dict):
        return words
    return {k: new if k == kind and w == old else renamed(w, kind, old, new) for k, w in words.items()}


class NamedThings:
    """Puts marks and datums on the sheet, names them and takes them off; changes the grip."""

    def __init__(self, sheet: OpenSheet) -> None:
        self._sheet = sheet
        self._at_hand: dict[str, Mark] = {}

    def set_grip(self, change: Callable[[Grip], Grip]) -> None:
        """Take hold of things in another way; there is nothing to undo in that."""
        grip = change(self._sheet.document.grip)
        if grip != self._sheet.document.grip:
            self._sheet.amend(grip=grip)
            self._sheet.document_changed.emit()

    def swap_axes(self) -> None:
        """Go along own axes in place of the world's, or back."""
        self.set_grip(lambda g: replace(g, along="world" if g.along == "own" else "own"))
        self._sheet.said.emit(say("Along {axes} axes", axes=term(self._sheet.document.grip.along)))

    def take_pivots(self, wanted: bool) -> None:
        """Move and turn pivots alone, or things with their geometry."""
        self.set_grip(lambda g: replace(g, pivots=wanted, hold_datum=""))

    # Datums

    def put_datum(
        self,
        name: str,
        at: Sequence[Any] | Mapping[str, str],
        turn: Sequence[float],
        *,
        use: bool = True,
        gesture: int | None = None,
    ) -> None:
        """Put a datum on the sheet, or elsewhere if it is there.

        Parameters
        ----------
        at : three lengths along the delivery axes, or a mark as the sheet says it
        turn : three angles, degrees
        use : bool
            It is gone along and about from now on.
        gesture : int, optional
            As of `try_step`.
        """
        name = name or unused_name("datum", self._sheet.document.sheet.datums)
        words = {"at": at, "turn": list(turn)}
        if why := in_words(Frame, words):
            self._sheet.failed.emit(say("Not a datum: {why}", why=why))
            return
        datums = {**self._sheet.document.sheet.datums, name: Frame.model_validate(words)}
        moved = name in self._sheet.document.sheet.datums
        sheet = self.with_marks(self.marks_for(words)).model_copy(update={"datums": datums})
        label = say("Move datum {name}", name=name) if moved else say("Put down datum {name}", name=name)
        self._sheet.do(label, replace(self._sheet.document, sheet=sheet), gesture=gesture)
        if use:
            self.use_datum(name)

    def take_datum(self, name: str) -> None:
        """Take hold of a datum by itself; of none, of what is selected."""
        self.set_grip(lambda g: replace(g, hold_datum=name, pivots=g.pivots and not name))

    def use_datum(self, name: str) -> None:
        """Go along and about a datum; with no name, put the one that is used aside."""

        def change(grip: Grip) -> Grip:
            aside = grip.aside if grip.datum else (grip.along, grip.about)
            if name:
                return replace(grip, along=f"datum {name}", about=f"datum {name}", last_datum=name, aside=aside)
            return replace(grip, along=aside[0], about=aside[1]) if grip.datum else grip

        self.set_grip(change)

    def swap_datum(self) -> None:
        """Put the datum in use aside, or take up the one that was used last."""
        grip, there = self._sheet.document.grip, self._sheet.document.sheet.datums
        if grip.datum:
            self.use_datum("")
            self._sheet.said.emit(say("Datum {datum} is put aside", datum=grip.datum))
        elif grip.last_datum in there or there:
            name = grip.last_datum if grip.last_datum in there else next(reversed(there))
            self.use_datum(name)
            self._sheet.said.emit(say("Along and about datum {name}", name=name))
        else:
            self._sheet.said.emit(say("There is no datum yet: put one down with D"))

    # Both

    def name_thing(self, kind: str, old: str, new: str) -> None:
        """Give a mark, a datum or a berth another name, wherever the sheet speaks of it."""
        sheet, key, new = self._sheet.document.sheet, _KEYS[kind], new.strip()
        there: Mapping[str, Any] = getattr(sheet, key)
        if not new or new == old or old not in there:
            return
        if new in there:
            self._sheet.failed.emit(say("There is a {kind} '{new}' already", kind=term(kind), new=new))
            return

        def told(step: Step) -> Step:
            return STEPS[step.do].model_validate(renamed(step.words(), kind, old, new))

        def framed(frames: Mapping[str, Frame]) -> dict[str, Frame]:
            return {n: Frame.model_validate(renamed(f.model_dump(), kind, old, new)) for n, f in frames.items()}

        update: dict[str, Any] = {"steps": tuple(told(s) for s in sheet.steps)}
        if kind == "mark":
            update |= {"datums": framed(sheet.datums), "berths": framed(sheet.berths)}
        if kind == "berth" and sheet.set_out is not None:
            at = {n: _swap_berth(b, old, new) for n, b in sheet.set_out.at.items()}
            update["set_out"] = sheet.set_out.model_copy(update={"at": at})
        update[key] = {new if name == old else name: thing for name, thing in there.items()}
        draft = self._sheet.document.draft
        document = replace(
            self._sheet.document, sheet=sheet.model_copy(update=update), draft=None if draft is None else told(draft)
        )
        document = replace(document, grip=renamed_grip(document.grip, kind, old, new))
        self._sheet.do(say("Name {kind} {old} {new}", kind=term(kind), old=old, new=new), document)

    def forget_thing(self, kind: str, name: str) -> None:
        """Take a mark, a datum or a berth off the sheet; one that something speaks of stays."""
        sheet, key = self._sheet.document.sheet, _KEYS[kind]
        users = [say("step {k}", k=k) for k, s in enumerate(sheet.steps, 1) if name in named_in(s.words(), kind)]
        if self._sheet.document.draft is not None and name in named_in(self._sheet.document.draft.words(), kind):
            users.append(say("what is tried"))
        if kind == "mark":
            users += [
                say("datum {name}", name=n) for n, f in sheet.datums.items() if name in named_in(f.model_dump(), kind)
            ]
            users += [
                say("berth {name}", name=n) for n, f in sheet.berths.items() if name in named_in(f.model_dump(), kind)
            ]
        if kind == "berth" and sheet.set_out is not None and name in [b for _, b in sheet.set_out.berths()]:
            users.append(say("the set-out"))
        if users:
            more = (
                one_or_many(len(users) - 1, " and {count} more place", " and {count} more places")
                if len(users) > 1
                else ""
            )
            self._sheet.failed.emit(
                say(
                    "{kind} '{name}' is needed by {user}{more}: it stays",
                    kind=term(kind),
                    name=name,
                    user=users[0],
                    more=more,
                )
            )
            return
        if kind == "datum" and self._sheet.document.grip.datum == name:
            self.use_datum("")
        if kind == "datum" and self._sheet.document.grip.hold_datum == name:
            self.take_datum("")
        left = {n: thing for n, thing in getattr(sheet, key).items() if n != name}
        self._sheet.do(
            say("Forget {kind} {name}", kind=term(kind), name=name),
            replace(self._sheet.document, sheet=sheet.model_copy(update={key: left})),
        )

    def put_marks(self, marks: Mapping[str, Mark]) -> None:
        """Have marks at hand that what is tried next may speak of: they come on the sheet with it."""
        self._at_hand = {**self._at_hand, **marks}

    @property
    def mark_names(self) -> set[str]:
        """The names that marks have, those at hand among them."""
        return {*self._sheet.document.sheet.marks, *self._at_hand}

    @property
    def setting(self) -> Setting:
        """What steps are told, the marks at hand among it."""
        return self.with_marks(self._at_hand).setting()

    def marks_for(self, words: Any) -> dict[str, Mark]:
        """Return the marks at hand that a step's, or a datum's, words speak of."""
        return {name: self._at_hand[name] for name in named_in(words, "mark") if name in self._at_hand}

    def with_marks(self, marks: Mapping[str, Mark]) -> Sheet:
        """Return the present sheet with further marks."""
        sheet = self._sheet.document.sheet
        return sheet.model_copy(update={"marks": {**sheet.marks, **marks}}) if marks else sheet


def _swap_berth(berths: str | list[str], old: str, new: str) -> str | list[str]:
    if isinstance(berths, str):
        return new if berths == old else berths
    return [new if berth == old else berth for berth in berths]


def unused_name(word: str, taken: Mapping[str, Any]) -> str:
    """Return `word_1`, `word_2`…, the first that is not taken."""
    return next(name for k in range(1, len(taken) + 2) if (name := f"{word}_{k}") not in taken)
