"""Which other assets a sheet's steps speak of: found by name."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from pathlib import PurePosixPath
from typing import Protocol

from oak_square.core.errors import BadReference, did_you_mean
from oak_square.core.scene import Asset
from oak_square.core.terms import term
from oak_square.core.words import say
from oak_square.sheet.model import Sheet
from oak_square.steps.step import Step

__all__ = ["Others", "asset_called", "go_together", "hanging_on", "members_of", "named_assets", "set_out_files"]


class Others(Protocol):
    """The rest of the batch, for steps that speak of another asset."""

    def file_of(self, name: str) -> str | None:
        """Return the path in the batch of the asset called `name`; None where none is called so."""

    def files(self) -> Sequence[str]:
        """Return the paths of all assets that steps may be for."""

    def received(self, file: str) -> Asset:
        """Return that asset as received.

        Raises
        ------
        DataTrouble
            If it can't be read.
        """


def asset_called(name: str, files: Sequence[str]) -> str:
    """Return the one of `files` whose path is `name`, or whose name without suffix is.

    Raises
    ------
    BadReference
        If there is none, or there are several of that name.
    """
    if name in files:
        return name
    found = [f for f in files if PurePosixPath(f).stem == name]
    if len(found) > 1:
        reason = say(
            "'{name}' is the name of {count} assets ({found}, {found_2}…): give its path",
            name=name,
            count=len(found),
            found=found[0],
            found_2=found[1],
        )
        raise BadReference(reason, count=len(found))
    if not found:
        known = [*files, *(PurePosixPath(f).stem for f in files)]
        raise BadReference(
            say(
                "there is no asset '{name}' in the batch{did_you_mean}",
                name=name,
                did_you_mean=did_you_mean(name, known),
            )
        )
    return found[0]


def named_assets(sheet: Sheet, files: Sequence[str]) -> dict[str, str]:
    """Return the file of each asset that a step names, or that a datum or berth hangs from.

    Raises
    ------
    BadReference
        If a name is no asset's, or several's; `step` says where, counting from 1.
    """
    found: dict[str, str] = {}
    for kind, frames in (("datum", sheet.datums), ("berth", sheet.berths)):
        for name, frame in frames.items():
            try:
                found |= {} if frame.of is None else {frame.of: asset_called(frame.of, files)}
            except BadReference as error:
                said = say("{kind} {name}: {error}", kind=term(kind), name=name, error=error)
                raise BadReference(said, count=error.count) from error
    for number, step in enumerate(sheet.steps, 1):
        for name in () if step.paused else sheet.assets_named(step):
            try:
                found[name] = asset_called(name, files)
            except BadReference as error:
                if step.may_mean_part(name) and error.count == 0:
                    continue  # a part of each asset, then
                raise BadReference(
                    say("step {number} ({do}): {error}", number=number, do=step.do, error=error), number
                ) from error
    return found


def members_of(step: Step, files: Iterable[str], names: Mapping[str, str]) -> tuple[str, ...]:
    """Return the files that a step moves together, in order of path: all that it is for but those that it names.

    Parameters
    ----------
    names : mapping of name to file
        The assets that steps name.
    """
    named = {names.get(name) for name in step.refers_to}
    return tuple(sorted(file for file in files if step.covers(file) and file not in named))


def go_together(sheet: Sheet, files: Sequence[str]) -> set[str]:
    """Return the files that some step moves together with others."""
    joint = [step for step in sheet.steps if step.moves_together and not step.paused]
    return {file for file in files if any(step.covers(file) for step in joint)}


def set_out_files(sheet: Sheet, files: Sequence[str]) -> dict[str, str]:
    """Return the file of each asset that the sheet's set-out names.

    Raises
    ------
    BadReference
        If a name is no asset's, or several's.
    """
    found = {}
    for name in sheet.set_out.at if sheet.set_out is not None else ():
        try:
            found[name] = asset_called(name, files)
        except BadReference as error:
            raise BadReference(say("set-out: {error}", error=error), count=error.count) from error
    return found


def hanging_on(changed: set[str], sheet: Sheet, files: Sequence[str], names: Mapping[str, str]) -> set[str]:
    """Return the files that come out otherwise where some have changed: those, and what hangs on them at any step.

    Parameters
    ----------
    changed : set of str
        Those that changed, came or went.
    files : sequence of str
        All there are, those that went among them.
    names : mapping of name to file
        The assets that steps name.
    """
    steps = [step for step in sheet.steps if not step.paused]
    # Which files each step is for, and which it hangs on: of several as one, all hang on all.
    within = [({f for f in files if step.covers(f)}, _list_held_against(sheet, step, files, names)) for step in steps]
    found, before = set(changed), -1
    while len(found) > before:
        before = len(found)
        for covered, against in within:
            if not found.isdisjoint(against):
                found |= covered
    return found


def _list_held_against(sheet: Sheet, step: Step, files: Sequence[str], names: Mapping[str, str]) -> set[str]:
    named = {names[name] for name in sheet.assets_named(step) if name in names}
    return named | set(members_of(step, files, names)) if step.moves_together else named
