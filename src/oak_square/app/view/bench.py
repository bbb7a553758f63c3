"""The Bench: what is selected, at true scale, to be walked round. Shows plain values, sends wishes."""

from __future__ import annotations

import time
from collections.abc import Callable

import numpy as np
from numpy.typing import NDArray
from PySide6.QtCore import QEvent, QPointF, Qt, QTimer, Signal
from PySide6.QtGui import (
    QImage,
    QKeyEvent,
    QLinearGradient,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QResizeEvent,
    QWheelEvent,
)
from PySide6.QtWidgets import QWidget

from oak_square.app.facts.picture import Facts, Picture
from oak_square.app.view.camera import Camera, framed
from oak_square.app.view.flat import draw_flat
from oak_square.app.view.framing import boxes_to_frame, is_alike
from oak_square.app.view.measure_marks import draw_measures
from oak_square.app.view.named_marks import draw_berths, draw_named, draw_notes
from oak_square.app.view.overlay import Canvas, Lens, draw_facts
from oak_square.app.view.pointing import Pointing
from oak_square.app.view.rays import Rays
from oak_square.app.view.renderer import Renderer
from oak_square.app.widgets.theme import colour
from oak_square.core.boxes import Box
from oak_square.core.shown_units import ShownUnit
from oak_square.core.words import say

__all__ = ["Bench"]

_STILL_MS, _EMPTY_MS = 160, 700
_SLICE_S = 0.04  # of making ready what is to be drawn, before whatever waits has its turn
_SHARE = 4  # pictures that are not whole yet take a fifth of the time at most
_CLICK_PIXELS = 4
_NO_KEYS = Qt.KeyboardModifier.NoModifier
_GRID_PIXELS = 46  # wanted between two lines
# Outside these, as a share of the picture, a model that changed size is framed anew.
_SMALLEST, _LARGEST = 0.30, 1.25


class Bench(QWidget):
    """Draws a picture with facts over it; orbits, pans, zooms, frames, picks."""

    pointed = Signal(object)  # where the pointer is in the world, shape (3,) metres, or None
    moved = Signal(object)  # the camera, after a hand moved or framed it
    grid_changed = Signal(float, int)  # spacing, metres, and how many make a major one
    hovered = Signal(object)  # Pointing, or None where the pointer has left
    pressed = Signal(object)  # Pointing, of the left button
    dragged = Signal(object)
    released = Signal(object)
    asked = Signal(object)  # Pointing, of a right click that did not orbit

    def __init__(self, renderer: Renderer, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setMouseTracking(True)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMinimumSize(320, 240)
        self.setAccessibleName(say("Bench"))
        self._renderer = renderer
        self.picture = Picture()
        self.facts = Facts()
        self.unit = ShownUnit()
        self.camera = Camera(target=np.zeros(3), distance=8.0)
        self._image: QImage | None = None
        self._grid_m = 0.0
        self._pressed: tuple[Qt.MouseButton, QPointF] | None = None
        self._last = QPointF()
        self._still = QTimer(self, singleShot=True)
        self._still.timeout.connect(self._draw_fine)
        self._growing = QTimer(self, singleShot=True, interval=0)
        self._growing.timeout.connect(self._draw_more)
        self._grown_at = 0.0  # when what is ready by then is drawn next
        self._framed_for: object = None
        self._focus: Box | None = None  # what was framed last
        self._asked_for: Box | None = None  # by a hand
        self._untouched = True  # the camera stands where framing put it
        self.has_figure = True  # stands beside what is seen from a side
        self.calm = True  # nothing else is under way, so there is time for fine frames
        self._draw_marks: Callable[[Canvas], None] = lambda _: None
        self._reads_key: Callable[[QKeyEvent, bool], bool] = lambda *_: False
        self.pointer: QPointF | None = None
        self.covered = (0, 0)  # pixels from the top left that something stands over
        self.leads = True  # else its camera is another view's, unless a hand moves it here

    def show_picture(self, picture: Picture, facts: Facts, subject: object, *, held: bool = False) -> None:
        """Show `picture` with `facts`; it is framed anew when `subject` differs or its size jumps, unless `held`."""
        jumped = self.leads and not held and (subject != self._framed_for or self._has_jumped(picture, facts))
        self.facts = facts
        if not held and not jumped and self._image is not None and picture.same_as(self.picture):
            self.update()
            return
        self.picture = picture
        if self.camera.flat_m is not None:
            self.camera = self.camera.flattened(self._find_reach())
        if jumped and picture.box is not None:
            again = self._asked_for is not None and subject == self._framed_for
            self._framed_for = subject
            self._asked_for = (facts.box or picture.box) if again else None
            self._frame_box(self._asked_for or picture.box)
        else:
            self._redraw_picture(moving=held)

    def _has_jumped(self, picture: Picture, facts: Facts) -> bool:
        """Tell whether what was framed has become so large, small or far off that it must be framed anew."""
        box = picture.box if self._asked_for is None else facts.box or picture.box
        if box is None or box.same_as(self._focus):
            return False
        if self._untouched and self._runs_out(box):
            return True
        if self._focus is not None and is_alike(box, self._focus, _LARGEST):
            return False  # however near a hand has gone to it
        seen = self.camera.projected(np.array([box.middle]), self.width(), self.height())[0]
        middle = [self.width() / 2, (self.height() + min(self.covered[1], self.height() / 4)) / 2]
        off = np.abs(seen[:2] - middle) / [self.width(), self.height()]
        share = self._find_share(box)
        return bool(share < _SMALLEST or share > _LARGEST or seen[2] <= 0 or off.max() > 0.5)

    def _find_share(self, box: Box) -> float:
        """Return how large a pixel would be if a box were framed, as a share of what it is."""
        near = framed(self.camera, box, self.width(), self.height(), top=self.covered[1])
        return near.metres_per_pixel(1) / self.camera.metres_per_pixel(1)

    def _runs_out(self, box: Box) -> bool:
        """Tell whether some of a box lies outside the picture."""
        seen = self.camera.projected(box.corners, self.width(), self.height())
        inside = (seen[:, :2] >= 0).all() and (seen[:, :2] <= [self.width(), self.height()]).all()
        return not (inside and (seen[:, 2] > 0).all())

    def frame(self) -> None:
        """Bring the whole of what is shown into the picture, the camera's directions kept."""
        if self.picture.box is not None:
            self._frame_box(self.picture.box)

    def frame_next(self) -> None:
        """Frame what is picked; asked again, its asset, then all; and so round, until a hand moves the camera."""
        boxes = boxes_to_frame(self.picture, self.facts)
        if boxes:
            asked = self._asked_for if self._untouched else None
            last = next((k for k, box in enumerate(boxes) if box.same_as(asked)), -1)
            self._asked_for = boxes[(last + 1) % len(boxes)]
            self._frame_box(self._asked_for)

    def _frame_box(self, box: Box) -> None:
        self.camera = framed(self.camera, box, self.width(), self.height(), top=self.covered[1])
        if self.camera.flat_m is not None:
            self.camera = self.camera.flattened(self._find_reach())
        self._focus, self._untouched = box, True
        self._redraw_picture(moving=False)

    def look_from(self, azimuth_deg: float, elevation_deg: float, *, flat: bool) -> None:
        """Turn the camera to a direction; what is framed stays so, as large as it is, where it has room."""
        camera = self.camera.turned(azimuth_deg, elevation_deg, self._find_turning_point())
        self.camera = camera.flattened(self._find_reach()) if flat else camera.deepened()
        focus = self._focus
        if self._untouched and focus is not None and self._is_ill_framed(focus):
            self._frame_box(focus)
        else:
            self._redraw_picture(moving=False)

    def _is_ill_framed(self, box: Box) -> bool:
        return self._find_share(box) < _SMALLEST or self._runs_out(box)

    def swap_projection(self) -> None:
        """Look in parallel projection, or in perspective again, what is looked at as large as before."""
        flat = self.camera.flat_m is None
        self.camera = self.camera.flattened(self._find_reach()) if flat else self.camera.deepened()
        self._redraw_picture(moving=False)

    def _find_reach(self) -> float:
        """Return how far off the eye must stand for nothing that is shown to lie behind it, metres."""
        box = self.picture.box
        if box is None:
            return 0.0
        return 2 * box.diagonal + float(np.linalg.norm(self.camera.target - box.middle))

    def _find_turning_point(self) -> NDArray[np.float64] | None:
        """Return what the camera is turned about: the middle of what was framed, while that is in the picture."""
        if self._focus is None:
            return None
        middle: NDArray[np.float64] = self._focus.middle
        return middle if self.lens().holds(self.lens().seen(middle[None])[0]) else None

    def lens(self) -> Lens:
        """Return what is needed to find a world point in the picture."""
        return Lens(camera=self.camera, width=self.width(), height=self.height(), unit=self.unit, covered=self.covered)

    def show_in(self, unit: ShownUnit) -> None:
        """Show lengths, and the grid, in another unit."""
        if unit != self.unit:
            self.unit = unit
            self.pointed.emit(None)
            if self._image is not None:
                self._grid_m = 0.0
                self._redraw_picture(moving=False)

    def show_marks(self, draw: Callable[[Canvas], None]) -> None:
        """Let someone draw over the picture, each time it is painted."""
        self._draw_marks = draw
        self.update()

    def show_hand(self, cursor: Qt.CursorShape, hint: str) -> None:
        """Say by the pointer's shape, and a tooltip, what a click would do."""
        self.setCursor(cursor)
        self.setToolTip(hint)

    def pointing(self, at: QPointF, keys: Qt.KeyboardModifier = _NO_KEYS, *, clicked: bool = False) -> Pointing:
        """Return what an instrument is given of a pixel."""
        rays = self._find_rays(at)
        eye, toward = rays.ray()
        return Pointing(
            x=at.x(),
            y=at.y(),
            eye=eye,
            toward=toward,
            lens=rays.lens,
            hits=rays.first,
            around=rays.around,
            sees=rays.sees,
            beside=bool(keys & Qt.KeyboardModifier.ControlModifier),
            free=bool(keys & Qt.KeyboardModifier.ShiftModifier),
            clicked=clicked,
        )

    def _find_rays(self, at: QPointF) -> Rays:
        return Rays(renderer=self._renderer, picture=self.picture, lens=self.lens(), x=at.x(), y=at.y())

    def here(self) -> Pointing | None:
        """Return what an instrument would be given of where the pointer is; None where it is elsewhere."""
        return None if self.pointer is None else self.pointing(self.pointer)

    def follow(self, camera: Camera) -> None:
        """Take another view's camera; tells no one."""
        self.camera = camera
        self._render_picture(fine=False)
        self._still.start(_STILL_MS)

    def _redraw_picture(self, *, moving: bool) -> None:
        self._render_picture(fine=False, moving=moving)
        if self.leads:
            self.moved.emit(self.camera)
        if moving:
            self._still.start(_STILL_MS)
        else:
            # An empty ground can wait for its smooth lines: models may be on their way.
            self._still.start(0 if self.picture.shapes else _EMPTY_MS)

    def _by_hand(self) -> None:
        self._untouched = False
        self._redraw_picture(moving=True)
        if not self.leads:
            self.moved.emit(self.camera)

    @property
    def is_growing(self) -> bool:
        """Whether some of the picture is not drawn yet: of very many parts, one after the other is made ready."""
        return self._growing.isActive()

    def stop(self) -> None:
        """Draw nothing more by itself: its renderer is about to go."""
        self._growing.stop()
        self._still.stop()

    def _draw_more(self) -> None:
        self._render_picture(fine=False)
        if not self.is_growing:
            self._still.start(_STILL_MS)

    def _draw_fine(self) -> None:
        if not self.calm or self.is_growing:
            self._still.start(_EMPTY_MS)
            return
        self._render_picture(fine=True)

    def _render_picture(self, *, fine: bool, moving: bool = False) -> None:
        if self._renderer.take(self.picture, _SLICE_S):
            self._growing.stop()
            self._grown_at = 0.0
        else:
            self._growing.start()
            if time.perf_counter() < self._grown_at:
                return
        since = time.perf_counter()
        ratio = self.devicePixelRatioF()
        size = (round(self.width() * ratio), round(self.height() * ratio))
        grid = self.unit.grid_for(self.camera.metres_per_pixel(self.height()) * _GRID_PIXELS)
        if grid[0] != self._grid_m:
            self._grid_m = grid[0]
            self.grid_changed.emit(*grid)
        pixels = self._renderer.render(self.picture, self.camera, size, grid=grid, fine=fine, light=moving)
        high, wide, _ = pixels.shape
        self._image = QImage(pixels.data, wide, high, 4 * wide, QImage.Format.Format_RGBA8888_Premultiplied).copy()
        if self.is_growing:
            self._grown_at = time.perf_counter() + _SHARE * (time.perf_counter() - since)
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        """Lay the ground, the picture and the facts over one another."""
        painter = QPainter(self)
        ground = QLinearGradient(0, 0, 0, self.height())
        ground.setColorAt(0, colour("view-high"))
        ground.setColorAt(1, colour("view-low"))
        painter.fillRect(self.rect(), ground)
        if self._image is not None:
            painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
            painter.drawImage(self.rect(), self._image)
        canvas = draw_facts(painter, self.lens(), self.facts)
        draw_measures(painter, self.lens(), self.facts.measures)
        draw_berths(painter, self.lens(), self.facts.berths)
        draw_named(painter, self.lens(), self.facts.datums, self.facts.marks)
        draw_notes(painter, self.lens(), self.facts.notes)
        if self.camera.flat_m is not None:
            draw_flat(painter, self.lens(), self.facts.whole or self.picture.box, figure=self.has_figure)
        self._draw_marks(canvas)
        if self.hasFocus():
            painter.setPen(colour("oak", 140))
            painter.drawRect(self.rect().adjusted(0, 0, -1, -1))

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Keep what was framed in the picture."""
        if self._untouched and self.leads and self._focus is not None:
            self._frame_box(self._focus)
        else:
            self._redraw_picture(moving=True)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Begin a click or a drag."""
        self.setFocus(Qt.FocusReason.MouseFocusReason)
        self._pressed = (event.button(), event.position())
        self._last = event.position()
        if event.button() == Qt.MouseButton.LeftButton:
            self.pressed.emit(self.pointing(event.position(), event.modifiers()))

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        """Orbit with the right button, pan with the middle one; all else is for the instrument in hand."""
        moved = event.position() - self._last
        self._last = self.pointer = event.position()
        if self._pressed is None:
            self.pointed.emit(self._find_rays(event.position()).world())
            self.hovered.emit(self.pointing(event.position(), event.modifiers()))
            return
        button = self._pressed[0]
        if button == Qt.MouseButton.RightButton:
            self.camera = self.camera.orbited(moved.x(), moved.y(), self._find_turning_point())
        elif button == Qt.MouseButton.MiddleButton:
            self.camera = self.camera.panned(moved.x(), moved.y(), self.height())
        else:
            if button == Qt.MouseButton.LeftButton:
                self.dragged.emit(self.pointing(event.position(), event.modifiers()))
            return
        self._by_hand()

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        """End a click or a drag."""
        if self._pressed is None:
            return
        button, start = self._pressed
        self._pressed = None
        if button == Qt.MouseButton.LeftButton:
            clicked = (event.position() - start).manhattanLength() <= _CLICK_PIXELS
            self.released.emit(self.pointing(event.position(), event.modifiers(), clicked=clicked))
        elif button == Qt.MouseButton.RightButton and (event.position() - start).manhattanLength() <= _CLICK_PIXELS:
            self.asked.emit(self.pointing(event.position(), event.modifiers(), clicked=True))

    def wheelEvent(self, event: QWheelEvent) -> None:
        """Zoom to the pointer."""
        at = event.position()
        factor = 1.0015 ** event.angleDelta().y()
        self.camera = self.camera.zoomed(factor, at.x(), at.y(), self.width(), self.height())
        self._by_hand()

    def read_keys(self, reads: Callable[[QKeyEvent, bool], bool]) -> None:
        """Let someone read keys first: told of a key, and whether it only asks if it would be read."""
        self._reads_key = reads

    def event(self, event: QEvent) -> bool:
        """Keep from the window's shortcuts what is typed to an instrument."""
        if (
            event.type() == QEvent.Type.ShortcutOverride
            and isinstance(event, QKeyEvent)
            and self._reads_key(event, True)
        ):
            event.accept()
            return True
        return super().event(event)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Space frames what is picked, its asset, then all; arrows walk round; what is typed is an instrument's."""
        if self._reads_key(event, False):
            return
        key = event.key()
        steps = {
            Qt.Key.Key_Left: (-40, 0),
            Qt.Key.Key_Right: (40, 0),
            Qt.Key.Key_Up: (0, 25),
            Qt.Key.Key_Down: (0, -25),
        }
        if key == Qt.Key.Key_Space:
            self.frame_next()
        elif key in steps:
            self.camera = self.camera.orbited(*steps[Qt.Key(key)], self._find_turning_point())
            self._by_hand()
        elif key in (Qt.Key.Key_Plus, Qt.Key.Key_Minus, Qt.Key.Key_Equal):
            factor = 1 / 1.2 if key == Qt.Key.Key_Minus else 1.2
            self.camera = self.camera.zoomed(factor, self.width() / 2, self.height() / 2, self.width(), self.height())
            self._by_hand()
        else:
            super().keyPressEvent(event)

    def leaveEvent(self, event: object) -> None:
        """The pointer is nowhere."""
        self.pointer = None
        self.pointed.emit(None)
        self.hovered.emit(None)
