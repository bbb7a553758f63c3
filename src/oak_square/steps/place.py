"""`place`: where assets and parts stand."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Annotated, ClassVar, Literal

import numpy as np
from numpy.typing import NDArray
from pydantic import Field, model_validator

from oak_square.core.boxes import Box, asset_box, tree_box
from oak_square.core.errors import Refused
from oak_square.core.frames import apply, translation
from oak_square.core.lengths import format_length
from oak_square.core.motion import carry, carry_all, in_place
from oak_square.core.node_names import node_named
from oak_square.core.placement import turn_degrees_of
from oak_square.core.scene import Asset
from oak_square.core.terms import term
from oak_square.core.tolerances import SAME_PLACE, SAME_TURN_DEG
from oak_square.core.words import counted, joined, numbers_in_a_row, say
from oak_square.steps.along import NODE_AXES, Along, along_axes, along_words
from oak_square.steps.centre import (
    OF_SEVERAL,
    BoxPoint,
    Centre,
    MappingWords,
    MarkName,
    MarkPlace,
    PartPlace,
    PointPlace,
    Spot,
    Xyz,
    centre_point,
    centre_words,
    common_box,
    named_point,
    other_asset_of,
    place_words,
    point_of_other,
    point_on_box,
    spot_words,
)
from oak_square.steps.setting import Length, Setting, WholeMotion, said
from oak_square.steps.step import NO_SUCH_NODE, Effect, registered
from oak_square.steps.whole import WholeStep

Array = NDArray[np.float64]
Axis = Literal["x", "y", "z"]


class BerthName(MappingWords):
    """A named place of the sheet: where it is, and how what is set down there is turned."""

    berth: str


class Onto(MappingWords):
    """A point of another asset's box, or of a part's with all below it, or a mark on either; the middle of its top."""

    onto: Annotated[str, Field(min_length=1)] | MarkName
    point: BoxPoint | MarkName = Field(default_factory=lambda: list[str | float](("middle", "top", "middle")))


@registered
class PlaceStep(WholeStep):
    """Moves the asset, or the named parts, as a whole."""

    stage: ClassVar[str] = "place"

    do: Literal["place"] = "place"
    at: Literal["origin", "parent"] | Xyz | BerthName | Onto | PointPlace | PartPlace | MarkPlace | None = Field(
        None,
        description=say(
            "Where to: the origin, the parent's pivot, x, y, z, a part's pivot, a mark, a berth, onto another asset or "
            "part; with of, a point, part or mark of another asset."
        ),
    )
    by: Literal["pivot", "base", "middle"] | BoxPoint | MarkName | None = Field(
        None, description=say("Which point of it goes there: base for assets, pivot for named parts, where not given.")
    )
    axes: Annotated[list[Axis], Field(min_length=1, max_length=3)] | None = Field(
        None, description=say("Only these coordinates change; all where not given.")
    )
    ground: bool = Field(False, description=say("Bring the bottom onto height 0."))
    shift: Xyz | None = Field(None, description=say("Move on by so much along x, y, z."))
    along: Along | None = Field(
        None, description=say("The axes of that shift: world (the default), parent, own, or a datum's.")
    )
    away: Length | None = Field(None, description=say("Move on from a centre by so much; nearer where it is negative."))
    from_: Centre | None = Field(
        None, alias="from", title="from", description=say("The centre that it is moved away from.")
    )
    as_one: bool = Field(False, alias="as-one", description=say("The named parts move together, by their common box."))

    @model_validator(mode="after")
    def _goes_somewhere(self) -> PlaceStep:
        if self.at is None and not self.ground and self.shift is None and self.away is None:
            raise ValueError(say("place needs 'at', 'away', 'ground: true' or 'shift': it would move nothing"))
        if self.at is not None and self.away is not None:
            raise ValueError(say("place goes 'at' a point or 'away' from one, not both"))
        if (self.away is None) != (self.from_ is None):
            raise ValueError(say("away and from go together"))
        if isinstance(self.at, Onto) and isinstance(self.at.onto, MarkName) and "point" in self.at.model_fields_set:
            raise ValueError(say("a mark is a point already: 'point' goes with an asset or a part"))
        if isinstance(self.at, PointPlace) and self.at.of is None:
            raise ValueError(say("at: a point of a box needs 'of', the asset whose box it is"))
        if self.at == "parent" and self.parts is None:
            raise ValueError(say("at: parent is for named parts; an asset has no parent"))
        if self.at is None and self.away is None and (self.by is not None or self.axes is not None):
            raise ValueError(say("'by' and 'axes' go with 'at' or 'away'"))
        if self.along is not None and self.shift is None:
            raise ValueError(say("along goes with shift"))
        if self.along == "parent" and self.parts is None:
            raise ValueError(say("along: parent needs parts: an asset has no parent"))
        if self.from_ in OF_SEVERAL and self.parts is None and not self.together:
            raise ValueError(say("from: {from_} is of several parts: it needs parts", from_=self.from_))
        if self.as_one:
            self._moves_as_one()
        berth = say("a berth") if isinstance(self.at, BerthName) else ""
        axes = say("its own axes, or its parent's,") if self.along in NODE_AXES else ""
        self.check_together(each=berth or axes)
        return self

    def _moves_as_one(self) -> None:
        if self.parts is None:
            raise ValueError(say("as-one is of several parts: it needs parts"))
        each = ("pivot", "base", "middle")
        if self.by == "pivot" or self.from_ in each or self.at == "parent" or self.along in ("own", "parent"):
            raise ValueError(
                say("as-one moves by a point of their common box: each one's pivot, parent and axes differ")
            )

    @property
    def refers_to(self) -> tuple[str, ...]:
        """What it is set onto, or moved away from."""
        onto = (self.at.onto,) if isinstance(self.at, Onto) and isinstance(self.at.onto, str) else ()
        return (*onto, *other_asset_of(self.at), *other_asset_of(self.from_))

    def may_mean_part(self, name: str) -> bool:
        """A name that something is set onto and that is no asset's is a part's of the asset at hand."""
        return isinstance(self.at, Onto) and self.at.onto == name

    def apply(self, asset: Asset, setting: Setting) -> Effect:
        """Return the asset with it, or its named parts, set down there."""
        return self.apply_whole(asset, setting) if self.parts is None else self._place_parts(asset, setting)

    def find_motion(self, asset: Asset, setting: Setting, origins: Array | None = None) -> WholeMotion:
        """Return how the asset as a whole is set down there; as `WholeStep.find_motion`."""
        whole = asset_box(asset)
        if whole is None:
            return WholeMotion(motion=None, detail=say("it has no geometry to set down"))
        pivot = np.zeros(3) if origins is None else origins[0]
        thing = _Thing(asset=asset, node=None, box=whole, pivot=pivot, origins=origins)
        point = self._own_point(thing, "base", setting)
        motion = self._find_motion(thing, point, setting)
        far = float(np.linalg.norm(apply(motion, point) - point))
        turned = turn_degrees_of(motion[:3, :3])
        if far <= SAME_PLACE * whole.diagonal and turned <= SAME_TURN_DEG:
            stands = say("it stands there already") if origins is None else say("they stand there already")
            return WholeMotion(motion=None, detail=stands)
        words = say("moved {far}", far=format_length(far)) + (
            say(", turned {turned:.4g}°", turned=turned) if turned > SAME_TURN_DEG else ""
        )
        return WholeMotion(motion=motion, detail=words)

    def carry_whole(self, asset: Asset, motion: Array) -> Asset:
        """Return an asset moved."""
        return carry_all(asset, motion)

    def _place_parts(self, asset: Asset, setting: Setting) -> Effect:
        motions, furthest = dict[int, Array](), 0.0
        chosen, whole = self.chosen(asset), asset_box(asset)
        reach = whole.diagonal if whole is not None else 1.0
        for i in chosen:
            if self.as_one and motions:
                motions[i] = motions[chosen[0]]
                continue
            thing = self._find_thing(asset, i, chosen)
            point = self._own_point(thing, "base" if self.as_one else "pivot", setting)
            motion = self._find_motion(thing, point, setting)
            far = float(np.linalg.norm(apply(motion, point) - point))
            if far > SAME_PLACE * reach or turn_degrees_of(motion[:3, :3]) > SAME_TURN_DEG:
                motions[i] = motion
                furthest = max(furthest, far)
            elif self.as_one:
                break
        if not motions:
            why = say("they stand there already") if chosen else NO_SUCH_NODE
            return Effect(asset=asset, changed=False, detail=why)
        together = say(" together") if self.as_one else ""
        detail = say(
            "{parts} moved{together}, up to {furthest}",
            parts=counted(len(motions), "part"),
            together=together,
            furthest=format_length(furthest),
        )
        return Effect(asset=carry(asset, motions), changed=True, detail=detail)

    def _find_thing(self, asset: Asset, i: int, chosen: tuple[int, ...]) -> _Thing:
        pivot = asset.worlds[i][:3, 3]
        box = common_box(asset, chosen) if self.as_one else tree_box(asset, i)
        return _Thing(asset=asset, node=i, box=box or Box(pivot, pivot), pivot=pivot, chosen=chosen)

    def _own_point(self, thing: _Thing, usual: str, setting: Setting) -> Array:
        by = self.by or usual
        if by == "pivot":
            return thing.pivot
        if isinstance(by, MarkName):
            return setting.mark(by.mark, thing.asset, thing.node).point
        if isinstance(by, list):
            return point_on_box(thing.box, Spot(point=by), setting)
        return thing.box.base if by == "base" else thing.box.middle

    def _find_motion(self, thing: _Thing, point: Array, setting: Setting) -> Array:
        """Return the world motion: turned about its own point as a berth is, then moved."""
        if not isinstance(self.at, BerthName):
            return translation(self._find_move(thing, point, setting))
        turn = setting.berth(self.at.berth, thing.asset, thing.node)[:3, :3] @ setting.working_from_delivery.T
        about = in_place(turn, point)
        corners = apply(about, thing.box.corners)
        turned = replace(thing, box=Box(corners.min(axis=0), corners.max(axis=0)))
        return translation(self._find_move(turned, point, setting)) @ about

    def _find_target(self, thing: _Thing, setting: Setting) -> Array:
        """Return where the point goes, world, metres."""
        asset, node = thing.asset, thing.node
        if isinstance(self.at, list):
            return setting.point(self.at)
        if isinstance(self.at, PointPlace):
            return point_of_other(self.at, str(self.at.of), setting)
        if isinstance(self.at, PartPlace | MarkPlace):
            return named_point(asset, self.at, setting, node)
        if isinstance(self.at, BerthName):
            return setting.berth(self.at.berth, asset, node)[:3, 3]
        if isinstance(self.at, Onto):
            return _find_onto(self.at, asset, node, setting)
        above = asset.nodes[node].parent if node is not None and self.at == "parent" else None
        return np.zeros(3) if above is None else asset.worlds[above][:3, 3]

    def _find_centre(self, thing: _Thing, centre: Centre, setting: Setting) -> Array:
        return centre_point(thing.asset, thing.node, centre, setting, thing.chosen, origins=thing.origins)

    def _find_move(self, thing: _Thing, point: Array, setting: Setting) -> Array:
        """Return the world move, metres: to the place along the chosen axes, onto the ground, and on by the shift."""
        held = np.ones(3)
        if self.axes is not None:
            chosen = np.array([axis in self.axes for axis in "xyz"], dtype=np.float64)
            held = np.abs(setting.working_from_delivery) @ chosen
        move = np.zeros(3)
        if self.at is not None:
            move = (self._find_target(thing, setting) - point) * held
        if self.away is not None and self.from_ is not None:
            line = (point - self._find_centre(thing, self.from_, setting)) * held
            length = float(np.linalg.norm(line))
            if length <= SAME_PLACE * thing.box.diagonal or length == 0:
                raise Refused(say("its point lies on the centre it is to move away from: there is no line to go along"))
            move = line / length * setting.metres(self.away)
        if self.ground:
            move = np.array([move[0], -thing.box.low[1], move[2]])
        if self.shift is None:
            return move
        lengths = np.array([setting.metres(v) for v in self.shift])
        shifted: Array = move + along_axes(thing.asset, thing.node, self.along or "world", setting) @ lengths
        return shifted

    def title(self) -> str:
        """Return `Place: origin, on the ground`."""
        words = list[str]()
        if isinstance(self.at, list):
            words.append(numbers_in_a_row(said(v) for v in self.at))
        elif isinstance(self.at, Onto):
            words.append(_onto_words(self.at))
        elif isinstance(self.at, PointPlace | PartPlace | MarkPlace):
            words.append(place_words(self.at))
        elif self.at is not None:
            words.append(term(self.at) if isinstance(self.at, str) else say("berth {berth}", berth=self.at.berth))
        if isinstance(self.by, list):
            words.append(say("by {point}", point=spot_words(self.by)))
        elif isinstance(self.by, MarkName):
            words.append(say("by mark {mark}", mark=self.by.mark))
        if self.away is not None and self.from_ is not None:
            words.append(
                say(
                    "{distance} away from {centre}",
                    distance=said(self.away),
                    centre=centre_words(self.from_, of_nodes=self.parts is not None),
                )
            )
        if self.axes is not None:
            words.append(say("along {axes}", axes=" ".join(self.axes)))
        if self.ground:
            words.append(say("on the ground"))
        if self.shift is not None:
            words.append(
                say(
                    "shift {distances} {along}",
                    distances=numbers_in_a_row(said(v) for v in self.shift),
                    along=along_words(self.along),
                ).rstrip()
            )
        if self.as_one:
            words.append(say("as one"))
        if self.together:
            words.append(say("together"))
        return say("Place: {words}", words=joined(", ", words))


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class _Thing:
    """What is moved: an asset as a whole (no `node`), or a node of it; its box and pivot, world, metres.

    Of several assets as one, `origins` has the origin of each.
    """

    asset: Asset
    node: int | None
    box: Box
    pivot: Array
    chosen: tuple[int, ...] = ()
    origins: Array | None = None


def _find_onto(at: Onto, asset: Asset, node: int | None, setting: Setting) -> Array:
    if isinstance(at.onto, MarkName):
        return setting.mark(at.onto.mark, asset, node).point
    other = setting.others(at.onto) if setting.others is not None else None
    own = None if other is not None else node_named(asset, at.onto)
    if isinstance(at.point, MarkName):
        return setting.mark(at.point.mark, asset if other is None else other, own).point
    box = asset_box(other) if other is not None else tree_box(asset, own if own is not None else 0)
    if box is None:
        raise Refused(say("'{onto}' has no geometry to be set onto", onto=at.onto))
    return point_on_box(box, Spot(point=at.point), setting)


def _onto_words(at: Onto) -> str:
    if isinstance(at.onto, MarkName):
        return say("onto mark {mark}", mark=at.onto.mark)
    point = say("mark {mark}", mark=at.point.mark) if isinstance(at.point, MarkName) else spot_words(at.point)
    return say("onto {onto}, {point}", onto=at.onto, point=point)
