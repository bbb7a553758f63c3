"""The unit question: which units a file could have been made in, each with its evidence.

Each piece of evidence gives every candidate unit a log-likelihood; they are added to what the rest of the folder says,
and the sums are turned into shares that make one whole (Bayes' rule). `weights.py` says what each piece counts:

* what the file declares;
* the size book: nothing is lost inside the expected range, and outside it half the square of the standard deviations
  by which the extent that is furthest out is off; the model may lie on a side;
* what such things measure that are called so, and lengths that the name says;
* whether its corners lie on whole numbers of a unit of the other kind, as those of a drawing do that was converted;
* where its name says nothing: how large things are that people model.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from itertools import permutations

import numpy as np
from numpy.typing import NDArray

from oak_square.core.boxes import EXTENTS
from oak_square.core.lengths import UNIT_WORDS, UNITS
from oak_square.core.likely.nouns import Named, Noun, any_log_likelihood
from oak_square.core.likely.weights import (
    AT_ODDS,
    CERTAIN,
    GRID,
    IN_NAME,
    OFF_BOOK,
    SLANTS,
    TRUE_WHEN_DECLARED,
    UNITS_MET,
)
from oak_square.core.size_book import BookEntry
from oak_square.core.terms import term
from oak_square.core.tolerances import SAME_UNIT, SPECK
from oak_square.core.words import either, joined, say

__all__ = ["Candidate", "Ranking", "UnitClues", "Weighed", "percent", "prior_of", "ranked", "unit_of", "weigh"]

_TOO = {"width": ("narrow", "wide"), "height": ("low", "high"), "depth": ("shallow", "deep")}
_WORST = -60.0  # no single piece of evidence outweighs all others for good
_SAME_LENGTH = 0.03  # of a length that a name says
_METRIC = ("m", "cm", "mm", "km")


@dataclass(frozen=True, slots=True, kw_only=True)
class UnitClues:
    """What a file itself says of its unit.

    Attributes
    ----------
    size : tuple of 3 float
        Its extents in its own units, along its own axes.
    declared : float or None
        Metres per unit that it declares.
    named : Named or None
        What it is called.
    lengths : tuple of float
        Lengths that its name says, metres.
    on_grid : "", "metric" or "inches"
        Its corners lie on whole numbers of this kind of unit, if it is in one of the other kind.
    """

    size: tuple[float, float, float]
    declared: float | None = None
    named: Named | None = None
    lengths: tuple[float, ...] = ()
    on_grid: str = ""

    @property
    def longest(self) -> float:
        """The longest extent."""
        return max(self.size)


@dataclass(frozen=True, slots=True, kw_only=True)
class Candidate:
    """A unit the file could have been made in.

    Attributes
    ----------
    unit : str
        A key of `UNITS`, or metres per unit in figures where the file declares another.
    metres : float
    size : ndarray, shape (3,), metres
        The extents along the file's own axes that it would have.
    share : float
        How likely, of 1.
    says : tuple of (what, words)
        The evidence for and against: `file`, `book`, `folder`, `name`, `grid`, `size`.
    """

    unit: str
    metres: float
    size: NDArray[np.float64]
    share: float
    says: tuple[tuple[str, str], ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class Ranking:
    """Candidates, the likeliest first.

    Attributes
    ----------
    candidates : tuple of Candidate
    at_odds : bool
        What the file itself says speaks plainly for another than the likeliest: that one is then never certain.
    """

    candidates: tuple[Candidate, ...]
    at_odds: bool = False

    @property
    def best(self) -> Candidate:
        """The likeliest."""
        return self.candidates[0]

    @property
    def certain(self) -> bool:
        """Whether the likeliest leaves no doubt worth a person's time."""
        return self.best.share >= CERTAIN and not self.at_odds

    @property
    def words(self) -> str:
        """What it comes to, in a few words."""
        if self.certain:
            return say(
                "{unit}, {percent}",
                unit=term(UNIT_WORDS.get(self.best.unit, self.best.unit)),
                percent=percent(self.best.share),
            )
        close = [c for c in self.candidates if c.share >= 0.1][:3]
        shares = joined(", ", (say("{unit} {percent}", unit=c.unit, percent=percent(c.share)) for c in close))
        return say(
            "can't tell: {shares}{tail}",
            shares=shares,
            tail=say(", as its folder; by itself another") if self.at_odds else "",
        )

    def share_of(self, metres: float) -> float:
        """Return how likely a unit of so many metres is."""
        return next((c.share for c in self.candidates if math.isclose(c.metres, metres, rel_tol=SAME_UNIT)), 0.0)


@dataclass(frozen=True, slots=True, kw_only=True)
class Weighed:
    """What one file says of one unit: a log-likelihood for each slant its folder may have, and that in words."""

    totals: tuple[float, ...]
    says: tuple[tuple[str, str], ...]

    @property
    def total(self) -> float:
        """The log-likelihood where nothing is known of its folder's slant."""
        top = max(self.totals)
        return top + math.log(sum(w * math.exp(t - top) for t, (_, w) in zip(self.totals, SLANTS, strict=True)))


def unit_of(metres: float) -> str:
    """Return the unit of so many metres, or the figures where none is."""
    found = next((name for name, m in UNITS.items() if math.isclose(m, metres, rel_tol=SAME_UNIT)), None)
    return found if found is not None else f"{metres:g}"


def metres_of(unit: str) -> float:
    """Return the metres of a unit as `unit_of` names it."""
    return UNITS[unit] if unit in UNITS else float(unit)


def prior_of(units: Sequence[str], declared: float | None = None) -> NDArray[np.float64]:
    """Return how likely each unit is before anything of the file is known, shape (units,), a whole."""
    shares: NDArray[np.float64] = np.array([UNITS_MET.get(u, 0.005) for u in units], dtype=np.float64)
    if declared is not None:
        own = np.array([math.isclose(metres_of(u), declared, rel_tol=SAME_UNIT) for u in units])
        others = np.where(own, 0.0, shares)
        shares[:] = np.where(own, TRUE_WHEN_DECLARED, (1 - TRUE_WHEN_DECLARED) * others / others.sum())
    whole: NDArray[np.float64] = shares / shares.sum()
    return whole


def weigh(clues: UnitClues, unit: str, book: BookEntry | None = None) -> Weighed:
    """Return what a file says of having been made in a unit; priors and its folder are not in it."""
    metres = metres_of(unit)
    size = np.array(clues.size) * metres
    longest, total = float(size.max()), 0.0
    says = [("file", _declared_words(clues, metres))]
    if book is not None:
        off, words = _beside_book(size, book)
        total += max(_WORST, -0.5 * (off / OFF_BOOK) ** 2)
        says.append(("book", words))
    if clues.named is not None:
        by_size = [clues.named.log_likelihood(longest * math.exp(-slant)) for slant, _ in SLANTS]
        says.append(("name", name_words(clues.named, longest)))
    else:
        by_size = [any_log_likelihood(longest)] * len(SLANTS)
        says.append(("size", _size_words(any_log_likelihood(longest))))
    for length in clues.lengths:
        if np.abs(np.log(np.maximum(size, SPECK) / max(length, SPECK))).min() < _SAME_LENGTH:
            total += IN_NAME
            says.append(("name", say("its name says {length:g} m, and so it would be", length=length)))
            break
    if clues.on_grid and (unit in _METRIC) != (clues.on_grid == "metric"):
        total += GRID
        says.append(
            (
                "grid",
                say("its corners would lie on whole millimetres")
                if clues.on_grid == "metric"
                else say("its corners would lie on whole inches"),
            )
        )
    return Weighed(totals=tuple(max(total + part, _WORST) for part in by_size), says=tuple(says))


def ranked(
    clues: UnitClues,
    units: Sequence[str],
    weighed: Mapping[str, Weighed],
    shares: NDArray[np.float64],
    folder: Mapping[str, str],
) -> Ranking:
    """Return the ranking of units with their shares, shape (units,); `folder` is what the folder says of each."""
    found = []
    best = units[int(np.argmax(shares))]
    at_odds = max(w.total for w in weighed.values()) - weighed[best].total > AT_ODDS
    for unit, share in zip(units, shares.tolist(), strict=True):
        metres = metres_of(unit)
        said = [*weighed[unit].says, *([("folder", folder[unit])] if folder.get(unit) else [])]
        size = np.array(clues.size) * metres
        found.append(Candidate(unit=unit, metres=metres, size=size, share=share, says=tuple(said)))
    return Ranking(candidates=tuple(sorted(found, key=lambda c: -c.share)), at_odds=at_odds)


def _declared_words(clues: UnitClues, metres: float) -> str:
    if clues.declared is None:
        return say("declares nothing")
    return (
        say("as declared")
        if math.isclose(clues.declared, metres, rel_tol=SAME_UNIT)
        else say("declares {unit}", unit=unit_of(clues.declared))
    )


def name_words(named: Named, longest_m: float) -> str:
    """Return what a name says of a longest extent: `a bollard is usually 0.5 to 1.5 m`, and how far that is off."""
    noun = named.nearest(longest_m)
    usual = say("{noun} is usually {range_words}", noun=_find_article(noun), range_words=noun.range_words)
    if longest_m > noun.high * 1.001:
        return say("{usual}: {times} too large", usual=usual, times=_format_ratio(longest_m / noun.high))
    return (
        usual
        if longest_m >= noun.low * 0.999
        else say("{usual}: {times} too small", usual=usual, times=_format_ratio(noun.low / longest_m))
    )


def _find_article(noun: Noun) -> str:
    word = noun.word
    return either(f"{'an' if word[0] in 'aeio' else 'a'} {word}", de=str(noun.said))


def _format_ratio(ratio: float) -> str:
    return (
        say("{ratio:.0f} %", ratio=(ratio - 1) * 100)
        if ratio < 2
        else say("{ratio:.3g} ×", ratio=ratio)
        if ratio < 1000
        else say("over 1000 ×")
    )


def _beside_book(size: NDArray[np.float64], entry: BookEntry) -> tuple[float, str]:
    """Return how far outside the book a size lies, as a logarithm without sign, and that in words.

    Which side is up may still be wrong in a file: the way of laying it that fits the book best is what counts.
    """
    least, lying = math.inf, False
    for order in permutations(range(3)):
        off = max(abs(span.off_by(float(size[k]))) for k, span in zip(order, entry.spans, strict=True))
        if off < least - SPECK:
            least, lying = off, order != (0, 1, 2)
    if least == 0:
        return 0.0, say("as in the book, lying") if lying else say("as in the book")
    standing = [span.off_by(float(size[k])) for k, span in enumerate(entry.spans)]
    worst = max(range(3), key=lambda k: abs(standing[k]))
    times = math.exp(abs(standing[worst]))
    by = say("{times:.0f} %", times=(times - 1) * 100) if times < 2 else say("{times:.3g} ×", times=times)
    return least, say("{by} too {how}", by=by, how=term(_TOO[EXTENTS[worst]][standing[worst] > 0]))


def _size_words(log_density: float) -> str:
    # One and two standard deviations of the size of modelled things, below the height of the curve.
    peak = any_log_likelihood(1.5)
    if log_density > peak - 0.5:
        return say("a usual size")
    return say("a rare size") if log_density > peak - 2 else say("hardly ever so")


def percent(share: float) -> str:
    """Return a share as people say it; never a whole hundred."""
    if share > 0.995:
        return say("over 99 %")
    return say("{share:.0f} %", share=share * 100) if share >= 0.01 else say("under 1 %")
