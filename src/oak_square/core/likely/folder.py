"""One answer for a folder, with a few odd ones out: what its files say together, and what that says of each.

The model is a tree. A folder has one way (a unit, or a side that is up); the files of each format in it mostly have the
folder's; each file mostly has its format's. Beliefs go up the tree and down again (sum-product, exact on a tree), so
that what a file is told by the others never holds its own voice. How many are odd is learnt from the folder itself.

A folder has no more voices than `VOICES`, and things of one noun fewer than they are: what misleads one of them may
mislead them all. What nothing but its size speaks for has one voice among all of its kind.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Hashable, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from oak_square.core.likely.weights import ALIKE, FORMAT_STAYS, ODD, ODD_STRENGTH, VOICES
from oak_square.core.tolerances import UNLIKELY

__all__ = ["Belief", "Vote", "believe", "settled_belief"]

Array = NDArray[np.float64]
_ROUNDS = 4


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Vote:
    """What one file says.

    Attributes
    ----------
    format : str
    says : ndarray, shape (K,)
        Log-likelihoods of each answer.
    of : hashable
        Files of which this is alike mislead alike; None where nothing but its size speaks.
    """

    format: str
    says: Array
    of: Hashable = None


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Belief:
    """What is believed of each file, shape (N, K), and of the folder, shape (K,): shares, each row a whole."""

    files: Array
    folder: Array


def believe(voices: Sequence[Vote], prior: Sequence[Array], customs: Array | None = None) -> Belief:
    """Return what is believed of a folder's files.

    Parameters
    ----------
    voices : sequence of Vote
        One for each file.
    prior : sequence of ndarray, shape (K,)
        For each format in the order they first come in, how likely each answer is before anything is known.
    customs : ndarray, shape (K,), optional
        1 where an answer may be the way of a folder, 0 where it may be that of odd files alone.
    """
    says = np.array([v.says for v in voices])
    says = says - says.max(axis=1, keepdims=True)
    formats = list(dict.fromkeys(v.format for v in voices))
    of_format = np.array([formats.index(v.format) for v in voices])
    priors = np.array(prior)
    ways = priors if customs is None else _normalise_rows(priors * customs)
    weights = _weigh_voices(voices)
    likely = np.exp(says)
    odd = ODD
    for _ in range(_ROUNDS):
        files, folder, others = _weigh_once(likely, weights, of_format, (priors, ways), odd)
        unlike = 1 - _weigh_agreeing(likely, others, priors[of_format], odd)
        odd = (ODD * ODD_STRENGTH + float(unlike.sum())) / (ODD_STRENGTH + len(voices))
    return Belief(files=files, folder=folder)


def settled_belief(says: Array, prior: Array, settled: Sequence[int]) -> Array:
    """Return what is believed of a file, shape (K,), where people have settled others of its folder as `settled`.

    Their word is beyond all guesses: it stands for the folder's way, and only what the file itself says can make it
    odd.
    """
    counts = np.bincount(np.array(settled), minlength=len(prior)).astype(np.float64)
    way = (1 - ODD) * counts / counts.sum() + ODD * prior
    shares = way * np.exp(says - says.max())
    found: Array = shares / shares.sum()
    return found


def _weigh_voices(voices: Sequence[Vote]) -> Array:
    """Return for how much of a voice each file counts to the others, shape (N,)."""
    counts = Counter(v.of for v in voices)
    each = np.array([1.0 / counts[None] if v.of is None else counts[v.of] ** (ALIKE - 1) for v in voices])
    whole = float(each.sum())
    found: Array = each * min(1.0, VOICES / whole)
    return found


def _weigh_once(
    likely: Array, weights: Array, of_format: NDArray[np.int64], both: tuple[Array, Array], odd: float
) -> tuple[Array, Array, Array]:
    """Return shares of each file and of the folder, and what each file is told of its format by all others.

    `both` are the priors of odd files, and those of the ways of folders and formats.
    """
    priors, ways = both
    mine = priors[of_format]
    # Up: what a file says of its format, whose way it has unless it is odd.
    up = np.log(np.maximum((1 - odd) * likely + odd * (mine * likely).sum(axis=1, keepdims=True), UNLIKELY))
    up = up * weights[:, None]
    count = len(priors)
    of_all = np.array([up[of_format == g].sum(axis=0) for g in range(count)])
    said = _normalise_rows(np.exp(of_all - of_all.max(axis=1, keepdims=True)))
    # What a format says of the folder, whose way it has mostly.
    told = np.log(
        np.maximum(FORMAT_STAYS * said + (1 - FORMAT_STAYS) * (ways * said).sum(axis=1, keepdims=True), UNLIKELY)
    )
    start = np.log(np.maximum(ways.mean(axis=0), UNLIKELY))
    whole = start + told.sum(axis=0)
    folder = _normalise_rows(np.exp(whole - whole.max())[None])[0]
    # Down again: to each format what the others say, to each file what its fellows say.
    without = start + told.sum(axis=0) - told
    down = (
        FORMAT_STAYS * _normalise_rows(np.exp(without - without.max(axis=1, keepdims=True))) + (1 - FORMAT_STAYS) * ways
    )
    fellows = np.log(np.maximum(down[of_format], UNLIKELY)) + of_all[of_format] - up
    others = _normalise_rows(np.exp(fellows - fellows.max(axis=1, keepdims=True)))
    files = _normalise_rows(((1 - odd) * others + odd * mine) * likely)
    return files, folder, others


def _weigh_agreeing(likely: Array, others: Array, prior: Array, odd: float) -> Array:
    """Return how likely each file is one of those that are like the rest, shape (N,)."""
    like = (1 - odd) * (others * likely).sum(axis=1)
    unlike = odd * (prior * likely).sum(axis=1)
    found: Array = like / np.maximum(like + unlike, UNLIKELY)
    return found


def _normalise_rows(rows: Array) -> Array:
    found: Array = rows / np.maximum(rows.sum(axis=1, keepdims=True), UNLIKELY)
    return found
