"""The colours of an OBJ's materials, and the runs of triangles that have them."""

from __future__ import annotations

import re
from collections.abc import Iterable
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from oak_square.core.scene import PLAIN_COLOUR, Surface
from oak_square.formats.obj.text import ObjText
from oak_square.formats.shared.look import SHADING

__all__ = [
    "library_colours",
    "library_lines",
    "library_shading",
    "material_names",
    "surfaces_of",
    "texture_name",
    "texture_names",
]

Colour = tuple[float, float, float]
_MOST_BYTES = 4_000_000
_TEXTURED = ("map_", "bump", "disp", "decal", "refl", "norm")
_SHADES = {
    "Ke": "emission", "map_ke": "emission", "bump": "normal maps", "map_bump": "normal maps", "norm": "normal maps",
    "map_d": "cut-outs", "Ks": "further shading", "map_ks": "further shading", "map_ns": "further shading",
    "refl": "further shading", "Pm": "roughness and metalness", "Pr": "roughness and metalness",
    "map_pm": "roughness and metalness", "map_pr": "roughness and metalness",
}  # fmt: skip
_NUMBER = re.compile(r"[-+]?(\d+\.?\d*|\.\d+)([eE][-+]?\d+)?")
# Options of a texture, with the least and the most words behind each.
_OPTIONS = {
    "-blendu": (1, 1), "-blendv": (1, 1), "-bm": (1, 1), "-boost": (1, 1), "-cc": (1, 1), "-clamp": (1, 1),
    "-imfchan": (1, 1), "-mm": (2, 2), "-o": (1, 3), "-s": (1, 3), "-t": (1, 3), "-texres": (1, 1), "-type": (1, 1),
}  # fmt: skip


def library_lines(library: Path) -> list[str]:
    """Return the lines of a material library, up to a size that none has."""
    with library.open("rb") as stream:
        return stream.read(_MOST_BYTES).decode("utf-8", "replace").splitlines()


def library_colours(libraries: Iterable[Path]) -> dict[str, Colour]:
    """Return the diffuse colour (`Kd`) of each material the libraries define; what can't be read is left out."""
    found: dict[str, Colour] = {}
    for library in libraries:
        name = ""
        for line in library_lines(library):
            words = line.split()
            if len(words) > 1 and words[0] == "newmtl":
                name = line.split(None, 1)[1].strip()
            elif len(words) == 4 and words[0] == "Kd" and name:
                try:
                    red, green, blue = (min(1.0, max(0.0, float(w))) for w in words[1:])
                except ValueError:
                    continue
                found[name] = (red, green, blue)
    return found


def library_shading(libraries: Iterable[Path]) -> tuple[str, ...]:
    """Return what of `SHADING` the materials of libraries have."""
    found = set[str]()
    for library in libraries:
        for line in library_lines(library):
            word, _, rest = line.strip().partition(" ")
            numbers = [w for w in rest.split() if _NUMBER.fullmatch(w)]
            is_set = not numbers or any(float(w) > 0 for w in numbers)
            if (word in _SHADES or word.lower() in _SHADES) and rest.strip() and is_set:
                found.add(_SHADES.get(word) or _SHADES[word.lower()])
    return tuple(words for words in SHADING if words in found)


def texture_names(library: Path) -> list[tuple[str, str]]:
    """Return what a material library names as textures, each with its keyword."""
    found = []
    for line in library_lines(library):
        word, _, rest = line.strip().partition(" ")
        if word.lower().startswith(_TEXTURED) and (name := texture_name(rest)):
            found.append((word, name))
    return found


def texture_name(rest: str) -> str:
    """Return the file name behind a texture's keyword: what follows its options, spaces and all."""
    words = rest.split()
    at = 0
    while at < len(words) and words[at].startswith("-") and words[at].lower() in _OPTIONS:
        least, most = _OPTIONS[words[at].lower()]
        at += 1
        taken = 0
        while taken < most and at < len(words) and (taken < least or _NUMBER.fullmatch(words[at])):
            at, taken = at + 1, taken + 1
    # As it was typed: runs of spaces are part of a name.
    return rest.split(None, at)[-1].strip() if at < len(words) else ""


def material_names(text: ObjText) -> list[str]:
    """Return the materials that a file uses, in order, behind one for what has none."""
    return ["", *(text.rest_of(int(line)) for line in text.lines["usemtl"])]


def surfaces_of(
    text: ObjText, named: tuple[list[str], dict[str, Colour]], faces: NDArray[np.int64], fans: NDArray[np.int64]
) -> tuple[Surface, ...]:
    """Return the runs of one part's triangles that share a colour.

    Parameters
    ----------
    text : ObjText
    named : (list of str, dict of material name to colour)
        The materials that are used, as `material_names` has them, and their colours.
    faces : ndarray of integers, shape (own faces,)
        The part's own face lines.
    fans : ndarray, shape (own faces,)
        Triangles each of them comes to.
    """
    lines, (names, colours) = text.lines["usemtl"], named
    total = int(fans.sum())
    if not total:  # points and lines alone
        return ()
    if not len(lines):
        return (Surface(first=0, count=total, colour=PLAIN_COLOUR),)
    material = np.repeat(np.searchsorted(lines, text.lines["f"][faces]), fans)
    starts = np.flatnonzero(np.diff(material, prepend=-1))
    ends = np.append(starts[1:], total)
    return tuple(
        Surface(
            first=int(a),
            count=int(b - a),
            colour=colours.get(names[int(material[a])], PLAIN_COLOUR),
            material=int(material[a]) - 1 if material[a] else None,
        )
        for a, b in zip(starts, ends, strict=True)
    )
