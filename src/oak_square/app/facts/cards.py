"""From the session to the cards of the prep sheet."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from oak_square.app.session.state import State
from oak_square.core.terms import term
from oak_square.core.words import counted, in_english, one_or_many, say
from oak_square.steps.step import Step

__all__ = ["Card", "cards"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Card:
    """What a card says. `kind` is kept, open (being edited) or draft."""

    title: str
    detail: str
    tip: str
    kind: str = "kept"
    troubled: bool = False
    paused: bool = False


def cards(session: State) -> list[Card]:
    """Return the cards of the kept steps, and of the draft when it is a new one."""
    document = session.document
    shown: list[tuple[Step, str]] = []
    for k, step in enumerate(document.sheet.steps):
        open_ = document.editing == k
        # Steps behind the one that is open are not run now; their cards say what they are for.
        shown.append((document.draft if open_ and document.draft is not None else step, "open" if open_ else "kept"))
    if document.draft is not None and document.editing is None:
        shown.append((document.draft, "draft"))
    steps = [step for step, _ in shown]
    return [
        _make_card(session, step, k + 1, kind, _find_namesakes(step, steps)) for k, (step, kind) in enumerate(shown)
    ]


def _find_namesakes(step: Step, steps: Sequence[Step]) -> list[Step]:
    """Return the other steps that have the same title."""
    return [other for other in steps if other is not step and other.title() == step.title()]


def _make_card(session: State, step: Step, number: int, kind: str, alike: Sequence[Step]) -> Card:
    applied = refused = warned = failed = ran = 0
    covering = [f for f in session.assets if step.covers(f)]
    for file in covering:
        outcome = session.outcomes.get(file)
        own = outcome.of_step(number) if outcome is not None else None
        stopped = outcome is not None and str(in_english(outcome.after.reason or "")).startswith(f"step {number} (")
        failed += stopped and outcome is not None and outcome.after.status == "failed"
        ran += own is not None or stopped
        if own is not None:
            applied += own.outcome == "applied"
            refused += own.outcome == "refused"
            warned += bool(own.warnings)
    count = counted(len(covering), "asset")
    # A check changes nothing, and a step behind the one that is open is not run now: they say what they are for.
    did = (
        count
        if not ran or step.do == "check" or applied == len(covering)
        else one_or_many(len(covering), "{applied} of {count} asset", "{applied} of {count} assets", applied=applied)
    )
    detail = (
        say("{refused} refused", refused=refused)
        if refused
        else one_or_many(
            len(covering), "{failed} of {count} asset fail", "{failed} of {count} assets fail", failed=failed
        )
        if failed
        else did
    )
    if step.paused:
        detail = say("paused")
    elif kind == "draft":
        detail = say("{detail} · draft", detail=detail)
    elif warned and not refused and not failed:
        detail = say("{did} · {warned} warned", did=did, warned=warned)
    more = _tells_apart(session, step)
    apart = [line for line in _list_differences(step, alike) if line not in more]
    scope = say("every asset") if step.for_ is None else ", ".join(step.for_)
    tip = "\n".join(
        [
            say("Step {number}: {title}", number=number, title=step.title()),
            say("for {scope}", scope=scope),
            *more,
            *apart,
            one_or_many(
                len(covering),
                "did something to {applied} of {count} asset",
                "did something to {applied} of {count} assets",
                applied=applied,
            ),
        ]
    )
    if step.note:
        tip += f"\n{step.note}"
    return Card(
        title=f"{number}  {step.title()}",
        # What tells it from another of its title comes first: the rest may be cut off.
        detail=" · ".join([*apart, *more, detail] if alike else [detail, *more]),
        tip=tip,
        kind=kind,
        troubled=bool(refused or failed),
        paused=step.paused,
    )


def _tells_apart(session: State, step: Step) -> list[str]:
    """Return what tells a step from others of its title: which parts it is for, what it skips, keeps, goes about."""
    words = step.words()
    found = [_name_parts(session, step)] if step.parts else []
    found += [say("not {skip}", skip=", ".join(step.skip))] if step.skip else []
    keeps = {"none": say("nothing follows"), "volume": say("volume kept")}.get(str(words.get("keep")), "")
    about = words.get("about")
    found += [keeps] if keeps else []
    return found + (
        [say("about {about}", about=term(about))]
        if isinstance(about, str)
        else [say("about a point")]
        if about is not None
        else []
    )


def _name_parts(session: State, step: Step) -> str:
    """Return the patterns on parts, and how many nodes they fit on the asset that is looked at, where it is several."""
    only = say("only {parts}", parts=", ".join(step.parts or ()))
    lead = session.outcomes.get(session.lead or "")
    fitting = len(step.chosen(lead.after.asset)) if lead is not None and step.covers(lead.file) else 0
    if fitting <= len(step.parts or ()):
        return only
    return say("{only} ({count} of {asset})", only=only, count=fitting, asset=lead.after.asset.name if lead else "")


def _list_differences(step: Step, alike: Sequence[Step]) -> list[str]:
    """Return what a step says that a step of the same title does not, field by field."""
    words = step.words()
    others = [other.words() for other in alike]
    keys = [k for k in words if k not in ("do", "parts", "skip", "keep", "about") and words[k] is not None]
    if others and "for" not in words and any("for" in other for other in others):
        return [
            say("every asset"),
            *(_describe_value(k, words[k]) for k in keys if any(o.get(k) != words[k] for o in others)),
        ]
    return [_describe_value(k, words[k]) for k in keys if any(other.get(k) != words[k] for other in others)]


def _describe_value(key: str, value: object) -> str:
    if value is True:
        return term(key.replace("-", " "))
    told = ", ".join(map(str, value)) if isinstance(value, list) else str(value)
    return f"{term(key)} {term(told)}"
