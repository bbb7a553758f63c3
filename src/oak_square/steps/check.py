"""`check`: what must hold here; it changes nothing, and fails the asset where it does not."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Annotated, ClassVar, Literal

import numpy as np
from numpy.typing import NDArray
from pydantic import AfterValidator, BaseModel, ConfigDict, Field, model_validator

from oak_square.core.boxes import EXTENTS, Box, asset_box, tree_box
from oak_square.core.errors import Failed
from oak_square.core.frames import AXES, Reading
from oak_square.core.lengths import UNITS, format_length
from oak_square.core.likely.sides import side_down
from oak_square.core.placement import turn_degrees
from oak_square.core.scene import Asset, Node
from oak_square.core.terms import term
from oak_square.core.tolerances import (
    OFF_BASE,
    OFF_GROUND,
    ROTATION_BAKED_DEG,
    SAME_PLACE,
    SAME_UNIT,
    SCALE_BAKED,
    SPECK,
)
from oak_square.core.words import joined, say
from oak_square.steps.form_hints import FormHint
from oak_square.steps.setting import Length, Setting, is_unit, said
from oak_square.steps.step import NO_SUCH_NODE, Channel, Effect, Step, registered

Array = NDArray[np.float64]


class Between(BaseModel):
    """A range an extent must lie in; an end that is left out is open."""

    model_config = ConfigDict(extra="forbid", frozen=True, defer_build=True)

    min: Length | None = None
    max: Length | None = None

    @model_validator(mode="after")
    def _says_something(self) -> Between:
        if self.min is None and self.max is None:
            raise ValueError(say("a range needs min, max, or both"))
        return self

    def words(self) -> str:
        """Return `0.9 m to 1 m`, `at least 0.9 m`."""
        if self.min is None or self.max is None:
            return (
                say("at most {high}", high=said(self.max))
                if self.min is None
                else say("at least {low}", low=said(self.min))
            )
        return say("{low} to {high}", low=said(self.min), high=said(self.max))

    def misses(self, extent: float, setting: Setting) -> bool:
        """Tell whether an extent, metres, lies outside by more than rounding."""
        near = SAME_PLACE * max(extent, SPECK)
        below = self.min is not None and extent < setting.metres(self.min) - near
        return below or (self.max is not None and extent > setting.metres(self.max) + near)


def _is_unit_of_file(value: float | str) -> float | str:
    if value in {"declared", "guess"}:
        raise ValueError(
            say("'{value}' is no unit to check for (units are {units})", value=value, units=", ".join(UNITS))
        )
    return is_unit(value)


_BAKED = FormHint(
    over=say("channels of every node read 0 and 1"),
    choices=tuple(
        (c, term(c), say("No node carries a {name}", name=term(c))) for c in ("rotation", "scale", "location")
    ),
    usual=("rotation", "scale"),
)
_PIVOT = FormHint(
    word=say("its pivot"),
    choices=(
        ("", term("any"), say("The pivot may be anywhere")),
        ("base", term("base"), say("The pivot is the middle of its box's bottom")),
        ("middle", term("middle"), say("The pivot is the middle of its box")),
    ),
)
_UNIT = FormHint(
    over=say("the file's unit is"),
    kind="unit",
    choices=(("", term("any"), say("The file may be read in any unit")),),
    of_asset=True,
)
_UP = FormHint(
    over=say("the file's up is"),
    choices=(
        ("", term("any"), say("Any axis of the file may be up")),
        *((a, a.replace("-", "−"), say("The file's {a} is up", a=a)) for a in AXES),
    ),
    of_asset=True,
)


@registered
class CheckStep(Step):
    """Holds the asset as it stands here against what the team has agreed."""

    stage: ClassVar[str] = "deliver"

    form_note: ClassVar[str] = say("A check changes nothing. An asset for which it does not hold is not delivered.")

    do: Literal["check"] = "check"
    width: Annotated[Between | None, FormHint(over=say("its size lies between"))] = Field(
        None, description=say("The range its width must lie in.")
    )
    height: Between | None = Field(None, description=say("The range its height must lie in."))
    depth: Between | None = Field(None, description=say("The range its depth must lie in."))
    baked: Annotated[bool | list[Channel] | None, _BAKED] = Field(
        None, description=say("Rotation and scale of every node read 0 and 1.")
    )
    grounded: Annotated[
        bool | None,
        FormHint(over=say("and"), word=say("Its bottom is at height 0"), tip=say("Its lowest point is at height 0")),
    ] = Field(None, description=say("Its bottom is at height 0."))
    upright: Annotated[bool | None, FormHint(word=say("It stands upright"), of_asset=True)] = Field(
        None, description=say("It does not seem to lie on its side or back.")
    )
    pivot: Annotated[Literal["base", "middle"] | None, _PIVOT] = Field(
        None, description=say("Where its pivot must be on its box.")
    )
    unit: Annotated[Annotated[float | str, AfterValidator(_is_unit_of_file)] | None, _UNIT] = Field(
        None, description=say("The unit the file must be read in.")
    )
    up: Annotated[Literal["+X", "-X", "+Y", "-Y", "+Z", "-Z", "X", "Y", "Z"] | None, _UP] = Field(
        None, description=say("The file axis that must be up.")
    )

    @model_validator(mode="after")
    def _checks_something(self) -> CheckStep:
        fields = (*EXTENTS, "baked", "grounded", "upright", "pivot", "unit", "up")
        if all(getattr(self, f) is None for f in fields):
            raise ValueError(say("check needs something to hold: {fields}", fields=", ".join(fields)))
        for field in ("baked", "grounded", "upright"):
            if getattr(self, field) is False:
                raise ValueError(say("{field}: false checks nothing; leave it out", field=field))
        if self.parts is not None and (self.unit is not None or self.up is not None or self.upright is not None):
            raise ValueError(say("unit, up and upright are of the whole asset, not of parts"))
        return self

    def apply(self, asset: Asset, setting: Setting) -> Effect:
        """Return the asset as it is.

        Raises
        ------
        Failed
            With all that does not hold.
        """
        chosen = self.chosen(asset)
        if self.parts is not None and not chosen:
            return Effect(asset=asset, changed=False, detail=NO_SUCH_NODE)
        wrong = list(self._of_nodes(asset, chosen))
        if self.parts is None:
            wrong += [*self._of_reading(asset.reading), *self._of_box(asset_box(asset), np.zeros(3), "", setting)]
            side = side_down(asset) if self.upright else None
            wrong += [say("it seems to stand on its {side} side", side=term(side))] if side else []
        else:
            for i in chosen:
                name = say("'{name}': ", name=asset.nodes[i].name)
                wrong += self._of_box(tree_box(asset, i), asset.worlds[i][:3, 3], name, setting)
        if wrong:
            more = say("; and {count} more", count=len(wrong) - 4) if len(wrong) > 4 else ""
            raise Failed(say("{names}{more}", names=joined("; ", wrong[:4]), more=more))
        return Effect(asset=asset, changed=False, detail=say("holds"))

    def _of_nodes(self, asset: Asset, chosen: tuple[int, ...]) -> Iterator[str]:
        channels: list[Channel] = self.baked if isinstance(self.baked, list) else ["rotation", "scale"]
        for i in chosen if self.baked else ():
            node = asset.nodes[i]
            for channel in channels:
                if not _is_baked(node, channel):
                    yield say("'{name}' carries a {channel}", name=node.name, channel=term(channel))

    def _of_reading(self, reading: Reading) -> Iterator[str]:
        if self.unit is not None:
            wanted = UNITS[self.unit] if isinstance(self.unit, str) else float(self.unit)
            if abs(reading.metres_per_unit / wanted - 1) > SAME_UNIT:
                yield say(
                    "one unit is {metres_per_unit:g} m, not {wanted:g} m",
                    metres_per_unit=reading.metres_per_unit,
                    wanted=wanted,
                )
        if self.up is not None and self.up.lstrip("+") != reading.up.lstrip("+"):
            yield say("{up} is up in the file, not {up_2}", up=reading.up, up_2=self.up)

    def _of_box(self, box: Box | None, pivot: Array, name: str, setting: Setting) -> Iterator[str]:
        if box is None:
            if any(getattr(self, f) is not None for f in (*EXTENTS, "grounded", "pivot")):
                yield say("{name}it has no geometry to check", name=name)
            return
        for k, extent in enumerate(EXTENTS):
            wanted, there = getattr(self, extent), float(box.size[k])
            if wanted is not None and wanted.misses(there, setting):
                yield say(
                    "{name}{extent} {there}, not {words}",
                    name=name,
                    extent=term(extent),
                    there=format_length(there),
                    words=wanted.words(),
                )
        bottom = float(box.low[1])
        if self.grounded and abs(bottom) > OFF_GROUND * max(float(box.size[1]), SPECK):
            yield say("{name}its bottom is at height {bottom}", name=name, bottom=format_length(bottom))
        if self.pivot is not None:
            off = float(np.linalg.norm((box.base if self.pivot == "base" else box.middle) - pivot))
            if off > OFF_BASE * box.diagonal:
                yield say(
                    "{name}its pivot is {off} off its {pivot}",
                    name=name,
                    off=format_length(off),
                    pivot=term(self.pivot),
                )

    def title(self) -> str:
        """Return `Check: height at most 2 m, baked`."""
        words = [
            say("{extent} {words}", extent=term(e), words=getattr(self, e).words())
            for e in EXTENTS
            if getattr(self, e) is not None
        ]
        words += [term(f) for f in ("baked", "grounded", "upright") if getattr(self, f)]
        words += [
            say("{what} {value}", what=term(f), value=term(str(getattr(self, f))))
            for f in ("pivot", "unit", "up")
            if getattr(self, f) is not None
        ]
        return say("Check: {words}", words=joined(", ", words))


def _is_baked(node: Node, channel: Channel) -> bool:
    if channel == "scale":
        return bool(np.abs(node.placement.scale - 1).max() <= SCALE_BAKED and not node.placement.is_sheared)
    if channel == "rotation":
        return node.aimed or turn_degrees(node.placement.rotation) <= ROTATION_BAKED_DEG
    return bool(np.abs(node.placement.translation).max() <= SAME_PLACE)
