"""The window: lays the parts out, carries wishes to the session, and shows what it becomes."""

from __future__ import annotations

from functools import partial
from pathlib import Path

from PySide6.QtCore import QElapsedTimer, Qt, QTimer
from PySide6.QtGui import QCloseEvent, QDragEnterEvent, QDropEvent
from PySide6.QtWidgets import (
    QApplication,
    QLineEdit,
    QMainWindow,
    QVBoxLayout,
    QWidget,
)

from oak_square.app.desk.files import FileMenu, action
from oak_square.app.desk.size_desk import SizeDesk
from oak_square.app.facts.batch import asset_rows, stage_notes
from oak_square.app.facts.cards import cards
from oak_square.app.facts.effects import effect_rows, loss_lines
from oak_square.app.facts.findings import finding_groups, having, likeliest, stage_findings
from oak_square.app.facts.scopes import aim_change, scope_shown
from oak_square.app.facts.titles import title_of
from oak_square.app.instruments import held_in_turn
from oak_square.app.panel import PanelColumn
from oak_square.app.panel.deliver_body import DeliverBody
from oak_square.app.panel.receive_body import ReceiveBody
from oak_square.app.panel.size_body import SizeBody
from oak_square.app.session.document import default_delivery
from oak_square.app.session.remedies import BY_HAND, remedy
from oak_square.app.session.session import Session
from oak_square.app.view import Renderer
from oak_square.app.view.thumbnails import Thumbnails
from oak_square.app.view.view_area import VIEWS, ViewArea
from oak_square.app.widgets.batch_column import BatchColumn
from oak_square.app.widgets.batch_list import BatchList
from oak_square.app.widgets.edits import unreadable
from oak_square.app.widgets.entry_keys import FilterEdit, SheetUndo
from oak_square.app.widgets.foot import Foot
from oak_square.app.widgets.frame import Frame, opening_size
from oak_square.app.widgets.gestures import Gestures
from oak_square.app.widgets.hierarchy import Hierarchy
from oak_square.app.widgets.said_log import SaidLog
from oak_square.app.widgets.sort_menu import SortButton, arranged
from oak_square.app.widgets.stage_ruler import StageRuler
from oak_square.app.widgets.strip import Strip
from oak_square.app.widgets.tab_order import bring_in_sight, next_in_order
from oak_square.app.widgets.title import TitleButton
from oak_square.core.findings import STAGES
from oak_square.sheet import Deliver

__all__ = ["Window"]

_STREAM_MS, _LONGEST_PAUSE_MS = 180, 600


class Window(QMainWindow):
    """The one window."""

    def __init__(self, session: Session, cache: Path | None = None) -> None:
        """Take the session, and the folder where thumbnails are kept between runs."""
        super().__init__()
        self.session = session
        self.setWindowTitle("Oak Square")
        self.resize(opening_size(self.screen().availableSize()))
        self.setAcceptDrops(True)
        self._renderer = Renderer()
        self._small: Renderer | None = None
        self._took_ms = 0
        self.thumbnails = Thumbnails(self._small_renderer, cache, self)
        self.title = TitleButton(self)
        self.ruler = StageRuler(self)
        self.filter = FilterEdit(self)
        self.filter.done.connect(self._leave_filter)
        self._undo_keys = SheetUndo(self)
        application = QApplication.instance()
        assert application is not None
        self.gestures = Gestures(self)
        for watch in (self._undo_keys, self.gestures):
            application.installEventFilter(watch)
        self.batch = BatchList(self.thumbnails.of, self)
        self.hierarchy = Hierarchy(self)
        self.views = ViewArea(
            self._renderer,
            self._small_renderer,
            [(i.name, i.word, i.tip) for i in held_in_turn()],
            self,
        )
        self.bench = self.views.bench
        self.foot = Foot(self)
        self.panel = PanelColumn(self)
        self.strip = Strip(self)
        self.said_log = SaidLog(self)
        self.files = FileMenu(session, self)
        self.sort = SortButton(self)
        self.desk = SizeDesk(session, self.views, self.hierarchy, self.size_body, self)
        self._lay_out()
        self._make_actions()
        self._connect()
        self._fresh = QTimer(self, singleShot=True, interval=0)
        self._fresh.timeout.connect(self.refresh)
        self._lead_due = QTimer(self, singleShot=True, interval=0)
        self._lead_due.timeout.connect(self.desk.showing.show)
        self.refresh()
        self.batch.setFocus(Qt.FocusReason.OtherFocusReason)

    # Laying out

    def _lay_out(self) -> None:
        column = BatchColumn(self.batch, self.hierarchy, self.filter, self.sort)
        self.filter_bar = column.bar
        middle = QWidget(self)
        rows = QVBoxLayout(middle)
        rows.setContentsMargins(0, 0, 0, 0)
        rows.setSpacing(0)
        rows.addWidget(self.views, 1)
        rows.addWidget(self.foot)
        self.frame = Frame(
            title=self.title, ruler=self.ruler, left=column, middle=middle, right=self.panel, strip=self.strip
        )
        self.setCentralWidget(self.frame)

    def _make_actions(self) -> None:
        self.title.setMenu(self.files.menu)
        session = self.session
        for k, stage in enumerate(STAGES, 1):
            action(self, stage.capitalize(), f"Alt+{k}", partial(session.enter_stage, stage))
        for key in ("Return", "Enter"):
            action(self, "Keep what is tried", key, self._keep)
        action(self, "Drop what is tried", "Esc", self._escape)
        action(self, "Filter the batch", "Ctrl+F", self._go_to_filter)
        action(self, "Swap the side columns, where they share one place", "F6", self.frame.turn_column)
        for key, view in (("B", "before-after"), ("L", "line-up")):
            action(self, f"Swap Bench and {VIEWS[view]}", key, partial(self._swap_views, view))
        for instrument in held_in_turn():
            action(self, f"Take up {instrument.word}", instrument.key, partial(self.desk.take_up, instrument.name))

    def _show_log(self) -> None:
        """Show all that was said; what went wrong counts as read then."""
        self.said_log.show_lines(self.foot.log)
        self.foot.take_as_read()
        self.said_log.show()

    def _frame(self, everything: bool) -> None:
        """Frame what is selected, or all, in the view in front."""
        self.views.frame(everything, self.session.lead)

    def _swap_views(self, view: str) -> None:
        self._show_view("bench" if self.views.view == view else view)

    def _show_view(self, view: str) -> None:
        self.views.show_view(view)
        self._soon()

    def _escape(self) -> None:
        if self.desk.leave_mode():
            return
        if self.session.document.draft is not None:
            self.session.drop_draft()
        elif self.session.nodes:
            self.session.select(self.session.selection)
        else:
            self.bench.setFocus(Qt.FocusReason.OtherFocusReason)

    # Wishes in, changes out

    def _connect(self) -> None:
        session = self.session
        for signal in (
            session.document_changed,
            session.selection_changed,
            session.stage_changed,
            session.shown_changed,
            self.filter.textChanged,
        ):
            signal.connect(self._soon)
        self.thumbnails.made.connect(self.batch.viewport().update)
        for news in (session.batch_changed, session.outcomes_changed):
            news.connect(self._by_and_by)
        session.said.connect(self.foot.say)
        session.failed.connect(self.foot.fail)
        self.files.log_wished.connect(self._show_log)
        session.stage_changed.connect(lambda _: self.frame.show_column("right"))
        self.foot.stop_wished.connect(session.stop_reading)
        self.ruler.stage_wished.connect(session.enter_stage)
        self.batch.selection_wished.connect(self.desk.select)
        self.sort.arrangement_wished.connect(self._soon)
        self.batch.inclusion_wished.connect(session.include)
        self.batch.out_wished.connect(session.take_out)
        self.batch.frame_wished.connect(self._frame)
        self.hierarchy.frame_wished.connect(self._frame)
        self.hierarchy.nodes_wished.connect(lambda nodes: session.select(session.selection, nodes))
        self.bench.pointed.connect(lambda at: self.foot.show_point(at, session.unit))
        self.views.view_wished.connect(self._show_view)
        self.desk.changed.connect(self._soon)
        self.desk.step_wished.connect(self._try)
        self.desk.view_wished.connect(self._show_view)
        self.foot.unit.unit_wished.connect(session.show_in)
        self.foot.unit.module_wished.connect(session.set_module)
        self.bench.grid_changed.connect(lambda spacing: self.foot.show_grid(spacing, session.unit))
        self.panel.words_wished.connect(self._try_words)
        scope = self.panel.scope
        scope.which_wished.connect(partial(self._aim, "which"))
        scope.target_wished.connect(partial(self._aim, "target"))
        scope.globs_wished.connect(partial(self._aim, "globs"))
        scope.names_wished.connect(partial(self._aim, "names"))
        self.panel.keep_wished.connect(self._keep)
        session.document_changed.connect(self._forget_field)
        self.panel.drop_wished.connect(session.drop_draft)
        self.panel.asset_wished.connect(lambda file: session.select((file,)))
        self.strip.open_wished.connect(self._open_card)
        self.strip.remove_wished.connect(self._remove_card)
        self.strip.pause_wished.connect(session.pause_step)
        self.strip.move_wished.connect(session.move_step)
        receive, deliver = self.receive_body, self.deliver_body
        for listed in (receive, self.panel.findings):
            listed.settle_wished.connect(self._settle)
            listed.show_wished.connect(lambda code: session.select(tuple(having(session, code))))
        deliver.run_wished.connect(self._deliver)
        deliver.deliver_wished.connect(self._set_deliver)
        deliver.cancel_wished.connect(session.worker.cancel)
        deliver.asset_wished.connect(lambda file: session.select((file,)))
        session.delivery_progressed.connect(deliver.show_running)
        session.delivery_ended.connect(deliver.show_ended)

    @property
    def receive_body(self) -> ReceiveBody:
        """The form of Receive."""
        body = self.panel.bodies["receive"]
        assert isinstance(body, ReceiveBody)
        return body

    @property
    def deliver_body(self) -> DeliverBody:
        """The form of Deliver."""
        body = self.panel.bodies["deliver"]
        assert isinstance(body, DeliverBody)
        return body

    def _soon(self, *_: object) -> None:
        self._fresh.start(0)

    def _by_and_by(self) -> None:
        # News that comes in a stream, of reading and of working out, is shown a few times a second.
        if not self._fresh.isActive():
            busy = self.session.progress() is not None
            # Showing a large batch takes its time: most of the time is left to the work itself.
            pause = max(_STREAM_MS, min(4 * self._took_ms, _LONGEST_PAUSE_MS))
            self._fresh.start(pause if busy and self.session.outcomes else 0)

    @property
    def size_body(self) -> SizeBody:
        """The form of Size."""
        body = self.panel.bodies["size"]
        assert isinstance(body, SizeBody)
        return body

    def _try(self, words: dict[str, object]) -> None:
        if not words:
            self.session.drop_draft(gesture=self.gestures.number)
            return
        self.session.try_whole(words, gesture=self.gestures.number)

    def _try_words(self, words: dict[str, object], told: dict[str, object]) -> None:
        self.session.try_words(words, told, gesture=self.gestures.number)

    def _aim(self, what: str, value: object) -> None:
        """Aim at something else: another choice, or other patterns."""
        change = aim_change(scope_shown(self.session, counts=None), what, value)
        self.session.aim_at(change, nodes=what in ("target", "names"), gesture=self.gestures.number)

    def _keep(self) -> None:
        """Keep the draft, unless something typed can't be read: then nothing is kept that was not meant."""
        why = unreadable(self.desk.plate_editor) or self.panel.unreadable()
        if why:
            self.foot.say(why)
        else:
            self.session.keep_draft()

    def _go_to_filter(self) -> None:
        self.frame.show_column("left")
        self.filter.setFocus(Qt.FocusReason.ShortcutFocusReason)

    def _leave_filter(self) -> None:
        """Go on to what the filter has left."""
        shown = [row.file for row in asset_rows(self.session, self.filter.text())]
        if shown and self.filter.text() and not set(shown) & set(self.session.selection):
            self.session.select((shown[0],))
        self.batch.setFocus(Qt.FocusReason.OtherFocusReason)

    def _forget_field(self) -> None:
        if self.session.document.draft is None:
            # What was typed for a step that is kept or dropped is not left standing for the next one.
            field = QApplication.focusWidget()
            if isinstance(field, QLineEdit) and self.panel.isAncestorOf(field):
                field.setModified(False)

    def _open_card(self, index: int) -> None:
        if index < len(self.session.document.sheet.steps):
            self.session.open_step(index)
        elif self.session.document.draft is not None:
            self.session.enter_stage(self.session.document.draft.stage)

    def _remove_card(self, index: int) -> None:
        if index < len(self.session.document.sheet.steps):
            self.session.remove_step(index)
        else:
            self.session.drop_draft()

    def _settle(self, code: str) -> None:
        step = remedy(code, having(self.session, code), likeliest(self.session, code))
        if step is None and code in BY_HAND:
            # No one step is right for all: where each is settled is a hand's turn away.
            self.session.select(tuple(having(self.session, code)))
            self.session.enter_stage(BY_HAND[code][0])
            self.foot.say(BY_HAND[code][1])
            return
        if step is None:
            self.foot.say("No step settles that; it is in the file itself")
            return
        self.session.select(tuple(f for f in self.session.assets if step.covers(f)))
        self.session.enter_stage(step.stage)
        self.session.try_step(step)

    def _set_deliver(self, unit: str, up: str, form: str) -> None:
        deliver = self.session.document.sheet.deliver
        words = {**deliver.model_dump(), "unit": unit, "up": up, "format": form}
        self.session.set_deliver(Deliver.model_validate(words))

    def _deliver(self, folder: Path, replace_old: bool) -> None:
        self.deliver_body.show_running(0, len(self.session.included()), None)
        self.session.deliver(folder, replace_old=replace_old)

    # Opening

    def open_paths(self, paths: list[Path]) -> None:
        """Add models to the batch, or take a prep sheet in."""
        self.files.open_paths(paths)

    def focusNextPrevChild(self, forward: bool) -> bool:
        """Let Tab go the way the work goes."""
        left = (self.title, self.ruler, self.filter_bar, self.batch, self.hierarchy)
        regions = (*left, self.views, self.foot, self.panel, self.strip)
        to = next_in_order(regions, QApplication.focusWidget(), forward=forward)
        if to is None:
            return False
        to.setFocus(Qt.FocusReason.TabFocusReason if forward else Qt.FocusReason.BacktabFocusReason)
        bring_in_sight(to)
        return True

    def dragEnterEvent(self, event: QDragEnterEvent) -> None:
        """Folders and files may be dropped anywhere."""
        if event.mimeData().hasUrls():
            event.acceptProposedAction()

    def dropEvent(self, event: QDropEvent) -> None:
        """Open what is dropped."""
        self.open_paths([Path(u.toLocalFile()) for u in event.mimeData().urls() if u.isLocalFile()])

    def closeEvent(self, event: QCloseEvent) -> None:
        """End all work before the window goes; what is not saved is asked about first."""
        if not self.session.is_saved and not self.files.may_leave():
            event.ignore()
            return
        self.thumbnails.stop()
        self._fresh.stop()
        self._lead_due.stop()
        self.session.close()
        self.views.lineup.row.sprites.stop()
        self.desk.showing.playing.stop()
        self._renderer.close()
        self.views.close_renderers()
        if self._small is not None:
            self._small.close()
        super().closeEvent(event)

    def is_shown(self) -> bool:
        """Whether all that the session is stands on screen."""
        return not (self._fresh.isActive() or self._lead_due.isActive())

    def warm_up(self) -> None:
        """Make the graphics contexts and their shaders before they are needed."""
        self._renderer.warm_up()
        self._small_renderer().warm_up()

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
        self.batch.show_rows(
            arranged(asset_rows(session, self.filter.text()), self.sort.arrangement), session.selection
        )
        self.thumbnails.want([(o.after.read, session.rows[f].digest) for f, o in session.outcomes.items()])
        self.strip.show_cards(cards(session))
        self._show_panel()
        self.bench.calm = session.progress() is None
        # The picture takes longest: it comes in a turn of its own, and whatever waits goes first.
        self._lead_due.start()
        self.files.show_history()
        self.foot.show_progress(session.progress())
        draft = session.document.draft
        self.foot.show_centre(draft.stays if draft is not None else "")
        self._took_ms = since.elapsed()

    def _show_panel(self) -> None:
        session = self.session
        document, counts = session.document, None
        if session.own_draft is not None:
            rows, counts, consequences = effect_rows(session)
            self.panel.show_effect(rows, consequences)
        scope = scope_shown(session, counts=counts)
        lead = session.outcomes.get(session.lead or "")
        asset = lead.before.asset if lead is not None else None
        self.panel.show_unit(session.unit, document.sheet.deliver.setting())
        self.foot.unit.show_unit(session.unit)
        self.panel.show_stage(session.stage, scope, document.draft, document.editing, asset)
        if session.stage == "receive":
            groups, summary = finding_groups(session)
            self.receive_body.show_findings(groups, summary)
        elif session.own_draft is None:
            self.panel.findings.show_groups(stage_findings(session))
        if session.stage == "size":
            self.desk.show_form()
        if session.stage == "deliver":
            folder = default_delivery(session.paths)
            self.deliver_body.show_deliver(document.sheet.deliver)
            self.deliver_body.show_losses(loss_lines(session))
            tried = document.draft is not None
            self.deliver_body.show_ready(len(session.included()), len(document.sheet.steps), folder, tried=tried)
