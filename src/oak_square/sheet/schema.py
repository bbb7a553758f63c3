"""The JSON Schema of a prep sheet, drawn from the models that read it."""

from __future__ import annotations

from typing import Annotated, Any, Union

from pydantic import Field, create_model

from oak_square.sheet.model import Sheet
from oak_square.steps.step import STEPS

__all__ = ["sheet_schema"]


def sheet_schema() -> dict[str, Any]:
    """Return the schema (JSON Schema, draft 2020-12) of a sheet: each kind of step by its `do`."""
    kinds: Any = Union[tuple(STEPS[do] for do in sorted(STEPS))]  # noqa: UP007  made of a register, not written out
    step: Any = Annotated[kinds, Field(discriminator="do")]
    whole: Any = create_model("PrepSheet", __base__=Sheet, steps=(list[step], Field(default_factory=list)))
    schema: dict[str, Any] = whole.model_json_schema(by_alias=True)
    for kind in schema["$defs"].values():
        if "do" in kind["properties"]:
            # A model fills it in by itself; a sheet must say it.
            kind["required"] = ["do", *(r for r in kind.get("required", []) if r != "do")]
    return {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        **schema,
        "title": "Prep sheet",
        "required": ["prep-sheet"],
    }
