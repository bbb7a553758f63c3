"""Between the swing check and what is shown: the part swings in the picture alone, its sweep is worked out aside."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

from PySide6.QtCore import QObject, QTimer, Signal

from oak_square.app.desk.display import Display
from oak_square.app.instruments.swing import Swing
from oak_square.app.instruments.wishes import SwingTo
from oak_square.app.session.session import Session
from oak_square.app.view import Bench
from oak_square.app.widgets.swing_bar import SwingBar
from oak_square.core.errors import DataTrouble
from oak_square.core.motion import carry
from oak_square.core.scene import Asset
from oak_square.core.shown_units import ShownUnit
from oak_square.core.swinging import Sweep, sweep, swing_motion
from oak_square.core.words import number, say
from oak_square.steps.along import along_axes

__all__ = ["SwingDesk", "swept_words"]

_FRAME_MS, _FRAMES = 40, 60  # to and fro by itself
_STILL_MS, _STILL_BY = 700, 15  # in single pictures: how long each stands, how many frames it goes on by


def swept_words(found: Sweep | None, unit: ShownUnit, percent: int = 0) -> str:
    """Return what a sweep came to in words; how much of it is looked at, where that is not known yet."""
    if found is None:
        return say("looking where it cuts: {percent} %", percent=percent)
    about = say(" (looked at by samples)") if found.coarse else ""
    if not found.cuts:
        return say("it cuts into nothing{about}", about=about)
    first = found.cuts[0]
    more = say(", and {count} more", count=len(found.cuts) - 1) if len(found.cuts) > 1 else ""
    angle = number(f"{first.angle_deg:.4g}°").replace("-", "−")
    return say(
        "cuts into {part} from {angle}, {length} deep{more}{about}",
        part=first.part,
        angle=angle,
        length=unit.length(first.depth_m),
        more=more,
        about=about,
    )


class SwingDesk(QObject):
    """Shows a part swung, and tells the instrument what its sweep came to."""

    looked = Signal(int, int)  # of the sweep of that number so many percent, from the thread that looks

    def __init__(self, session: Session, swing: Swing, display: Display, bench: Bench, parent: QObject) -> None:
        super().__init__(parent)
        self._session, self._swing, self._display, self._bench = session, swing, display, bench
        self.bar = SwingBar(bench)
        self.bar.changed.connect(lambda key, value: swing.swing_to(**{key: value}))
        self.bar.play_wished.connect(self._play_swing)
        self._rest: Asset | None = None
        self._number = self._percent = 0
        self.looked.connect(self._take_share)
        self._asked: object = None
        self.found: Sweep | None = None
        self._frame = 0
        self._timer = QTimer(self, interval=_FRAME_MS)
        self._by = 1
        self._timer.timeout.connect(self._go_on)
        session.batch.worker.done_aside.connect(self._take_sweep)
        session.sheet.document_changed.connect(self.end)

    @property
    def is_on(self) -> bool:
        """Whether something is swung just now."""
        return self._rest is not None

    def swing_to(self, wish: SwingTo) -> None:
        """Show the part at an angle, and look where it cuts once the limits are others."""
        file, part = self._session.lead, self._swing.part
        if file is None or part is None or file not in self._session.outcomes:
            return
        if self._rest is None or self._rest.file != file:
            self._rest = self._session.outcomes[file].after.asset
        rest = self._rest
        try:
            axis = along_axes(rest, part, "own", self._session.document.sheet.setting())[:, wish.axis]
            shown = carry(rest, {part: swing_motion(rest, part, axis, wish.angle_deg)})
        except DataTrouble as error:
            self._session.messages.said.emit(str(error))
            return
        asked = file, part, wish.axis, wish.low_deg, wish.high_deg
        if asked != self._asked:
            self._asked, self.found, self._percent = asked, None, 0
            self._number += 1
            number, low, high = self._number, wish.low_deg, wish.high_deg
            stopped: Callable[[], bool] = lambda: number != self._number  # noqa: E731  two lines for a lambda
            looked = partial(self._tell_share, number, [0])
            self._session.batch.worker.aside(number, partial(sweep, rest, part, axis, low, high, stopped, looked))
        self._display.dragging = True
        self._display.show_preview({file: shown})
        self._show_swing()

    def _tell_share(self, number: int, last: list[int], share: float) -> None:
        """Tell the window's thread of each percent that is through."""
        percent = int(100 * share)
        if percent > last[0] and number == self._number:
            last[0] = percent
            self.looked.emit(number, percent)

    def _take_share(self, number: int, percent: int) -> None:
        if number == self._number and self.found is None and self.is_on:
            self._percent = percent
            self._show_swing()

    def _take_sweep(self, number: int, found: object) -> None:
        if number == self._number and isinstance(found, Sweep) and self.is_on:
            self.found = found
            self._show_swing()

    def _show_swing(self) -> None:
        swing, s = self._swing, self._swing.swung
        swing.reads_words = swept_words(self.found, self._session.unit, self._percent)
        self.bar.show_swing(s.axis, s.low_deg, s.high_deg, s.angle_deg, swing.reads_words, plays=self._timer.isActive())
        self.bar.show()
        self.bar.setFixedWidth(min(self._bench.width() - 24, self.bar.sizeHint().width()))
        self.bar.move((self._bench.width() - self.bar.width()) // 2, self._bench.height() - self.bar.height() - 10)
        self.bar.raise_()
        self._display.show_band()
        self._bench.update()

    def _play_swing(self, wanted: bool) -> None:
        if wanted:
            self._timer.start()
        else:
            self._timer.stop()

    def set_still(self, wanted: bool) -> None:
        """Swing by itself in single pictures, in place of a sweep."""
        self._timer.setInterval(_STILL_MS if wanted else _FRAME_MS)
        self._by = _STILL_BY if wanted else 1

    def _go_on(self) -> None:
        self._frame = (self._frame + self._by) % (2 * _FRAMES)
        share = self._frame / _FRAMES
        s = self._swing.swung
        self._swing.swing_to(angle_deg=s.low_deg + (s.high_deg - s.low_deg) * (share if share <= 1 else 2 - share))

    def end(self) -> None:
        """Show things where they are."""
        self._timer.stop()
        self.bar.hide()
        self._number += 1
        self._asked, self.found = None, None
        self._swing.forget()
        if self.is_on:
            self._rest = None
            self._display.end_preview()
            self._display.show()
