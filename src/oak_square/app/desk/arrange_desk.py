"""Between the window and its habits: where things stand, what lengths are shown in, and what was open."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from functools import partial
from pathlib import Path

from PySide6.QtCore import QObject, QSize, QTimer, Signal
from PySide6.QtGui import QAction
from PySide6.QtWidgets import QInputDialog, QMenu, QWidget

from oak_square.app.desk.view_desk import ViewDesk
from oak_square.app.instruments.aims import KINDS
from oak_square.app.session.habit_book import HabitBook
from oak_square.app.session.habits import Arrangement, Snaps
from oak_square.app.session.session import Session
from oak_square.app.view.view_area import VIEWS
from oak_square.app.widgets.actions import Actions
from oak_square.app.widgets.batch_column import BatchColumn
from oak_square.app.widgets.frame import WindowFrame, opening_size
from oak_square.app.widgets.sort_menu import SortButton
from oak_square.core.errors import did_you_mean
from oak_square.core.terms import term
from oak_square.core.words import say
from oak_square.demo import BATCH

__all__ = ["ArrangeDesk", "WindowParts"]

_RESTS_MS = 200
_STEP = 40  # pixels by which a key widens a column


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class WindowParts:
    """The parts of the window that stand in one place or another."""

    frame: WindowFrame
    column: BatchColumn
    sort: SortButton
    desk: ViewDesk
    view: Callable[[], str]
    show_view: Callable[[str], object]


class ArrangeDesk(QObject):
    """Takes note of how things stand, and has them stand so again: at the next start, or by a name."""

    open_wished = Signal(list)  # paths of a batch, or of a sheet

    def __init__(
        self, session: Session, habits: HabitBook, deeds: Actions, parts: WindowParts, menu: QMenu, window: QWidget
    ) -> None:
        super().__init__(window)
        self._session, self._habits, self._parts, self._window = session, habits, parts, window
        self._menu, self._batches, self._sheets = (
            menu.addMenu(words) for words in (say("Arrangement"), say("Recent batches"), say("Recent sheets"))
        )
        for at, side in enumerate(("left", "right")):
            for word, by in (("wider", _STEP), ("narrower", -_STEP)):
                work = partial(parts.frame.widen, at, by)
                deeds.add(
                    f"column.{side}.{word}",
                    say("Make the {side} column {word}", side=term(side), word=term(word)),
                    "",
                    work,
                    sets="arrangement",
                )
        self._restored = False
        self._rests = QTimer(self, singleShot=True, interval=_RESTS_MS)
        self._rests.timeout.connect(self.note)
        parts.frame.resized.connect(self._rests.start)
        parts.column.split.splitterMoved.connect(lambda *_: self._rests.start())
        parts.sort.arrangement_wished.connect(lambda _: self._rests.start())
        session.shown_changed.connect(lambda: habits.change(unit=session.unit))
        session.batch.opened.connect(self._remember_batch)
        session.sheet.document_changed.connect(self._remember_sheet)
        parts.desk.settings_changed.connect(self._note_snaps)
        habits.changed.connect(self.show_menus)
        self.show_menus()

    def restore(self) -> None:
        """Have everything stand as it stood when the window was closed last."""
        habits = self._habits.now
        self._session.show_in(habits.unit)
        snaps = habits.snaps
        kinds = frozenset(KINDS) if snaps.kinds is None else frozenset(snaps.kinds) & frozenset(KINDS)
        self._parts.desk.set_hand(
            kinds=kinds, angle_step_deg=snaps.angle_step_deg, to_grid=snaps.to_grid, grid_m=snaps.grid_m
        )
        if habits.size is not None:
            self._window.resize(opening_size(self._window.screen().availableSize(), QSize(*habits.size)))
        self._restored = True
        self.arrange(habits.arrangement)

    def arrange(self, wanted: Arrangement) -> None:
        """Have the parts of the window stand so."""
        parts = self._parts
        parts.frame.set_widths(wanted.left, wanted.right)
        parts.column.set_share(wanted.share)
        parts.sort.show_arrangement(wanted.sort, wanted.group)
        parts.show_view(wanted.view if wanted.view in VIEWS else "bench")
        self.note()

    def present(self) -> Arrangement:
        """Return how they stand."""
        parts = self._parts
        (left, right), (sort, group) = parts.frame.widths, parts.sort.arrangement
        share = round(parts.column.share, 3)
        return Arrangement(left=left, right=right, share=share, view=parts.view(), sort=sort, group=group)

    def note(self) -> None:
        """Take note of how they stand."""
        if self._restored:
            self._habits.change(arrangement=self.present())

    def note_size(self) -> None:
        """Take note of how large the window is, unless it fills the screen."""
        if self._restored and not (self._window.isMaximized() or self._window.isFullScreen()):
            self._habits.change(size=(self._window.width(), self._window.height()))

    # Names

    def keep_as(self, name: str) -> None:
        """Keep how things stand under a name."""
        if name:
            self._habits.change(arrangements={**self._habits.now.arrangements, name: self.present()})
            self._session.messages.said.emit(say("Arrangement {name} is kept", name=name))

    def forget(self, name: str) -> None:
        """Forget an arrangement."""
        self._habits.change(arrangements={n: a for n, a in self._habits.now.arrangements.items() if n != name})

    def take(self, name: str) -> None:
        """Have things stand as they are kept under a name."""
        there = self._habits.now.arrangements
        if name in there:
            self.arrange(there[name])
        else:
            self._session.messages.said.emit(
                say(
                    "There is no arrangement {name}{did_you_mean}",
                    name=name,
                    did_you_mean=did_you_mean(name, list(there)),
                )
            )

    def _ask_name(self) -> None:
        name, agreed = QInputDialog.getText(self._window, say("Arrangement"), say("What it is called"))
        if agreed:
            self.keep_as(name.strip())

    # Menus

    def show_menus(self) -> None:
        """Match the menus to the habits."""
        habits = self._habits.now
        self._menu.clear()
        for name in habits.arrangements:
            _add_item(self._menu, say("Arrangement {name}", name=name), f"arrangement/{name}", partial(self.take, name))
        _add_item(self._menu, say("As it was at first"), "arrangement-first", lambda: self.arrange(Arrangement()))
        self._menu.addSeparator()
        _add_item(self._menu, say("Keep this arrangement as…"), "arrangement-keep", self._ask_name)
        for name in habits.arrangements:
            _add_item(
                self._menu,
                say("Forget arrangement {name}", name=name),
                f"arrangement-forget/{name}",
                partial(self.forget, name),
            )
        for menu, lists in (
            (self._batches, [list(batch) for batch in habits.batches]),
            (self._sheets, [[sheet] for sheet in habits.sheets]),
        ):
            menu.clear()
            for paths in lists:
                words = ", ".join(Path(p).name for p in paths)
                shown = f"{words}   ({Path(paths[0]).parent})"
                item = _add_item(menu, shown, f"open/{'|'.join(paths)}", partial(self._open_recent, paths))
                item.setToolTip("\n".join(paths))
            if not lists:
                menu.addAction(say("None yet")).setEnabled(False)

    def _open_recent(self, paths: list[str]) -> None:
        gone = [p for p in paths if not Path(p).exists()]
        if gone:
            self._session.messages.failed.emit(say("{gone}: is not there any more", gone=gone[0]))
        there = [Path(p) for p in paths if p not in gone]
        if there:
            self.open_wished.emit(there)

    # What was open

    def _remember_batch(self, _paths: list[Path]) -> None:
        paths = self._session.paths
        if paths and BATCH not in paths:
            self._habits.remember_batch(paths)

    def _remember_sheet(self) -> None:
        path = self._session.sheet.path
        if path is not None and str(path.absolute()) != next(iter(self._habits.now.sheets), None):
            self._habits.remember_sheet(path)

    def _note_snaps(self) -> None:
        hand = self._parts.desk.display.settings
        every = hand.kinds == frozenset(KINDS)
        kinds = None if every else tuple(sorted(hand.kinds))
        snaps = Snaps(kinds=kinds, angle_step_deg=hand.angle_step_deg, to_grid=hand.to_grid, grid_m=hand.grid_m)
        self._habits.change(snaps=snaps)


def _add_item(menu: QMenu, words: str, name: str, work: Callable[[], object]) -> QAction:
    item = menu.addAction(words.replace("&", "&&"))
    item.setData(name)
    item.triggered.connect(lambda _=False: work())
    return item
