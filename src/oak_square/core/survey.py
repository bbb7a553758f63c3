"""Measures an asset and says what is not true of it."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator
from typing import TYPE_CHECKING

import numpy as np
from numpy.typing import NDArray

from oak_square.core.boxes import EXTENTS, Box, asset_box, node_box, part_boxes
from oak_square.core.findings import Finding, finding
from oak_square.core.lengths import format_length
from oak_square.core.memo import Memo
from oak_square.core.placement import turn_degrees
from oak_square.core.precision import float32_step, stored_steps
from oak_square.core.size_book import SizeBook
from oak_square.core.stages import STAGES
from oak_square.core.terms import term
from oak_square.core.tolerances import (
    COARSE_FLOAT32_M,
    NO_AREA,
    OFF_BASE,
    OFF_GROUND,
    PIVOT_OUTSIDE,
    ROTATION_BAKED_DEG,
    SAME_PLACE,
    SCALE_BAKED,
    SHEARED,
    SPECK,
    TINY,
)
from oak_square.core.words import joined, say

if TYPE_CHECKING:
    from oak_square.core.scene import Asset, Mesh, Node

__all__ = ["survey"]

Array = NDArray[np.float64]
_SAMPLE = 200_000  # triangles looked at for areas and sides; enough for a share, and quick
_FLAT: Memo[int] = Memo()


def survey(asset: Asset, book: SizeBook | None = None) -> tuple[Finding, ...]:
    """Return what is not true of `asset` under its reading, in the order of the stages.

    With a size `book`, extents outside what it expects are findings too. What is suspect of its unit, and of the side
    that is up, hangs on its folder as well: `likely.suspects` has that.
    """
    box = asset_box(asset)
    found = [*_of_geometry(asset, box), *_of_nodes(asset), *_of_files(asset)]
    if box is not None:
        found += [*_of_size(asset, box), *_of_book(asset, box, book), *_of_place(asset, box)]
    order = {s: i for i, s in enumerate(STAGES)}
    return tuple(sorted(found, key=lambda f: order[f.stage]))


def _of_geometry(asset: Asset, box: Box | None) -> Iterator[Finding]:
    bad = sum(m.not_finite for m in asset.meshes)
    if bad:
        yield finding("not-finite", say("{bad} coordinates are NaN or infinite", bad=bad), measure=bad)
    hidden = [n.name for n in asset.nodes if n.mesh is not None and not n.shown]
    if hidden:
        more = say(" and {count} more parts are", count=len(hidden) - 1) if len(hidden) > 1 else say(" is")
        message = say(
            "'{hidden}'{more} not shown: neither measured, nor taken along into another format",
            hidden=hidden[0],
            more=more,
        )
        yield finding("hidden", message, measure=len(hidden))
    if box is None:
        yield finding("empty", say("no geometry in it") if not hidden else say("no geometry in it is shown"))
        return
    flat = sum(_flat_triangles(m) for m in asset.meshes)
    if flat:
        yield finding("degenerate", say("{flat} triangles have no area", flat=flat), measure=flat)
    users = Counter(asset.nodes[i].mesh for i in asset.parts)
    for mesh, count in users.items():
        if count > 1 and mesh is not None:
            name = asset.meshes[mesh].name
            yield finding(
                "shared-geometry", say("{count} nodes use the mesh '{name}'", count=count, name=name), measure=count
            )


def _of_files(asset: Asset) -> Iterator[Finding]:
    if asset.astray:
        more = say(" and {count} more files", count=len(asset.astray) - 1) if len(asset.astray) > 1 else ""
        message = say(
            "it names '{astray}'{more}, outside its folder: put a copy beside it, and name that",
            astray=asset.astray[0],
            more=more,
        )
        yield finding("texture-astray", message, measure=len(asset.astray))


def _flat_triangles(mesh: Mesh) -> int:
    return _FLAT.of(mesh, None, lambda: _count_flat(mesh))


def _count_flat(mesh: Mesh) -> int:
    flat = 0
    for start in range(0, len(mesh.triangles), _SAMPLE):
        rows = mesh.triangles[start : start + _SAMPLE]
        a, b, c = (mesh.points[rows[:, k]].astype(np.float64) for k in range(3))
        ab, ac = b - a, c - a
        longest = np.maximum((ab * ab).sum(axis=1), (ac * ac).sum(axis=1))
        cross = np.cross(ab, ac)
        # Relative to the triangle's own size: a sliver under float32 rounding has no direction.
        flat += int(np.count_nonzero((cross * cross).sum(axis=1) <= (longest * NO_AREA) ** 2))
    return flat


def _of_nodes(asset: Asset) -> Iterator[Finding]:
    told, apart = _with_something_to_tell(asset), _with_pivots_outside(asset)
    for i in np.flatnonzero(told | apart).tolist():
        node = asset.nodes[i]
        if node.shown:
            if told[i]:
                yield from _of_channels(node)
                yield from _of_axes(asset, i)
            if apart[i]:
                yield from _of_pivot(asset, i)


def _with_pivots_outside(asset: Asset) -> NDArray[np.bool_]:
    """Return which nodes' pivots may lie outside their boxes, shape (nodes,): looked at all at once."""
    if not asset.nodes:
        return np.zeros(0, dtype=bool)
    boxes, pivots = part_boxes(asset), asset.worlds[:, :3, 3]
    off = np.maximum(np.maximum(boxes[:, 0] - pivots, pivots - boxes[:, 1]), 0.0)
    found: NDArray[np.bool_] = np.linalg.norm(off, axis=1) > 0  # false where there is no box
    return found


def _with_something_to_tell(asset: Asset) -> NDArray[np.bool_]:
    """Return which nodes' channels or axes may have something to tell, shape (nodes,): looked at all at once."""
    if not asset.nodes:
        return np.zeros(0, dtype=bool)
    scales = np.array([n.placement.scale for n in asset.nodes])
    turned = np.array([n.placement.rotation for n in asset.nodes])
    found = (np.abs(scales - 1) > SCALE_BAKED / 2).any(axis=1) | (np.abs(turned[:, :3]) > SAME_PLACE).any(axis=1)
    linear = asset.worlds[:, :3, :3]
    products = linear.transpose(0, 2, 1) @ linear
    # What is square and of one handedness is left out; all else is looked at closely.
    off = np.abs(products - np.eye(3) * np.diagonal(products, axis1=1, axis2=2)[:, None, :]).max(axis=(1, 2))
    size = np.diagonal(products, axis1=1, axis2=2).min(axis=1)
    told: NDArray[np.bool_] = found | ~(off <= SHEARED / 2 * size) | ~(np.linalg.det(linear) > 0)
    return told


def _of_channels(node: Node) -> Iterator[Finding]:
    scale = node.placement.scale
    furthest = float(scale[np.argmax(np.abs(scale - 1))])
    if abs(furthest - 1) > SCALE_BAKED:
        message = say("'{name}' carries a scale of {furthest:g}", name=node.name, furthest=furthest)
        yield finding("scale-unbaked", message, part=node.name, measure=furthest)
    sizes = np.abs(scale)
    if np.ptp(sizes) > SCALE_BAKED * sizes.max():
        ratio = float(sizes.max() / sizes.min()) if sizes.min() > 0 else float(sizes.max() / TINY)
        message = say(
            "'{name}' is scaled unevenly, {factors}",
            name=node.name,
            factors=joined(" × ", (say("{s:g}", s=float(s)) for s in scale)),
        )
        yield finding("scale-uneven", message, part=node.name, measure=ratio)
    turned = turn_degrees(node.placement.rotation)
    if turned > ROTATION_BAKED_DEG and not node.aimed:
        message = say("'{name}' carries a rotation of {turned:.4g}°", name=node.name, turned=turned)
        yield finding("rotation-unbaked", message, part=node.name, measure=turned)


def _of_axes(asset: Asset, i: int) -> Iterator[Finding]:
    node, world = asset.nodes[i], asset.worlds[i]
    linear = world[:3, :3]
    if np.linalg.det(linear) < 0:
        yield finding(
            "mirrored", say("'{name}' is mirrored: its inside faces out", name=node.name), part=node.name, measure=-1.0
        )
    lengths = np.linalg.norm(linear, axis=0)
    if lengths.min() > 0:
        axes = linear / lengths
        cosine = float(np.abs(axes.T @ axes - np.eye(3)).max())
        if cosine > SHEARED:
            lean = float(np.degrees(np.arcsin(min(1.0, cosine))))
            message = say("'{name}' is sheared by {lean:.3g}°", name=node.name, lean=lean)
            yield finding("sheared", message, part=node.name, measure=cosine)


def _of_pivot(asset: Asset, i: int) -> Iterator[Finding]:
    node = asset.nodes[i]
    box = node_box(asset, i) if node.mesh is not None and not node.pinned and node.skin is None else None
    if box is not None:
        off = box.distance_to(asset.worlds[i][:3, 3])
        if off > PIVOT_OUTSIDE * box.diagonal:
            message = say("the pivot of '{name}' lies {off} outside its box", name=node.name, off=format_length(off))
            yield finding("pivot-outside", message, part=node.name, measure=off)


def _of_size(asset: Asset, box: Box) -> Iterator[Finding]:
    reading = asset.reading
    if reading.source == "assumed":
        yield finding(
            "unit-assumed", say("the file declares no unit; taken for metres"), measure=reading.metres_per_unit
        )


def _of_book(asset: Asset, box: Box, book: SizeBook | None) -> Iterator[Finding]:
    entry = book.entry_for(asset.file) if book is not None else None
    if entry is None:
        return
    for k in entry.outside(box.size):
        extent = float(box.size[k])
        message = say(
            "{extent} {there}; '{asset}' should have {words}",
            extent=term(EXTENTS[k]),
            there=format_length(extent),
            asset=entry.pattern,
            words=entry.spans[k].words(),
        )
        yield finding("size-out-of-book", message, measure=extent)


def _of_place(asset: Asset, box: Box) -> Iterator[Finding]:
    diagonal = box.diagonal
    off = float(np.linalg.norm(box.base))
    if off > OFF_BASE * diagonal:
        message = say("the origin is {off} off the middle of its base", off=format_length(off))
        yield finding("pivot-off-base", message, measure=off)
    bottom = float(box.low[1])
    if abs(bottom) > OFF_GROUND * max(float(box.size[1]), SPECK):
        yield finding(
            "off-ground",
            say("its bottom is {bottom} above height 0", bottom=format_length(abs(bottom)))
            if bottom > 0
            else say("its bottom is {bottom} below height 0", bottom=format_length(abs(bottom))),
            measure=bottom,
        )
    outside = Box(box.low[[0, 2]], box.high[[0, 2]]).distance_to(np.zeros(2))
    if outside > SCALE_BAKED * diagonal:
        yield finding(
            "off-origin",
            say("the origin is {outside} outside its footprint", outside=format_length(outside)),
            measure=outside,
        )
    furthest = float(np.abs([box.low, box.high]).max())
    spacing = float32_step(furthest)
    if spacing > COARSE_FLOAT32_M:
        message = say(
            "{furthest} out, float32 steps are {spacing}",
            furthest=format_length(furthest),
            spacing=format_length(spacing),
        )
        yield finding("far-from-origin", message, measure=spacing)
    # A node may bring back what its numbers have far out: they are as coarse all the same.
    parts = [i for i in asset.parts if asset.nodes[i].skin is None]
    steps = stored_steps(asset, parts)
    if len(steps) and steps.max() > max(COARSE_FLOAT32_M, spacing):
        worst = int(np.argmax(steps))
        name, step = asset.nodes[parts[worst]].name, float(steps[worst])
        message = say(
            "the numbers of '{name}' lie so far from its pivot that float32 steps are {step}",
            name=name,
            step=format_length(step),
        )
        yield finding("far-from-origin", message, part=name, measure=step)
