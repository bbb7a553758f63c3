"""Proof of what a file says of itself and of its nodes: its unit and axes, each node's frame, names and hierarchy."""

from __future__ import annotations

import re
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from oak_square.core.boxes import asset_box
from oak_square.core.errors import Failed
from oak_square.core.frames import Reading
from oak_square.core.lengths import format_length
from oak_square.core.motion import in_basis
from oak_square.core.scene import Asset
from oak_square.core.tolerances import FLOAT_STEP, FRAME, PROOF, ROUNDED
from oak_square.core.words import say
from oak_square.formats.register import FORMATS
from oak_square.formats.shared.model_file import Format

__all__ = ["prove_frames", "prove_nodes_across", "prove_reading"]

Array = NDArray[np.float64]
_UNTOLD = re.compile(r"[\x00-\x1f\x7f-\x9f\ud800-\udfff\ufffd]")


def prove_reading(reopened: Asset, reading: Reading, *, must_declare: bool) -> None:
    """Make sure that a file declares the unit and axes it was written in, where its format declares any.

    With `must_declare` it may not leave it to what its format takes them for.

    Raises
    ------
    Failed
        With what it declares instead.
    """
    own = reopened.reading
    if not FORMATS[reopened.format].declares:
        return
    # Readers take a unit that is nearly a known one for that.
    is_unit = abs(own.metres_per_unit / reading.metres_per_unit - 1) <= FLOAT_STEP
    is_turned = (own.up, own.front) != (reading.up, reading.front)
    if not is_unit or is_turned or (must_declare and own.source == "assumed"):
        raise Failed(
            say(
                "re-opened, it declares {metres:g} m and {up} up, where {metres_2:g} m and {up_2} up were written",
                metres=own.metres_per_unit,
                up=own.up,
                metres_2=reading.metres_per_unit,
                up_2=reading.up,
            )
        )


def prove_frames(wanted: Asset, there: Asset, reading: Reading) -> None:
    """Make sure that each node of a file of the source's kind stands, turns and is scaled in its parent as prepared.

    Parameters
    ----------
    wanted, there : Asset
        As prepared; as read again, under the reading it was written in. They have the same nodes.
    reading : Reading
        In whose numbers the file holds them.

    Raises
    ------
    Failed
        With the node whose frame is another.
    """
    for node, other in zip(wanted.nodes, there.nodes, strict=True):
        if node.shown != other.shown:
            raise Failed(say("re-opened, '{name}' is shown where it was hidden, or the other way", name=node.name))
    if "pivots" not in FORMATS[there.format].holds:
        return
    basis, far = reading.file_from_working, _allowed_distance(wanted) / reading.metres_per_unit
    for a, b in zip(in_basis(wanted, basis), in_basis(there, basis), strict=True):
        trouble = _frame_trouble(a.placement.matrix, b.placement.matrix, far)
        if trouble is not None:
            by = format_length(trouble * reading.metres_per_unit)
            raise Failed(_frame_words(a.name, by) if trouble else _channel_words(a.name))


def _frame_words(name: str, by: str) -> str:
    return say("its proof does not hold: the pivot of '{name}' is {by} from where it should be", name=name, by=by)


def _channel_words(name: str) -> str:
    return say("its proof does not hold: '{name}' is turned or scaled otherwise than it should be", name=name)


def _allowed_distance(asset: Asset) -> float:
    """Return how far off, metres, a frame of an asset may be beyond the rounding of its own numbers."""
    box = asset_box(asset)
    if box is None:
        return PROOF
    return PROOF * box.diagonal + ROUNDED * float(np.abs([box.low, box.high]).max())


def _frame_trouble(wanted: Array, there: Array, far: float) -> float | None:
    """Return how far a frame's origin is off; 0 where it is its axes that are; None where neither is."""
    apart = float(np.linalg.norm(wanted[:3, 3] - there[:3, 3]))
    # Not `>`: that is false of what is not a number.
    if not (apart <= far + 4 * ROUNDED * float(np.abs(wanted[:3, 3]).max())):
        return apart
    turned = float(np.abs(wanted[:3, :3] - there[:3, :3]).max())
    return None if turned <= FRAME * float(np.abs(wanted[:3, :3]).max()) else 0.0


def prove_nodes_across(wanted: Asset, there: Asset) -> None:
    """Make sure that a file of another format has all nodes it is to have: each by its name, place and parent.

    It may have further ones: a format that holds no geometry on a node with others below puts it into one of its own.

    Raises
    ------
    Failed
        With the node that is missing, or stands or hangs elsewhere.
    """
    if "names" not in FORMATS[there.format].makes:
        return
    roots = [i for i, node in enumerate(there.nodes) if node.parent is None]
    try:
        _walk_from(wanted, there, 0)
    except Failed:
        # One node above all may be the file's own, called like one of those below it.
        if len(roots) != 1 or there.nodes[roots[0]].mesh is not None:
            raise
        _walk_from(wanted, there, 1)


def _walk_from(wanted: Asset, there: Asset, at: int) -> None:
    kind = FORMATS[there.format]
    has_frames = "pivots" in kind.makes
    order = list(there.depth_first)
    place, known = dict[int, int](), set[int]()
    far = 2 * _allowed_distance(wanted)
    for i in (i for i in wanted.depth_first if _is_made(wanted, i, kind)):
        above = wanted.nodes[i].parent
        wish = _Wish(
            name=wanted.nodes[i].name, world=wanted.worlds[i], above=None if above is None else place.get(above)
        )
        place[i], at = _find_node(wish, there, kind, (order, at, far), known if has_frames else None)
        known.add(place[i])


@dataclass(frozen=True, slots=True, kw_only=True)
class _Wish:
    """A node that is to be there: its name, its frame, and the node there that it hangs from."""

    name: str
    world: Array
    above: int | None


def _find_node(
    wish: _Wish, there: Asset, kind: Format, walk: tuple[list[int], int, float], known: set[int] | None
) -> tuple[int, int]:
    """Return the first node from a place of a walk on that is what is wished for, and the place behind it."""
    order, at, far = walk
    off: float | None = None
    is_elsewhere = is_called = False
    for k in range(at, len(order)):
        j = order[k]
        if not _is_called(there.nodes[j].name, wish.name, kind):
            continue
        trouble = None if known is None else _frame_trouble(wish.world, there.worlds[j], far)
        if trouble is None and (known is None or _known_above(there, j, known) == wish.above):
            return j, k + 1
        off = trouble if off is None else off
        is_elsewhere, is_called = is_elsewhere or trouble is None, True
    if not is_called:
        raise Failed(say("re-opened, no node is called '{name}', or it stands elsewhere", name=wish.name))
    if is_elsewhere:
        raise Failed(say("re-opened, '{name}' hangs from another node", name=wish.name))
    raise Failed(_frame_words(wish.name, format_length(off)) if off else _channel_words(wish.name))


def _is_made(asset: Asset, i: int, kind: Format) -> bool:
    if not asset.nodes[i].shown:
        return False
    if "pivots" not in kind.makes:
        return asset.nodes[i].mesh is not None and bool(len(asset.mesh_of(i).triangles))
    return kind.makes_empty_groups or any(len(asset.mesh_of(k).triangles) for k in asset.below(i) if k in asset.parts)


def _known_above(asset: Asset, j: int, known: set[int]) -> int | None:
    """Return the nearest node above that is known."""
    above = asset.nodes[j].parent
    while above is not None and above not in known:
        above = asset.nodes[above].parent
    return above


def _is_called(there: str, wanted: str, kind: Format) -> bool:
    """Tell whether a name is what a format makes of another one: spelled as it can, and told apart by a number."""
    own, base = (_UNTOLD.sub("", kind.name_in_file(name)) for name in (there, wanted))
    if own == base or not base:
        return True
    return own.startswith(base) and re.fullmatch(r"[._]\d+", own[len(base) :]) is not None
