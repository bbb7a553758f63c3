"""What the finder finds: entries of every kind, those of the session among them, and which some letters mean."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from oak_square.app.facts.findings import finding_groups
from oak_square.app.facts.other_words import other_words
from oak_square.app.session.state import State
from oak_square.core.marking import is_unnamed
from oak_square.core.scene import Node
from oak_square.core.terms import term
from oak_square.core.words import counted, say

__all__ = ["KINDS_FOUND", "SETTLE", "FinderEntry", "ranked", "things_named", "things_of"]

KINDS_FOUND = ("action", "means", "asset", "part", "group", "mark", "datum", "berth", "finding", "setting", "manual")
"""What there is to be found."""

SETTLE = "settle/"
"""What stands before a finding's code where its step is meant, not those that have it."""

_START, _WORD, _WITHIN, _OTHER, _LETTERS = 0, 1, 2, 2.5, 4  # how far from what was meant a match of each sort is


@dataclass(frozen=True, slots=True, kw_only=True)
class FinderEntry:
    """One thing that can be found and run.

    Attributes
    ----------
    name : str
        What it is, in a way that lasts: its kind, a colon, and its own name.
    words : str
        What it is called.
    hint : str
        Where it is, or what it does.
    keys : tuple of str
        The keys that do the same.
    """

    name: str
    words: str
    hint: str = ""
    keys: tuple[str, ...] = ()

    @property
    def kind(self) -> str:
        """One of `KINDS_FOUND`."""
        return self.name.partition(":")[0]

    @property
    def own(self) -> str:
        """Its own name, without the kind."""
        return self.name.partition(":")[2]


def things_of(session: State) -> list[FinderEntry]:
    """Return the assets, parts, groups, marks, datums, berths and findings there are."""
    nodes = (_node_entry(file, k, node) for file, asset in session.assets.items() for k, node in enumerate(asset.nodes))
    return [*_list_named_things(session), *(_make_asset_entry(file) for file in session.rows), *nodes]


def things_named(session: State, names: Iterable[str]) -> dict[str, FinderEntry]:
    """Return those of `things_of` that have one of these names and are there now."""
    names = list(names)
    few = any(name.startswith(("finding:", "mark:", "datum:", "berth:")) for name in names)
    found = {entry.name: entry for entry in _list_named_things(session)} if few else dict[str, FinderEntry]()
    for name in names:
        kind, _, own = name.partition(":")
        file, _, node = own.partition("\n")
        if kind == "asset" and own in session.rows:
            found[name] = _make_asset_entry(own)
        elif kind in ("part", "group") and file in session.assets:
            nodes = session.assets[file].nodes
            k = next((k for k, each in enumerate(nodes) if node == f"{k}\n{each.name}"), None)
            if k is not None:
                found[name] = _node_entry(file, k, nodes[k])
    return found


def _list_named_things(session: State) -> list[FinderEntry]:
    groups = finding_groups(session)[0]
    found = [FinderEntry(name=f"finding:{g.code}", words=g.title, hint=_describe_files(g.files)) for g in groups]
    found += [
        FinderEntry(
            name=f"finding:{SETTLE}{g.code}", words=say("Settle: {title}", title=g.title), hint=_describe_files(g.files)
        )
        for g in groups
        if g.settles
    ]
    sheet = session.document.sheet
    found += [
        FinderEntry(name=f"mark:{name}", words=name, hint=say("{kind} on {on}", kind=term(mark.kind), on=mark.on))
        for name, mark in sheet.marks.items()
        if not is_unnamed(name)
    ]
    found += [
        FinderEntry(name=f"datum:{name}", words=name, hint=say("use it, or put it aside")) for name in sheet.datums
    ]
    return found + [
        FinderEntry(name=f"berth:{name}", words=name, hint=say("set down what is selected")) for name in sheet.berths
    ]


def _make_asset_entry(file: str) -> FinderEntry:
    return FinderEntry(name=f"asset:{file}", words=file)


def _node_entry(file: str, k: int, node: Node) -> FinderEntry:
    kind = "group" if node.mesh is None else "part"
    return FinderEntry(name=f"{kind}:{file}\n{k}\n{node.name}", words=node.name, hint=file)


def ranked(entries: Iterable[FinderEntry], letters: str, most: int = 200) -> list[FinderEntry]:
    """Return the entries that some letters mean, the likeliest first.

    Each word that is typed begins a word of the entry, lies within it, or has its letters in it in this order; words
    count before hints, whole beginnings before all else, and short entries before long ones.
    """
    words = letters.casefold().split()
    if not words:
        return list(entries)[:most]
    found: list[tuple[float, int, FinderEntry]] = []
    for k, entry in enumerate(entries):
        away = _rate_entry(entry, words)
        if away is not None:
            found.append((away, k, entry))
    found.sort(key=lambda each: each[:2])
    return [entry for _, _, entry in found[:most]]


def _rate_entry(entry: FinderEntry, words: Sequence[str]) -> float | None:
    """Return how far an entry is from what was typed; None where it is not meant."""
    said, hint = entry.words.casefold(), f"{term(entry.kind)} {entry.hint}".casefold()
    # What says all of it in one go is meant before what has the words here and there.
    total = len(said) / 1000 - (1.5 if len(words) > 1 and " ".join(words) in said else 0.0)
    for word in words:
        near = _rate_nearness(said, word)
        if near is None or near >= _LETTERS:
            behind = _rate_nearness(hint, word)
            near = near if behind is None or behind >= _LETTERS else 3.0 + behind / 10
        if near is None or near >= _LETTERS:
            also = any(other.startswith(word) for other in other_words(entry.name).casefold().split())
            near = _OTHER if also else near
        if near is None:
            return None
        total += near
    return total


def _rate_nearness(text: str, word: str) -> float | None:
    at = text.find(word)
    if at == 0:
        return _START
    if at > 0:
        begins = any(text[k - 1] in " _-./(,›" for k in range(at, len(text)) if text.startswith(word, k) and k)
        return _WORD if begins else _WITHIN
    # Letters in their order, each as near behind the last one as can be: few apart are meant, many are chance.
    first = last = -1
    for letter in word:
        last = text.find(letter, last + 1)
        if last < 0:
            return None
        first = last if first < 0 else first
    gaps = last - first + 1 - len(word)
    return _LETTERS + gaps / 10 if len(word) > 1 and gaps <= 2 * len(word) + 4 else None


def _describe_files(files: Sequence[str]) -> str:
    return counted(len(files), "asset") if len(files) != 1 else files[0]
