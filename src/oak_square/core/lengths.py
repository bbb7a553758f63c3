"""Lengths as people write them: read with their unit, written in the unit shown.

Inches are 25.4 mm exactly, feet 12 inches, yards 3 feet (international yard and pound agreement, 1959).
"""

from __future__ import annotations

import math
import re
import struct
from decimal import Decimal
from fractions import Fraction
from functools import lru_cache

from oak_square.core.errors import BadLength, did_you_mean
from oak_square.core.ratios import is_ratio, parse_ratio
from oak_square.core.tolerances import LEAST_SAID_M, NOTHING_M, SAME_IN_FILE_M
from oak_square.core.words import joined, language, number, say

__all__ = [
    "UNITS",
    "UNIT_WORDS",
    "as_written",
    "auto_unit",
    "format_deviation",
    "format_length",
    "format_size",
    "is_relative",
    "metres_per",
    "parse_entry",
    "parse_factor",
    "parse_length",
    "point_in",
    "round_number",
    "shortest",
    "written_number",
]

UNITS: dict[str, float] = {"m": 1.0, "cm": 0.01, "mm": 0.001, "km": 1000.0, "in": 0.0254, "ft": 0.3048, "yd": 0.9144}
"""Metres in one of each unit."""

UNIT_WORDS: dict[str, str] = {
    "m": "metres", "cm": "centimetres", "mm": "millimetres", "km": "kilometres",
    "in": "inches", "ft": "feet", "yd": "yards",
}  # fmt: skip

_SYNONYMS = {
    "metre": "m", "metres": "m", "meter": "m", "meters": "m",
    "centimetre": "cm", "centimetres": "cm", "millimetre": "mm", "millimetres": "mm",
    "kilometre": "km", "kilometres": "km",
    "inch": "in", "inches": "in", '"': "in", "″": "in",
    "foot": "ft", "feet": "ft", "'": "ft", "′": "ft",
    "yard": "yd", "yards": "yd",
}  # fmt: skip

_LARGEST_M = 1e30  # float32, which files hold, ends at 3.4e38
_LONGEST_TEXT = 80
_LONGEST_POINT = 400  # characters that are looked at as a point
_NUMBER = r"(?:\d+\s+\d+\s*/\s*\d+|\d+\s*/\s*\d+|\d+(?:\.\d*)?(?:[eE][-+]?\d+)?|\.\d+(?:[eE][-+]?\d+)?)"
_MARKED = re.compile(r"\d[\d.,]*\d|,\d[\d.,]*")  # a number with marks in it, as German has them
_COMMA = re.compile(r"(\d*)((?:,\d+)+(?:\.\d+)?)")
_BARE_INCHES = re.compile(rf"(['′]|\b(?:ft|foot|feet))\s*-?\s*({_NUMBER})\s*$")
_TERM = re.compile(rf"\s*({_NUMBER})\s*([A-Za-z]+|['\"′″])?\s*-?")


def metres_per(unit: str) -> float:
    """Return the metres in one `unit` (its symbol or an English word for it).

    Raises
    ------
    BadLength
        If nothing is called that; the nearest unit is suggested.
    """
    name = _SYNONYMS.get(unit, _SYNONYMS.get(unit.lower(), unit))
    if name not in UNITS:
        hint = did_you_mean(unit, [*UNITS, *_SYNONYMS]) or say(" (units are {units})", units=", ".join(UNITS))
        raise BadLength(say("'{unit}' is no unit of length{hint}", unit=unit, hint=hint))
    return UNITS[name]


def parse_length(text: str | float, *, bare: float, module: float | None = None) -> float:
    """Return the length `text` means, in metres.

    Parameters
    ----------
    text : str or float
        A number, or text such as `90 cm`, `0.9m`, `5' 3 1/2"`, `3ft 6in`, `2 1/4 in`, `1.5 mod`; a leading sign
        holds for the whole.
    bare : float, metres
        What a number without a unit is multiplied by.
    module : float, metres, optional
        The length called `mod`.

    Raises
    ------
    BadLength
        If `text` is no length, or not finite.
    """
    if isinstance(text, bool) or not isinstance(text, int | float | str):
        raise BadLength(say("'{text}' is no length: a length is a number, or text such as 90 cm", text=text))
    try:
        value = float(text) * bare if isinstance(text, int | float) else _parse_text(text, bare, module)
    except OverflowError:
        value = math.inf
    if not math.isfinite(value):
        raise BadLength(say("'{text}' is not a finite length", text=str(text)[:40]))
    return value


def as_written(text: str) -> str:
    """Return what a person types as a length or a number as it is written: a decimal comma as a point, inches named.

    Raises
    ------
    BadLength
        If a comma may part thousands as well as decimals.
    """
    body = _BARE_INCHES.sub(r'\1 \2"', text.strip().replace("−", "-").replace("×", "*"))
    if language() == "de":
        return _MARKED.sub(_point_decimals, body)

    def pointed(match: re.Match[str]) -> str:
        whole, rest = match[1], match[2]
        if rest.count(",") > 1 or "." in rest:
            raise BadLength(
                say(
                    "'{match}' has more than one mark: write {replace}, with one at most",
                    match=match[0],
                    replace=match[0].replace(",", ""),
                )
            )
        if len(rest) == 4 and 0 < len(whole) < 4 and whole != "0":
            raise BadLength(_may_be(match[0], whole, rest[1:]))
        return f"{whole}.{rest[1:]}"

    return _COMMA.sub(pointed, body)


def _point_decimals(match: re.Match[str]) -> str:
    """Return a number with decimals behind a comma, and thousands parted by points, as it is written."""
    whole, comma, decimals = match[0].partition(",")
    groups = whole.split(".")
    parted = len(groups) > 1 and all(len(g) == 3 for g in groups[1:]) and 0 < len(groups[0]) < 4 and groups[0] != "0"
    if comma and ("," in decimals or "." in decimals or (len(groups) > 1 and not parted)):
        raise BadLength(say("'{text}' is no number", text=match[0]))
    if not comma and parted and len(groups) == 2:
        raise BadLength(_may_be(match[0], groups[0], groups[1]))
    if comma or (parted and len(groups) > 2):
        return f"{''.join(groups)}.{decimals}" if comma else "".join(groups)
    return match[0]


def _may_be(text: str, whole: str, rest: str) -> str:
    return say("'{match}' may be {whole}.{rest} or {whole}{rest}: write which", match=text, whole=whole, rest=rest)


def shortest(metres: float, unit: float = 1.0) -> str:
    """Return a length in a unit of so many metres as the shortest decimal that is the same number where files hold it.

    Two lengths are the same where no more than half the spacing of float32 parts them, and that is at most 60 nm: so
    much a float32 of one to two metres is off (IEEE 754: 24 bits of significand).
    """
    if not math.isfinite(metres) or metres == 0:
        return f"{metres + 0.0:g}"
    slack = min(math.ldexp(1.0, math.frexp(metres)[1] - 25), SAME_IN_FILE_M)
    value = metres / unit
    text = next(
        (t for digits in range(1, 17) if abs(float(t := f"{value:.{digits}g}") - value) * unit <= slack), repr(value)
    )
    return format(Decimal(text), "f")


def written_number(metres: float, unit: float) -> float:
    """Return a coordinate as a sheet's number: what a file holds in its few digits, what was worked out in twelve."""
    from_file = struct.unpack("f", struct.pack("f", metres))[0] == metres if abs(metres) < _LARGEST_M else False
    return float(shortest(metres, unit)) if from_file else float(f"{metres / unit:.12g}") + 0.0


def is_relative(text: str) -> bool:
    """Tell whether an entry is told from what is there: `+4cm`, `*0.5`, `/2`, `50%`."""
    body = as_written(text)
    return body[:1] in {"+", "*", "/"} or body.endswith("%")


def parse_entry(text: str, *, present: float, bare: float, module: float | None = None) -> float:
    """Return what is typed into a field that shows the length `present`, metres; absolute, or relative to it.

    Parameters
    ----------
    text : str
        A length, or `+4cm` (longer by), `+-4cm` (shorter by), `*0.5`, `/2`, `50%`; as `as_written` reads it.
    present : float, metres
    bare, module : float, metres
        As `parse_length` takes them.

    Raises
    ------
    BadLength
        If it is neither.
    """
    body = as_written(text)
    if body.startswith("+"):
        return present + parse_length(body[1:], bare=bare, module=module)
    if body[:1] in {"*", "/"} or body.endswith("%"):
        return present * parse_factor(body)
    return parse_length(body, bare=bare, module=module)


def point_in(text: str) -> list[str] | None:
    """Return the three lengths that a text is, as a sheet writes them; None where it is no point.

    They are parted by commas, or by anything but commas where these are decimal marks: `1,5 m; 0; 2 m`.
    """
    body = text.strip()[:_LONGEST_POINT]
    for marks, read in ((r"[,;\t\n]+", str), (r"[;\t\n]+", as_written)):
        parts = [p.strip() for p in re.split(marks, body) if p.strip()]
        try:
            told = [read(part) for part in parts]
            for part in told:
                parse_length(part, bare=1.0, module=1.0)
        except BadLength:
            continue
        if len(told) == 3:
            return told
    return None


def parse_factor(text: str) -> float:
    """Return the factor that `*0.5`, `/2`, `50%`, `1:2` or `0.5` means.

    Raises
    ------
    BadLength
        If it is none, or not finite.
    """
    body = text.strip().replace("−", "-").replace("×", "*")
    try:
        if is_ratio(body):
            value = parse_ratio(body)
        elif body.endswith("%"):
            value = float(body[:-1]) / 100
        elif body.startswith("/"):
            value = 1 / float(body[1:])
        else:
            value = float(body.removeprefix("*"))
    except (ValueError, ZeroDivisionError) as error:
        raise BadLength(say("'{text}' is no factor (write it like 0.5, *0.5, /2, 1:2 or 50%)", text=text)) from error
    if not math.isfinite(value):
        raise BadLength(say("'{text}' is not a finite factor", text=text))
    return value


@lru_cache(maxsize=4096)
def _parse_text(text: str, bare: float, module: float | None) -> float:
    body = text.strip().replace("−", "-")
    if len(body) > _LONGEST_TEXT:
        raise BadLength(say("'{body}…' is too long for a length", body=body[:20]))
    sign = -1.0 if body.startswith("-") else 1.0
    body = body[1:] if body[:1] in {"-", "+"} else body
    total, position, last_unit, terms = 0.0, 0, math.inf, 0
    while position < len(body):
        match = _TERM.match(body, position)
        if match is None or match.end() == position:
            raise BadLength(say("'{text}' is no length (write it like 90 cm, 0.9 m or 5' 3 1/2\")", text=text))
        unit = match.group(2)
        metres = _unit_metres(unit, bare, module)
        if unit is None and terms:
            raise BadLength(say("'{text}' has a number without its unit", text=text))
        if metres >= last_unit:
            raise BadLength(say("'{text}' does not go from the larger unit to the smaller", text=text))
        total += _parse_number(match.group(1)) * metres
        position, last_unit, terms = match.end(), metres, terms + 1
        if unit is None and position < len(body):
            raise BadLength(say("'{text}' has a number without its unit", text=text))
    if not terms or body.rstrip().endswith("-"):
        raise BadLength(say("'{text}' is no length (write it like 90 cm, 0.9 m or 5' 3 1/2\")", text=text))
    return sign * total


def _unit_metres(unit: str | None, bare: float, module: float | None) -> float:
    if unit is None:
        return bare
    if unit == "mod":
        if module is None:
            raise BadLength(say("'mod' needs a module length (deliver.module in the sheet)"))
        return module
    return metres_per(unit)


def _parse_number(text: str) -> float:
    try:
        return float(sum(Fraction(word) for word in re.sub(r"\s*/\s*", "/", text).split()))
    except (ZeroDivisionError, OverflowError, ValueError) as error:
        raise BadLength(say("'{text}' is no number", text=text)) from error


def format_length(metres: float, unit: str = "auto", *, denominator: int = 16) -> str:
    """Return `metres` as people read it, with its unit.

    Parameters
    ----------
    metres : float
        Any length; negative ones keep their sign.
    unit : str
        `auto` (mm below 10 cm, km from 10 km, metres between), a unit of `UNITS`, or `ft-in`
        (feet and inches, inches as fractions).
    denominator : int
        Finest fraction of an inch for `ft-in`.
    """
    if not math.isfinite(metres):
        return say("not finite")
    if abs(metres) < NOTHING_M:
        metres = 0.0
    if unit == "ft-in":
        return _feet_and_inches(metres, denominator)
    if unit == "auto":
        unit = auto_unit(abs(metres))
    return say("{metres} {unit}", metres=round_number(metres / UNITS[unit]), unit=unit)


def format_deviation(metres: float) -> str:
    """Return how far something is off, metres, in words: most are far below what a length is shown to."""
    if metres == 0:
        return say("exact")
    if metres < LEAST_SAID_M:
        return number("< 0.001 µm")
    return format_length(metres) if not metres < 1e-3 else say("{metres:.3g} µm", metres=metres * 1e6)


def auto_unit(size: float) -> str:
    """Return the unit that suits `size`, metres: mm below 10 cm, km from 10 km, m between and for nothing."""
    if size == 0 or 0.1 <= size < 10_000:
        return "m"
    return "mm" if size < 0.1 else "km"


def round_number(value: float) -> str:
    """Return a number with the digits that matter at its size: 0.315, 24.02, 396.0."""
    size = abs(value)
    if size >= 1e7 or (0 < size < 5e-4):
        return number(f"{value:.3g}")
    places = 3 if size < 10 else 2 if size < 100 else 1 if size < 10_000 else 0
    text = f"{value:.{places}f}"
    whole, _, fraction = text.partition(".")
    # At least two decimals for metre-like sizes, so that columns line up; trailing zeros beyond them go.
    while fraction.endswith("0") and len(fraction) > min(2, places):
        fraction = fraction[:-1]
    text = f"{whole}.{fraction}" if fraction else whole
    return number(text.lstrip("-") if float(text) == 0 else text)


def _feet_and_inches(metres: float, denominator: int) -> str:
    ticks = round(abs(metres) / UNITS["in"] * denominator)
    feet, rest = divmod(ticks, 12 * denominator)
    inches, part = divmod(rest, denominator)
    words = []
    if feet:
        words.append(f"{feet}'")
    fraction = f"{Fraction(part, denominator)}" if part else ""
    if inches or fraction or not feet:
        words.append(" ".join(w for w in (str(inches) if inches or not fraction else "", fraction) if w) + '"')
    return ("-" if metres < 0 and ticks else "") + " ".join(words)


def format_size(width: float, height: float, depth: float, unit: str = "auto", *, denominator: int = 8) -> str:
    """Return three extents as one text, `0.61 × 5.20 × 0.61 m`, in the unit that suits the largest."""
    if unit == "ft-in":
        return " × ".join(_feet_and_inches(v, denominator) for v in (width, height, depth))
    shown = auto_unit(max(width, height, depth)) if unit == "auto" else unit
    numbers = (round_number(v / UNITS[shown]) for v in (width, height, depth))
    return say("{numbers} {shown}", numbers=joined(" × ", numbers), shown=shown)
