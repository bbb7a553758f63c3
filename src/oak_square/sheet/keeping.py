"""A sheet's text, kept: what did not change comes back as it was typed, comments and all.

The YAML package says where each value stands; its places in the text are changed, and nothing else. Steps that stand on
lines of their own take the comment lines above them along.
"""

from __future__ import annotations

import warnings
from collections.abc import Sequence
from dataclasses import dataclass, replace
from difflib import SequenceMatcher
from io import StringIO
from typing import Any

from ruamel.yaml import YAML
from ruamel.yaml.comments import CommentedMap, CommentedSeq
from ruamel.yaml.error import ReusedAnchorWarning, YAMLError
from ruamel.yaml.mergevalue import merge_attrib

from oak_square.core.errors import BadSheet
from oak_square.sheet.dumping import dump_sheet
from oak_square.sheet.model import Sheet
from oak_square.sheet.text import parse_sheet

__all__ = ["SheetText"]

_KEYS = ("title", "deliver", "datums", "berths", "marks", "set-out")
_OPENING = "prep-sheet"


@dataclass(frozen=True, slots=True, kw_only=True)
class SheetText:
    """A sheet as it was typed, and what it says."""

    sheet: Sheet
    text: str

    @staticmethod
    def of(text: str, file: str) -> SheetText:
        """Return the text with what it says.

        Raises
        ------
        BadSheet
            If it is no sheet.
        """
        return SheetText(sheet=parse_sheet(text, file), text=text)

    def saying(self, sheet: Sheet) -> str:
        """Return the text of `sheet`: this one's own words wherever they still say it.

        It always says just what `sheet` does: where words in their own places would not, the whole is written anew.
        """
        return self.told(sheet)[0]

    def told(self, sheet: Sheet) -> tuple[str, bool]:
        """Return the text of `sheet`, and whether it had to be written anew, its aliases spelled out.

        Comments are kept as far as they have a place, else all stand at the top.
        """
        if sheet == self.sheet:
            return self.text, False
        text = self._edit_text(sheet)
        if _says_sheet(text, sheet):
            return text, False
        plain = _without_aliases(self.text)
        if _says_sheet(plain, self.sheet):
            text = replace(self, text=plain)._edit_text(sheet)
            if _says_sheet(text, sheet):
                return text, True
        comments = [line for line in _comment_lines(self.text) if line.strip("# ")]
        return "".join(f"{line}\n" for line in comments) + dump_sheet(sheet), True

    def _edit_text(self, sheet: Sheet) -> str:
        """Return the text with what differs put in its place; empty where the text has no place for it."""
        try:
            with warnings.catch_warnings():
                warnings.simplefilter("error", ReusedAnchorWarning)
                return self._with_changes(sheet)
        except (YAMLError, ReusedAnchorWarning, LookupError, StopIteration, ValueError):
            return ""

    def _with_changes(self, sheet: Sheet) -> str:
        text = self.text
        if sheet.steps != self.sheet.steps:
            text = _with_steps(text, self.sheet, sheet)
        for key in _KEYS:
            name = key.replace("-", "_")
            if getattr(sheet, name) != getattr(self.sheet, name):
                text = _with_key(text, key, sheet)
        return text


def _says_sheet(text: str, sheet: Sheet) -> bool:
    """Tell whether a text is a sheet, and just this one, each anchor in it of one thing."""
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("error", ReusedAnchorWarning)
            YAML(typ="rt").compose(text)
        return parse_sheet(text, "") == sheet
    except (BadSheet, YAMLError, ReusedAnchorWarning, ValueError, LookupError):
        return False


def _without_aliases(text: str) -> str:
    """Return a text with what its aliases stand for in their place, comments kept; empty where that can't be done."""
    yaml = YAML(typ="rt")
    yaml.width = 4096
    yaml.indent(mapping=2, sequence=4, offset=2)
    yaml.preserve_quotes = True
    out = StringIO()
    try:
        yaml.dump(_spelled_out(yaml.load(text)), out)
    except (YAMLError, ValueError, TypeError, AttributeError, RecursionError):
        return ""
    return out.getvalue()


def _spelled_out(value: Any) -> Any:
    """Return a loaded value as copies of its own, without anchors and merges."""
    found: CommentedMap | CommentedSeq
    if isinstance(value, CommentedMap):
        found = CommentedMap((k, _spelled_out(v)) for k, v in value.items())
    elif isinstance(value, CommentedSeq):
        found = CommentedSeq(_spelled_out(v) for v in value)
    else:
        return _plain_scalar(value)
    value.copy_attributes(found)
    if value.anchor.value is not None:
        found.yaml_set_anchor(None)
    if hasattr(found, merge_attrib):
        delattr(found, merge_attrib)
    return found


def _plain_scalar(value: Any) -> Any:
    anchor = getattr(value, "anchor", None)
    if anchor is None or anchor.value is None:
        return value
    return str(value) if isinstance(value, str) else type(value).__mro__[1](value)


def _comment_lines(text: str) -> list[str]:
    """Return the comments of a text, each with its `#`."""
    found = list[str]()
    for token in YAML(typ="rt").scan(text):
        for row in token.comment or ():
            rows = row if isinstance(row, list) else [row]
            found += [line.strip() for r in rows if r is not None for line in r.value.splitlines() if line.strip()]
    return found


def _list_top_nodes(text: str) -> list[tuple[Any, Any]]:
    """Return the key and value nodes at the top of a text, each with its place."""
    found: list[tuple[Any, Any]] = YAML(typ="rt").compose(text).value
    return found


def _type_anew(sheet: Sheet) -> tuple[dict[str, str], list[str]]:
    """Return how a sheet would be typed anew: the lines of each key, and each step on one line."""
    lines, keys = dump_sheet(sheet).splitlines(), dict[str, str]()
    at = next(k for k, line in enumerate(lines) if line.startswith("steps:"))
    name = ""
    for line in lines[:at]:
        name = line.partition(":")[0] if line[:1].strip() else name
        keys[name] = f"{keys.get(name, '')}{line}\n"
    return keys, [line.strip().removeprefix("- ") for line in lines[at + 1 :] if line.strip()]


def _with_key(text: str, key: str, sheet: Sheet) -> str:
    """Return a text with a key at its top, such as its title, as `sheet` has it."""
    top, fresh = _list_top_nodes(text), _type_anew(sheet)[0].get(key, "")
    lines = text.splitlines(keepends=True)
    place = next((k for k, (name, _) in enumerate(top) if name.value == key), None)
    if place is None:
        at = next(value.end_mark.line for name, value in top if name.value == _OPENING) + 1
        return "".join([_end_line("".join(lines[:at])), fresh, *lines[at:]])
    name, value = top[place]
    if fresh.count("\n") == 1 and (value.id == "scalar" or value.flow_style):
        # In its own place, so that a comment behind it stays.
        told = fresh.partition(":")[2].strip()
        return f"{text[: value.start_mark.index]}{told}{text[value.end_mark.index :]}"
    first = name.start_mark.line
    return "".join([*lines[:first], fresh, *lines[_last_line(lines, value, first) + 1 :]])


def _last_line(lines: list[str], value: Any, first: int) -> int:
    """Return the last line of a value that starts on line `first`: a block ends ahead of what is less indented."""
    if value.id == "scalar" or value.flow_style:
        return int(value.end_mark.line)
    last = first
    for k in range(first + 1, len(lines)):
        if lines[k].strip() and lines[k][:1] not in {" ", "\t"} and not lines[k].startswith("- "):
            break
        last = k if lines[k].strip() and not lines[k].strip().startswith("#") else last
    return last


def _with_steps(text: str, before: Sheet, sheet: Sheet) -> str:
    steps = next((value for name, value in _list_top_nodes(text) if name.value == "steps"), None)
    fresh = _type_anew(sheet)[1]
    old, new = ([s.model_dump_json() for s in each.steps] for each in (before, sheet))
    changes = SequenceMatcher(None, old, new, autojunk=False).get_opcodes()
    if steps is None or steps.id != "sequence" or not steps.value:
        return _with_first_steps(text, steps, fresh)
    if steps.flow_style:
        return _in_a_flow_list(text, steps, fresh, changes)
    return _on_lines(text, steps, fresh, (old, new))


def _with_first_steps(text: str, steps: Any, fresh: list[str]) -> str:
    """Return a text that had no steps, with some."""
    block = "".join(f"\n  - {line}" for line in fresh)
    if steps is None:
        return f"{_end_line(text)}steps:{block}\n"
    behind = text[steps.end_mark.index :]
    return f"{text[: steps.start_mark.index].rstrip(' ')}{block}{behind if behind[:1] == chr(10) else chr(10) + behind}"


def _in_a_flow_list(text: str, steps: Any, fresh: list[str], changes: Sequence[tuple[str, int, int, int, int]]) -> str:
    """Return a text whose steps stand in brackets with some of them changed; the comments between them stay."""
    spans = [(node.start_mark.index, node.end_mark.index) for node in steps.value]
    edits: list[tuple[int, int, str]] = []
    for kind, a, b, c, d in changes:
        if kind == "equal":
            continue
        both = min(b - a, d - c)
        edits += [(*spans[a + k], fresh[c + k]) for k in range(both)]
        for start, end in spans[a + both : b]:
            edits.append((start, _past_comma(text, end), ""))
        more = fresh[c + both : d]
        if more and b < len(spans):
            edits.append((spans[b][0], spans[b][0], "".join(f"{line}, " for line in more)))
        elif more:
            edits.append((spans[-1][1], spans[-1][1], "".join(f", {line}" for line in more)))
    for start, end, told in sorted(edits, reverse=True):
        text = text[:start] + told + text[end:]
    return text


def _past_comma(text: str, at: int) -> int:
    """Return where what follows an item goes on: behind its comma, where it has one."""
    k = at
    while k < len(text) and text[k] in " \t\r\n":
        k += 1
    return k + 1 if text[k : k + 1] == "," else at


def _on_lines(text: str, steps: Any, fresh: list[str], both: tuple[list[str], list[str]]) -> str:
    """Return a text whose steps stand on lines of their own with some of them changed, each with its comments."""
    lines = text.splitlines(keepends=True)
    starts = [_dash_line(lines, node.start_mark.line) for node in steps.value]
    end = _last_line(lines, steps, starts[0]) + 1
    ends = [starts[0] if k else 0 for k in range(len(starts))]
    for k, node in enumerate(steps.value[:-1]):
        ends[k + 1] = max(ends[k + 1], _block_end(lines, node))
    tops = [_comments_above(lines, start, end) for start, end in zip(starts, ends, strict=True)]
    bounds = [*tops[1:], end]
    blocks = [
        ("".join(lines[top:start]), "".join(lines[start:stop]))
        for top, start, stop in zip(tops, starts, bounds, strict=True)
    ]
    indent = lines[starts[0]][: len(lines[starts[0]]) - len(lines[starts[0]].lstrip(" "))]
    head, tail = "".join(lines[: tops[0]]), "".join(lines[end:])
    if not fresh:
        # The list goes, what was written above its first step stays.
        return f"{head.rstrip()} []\n{tail}"
    old, new = both
    out: list[str] = []
    for kind, a, b, c, d in SequenceMatcher(None, old, new, autojunk=False).get_opcodes():
        for k in range(c, d):
            was = a + k - c
            comments = blocks[was][0] if kind != "insert" and was < b else ""
            moved = old.index(new[k]) if kind != "equal" and new[k] in old else None
            if kind == "equal":
                out.append(comments + blocks[was][1])
            elif moved is not None:
                # A step that only changed its place takes its own comments along.
                out.append("".join(blocks[moved]))
            else:
                out.append(f"{comments}{indent}- {fresh[k]}\n")
    return _end_line(head) + "".join(_end_line(block) for block in out) + tail


def _block_end(lines: list[str], node: Any) -> int:
    """Return the line behind a block of text that a step ends with, in which `#` is a letter as others; else 0."""
    while node.id != "scalar" and node.value:
        node = node.value[-1][1] if node.id == "mapping" else node.value[-1]
    if node.id != "scalar" or node.style not in ("|", ">"):
        return 0
    first = next((k for k in range(node.start_mark.line + 1, len(lines)) if lines[k].strip()), len(lines))
    indent = len(lines[first]) - len(lines[first].lstrip(" ")) if first < len(lines) else 0
    k = first
    while k < len(lines) and (not lines[k].strip() or len(lines[k]) - len(lines[k].lstrip(" ")) >= indent):
        k += 1
    return k


def _dash_line(lines: list[str], line: int) -> int:
    """Return the line of an item's dash, which may stand above the item."""
    while line > 0 and not lines[line].lstrip().startswith("-"):
        line -= 1
    return line


def _comments_above(lines: list[str], start: int, lowest: int) -> int:
    top = start
    while top > lowest and lines[top - 1].strip().startswith("#"):
        top -= 1
    return top


def _end_line(text: str) -> str:
    return text if not text or text.endswith("\n") else f"{text}\n"
