"""Gathers all that is said into the files of translations, and compiles them: `python scripts/words.py`.

What is no longer said is dropped, what is new stands there as unfinished, and the window says it in English. Before a
release, `python scripts/words.py --release` ends with 1 while something is unfinished, and names it.
"""

from __future__ import annotations

import ast
import inspect
import re
import subprocess
import sys
import xml.etree.ElementTree as ET
from collections.abc import Iterator
from pathlib import Path
from xml.sax.saxutils import escape

from oak_square.core.terms import TERMS
from oak_square.languages import CONTEXT
from oak_square.steps.step import STEPS

ROOT = Path(__file__).resolve().parent.parent
SOURCE = ROOT / "src" / "oak_square"
FOLDER = ROOT / "translations"
Key = tuple[str, str]
_LOCALES = {"de": "de_DE"}
_LETTER = re.compile(r"[^\W\d_]")
_PART = re.compile(r"\{[^{}]*\}")


def said() -> dict[Key, bool]:
    """Return every pattern that the package says, each with its sense, and whether it is told of one and of many."""
    found: dict[Key, bool] = {}
    for path in sorted(SOURCE.rglob("*.py")):
        if path.parent.name == "commands" or path.name == "cli.py":
            continue  # the commands speak English, and have a function of that name of their own
        for key, plural in _of_tree(ast.parse(path.read_text("utf-8"))):
            found[key] = found.get(key, False) or plural
    for word in TERMS:
        found.setdefault((word, ""), False)
    for step in STEPS.values():
        found.setdefault((first_words(step), ""), False)
    return {key: plural for key, plural in found.items() if _LETTER.search(_PART.sub("", key[0]))}


def first_words(kind: type) -> str:
    """Return what the manual says of a step: the first paragraph of its docstring."""
    return inspect.cleandoc(kind.__doc__ or "").split("\n\n")[0].replace("\n", " ").strip()


def _of_tree(tree: ast.AST) -> Iterator[tuple[Key, bool]]:
    for node in ast.walk(tree):
        if not isinstance(node, ast.Call) or not isinstance(node.func, ast.Name):
            continue
        texts = [a.value if isinstance(a, ast.Constant) and isinstance(a.value, str) else None for a in node.args]
        name = node.func.id
        if name in {"say", "term"} and texts and texts[0] is not None:
            yield (texts[0], (texts[1] or "") if len(texts) > 1 else ""), False
        elif name == "one_or_many" and len(texts) == 3 and texts[2] is not None:
            yield (texts[2], ""), True
        elif name == "counted" and len(texts) > 1 and texts[1] is not None:
            many = texts[2] if len(texts) > 2 else f"{texts[1]}s"
            yield (f"{{count}} {many}", ""), True


def read(path: Path) -> dict[Key, list[str]]:
    """Return the translations a file has, each with its forms."""
    if not path.exists():
        return {}
    found = {}
    for message in ET.parse(path).getroot().iter("message"):
        key = (message.findtext("source") or "", message.findtext("comment") or "")
        translation = message.find("translation")
        if translation is None or translation.get("type") == "unfinished":
            continue
        forms = [form.text or "" for form in translation.iter("numerusform")]
        found[key] = forms or [translation.text or ""]
    return found


def written(code: str, known: dict[Key, list[str]]) -> str:
    """Return a file of translations for all that is said, with those that are known, a line each."""
    head = f'<TS version="2.1" language="{_LOCALES[code]}" sourcelanguage="en"><context><name>{CONTEXT}</name>'
    lines = [_written_line(key, plural, known.get(key)) for key, plural in sorted(said().items())]
    return "\n".join(['<?xml version="1.0" encoding="utf-8"?>', "<!DOCTYPE TS>", head, *lines, "</context></TS>", ""])


def _written_line(key: Key, plural: bool, known: list[str] | None) -> str:
    pattern, sense = (_escaped(text) for text in key)
    forms = [_escaped(form) for form in known or ([""] * (2 if plural else 1))]
    translation = "".join(f"<numerusform>{form}</numerusform>" for form in forms) if plural else forms[0]
    opening = '<message numerus="yes">' if plural else "<message>"
    comment = f"<comment>{sense}</comment>" if sense else ""
    state = "" if known else ' type="unfinished"'
    return f"{opening}<source>{pattern}</source>{comment}<translation{state}>{translation}</translation></message>"


def _escaped(text: str) -> str:
    return escape(text, {"\n": "&#10;"})


def compiled(source: Path, target: Path) -> None:
    """Write the form of a file of translations that Qt reads."""
    tool = Path(sys.executable).parent / "pyside6-lrelease"
    subprocess.run([tool, "-silent", source, "-qm", target], check=True)


if __name__ == "__main__":
    place = FOLDER / "de.ts"
    text = written("de", read(place))
    place.write_text(text, "utf-8")
    compiled(place, SOURCE / "languages" / "de.qm")
    unfinished = sorted(set(said()) - set(read(place)))
    print(f"{place}: {len(unfinished)} of {len(said())} unfinished", file=sys.stderr)
    if "--release" in sys.argv:
        print("\n".join(repr(pattern) for pattern, _ in unfinished), end="\n" * bool(unfinished), file=sys.stderr)
        sys.exit(1 if unfinished else 0)
