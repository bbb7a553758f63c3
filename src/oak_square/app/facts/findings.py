"""From the session to the findings that are left."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from oak_square.app.session.outcomes import Outcome
from oak_square.app.session.remedies import can_settle
from oak_square.app.session.state import State
from oak_square.core.findings.finding import KINDS, LEVELS, Finding
from oak_square.core.stages import STAGES
from oak_square.core.words import counted, one_or_many, say

__all__ = ["FindingGroup", "finding_groups", "having", "likeliest", "stage_findings"]


@dataclass(frozen=True, slots=True, kw_only=True)
class FindingGroup:
    """One kind of finding over the batch.

    Attributes
    ----------
    code, level, title, why : str
    example : str
        What it says of the asset looked at, or of the first one.
    files : tuple of str
        Who has it.
    settles : bool
        Whether a step can settle it.
    """

    code: str
    level: str
    title: str
    why: str
    example: str
    files: tuple[str, ...]
    settles: bool


def having(session: State, code: str) -> dict[str, list[Finding]]:
    """Return the included assets that have findings of `code`, each with its own."""
    found = {file: [f for f in outcome.findings if f.code == code] for file, outcome in _yield_included(session)}
    return {file: own for file, own in found.items() if own}


def _yield_included(session: State) -> Iterator[tuple[str, Outcome]]:
    """Yield what is known of the included assets in the order of the batch, whichever was read or worked out first."""
    for file in session.rows:
        if file in session.outcomes and file not in session.document.left_out:
            yield file, session.outcomes[file]


def likeliest(session: State, code: str) -> dict[str, str]:
    """Return what is known best of files with a suspect unit or up axis: the rankings' own (`+Z -Y`: up, front)."""
    best: dict[str, str] = {}
    for file in having(session, code) if KINDS[code].asks is not None else ():
        question, sides = session.outcomes[file].question, session.outcomes[file].sides
        if KINDS[code].asks == "up":
            if sides is not None and sides.ranking is not None:
                best[file] = f"{sides.ranking.best} {sides.front}"
        elif question is not None and question.ranking is not None:
            best[file] = question.ranking.best.unit
    return best


def stage_findings(session: State) -> list[FindingGroup]:
    """Return the findings that are left at the stage that is looked at, gravest first."""
    return _group_findings(session, (session.stage,))


def _group_findings(session: State, stages: Sequence[str]) -> list[FindingGroup]:
    found: dict[str, dict[str, list[Finding]]] = {}
    for file, outcome in _yield_included(session):
        for f in outcome.findings:
            if f.stage in stages:
                found.setdefault(f.code, {}).setdefault(file, []).append(f)
    groups = [_make_group(session, code, by_file) for code, by_file in found.items()]
    return sorted(groups, key=lambda g: (-LEVELS.index(g.level), STAGES.index(KINDS[g.code].stage)))


def finding_groups(session: State) -> tuple[list[FindingGroup], str]:
    """Return the findings that are left, gravest first, and a line that sums them up."""
    groups = _group_findings(session, STAGES)
    unreadable = {f: r.error for f, r in session.rows.items() if r.error is not None}
    if unreadable:
        kind = KINDS["unreadable"]
        first = next(iter(unreadable))
        example = f"{first}: {unreadable[first]}"
        files = tuple(unreadable)
        groups.insert(
            0,
            FindingGroup(
                code="unreadable", level=kind.level, title=kind.title, why=kind.why, example=example, files=files,
                settles=False,
            ),
        )  # fmt: skip
    grave = sum(g.level != "note" for g in groups)
    words = one_or_many(
        grave, "{count} kind of trouble left, gravest first.", "{count} kinds of trouble left, gravest first."
    )
    if not grave:
        words = say("Nothing left to fix or check: Deliver is next.")
    return groups, words if session.rows else say("Open a folder of models to begin.")


def _make_group(session: State, code: str, by_file: dict[str, list[Finding]]) -> FindingGroup:
    kind = KINDS[code]
    shown = session.lead if session.lead in by_file else next(iter(by_file))
    assert shown is not None
    own = by_file[shown]
    rest = counted(len(own) - 1, "more part") if own[0].part is not None else say("{count} more", count=len(own) - 1)
    more = say(" (and {rest})", rest=rest) if len(own) > 1 else ""
    return FindingGroup(
        code=code,
        level=kind.level,
        title=kind.title,
        why=kind.why,
        example=f"{shown}: {own[0].message}{more}",
        files=tuple(by_file),
        settles=can_settle(code),
    )
