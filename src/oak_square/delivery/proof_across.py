"""Proof of a model that has crossed to another format: the same triangles, and all that goes along with them."""

from __future__ import annotations

import hashlib
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

from oak_square.core.errors import Failed
from oak_square.core.geometry import flipped, is_mirror, normal_matrix
from oak_square.core.lengths import format_length
from oak_square.core.scene import Asset
from oak_square.core.shapes import corners_of
from oak_square.core.tolerances import FACING, ROUNDED_COLOUR, ROUNDED_FACTOR
from oak_square.core.words import say
from oak_square.delivery.proof import allowance
from oak_square.delivery.proof_frames import prove_nodes_across
from oak_square.formats.register import FORMATS
from oak_square.formats.shared.look import Look, Texture
from oak_square.formats.shared.model_file import Format, Received
from oak_square.formats.shared.plain import Plain

__all__ = ["prove_across"]

Array = NDArray[np.float64]
Rows = NDArray[np.int64]
_TURNS = ((0, 1, 2), (1, 2, 0), (2, 0, 1))
_ROWS = (("normals", "normals"), ("texture coordinates", "uvs"), ("second texture coordinates", "more_uvs"))


def prove_across(source: Received, wanted: Asset, reopened: Received, there: Asset) -> float:
    """Return how far any corner of a triangle is from where it should be, in a file of another format, metres.

    Such a file may hold other vertices and further nodes, but the same triangles in the same order, wound the same way;
    with the normals, coordinates, colours and looks, and the names, places and parents of nodes that it is made with.

    Parameters
    ----------
    source, reopened : Received
        The source and the delivered file as read.
    wanted, there : Asset
        As prepared; as read again, under the reading it was written in.

    Raises
    ------
    Failed
        If something is missing, or is off by more than rounding explains.
    """
    before, after = _walk_parts(wanted), _walk_parts(there)
    off, turns = _prove_corners(wanted, before, there, after)
    kind = FORMATS[there.format]
    trouble = kind.made_trouble(reopened)
    if trouble:
        raise Failed(say("re-opened, {trouble}", trouble=trouble))
    prove_nodes_across(wanted, there)
    old = _DrawnTriangles.of(wanted, before, FORMATS[source.asset.format].plains(source, wanted))
    new = _DrawnTriangles.of(there, after, kind.plains(reopened, there))
    _prove_rows(old, new, turns, kind)
    _prove_looks(old, new, kind)
    return off


def _prove_corners(wanted: Asset, before: list[int], there: Asset, after: list[int]) -> tuple[float, Rows]:
    """Return how far a corner is off at most, metres, and at which corner each triangle begins there, shape (M,)."""
    old, new = corners_of(wanted, before), corners_of(there, after)
    if len(old) != len(new):
        raise Failed(say("re-opened, it has {count} triangles for {count_2}", count=len(new), count_2=len(old)))
    each = np.stack([np.linalg.norm(old - new[:, turn], axis=2).max(axis=1, initial=0.0) for turn in _TURNS])
    turns = each.argmin(axis=0)
    apart = each.min(axis=0, initial=np.inf)
    holders = np.repeat(after, [len(there.mesh_of(j).triangles) for j in after])
    first = 0
    for i in before:
        count = len(wanted.mesh_of(i).triangles)
        off = float(apart[first : first + count].max(initial=0.0))
        own = {int(j) for j in np.unique(holders[first : first + count])}
        if not (off <= max((allowance(wanted, i, there, j) for j in own), default=0.0)):
            name, far = wanted.nodes[i].name, format_length(off)
            raise Failed(
                say(
                    "its proof does not hold: a corner of '{name}' is {far} from where it should be", name=name, far=far
                )
            )
        first += count
    return float(apart.max(initial=0.0)), turns


def _walk_parts(asset: Asset) -> list[int]:
    """Return the parts as a walk meets them."""
    parts = set(asset.parts)
    return [k for k in asset.depth_first if k in parts]


@dataclass(frozen=True, slots=True, kw_only=True)
class _Part:
    """A part's triangles as they are drawn: shape (M, 3), rewound where its frame mirrors."""

    name: str
    plain: Plain
    rows: Rows
    normal_matrix: Array

    def values(self, field: str) -> Array | None:
        """Return what is told of each corner, shape (M, 3, width); directions in the world; None where nothing is."""
        values = getattr(self.plain, field)
        if values is None:
            return None
        found = np.asarray(values, dtype=np.float64)[self.rows]
        return _unit_rows(found @ self.normal_matrix.T) if field == "normals" else found

    def looks(self) -> Iterator[tuple[int, Look]]:
        """Yield runs of triangles with their looks."""
        yield from ((run.count, run.look) for run in self.plain.runs)


@dataclass(frozen=True, slots=True, kw_only=True)
class _DrawnTriangles:
    parts: tuple[_Part, ...]

    @staticmethod
    def of(asset: Asset, walk: list[int], plains: dict[int, Plain]) -> _DrawnTriangles:
        found = []
        for i in walk:
            mesh, matrix = asset.nodes[i].mesh, asset.world_from_mesh(i)
            assert mesh is not None
            rows = np.asarray(plains[mesh].triangles, dtype=np.int64)
            if len(rows):
                rows = flipped(rows) if is_mirror(matrix) else rows
                carry = normal_matrix(matrix[:3, :3])
                found.append(_Part(name=asset.nodes[i].name, plain=plains[mesh], rows=rows, normal_matrix=carry))
        return _DrawnTriangles(parts=tuple(found))

    def corners(self, field: str) -> Array | None:
        """Return a field of all parts in a row; not a number for parts that have none; None where none has any."""
        own = [part.values(field) for part in self.parts]
        width = next((v.shape[2] for v in own if v is not None), 0)
        if not width:
            return None
        return np.concatenate(
            [np.full((len(p.rows), 3, width), np.nan) if v is None else v for p, v in zip(self.parts, own, strict=True)]
        )

    def name_at(self, triangle: int) -> str:
        """Return the name of the part that a triangle is of."""
        ends = np.cumsum([len(p.rows) for p in self.parts])
        return self.parts[int(np.searchsorted(ends, triangle, side="right"))].name


def _unit_rows(rows: Array) -> Array:
    lengths = np.linalg.norm(rows, axis=-1, keepdims=True)
    found: Array = rows / np.where(lengths > 0, lengths, 1.0)
    return found


def _prove_rows(old: _DrawnTriangles, new: _DrawnTriangles, turns: Rows, kind: Format) -> None:
    """Hold what is told of corners against what should be told of them, where the format is made with it."""
    in_one = "names" not in kind.makes  # all parts become one mesh, which has what all of them have
    made = {*kind.makes, *kind.shades}
    for what, field in _ROWS:
        before = old.corners(field)
        if before is None or what not in made or (in_one and np.isnan(before).any()):
            continue
        _hold_rows(before, new.corners(field), turns, old, what, FACING if field == "normals" else ROUNDED_FACTOR)
    colours = old.corners("colours")
    if colours is not None and "vertex colours" in kind.makes:
        if in_one:
            # Where a part has none it is drawn in the colour of its material, which goes into its vertices too.
            colours = np.where(np.isnan(colours), 1.0, colours) * _look_colours(old)
        _hold_rows(colours, new.corners("colours"), turns, old, say("vertex colours"), ROUNDED_COLOUR)


def _look_colours(drawn: _DrawnTriangles) -> Array:
    """Return the colour that a vertex colour is multiplied by, shape (M, 1, 3): white where there is a texture."""
    rows = [
        np.tile((1.0, 1.0, 1.0) if look.image is not None else look.colour, (count, 1))
        for part in drawn.parts
        for count, look in part.looks()
    ]
    return np.concatenate(rows)[:, None, :]


def _hold_rows(
    before: Array, after: Array | None, turns: Rows, old: _DrawnTriangles, what: str, allowed: float
) -> None:
    if after is None or after.shape != before.shape:
        raise Failed(say("re-opened, '{name}' has lost or gained {lost}", name=old.name_at(0), lost=say(what)))
    turned = np.take_along_axis(after, np.array(_TURNS)[turns][:, :, None], axis=1)
    told = ~np.isnan(before).any(axis=2)
    if what == "normals":
        told &= np.linalg.norm(np.nan_to_num(before), axis=2) > 0
    scale = np.maximum(1.0, np.abs(np.nan_to_num(before)))
    # Not `>`: that is false of what is not a number.
    wrong = told & ~((np.abs(turned - before) <= allowed * scale).all(axis=2))
    rows = np.flatnonzero(wrong)
    if len(rows):
        name = old.name_at(int(rows[0]) // 3)
        raise Failed(
            say("its proof does not hold: the {what} of '{name}' are not what they were", what=say(what), name=name)
        )


def _prove_looks(old: _DrawnTriangles, new: _DrawnTriangles, kind: Format) -> None:
    """Hold the looks of runs of triangles against what they should be, as far as the format is made with them."""
    pairs = list(_pair_looks(old, new))
    # In one mesh that holds one texture, what has several is warned of.
    has_several = "names" not in kind.makes and len({look.image for _, look, _ in pairs}) > 1
    fields = [f for f in kind.looks if f != "texture" or not has_several]
    digests: dict[Any, str] = {}
    for k, (name, a, b) in enumerate(pairs):
        if pairs.index((name, a, b)) < k:
            continue
        for field in fields:
            if not _same_field(field, a, b, kind, digests):
                raise Failed(say("re-opened, the materials of '{name}' are not what they were", name=name))


def _pair_looks(old: _DrawnTriangles, new: _DrawnTriangles) -> Iterator[tuple[str, Look, Look]]:
    """Yield looks that the same triangles had and have, with the part that they are of."""
    before = [(part.name, count, look) for part in old.parts for count, look in part.looks()]
    after = [(count, look) for part in new.parts for count, look in part.looks()]
    at, left = 0, after[0][0] if after else 0
    for name, count, look in before:
        while count > 0:
            if at >= len(after):
                raise Failed(say("re-opened, the materials of '{name}' are not what they were", name=name))
            taken = min(count, left)
            if taken:
                yield name, look, after[at][1]
            count, left = count - taken, left - taken
            if not left:
                at += 1
                left = after[at][0] if at < len(after) else 0


def _same_field(field: str, a: Look, b: Look, kind: Format, digests: dict[Any, str]) -> bool:
    old, new = getattr(a, field), getattr(b, field)
    if isinstance(old, Texture) or isinstance(new, Texture):
        return _same_texture(old, new, kind, digests)
    if old is None:
        return field != "cutoff" or new is None  # of light a file that says nothing is given something usual
    is_laid_on = a.texture is not None and "texture" in kind.looks
    if field == "colour" and is_laid_on and "texture tints" not in kind.shades:
        return True
    if field == "glow":
        old = tuple(min(1.0, c) for c in old)
    if new is None:
        return False
    return bool(np.abs(np.asarray(old, dtype=np.float64) - np.asarray(new, dtype=np.float64)).max() <= ROUNDED_COLOUR)


def _same_texture(old: Texture | None, new: Texture | None, kind: Format, digests: dict[Any, str]) -> bool:
    if old is None or new is None:
        return old is new
    laid = "second texture coordinates" not in kind.shades or old.uv == new.uv
    wraps = "texture wrapping" not in kind.shades or (old.across, old.up) == (new.across, new.up)
    return laid and wraps and _digest_image(old, digests) == _digest_image(new, digests)


def _digest_image(texture: Texture, digests: dict[Any, str]) -> str:
    key = texture.image
    if key not in digests:
        digests[key] = hashlib.sha256(key.read()).hexdigest()
    return digests[key]
