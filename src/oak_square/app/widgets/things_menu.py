"""The marks and datums there are: a button with a menu that shows, names, uses and forgets them."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QInputDialog, QLineEdit, QMenu, QPushButton, QWidget

from oak_square.app.widgets.actions import key_hint
from oak_square.core.terms import term
from oak_square.core.words import say

__all__ = ["ThingsButton"]


class ThingsButton(QPushButton):
    """Lists what has a name; wishes for it to be named, used, moved, turned, forgotten."""

    name_wished = Signal(str, str, str)  # kind, old name, new name
    forget_wished = Signal(str, str)
    set_down_wished = Signal(str)  # the berth that what is selected goes to
    beside_wished = Signal(str)  # the berth from which what is selected stands side by side
    berth_wished = Signal(
        str, str
    )  # how a berth is made: `pick`, `paste`, `typed` or `datum`; what was typed, or which datum
    use_wished = Signal(str)
    take_wished = Signal(str)  # the datum that is to be moved and turned by hand
    datum_wished = Signal(str, str)  # name, and what becomes of it: `square`, `view`, `pivot`
    mark_wished = Signal(str, str)  # a datum, and the mark that it shall stand at
    typed = Signal(str, str)  # name, three lengths as they were typed

    def __init__(self, parent: QWidget) -> None:
        super().__init__("named", parent)
        self.setProperty("role", "small")
        self.setToolTip(say("The marks and datums of the sheet: name, use, line up or forget them"))
        self.setAccessibleName(say("Named marks and datums"))
        self.setMenu(QMenu(self))
        self._count, self._is_short = 0, False

    def show_short(self, wanted: bool) -> None:
        """Write no more than how many there are, where there is little room."""
        self._is_short = wanted
        if wanted:
            self.setText(str(self._count))
        else:
            self.setText(say("named {count}", count=self._count) if self._count else say("named"))

    def show_things(
        self, marks: Sequence[tuple[str, str]], datums: Sequence[str], used: str, berths: Sequence[str] = ()
    ) -> None:
        """Show marks, each with what it is, datums and berths; `used` is the datum in use."""
        menu = self.menu()
        menu.clear()
        self._count = len(marks) + len(datums) + len(berths)
        self.show_short(self._is_short)
        if not self._count:
            menu.addAction(
                say("Nothing has a name yet: pick a point, or put down a datum{key}", key=key_hint("hold.datum"))
            ).setEnabled(False)
        for name, what in marks:
            below = menu.addMenu(say("mark {name}: {what}", name=name, what=what))
            below.addAction(say("Name it…")).triggered.connect(lambda _=False, n=name: self._ask_name("mark", n))
            below.addAction(say("Forget it")).triggered.connect(
                lambda _=False, n=name: self.forget_wished.emit("mark", n)
            )
        for name in datums:
            below = menu.addMenu(
                say("datum {name}  (in use)", name=name) if name == used else say("datum {name}", name=name)
            )
            words = say("Put it aside") if name == used else say("Use it")
            wanted = "" if name == used else name
            below.addAction(words).triggered.connect(lambda _=False, n=wanted: self.use_wished.emit(n))
            below.addAction(say("Move and turn it by hand")).triggered.connect(
                lambda _=False, n=name: self.take_wished.emit(n)
            )
            for key, word in (
                ("square", say("To the nearest right angles")),
                ("view", say("Along the view")),
                ("pivot", say("To the picked pivot, or the origin")),
            ):
                below.addAction(word).triggered.connect(lambda _=False, n=name, k=key: self.datum_wished.emit(n, k))
            below.addAction(say("Type where it is…")).triggered.connect(lambda _=False, n=name: self._ask_place(n))
            for mark, what in marks:
                at = below.addAction(say("At mark {mark}, {what}", mark=mark, what=what))
                at.triggered.connect(lambda _=False, n=name, m=mark: self.mark_wished.emit(n, m))
            below.addAction(say("Name it…")).triggered.connect(lambda _=False, n=name: self._ask_name("datum", n))
            below.addAction(say("Forget it")).triggered.connect(
                lambda _=False, n=name: self.forget_wished.emit("datum", n)
            )

        for name in berths:
            below = menu.addMenu(say("berth {name}", name=name))
            below.addAction(say("Set down or swap what is selected")).triggered.connect(
                lambda _=False, n=name: self.set_down_wished.emit(n)
            )
            below.addAction(say("Set what is selected side by side from here")).triggered.connect(
                lambda _=False, n=name: self.beside_wished.emit(n)
            )
            below.addAction(say("Name it…")).triggered.connect(lambda _=False, n=name: self._ask_name("berth", n))
            below.addAction(say("Forget it")).triggered.connect(
                lambda _=False, n=name: self.forget_wished.emit("berth", n)
            )
        menu.addSeparator()
        fresh = menu.addMenu(say("New berth"))
        for key, word in (
            ("pick", say("At a point picked in the view")),
            ("paste", say("At the point that is copied")),
        ):
            fresh.addAction(word).triggered.connect(lambda _=False, k=key: self.berth_wished.emit(k, ""))
        fresh.addAction(say("Typed…")).triggered.connect(lambda _=False: self._ask_berth())
        for name in datums:
            fresh.addAction(say("At datum {name}", name=name)).triggered.connect(
                lambda _=False, n=name: self.berth_wished.emit("datum", n)
            )

    def _ask_berth(self) -> None:
        text, agreed = QInputDialog.getText(
            self, say("New berth"), say("Where it is: x, y, z, such as 1.2 m, 0, -40 cm")
        )
        if agreed:
            self.berth_wished.emit("typed", text)

    def _ask_name(self, kind: str, old: str) -> None:
        new, agreed = QInputDialog.getText(
            self, say("Name {kind}", kind=term(kind)), say("Its name"), QLineEdit.EchoMode.Normal, old
        )
        if agreed:
            self.name_wished.emit(kind, old, new)

    def _ask_place(self, name: str) -> None:
        text, agreed = QInputDialog.getText(
            self, say("Datum {name}", name=name), say("Where it is: x, y, z, such as 1.2 m, 0, -40 cm")
        )
        if agreed:
            self.typed.emit(name, text)
