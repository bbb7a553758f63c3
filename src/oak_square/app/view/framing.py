"""What framing goes through when it is asked for again and again, and whether what was framed is still as it was."""

from __future__ import annotations

import numpy as np

from oak_square.app.facts.picture import Facts, Picture
from oak_square.core.boxes import Box
from oak_square.core.tolerances import SPECK

__all__ = ["boxes_to_frame", "is_alike"]


def boxes_to_frame(picture: Picture, facts: Facts) -> list[Box]:
    """Return what is framed, world, metres: vertices that are taken, what is picked, its asset, all, pivots too."""
    everything = picture.box
    if everything is None:
        return []
    points = np.array([*[p.at for p in facts.pivots], facts.origin, everything.low, everything.high])
    taken = Box(facts.taken.min(axis=0), facts.taken.max(axis=0)) if len(facts.taken) else None
    reach = Box(points.min(axis=0), points.max(axis=0))
    found: list[Box] = []
    for box in (taken, facts.box, facts.whole, everything, reach):
        if box is not None and box.diagonal > 0 and not any(box.same_as(other) for other in found):
            found.append(box)
    return found


def is_alike(one: Box, other: Box, most: float) -> bool:
    """Tell whether a box is about where another is, and neither is more than `most` times as large."""
    larger = one.diagonal / max(other.diagonal, SPECK)
    near = float(np.linalg.norm(one.middle - other.middle)) <= other.diagonal / 2
    return near and 1 / most <= larger <= most
