"""The prep sheet: ordered steps, and what they are delivered as."""

from __future__ import annotations

import re
from dataclasses import replace
from functools import cached_property
from typing import Annotated, Any, Literal

import numpy as np
from pydantic import AfterValidator, BaseModel, BeforeValidator, ConfigDict, Field, SerializeAsAny, model_validator

from oak_square.core.errors import BadLength, did_you_mean
from oak_square.core.features import FeatureKind
from oak_square.core.frames import Reading
from oak_square.core.lengths import UNITS, parse_length
from oak_square.core.marking import is_unnamed
from oak_square.core.marks import MarkLook
from oak_square.core.ratios import parse_ratio
from oak_square.core.words import say
from oak_square.formats.register import made
from oak_square.sheet.set_out import SetOut
from oak_square.steps.bring import SheetDirection, direction
from oak_square.steps.centre import AssetName, MarkName, Xyz
from oak_square.steps.misfits import named_in
from oak_square.steps.setting import Length, NamedFrame, Setting
from oak_square.steps.step import Step

__all__ = ["Deliver", "Frame", "Mark", "Sheet"]

# Keys whose words are names, and no lengths.
_NAMES = {"for", "parts", "skip", "note", "match", "part", "datum", "to", "berth", "onto", "mark", "on", "about"}
_MODULES = re.compile(r"\d\s*mod\s*$")


def _is_delivery_unit(value: str) -> str:
    words = [*UNITS, "auto", "same"]
    if value not in words:
        raise ValueError(
            say("'{value}' is no unit{did_you_mean}", value=value, did_you_mean=did_you_mean(value, words))
        )
    return value


def _is_positive(value: float | str) -> float | str:
    try:
        metres = parse_length(value, bare=1.0)
    except BadLength as error:
        raise ValueError(str(error)) from error
    if metres <= 0:
        raise ValueError(say("a module must be longer than nothing, not {value}", value=value))
    return value


def _is_ratio(value: Any) -> str:
    try:
        parse_ratio(value if isinstance(value, str) else str(value))
    except BadLength as error:
        raise ValueError(str(error)) from error
    return str(value)


def _list_step_targets() -> list[str]:
    return ["same", *made()]


def _is_target(value: str) -> str:
    if value not in _list_step_targets():
        known = ", ".join(f"'{t}'" for t in _list_step_targets())
        raise ValueError(
            say(
                "'{value}' is not one of {known}{did_you_mean}",
                value=value,
                known=known,
                did_you_mean=did_you_mean(value, _list_step_targets()),
            )
        )
    return value


def _say_targets(schema: dict[str, Any]) -> None:
    schema["enum"] = _list_step_targets()


Target = Annotated[str, AfterValidator(_is_target), Field(json_schema_extra=_say_targets)]
"""A format to deliver in: one that files are made in, or `same`."""


class Deliver(BaseModel):
    """What the sheet's numbers mean, and what files are written as.

    `auto` and `same` mean metres and Y up for the sheet's numbers. They differ in files of formats that declare
    nothing: `auto` writes them in metres, Y up, as whoever opens them takes them; `same` keeps their numbers as read.
    With a `ratio` such as `1:12`, files are that much smaller; the sheet's lengths are life-size.
    """

    model_config = ConfigDict(extra="forbid", frozen=True, defer_build=True)

    unit: Annotated[str, AfterValidator(_is_delivery_unit)] = "auto"
    up: Literal["auto", "same", "Y", "Z"] = "auto"
    format: Target = "same"
    module: Annotated[Length, AfterValidator(_is_positive)] | None = None
    ratio: Annotated[str, BeforeValidator(_is_ratio)] | None = None

    @property
    def scale(self) -> float:
        """How large what is written is, of life: 1 where no ratio is given."""
        return 1.0 if self.ratio is None else parse_ratio(self.ratio)

    def setting(self) -> Setting:
        """Return what the steps are told: `auto` and `same` mean metres and Y up for the sheet's numbers."""
        unit = UNITS.get(self.unit, 1.0)
        module = None if self.module is None else parse_length(self.module, bare=unit)
        return Setting(unit=unit, up="Z" if self.up == "Z" else "Y", module=module)

    def file_reading(self, as_read: Reading, *, declares: bool) -> Reading:
        """Return the reading to ask of the format that a file is written in.

        Parameters
        ----------
        as_read : Reading
            As the sheet settles it.
        declares : bool
            Whether the format names its unit and axes in the file.
        """
        kept = {"same", "auto"} if declares else {"same"}
        up, front = as_read.up, as_read.front
        if self.up not in kept:
            up, front = ("+Z", "-Y") if self.up == "Z" else ("+Y", "+Z")
        metres = as_read.metres_per_unit if self.unit in kept else UNITS.get(self.unit, 1.0)
        return Reading(metres_per_unit=metres, up=up, front=front, source="sheet")


def _in_modules(words: Any) -> bool:
    """Tell whether some length among a step's words is in modules."""
    if isinstance(words, dict):
        # A name in a mapping of its own is one still; what else stands there is looked into.
        return any(_in_modules(w) for key, w in words.items() if key not in _NAMES or isinstance(w, dict))
    if isinstance(words, list):
        return any(_in_modules(w) for w in words)
    return isinstance(words, str) and _MODULES.search(words) is not None


class Frame(BaseModel):
    """A named frame: where it is, or the mark it is at, and how it is turned, along the delivery axes.

    One that hangs from a part (`on`) of the asset at hand, or from another asset (`of`) or a part of that, counts from
    there, along that part's axes: it follows it through every step.
    """

    model_config = ConfigDict(extra="forbid", frozen=True, defer_build=True)

    at: Xyz | MarkName = Field(default_factory=lambda: list[int | float | str]((0, 0, 0)))
    turn: Annotated[list[Annotated[float, Field(allow_inf_nan=False)]], Field(min_length=3, max_length=3)] = Field(
        default_factory=lambda: [0.0, 0.0, 0.0]
    )

    of: AssetName | None = Field(None, description=say("The asset that it hangs from, by path or name."))
    on: Annotated[str, Field(min_length=1)] | None = Field(
        None, description=say("The part that it hangs from: of that asset, or of the one at hand.")
    )

    def named(self, setting: Setting) -> NamedFrame:
        """Return the frame as steps are told of it: in the working frame, or in that of what it hangs from."""
        frame = np.eye(4)
        frame[:3, :3] = setting.turned(self.turn)
        mark = self.at.mark if isinstance(self.at, MarkName) else None
        if not isinstance(self.at, MarkName):
            frame[:3, 3] = setting.point(self.at)
        if self.of is not None or self.on is not None:
            # Along the axes of what it hangs from, by the letters that these have.
            frame[:3] = setting.working_from_delivery.T @ frame[:3]
        return NamedFrame(frame=frame, mark=mark, of=self.of, on=self.on)


class Mark(BaseModel):
    """A place on a part, kept as what it is."""

    model_config = ConfigDict(extra="forbid", frozen=True, defer_build=True)

    on: Annotated[str, Field(min_length=1)] = Field(description=say("A part's name, or a glob."))
    kind: FeatureKind = Field(description=say("What it is: a vertex, an edge, a face or a circle."))
    where: Annotated[list[Annotated[float, Field(allow_inf_nan=False)]], Field(min_length=3, max_length=3)] = Field(
        description=say("Fractions of the part's box along width, height, depth.")
    )
    way: SheetDirection | None = Field(
        None,
        description=say("Which way a face faces, an edge runs, a circle's axis points: a side, axis or direction."),
    )
    size: Annotated[float, Field(gt=0, allow_inf_nan=False)] | None = Field(
        None, description=say("An edge's length, a circle's radius, the root of a face's area, of the box's diagonal.")
    )

    @model_validator(mode="after")
    def _a_vertex_is_a_point(self) -> Mark:
        if self.kind == "vertex" and (self.way is not None or self.size is not None):
            raise ValueError(say("a vertex has neither way nor size"))
        return self

    def look(self, name: str, setting: Setting) -> MarkLook:
        """Return the mark as steps look for it: in the working frame."""
        way = None if self.way is None else direction(self.way, setting)
        return MarkLook(name=name, on=self.on, kind=self.kind, where=np.array(self.where), way=way, size=self.size)


class Sheet(BaseModel):
    """A whole prep sheet. `prep_sheet` is the version of its form."""

    model_config = ConfigDict(extra="forbid", frozen=True, populate_by_name=True)

    prep_sheet: Literal[1] = Field(1, alias="prep-sheet")
    title: str = ""
    deliver: Deliver = Deliver()
    datums: dict[str, Frame] = Field(default_factory=dict)
    berths: dict[str, Frame] = Field(default_factory=dict)
    marks: dict[str, Mark] = Field(default_factory=dict)
    set_out: SetOut | None = Field(None, alias="set-out")
    steps: tuple[SerializeAsAny[Step], ...] = ()

    def without_loose_marks(self) -> Sheet:
        """Return the sheet without the marks that nothing speaks of and nobody gave a name."""
        if not any(is_unnamed(name) for name in self.marks):
            return self
        words = [
            *(s.words() for s in self.steps),
            *(f.model_dump() for f in (*self.datums.values(), *self.berths.values())),
        ]
        needed = {name for w in words for name in named_in(w, "mark")}
        kept = {name: mark for name, mark in self.marks.items() if name in needed or not is_unnamed(name)}
        return self if len(kept) == len(self.marks) else self.model_copy(update={"marks": kept})

    def speaks_in_modules(self) -> bool:
        """Tell whether some length of a step, a datum, a berth or a row is in modules."""
        frames = [f.model_dump() for f in (*self.datums.values(), *self.berths.values())]
        frames += [self.set_out.row.model_dump()] if self.set_out is not None and self.set_out.row is not None else []
        return any(_in_modules(words) for words in (*(s.words() for s in self.steps), *frames))

    def without_module(self) -> int | None:
        """Return the first step, counted from 0, that is written in modules while the sheet gives them no length."""
        if self.deliver.module is not None:
            return None
        return next((k for k, step in enumerate(self.steps) if _in_modules(step.words())), None)

    def assets_named(self, step: Step) -> tuple[str, ...]:
        """Return the other assets that a step speaks of: itself, or by a datum or berth that hangs from one."""
        if not self.datums and not self.berths:
            return step.refers_to
        words = step.words()
        hung = [self.datums[n].of for n in named_in(words, "datum") if n in self.datums]
        hung += [self.berths[n].of for n in named_in(words, "berth") if n in self.berths]
        return tuple(dict.fromkeys((*step.refers_to, *(name for name in hung if name is not None))))

    @cached_property
    def hangs(self) -> bool:
        """Whether what some step does to an asset hangs on others."""
        steps = [step for step in self.steps if not step.paused]
        return any(step.moves_together or self.assets_named(step) for step in steps)

    def setting(self) -> Setting:
        """Return what the steps are told: what numbers mean, and the named frames."""
        plain = self.deliver.setting()
        return replace(
            plain,
            datums={name: frame.named(plain) for name, frame in self.datums.items()},
            berths={name: frame.named(plain) for name, frame in self.berths.items()},
            marks={name: mark.look(name, plain) for name, mark in self.marks.items()},
        )
