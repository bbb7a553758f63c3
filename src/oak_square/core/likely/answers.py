"""What each asset of a batch most likely is, beside the others of its folder: all that asks draws on this."""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from functools import lru_cache
from pathlib import PurePosixPath

import numpy as np
from numpy.typing import NDArray

from oak_square.core.frames import AXES
from oak_square.core.likely.clues import Clues
from oak_square.core.likely.folder import Vote, believe, settled_belief
from oak_square.core.likely.sides import SideRanking, front_axis, side_prior, side_says, side_words, usual_front
from oak_square.core.likely.units import Ranking, Weighed, prior_of, ranked, unit_of, weigh
from oak_square.core.likely.weights import AT_ODDS, SLANTS, UNITS_MET
from oak_square.core.memo import Memo
from oak_square.core.size_book import SizeBook
from oak_square.core.words import say

__all__ = ["Answer", "Settled", "Way", "answer_alone", "answers_of", "folder_of"]

Array = NDArray[np.float64]
_WEIGHED: Memo[dict[str, Weighed]] = Memo()
_SIDES: Memo[Array] = Memo()
_ODD_SHARE = 0.5  # how likely another answer must be for a file to be called odd
_FEW = 3  # files from which on a folder has a way
_CUSTOMS = np.array([axis != "-Y" for axis in AXES], dtype=np.float64)  # upside down is nobody's custom
_MOSTLY = 0.8  # of those that tell: which way front lies


@dataclass(frozen=True, slots=True, kw_only=True)
class Settled:
    """What people have said of files: units by name, and (up, front)."""

    units: Mapping[str, str] = field(default_factory=dict)
    ways: Mapping[str, tuple[str, str]] = field(default_factory=dict)


@dataclass(frozen=True, slots=True, kw_only=True)
class Way:
    """What a folder's files that declare nothing have in common.

    Attributes
    ----------
    folder : str
    answer : str
        A unit, or a signed axis.
    share : float
        How likely that is what they have in common.
    alike, count : int
        How many most likely have it, of how many.
    odd : tuple of str
        Those that most likely have another.
    by_hand : bool
        It is what people settled.
    """

    folder: str
    answer: str
    share: float
    alike: int
    count: int
    odd: tuple[str, ...]
    by_hand: bool = False

    @property
    def is_way(self) -> bool:
        """Whether it is more than what its files happen to be: there are several, and most have it."""
        return self.count >= _FEW and self.alike * 2 > self.count


@dataclass(frozen=True, slots=True, kw_only=True)
class Answer:
    """What one asset most likely is.

    Attributes
    ----------
    file : str
    unit : Ranking or None
        None where there is nothing to judge by.
    up : SideRanking or None
    front : str
        The signed file axis that is front with the likeliest up; empty where nothing tells.
    front_says : str
        Why, in words.
    front_certain : bool
    mirrors : tuple of 3 float
        How like itself its shape is mirrored across each file axis, 0 to 1.
    own_up, own_front, declares : str, str, bool
        The axes it is read with as received, and whether its file says so itself.
    units, ups : Way or None
        What its folder has in common; None for a file that declares its own, or stands alone.
    """

    file: str
    unit: Ranking | None = None
    up: SideRanking | None = None
    front: str = ""
    front_says: str = ""
    front_certain: bool = False
    mirrors: tuple[float, ...] = ()
    own_up: str = "+Y"
    own_front: str = "+Z"
    declares: bool = False
    units: Way | None = None
    ups: Way | None = None


@lru_cache(maxsize=65_536)
def folder_of(file: str) -> str:
    """Return the folder that a file of a batch lies in."""
    return PurePosixPath(file).parent.as_posix()


def answer_alone(clues: Clues) -> Answer:
    """Return what an asset is by itself."""
    return answers_of([clues])[clues.file]


def answers_of(
    batch: Sequence[Clues], settled: Settled | None = None, book: SizeBook | None = None
) -> dict[str, Answer]:
    """Return what each asset of a batch most likely is, by file.

    Parameters
    ----------
    batch : sequence of Clues
    settled : Settled, optional
        What people have said of some of them: it counts for the rest of their folders beyond all guesses. What is said
        of files that declare their own counts for such files alone.
    book : SizeBook, optional
    """
    folders: dict[str, list[Clues]] = {}
    for clues in batch:
        folders.setdefault(folder_of(clues.file), []).append(clues)
    found: dict[str, Answer] = {}
    for folder, members in folders.items():
        # In order of name: what comes of it hangs on the files alone.
        members.sort(key=lambda c: c.file)
        told = settled or Settled()
        units, unit_ways = _answer_units(folder, members, told.units, book)
        ups, up_ways = _answer_ups(folder, members, told.ways)
        fronts = _answer_fronts(members, ups, told.ways)
        for clues in members:
            file = clues.file
            front, says, sure = fronts.get(file, ("", "", False))
            found[file] = Answer(
                file=file, unit=units.get(file), up=ups.get(file), front=front, front_says=says, front_certain=sure,
                units=unit_ways.get(file), ups=up_ways.get(file),
                own_up=clues.up, own_front=clues.front, declares=clues.declared_up,
                mirrors=() if clues.shape is None else tuple(clues.shape.mirrors.tolist()),
            )  # fmt: skip
    return {clues.file: found[clues.file] for clues in batch}


def _answer_units(
    folder: str, members: Sequence[Clues], settled: Mapping[str, str], book: SizeBook | None
) -> tuple[dict[str, Ranking], dict[str, Way]]:
    here = {f: u for f, u in settled.items() if folder_of(f) == folder}
    judged = [c for c in members if c.unit is not None]
    names = dict.fromkeys([*UNITS_MET, *here.values()])
    for clues in judged:
        if clues.unit is not None and clues.unit.declared is not None:
            names.setdefault(unit_of(clues.unit.declared))
    units = list(names)
    weighed = {c.file: _weigh_units(c, units, book) for c in judged}
    says = {c.file: np.array([weighed[c.file][u].totals for u in units]) for c in judged}
    free = [c for c in judged if c.unit is not None and c.unit.declared is None]
    of = {c.file: _find_kin(c) for c in judged}
    shares, way, count_words = _join_folder(
        free,
        says,
        of,
        units,
        {c.format: prior_of(units) for c in free},
        {f: units.index(u) for f, u in here.items()},
    )
    declaring = [c.file for c in members if c.unit is not None and c.unit.declared is not None]
    told = {f: units.index(here[f]) for f in declaring if f in here}
    for clues in judged:
        if clues.file not in shares and clues.unit is not None:
            own = np.array([weighed[clues.file][u].total for u in units])
            shares[clues.file] = _weigh_declared(clues.file, own, prior_of(units, clues.unit.declared), told)
    rankings = {
        c.file: ranked(c.unit, units, weighed[c.file], shares[c.file], count_words.get(c.file, {}))
        for c in judged
        if c.unit is not None
    }
    return rankings, {c.file: way for c in free} if way is not None else {}


def _weigh_units(clues: Clues, units: Sequence[str], book: SizeBook | None) -> dict[str, Weighed]:
    assert clues.unit is not None
    unit, entry = clues.unit, book.entry_for(clues.file) if book is not None else None
    if entry is not None:
        return {u: weigh(unit, u, entry) for u in units}
    known = _WEIGHED.of(clues, None, lambda: {u: weigh(unit, u) for u in UNITS_MET})
    return {u: known[u] if u in known else weigh(unit, u) for u in units}


def _find_kin(clues: Clues) -> str | None:
    """Return what tells which files may mislead alike: what they are called; None for those that are called nothing."""
    named = clues.unit.named if clues.unit is not None else None
    if named is None:
        return None
    return named.senses[0].word if named.by_folder or named.trust > 0.5 else None


def _weigh_declared(file: str, own: Array, prior: Array, told_of: Mapping[str, int]) -> Array:
    """Return the shares of a file that declares its own: it stands for itself, beside what was said of such files.

    `told_of` is the place of the unit that was said of each file that declares one.
    """
    told = [unit for f, unit in told_of.items() if f != file]
    if told:
        counts = np.bincount(told, minlength=len(prior))
        prior = (prior + counts / counts.sum()) / 2
    shares = prior * np.exp(own - own.max())
    found: Array = shares / shares.sum()
    return found


def _join_folder(
    free: Sequence[Clues],
    says: Mapping[str, Array],
    of: Mapping[str, str | None],
    answers: Sequence[str],
    priors: Mapping[str, Array],
    here: Mapping[str, int],
    customs: Array | None = None,
) -> tuple[dict[str, Array], Way | None, dict[str, dict[str, str]]]:
    """Return shares by file, what the folder has in common, and what that says of each answer, by file, in words.

    What each file says may be told for each slant a folder may have beside each answer, shape (K, slants): the folder
    has one slant as it has one answer, and what is believed is summed over slants.
    """
    if not free:
        return {}, None, {}
    slants = np.array([w for _, w in SLANTS]) if says[free[0].file].ndim > 1 else np.ones(1)
    each = {c.file: says[c.file].reshape(len(answers), -1) for c in free}
    prior = {f: np.outer(p, slants).ravel() for f, p in priors.items()}
    formats = list(dict.fromkeys(c.format for c in free))
    voices = [Vote(format=c.format, says=each[c.file].ravel(), of=of[c.file]) for c in free]
    # One file alone has no custom: only what it says itself counts.
    ways = None if customs is None or len(free) < 2 else np.repeat(customs, len(slants))
    belief = believe(voices, [prior[f] for f in formats], ways)
    shares = {c.file: belief.files[k].reshape(len(answers), -1).sum(axis=1) for k, c in enumerate(free)}
    mine = {c.file for c in free}
    told_here = {f: k for f, k in here.items() if f in mine}
    for clues in free:
        told = [k for f, k in told_here.items() if f != clues.file]
        if told:
            own = np.log(np.exp(each[clues.file] - each[clues.file].max()) @ slants)
            shares[clues.file] = settled_belief(own, priors[clues.format], told)
    best = {f: told_here[f] if f in told_here else int(np.argmax(s)) for f, s in shares.items()}
    counts = Counter(best.values())
    shared = belief.folder.reshape(len(answers), -1).sum(axis=1)
    way = _make_way(folder_of(free[0].file), answers, shared, best, shares, told_here)
    words = {c.file: _count_words(c.file, best, counts, answers, told_here) for c in free}
    return shares, way if len(free) > 1 else None, words


def _make_way(
    folder: str,
    answers: Sequence[str],
    shared: Array,
    best: Mapping[str, int],
    shares: Mapping[str, Array],
    voices: Mapping[str, int],
) -> Way:
    common = Counter(voices.values()).most_common(1)[0][0] if voices else int(np.argmax(shared))
    odd = tuple(f for f, k in best.items() if k != common and (f in voices or shares[f][k] >= _ODD_SHARE))
    return Way(
        folder=folder, answer=answers[common], share=1.0 if voices else float(shared[common]),
        alike=sum(k == common for k in best.values()), count=len(best), odd=odd, by_hand=bool(voices),
    )  # fmt: skip


def _count_words(
    file: str, best: Mapping[str, int], counts: Mapping[int, int], answers: Sequence[str], voices: Mapping[str, int]
) -> dict[str, str]:
    told = [k for f, k in voices.items() if f != file]
    if told:
        return {
            a: say("settled for {count} of {count_2} here", count=told.count(k), count_2=len(told))
            for k, a in enumerate(answers)
        }
    others = len(best) - 1
    if others < 1:
        return {}
    return {
        a: say("{get} of {others} others here", get=counts.get(k, 0) - (best[file] == k), others=others)
        for k, a in enumerate(answers)
    }


def _answer_ups(
    folder: str, members: Sequence[Clues], settled: Mapping[str, tuple[str, str]]
) -> tuple[dict[str, SideRanking], dict[str, Way]]:
    here = {f: AXES.index(up) for f, (up, _) in settled.items() if folder_of(f) == folder}
    judged = [c for c in members if c.shape is not None]
    says = {c.file: _side_says(c) for c in judged}
    free = [c for c in judged if not c.declared_up]
    of = {c.file: _find_kin(c) or c.file for c in judged}
    priors = {c.format: side_prior(c.format, None) for c in free}
    shares, way, words = _join_folder(free, says, of, AXES, priors, here, _CUSTOMS)
    for clues in judged:
        if clues.file not in shares:
            own = side_prior(clues.format, clues.up) * np.exp(says[clues.file] - says[clues.file].max())
            shares[clues.file] = own / own.sum()
    return {c.file: _side_ranking(c, shares[c.file], words.get(c.file, {})) for c in judged}, (
        {c.file: way for c in free} if way is not None else {}
    )


def _side_says(clues: Clues) -> Array:
    assert clues.shape is not None
    shape = clues.shape
    return _SIDES.of(clues, None, lambda: side_says(shape, clues.unit.named if clues.unit is not None else None))


def _side_ranking(clues: Clues, shares: Array, folder: Mapping[str, str]) -> SideRanking:
    assert clues.shape is not None
    best = AXES[int(np.argmax(shares))]
    words = side_words(clues.shape, clues.unit.named if clues.unit is not None else None, best, clues.up)
    also = (
        (say("{folder} have {best} up", folder=folder[best], best=best),)
        if folder.get(best) and not folder[best].startswith("0 ")
        else ()
    )
    says = _side_says(clues)
    at_odds = bool(says.max() - says[AXES.index(best)] > AT_ODDS)
    return SideRanking(shares=tuple(shares.tolist()), says=(*words, *also), at_odds=at_odds)


def _answer_fronts(
    members: Sequence[Clues], ups: Mapping[str, SideRanking], settled: Mapping[str, tuple[str, str]]
) -> dict[str, tuple[str, str, bool]]:
    """Return what is front of each file, why, and whether that is certain; left out where nothing tells.

    A mirror across an axis says along which one front lies, not which way. Custom does that where it has a word for the
    axis; where it has none, the mirror has to be what most of the folder has.
    """
    folder = folder_of(members[0].file) if members else ""
    said = [way for f, way in settled.items() if folder_of(f) == folder]
    judged = [c for c in members if c.shape is not None and not c.declared_up]
    own = {c.file: front_axis(c.shape.mirrors.tolist(), ups[c.file].best) for c in judged if c.shape is not None}
    found = {}
    for file, axis in own.items():
        up = ups[file].best
        fronts = Counter(front for f, (u, front) in settled.items() if f != file and u == up and folder_of(f) == folder)
        votes = Counter(a for f, a in own.items() if a is not None and f != file and ups[f].best == up)
        most, count = votes.most_common(1)[0] if votes else ("", 0)
        told = count >= _FEW and count >= _MOSTLY * votes.total()
        if said and fronts:
            front, times = fronts.most_common(1)[0]
            found[file] = (front, say("settled for {times} here", times=times), True)
        elif axis is not None and usual_front(up, axis) == usual_front(up, None):
            front = usual_front(up, axis)
            found[file] = (
                front,
                say("left and right are mirrored across {third}", third=_find_third_axis(up, front)),
                told and most == axis,
            )
        elif told and axis in (None, most):
            front = usual_front(up, most)
            either = "" if front == usual_front(up, None) else say("; front is {front} or the other way", front=front)
            found[file] = (
                front,
                say(
                    "{count} of {total} others here face along {most}{either}",
                    count=count,
                    total=votes.total(),
                    most=most,
                    either=either,
                ),
                False,
            )
    return found


def _find_third_axis(up: str, front: str) -> str:
    """Return the axis that is neither up nor front."""
    return next(a for a in "XYZ" if a not in (up[1], front[1]))
