"""All that keys do in the window: each action under a name that lasts, its keys as they are and as at first."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass

from PySide6.QtCore import QObject, Qt, Signal
from PySide6.QtGui import QAction, QKeySequence
from PySide6.QtWidgets import QWidget

from oak_square.core.words import say

__all__ = ["FIXED_KEYS", "Actions", "KeyRow", "key_hint", "keys_said", "tip"]

FIXED_KEYS: tuple[tuple[tuple[str, ...], str, str], ...] = (
    (("Space",), say("Frame what is selected; twice: all"), say("in the views and lists")),
    (("Up", "Down", "Left", "Right"), say("Turn the camera; walk a list or the stages"), say("in the views and lists")),
    (("+", "=", "-"), say("Nearer and further"), say("in the views")),
    (("X", "Y", "Z"), say("Hold a drag to that axis"), say("while an instrument holds something")),
    (("R",), say("Take what is selected as the reference, or no more"), say("in the line-up")),
    (("PgUp", "PgDown"), say("Walk the box points back and to the front"), say("on the box of points")),
    (
        ("Del",),
        say("Take away what is selected: an asset, a card, a favourite"),
        say("in the batch, the sheet and the tray"),
    ),
    (("Tab", "Shift+Tab"), say("Go on, and back, the way the work goes"), say("everywhere")),
    (("Left", "Right"), say("Walk a row of buttons, which is one stop of Tab's"), say("over and below the views")),
    (
        ("P", "E"),
        say("Pause a step; change for whom it is, its exceptions and its note"),
        say("on a card of the sheet"),
    ),
    (
        ("Ctrl+Left", "Ctrl+Right"),
        say("Move a card along the sheet, a favourite along the tray"),
        say("on a card or a favourite"),
    ),
    (("Menu", "Shift+F10"), say("What the right button offers"), say("everywhere")),
)
"""Keys of parts of the window: the keys, what they do, and where. They stay as they are."""


@dataclass(frozen=True, slots=True, kw_only=True)
class KeyRow:
    """One line of the sheet of keys; `name` is empty where the keys stay as they are, `firm` are those that do."""

    name: str
    words: str
    keys: tuple[str, ...]
    first: tuple[str, ...]
    where: str = ""
    firm: tuple[str, ...] = ()


class Actions(QObject):
    """Makes actions of one widget, and gives them other keys.

    `changed` is sent when a key is another.
    """

    changed = Signal()

    def __init__(self, owner: QWidget) -> None:
        super().__init__(owner)
        self._owner = owner
        self._made: dict[str, QAction] = {}
        self._words: dict[str, str] = {}
        self._first: dict[str, tuple[str, ...]] = {}
        self._firm: set[str] = set()
        self.settings: dict[str, str] = {}
        """Those that set how the window is, by name: what each is a choice of."""

    def add(
        self,
        name: str,
        words: str,
        keys: str | Sequence[str],
        work: Callable[[], object],
        *,
        sets: str = "",
        firm: bool = False,
    ) -> QAction:
        """Return a new action with its keys, which work anywhere in the owner's window.

        `sets` is what it is a choice of, where it sets how the window is. `firm`: these keys stay its own, whatever
        others it is given.
        """
        assert name not in self._made, name
        made = QAction(words, self._owner)
        made.setShortcutContext(Qt.ShortcutContext.WindowShortcut)
        made.triggered.connect(lambda _=False: work())
        self._owner.addAction(made)
        own = (keys,) if isinstance(keys, str) else tuple(keys)
        self._made[name], self._words[name] = made, words
        self._first[name] = tuple(_find_standard_key(key) for key in own if key)
        if sets:
            self.settings[name] = sets
        if firm:
            self._firm.add(name)
        self._set_keys(name, self._first[name])
        return made

    def __getitem__(self, name: str) -> QAction:
        """Return an action."""
        return self._made[name]

    def __contains__(self, name: object) -> bool:
        """Whether there is such an action."""
        return name in self._made

    def rows(self) -> list[KeyRow]:
        """Return all that keys do, in the order in which it was made; what stays as it is at the end."""
        rows = [
            KeyRow(
                name=name,
                words=self._words[name],
                keys=self.keys(name),
                first=self._first[name],
                firm=self._first[name] if name in self._firm else (),
            )
            for name in self._made
        ]
        fixed = [KeyRow(name="", words=words, keys=keys, first=keys, where=where) for keys, words, where in FIXED_KEYS]
        return rows + fixed

    def keys(self, name: str) -> tuple[str, ...]:
        """Return the keys of an action as they are now."""
        return tuple(k.toString() for k in self._made[name].shortcuts())

    def other_keys(self) -> dict[str, tuple[str, ...]]:
        """Return the keys that are other than at first, by action."""
        return {name: self.keys(name) for name in self._made if self.keys(name) != self._first[name]}

    def whose(self, key: str, but: str) -> KeyRow | None:
        """Return what else has a key, or a key that begins or goes on with it; None where nothing has."""
        for row in self.rows():
            if row.name != but and any(_is_clash(key, own) for own in row.keys):
                return row
        return None

    def give(self, name: str, keys: Sequence[str]) -> None:
        """Give an action these keys, beside its firm ones; whatever else had one of them has it no more."""
        wanted = tuple(_find_standard_key(key) for key in keys)
        for other in self._made:
            if other != name:
                left = tuple(k for k in self.keys(other) if not any(_is_clash(k, key) for key in wanted))
                self._set_keys(other, left)
        self._set_keys(name, wanted)
        self._tell_keys()
        self.changed.emit()

    def take_up(self, keys: Mapping[str, Sequence[str]]) -> None:
        """Have these actions those keys, and all others the ones they had at first."""
        for name, first in self._first.items():
            self._set_keys(name, tuple(keys.get(name, first)))
        self._tell_keys()

    def as_first(self, name: str = "") -> None:
        """Give an action the keys that it had at first, or all actions."""
        if name:
            self.give(name, self._first[name])
        else:
            self.take_up({})
            self.changed.emit()

    def _set_keys(self, name: str, keys: Sequence[str]) -> None:
        if name in self._firm:
            keys = (*self._first[name], *(key for key in keys if key not in self._first[name]))
        else:
            firm = [key for other in self._firm for key in self._first[other]]
            keys = [key for key in keys if not any(_is_clash(key, own) for own in firm)]
        self._made[name].setShortcuts([QKeySequence(key) for key in keys])
        _now[name] = self.keys(name)

    def _tell_keys(self) -> None:
        """Let the tooltips that say keys say those of now."""
        for widget in self._owner.findChildren(QWidget):
            if widget.property(_KEY_OF):
                widget.setToolTip(widget.property(_KEY_TIP) + key_hint(widget.property(_KEY_OF)))


_now: dict[str, tuple[str, ...]] = {}
_KEY_OF, _KEY_TIP = "key_of", "key_tip"


def key_hint(name: str) -> str:
    """Return the key that does an action now, to go behind what it does: ` (Ctrl+K)`; nothing where it has none."""
    keys = _now.get(name, ())
    return say(" ({key})", key=keys_said(keys[:1])) if keys else ""


def tip(widget: QWidget, words: str, name: str) -> None:
    """Give a widget a tooltip that ends in the key of an action, also when that is given another one; "" for none."""
    widget.setProperty(_KEY_OF, name)
    widget.setProperty(_KEY_TIP, words)
    widget.setToolTip(words + key_hint(name))


def keys_said(keys: Sequence[str]) -> str:
    """Return keys as people read them: `Ctrl+K or F1`, and in German as they stand on a German keyboard."""
    return say(" or ").join(QKeySequence(key).toString(QKeySequence.SequenceFormat.NativeText) for key in keys)


def _find_standard_key(key: str) -> str:
    return QKeySequence(key).toString()


def _is_clash(one: str, other: str) -> bool:
    """Whether two keys can't be told apart: they are the same, or one begins the other."""
    first, second = QKeySequence(one), QKeySequence(other)
    none = QKeySequence.SequenceMatch.NoMatch
    return first.matches(second) != none or second.matches(first) != none
