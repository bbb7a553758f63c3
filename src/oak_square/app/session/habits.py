"""What a person has settled about the window itself, kept between runs: keys, favourites, where things stand."""

from __future__ import annotations

import json
from collections.abc import Mapping
from typing import Literal

from pydantic import BaseModel, ConfigDict, Field, ValidationError

from oak_square.core.shown_units import ShownUnit

__all__ = ["MOST_RECENT", "TEXT_SIZES", "Arrangement", "Habits", "Snaps", "read_habits"]

TEXT_SIZES: tuple[Literal[100, 110, 125, 150], ...] = (100, 110, 125, 150)
"""How large text and controls may be, in percent."""

MOST_RECENT = 12
"""How many batches, and how many sheets, are remembered."""


class Arrangement(BaseModel):
    """Where things stand in the window: pixels at a scale of 1, a share of the column, and what is in front.

    Attributes
    ----------
    left, right : int
        How wide the side columns are.
    share : float
        How much of the left column the batch has, above the hierarchy.
    view : str
    sort, group : str
        How the batch is sorted and grouped.
    """

    model_config = ConfigDict(frozen=True, extra="ignore", defer_build=True)

    left: int = Field(262, ge=0, le=4000)
    right: int = Field(306, ge=0, le=4000)
    share: float = Field(0.63, ge=0.05, le=0.95)
    view: str = "bench"
    sort: str = "read"
    group: str = "none"


class Snaps(BaseModel):
    """What is picked and snapped to, and at which steps; as `HandSettings` has it. None of kinds: all."""

    model_config = ConfigDict(frozen=True, extra="ignore", defer_build=True)

    kinds: tuple[str, ...] | None = None
    angle_step_deg: float = Field(15.0, ge=0, le=180)
    to_grid: bool = False
    grid_m: float = Field(0.1, gt=0, allow_inf_nan=False)


class Habits(BaseModel):
    """One value; a new one takes its place when anything changes.

    Attributes
    ----------
    tray : tuple of str
        Favourites in their order, each by what the finder calls it.
    keys : mapping of str to tuple of str
        Keys that are other than at first, by action.
    arrangement : Arrangement
        How the window stood last.
    arrangements : mapping of str to Arrangement
        Those that have a name.
    size : (int, int) or None
        How large the window was.
    unit : ShownUnit
        What lengths are shown in.
    snaps : Snaps
    batches : tuple of tuple of str
        The paths of each batch that was opened, the last one first.
    sheets : tuple of str
        The sheets that were opened or saved, the last one first.
    shelf : mapping of str to str
        Sheets that have a name, and where they lie.
    tone : str
        Which set of colours: `light`, `dark`, or `desktop` for the one that the desktop asks for.
    text : int
        How large text and controls are, in percent.
    language : str
        Which the window speaks from the next start on; `desktop` for the one that the desktop speaks.
    still : bool
        Nothing blinks or sweeps by itself.
    folders : mapping of str to str
        Where a dialog was left last, by what is looked for: `models`, `sheets`.
    deliveries : mapping of str to str
        The folder that a batch was delivered into last, by the first of its paths, the last one first.
    """

    model_config = ConfigDict(frozen=True, extra="ignore")

    version: int = 1
    tray: tuple[str, ...] = ()
    keys: Mapping[str, tuple[str, ...]] = Field(default_factory=dict)
    arrangement: Arrangement = Arrangement()
    arrangements: Mapping[str, Arrangement] = Field(default_factory=dict)
    size: tuple[int, int] | None = None
    unit: ShownUnit = ShownUnit()
    snaps: Snaps = Snaps()
    batches: tuple[tuple[str, ...], ...] = ()
    sheets: tuple[str, ...] = ()
    shelf: Mapping[str, str] = Field(default_factory=dict)
    tone: Literal["light", "dark", "desktop"] = "light"
    text: Literal[100, 110, 125, 150] = 100
    language: Literal["desktop", "en", "de"] = "desktop"
    still: bool = False
    folders: Mapping[str, str] = Field(default_factory=dict)
    deliveries: Mapping[str, str] = Field(default_factory=dict)


def read_habits(text: bytes) -> Habits:
    """Return what a file of habits says; what can't be read in it is as it was at first, the rest holds."""
    try:
        words = json.loads(text)
    except (ValueError, RecursionError):
        return Habits()
    if not isinstance(words, dict):
        return Habits()
    while True:
        try:
            return Habits.model_validate(words)
        except (RecursionError, OverflowError):
            return Habits()
        except ValidationError as error:
            wrong = {str(each["loc"][0]) for each in error.errors() if each["loc"]}
            kept = {key: value for key, value in words.items() if key not in wrong}
            if len(kept) == len(words):
                return Habits()
            words = kept
