"""From the session's state to the plain values that the widgets show."""

from __future__ import annotations

from oak_square.app.panel.effect_view import EffectRow
from oak_square.app.panel.receive_body import FindingGroup
from oak_square.app.panel.scope_row import Scope
from oak_square.app.session.document import Row
from oak_square.app.session.remedies import can_settle
from oak_square.app.session.session import Session
from oak_square.app.session.worker import Outcome
from oak_square.app.widgets.batch_list import AssetRow
from oak_square.app.widgets.strip import Card
from oak_square.core.findings import KINDS, LEVELS, STAGES, Finding
from oak_square.core.plausible import likelier_up
from oak_square.core.scene import Asset
from oak_square.formats import losses_said, target_of
from oak_square.sheet import StepOutcome
from oak_square.steps import Step

__all__ = ["asset_rows", "cards", "effect_rows", "finding_groups", "having", "scope_of", "stage_notes"]


def asset_rows(session: Session, filtered: str) -> list[AssetRow]:
    """Return the list's rows: those whose path holds the letters `filtered`."""
    letters = filtered.strip().casefold()
    return [_asset_row(session, r) for f, r in session.rows.items() if letters in f.casefold()]


def _asset_row(session: Session, row: Row) -> AssetRow:
    outcome = session.outcomes.get(row.file)
    title = row.file.rsplit("/", 1)[-1].rsplit(".", 1)[0]
    if row.error is not None:
        return AssetRow(file=row.file, title=title, detail="", trouble=row.error, included=False)
    if outcome is None:
        return AssetRow(file=row.file, title=title, detail="reading…", reading=True)
    return AssetRow(
        file=row.file,
        title=title,
        detail=f"{outcome.size} · {outcome.after.asset.format}",
        marks=outcome.marks or (("all", "true"),),
        included=row.file not in session.document.left_out,
        trouble=outcome.after.reason,
        format=outcome.after.asset.format,
        largest_m=outcome.largest_m,
        unit_state="" if outcome.question is None else outcome.question.state,
    )


def stage_notes(session: Session) -> dict[str, str]:
    """Return the few words under each stage of the ruler."""
    if not session.rows:
        return {}
    notes = {}
    counts = session.stages_left()
    for stage in STAGES:
        left = counts[stage]
        notes[stage] = f"{left} to settle" if left else "all true"
    read = len(session.rows) - session.to_read
    unreadable = sum(r.error is not None for r in session.rows.values())
    notes["receive"] = f"{read} read" + (f", {unreadable} not" if unreadable else "")
    notes["deliver"] = f"{len(session.included())} ready"
    return notes


def scope_of(session: Session) -> Scope:
    """Return what a step's scope can be chosen from."""
    outcome = session.outcomes.get(session.lead or "")
    # As the step finds it: an earlier one may have made the part that is picked.
    asset = outcome.before.asset if outcome is not None else session.assets.get(session.lead or "")
    node = session.picked_node
    picked = asset.nodes[node].name if asset is not None and node is not None and node < len(asset.nodes) else None
    selected = tuple(f for f in session.selection if f in session.assets)
    return Scope(selected=selected, total=len(session.assets), picked=picked)


def loss_lines(session: Session) -> list[str]:
    """Return what the format of the delivery can't hold, a line for each included asset that has it."""
    wanted = session.document.sheet.deliver.format
    found = []
    for file in session.included() if wanted != "same" else ():
        outcome = session.outcomes.get(file)
        asset = session.assets[file] if outcome is None else outcome.after.asset
        lost = losses_said(asset, target_of(asset, wanted))
        if lost is not None:
            found.append(f"{file}: {lost}")
    return found


def having(session: Session, code: str) -> dict[str, list[Finding]]:
    """Return the included assets that have findings of `code`, each with its own."""
    found = {
        file: [f for f in outcome.findings if f.code == code]
        for file, outcome in session.outcomes.items()
        if file not in session.document.left_out
    }
    return {file: own for file, own in found.items() if own}


def likeliest(session: Session, code: str) -> dict[str, str]:
    """Return what is known best of files with a suspect unit or up axis: the ranking's unit, the side it stands on."""
    best: dict[str, str] = {}
    for file in having(session, code) if code in {"unit-suspect", "up-suspect"} else ():
        question = session.outcomes[file].question
        if code == "up-suspect":
            up = likelier_up(session.assets[file])
            best |= {file: up} if up is not None else {}
        elif question is not None and question.ranking is not None:
            best[file] = question.ranking.best.unit
    return best


def finding_groups(session: Session) -> tuple[list[FindingGroup], str]:
    """Return the findings that are left, gravest first, and a line that sums them up."""
    found: dict[str, dict[str, list[Finding]]] = {}
    for file, outcome in session.outcomes.items():
        if file not in session.document.left_out:
            for f in outcome.findings:
                found.setdefault(f.code, {}).setdefault(file, []).append(f)
    unreadable = {f: r.error for f, r in session.rows.items() if r.error is not None}
    groups = [_group(session, code, by_file) for code, by_file in found.items()]
    groups.sort(key=lambda g: (-LEVELS.index(g.level), STAGES.index(KINDS[g.code].stage)))
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
    words = "Nothing left to fix or check." if not grave else f"{grave} kinds of trouble left, gravest first."
    return groups, words if session.rows else "Open a folder of models to begin."


def _group(session: Session, code: str, by_file: dict[str, list[Finding]]) -> FindingGroup:
    kind = KINDS[code]
    shown = session.lead if session.lead in by_file else next(iter(by_file))
    assert shown is not None
    own = by_file[shown]
    what = "more parts" if own[0].part is not None else "more"
    more = f" (and {len(own) - 1} {what})" if len(own) > 1 else ""
    return FindingGroup(
        code=code,
        level=kind.level,
        title=kind.title,
        why=kind.why,
        example=f"{shown}: {own[0].message}{more}",
        files=tuple(by_file),
        settles=can_settle(code),
    )


def _own_outcome(outcome: Outcome, number: int) -> StepOutcome | None:
    return next((o for o in outcome.after.outcomes if o.step == number), None)


def effect_rows(session: Session) -> tuple[list[EffectRow], int, list[str]]:
    """Return what the draft does to each asset it is for, how many parts that meets, and its consequences."""
    draft, number = session.document.draft, len(session.document.before.steps) + 1
    assert draft is not None
    rows: list[EffectRow] = []
    said: list[str] = []
    parts = 0
    for file in session.included():
        outcome = session.outcomes.get(file)
        if outcome is None or not draft.covers(file):
            continue
        own = _own_outcome(outcome, number)
        stopped = outcome.after.status != "ready" and (own is None or own.outcome == "refused")
        detail = (outcome.after.reason if stopped else None) or (own.detail if own is not None else "")
        rows.append(
            EffectRow(
                file=file,
                name=outcome.after.asset.name,
                before=outcome.words[0],
                after=outcome.words[1],
                outcome=outcome.after.status if stopped else own.outcome if own is not None else "nothing",
                detail=detail,
            )
        )
        parts += _parts_met(draft, outcome.before.asset)
        if stopped:
            said.insert(0, f"{file}: {detail}")
        elif own is not None:
            said += own.warnings
    return rows, parts, said


def _parts_met(draft: Step, asset: Asset) -> int:
    return len(draft.chosen(asset, ("part",))) if draft.parts else len(asset.parts)


def cards(session: Session) -> list[Card]:
    """Return the cards of the kept steps, and of the draft when it is a new one."""
    document = session.document
    found = []
    for k, step in enumerate(document.sheet.steps):
        open_ = document.editing == k
        shown = document.draft if open_ and document.draft is not None else step
        # Steps behind the one that is open are not run now; their cards say what they are for.
        found.append(_card(session, shown, k + 1, "open" if open_ else "kept"))
    if document.draft is not None and document.editing is None:
        found.append(_card(session, document.draft, len(found) + 1, "draft"))
    return found


def _card(session: Session, step: Step, number: int, kind: str) -> Card:
    applied = refused = warned = failed = ran = 0
    covering = [f for f in session.assets if step.covers(f)]
    for file in covering:
        outcome = session.outcomes.get(file)
        own = _own_outcome(outcome, number) if outcome is not None else None
        stopped = outcome is not None and (outcome.after.reason or "").startswith(f"step {number} (")
        failed += stopped and outcome is not None and outcome.after.status == "failed"
        ran += own is not None or stopped
        if own is not None:
            applied += own.outcome == "applied"
            refused += own.outcome == "refused"
            warned += bool(own.warnings)
    count = f"{len(covering)} {'asset' if len(covering) == 1 else 'assets'}"
    # A check changes nothing, and a step behind the one that is open is not run now: they say what they are for.
    did = count if not ran or step.do == "check" or applied == len(covering) else f"{applied} of {count}"
    detail = f"{refused} refused" if refused else f"{failed} of {count} fail" if failed else did
    if step.paused:
        detail = "paused"
    elif kind == "draft":
        detail = f"{detail} · draft"
    elif warned and not refused and not failed:
        detail = f"{did} · {warned} warned"
    more = _tells_apart(step)
    scope = "every asset" if step.for_ is None else ", ".join(step.for_)
    tip = "\n".join([f"Step {number}: {step.title()}", f"for {scope}", *more, f"did something to {applied} of {count}"])
    if step.note:
        tip += f"\n{step.note}"
    return Card(
        title=f"{number}  {step.title()}",
        detail=" · ".join([detail, *more]),
        tip=tip,
        kind=kind,
        troubled=bool(refused or failed),
        paused=step.paused,
    )


def _tells_apart(step: Step) -> list[str]:
    """Return what tells a step from others of its title: which parts it is for, what it skips, keeps, goes about."""
    words = step.words()
    found = [f"only {', '.join(step.parts)}"] if step.parts else []
    found += [f"not {', '.join(step.skip)}"] if step.skip else []
    keeps = {"none": "nothing follows", "volume": "volume kept"}.get(str(words.get("keep")), "")
    about = words.get("about")
    found += [keeps] if keeps else []
    return found + ([f"about {about}"] if isinstance(about, str) else ["about a point"] if about is not None else [])
