"""`place`: where assets and parts stand."""

from __future__ import annotations

from typing import Annotated, ClassVar, Literal

import numpy as np
from numpy.typing import NDArray
from pydantic import Field, model_validator

from oak_square.core.boxes import Box, asset_box, tree_box
from oak_square.core.counting import counted
from oak_square.core.errors import Refused
from oak_square.core.frames import apply, translation
from oak_square.core.lengths import format_length
from oak_square.core.motion import carry, carry_all
from oak_square.core.placement import turn_degrees_of
from oak_square.core.scene import Asset
from oak_square.core.tolerances import SAME_PLACE, SAME_TURN_DEG
from oak_square.steps.centre import BoxPoint, Spot, Words, Xyz, node_called, point_on_box, spot_words
from oak_square.steps.step import NO_SUCH_NODE, Effect, Setting, Step, registered, said

Array = NDArray[np.float64]
Axis = Literal["x", "y", "z"]


class BerthName(Words):
    """A named place of the sheet: where it is, and how what is set down there is turned."""

    berth: str


class Onto(Words):
    """A point of another asset's box, or of a part's with all below it; the middle of its top where not given."""

    onto: str
    point: BoxPoint = Field(default_factory=lambda: list[str | float](("middle", "top", "middle")))


@registered
class PlaceStep(Step):
    """Moves the asset, or the named parts, as a whole."""

    stage: ClassVar[str] = "place"

    do: Literal["place"] = "place"
    at: Literal["origin", "parent"] | Xyz | BerthName | Onto | None = Field(
        None, description="Where to: the origin, the parent's pivot, x, y, z, a berth, or onto another asset or part."
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

    @property
    def refers_to(self) -> str | None:
        """What it is set onto."""
        return self.at.onto if isinstance(self.at, Onto) else None

    @property
    def may_mean_part(self) -> bool:
        """A name that is no asset's is a part's of the asset at hand."""
        return True

    def apply(self, asset: Asset, setting: Setting) -> Effect:
        """Return the asset with it, or its named parts, set down there."""
        whole = asset_box(asset)
        if self.parts is not None:
            return self._place_parts(asset, whole, setting)
        if whole is None:
            return Effect(asset=asset, changed=False, detail="it has no geometry to set down")
        point = self._own_point(whole, np.zeros(3), "base", setting)
        motion = self._motion(asset, whole, point, None, setting)
        far = float(np.linalg.norm(apply(motion, point) - point))
        turned = turn_degrees_of(motion[:3, :3])
        if far <= SAME_PLACE * whole.diagonal and turned <= SAME_TURN_DEG:
            return Effect(asset=asset, changed=False, detail="it stands there already")
        words = f"moved {format_length(far)}" + (f", turned {turned:.4g}°" if turned > SAME_TURN_DEG else "")
        return Effect(asset=carry_all(asset, motion), changed=True, detail=words)

    def _place_parts(self, asset: Asset, whole: Box | None, setting: Setting) -> Effect:
        motions, furthest = {}, 0.0
        chosen = self.chosen(asset)
        for i in chosen:
            pivot = asset.worlds[i][:3, 3]
            box = tree_box(asset, i) or Box(pivot, pivot)
            above = asset.nodes[i].parent
            parent = np.zeros(3) if above is None else asset.worlds[above][:3, 3]
            point = self._own_point(box, pivot, "pivot", setting)
            motion = self._motion(asset, box, point, parent, setting)
            far = float(np.linalg.norm(apply(motion, point) - point))
            reach = whole.diagonal if whole is not None else 1.0
            if far > SAME_PLACE * reach or turn_degrees_of(motion[:3, :3]) > SAME_TURN_DEG:
                motions[i] = motion
                furthest = max(furthest, far)
        if not motions:
            why = "they stand there already" if chosen else NO_SUCH_NODE
            return Effect(asset=asset, changed=False, detail=why)
        detail = f"{counted(len(motions), 'part')} moved, up to {format_length(furthest)}"
        return Effect(asset=carry(asset, motions), changed=True, detail=detail)

    def _own_point(self, box: Box, pivot: Array, usual: str, setting: Setting) -> Array:
        by = self.by or usual
        if by == "pivot":
            return pivot
        if isinstance(by, list):
            return point_on_box(box, Spot(point=by), setting)
        return box.base if by == "base" else box.middle

    def _motion(self, asset: Asset, box: Box, point: Array, parent: Array | None, setting: Setting) -> Array:
        """Return the world motion: turned about its own point as a berth is, then moved."""
        if not isinstance(self.at, BerthName):
            return translation(self._move(asset, box, point, parent, setting))
        turn = setting.berth(self.at.berth)[:3, :3] @ setting.working_from_delivery.T
        about = np.eye(4)
        about[:3, :3] = turn
        about[:3, 3] = point - turn @ point
        corners = apply(about, box.corners)
        turned = Box(corners.min(axis=0), corners.max(axis=0))
        return translation(self._move(asset, turned, point, parent, setting)) @ about

    def _target(self, asset: Asset, parent: Array | None, setting: Setting) -> Array:
        """Return where the point goes, world, metres."""
        if isinstance(self.at, list):
            return setting.point(self.at)
        if isinstance(self.at, BerthName):
            return setting.berth(self.at.berth)[:3, 3]
        if isinstance(self.at, Onto):
            other = setting.others(self.at.onto) if setting.others is not None else None
            box = asset_box(other) if other is not None else tree_box(asset, node_called(asset, self.at.onto))
            if box is None:
                raise Refused(f"'{self.at.onto}' has no geometry to be set onto")
            return point_on_box(box, Spot(point=self.at.point), setting)
        return parent if self.at == "parent" and parent is not None else np.zeros(3)

    def _move(self, asset: Asset, box: Box, point: Array, parent: Array | None, setting: Setting) -> Array:
        """Return the world move, metres: to the place along the chosen axes, onto the ground, and on by the shift."""
        move = np.zeros(3)
        if self.at is not None:
            move = self._target(asset, parent, setting) - point
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
        elif isinstance(self.at, Onto):
            words.append(f"onto {self.at.onto}, {spot_words(self.at.point)}")
        elif self.at is not None:
            words.append(self.at if isinstance(self.at, str) else f"berth {self.at.berth}")
        if isinstance(self.by, list):
            words.append(f"by {spot_words(self.by)}")
        if self.axes is not None:
            words.append(f"along {' '.join(self.axes)}")
        if self.ground:
            words.append("on the ground")
        if self.shift is not None:
            words.append(f"shift {', '.join(said(v) for v in self.shift)}")
        return f"Place: {', '.join(words)}"
