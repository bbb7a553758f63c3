"""Which of a part's vertices a step takes: those at a side, in a slab, of a mark, or by their numbers."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Annotated, Any, Literal

import numpy as np
from numpy.typing import NDArray
from pydantic import AfterValidator, BaseModel, BeforeValidator, Discriminator, Field, Tag, model_validator

from oak_square.core.boxes import EXTENTS, node_box
from oak_square.core.errors import Refused, did_you_mean
from oak_square.core.features import FeatureKind
from oak_square.core.frames import SIDES
from oak_square.core.lengths import parse_length
from oak_square.core.reshaping import fingerprint, places_of
from oak_square.core.scene import Asset, Mesh
from oak_square.core.terms import term
from oak_square.core.tolerances import SAME_PLACE
from oak_square.core.topology import topology
from oak_square.core.words import capital, counted, say
from oak_square.steps.centre import MappingWords, MarkName
from oak_square.steps.setting import Length, LengthOrShare, Setting, said

__all__ = [
    "Extent",
    "Take",
    "TakeSide",
    "TakeSlab",
    "TakeVertices",
    "rows_of_feature",
    "take_for",
    "take_words",
    "taken",
]

Array = NDArray[np.float64]
Rows = NDArray[np.int64]
Side = Literal["left", "right", "bottom", "top", "back", "front"]
Extent = Literal["width", "height", "depth"]
_USUAL = 0.001
"""Of the box's extent: how near to a side counts as at it where nothing is said."""


def _is_near(value: float | str) -> float | str:
    if not str(value).strip().endswith("%") and parse_length(value, bare=1.0, module=1.0) < 0:
        raise ValueError(say("within must not be less than nothing, not {value}", value=value))
    return value


class TakeSide(MappingWords):
    """The vertices at a side of the part's box."""

    side: Side
    within: Annotated[LengthOrShare, AfterValidator(_is_near)] | None = Field(
        None, description=say("How near to the side: a length, or a share of the box's extent such as '2 %'.")
    )


class TakeSlab(MappingWords):
    """The vertices between two heights, or along another extent, from the low side of the part's box."""

    from_: Annotated[dict[Extent, Length], Field(min_length=1, max_length=1)] | None = Field(None, alias="from")
    to: Annotated[dict[Extent, Length], Field(min_length=1, max_length=1)] | None = None

    @model_validator(mode="after")
    def _along_one_extent(self) -> TakeSlab:
        given = [next(iter(end)) for end in (self.from_, self.to) if end is not None]
        if not given:
            raise ValueError(say("a slab is from a length, to one, or both"))
        if len(set(given)) > 1:
            raise ValueError(
                say("a slab lies along one extent, not from a {given} to a {given_2}", given=given[0], given_2=given[1])
            )
        return self

    @property
    def extent(self) -> Extent:
        """The extent that it lies across."""
        end = self.from_ or self.to
        assert end is not None
        return next(iter(end))


class TakeVertices(MappingWords):
    """Vertices by their numbers, which run over the part's primitives in order, on the mesh of that fingerprint."""

    vertices: Annotated[list[Annotated[int, Field(ge=0)]], Field(min_length=1)]
    of: Annotated[str, Field(pattern=r"^[0-9a-f]{12}$")]


_KINDS = {
    "side": "tried-side", "within": "tried-side", "from": "tried-slab", "to": "tried-slab", "mark": "tried-mark",
    "vertices": "tried-vertices", "of": "tried-vertices",
}  # fmt: skip
_FORMS = say("{side: …}, {from: {height: …}, to: {height: …}}, {mark: …} or {vertices: […], of: …}")


def _kind_of(value: Any) -> str:
    """Return which kind of `take` something is, by the first of its words that is known."""
    if isinstance(value, TakeSide | TakeSlab | MarkName | TakeVertices):
        key = {TakeSide: "side", TakeSlab: "from", MarkName: "mark", TakeVertices: "vertices"}[type(value)]
        return _KINDS[key]
    return next((_KINDS[str(k)] for k in value if str(k) in _KINDS), _KINDS["side"])


def _says_what(value: Any) -> Any:
    if isinstance(value, Mapping):
        if not any(str(k) in _KINDS for k in value):
            word = str(next(iter(value), ""))
            raise ValueError(
                say(
                    "'{word}' takes nothing (a take is {_forms}){did_you_mean}",
                    word=word,
                    _forms=_FORMS,
                    did_you_mean=did_you_mean(word, _KINDS),
                )
            )
    elif not isinstance(value, BaseModel):
        raise ValueError(say("'{value}' takes nothing (a take is {_forms})", value=value, _forms=_FORMS))
    return value


Take = Annotated[
    Annotated[TakeSide, Tag("tried-side")]
    | Annotated[TakeSlab, Tag("tried-slab")]
    | Annotated[MarkName, Tag("tried-mark")]
    | Annotated[TakeVertices, Tag("tried-vertices")],
    Discriminator(_kind_of),
    BeforeValidator(_says_what),
]
"""What says which vertices are taken."""


def taken(asset: Asset, node: int, take: TakeSide | TakeSlab | MarkName | TakeVertices, setting: Setting) -> Rows:
    """Return the rows of a part's points that are taken, with all others at their places.

    Raises
    ------
    DataTrouble
        If a mark is not found, or the vertices were numbered on another mesh.
    """
    mesh = asset.mesh_of(node)
    places = places_of(mesh)
    if isinstance(take, TakeVertices):
        rows = _by_number(asset, node, take)
    elif isinstance(take, MarkName):
        rows = _of_mark(asset, node, take.mark, setting)
    else:
        rows = _of_box(asset, node, take, setting)
    if not len(rows):
        return rows
    chosen = np.zeros(int(places.max()) + 1, dtype=bool)
    chosen[places[rows]] = True
    return np.flatnonzero(chosen[places])


def _by_number(asset: Asset, node: int, take: TakeVertices) -> Rows:
    mesh, name = asset.mesh_of(node), asset.nodes[node].name
    own = fingerprint(mesh)
    if own != take.of:
        raise Refused(
            say(
                "the vertices were picked on another mesh than that of '{name}', whose fingerprint is {own}",
                name=name,
                own=own,
            )
        )
    worst = max(take.vertices)
    if worst >= len(mesh.points):
        raise Refused(
            say("'{name}' has no vertex {worst}: it has {count}", name=name, worst=worst, count=len(mesh.points))
        )
    return np.array(take.vertices, dtype=np.int64)


def _of_mark(asset: Asset, node: int, name: str, setting: Setting) -> Rows:
    found = setting.mark(name, asset, node)
    none: Rows = np.empty(0, dtype=np.int64)
    if found.node != node:
        return none
    return rows_of_feature(asset.mesh_of(node), setting.marks[name].kind, found.number)


def rows_of_feature(mesh: Mesh, kind: FeatureKind, number: int) -> Rows:
    """Return the rows of a mesh's points that a feature has, by its number among the features of its kind."""
    if kind == "vertex":
        there = np.array([number])
    else:
        known = topology(mesh)
        if kind == "face":
            there = known.corners[known.triangles_of(number)].ravel()
        elif kind == "edge":
            there = known.rim[known.run_of == number].ravel()
        else:
            there = known.rings[number]
    return np.flatnonzero(np.isin(places_of(mesh), there))


def _of_box(asset: Asset, node: int, take: TakeSide | TakeSlab, setting: Setting) -> Rows:
    box = node_box(asset, node)
    if box is None:
        return np.empty(0, dtype=np.int64)
    matrix, slack = asset.world_from_mesh(node), SAME_PLACE * box.diagonal
    if isinstance(take, TakeSide):
        axis, fraction = SIDES[take.side]
        near = _find_reach(take.within, float(box.size[axis]), setting)
        low, high = (-np.inf, box.low[axis] + near) if fraction == 0 else (box.high[axis] - near, np.inf)
    else:
        axis = EXTENTS.index(take.extent)
        ends = [None if end is None else setting.metres(end[take.extent]) for end in (take.from_, take.to)]
        low = -np.inf if ends[0] is None else box.low[axis] + ends[0]
        high = np.inf if ends[1] is None else box.low[axis] + ends[1]
    along = np.asarray(asset.mesh_of(node).points, dtype=np.float64) @ matrix[axis, :3] + matrix[axis, 3]
    return np.flatnonzero((along >= low - slack) & (along <= high + slack))


def _find_reach(within: float | str | None, extent: float, setting: Setting) -> float:
    return _USUAL * extent if within is None else float(setting.metres_of(within, extent))


def take_for(asset: Asset, node: int, rows: Rows) -> Take:
    """Return what says just these rows of a part's points, as what they mean: a side, a slab, else by their numbers.

    The ends of a slab lie in the middle between what is in and what is out, told with no more digits than that needs.
    """
    mesh, box = asset.mesh_of(node), node_box(asset, node)
    wanted = np.zeros(len(mesh.points), dtype=bool)
    wanted[rows] = True
    numbered = TakeVertices(vertices=sorted(int(r) for r in rows), of=fingerprint(mesh))
    if box is None:
        return numbered
    usual = Setting()
    for side in SIDES:
        take = TakeSide.model_validate({"side": side})
        if np.array_equal(taken(asset, node, take, usual), np.flatnonzero(wanted)):
            return take
    matrix = asset.world_from_mesh(node)
    world = np.asarray(mesh.points, dtype=np.float64) @ matrix[:3, :3].T + matrix[:3, 3] - box.low
    for axis in (1, 0, 2):
        slab = _make_slab(world[:, axis], wanted, float(box.size[axis]), EXTENTS[axis])
        if slab is not None:
            return slab
    return numbered


def _make_slab(along: Array, wanted: NDArray[np.bool_], extent: float, name: str) -> TakeSlab | None:
    """Return the slab that holds just what is wanted along an extent; None where none has room at its ends."""
    low, high = float(along[wanted].min()), float(along[wanted].max())
    out = along[~wanted]
    if ((out >= low) & (out <= high)).any() or extent <= 0:
        return None
    words: dict[str, dict[str, str]] = {}
    for key, inner, others in (("from", low, out[out < low]), ("to", high, out[out > high])):
        if len(others):
            outer = float(others.max() if key == "from" else others.min())
            if abs(inner - outer) < _USUAL * extent:
                return None
            words[key] = {name: f"{_choose_between(*sorted((inner, outer))):.9g} m"}
    return TakeSlab.model_validate(words) if words else None


def _choose_between(low: float, high: float) -> float:
    """Return a number near the middle of two with as few digits as it takes."""
    middle = (low + high) / 2
    for digits in range(-3, 12):
        found = round(middle, digits)
        if low + (high - low) / 4 <= found <= high - (high - low) / 4:
            return found
    return middle


def take_words(take: Take) -> str:
    """Return what is taken in a few words: `Top`, `Height 10 cm to 40 cm`, `Mark 'rim'`, `12 vertices`."""
    if isinstance(take, TakeSide):
        return capital(term(take.side)) + ("" if take.within is None else say(" {length}", length=said(take.within)))
    if isinstance(take, TakeSlab):
        ends = [None if end is None else said(end[take.extent]) for end in (take.from_, take.to)]
        words = say("up to {end}", end=ends[1]) if ends[0] is None else say("from {end}", end=ends[0])
        words = say("{low} to {high}", low=ends[0], high=ends[1]) if None not in ends else words
        return say("{extent} {words}", extent=capital(term(take.extent)), words=words)
    if isinstance(take, MarkName):
        return say("Mark '{mark}'", mark=take.mark)
    return (
        counted(len(take.vertices), "vertex", "vertices")
        if len(take.vertices) > 1
        else say("Vertex {number}", number=take.vertices[0])
    )
