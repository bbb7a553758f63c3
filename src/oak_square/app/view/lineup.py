"""The line-up: the batch side by side on one ground, at one scale. Shows plain values, sends wishes."""

from __future__ import annotations

from bisect import bisect_left, bisect_right
from collections.abc import Callable, Sequence

from PySide6.QtCore import QElapsedTimer, QPointF, QRectF, Qt, QTimer, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QResizeEvent, QWheelEvent
from PySide6.QtWidgets import QWidget

from oak_square.app.facts.lineup import FIGURE, LineUpItem
from oak_square.app.view.elevation import RowLayout, laid_out
from oak_square.app.view.lineup_marks import (
    LANES,
    Scale,
    draw_figure,
    draw_ground,
    draw_heights,
    draw_labels,
    draw_range,
    draw_reference,
)
from oak_square.app.view.renderer import Renderer
from oak_square.app.view.sprites import Sprites, SpriteWish
from oak_square.app.widgets.entry_keys import TWICE_MS
from oak_square.app.widgets.theme import colour, font
from oak_square.core.shown_units import ShownUnit
from oak_square.core.tolerances import SPECK
from oak_square.core.words import number, say

__all__ = ["LineUp"]

_STILL_MS = 90
_CLICK_PIXELS = 4
_MOST_LABELS = 60  # looked at for room; a window holds fewer
_RANGE_FROM = 14.0  # pixels that an asset is tall before its range can be told
_EDGE = 92.0  # pixels at the left that the heights and the staff take
_BELOW, _ABOVE = 62.0 + 15 * LANES, 60.0
_OUT, _IN_PIXELS = 0.25, 5e6  # of the whole row's scale; pixels a unit


class LineUp(QWidget):
    """Draws the row; pans, zooms from bolts to boats, selects."""

    picked = Signal(str, bool)  # file, added to the selection
    missed = Signal()
    reference_wished = Signal(str)
    card_moved = Signal(object)  # where the lead asset stands, QRectF or None

    def __init__(self, renderer: Callable[[], Renderer], parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setMouseTracking(True)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName(say("Line-up"))
        self.shown = ShownUnit()
        self.items: tuple[LineUpItem, ...] = ()
        self.layout_ = RowLayout()
        self._lefts: list[float] = []
        self.side = "front"
        self.selection: tuple[str, ...] = ()
        self.reference = FIGURE
        self._notice = ""
        self._per_unit, self._left, self._ground = 100.0, 0.0, 0.0
        self._untouched = True
        self._pressed: QPointF | None = None
        self._last = QPointF()
        self._travelled = 0.0
        self._since_frame = QElapsedTimer()
        self.sprites = Sprites(renderer, self)
        self.sprites.made.connect(self.update)
        self._still = QTimer(self, singleShot=True, interval=_STILL_MS)
        self._still.timeout.connect(self._sharpen_images)

    # Showing

    def show_items(self, items: Sequence[LineUpItem], *, side: str, even: bool) -> None:
        """Match the row to `items`, in their order."""
        layout = laid_out([(i.width, i.height) for i in items], even=even)
        changed = layout != self.layout_ or side != self.side
        self.sprites.keep_only({i.file for i in items})
        self._lefts = [s.left for s in layout.slots]
        self.items, self.layout_, self.side = tuple(items), layout, side
        if changed and self._untouched:
            self.frame_all()
        self._still.start(0)
        self.update()
        self._tell_card()

    def show_selection(self, files: Sequence[str], reference: str) -> None:
        """Mark what is selected, the last one leading, and what the others are measured against."""
        self.selection, self.reference = tuple(files), reference
        self.update()
        self._tell_card()

    def show_notice(self, notice: str) -> None:
        """Say something in the middle; empty for nothing."""
        self._notice = notice
        self.update()

    @property
    def scale(self) -> Scale:
        """The present view."""
        return Scale(
            layout=self.layout_, per_unit=self._per_unit, left=self._left, ground=self._ground,
            width=float(self.width()), height=float(self.height()),
        )  # fmt: skip

    def outline_of(self, file: str) -> QRectF | None:
        """Return where an asset stands in the widget; None when it is not in the row."""
        for item, slot in zip(self.items, self.layout_.slots, strict=True):
            if item.file == file:
                return self.scale.outline(slot, item.width, item.height)
        return None

    @property
    def lead(self) -> str | None:
        """The asset picked last."""
        return self.selection[-1] if self.selection else None

    @property
    def is_sharp(self) -> bool:
        """Whether nothing is still to be drawn."""
        return not (self._still.isActive() or self.sprites.busy)

    # Moving about

    def frame_all(self) -> None:
        """Bring the whole row into the window."""
        room = max(40.0, self.width() - _EDGE - 24), max(40.0, self.height() - _BELOW - _ABOVE)
        layout = self.layout_
        self._per_unit = min(room[0] / max(layout.width, SPECK), room[1] / max(layout.height, SPECK))
        self._left = layout.width / 2 - (_EDGE + room[0] / 2) / self._per_unit
        self._ground = self.height() - _BELOW
        self._untouched = True
        self._note_move()

    def frame_file(self, file: str) -> None:
        """Bring one asset into the window, large, its neighbours beside it."""
        for item, slot in zip(self.items, self.layout_.slots, strict=True):
            if item.file == file:
                room = max(40.0, self.width() - _EDGE - 24), max(40.0, self.height() - _BELOW - _ABOVE)
                wide, high = max(slot.width, SPECK), max(slot.height, SPECK)
                self._per_unit = min(room[0] / (2.4 * wide), room[1] / (1.1 * high))
                self._left = slot.middle - (_EDGE + room[0] / 2) / self._per_unit
                self._ground = self.height() - _BELOW
                self._by_hand()

    def zoom(self, factor: float, at: QPointF) -> None:
        """Zoom by `factor`, what is at a pixel staying there."""
        layout = self.layout_
        whole = min(self.width() / max(layout.width, SPECK), self.height() / max(layout.height, SPECK))
        per_unit = min(max(self._per_unit * factor, whole * _OUT), _IN_PIXELS)
        units = self._left + at.x() / self._per_unit, (self._ground - at.y()) / self._per_unit
        self._per_unit = per_unit
        self._left = units[0] - at.x() / per_unit
        self._ground = at.y() + units[1] * per_unit
        self._by_hand()

    def pan(self, dx: float, dy: float) -> None:
        """Shift what is seen by pixels; some of the row always stays in the window."""
        self._left -= dx / self._per_unit
        self._left = min(max(self._left, -self.width() * 0.8 / self._per_unit), self.layout_.width)
        tall = self.layout_.height * self._per_unit
        self._ground = min(max(self._ground + dy, 40.0), max(self.height() + tall - 60.0, self.height() - _BELOW))
        self._by_hand()

    def _by_hand(self) -> None:
        self._untouched = False
        self._note_move()

    def _note_move(self) -> None:
        self._still.start(_STILL_MS)
        self.update()
        self._tell_card()

    def _tell_card(self) -> None:
        self.card_moved.emit(self.outline_of(self.lead) if self.lead else None)

    def _sharpen_images(self) -> None:
        """Ask for sharp images of what is in the window, what is looked at first."""
        scale, window = self.scale, QRectF(self.rect())
        wishes = []
        for item, slot in zip(self.items, self.layout_.slots, strict=True):
            outline = scale.outline(slot, item.width, item.height)
            seen = outline.adjusted(-1, -1, 1, 1).intersects(window)
            if item.picture is not None and item.picture.box is not None and seen and self.isVisible():
                wishes.append(
                    SpriteWish(
                        file=item.file, picture=item.picture, outline=outline, window=window,
                        dots=self.devicePixelRatioF(),
                    )
                )  # fmt: skip
        wishes.sort(key=lambda w: (w.file not in self.selection, -w.outline.height()))
        self.sprites.want(wishes, self.side)

    # Painting

    def paintEvent(self, event: QPaintEvent) -> None:
        """Lay the ground, the heights, the assets and their marks over one another."""
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        scale = self.scale
        draw_ground(painter, scale)
        draw_heights(painter, scale, self.shown)
        window = QRectF(self.rect())
        labels = []
        for k in self._in_sight(scale):
            item, slot = self.items[k], self.layout_.slots[k]
            outline = scale.outline(slot, item.width, item.height)
            self._paint_item(painter, item, outline)
            top = scale.y(slot.height)
            if top < outline.top() - 2:
                self._paint_height(painter, outline, top)
            if item.wanted is not None and (outline.height() > _RANGE_FROM or not item.wanted.met):
                draw_range(painter, scale, outline, item.wanted)
            labels.append((item, outline))
        self._paint_reference(painter, scale)
        self._paint_labels(painter, scale, labels)
        if self._notice:
            painter.setFont(font(14))
            painter.setPen(colour("ink-soft"))
            room = window.adjusted(60, 40, -40, -40)
            painter.drawText(room, Qt.AlignmentFlag.AlignCenter | Qt.TextFlag.TextWordWrap, self._notice)
        if self.hasFocus():
            painter.setPen(colour("oak", 140))
            painter.drawRect(self.rect().adjusted(0, 0, -1, -1))

    def _in_sight(self, scale: Scale) -> range:
        """Return which items stand in the window; they are in order along the ground."""
        lefts = self._lefts
        first = bisect_right(lefts, scale.left - 60 / scale.per_unit) - 1
        last = bisect_left(lefts, scale.left + (scale.width + 60) / scale.per_unit)
        return range(max(0, first), min(last, len(lefts)))

    def _paint_item(self, painter: QPainter, item: LineUpItem, outline: QRectF) -> None:
        if item.file == FIGURE:
            draw_figure(painter, outline)
            return
        sprite = self.sprites.of(item.file)
        if sprite is None:
            painter.fillRect(outline.adjusted(0, -1, 0, 0), colour("ground-edge"))
        else:
            room = sprite.room
            left, wide = outline.left() + room.left() * outline.width(), room.width() * outline.width()
            top, high = outline.bottom() - room.bottom() * outline.height(), room.height() * outline.height()
            painter.drawImage(QRectF(left, top, max(wide, 1.0), max(high, 1.0)), sprite.image)
        if item.file in self.selection:
            pen = QPen(colour("verdigris"), 2.0 if item.file == self.lead else 1.2)
            painter.setPen(pen)
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRoundedRect(outline.adjusted(-4, -4, 4, 2), 3, 3)

    def _paint_height(self, painter: QPainter, outline: QRectF, top: float) -> None:
        """Mark the height of what is drawn smaller than the logarithmic scale would have it."""
        pen = QPen(colour("ink-soft"), 1)
        pen.setDashPattern([2, 3])
        painter.setPen(pen)
        middle = outline.center().x()
        painter.drawLine(QPointF(middle, outline.top()), QPointF(middle, top))
        painter.setPen(QPen(colour("ink-soft"), 1.4))
        painter.drawLine(QPointF(middle - 7, top), QPointF(middle + 7, top))

    def _paint_reference(self, painter: QPainter, scale: Scale) -> None:
        item = next((i for i in self.items if i.file == self.reference), None)
        if item is not None and item.height > 0:
            text = f"{item.name}, {self.shown.length(item.height)}"
            draw_reference(painter, scale, self.layout_.height_of(item.height), text)

    def _paint_labels(self, painter: QPainter, scale: Scale, placed: list[tuple[LineUpItem, QRectF]]) -> None:
        reference = next((i for i in self.items if i.file == self.reference), None)

        def rank(entry: tuple[LineUpItem, QRectF]) -> tuple[bool, bool, bool, float]:
            item, outline = entry
            return item.file != self.lead, item.file not in self.selection, not item.trouble, -outline.width()

        labels = []
        for item, outline in sorted(placed, key=rank)[:_MOST_LABELS]:
            ink = colour("fix") if item.trouble else colour("ink")
            lines = [(item.name, ink), (item.words, colour("ink-soft"))]
            if item.trouble:
                lines.append((item.trouble, colour("fix")))
            elif reference is not None and item is not reference and reference.height > 0 and item.height > 0:
                times = item.height / reference.height
                lines.append((number(f"{times:.3g} × ") + reference.name, colour("ink-soft")))
            labels.append((outline.center().x(), lines, item.file in self.selection))
        draw_labels(painter, scale, labels)

    # Hands

    def item_at(self, at: QPointF) -> LineUpItem | None:
        """Return what stands at a pixel, its label included; the one drawn last wins."""
        found = None
        for item, slot in zip(self.items, self.layout_.slots, strict=True):
            outline = self.scale.outline(slot, item.width, item.height)
            if outline.adjusted(-5, -5, 5, 40).contains(at):
                found = item
        return found

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Begin a click or a pan."""
        self.setFocus(Qt.FocusReason.MouseFocusReason)
        self._pressed = self._last = event.position()
        self._travelled = 0.0

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        """Pan with any button."""
        if self._pressed is None:
            item = self.item_at(event.position())
            self.setToolTip("" if item is None else f"{item.file or say('the figure')}\n{item.words}")
            return
        moved = event.position() - self._last
        self._last = event.position()
        self._travelled += moved.manhattanLength()
        if self._travelled > _CLICK_PIXELS:
            self.pan(moved.x(), moved.y())

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        """A left click selects, with Ctrl further ones; a right click takes the reference."""
        clicked = self._pressed is not None and self._travelled <= _CLICK_PIXELS
        self._pressed = None
        if not clicked:
            return
        item = self.item_at(event.position())
        if event.button() == Qt.MouseButton.RightButton:
            self.reference_wished.emit(FIGURE if item is None else item.file)
        elif item is None:
            self.missed.emit()
        elif item.file != FIGURE:
            self.picked.emit(item.file, bool(event.modifiers() & Qt.KeyboardModifier.ControlModifier))

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        """Bring what is under the pointer near."""
        item = self.item_at(event.position())
        if item is not None:
            self.frame_file(item.file)

    def wheelEvent(self, event: QWheelEvent) -> None:
        """Zoom to the pointer."""
        self.zoom(1.0015 ** event.angleDelta().y(), event.position())

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Space frames the lead asset, twice all; left and right walk the row; R takes the lead as the reference."""
        key = event.key()
        files = [i.file for i in self.items if i.file != FIGURE]
        if key == Qt.Key.Key_Space:
            twice = self._since_frame.isValid() and self._since_frame.elapsed() < TWICE_MS
            if twice or self.lead is None:
                self.frame_all()
            else:
                self.frame_file(self.lead)
            self._since_frame.restart()
        elif key in (Qt.Key.Key_Left, Qt.Key.Key_Right) and files:
            step = 1 if key == Qt.Key.Key_Right else -1
            at = files.index(self.lead) + step if self.lead in files else 0
            self.picked.emit(files[min(max(at, 0), len(files) - 1)], False)
        elif key == Qt.Key.Key_R and self.lead is not None:
            self.reference_wished.emit(FIGURE if self.reference == self.lead else self.lead)
        elif key in (Qt.Key.Key_Plus, Qt.Key.Key_Minus, Qt.Key.Key_Equal):
            factor = 1 / 1.25 if key == Qt.Key.Key_Minus else 1.25
            self.zoom(factor, QPointF(self.width() / 2, self._ground))
        else:
            super().keyPressEvent(event)

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Keep the row in the window."""
        if self._untouched:
            self.frame_all()
        else:
            self._note_move()

    def showEvent(self, event: object) -> None:
        """Draw what was not drawn while it was hidden."""
        self._still.start(0)
