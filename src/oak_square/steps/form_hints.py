"""How a form shows the fields of a step: what each is called, of which kind it is, and whether it is folded away.

A field tells most of it by its type; what it does not, it says beside it as `Annotated[..., FormHint(...)]`.
"""

from __future__ import annotations

from dataclasses import dataclass
from types import UnionType
from typing import Annotated, Any, Literal, Union, get_args, get_origin

from pydantic import BaseModel
from pydantic.fields import FieldInfo

from oak_square.core.terms import term
from oak_square.steps.centre import DatumName, MarkPlace, PartPlace
from oak_square.steps.edited import SHARED
from oak_square.steps.setting import Length
from oak_square.steps.step import Step

__all__ = ["FORM_KINDS", "FormField", "FormHint", "form_fields"]

FORM_KINDS = (
    "flag", "choice", "ticks", "length", "lengths", "range", "number", "factor", "degrees", "along", "centre", "unit",
    "node", "asset", "text", "words",
)  # fmt: skip
"""What a form has a control for; `words` takes what a sheet would say, of any field."""


@dataclass(frozen=True, slots=True, kw_only=True)
class FormHint:
    """What a field says of how it is shown, where its type does not.

    Attributes
    ----------
    word : str
        What stands before it, or on it; the field's own name where empty.
    tip : str
        What it does; the field's description where empty.
    over : str
        A heading above it, where a new group of fields begins.
    kind : str
        One of `FORM_KINDS`; empty where the type tells.
    choices : tuple of (value, word, tooltip)
        What can be chosen; of value "", nothing is said. Of a `Literal` its values, where none are given.
    usual : tuple of str
        Of ticks: those that `true` stands for.
    folded : bool
        Whether it is seldom needed.
    of_asset : bool
        Whether parts and groups have no such thing.
    """

    word: str = ""
    tip: str = ""
    over: str = ""
    kind: str = ""
    choices: tuple[tuple[str, str, str], ...] = ()
    usual: tuple[str, ...] = ()
    folded: bool = False
    of_asset: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class FormField:
    """A field of a step as a form draws it: its key on the sheet, and a hint that says all."""

    key: str
    hint: FormHint


def form_fields(step: type[Step]) -> list[FormField]:
    """Return the fields that are a kind of step's own, in order."""
    found = []
    for name, field in step.model_fields.items():
        key = field.alias or name
        if key == "do" or key in SHARED:
            continue
        found.append(FormField(key=key, hint=_hint_of(key, field)))
    return found


def _hint_of(key: str, field: FieldInfo) -> FormHint:
    told = next((m for m in field.metadata if isinstance(m, FormHint)), FormHint())
    tip = told.tip or field.description or ""
    kind = told.kind or _kind_of(field.annotation)
    choices = told.choices
    if not choices and kind in ("choice", "ticks"):
        choices = tuple((value, term(value), tip) for value in _list_values(field.annotation))
    return FormHint(
        word=told.word or term(key),
        tip=tip,
        over=told.over,
        kind=kind,
        choices=choices,
        usual=told.usual,
        folded=told.folded,
        of_asset=told.of_asset,
    )


def _list_options(annotation: Any) -> list[Any]:
    """Return what a type may be, without None."""
    if get_origin(annotation) in (Union, UnionType):
        return [option for option in get_args(annotation) if option is not type(None)]
    return [annotation]


def _strip_annotation(annotation: Any) -> Any:
    return get_args(annotation)[0] if get_origin(annotation) is Annotated else annotation


def _list_values(annotation: Any) -> list[str]:
    """Return the words that a type names: those of its `Literal`, in a list or by itself."""
    found: list[str] = []
    for option in map(_strip_annotation, _list_options(annotation)):
        if get_origin(option) is Literal:
            found += [value for value in get_args(option) if isinstance(value, str)]
        elif get_origin(option) is list:
            found += _list_values(get_args(option)[0])
    return found


def _kind_of(annotation: Any) -> str:
    options = _list_options(annotation)
    bare = [_strip_annotation(option) for option in options]
    if MarkPlace in bare and PartPlace in bare and "pivot" in _list_values(annotation):
        return "centre"
    if DatumName in bare and "world" in _list_values(annotation):
        return "along"
    if any(get_origin(b) is list and get_origin(_strip_annotation(get_args(b)[0])) is Literal for b in bare):
        return "ticks"
    if len(options) != 1:
        return "words"
    option = bare[0]
    if options[0] == Length:
        return "length"
    if get_origin(option) is Literal:
        return "choice"
    if get_origin(option) is list and get_args(option)[0] == Length:
        return "lengths"
    if isinstance(option, type) and issubclass(option, BaseModel) and {"min", "max"} == set(option.model_fields):
        return "range"
    return {bool: "flag", float: "number", int: "number", str: "text"}.get(option, "words")
