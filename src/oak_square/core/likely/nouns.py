"""What things are called and how large such things are: a table of common nouns, English and German.

`nouns.csv` lists them: the usual range of the longest extent, and whether such things are tall, flat or long. A studio
can add its own in a file of the same columns. A noun gives a distribution with heavy tails, never a certainty.
"""

from __future__ import annotations

import csv
import math
import os
import re
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from functools import lru_cache
from io import StringIO
from pathlib import Path, PurePosixPath

from oak_square.core.errors import BadBook, one_line
from oak_square.core.likely.weights import (
    COMMON_SIZE_M,
    FOLDER_TRUST,
    NAME_SPREAD,
    NAME_TAIL_DOF,
    NAME_TAILS,
    SPREAD_OF_SIZES,
)
from oak_square.core.tolerances import UNLIKELY
from oak_square.core.words import either, say

__all__ = [
    "COLUMNS",
    "OWN_NOUNS",
    "Named",
    "Noun",
    "any_log_likelihood",
    "named_by",
    "nouns",
    "own_nouns_path",
    "parse_nouns",
    "said_lengths",
]

COLUMNS = ("noun", "german", "min_m", "max_m", "build", "kind")
BUILDS = ("", "tall", "flat", "long")
OWN_NOUNS = "OAK_SQUARE_NOUNS"
"""The environment variable that names a studio's own table."""

_MOST_BYTES = 4_000_000
_MOST_LETTERS = 200  # of a name, its last ones: a node's may be as long as its file
_TABLE = Path(__file__).with_name("nouns.csv")
_CENTRAL = 2 * 1.2816  # the usual range is where four in five lie: so many standard deviations of a normal one
_LEAST_SPREAD = 0.15
_WORD = re.compile(r"[A-ZÄÖÜ]+(?![a-zäöüß])|[A-ZÄÖÜ]?[a-zäöüß]+")
_LENGTH = re.compile(r"(?<![\d.,])(\d{1,6}(?:[.,]\d{1,4})?)[ _]?(mm|cm|m|in|inch|ft)(?![a-z0-9])", re.IGNORECASE)
_METRES = {"mm": 0.001, "cm": 0.01, "m": 1.0, "in": 0.0254, "inch": 0.0254, "ft": 0.3048}
_ASIDE = frozenset((_TABLE.parent / "aside.txt").read_text("utf-8").split())
"""What says nothing of the thing itself, wherever it stands in a name."""

_STUFFS = frozenset((_TABLE.parent / "stuffs.txt").read_text("utf-8").split())
"""What a thing may be of: it is the thing itself where no other noun stands beside it."""

_PLAIN: dict[int, str | int | None] = {ord("ä"): "a", ord("ö"): "o", ord("ü"): "u", ord("ß"): "ss"}
_ODD_PLURALS = {
    "men": "man", "women": "woman", "children": "child", "knives": "knife", "leaves": "leaf", "shelves": "shelf",
    "wolves": "wolf", "calves": "calf", "loaves": "loaf", "mice": "mouse", "feet": "foot", "teeth": "tooth",
    "geese": "goose", "oxen": "ox", "cacti": "cactus", "scarves": "scarf", "dwarves": "dwarf",
}  # fmt: skip


@dataclass(frozen=True, slots=True, kw_only=True)
class Noun:
    """What things of one name are like.

    Attributes
    ----------
    word : str
        The first of its English names; of a noun that has none, the first of its German ones.
    german : str
        The first of its German names, or empty.
    low, high : float, metres
        The usual range of the longest extent: four in five lie in it.
    build : {"", "tall", "flat", "long"}
        What most of them are: higher than wide, lower than wide, or lying along their longest extent.
    kind : str
    """

    word: str
    low: float
    high: float
    build: str
    kind: str
    german: str = ""

    @property
    def said(self) -> str:
        """Its name, as the language spoken has it."""
        return either(self.word, de=self.german[:1].upper() + self.german[1:])

    @property
    def range_words(self) -> str:
        """Return `0.5 to 1.5 m`."""
        unit, per = ("m", 1.0) if self.high >= 1 else ("cm", 0.01) if self.high >= 0.1 else ("mm", 0.001)
        return say("{low:.3g} to {high:.3g} {unit}", low=self.low / per, high=self.high / per, unit=unit)


@dataclass(frozen=True, slots=True, kw_only=True)
class Named:
    """The nouns that a name may mean, and how far it can be trusted to mean them, of 1.

    `by_folder`: it is the name of the folder, which tells of all that is in it, and little of each.
    """

    senses: tuple[Noun, ...]
    trust: float
    by_folder: bool = False

    def log_likelihood(self, longest_m: float) -> float:
        """Return the log-density, per natural logarithm of metres, of a longest extent, metres."""
        told = sum(_rate_extent(longest_m, noun) for noun in self.senses) / len(self.senses)
        sure = (1 - NAME_TAILS) * self.trust
        return math.log(sure * told + (1 - sure) * _any_density(longest_m))

    def nearest(self, longest_m: float) -> Noun:
        """Return the sense that a longest extent, metres, fits best."""
        return max(self.senses, key=lambda noun: _rate_extent(longest_m, noun))


def any_log_likelihood(longest_m: float) -> float:
    """Return the log-density, per natural logarithm of metres, of the longest extent of anything people model."""
    return math.log(_any_density(longest_m))


def _any_density(longest_m: float) -> float:
    z = math.log(max(longest_m, UNLIKELY) / COMMON_SIZE_M) / SPREAD_OF_SIZES
    # Never quite nothing: something of an impossible size has still been sent.
    return max(math.exp(-0.5 * z * z) / (SPREAD_OF_SIZES * math.sqrt(2 * math.pi)), UNLIKELY)


def _rate_extent(longest_m: float, noun: Noun) -> float:
    """Return Student's t density of the logarithm of an extent, with the noun's range as its central four fifths."""
    spread = max(NAME_SPREAD * math.log(noun.high / noun.low) / _CENTRAL, _LEAST_SPREAD)
    z = (math.log(max(longest_m, UNLIKELY)) - math.log(noun.low * noun.high) / 2) / spread
    dof = NAME_TAIL_DOF
    whole = math.gamma((dof + 1) / 2) / (math.sqrt(dof * math.pi) * math.gamma(dof / 2) * spread)
    return float(whole * (1 + z * z / dof) ** (-(dof + 1) / 2))


def own_nouns_path() -> Path | None:
    """Return where a studio's own table is: where `OAK_SQUARE_NOUNS` says, else among the user's settings."""
    named = os.environ.get(OWN_NOUNS)
    if named:
        return Path(named)
    home = Path(os.environ.get("XDG_CONFIG_HOME") or Path.home() / ".config") / "oak-square" / "nouns.csv"
    try:
        return home if home.is_file() else None
    except OSError:  # settings that may not be looked at are none
        return None


def parse_nouns(text: str, file: str) -> dict[str, tuple[Noun, ...]]:
    """Return the senses of each word that CSV `text` lists; `file` is named in errors.

    Raises
    ------
    BadBook
        With the line of the first mistake.
    """
    rows = csv.DictReader(StringIO(text))
    missing = [c for c in ("noun", "min_m", "max_m") if c not in (rows.fieldnames or ())]
    if missing:
        raise BadBook(
            file, 1, say("is no table of nouns: its first line should read {columns}", columns=",".join(COLUMNS))
        )
    found: dict[str, list[Noun]] = {}
    try:
        for row in rows:
            noun, words = _parse_row(row, file, rows.line_num)
            for word in words:
                found.setdefault(word, []).append(noun)
    except csv.Error as error:
        raise BadBook(file, rows.line_num, say("is no CSV: {error}", error=error)) from error
    return {word: tuple(senses) for word, senses in found.items()}


def _parse_row(row: dict[str, str | None], file: str, line: int) -> tuple[Noun, set[str]]:
    cells = {key: (row.get(key) or "").strip() for key in COLUMNS}
    words = [w.strip().lower() for key in ("noun", "german") for w in cells[key].split("/") if w.strip()]
    if not words:
        raise BadBook(file, line, say("has no noun"))
    try:
        low, high = float(cells["min_m"]), float(cells["max_m"])
    except ValueError:
        raise BadBook(file, line, say("min_m and max_m are numbers of metres")) from None
    if not 0 < low < high < math.inf:
        raise BadBook(
            file,
            line,
            say("'{word}' needs a range of metres above nothing, the smaller first", word=one_line(words[0])),
        )
    if cells["build"] not in BUILDS:
        raise BadBook(
            file, line, say("'{cell}' is no build: tall, flat or long, or nothing", cell=one_line(cells["build"]))
        )
    noun = Noun(word=words[0], low=low, high=high, build=cells["build"], kind=cells["kind"],
                german=cells["german"].split("/")[0].strip())  # fmt: skip
    return noun, {_fold_umlauts(w) for w in words}


def _fold_umlauts(word: str) -> str:
    """Return a word without umlauts, so that plurals and both spellings meet."""
    return word.translate(_PLAIN)


@lru_cache(maxsize=4)
def _load_table(own: Path | None, mark: tuple[int, int]) -> dict[str, tuple[Noun, ...]]:
    table = parse_nouns(_TABLE.read_text("utf-8"), _TABLE.name)
    if own is not None:
        try:
            if own.stat().st_size > _MOST_BYTES:
                raise BadBook(
                    str(own),
                    None,
                    say("larger than the {_most_bytes} MB that nouns may take", _most_bytes=_MOST_BYTES // 1_000_000),
                )
            text = own.read_text("utf-8-sig")
        except OSError as error:
            raise BadBook(str(own), None, say("can't be read: {strerror}", strerror=error.strerror)) from error
        except UnicodeDecodeError as error:
            raise BadBook(str(own), None, say("is not UTF-8 text")) from error
        table |= parse_nouns(text, str(own))  # a studio's own word for a thing is what it means there
    return table


def nouns() -> dict[str, tuple[Noun, ...]]:
    """Return the senses of every known word, a studio's own before those that ship.

    Raises
    ------
    BadBook
        If the studio's table can't be read.
    """
    own = own_nouns_path()
    try:
        there = own.stat() if own is not None else None
    except OSError as error:
        raise BadBook(str(own), None, say("can't be read: {strerror}", strerror=error.strerror)) from error
    return _load_table(own, (0, 0) if there is None else (there.st_mtime_ns, there.st_size))


def _load_known() -> dict[str, tuple[Noun, ...]]:
    """Return what is known; the words that ship alone where the studio's can't be read, which is told elsewhere."""
    try:
        return nouns()
    except BadBook:
        return _load_table(None, (0, 0))


def named_by(file: str, inside: Sequence[str] = ()) -> Named | None:
    """Return what an asset is called by its file's name, else by its parts' or its folder's; None where nobody knows.

    Parameters
    ----------
    file : str
        Its path in the batch.
    inside : sequence of str
        Names of its nodes.
    """
    path, table = PurePosixPath(file), _load_known()
    found = _find_nouns(path.stem, table, 1.0)
    if found is None and 0 < len(inside) <= 3:
        found = next((n for n in (_find_nouns(name, table, 0.6) for name in inside) if n is not None), None)
    if found is None and path.parent.name:
        found = _find_nouns(path.parent.name, table, FOLDER_TRUST)
        found = None if found is None else replace(found, by_folder=True)
    return found


def _find_nouns(name: str, table: dict[str, tuple[Noun, ...]], trust: float) -> Named | None:
    words = [w.lower() for w in _WORD.findall(name[-_MOST_LETTERS:])]
    words = [w for w in words if len(w) > 1 and w not in _ASIDE] or [w for w in words if len(w) > 2]
    if words and words[-1] in _STUFFS and (other := _last_noun(words[:-1], table, trust * 0.8)) is not None:
        return _last_noun(words, table, trust) if " ".join(words[-2:]) in table else other
    return _last_noun(words, table, trust)


def _last_noun(words: Sequence[str], table: dict[str, tuple[Noun, ...]], trust: float) -> Named | None:
    for end in range(len(words), 0, -1):
        # The last noun names the thing; those before it say which, or of what it is a part.
        held = trust if end == len(words) else trust * 0.6
        for start in range(max(0, end - 3), end):
            senses = _find_senses("".join(words[start:end]), table) or _find_senses(" ".join(words[start:end]), table)
            if senses:
                return Named(senses=senses, trust=held)
        senses = _find_ending(words[end - 1], table)
        if senses:
            return Named(senses=senses, trust=held * 0.75)
    return None


def _find_senses(word: str, table: dict[str, tuple[Noun, ...]]) -> tuple[Noun, ...]:
    return next((table[w] for w in _yield_forms(word) if w in table), ())


def _yield_forms(word: str) -> Iterable[str]:
    """Return a word as a table may have it: as it is, then as the singular of a plural."""
    spelled = re.sub("ae", "a", re.sub("oe", "o", re.sub("ue", "u", word)))
    for plain in dict.fromkeys((_fold_umlauts(word), spelled)):
        yield plain
        head, _, last = plain.rpartition(" ")
        if last in _ODD_PLURALS:
            yield f"{head} {_ODD_PLURALS[last]}".strip()
        if plain.endswith("ies"):
            yield plain[:-3] + "y"
        for ending in ("s", "es", "en", "n", "er", "e"):
            if plain.endswith(ending) and len(plain) - len(ending) >= 3:
                yield plain[: -len(ending)]


def _find_ending(word: str, table: dict[str, tuple[Noun, ...]]) -> tuple[Noun, ...]:
    """Return what the last noun of a word written as one means: `Gartenstuhl`, `streetlamp`."""
    for start in range(4, len(word) - 3):
        senses = _find_senses(word[start:], table)
        if senses:
            return senses
    return ()


def said_lengths(file: str) -> tuple[float, ...]:
    """Return the lengths that a file's name says, metres: `plank_240cm`."""
    found = _LENGTH.findall(PurePosixPath(file).stem)
    return tuple(float(number.replace(",", ".")) * _METRES[unit.lower()] for number, unit in found)
