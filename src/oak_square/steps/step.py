"""What every step is: its shared fields, what it is told, what it answers, and the register of kinds."""

from __future__ import annotations

import math
from abc import ABC, abstractmethod
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from typing import TYPE_CHECKING, Any, ClassVar, Literal

import numpy as np
from numpy.typing import NDArray
from pydantic import BaseModel, ConfigDict, Field, model_validator

from oak_square.core.frames import Reading
from oak_square.core.globs import names_file
from oak_square.core.node_names import nodes_named
from oak_square.core.placement import Placement, turn_degrees
from oak_square.core.tolerances import EXACT_CHANNEL, SAME_PLACE, TINY
from oak_square.core.words import say
from oak_square.steps.setting import Setting

if TYPE_CHECKING:
    from oak_square.core.likely.answers import Answer
    from oak_square.core.scene import Asset

__all__ = [
    "NO_SUCH_NODE",
    "STEPS",
    "Channel",
    "Effect",
    "Step",
    "registered",
    "unclean_nodes",
]

Array = NDArray[np.float64]
Channel = Literal["rotation", "scale", "location"]


NO_SUCH_NODE = say("no node of that name")
"""The detail of a step whose `parts` name nothing in an asset; the batch warns when that is so in all of them."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Effect:
    """What a step did to one asset: the asset it leaves, in words, and what it warns of."""

    asset: Asset
    changed: bool
    detail: str
    warnings: tuple[str, ...] = field(default=())


class Step(BaseModel, ABC):
    """One ordered decision on a prep sheet. Its fields are all the settings it has."""

    model_config = ConfigDict(extra="forbid", frozen=True, populate_by_name=True, defer_build=True)

    stage: ClassVar[str]
    takes_parts: ClassVar[bool] = True
    needs_parts: ClassVar[bool] = False
    means_all: ClassVar[bool] = False  # of all parts, where it needs some and none are chosen
    form_note: ClassVar[str] = ""  # what its form says above its fields

    do: str
    for_: list[str] | None = Field(
        None, alias="for", title="for", description=say("Globs on the asset's path or name.")
    )
    parts: list[str] | None = Field(
        None,
        description=say(
            "Globs on node names; with a / in them on paths from the root, ** over levels. "
            "cask#2 is the second node called cask."
        ),
    )
    skip: list[str] = Field(
        default_factory=list, description=say("Globs on the asset's path or name that win over for.")
    )
    paused: bool = Field(False, description=say("Left out of the run, kept on the sheet."))
    may_refuse: bool = Field(
        False, alias="may-refuse", description=say("If refused, deliver the asset as if this step were absent.")
    )
    all_: bool = Field(
        False, alias="all", description=say("Refused where a mark is not found on each of the parts it is for.")
    )
    note: str | None = Field(None, description=say("A comment that travels with the step."))

    @model_validator(mode="after")
    def _names_what_it_needs(self) -> Step:
        if self.needs_parts and self.parts is None:
            raise ValueError(say("{do} needs parts: the nodes it is for", do=self.do))
        if self.all_ and (self.target == "asset" or not _names_a_mark(self.words())):
            raise ValueError(say("all: true is of a step for parts that names a mark"))
        return self

    @abstractmethod
    def apply(self, asset: Asset, setting: Setting) -> Effect:
        """Return what this step makes of `asset`; pure.

        Raises
        ------
        Refused
            If it can't be done exactly.
        Failed
            If something it names is missing.
        """

    @abstractmethod
    def title(self) -> str:
        """Return a few words for the step's card."""

    @classmethod
    def is_for_nodes(cls, words: Mapping[str, Any]) -> bool:
        """Tell whether a step of these words can be narrowed to nodes."""
        return cls.takes_parts

    @property
    def is_reading(self) -> bool:
        """Whether this step says how the file's numbers are read; readings are settled before all else."""
        return False

    @property
    def stays(self) -> str:
        """What stays in place while all else moves about it, in words; empty where nothing is turned or sized."""
        return ""

    @property
    def refers_to(self) -> tuple[str, ...]:
        """The other assets this step itself speaks of, by path or name."""
        return ()

    def may_mean_part(self, name: str) -> bool:
        """Tell whether what it refers to is a part of the asset at hand where no asset is called so."""
        return False

    @property
    def moves_together(self) -> bool:
        """Whether the assets that it is for count as one thing."""
        return False

    @property
    def is_guess(self) -> bool:
        """Whether it takes the likeliest, which hangs on the folder an asset came in."""
        return False

    def guess_words(self, answer: Answer) -> str:
        """Return what a guess takes of an asset that most likely is so, and why; only for guesses."""
        return ""

    def read_as(self, reading: Reading, asset: Asset, answer: Answer | None = None) -> Reading:
        """Return the reading this step leaves of `asset` as received; only for readings.

        Parameters
        ----------
        reading : Reading
            What the readings before it leave.
        asset : Asset
        answer : Answer, optional
            What the asset most likely is, for a guess: beside its folder where that is known, else by itself.
        """
        return reading

    def reading_detail(self, asset: Asset, answer: Answer | None = None) -> tuple[str, tuple[str, ...]]:
        """Return what was settled of `asset` as received, and what is doubtful of it; only for readings."""
        return self.title(), ()

    def covers(self, file: str) -> bool:
        """Tell whether the asset at `file` is in the step's scope."""
        return not names_file(self.skip, file) and (self.for_ is None or names_file(self.for_, file))

    def chosen(self, asset: Asset, kinds: Sequence[str] = ("part", "group")) -> tuple[int, ...]:
        """Return the positions of the nodes of `kinds` that `parts` names; all of them when it is not given."""
        if self.parts is None:
            return tuple(i for i, node in enumerate(asset.nodes) if node.kind in kinds)
        return tuple(i for i in nodes_named(asset, self.parts) if asset.nodes[i].kind in kinds)

    @property
    def target(self) -> str:
        """What it is for: `asset` as a whole, or `parts`, `groups` or `all` nodes that it names."""
        return "asset" if self.parts is None else "all"

    def met(self, asset: Asset) -> tuple[int, ...]:
        """Return the positions of the nodes it is for; of an asset as a whole, its parts."""
        return asset.parts if self.target == "asset" else self.chosen(asset)

    def words(self) -> dict[str, Any]:
        """Return the step as the sheet writes it: only what differs from the defaults."""
        return {"do": self.do, **self.model_dump(by_alias=True, exclude_defaults=True, exclude={"do"}, mode="json")}


def _names_a_mark(words: Any) -> bool:
    """Tell whether a step's words name a mark, or what may stand at one."""
    if isinstance(words, Mapping):
        return not {"mark", "datum", "berth"}.isdisjoint(words) or any(map(_names_a_mark, words.values()))
    return isinstance(words, list) and any(map(_names_a_mark, words))


def unclean_nodes(asset: Asset, chosen: Sequence[int], what: Sequence[str]) -> list[int]:
    """Return those of the `chosen` nodes of which some channel in `what` is not identity."""
    size = max(float(np.abs(asset.worlds[:, :3, 3]).max(initial=0.0)), TINY)
    return [i for i in chosen if any(not _channel_is_clean(c, asset.nodes[i].placement, size) for c in what)]


def _channel_is_clean(channel: str, placement: Placement, size: float) -> bool:
    if channel == "rotation":
        return turn_degrees(placement.rotation) <= math.degrees(EXACT_CHANNEL)
    if channel == "scale":
        return bool(np.abs(placement.scale - 1).max() <= EXACT_CHANNEL and not placement.is_sheared)
    return bool(np.abs(placement.translation).max() <= SAME_PLACE * size)


STEPS: dict[str, type[Step]] = {}
"""Every kind of step by its `do`; filled when the package is imported."""


def registered(step: type[Step]) -> type[Step]:
    """Add a kind of step to the register.

    Raises
    ------
    RuntimeError
        If its `do` is taken: a fault of ours.
    """
    do = str(step.model_fields["do"].default)
    if do in STEPS:
        raise RuntimeError(f"two steps are called '{do}'")
    STEPS[do] = step
    return step
