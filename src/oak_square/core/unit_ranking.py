"""The unit question: which units a file could have been made in, each with its evidence.

Each piece of evidence gives every candidate unit a log-likelihood; they are added, and the sums are turned into shares
that make one whole (Bayes' rule with independent evidence). The pieces:

* what the file declares: the declared unit is taken to be true nine times in ten;
* the size book: nothing is lost inside the expected range, and outside it 0.5 · (ln ratio / 0.1)² for the extent that
  is furthest out, so that an extent 10 % outside costs as much as one standard deviation; the model may lie on a side;
* the rest of its folder: how often each unit was settled there, with one added to each (Laplace's rule);
* how large things are that people model: `size_log_likelihood`;
* how often units are met at all: `_MET`.

The best is *certain* when its share is at least 0.95; else the ranking says that it can't tell.
"""

from __future__ import annotations

import math
from collections import Counter
from collections.abc import Mapping
from dataclasses import dataclass
from itertools import permutations

import numpy as np
from numpy.typing import NDArray

from oak_square.core.boxes import EXTENTS
from oak_square.core.lengths import UNIT_WORDS, UNITS
from oak_square.core.plausible import size_log_likelihood
from oak_square.core.size_book import BookEntry
from oak_square.core.tolerances import SAME_UNIT, SPECK

__all__ = ["CERTAIN", "Candidate", "Evidence", "Ranking", "rank_units", "unit_of"]

CERTAIN = 0.95
_MET = {"m": 0.30, "mm": 0.25, "cm": 0.25, "in": 0.12, "ft": 0.08}
_TRUE_WHEN_DECLARED = 0.9
_BOOK_SPREAD = 0.1
_TOO = {"width": ("narrow", "wide"), "height": ("low", "high"), "depth": ("shallow", "deep")}
_WORST = -60.0  # no single piece of evidence outweighs all others for good


@dataclass(frozen=True, slots=True, kw_only=True)
class Evidence:
    """What is known beside the numbers: a declared unit in metres, the book's entry, units settled nearby."""

    declared: float | None = None
    book: BookEntry | None = None
    folder: Mapping[str, int] | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Candidate:
    """A unit the file could have been made in.

    Attributes
    ----------
    unit : str
        A key of `UNITS`, or metres per unit in figures where the file declares another.
    metres : float
    size : ndarray, shape (3,), metres
        Width, height and depth it would have.
    share : float
        How likely, of 1.
    says : tuple of (what, words)
        The evidence for and against: `file`, `book`, `folder`, `size`.
    """

    unit: str
    metres: float
    size: NDArray[np.float64]
    share: float
    says: tuple[tuple[str, str], ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class Ranking:
    """Candidates, the likeliest first."""

    candidates: tuple[Candidate, ...]

    @property
    def best(self) -> Candidate:
        """The likeliest."""
        return self.candidates[0]

    @property
    def certain(self) -> bool:
        """Whether the likeliest leaves no doubt worth a person's time."""
        return self.best.share >= CERTAIN

    @property
    def words(self) -> str:
        """What it comes to, in a few words."""
        if self.certain:
            return f"made in {UNIT_WORDS.get(self.best.unit, self.best.unit)}, {_percent(self.best.share)}"
        close = [c for c in self.candidates if c.share >= 0.1][:3]
        return f"can't tell: {', '.join(f'{c.unit} {_percent(c.share)}' for c in close)}"


def unit_of(metres: float) -> str:
    """Return the unit of so many metres, or the figures where none is."""
    found = next((name for name, m in UNITS.items() if math.isclose(m, metres, rel_tol=SAME_UNIT)), None)
    return found if found is not None else f"{metres:g}"


def rank_units(size_units: NDArray[np.float64], evidence: Evidence) -> Ranking | None:
    """Return the units an asset could have been made in, or None where it has no extent to judge by.

    Parameters
    ----------
    size_units : ndarray, shape (3,), file units
        Width, height and depth.
    evidence : Evidence
    """
    if not np.isfinite(size_units).all() or size_units.max() <= 0:
        return None
    units = dict.fromkeys(_MET)
    if evidence.declared is not None:
        units.setdefault(unit_of(evidence.declared))
    units.update(dict.fromkeys(u for u in evidence.folder or {} if u in UNITS))
    metres = {u: UNITS[u] if u in UNITS else float(u) for u in units}
    weights = {u: _weigh(u, m, size_units, evidence, len(units)) for u, m in metres.items()}
    top = max(total for total, _ in weights.values())
    whole = sum(math.exp(total - top) for total, _ in weights.values())
    found = [
        Candidate(unit=u, metres=metres[u], size=size_units * metres[u], share=math.exp(total - top) / whole, says=says)
        for u, (total, says) in weights.items()
    ]
    return Ranking(candidates=tuple(sorted(found, key=lambda c: -c.share)))


def _weigh(
    unit: str, metres: float, size_units: NDArray[np.float64], evidence: Evidence, count: int
) -> tuple[float, tuple[tuple[str, str], ...]]:
    """Return the log-likelihood of one unit, and what it is made of in words."""
    total = math.log(_MET.get(unit, 0.01))
    says = []
    if evidence.declared is not None:
        same = math.isclose(evidence.declared, metres, rel_tol=SAME_UNIT)
        total += math.log(_TRUE_WHEN_DECLARED if same else (1 - _TRUE_WHEN_DECLARED) / max(1, count - 1))
        says.append(("file", "as declared" if same else f"declares {unit_of(evidence.declared)}"))
    else:
        says.append(("file", "declares nothing"))
    size = size_units * metres
    if evidence.book is not None:
        off, words = _beside_book(size, evidence.book)
        total += max(_WORST, -0.5 * (off / _BOOK_SPREAD) ** 2)
        says.append(("book", words))
    if evidence.folder:
        settled = Counter(evidence.folder)
        there = settled[unit]
        total += math.log((there + 1) / (settled.total() + count))
        says.append(("folder", f"{there} of {settled.total()} in {unit}"))
    likely = size_log_likelihood(float(size.max()))
    says.append(("size", _size_words(likely)))
    return total + max(_WORST, likely), tuple(says)


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
        return 0.0, "as in the book, lying" if lying else "as in the book"
    standing = [span.off_by(float(size[k])) for k, span in enumerate(entry.spans)]
    worst = max(range(3), key=lambda k: abs(standing[k]))
    times = math.exp(abs(standing[worst]))
    by = f"{(times - 1) * 100:.0f} %" if times < 2 else f"{times:.3g} ×"
    return least, f"{by} too {_TOO[EXTENTS[worst]][standing[worst] > 0]}"


def _size_words(log_likelihood: float) -> str:
    # One and two standard deviations of the size of modelled things.
    if log_likelihood > -0.5:
        return "a usual size"
    return "a rare size" if log_likelihood > -2 else "hardly ever so"


def _percent(share: float) -> str:
    return f"{share * 100:.0f} %" if share < 0.995 else "over 99 %"
