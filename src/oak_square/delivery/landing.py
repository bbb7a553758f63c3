"""Assets put in place as they are ready, with a result that does not hang on which were ready first."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping, Sequence
from pathlib import Path

from oak_square.core.errors import DataTrouble
from oak_square.core.words import say
from oak_square.delivery.batch import Source
from oak_square.delivery.entries import ManifestEntry
from oak_square.delivery.files import sha256_of
from oak_square.delivery.outbox import Outbox, check_free
from oak_square.delivery.staged import Clash, Staged, Wants

__all__ = ["Landing", "clashing"]


def clashing(ready: Iterable[Staged], out: Path, may_exist: bool) -> dict[str, str]:
    """Return why assets of a dry run would fail once they are to lie side by side in `out`, by source.

    They come in the order of the batch. Models that others are made of are left out: those are seen when they land.
    """
    wants, found = Wants(), dict[str, str]()
    for staged in ready:
        source = staged.entry.source
        try:
            if (clash := wants.clash(source, staged.brings)) is not None:
                raise clash
            for path, digest in () if may_exist else staged.brings:
                check_free(path, digest, out)
        except DataTrouble as error:
            found[source] = str(error)
        else:
            wants.claim(source, staged.brings)
    return found


class Landing:
    """Puts assets into an outbox; of those that can't lie side by side, the earlier in the batch is to stand.

    One that is ready while another stands in its way is held, in its stage, until it is known which all of them are.
    """

    def __init__(self, box: Outbox) -> None:
        self._box = box
        self._held: dict[str, tuple[Staged, int]] = {}

    def land(self, staged: Staged, number: int) -> ManifestEntry | None:
        """Return the entry of an asset that was put in place, or why it could not be; None where it is held."""
        try:
            self._box.land(staged, number)
        except Clash:
            self._held[staged.entry.source] = staged, number
            return None
        except (DataTrouble, OSError) as error:
            why = str(error)
            if isinstance(error, OSError):
                why = say(
                    "{strerror}: {filename}", strerror=error.strerror or error, filename=error.filename or self._box.out
                )
            return self._note_failed(staged, number, why)
        self._box.clear(number)
        return staged.entry

    def _note_failed(self, staged: Staged, number: int, why: str) -> ManifestEntry:
        failed = staged.entry.given_up("failed", why)
        self._box.land(Staged(entry=failed), number)
        self._box.clear(number)
        return failed

    def settle(self, entries: Mapping[str, ManifestEntry], order: Sequence[str]) -> Iterator[ManifestEntry]:
        """Let those stand that would, had they come in `order`, the batch's; yield what became of those it is about.

        `entries` are those that have landed, by source.
        """
        if not self._held:
            return
        stand = [e for f, e in entries.items() if f not in set(order)]  # of an earlier run, and not in this one
        wants, lost = Wants(), dict[str, str]()
        for entry in stand:
            wants.claim(entry.source, entry.brings)
        for file in (f for f in order if f in entries or f in self._held):
            entry = self._held[file][0].entry if file in self._held else entries[file]
            clash = wants.clash(file, entry.brings)
            if clash is not None:
                lost[file] = str(clash)
                continue
            stand.append(entry)
            wants.claim(file, entry.brings)
        self._box.reclaim([e for e in stand if e.source not in self._held])
        standing = {c.path for e in stand if e.source not in self._held for c in e.companions}
        for file in (f for f in order if f in lost and f not in self._held):
            yield self._taken_back(entries[file], standing, lost[file])
        for file in (f for f in order if f in self._held):
            staged, number = self._held[file]
            became = self._note_failed(staged, number, lost[file]) if file in lost else self.land(staged, number)
            if became is not None:
                yield became
        self._held.clear()

    def _taken_back(self, entry: ManifestEntry, standing: set[str], why: str) -> ManifestEntry:
        own = [] if entry.output is None else [entry.output]
        for path in (*own, *(c.path for c in entry.companions if c.path not in standing)):
            self._box.take_back(path)
        return self._note_failed(Staged(entry=entry), -1, why)

    def join(self, entries: Mapping[str, ManifestEntry], outputs: Mapping[str, Source]) -> dict[str, ManifestEntry]:
        """See to models that others are made of: what those need must be what was delivered, else they fail.

        Return the entries of all, by source.
        """
        found = dict(entries)
        by_output = {e.output: e.source for e in entries.values() if e.output is not None}
        for file, entry in entries.items():
            for companion in entry.companions:
                path = companion.path
                if path not in outputs or found[file].output is None or entry.output is None:
                    continue
                other = found[by_output[path]] if path in by_output else None
                if other is None and sha256_of(outputs[path].path) == companion.sha256:
                    self._box.copy(outputs[path].path, path)
                elif other is None or other.output_sha256 != companion.sha256:
                    self._box.take_back(entry.output)
                    why = say(
                        "it is made of '{path}', which is delivered changed, as a model of its own: leave that out",
                        path=path,
                    )
                    gone = ManifestEntry(source=file, status="failed", reason=why, source_sha256=entry.source_sha256)
                    found[file] = gone
        return found
