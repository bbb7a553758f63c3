"""What a turn or a size happens about, and the box points that pivots and places are named by."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Annotated, Literal

import numpy as np
from numpy.typing import NDArray
from pydantic import AfterValidator, BaseModel, ConfigDict, Field, model_validator

from oak_square.core.boxes import Box, asset_box, fraction_of, node_box, tree_box
from oak_square.core.errors import Failed, Refused, did_you_mean
from oak_square.core.frames import SIDES
from oak_square.core.node_names import node_named
from oak_square.core.scene import Asset
from oak_square.core.terms import term
from oak_square.core.words import joined, number, numbers_in_a_row, say
from oak_square.steps.setting import Length, LengthOrShare, Setting

__all__ = [
    "AXIS_SIDES",
    "OF_SEVERAL",
    "AssetName",
    "BoxPoint",
    "Centre",
    "DatumName",
    "MappingWords",
    "MarkName",
    "MarkPlace",
    "PartName",
    "PartPlace",
    "Place",
    "PointPlace",
    "Spot",
    "Xyz",
    "XyzPoint",
    "centre_point",
    "centre_words",
    "common_box",
    "named_pivot",
    "named_point",
    "other_asset_of",
    "place_point",
    "place_words",
    "point_of_other",
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


AssetName = Annotated[str, Field(min_length=1)]
"""An asset by its path in the batch, or by its file's name without suffix."""


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


class PartPlace(PartName):
    """The pivot of a part or group: of the asset at hand, or of another one."""

    of: AssetName | None = None


class DatumName(MappingWords):
    """A named frame of the sheet."""

    datum: str


class MarkName(MappingWords):
    """A mark of the sheet: the point where it is found."""

    mark: str


class MarkPlace(MarkName):
    """A mark as it is found on the asset at hand, or on another one."""

    of: AssetName | None = None


class PointPlace(MappingWords):
    """A point of the box of each thing itself, or of another asset's."""

    point: BoxPoint
    of: AssetName | None = None


Centre = (
    Literal["origin", "pivot", "base", "middle", "mean", "common"]
    | XyzPoint | PointPlace | PartPlace | DatumName | MarkPlace
)  # fmt: skip
"""What a turn or a size happens about; `mean` of the pivots and the `common` middle are of several things."""

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


def other_asset_of(place: object) -> tuple[str, ...]:
    """Return the name of the other asset that a place is on, if it is on one."""
    named = place.of if isinstance(place, PointPlace | PartPlace | MarkPlace) else None
    return () if named is None else (named,)


def centre_words(centre: Centre, *, of_nodes: bool) -> str:
    """Return a centre in words: of an asset as a whole, or of each of some nodes."""
    if isinstance(centre, XyzPoint):
        return say("the point {names}", names=numbers_in_a_row(number(str(v)) for v in centre.xyz))
    if isinstance(centre, DatumName):
        return say("datum '{datum}'", datum=centre.datum)
    if isinstance(centre, str):
        return {
            "origin": say("the origin"),
            "mean": say("the mean of their pivots"),
            "common": say("the middle of their common box"),
            "pivot": say("each one's own pivot") if of_nodes else say("its pivot"),
            "base": say("each one's own base middle") if of_nodes else say("its base middle"),
            "middle": say("each one's own box middle") if of_nodes else say("its box middle"),
        }[centre]
    return place_words(centre, of_nodes=of_nodes)


def place_words(place: PointPlace | PartPlace | MarkPlace, *, of_nodes: bool = False) -> str:
    """Return a place on a thing, or on another asset, in words."""
    if isinstance(place, PartPlace):
        words = say("the pivot of '{part}'", part=place.part)
    elif isinstance(place, MarkPlace):
        words = say("mark '{mark}'", mark=place.mark)
    else:
        point = spot_words(place.point)
        if place.of is None:
            return say("each one's own {point}", point=point) if of_nodes else say("its {point}", point=point)
        return say("{point} of {name}", point=point, name=place.of)
    return words if place.of is None else say("{place} on {name}", place=words, name=place.of)


def named_point(
    asset: Asset, place: XyzPoint | PartName | DatumName | MarkName, setting: Setting, node: int | None
) -> Array:
    """Return the point that a place names without the shape of what the step is for, world, metres, shape (3,).

    Raises
    ------
    DataTrouble
        If it names an asset, a part or a datum that is not there, or a mark that is not found.
    """
    if isinstance(place, XyzPoint):
        return setting.point(place.xyz)
    if isinstance(place, DatumName):
        return setting.datum(place.datum, asset, node)[:3, 3].copy()
    named = other_asset_of(place)
    if named:
        asset, node = setting.other(named[0]), None
    if isinstance(place, PartName):
        return named_pivot(asset, place.part)
    try:
        return setting.mark(place.mark, asset, node).point
    except Refused as error:
        if not named:
            raise
        # What another asset lacks is not this one's shape: there is no doing without it.
        raise Failed(say("'{name}': {error}", name=named[0], error=error)) from error


def point_of_other(place: PointPlace, name: str, setting: Setting) -> Array:
    """Return a box point of another asset, world, metres.

    Raises
    ------
    DataTrouble
        If that asset is not there, comes to nothing, or has no geometry.
    """
    box = asset_box(setting.other(name))
    if box is None:
        raise Failed(say("'{name}' has no geometry, so no points of a box", name=name))
    return point_on_box(box, Spot(point=place.point), setting)


def centre_point(
    asset: Asset,
    node: int | None,
    centre: Centre,
    setting: Setting,
    chosen: Sequence[int] = (),
    *,
    origins: Array | None = None,
) -> Array:
    """Return where a centre is, world, metres; of the asset as a whole, or of one node with all below it.

    What has no geometry has no box: its pivot stands for base, middle and box points.

    Parameters
    ----------
    chosen : sequence of int
        The nodes that a step is for: whose `mean` and `common` box are meant.
    origins : ndarray, shape (K, 3), optional
        Where `asset` is several as one: the origin of each, metres.

    Raises
    ------
    DataTrouble
        If it names an asset, a part or a datum that is not there, or a mark that is not found.
    """
    if isinstance(centre, PointPlace):
        return _find_box_point(asset, node, centre, setting)
    if isinstance(centre, XyzPoint | PartName | DatumName | MarkName):
        return named_point(asset, centre, setting, node)
    if origins is not None and centre in ("mean", "pivot"):
        found: Array = origins.mean(axis=0) if centre == "mean" else origins[0]
        return found
    if centre in OF_SEVERAL:
        return _of_several(asset, centre, asset.parts if origins is not None else chosen)
    if centre == "origin" or (centre == "pivot" and node is None):
        return np.zeros(3)
    if centre == "pivot":
        return _pivot_of(asset, node)
    box = asset_box(asset) if node is None else tree_box(asset, node)
    if box is None:
        return _pivot_of(asset, node)
    return box.base if centre == "base" else box.middle


def _pivot_of(asset: Asset, node: int | None) -> Array:
    pivot: Array = np.zeros(3) if node is None else asset.worlds[node][:3, 3]
    return pivot


def _find_box_point(asset: Asset, node: int | None, place: PointPlace, setting: Setting) -> Array:
    """Return a point of another asset's box; of a part's own; or of a group's, or the asset's, with all below."""
    if place.of is not None:
        return point_of_other(place, place.of, setting)
    if node is None:
        box = asset_box(asset)
    else:
        box = node_box(asset, node) if asset.nodes[node].kind == "part" else tree_box(asset, node)
    return _pivot_of(asset, node) if box is None else point_on_box(box, Spot(point=place.point), setting)


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
