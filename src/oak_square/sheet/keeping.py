"""A sheet's text, kept: steps that did not change come back as they were typed, with the comments above them."""

from __future__ import annotations

from dataclasses import dataclass
from difflib import SequenceMatcher

from ruamel.yaml import YAML
from ruamel.yaml.comments import CommentedMap, CommentedSeq

from oak_square.sheet.model import Sheet
from oak_square.sheet.text import dump_sheet, parse_sheet

__all__ = ["SheetText"]


@dataclass(frozen=True, slots=True, kw_only=True)
class SheetText:
    """A sheet as it was typed.

    Attributes
    ----------
    sheet : Sheet
        What it says.
    head : str
        All lines before the first step or the comments above it.
    blocks : tuple of (comments, body)
        Of each step: the comment and blank lines above it, and its own lines.
    tail : str
        What follows the last step.
    """

    sheet: Sheet
    head: str
    blocks: tuple[tuple[str, str], ...]
    tail: str

    @staticmethod
    def of(text: str, file: str) -> SheetText | None:
        """Return the text taken apart; None when its steps do not stand on lines of their own.

        Raises
        ------
        BadSheet
            If it is no sheet.
        """
        sheet = parse_sheet(text, file)
        raw = YAML(typ="rt").load(text)
        steps = raw.get("steps")
        keys = {k: raw.lc.key(k)[0] for k in raw}
        if (
            not isinstance(steps, CommentedSeq)
            or not len(steps)
            or steps.fa.flow_style()
            or keys["steps"] != max(keys.values())
        ):
            return None
        lines = text.splitlines(keepends=True)
        starts = [steps.lc.item(k)[0] for k in range(len(steps))]
        tops = [_comments_above(lines, start, keys["steps"] + 1) for start in starts]
        ends = [*tops[1:], len(lines)]
        blocks = [
            ("".join(lines[top:start]), "".join(lines[start:end]))
            for top, start, end in zip(tops, starts, ends, strict=True)
        ]
        return SheetText(
            sheet=sheet, head="".join(lines[: tops[0] if tops else len(lines)]), blocks=tuple(blocks), tail=""
        )

    def saying(self, sheet: Sheet) -> str:
        """Return the text of `sheet`: this one's own lines wherever they still say it."""
        first = self.blocks[0][1] if self.blocks else "  "
        fresh = _fresh_blocks(sheet, first[: len(first) - len(first.lstrip(" "))])
        if (sheet.title, sheet.deliver) != (self.sheet.title, self.sheet.deliver):
            head = _head_with(self.head, sheet)
        else:
            head = self.head
        if not sheet.steps:
            return head if self.sheet.steps == () else f"{head.rstrip()} []\n"
        old = [s.model_dump_json() for s in self.sheet.steps]
        new = [s.model_dump_json() for s in sheet.steps]
        out: list[str] = []
        for kind, a, b, c, d in SequenceMatcher(None, old, new, autojunk=False).get_opcodes():
            for k in range(c, d):
                before = a + k - c
                comments = self.blocks[before][0] if kind != "insert" and before < b else ""
                moved = old.index(new[k]) if kind != "equal" and new[k] in old else None
                if kind == "equal":
                    out.append(comments + self.blocks[before][1])
                elif moved is not None:
                    # A step that only changed its place takes its own comments along.
                    out.append("".join(self.blocks[moved]))
                else:
                    out.append(comments + fresh[k])
        return _ended(head) + "".join(_ended(block) for block in out) + self.tail


def _comments_above(lines: list[str], start: int, lowest: int) -> int:
    top = start
    while top > lowest and lines[top - 1].strip().startswith("#"):
        top -= 1
    return top


def _fresh_blocks(sheet: Sheet, indent: str) -> list[str]:
    lines = dump_sheet(sheet).splitlines(keepends=True)
    at = next((k for k, line in enumerate(lines) if line.startswith("steps:")), len(lines)) + 1
    return [f"{indent}{line.strip()}\n" for line in lines[at:]]


def _ended(text: str) -> str:
    return text if not text or text.endswith("\n") else f"{text}\n"


def _head_with(head: str, sheet: Sheet) -> str:
    """Return the head with another title and delivery; comments between the keys stay."""
    yaml = YAML(typ="rt")
    raw = yaml.load(head) or CommentedMap()
    fresh = dump_sheet(sheet.model_copy(update={"steps": ()})).splitlines(keepends=True)
    lines = head.splitlines(keepends=True)
    keys = sorted((raw.lc.key(k)[0], k) for k in raw)
    for key in ("deliver", "title"):
        wanted = next((line for line in fresh if line.startswith(f"{key}:")), "")
        place = next((k for k, (_, name) in enumerate(keys) if name == key), None)
        if place is not None:
            start = keys[place][0]
            lines[start : _end_of_value(lines, start)] = [wanted] if wanted else []
        elif wanted:
            at = raw.lc.key("prep-sheet")[0] + 1
            lines.insert(at, wanted)
    return "".join(lines)


def _end_of_value(lines: list[str], start: int) -> int:
    end = start + 1
    while end < len(lines) and lines[end][:1] in {" ", "\t"} and not lines[end].strip().startswith("#"):
        end += 1
    return end
