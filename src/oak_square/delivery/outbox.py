"""The folder that a delivery lands in: locked while it is filled, nothing in it half, and a journal of what has landed.

What is under way lies in a folder of its own inside it (`WORKSHOP`), so that putting it in place is a rename. All names
are put in place by one process, which sees when two assets want one name for different things.
"""

from __future__ import annotations

import contextlib
import errno
import fcntl
import filecmp
import hashlib
import json
import os
import stat
from collections.abc import Callable, Iterable
from pathlib import Path
from typing import IO, Any

from oak_square.core.errors import BadUsage, Failed, one_line
from oak_square.core.words import in_english, say
from oak_square.delivery.batch import WORKSHOP, find_sources
from oak_square.delivery.documents import json_text
from oak_square.delivery.entries import ManifestEntry, checked_entries
from oak_square.delivery.files import (
    copy_file,
    holds,
    read_plain,
    sha256_of,
    sweep_parts,
    sync_folder,
    take_away,
    write_whole,
)
from oak_square.delivery.staged import Landed, Staged, Wants

__all__ = ["MANIFEST", "TAKEN_AWAY", "Outbox", "check_free"]

MANIFEST = "delivery.json"
TAKEN_AWAY = say("the folder was taken away while it was filled")
_JOURNAL, _LOCK, _READ, _STAGE = "journal.jsonl", "lock", "read.json", "stage-"


def check_free(path: str, digest: str, out: Path) -> None:
    """Make sure that a file that goes with a model overwrites nothing else.

    Raises
    ------
    Failed
        If one with other contents is there.
    """
    if (out / path).exists() and sha256_of(out / path) != digest:
        raise Failed(say("'{path}' is there already with other contents, and goes with this model", path=path))


class Outbox:
    """Opens, fills and closes a delivery folder.

    Raises
    ------
    BadUsage
        If it can't be made, or another run is filling it.
    """

    def __init__(self, out: Path, *, replace: bool, models: Iterable[str]) -> None:
        self.out, self.replace = out, replace
        self._models = frozenset(models)
        self._shop = out / WORKSHOP
        self._wants = Wants()
        self._read: dict[str, dict[str, str]] = {}
        self._known_owners: dict[str, set[str]] | None = None
        try:
            self._shop.mkdir(parents=True, exist_ok=True)
            if self._shop.is_symlink():
                raise OSError(errno.ELOOP, say("'{name}' in it is a link", name=WORKSHOP))
            self._lock = _opened_lock(self._shop / _LOCK)
        except OSError as error:
            raise BadUsage(
                say("{out}: can't be delivered into: {strerror}", out=one_line(str(out)), strerror=error.strerror)
            ) from error
        try:
            fcntl.flock(self._lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except OSError as error:
            self._lock.close()
            raise BadUsage(say("{out}: another run is delivering into it", out=one_line(str(out)))) from error
        self._clear_stages()

    def _clear_stages(self) -> None:
        for left in self._shop.glob(f"{_STAGE}*"):
            take_away(left)
        for own in (self.out / MANIFEST, self._shop / _JOURNAL, self._shop / _READ):
            sweep_parts(own)

    def close(self) -> None:
        """Let others in; what is under way goes."""
        if self._is_there():  # else it may be another run's by now
            self._clear_stages()
            (self._shop / _LOCK).unlink(missing_ok=True)
        self._lock.close()
        # What further files sources were read from is kept for `--resume`; where there were none, nothing stays.
        with contextlib.suppress(OSError):
            self._shop.rmdir()

    def _is_there(self) -> bool:
        with contextlib.suppress(OSError):
            return os.path.samestat(os.fstat(self._lock.fileno()), (self._shop / _LOCK).lstat())
        return False

    def check_there(self) -> None:
        """Make sure that this is still the folder that was opened, with all that has landed in it.

        Raises
        ------
        FileNotFoundError
            If it was taken away.
        """
        if not self._is_there():
            raise FileNotFoundError(errno.ENOENT, TAKEN_AWAY)

    def stage(self, number: int) -> Path:
        """Return the folder that the work on an asset lies in; whoever does it makes it."""
        return self._shop / f"{_STAGE}{number}"

    def clear(self, number: int) -> None:
        """Take away what is left of the work on an asset."""
        take_away(self.stage(number))

    def begin_journal(self, version: str, sheet: str, kept: Iterable[Landed]) -> None:
        """Start the journal of a run with what an earlier one has left that stands."""
        lines = [json.dumps({"oak_square": version, "sheet": sheet})]
        for landed in kept:
            self._note_landed(landed.entry, landed.read or {})
            lines.append(_make_line_of(landed.entry, landed.read or {}))
        write_whole(self._shop / _JOURNAL, "".join(f"{line}\n" for line in lines).encode())

    def _note_landed(self, entry: ManifestEntry, read: dict[str, str]) -> None:
        self._read[entry.source] = read
        self._wants.claim(entry.source, entry.brings)

    def reclaim(self, entries: Iterable[ManifestEntry]) -> None:
        """Let only these entries, of what has landed, say which files they need."""
        self._wants = Wants()
        for entry in entries:
            self._note_landed(entry, self._read.get(entry.source, {}))

    def land(self, staged: Staged, number: int) -> None:
        """Put an asset in place, the model last, and write it down; a model with all that goes with it, or nothing.

        Raises
        ------
        Clash
            If another asset needs a file with other contents.
        Failed
            If a file it needs is there with other contents.
        OSError
            If it can't be written, or the folder was taken away.
        """
        self.check_there()
        if staged.entry.output is not None:
            digests = dict(staged.entry.brings)
            for path, digest in digests.items():
                self._check_path(path, digest, staged.entry.source)
            due = [(name, path) for name, path in staged.names if path not in digests or path not in self._models]
            self._put_in_place(self.stage(number), due)
        self._note_landed(staged.entry, staged.read)
        with (self._shop / _JOURNAL).open("a", encoding="utf-8") as journal:
            journal.write(_make_line_of(staged.entry, staged.read) + "\n")

    def _check_path(self, path: str, digest: str, source: str) -> None:
        if path.casefold() == MANIFEST or path.split("/")[0] == WORKSHOP:
            raise Failed(say("it is made of a file called '{path}', which the delivery needs for itself", path=path))
        clash = self._wants.clash(source, [(path, digest)])
        if clash is not None:
            raise clash
        target = self.out / path
        if not Path(os.path.realpath(target.parent)).is_relative_to(os.path.realpath(self.out)):
            raise Failed(say("'{path}' goes with it, and its folder leads out of the delivery", path=path))
        if path not in self._models:
            if not self.replace:
                check_free(path, digest, self.out)
            self._check_standing(path, digest)

    def _check_standing(self, path: str, digest: str) -> None:
        """Make sure that what a file takes the place of belongs to no model that stays, of an earlier delivery."""
        if not (self.out / path).exists() or sha256_of(self.out / path) == digest:
            return
        owners = self._find_owners().get(path.casefold())
        staying = [o for o in owners or () if o not in self._models and (self.out / o).is_file()]
        if owners is None:
            there = (s.path.relative_to(self.out).as_posix() for s in find_sources([self.out]))
            staying = [name for name in there if name not in self._models]
        if staying:
            raise Failed(
                say(
                    "'{path}' goes with it, and lies here with other contents for '{owner}', which stays: "
                    "deliver them apart",
                    path=path,
                    owner=staying[0],
                )
            )

    def _find_owners(self) -> dict[str, set[str]]:
        """Return the models that each file beside one was delivered for, by its path in small letters."""
        if self._known_owners is None:
            self._known_owners = {}
            with contextlib.suppress(OSError, ValueError, KeyError, TypeError, RecursionError):
                for entry in checked_entries(json.loads(read_plain(self.out / MANIFEST))):
                    for path, _ in entry.brings:
                        self._known_owners.setdefault(path.casefold(), set()).add(entry.output or "")
        return self._known_owners

    def _put_in_place(self, stage: Path, due: list[tuple[str, str]]) -> None:
        """Rename files into place; when one can't be, those before it are put back as they were."""
        done: list[tuple[Path, Path | None]] = []
        try:
            for k, (name, path) in enumerate(due):
                target = self.out / path
                target.parent.mkdir(parents=True, exist_ok=True)
                aside = None
                if os.path.lexists(target) and not target.is_dir():
                    aside = stage / f".was-{k}"
                    target.replace(aside)
                done.append((target, aside))
                (stage / name).replace(target)
            for folder in {(self.out / path).parent for _, path in due}:
                sync_folder(folder)
        except OSError:
            for target, aside in reversed(done):
                if aside is not None:
                    aside.replace(target)
                elif not target.is_dir():
                    target.unlink(missing_ok=True)
            raise

    def copy(self, source: Path, path: str) -> None:
        """Put a copy of a file in place."""
        aside = self._shop / f"{_STAGE}copy" / "file"
        copy_file(source, aside)
        aside.replace(self.out / path)

    def put(self, path: str, write: Callable[[Path], None]) -> None:
        """Put a file in place that is no asset's: whole, or not at all; one that is there as it should be stays."""
        aside = self._shop / f"{_STAGE}aside" / path
        aside.parent.mkdir(parents=True, exist_ok=True)
        write(aside)
        target = self.out / path
        if target.is_file() and filecmp.cmp(aside, target, shallow=False):
            return
        aside.replace(target)
        sync_folder(self.out)

    def take_back(self, path: str) -> None:
        """Take a delivered file away again."""
        (self.out / path).unlink(missing_ok=True)

    def fold(self, manifest: dict[str, Any]) -> None:
        """Write the manifest, which says all that the journal did; the journal goes.

        Raises
        ------
        OSError
            If it can't be written; the journal then stays. If the folder was taken away.
        """
        self.check_there()
        text = json_text(manifest).encode()
        if not holds(self.out / MANIFEST, text):
            write_whole(self.out / MANIFEST, text)
        there = {e["source"] for e in manifest["assets"] if e["output"] is not None}
        read = {source: files for source, files in sorted(self._read.items()) if source in there and files}
        if read:
            note = {"manifest": _hash_text(text), "read": read}
            write_whole(self._shop / _READ, json_text(note).encode())
        else:
            (self._shop / _READ).unlink(missing_ok=True)
        (self._shop / _JOURNAL).unlink(missing_ok=True)

    def earlier(self, version: str, sheet: str) -> tuple[dict[str, Landed], str]:
        """Return what earlier runs of this version and sheet have recorded, by source; and what is odd about it."""
        found: dict[str, Landed] = {}
        odd = self._from_manifest(found, version, sheet)
        self._from_journal(found, version, sheet)
        return found, odd

    def noted(self, version: str, sheet: str) -> dict[str, Landed]:
        """Return what the journal of the present run tells of, by source."""
        found: dict[str, Landed] = {}
        self._from_journal(found, version, sheet)
        return found

    def _from_manifest(self, found: dict[str, Landed], version: str, sheet: str) -> str:
        path = self.out / MANIFEST
        try:
            text = read_plain(path)
        except FileNotFoundError:
            return ""
        except OSError as error:
            return say(
                "{manifest} can't be read ({strerror}): all is done anew", manifest=MANIFEST, strerror=error.strerror
            )
        try:
            manifest = json.loads(text)
            entries = checked_entries(manifest)
        except (ValueError, KeyError, TypeError, RecursionError):
            return say("{manifest} is no delivery manifest, or damaged: all is done anew", manifest=MANIFEST)
        note: dict[str, Any] = {}
        try:
            note = json.loads(read_plain(self._shop / _READ))
            changed = note["manifest"] != _hash_text(text)
        except (OSError, ValueError, KeyError, TypeError):
            changed, note = False, {}
        if changed:
            return say("{manifest} was changed since it was written: all is done anew", manifest=MANIFEST)
        if (manifest["oak_square"], manifest["sheet"]["sha256"]) == (version, sheet):
            read = note.get("read", {}) if note else None
            for entry in entries:
                source = entry.source
                found[source] = Landed(entry=entry, read=None if read is None else read.get(source, {}))
        return ""

    def _from_journal(self, found: dict[str, Landed], version: str, sheet: str) -> None:
        try:
            lines = read_plain(self._shop / _JOURNAL).decode("utf-8").splitlines()
            if json.loads(lines[0]) != {"oak_square": version, "sheet": sheet}:
                return
        except (OSError, ValueError, IndexError):
            return
        for line in lines[1:]:
            try:
                row = json.loads(line)
                (entry,) = checked_entries({"oak_square": "", "sheet": {"sha256": ""}, "assets": [row["entry"]]})
                found[entry.source] = Landed(entry=entry, read=dict(row["read"]))
            except (ValueError, KeyError, TypeError):
                continue  # the last line, cut short


def _opened_lock(path: Path) -> IO[bytes]:
    """Return the lock's file, opened as it is: a link is not followed, and nothing in it is changed.

    Raises
    ------
    OSError
        If it is a link, or something else than a file.
    """
    if path.is_symlink():
        raise OSError(errno.ELOOP, say("'{name}' in it is a link", name=f"{WORKSHOP}/{path.name}"))
    handle = os.open(path, os.O_RDWR | os.O_CREAT | os.O_NOFOLLOW | os.O_NONBLOCK, 0o666)
    if not stat.S_ISREG(os.fstat(handle).st_mode):
        os.close(handle)
        raise OSError(errno.EINVAL, say("'{name}' in it is no plain file", name=path.name))
    return os.fdopen(handle, "r+b")


def _make_line_of(entry: ManifestEntry, read: dict[str, str]) -> str:
    return json.dumps({"entry": in_english(entry.as_json()), "read": read})


def _hash_text(text: bytes) -> str:
    return hashlib.sha256(text).hexdigest()
