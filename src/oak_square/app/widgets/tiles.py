"""Small pictures side by side, each with its name and what is said of it; one may be chosen."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from PySide6.QtCore import QRectF, QSize, Qt, Signal
from PySide6.QtGui import QFontMetricsF, QImage, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QAbstractButton, QGridLayout, QScrollArea, QSizePolicy, QWidget

from oak_square.app.facts.folder import TileFacts
from oak_square.app.widgets.marks import draw_mark
from oak_square.app.widgets.theme import colour, font
from oak_square.core.words import say

__all__ = ["Tiles"]

_WIDE, _HIGH, _PICTURE, _GAP = 82, 102, 60, 4
_PER_ROW, _ROWS_SHOWN = 3, 2
_LEVEL = {"odd": "check", "doubt": "note"}


class _Tile(QAbstractButton):
    def __init__(self, tile: TileFacts, picture: Callable[[str], QImage | None], parent: QWidget) -> None:
        super().__init__(parent)
        self.tile = tile
        self._picture = picture
        self.setText(tile.name)
        said = {"odd": say("unlike its folder"), "doubt": say("in doubt")}.get(tile.mark, "")
        self.setToolTip("\n".join(t for t in (f"{tile.file}: {tile.answer}", said, *tile.why.split("; ")) if t))
        self.setAccessibleDescription(", ".join(t for t in (tile.answer, said, tile.why) if t))
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAttribute(Qt.WidgetAttribute.WA_Hover)
        self.setCheckable(True)
        self.setFixedSize(_WIDE, _HIGH)

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        room = QRectF(self.rect()).adjusted(0.5, 0.5, -0.5, -0.5)
        painter.fillRect(room, colour("oak-pale" if self.isChecked() or self.underMouse() else "paper"))
        painter.setPen(QPen(colour("oak-deep" if self.hasFocus() else "line"), 1))
        painter.drawRect(room)
        image = self._picture(self.tile.file)
        if image is not None and not image.isNull():
            ground = QRectF(room.center().x() - _PICTURE / 2, 5, _PICTURE, _PICTURE)
            painter.fillRect(ground, colour("thumb"))
            painter.drawImage(ground, image)
        if self.tile.mark:
            draw_mark(painter, QRectF(room.right() - 16, 5, 11, 11), _LEVEL[self.tile.mark])
        left = QRectF(5, 5 + _PICTURE + 2, room.width() - 10, 16)
        for text, ink, weight in ((self.tile.name, "ink", True), (self.tile.answer, "ink-soft", False)):
            painter.setFont(font(11, semibold=weight))
            painter.setPen(colour(ink))
            words = QFontMetricsF(painter.font()).elidedText(text, Qt.TextElideMode.ElideMiddle, left.width())
            painter.drawText(left, Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter, words)
            left.translate(0, 15)


class Tiles(QScrollArea):
    """Shows them in rows of three; wishes for the asset of one that is clicked."""

    asset_wished = Signal(str)

    def __init__(self, name: str, picture: Callable[[str], QImage | None], parent: QWidget) -> None:
        """Take what the rows are called for those who hear it, and what gives the picture of a file."""
        super().__init__(parent)
        self.setAccessibleName(name)
        self.setFrameShape(QScrollArea.Shape.NoFrame)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self._picture = picture
        self._inner = QWidget(self)
        self._grid = QGridLayout(self._inner)
        self._grid.setContentsMargins(0, 0, 0, 0)
        self._grid.setSpacing(_GAP)
        self._grid.setAlignment(Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignTop)
        self.setWidget(self._inner)
        self.setWidgetResizable(True)
        self.tiles: dict[str, QAbstractButton] = {}
        self._shown: tuple[TileFacts, ...] = ()

    def sizeHint(self) -> QSize:
        """Return room for two rows; the rest is scrolled to."""
        rows = min(_ROWS_SHOWN, -(-len(self._shown) // _PER_ROW))
        return QSize(_PER_ROW * (_WIDE + _GAP), rows * (_HIGH + _GAP))

    def show_tiles(self, tiles: Sequence[TileFacts], selected: Sequence[str]) -> None:
        """Match the rows to `tiles`; hidden where there is none."""
        if tuple(tiles) != self._shown:
            focused = next((file for file, tile in self.tiles.items() if tile.hasFocus()), None)
            self._shown = tuple(tiles)
            for gone in self.tiles.values():
                gone.hide()
                gone.deleteLater()
            self.tiles = {}
            for k, each in enumerate(tiles):
                tile = _Tile(each, self._picture, self._inner)
                tile.clicked.connect(lambda _=False, file=each.file: self.asset_wished.emit(file))
                self.tiles[each.file] = tile
                self._grid.addWidget(tile, k // _PER_ROW, k % _PER_ROW)
                tile.show()  # at once: a layout would do so only in a later turn of the event loop
                if each.file == focused:
                    tile.setFocus(Qt.FocusReason.OtherFocusReason)
            self.setFixedHeight(self.sizeHint().height())
        for file, shown in self.tiles.items():
            shown.setChecked(file in selected)
        self.setVisible(bool(tiles))

    def repaint_tiles(self) -> None:
        """Paint them anew: more pictures are made."""
        for tile in self.tiles.values():
            tile.update()
