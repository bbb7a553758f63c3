"""From a sheet's text to plain containers that remember their lines, within bounds."""

from __future__ import annotations

import warnings
from typing import Any

from ruamel.yaml import YAML
from ruamel.yaml.comments import CommentedMap
from ruamel.yaml.error import MarkedYAMLError, ReusedAnchorWarning, YAMLError
from ruamel.yaml.events import AliasEvent, CollectionEndEvent, CollectionStartEvent, NodeEvent

from oak_square.core.errors import BadSheet
from oak_square.core.words import say

__all__ = ["MOST_VALUES", "parse_yaml", "plain_containers"]

MOST_VALUES = 200_000
"""Values in a sheet, aliases unfolded."""
_DEEPEST = 20


def parse_yaml(text: str, file: str) -> CommentedMap:
    """Return the top of a sheet's text, which remembers its lines.

    Raises
    ------
    BadSheet
        If it is no YAML, or none of a mapping.
    """
    try:
        _check_events(text, file)
        with warnings.catch_warnings():
            warnings.simplefilter("ignore", ReusedAnchorWarning)  # one may be given anew: the last holds
            raw = YAML(typ="rt").load(text)
    except MarkedYAMLError as error:
        mark = error.problem_mark or error.context_mark
        raise BadSheet(
            file, None if mark is None else mark.line + 1, str(error.problem or say("is no YAML"))
        ) from error
    except (YAMLError, ValueError, RecursionError) as error:
        raise BadSheet(file, None, say("is no YAML: {splitline}", splitline=str(error).splitlines()[0])) from error
    if not isinstance(raw, CommentedMap):
        raise BadSheet(file, 1, say("is no prep sheet: it should start with 'prep-sheet: 1'"))
    return raw


def _check_events(text: str, file: str) -> None:
    """Look through a text before anything is built of it.

    Raises
    ------
    BadSheet
        If it has a tag, which asks for something other than plain values; if an alias stands inside what it names; or
        if aliases unfold to more values than a sheet may have: with the line.
    """
    sizes: dict[str, int] = {}
    open_since: list[tuple[str | None, int]] = []
    total = 0
    for event in YAML(typ="safe", pure=True).parse(text):
        line = event.start_mark.line + 1
        if isinstance(event, AliasEvent):
            if event.anchor not in sizes:
                raise BadSheet(file, line, say("'*{anchor}' stands inside what it names", anchor=event.anchor))
            total += sizes[event.anchor]
        elif isinstance(event, NodeEvent):
            tag = getattr(event, "tag", None)
            if tag is not None and str(tag) != "!":
                raise BadSheet(file, line, say("the tag '{tag}' is not read: a sheet holds plain values", tag=tag))
            total += 1
            if isinstance(event, CollectionStartEvent):
                open_since.append((event.anchor, total))
            elif event.anchor is not None:
                sizes[event.anchor] = 1
        elif isinstance(event, CollectionEndEvent):
            anchor, since = open_since.pop()
            if anchor is not None:
                sizes[anchor] = total - since + 1
        if total > MOST_VALUES or len(open_since) > _DEEPEST:
            raise BadSheet(
                file,
                line,
                say(
                    "unfolds to over {_most_values} values, or over {_deepest} deep",
                    _most_values=MOST_VALUES,
                    _deepest=_DEEPEST,
                ),
            )


def plain_containers(value: Any, budget: list[int], depth: int = 0) -> Any:
    """Return plain containers; the budget stops aliases that unfold without end."""
    budget[0] -= 1
    if budget[0] < 0 or depth > _DEEPEST:
        raise ValueError(say("unfolds to too many values"))
    if isinstance(value, dict):
        return {str(k): plain_containers(v, budget, depth + 1) for k, v in value.items()}
    if isinstance(value, list):
        return [plain_containers(v, budget, depth + 1) for v in value]
    if isinstance(value, bool) or value is None:
        return value
    if isinstance(value, int):
        return int(value)
    if isinstance(value, float):
        return float(value)
    return str(value)
