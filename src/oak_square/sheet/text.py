"""The sheet as YAML: read with the line of every mistake, written in the form people type."""

from __future__ import annotations

from collections.abc import Mapping
from pathlib import Path
from typing import Any, TypeVar

from pydantic import BaseModel, ValidationError
from pydantic_core import ErrorDetails
from ruamel.yaml import YAML
from ruamel.yaml.comments import CommentedMap, CommentedSeq

from oak_square.core.errors import BadSheet, did_you_mean
from oak_square.core.words import say
from oak_square.sheet.model import Deliver, Frame, Mark, Sheet
from oak_square.sheet.parsing import MOST_VALUES, parse_yaml, plain_containers
from oak_square.sheet.set_out import SetOut
from oak_square.steps.misfits import named_in
from oak_square.steps.step import STEPS, Step

__all__ = ["in_words", "load_sheet", "parse_sheet", "step_line"]

M = TypeVar("M", bound=BaseModel)

_MOST_BYTES = 4_000_000


def load_sheet(path: Path) -> tuple[Sheet, bytes]:
    """Return the sheet in the file at `path`, and the file's bytes.

    Raises
    ------
    BadSheet
        If it can't be read, or says something impossible: with file and line.
    """
    try:
        if path.exists() and not path.is_file():
            raise BadSheet(str(path), None, say("is no file"))
        if path.stat().st_size > _MOST_BYTES:
            raise BadSheet(
                str(path),
                None,
                say("larger than the {_most_bytes} MB a sheet may be", _most_bytes=_MOST_BYTES // 1_000_000),
            )
        data = path.read_bytes()
        text = data.decode("utf-8-sig")
    except OSError as error:
        raise BadSheet(str(path), None, say("can't be read: {strerror}", strerror=error.strerror)) from error
    except UnicodeDecodeError as error:
        raise BadSheet(str(path), None, say("is not UTF-8 text")) from error
    return parse_sheet(text, str(path)), data


def parse_sheet(text: str, file: str) -> Sheet:
    """Return the sheet that `text` says; `file` is named in errors.

    Raises
    ------
    BadSheet
        With the line of the first mistake.
    """
    raw = parse_yaml(text, file)
    return _Reader(file).sheet(raw)


def step_line(data: bytes, number: int | None) -> int | None:
    """Return the line that step `number`, counting from 1, begins on in a sheet that was read."""
    steps = YAML(typ="rt").load(data.decode("utf-8-sig")).get("steps")
    return None if number is None else _item_line(steps, number - 1)


class _Reader:
    """Turns YAML nodes into models, naming line and field of what is wrong."""

    def __init__(self, file: str) -> None:
        self.file = file

    def fail(self, line: int | None, reason: str) -> BadSheet:
        return BadSheet(self.file, line, reason)

    def sheet(self, raw: CommentedMap) -> Sheet:
        try:
            plain = plain_containers(raw, [MOST_VALUES])
        except (ValueError, OverflowError) as error:
            raise self.fail(None, str(error)) from error
        known = ("prep-sheet", "title", "deliver", "datums", "berths", "marks", "set-out", "steps")
        for key in plain:
            if key not in known:
                raise self.fail(
                    _find_line(raw, key),
                    say("unknown key '{key}'{did_you_mean}", key=key, did_you_mean=did_you_mean(key, known)),
                )
        version = plain.get("prep-sheet")
        if version != 1 or isinstance(version, bool):
            said = (
                say("no 'prep-sheet: 1'")
                if version is None
                else say("prep-sheet {version} is not known; this is version 1", version=version)
            )
            raise self.fail(_find_line(raw, "prep-sheet"), said)
        deliver = self.model(Deliver, plain.get("deliver") or {}, raw.get("deliver"), "deliver")
        title = plain.get("title") or ""
        if not isinstance(title, str):
            title = str(title)
        datums, berths = (self.named(Frame, plain, raw, key) for key in ("datums", "berths"))
        marks = self.named(Mark, plain, raw, "marks")
        steps = self.steps(plain.get("steps"), raw)
        told = plain.get("set-out")
        set_out = None if told is None else self.model(SetOut, told, raw["set-out"], "set-out")
        sheet = Sheet(
            title=title, deliver=deliver, datums=datums, berths=berths, marks=marks, set_out=set_out, steps=steps
        )
        self.check_names(sheet, raw)
        self.check_set_out(sheet, raw)
        lacking = sheet.without_module()
        if lacking is not None:
            line, word = _item_line(raw["steps"], lacking), steps[lacking].do
            reason = say("'mod' needs a module length (deliver.module in the sheet)")
            raise self.fail(
                line, say("step {lacking} ({word}): {reason}", lacking=lacking + 1, word=word, reason=reason)
            )
        return sheet

    def check_names(self, sheet: Sheet, raw: CommentedMap) -> None:
        """Make sure that every datum, berth and mark that is named is declared, and that what points has a way."""
        for key, frames in (("datums", sheet.datums), ("berths", sheet.berths)):
            for name, frame in frames.items():
                for mark in named_in(frame.model_dump(), "mark"):
                    if mark not in sheet.marks:
                        reason = say(
                            "{key} {name}: no mark '{mark}' is declared{did_you_mean}",
                            key=key,
                            name=name,
                            mark=mark,
                            did_you_mean=did_you_mean(mark, sheet.marks),
                        )
                        raise self.fail(_find_line(raw[key], name), reason)
        declared: dict[str, Mapping[str, Any]] = {"datum": sheet.datums, "berth": sheet.berths, "mark": sheet.marks}
        for i, step in enumerate(sheet.steps):
            words, line = step.words(), _item_line(raw.get("steps"), i)
            for kind, there in declared.items():
                for name in named_in(words, kind):
                    if name not in there:
                        hint = did_you_mean(name, there)
                        raise self.fail(
                            line,
                            say(
                                "step {i} ({do}): no {kind} '{name}' is declared{hint}",
                                i=i + 1,
                                do=step.do,
                                kind=kind,
                                name=name,
                                hint=hint,
                            ),
                        )
            for name in _list_pointing_marks(words):
                if sheet.marks[name].kind == "vertex":
                    reason = say(
                        "step {i} ({do}): mark '{name}' is a vertex, which points nowhere",
                        i=i + 1,
                        do=step.do,
                        name=name,
                    )
                    raise self.fail(line, reason)

    def check_set_out(self, sheet: Sheet, raw: CommentedMap) -> None:
        """Make sure that the berths of a set-out are declared, by numbers, and that its scene can hold what comes."""
        told = sheet.set_out
        if told is None:
            return
        line = _find_line(raw, "set-out")
        for name, berth in told.berths():
            own = _find_line(raw["set-out"]["at"], name)
            if berth not in sheet.berths:
                raise self.fail(
                    own,
                    say(
                        "set-out: no berth '{berth}' is declared{did_you_mean}",
                        berth=berth,
                        did_you_mean=did_you_mean(berth, sheet.berths),
                    ),
                )
            frame = sheet.berths[berth]
            if not isinstance(frame.at, list) and frame.of is None:
                raise self.fail(
                    own,
                    say(
                        "set-out: berth '{berth}' is at a mark: where it lies among the others is unknown", berth=berth
                    ),
                )
        if told.references and sheet.deliver.format not in ("same", "usda", "usdc"):
            raise self.fail(
                line,
                say(
                    "set-out: '{file}' refers to USD files, and {format} is delivered",
                    file=told.file,
                    format=sheet.deliver.format,
                ),
            )
        row = told.row
        if row is not None and sheet.deliver.module is None and str(row.gap).strip().endswith("mod"):
            raise self.fail(line, say("set-out: 'mod' needs a module length (deliver.module in the sheet)"))

    def named(self, kind: type[M], top: dict[str, Any], raw: CommentedMap, key: str) -> dict[str, M]:
        plain = top.get(key)
        if plain is None:
            return {}
        if not isinstance(plain, dict):
            what, form = "frames", "{at: [x, y, z]}"
            if kind is Mark:
                what, form = "marks", say("{on: PART, kind: …, where: […]}")
            raise self.fail(
                _find_line(raw, key),
                say("{key} must name {what}, one 'NAME: {form}' each", key=key, what=what, form=form),
            )
        return {n: self.model(kind, words or {}, raw[key].get(n), f"{key} {n}") for n, words in plain.items()}

    def steps(self, plain: Any, raw: CommentedMap) -> tuple[Step, ...]:
        if plain is None:
            return ()
        if not isinstance(plain, list):
            raise self.fail(_find_line(raw, "steps"), say("steps must be a list, one '- {do: …}' each"))
        found = []
        for i, words in enumerate(plain):
            node = raw["steps"][i]
            line = _item_line(raw["steps"], i)
            if not isinstance(words, dict) or "do" not in words:
                raise self.fail(line, say("step {i} does not say what to do ('do: …')", i=i + 1))
            do = str(words["do"])
            kind = STEPS.get(do)
            if kind is None:
                hint = did_you_mean(do, STEPS) or say(" (steps are {names})", names=", ".join(sorted(STEPS)))
                raise self.fail(
                    _find_line(node, "do") or line, say("step {i}: '{do}' is no step{hint}", i=i + 1, do=do, hint=hint)
                )
            if not kind.takes_parts and words.get("parts") is not None:
                raise self.fail(
                    _find_line(node, "parts"),
                    say("step {i} ({do}): a reading is of the file, it takes no parts", i=i + 1, do=do),
                )
            found.append(self.model(kind, words, node, say("step {i} ({do})", i=i + 1, do=do)))
        return tuple(found)

    def model(self, kind: type[M], words: Any, node: Any, what: str) -> M:
        try:
            return kind.model_validate(words)
        except ValidationError as error:
            first = error.errors()[0]
            raise self.fail(
                _line_of(node, first["loc"]), say("{what}: {in_words}", what=what, in_words=_in_words(first, kind))
            ) from error


def _list_pointing_marks(words: Any) -> list[str]:
    """Return the marks whose way a step's words speak of, at any depth."""
    if isinstance(words, list):
        return [name for w in words for name in _list_pointing_marks(w)]
    if not isinstance(words, dict):
        return []
    own = [w["mark"] for key in ("bring", "to") if isinstance(w := words.get(key), dict) and "mark" in w]
    return own + [name for w in words.values() for name in _list_pointing_marks(w)]


def _find_line(node: Any, key: str) -> int | None:
    try:
        return int(node.lc.key(key)[0]) + 1
    except (AttributeError, KeyError, TypeError):
        return _own_line(node)


def _item_line(node: Any, index: int) -> int | None:
    try:
        return int(node.lc.item(index)[0]) + 1
    except (AttributeError, KeyError, TypeError):
        return _own_line(node)


def _own_line(node: Any) -> int | None:
    line = getattr(getattr(node, "lc", None), "line", None)
    return None if line is None else int(line) + 1


def _line_of(node: Any, loc: tuple[int | str, ...]) -> int | None:
    line = _own_line(node)
    for key in loc:
        if isinstance(node, CommentedMap) and isinstance(key, str) and key in node:
            line, node = _find_line(node, key), node[key]
        elif isinstance(node, CommentedSeq) and isinstance(key, int) and key < len(node):
            line, node = _item_line(node, key), node[key]
    return line


def _in_words(error: ErrorDetails, kind: type[BaseModel]) -> str:
    # What pydantic tried on the way is news to no one.
    tried = ("literal[", "list[", "constrained", "function-", "tried-", "[key]")
    where = ".".join(str(k) for k in error["loc"] if k not in {"float", "str"} and not str(k).startswith(tried))
    if error["type"] == "extra_forbidden":
        known = [f.alias or name for name, f in kind.model_fields.items()]
        return say("unknown key '{where}'{did_you_mean}", where=where, did_you_mean=did_you_mean(where, known))
    if error["type"] == "missing":
        return say("'{where}' is missing", where=where)
    if error["type"] == "literal_error":
        expected = str(error.get("ctx", {}).get("expected", ""))
        words = [w.strip(" '") for w in expected.replace(" or ", ",").split(",")]
        hint = did_you_mean(str(error["input"]), words)
        return say(
            "{where}: '{error}' is not one of {expected}{hint}",
            where=where,
            error=error["input"],
            expected=expected,
            hint=hint,
        )
    message = error["msg"].removeprefix("Value error, ")
    message = message[:1].lower() + message[1:]
    return say("{where}: {message}", where=where, message=message) if where else message


def in_words(kind: type[BaseModel], words: Any) -> str:
    """Return what is wrong with a step's words, in words; empty when nothing is."""
    try:
        kind.model_validate(words)
    except ValidationError as error:
        return _in_words(error.errors()[0], kind)
    return ""
