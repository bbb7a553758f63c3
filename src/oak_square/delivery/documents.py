"""Documents as text: what other people's scripts read."""

from __future__ import annotations

import json
import math
import re
from typing import Any

from oak_square.core.words import in_english
from oak_square.version import __version__

__all__ = ["json_text", "survey_document"]

_HALVES = re.compile("[\ud800-\udfff]")


def json_text(document: Any, indent: int | None = 1) -> str:
    """Return a document as JSON text, with no `indent` on one line; a number that is not finite as null.

    It is in English, whatever the window speaks: scripts of others read it.
    """
    document = in_english(document)
    try:
        text = json.dumps(document, indent=indent, ensure_ascii=False, allow_nan=False)
    except ValueError:
        text = json.dumps(_drop_infinite(document), indent=indent, ensure_ascii=False, allow_nan=False)
    # Half a character, as a name that is no UTF-8 has them, stands as JSON's own escape, and is read back as it was.
    return _HALVES.sub(lambda half: f"\\u{ord(half[0]):04x}", text) + "\n"


def _drop_infinite(value: Any) -> Any:
    if isinstance(value, float) and not math.isfinite(value):
        return None
    if isinstance(value, dict):
        return {k: _drop_infinite(v) for k, v in value.items()}
    return [_drop_infinite(v) for v in value] if isinstance(value, list | tuple) else value


def survey_document(entries: list[dict[str, Any]]) -> dict[str, Any]:
    """Return the whole survey."""
    return {"oak_square": __version__, "assets": entries}
