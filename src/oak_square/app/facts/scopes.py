"""From the session to what a step is for, and what else it could be for."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace
from typing import Any

from oak_square.app.session.aim import TARGETS, Scope, ScopeChoice, Target, aim_of, is_aimed_so, scope_words, with_nodes
from oak_square.app.session.state import State
from oak_square.core.node_names import nodes_named
from oak_square.core.words import counted, joined, say
from oak_square.sheet.text import in_words
from oak_square.steps.naming import globs_for
from oak_square.steps.step import STEPS, Step

__all__ = ["ScopeShown", "aim_change", "beside_lead", "is_for_several", "met_nodes", "scope_shown"]

_KINDS = ("asset", "part", "group")


@dataclass(frozen=True, slots=True, kw_only=True)
class ScopeShown:
    """What a step is for, and what can be chosen.

    Attributes
    ----------
    says : str
        What it meets, in words.
    which : str
        `selected`, `all` or `names`.
    selected, total : int
        How many assets these are.
    globs : tuple of str
        Patterns on assets, as they stand in the field.
    targets : mapping of key to (word, why it can't be chosen or "")
        The kinds of nodes to choose from, in order.
    target : str
        The one that holds.
    names : tuple of str
        Patterns on nodes.
    nodes : tuple of int, or None
        Nodes of the lead asset, as it stands before the draft, that are met; None where it is met as a whole.
    lead_alone : str
        What the lead asset is called, where nodes of other assets are met that have the names of those picked in it.
    several : bool
        Whether it is for more than one thing.
    """

    says: str
    which: str
    selected: int
    total: int
    globs: tuple[str, ...]
    targets: dict[str, tuple[str, str]]
    target: str
    names: tuple[str, ...]
    nodes: tuple[int, ...] | None = None
    lead_alone: str = ""
    several: bool = False


def scope_shown(session: State, *, counts: tuple[int, int, int] | None) -> ScopeShown:
    """Return what the row above the form shows; `counts` are the assets, parts and groups that the draft meets."""
    scope, draft, aim = session.scope, session.own_draft, session.document.aim
    if draft is not None and not is_aimed_so(draft, aim, scope):
        aim = aim_of(draft, scope)
    aim = aim.settled(scope)
    return ScopeShown(
        says=_describe_met(*counts, as_one=_moves_as_one(session)) if counts is not None else _would_meet(session),
        which=aim.which or "all",
        selected=len(scope.selected),
        total=scope.total,
        globs=_find_globs(aim, scope),
        targets=_list_targets(session.stage, draft, scope),
        target=aim.target or "whole",
        names=_find_names(aim, scope),
        nodes=_aimed_nodes(session, aim, scope),
        several=is_for_several(session),
        lead_alone=session.outcomes[session.lead].after.asset.name if session.lead and beside_lead(session) else "",
    )


def beside_lead(session: State) -> str:
    """Return how many assets and parts go together, where others have nodes of the names that are picked; else ""."""
    scope = session.scope
    if not scope.picked or session.document.aim.settled(scope).target != "picked":
        return ""
    met = {file: nodes for file, nodes in met_nodes(session).items() if nodes}
    if len(met) < 2:
        return ""
    counts = _count_met(session, met)
    return joined(", ", [counted(n, word) for n, word in zip(counts, _KINDS, strict=True) if n])


def is_for_several(session: State) -> bool:
    """Tell whether what is chosen is for more than one thing."""
    if _moves_as_one(session):
        return False
    draft = session.own_draft
    if draft is not None:
        met = met_nodes(session)
        return (len(met) if draft.target == "asset" else sum(map(len, met.values()))) > 1
    aim, scope = session.document.aim.settled(session.scope), session.scope
    if aim.target == "whole":
        count = {"selected": len(scope.selected), "all": scope.total}
        return count.get(aim.which or "all", 0) > 1 or (aim.which == "names" and len(met_nodes(session)) > 1)
    return sum(len(nodes) for nodes in met_nodes(session).values()) > 1


def _moves_as_one(session: State) -> bool:
    """Tell whether the assets of the draft, or of what comes next, count as one thing."""
    draft, aim = session.own_draft, session.document.aim.settled(session.scope)
    return draft.moves_together if draft is not None else session.is_together and aim.target == "whole"


def _count_met(session: State, met: Mapping[str, tuple[int, ...]]) -> tuple[int, int, int]:
    """Return how many assets, parts and groups `met` comes to."""
    kinds = [session.outcomes[file].before.asset.nodes[i].kind for file, nodes in met.items() for i in nodes]
    return len(met), kinds.count("part"), kinds.count("group")


def _would_meet(session: State) -> str:
    """Return what the next step is for, where parts are picked or named; what to do where it is for whole assets."""
    aim = session.document.aim.settled(session.scope)
    met = {file: nodes for file, nodes in met_nodes(session).items() if nodes}
    if _moves_as_one(session) and len(met) > 1:
        return say("{assets} as one, by their common box; nothing is tried yet.", assets=counted(len(met), "asset"))
    if aim.target not in ("picked", "names") or not met:
        return say("Applies to what you choose here; nothing is tried yet.")
    return say("{what}; nothing is tried yet.", what=_describe_met(*_count_met(session, met)))


def _find_globs(aim: ScopeChoice, scope: Scope) -> tuple[str, ...]:
    """Return the patterns that say which assets: typed, or as typing them would start."""
    if aim.which == "names":
        return aim.globs
    return tuple(globs_for(scope.selected)) if aim.which == "selected" else ("*",)


def _find_names(aim: ScopeChoice, scope: Scope) -> tuple[str, ...]:
    if aim.target == "names":
        return aim.names
    return scope.picked if aim.target == "picked" else ("*",)


def _aimed_nodes(session: State, aim: ScopeChoice, scope: Scope) -> tuple[int, ...] | None:
    outcome = session.outcomes.get(session.lead or "")
    if outcome is None or aim.target == "whole":
        return None
    nodes = outcome.before.asset.nodes
    if aim.target in ("parts", "groups"):
        return tuple(i for i, n in enumerate(nodes) if n.kind == aim.target.removesuffix("s"))
    globs = _find_names(aim, scope)
    return nodes_named(outcome.before.asset, globs)


def met_nodes(session: State) -> dict[str, tuple[int, ...]]:
    """Return the nodes of each asset in scope that the draft, or what is chosen for the next step, is for."""
    scope, draft, aim = session.scope, session.own_draft, session.document.aim
    if draft is not None:
        return {
            f: draft.met(o.before.asset) if draft.target != "asset" else tuple(range(len(o.before.asset.nodes)))
            for f in session.included()
            if (o := session.outcomes.get(f)) is not None and draft.covers(f)
        }
    aim = aim.settled(scope)
    globs = _find_names(aim, scope) if aim.target in ("picked", "names") else ("*",)
    words = scope_words(aim, scope)
    probe = STEPS["bake"].model_validate(words)
    return {
        f: nodes_named(o.before.asset, globs)
        for f in session.included()
        if (o := session.outcomes.get(f)) is not None and probe.covers(f)
    }


def aim_change(shown: ScopeShown, what: str, value: Any) -> Callable[[ScopeChoice], ScopeChoice]:
    """Return how an aim changes when the row that shows it is changed: `which`, `target`, `globs` or `names`."""
    # Where patterns are asked for, what holds now is what they start from.
    if what == "which":
        return lambda aim: replace(aim, which=value, globs=shown.globs)
    if what == "target":
        return lambda aim: replace(aim, target=value, names=shown.names)
    if what == "globs":
        return lambda aim: replace(aim, which="names", globs=value)
    return lambda aim: replace(aim, target="names", names=value)


def _describe_met(assets: int, parts: int, groups: int, *, as_one: bool = False) -> str:
    words = [
        _make_bold(counted(assets, "asset")),
        _make_bold(counted(parts, "part")),
        *([_make_bold(counted(groups, "group"))] if groups else []),
    ]
    applies = say("Applies to {words}", words=", ".join(words))
    return say("{applies}, as one", applies=applies) if as_one else applies


def _make_bold(words: str) -> str:
    return f"<b>{words}</b>"


def _list_targets(stage: str, draft: Step | None, scope: Scope) -> dict[str, tuple[str, str]]:
    """Return what a step of the stage can be for, and why it can't be for some of it."""
    kinds = [k for k in STEPS.values() if k.stage == stage] if draft is None else [type(draft)]
    tells = any("of" in k.model_fields for k in kinds)
    picked = say("picked {count}", count=scope.picked_count) if scope.picked else say("picked")
    words = {
        "whole": say("whole"),
        "parts": say("parts"),
        "groups": say("groups"),
        "picked": picked,
        "names": say("by name"),
    }
    found: dict[str, tuple[str, str]] = {}
    for key in TARGETS:
        if key in ("parts", "groups") and not tells:
            # Each part apart from each group is something that only some steps can say.
            continue
        why = (
            say("Pick parts or groups first, in the hierarchy or the view")
            if key == "picked" and not scope.picked
            else ""
        )
        if draft is not None and not why:
            why = _explain_target(draft, key, scope)
        found[key] = (words[key], why)
    return found


def _explain_target(draft: Step, key: Target, scope: Scope) -> str:
    """Return why the draft can't be for that; empty where it can."""
    if key == "whole" and type(draft).needs_parts:
        return say("It names the parts or groups it is for")
    return in_words(type(draft), with_nodes(draft.words(), ScopeChoice(target=key), scope))
