"""Size plates: the three extents at the box's edges, typed over in place."""

from __future__ import annotations

from typing import ClassVar

from PySide6.QtCore import QPointF, QRectF, Qt

from oak_square.app.instruments.instrument import Instrument, registered
from oak_square.app.instruments.wishes import TypeOver
from oak_square.app.view.overlay import Canvas, draw_sizes
from oak_square.app.view.pointing import Pointing
from oak_square.core.terms import term
from oak_square.core.words import say

__all__ = ["BoxLabels"]


@registered
class BoxLabels(Instrument):
    """Draws the plates; a click on one opens it to be typed into."""

    name: ClassVar[str] = "plates"

    def __init__(self, wish: object) -> None:
        super().__init__(wish)  # type: ignore[arg-type]  # as the base takes it
        self.editing: str | None = None
        """The extent that is being typed over: its field stands where its plate would."""
        self._plates: dict[str, QRectF] = {}

    @property
    def cursor(self) -> Qt.CursorShape:
        """Text goes in here."""
        return Qt.CursorShape.IBeamCursor

    def plate(self, extent: str) -> QRectF | None:
        """Return where an extent is written, pixels; None where it is not."""
        return self._plates.get(extent)

    def _find_label_under(self, at: Pointing) -> str | None:
        return next((name for name, plate in self._plates.items() if plate.contains(QPointF(at.x, at.y))), None)

    def takes(self, at: Pointing) -> bool:
        """Take what is on a plate."""
        return self._find_label_under(at) is not None

    def hint(self, at: Pointing) -> str:
        """Say what a click is for."""
        extent = self._find_label_under(at)
        return say("Click and type the {extent} it shall have", extent=term(extent)) if extent is not None else ""

    def release(self, at: Pointing) -> None:
        """Open the plate that was clicked."""
        extent = self._find_label_under(at)
        if at.clicked and extent is not None:
            plate = self._plates[extent]
            self.wish(TypeOver(extent=extent, place=(plate.x(), plate.y(), plate.width(), plate.height())))

    def draw(self, canvas: Canvas) -> None:
        """Write the sizes."""
        self._plates = draw_sizes(canvas, self.scene.facts, self.editing)
