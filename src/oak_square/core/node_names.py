"""How a sheet names nodes: by their names, by their paths from the root, and by number among namesakes."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Collection, Sequence
from fnmatch import fnmatchcase
from functools import lru_cache
from glob import escape

from oak_square.core.errors import Failed, did_you_mean
from oak_square.core.memo import Memo
from oak_square.core.scene import Asset
from oak_square.core.words import say

__all__ = ["name_of", "names_of", "node_named", "nodes_named", "patterns_for", "same_nodes"]

_ESCAPED = re.compile(r"\[([*?[])\]")
_NAMES: Memo[tuple[str, ...]] = Memo()
_NUMBERED = re.compile(r"(.+)#([0-9]+)", re.DOTALL)


def nodes_named(asset: Asset, patterns: Sequence[str]) -> tuple[int, ...]:
    """Return the positions of the nodes that one of `patterns` fits, in the asset's order.

    A pattern fits a node's name; with a `/` in it, the node's path from the root, `*` within a level and `**` over
    levels. `#` and a number behind it say which one of those that fit, counted from 1. A node of that very name wins.
    """
    plain = {name for pattern in patterns if (name := _read_literal(pattern)) is not None}
    found = {i for i, node in enumerate(asset.nodes) if node.name in plain}
    there = {asset.nodes[i].name for i in found}
    for pattern in patterns:
        # Names that are no patterns are by far the most where many parts are picked.
        if _read_literal(pattern) not in there:
            found.update(_find_fitting(asset, pattern))
    return tuple(sorted(found))


def node_named(asset: Asset, name: str) -> int:
    """Return the position of the one node of that name, or that `name` fits as a pattern.

    Raises
    ------
    Failed
        If there is none, and the nearest name is suggested; or if there are several.
    """
    found = tuple(i for i, node in enumerate(asset.nodes) if node.name == name) or nodes_named(asset, (name,))
    if len(found) == 1:
        return found[0]
    if found:
        raise Failed(
            say(
                "{count} nodes are called '{name}': say which one with a number, as '{name}#1'",
                count=len(found),
                name=name,
            )
        )
    names = [node.name for node in asset.nodes]
    raise Failed(say("it has no node '{name}'{did_you_mean}", name=name, did_you_mean=did_you_mean(name, names)))


def name_of(asset: Asset, node: int) -> str:
    """Return the name that `node_named` finds a node by: its own, where no other has that."""
    return names_of(asset)[node]


def names_of(asset: Asset) -> tuple[str, ...]:
    """Return the name of each node, as `name_of` does; remembered for as long as the asset lives."""
    return _NAMES.of(asset, None, lambda: _name_nodes(asset))


def _name_nodes(asset: Asset) -> tuple[str, ...]:
    often, seen = Counter(node.name for node in asset.nodes), Counter[str]()
    found = list[str]()
    for i, node in enumerate(asset.nodes):
        seen[node.name] += 1
        alone = often[node.name] == 1
        found.append(node.name if alone else _number_node(asset, i, seen[node.name], often))
    return tuple(found)


def same_nodes(asset: Asset, nodes: Sequence[int], other: Asset) -> tuple[int, ...]:
    """Return where nodes of an asset are on another state of it: each by its name, and its number among namesakes.

    Those that are not there are left out, as are those past the last of an asset that has fewer.
    """
    places: dict[str, list[int]] = {}
    for i, node in enumerate(other.nodes):
        places.setdefault(node.name, []).append(i)
    found = list[int]()
    for i in (i for i in nodes if i < len(asset.nodes)):
        name = asset.nodes[i].name
        number = sum(node.name == name for node in asset.nodes[:i])
        found += places.get(name, [])[number : number + 1]
    return tuple(found)


def patterns_for(asset: Asset, nodes: Sequence[int]) -> tuple[str, ...]:
    """Return the shortest patterns that fit just these nodes: a name, where all that have it are meant."""
    namesakes, meant = Counter(node.name for node in asset.nodes), Counter(asset.nodes[i].name for i in nodes)
    numbered, found = names_of(asset), dict[str, None]()
    for i in nodes:
        name = asset.nodes[i].name
        found[escape(name) if meant[name] == namesakes[name] else numbered[i]] = None
    return tuple(found)


def _number_node(asset: Asset, node: int, number: int, names: Collection[str]) -> str:
    """Return the pattern that tells a node from its namesakes, of which it is the one of that number."""
    pattern = f"{escape(asset.nodes[node].name)}#{number}"
    # Another node may be called just that, which wins.
    if _read_literal(pattern) not in names:
        return pattern
    alike = [i for i in range(len(asset.nodes)) if _find_path(asset, i) == _find_path(asset, node)]
    path = "/".join(["**", *(escape(step).replace("/", "?") for step in _find_path(asset, node))])
    return f"{path}#{alike.index(node) + 1}"


def _find_fitting(asset: Asset, pattern: str) -> tuple[int, ...]:
    """Return the positions of the nodes that a pattern fits which is no node's very name."""
    numbered = _NUMBERED.fullmatch(pattern)
    if numbered is None:
        return _find_whole(asset, pattern)
    alike, number = _find_whole(asset, numbered[1]), numbered[2].lstrip("0")
    # More digits than there are nodes: past the last, whatever they say.
    return alike[int(number) - 1 :][:1] if number and len(number) <= len(str(len(alike))) else ()


def _find_whole(asset: Asset, pattern: str) -> tuple[int, ...]:
    """Return the positions of the nodes that a pattern fits as it stands: by name, by wildcards or by path."""
    name = _read_literal(pattern)
    found = tuple(i for i, node in enumerate(asset.nodes) if node.name == name)
    if not found and "/" in pattern:
        levels = pattern.split("/")
        found = tuple(i for i in range(len(asset.nodes)) if _fits_path(levels, _find_path(asset, i)))
    elif name is None:
        found = tuple(i for i, node in enumerate(asset.nodes) if fnmatchcase(node.name, pattern))
    return found


def _fits_path(levels: Sequence[str], path: Sequence[str]) -> bool:
    """Tell whether the patterns of levels fit a path whole; `**` fits any number of its names, none too."""
    reached = {0}
    for level in levels:
        if level == "**":
            reached = set(range(min(reached), len(path) + 1)) if reached else reached
        else:
            reached = {k + 1 for k in reached if k < len(path) and fnmatchcase(path[k], level)}
    return len(path) in reached


def _find_path(asset: Asset, node: int) -> tuple[str, ...]:
    """Return the names from the root to a node."""
    above = [node]
    while (parent := asset.nodes[above[-1]].parent) is not None:
        above.append(parent)
    return tuple(asset.nodes[i].name for i in reversed(above))


@lru_cache(maxsize=4096)
def _read_literal(pattern: str) -> str | None:
    """Return the name that a pattern without wildcards stands for; None where it has some."""
    bare = _ESCAPED.sub("", pattern)
    return None if any(c in bare for c in "*?[") else _ESCAPED.sub(r"\1", pattern)
