"""What comes out of a process for one asset, and who wants which file of the delivery."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, field

from oak_square.core.errors import Failed
from oak_square.core.words import say
from oak_square.delivery.entries import ManifestEntry

__all__ = ["Clash", "Landed", "Staged", "Wants"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Staged:
    """An asset that is ready to be put in place.

    Attributes
    ----------
    entry : ManifestEntry
        Its entry in the manifest.
    names : tuple of (str, str)
        What lies in its stage: each file's name there, and the path in the delivery it is for, the model last.
    read : dict of str to str
        The SHA-256 of each further file the source was read from, by its path from the source's folder.
    brings : tuple of (str, str)
        In a dry run: the path in the delivery, and the SHA-256, of each file that would go with it.
    """

    entry: ManifestEntry
    names: tuple[tuple[str, str], ...] = ()
    read: dict[str, str] = field(default_factory=dict)
    brings: tuple[tuple[str, str], ...] = ()


@dataclass(frozen=True, slots=True, kw_only=True)
class Landed:
    """What an earlier run has recorded of an asset."""

    entry: ManifestEntry
    read: dict[str, str] | None


class Clash(Failed):
    """A file at `path` goes with an asset, and with another one, the `owner`, with other contents."""

    def __init__(self, path: str, owner: str) -> None:
        super().__init__(
            say(
                "'{path}' goes with it, and with '{owner}' with other contents: deliver them apart",
                path=path,
                owner=owner,
            )
        )


class Wants:
    """Which files assets want beside them, each with what contents: who comes first has its way."""

    def __init__(self) -> None:
        self._by_path: dict[str, tuple[str, str]] = {}

    def clash(self, source: str, brings: Iterable[tuple[str, str]]) -> Clash | None:
        """Return the first file, of paths and hashes, that another asset wants with other contents."""
        for path, digest in brings:
            known, owner = self._by_path.get(path.casefold(), (digest, source))
            if known != digest and owner != source:
                return Clash(path, owner)
        return None

    def claim(self, source: str, brings: Iterable[tuple[str, str]]) -> None:
        """Note what an asset wants."""
        for path, digest in brings:
            self._by_path.setdefault(path.casefold(), (digest, source))
