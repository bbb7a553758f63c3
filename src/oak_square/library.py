"""Oak Square from Python: what the commands do, given and returned as plain dictionaries."""

from __future__ import annotations

import json
import os
from collections.abc import Callable, Iterable, Iterator, Mapping
from contextlib import contextmanager
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import numpy as np

from oak_square.core.errors import BadBook, BadReference, BadSheet, ChoiceTrouble
from oak_square.core.likely.nouns import nouns
from oak_square.core.words import in_english
from oak_square.delivery.batch import find_book, find_sources, told_apart
from oak_square.delivery.documents import survey_document
from oak_square.delivery.guessing import book_for
from oak_square.delivery.proving import prove as proved
from oak_square.delivery.run import Run, Unrecorded
from oak_square.delivery.running import deliver
from oak_square.delivery.surveying import load_book, survey_batch
from oak_square.formats.register import made
from oak_square.sheet.dumping import sheet_words
from oak_square.sheet.model import Sheet
from oak_square.sheet.text import parse_sheet, step_line

__all__ = ["BadInput", "load_sheet", "prep", "prove", "survey"]

PathLike = str | os.PathLike[str]
_MOST_SHEET_BYTES = 4_000_000


class BadInput(ValueError):
    """Something that was asked for can't be done, and nothing was written: where the command would end with 2.

    Attributes
    ----------
    file : str or None
        What it lies in: a sheet, a size book, a folder.
    line : int or None
        The line there, counted from 1.
    reason : str
    """

    def __init__(self, reason: str, file: str | None = None, line: int | None = None) -> None:
        where = "" if file is None else f"{file}: " if line is None else f"{file}, line {line}: "
        super().__init__(f"{where}{reason}")
        self.file, self.line, self.reason = file, line, reason


def load_sheet(path_or_text: PathLike) -> dict[str, Any]:
    """Return a prep sheet, from a file or from its text, as a dictionary of what it says; `prep` takes it.

    Parameters
    ----------
    path_or_text : str or path
        A string that holds a line break is the sheet itself, and one with a colon that is no file.

    Raises
    ------
    BadInput
        If it can't be read, or says something impossible; with the line.
    """
    return _plain_document(sheet_words(_read_sheet(path_or_text).sheet))


@dataclass(frozen=True, slots=True)
class _ReadSheet:
    """A sheet, its text, and the file it came from: `<text>` or `<dictionary>` where it came from none."""

    sheet: Sheet
    text: bytes
    file: str


def _read_sheet(given: PathLike | Mapping[str, Any]) -> _ReadSheet:
    file, data = "<text>", b""
    if isinstance(given, Mapping):
        file = "<dictionary>"
        try:
            # JSON is YAML: one reader, with the same errors, for both.
            data = json.dumps(given, ensure_ascii=False, allow_nan=False, indent=1).encode()
        except (TypeError, ValueError, RecursionError) as error:
            raise BadInput(f"holds something that no sheet can say: {error}", file) from error
    elif isinstance(given, str) and _is_text(given):
        data = given.encode()
    else:
        file = os.fspath(given)
        try:
            with Path(file).open("rb") as stream:
                data = stream.read(_MOST_SHEET_BYTES + 1)
        except OSError as error:
            raise BadInput(f"can't be read: {error.strerror or error}", file) from error
    if len(data) > _MOST_SHEET_BYTES:
        raise BadInput(f"is larger than {_MOST_SHEET_BYTES} bytes, which no sheet is", file)
    with _as_bad_input():
        try:
            return _ReadSheet(parse_sheet(data.decode("utf-8-sig"), file), data, file)
        except UnicodeDecodeError as error:
            raise BadInput("is no UTF-8 text", file) from error
        except BadSheet as error:
            raise BadInput(error.reason, file, None if file == "<dictionary>" else error.line) from error


def survey(
    paths: PathLike | Iterable[PathLike], *, size_book: PathLike | None = None, to: str | None = None
) -> dict[str, Any]:
    """Return what is true and not true of models: the document that `oak-square survey --json` prints.

    Parameters
    ----------
    paths : path or paths
        Model files, and folders to search.
    size_book : path, optional
        What the assets should measure; else the one that lies in the first folder that has one.
    to : str, optional
        Find also what this format can't hold.

    Raises
    ------
    BadInput
        If a path is not there, the size book says something impossible, or there is no such format.
    """
    given = _check_paths(paths)
    if to is not None and to not in made():
        raise BadInput(f"'{to}' is no format that is made ({', '.join(made())})")
    with _as_bad_input():
        found = Path(size_book) if size_book is not None else find_book(given)
        book = None if found is None else load_book(found)
        sources = told_apart(find_sources(given))
        nouns()
        return _plain_document(survey_document(survey_batch(sources, book=book, to=to)))


def prep(  # noqa: PLR0913 - as the contract has it
    sheet: PathLike | Mapping[str, Any],
    paths: PathLike | Iterable[PathLike],
    out: PathLike,
    *,
    jobs: int | None = None,
    dry_run: bool = False,
    resume: bool = False,
    replace: bool = False,
    progress: Callable[[int, int, dict[str, Any]], None] | None = None,
) -> dict[str, Any]:
    """Run a prep sheet over a batch, deliver and prove; return the manifest that lies in the delivery.

    Parameters
    ----------
    sheet : path, text, or a dictionary as `load_sheet` returns it
    paths : path or paths
        Model files, and folders to search.
    out : path
        The folder to deliver into.
    jobs : int, optional
        Processes; as many as suit the batch when it is not given.
    dry_run, resume, replace : bool
        As the command's options.
    progress : callable of (done, total, entry), optional
        Called in this thread as each asset is done, with its entry of the manifest.

    Raises
    ------
    BadInput
        If the sheet says something impossible, a path is not there, or `out` may not be delivered into.
    OSError
        If the manifest can't be written; what was delivered stands.
    """
    loaded = _read_sheet(sheet)
    given = _check_paths(paths)
    if jobs is not None and jobs < 1:
        raise BadInput(f"{jobs} processes can do nothing")
    with _as_bad_input():
        run = Run(
            sources=tuple(find_sources(given)),
            sheet=loaded.sheet,
            sheet_bytes=loaded.text,
            out=Path(out),
            jobs=jobs or 0,
            dry=dry_run,
            resume=resume,
            replace=replace,
            book=book_for(loaded.sheet, given),
        )
        try:
            return _plain_document(deliver(run, progress, tell=lambda _: None))
        except BadReference as error:
            line = None if isinstance(sheet, Mapping) else step_line(loaded.text, error.step)
            raise BadInput(str(error), loaded.file, line) from error
        except Unrecorded as error:
            raise OSError(f"{out}: {error}") from error


def prove(folder: PathLike) -> dict[str, Any]:
    """Re-open a delivery and return whether each asset holds against the manifest, as `prove --json` prints it.

    Returns
    -------
    dict
        `holds`, and `assets`: of each its `output`, whether it `holds`, and the `reason` where it does not.

    Raises
    ------
    BadInput
        If there is no manifest, or it can't be read.
    """
    with _as_bad_input():
        rows = [
            {"output": each.name, "holds": each.trouble is None, "reason": each.trouble}
            for each in proved(Path(folder))
        ]
    return _plain_document({"holds": all(row["holds"] for row in rows), "assets": rows})


def _plain_document(document: dict[str, Any]) -> dict[str, Any]:
    """Return a document of nothing but plain text, numbers, lists and dictionaries."""
    plain: dict[str, Any] = in_english(document)
    return plain


def _check_paths(paths: PathLike | Iterable[PathLike]) -> list[Path]:
    if isinstance(paths, str | os.PathLike):
        return [Path(paths)]
    return [Path(path) for path in paths]


def _is_text(words: str) -> bool:
    """Whether a string is a sheet, and no file's name."""
    if "\n" in words:
        return True
    try:
        return ":" in words and not Path(words).exists()
    except (OSError, ValueError):  # no name that a file could have
        return True


@contextmanager
def _as_bad_input() -> Iterator[None]:
    """Let what the command would end with 2 for be told as `BadInput`; numbers that overflow are found, not said."""
    try:
        with np.errstate(all="ignore"):
            yield
    except (BadSheet, BadBook) as error:
        raise BadInput(error.reason, error.file, error.line) from error
    except ChoiceTrouble as error:
        file, colon, reason = str(error).partition(": ")
        raise BadInput(reason if colon else str(error), file if colon else None) from error
