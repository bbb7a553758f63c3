"""Proof of clips: a delivered file's parts held against where they should be while each clip plays."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from oak_square.core.boxes import asset_box
from oak_square.core.clips import Clip, clip_frames, one_motion, pose
from oak_square.core.errors import Failed
from oak_square.core.lengths import format_length
from oak_square.core.placement import inverse
from oak_square.core.resampling import is_resampled
from oak_square.core.scene import Asset
from oak_square.core.tolerances import COARSE_FLOAT32_M, COARSE_SHARE, PROOF, RESAMPLED, ROUNDED
from oak_square.core.words import say

__all__ = ["prove_clips", "sampled_times"]

Array = NDArray[np.float64]
_MOST_TIMES = 48


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
        raise Failed(
            say("re-opened, it has {count} clips for {count_2}", count=len(there.clips), count_2=len(received.clips))
        )
    _prove_names_and_weights(received, wanted, there)
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
                    # Not `max`: of 0 and what is not a number it gives 0.
                    furthest = float(
                        np.maximum(furthest, _measure_motion_apart(motion @ before[i] @ a, b, received, i, a))
                    )
    share = PROOF * 20
    if any(is_resampled(received, i, below) for i, (_, below) in clip_frames(received, wanted).items()):
        share = 2 * RESAMPLED
    far = ROUNDED * 20 * float(np.abs(box.corners).max())
    allowed = share * box.diagonal + min(far, max(COARSE_SHARE * box.diagonal, COARSE_FLOAT32_M))
    if not (furthest <= allowed):
        raise Failed(
            say(
                "its proof does not hold: a clip leaves a part {furthest} from where it should be",
                furthest=format_length(furthest),
            )
        )
    return furthest


def _prove_names_and_weights(received: Asset, wanted: Asset, there: Asset) -> None:
    """Check that clips are called what they were, and weigh morph targets as they did."""
    for old, new in zip(received.clips, there.clips, strict=True):
        if old.name != new.name:
            raise Failed(say("re-opened, the clip '{name}' is called '{name_2}'", name=old.name, name_2=new.name))
        after = [(t.node, t.interpolation, t.times.tobytes(), t.values.tobytes()) for t in new.morphing]
        for track in old.morphing:
            key = (track.interpolation, track.times.tobytes(), track.values.tobytes())
            if not any((i, *key) in after for i in wanted.bearers(track.node)):
                raise Failed(say("re-opened, the clip '{name}' weighs morph targets otherwise", name=old.name))


def sampled_times(clip: Clip) -> list[float]:
    """Return times to hold a clip against: its keys and the middles between them, a few dozen at most."""
    keys = np.unique(np.concatenate([t.times for t in clip.tracks])) if clip.tracks else np.zeros(1)
    both = np.unique(np.concatenate([keys, (keys[1:] + keys[:-1]) / 2]))
    return [float(t) for t in both[:: max(1, len(both) // _MOST_TIMES)]]


def _measure_motion_apart(wanted: Array, there: Array, received: Asset, i: int, local: Array) -> float:
    """Return how far two world matrices are apart over the corners of the asset as it rests."""
    box = asset_box(received)
    assert box is not None
    back = inverse(received.worlds[i] @ local, what=say("node '{name}'", name=received.nodes[i].name))
    corners = np.column_stack([box.corners, np.ones(8)]) @ back.T
    return float(np.linalg.norm((corners @ (wanted - there).T)[:, :3], axis=1).max())
