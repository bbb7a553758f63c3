"""The window: lays the parts out, carries wishes to the session, and shows what it becomes."""

from __future__ import annotations

from functools import partial
from pathlib import Path

from PySide6.QtCore import QElapsedTimer, QEvent, Qt, QTimer
from PySide6.QtGui import QCloseEvent, QDragEnterEvent, QDragLeaveEvent, QDropEvent, QResizeEvent, QShowEvent
from PySide6.QtWidgets import (
    QApplication,
    QMainWindow,
    QVBoxLayout,
    QWidget,
)

from oak_square.app.desk.arrange_desk import ArrangeDesk, WindowParts
from oak_square.app.desk.card_desk import CardDesk
from oak_square.app.desk.files import FileMenu
from oak_square.app.desk.finder_desk import FinderDesk
from oak_square.app.desk.folder_desk import FolderDesk
from oak_square.app.desk.hand_deeds import add_deeds_of_the_hand
from oak_square.app.desk.hover_pictures import HoverPictures
from oak_square.app.desk.looks_desk import LooksDesk
from oak_square.app.desk.opening_desk import OpeningDesk
from oak_square.app.desk.panel_desk import PanelDesk
from oak_square.app.desk.tour import tour_steps
from oak_square.app.desk.typing_desk import TypingDesk
from oak_square.app.desk.view_desk import ViewDesk
from oak_square.app.facts.batch import asset_rows, stage_notes
from oak_square.app.facts.cards import cards
from oak_square.app.facts.titles import title_of
from oak_square.app.garbage import GarbageTimer
from oak_square.app.instruments import held_in_turn
from oak_square.app.panel import PanelColumn
from oak_square.app.session.autosave import Autosave
from oak_square.app.session.habit_book import HabitBook
from oak_square.app.session.memory import give_memory_back
from oak_square.app.session.session import Session
from oak_square.app.view import Renderer
from oak_square.app.view.thumbnails import Thumbnails
from oak_square.app.view.view_area import VIEWS, ViewArea
from oak_square.app.widgets.actions import Actions, key_hint
from oak_square.app.widgets.batch_column import BatchColumn
from oak_square.app.widgets.batch_list import BatchList
from oak_square.app.widgets.card_editor import CardEditor
from oak_square.app.widgets.entry_keys import FilterEdit, leaves_undo
from oak_square.app.widgets.event_filter import EventFilter
from oak_square.app.widgets.find_button import FindButton
from oak_square.app.widgets.finder import Finder
from oak_square.app.widgets.frame import Parts, WindowFrame, opening_size
from oak_square.app.widgets.gestures import Gestures
from oak_square.app.widgets.hierarchy import Hierarchy
from oak_square.app.widgets.hold_bar import HoldBar
from oak_square.app.widgets.opening import Opening
from oak_square.app.widgets.said_log import SaidLog
from oak_square.app.widgets.sort_menu import SortButton, arranged
from oak_square.app.widgets.stage_ruler import StageRuler
from oak_square.app.widgets.status_bar import StatusBar
from oak_square.app.widgets.strip import Strip
from oak_square.app.widgets.tab_order import bring_in_sight, next_in_order
from oak_square.app.widgets.title import TitleButton
from oak_square.app.widgets.tour_card import TourCard
from oak_square.app.widgets.tray import Tray
from oak_square.core.stages import STAGES, stage_name
from oak_square.core.words import say

__all__ = ["Window"]

_STREAM_MS, _LONGEST_PAUSE_MS = 180, 600
_SPARE_MS = 400  # of nothing to show, and a form is made that may be wanted next


class Window(QMainWindow):
    """The one window."""

    def __init__(self, session: Session, cache: Path | None = None, habits: HabitBook | None = None) -> None:
        """Take the session, the folder where thumbnails are kept between runs, and what else is kept so."""
        super().__init__()
        self.session = session
        # What listens to the session keeps the window alive for as long as the session lives: they go together.
        session.setParent(self)
        self.autosave: Autosave | None = None
        self.setWindowTitle("Oak Square")
        self.resize(opening_size(self.screen().availableSize()))
        self.setAcceptDrops(True)
        self._renderer = Renderer()
        self._small: Renderer | None = None
        self._had_rows = False
        self._took_ms = 0
        self.thumbnails = Thumbnails(self._small_renderer, cache, self)
        self.habits = habits if habits is not None else HabitBook()
        self.habits.setParent(self)
        self._make_parts()
        self.panel_desk = PanelDesk(session, self.habits, self.panel, self.strip, self.gestures, self)
        self.desk = ViewDesk(session, self.views, self.hierarchy, self.panel.bodies, self.hold_bar, self)
        self.panel_desk.typed_over = self.desk.plate_editor
        self.folder_desk = FolderDesk(session, self.panel.bodies, self.thumbnails, (self._small_renderer, cache), self)
        self.panel.effect.draw_pictures(HoverPictures(session, self._small_renderer))
        self._lay_out()
        self._make_actions()
        self._connect_parts()
        self._fresh = QTimer(self, singleShot=True, interval=0)
        self._fresh.timeout.connect(self.refresh)
        self._lead_due = QTimer(self, singleShot=True, interval=0)
        self._lead_due.timeout.connect(self._show_lead)
        self._spare = QTimer(self, singleShot=True, interval=_SPARE_MS)
        self._spare.timeout.connect(self._make_spare_form)
        self._is_looking = False
        self._garbage = GarbageTimer(self)
        self._events.add((QEvent.Type.ShortcutOverride,), leaves_undo)
        self.typing = TypingDesk(self._events, self, self.desk.hand, self.views, self.deeds)
        self._events.add((QEvent.Type.ContextMenu,), self.finder_desk.offer_tray)
        self.refresh()
        self.batch.setFocus(Qt.FocusReason.OtherFocusReason)

    # Laying out

    def _make_parts(self) -> None:
        # What is made where it will stand is not dressed twice: that takes most of the time there is to a first window.
        home = self.frame = WindowFrame(self)
        self.setCentralWidget(home)
        self.title = TitleButton(home)
        self.ruler = StageRuler(home)
        self.filter = FilterEdit(self)
        self.filter.done.connect(self._leave_filter)
        self._events = EventFilter(self)
        self.gestures = Gestures(self._events)
        self.batch = BatchList(self.thumbnails.of, self)
        self.hierarchy = Hierarchy(self)
        self.views = ViewArea(
            self._renderer,
            self._small_renderer,
            [(i.name, i.word, i.tip) for i in held_in_turn()],
            self,
        )
        self.bench = self.views.bench
        self.foot = StatusBar(self)
        self.hold_bar = HoldBar(self)
        self.panel = PanelColumn(home)
        self.strip = Strip(home)
        self.find_button = FindButton(home)
        self.opening = Opening(home)
        self.tour_card = TourCard(self)
        self.card_editor = CardEditor(self)
        self.tray = Tray(home)
        self.finder = Finder(self)
        self.said_log = SaidLog(self)
        self.deeds = Actions(self)
        self.files = FileMenu(self.session, self.deeds, self.habits, self)
        self.sort = SortButton(self)

    def _lay_out(self) -> None:
        column = self.column = BatchColumn(self.batch, self.hierarchy, self.filter, self.sort)
        self.filter_bar = column.bar
        middle = QWidget(self.frame)
        rows = QVBoxLayout(middle)
        rows.setContentsMargins(0, 0, 0, 0)
        rows.setSpacing(0)
        rows.addWidget(self.views, 1)
        rows.addWidget(self.foot)
        rows.addWidget(self.hold_bar)
        self.frame.take(
            Parts(
                title=self.title, ruler=self.ruler, find=self.find_button, left=column, middle=middle,
                right=self.panel, tray=self.tray, strip=self.strip, opening=self.opening,
            )
        )  # fmt: skip

    def _make_actions(self) -> None:
        self.title.setMenu(self.files.menu)
        session = self.session
        add = self.deeds.add
        for k, stage in enumerate(STAGES, 1):
            add(
                f"stage.{stage}",
                say("Go to {stage}", stage=stage_name(stage)),
                f"Alt+{k}",
                partial(session.enter_stage, stage),
            )
        add("keep", say("Keep what is tried"), ("Return", "Enter"), self.panel_desk.keep, firm=True)
        add("drop", say("Leave what was begun last"), "Esc", self._leave_last, firm=True)
        add("filter", say("Filter the batch"), "Ctrl+F", self._go_to_filter)
        add("columns", say("Swap the side columns, where they share one place"), "F6", self.frame.turn_column)
        for key, view in (("B", "before-after"), ("L", "line-up"), ("O", "set-out"), ("J", "stand")):
            add(f"view.{view}", say("Swap Bench and {view}", view=VIEWS[view]), key, partial(self._swap_views, view))
        for held in held_in_turn():
            add(
                f"hold.{held.name}",
                say("Take up {word}", word=held.word),
                held.key,
                partial(self.desk.take_up, held.name),
            )
        add_deeds_of_the_hand(self.deeds, session, self.desk, self.bench)
        self._make_finder()

    def _make_finder(self) -> None:
        regions = {"panel": ("action", self.panel), "view": ("action", self.views), "hold": ("setting", self.hold_bar)}
        regions |= {"foot": ("setting", self.foot), "sort": ("setting", self.sort), "corner": ("action", self.title)}
        parts = (self.finder, self.tray)
        self.finder_desk = FinderDesk(self.session, self.habits, self.deeds, (regions, self.panel.bodies), parts, self)
        self.finder_desk.show_wished.connect(self._bring_forward)
        self.finder_desk.settle_wished.connect(self.panel_desk.settle)
        self.finder_desk.instrument_at_hand = self._find_instrument
        self.finder_desk.set_down_wished.connect(self.desk.berths.set_down)
        self.find_button.clicked.connect(self.finder_desk.open)
        self.habits.follow(lambda _: self.find_button.show_keys(self.deeds.keys("finder")))
        self.tray.shown_or_hidden.connect(self.frame.place)
        self.files.menu.addSeparator()
        self.files.menu.addActions([self.deeds[name] for name in ("finder", "manual", "keys")])

        standing = WindowParts(
            frame=self.frame, column=self.column, sort=self.sort, desk=self.desk,
            view=lambda: self.views.view, show_view=self._show_view,
        )  # fmt: skip
        self.standing = ArrangeDesk(self.session, self.habits, self.deeds, standing, self.files.menu, self)
        self.standing.open_wished.connect(self.open_paths)

        cards = (self.strip, self.card_editor)
        self.card_desk = CardDesk(self.session, self.habits, self.deeds, cards, self.files.open_sheet, self)
        self.files.menu.addAction(self.deeds["shelf"])
        self.looks = LooksDesk(self.session, self.habits, self.deeds, self.desk, self.files.menu, self._draw_anew, self)
        seen = (self.opening, self.tour_card)
        self.beginning = OpeningDesk(self.session, self.habits, self.deeds, seen, self._show_view, self)
        self.beginning.tour = partial(tour_steps, self)
        self.opening.open_wished.connect(lambda paths: self.open_paths([Path(p) for p in paths]))
        self.files.menu.addActions([self.deeds["tour"]])

    def _draw_anew(self) -> None:
        """Draw all there is in the colours of now."""
        for widget in self.findChildren(QWidget):
            widget.update()
        self._refresh_soon()

    def _bring_forward(self, control: QWidget, region: str) -> None:
        """Show the stage, or the view, that a control belongs to."""
        if region in STAGES:
            self.session.enter_stage(region)
            self.panel_desk.show()
            self.frame.show_column("right")
        elif (view := self.views.view_of(control)) is not None:
            self._show_view(view)

    def _show_log(self) -> None:
        """Show all that was said; what went wrong counts as read then."""
        self.said_log.show_lines(self.foot.log)
        self.foot.take_as_read()
        self.said_log.show()

    def _frame_view(self, everything: bool) -> None:
        """Frame what is selected, or all, in the view in front."""
        self.views.frame(everything, self.session.lead)

    def _swap_views(self, view: str) -> None:
        self._show_view("bench" if self.views.view == view else view)

    def _show_view(self, view: str) -> None:
        self.views.show_view(view)
        self._refresh_soon()
        self.standing.note()

    def _leave_last(self) -> None:
        if self.beginning.is_on:
            self.beginning.leave()
            return
        if self.desk.leave_mode():
            return
        if self.session.document.draft is not None:
            self.session.drafts.drop()
        elif self.session.nodes:
            self.session.select(self.session.selection)
        else:
            self.bench.setFocus(Qt.FocusReason.OtherFocusReason)

    # Wishes in, changes out

    def _connect_parts(self) -> None:
        session = self.session
        for signal in (
            session.sheet.document_changed,
            session.selection_changed,
            session.stage_changed,
            session.shown_changed,
            self.filter.textChanged,
            self.deeds.changed,
        ):
            signal.connect(self._refresh_soon)
        self.thumbnails.made.connect(self.batch.viewport().update)
        for news in (session.batch.batch_changed, session.outcomes_changed):
            news.connect(self._by_and_by)
        session.messages.said.connect(self.foot.say)
        session.messages.failed.connect(self.foot.fail)
        self.files.log_wished.connect(self._show_log)
        session.stage_changed.connect(lambda _: self.frame.show_column("right"))
        self.foot.stop_wished.connect(session.batch.stop_reading)
        self.ruler.stage_wished.connect(session.enter_stage)
        self.batch.selection_wished.connect(self.desk.select)
        self.sort.arrangement_wished.connect(self._refresh_soon)
        self.batch.inclusion_wished.connect(session.sheet.include)
        self.batch.out_wished.connect(session.take_out)
        self.batch.frame_wished.connect(self._frame_view)
        self.hierarchy.frame_wished.connect(self._frame_view)
        self.hierarchy.nodes_wished.connect(self.desk.select_nodes)
        self.bench.pointed.connect(lambda at: self.foot.show_point(at, session.unit))
        self.views.view_wished.connect(self._show_view)
        self.desk.changed.connect(self._refresh_soon)
        self.desk.step_wished.connect(self.panel_desk.try_whole)
        self.desk.view_wished.connect(self._show_view)
        self.foot.unit.unit_wished.connect(session.show_in)
        self.foot.unit.module_wished.connect(session.sheet.set_module)
        self.bench.grid_changed.connect(lambda spacing, _: self.foot.show_grid(spacing, session.unit))
        self.bench.grid_changed.connect(self.hold_bar.show_drawn)

    def _refresh_soon(self, *_: object) -> None:
        self._fresh.start(0)

    def _by_and_by(self) -> None:
        # News that comes in a stream, of reading and of working out, is shown a few times a second.
        if not self._fresh.isActive():
            busy = self.session.progress() is not None
            # Showing a large batch takes its time: most of the time is left to the work itself.
            pause = max(_STREAM_MS, min(4 * self._took_ms, _LONGEST_PAUSE_MS))
            self._fresh.start(pause if busy and self.session.outcomes else 0)

    def _go_to_filter(self) -> None:
        self.frame.show_column("left")
        self.filter.setFocus(Qt.FocusReason.ShortcutFocusReason)

    def _leave_filter(self) -> None:
        """Go on to what the filter has left."""
        shown = [row.file for row in asset_rows(self.session, self.filter.text())]
        if shown and self.filter.text() and not set(shown) & set(self.session.selection):
            self.session.select((shown[0],))
        self.batch.setFocus(Qt.FocusReason.OtherFocusReason)

    # Opening

    def open_paths(self, paths: list[Path]) -> None:
        """Add models to the batch, or take a prep sheet in."""
        self.files.open_paths(paths)

    def focusNextPrevChild(self, forward: bool) -> bool:
        """Let Tab go the way the work goes."""
        left = (self.title, self.ruler, self.filter_bar, self.batch, self.hierarchy)
        regions = (*left, self.views, self.foot, self.hold_bar, self.panel, self.strip)
        to = next_in_order(regions, QApplication.focusWidget(), forward=forward)
        if to is None:
            return False
        to.setFocus(Qt.FocusReason.TabFocusReason if forward else Qt.FocusReason.BacktabFocusReason)
        bring_in_sight(to)
        return True

    def showEvent(self, event: QShowEvent) -> None:
        """Begin to look at what is done, once all is dressed: that makes thousands of events, and none by hand."""
        super().showEvent(event)
        if not self._is_looking:
            self._is_looking = True
            QTimer.singleShot(0, self._events.begin)

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Keep the finder in the middle."""
        super().resizeEvent(event)
        self.finder.place()
        self.standing.note_size()
        self.beginning.place()
        self.card_editor.place()

    def dragEnterEvent(self, event: QDragEnterEvent) -> None:
        """Folders and files may be dropped anywhere."""
        if event.mimeData().hasUrls():
            event.acceptProposedAction()
            self.opening.show_drop(True)

    def dragLeaveEvent(self, event: QDragLeaveEvent) -> None:
        """Nothing is dropped after all."""
        self.opening.show_drop(False)

    def dropEvent(self, event: QDropEvent) -> None:
        """Open what is dropped."""
        self.opening.show_drop(False)
        self.open_paths([Path(u.toLocalFile()) for u in event.mimeData().urls() if u.isLocalFile()])

    def closeEvent(self, event: QCloseEvent) -> None:
        """End all work before the window goes; what is not saved is asked about first."""
        if not self.session.is_saved and not self.files.may_leave():
            event.ignore()
            return
        self._events.end()
        self.habits.flush()
        self.thumbnails.stop()
        self.folder_desk.proposed.stop()
        self._fresh.stop()
        self._lead_due.stop()
        self._spare.stop()
        self.session.close()
        if self.autosave is not None:
            self.autosave.end()
        self.views.lineup.row.sprites.stop()
        self.desk.display.playing.stop()
        self._garbage.end()
        self.bench.stop()
        self._renderer.close()
        self.views.close_renderers()
        if self._small is not None:
            self._small.close()
        super().closeEvent(event)

    def is_shown(self) -> bool:
        """Whether all that the session is stands on screen."""
        waits = self._fresh.isActive() or self._lead_due.isActive() or self.typing.is_waiting
        return not (waits or self.bench.is_growing)

    def _find_instrument(self) -> str:
        """Return the instrument whose button has the focus, or else the one in hand."""
        focused = QApplication.focusWidget()
        named = (name for name, button in self.views.instruments.items() if button is focused)
        return next(named, self.desk.hand.held.name)

    def warm_up(self) -> None:
        """Make the graphics contexts and their shaders before they are needed."""
        self._renderer.warm_up()
        self._small_renderer().warm_up()

    def _show_lead(self) -> None:
        if not self.session.rows:
            for renderer in (self._renderer, *([self._small] if self._small is not None else [])):
                renderer.let_go()
        self.desk.display.show()
        self.desk.show_bar()
        if self._had_rows and not self.session.rows:
            QTimer.singleShot(0, give_memory_back)  # once nothing of it is on the way any more
        self._had_rows = bool(self.session.rows)
        self._spare.start()

    def _make_spare_form(self) -> None:
        """Make a stage's form that was not asked for yet, while nobody waits for anything."""
        calm = self.session.progress() is None and QApplication.mouseButtons() == Qt.MouseButton.NoButton
        with self._events.paused():
            if not calm or self.panel.bodies.make_one():
                self._spare.start()

    def _small_renderer(self) -> Renderer:
        if self._small is None:
            self._small = Renderer()
        return self._small

    # Showing

    def refresh(self) -> None:
        """Show the session as it is now."""
        since = QElapsedTimer()
        since.start()
        session = self.session
        title = title_of(session)
        self.title.show_title(title.batch, title.detail)
        self.setWindowTitle(title.whole)
        self.setWindowModified(not session.is_saved)
        self.ruler.show_stages(session.stage, stage_notes(session))
        self.batch.empty = (
            say("No path holds these letters: Esc in the field above shows all again.")
            if session.rows
            else say("Nothing is open. Drop a folder of models here, or open one{key}.", key=key_hint("open-folder"))
        )
        self.batch.show_rows(
            arranged(asset_rows(session, self.filter.text()), self.sort.arrangement), session.selection
        )
        self.thumbnails.want([(o.after.read, session.rows[f].digest) for f, o in session.outcomes.items()])
        self.strip.show_cards(cards(session))
        with self._events.paused():
            self.panel_desk.show()
            self.folder_desk.show()
        self.foot.unit.show_unit(session.unit)
        if session.stage == "size":
            self.desk.show_form()
        self.bench.calm = session.progress() is None
        # The picture takes longest: it comes in a turn of its own, and whatever waits goes first.
        self._lead_due.start()
        self.files.show_history()
        self.finder_desk.show()
        self.beginning.show()
        self.foot.show_progress(session.progress())
        draft = session.document.draft
        self.foot.show_centre(draft.stays if draft is not None else "")
        self._took_ms = since.elapsed()
