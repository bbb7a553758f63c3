"""The set-out: one scene in which delivered assets stand, on their berths and in rows."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping, Sequence
from pathlib import PurePosixPath
from typing import Annotated, Literal

import numpy as np
from numpy.typing import NDArray
from pydantic import AfterValidator, BaseModel, ConfigDict, Field, model_validator

from oak_square.core.boxes import asset_box
from oak_square.core.errors import BadLength
from oak_square.core.frames import translation
from oak_square.core.globs import names_file
from oak_square.core.lengths import parse_length
from oak_square.core.scene import Asset
from oak_square.core.setting_out import row_shifts
from oak_square.core.words import say
from oak_square.steps.setting import Length, Setting

__all__ = ["Row", "SetOut", "Stood", "berth_matrix"]

Array = NDArray[np.float64]
Stood = tuple[str, str | None, Array]
"""An asset's file, the berth that it stands at if it does, and its matrix, shape (4, 4), working frame, metres."""

_SUFFIXES = (".usda", ".usdc", ".glb")


def _is_gap(value: float | str) -> float | str:
    try:
        metres = parse_length(value, bare=1.0, module=1.0)
    except BadLength as error:
        raise ValueError(str(error)) from error
    if not metres >= 0:
        raise ValueError(say("a gap is no less than nothing, not {value}", value=value))
    return value


def _is_scene_file(value: str) -> str:
    path = PurePosixPath(value)
    if path.suffix.lower() not in _SUFFIXES:
        raise ValueError(
            say("'{value}' is no scene: its suffix is one of {_suffixes}", value=value, _suffixes=", ".join(_SUFFIXES))
        )
    if path.name != value or "\\" in value or not path.stem.strip(". ") or any(ord(c) < 32 for c in value):
        raise ValueError(say("'{value}' is no plain file name: it lies in the delivery's own folder", value=value))
    return value


class Row(BaseModel):
    """What stands side by side, or in a grid."""

    model_config = ConfigDict(extra="forbid", frozen=True, populate_by_name=True, defer_build=True)

    along: Literal["width", "depth"] = Field(
        "width", description=say("Which way a row goes: to the right, or to the front.")
    )
    gap: Annotated[Length, AfterValidator(_is_gap)] = Field(0, description=say("Between the boxes, and between rows."))
    columns: Annotated[int, Field(ge=1)] | None = Field(
        None, description=say("How many stand in a row; all if not given.")
    )
    for_: list[str] | None = Field(
        None,
        alias="for",
        title="for",
        description=say("Globs on path or name; all that stand at no berth if not given."),
    )

    def covers(self, file: str) -> bool:
        """Tell whether an asset stands in it."""
        return self.for_ is None or names_file(self.for_, file)


class SetOut(BaseModel):
    """One scene beside the delivered files, in which they stand."""

    model_config = ConfigDict(extra="forbid", frozen=True, defer_build=True)

    file: Annotated[str, AfterValidator(_is_scene_file)] = Field(description=say("Its name, usda, usdc or glb."))
    at: dict[str, str | Annotated[list[str], Field(min_length=1)]] = Field(
        default_factory=dict, description=say("Which asset stands at which berth, or berths.")
    )
    row: Row | None = Field(None, description=say("Which assets stand in rows."))

    @model_validator(mode="after")
    def _sets_something_out(self) -> SetOut:
        if not self.at and self.row is None:
            raise ValueError(say("a set-out needs 'at', 'row', or both: nothing would stand in it"))
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

    def stand(
        self, setting: Setting, assets: Mapping[str, Asset], at: Iterable[Stood], in_row: Iterable[str]
    ) -> list[Stood]:
        """Return where assets stand: at their berths, then in rows; those that `assets` does not have are left out.

        Parameters
        ----------
        setting : Setting
            Of the sheet: what its numbers mean.
        assets : mapping of file to Asset
        at : iterable of (file, berth, matrix)
            What stands at berths, by `berth_matrix`.
        in_row : iterable of files
        """
        found = [stood for stood in at if stood[0] in assets]
        files = [f for f in in_row if f in assets]
        if self.row is not None and files:
            boxes = np.array([_find_box_ends(assets[f]) for f in files])
            gap = setting.metres(self.row.gap)
            shifts = row_shifts(boxes, gap=gap, columns=self.row.columns, along=self.row.along)
            found += [(f, None, translation(s)) for f, s in zip(files, shifts, strict=True)]
        return found


def berth_matrix(setting: Setting, berth: str, asset: Asset) -> Array:
    """Return where an asset as it stands at the end is set out at a berth: its world matrix, shape (4, 4).

    Raises
    ------
    DataTrouble
        If the berth hangs from what is not there, or is at a mark that is not found.
    """
    frame = setting.berth(berth, asset).copy()
    # Its axes are the delivery's, turned: as the asset sees them, it is turned by so much.
    frame[:3, :3] = frame[:3, :3] @ setting.working_from_delivery.T
    return frame


def _find_box_ends(asset: Asset) -> Array:
    box = asset_box(asset)
    return np.zeros((2, 3)) if box is None else np.array([box.low, box.high])
