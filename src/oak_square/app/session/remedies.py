"""From a finding to the draft step that settles it, for every asset that has it."""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping, Sequence

from oak_square.core.findings import Finding
from oak_square.core.frames import FRONT_OF
from oak_square.core.lengths import UNITS
from oak_square.steps import STEPS, Step, as_reads, globs_for

__all__ = ["BY_HAND", "can_settle", "remedy"]

_UNIT_OF = {metres: name for name, metres in UNITS.items()}


BY_HAND = {"size-out-of-book": ("size", "Say which unit each was made in, or type the extent it shall have")}
"""Findings that no one step settles for all: the stage where they are, and what to do there."""


def can_settle(code: str) -> bool:
    """Tell whether some step settles findings of `code`."""
    return code in {"unit-suspect", "up-suspect"} or code in _WORDS or code in BY_HAND


def remedy(code: str, found: Mapping[str, Sequence[Finding]], reads: Mapping[str, str] | None = None) -> Step | None:
    """Return the step that settles findings of `code`, or None where no step can.

    Parameters
    ----------
    code : str
    found : mapping of file to its findings of that code
    reads : mapping of file to str, optional
        Of a suspect unit or up axis, what is known to be the best of each file: a unit, or a signed axis. Where files
        differ, the step is for those of the most frequent one: the rest keep their finding, and get a step of their
        own.
    """
    files = list(found)
    if code in {"unit-suspect", "up-suspect"}:
        usual = {f: _UNIT_OF.get(each[0].measure or 0.0, "m") for f, each in found.items()}
        usual = usual if code == "unit-suspect" else dict.fromkeys(found, "+Z")
        best = {**usual, **{f: r for f, r in (reads or {}).items() if f in found}}
        wanted = Counter(best.values()).most_common(1)[0][0]
        scope = globs_for([f for f in files if best[f] == wanted])
        if code == "unit-suspect":
            return STEPS["unit"].model_validate({"reads": as_reads(wanted), "for": scope})
        return STEPS["turn"].model_validate({"up": wanted, "front": FRONT_OF[wanted], "for": scope})
    words = _WORDS.get(code)
    if words is None:
        return None
    return STEPS[str(words["do"])].model_validate({**words, "for": globs_for(files)})


_WORDS: dict[str, dict[str, object]] = {
    "unit-assumed": {"do": "unit", "reads": "m"},
    "pivot-outside": {"do": "pivot", "at": "base", "of": "parts"},
    "pivot-off-base": {"do": "pivot", "at": "base"},
    "off-origin": {"do": "pivot", "at": "base"},
    "far-from-origin": {"do": "pivot", "at": "base"},
    "off-ground": {"do": "place", "ground": True},
    "scale-unbaked": {"do": "bake", "what": ["scale"]},
    "scale-uneven": {"do": "bake", "what": ["scale"]},
    "mirrored": {"do": "bake", "what": ["scale"]},
    "sheared": {"do": "bake", "what": ["rotation", "scale"]},
    "rotation-unbaked": {"do": "bake", "what": ["rotation"]},
}
