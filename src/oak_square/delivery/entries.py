"""What a manifest says of each asset."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, fields, replace
from typing import Any

from oak_square.core.errors import one_line

__all__ = ["FileBeside", "ManifestEntry", "checked_entries"]


@dataclass(frozen=True, slots=True, kw_only=True)
class FileBeside:
    """A file that goes with a model: its path in the delivery, and its SHA-256."""

    path: str
    sha256: str


@dataclass(frozen=True, slots=True, kw_only=True)
class ManifestEntry:
    """What became of an asset, in the words of the manifest; its fields are those of the JSON, in that order."""

    source: str
    source_sha256: str | None = None
    output: str | None = None
    output_sha256: str | None = None
    companions: tuple[FileBeside, ...] = ()
    status: str
    reason: str | None = None
    size_before_m: Mapping[str, float] | None = None
    size_after_m: Mapping[str, float] | None = None
    deviation_m: float | None = None
    steps: tuple[Mapping[str, Any], ...] = ()
    warnings: tuple[str, ...] = ()

    @property
    def is_delivered(self) -> bool:
        """Whether there is a file of it."""
        return self.status in {"delivered", "unchanged"} and self.output is not None

    @property
    def brings(self) -> list[tuple[str, str]]:
        """Path and hash of each file that goes with it."""
        return [(c.path, c.sha256) for c in self.companions]

    def given_up(self, status: str, reason: str) -> ManifestEntry:
        """Return it without an output, and why; what the steps did and warned of stays."""
        return replace(
            self,
            status=status,
            reason=one_line(reason),
            output=None,
            output_sha256=None,
            companions=(),
            size_after_m=None,
            deviation_m=None,
        )

    def as_json(self) -> dict[str, Any]:
        """Return it as the manifest has it."""
        found = {f.name: getattr(self, f.name) for f in fields(self)}
        found["companions"] = [{"path": c.path, "sha256": c.sha256} for c in self.companions]
        found["steps"], found["warnings"] = [dict(step) for step in self.steps], list(self.warnings)
        return found

    @classmethod
    def of_json(cls, entry: Mapping[str, Any]) -> ManifestEntry:
        """Return what a manifest has of an asset.

        Raises
        ------
        KeyError, TypeError, ValueError
            If it is not what a manifest holds.
        """
        told = {f.name: entry[f.name] for f in fields(cls)}
        if not all(isinstance(told[k], list) for k in ("steps", "warnings", "companions")):
            raise TypeError
        told["companions"] = tuple(FileBeside(path=c["path"], sha256=c["sha256"]) for c in told["companions"])
        texts = [told[k] for k in _TEXTS] + [told[k] for k in _PERHAPS if told[k] is not None]
        texts += [text for c in told["companions"] for text in (c.path, c.sha256)]
        if not all(isinstance(text, str) for text in texts):
            raise TypeError
        if (told["output"] is None) != (told["output_sha256"] is None):
            raise ValueError
        told["steps"], told["warnings"] = tuple(told["steps"]), tuple(told["warnings"])
        return cls(**told)


_TEXTS = ("source", "status")
_PERHAPS = ("source_sha256", "output", "output_sha256", "reason")


def checked_entries(manifest: Any) -> list[ManifestEntry]:
    """Return a manifest's entries.

    Raises
    ------
    KeyError, TypeError, ValueError
        If they are not what a manifest holds.
    """
    if not isinstance(manifest["oak_square"], str) or not isinstance(manifest["sheet"]["sha256"], str):
        raise TypeError
    return [ManifestEntry.of_json(entry) for entry in manifest["assets"]]
