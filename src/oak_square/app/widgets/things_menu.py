"""The marks and datums there are: a button with a menu that shows, names, uses and forgets them."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QInputDialog, QLineEdit, QMenu, QPushButton, QWidget

__all__ = ["ThingsButton"]


class ThingsButton(QPushButton):
    """Lists what has a name; wishes for it to be named, used, moved, turned, forgotten."""

    name_wished = Signal(str, str, str)  # kind, old name, new name
    forget_wished = Signal(str, str)
    set_down_wished = Signal(str)  # the berth that what is selected goes to
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
        self.setToolTip("The marks and datums of the sheet: name, use, line up or forget them")
        self.setAccessibleName("Named marks and datums")
        self.setMenu(QMenu(self))
        self._count, self._is_short = 0, False

    def show_short(self, wanted: bool) -> None:
        """Write no more than how many there are, where there is little room."""
        self._is_short = wanted
        word = "" if wanted else "named "
        self.setText(f"{word}{self._count or ''}".strip() or ("0" if wanted else "named"))

    def show_things(
        self, marks: Sequence[tuple[str, str]], datums: Sequence[str], used: str, berths: Sequence[str] = ()
    ) -> None:
        """Show marks, each with what it is, datums and berths; `used` is the datum in use."""
        menu = self.menu()
        menu.clear()
        self._count = len(marks) + len(datums) + len(berths)
        self.show_short(self._is_short)
        if not self._count:
            menu.addAction("Nothing has a name yet: pick a point, or put down a datum (D)").setEnabled(False)
        for name, what in marks:
            below = menu.addMenu(f"mark {name}: {what}")
            below.addAction("Name it…").triggered.connect(lambda _=False, n=name: self._ask_name("mark", n))
            below.addAction("Forget it").triggered.connect(lambda _=False, n=name: self.forget_wished.emit("mark", n))
        for name in datums:
            below = menu.addMenu(f"datum {name}{'  (in use)' if name == used else ''}")
            words = "Put it aside" if name == used else "Use it"
            wanted = "" if name == used else name
            below.addAction(words).triggered.connect(lambda _=False, n=wanted: self.use_wished.emit(n))
            below.addAction("Move and turn it by hand").triggered.connect(
                lambda _=False, n=name: self.take_wished.emit(n)
            )
            for key, word in (
                ("square", "To the nearest right angles"),
                ("view", "Along the view"),
                ("pivot", "To the picked pivot, or the origin"),
            ):
                below.addAction(word).triggered.connect(lambda _=False, n=name, k=key: self.datum_wished.emit(n, k))
            below.addAction("Type where it is…").triggered.connect(lambda _=False, n=name: self._ask_place(n))
            for mark, what in marks:
                at = below.addAction(f"At mark {mark}, {what}")
                at.triggered.connect(lambda _=False, n=name, m=mark: self.mark_wished.emit(n, m))
            below.addAction("Name it…").triggered.connect(lambda _=False, n=name: self._ask_name("datum", n))
            below.addAction("Forget it").triggered.connect(lambda _=False, n=name: self.forget_wished.emit("datum", n))

        for name in berths:
            below = menu.addMenu(f"berth {name}")
            below.addAction("Set down or swap what is selected").triggered.connect(
                lambda _=False, n=name: self.set_down_wished.emit(n)
            )
            below.addAction("Name it…").triggered.connect(lambda _=False, n=name: self._ask_name("berth", n))
            below.addAction("Forget it").triggered.connect(lambda _=False, n=name: self.forget_wished.emit("berth", n))
        menu.addSeparator()
        fresh = menu.addMenu("New berth")
        for key, word in (("pick", "At a point picked in the view"), ("paste", "At the point that is copied")):
            fresh.addAction(word).triggered.connect(lambda _=False, k=key: self.berth_wished.emit(k, ""))
        fresh.addAction("Typed…").triggered.connect(lambda _=False: self._ask_berth())
        for name in datums:
            fresh.addAction(f"At datum {name}").triggered.connect(
                lambda _=False, n=name: self.berth_wished.emit("datum", n)
            )

    def _ask_berth(self) -> None:
        text, agreed = QInputDialog.getText(self, "New berth", "Where it is: x, y, z, such as 1.2 m, 0, -40 cm")
        if agreed:
            self.berth_wished.emit("typed", text)

    def _ask_name(self, kind: str, old: str) -> None:
        new, agreed = QInputDialog.getText(self, f"Name {kind}", "Its name", QLineEdit.EchoMode.Normal, old)
        if agreed:
            self.name_wished.emit(kind, old, new)

    def _ask_place(self, name: str) -> None:
        text, agreed = QInputDialog.getText(self, f"Datum {name}", "Where it is: x, y, z, such as 1.2 m, 0, -40 cm")
        if agreed:
            self.typed.emit(name, text)
