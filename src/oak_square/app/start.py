"""Starting the application, and rendering a picture of its window."""

from __future__ import annotations

import os
import sys
import time
from collections.abc import Sequence
from datetime import datetime
from functools import partial
from pathlib import Path
from traceback import format_exception
from types import TracebackType

from PySide6.QtCore import (
    QEventLoop,
    QMessageLogContext,
    QObject,
    QStandardPaths,
    QTimer,
    QtMsgType,
    Signal,
    qInstallMessageHandler,
)
from PySide6.QtGui import QIcon
from PySide6.QtWidgets import QApplication

from oak_square import languages
from oak_square.app.panel.deliver_body import DeliverBody
from oak_square.app.session.autosave import Autosave
from oak_square.app.session.habit_book import HabitBook
from oak_square.app.session.session import Session
from oak_square.app.signals import closing_on_signals
from oak_square.app.view.view_area import VIEWS
from oak_square.app.widgets import theme
from oak_square.app.window import Window
from oak_square.core.errors import BadBook, BadUsage, did_you_mean, one_line
from oak_square.core.likely.nouns import nouns
from oak_square.core.stages import STAGES
from oak_square.core.words import language, say
from oak_square.demo import BATCH
from oak_square.version import __version__

__all__ = ["Faults", "open_window", "run_demo", "run_window", "settle", "watch_faults"]

_LONGEST_WAIT_S = 60.0


# What the offscreen platform says of itself at every start; it concerns nobody.
_CHATTER = ("This plugin does not support",)


def _pass_on(kind: QtMsgType, _context: QMessageLogContext, text: str) -> None:
    if not text.startswith(_CHATTER) and kind != QtMsgType.QtDebugMsg:
        print(text, file=sys.stderr)


class Faults(QObject):
    """Takes up what goes wrong in a slot by a fault of ours: a line in the foot, all of it in a log, the window stays.

    `log` is the file that it is written to.
    """

    happened = Signal(str)

    def __init__(self, log: Path, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self.log = log

    def take(self, kind: type[BaseException], error: BaseException, trace: TracebackType | None) -> None:
        """Stand in for `sys.excepthook`."""
        if issubclass(kind, KeyboardInterrupt):
            QApplication.quit()
            return
        where = say("; all of it is in {log}", log=self.log)
        try:
            self.log.parent.mkdir(parents=True, exist_ok=True)
            with self.log.open("a", encoding="utf-8", errors="backslashreplace") as log:
                log.write(f"{datetime.now().isoformat(timespec='seconds')} Oak Square {__version__}\n")
                log.write("".join(format_exception(kind, error, trace)) + "\n")
        except OSError:
            where = ""
        self.happened.emit(
            one_line(say("A fault of ours, please report it: {error}{where}", error=repr(error), where=where))
        )


def watch_faults(window: Window, log: Path) -> Faults:
    """Let faults of ours in slots be told of in `window`, which then shows what it showed."""
    faults = Faults(log, window)
    faults.happened.connect(window.session.messages.failed)
    faults.happened.connect(lambda _: window.refresh())
    sys.excepthook = faults.take
    return faults


def _make_application(kept: bool) -> HabitBook:
    """Make the application, and return what is kept between runs, which it is made by; or as all was at first."""
    qInstallMessageHandler(_pass_on)
    # Workers let the interface thread in sooner than they would by themselves.
    sys.setswitchinterval(0.001)
    config = QStandardPaths.writableLocation(QStandardPaths.StandardLocation.GenericConfigLocation)
    habits = HabitBook(Path(config) / "oak-square" / "window.json" if config and kept else None)
    if QApplication.instance() is None and habits.now.text != 100:
        # All is as much larger: type, rows and what is between them keep their places to each other.
        scale = float(os.environ.get("QT_SCALE_FACTOR") or 1.0) * habits.now.text / 100
        os.environ["QT_SCALE_FACTOR"] = f"{scale:g}"
    app = QApplication.instance() or QApplication(["oak-square"])
    assert isinstance(app, QApplication)
    app.setApplicationName("Oak Square")
    app.setDesktopFileName("org.oaksquare.OakSquare")
    app.setWindowIcon(QIcon(str(Path(__file__).parent / "oak-square.svg")))
    languages.install(app, language())
    theme.install(app)
    return habits


def run_window(*, paths: Sequence[Path], sheet: Path | None = None) -> int:
    """Open the window on `paths`; returns when it is closed."""
    window = open_window(paths, sheet)
    QTimer.singleShot(0, partial(offer_work, window))
    with closing_on_signals(window):
        code = QApplication.exec()
    del window
    return code


def open_window(paths: Sequence[Path], sheet: Path | None = None, *, kept: bool = True) -> Window:
    """Return the window, shown, on `paths`; as it was left, or with `kept` off as it was at first."""
    habits = _make_application(kept)
    session = Session()
    place = QStandardPaths.writableLocation(QStandardPaths.StandardLocation.GenericCacheLocation)
    window = Window(session, Path(place) / "oak-square" / "thumbnails" if place else None, habits)
    state = QStandardPaths.writableLocation(QStandardPaths.StandardLocation.GenericStateLocation)
    watch_faults(window, Path(state or ".") / "oak-square" / "faults.log")
    if state:
        window.autosave = Autosave(session, Path(state) / "oak-square" / "work")
    window.standing.restore()
    if habits.trouble:
        session.messages.failed.emit(
            say("What is settled about the window can't be kept between runs ({trouble})", trouble=habits.trouble)
        )
    try:
        nouns()
    except BadBook as error:
        # The words that ship still serve; that the studio's own do not is said once.
        session.messages.failed.emit(str(error))
    session.batch.open_paths(list(paths))
    if sheet is not None:
        session.sheet.open(sheet)
    window.show()
    if not paths:
        # Nothing to show yet: a good moment to make what the first models will need.
        QTimer.singleShot(0, window.warm_up)
    return window


def offer_work(window: Window) -> None:
    """Offer what a run that was not closed has left behind: to be taken up, left for later, or thrown away."""
    autosave = window.autosave
    for saved in autosave.left() if autosave is not None else ():
        choice = window.files.ask_work(saved)
        if choice == "away":
            saved.put_away()
        elif choice == "take" and autosave is not None:
            autosave.take_up(saved)
            return


def run_demo(*, shot: Path | None, stage: str | None, view: str | None) -> int:
    """Open the window on the demo batch; with `shot`, save a picture of it and end.

    Raises
    ------
    BadUsage
        If there is no such stage or view, or the picture can't be saved.
    """
    for option, wanted, known in (("--stage", stage, STAGES), ("--view", view, tuple(VIEWS))):
        if wanted is not None and wanted not in known:
            raise BadUsage(
                say(
                    "{option}: '{wanted}' is none of {known}{did_you_mean}",
                    option=option,
                    wanted=wanted,
                    known=", ".join(known),
                    did_you_mean=did_you_mean(wanted, known),
                )
            )
    window = open_window([BATCH], kept=shot is None)
    folder = str(Path.cwd() / "fenwick_lock_delivery")
    window.panel.bodies.whenever(DeliverBody, lambda body: body.folder.setText(folder))
    if stage is not None:
        window.session.enter_stage(stage)
    if view is not None:
        window.views.show_view(view)
    if shot is None:
        QTimer.singleShot(0, partial(offer_work, window))
        with closing_on_signals(window):
            return QApplication.exec()
    settle(window)
    saved = window.grab().save(str(shot), "PNG")
    window.close()
    if not saved:
        raise BadUsage(say("{shot}: the picture can't be saved there", shot=shot))
    return 0


def settle(window: Window) -> None:
    """Let the window finish what it has begun: reading, previews, thumbnails, the fine picture."""
    until = time.monotonic() + _LONGEST_WAIT_S
    calm_since = None
    while time.monotonic() < until:
        QApplication.processEvents(QEventLoop.ProcessEventsFlag.AllEvents, 20)
        session = window.session
        busy = (
            not (session.is_settled() and window.is_shown())
            or window.thumbnails.busy
            or window.folder_desk.proposed.busy
            or session.deliveries.is_running
        )
        busy = busy or (window.views.view == "line-up" and not window.views.lineup.row.is_sharp)
        if busy:
            calm_since = None
        elif calm_since is None:
            calm_since = time.monotonic()
        elif time.monotonic() - calm_since > 0.3:
            return
