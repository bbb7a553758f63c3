"""A prep sheet as the text that people would type: what it means anyway is left out."""

from __future__ import annotations

from collections.abc import Mapping
from io import StringIO
from typing import Any

from pydantic import BaseModel
from ruamel.yaml import YAML
from ruamel.yaml.comments import CommentedMap, CommentedSeq

from oak_square.sheet.model import Sheet

__all__ = ["dump_sheet", "sheet_words"]


def sheet_words(sheet: Sheet) -> dict[str, Any]:
    """Return the sheet as plain words, as people type them: what it means anyway is left out."""
    top: dict[str, Any] = {"prep-sheet": 1}
    if sheet.title:
        top["title"] = sheet.title
    deliver = sheet.deliver.model_dump(exclude_defaults=True)
    if deliver:
        top["deliver"] = deliver
    for key in ("datums", "berths", "marks"):
        named: Mapping[str, BaseModel] = getattr(sheet, key)
        if named:
            top[key] = {name: model.model_dump(exclude_defaults=True) for name, model in named.items()}
    if sheet.set_out is not None:
        top["set-out"] = sheet.set_out.model_dump(by_alias=True, exclude_defaults=True)
    return top | {"steps": [step.words() for step in sheet.steps]}


def dump_sheet(sheet: Sheet) -> str:
    """Return the sheet as YAML, one step a line, in the form people type."""
    yaml = YAML()
    yaml.default_flow_style = False
    yaml.width = 4096
    yaml.indent(mapping=2, sequence=4, offset=2)
    top = CommentedMap(sheet_words(sheet))
    if "deliver" in top:
        top["deliver"] = _on_one_line(top["deliver"])
    for key in ("datums", "berths", "marks"):
        if key in top:
            top[key] = CommentedMap({name: _on_one_line(words) for name, words in top[key].items()})
    if "set-out" in top:
        told = top["set-out"].items()
        top["set-out"] = CommentedMap({k: _on_one_line(v) if k in ("at", "row") else v for k, v in told})
    top["steps"] = CommentedSeq(_on_one_line(words) for words in top["steps"])
    out = StringIO()
    yaml.dump(top, out)
    return out.getvalue()


def _on_one_line(words: Mapping[str, Any]) -> CommentedMap:
    found = CommentedMap(words)
    found.fa.set_flow_style()
    return found
