"""From the habits and the session to the shelf: sheets that were kept, what each says, and what it means here."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from functools import lru_cache
from pathlib import Path

from oak_square.app.session.habits import Habits
from oak_square.app.session.state import State
from oak_square.core.errors import OakSquareError
from oak_square.core.words import counted, one_or_many, say
from oak_square.sheet.comparing import differences
from oak_square.sheet.model import Sheet
from oak_square.sheet.text import load_sheet
from oak_square.steps.step import Step

__all__ = ["Shelved", "meant", "shelved"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Shelved:
    """One sheet on the shelf.

    Attributes
    ----------
    path : Path
    name : str
        What it is called there; empty for one that was open lately.
    title : str
        Its own title, else its file's name.
    steps : tuple of str
    differs : tuple of str
        What differs from the sheet at hand, which comes first in each line.
    idle : tuple of str
        What of it matches nothing in the batch at hand.
    trouble : str
        Why it can't be read.
    """

    path: Path
    name: str
    title: str
    steps: tuple[str, ...] = ()
    differs: tuple[str, ...] = ()
    idle: tuple[str, ...] = ()
    trouble: str = ""


def shelved(session: State, habits: Habits) -> list[Shelved]:
    """Return what is on the shelf: sheets with a name, then those that were open lately."""
    named = [(name, Path(path)) for name, path in habits.shelf.items()]
    there = {path for _, path in named}
    return [
        _read_shelved(session, name, path)
        for name, path in [*named, *(("", p) for p in _list_lately_used(habits, there))]
    ]


def _list_lately_used(habits: Habits, but: set[Path]) -> Iterable[Path]:
    return (Path(p) for p in habits.sheets if Path(p) not in but)


def _read_shelved(session: State, name: str, path: Path) -> Shelved:
    title = path.name.removesuffix(".prepsheet.yaml")
    try:
        stat = path.stat()
        sheet = _load_once(path, stat.st_mtime_ns, stat.st_size)
    except (OakSquareError, OSError) as error:
        return Shelved(path=path, name=name, title=title, trouble=str(error).splitlines()[0])
    return Shelved(
        path=path,
        name=name,
        title=sheet.title or title,
        steps=tuple(step.title() for step in sheet.steps),
        differs=tuple(differences(session.document.sheet, sheet)),
        idle=tuple(_yield_idle_parts(session, sheet)),
    )


@lru_cache(maxsize=64)
def _load_once(path: Path, _changed_ns: int, _size: int) -> Sheet:
    """Return a sheet, read once for each time that its file was changed: the shelf is shown anew with every step."""
    return load_sheet(path)[0]


def _yield_idle_parts(session: State, sheet: Sheet) -> Iterable[str]:
    """Yield what of a sheet matches nothing here: of each step, its patterns on assets and on parts."""
    if not session.rows:
        return
    for k, step in enumerate(sheet.steps):
        if not step.paused:
            for words in _yield_unmet_patterns(session, step, sheet.steps[:k]):
                yield say("step {k}, {title}: {words}", k=k + 1, title=step.title(), words=words)


def _yield_unmet_patterns(session: State, step: Step, earlier: Sequence[Step]) -> Iterable[str]:
    """Yield which of a step's patterns match nothing in the batch."""
    files = list(session.rows)
    for key, globs in ((say("for", "assets"), step.for_ or ()), (say("but not"), step.skip)):
        for glob in globs:
            # A step tells by itself what a pattern covers: on the path, or on the name.
            probe = type(step).model_construct(do=step.do, for_=[glob], skip=[])
            if not any(probe.covers(f) for f in files):
                yield say("{key} {glob} matches no asset", key=key, glob=glob)
    if any(each.do == "split" and not each.paused for each in earlier):
        return  # pieces that are made on the way may have the name
    assets = [asset for f, asset in session.assets.items() if step.covers(f)]
    for glob in step.parts or ():
        probe = type(step).model_construct(do=step.do, parts=[glob])
        if not any(probe.chosen(asset) for asset in assets):
            yield say("parts {glob} match nothing", glob=glob)


def meant(session: State, step: Step, earlier: Sequence[Step]) -> tuple[str, list[str]]:
    """Return how many a step is for, in words, and which of its patterns match nothing."""
    assets = [asset for f, asset in session.assets.items() if step.covers(f)]
    words = one_or_many(
        len(session.assets), "for {own} of {count} asset", "for {own} of {count} assets", own=len(assets)
    )
    if step.parts is not None:
        nodes = sum(len(step.chosen(asset)) for asset in assets)
        words += f", {counted(nodes, 'part or group', 'parts and groups')}"
    return words, list(_yield_unmet_patterns(session, step, earlier))
