"""Which way is up: a share for each of the six sides, with what speaks for it; and which way is front.

What a shape tells (`shape.py`), what its name tells (a tall thing stands along its longest extent) and what a file
declares are added as log-likelihoods; `weights.py` says what each counts.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import TYPE_CHECKING

import numpy as np
from numpy.typing import NDArray

from oak_square.core.frames import AXES, FRONT_OF, SIDES, axis_vector
from oak_square.core.likely.nouns import Named, named_by
from oak_square.core.likely.sample import sample_of
from oak_square.core.likely.shape import TELLS, ShapeTells, shape_of
from oak_square.core.likely.units import percent
from oak_square.core.likely.weights import (
    CERTAIN,
    FAR_MORE,
    SHAPE,
    SIDE_FITS_NAME,
    TRUE_WHEN_DECLARED,
    UPS_MET,
    UPS_MET_STL,
)
from oak_square.core.words import joined, say

if TYPE_CHECKING:
    from oak_square.core.scene import Asset

__all__ = ["SideRanking", "front_axis", "side_down", "side_prior", "side_says", "side_words", "usual_front"]

Array = NDArray[np.float64]
_WEIGHTS = np.array([SHAPE[name] for name in TELLS])
_MIRRORED, _NOT_MIRRORED = 0.8, 0.45  # how like itself a shape is that is taken for mirrored, and for not
_TOLD = 0.35  # log-likelihood from which on a tell is worth a word
# What a tell says of a side as it speaks for it, and of the side the file is read with as it speaks against that.
_WORDS: dict[str, tuple[str, str]] = {
    "stands": (say("it stands steadily so"), say("it would tip over easily as it lies")),
    "foot": (say("it stands on a wide foot so"), say("it touches the ground with little of itself as it lies")),
    "sole": (say("it has a flat sole so"), say("it has no flat sole as it lies")),
    "origin_base": (say("its origin is the middle of its base so"), say("its origin is not at its base as it lies")),
    "origin_ground": (
        say("its origin is level with its base so"),
        say("its origin is not level with its base as it lies"),
    ),
    "origin_axis": (say("its origin is on its middle line so"), say("its origin is off its middle line as it lies")),
    "low": (say("most of it is low so"), say("most of it is high up as it lies")),
    "faces_up": (say("its level faces look up so"), say("its level faces look down as it lies")),
    "open_below": (say("it is open below so, where nobody looks"), say("it is open where everybody looks as it lies")),
    "upright": (say("its faces are upright so"), say("few of its faces are upright as it lies")),
    "mirrored": (say("top and bottom differ so"), say("top and bottom are mirrored as it lies")),
    "sided": (say("left and right are mirrored so"), say("no two sides are mirrored as it lies")),
    "round": (say("it is round about its upright so"), say("it is round about an axis that lies, as it does")),
    "detail": (say("its detail is above so"), say("its detail is below as it lies")),
}


@dataclass(frozen=True, slots=True, kw_only=True)
class SideRanking:
    """How likely each signed file axis is up.

    Attributes
    ----------
    shares : tuple of 6 float
        In the order of `AXES`, a whole.
    says : tuple of str
        What speaks for the likeliest, beside the one the file is read with.
    at_odds : bool
        What the file itself says speaks plainly for another than the likeliest: that one is then never certain.
    """

    shares: tuple[float, ...]
    says: tuple[str, ...]
    at_odds: bool = False

    @property
    def best(self) -> str:
        """The likeliest."""
        return AXES[int(np.argmax(self.shares))]

    @property
    def share(self) -> float:
        """How likely that is."""
        return max(self.shares)

    @property
    def certain(self) -> bool:
        """Whether it leaves no doubt worth a person's time."""
        return self.share >= CERTAIN and not self.at_odds

    def share_of(self, axis: str) -> float:
        """Return how likely an axis is."""
        return self.shares[AXES.index(axis)]

    @property
    def words(self) -> str:
        """What it comes to, in a few words."""
        if self.certain:
            return say("{best} is up, {percent}", best=self.best, percent=percent(self.share))
        close = sorted(zip(self.shares, AXES, strict=True), reverse=True)[:3]
        shares = joined(
            ", ", (say("{axis} {percent}", axis=axis, percent=percent(share)) for share, axis in close if share >= 0.1)
        )
        return say(
            "can't tell: {shares}{tail}",
            shares=shares,
            tail=say(", as its folder; by itself another") if self.at_odds else "",
        )


def side_prior(format_key: str, declared: str | None) -> Array:
    """Return how likely each axis is up before anything of the shape is known, shape (6,), a whole."""
    met = UPS_MET_STL if format_key == "stl" else UPS_MET
    shares: Array = np.array([met[axis] for axis in AXES], dtype=np.float64)
    if declared is not None:
        own = np.array([axis == declared for axis in AXES])
        others = np.where(own, 0.0, shares)
        shares[:] = np.where(own, TRUE_WHEN_DECLARED, (1 - TRUE_WHEN_DECLARED) * others / others.sum())
    whole: Array = shares / shares.sum()
    return whole


def side_says(shape: ShapeTells, named: Named | None) -> Array:
    """Return what a shape and its name say of each axis being up, log-likelihoods, shape (6,)."""
    found: Array = shape.sides @ _WEIGHTS + _name_says(shape, named)
    return found


def _name_says(shape: ShapeTells, named: Named | None) -> Array:
    """Return what a name says: by how much the extent that is up is the longest, or the shortest, of three."""
    told = np.zeros(6)
    if named is None:
        return told
    long = shape.sides[::2, TELLS.index("long")] * (2 / 3)  # natural logarithm of each extent beside their mean
    by_length = np.sort(long)
    for noun in named.senses:
        share = named.trust / len(named.senses)
        if noun.build == "tall":
            told += share * SIDE_FITS_NAME * np.repeat(np.minimum(long - by_length[-2], 1.0), 2)
        elif noun.build == "flat":
            told += share * SIDE_FITS_NAME * np.repeat(np.minimum(by_length[1] - long, 1.0), 2)
        elif noun.build == "long":
            told -= share * SIDE_FITS_NAME / 2 * np.repeat(np.clip(long - by_length[1], 0.0, 1.5), 2)
    return told


def side_words(shape: ShapeTells, named: Named | None, best: str, present: str) -> tuple[str, ...]:
    """Return what speaks for an axis being up rather than the one that is taken for it now, the strongest first."""
    a, b = AXES.index(best), AXES.index(present)
    told = dict(zip(TELLS, shape.sides[a] * _WEIGHTS, strict=True))
    against = dict(zip(TELLS, shape.sides[b] * _WEIGHTS, strict=True))
    said = []
    if a != b and shape.falls[b] and not shape.falls[a]:
        said.append((3.0, say("its weight falls outside its foot as it lies")))
    for name, (pro, con) in _WORDS.items():
        gain = told[name] - (against[name] if a != b else 0.0)
        if gain > _TOLD and told[name] > 0:
            said.append((gain, pro))
        elif gain > _TOLD and a != b:
            said.append((gain, con))
    names = _name_says(shape, named)
    if named is not None and names[a] - (names[b] if a != b else names.mean()) > _TOLD:
        noun = named.senses[0]
        words = {"tall": say("higher than wide"), "flat": say("lower than wide"), "long": say("not standing on end")}[
            next((n.build for n in named.senses if n.build), "long")
        ]
        said.append((float(names[a] - names[b]) + 1, say("{noun}: usually {words}", noun=noun.said, words=words)))
    return tuple(words for _, words in sorted(said, reverse=True)[:3])


def front_axis(mirrors: Sequence[float], up: str) -> str | None:
    """Return the file axis (`X`, `Y`, `Z`) that front lies along by left-right likeness; None where that can't tell."""
    a, b = (k for k in range(3) if "XYZ"[k] != up[1])
    if mirrors[a] > _MIRRORED and mirrors[b] < _NOT_MIRRORED:
        return "XYZ"[b]
    if mirrors[b] > _MIRRORED and mirrors[a] < _NOT_MIRRORED:
        return "XYZ"[a]
    return None


def usual_front(up: str, axis: str | None) -> str:
    """Return the signed axis that is front: by custom, or the one along `axis` that custom has no word for."""
    usual = FRONT_OF[up]
    return usual if axis is None or usual[1] == axis else f"+{axis}"


def side_down(asset: Asset) -> str | None:
    """Return the side that an asset as it stands plainly lies on instead of its bottom; None where it does not."""
    sample = sample_of(asset)
    if sample is None:
        return None
    says = side_says(shape_of(sample), named_by(asset.file))
    shares = np.exp(says - says.max())
    up = AXES[int(np.argmax(shares))]
    if up == asset.reading.up or shares.max() < FAR_MORE * shares[AXES.index(asset.reading.up)]:
        return None
    way = asset.reading.rotation @ axis_vector(up)
    axis = int(np.argmax(np.abs(way)))
    # What should be up is where that side is: it lies on the one that faces it.
    return next(side for side, (k, end) in SIDES.items() if k == axis and (end == 0.0) == (way[axis] > 0))
