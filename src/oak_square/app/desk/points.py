"""Points as plain text: `12.456787 m, 0 m, -3.2 m`."""

from __future__ import annotations

import re

from oak_square.core.errors import BadLength
from oak_square.core.lengths import parse_length

__all__ = ["point_in"]

_LONGEST = 400  # characters that are looked at


def point_in(text: str) -> list[str] | None:
    """Return the three lengths that a text is, as it says them; None where it is no point."""
    parts = [p.strip() for p in re.split(r"[,;\t\n]+", text.strip()[:_LONGEST]) if p.strip()]
    if len(parts) != 3:
        return None
    try:
        for part in parts:
            parse_length(part, bare=1.0, module=1.0)
    except BadLength:
        return None
    return parts
