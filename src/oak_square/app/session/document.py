"""The window's work as one value, and its history."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field, replace
from pathlib import Path

from oak_square.app.session.aim import ScopeChoice
from oak_square.app.session.grip import Grip
from oak_square.core.findings.finding import Finding
from oak_square.core.measuring import Measure
from oak_square.core.scene import Asset
from oak_square.core.size_book import SizeBook
from oak_square.delivery.batch import Source
from oak_square.sheet.dumping import dump_sheet
from oak_square.sheet.keeping import SheetText
from oak_square.sheet.model import Sheet
from oak_square.steps.step import Step

__all__ = ["BatchRow", "Document", "History", "default_delivery"]


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class BatchRow:
    """One file of the batch: being read (neither asset nor error), read, or unreadable; `digest` is its content's."""

    source: Source
    asset: Asset | None = None
    error: str | None = None
    findings: tuple[Finding, ...] = ()
    digest: str = ""

    @property
    def file(self) -> str:
        """Its name in the batch."""
        return self.source.file


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Document:
    """What is worked on: what undo goes back over.

    Attributes
    ----------
    sheet : Sheet
        The steps that are kept.
    draft : Step or None
        The step being tried.
    editing : int or None
        The kept step, from 0, that the draft would replace; the batch is then seen as it stands after it.
    aim : ScopeChoice
        What a new step would be for.
    grip : Grip
        Along which axes and about what things are taken hold of.
    together : bool
        Several that are selected are taken as one: their common box, sized by one factor.
    left_out : frozenset of str
        Files that are not delivered.
    measures : tuple of Measure
        What was measured, kept with the sheet.
    book : SizeBook or None
        What the batch is held against.
    book_path : Path or None
        The file it lies in; None while it is not saved.
    path : Path or None
        The sheet's file; None while it is not saved.
    typed : SheetText or None
        The sheet's text as it was typed there.
    """

    sheet: Sheet = field(default_factory=Sheet)
    draft: Step | None = None
    editing: int | None = None
    aim: ScopeChoice = field(default_factory=ScopeChoice)
    grip: Grip = field(default_factory=Grip)
    together: bool = False
    left_out: frozenset[str] = frozenset()
    measures: tuple[Measure, ...] = ()
    book: SizeBook | None = None
    book_path: Path | None = None
    path: Path | None = None
    typed: SheetText | None = None

    @property
    def words(self) -> str:
        """The kept steps as a sheet file says them, what was typed before kept as it was."""
        return self.told[0]

    @property
    def told(self) -> tuple[str, bool]:
        """The kept steps as text, and whether they had to be written anew beside what was typed."""
        return (dump_sheet(self.sheet), False) if self.typed is None else self.typed.told(self.sheet)

    @property
    def before(self) -> Sheet:
        """The steps that run before the draft."""
        return self.sheet if self.editing is None else self.with_steps(self.sheet.steps[: self.editing])

    @property
    def tried(self) -> Sheet:
        """Those, and the draft behind them."""
        before = self.before
        return before if self.draft is None else self.with_steps((*before.steps, self.draft))

    @property
    def with_draft_kept(self) -> Document:
        """The document once the draft is a step of the sheet."""
        if self.draft is None:
            return self
        steps = list(self.sheet.steps)
        if self.editing is None:
            steps.append(self.draft)
        else:
            steps[self.editing] = self.draft
        return self.with_sheet(self.with_steps(tuple(steps)))

    def with_sheet(self, sheet: Sheet) -> Document:
        """Return the document with another sheet, and nothing being tried; marks that nobody named or needs go."""
        return replace(self, sheet=sheet.without_loose_marks(), draft=None, editing=None, aim=ScopeChoice())

    def with_steps(self, steps: tuple[Step, ...]) -> Sheet:
        """Return the sheet with other steps."""
        return self.sheet.model_copy(update={"steps": steps})


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class History:
    """Past and future documents, each with what was done, in the user's words; the gesture of the last deed, if any."""

    now: Document
    past: tuple[tuple[str, Document], ...] = ()
    future: tuple[tuple[str, Document], ...] = ()
    gesture: int | None = None

    def done(self, label: str, document: Document, *, gesture: int | None = None) -> History:
        """Return the history with `document` as its present.

        What is done in one gesture, a drag or the letters of one number, is one entry, named for how it ended.
        """
        if gesture is not None and gesture == self.gesture and self.past and not self.future:
            return replace(self, now=document, past=(*self.past[:-1], (label, self.past[-1][1])))
        return History(now=document, past=(*self.past, (label, self.now)), gesture=gesture)

    def told(self, change: Callable[[Document], Document]) -> History:
        """Return the history with every document changed alike: what holds whatever is undone."""
        return History(
            now=change(self.now),
            past=tuple((label, change(document)) for label, document in self.past),
            future=tuple((label, change(document)) for label, document in self.future),
        )

    def undone(self) -> History:
        """Return the history one entry back; itself when there is none."""
        if not self.past:
            return self
        label, before = self.past[-1]
        return History(now=before, past=self.past[:-1], future=((label, self.now), *self.future))

    def redone(self) -> History:
        """Return the history one entry on; itself when there is none."""
        if not self.future:
            return self
        label, after = self.future[0]
        return History(now=after, past=(*self.past, (label, self.now)), future=self.future[1:])


def default_delivery(paths: list[Path]) -> Path:
    """Return a folder to deliver into that lies apart from what was opened."""
    base = paths[0] if paths else Path.cwd()
    folder = base if base.is_dir() else base.parent
    return folder.resolve().parent / f"{folder.resolve().name}_delivery"
