"""What every instrument is: its key and words, what it makes of the pointer, the marks it draws; and the register."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field
from itertools import count
from typing import ClassVar

from PySide6.QtCore import Qt

from oak_square.app.facts.hold import HeldNodes
from oak_square.app.facts.picture import Facts
from oak_square.app.instruments.aims import KINDS, Target
from oak_square.app.instruments.wishes import Wish
from oak_square.app.view.overlay import Canvas
from oak_square.app.view.pointing import Pointing
from oak_square.core.boxes import asset_box
from oak_square.core.scene import Asset, Mesh
from oak_square.core.shown_units import ShownUnit

__all__ = ["INSTRUMENTS", "Instrument", "Scene", "held_in_turn", "registered"]


_GESTURES = count(-1, -1)


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Scene:
    """What stands on the Bench.

    Attributes
    ----------
    asset : Asset or None
        The lead one, as it is shown.
    facts : Facts
        What is written over the picture.
    unit : ShownUnit
    ready : callable
        Tells whether a mesh's corners, edges and circles are known; of a large one they are worked out meanwhile.
    kinds : frozenset of str
        What can be picked and snapped to: the switches at the foot that are on.
    hold : HeldNodes or None
        What is taken hold of; None where nothing is.
    angle_step_deg : float
        What turns snap to; 0 for nothing.
    grid_m : float, metres
        What moves snap to; 0 for nothing.
    wants : str
        What a point is waited for, in words; empty where none is.
    shaping : bool
        Vertices of what is selected are picked, in place of parts.
    spots : bool
        Box points are settled: the box's own are offered on the model.
    """

    asset: Asset | None = None
    facts: Facts = field(default_factory=Facts)
    unit: ShownUnit = field(default_factory=ShownUnit)
    ready: Callable[[Mesh], bool] = lambda _: True
    kinds: frozenset[str] = frozenset(KINDS)
    hold: HeldNodes | None = None
    angle_step_deg: float = 15.0
    grid_m: float = 0.0
    wants: str = ""
    shaping: bool = False
    spots: bool = False

    @property
    def target(self) -> Target:
        """What can be aimed at besides the surface."""
        box = asset_box(self.asset) if self.asset is not None else None
        return Target(asset=self.asset, box=box, kinds=self.kinds, ready=self.ready)


class Instrument:
    """One thing that is taken in hand. It knows what stands on the Bench, and wishes; it changes nothing itself."""

    name: ClassVar[str]
    key: ClassVar[str] = ""
    """The key that takes it up; one without a key is always at hand, under the one that is held."""
    word: ClassVar[str] = ""
    tip: ClassVar[str] = ""
    stage: ClassVar[str] = ""
    """The stage whose form goes with it, and the page of that form."""
    page: ClassVar[str] = ""
    yields: ClassVar[bool] = True
    """Whether those always at hand come before it, where they take hold of what is under the pointer."""

    def __init__(self, wish: Callable[[Wish], None]) -> None:
        self.wish = wish
        self.scene = Scene()

    @staticmethod
    def fresh_gesture() -> int:
        """Return a number for a gesture, apart from those that are counted as they begin, which are above nought."""
        return next(_GESTURES)

    @property
    def band(self) -> str:
        """What the band over the view says while it is held; empty for none."""
        return ""

    @property
    def cursor(self) -> Qt.CursorShape:
        """The pointer's shape while it is held."""
        return Qt.CursorShape.ArrowCursor

    def hint(self, at: Pointing) -> str:
        """Return the tooltip for what is under the pointer."""
        return ""

    def show(self, scene: Scene) -> None:
        """Take note of what stands on the Bench."""
        self.scene = scene

    def take_up(self) -> None:
        """Begin anew."""

    def lay_down(self) -> bool:
        """Drop what is begun; tell whether there was anything."""
        return False

    def leave(self) -> None:
        """Another instrument is taken up: drop what is begun."""
        while self.lay_down():
            pass

    def takes(self, at: Pointing) -> bool:
        """Tell whether it takes hold of what is under the pointer; asked of those that are always at hand."""
        return False

    def hover(self, at: Pointing | None) -> None:
        """The pointer is there, with no button down; None where it has left the Bench."""

    def press(self, at: Pointing) -> None:
        """The left button goes down."""

    def move(self, at: Pointing) -> None:
        """The pointer moves with the button down."""

    def release(self, at: Pointing) -> None:
        """The button comes up."""

    def reads(self, key: str) -> bool:
        """Tell whether it would read a key just now: a letter as it is typed, or `enter`, `escape`, `backspace`."""
        return False

    def read(self, key: str) -> None:
        """Read a key that it said it would."""

    @property
    def begins_entry(self) -> bool:
        """Whether a digit may begin something that is typed to it, though it says of no axis yet."""
        return False

    def open_entry(self, text: str) -> None:
        """Take what was typed so far; nothing, where it came to nothing."""

    def ask(self, at: Pointing) -> None:
        """The right button was clicked."""

    def draw(self, canvas: Canvas) -> None:
        """Draw its marks over the picture."""


INSTRUMENTS: dict[str, type[Instrument]] = {}
"""Every instrument by its name; filled when the package is imported."""


def held_in_turn() -> list[type[Instrument]]:
    """Return those that are taken in hand, in the order of their keys."""
    return sorted((kind for kind in INSTRUMENTS.values() if kind.key), key=lambda kind: kind.key)


def registered(kind: type[Instrument]) -> type[Instrument]:
    """Add an instrument to the register.

    Raises
    ------
    RuntimeError
        If its name or key is taken: a fault of ours.
    """
    keys = {k.key for k in INSTRUMENTS.values() if k.key}
    if kind.name in INSTRUMENTS or kind.key in keys:
        raise RuntimeError(f"two instruments are called '{kind.name}', or taken up by '{kind.key}'")
    INSTRUMENTS[kind.name] = kind
    return kind
