"""What a turn or a size happens about, and the box points that pivots and places are named by."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Annotated, Literal

import numpy as np
from numpy.typing import NDArray
from pydantic import AfterValidator, BaseModel, ConfigDict, Field, model_validator

from oak_square.core.boxes import Box, asset_box, fraction_of, tree_box
from oak_square.core.errors import did_you_mean
from oak_square.core.frames import SIDES
from oak_square.core.node_names import node_named
from oak_square.core.scene import Asset
from oak_square.core.terms import term
from oak_square.core.words import joined, number, numbers_in_a_row, say
from oak_square.steps.setting import Length, LengthOrShare, Setting

__all__ = [
    "AXIS_SIDES",
    "OF_SEVERAL",
    "BoxPoint",
    "Centre",
    "DatumName",
    "MappingWords",
    "MarkName",
    "PartName",
    "Place",
    "Spot",
    "Xyz",
    "XyzPoint",
    "centre_point",
    "centre_words",
    "common_box",
    "named_pivot",
    "named_point",
    "place_point",
    "point_on_box",
    "points_on_boxes",
    "spot_words",
]

Array = NDArray[np.float64]

AXIS_SIDES: tuple[tuple[str, str], ...] = (("left", "right"), ("bottom", "top"), ("back", "front"))
"""The low and high side along width, height and depth."""


def _is_box_point(words: list[str | float]) -> list[str | float]:
    for axis, word in enumerate(words):
        if isinstance(word, str):
            known = (*AXIS_SIDES[axis], "middle")
            if word not in known:
                name = ("width", "height", "depth")[axis]
                hint = did_you_mean(word, known) or say(" ({known}, or a fraction)", known=", ".join(known))
                raise ValueError(say("'{word}' is no side along the {name}{hint}", word=word, name=name, hint=hint))
        elif not -1000 <= word <= 1000:
            raise ValueError(say("a fraction of {word} lies too far outside", word=word))
    return words


BoxPoint = Annotated[list[str | float], Field(min_length=3, max_length=3), AfterValidator(_is_box_point)]
"""[width, height, depth], each a side, `middle` or a fraction."""

Xyz = Annotated[list[Length], Field(min_length=3, max_length=3)]
"""Three lengths along the delivery axes."""


class MappingWords(BaseModel):
    """What is written as a small mapping."""

    model_config = ConfigDict(extra="forbid", frozen=True, populate_by_name=True, defer_build=True)


class Spot(MappingWords):
    """A point of a box, moved inward from its sides by insets."""

    point: BoxPoint
    inset: dict[str, LengthOrShare] = Field(default_factory=dict)

    @model_validator(mode="after")
    def _insets_are_from_its_sides(self) -> Spot:
        for side in self.inset:
            if side not in SIDES:
                raise ValueError(
                    say("inset: '{side}' is no side{did_you_mean}", side=side, did_you_mean=did_you_mean(side, SIDES))
                )
            if self.point[SIDES[side][0]] != side:
                raise ValueError(say("inset: the point is not on the {side} side", side=side))
        return self


class XyzPoint(MappingWords):
    """A point by its coordinates."""

    xyz: Xyz
    in_: Literal["part"] | None = Field(None, alias="in")


class PartName(MappingWords):
    """The pivot of a part or group of the asset at hand."""

    part: str


class DatumName(MappingWords):
    """A named frame of the sheet."""

    datum: str


class MarkName(MappingWords):
    """A mark of the sheet: the point where it is found."""

    mark: str


Centre = Literal["origin", "pivot", "base", "middle", "mean", "common"] | XyzPoint | PartName | DatumName | MarkName
"""What a turn or a size happens about; `mean` of the pivots and the `common` middle are of several nodes."""

OF_SEVERAL = ("mean", "common")

Place = Xyz | MarkName
"""A point of the world: typed, or a mark's."""


def point_on_box(box: Box, spot: Spot, setting: Setting) -> Array:
    """Return the point of `box` that `spot` names, in the box's own frame, metres."""
    point: Array = points_on_boxes(box.low[None], box.high[None], spot, setting)[0]
    return point


def points_on_boxes(lows: Array, highs: Array, spot: Spot, setting: Setting) -> Array:
    """Return the point that `spot` names of each of some boxes, given by their corners, shape (K, 3), metres."""
    points: Array = lows + np.array([fraction_of(word, axis) for axis, word in enumerate(spot.point)]) * (highs - lows)
    for side, length in spot.inset.items():
        axis, fraction = SIDES[side]
        inward = setting.metres_of(length, highs[:, axis] - lows[:, axis])
        points[:, axis] += inward * (1 if fraction == 0 else -1)
    return points


def spot_words(point: Sequence[str | float]) -> str:
    """Return a box point in a few words: `left bottom`, `middle`."""
    sides = [str(w) for w in point if w != "middle"]
    return joined(" ", map(term, sides)) if sides else term("middle")


def centre_words(centre: Centre, *, of_nodes: bool) -> str:
    """Return a centre in words: of an asset as a whole, or of each of some nodes."""
    if isinstance(centre, XyzPoint):
        return say("the point {names}", names=numbers_in_a_row(number(str(v)) for v in centre.xyz))
    if isinstance(centre, PartName):
        return say("the pivot of '{part}'", part=centre.part)
    if isinstance(centre, DatumName):
        return say("datum '{datum}'", datum=centre.datum)
    if isinstance(centre, MarkName):
        return say("mark '{mark}'", mark=centre.mark)
    return {
        "origin": say("the origin"),
        "mean": say("the mean of their pivots"),
        "common": say("the middle of their common box"),
        "pivot": say("each one's own pivot") if of_nodes else say("its pivot"),
        "base": say("each one's own base middle") if of_nodes else say("its base middle"),
        "middle": say("each one's own box middle") if of_nodes else say("its box middle"),
    }[centre]


def named_point(
    asset: Asset, place: XyzPoint | PartName | DatumName | MarkName, setting: Setting, node: int | None
) -> Array:
    """Return the point that a place names without the shape of what the step is for, world, metres, shape (3,).

    Raises
    ------
    DataTrouble
        If it names a part or a datum that is not there, or a mark that is not found.
    """
    if isinstance(place, XyzPoint):
        return setting.point(place.xyz)
    if isinstance(place, PartName):
        return named_pivot(asset, place.part)
    if isinstance(place, DatumName):
        return setting.datum(place.datum, asset, node)[:3, 3].copy()
    return setting.mark(place.mark, asset, node).point


def centre_point(asset: Asset, node: int | None, centre: Centre, setting: Setting, chosen: Sequence[int] = ()) -> Array:
    """Return where a centre is, world, metres; of the asset as a whole, or of one node with all below it.

    What has no geometry has no box: its pivot stands for base and middle.

    Parameters
    ----------
    chosen : sequence of int
        The nodes that a step is for: whose `mean` and `common` box are meant.

    Raises
    ------
    DataTrouble
        If it names a part or a datum that is not there, or a mark that is not found.
    """
    if isinstance(centre, XyzPoint | PartName | DatumName | MarkName):
        return named_point(asset, centre, setting, node)
    if centre in OF_SEVERAL:
        return _of_several(asset, centre, chosen)
    if centre == "origin" or (centre == "pivot" and node is None):
        return np.zeros(3)
    if centre == "pivot":
        assert node is not None
        pivot: Array = asset.worlds[node][:3, 3]
        return pivot
    box = asset_box(asset) if node is None else tree_box(asset, node)
    if box is None:
        return centre_point(asset, node, "pivot", setting)
    return box.base if centre == "base" else box.middle


def _of_several(asset: Asset, centre: str, chosen: Sequence[int]) -> Array:
    box = common_box(asset, chosen) if centre == "common" else None
    if box is not None:
        return box.middle
    mean: Array = asset.worlds[list(chosen), :3, 3].mean(axis=0)
    return mean


def common_box(asset: Asset, nodes: Sequence[int], frame_from_world: Array | None = None) -> Box | None:
    """Return the box about some nodes with all below them, along working axes or those of another frame.

    None where there is no geometry.
    """
    boxes = [b for b in (tree_box(asset, i, frame_from_world) for i in nodes) if b is not None]
    if not boxes:
        return None
    return Box(np.min([b.low for b in boxes], axis=0), np.max([b.high for b in boxes], axis=0))


def place_point(asset: Asset, node: int | None, place: Place, setting: Setting) -> Array:
    """Return a point of the world, metres: as typed, or where a mark is found.

    Raises
    ------
    DataTrouble
        If the mark is not found.
    """
    if isinstance(place, MarkName):
        return setting.mark(place.mark, asset, node).point
    return setting.point(place)


def named_pivot(asset: Asset, name: str) -> Array:
    """Return the world pivot of the node that `name` names, metres; raises what `node_named` does."""
    pivot: Array = asset.worlds[node_named(asset, name)][:3, 3]
    return pivot
