"""What the sheet tells every step: its unit, axes and named things; and lengths as sheets write them."""

from __future__ import annotations

import re
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field
from functools import cache
from typing import TYPE_CHECKING, Annotated

import numpy as np
from numpy.typing import NDArray
from pydantic import BeforeValidator

from oak_square.core.errors import BadLength, Failed, Refused, did_you_mean
from oak_square.core.frames import Reading, axis_turn
from oak_square.core.lengths import UNITS, parse_length
from oak_square.core.marks import Found, MarkLook, find_mark
from oak_square.core.node_axes import named_axes
from oak_square.core.node_names import node_named
from oak_square.core.tolerances import GREATEST_UNIT_M, LEAST_UNIT_M
from oak_square.core.words import number, say

if TYPE_CHECKING:
    from oak_square.core.scene import Asset

__all__ = ["Length", "LengthOrShare", "NamedFrame", "Setting", "WholeMotion", "is_unit", "said"]

Array = NDArray[np.float64]


def said(length: float | str | None) -> str:
    """Return a length as a card says it: as it was typed, numbers without needless digits."""
    return number(f"{length:g}" if isinstance(length, int | float) else str(length))


def _is_length(value: float | str) -> float | str:
    try:
        parse_length(value, bare=1.0, module=1.0)
    except BadLength as error:
        raise ValueError(str(error)) from error
    return value


_WORDS = ("declared", "guess")


def is_unit(value: float | str) -> float | str:
    """Return `value` when it names a unit, or is metres per unit.

    Raises
    ------
    ValueError
        If it is neither; the nearest unit is suggested.
    """
    if isinstance(value, str):
        if value not in UNITS and value not in _WORDS:
            hint = did_you_mean(value, [*UNITS, *_WORDS]) or say(" (units are {units})", units=", ".join(UNITS))
            raise ValueError(say("'{value}' is no unit{hint}", value=value, hint=hint))
    elif not (LEAST_UNIT_M <= value <= GREATEST_UNIT_M):
        raise ValueError(say("metres per unit must be a positive number, not {value}", value=value))
    return value


Length = Annotated[int | float | str, BeforeValidator(_is_length)]
"""A length as the sheet writes it: a number in the delivery unit, or text that may carry its own."""


_SHARE = re.compile(r"\s*([0-9]+(?:\.[0-9]*)?|\.[0-9]+)\s*%\s*\Z")


def _is_length_or_share(value: float | str) -> float | str:
    share = _SHARE.match(value) if isinstance(value, str) else None
    if share is not None and float(share[1]) > 100:
        raise ValueError(say("a share lies between 0 and 100 %, not at {value}", value=value))
    if share is None:
        try:
            parse_length(value, bare=1.0, module=1.0)
        except BadLength as error:
            raise ValueError(say("{error}, nor a share such as '2 %'", error=error)) from error
    return value


LengthOrShare = Annotated[int | float | str, BeforeValidator(_is_length_or_share)]
"""A length, or text such as `2 %`: a share of an extent, 0 to 100."""


@cache
def _delivery_axes(up: str) -> Array:
    front = "+Z" if up == "Y" else "-Y"
    axes = Reading(metres_per_unit=1.0, up=f"+{up}", front=front, source="sheet").rotation
    axes.setflags(write=False)
    return axes


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class NamedFrame:
    """A named frame of the sheet.

    Attributes
    ----------
    frame : ndarray, shape (4, 4)
        World from frame, working frame; or, where it hangs from a thing, that thing's axes from frame.
    mark : str, optional
        The mark whose point it is at.
    of : str, optional
        The asset that it hangs from; the one at hand, where only `on` is given.
    on : str, optional
        The node of that asset that it hangs from.
    """

    frame: Array
    mark: str | None = None
    of: str | None = None
    on: str | None = None

    @property
    def hangs(self) -> bool:
        """Whether it hangs from a thing."""
        return self.of is not None or self.on is not None


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class WholeMotion:
    """How an asset as a whole is moved: world motion, shape (4, 4), None where it stays; and that in words."""

    motion: Array | None
    detail: str
    warnings: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True, kw_only=True)
class Setting:
    """What the sheet tells every step.

    Attributes
    ----------
    unit : float, metres
        One delivery unit.
    up : {"Y", "Z"}
        The delivery axis that is up.
    module : float, metres, optional
    others : callable, optional
        Returns another asset of the batch as it stands before the step that asks; None where none is called so.
    datums, berths : mapping of name to NamedFrame
        The sheet's named frames.
    marks : mapping of name to MarkLook
        The sheet's marks.
    joint : callable, optional
        Returns the motion that the assets of this step make together.
    """

    unit: float = 1.0
    up: str = "Y"
    module: float | None = None
    others: Callable[[str], Asset | None] | None = None
    datums: Mapping[str, NamedFrame] = field(default_factory=dict)
    berths: Mapping[str, NamedFrame] = field(default_factory=dict)
    marks: Mapping[str, MarkLook] = field(default_factory=dict)
    joint: Callable[[], WholeMotion] | None = None

    def other(self, name: str) -> Asset:
        """Return the asset of that path or name as it stands before this step.

        Raises
        ------
        DataTrouble
            If there is none, or it comes to nothing.
        """
        if self.others is None:
            raise Failed(say("there is no batch to find '{name}' in", name=name))
        found = self.others(name)
        if found is None:
            raise Failed(say("there is no asset '{name}' in the batch", name=name))
        return found

    def datum(self, name: str, asset: Asset, node: int | None = None) -> Array:
        """Return a named frame of the sheet, world from datum, shape (4, 4), as it is for an asset as it stands.

        Parameters
        ----------
        node : int, optional
            The node that a step goes through: a mark may be its own.

        Raises
        ------
        DataTrouble
            If the sheet declares none of that name, or the mark it is at is not found.
        """
        if name not in self.datums:
            raise Failed(
                say(
                    "the sheet declares no datum '{name}'{did_you_mean}",
                    name=name,
                    did_you_mean=did_you_mean(name, self.datums),
                )
            )
        return self._find_frame(self.datums[name], asset, node)

    def berth(self, name: str, asset: Asset, node: int | None = None) -> Array:
        """Return a named place of the sheet, world from berth, shape (4, 4); as `datum`."""
        if name not in self.berths:
            raise Failed(
                say(
                    "the sheet declares no berth '{name}'{did_you_mean}",
                    name=name,
                    did_you_mean=did_you_mean(name, self.berths),
                )
            )
        return self._find_frame(self.berths[name], asset, node)

    def _find_frame(self, named: NamedFrame, asset: Asset, node: int | None) -> Array:
        if named.hangs:
            return self._find_hung_frame(named, asset)
        if named.mark is None:
            return named.frame
        frame = named.frame.copy()
        frame[:3, 3] = self.mark(named.mark, asset, node).point
        return frame

    def _find_hung_frame(self, named: NamedFrame, asset: Asset) -> Array:
        """Return a frame that hangs from a node, or from an asset's file origin, as these stand."""
        bearer = asset if named.of is None else self.other(named.of)
        base = np.eye(4)
        if named.on is None:
            base[:3, :3] = self.working_from_delivery
            base[:3, 3] = bearer.received[:3, 3]
        else:
            node = node_named(bearer, named.on)
            base[:3, :3] = named_axes(bearer, node)
            base[:3, 3] = bearer.worlds[node][:3, 3]
        frame: Array = base @ named.frame
        if named.mark is not None:
            frame[:3, 3] = self._find_mark_elsewhere(named.mark, bearer, named.of)
        return frame

    def _find_mark_elsewhere(self, mark: str, bearer: Asset, name: str | None) -> Array:
        """Return the point of a mark on an asset, that of another `name` perhaps, which must have it."""
        try:
            return self.mark(mark, bearer).point
        except Refused as error:
            if name is None:
                raise
            # What another asset lacks is not this one's shape: there is no doing without it.
            raise Failed(say("'{name}': {error}", name=name, error=error)) from error

    def mark(self, name: str, asset: Asset, node: int | None = None) -> Found:
        """Return where a mark of the sheet is on an asset as it stands; `node` as for `datum`.

        Raises
        ------
        DataTrouble
            If the sheet declares none of that name, or it is not found.
        """
        if name not in self.marks:
            raise Failed(
                say(
                    "the sheet declares no mark '{name}'{did_you_mean}",
                    name=name,
                    did_you_mean=did_you_mean(name, self.marks),
                )
            )
        return find_mark(asset, self.marks[name], node)

    def metres(self, value: float | str) -> float:
        """Return a sheet length in metres."""
        return parse_length(value, bare=self.unit, module=self.module)

    def metres_of(self, value: float | str, extent: Array | float) -> Array | float:
        """Return a sheet length, or a share of `extent`, metres."""
        share = _SHARE.match(value) if isinstance(value, str) else None
        return float(share[1]) / 100 * extent if share is not None else self.metres(value)

    @property
    def working_from_delivery(self) -> Array:
        """The (3, 3) rotation from delivery axes to working axes."""
        return _delivery_axes(self.up)

    def turned(self, by: Sequence[float]) -> Array:
        """Return the delivery axes turned by degrees about x, then y, then z, as working axes, shape (3, 3)."""
        x, y, z = (axis_turn(k, angle) for k, angle in enumerate(by))
        found: Array = self.working_from_delivery @ z @ y @ x
        return found

    def point(self, values: Sequence[float | str]) -> Array:
        """Return three sheet lengths along the delivery axes as a working point, metres."""
        moved: Array = self.working_from_delivery @ np.array([self.metres(v) for v in values])
        return moved
