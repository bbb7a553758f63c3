"""`turn`: which axes of the file are up and front."""

from __future__ import annotations

from dataclasses import replace
from typing import ClassVar, Literal

from pydantic import Field, model_validator

from oak_square.core.frames import Reading, on_one_line
from oak_square.core.scene import Asset
from oak_square.steps.step import Effect, Setting, Step, registered

SignedAxis = Literal["+X", "-X", "+Y", "-Y", "+Z", "-Z"]


@registered
class TurnStep(Step):
    """Sets which signed file axes are up and front; settled before all other steps."""

    stage: ClassVar[str] = "turn"
    takes_parts: ClassVar[bool] = False

    do: Literal["turn"] = "turn"
    up: SignedAxis = Field(description="The file axis that points up.")
    front: SignedAxis = Field(description="The file axis that the model's front faces.")

    @model_validator(mode="after")
    def _axes_differ(self) -> TurnStep:
        if on_one_line(self.up, self.front):
            raise ValueError(f"up {self.up} and front {self.front} lie on one line")
        return self

    @property
    def is_reading(self) -> bool:
        """Up and front are part of how the file is read."""
        return True

    def read_as(self, reading: Reading) -> Reading:
        """Return `reading` with this up and front."""
        return replace(reading, up=self.up, front=self.front, source="sheet")

    def apply(self, asset: Asset, setting: Setting) -> Effect:
        """Return the asset as it is: the reading was settled before."""
        return Effect(asset=asset, changed=True, detail=f"{asset.reading.up} is up, {asset.reading.front} is front")

    def title(self) -> str:
        """Return `Up +Z, front −Y`."""
        return f"Up {self.up}, front {self.front}".replace("-", "−")
