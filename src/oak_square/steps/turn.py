"""`turn`: which axes of the file are up and front; or a turn about a centre, by angles, onto a direction, or square."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace
from typing import Annotated, Any, ClassVar, Literal

import numpy as np
from numpy.typing import NDArray
from pydantic import Field, model_validator

from oak_square.core.counting import counted
from oak_square.core.frames import Reading, on_one_line
from oak_square.core.motion import carry, carry_all
from oak_square.core.placement import turn_degrees_of
from oak_square.core.scene import Asset
from oak_square.core.shapes import corners_of, nearest_right_angles, principal_turn
from oak_square.core.tolerances import SAME_FACTOR
from oak_square.steps.bring import Bring, SignedAxis, To, bring_turn, direction_words
from oak_square.steps.centre import Centre, centre_point, centre_words
from oak_square.steps.step import NO_SUCH_NODE, Effect, Setting, Step, own_axes, registered

Array = NDArray[np.float64]
_WAYS = "up and front, by, bring and to, or square"


@registered
class TurnStep(Step):
    """Sets which signed file axes are up and front, settled before all other steps; or turns things."""

    stage: ClassVar[str] = "turn"

    do: Literal["turn"] = "turn"
    up: SignedAxis | None = Field(None, description="The file axis that points up.")
    front: SignedAxis | None = Field(None, description="The file axis that the model's front faces.")
    by: Annotated[list[float], Field(min_length=3, max_length=3)] | None = Field(
        None, description="Degrees about the delivery axes, X first, then Y, then Z."
    )
    bring: Bring | None = Field(None, description="What is brought round: a signed axis, or a direction.")
    to: To | None = Field(None, description="Where it is brought: a side, a signed axis, or a direction.")
    square: bool | None = Field(None, description="To the nearest right angles.")
    about: Centre | None = Field(None, description="What stays in place; the pivot where not given.")

    @model_validator(mode="after")
    def _one_kind_of_turn(self) -> TurnStep:
        reading = self.up is not None or self.front is not None
        brought = self.bring is not None or self.to is not None
        if reading + (self.by is not None) + brought + (self.square is not None) > 1:
            raise ValueError(f"turn takes either {_WAYS}")
        if self.by is not None and not np.isfinite(self.by).all():
            raise ValueError("an angle is not finite")
        if brought and (self.bring is None or self.to is None):
            raise ValueError("bring and to go together")
        if self.square is False:
            raise ValueError("square: false turns nothing; leave it out")
        if self.by is None and not brought and self.square is None:
            self._is_a_reading()
        return self

    def _is_a_reading(self) -> None:
        if self.up is None or self.front is None:
            missing = "up" if self.up is None else "front"
            raise ValueError(f"'{missing}' is missing: turn needs {_WAYS}")
        if on_one_line(self.up, self.front):
            raise ValueError(f"up {self.up} and front {self.front} lie on one line")
        if self.parts is not None:
            raise ValueError("a reading is of the file, it takes no parts")
        if self.about is not None:
            raise ValueError("about goes with a turn: a reading has no centre")

    @classmethod
    def is_for_nodes(cls, words: Mapping[str, Any]) -> bool:
        """A turn can; up and front are of the file."""
        return "up" not in words and "front" not in words

    @property
    def is_reading(self) -> bool:
        """Whether it says up and front, which are part of how the file is read."""
        return self.up is not None

    @property
    def centre(self) -> Centre:
        """What stays in place: the pivot, where it is not said."""
        return self.about or "pivot"

    @property
    def stays(self) -> str:
        """The centre in words; a reading has none."""
        return "" if self.is_reading else centre_words(self.centre, of_nodes=self.parts is not None)

    def read_as(self, reading: Reading, asset: Asset) -> Reading:
        """Return `reading` with this up and front."""
        assert self.up is not None
        assert self.front is not None
        return replace(reading, up=self.up, front=self.front, source="sheet")

    def apply(self, asset: Asset, setting: Setting) -> Effect:
        """Return the asset, or its named parts, turned; a reading was settled before."""
        if self.is_reading:
            return Effect(asset=asset, changed=True, detail=f"{asset.reading.up} is up, {asset.reading.front} is front")
        if self.parts is None:
            turn = self._turn(asset, None, setting)
            if _is_none(turn):
                return Effect(asset=asset, changed=False, detail=self._nothing())
            motion = _turned_about(turn, centre_point(asset, None, self.centre, setting))
            return Effect(asset=carry_all(asset, motion), changed=True, detail=self._words(turn))
        chosen = self.chosen(asset)
        if not chosen:
            return Effect(asset=asset, changed=False, detail=NO_SUCH_NODE)
        turns = {i: self._turn(asset, i, setting) for i in chosen}
        due = {i: t for i, t in turns.items() if not _is_none(t)}
        if not due:
            return Effect(asset=asset, changed=False, detail=self._nothing())
        motions = {i: _turned_about(t, centre_point(asset, i, self.centre, setting)) for i, t in due.items()}
        words = self._words(next(iter(due.values())) if len(due) == 1 else None)
        detail = f"{words}, {counted(len(due), 'part')}"
        return Effect(asset=carry(asset, motions), changed=True, detail=detail)

    def _turn(self, asset: Asset, node: int | None, setting: Setting) -> Array:
        """Return the working rotation of the asset, or of one node."""
        if self.by is not None:
            found: Array = setting.turned(self.by) @ setting.working_from_delivery.T
            return found
        axes = None if node is None else own_axes(asset, node)
        if self.bring is not None and self.to is not None:
            return bring_turn(self.bring, self.to, axes, setting)
        if axes is not None:
            return nearest_right_angles(axes)
        squared = principal_turn(corners_of(asset, asset.parts))
        return np.eye(3) if squared is None else squared

    def _nothing(self) -> str:
        return "that turn comes back to where it was" if self.by is not None else "it is turned so already"

    def _words(self, turn: Array | None) -> str:
        if self.by is not None:
            turns = [f"{angle:g}° about {axis}" for axis, angle in zip("xyz", self.by, strict=True) if angle]
            return "turned " + ", then ".join(turns).replace("-", "−")
        how = "square" if self.square else f"{direction_words(self.bring)} to {direction_words(self.to)}"
        return f"turned {how}" + ("" if turn is None else f", by {turn_degrees_of(turn):.4g}°")

    def title(self) -> str:
        """Return `Up +Z, front −Y`, `Turn 90° about y`, `Bring +X to top`, `Square up`."""
        if self.by is not None:
            return self._words(None).replace("turned", "Turn")
        if self.square:
            return "Square up"
        if self.bring is not None:
            return f"Bring {direction_words(self.bring)} to {direction_words(self.to)}"
        return f"Up {self.up}, front {self.front}".replace("-", "−")


def _is_none(turn: Array) -> bool:
    return bool(np.abs(turn - np.eye(3)).max() <= SAME_FACTOR)


def _turned_about(turn: Array, centre: Array) -> Array:
    motion = np.eye(4)
    motion[:3, :3] = turn
    motion[:3, 3] = centre - turn @ centre
    return motion
