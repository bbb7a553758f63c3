"""The whole proof of a file that was written: all that it is held against, and the short list of what it is not."""

from __future__ import annotations

from oak_square.core.errors import Failed
from oak_square.core.frames import Reading
from oak_square.core.motion import with_reading
from oak_square.core.scene import Asset
from oak_square.core.words import say
from oak_square.delivery.proof import prove_asset, prove_edited
from oak_square.delivery.proof_across import prove_across
from oak_square.delivery.proof_clips import prove_clips
from oak_square.delivery.proof_frames import prove_frames, prove_reading
from oak_square.formats.register import FORMATS
from oak_square.formats.shared.model_file import Received, Written

__all__ = ["COMPARED", "NOT_COMPARED", "prove_written"]

COMPARED = (
    "the unit and axes that the file declares",
    "names, hierarchy, visibility and the frame of every node",
    "every vertex, every face and the way it is wound",
    "normals, tangents, texture coordinates, vertex colours and other values of vertices and corners",
    "materials, and pictures by their bytes",
    "skins, morph targets, instances and clips at sampled times",
    "cameras, lights, metadata, extras and all else that no step changes",
)
"""What a delivered file is held against, as manifests and reports say it."""

NOT_COMPARED = (
    "comments, white space and the order of entries",
    "how numbers are laid out, and what only follows from others: extents, counts, names of units, last matrix rows",
    "lengths of normals",
    "the root that a skin names",
    "keys of clips between the sampled times",
    "what no part refers to",
    "normals and tangents of morph targets",
    "in another format: what it can't hold, as warnings say, names of materials, and what all of its files have",
    "of nodes that hang elsewhere: which of several of one name has what no step changes",
)
"""What it is not held against."""


def prove_written(received: Received, wanted: Asset, written: Written, reopened: Received, reading: Reading) -> float:
    """Return the deviation of what was written, metres, every proof that is due made.

    Parameters
    ----------
    received, reopened : Received
        The source and the delivered file as read.
    wanted : Asset
        As prepared, or as `written` says it was written instead.
    reading : Reading
        In whose numbers the file was written.

    Raises
    ------
    Failed
        With the first thing that does not hold.
    """
    crosses = not FORMATS[reopened.asset.format].is_kin(FORMATS[received.asset.format])
    is_declared = received.asset.reading.source == "declared"
    prove_reading(reopened.asset, reading, must_declare=crosses or is_declared)
    there = with_reading(reopened.asset, reading)
    if written.order is not None:
        there = _in_order_of(wanted, there, written.order)
    if crosses:
        return prove_across(received, wanted, reopened, there)
    moving = prove_clips(received.asset, wanted, there)
    if written.chunks is None:  # the source's own bytes
        return max(prove_asset(wanted, there), moving)
    off = prove_edited(received, wanted, reopened, there, written.order)
    prove_frames(wanted, there, reading)
    return max(off, moving)


def _in_order_of(wanted: Asset, there: Asset, order: tuple[int, ...]) -> Asset:
    """Return a file read again, its nodes in the order of what it was written from."""
    if len(there.nodes) != len(order):
        raise Failed(
            say("re-opened, it has {count} nodes for {count_2}", count=len(there.nodes), count_2=len(wanted.nodes))
        )
    return there.in_order(sorted(range(len(order)), key=order.__getitem__))
