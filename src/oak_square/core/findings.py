"""The findings a survey can make: their level, the stage that settles them, and why each matters."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any, Literal

from oak_square.core.words import say

__all__ = ["KINDS", "LEVELS", "Finding", "FindingKind", "Level", "finding"]

Level = Literal["note", "check", "fix"]
LEVELS: tuple[Level, ...] = ("note", "check", "fix")


@dataclass(frozen=True, slots=True, kw_only=True)
class FindingKind:
    """What one code means, and how it is settled: all there is to say of it.

    Attributes
    ----------
    level : Level
    stage : str
        Where it is settled.
    title, why : str
        What it is, and what goes wrong downstream.
    remedy : mapping, optional
        The words of the step that settles it, alike for every asset.
    asks : "unit", "up" or None
        What has to be known of each asset for a step that settles it.
    by_hand : str
        What to do there, where no one step settles it for all.
    """

    level: Level
    stage: str
    title: str
    why: str
    remedy: Mapping[str, Any] | None = None
    asks: Literal["unit", "up"] | None = None
    by_hand: str = ""


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
        level="fix",
        stage="receive",
        title=say("can't be read"),
        why=say("Nothing can be measured or delivered from it."),
    ),
    "not-finite": FindingKind(
        level="fix",
        stage="receive",
        title=say("coordinates that are no numbers"),
        why=say("One NaN empties bounding boxes downstream, and the model is culled or crashes the physics."),
    ),
    "empty": FindingKind(
        level="check",
        stage="receive",
        title=say("no geometry"),
        why=say("It would be delivered as an invisible model."),
    ),
    "hidden": FindingKind(
        level="note",
        stage="receive",
        title=say("parts that are not shown"),
        why=say("Whoever opens the file later may show them: they have not been measured, and stand where they stood."),
    ),
    "degenerate": FindingKind(
        level="note",
        stage="receive",
        title=say("triangles of no area"),
        why=say("They have no normal: light baking and collision meshes may stumble over them."),
    ),
    "texture-astray": FindingKind(
        level="check",
        stage="deliver",
        title=say("names files outside its folder"),
        why=say("They can't go along: the delivered model would stand without them, or show somebody else's."),
    ),
    "cannot-carry": FindingKind(
        level="note",
        stage="deliver",
        title=say("the target format loses something"),
        why=say("What the format can't hold is gone in the delivered file."),
    ),
    "unit-assumed": FindingKind(
        level="note",
        stage="size",
        title=say("nothing declares the unit"),
        why=say("The numbers are taken for metres until you say what they are."),
        remedy={"do": "unit", "reads": "m"},
    ),
    "unit-suspect": FindingKind(
        level="check",
        stage="size",
        title=say("another unit is far more plausible"),
        why=say(
            "At the wrong unit it dwarfs the set or disappears in it, and physics and light fall-off go wrong with it."
        ),
        asks="unit",
    ),
    "size-out-of-book": FindingKind(
        level="fix",
        stage="size",
        title=say("outside the size book"),
        why=say("The team has agreed what this measures; it does not fit its place otherwise."),
        by_hand=say("Say which unit each was made in, or type the extent it shall have"),
    ),
    "far-from-origin": FindingKind(
        level="fix",
        stage="place",
        title=say("too far out for its numbers"),
        why=say("Files hold float32: out there neighbouring vertices snap to a coarse lattice, and edges jitter."),
        remedy={"do": "pivot", "at": "base"},
    ),
    "up-suspect": FindingKind(
        level="check",
        stage="turn",
        title=say("seems to lie on its side"),
        why=say("It would be set down lying, and every height typed for it would size the wrong extent."),
        asks="up",
    ),
    "pivot-outside": FindingKind(
        level="check",
        stage="pivot",
        title=say("pivot outside its part"),
        why=say("Turned about a point outside itself, a hinge swings the part through the wall."),
        remedy={"do": "pivot", "at": "base", "of": "parts"},
    ),
    "pivot-off-base": FindingKind(
        level="check",
        stage="pivot",
        title=say("origin off its base middle"),
        why=say("Set down by its origin, it stands beside its place, and copies cut through the ground."),
        remedy={"do": "pivot", "at": "base"},
    ),
    "scale-unbaked": FindingKind(
        level="fix",
        stage="bake",
        title=say("scale left on a node"),
        why=say("Physics, particles and parented things inherit the factor; typed sizes mean something else below it."),
        remedy={"do": "bake", "what": ["scale"]},
    ),
    "scale-uneven": FindingKind(
        level="fix",
        stage="bake",
        title=say("uneven scale on a node"),
        why=say("Anything turned below it is sheared, and normals light wrongly."),
        remedy={"do": "bake", "what": ["scale"]},
    ),
    "mirrored": FindingKind(
        level="fix",
        stage="bake",
        title=say("mirrored by a negative scale"),
        why=say("Its inside faces out: back faces are culled away and normals light from the wrong side."),
        remedy={"do": "bake", "what": ["scale"]},
    ),
    "sheared": FindingKind(
        level="fix",
        stage="bake",
        title=say("sheared"),
        why=say("Most programs can't hold shear in a transform, and straighten it without a word."),
        remedy={"do": "bake", "what": ["rotation", "scale"]},
    ),
    "rotation-unbaked": FindingKind(
        level="check",
        stage="bake",
        title=say("rotation left on a node"),
        why=say("Its own axes do not agree with the world's: typed rotations start from a crooked zero."),
        remedy={"do": "bake", "what": ["rotation"]},
    ),
    "shared-geometry": FindingKind(
        level="note",
        stage="bake",
        title=say("nodes share one mesh"),
        why=say("A bake that differs between them must split the mesh, and the file grows."),
    ),
    "off-ground": FindingKind(
        level="check",
        stage="place",
        title=say("not on the ground"),
        why=say("Set down at height 0, it floats or sinks."),
        remedy={"do": "place", "ground": True},
    ),
    "off-origin": FindingKind(
        level="check",
        stage="place",
        title=say("away from its origin"),
        why=say("Dropped into a set, it appears somewhere else than where it was put."),
        remedy={"do": "pivot", "at": "base"},
    ),
}


def finding(code: str, message: str, *, part: str | None = None, measure: float | None = None) -> Finding:
    """Return a finding of a known `code`, its level and stage filled in."""
    kind = KINDS[code]
    return Finding(code=code, level=kind.level, stage=kind.stage, part=part, message=message, measure=measure)
