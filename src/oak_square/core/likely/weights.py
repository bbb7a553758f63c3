"""Every prior and every weight that a likeliest unit or side hangs on, each with where it comes from.

*Fitted* means by maximum likelihood of a choice among six (a conditional logit), on shapes of which the side that is
up is known: buildings, vessels, vehicles, plants, creatures and furniture of many makers, 1,534 in all; then rounded,
and made a fifth weaker, for shapes of other makers. *Chosen* means by judgement, before any figure was looked at.
"""

from __future__ import annotations

from collections.abc import Mapping

__all__ = [
    "ALIKE",
    "AT_ODDS",
    "CERTAIN",
    "COMMON_SIZE_M",
    "FAR_MORE",
    "FOLDER_TRUST",
    "FORMAT_STAYS",
    "GRID",
    "IN_NAME",
    "MORE",
    "MORE_AT_ODDS",
    "NAME_SPREAD",
    "NAME_TAILS",
    "NAME_TAIL_DOF",
    "ODD",
    "ODD_STRENGTH",
    "OFF_BOOK",
    "SHAPE",
    "SIDE_FITS_NAME",
    "SLANTS",
    "SPREAD_OF_SIZES",
    "TRUE_WHEN_DECLARED",
    "UNITS_MET",
    "UPS_MET",
    "UPS_MET_STL",
    "VOICES",
]

CERTAIN = 0.95
"""The share from which on an answer is called certain: one in twenty may be wrong. Chosen."""

AT_ODDS = 0.7
"""By how much, as a log-likelihood, a file may itself speak for another unit than its folder's and still be called
certain: twice as much. Chosen on made-up folders: it halves what is certain and wrong, for a twentieth of the rest."""

MORE_AT_ODDS = 100.0
"""As `MORE`, where the file itself speaks for another than the likeliest: its folder then has to be sure. Chosen."""

MORE, FAR_MORE = 4.0, 10.0
"""How many times as likely as the present one another unit, or another side, must be to be a finding; and another side
for a check of upright things to fail. Chosen: of shapes of many makers the first finds nine in ten that lie wrong, and
two in a hundred that do not."""

UNITS_MET: Mapping[str, float] = {"m": 0.21, "mm": 0.21, "cm": 0.20, "in": 0.20, "ft": 0.18}
"""How often files that declare nothing are in a unit, before anything is known. Chosen, and nearly
alike: a rare unit that is never named is of no help to whoever has it."""

UPS_MET: Mapping[str, float] = {"+Y": 0.35, "+Z": 0.35, "-Z": 0.075, "-Y": 0.075, "+X": 0.075, "-X": 0.075}
"""How often a file axis is up, before anything is known: two customs, and what came of mistaking them. Chosen."""

UPS_MET_STL: Mapping[str, float] = {"+Y": 0.25, "+Z": 0.45, "-Z": 0.075, "-Y": 0.075, "+X": 0.075, "-X": 0.075}
"""The same of STL, which comes from where Z is up more often than not. Chosen."""

TRUE_WHEN_DECLARED = 0.93
"""How often what a file declares of itself is so. Chosen: exporters that write metres whatever they were given."""

COMMON_SIZE_M, SPREAD_OF_SIZES = 1.5, 1.8
"""The size of modelled things of which nothing else is known: log-normal, metres and natural logarithm. Chosen, so that
two thirds lie between 25 cm and 9 m."""

NAME_TAILS = 0.15
"""How often a thing is not of the size its name says, but of any: toys, parts, words of another sense. Counted as one
in seven of 137 files of many makers that were built true and carry a noun in their name."""

FOLDER_TRUST = 0.3
"""How far a folder's name is trusted to say what a file in it is that has no name of its own. Chosen."""

NAME_SPREAD, NAME_TAIL_DOF = 1.25, 3.0
"""How much wider a noun's sizes are spread than its usual range says, and the degrees of freedom of their t
distribution: few, for heavy tails. Of the same files 56 % lay in the range that four in five were thought to."""

OFF_BOOK = 0.1
"""How far outside the size book counts as one standard deviation, as a natural logarithm: 10 %. Chosen."""

IN_NAME = 3.0
"""Log-likelihood of a length in the file's name that is one of its extents in some unit. Chosen: one in twenty is so
by chance."""

GRID = 2.5
"""Log-likelihood of corners on whole numbers of another unit and not of the file's own. Chosen, as above."""

ODD, ODD_STRENGTH = 0.04, 12.0
"""How many of a folder are not like the rest, and for how many files that belief counts beside what is seen. Chosen."""

FORMAT_STAYS = 0.85
"""How often the files of one format in a folder are like those of its other formats. Chosen."""

VOICES = 12.0
"""For how many independent files a whole folder counts at most: what misleads one may mislead many. Chosen."""

ALIKE = 0.5
"""What several things of one noun count together: this power of their number. Chosen: their maker's taste is shared."""

SLANTS: tuple[tuple[float, float], ...] = ((-0.5, 0.06), (-0.25, 0.24), (0.0, 0.4), (0.25, 0.24), (0.5, 0.06))
"""How much larger or smaller than usual all things of one folder may be, as natural logarithms, each with how often
that is: a maker has a taste, and our table has one too. About normal with a standard deviation of 0.25. Chosen; things
of one maker that were built true were 0.3 larger than the table had them."""

SIDE_FITS_NAME = 1.6
"""Log-likelihood of a tall thing that stands along its longest extent, a flat one on its shortest, per natural
logarithm by which these stand out; half of that for long ones, which do not stand. Chosen."""

SHAPE: Mapping[str, float] = {
    "stands": 0.6,
    "foot": 1.8,
    "sole": 0.2,
    "origin_base": 2.2,
    "origin_ground": 2.4,
    "origin_axis": 1.8,
    "origin_hung": -0.8,
    "low": 0.2,
    "faces_up": 0.2,
    "open_below": 2.2,
    "level": -0.2,
    "upright": 1.6,
    "mirrored": -1.9,
    "sided": 0.7,
    "round": 1.6,
    "long": -0.5,
    "detail": 0.8,
}
"""What each tell of a shape counts, as a log-likelihood. Fitted, then moved by hand between that fit and a second one
in which the stores of Fenwick Lock had a part: so figures over the stores flatter these weights. `sole`, `low` and
`faces_up` are chosen, as shapes without a bottom, of which there were many, say the opposite of those that have one."""
