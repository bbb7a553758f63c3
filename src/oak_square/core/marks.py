"""Marks: places on a part kept as what they are (a vertex, an edge, a face, a circle), found anew on every asset."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

import numpy as np
from numpy.typing import NDArray

from oak_square.core.boxes import node_box
from oak_square.core.errors import Failed, Refused, did_you_mean
from oak_square.core.features import FeatureKind, Features, features_of
from oak_square.core.node_names import nodes_named
from oak_square.core.tolerances import (
    MARK_APART,
    MARK_NEAR,
    MARK_SIZE,
    MARK_TURN_DEG,
    ROUNDED_TO_NOTHING,
    SAME_VERTEX,
    SPECK,
)
from oak_square.core.words import counted, joined, say

if TYPE_CHECKING:
    from oak_square.core.boxes import Box
    from oak_square.core.scene import Asset

__all__ = ["Found", "MarkLook", "candidates", "find_mark", "fractions_in", "mark_bearers"]

Array = NDArray[np.float64]


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class MarkLook:
    """What a mark looks like.

    Attributes
    ----------
    name : str
    on : str
        A glob on part names.
    kind : {"vertex", "edge", "face", "circle"}
    where : ndarray, shape (3,)
        Fractions of the part's box along width, height, depth.
    way : ndarray, shape (3,), or None
        A direction, working frame; of edges and circles its sign means nothing.
    size : float or None
        A fraction of the box's diagonal.
    """

    name: str
    on: str
    kind: FeatureKind
    where: Array
    way: Array | None = None
    size: float | None = None


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Found:
    """Where a mark is on an asset: the node, the point, shape (3,), metres, the way, shape (3,), and which feature.

    `way` is a unit vector that points as the mark's own does where it has no sign by itself; zero for a vertex.
    `size` is in metres, `number` the feature's in the part's topology.
    """

    node: int
    point: Array
    way: Array
    size: float
    number: int


def mark_bearers(asset: Asset, mark: MarkLook) -> tuple[int, ...]:
    """Return the parts that a mark could be on.

    Raises
    ------
    Failed
        If there is no part of that name.
    """
    found = tuple(i for i in nodes_named(asset, (mark.on,)) if asset.nodes[i].mesh is not None)
    if not found:
        names = [n.name for n in asset.nodes if n.mesh is not None]
        raise Failed(
            say(
                "mark '{name}': it has no part '{on}'{did_you_mean}",
                name=mark.name,
                on=mark.on,
                did_you_mean=did_you_mean(mark.on, names),
            )
        )
    return found


def find_mark(asset: Asset, mark: MarkLook, node: int | None = None) -> Found:
    """Return where a mark is on an asset as it stands.

    Parameters
    ----------
    node : int, optional
        The node that a step goes through just now: its own mark where it could bear it.

    Raises
    ------
    Failed
        If there is no part it could be on.
    Refused
        If it is found on none of them, or on several, or cannot be told from a second one.
    """
    bearers = mark_bearers(asset, mark)
    if node in bearers:
        bearers = (node,)
    if len(bearers) == 1:
        return _find_on_node(asset, mark, bearers[0])
    found, reasons = list[Found](), list[str]()
    for bearer in bearers:
        try:
            found.append(_find_on_node(asset, mark, bearer))
        except Refused as error:
            reasons.append(str(error))
    if len(found) == 1:
        return found[0]
    if not found:
        raise Refused(
            say(
                "{reason} (nor on the other {parts} '{on}')",
                reason=reasons[0],
                parts=counted(len(reasons) - 1, "part"),
                on=mark.on,
            )
        )
    names = [asset.nodes[f.node].name for f in found[:2]]
    more = say(" and {count} more", count=len(found) - 2) if len(found) > 2 else ""
    raise Refused(
        say(
            "mark '{name}' is on several parts: '{name_2}', '{name_3}'{more}",
            name=mark.name,
            name_2=names[0],
            name_3=names[1],
            more=more,
        )
    )


def fractions_in(box: Box, points: Array) -> Array:
    """Return points, shape (N, 3), as fractions of a box's width, height, depth; 0 along an extent of no length."""
    size = box.size
    flat = size <= SAME_VERTEX * box.diagonal
    found: Array = (points - box.low) / np.where(flat, 1.0, size)
    found[:, flat] = 0.0
    return found


def candidates(asset: Asset, node: int, kind: FeatureKind) -> tuple[Features, Array, Array]:
    """Return a part's features of a kind, with their fractions of its box, shape (N, 3), and sizes of its diagonal.

    Raises
    ------
    Refused
        If its geometry can't be looked at, or it has none.
    """
    mesh, name = asset.mesh_of(node), asset.nodes[node].name
    if mesh.sealed and mesh.counts is not None:
        raise Refused(
            say(
                "the geometry of '{name}' is {sealed}, and no mark can be looked for on it",
                name=name,
                sealed=mesh.sealed,
            )
        )
    box = node_box(asset, node)
    if box is None:
        raise Refused(say("'{name}' has no geometry to look for a mark on", name=name))
    found = features_of(mesh, kind, asset.world_from_mesh(node))
    return found, fractions_in(box, found.points), found.sizes / max(box.diagonal, SPECK)


def _find_on_node(asset: Asset, mark: MarkLook, node: int) -> Found:
    found, fractions, sizes = candidates(asset, node, mark.kind)
    name = asset.nodes[node].name
    if not len(found.points):
        raise Refused(say("mark '{name}': '{name_2}' has no {kind}", name=mark.name, name_2=name, kind=mark.kind))
    box = node_box(asset, node)
    assert box is not None
    counts = box.size > SAME_VERTEX * box.diagonal
    off = np.where(counts, fractions - mark.where, 0.0)
    near = np.linalg.norm(off, axis=1)
    cosine = np.ones(len(near))
    if mark.way is not None:
        cosine = found.ways @ (mark.way / np.linalg.norm(mark.way))
        cosine = cosine if mark.kind == "face" else np.abs(cosine)
    slack = 1 + ROUNDED_TO_NOTHING
    fits = (np.abs(off) <= MARK_NEAR * slack).all(axis=1)
    fits &= cosine >= np.cos(np.radians(MARK_TURN_DEG)) / slack
    if mark.size is not None:
        fits &= np.abs(sizes - mark.size) <= MARK_SIZE * mark.size * slack
    rows = np.flatnonzero(fits)
    rows = rows[np.argsort(near[rows], kind="stable")]
    if not len(rows):
        nearest = int(np.argmin(near))
        raise Refused(
            say(
                "mark '{name}': no {kind} of '{name_2}' fits; the nearest {told}{turned}",
                name=mark.name,
                kind=mark.kind,
                name_2=name,
                told=_describe_nearest(mark, fractions, sizes, nearest),
                turned=_describe_turn(mark, cosine, nearest),
            )
        )
    if len(rows) > 1 and near[rows[1]] - near[rows[0]] < MARK_APART * (1 - SPECK):
        one, other = (_describe_nearest(mark, fractions, sizes, int(r)) for r in rows[:2])
        raise Refused(
            say(
                "mark '{name}': two of '{name_2}' fit as well, one {one}, one {other}",
                name=mark.name,
                name_2=name,
                one=one,
                other=other,
            )
        )
    best = int(rows[0])
    way = found.ways[best]
    if mark.kind != "face":
        way = way * _find_sign(way, mark.way)
    return Found(
        node=node, point=found.points[best], way=way, size=float(found.sizes[best]), number=int(found.numbers[best])
    )


def _find_sign(way: Array, wanted: Array | None) -> float:
    """Return 1 or -1, so that a line points as the mark says; where it says nothing, along its longest coordinate."""
    along = float(way @ wanted) if wanted is not None else float(way[int(np.argmax(np.abs(way)))])
    return -1.0 if along < 0 else 1.0


def _describe_nearest(mark: MarkLook, fractions: Array, sizes: Array, row: int) -> str:
    at = joined(", ", (say("{v:.3g}", v=v + 0.0) for v in fractions[row]))
    size = "" if mark.size is None else say(" of size {size:.3g}", size=sizes[row])
    return say("at [{at}]{size}", at=at, size=size)


def _describe_turn(mark: MarkLook, cosine: Array, row: int) -> str:
    if mark.way is None:
        return ""
    angle = float(np.degrees(np.arccos(np.clip(cosine[row], -1, 1))))
    return say(", {angle:.3g}° off its way", angle=angle) if angle > MARK_TURN_DEG else ""
