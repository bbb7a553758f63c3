"""`place`: where assets and parts stand."""

from __future__ import annotations

from typing import Annotated, ClassVar, Literal

import numpy as np
from numpy.typing import NDArray
from pydantic import Field, model_validator

from oak_square.core.boxes import Box, asset_box, tree_box
from oak_square.core.frames import translation
from oak_square.core.lengths import format_length
from oak_square.core.motion import carry, carry_all
from oak_square.core.scene import Asset
from oak_square.core.tolerances import SAME_PLACE
from oak_square.steps.centre import BoxPoint, Spot, Xyz, point_on_box, spot_words
from oak_square.steps.step import NO_SUCH_NODE, Effect, Setting, Step, registered, said

Array = NDArray[np.float64]
Axis = Literal["x", "y", "z"]


@registered
class PlaceStep(Step):
    """Moves the asset, or the named parts, as a whole."""

    stage: ClassVar[str] = "place"

    do: Literal["place"] = "place"
    at: Literal["origin", "parent"] | Xyz | None = Field(
        None, description="Where to: the origin, the parent's pivot, or x, y, z."
    )
    by: Literal["pivot", "base", "middle"] | BoxPoint | None = Field(
        None, description="Which point of it goes there: base for assets, pivot for named parts, where not given."
    )
    axes: Annotated[list[Axis], Field(min_length=1, max_length=3)] | None = Field(
        None, description="Only these coordinates change; all where not given."
    )
    ground: bool = Field(False, description="Bring the bottom onto height 0.")
    shift: Xyz | None = Field(None, description="Move on by so much along x, y, z.")

    @model_validator(mode="after")
    def _goes_somewhere(self) -> PlaceStep:
        if self.at is None and not self.ground and self.shift is None:
            raise ValueError("place needs 'at', 'ground: true' or 'shift': it would move nothing")
        if self.at == "parent" and self.parts is None:
            raise ValueError("at: parent is for named parts; an asset has no parent")
        if self.at is None and (self.by is not None or self.axes is not None):
            raise ValueError("'by' and 'axes' go with 'at'")
        return self

    def apply(self, asset: Asset, setting: Setting) -> Effect:
        """Return the asset with it, or its named parts, set down there."""
        whole = asset_box(asset)
        if self.parts is not None:
            return self._place_parts(asset, whole, setting)
        if whole is None:
            return Effect(asset=asset, changed=False, detail="it has no geometry to set down")
        move = self._move(whole, self._own_point(whole, np.zeros(3), "base", setting), None, setting)
        far = float(np.linalg.norm(move))
        if far <= SAME_PLACE * whole.diagonal:
            return Effect(asset=asset, changed=False, detail="it stands there already")
        moved = carry_all(asset, translation(move))
        return Effect(asset=moved, changed=True, detail=f"moved {format_length(far)}")

    def _place_parts(self, asset: Asset, whole: Box | None, setting: Setting) -> Effect:
        motions, furthest = {}, 0.0
        chosen = self.chosen(asset)
        for i in chosen:
            pivot = asset.worlds[i][:3, 3]
            box = tree_box(asset, i) or Box(pivot, pivot)
            above = asset.nodes[i].parent
            parent = np.zeros(3) if above is None else asset.worlds[above][:3, 3]
            move = self._move(box, self._own_point(box, pivot, "pivot", setting), parent, setting)
            if np.linalg.norm(move) > SAME_PLACE * (whole.diagonal if whole is not None else 1.0):
                motions[i] = translation(move)
                furthest = max(furthest, float(np.linalg.norm(move)))
        if not motions:
            why = "they stand there already" if chosen else NO_SUCH_NODE
            return Effect(asset=asset, changed=False, detail=why)
        detail = f"{len(motions)} {'part' if len(motions) == 1 else 'parts'} moved, up to {format_length(furthest)}"
        return Effect(asset=carry(asset, motions), changed=True, detail=detail)

    def _own_point(self, box: Box, pivot: Array, usual: str, setting: Setting) -> Array:
        by = self.by or usual
        if by == "pivot":
            return pivot
        if isinstance(by, list):
            return point_on_box(box, Spot(point=by), setting)
        return box.base if by == "base" else box.middle

    def _move(self, box: Box, point: Array, parent: Array | None, setting: Setting) -> Array:
        """Return the world move, metres: to the place along the chosen axes, onto the ground, and on by the shift."""
        move = np.zeros(3)
        if self.at is not None:
            to = setting.point(self.at) if isinstance(self.at, list) else np.zeros(3)
            if self.at == "parent" and parent is not None:
                to = parent
            move = to - point
        if self.axes is not None:
            chosen = np.array([axis in self.axes for axis in "xyz"], dtype=np.float64)
            move = move * (np.abs(setting.working_from_delivery) @ chosen)
        if self.ground:
            move = np.array([move[0], -box.low[1], move[2]])
        return move + setting.point(self.shift) if self.shift is not None else move

    def title(self) -> str:
        """Return `Place: origin, on the ground`."""
        words = []
        if isinstance(self.at, list):
            words.append(", ".join(said(v) for v in self.at))
        elif self.at is not None:
            words.append(self.at)
        if isinstance(self.by, list):
            words.append(f"by {spot_words(self.by)}")
        if self.axes is not None:
            words.append(f"along {' '.join(self.axes)}")
        if self.ground:
            words.append("on the ground")
        if self.shift is not None:
            words.append(f"shift {', '.join(said(v) for v in self.shift)}")
        return f"Place: {', '.join(words)}"
