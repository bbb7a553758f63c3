"""`place`: where assets and parts stand."""

from __future__ import annotations

from typing import ClassVar, Literal

import numpy as np
from numpy.typing import NDArray
from pydantic import Field, model_validator

from oak_square.core.boxes import Box, asset_box, tree_box
from oak_square.core.frames import translation
from oak_square.core.lengths import format_length
from oak_square.core.motion import carry, carry_all
from oak_square.core.scene import Asset
from oak_square.core.tolerances import SAME_PLACE
from oak_square.steps.step import NO_SUCH_NODE, Effect, Setting, Step, registered

Array = NDArray[np.float64]


@registered
class PlaceStep(Step):
    """Moves the asset, or the named parts, as a whole."""

    stage: ClassVar[str] = "place"

    do: Literal["place"] = "place"
    at: Literal["origin"] | None = Field(None, description="Where to: the origin.")
    ground: bool = Field(False, description="Bring the bottom onto height 0.")

    @model_validator(mode="after")
    def _goes_somewhere(self) -> PlaceStep:
        if self.at is None and not self.ground:
            raise ValueError("place needs 'at' or 'ground: true': it would move nothing")
        return self

    def apply(self, asset: Asset, setting: Setting) -> Effect:
        """Return the asset with it, or its named parts, set down there."""
        whole = asset_box(asset)
        if whole is None:
            return Effect(asset=asset, changed=False, detail="it has no geometry to set down")
        if self.parts is None:
            move = self._move(whole, whole.base)
            far = float(np.linalg.norm(move))
            if far <= SAME_PLACE * whole.diagonal:
                return Effect(asset=asset, changed=False, detail="it stands there already")
            return Effect(asset=carry_all(asset, translation(move)), changed=True, detail=f"moved {format_length(far)}")
        return self._place_parts(asset, whole)

    def _place_parts(self, asset: Asset, whole: Box) -> Effect:
        motions, furthest = {}, 0.0
        chosen = self.chosen(asset)
        for i in chosen:
            box = tree_box(asset, i)
            if box is None:
                continue
            move = self._move(box, asset.worlds[i][:3, 3])
            if np.linalg.norm(move) > SAME_PLACE * whole.diagonal:
                motions[i] = translation(move)
                furthest = max(furthest, float(np.linalg.norm(move)))
        if not motions:
            why = "they stand there already" if chosen else NO_SUCH_NODE
            return Effect(asset=asset, changed=False, detail=why)
        detail = f"{len(motions)} parts moved, up to {format_length(furthest)}"
        return Effect(asset=carry(asset, motions), changed=True, detail=detail)

    def _move(self, box: Box, point: Array) -> Array:
        move = -point if self.at == "origin" else np.zeros(3)
        if self.ground:
            move = np.array([move[0], -box.low[1], move[2]])
        return move

    def title(self) -> str:
        """Return `Place: origin, on the ground`."""
        words = [w for w in ("origin" if self.at else "", "on the ground" if self.ground else "") if w]
        return f"Place: {', '.join(words)}"
