"""A run as it is asked for, and the two ways in which it ends early."""

from __future__ import annotations

from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

from oak_square.core.errors import OakSquareError, one_line
from oak_square.core.size_book import SizeBook
from oak_square.core.words import say
from oak_square.delivery.batch import Source
from oak_square.delivery.files import Digests
from oak_square.delivery.outbox import MANIFEST, TAKEN_AWAY
from oak_square.sheet.model import Sheet

__all__ = ["Run", "Stopped", "Unrecorded"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Run:
    """A request to deliver a batch.

    Attributes
    ----------
    sources : tuple of Source
    sheet : Sheet
    sheet_bytes : bytes
        The sheet's file, for its hash.
    out : Path
    jobs : int
        Processes; 0 chooses by the batch's size. With a scheduler, how many assets are under way at once; 0 for all
        that its workers take.
    scheduler : str
        Where a Dask scheduler is, or `local:N`; empty to work in processes of this machine.
    dry, replace, resume : bool
    known : tuple of Source
        Further assets that steps may name, not delivered themselves.
    keeps : bool
        What an earlier run of the same sheet delivered stays in the manifest though its source is not among `sources`,
        and models in `out` that no run tells of are warned of.
    book : SizeBook, optional
        What lies in the batch's folder, for guesses.
    digests : Digests
        Shared by runs one after the other, so that what nobody touched in between is not read again.
    """

    sources: tuple[Source, ...]
    sheet: Sheet
    sheet_bytes: bytes
    out: Path
    jobs: int = 1
    scheduler: str = ""
    dry: bool = False
    replace: bool = False
    resume: bool = False
    known: tuple[Source, ...] = ()
    keeps: bool = False
    book: SizeBook | None = None
    digests: Digests = field(default_factory=Digests)


class Stopped(KeyboardInterrupt):
    """A run that was stopped `by` its user: `manifest` tells of what had landed by then, of `total` assets."""

    def __init__(self, manifest: dict[str, Any], total: int, by: KeyboardInterrupt) -> None:
        super().__init__()
        self.by = by
        self.manifest = manifest
        self.total = total


class Unrecorded(OakSquareError):
    """A run whose manifest could not be written: `manifest` is what it would say; whether that `stands`."""

    options = say(", --resume goes on")

    def __init__(self, manifest: dict[str, Any], why: str) -> None:
        self.stands = why != TAKEN_AWAY
        also = say("; what was delivered stands") if self.stands else ""
        super().__init__(
            one_line(say("{manifest} can't be written: {why}{also}", manifest=MANIFEST, why=why, also=also))
        )
        self.manifest = manifest
