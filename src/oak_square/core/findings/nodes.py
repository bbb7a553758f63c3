"""Of nodes: what their channels carry, how their axes stand, and where their pivots are."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np
from numpy.typing import NDArray

from oak_square.core.boxes import Box, node_box, part_boxes
from oak_square.core.findings.finding import Finding, add_kind, finding, looks
from oak_square.core.lengths import format_length
from oak_square.core.placement import turn_degrees
from oak_square.core.scene import Asset, Node
from oak_square.core.size_book import SizeBook
from oak_square.core.tolerances import (
    PIVOT_OUTSIDE,
    ROTATION_BAKED_DEG,
    SAME_PLACE,
    SCALE_BAKED,
    SHEARED,
    TINY,
)
from oak_square.core.words import joined, say

__all__: list[str] = []

Array = NDArray[np.float64]

add_kind(
    "pivot-outside",
    level="check",
    stage="pivot",
    title=say("pivot outside its part"),
    why=say("Turned about a point outside itself, a hinge swings the part through the wall."),
    remedy={"do": "pivot", "at": "base", "of": "parts"},
    symptoms=say("hinge door swings wrong rotates orbits far away", "symptoms"),
)

add_kind(
    "scale-unbaked",
    level="fix",
    stage="bake",
    title=say("scale left on a node"),
    why=say("Physics, particles and parented things inherit the factor; typed sizes mean something else below it."),
    remedy={"do": "bake", "what": ["scale"]},
    symptoms=say("physics collision particles gravity children too big too small wrong size scale", "symptoms"),
)

add_kind(
    "scale-uneven",
    level="fix",
    stage="bake",
    title=say("uneven scale on a node"),
    why=say("Anything turned below it is sheared, and normals light wrongly."),
    remedy={"do": "bake", "what": ["scale"]},
    symptoms=say("shading normals light slanted skewed distorted squashed stretched turns", "symptoms"),
)

add_kind(
    "mirrored",
    level="fix",
    stage="bake",
    title=say("mirrored by a negative scale"),
    why=say("Its inside faces out: back faces are culled away and normals light from the wrong side."),
    remedy={"do": "bake", "what": ["scale"]},
    symptoms=say(
        "shading shadow inside out black see through culled flipped normals collision mirrored text", "symptoms"
    ),
)

add_kind(
    "sheared",
    level="fix",
    stage="bake",
    title=say("sheared"),
    why=say("Most programs can't hold shear in a transform, and straighten it without a word."),
    remedy={"do": "bake", "what": ["rotation", "scale"]},
    symptoms=say("slanted skewed distorted bent changes shape on import", "symptoms"),
)

add_kind(
    "rotation-unbaked",
    level="check",
    stage="bake",
    title=say("rotation left on a node"),
    why=say("Its own axes do not agree with the world's: typed rotations start from a crooked zero."),
    remedy={"do": "bake", "what": ["rotation"]},
    symptoms=say("crooked tilted rotates wrong axis slides sideways", "symptoms"),
)


@looks
def _look_at_nodes(asset: Asset, box: Box | None, book: SizeBook | None) -> Iterator[Finding]:
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
