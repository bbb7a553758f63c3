"""From the session to what the draft does to each asset, and what a delivery would lose."""

from __future__ import annotations

from dataclasses import dataclass

from oak_square.app.facts.stages import stage_words
from oak_square.app.session.outcomes import Outcome
from oak_square.app.session.state import State
from oak_square.core.consequences import KINDS_OF_CONSEQUENCE, consequences_of
from oak_square.core.scene import Asset
from oak_square.core.sharing import Parting
from oak_square.core.words import say
from oak_square.formats.shared.crossing import losses_said, target_of
from oak_square.steps.step import Step

__all__ = ["ConsequenceRow", "EffectRow", "effect_rows", "loss_lines"]


@dataclass(frozen=True, slots=True, kw_only=True)
class EffectRow:
    """One asset: what is measured of it before and after; `outcome` is applied, nothing, refused or failed."""

    file: str
    name: str
    before: str
    after: str
    outcome: str
    detail: str


@dataclass(frozen=True, slots=True, kw_only=True)
class ConsequenceRow:
    """What the draft brings about besides what is asked of it: for which assets, in words; or why it stops there."""

    assets: tuple[str, ...]
    words: str
    stops: bool = False

    @property
    def line(self) -> str:
        """It on one line, the assets first."""
        names = ", ".join(self.assets[:2])
        more = say(" and {count} more", count=len(self.assets) - 2) if len(self.assets) > 2 else ""
        return f"{names}{more}: {self.words}"


def loss_lines(session: State) -> list[str]:
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


def effect_rows(session: State) -> tuple[list[EffectRow], tuple[int, int, int], list[ConsequenceRow]]:
    """Return what the draft does to each asset it is for; how many assets, parts and groups it meets; consequences."""
    draft, number = session.document.draft, len(session.document.before.steps) + 1
    assert draft is not None
    rows: list[EffectRow] = []
    said: dict[str, list[str]] = {}  # what happens, and to which assets
    stopped_by: list[ConsequenceRow] = []
    parts = groups = 0
    for file in session.included():
        outcome = session.outcomes.get(file)
        if outcome is None or not draft.covers(file):
            continue
        own = outcome.of_step(number)
        stopped = outcome.after.status != "ready" and (own is None or own.outcome == "refused")
        detail = (outcome.after.reason if stopped else None) or (own.detail if own is not None else "")
        words = [stage_words(s, session.unit) for s in outcome.standings or ()] or ["", ""]
        rows.append(
            EffectRow(
                file=file,
                name=outcome.after.asset.name,
                before=words[0],
                after=words[1],
                outcome=outcome.after.status if stopped else own.outcome if own is not None else "nothing",
                detail=detail,
            )
        )
        met = _count_met(draft, outcome.before.asset)
        parts, groups = parts + met[0], groups + met[1]
        name = outcome.after.asset.name
        if stopped:
            stopped_by.append(ConsequenceRow(assets=(name,), words=detail, stops=True))
        else:
            warned = own.warnings if own is not None else ()
            for words_of in (*warned, *_of_clips(draft, outcome), *(_describe_parting(p) for p in outcome.partings)):
                said.setdefault(words_of, []).append(name)
    consequences = [ConsequenceRow(assets=tuple(names), words=w) for w, names in said.items()]
    return rows, (len(rows), parts, groups), [*stopped_by, *consequences]


def _of_clips(draft: Step, outcome: Outcome) -> list[str]:
    """Return what a bake does to an asset's clips, each kind with the nodes it happens to."""
    if draft.do != "bake":
        return []
    before, found = outcome.before.asset, list[str]()
    told = consequences_of(before, outcome.after.asset) if before.clips else ()
    for kind in ("clip", "path"):
        names = [before.nodes[c.node].name for c in told if c.kind == kind]
        more = say(" and {count} more", count=len(names) - 3) if len(names) > 3 else ""
        found += [f"{KINDS_OF_CONSEQUENCE[kind]}: {', '.join(repr(n) for n in names[:3])}{more}"] if names else []
    return found


def _describe_parting(parting: Parting) -> str:
    more = say("{max:,} kB", max=max(1, round(parting.more_bytes / 1000)))
    return say(
        "geometry shared by {users} parts comes apart into {copies}, about {more} more",
        users=parting.users,
        copies=parting.copies,
        more=more,
    )


def _count_met(draft: Step, asset: Asset) -> tuple[int, int]:
    """Return how many parts and groups a step meets in an asset."""
    kinds = [asset.nodes[i].kind for i in draft.met(asset)]
    return kinds.count("part"), kinds.count("group")
