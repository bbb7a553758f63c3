"""From a finding to the draft step that settles it, for every asset that has it."""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping, Sequence
from pathlib import PurePosixPath

from oak_square.core.findings.finding import KINDS, Finding
from oak_square.core.lengths import UNITS
from oak_square.steps.naming import as_reads, globs_for
from oak_square.steps.step import STEPS, Step

__all__ = ["can_settle", "remedy"]

_UNIT_OF = {metres: name for name, metres in UNITS.items()}


def can_settle(code: str) -> bool:
    """Tell whether some step settles findings of `code`."""
    kind = KINDS[code]
    return kind.remedy is not None or kind.asks is not None or bool(kind.by_hand)


def remedy(code: str, found: Mapping[str, Sequence[Finding]], reads: Mapping[str, str] | None = None) -> Step | None:
    """Return the step that settles findings of `code`, or None where no step can.

    Parameters
    ----------
    code : str
    found : mapping of file to its findings of that code
    reads : mapping of file to str, optional
        Of a suspect unit or up axis, what is known to be the best of each file: a unit, or signed axes that are up and
        front, `+Z -Y`. Where files differ, the step is for those of the most frequent one: the rest keep their finding,
        and get a step of their own.
    """
    files, kind = list(found), KINDS[code]
    if kind.asks is not None:
        usual = {f: _UNIT_OF.get(each[0].measure or 0.0, "m") for f, each in found.items()}
        usual = usual if kind.asks == "unit" else dict.fromkeys(found, "+Z -Y")
        best = {**usual, **{f: r for f, r in (reads or {}).items() if f in found}}
        wanted = Counter(best.values()).most_common(1)[0][0]
        scope = globs_for([f for f in files if best[f] == wanted])
        if kind.asks == "unit":
            return STEPS["unit"].model_validate({"reads": as_reads(wanted), "for": scope})
        up, front = wanted.split()
        return STEPS["turn"].model_validate({"up": up, "front": front, "for": scope})
    if kind.remedy is None:
        return None
    if kind.remedy.get("together"):
        # Each folder is a world of its own: one at a time, that of the first.
        files = [f for f in files if PurePosixPath(f).parent == PurePosixPath(files[0]).parent]
    return STEPS[str(kind.remedy["do"])].model_validate({**kind.remedy, "for": globs_for(files)})
