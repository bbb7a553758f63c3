"""From the session's state to what the Bench shows: plain values, worked out without a widget."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

import numpy as np
from numpy.typing import NDArray

from oak_square.app.facts.picture import Facts, Picture, PivotMark, Shape
from oak_square.core.boxes import Box, asset_box, node_box, tree_box
from oak_square.core.frames import translation
from oak_square.core.scene import Asset
from oak_square.core.shown_units import ShownUnit
from oak_square.core.tolerances import PIVOT_OUTSIDE
from oak_square.core.words import counted, say

__all__ = ["bench_view", "moved_view"]

Array = NDArray[np.float64]
_MOST_PIVOTS = 200
_MOST_LARGE = 12  # pivots that are drawn with their axes
_MANY_NODES = 40  # from which on a drag shows less of each
_MOST_BESIDE = 12  # whose own boxes are drawn
_GAP = 0.25  # between assets set side by side, as a share of the smaller one's width


def bench_view(
    assets: Sequence[Asset], nodes: Sequence[int] = (), *, unit: ShownUnit, previewed: bool, together: bool = False,
    pieces: bool = False,
) -> tuple[Picture, Facts]:  # fmt: skip
    """Return the picture and the facts of the selected `assets`, the last one leading.

    The lead asset stands where its numbers say; the others are set in a row beside it, each at its own height and
    depth, so that all are seen at true scale.

    Parameters
    ----------
    assets : sequence of Asset
    nodes : sequence of int
        The picked nodes of the lead asset, the last one leading: the box about them and their pivots are shown in place
        of the asset's.
    unit : ShownUnit
        What lengths are shown in.
    previewed : bool
        A draft is being tried.
    together : bool
        All stand where their numbers say, and the box is the one about them all.
    pieces : bool
        The pieces that parts of the lead asset were taken apart into are tinted, to be told apart.
    """
    if not assets:
        return Picture(), Facts()
    lead = assets[-1]
    nodes = [n for n in nodes if n < len(lead.nodes)]
    tints = _number_pieces(lead) if pieces else {}
    shapes = [_make_shape(lead, i, np.zeros(3), nodes, tints.get(i, -1)) for i in lead.parts]
    whole = asset_box(lead)
    reach = whole
    beside: list[tuple[Box, tuple[str, str, str]]] = []
    for asset in reversed(assets[:-1]):
        box = asset_box(asset)
        if box is None:
            continue
        shift = np.zeros(3)
        if reach is not None and not together:
            gap = max(min(box.size[0], reach.size[0]) * _GAP, 0.02 * max(box.diagonal, reach.diagonal))
            shift[0] = reach.high[0] + gap - box.low[0]
            shift[2] = -box.middle[2] + reach.middle[2]
        shapes += [_make_shape(asset, i, shift, ()) for i in asset.parts]
        moved = Box(box.low + shift, box.high + shift)
        if not together and len(beside) < _MOST_BESIDE:
            beside.append((moved, _format_sizes(moved, unit)))
        reach = moved if reach is None else Box(np.minimum(reach.low, moved.low), np.maximum(reach.high, moved.high))
    whole = reach if together else whole
    box = whole if not nodes or together else _common_box(lead, nodes)
    facts = Facts(
        box=box,
        whole=whole,
        sizes=_format_sizes(box, unit),
        beside=tuple(beside),
        pivots=_make_pivots(lead, nodes),
        previewed=previewed,
        title=counted(len(assets), "asset") if together else _make_title(lead, nodes),
        notice="" if whole is not None else say("{file} has no geometry", file=lead.file),
    )
    return Picture(shapes=tuple(shapes), box=reach), facts


def moved_view(
    picture: Picture, facts: Facts, asset: Asset, nodes: Sequence[int], unit: ShownUnit
) -> tuple[Picture, Facts]:
    """Return a view of one asset as it is while it is dragged: the same shapes where they are by now.

    Of many parts only what leads is written about: working out all of it would hold the hand up.
    """
    shapes = []
    for shape in picture.shapes:
        world, mesh = asset.world_from_mesh(shape.node), asset.mesh_of(shape.node)
        stays = np.array_equal(world, shape.world_from_mesh) and mesh is shape.mesh
        shapes.append(shape if stays else replace(shape, world_from_mesh=world, mesh=mesh))
    few = len(asset.nodes) <= _MANY_NODES
    box = facts.box if not few else _common_box(asset, nodes) if nodes else asset_box(asset)
    pivots = (
        _make_pivots(asset, nodes)
        if few or not nodes
        else (_make_pivot_mark(asset, nodes[-1], lead=True, tethered=False),)
    )
    lighter = replace(
        facts, box=box if few else None, sizes=_format_sizes(box, unit) if few else ("", "", ""), pivots=pivots
    )
    return Picture(shapes=tuple(shapes), box=picture.box), lighter


def _make_title(asset: Asset, nodes: Sequence[int]) -> str:
    if not nodes:
        return asset.name
    picked = asset.nodes[nodes[0]].name if len(nodes) == 1 else say("{count} picked", count=len(nodes))
    return f"{asset.name}  ›  {picked}"


def _number_pieces(asset: Asset) -> dict[int, int]:
    """Return a number for each piece of a part that was taken apart: its place among those."""
    seen: dict[int, int] = {}
    found: dict[int, int] = {}
    for i, node in enumerate(asset.nodes):
        if node.cut_from is not None:
            found[i] = seen[node.cut_from] = seen.get(node.cut_from, -1) + 1
    return found


def _make_shape(asset: Asset, index: int, shift: Array, picked: Sequence[int], tint: int = -1) -> Shape:
    world = asset.world_from_mesh(index)
    return Shape(
        file=asset.file,
        node=index,
        mesh=asset.mesh_of(index),
        world_from_mesh=translation(shift) @ world if shift.any() else world,
        picked=bool(picked) and _is_below(asset, index, picked),
        lead=len(picked) > 1 and _is_below(asset, index, picked[-1:]),
        name=asset.nodes[index].name,
        tint=tint,
    )


def _is_below(asset: Asset, index: int, above: Sequence[int]) -> bool:
    at: int | None = index
    while at is not None:
        if at in above:
            return True
        at = asset.nodes[at].parent
    return False


def _box_of(asset: Asset, node: int) -> Box | None:
    return tree_box(asset, node) if asset.nodes[node].kind == "group" else node_box(asset, node)


def _common_box(asset: Asset, nodes: Sequence[int]) -> Box | None:
    boxes = [box for n in nodes if (box := _box_of(asset, n)) is not None]
    if not boxes:
        return None
    return Box(np.min([b.low for b in boxes], axis=0), np.max([b.high for b in boxes], axis=0))


def _format_sizes(box: Box | None, unit: ShownUnit) -> tuple[str, str, str]:
    if box is None:
        return "", "", ""
    # One unit for all three, so that they can be compared at a glance.
    shown = unit.fixed_for(float(box.size.max()))
    width, height, depth = (shown.length(float(v)) for v in box.size)
    return width, height, depth


def _make_pivots(asset: Asset, nodes: Sequence[int]) -> tuple[PivotMark, ...]:
    # With their axes only as many as can be told apart.
    large = set(nodes if len(nodes) <= _MOST_LARGE else nodes[-1:])
    marks = [
        _make_pivot_mark(asset, i, lead=i in large)
        for i in range(len(asset.nodes))
        if i in nodes or (asset.nodes[i].kind == "part" and asset.nodes[i].shown and not asset.nodes[i].pinned)
    ]
    if not nodes:
        marks.append(PivotMark(at=np.zeros(3), axes=np.eye(3), name=asset.name, lead=True))
    return tuple(marks[-_MOST_PIVOTS:])


def _make_pivot_mark(asset: Asset, index: int, *, lead: bool, tethered: bool = True) -> PivotMark:
    world = asset.worlds[index]
    lengths = np.linalg.norm(world[:3, :3], axis=0)
    axes = (world[:3, :3] / np.where(lengths > 0, lengths, 1.0)).T
    at, box = world[:3, 3], _box_of(asset, index) if tethered else None
    far = box is not None and box.distance_to(at) > PIVOT_OUTSIDE * box.diagonal
    tether = np.clip(at, box.low, box.high) if box is not None and far else None
    return PivotMark(at=at, axes=axes, name=asset.nodes[index].name, lead=lead, tether=tether)
