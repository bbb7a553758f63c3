"""OBJ and other formats: its meshes as plain ones, corner by corner, and a file made anew from a plain scene."""

from __future__ import annotations

from collections.abc import Iterable
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from oak_square.core.scene import PLAIN_COLOUR
from oak_square.formats.obj.materials import library_colours, library_lines, texture_name
from oak_square.formats.shared.look import Image, Look, Texture
from oak_square.formats.shared.model_file import Beside, Companion, Written
from oak_square.formats.shared.plain import Plain, PlainScene, flat_parts
from oak_square.formats.shared.text_edit import nine_digits

__all__ = ["library_looks", "made_obj"]


def library_looks(libraries: Iterable[Path], beside: Beside) -> dict[str, Look]:
    """Return the look of each material that the libraries define: colour (`Kd`), opacity (`d`), texture (`map_Kd`)."""
    colours, found = library_colours(libraries := list(libraries)), dict[str, Look]()
    for library in libraries:
        name, opacity, image = "", 1.0, None
        for line in [*library_lines(library), "newmtl"]:
            words = line.split()
            if words[:1] == ["newmtl"]:
                if name:
                    colour = colours.get(name, (1.0, 1.0, 1.0) if image is not None else PLAIN_COLOUR)
                    found[name] = Look(name=name, colour=colour, opacity=opacity, texture=Texture.of(image))
                name, opacity, image = line.partition("newmtl")[2].strip(), 1.0, None
            elif words[:1] == ["d"] and len(words) == 2 and words[1].replace(".", "", 1).isdecimal():
                opacity = min(1.0, float(words[1]))
            elif words[:1] == ["map_Kd"] and len(words) > 1:
                reference = texture_name(line.strip().partition(" ")[2])
                path, own = beside.find(reference), beside.name(reference)
                image = Image(name=own, path=path) if path is not None and own is not None else None
    return found


def made_obj(scene: PlainScene) -> Written:
    """Return an OBJ of a scene's parts, with its materials and textures beside it."""
    parts = flat_parts(scene)
    lines = ["# Oak Square"]
    looks = list(dict.fromkeys(run.look for _, plain in parts for run in plain.runs))
    names = _told_apart(looks)
    if looks:
        lines.append(f"mtllib {_make_word(scene.name)}.mtl")
    firsts = np.array([1, 1, 1])
    for name, plain in parts:
        lines.append(f"o {' '.join(name.split())}")
        lines += _print_rows("v", plain.points, plain.digits)
        lines += _print_rows("vt", plain.uvs)
        lines += _print_rows("vn", plain.normals)
        for run in plain.runs:
            lines.append(f"usemtl {names[run.look]}")
            lines += _print_faces(plain, plain.triangles[run.first : run.first + run.count], firsts)
        firsts += [len(plain.points), *(0 if a is None else len(a) for a in (plain.uvs, plain.normals))]
    text = ("\n".join(lines) + "\n").encode()
    companions = (
        [Companion(path=f"{_make_word(scene.name)}.mtl", chunks=(_write_library(looks, names),))] if looks else []
    )
    images = dict.fromkeys(look.image for look in looks if look.image is not None)
    companions += [Companion(path=_make_word(image.name), chunks=(image.read(),)) for image in images]
    return Written(chunks=(text,), companions=tuple(companions))


def _print_rows(word: str, values: NDArray[np.floating] | None, digits: int = 9) -> list[str]:
    if values is None or not len(values):
        return []
    width = values.shape[1]
    texts = nine_digits(values, digits=digits)
    columns = [texts[k::width] for k in range(width)]
    return [f"{word} " + b" ".join(row).decode() for row in zip(*columns, strict=True)]


def _print_faces(plain: Plain, triangles: NDArray[np.integer], firsts: NDArray[np.int64]) -> list[str]:
    rows = triangles.astype(np.int64)
    kinds = [True, plain.uvs is not None, plain.normals is not None]
    corner = {
        (False, False): "%d", (True, False): "%d/%d", (False, True): "%d//%d", (True, True): "%d/%d/%d",
    }[kinds[1], kinds[2]]  # fmt: skip
    numbers = np.stack([rows + first for first, there in zip(firsts, kinds, strict=True) if there], axis=2)
    form = f"f {corner} {corner} {corner}\n"
    text = (form * len(rows)) % tuple(numbers.ravel().tolist())
    return text.split("\n")[:-1]


def _make_word(name: str) -> str:
    """Return a path as one word: many programs take the last word of a line for it."""
    return "_".join(name.split())


def _told_apart(looks: list[Look]) -> dict[Look, str]:
    found: dict[Look, str] = {}
    for look in looks:
        base = "_".join(look.name.split()) or "look"
        name, number = base, 2
        while name in found.values():
            name, number = f"{base}.{number}", number + 1
        found[look] = name
    return found


def _write_library(looks: list[Look], names: dict[Look, str]) -> bytes:
    lines = ["# Oak Square"]
    for look in looks:
        lines += [f"newmtl {names[look]}", "Kd {:.9g} {:.9g} {:.9g}".format(*look.colour), f"d {look.opacity:.9g}"]
        if look.image is not None:
            lines.append(f"map_Kd {_make_word(look.image.name)}")
    return ("\n".join(lines) + "\n").encode()
