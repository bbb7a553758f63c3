"""What a step is for: chosen once, above every form, and written as a step's own words."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any, Literal

from oak_square.steps.naming import globs_for
from oak_square.steps.step import STEPS, Step

__all__ = [
    "TARGETS",
    "Scope",
    "ScopeChoice",
    "Target",
    "Which",
    "aim_of",
    "fitting",
    "is_aimed_so",
    "is_for_wholes",
    "scope_words",
    "target_words",
]
__all__ += ["with_assets", "with_nodes"]

Which = Literal["selected", "all", "names"]
Target = Literal["whole", "parts", "groups", "picked", "names"]
TARGETS: tuple[Target, ...] = ("whole", "parts", "groups", "picked", "names")


@dataclass(frozen=True, slots=True, kw_only=True)
class Scope:
    """What there is to aim at.

    Attributes
    ----------
    selected : tuple of str
        The selected files.
    total : int
        How many there are.
    parts, groups : tuple of str
        Patterns that fit just the parts, and just the groups, that are picked.
    picked_count : int
        How many nodes these are.
    """

    selected: tuple[str, ...]
    total: int
    parts: tuple[str, ...] = ()
    groups: tuple[str, ...] = ()
    picked_count: int = 0

    @property
    def picked(self) -> tuple[str, ...]:
        """Patterns that fit all that is picked."""
        return (*self.parts, *self.groups)


@dataclass(frozen=True, slots=True, kw_only=True)
class ScopeChoice:
    """What a new step would be for, as it was chosen; what is None is left to what is selected and picked.

    Attributes
    ----------
    which : "selected", "all", "names" or None
        Which assets.
    globs : tuple of str
        Their patterns, where it is `names`.
    target : "whole", "parts", "groups", "picked", "names" or None
        The asset as a whole, each part, each group, what is picked, or nodes by name.
    names : tuple of str
        The patterns of the nodes, where it is `names`.
    """

    which: Which | None = None
    globs: tuple[str, ...] = ()
    target: Target | None = None
    names: tuple[str, ...] = ()

    def settled(self, scope: Scope) -> ScopeChoice:
        """Return the aim with what is left open filled in from what is selected and picked."""
        which = self.which or ("selected" if scope.selected else "all")
        target = self.target or ("picked" if scope.picked else "whole")
        if target == "picked" and not scope.picked:
            target = "whole"
        return ScopeChoice(which=which, globs=self.globs, target=target, names=self.names)


def scope_words(aim: ScopeChoice, scope: Scope) -> dict[str, Any]:
    """Return which assets a step is for, as it says so."""
    aim = aim.settled(scope)
    if aim.which == "selected":
        return {"for": globs_for(scope.selected)}
    return {"for": list(aim.globs)} if aim.which == "names" else {}


def target_words(aim: ScopeChoice, scope: Scope, words: Mapping[str, Any]) -> dict[str, Any]:
    """Return which nodes a step of these words is for, as it says so; nothing where it takes none."""
    kind = STEPS[str(words["do"])]
    if not kind.is_for_nodes(words):
        return {}
    aim, tells = aim.settled(scope), "of" in kind.model_fields
    if aim.target == "whole":
        return {"parts": ["*"]} if kind.means_all else {}
    if aim.target in ("parts", "groups"):
        return {"of": aim.target} if tells else {"parts": ["*"]}
    if aim.target == "names":
        return {"parts": list(aim.names or ("*",)), **({"of": "all"} if tells else {})}
    of = "groups" if not scope.parts else "all" if scope.groups else None
    return {"parts": list(scope.picked), **({"of": of} if tells and of is not None else {})}


def is_for_wholes(words: Mapping[str, Any]) -> bool:
    """Tell whether a step of these words can move several assets as one."""
    kind = STEPS[str(words["do"])]
    own = words.get("along") in ("own", "parent") or not {"parts", "up", "front", "square", "set"}.isdisjoint(words)
    at = words.get("at")
    return "together" in kind.model_fields and not own and not (isinstance(at, Mapping) and "berth" in at)


def fitting(words: Mapping[str, Any]) -> dict[str, Any]:
    """Return a step's words without nodes or `together` where it takes none, and with all nodes where it means all."""
    if not words:
        return {}
    if "together" in words and not is_for_wholes(words):
        words = {k: v for k, v in words.items() if k != "together"}
    kind = STEPS[str(words["do"])]
    if not kind.is_for_nodes(words):
        return {k: v for k, v in words.items() if k != "parts"}
    return {**words, "parts": ["*"]} if kind.means_all and "parts" not in words else dict(words)


def with_assets(words: Mapping[str, Any], aim: ScopeChoice, scope: Scope) -> dict[str, Any]:
    """Return a step's words for other assets."""
    return {**{k: v for k, v in words.items() if k != "for"}, **scope_words(aim, scope)}


def with_nodes(words: Mapping[str, Any], aim: ScopeChoice, scope: Scope) -> dict[str, Any]:
    """Return a step's words for other nodes."""
    found = {**{k: v for k, v in words.items() if k not in ("parts", "of")}, **target_words(aim, scope, words)}
    if aim.target == "names" and "of" in found and words.get("of") in ("parts", "groups"):
        # Other names of the same kind of node.
        found["of"] = words["of"]
    return found


def is_aimed_so(step: Step, aim: ScopeChoice, scope: Scope) -> bool:
    """Tell whether a step says just what `aim` would make it say."""
    words = _drop_usual_of(step.words())
    return _drop_usual_of(with_nodes(with_assets(words, aim, scope), aim, scope)) == words


def _drop_usual_of(words: Mapping[str, Any]) -> dict[str, Any]:
    """Return a step's words without an `of` that says what is meant without it."""
    usual = "parts" if "parts" in words else "asset"
    return {k: v for k, v in words.items() if k != "of" or v != usual}


def aim_of(step: Step, scope: Scope) -> ScopeChoice:
    """Return what a step is for, as it would be chosen."""
    which: Which = "names"
    if step.for_ is None:
        which = "all"
    elif step.for_ == globs_for(scope.selected):
        which = "selected"
    target: Target = "names"
    names = tuple(step.parts or ("*",))
    of = step.target
    if of == "asset":
        target = "whole"
    elif step.parts is None and of in ("parts", "groups"):
        target = "parts" if of == "parts" else "groups"
    else:
        picked = ScopeChoice(which=which, globs=tuple(step.for_ or ()), target="picked")
        if scope.picked and is_aimed_so(step, picked, scope):
            target = "picked"
    return ScopeChoice(
        which=which, globs=tuple(step.for_ if step.for_ is not None else ("*",)), target=target, names=names
    )
