"""A PLY made anew from a plain scene."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from oak_square.core.words import say
from oak_square.formats.shared.model_file import Companion, Written
from oak_square.formats.shared.plain import Plain, PlainScene, flat_parts, merged

__all__ = ["made_ply"]


def made_ply(scene: PlainScene) -> Written:
    """Return a little-endian PLY of all of a scene's vertices and triangles.

    Raises
    ------
    Refused
        If a number is more than float32 can hold.
    """
    plain = merged(flat_parts(scene))
    columns: list[tuple[str, NDArray[np.generic]]] = []
    for names, values in (("xyz", plain.points), (("nx", "ny", "nz"), plain.normals), ("st", plain.uvs)):
        if values is not None:
            columns += [(name, values[:, k].astype("<f4")) for k, name in enumerate(names)]
    colours = np.round(255 * np.clip(_vertex_colours(plain), 0, 1)).astype("u1")
    columns += [(name, colours[:, k]) for k, name in enumerate(("red", "green", "blue"))]
    rows = np.empty(len(plain.points), dtype=[(name, values.dtype) for name, values in columns])
    for name, values in columns:
        rows[name] = values
    faces = np.empty(len(plain.triangles), dtype=[("count", "u1"), ("corners", "<i4", 3)])
    faces["count"], faces["corners"] = 3, plain.triangles
    images = list(dict.fromkeys(run.look.image for run in plain.runs if run.look.image is not None))
    head = ["ply", "format binary_little_endian 1.0", "comment Oak Square"]
    head += [f"comment TextureFile {image.name}" for image in images[:1]]
    head += [f"element vertex {len(rows)}"]
    head += [f"property {'uchar' if values.dtype.kind == 'u' else 'float'} {name}" for name, values in columns]
    head += [f"element face {len(faces)}", "property list uchar int vertex_indices", "end_header", ""]
    companions = tuple(Companion(path=image.name, chunks=(image.read(),)) for image in images[:1])
    lost = (say("PLY holds one texture: {count} more are left out", count=len(images) - 1),) if len(images) > 1 else ()
    text = "\n".join(head).encode()
    pieces = (text, rows.view(np.uint8).reshape(-1), faces.view(np.uint8).reshape(-1))
    return Written(chunks=pieces, companions=companions, warnings=lost)


def _vertex_colours(plain: Plain) -> NDArray[np.float64]:
    """Return a colour for each vertex: its own times that of the run it is in."""
    found = np.ones((len(plain.points), 3))
    for run in plain.runs:
        if run.look.image is None:
            found[plain.triangles[run.first : run.first + run.count].ravel()] = run.look.colour
    return found if plain.colours is None else found * plain.colours
