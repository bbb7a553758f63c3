"""Between the finder, the tray, the keys and all that can be run: what there is, and how each is done."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping, Sequence
from contextlib import suppress
from functools import partial

from PySide6.QtCore import QEvent, QObject, Signal
from PySide6.QtGui import QAction, QContextMenuEvent
from PySide6.QtWidgets import QApplication, QLineEdit, QMenu, QWidget

from oak_square.app.facts.finder import SETTLE, FinderEntry, things_named, things_of
from oak_square.app.facts.findings import having
from oak_square.app.panel.bodies import Bodies
from oak_square.app.session.habit_book import HabitBook
from oak_square.app.session.habits import Habits
from oak_square.app.session.session import Session
from oak_square.app.widgets.actions import Actions
from oak_square.app.widgets.controls import Control, controls, path_of, press, reveal
from oak_square.app.widgets.finder import Finder
from oak_square.app.widgets.keys_sheet import KeysSheet
from oak_square.app.widgets.manual_view import ManualView
from oak_square.app.widgets.tray import Tray
from oak_square.core.errors import DataTrouble
from oak_square.core.findings.finding import KINDS
from oak_square.core.marks import mark_bearers
from oak_square.core.stages import STAGES, stage_name
from oak_square.core.terms import term
from oak_square.core.words import say
from oak_square.manual import pages

__all__ = ["FinderDesk"]

_MOST_BY_KEY = 9


_STAGE_OF = {
    "rule": "place", "dial": "turn", "callipers": "size", "dividers": "size", "swing": "pivot", "datum": "pivot",
}  # fmt: skip
"""The stage whose page of the manual an instrument is in."""


class FinderDesk(QObject):
    """Opens the finder, fills the tray, and runs what is wished for from either."""

    set_down_wished = Signal(str)  # a berth
    settle_wished = Signal(str)  # a finding's code
    show_wished = Signal(QWidget, str)  # a control, and the region of the window it lies in: bring that to the front

    def __init__(
        self,
        session: Session,
        habits: HabitBook,
        deeds: Actions,
        where: tuple[Mapping[str, tuple[str, QWidget]], Bodies],
        parts: tuple[Finder, Tray],
        window: QWidget,
    ) -> None:
        """Take where controls lie: regions by name, each with a kind of entry and its widget; and the stages' forms."""
        super().__init__(window)
        self._session, self._habits, self._deeds, self._window = session, habits, deeds, window
        self._others, self._forms = where
        self.finder, self.tray = parts
        self._controls: dict[str, Control] = {}
        self._entries: dict[str, FinderEntry] = {}
        self.finder.run_wished.connect(self.run)
        self.finder.tray_wished.connect(self.turn_tray)
        self.tray.run_wished.connect(self.run)
        self.tray.out_wished.connect(self.turn_tray)
        self.tray.order_wished.connect(lambda names: habits.change(tray=self._with_absent(names)))
        self._manual: ManualView | None = None
        self.instrument_at_hand: Callable[[], str] = lambda: ""
        """Returns the name of the instrument that is in hand, or that the focus is on."""
        deeds.add("finder", say("Find anything by a few letters"), "Ctrl+K", self.open)
        deeds.add("manual", say("Look it up: the manual first, then all else"), "F1", self.open_help)
        deeds.add("keys", say("All keys, on one sheet…"), "F9", self.open_keys)
        for k in range(_MOST_BY_KEY):
            deeds.add(
                f"tray.{k + 1}", say("Do number {k} of the tray", k=k + 1), f"Ctrl+{k + 1}", partial(self._run_nth, k)
            )
        deeds.changed.connect(lambda: habits.change(keys=deeds.other_keys()))
        self._followed: Habits | None = None
        habits.follow(self._follow_keys)

    # What there is

    def entries(self) -> list[FinderEntry]:
        """Return all there is now: what can be done first, then what it can be done to."""
        found = [self._action_entry(row.name) for row in self._deeds.rows() if row.name]
        return [*found, *self._scan_controls().values(), *things_of(self._session), *self._list_pages()]

    def _list_pages(self) -> list[FinderEntry]:
        """Return the pages of the manual, those of the stage that is looked at first."""
        instrument = self.instrument_at_hand()
        stage = _STAGE_OF.get(instrument, self._session.stage)
        own = sorted(pages(), key=lambda page: page.stage != stage)
        return [
            FinderEntry(name=f"manual:{page.name}", words=page.title, hint=_find_summary(page.text)) for page in own
        ]

    def _list_regions(self) -> dict[str, tuple[str, QWidget]]:
        """Return the regions that are there by now: the forms before the column that they lie in."""
        forms: dict[str, tuple[str, QWidget]] = {name: ("means", body) for name, body in self._forms.made().items()}
        return forms | dict(self._others)

    def _scan_controls(self, stages: Iterable[str] = STAGES) -> dict[str, FinderEntry]:
        """Look for the controls there are; some are made when they are first needed, as the forms of `stages` now."""
        self._controls, self._entries = {}, {}
        for stage in stages:
            self._forms[stage]
        for region, (kind, root) in self._list_regions().items():
            for control in controls(root, region):
                if not self._is_of_another(control, region):
                    self._controls[control.path] = control
                    entry = self._control_entry(kind, region, control)
                    self._entries[entry.name] = entry
        return self._entries

    def controls(self) -> list[Control]:
        """Return every control that is found."""
        self._scan_controls()
        return list(self._controls.values())

    def _find_entries(self, names: Sequence[str]) -> list[FinderEntry]:
        """Return the entries of these names that are there now."""
        found = things_named(self._session, names)
        found |= {page.name: page for page in self._list_pages()}
        found |= {e.name: e for e in (self._action_entry(row.name) for row in self._deeds.rows() if row.name)}
        controls_wanted = [n for n in names if n not in found and n.startswith(("action:", "means:", "setting:"))]
        if any(n not in self._entries for n in controls_wanted):
            regions = {n.partition(":")[2].partition(".")[0] for n in controls_wanted}
            self._scan_controls(stage for stage in STAGES if stage in regions)
        found |= self._entries
        return [found[name] for name in names if name in found]

    def _is_of_another(self, control: Control, region: str) -> bool:
        """Whether a control lies in a region that lies in this one."""
        if isinstance(control.target, QAction):
            return False
        inner = [root for name, (_, root) in self._list_regions().items() if name != region]
        here = self._list_regions()[region][1]
        return any(here.isAncestorOf(root) and root.isAncestorOf(control.target) for root in inner)

    def _action_entry(self, name: str) -> FinderEntry:
        sets = self._deeds.settings.get(name, "")
        kind = "setting" if sets else "action"
        words = self._deeds[name].text().rstrip("…")
        return FinderEntry(name=f"{kind}:{name}", words=words, hint=term(sets), keys=self._deeds.keys(name))

    def _control_entry(self, kind: str, region: str, control: Control) -> FinderEntry:
        words = " › ".join([*([stage_name(region)] if region in STAGES else []), *control.trail, control.word])
        return FinderEntry(
            name=f"{kind}:{control.path}", words=words, hint="" if control.tip == control.word else control.tip
        )

    def open(self) -> None:
        """Open the finder, or leave it."""
        if self.finder.isVisible():
            self.finder.leave()
            return
        self.finder.open(self.entries(), self._habits.now.tray, QApplication.focusWidget())

    def open_help(self) -> None:
        """Open the finder with the manual's pages first."""
        self.finder.leave()
        entries = [*self._list_pages(), *(entry for entry in self.entries() if entry.kind != "manual")]
        self.finder.open(entries, self._habits.now.tray, QApplication.focusWidget())

    def open_manual(self, page: str) -> ManualView:
        """Show a page of the manual beside the window."""
        if self._manual is None:
            self._manual = ManualView(pages(), self._window)
        self._manual.open_page(page)
        return self._manual

    def open_keys(self) -> KeysSheet:
        """Show all keys on one sheet."""
        sheet = KeysSheet(self._deeds, self._window)
        sheet.given.connect(self._show_tray)
        sheet.finished.connect(sheet.deleteLater)
        sheet.show()
        return sheet

    # The tray

    def turn_tray(self, name: str) -> None:
        """Put something into the tray, at its end; or take it out."""
        tray = self._habits.now.tray
        self._habits.change(tray=tuple(n for n in tray if n != name) if name in tray else (*tray, name))

    def _follow_keys(self, habits: Habits) -> None:
        if self._followed is None or habits.keys != self._followed.keys:
            self._deeds.take_up(habits.keys)
        if self._followed is None or habits.tray != self._followed.tray:
            self._show_tray()
            self.finder.show_tray(habits.tray)
        self._followed = habits

    def show(self) -> None:
        """Let the tray show what of it is there now: an asset of another batch is not."""
        if self._habits.now.tray:
            self._show_tray()

    def _show_tray(self) -> None:
        wanted = self._habits.now.tray
        self.tray.show_entries(self._find_entries(wanted) if wanted else [])

    def _with_absent(self, names: Sequence[str]) -> tuple[str, ...]:
        """Return the tray in another order; what is not there now stays behind all that is."""
        return (*names, *(n for n in self._habits.now.tray if n not in names))

    def _run_nth(self, k: int) -> None:
        if k < len(self.tray.shown):
            self.run(self.tray.shown[k].name)
        else:
            self._session.messages.said.emit(
                say(
                    "The tray holds {count}: right click a control, or Ctrl+Enter in the finder, adds to it",
                    count=len(self.tray.shown),
                )
            )

    def offer_tray(self, watched: QObject, event: QEvent) -> bool:
        """Offer the tray where a control is pressed with the right button; tell whether it was."""
        if not isinstance(event, QContextMenuEvent) or not isinstance(watched, QWidget):
            return False
        if not self._window.isAncestorOf(watched):
            return False
        name = self._name_of(watched)
        if name is None or watched.contextMenuPolicy().name == "CustomContextMenu":
            return False
        menu = self.menu_for(watched, name)
        menu.exec(event.globalPos())
        menu.deleteLater()
        return True

    def menu_for(self, control: QWidget, name: str) -> QMenu:
        """Return what the right button offers on a control: what it offers by itself, and the tray."""
        own = control.createStandardContextMenu() if isinstance(control, QLineEdit) else None
        menu = own if own is not None else QMenu(control)
        if own is not None:
            menu.addSeparator()
        words = say("Take it out of the tray") if name in self._habits.now.tray else say("Put it into the tray")
        menu.addAction(words).triggered.connect(lambda _=False: self.turn_tray(name))
        return menu

    def _name_of(self, widget: QWidget) -> str | None:
        """Return what a control is called in the finder; None of what it does not find."""
        for region, (kind, root) in self._list_regions().items():
            if (root is widget or root.isAncestorOf(widget)) and (path := path_of(widget, root, region)):
                return f"{kind}:{path}"
        return None

    # Running

    def run(self, name: str) -> None:
        """Do what an entry stands for."""
        kind, _, own = name.partition(":")
        if own in self._deeds and kind in ("action", "setting"):
            self._deeds[own].trigger()
        elif kind in ("action", "means", "setting"):
            self._press_control(own)
        else:
            runs: dict[str, Callable[[str], object]] = {
                "asset": lambda file: self._session.select((file,)),
                "part": self._pick_node,
                "group": self._pick_node,
                "mark": self._pick_mark,
                "datum": self._turn_datum,
                "berth": self.set_down_wished.emit,
                "finding": self._show_finding,
                "manual": self.open_manual,
            }
            runs[kind](own)

    def _press_control(self, path: str) -> None:
        if path not in self._controls:
            self._scan_controls()
        control = self._controls.get(path)
        if control is None:
            self._session.messages.said.emit(say("That is not there any more"))
            return
        region = path.partition(".")[0]
        target = control.target
        if isinstance(target, QWidget):
            self.show_wished.emit(target, region)
            reveal(target, self._list_regions()[region][1])
        if not press(target):
            self._session.messages.said.emit(
                say(
                    "“{word}” takes nothing now: {tip}",
                    word=control.word,
                    tip=control.tip or say("it is not for what is open"),
                )
            )

    def _pick_node(self, own: str) -> None:
        file, _, name = own.split("\n")
        asset = self._session.assets.get(file)
        if asset is not None:
            nodes = [k for k, node in enumerate(asset.nodes) if node.name == name]
            at = int(own.split("\n")[1])
            self._session.select((file,), (at if at in nodes else nodes[0],) if nodes else ())

    def _pick_mark(self, name: str) -> None:
        """Select the part that a mark is on: on the asset looked at, or on the first that has it."""
        session = self._session
        mark = session.document.sheet.setting().marks.get(name)
        assets = session.assets
        files = [f for f in (session.lead, *assets) if f is not None and f in assets]
        for file in files:
            if mark is None:
                break
            with suppress(DataTrouble):
                if nodes := mark_bearers(session.assets[file], mark):
                    session.select((file,), tuple(nodes[:1]))
                    return
        session.messages.said.emit(say("Mark {name} is on no asset of this batch", name=name))

    def _turn_datum(self, name: str) -> None:
        self._session.names.use_datum("" if self._session.document.grip.datum == name else name)

    def _show_finding(self, own: str) -> None:
        code = own.removeprefix(SETTLE)
        if code != own:
            self.settle_wished.emit(code)
            return
        self._session.select(tuple(having(self._session, code)))
        self._session.enter_stage(KINDS[code].stage)


def _find_summary(text: str) -> str:
    """Return the first sentence of a page, below its title."""
    lines = [line for line in text.split("\n")[1:] if line and not line.startswith(("#", "|", "`", "*"))]
    return lines[0].partition(". ")[0].replace("`", "").rstrip(".") if lines else ""
