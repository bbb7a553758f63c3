"""Which assets of a batch still wait for their unit, and what the rest of their folder says."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import PurePosixPath
from typing import Literal

from oak_square.core.boxes import asset_box
from oak_square.core.size_book import SizeBook
from oak_square.core.tolerances import SAME_UNIT
from oak_square.core.unit_ranking import Evidence, Ranking, rank_units, unit_of
from oak_square.sheet.evaluate import Prepared
from oak_square.sheet.model import Sheet

__all__ = ["UnitQuestion", "settled_units", "unit_question"]


@dataclass(frozen=True, slots=True, kw_only=True)
class UnitQuestion:
    """What is asked of one asset.

    Attributes
    ----------
    ranking : Ranking or None
        None where there is nothing to judge by.
    state : {"settled", "certain", "open"}
        Settled by a step, or as it should be by all evidence; waiting, with a best answer beyond doubt; or in doubt.
    """

    ranking: Ranking | None
    state: Literal["settled", "certain", "open"]


def settled_units(sheet: Sheet, files: Sequence[str]) -> dict[str, str]:
    """Return the unit that a step of the sheet says each file was made in; guesses settle nothing for others."""
    found: dict[str, str] = {}
    for step in sheet.steps:
        reads = getattr(step, "reads", None)
        if step.do != "unit" or step.paused or reads in ("declared", "guess"):
            continue
        unit = reads if isinstance(reads, str) else unit_of(float(str(reads)))
        found.update({f: unit for f in files if step.covers(f)})
    return found


def unit_question(
    prepared: Prepared, sheet: Sheet, settled: dict[str, str], declared: float | None, book: SizeBook | None
) -> UnitQuestion:
    """Return what is asked of an asset that `sheet` has prepared.

    Parameters
    ----------
    settled : dict
        The units of the batch, by file.
    declared : float or None, metres
        The unit the file itself declares.
    book : SizeBook or None
    """
    asset = prepared.read
    box = asset_box(asset)
    if box is None:
        return UnitQuestion(ranking=None, state="settled")
    folder = PurePosixPath(asset.file).parent
    nearby = Counter(u for f, u in settled.items() if f != asset.file and PurePosixPath(f).parent == folder)
    evidence = Evidence(
        declared=declared, book=book.entry_for(asset.file) if book is not None else None, folder=nearby or None
    )
    ranking = rank_units(box.size / asset.reading.metres_per_unit, evidence)
    if ranking is None or asset.reading.source == "sheet" or _is_sized(sheet, asset.file):
        return UnitQuestion(ranking=ranking, state="settled")
    if not ranking.certain:
        return UnitQuestion(ranking=ranking, state="open")
    same = abs(ranking.best.metres / asset.reading.metres_per_unit - 1) < SAME_UNIT
    return UnitQuestion(ranking=ranking, state="settled" if same and declared is not None else "certain")


def _is_sized(sheet: Sheet, file: str) -> bool:
    """Tell whether a step gives the asset a size of its own, so that its unit no longer matters."""
    return any(
        s.do == "size" and s.parts is None and getattr(s, "factor", None) is None and not s.paused and s.covers(file)
        for s in sheet.steps
    )
