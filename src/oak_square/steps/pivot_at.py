"""Where a pivot goes: the words of `at`, and the points they mean."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Annotated, Literal

import numpy as np
from numpy.typing import NDArray
from pydantic import Field

from oak_square.core.boxes import EXTENTS, Box, asset_box, node_box, part_boxes, tree_box
from oak_square.core.errors import Failed
from oak_square.core.frames import apply
from oak_square.core.node_axes import own_axes
from oak_square.core.picks import circle_through
from oak_square.core.scene import Asset
from oak_square.core.shapes import centre_of_mass, corners_of, mean_point
from oak_square.core.terms import term
from oak_square.core.words import counted, joined, numbers_in_a_row, say
from oak_square.steps.along import Along, along_axes, along_words
from oak_square.steps.centre import (
    DatumName,
    MappingWords,
    MarkName,
    PartName,
    Spot,
    Xyz,
    XyzPoint,
    named_point,
    point_on_box,
    points_on_boxes,
    spot_words,
)
from oak_square.steps.setting import Setting, said

__all__ = [
    "OF_NODES",
    "Across",
    "At",
    "Move",
    "Vertices",
    "asset_point",
    "at_words",
    "box_spot",
    "node_point",
    "spot_points",
]

Array = NDArray[np.float64]
_BASE = Spot(point=["middle", "bottom", "middle"])
_MIDDLE = Spot(point=["middle", "middle", "middle"])
OF_NODES = ("origin", "parent", "children")
"""What only a part or a group has."""


class CirclePoints(MappingWords):
    """The centre of the circle through three points."""

    circle: Annotated[list[Xyz], Field(min_length=3, max_length=3)]


class Vertices(MappingWords):
    """The mean of some vertices, by their numbers over the part's primitives in order."""

    vertices: Annotated[list[Annotated[int, Field(ge=0)]], Field(min_length=1, max_length=100_000)]


class Across(MappingWords):
    """On the other side: mirrored through the middle of the asset's box."""

    across: Literal["width", "height", "depth"]


class Move(MappingWords):
    """From where it is, by lengths along some axes."""

    move: Xyz
    along: Along | None = None


At = (
    Literal["base", "middle", "mass", "mean", "origin", "parent", "children", "received"]
    | Spot | XyzPoint | PartName | CirclePoints | Vertices | DatumName | MarkName | Across | Move
)  # fmt: skip


def box_spot(at: At) -> Spot | None:
    """Return the box point that `at` names, if it names one."""
    if isinstance(at, Spot):
        return at
    return {"base": _BASE, "middle": _MIDDLE}.get(at) if isinstance(at, str) else None


def asset_point(asset: Asset, at: At, box: Box, setting: Setting) -> Array | None:
    """Return where the origin of an asset as a whole goes, world, metres; None when there is nothing to tell it by.

    Raises
    ------
    DataTrouble
        If what it names is not there.
    """
    spot = box_spot(at)
    if spot is not None:
        return point_on_box(box, spot, setting)
    if at == "received":
        return asset.received[:3, 3].copy()
    return (
        _move_pivot(asset, None, at, setting)
        if isinstance(at, Across | Move)
        else _find_named_point(asset, asset.parts, at, setting)
    )


def node_point(
    asset: Asset, i: int, at: At, setting: Setting, *, tree: bool, box_axes: Literal["world", "own"]
) -> Array | None:
    """Return where a node's pivot goes, world, metres; None when there is nothing to tell it by.

    Parameters
    ----------
    tree : bool
        Its box, mass or mean is that of all below it too.
    box_axes
        Along which axes its box is measured.

    Raises
    ------
    DataTrouble
        If what it names is not there.
    """
    world = asset.worlds[i]
    if at == "origin":
        return np.zeros(3)
    if at == "received":
        return apply(world, asset.nodes[i].received[:3, 3])
    if at == "parent":
        parent = asset.nodes[i].parent
        return np.zeros(3) if parent is None else asset.worlds[parent][:3, 3].copy()
    if at == "children":
        below = asset.children[i]
        return asset.worlds[list(below), :3, 3].mean(axis=0) if below else None
    if isinstance(at, XyzPoint) and at.in_ == "part":
        return apply(world, setting.point(at.xyz))
    if isinstance(at, Vertices):
        return _of_vertices(asset, i, at.vertices)
    if isinstance(at, Across | Move):
        return _move_pivot(asset, i, at, setting)
    spot = box_spot(at)
    if spot is None:
        parts = tuple(j for j in (asset.below(i) if tree else (i,)) if asset.nodes[j].mesh is not None)
        return _find_named_point(asset, parts, at, setting, i)
    frame = np.eye(4)
    if box_axes == "own":
        frame[:3, :3] = own_axes(asset, i).T
    box = (tree_box if tree else node_box)(asset, i, None if box_axes == "world" else frame)
    if box is None:
        return None
    point: Array = frame[:3, :3].T @ point_on_box(box, spot, setting)
    return point


def spot_points(asset: Asset, nodes: Sequence[int], trees: Sequence[bool], spot: Spot, setting: Setting) -> Array:
    """Return a point of each node's box along the world's axes, metres, shape (K, 3), NaN where it has none.

    `trees` says of each whether its box is that of all below it too.
    """
    own = part_boxes(asset)[list(nodes)]
    for k, (i, tree) in enumerate(zip(nodes, trees, strict=True)):
        if tree:
            box = tree_box(asset, i)
            own[k] = np.nan if box is None else (box.low, box.high)
    return points_on_boxes(own[:, 0], own[:, 1], spot, setting)


def _find_named_point(
    asset: Asset, parts: tuple[int, ...], at: At, setting: Setting, node: int | None = None
) -> Array | None:
    """Return the point that `at` names other than by a box or a node's own frame, world, metres."""
    if isinstance(at, XyzPoint | PartName | DatumName | MarkName):
        return named_point(asset, at, setting, node)
    if isinstance(at, CirclePoints):
        circle = circle_through(np.array([setting.point(p) for p in at.circle]))
        if circle is None:
            raise Failed(say("the three points lie on one line: no circle goes through them"))
        return circle.centre
    if at == "mean":
        return mean_point(asset, parts)
    mass = centre_of_mass(corners_of(asset, parts))
    return None if mass is None else mass[0]


def _move_pivot(asset: Asset, node: int | None, at: Across | Move, setting: Setting) -> Array | None:
    pivot = np.zeros(3) if node is None else asset.worlds[node][:3, 3].copy()
    if isinstance(at, Move):
        lengths = np.array([setting.metres(v) for v in at.move])
        moved: Array = pivot + along_axes(asset, node, at.along or "world", setting) @ lengths
        return moved
    box = asset_box(asset)
    if box is None:
        return None
    k = EXTENTS.index(at.across)
    pivot[k] = 2 * box.middle[k] - pivot[k]
    return pivot


def _of_vertices(asset: Asset, i: int, wanted: list[int]) -> Array:
    count = len(asset.mesh_of(i).points) if asset.nodes[i].mesh is not None else 0
    if max(wanted) >= count:
        raise Failed(
            say(
                "part '{name}' has {count} vertices, and no vertex {max}",
                name=asset.nodes[i].name,
                count=count,
                max=max(wanted),
            )
        )
    mean = np.asarray(asset.mesh_of(i).points[wanted], dtype=np.float64).mean(axis=0)
    return apply(asset.world_from_mesh(i), mean)


def at_words(at: At) -> tuple[str, str]:
    """Return where in a few words, for a card, and for a sentence that starts with `to its`."""
    if isinstance(at, Spot):
        return spot_words(at.point), say("{side} point", side=spot_words(at.point))
    if isinstance(at, XyzPoint):
        return numbers_in_a_row(said(v) for v in at.xyz), say("given point")
    if isinstance(at, Move):
        by = say("moved {names}", names=numbers_in_a_row(said(v) for v in at.move))
        return joined(" ", (w for w in (by, along_words(at.along)) if w)), say("moved place")
    if isinstance(at, Across):
        return say("across {extent}", extent=term(at.across)), say("place across")
    if isinstance(at, Vertices):
        return counted(len(at.vertices), "vertex", "vertices"), say("vertices")
    if isinstance(at, MarkName):
        return say("mark {mark}", mark=at.mark), say("mark")
    if isinstance(at, PartName):
        return at.part, say("named part")
    if isinstance(at, DatumName):
        return at.datum, say("datum")
    if isinstance(at, CirclePoints):
        return say("circle"), say("circle's centre")
    told = {"mass": say("centre of mass"), "mean": say("mean of vertices"), "received": say("place as received")}
    return (say("as received") if at == "received" else term(at)), told.get(at, term(at))
