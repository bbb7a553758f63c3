"""The set-out: one scene in which delivered assets stand, on their berths and in rows."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from fnmatch import fnmatchcase
from pathlib import PurePosixPath
from typing import Annotated, Literal

from pydantic import AfterValidator, BaseModel, ConfigDict, Field, model_validator

from oak_square.core.errors import BadLength
from oak_square.core.lengths import parse_length
from oak_square.steps import Length

__all__ = ["Row", "SetOut"]

_SUFFIXES = (".usda", ".usdc", ".glb")


def _is_gap(value: float | str) -> float | str:
    try:
        metres = parse_length(value, bare=1.0, module=1.0)
    except BadLength as error:
        raise ValueError(str(error)) from error
    if not metres >= 0:
        raise ValueError(f"a gap is no less than nothing, not {value}")
    return value


def _is_scene_file(value: str) -> str:
    path = PurePosixPath(value)
    if path.suffix.lower() not in _SUFFIXES:
        raise ValueError(f"'{value}' is no scene: its suffix is one of {', '.join(_SUFFIXES)}")
    if path.name != value or "\\" in value or not path.stem.strip(". ") or any(ord(c) < 32 for c in value):
        raise ValueError(f"'{value}' is no plain file name: it lies in the delivery's own folder")
    return value


class Row(BaseModel):
    """What stands side by side, or in a grid."""

    model_config = ConfigDict(extra="forbid", frozen=True, populate_by_name=True)

    along: Literal["width", "depth"] = Field(
        "width", description="Which way a row goes: to the right, or to the front."
    )
    gap: Annotated[Length, AfterValidator(_is_gap)] = Field(0, description="Between the boxes, and between rows.")
    columns: Annotated[int, Field(ge=1)] | None = Field(None, description="How many stand in a row; all if not given.")
    for_: list[str] | None = Field(
        None, alias="for", title="for", description="Globs on path or name; all that stand at no berth if not given."
    )

    def covers(self, file: str) -> bool:
        """Tell whether an asset stands in it."""
        path = PurePosixPath(file)
        return self.for_ is None or any(fnmatchcase(t, g) for g in self.for_ for t in (file, path.name, path.stem))


class SetOut(BaseModel):
    """One scene beside the delivered files, in which they stand."""

    model_config = ConfigDict(extra="forbid", frozen=True)

    file: Annotated[str, AfterValidator(_is_scene_file)] = Field(description="Its name, usda, usdc or glb.")
    at: dict[str, str | Annotated[list[str], Field(min_length=1)]] = Field(
        default_factory=dict, description="Which asset stands at which berth, or berths."
    )
    row: Row | None = Field(None, description="Which assets stand in rows.")

    @model_validator(mode="after")
    def _sets_something_out(self) -> SetOut:
        if not self.at and self.row is None:
            raise ValueError("a set-out needs 'at', 'row', or both: nothing would stand in it")
        return self

    @property
    def references(self) -> bool:
        """Whether the scene refers to the delivered files, rather than hold copies."""
        return not self.file.lower().endswith(".glb")

    def berths(self) -> Iterator[tuple[str, str]]:
        """Yield each asset's name with each berth that it stands at, in the sheet's order."""
        for name, berths in self.at.items():
            for berth in [berths] if isinstance(berths, str) else berths:
                yield name, berth

    def in_row(self, files: Sequence[str], at_berths: Mapping[str, str]) -> list[str]:
        """Return the assets that stand in rows, in order of their paths; `at_berths` are names and files of others."""
        placed = set(at_berths.values())
        return sorted(f for f in files if self.row is not None and f not in placed and self.row.covers(f))
