"""Patterns on files: which of a batch they name."""

from __future__ import annotations

import re
from collections.abc import Iterable
from fnmatch import translate
from functools import lru_cache
from pathlib import PurePosixPath

__all__ = ["names_file"]

_WILD = re.compile(r"[*?\[]")


def names_file(globs: Iterable[str], file: str) -> bool:
    """Tell whether some pattern names a file: by its path, its name, or its name without suffix, case included."""
    very, wild = _sort_patterns(tuple(globs))
    forms = _forms_of(file)
    return any(form in very or (wild is not None and wild.match(form) is not None) for form in forms)


@lru_cache(maxsize=256)
def _sort_patterns(globs: tuple[str, ...]) -> tuple[frozenset[str], re.Pattern[str] | None]:
    """Return the names that are meant to the letter, and one expression for all patterns with wildcards.

    A step for five hundred selected assets has as many names, and is held against each asset of the batch.
    """
    wild = [glob for glob in globs if _WILD.search(glob)]
    very = frozenset(globs) - set(wild)
    return very, re.compile("|".join(map(translate, wild))) if wild else None


@lru_cache(maxsize=65_536)
def _forms_of(file: str) -> tuple[str, str, str]:
    path = PurePosixPath(file)
    return file, path.name, path.stem
