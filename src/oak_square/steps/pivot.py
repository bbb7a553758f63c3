"""`pivot`: where assets, parts and groups turn about. Geometry stays, or for an asset, moves to its origin."""

from __future__ import annotations

from typing import ClassVar, Literal

import numpy as np
from pydantic import Field

from oak_square.core.boxes import asset_box, node_box
from oak_square.core.frames import translation
from oak_square.core.lengths import format_length
from oak_square.core.motion import carry_all, reframe
from oak_square.core.scene import Asset
from oak_square.core.tolerances import SAME_PLACE
from oak_square.steps.step import NO_SUCH_NODE, Effect, Setting, Step, registered


@registered
class PivotStep(Step):
    """Moves pivots to a point of their box. Of an asset: the whole moves so that the point becomes the origin."""

    stage: ClassVar[str] = "pivot"

    do: Literal["pivot"] = "pivot"
    at: Literal["base"] = Field("base", description="The middle of the box's bottom.")
    of: Literal["asset", "parts"] | None = Field(
        None, description="The asset as a whole (the default), or its parts (the default where parts are named)."
    )

    @property
    def target(self) -> str:
        """What `of` means, its default filled in."""
        return self.of or ("asset" if self.parts is None else "parts")

    def apply(self, asset: Asset, setting: Setting) -> Effect:
        """Return the asset with its pivots there."""
        return self._asset_pivot(asset) if self.target == "asset" else self._part_pivots(asset)

    def _asset_pivot(self, asset: Asset) -> Effect:
        box = asset_box(asset)
        if box is None:
            return Effect(asset=asset, changed=False, detail="it has no geometry, so no base")
        off = float(np.linalg.norm(box.base))
        if off <= SAME_PLACE * box.diagonal:
            return Effect(asset=asset, changed=False, detail="the origin is at its base already")
        moved = carry_all(asset, translation(-box.base))
        return Effect(asset=moved, changed=True, detail=f"origin moved {format_length(off)} to its base")

    def _part_pivots(self, asset: Asset) -> Effect:
        chosen = self.chosen(asset, ("part",))
        worlds = asset.worlds.copy()
        whole = asset_box(asset)
        count, furthest = 0, 0.0
        for i in chosen:
            box = node_box(asset, i)
            if box is None:
                continue
            point = box.base
            off = float(np.linalg.norm(point - worlds[i][:3, 3]))
            if off > SAME_PLACE * max(box.diagonal, whole.diagonal if whole else 0.0):
                worlds[i][:3, 3] = point
                count, furthest = count + 1, max(furthest, off)
        if not count:
            why = "their pivots are at their bases already" if chosen else NO_SUCH_NODE
            return Effect(asset=asset, changed=False, detail=why)
        detail = f"{count} of {len(chosen)} part pivots moved, up to {format_length(furthest)}"
        return Effect(asset=reframe(asset, worlds), changed=True, detail=detail)

    def title(self) -> str:
        """Return `Pivot: base` with what of."""
        return f"Pivot: {self.at} of {self.target}"
