"""Berths: places that have a name on the sheet, where assets are set down, and swapped for one another."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import replace
from itertools import pairwise
from typing import Any

import numpy as np

from oak_square.app.session.named import NamedThings, unused_name
from oak_square.app.session.open_sheet import OpenSheet
from oak_square.app.session.set_down import berth_in
from oak_square.app.session.state import State
from oak_square.core.boxes import asset_box
from oak_square.core.lengths import shortest
from oak_square.core.words import say
from oak_square.sheet.model import Frame
from oak_square.sheet.set_out import SetOut
from oak_square.sheet.text import in_words
from oak_square.steps.naming import globs_for
from oak_square.steps.step import STEPS, Step

__all__ = ["Berths"]

_BESIDE_M = 0.5  # between things side by side


class Berths:
    """Puts berths on the sheet, sets assets down at them, and sets the batch out."""

    def __init__(self, state: State, sheet: OpenSheet, names: NamedThings) -> None:
        self._state, self._sheet, self._names = state, sheet, names

    def put(self, name: str, at: Sequence[Any] | Mapping[str, str], turn: Sequence[float] = (0.0, 0.0, 0.0)) -> str:
        """Put a berth on the sheet, or elsewhere if it is there; return its name, empty where it can't be one.

        Parameters
        ----------
        at : three lengths along the delivery axes, or a mark as the sheet says it
        turn : three angles, degrees
        """
        there = self._sheet.document.sheet.berths
        name = name or unused_name("berth", there)
        words = {"at": at, "turn": list(turn)}
        if why := in_words(Frame, words):
            self._sheet.failed.emit(say("Not a berth: {why}", why=why))
            return ""
        label = say("Move berth {name}", name=name) if name in there else say("Make berth {name}", name=name)
        berths = {**there, name: Frame.model_validate(words)}
        sheet = self._names.with_marks(self._names.marks_for(words)).model_copy(update={"berths": berths})
        self._sheet.do(label, replace(self._sheet.document, sheet=sheet))
        self._sheet.said.emit(say("{label}: set things down there from its menu, or in Place", label=label))
        return name

    def put_at_datum(self, datum: str) -> None:
        """Make a berth where a datum is, turned as it is."""
        frame = self._sheet.document.sheet.datums[datum]
        at: Any = frame.at if isinstance(frame.at, list) else frame.at.model_dump()
        self.put("", at, frame.turn)

    def set_down(self, berth: str, files: Sequence[str]) -> None:
        """Set assets down at a berth; what a kept step sets down there already goes where that stood, or off.

        One entry of the history, and one step of the sheet for each berth.
        """
        if not files:
            self._sheet.said.emit(say("Select what shall be set down there first"))
            return
        steps = list(self._sheet.document.sheet.steps)
        here = next((k for k, s in enumerate(steps) if berth_in(s) == berth), None)
        if here is None:
            words = {"do": "place", "at": {"berth": berth}, "for": globs_for(files)}
            sheet = self._sheet.document.with_steps((*steps, STEPS["place"].model_validate(words)))
            label = say("Set down {names} at {berth}", names=_list_names(files), berth=berth)
        else:
            former = [f for f in self._state.rows if steps[here].covers(f) and f not in files]
            there = next((k for k, s in enumerate(steps) if k != here and berth_in(s) and _is_for(s, files)), None)
            steps[here] = _aim_step_at(steps[here], files)
            if there is not None:
                # What stands there beside these stays.
                stays = [f for f in self._state.rows if steps[there].covers(f) and f not in files]
                if stays or former:
                    steps[there] = _aim_step_at(steps[there], [*stays, *former])
                else:
                    steps.pop(there)
            sheet = self._sheet.document.with_steps(tuple(steps))
            label = say(
                "Swap {former} at {berth} for {now}",
                former=_list_names(former) or say("nothing"),
                berth=berth,
                now=_list_names(files),
            )
        self._sheet.do(label, self._sheet.document.with_sheet(sheet))
        self._sheet.said.emit(label)

    def set_side_by_side(self, berth: str, files: Sequence[str]) -> None:
        """Set assets down at a berth and at new ones beside it, along its own width, each clear of the one before."""
        sheet, setting = self._sheet.document.sheet, self._sheet.document.sheet.setting()
        boxes = {f: asset_box(o.after.asset) for f in files if (o := self._state.outcomes.get(f)) is not None}
        frame = sheet.berths[berth]
        if not isinstance(frame.at, list):
            self._sheet.failed.emit(say("Berth {berth} is at a mark: there is no one place beside it", berth=berth))
            return
        if not files:
            self._sheet.said.emit(say("Select what shall be set down there first"))
            return
        names, berths = [berth], dict(sheet.berths)
        steps = [step for old in sheet.steps if (step := self._leave_out(old, files)) is not None]
        at = np.array([setting.metres(v) for v in frame.at])
        along = setting.working_from_delivery.T @ setting.turned(frame.turn)[:, 0]
        off = 0.0
        files = sorted(files)
        for before, file in pairwise(files):
            ends = [boxes.get(f) for f in (before, file)]
            if ends[0] is not None and ends[1] is not None:
                off += float(ends[0].size[0] + ends[1].size[0]) / 2 + _BESIDE_M
            words = {"at": [f"{shortest(v)} m" for v in (at + along * off).tolist()], "turn": list(frame.turn)}
            name = unused_name(berth, berths)
            berths[name] = Frame.model_validate(words)
            names.append(name)
        for name, file in zip(names, files, strict=True):
            words = {"do": "place", "at": {"berth": name}, "for": globs_for([file])}
            steps.append(STEPS["place"].model_validate(words))
        label = say("Set {names} side by side from {berth}", names=_list_names(files), berth=berth)
        sheet = self._sheet.document.with_steps(tuple(steps)).model_copy(update={"berths": berths})
        self._sheet.do(label, self._sheet.document.with_sheet(sheet))
        self._sheet.said.emit(label)

    def _leave_out(self, step: Step, files: Sequence[str]) -> Step | None:
        """Return a step that sets assets down without some of them; None where it is for no other."""
        if not berth_in(step) or not any(step.covers(f) for f in files):
            return step
        left = [f for f in self._state.rows if step.covers(f) and f not in files]
        return _aim_step_at(step, left) if left else None

    # The set-out

    def set_out(self, words: Mapping[str, Any]) -> None:
        """Have the sheet say a set-out in these words; of none, that there is none."""
        try:
            told = SetOut.model_validate(words) if words else None
        except ValueError:
            self._sheet.failed.emit(say("Not a set-out: {why}", why=in_words(SetOut, words)))
            return
        sheet = self._sheet.document.sheet
        missing = [b for _, b in told.berths() if b not in sheet.berths] if told is not None else []
        if missing:
            self._sheet.failed.emit(say("Not a set-out: no berth '{missing}' is declared", missing=missing[0]))
        elif told != sheet.set_out:
            label = (
                say("Set out as {file}", file=told.file) if told is not None else say("Take the set-out off the sheet")
            )
            self._sheet.do(label, replace(self._sheet.document, sheet=sheet.model_copy(update={"set_out": told})))


def _is_for(step: Step, files: Sequence[str]) -> bool:
    return all(step.covers(f) for f in files) and step.for_ is not None


def _aim_step_at(step: Step, files: Sequence[str]) -> Step:
    return STEPS[step.do].model_validate({**step.words(), "for": globs_for(files)})


def _list_names(files: Sequence[str]) -> str:
    names = [f.rsplit("/", 1)[-1].rsplit(".", 1)[0] for f in files]
    return ", ".join(names[:2]) + (say(" and {count} more", count=len(names) - 2) if len(names) > 2 else "")
