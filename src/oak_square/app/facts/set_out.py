"""From the session to the batch set out as one scene: at berths and in rows, as it would be delivered."""

from __future__ import annotations

import contextlib
import math
from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass, replace
from typing import Any

import numpy as np
from numpy.typing import NDArray

from oak_square.app.facts.named_things import berths_shown
from oak_square.app.facts.picture import BerthShown, Facts, Picture, Shape
from oak_square.app.session.set_down import berth_of
from oak_square.app.session.state import State, prepared
from oak_square.core.boxes import Box, asset_box
from oak_square.core.errors import BadReference, DataTrouble
from oak_square.core.scene import Asset
from oak_square.core.words import counted, one_or_many, say
from oak_square.sheet.references import asset_called
from oak_square.sheet.set_out import SetOut, Stood, berth_matrix

__all__ = ["SetOutShown", "set_out_shown"]

Array = NDArray[np.float64]


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class SetOutShown:
    """The scene, and what says it.

    Attributes
    ----------
    picture : Picture
    facts : Facts
    words : mapping
        The set-out as the sheet says it; where it says none, how one would start.
    is_told : bool
        Whether the sheet says it.
    berth_of : mapping of file to berth names
    names : mapping of file to the name that a set-out calls it by
    note : str
        What stands, and what does not and why.
    """

    picture: Picture
    facts: Facts
    words: Mapping[str, Any]
    is_told: bool
    berth_of: Mapping[str, tuple[str, ...]]
    names: Mapping[str, str]
    note: str


def set_out_shown(session: State, names: Mapping[str, str]) -> SetOutShown:
    """Return the included assets where they would stand; `names` are what a set-out calls them by."""
    sheet = session.document.sheet
    ready = prepared(session)
    columns = max(1, math.ceil(math.sqrt(len(ready))))
    usual = SetOut.model_validate({"file": "set_out.glb", "row": {"gap": "50 cm", "columns": columns}})
    told = sheet.set_out or usual
    berths, lost = _at_berths(told, list(session.rows))
    places = _find_places(session, told, berths, ready)
    shapes = [s for file, matrix in places for s in _make_shapes(ready[file], matrix, file == session.lead)]
    box = _box_about_all(places, ready)
    out = [f for f in session.included() if f not in ready]
    note = one_or_many(len(places), "{count} model standing", "{count} models standing")
    note += (
        say("; {assets} left out: refused, failed or still being worked out", assets=counted(len(out), "asset"))
        if out
        else ""
    )
    note += say("; no asset here is called {lost}", lost=", ".join(lost)) if lost else ""
    notice = "" if session.rows else say("Nothing stands here yet: open a folder of models")
    facts = Facts(berths=tuple(_yield_berths(session, berths, ready)), title=say("set-out"), notice=notice)
    return SetOutShown(
        picture=Picture(shapes=tuple(shapes), box=box), facts=facts,
        words=told.model_dump(by_alias=True, exclude_defaults=True), is_told=sheet.set_out is not None,
        berth_of=berths, names=names, note=note,
    )  # fmt: skip


def _yield_berths(
    session: State, berths: Mapping[str, tuple[str, ...]], ready: Mapping[str, Asset]
) -> Iterator[BerthShown]:
    """Yield every berth, as large as what stands there, else as the lead asset."""
    whose = {b: ready[f] for f, own in berths.items() if f in ready for b in own}
    usual = ready.get(session.lead or "") or next(iter(ready.values()), None)
    for name in session.document.sheet.berths:
        asset = whose.get(name, usual)
        if asset is not None:
            yield from (b for b in berths_shown(session, asset) if b.name == name)


def _at_berths(told: SetOut, files: list[str]) -> tuple[dict[str, tuple[str, ...]], list[str]]:
    """Return the berths of each asset that has some, and names that no asset has."""
    found: dict[str, tuple[str, ...]] = {}
    lost = list[str]()
    for name, berths in told.at.items():
        try:
            found[asset_called(name, files)] = (berths,) if isinstance(berths, str) else tuple(berths)
        except BadReference:
            lost.append(name)
    return found, lost


def _file_called(name: str, files: Iterable[str]) -> str:
    try:
        return asset_called(name, list(files))
    except BadReference:
        return ""


def _find_places(
    session: State, told: SetOut, berths: Mapping[str, tuple[str, ...]], ready: Mapping[str, Asset]
) -> list[tuple[str, Array]]:
    setting = replace(session.document.sheet.setting(), others=lambda name: ready.get(_file_called(name, ready)))
    at = list[Stood]()
    for file, berth in ((file, berth) for file, own in berths.items() for berth in own):
        with contextlib.suppress(DataTrouble):  # it hangs from what is not there: the delivery says so
            frame = setting.berths.get(berth)
            if file in ready and frame is not None and (frame.mark is None or frame.of is not None):
                at.append((file, berth, berth_matrix(setting, berth, ready[file])))
    in_row = told.in_row(list(ready), {file: file for file in berths})
    sheet = session.document.sheet
    # What a step has set down at a berth stands there by its own numbers.
    there = [file for file in in_row if sheet.set_out is None and berth_of(sheet, file)]
    stood = told.stand(setting, ready, at, [file for file in in_row if file not in there])
    return [*((file, np.eye(4)) for file in there), *((file, matrix) for file, _, matrix in stood)]


def _make_shapes(asset: Asset, matrix: Array, picked: bool) -> list[Shape]:
    return [
        Shape(
            file=asset.file, node=i, mesh=asset.mesh_of(i), world_from_mesh=matrix @ asset.world_from_mesh(i),
            picked=picked, name=asset.nodes[i].name,
        )
        for i in asset.parts
    ]  # fmt: skip


def _box_about_all(places: list[tuple[str, Array]], ready: Mapping[str, Asset]) -> Box | None:
    """Return the box about all that stands, and a figure beside the origin."""
    corners = [np.array([[-1.2, 0.0, -0.3], [-0.4, 1.8, 0.3]])]
    for file, matrix in places:
        box = asset_box(ready[file])
        if box is not None:
            corners.append(box.corners @ matrix[:3, :3].T + matrix[:3, 3])
    points = np.vstack(corners)
    return Box(points.min(axis=0), points.max(axis=0)) if places else None
