"""`pivot`: where assets, parts and groups turn about. Geometry stays, or for an asset, moves to its origin."""

from __future__ import annotations

from typing import ClassVar, Literal

import numpy as np
from numpy.typing import NDArray
from pydantic import Field, model_validator

from oak_square.core.boxes import Box, asset_box, node_box, tree_box
from oak_square.core.frames import translation
from oak_square.core.lengths import format_length
from oak_square.core.motion import carry_all, reframe
from oak_square.core.placement import Placement, rotation_of
from oak_square.core.scene import Asset
from oak_square.core.tolerances import SAME_PLACE
from oak_square.steps.centre import Spot, XyzPoint, point_on_box, spot_words
from oak_square.steps.step import NO_SUCH_NODE, Effect, Setting, Step, registered, said

Array = NDArray[np.float64]
BASE = Spot(point=["middle", "bottom", "middle"])
MIDDLE = Spot(point=["middle", "middle", "middle"])
KINDS = {"parts": ("part",), "groups": ("group",), "all": ("part", "group")}


@registered
class PivotStep(Step):
    """Moves pivots to a point. Of an asset: the whole moves so that the point becomes the origin."""

    stage: ClassVar[str] = "pivot"

    do: Literal["pivot"] = "pivot"
    at: Literal["base", "middle", "origin"] | Spot | XyzPoint = Field(
        "base", description="base, middle, origin, a box point with insets, or coordinates."
    )
    of: Literal["asset", "parts", "groups", "all"] | None = Field(
        None, description="The asset as a whole (the default), its parts (the default where named), groups, or all."
    )
    box: Literal["own", "tree"] | None = Field(
        None, description="Whose box: its own geometry (default for parts), or with all below (for groups)."
    )
    box_axes: Literal["world", "own"] = Field(
        "world", alias="box-axes", description="Along which axes the box is measured."
    )

    @model_validator(mode="after")
    def _fits_its_target(self) -> PivotStep:
        if self.target == "asset":
            if self.parts is not None:
                raise ValueError("of: asset is the whole asset, it takes no parts")
            if isinstance(self.at, XyzPoint) and self.at.in_ == "part":
                raise ValueError("in: part needs of: parts, groups or all")
            if self.at == "origin":
                raise ValueError("the asset's own pivot is the origin already")
        return self

    @property
    def target(self) -> str:
        """What `of` means, its default filled in."""
        return self.of or ("asset" if self.parts is None else "parts")

    @property
    def spot(self) -> Spot | None:
        """The box point that `at` names, if it names one."""
        if isinstance(self.at, Spot):
            return self.at
        return {"base": BASE, "middle": MIDDLE}.get(self.at) if isinstance(self.at, str) else None

    def apply(self, asset: Asset, setting: Setting) -> Effect:
        """Return the asset with its pivots there."""
        return self._asset_pivot(asset, setting) if self.target == "asset" else self._node_pivots(asset, setting)

    def _asset_pivot(self, asset: Asset, setting: Setting) -> Effect:
        box = asset_box(asset)
        if box is None:
            return Effect(asset=asset, changed=False, detail="it has no geometry, so no box")
        if isinstance(self.at, XyzPoint):
            point = setting.point(self.at.xyz)
        else:
            assert self.spot is not None
            point = point_on_box(box, self.spot, setting)
        off = float(np.linalg.norm(point))
        if off <= SAME_PLACE * box.diagonal:
            return Effect(asset=asset, changed=False, detail="the origin is there already")
        moved = carry_all(asset, translation(-point))
        detail = f"origin moved {format_length(off)} to its {self._place()}"
        return Effect(asset=moved, changed=True, detail=detail)

    def _node_pivots(self, asset: Asset, setting: Setting) -> Effect:
        chosen = self.chosen(asset, KINDS[self.target])
        if not chosen:
            nothing = NO_SUCH_NODE if self.parts is not None else f"it has no {self.target.replace('all', 'nodes')}"
            return Effect(asset=asset, changed=False, detail=nothing)
        worlds = asset.worlds.copy()
        whole = asset_box(asset)
        reach = whole.diagonal if whole is not None else 1.0
        count, furthest, empty = 0, 0.0, 0
        for i in chosen:
            point = self._point_of(asset, i, setting)
            if point is None:
                empty += 1
                continue
            off = float(np.linalg.norm(point - worlds[i][:3, 3]))
            if off > SAME_PLACE * reach:
                worlds[i][:3, 3] = point
                count, furthest = count + 1, max(furthest, off)
        if not count:
            why = "they have no geometry, so no box" if empty == len(chosen) else "their pivots are there already"
            return Effect(asset=asset, changed=False, detail=why)
        detail = f"{count} of {len(chosen)} pivots moved, up to {format_length(furthest)}"
        warnings = (f"{empty} without geometry stay where they are",) if empty else ()
        return Effect(asset=reframe(asset, worlds), changed=True, detail=detail, warnings=warnings)

    def _point_of(self, asset: Asset, i: int, setting: Setting) -> Array | None:
        """Return where the node's pivot goes, world, metres; None when it has no box."""
        if self.at == "origin":
            return np.zeros(3)
        world = asset.worlds[i]
        if isinstance(self.at, XyzPoint):
            if self.at.in_ == "part":
                local: Array = world[:3, :3] @ setting.point(self.at.xyz) + world[:3, 3]
                return local
            return setting.point(self.at.xyz)
        assert self.spot is not None
        frame = np.eye(4)
        if self.box_axes == "own":
            frame[:3, :3] = rotation_of(Placement.from_matrix(world, what=asset.nodes[i].name).rotation).T
        box = self._box_of(asset, i, frame)
        if box is None:
            return None
        point: Array = frame[:3, :3].T @ point_on_box(box, self.spot, setting)
        return point

    def _box_of(self, asset: Asset, i: int, frame_from_world: Array) -> Box | None:
        which = self.box or ("own" if asset.nodes[i].kind == "part" else "tree")
        return (node_box if which == "own" else tree_box)(asset, i, frame_from_world)

    def _place(self) -> str:
        if isinstance(self.at, XyzPoint):
            return "given point"
        return self.at if isinstance(self.at, str) else f"{spot_words(self.at.point)} point"

    def title(self) -> str:
        """Return `Pivot: base of asset`."""
        if isinstance(self.at, XyzPoint):
            return f"Pivot: {', '.join(said(v) for v in self.at.xyz)} of {self.target}"
        place = self.at if isinstance(self.at, str) else spot_words(self.at.point)
        return f"Pivot: {place} of {self.target}"
