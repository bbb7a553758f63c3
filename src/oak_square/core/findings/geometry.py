"""Of geometry: what can't be measured, is not shown, has no area, or is shared."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator

import numpy as np
from numpy.typing import NDArray

from oak_square.core.boxes import Box
from oak_square.core.findings.finding import Finding, add_kind, finding, looks
from oak_square.core.memo import Memo
from oak_square.core.scene import Asset, Mesh
from oak_square.core.size_book import SizeBook
from oak_square.core.tolerances import (
    NO_AREA,
)
from oak_square.core.words import say

__all__: list[str] = []

Array = NDArray[np.float64]
_SAMPLE = 200_000  # triangles looked at for areas at once
_FLAT: Memo[int] = Memo()

add_kind(
    "not-finite",
    level="fix",
    stage="receive",
    title=say("coordinates that are no numbers"),
    why=say("One NaN empties bounding boxes downstream, and the model is culled or crashes the physics."),
    symptoms=say("invisible disappears vanishes culled crash physics collision NaN bounds", "symptoms"),
)

add_kind(
    "empty",
    level="check",
    stage="receive",
    title=say("no geometry"),
    why=say("It would be delivered as an invisible model."),
    symptoms=say("invisible disappears nothing there missing", "symptoms"),
)

add_kind(
    "hidden",
    level="note",
    stage="receive",
    title=say("parts that are not shown"),
    why=say("Whoever opens the file later may show them: they have not been measured, and stand where they stood."),
    symptoms=say("invisible missing appears unexpected parts", "symptoms"),
)

add_kind(
    "degenerate",
    level="note",
    stage="receive",
    title=say("triangles of no area"),
    why=say("They have no normal: light baking and collision meshes may stumble over them."),
    symptoms=say("shading shadow light baking black spots collision flickers artefacts normals", "symptoms"),
)

add_kind(
    "same-name",
    level="note",
    stage="receive",
    title=say("parts have one name"),
    why=say("What names one of them means them all; NAME#2 names the second."),
    symptoms=say("wrong part moves name clash duplicate animation", "symptoms"),
)

add_kind(
    "shared-geometry",
    level="note",
    stage="bake",
    title=say("nodes share one mesh"),
    why=say("A bake that differs between them must split the mesh, and the file grows."),
    symptoms=say("file grows memory heavy instances copies", "symptoms"),
)


@looks
def _look_at_geometry(asset: Asset, box: Box | None, book: SizeBook | None) -> Iterator[Finding]:
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
    names = Counter(asset.nodes[i].name for i in asset.parts)
    for name, count in names.items():
        if count > 1:
            yield finding(
                "same-name", say("{count} parts are called '{name}'", count=count, name=name), part=name, measure=count
            )
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
