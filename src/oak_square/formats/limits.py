"""What a file from a stranger may cost. One set, named, passed to every reader.

They are adjusted by the environment: `OAK_SQUARE_LIMITS="vertices=5e8 seconds=60"`.
"""

from __future__ import annotations

import os
import sys
from dataclasses import dataclass, fields

from oak_square.core.errors import BadUsage, did_you_mean
from oak_square.core.words import say

__all__ = ["LIMITS", "Limits", "limits_of"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Limits:
    """Ceilings on input. Counts a file declares are also held against the bytes that are there.

    Attributes
    ----------
    file_bytes : int
        Of one file, companions each by themselves.
    text_bytes : int
        Of a JSON part.
    nodes, vertices, triangles : int
        Of one asset.
    drawn_vertices : int
        Of one asset, counting each instance of a mesh: a small file can ask for any number of them.
    elements : int
        Of an XML file.
    unpacked_bytes : int
        Of all that an archive holds, and a hundred times its own size at most.
    depth : int
        Of its hierarchy.
    memory_bytes : int
        Of a process that reads.
    seconds : int
        That a process may take over one file.
    """

    file_bytes: int = 8_000_000_000
    text_bytes: int = 512_000_000
    nodes: int = 1_000_000
    vertices: int = 200_000_000
    triangles: int = 200_000_000
    drawn_vertices: int = 20_000_000
    elements: int = 5_000_000
    unpacked_bytes: int = 4_000_000_000
    depth: int = 20_000
    memory_bytes: int = 16_000_000_000
    seconds: int = 900


def limits_of(words: str) -> Limits:
    """Return the limits that a text adjusts.

    Raises
    ------
    BadUsage
        If it names one that there is not, or gives it no whole number.
    """
    known = {f.name for f in fields(Limits)}
    found: dict[str, int] = {}
    for word in words.replace(",", " ").split():
        name, _, value = word.partition("=")
        if name not in known:
            raise BadUsage(
                say(
                    "OAK_SQUARE_LIMITS: '{name}' is no limit{did_you_mean}",
                    name=name,
                    did_you_mean=did_you_mean(name, sorted(known)),
                )
            )
        try:
            found[name] = int(float(value))
        except (ValueError, OverflowError) as error:
            raise BadUsage(
                say("OAK_SQUARE_LIMITS: {name} is '{value}', which is no number", name=name, value=value)
            ) from error
        if found[name] <= 0:
            raise BadUsage(say("OAK_SQUARE_LIMITS: {name} must be more than nothing", name=name))
    return Limits(**found)


def _in_force() -> Limits:
    try:
        return limits_of(os.environ.get("OAK_SQUARE_LIMITS", ""))
    except BadUsage as error:
        sys.stderr.write(f"oak-square: {error}\n")
        raise SystemExit(2) from error


LIMITS = _in_force()
"""The ceilings in force unless others are passed."""
