"""`turn`: which axes of the file are up and front; or a turn by angles about a centre."""

from __future__ import annotations

from dataclasses import replace
from typing import Annotated, ClassVar, Literal

import numpy as np
from numpy.typing import NDArray
from pydantic import Field, model_validator

from oak_square.core.frames import Reading, on_one_line
from oak_square.core.motion import carry, carry_all
from oak_square.core.scene import Asset
from oak_square.steps.centre import Centre, centre_point
from oak_square.steps.step import NO_SUCH_NODE, Effect, Setting, Step, registered

SignedAxis = Literal["+X", "-X", "+Y", "-Y", "+Z", "-Z"]
Array = NDArray[np.float64]


@registered
class TurnStep(Step):
    """Sets which signed file axes are up and front, settled before all other steps; or turns by angles."""

    stage: ClassVar[str] = "turn"

    do: Literal["turn"] = "turn"
    up: SignedAxis | None = Field(None, description="The file axis that points up.")
    front: SignedAxis | None = Field(None, description="The file axis that the model's front faces.")
    by: Annotated[list[float], Field(min_length=3, max_length=3)] | None = Field(
        None, description="Degrees about the delivery axes, X first, then Y, then Z."
    )
    about: Centre | None = Field(None, description="What stays in place; the pivot where not given.")

    @model_validator(mode="after")
    def _one_kind_of_turn(self) -> TurnStep:
        if self.by is not None:
            if self.up is not None or self.front is not None:
                raise ValueError("turn takes either up and front, or by")
            if not np.isfinite(self.by).all():
                raise ValueError("an angle is not finite")
            return self
        if self.up is None or self.front is None:
            missing = "up" if self.up is None else "front"
            raise ValueError(f"'{missing}' is missing: turn needs up and front, or by")
        if on_one_line(self.up, self.front):
            raise ValueError(f"up {self.up} and front {self.front} lie on one line")
        if self.parts is not None:
            raise ValueError("a reading is of the file, it takes no parts")
        if self.about is not None:
            raise ValueError("about goes with by: a reading has no centre")
        return self

    @property
    def is_reading(self) -> bool:
        """Whether it says up and front, which are part of how the file is read."""
        return self.by is None

    def read_as(self, reading: Reading, asset: Asset) -> Reading:
        """Return `reading` with this up and front."""
        assert self.up is not None
        assert self.front is not None
        return replace(reading, up=self.up, front=self.front, source="sheet")

    def apply(self, asset: Asset, setting: Setting) -> Effect:
        """Return the asset, or its named parts, turned; a reading was settled before."""
        if self.by is None:
            return Effect(asset=asset, changed=True, detail=f"{asset.reading.up} is up, {asset.reading.front} is front")
        chosen = self.chosen(asset) if self.parts is not None else ()
        if self.parts is not None and not chosen:
            return Effect(asset=asset, changed=False, detail=NO_SUCH_NODE)
        turn = setting.turned(self.by) @ setting.working_from_delivery.T
        if np.abs(turn - np.eye(3)).max() <= 1e-12:
            return Effect(asset=asset, changed=False, detail="that turn comes back to where it was")
        about = self.about or "pivot"
        if self.parts is None:
            motion = _turned_about(turn, centre_point(asset, None, about, setting))
            return Effect(asset=carry_all(asset, motion), changed=True, detail=self._words())
        motions = {i: _turned_about(turn, centre_point(asset, i, about, setting)) for i in chosen}
        detail = f"{self._words()}, {len(chosen)} {'part' if len(chosen) == 1 else 'parts'}"
        return Effect(asset=carry(asset, motions), changed=True, detail=detail)

    def _words(self) -> str:
        turns = [f"{angle:g}° about {axis}" for axis, angle in zip("xyz", self.by or (), strict=False) if angle]
        return "turned " + ", then ".join(turns).replace("-", "−")

    def title(self) -> str:
        """Return `Up +Z, front −Y`, or `Turn 90° about y`."""
        if self.by is not None:
            return self._words().replace("turned", "Turn")
        return f"Up {self.up}, front {self.front}".replace("-", "−")


def _turned_about(turn: Array, centre: Array) -> Array:
    motion = np.eye(4)
    motion[:3, :3] = turn
    motion[:3, 3] = centre - turn @ centre
    return motion
