"""Proof: a delivered file re-opened, and every vertex held against where it should be."""

from __future__ import annotations

import math

import numpy as np
from numpy.typing import NDArray

from oak_square.core.boxes import asset_box
from oak_square.core.clips import Clip, clip_frames, one_motion, pose
from oak_square.core.errors import Failed
from oak_square.core.geometry import is_mirror
from oak_square.core.lengths import format_length
from oak_square.core.placement import inverse
from oak_square.core.resampling import is_resampled
from oak_square.core.scene import Asset
from oak_square.core.shapes import corners_of
from oak_square.core.tolerances import PROOF, RESAMPLED

__all__ = ["deviation", "prove_across", "prove_asset", "prove_clips", "sampled_times"]

Array = NDArray[np.float64]
_CHUNK = 16_384
_MOST_TIMES = 48


def deviation(wanted: Asset, there: Asset) -> float:
    """Return the largest distance between where a vertex should be and where the re-opened file has it, metres.

    Parameters
    ----------
    wanted : Asset
        As prepared: source geometry, carried by the steps' motions in float64.
    there : Asset
        The delivered file as read again, under the reading it was written in.

    Raises
    ------
    Failed
        If nodes or vertices are not the same ones.
    """
    if len(wanted.nodes) != len(there.nodes):
        raise Failed(f"re-opened, it has {len(there.nodes)} nodes for {len(wanted.nodes)}")
    furthest = 0.0
    for i, (a, b) in enumerate(zip(wanted.nodes, there.nodes, strict=True)):
        if a.name != b.name or (a.mesh is None) != (b.mesh is None):
            raise Failed(f"re-opened, node {i} is '{b.name}' in place of '{a.name}'")
        if a.parent != b.parent:
            raise Failed(f"re-opened, '{b.name}' hangs from another node")
        if a.mesh is not None:
            furthest = max(furthest, _node_deviation(wanted, there, i))
    return furthest


def _node_deviation(wanted: Asset, there: Asset, i: int) -> float:
    old, new = wanted.mesh_of(i).points, there.mesh_of(i).points
    if len(old) != len(new):
        raise Failed(f"re-opened, '{wanted.nodes[i].name}' has {len(new)} vertices for {len(old)}")
    a, b = wanted.world_from_mesh(i), there.world_from_mesh(i)
    offset = (a[:3, 3] - b[:3, 3])[:, None]
    largest = 0.0
    mirrored_rows = _order(wanted, there, i)
    for start in range(0, len(old), _CHUNK):
        rows = slice(start, start + _CHUNK)
        after = new[rows] if mirrored_rows is None else new[mirrored_rows[rows]]
        apart = a[:3, :3] @ old[rows].T.astype(np.float64) - b[:3, :3] @ after.T.astype(np.float64) + offset
        largest = max(largest, float(np.einsum("ij,ij->j", apart, apart).max()))
    return max(math.sqrt(largest), _morph_deviation(wanted, there, i))


def _morph_deviation(wanted: Asset, there: Asset, i: int) -> float:
    """Return how far a vertex strays at the full weight of any one morph target, beyond where it strays at rest."""
    old, new = wanted.mesh_of(i).morphs, there.mesh_of(i).morphs
    if len(old) != len(new):
        raise Failed(f"re-opened, '{wanted.nodes[i].name}' has {len(new)} morph targets for {len(old)}")
    a, b = wanted.world_from_mesh(i)[:3, :3], there.world_from_mesh(i)[:3, :3]
    pairs = zip(old, new, strict=True)
    apart = (np.asarray(x, dtype=np.float64) @ a.T - np.asarray(y, dtype=np.float64) @ b.T for x, y in pairs)
    return max((float(np.linalg.norm(d, axis=1).max(initial=0.0)) for d in apart), default=0.0)


def _order(wanted: Asset, there: Asset, i: int) -> NDArray[np.int64] | None:
    """Return the rows of the new points in the old order, where a format winds triangles by moving their corners."""
    if wanted.format != "stl" or not is_mirror(wanted.world_from_mesh(i)):
        return None
    rows = np.arange(len(there.mesh_of(i).points)).reshape(-1, 3)
    return rows[:, [0, 2, 1]].reshape(-1)


def prove_asset(wanted: Asset, there: Asset) -> float:
    """Return the deviation of a delivered file.

    Raises
    ------
    Failed
        If it is over what rounding to the file's numbers explains.
    """
    off = deviation(wanted, there)
    box = asset_box(wanted)
    if box is None:
        return off
    reach = float(np.abs([box.low, box.high]).max())
    allowed = PROOF * (box.diagonal + reach + _number_reach(there))
    if off > allowed:
        raise Failed(f"its proof does not hold: a vertex is {format_length(off)} from where it should be")
    return off


def prove_across(wanted: Asset, there: Asset) -> float:
    """Return how far any corner of a triangle is from where it should be, in a file of another format, metres.

    Such a file may hold other vertices and other nodes, but the same triangles in the same order, wound the same way.

    Raises
    ------
    Failed
        If triangles are missing, or one is off by more than rounding explains.
    """
    old, new = corners_of(wanted, _walk(wanted)), corners_of(there, _walk(there))
    if len(old) != len(new):
        raise Failed(f"re-opened, it has {len(new)} triangles for {len(old)}")
    apart = np.full(len(old), np.inf)
    for turn in ((0, 1, 2), (1, 2, 0), (2, 0, 1)):  # it may start at any corner
        apart = np.minimum(apart, np.linalg.norm(old - new[:, turn], axis=2).max(axis=1, initial=0.0))
    off, box = float(apart.max(initial=0.0)), asset_box(wanted)
    if box is None:
        return off
    reach = float(np.abs([box.low, box.high]).max())
    if off > PROOF * (box.diagonal + reach + _number_reach(there)):
        raise Failed(f"its proof does not hold: a corner is {format_length(off)} from where it should be")
    return off


def _walk(asset: Asset) -> list[int]:
    """Return the parts as a walk meets them."""
    parts = set(asset.parts)
    return [k for k in asset.depth_first if k in parts]


def _number_reach(there: Asset) -> float:
    """Return the largest distance, metres, that a vertex has from its own node: float32 rounds relative to it."""
    reach = 0.0
    for i in there.parts:
        mesh = there.mesh_of(i)
        if len(mesh.points):
            linear = float(np.abs(there.world_from_mesh(i)[:3, :3]).max())
            ends = max(abs(float(mesh.points.min())), abs(float(mesh.points.max())))
            reach = max(reach, ends * linear)
    return reach


def prove_clips(received: Asset, wanted: Asset, there: Asset) -> float:
    """Return how far any part strays at sampled times of any clip, metres; 0 where there are none.

    Parameters
    ----------
    received : Asset
        As read from the source: at every time, the steps' one motion of it is what is wanted.
    wanted : Asset
        As prepared.
    there : Asset
        The delivered file as read again.

    Raises
    ------
    Failed
        If clips are missing, or a part strays more than rounding explains.
    """
    if len(received.clips) != len(there.clips):
        raise Failed(f"re-opened, it has {len(there.clips)} clips for {len(received.clips)}")
    box = asset_box(wanted)
    if not received.clips or box is None:
        return 0.0
    motion, furthest = one_motion(received, wanted), 0.0
    for old, new in zip(received.clips, there.clips, strict=True):
        for at_s in sampled_times(old):
            before, after = pose(received, old, at_s), pose(there, new, at_s)
            for i, node in enumerate(received.nodes):
                binds = zip(node.binds, there.nodes[i].binds, strict=True)
                pairs = [(b.joint_from_mesh, a.joint_from_mesh) for b, a in binds]
                moved = [(a, after[i] @ b) for a, b in pairs]
                if node.mesh is not None and node.skin is None:
                    for j in wanted.bearers(i):
                        # The source's numbers were rewritten by what the prepared node says of them.
                        rewritten = there.nodes[j].local_from_mesh @ wanted.nodes[j].local_from_mesh
                        moved.append((node.local_from_mesh, after[j] @ rewritten))
                for a, b in moved:
                    furthest = max(furthest, _apart(motion @ before[i] @ a, b, received, i, a))
    share = PROOF * 20
    if any(is_resampled(received, i, below) for i, (_, below) in clip_frames(received, wanted).items()):
        share = 2 * RESAMPLED
    allowed = share * max(box.diagonal, float(np.abs(box.corners).max()))
    if furthest > allowed:
        raise Failed(f"its proof does not hold: a clip leaves a part {format_length(furthest)} from where it should be")
    return furthest


def sampled_times(clip: Clip) -> list[float]:
    """Return times to hold a clip against: its keys and the middles between them, a few dozen at most."""
    keys = np.unique(np.concatenate([t.times for t in clip.tracks])) if clip.tracks else np.zeros(1)
    both = np.unique(np.concatenate([keys, (keys[1:] + keys[:-1]) / 2]))
    return [float(t) for t in both[:: max(1, len(both) // _MOST_TIMES)]]


def _apart(wanted: Array, there: Array, received: Asset, i: int, local: Array) -> float:
    """Return how far two world matrices are apart over the corners of the asset as it rests."""
    box = asset_box(received)
    assert box is not None
    back = inverse(received.worlds[i] @ local, what=f"node '{received.nodes[i].name}'")
    corners = np.column_stack([box.corners, np.ones(8)]) @ back.T
    return float(np.linalg.norm((corners @ (wanted - there).T)[:, :3], axis=1).max())
