"""From the session to the stand check: copies of the lead asset on three grounds, and how each of the batch stands."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from oak_square.app.facts.picture import Facts, NoteMark, Picture, Shape
from oak_square.app.session.state import State, prepared
from oak_square.core.boxes import Box, asset_box, points_box
from oak_square.core.frames import translation
from oak_square.core.memo import Memo
from oak_square.core.scene import Asset, Mesh
from oak_square.core.shown_units import ShownUnit
from oak_square.core.stand_check import GROUNDS, Stand, ground_mesh, stand_of, strip_shift
from oak_square.core.terms import term
from oak_square.core.tolerances import OFF_GROUND, STANDS_M
from oak_square.core.words import say

__all__ = ["StandRow", "StandShown", "stand_shown"]


_STANDS: Memo[Stand] = Memo(most=len(GROUNDS))
_MESHES: Memo[Mesh] = Memo(most=len(GROUNDS))


@dataclass(frozen=True, slots=True, kw_only=True)
class StandRow:
    """An asset, how it stands on each ground in words, and whether it stands true on level ground."""

    file: str
    name: str
    words: tuple[str, ...]
    is_true: bool


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class StandShown:
    """The picture of the lead asset's copies, what is written over it, and the rows of the batch."""

    picture: Picture
    facts: Facts
    rows: tuple[StandRow, ...]


def stand_shown(session: State) -> StandShown:
    """Return the stand check of the included assets as they are prepared; nothing is changed by it."""
    ready = prepared(session)
    rows = tuple(_stand_row(f, a, session.unit) for f, a in ready.items() if asset_box(a) is not None)
    lead = ready.get(session.lead or "")
    if lead is None or asset_box(lead) is None:
        return StandShown(
            picture=Picture(), facts=Facts(notice=say("Select an asset to stand on the ground")), rows=rows
        )
    shapes, notes = list[Shape](), list[NoteMark]()
    for number, ground in enumerate(GROUNDS):
        stand, shift = _find_stand(lead, ground), strip_shift(lead, number)
        mesh = _MESHES.of(lead, ground, lambda g=ground: ground_mesh(lead, g))  # type: ignore[misc]  # a bound default
        shapes.append(Shape(file="", node=-1, mesh=mesh, world_from_mesh=translation(shift)))
        for place in stand.places:
            motion = translation(place + shift)
            shapes += [
                Shape(file=lead.file, node=i, mesh=lead.mesh_of(i), world_from_mesh=motion @ lead.world_from_mesh(i))
                for i in lead.parts
            ]
        text = f"{term(ground)}: {stand_words(stand, session.unit)}"
        stands_true = max(stand.floats_m, stand.sinks_m) <= STANDS_M
        notes.append(NoteMark(at=stand.places[0] + shift, text=text, is_trouble=not stands_true))
    return StandShown(
        picture=Picture(shapes=tuple(shapes), box=_box_about_shapes(shapes)), facts=Facts(notes=tuple(notes)), rows=rows
    )


def _box_about_shapes(shapes: list[Shape]) -> Box | None:
    boxes = [b for s in shapes if (b := points_box(s.mesh.points, s.world_from_mesh)) is not None]
    return Box(np.min([b.low for b in boxes], axis=0), np.max([b.high for b in boxes], axis=0)) if boxes else None


def _find_stand(asset: Asset, ground: str) -> Stand:
    return _STANDS.of(asset, ground, lambda: stand_of(asset, ground))


def _stand_row(file: str, asset: Asset, unit: ShownUnit) -> StandRow:
    stands = [_find_stand(asset, ground) for ground in GROUNDS]
    box = asset_box(asset)
    tall = 0.0 if box is None else float(box.size[1])
    level = stands[0]
    return StandRow(
        file=file,
        name=asset.name,
        words=tuple(stand_words(s, unit) for s in stands),
        is_true=max(level.floats_m, level.sinks_m) <= max(OFF_GROUND * tall, STANDS_M),
    )


def stand_words(stand: Stand, unit: ShownUnit) -> str:
    """Return how a thing stands in words."""
    said = [say("floats {length}", length=unit.length(stand.floats_m))] if stand.floats_m > STANDS_M else []
    said += [say("sinks {length}", length=unit.length(stand.sinks_m))] if stand.sinks_m > STANDS_M else []
    said += (
        [say("would have to lean {leans_deg:.1f}°", leans_deg=stand.leans_deg)]
        if stand.leans_deg > 0.05 and said
        else []
    )
    return ", ".join(said) or say("stands true")
