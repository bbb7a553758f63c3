"""The hand: holds one instrument, gives it what the Bench is pointed at, and carries its wishes on."""

from __future__ import annotations

from PySide6.QtCore import QObject, Qt, Signal
from PySide6.QtGui import QKeyEvent

from oak_square.app.instruments import INSTRUMENTS, Instrument, Scene
from oak_square.app.instruments.wishes import Redraw, Wish
from oak_square.app.view import Bench
from oak_square.app.view.overlay import Canvas
from oak_square.app.view.pointing import Pointing

__all__ = ["InstrumentDesk"]

_NAMES = {
    Qt.Key.Key_Return: "enter",
    Qt.Key.Key_Enter: "enter",
    Qt.Key.Key_Escape: "escape",
    Qt.Key.Key_Backspace: "backspace",
    Qt.Key.Key_Tab: "tab",
}


class InstrumentDesk(QObject):
    """Knows every instrument by its register alone. Those without a key are at hand under the one that is held."""

    changed = Signal()  # another is held, or it says something else
    wished = Signal(object)  # Wish

    def __init__(self, bench: Bench, parent: QObject) -> None:
        super().__init__(parent)
        self._bench = bench
        self.instruments = {name: kind(self._carry_wish) for name, kind in INSTRUMENTS.items()}
        self._always = [i for i in self.instruments.values() if not i.key]
        self.usual = min((i for i in self.instruments.values() if i.key), key=lambda i: i.key)
        self.held: Instrument = self.usual
        self._pressed: Instrument | None = None
        bench.hovered.connect(self._pass_hover)
        bench.pressed.connect(self._pass_press)
        bench.dragged.connect(lambda at: self._pressed is not None and self._pressed.move(at))
        bench.released.connect(self._pass_release)
        bench.asked.connect(self._ask_usual)
        bench.show_marks(self._draw_instruments)
        bench.read_keys(self.reads)

    def show(self, scene: Scene) -> None:
        """Let every instrument know what stands on the Bench."""
        for instrument in self.instruments.values():
            instrument.show(scene)

    def take_up(self, name: str) -> None:
        """Take an instrument in hand; what was begun with the last one is dropped."""
        self.held.leave()
        self.held = self.instruments[name]
        self.held.take_up()
        self._bench.show_hand(self.held.cursor, "")
        self.changed.emit()

    def lay_down(self) -> bool:
        """Drop what is begun, or else lay the instrument down; tell whether there was anything to do."""
        if self.held.lay_down():
            return True
        if self.held is self.usual:
            return False
        self.take_up(self.usual.name)
        return True

    def _find_instrument_for(self, at: Pointing) -> Instrument:
        """Return the instrument that takes hold of what is under the pointer."""
        always = self._always if self.held.yields else []
        return next((i for i in always if i.takes(at)), self.held)

    def _pass_hover(self, at: Pointing | None) -> None:
        if at is None:
            self.held.hover(None)
        else:
            takes = self._find_instrument_for(at)
            takes.hover(at)
            self._bench.show_hand(takes.cursor, takes.hint(at))
        self._bench.update()

    def _pass_press(self, at: Pointing) -> None:
        self._pressed = self._find_instrument_for(at)
        self._pressed.press(at)

    def _pass_release(self, at: Pointing) -> None:
        if self._pressed is not None:
            pressed, self._pressed = self._pressed, None
            pressed.release(at)

    def _ask_usual(self, at: Pointing) -> None:
        # What lies under the pointer is listed whatever is held.
        self.usual.ask(at)

    def reads(self, event: QKeyEvent, only_asked: bool) -> bool:
        """Give a key to the instrument in hand; tell whether it is, or would be, read there."""
        key = _NAMES.get(Qt.Key(event.key()), event.text())
        plain = not event.modifiers() & (Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.AltModifier)
        if not key or not plain or not self.held.reads(key):
            return False
        if not only_asked:
            self.held.read(key)
        return True

    def _draw_instruments(self, canvas: Canvas) -> None:
        for instrument in (*self._always, self.held):
            instrument.draw(canvas)

    def _carry_wish(self, wish: Wish) -> None:
        if isinstance(wish, Redraw):
            self._bench.update()
            self.changed.emit()
        else:
            self.wished.emit(wish)
