"""What the assets of a batch most likely are, for steps that guess: settled before the work is dealt out.

Every file of a folder that a guess looks at is read once for it, in processes of its own; what it says is small. The
answers go along with each job, so that they are the same for any number of jobs, and wherever these are done.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from pathlib import Path

from oak_square.core.errors import BadFile
from oak_square.core.likely.answers import Answer, answers_of, folder_of
from oak_square.core.likely.clues import Clues, clues_of
from oak_square.core.likely.nouns import nouns
from oak_square.core.size_book import SizeBook
from oak_square.delivery.batch import Source, find_book
from oak_square.delivery.surveying import load_book, receive
from oak_square.delivery.workers import in_processes
from oak_square.sheet.model import Sheet
from oak_square.sheet.questions import guesses_for, settled_in

__all__ = ["book_for", "guessed"]


def book_for(sheet: Sheet, paths: Sequence[Path]) -> SizeBook | None:
    """Return the size book that lies in the batch's folder, where a step of the sheet guesses.

    Raises
    ------
    BadBook
        If it can't be read.
    """
    found = find_book(paths) if any(step.is_guess and not step.paused for step in sheet.steps) else None
    return None if found is None else load_book(found)


def guessed(
    sheet: Sheet,
    sources: Sequence[Source],
    book: SizeBook | None,
    jobs: int,
    cancelled: Callable[[], bool] | None = None,
    abandoned: Callable[[], bool] | None = None,
) -> Mapping[str, Answer]:
    """Return what each asset that a step of the sheet guesses of most likely is; nothing where none does.

    Raises
    ------
    BadBook
        If the studio's own table of nouns can't be read.
    """
    wanted = guesses_for(sheet, [s.file for s in sources])
    if not wanted:
        return {}
    nouns()  # a table that can't be read is a matter of the run, not of each file
    folders = {folder_of(file) for file in wanted}
    due = [s for s in sources if folder_of(s.file) in folders]
    results = in_processes(_read_clues, due, jobs, cancelled, abandoned=abandoned)
    found = [clues for _, clues, _ in results if clues is not None]
    answers = answers_of(sorted(found, key=lambda c: c.file), settled_in(sheet, [s.file for s in sources]), book)
    return {file: answer for file, answer in answers.items() if file in wanted}


def _read_clues(source: Source) -> Clues | None:
    try:
        return clues_of(receive(source).asset)
    except BadFile:
        return None  # told where its turn comes
