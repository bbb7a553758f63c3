"""The register of formats: what each is called is known at once; how it is read is loaded when it is asked for."""

from __future__ import annotations

import sys
from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from importlib import import_module
from pathlib import Path
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from oak_square.formats.shared.model_file import Format

__all__ = ["FORMATS", "Entry", "enter", "entry_of", "format_of", "made"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Entry:
    """What there is to know of a format before it is needed.

    Attributes
    ----------
    key : str
        Its name in sheets, surveys and manifests.
    title : str
    suffixes : tuple of str
        With their dot, in small letters; the first is that of files made in it.
    is_made : bool
        Whether files of it are made from other formats.
    home : str
        The module that registers it.
    scenes : str
        The module that writes scenes in which delivered models stand; empty where it writes none.
    """

    key: str
    title: str
    suffixes: tuple[str, ...]
    is_made: bool = False
    home: str = ""
    scenes: str = ""


class _Register(Mapping[str, "Format"]):
    """Every format by its key; one that is asked for is loaded."""

    def __init__(self) -> None:
        self._entries: dict[str, Entry] = {}
        self._loaded: dict[str, Format] = {}

    def __getitem__(self, key: str) -> Format:
        entry = self._entries[key]
        if entry.home:
            # Also where it is loaded: another thread may be in the middle of that, and is waited for.
            import_module(entry.home)
        return self._loaded[key]

    def __iter__(self) -> Iterator[str]:
        return iter(self._entries)

    def __len__(self) -> int:
        return len(self._entries)

    def __contains__(self, key: object) -> bool:
        return key in self._entries

    def enter(self, entry: Entry) -> Entry:
        """Add what there is to know of a format, and return it.

        Raises
        ------
        RuntimeError
            If its key or a suffix is taken: a fault of ours.
        """
        taken = {s for e in self._entries.values() for s in e.suffixes}
        if entry.key in self._entries or taken & set(entry.suffixes):
            raise RuntimeError(f"two formats are called '{entry.key}' or share a suffix")
        self._entries[entry.key] = entry
        return entry

    def add(self, kind: Format) -> None:
        """Add a format that is loaded; one that was not entered is entered with it."""
        if self._entries.get(kind.entry.key) is not kind.entry:
            self.enter(kind.entry)
        self._loaded[kind.entry.key] = kind

    def remove(self, key: str) -> None:
        """Take a format out."""
        del self._entries[key]
        self._loaded.pop(key, None)

    def entry(self, key: str) -> Entry:
        """Return what there is to know of a format; it is not loaded for it."""
        return self._entries[key]

    def entries(self) -> tuple[Entry, ...]:
        """Return what there is to know of every format; none is loaded for it."""
        return tuple(self._entries.values())


FORMATS = _Register()
"""Every format there is; filled with their entries when the package is imported."""


def enter(package: str, key: str, title: str, *suffixes: str, is_made: bool = True, scenes: bool = False) -> Entry:
    """Enter a format, and return what there is to know of it.

    It is registered by the module `files` of its package, or by the module itself where that is all there is; its
    scenes, if any, are written by `set_out` of the package.
    """
    is_folder = hasattr(sys.modules[package], "__path__")
    home, stage = f"{package}.files" if is_folder else package, f"{package}.set_out" if scenes else ""
    return FORMATS.enter(Entry(key=key, title=title, suffixes=suffixes, is_made=is_made, home=home, scenes=stage))


def entry_of(path: Path) -> Entry | None:
    """Return what there is to know of the format whose suffix `path` has, or None; none is loaded for it."""
    suffix = path.suffix.lower()
    return next((e for e in FORMATS.entries() if suffix in e.suffixes), None)


def format_of(path: Path) -> Format | None:
    """Return the format whose suffix `path` has, or None."""
    entry = entry_of(path)
    return None if entry is None else FORMATS[entry.key]


def made() -> list[str]:
    """Return the keys of the formats that files are made in."""
    return [e.key for e in FORMATS.entries() if e.is_made]
