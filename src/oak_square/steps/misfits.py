"""A step for several parts where its marks are not found on all of them: it goes ahead for those that it fits."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from oak_square.core.errors import Refused
from oak_square.core.node_names import patterns_for
from oak_square.core.scene import Asset
from oak_square.core.words import one_or_many, say
from oak_square.steps.setting import Setting
from oak_square.steps.step import Effect, Step

__all__ = ["Fit", "apply_where_it_fits", "named_in"]

_MOST_NAMED = 3


@dataclass(frozen=True, slots=True, kw_only=True)
class Fit:
    """What a step came to where it fits, and the positions of the nodes it was left out on, before the step."""

    effect: Effect
    left_out: tuple[int, ...] = ()


def apply_where_it_fits(step: Step, asset: Asset, setting: Setting) -> Fit:
    """Apply a step; one for several parts to those alone on which all marks are found that it names.

    Raises
    ------
    Refused
        If it fits none of them, or not all where the step says `all`; or as `Step.apply` does.
    Failed
        As `Step.apply` does.
    """
    misfits = {} if step.target == "asset" else _find_misfits(step, asset, setting)
    kept = [i for i in step.met(asset) if i not in misfits]
    if not misfits or not kept:
        return Fit(effect=step.apply(asset, setting))
    if step.all_:
        raise Refused(next(iter(misfits.values())))
    effect = step.model_copy(update={"parts": list(patterns_for(asset, kept))}).apply(asset, setting)
    names = [asset.nodes[i].name for i in misfits]
    more = say(" and {count} more", count=len(names) - _MOST_NAMED) if len(names) > _MOST_NAMED else ""
    warning = one_or_many(
        len(misfits),
        "{names}{more} stays as it is: {why}",
        "{names}{more} stay as they are: {why}",
        names=", ".join(f"'{name}'" for name in names[:_MOST_NAMED]),
        more=more,
        why=next(iter(misfits.values())),
    )
    told = Effect(
        asset=effect.asset, changed=effect.changed, detail=effect.detail, warnings=(*effect.warnings, warning)
    )
    return Fit(effect=told, left_out=tuple(misfits))


def _find_misfits(step: Step, asset: Asset, setting: Setting) -> dict[int, str]:
    """Return the nodes that a step is for and on which a mark that it names is not found, and why."""
    words = step.words()
    at = words.get("at")
    if isinstance(at, dict) and "onto" in at:
        words["at"] = {"onto": at["onto"]}  # what a point of another thing is, does not hang on the node
    marks = _list_own_marks(words)
    for key, frames in (("datum", setting.datums), ("berth", setting.berths)):
        named = (frames[name] for name in named_in(words, key) if name in frames)
        marks += [frame.mark for frame in named if frame.mark is not None and not frame.hangs]
    found = dict[int, str]()
    for i in step.met(asset) if marks else ():
        try:
            for mark in marks:
                setting.mark(mark, asset, i)
        except Refused as error:
            found[i] = str(error)
    return found


def _list_own_marks(words: Any) -> list[str]:
    """Return the marks that a step's words look for on the asset at hand, at any depth: none that is on another one."""
    if isinstance(words, list):
        return [name for w in words for name in _list_own_marks(w)]
    if not isinstance(words, dict) or {"mark", "of"} <= words.keys():
        return []
    own = [words["mark"]] if isinstance(words.get("mark"), str) else []
    return own + [name for w in words.values() for name in _list_own_marks(w)]


def named_in(words: Any, key: str) -> list[str]:
    """Return what a step's words name as `{key: NAME}`, at any depth."""
    if isinstance(words, list):
        return [name for w in words for name in named_in(w, key)]
    if not isinstance(words, dict):
        return []
    own = [words[key]] if isinstance(words.get(key), str) else []
    return own + [name for w in words.values() for name in named_in(w, key)]
