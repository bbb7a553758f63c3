"""What differs between two sheets, in lines: their heads, the things that have names, and their steps one by one."""

from __future__ import annotations

import json
from collections.abc import Iterator, Mapping
from difflib import SequenceMatcher
from typing import Any

from oak_square.core.boxes import EXTENTS
from oak_square.core.words import say
from oak_square.sheet.model import Sheet
from oak_square.steps.step import Step

__all__ = ["differences"]

_NAMED = (("datums", "datum"), ("berths", "berth"), ("marks", "mark"))
_ALL_AXES = ["x", "y", "z"]


def differences(one: Sheet, other: Sheet) -> list[str]:
    """Return what differs, a line each; none where both say the same.

    Comments, the order of keys and defaults that are spelled out don't count; titles and notes do.
    """
    found = list(_yield_pairs("title", {"": one.title}, {"": other.title}))
    deliver = [s.deliver.model_dump(exclude_defaults=True) for s in (one, other)]
    found += _yield_pairs("deliver", *deliver)
    for key, word in _NAMED:
        mine, theirs = ({n: m.model_dump(mode="json") for n, m in getattr(s, key).items()} for s in (one, other))
        found += _yield_pairs(word, mine, theirs)
    scenes = [s.set_out.model_dump(by_alias=True, exclude_defaults=True) if s.set_out else {} for s in (one, other)]
    found += _yield_pairs("set-out", *scenes)
    return [*found, *_yield_step_changes(one.steps, other.steps)]


def _yield_pairs(word: str, one: Mapping[str, Any], other: Mapping[str, Any]) -> Iterator[str]:
    for key in dict.fromkeys((*one, *other)):
        if one.get(key) != other.get(key):
            name = say("{word} {key}", word=word, key=key).strip()
            yield say(
                "{name}: {said} → {said_2}",
                name=name,
                said=_print_value(one.get(key)),
                said_2=_print_value(other.get(key)),
            )


def _print_value(value: Any) -> str:
    return "(none)" if value in (None, "", {}) else json.dumps(value, ensure_ascii=False)


def _yield_step_changes(one: tuple[Step, ...], other: tuple[Step, ...]) -> Iterator[str]:
    """Yield what differs between two lists of steps, which are matched by what they are."""
    words = [[plain_words(s) for s in steps] for steps in (one, other)]
    keys = [[json.dumps(w, sort_keys=True) for w in side] for side in words]
    left: list[int] = []
    added: list[int] = []
    for kind, a, b, c, d in SequenceMatcher(None, keys[0], keys[1], autojunk=False).get_opcodes():
        if kind != "equal":
            left += range(a, b)
            added += range(c, d)
    for i in list(left):
        k = next((k for k in added if keys[1][k] == keys[0][i]), None)
        if k is not None:
            left.remove(i)
            added.remove(k)
            yield say("step {i} ({do}): is step {k} there", i=i + 1, do=one[i].do, k=k + 1)
    for i in left:
        k = next((k for k in added if other[k].do == one[i].do), None)
        if k is None:
            yield say(
                "step {i} ({do}): only in the first: {said}", i=i + 1, do=one[i].do, said=_print_value(words[0][i])
            )
            continue
        added.remove(k)
        place = "" if i == k else say(", step {k} there", k=k + 1)
        for line in _yield_pairs("", words[0][i], words[1][k]):
            yield say("step {i} ({do}{place}): {line}", i=i + 1, do=one[i].do, place=place, line=line)
    for k in added:
        yield say(
            "step {k} ({do}): only in the second: {said}", k=k + 1, do=other[k].do, said=_print_value(words[1][k])
        )


def plain_words(step: Step) -> dict[str, Any]:
    """Return a step's words without what it would mean anyway."""
    words = step.words()
    whole = "parts" not in words and words.get("of", "asset") == "asset"
    usual: dict[str, Any] = {"along": "world"}
    if step.do == "turn":
        usual |= {"about": "pivot"}
    elif step.do == "size":
        several = sum(e in words for e in EXTENTS) > 1
        usual |= {"about": "base" if whole else "pivot", "keep": "none" if several else "proportions"}
    elif step.do == "pivot":
        target = words.get("of") or ("parts" if "parts" in words else "asset")
        usual |= {"of": "parts" if "parts" in words else "asset", "axes": "keep"}
        usual |= {"box": {"parts": "own", "groups": "tree"}.get(target)}
    elif step.do == "place":
        usual |= {"by": "base" if whole or words.get("as-one") else "pivot", "axes": _ALL_AXES}
    elif step.do in ("bake", "reset"):
        words["what"] = sorted(words.get("what", ["rotation", "scale"]))
    return {k: v for k, v in words.items() if k not in usual or v != usual[k]}
