"""Everything that can go wrong, told apart by whose move it is.

OakSquareError
├── DataTrouble         the user's data
│   ├── BadFile         a file that can't be read or written as what it claims to be
│   ├── BadArray        numbers of the wrong shape, or not finite
│   ├── Refused         a step that can't be done exactly to this asset
│   └── Failed          a check that does not hold, or something named that isn't there
└── ChoiceTrouble       the user's choice
    ├── BadLength       text that is no length
    ├── BadSheet        a prep sheet that says something impossible
    ├── BadBook         a size book that says something impossible
    ├── BadReference    a step that names an asset the batch has not, or that hangs on itself
    └── BadUsage        a command that can't be carried out as asked
        └── Occupied    a place to deliver into where something stands already
"""

from __future__ import annotations

from difflib import get_close_matches
from typing import TYPE_CHECKING

from oak_square.core.words import say

if TYPE_CHECKING:
    from collections.abc import Iterable

__all__ = [
    "BadArray",
    "BadBook",
    "BadFile",
    "BadLength",
    "BadReference",
    "BadSheet",
    "BadUsage",
    "ChoiceTrouble",
    "DataTrouble",
    "Failed",
    "OakSquareError",
    "Occupied",
    "Refused",
    "did_you_mean",
    "fault_words",
    "one_line",
    "os_words",
]


def one_line(text: str) -> str:
    """Return `text` with control characters shown escaped, so that it stays on one line."""
    if text.isprintable():
        return text  # what it was made of is then still known
    return "".join(c if c.isprintable() else c.encode("unicode_escape").decode() for c in text)


def did_you_mean(word: str, known: Iterable[str]) -> str:
    """Return `; did you mean 'x'?` for the nearest of `known`, or nothing when none is near."""
    near = get_close_matches(word, list(known), n=1, cutoff=0.6)
    return say("; did you mean '{near}'?", near=near[0]) if near else ""


class OakSquareError(Exception):
    """Anything the product says to its user in place of doing what was asked.

    `options` says how options of the command get round it; it follows the text where a command is at hand.
    """

    options = ""


class DataTrouble(OakSquareError):
    """The user's data can't be used as asked."""


class BadFile(DataTrouble):
    """A file that can't be read or written; `file` is shown before `reason`."""

    def __init__(self, file: str, reason: str) -> None:
        super().__init__(one_line(say("{file}: {reason}", file=file, reason=reason)))
        self.file = file
        self.reason = reason

    def __reduce__(self) -> tuple[type, tuple[str, str]]:
        return (type(self), (self.file, self.reason))


class BadArray(DataTrouble):
    """Numbers of the wrong shape, or not finite."""


class Refused(DataTrouble):
    """A step can't be done exactly to this asset; the text is the reason."""


class Failed(DataTrouble):
    """Something this asset must have, or a check it must meet, is missing."""


class ChoiceTrouble(OakSquareError):
    """The user asked for something that can't be meant."""


class BadLength(ChoiceTrouble):
    """Text that is no length."""


class _BadLine(ChoiceTrouble):
    """A file of the user's choices that says something impossible, with the line it says it on."""

    def __init__(self, file: str, line: int | None, reason: str) -> None:
        place = say("{file}, line {line}", file=file, line=line) if line is not None else file
        super().__init__(one_line(say("{place}: {reason}", place=place, reason=reason)))
        self.file = file
        self.line = line
        self.reason = reason

    def __reduce__(self) -> tuple[type, tuple[str, int | None, str]]:
        return (type(self), (self.file, self.line, self.reason))


class BadSheet(_BadLine):
    """A prep sheet that says something impossible, with the line it says it on."""


class BadBook(_BadLine):
    """A size book that says something impossible, with the line it says it on."""


class BadReference(ChoiceTrouble):
    """A step that names an asset the batch has not, or that hangs on itself.

    `step` counts from 1; `count` is how many assets have the name.
    """

    def __init__(self, reason: str, step: int | None = None, *, count: int = 0) -> None:
        super().__init__(one_line(reason))
        self.step = step
        self.count = count


class BadUsage(ChoiceTrouble):
    """A command that can't be carried out as asked; nothing was written."""


class Occupied(BadUsage):
    """A place to deliver into where something stands already."""

    options = say("; give --replace or --resume, or another folder")


def fault_words(error: BaseException) -> str:
    """Return what is said of a fault of ours that has cost one asset."""
    return say("a fault of ours: {error}; please report it", error=repr(error))


def os_words(error: OSError) -> str:
    """Return what the system refuses, in words, with the file it is about."""
    why = error.strerror or str(error)
    return one_line(say("{filename}: {why}", filename=error.filename, why=why) if error.filename else why)
