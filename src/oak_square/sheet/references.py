"""Which other assets a sheet's steps speak of: found by name."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import PurePosixPath
from typing import Protocol

from oak_square.core.errors import BadReference, did_you_mean
from oak_square.core.scene import Asset
from oak_square.core.words import say
from oak_square.sheet.model import Sheet

__all__ = ["Others", "asset_called", "named_assets", "referred_to", "set_out_files"]


class Others(Protocol):
    """The rest of the batch, for steps that speak of another asset."""

    def file_of(self, name: str) -> str | None:
        """Return the path in the batch of the asset called `name`; None where none is called so."""

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
    """Return the file of each asset that a step names.

    Raises
    ------
    BadReference
        If a name is no asset's, or several's; `step` says where, counting from 1.
    """
    found = {}
    for number, step in enumerate(sheet.steps, 1):
        name = None if step.paused else step.refers_to
        if name is not None:
            try:
                found[name] = asset_called(name, files)
            except BadReference as error:
                if step.may_mean_part and error.count == 0:
                    continue  # a part of each asset, then
                raise BadReference(
                    say("step {number} ({do}): {error}", number=number, do=step.do, error=error), number
                ) from error
    return found


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


def referred_to(sheet: Sheet, file: str, names: dict[str, str]) -> dict[str, int]:
    """Return the assets that `file` is held against at any step, each with the first such step, counting from 1."""
    found: dict[str, int] = {}
    for number, step in enumerate(sheet.steps, 1):
        other = names.get(step.refers_to or "")
        if not step.paused and other is not None and step.covers(file) and other != file:
            found.setdefault(other, number)
    return found
