"""How things are taken hold of: along which axes and about what, chosen once for all instruments, as steps say it."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Any

__all__ = ["ABOUT_SEVERAL", "Grip", "about_words", "axes_words", "renamed_grip"]

ABOUT_SEVERAL = ("mean", "common")


@dataclass(frozen=True, slots=True, kw_only=True)
class Grip:
    """What instruments go along and about.

    Attributes
    ----------
    along : str
        `world`, `own`, `parent`, `view`, or `datum NAME`.
    about : str
        `each` (each one's own pivot; of a size, an asset's base), `mean`, `common`, `lead`, `origin`, `base`, `middle`,
        `part NAME`, `datum NAME`, `mark NAME`, or `xyz` and three numbers of the sheet; `point` and a box point. Behind
        a part, a mark and a point stands, after a line break, the file that it was picked on.
    pivots : bool
        Pivots alone are moved and turned; geometry stays.
    hold_datum : str
        The datum that is moved and turned by itself, in place of what is selected; empty where none is.
    last_datum : str
        The datum that was used last; one key takes it up and puts it aside.
    aside : (str, str)
        What held, along and about, before a datum was taken up.
    take : mapping or None
        Which vertices of what is selected are taken hold of in Bake, as a `shape` says it; None for things as wholes.
    """

    along: str = "world"
    about: str = "each"
    pivots: bool = False
    hold_datum: str = ""
    last_datum: str = ""
    aside: tuple[str, str] = ("world", "each")
    take: Mapping[str, Any] | None = None

    @property
    def datum(self) -> str:
        """The datum in use; empty where there is none."""
        return self.along.removeprefix("datum ") if self.along.startswith("datum ") else ""


def renamed_grip(grip: Grip, kind: str, old: str, new: str) -> Grip:
    """Return a grip that speaks of a mark or a datum by another name."""

    def told(word: str) -> str:
        thing, line, file = word.partition("\n")
        return f"{kind} {new}{line}{file}" if thing == f"{kind} {old}" else word

    along, about = grip.aside
    again = replace(grip, along=told(grip.along), about=told(grip.about), aside=(told(along), told(about)))
    if kind != "datum":
        return again
    last, held = (new if name == old else name for name in (grip.last_datum, grip.hold_datum))
    return replace(again, last_datum=last, hold_datum=held)


def axes_words(grip: Grip) -> dict[str, Any]:
    """Return the axes as a step says them; those of the view are the world's turned, and no step knows them."""
    if grip.along in ("own", "parent"):
        return {"along": grip.along}
    return {"along": {"datum": grip.datum}} if grip.datum else {}


def about_words(grip: Grip, *, lead: str, several: bool, elsewhere: Mapping[str, str] | None = None) -> dict[str, Any]:
    """Return the centre as a step says it.

    Parameters
    ----------
    lead : str
        The name of the part picked last; empty where assets are taken as a whole.
    several : bool
        The step is for named parts, or for assets as one: these have a mean and a common middle.
    elsewhere : mapping of file to name, optional
        How a step calls each asset but those that it is for.
    """
    kind, _, rest = grip.about.partition(" ")
    name, _, file = rest.partition("\n")
    of = {"of": elsewhere[file]} if elsewhere is not None and file in elsewhere else {}
    told: Mapping[str, Any] = {
        "origin": "origin", "base": "base", "middle": "middle", "part": {"part": name, **of}, "datum": {"datum": name},
        "mark": {"mark": name, **of},
    }  # fmt: skip
    if kind == "point":
        return {"about": {"point": [_side_or_fraction(v) for v in name.split()], **of}}
    if kind in told:
        return {"about": told[kind]}
    if kind == "xyz":
        return {"about": {"xyz": [float(v) for v in name.split()]}}
    if kind == "lead" and lead:
        return {"about": {"part": lead}}
    return {"about": kind} if kind in ABOUT_SEVERAL and several else {}


def _side_or_fraction(word: str) -> str | float:
    try:
        return float(word)
    except ValueError:
        return word
