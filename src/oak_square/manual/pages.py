"""The pages of the manual in their order, as text that a README reader and the window both show."""

from __future__ import annotations

import re
from dataclasses import dataclass
from functools import cache
from importlib.resources import files
from typing import Any, Literal, get_args, get_origin

from oak_square.core.findings.finding import KINDS
from oak_square.core.stages import STAGE_HELP, STAGES, stage_name
from oak_square.core.words import language, say
from oak_square.sheet.text import parse_sheet
from oak_square.steps.step import STEPS, Step

__all__ = ["Page", "pages"]

_WRITTEN = ("beginning", "size_books", "marks", "cookbook", "pipeline", "troubles")
_SCOPE_WORDS = say(
    "Every step may also carry `for`, `parts` (where it takes parts), `skip`, `paused`, `may-refuse`, `all` "
    "and `note`; they mean the same in all."
)
_LEVELS = {"fix": say("to be fixed"), "check": say("to be looked at"), "note": say("to be known")}


@dataclass(frozen=True, slots=True, kw_only=True)
class Page:
    """One page.

    Attributes
    ----------
    name : str
        What its file is called, without the suffix.
    title : str
    text : str
        Markdown, with its title as the first line.
    stage : str
        The stage it is for; empty where it is for all.
    """

    name: str
    title: str
    text: str
    stage: str = ""


@cache
def pages() -> tuple[Page, ...]:
    """Return all pages: how the work goes, the steps by stage, the findings, and the rest."""
    written = {name: _read_page(name) for name in _WRITTEN}
    stages = [_stage_page(stage) for stage in STAGES if any(step.stage == stage for step in STEPS.values())]
    rest = [written[name] for name in _WRITTEN[1:]]
    return (written["beginning"], *stages, _findings_page(), *rest)


def _read_page(name: str) -> Page:
    folder = files(__package__).joinpath("text")
    own = folder.joinpath(language(), f"{name}.md")
    text = (own if own.is_file() else folder.joinpath(f"{name}.md")).read_text("utf-8")
    return Page(name=name, title=text.partition("\n")[0].removeprefix("# "), text=text)


def _stage_page(stage: str) -> Page:
    title = say("The steps of {stage}", stage=stage_name(stage))
    lines = [f"# {title}", "", f"{STAGE_HELP[stage]}.", ""]
    for do, step in STEPS.items():
        if step.stage == stage:
            lines += _step_lines(do, step)
    lines += [_SCOPE_WORDS, ""]
    lines += [
        f"* `{_name_field(key)}`: {field.description}" for key, field in Step.model_fields.items() if field.description
    ]
    return Page(name=f"steps_{stage}", title=title, text="\n".join(lines) + "\n", stage=stage)


def _step_lines(do: str, step: type[Step]) -> list[str]:
    says = (step.__doc__ or "").split("\n\n")[0].replace("\n", " ").strip()
    lines = [f"## {do}", "", say(says), ""]
    if not step.takes_parts:
        lines += [say("It takes no `parts`."), ""]
    elif step.needs_parts:
        lines += [say("It needs `parts`."), ""]
    lines += [say("| field | may be | if it is left out | what it says |"), "| --- | --- | --- | --- |"]
    for key, field in step.model_fields.items():
        if key not in Step.model_fields:
            default = say("it must be given") if field.is_required() else _format_value(field.default)
            cells = (f"`{_name_field(key, step)}`", _may_be(field.annotation), default, field.description or "")
            lines.append(f"| {' | '.join(cell.replace('|', '¦') for cell in cells)} |")
    return [*lines, ""]


def _name_field(key: str, step: type[Step] = Step) -> str:
    return step.model_fields[key].alias or key


def _format_value(default: Any) -> str:
    if default is None or default == []:
        return ""
    return f"`{str(default).lower() if isinstance(default, bool) else default}`".replace("'", "")


def _may_be(annotation: Any) -> str:
    """Return what a field may be, in a few words."""
    found = list(dict.fromkeys(_list_kinds(annotation)))
    return ", ".join(found) if found else say("see there")


def _list_kinds(annotation: Any) -> list[str]:
    if annotation is type(None):
        return []
    if get_origin(annotation) is Literal:
        return [f"`{value}`" for value in get_args(annotation)]
    words = {bool: "`true`", float: say("a number"), int: say("a number"), str: say("text, or a length")}
    if annotation in words:
        return [words[annotation]]
    inner = get_args(annotation)
    if get_origin(annotation) is list:
        return [say("a list of ") + ", ".join(_list_kinds(inner[0]))]
    if get_origin(annotation) is dict:
        return [say("named values")]
    if inner and hasattr(annotation, "__metadata__"):
        return _list_kinds(inner[0])
    if inner:
        return [kind for each in inner for kind in _list_kinds(each)]
    fields = getattr(annotation, "model_fields", None)
    return ["`{" + ", ".join(f.alias or k for k, f in fields.items()) + "}`"] if fields else [say("as it says")]


def _findings_page() -> Page:
    title = say("What can be found, why it matters, and what settles it")
    lines = [f"# {title}", ""]
    for stage in STAGES:
        kinds = {code: kind for code, kind in KINDS.items() if kind.stage == stage}
        if kinds:
            lines += [f"## {stage_name(stage)}", ""]
        for code, kind in kinds.items():
            lines += [f"**{kind.title}** (`{code}`, {_LEVELS[kind.level]}). {kind.why} {_find_remedy(code)}", ""]
    return Page(name="findings", title=title, text="\n".join(lines))


def _find_remedy(code: str) -> str:
    """Return what settles a finding."""
    kind = KINDS[code]
    if kind.remedy is not None:
        words = ", ".join(f"{k}: {_print_plain(v)}" for k, v in kind.remedy.items())
        return say("The step `{{{words}}}` settles it.", words=words)
    if kind.asks == "unit":
        return say("A `unit` step with the likeliest unit settles it.")
    if kind.asks == "up":
        return say("A `turn` step with the likeliest sides settles it.")
    return f"{kind.by_hand}." if kind.by_hand else say("No step settles it: it is in the file itself.")


def _print_plain(value: Any) -> str:
    if isinstance(value, bool):
        return str(value).lower()
    return f"[{', '.join(map(str, value))}]" if isinstance(value, list) else str(value)


def sheets_in(text: str) -> list[str]:
    """Return the prep sheets that stand in a page, each found well formed."""
    found = [block for block in re.findall(r"```yaml\n(.*?)```", text, re.S) if block.startswith("prep-sheet:")]
    for block in found:
        parse_sheet(block, say("the manual"))
    return found
