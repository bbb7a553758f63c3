"""What Rule, Dial and Callipers have in common: handles to take hold of, a drag that is one gesture, numbers typed."""

from __future__ import annotations

import re
from abc import ABC, abstractmethod
from collections.abc import Callable, Mapping, Sequence
from typing import Any, ClassVar

import numpy as np
from numpy.typing import NDArray
from PySide6.QtCore import QPointF, Qt

from oak_square.app.facts.hold import HeldNodes
from oak_square.app.instruments.aims import ClickTarget, aim_at
from oak_square.app.instruments.handles import Handle
from oak_square.app.instruments.hint_label import describe_axes, draw_hint
from oak_square.app.instruments.instrument import Instrument, Scene
from oak_square.app.instruments.wishes import (
    CentreAt,
    DropTried,
    HoldDatum,
    KeepTried,
    LetGo,
    MoveDatum,
    PickNode,
    Redraw,
    Say,
    TryWords,
    Wish,
)
from oak_square.app.view.overlay import Canvas, Lens
from oak_square.app.view.pointing import Pointing
from oak_square.core.errors import BadLength
from oak_square.core.words import say

__all__ = ["LETTERS", "Holder", "started"]

Array = NDArray[np.float64]
LETTERS = "xyz"
_HIT = 10.0  # pixels to either side of a handle: 20 in all
_FURTHER = re.compile(r"(?<![A-Za-z])([xyz])\s*(?=[-+−*/=.,\d])")  # a further axis; not the y of yd
_TYPED = set("0123456789.,+-−*/%='\" ")


class Holder(Instrument, ABC):
    """Takes hold of what is selected by a handle, and wishes for the step that the drag, or a typed number, means."""

    does: ClassVar[str] = ""
    """The verb a handle's tooltip says."""
    example: ClassVar[str] = "x 10 cm"
    has_centre: ClassVar[bool] = True

    def __init__(self, wish: Callable[[Wish], None]) -> None:
        super().__init__(wish)
        self.handle: Handle | None = None
        self._over: Handle | None = None
        self._pressed: Pointing | None = None
        self._pressed_on: Handle | None = None
        self._last: Pointing | None = None
        self.begun: HeldNodes | None = None
        self.going = False
        """Whether a drag goes on: what it means so far is not its last word."""
        self.gesture = 0
        self.entry: str | None = None
        self.reading = ""
        self._armed = False

    # What each of them says

    @abstractmethod
    def handles(self, hold: HeldNodes, lens: Lens) -> list[Handle]:
        """Return the handles as they are in the picture."""

    @abstractmethod
    def dragged(self, hold: HeldNodes, handle: Handle, start: Pointing, now: Pointing) -> Mapping[str, Any] | None:
        """Return the step that a drag means so far; None where it means nothing yet. Sets `reading`."""

    @abstractmethod
    def typed(self, hold: HeldNodes, parts: Sequence[tuple[Handle, str]]) -> Mapping[str, Any]:
        """Return the step that typed numbers mean, each on its handle. Sets `reading`.

        Raises
        ------
        BadLength
            If that is no number, or none that this can be set to.
        """

    @abstractmethod
    def draw_hold(self, canvas: Canvas, hold: HeldNodes) -> None:
        """Draw the handles."""

    def letter_handle(self, hold: HeldNodes, letter: str) -> Handle:
        """Return the handle that a letter stands for."""
        k = LETTERS.index(letter)
        return Handle(name=letter, axes=(k,), line=np.empty((0, 2)))

    def refuses(self, hold: HeldNodes) -> str:
        """Return why this can't be done to what is held; empty where it can."""
        return hold.trouble

    @property
    def marks(self) -> Mapping[str, Any]:
        """What of the words it wished for last are picks."""
        return {}

    @property
    def motion(self) -> Array | None:
        """The one world motion that all that is held makes so far; None where each makes its own."""
        return None

    @property
    def onto(self) -> ClickTarget | None:
        """What was picked that what is held was brought onto."""
        return None

    def _try_words(self, words: Mapping[str, Any], *, going: bool = False) -> None:
        """Wish for what a gesture means so far: a step; or, of a datum, that it stands elsewhere."""
        hold, motion = self.begun, self.motion
        if hold is None or not hold.datum:
            marks = {} if going else self.marks
            self.wish(TryWords(words=words, gesture=self.gesture, going=going, marks=marks, motion=motion))
        elif motion is not None:
            onto = None if going else self.onto
            self.wish(MoveDatum(name=hold.datum, motion=motion, gesture=self.gesture, going=going, onto=onto))

    # Shown

    @property
    def band(self) -> str:
        """What it goes along and about, and how to type."""
        hold = self.scene.hold
        if self.is_bare:
            return say("{word}: {entry}: {why}  ·  Esc", word=self.word, entry=self.entry, why=self._why_idle())
        if hold is None:
            return say("{word}: select an asset, or pick parts, to take hold of", word=self.word)
        pivots = say("pivots only, geometry stays  ·  ") if hold.pivots else ""
        pivots = say("the vertices taken  ·  ") if hold.points is not None else pivots
        pivots = say("datum {datum} by itself, nothing else moves  ·  ", datum=hold.datum) if hold.datum else pivots
        trouble = self.refuses(hold)
        if trouble:
            return say("{word}: {trouble}  ·  Esc", word=self.word, trouble=trouble)
        about = say(", about {centre}", centre=self.centre_said(hold)) if self.has_centre else ""
        return say(
            "{word}: {pivots}along {axes}{about}  ·  drag, or type {example}  ·  Esc",
            word=self.word,
            pivots=f"{hold.beside}  ·  {pivots}" if hold.beside else pivots,
            axes=describe_axes(hold),
            about=about,
            example=self.example,
        )

    def centre_said(self, hold: HeldNodes) -> str:
        """Return the centre in force in words."""
        return hold.about

    @property
    def cursor(self) -> Qt.CursorShape:
        """An open hand over what can be taken."""
        return Qt.CursorShape.OpenHandCursor if self._over is not None else Qt.CursorShape.ArrowCursor

    def hint(self, at: Pointing) -> str:
        """Say what the handle does."""
        return (
            ""
            if self._over is None
            else say(
                "{does} along {names}", does=self.does, names=say(" and ").join(LETTERS[k] for k in self._over.axes)
            )
        )

    def show(self, scene: Scene) -> None:
        """Take note; what was typed for one thing is not typed for another."""
        if self.begun is not None and self._pressed_on is None and not _is_same(self.begun, scene.hold):
            self._end_gesture()
        super().show(scene)

    def take_up(self) -> None:
        """Begin anew."""
        self._end_gesture()

    def lay_down(self) -> bool:
        """Close the entry, or drop what is dragged just now."""
        had = self.entry is not None or self._pressed_on is not None
        if had and not self.is_bare:
            self._drop_begun(self.begun)
        self._end_gesture()
        return had

    def _drop_begun(self, hold: HeldNodes | None) -> None:
        """Let what was begun come to nothing."""
        if hold is not None and hold.datum:
            self.wish(MoveDatum(name=hold.datum, motion=np.eye(4), gesture=self.gesture))
        else:
            self.wish(DropTried())
        self._end_gesture()

    def _datum_at(self, at: Pointing) -> str:
        """Return the name of the datum whose ring is under the pointer; empty where there is none."""
        for datum in self.scene.facts.datums:
            seen = at.lens.seen(datum.at[None])[0]
            if seen[2] > 0 and np.hypot(seen[0] - at.x, seen[1] - at.y) <= _HIT:
                return datum.name
        return ""

    def leave(self) -> None:
        """Another instrument is taken up: what is tried stays tried."""
        self._end_gesture()

    def _end_gesture(self) -> None:
        self.handle = self._pressed_on = self._pressed = self.begun = self.entry = self._over = None
        self.reading, self._armed, self._last = "", False, None

    def hover(self, at: Pointing | None) -> None:
        """Find the handle under the pointer."""
        hold = self.scene.hold
        self._over = None
        if at is not None and hold is not None and not self.refuses(hold):
            self._over = self._find_handle(hold, at)

    def _find_handle(self, hold: HeldNodes, at: Pointing) -> Handle | None:
        near = [(h.away(at.x, at.y), k, h) for k, h in enumerate(self.handles(hold, at.lens))]
        near = [n for n in near if n[0] <= _HIT]
        return min(near)[2] if near else None

    def press(self, at: Pointing) -> None:
        """Take hold; nothing is dragged yet."""
        hold = self.scene.hold
        self._pressed, self._pressed_on, self._armed, self.entry = at, None, False, None
        self._last, self.reading = None, ""
        if hold is None:
            return
        why = self.refuses(hold)
        handle = None if why else self._find_handle(hold, at) or self.grab(hold, at)
        if why and self._find_handle(hold, at) is not None:
            self.wish(Say(why))
        if handle is not None:
            self.handle = self._pressed_on = handle
            self.begun, self.gesture = hold, self.fresh_gesture()

    def grab(self, hold: HeldNodes, at: Pointing) -> Handle | None:
        """Return a handle of the thing itself under the pointer; None where it is not taken so."""
        return None

    def move(self, at: Pointing) -> None:
        """Go along."""
        if self._pressed_on is None or self.begun is None or self._pressed is None or self.handle is None:
            return
        self._last = at
        if self.entry is not None:
            return  # a typed number holds against the pointer
        self.going = True
        words = self.dragged(self.begun, self.handle, self._pressed, at)
        if words is not None:
            self._try_words(words, going=True)
        self.wish(Redraw())

    def release(self, at: Pointing) -> None:
        """Let go: what was dragged is tried; a click without a drag picks."""
        taken, self._pressed_on = self._pressed_on, None
        if at.clicked and (taken is None or taken.name == "grab"):
            self.handle = None
            datum = self._datum_at(at)
            if datum:
                self.wish(HoldDatum(datum))
                return
            hit = at.hit()
            if at.free:
                aim = aim_at(at, self.scene.target)
                if aim is not None:
                    self.wish(CentreAt(aim=aim))
                return
            self.wish(LetGo() if hit is None else PickNode(file=hit[0].file, node=hit[0].node, beside=at.beside))
            return
        if taken is None or self.begun is None or self._pressed is None or self.handle is None or at.clicked:
            return
        self.going = False
        if self.entry is None:
            words = self.dragged(self.begun, self.handle, self._pressed, at)
            if words is not None:
                self._try_words(words)
        self._armed = True
        self.wish(Redraw())

    # Typed

    def reads(self, key: str) -> bool:
        """Letters of axes any time; numbers while something is dragged or just was; all while an entry is open."""
        if key == "escape" and self._armed:
            return True
        if self.entry is not None:
            own = ("enter", "escape", "backspace", "tab")[: 4 if self.asks else 3]
            return key in own or (len(key) == 1 and key.isprintable())
        if key in LETTERS and len(key) == 1:
            return True
        hold = self.scene.hold
        if hold is None or self.refuses(hold):
            return False
        return (
            (self._armed or self._pressed_on is not None) and self.handle is not None and key in _TYPED and key != " "
        )

    def read(self, key: str) -> None:
        """Take a letter of what is typed."""
        going = self._armed or self._pressed_on is not None or self.entry is not None
        hold = self.begun if going and self.begun is not None else self.scene.hold
        if self.is_bare or hold is None or self.refuses(hold):
            self._read_bare(key)
            return
        if self.entry is None and key in LETTERS:
            self._hold_to(hold, key)
        elif key == "enter":
            self.entry, self._armed = None, False
            self.begun = self.handle = None
            if not hold.datum:
                self.wish(KeepTried())
        elif key == "escape":
            self._drop_begun(hold)
        elif key == "tab":
            self.turn_over()
            self._try_typed(hold)
        else:
            self._type_key(hold, key)
        self.wish(Redraw())

    @property
    def asks(self) -> str:
        """What is open about what is typed, and how it is changed with Tab; empty where nothing is."""
        return ""

    def turn_over(self) -> None:
        """Change what is open about what is typed."""

    @property
    def is_bare(self) -> bool:
        """Whether what is typed so far says of no axis: it is shown, and does nothing."""
        return self.entry is not None and self.handle is None

    @property
    def begins_entry(self) -> bool:
        """Whether a digit may begin an entry: where none is open, and none goes on from a drag."""
        return self.entry is None and self._pressed_on is None

    def open_entry(self, text: str) -> None:
        """Show what was typed without an axis; of nothing, close it."""
        self._end_gesture()
        self.entry = text or None
        self.wish(Redraw())

    def _read_bare(self, key: str) -> None:
        """Take a letter of what can't act: it is shown, and Enter says why it does nothing."""
        text = self.entry or ""
        if key == "enter":
            self.wish(Say(self._why_idle()))
        elif key == "escape":
            self._end_gesture()
        else:
            self.entry = text[:-1] if key == "backspace" else text + key
            self.entry = self.entry or None
        self.wish(Redraw())

    def _why_idle(self) -> str:
        """Return why what is typed does nothing."""
        hold = self.scene.hold
        if hold is None:
            return say("select an asset, or pick parts, to take hold of")
        return self.refuses(hold) or say("type the axis first: {example}", example=self.example)

    def note_present(self, hold: HeldNodes, *, goes_on: bool) -> None:
        """Take note of what is there as an entry begins, which `+4cm` starts from; `goes_on`, from what was dragged."""

    def _hold_to(self, hold: HeldNodes, letter: str) -> None:
        """Hold a drag to an axis; or, while nothing is dragged, begin to type along it."""
        if self._pressed_on is not None:
            self.handle = self.held_to(hold, letter)
            return
        self.note_present(hold, goes_on=self._armed)
        self.handle, self.entry = self.letter_handle(hold, letter), ""
        if not self._armed:
            self.begun, self.gesture = hold, self.fresh_gesture()

    def held_to(self, hold: HeldNodes, letter: str) -> Handle:
        """Return the handle that a drag goes on with once it is held to an axis."""
        return self.letter_handle(hold, letter)

    def _type_key(self, hold: HeldNodes, key: str) -> None:
        if self.entry is None:
            self.note_present(hold, goes_on=True)
        text = self.entry or ""
        self.entry = text[:-1] if key == "backspace" else text + key
        self._try_typed(hold)

    def _try_typed(self, hold: HeldNodes) -> None:
        """Try what is typed so far, as far as it can be read."""
        if self.handle is None or not self.entry or not self.entry.strip(" =+-"):
            return
        first, *more = _FURTHER.split(self.entry)
        further = zip(more[::2], more[1::2], strict=True)
        parts = [(self.handle, first.strip()), *((self.letter_handle(hold, a), t.strip()) for a, t in further)]
        try:
            words = self.typed(hold, parts)
        except BadLength:
            return  # not a number yet
        self._try_words(words)

    # Drawing

    def draw(self, canvas: Canvas) -> None:
        """Draw the handles, and what is read or typed."""
        hold = self.scene.hold
        if hold is None:
            return
        if not self.refuses(hold):
            self.draw_hold(canvas, hold)
        text = self.reading
        if self.entry is not None and self.handle is not None:
            axes = " ".join(LETTERS[k] for k in self.handle.axes) if len(self.handle.axes) < 3 else "all"
            text = "   ".join(filter(None, (f"{axes}  {self.entry}│", self.asks)))
        elif self.entry is not None:
            text = f"{self.entry}│"
        if text:
            draw_hint(canvas, self._plate_at(canvas, hold), text, strong=self.entry is not None)

    def _plate_at(self, canvas: Canvas, hold: HeldNodes) -> QPointF:
        """Return where words stand: beside the pointer while it drags, else under the centre."""
        if self._last is not None:
            return QPointF(self._last.x + 18, self._last.y + 14)
        seen = canvas.lens.seen(hold.centre[None])[0]
        return QPointF(float(seen[0]) + 16, float(seen[1]) + 18)


def _is_same(one: HeldNodes, other: HeldNodes | None) -> bool:
    """Tell whether the same thing is held."""
    return other is not None and (one.asset.file, one.nodes, one.datum) == (other.asset.file, other.nodes, other.datum)


def started(hold: HeldNodes, do: str, own: Sequence[str]) -> Mapping[str, Any]:
    """Return the draft's words where a further gesture of the same kind goes on from them; else none."""
    words = hold.started
    if words.get("do") != do or any(
        k not in (*own, "do", "for", "parts", "of", "along", "about", "together") for k in words
    ):
        return {}
    same = {k: words.get(k) for k in ("along", "about")} == {
        k: {**hold.axis_words, **hold.centre_words}.get(k) for k in ("along", "about")
    }
    return words if same else {}
