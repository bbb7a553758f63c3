"""The findings a survey can make: their level, the stage that settles them, and why each matters."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

__all__ = ["KINDS", "LEVELS", "STAGES", "Finding", "FindingKind", "Level", "finding"]

Level = Literal["note", "check", "fix"]
LEVELS: tuple[Level, ...] = ("note", "check", "fix")
STAGES = ("receive", "size", "turn", "pivot", "bake", "place", "deliver")


@dataclass(frozen=True, slots=True, kw_only=True)
class FindingKind:
    """What one code means: `why` is what goes wrong downstream, `remedy` the step that settles it."""

    level: Level
    stage: str
    title: str
    why: str
    remedy: str | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Finding:
    """One thing that is not true of an asset. `measure` has the unit its code says."""

    code: str
    level: Level
    stage: str
    part: str | None
    message: str
    measure: float | None


KINDS: dict[str, FindingKind] = {
    "unreadable": FindingKind(
        level="fix", stage="receive", title="can't be read", why="Nothing can be measured or delivered from it."
    ),
    "not-finite": FindingKind(
        level="fix", stage="receive", title="coordinates that are no numbers",
        why="One NaN empties bounding boxes downstream, and the model is culled or crashes the physics.",
    ),
    "empty": FindingKind(
        level="check", stage="receive", title="no geometry", why="It would be delivered as an invisible model."
    ),
    "hidden": FindingKind(
        level="note", stage="receive", title="parts that are not shown",
        why="Whoever opens the file later may show them: they have not been measured, and stand where they stood.",
    ),
    "degenerate": FindingKind(
        level="note", stage="receive", title="triangles of no area",
        why="They have no normal: light baking and collision meshes may stumble over them.",
    ),
    "texture-astray": FindingKind(
        level="check", stage="deliver", title="names files outside its folder",
        why="They can't go along: the delivered model would stand without them, or show somebody else's.",
    ),
    "cannot-carry": FindingKind(
        level="note", stage="deliver", title="the target format loses something",
        why="What the format can't hold is gone in the delivered file.",
    ),
    "unit-assumed": FindingKind(
        level="note", stage="size", title="nothing declares the unit", remedy="unit",
        why="The numbers are taken for metres until you say what they are.",
    ),
    "unit-suspect": FindingKind(
        level="check", stage="size", title="another unit is far more plausible", remedy="unit",
        why="At the wrong unit it dwarfs the set or disappears in it, and physics and light fall-off go wrong with it.",
    ),
    "size-out-of-book": FindingKind(
        level="fix", stage="size", title="outside the size book", remedy="unit",
        why="The team has agreed what this measures; it does not fit its place otherwise.",
    ),
    "far-from-origin": FindingKind(
        level="fix", stage="place", title="too far out for its numbers", remedy="pivot",
        why="Files hold float32: out there neighbouring vertices snap to a coarse lattice, and edges jitter.",
    ),
    "up-suspect": FindingKind(
        level="check", stage="turn", title="seems to lie on its side", remedy="turn",
        why="It would be set down lying, and every height typed for it would size the wrong extent.",
    ),
    "pivot-outside": FindingKind(
        level="check", stage="pivot", title="pivot outside its part", remedy="pivot",
        why="Turned about a point outside itself, a hinge swings the part through the wall.",
    ),
    "pivot-off-base": FindingKind(
        level="check", stage="pivot", title="origin off its base middle", remedy="pivot",
        why="Set down by its origin, it stands beside its place, and copies cut through the ground.",
    ),
    "scale-unbaked": FindingKind(
        level="fix", stage="bake", title="scale left on a node", remedy="bake",
        why="Physics, particles and parented things inherit the factor; typed sizes mean something else below it.",
    ),
    "scale-uneven": FindingKind(
        level="fix", stage="bake", title="uneven scale on a node", remedy="bake",
        why="Anything turned below it is sheared, and normals light wrongly.",
    ),
    "mirrored": FindingKind(
        level="fix", stage="bake", title="mirrored by a negative scale", remedy="bake",
        why="Its inside faces out: back faces are culled away and normals light from the wrong side.",
    ),
    "sheared": FindingKind(
        level="fix", stage="bake", title="sheared", remedy="bake",
        why="Most programs can't hold shear in a transform, and straighten it without a word.",
    ),
    "rotation-unbaked": FindingKind(
        level="check", stage="bake", title="rotation left on a node", remedy="bake",
        why="Its own axes do not agree with the world's: typed rotations start from a crooked zero.",
    ),
    "shared-geometry": FindingKind(
        level="note", stage="bake", title="nodes share one mesh",
        why="A bake that differs between them must split the mesh, and the file grows.",
    ),
    "off-ground": FindingKind(
        level="check", stage="place", title="not on the ground", remedy="place",
        why="Set down at height 0, it floats or sinks.",
    ),
    "off-origin": FindingKind(
        level="check", stage="place", title="away from its origin", remedy="pivot",
        why="Dropped into a set, it appears somewhere else than where it was put.",
    ),
}  # fmt: skip


def finding(code: str, message: str, *, part: str | None = None, measure: float | None = None) -> Finding:
    """Return a finding of a known `code`, its level and stage filled in."""
    kind = KINDS[code]
    return Finding(code=code, level=kind.level, stage=kind.stage, part=part, message=message, measure=measure)
