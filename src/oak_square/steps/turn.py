"""`turn`: which axes of the file are up and front; or a turn about a centre, by angles, to angles, onto a direction."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace
from itertools import permutations
from typing import Annotated, Any, ClassVar, Literal

import numpy as np
from numpy.typing import NDArray
from pydantic import AfterValidator, Field, model_validator

from oak_square.core.euler import angles_of, rotation_by
from oak_square.core.frames import Reading, on_one_line
from oak_square.core.likely.answers import Answer, answer_alone
from oak_square.core.likely.clues import clues_of
from oak_square.core.motion import carry, carry_all, in_place, set_rotations
from oak_square.core.node_axes import own_axes
from oak_square.core.placement import rotation_of, turn_degrees_of
from oak_square.core.scene import Asset
from oak_square.core.shapes import corners_of, nearest_right_angles, principal_turn
from oak_square.core.terms import term
from oak_square.core.tolerances import SAME_FACTOR
from oak_square.core.words import counted, joined, say
from oak_square.steps.along import NODE_AXES, Along, along_axes, along_words
from oak_square.steps.bring import Bring, SignedAxis, To, bring_turn, direction_words
from oak_square.steps.centre import OF_SEVERAL, Centre, MappingWords, centre_point, centre_words, other_asset_of
from oak_square.steps.setting import Setting, WholeMotion
from oak_square.steps.step import NO_SUCH_NODE, Effect, registered
from oak_square.steps.way import GUESS, taken_way
from oak_square.steps.whole import WholeStep

Array = NDArray[np.float64]
_WAYS = say("up and front, by, set, bring and to, or square")
_ORDERS = tuple("".join(p) for p in permutations("xyz"))


def _is_order(order: str) -> str:
    if order not in _ORDERS:
        raise ValueError(
            say("'{order}' is no order of x, y and z (one of {_orders})", order=order, _orders=", ".join(_ORDERS))
        )
    return order


class Angles(MappingWords):
    """Some of the three angles, degrees, that a rotation channel is written as."""

    order: Annotated[str, AfterValidator(_is_order), Field(json_schema_extra={"enum": list(_ORDERS)})] = "xyz"
    x: Annotated[float, Field(allow_inf_nan=False)] | None = None
    y: Annotated[float, Field(allow_inf_nan=False)] | None = None
    z: Annotated[float, Field(allow_inf_nan=False)] | None = None

    @model_validator(mode="after")
    def _sets_something(self) -> Angles:
        if not self.told:
            raise ValueError(say("it sets none of x, y and z"))
        return self

    @property
    def told(self) -> dict[str, float]:
        """The angles that it names."""
        return {a: v for a, v in (("x", self.x), ("y", self.y), ("z", self.z)) if v is not None}


@registered
class TurnStep(WholeStep):
    """Sets which signed file axes are up and front, settled before all other steps; or turns things."""

    stage: ClassVar[str] = "turn"

    do: Literal["turn"] = "turn"
    up: SignedAxis | Literal["guess"] | None = Field(
        None,
        description=say("The file axis that points up; guess: the likeliest by the file and the folder it came in."),
    )
    front: SignedAxis | Literal["guess"] | None = Field(
        None, description=say("The file axis that the model's front faces; guess, likewise.")
    )
    by: Annotated[list[float], Field(min_length=3, max_length=3)] | None = Field(
        None, description=say("Degrees about the delivery axes, X first, then Y, then Z.")
    )
    along: Along | None = Field(
        None, description=say("The axes of those angles: world (the default), parent, own, or a datum's.")
    )
    set_: Angles | None = Field(
        None,
        alias="set",
        title="set",
        description=say("Angles, degrees, of the rotation channel about the part's own axes; those not named stay."),
    )
    bring: Bring | None = Field(
        None, description=say("What is brought round: a signed axis, a direction, or a mark's way.")
    )
    to: To | None = Field(
        None, description=say("Where it is brought: a side, a signed axis, a direction, or a mark's way.")
    )
    square: bool | None = Field(None, description=say("To the nearest right angles."))
    about: Centre | None = Field(None, description=say("What stays in place; the pivot where not given."))

    @model_validator(mode="after")
    def _one_kind_of_turn(self) -> TurnStep:
        reading = self.up is not None or self.front is not None
        brought = self.bring is not None or self.to is not None
        given = (self.by is not None, brought, self.square is not None, self.set_ is not None, reading)
        if sum(given) > 1:
            raise ValueError(say("turn takes either {_ways}", _ways=_WAYS))
        if self.by is not None and not np.isfinite(self.by).all():
            raise ValueError(say("an angle is not finite"))
        if brought and (self.bring is None or self.to is None):
            raise ValueError(say("bring and to go together"))
        if self.square is False:
            raise ValueError(say("square: false turns nothing; leave it out"))
        if self.set_ is not None and self.parts is None:
            raise ValueError(say("set needs parts: an asset as a whole has no rotation of its own"))
        if self.set_ is not None and self.about is not None:
            raise ValueError(say("set turns a part about its pivot, it takes no about"))
        if self.along is not None and self.by is None:
            raise ValueError(say("along goes with by"))
        if self.along == "parent" and self.parts is None:
            raise ValueError(say("along: parent needs parts: an asset has no parent"))
        if self.about in OF_SEVERAL and self.parts is None and not self.together:
            raise ValueError(say("about: {about} is of several parts: it needs parts", about=self.about))
        if not any(given) or reading:
            self._is_a_reading()
        self._turns_together()
        return self

    def _turns_together(self) -> None:
        each = {
            say("up and front"): self.is_reading,
            "square": self.square is not None,
            "set": self.set_ is not None,
            say("its own axes, or its parent's,"): self.along in NODE_AXES,
        }
        self.check_together(each=next((words for words, is_so in each.items() if is_so), ""))

    def _is_a_reading(self) -> None:
        if self.up is None or self.front is None:
            missing = "up" if self.up is None else "front"
            raise ValueError(say("'{missing}' is missing: turn needs {_ways}", missing=missing, _ways=_WAYS))
        if GUESS not in (self.up, self.front) and on_one_line(self.up, self.front):
            raise ValueError(say("up {up} and front {front} lie on one line", up=self.up, front=self.front))
        if self.parts is not None:
            raise ValueError(say("a reading is of the file, it takes no parts"))
        if self.about is not None:
            raise ValueError(say("about goes with a turn: a reading has no centre"))

    @classmethod
    def is_for_nodes(cls, words: Mapping[str, Any]) -> bool:
        """A turn can; up and front are of the file."""
        return "up" not in words and "front" not in words

    @property
    def is_reading(self) -> bool:
        """Whether it says up and front, which are part of how the file is read."""
        return self.up is not None

    @property
    def centre(self) -> Centre:
        """What stays in place: the pivot, where it is not said."""
        return self.about or "pivot"

    @property
    def refers_to(self) -> tuple[str, ...]:
        """The asset that its centre is on, where that is another one."""
        return other_asset_of(self.about)

    @property
    def stays(self) -> str:
        """The centre in words; a reading has none."""
        if self.set_ is not None:
            return centre_words("pivot", of_nodes=True)
        return "" if self.is_reading else centre_words(self.centre, of_nodes=self.parts is not None)

    @property
    def is_guess(self) -> bool:
        """Whether it takes the likeliest up or front."""
        return GUESS in (self.up, self.front)

    def guess_words(self, answer: Answer) -> str:
        """Return what a guess takes of an asset that most likely is so, and why."""
        return taken_way(answer, self.up, self.front).words if self.up is not None and self.front is not None else ""

    def read_as(self, reading: Reading, asset: Asset, answer: Answer | None = None) -> Reading:
        """Return `reading` with this up and front."""
        assert self.up is not None
        assert self.front is not None
        if not self.is_guess:
            return replace(reading, up=self.up, front=self.front, source="sheet")
        taken = taken_way(answer or answer_alone(clues_of(asset)), self.up, self.front)
        return replace(reading, up=taken.up, front=taken.front, source="sheet")

    def reading_detail(self, asset: Asset, answer: Answer | None = None) -> tuple[str, tuple[str, ...]]:
        """Return what was settled and why, and the doubts that a guess leaves."""
        if not self.is_guess or self.up is None or self.front is None:
            return self.title(), ()
        taken = taken_way(answer or answer_alone(clues_of(asset)), self.up, self.front)
        return taken.words, taken.doubts

    def apply(self, asset: Asset, setting: Setting) -> Effect:
        """Return the asset, or its named parts, turned; a reading was settled before."""
        if self.is_reading:
            return Effect(
                asset=asset,
                changed=True,
                detail=say("{up} is up, {front} is front", up=asset.reading.up, front=asset.reading.front),
            )
        if self.parts is None:
            return self.apply_whole(asset, setting)
        chosen = self.chosen(asset)
        if not chosen:
            return Effect(asset=asset, changed=False, detail=NO_SUCH_NODE)
        if self.set_ is not None:
            return self._set_angles(asset, chosen, self.set_)
        turns = {i: self._find_rotation(asset, i, setting) for i in chosen}
        due = {i: t for i, t in turns.items() if not _is_none(t)}
        if not due:
            return Effect(asset=asset, changed=False, detail=self._explain_nothing())
        motions = {i: in_place(t, centre_point(asset, i, self.centre, setting, chosen)) for i, t in due.items()}
        words = self._describe_turn(next(iter(due.values())) if len(due) == 1 else None)
        detail = say("{words}, {parts}", words=words, parts=counted(len(due), "part"))
        return Effect(asset=carry(asset, motions), changed=True, detail=detail)

    def find_motion(self, asset: Asset, setting: Setting, origins: Array | None = None) -> WholeMotion:
        """Return how the asset as a whole is turned; as `WholeStep.find_motion`."""
        turn = self._find_rotation(asset, None, setting)
        if _is_none(turn):
            return WholeMotion(motion=None, detail=self._explain_nothing())
        # Together, what is not said is the file origin: no single asset's.
        centre = "origin" if origins is not None and self.about is None else self.centre
        motion = in_place(turn, centre_point(asset, None, centre, setting, origins=origins))
        return WholeMotion(motion=motion, detail=self._describe_turn(turn))

    def carry_whole(self, asset: Asset, motion: Array) -> Asset:
        """Return an asset turned."""
        return carry_all(asset, motion)

    def _set_angles(self, asset: Asset, chosen: tuple[int, ...], wanted: Angles) -> Effect:
        """Give the rotation channels the angles named, as their file writes its axes."""
        named = asset.reading.rotation
        turns = {}
        for i in chosen:
            own = named.T @ rotation_of(asset.nodes[i].placement.rotation) @ named
            angles = {**dict(zip("xyz", angles_of(own, wanted.order), strict=True)), **wanted.told}
            new = rotation_by([angles[a] for a in "xyz"], wanted.order)
            if not _is_none(new @ own.T):
                turns[i] = named @ new @ named.T
        if not turns:
            return Effect(asset=asset, changed=False, detail=self._explain_nothing())
        said = _describe_angles(wanted.told)
        detail = say(
            "{said} in order {order}, {parts}", said=said, order=wanted.order, parts=counted(len(turns), "part")
        )
        return Effect(asset=set_rotations(asset, turns), changed=True, detail=detail)

    def _find_rotation(self, asset: Asset, node: int | None, setting: Setting) -> Array:
        """Return the working rotation of the asset, or of one node."""
        if self.by is not None:
            axes = along_axes(asset, node, self.along or "world", setting)
            found: Array = axes @ rotation_by(self.by, "zyx") @ axes.T
            return found
        if self.bring is not None and self.to is not None:
            return bring_turn(self.bring, self.to, asset, node, setting)
        if node is not None:
            return nearest_right_angles(own_axes(asset, node))
        squared = principal_turn(corners_of(asset, asset.parts))
        return np.eye(3) if squared is None else squared

    def _explain_nothing(self) -> str:
        return say("that turn comes back to where it was") if self.by is not None else say("it is turned so already")

    def _describe_turn(self, turn: Array | None, *, title: bool = False) -> str:
        if self.by is not None:
            turns = [
                say("{angle:g}° about {axis}", angle=angle, axis=axis)
                for axis, angle in zip("xyz", self.by, strict=True)
                if angle
            ]
            angles = joined(say(", then "), turns).replace("-", "−")
            words = say("Turn {angles}", angles=angles) if title else say("turned {angles}", angles=angles)
            return joined(" ", (w for w in (words, along_words(self.along)) if w))
        how = (
            say("square")
            if self.square
            else say(
                "{what} to {where}",
                what=direction_words(self.bring),
                where=direction_words(self.to),
            )
        )
        return say("turned {how}", how=how) + (
            "" if turn is None else say(", by {angle:.4g}°", angle=turn_degrees_of(turn))
        )

    def title(self) -> str:
        """Return `Up +Z, front −Y`, `Turn 90° about y`, `Set x 30°`, `Bring +X to top`, `Square up`."""
        if self.set_ is not None:
            return say("Set {angles}", angles=_describe_angles(self.set_.told))
        if self.square:
            return say("Square up")
        if self.by is not None or self.bring is not None:
            words = (
                self._describe_turn(None, title=True)
                if self.by is not None
                else say(
                    "Bring {what} to {where}",
                    what=direction_words(self.bring),
                    where=direction_words(self.to),
                )
            )
            return say("{words}, together", words=words) if self.together else words
        return say("Up {up}, front {front}", up=term(str(self.up)), front=term(str(self.front))).replace("-", "−")


def _describe_angles(told: Mapping[str, float]) -> str:
    return joined(", ", (say("{axis} {angle:g}°", axis=a, angle=v) for a, v in told.items())).replace("-", "−")


def _is_none(turn: Array) -> bool:
    return bool(np.abs(turn - np.eye(3)).max() <= SAME_FACTOR)
