"""Pick: a click picks the part under the pointer, with Ctrl beside those that are picked."""

from __future__ import annotations

from typing import ClassVar

from oak_square.app.instruments.instrument import Instrument, registered
from oak_square.app.instruments.wishes import LetGo, PickNode
from oak_square.app.view.pointing import Pointing

__all__ = ["Picker"]


@registered
class Picker(Instrument):
    """Picks on the surface that faces the eye."""

    name: ClassVar[str] = "pick"
    key: ClassVar[str] = "1"
    word: ClassVar[str] = "Pick"
    tip: ClassVar[str] = "Click to pick assets and parts, with Ctrl several (1)"

    def release(self, at: Pointing) -> None:
        """Pick what was clicked; let go of all where that is nothing."""
        if not at.clicked:
            return
        hit = at.hit()
        self.wish(LetGo() if hit is None else PickNode(file=hit[0].file, node=hit[0].node, beside=at.beside))
