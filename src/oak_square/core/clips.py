"""Animation clips: how a node's channels go with time, and how they are rewritten when frames change.

A step leaves each node's rest frame W and M, the one world motion it makes of the whole asset. A node's old frame then
lies in its new one by `D = W'⁻¹ M W`, and what was `L(t)` between it and its parent p must become `D_p L(t) D⁻¹`.
That is exact where translation, rotation and scale channels can hold it at every time. Where a pivot moved under a
node that turns, its translation is resampled within a stated tolerance; where channels can't hold the rest, it is
refused.
"""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import TYPE_CHECKING, Any, Literal

import numpy as np
from numpy.typing import NDArray

from oak_square.core.errors import Refused
from oak_square.core.placement import Placement, inverse, matrix_of, quaternion_of, rotation_of
from oak_square.core.tolerances import NO_ANGLE_RAD, SAME_BIND, SAME_PLACE, SAME_UNIT, TINY
from oak_square.core.words import say

if TYPE_CHECKING:
    from oak_square.core.scene import Asset, Mesh

__all__ = ["Clip", "Path", "Track", "carried_values", "clip_frames", "morphed_points", "one_motion", "pose", "sampled"]

Array = NDArray[np.float64]
Path = Literal["translation", "rotation", "scale", "weights"]


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Track:
    """One channel of a node over time.

    Attributes
    ----------
    node : int
    path : {"translation", "rotation", "scale", "weights"}
    times : ndarray, shape (K,), seconds, rising
    values : ndarray, shape (K, 3 or 4, or morph targets); for CUBICSPLINE (K, 3, …): in-tangent, value, out-tangent
    interpolation : {"STEP", "LINEAR", "CUBICSPLINE"}
    """

    node: int
    path: Path
    times: Array = field(repr=False)
    values: Array = field(repr=False)
    interpolation: Literal["STEP", "LINEAR", "CUBICSPLINE"] = "LINEAR"


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Clip:
    """A named clip: the tracks that move frames, and those that morph meshes, in the file's order.

    No step changes what morph weights mean, so the latter are only played.
    """

    name: str
    tracks: tuple[Track, ...]
    morphing: tuple[Track, ...] = ()

    @property
    def length_s(self) -> float:
        """When its last key is, seconds."""
        return max((float(t.times[-1]) for t in (*self.tracks, *self.morphing) if len(t.times)), default=0.0)


def sampled(track: Track, at_s: float) -> Array:
    """Return a track's value at a time, as glTF 2.0, appendix C, says: held outside its keys."""
    times, values = track.times, track.values
    keys = values[:, 1] if track.interpolation == "CUBICSPLINE" else values
    if at_s <= times[0] or len(times) == 1:
        found: Array = keys[0]
    elif at_s >= times[-1]:
        found = keys[-1]
    else:
        k = int(np.searchsorted(times, at_s, side="right")) - 1
        span = float(times[k + 1] - times[k])
        u = (at_s - float(times[k])) / span
        if track.interpolation == "STEP":
            found = keys[k]
        elif track.interpolation == "CUBICSPLINE":
            found = _interpolate_hermite(keys[k], values[k, 2] * span, keys[k + 1], values[k + 1, 0] * span, u)
        elif track.path == "rotation":
            found = _interpolate_slerp(keys[k], keys[k + 1], u)
        else:
            found = keys[k] * (1 - u) + keys[k + 1] * u
    return found / np.linalg.norm(found) if track.path == "rotation" else found


def _interpolate_hermite(a: Array, out: Array, b: Array, into: Array, u: float) -> Array:
    found: Array = (
        (2 * u**3 - 3 * u**2 + 1) * a + (u**3 - 2 * u**2 + u) * out + (3 * u**2 - 2 * u**3) * b + (u**3 - u**2) * into
    )
    return found


def _interpolate_slerp(a: Array, b: Array, u: float) -> Array:
    cosine = float(a @ b)
    b = b if cosine >= 0 else -b
    angle = float(np.arccos(np.clip(abs(cosine), 0.0, 1.0)))
    if angle < NO_ANGLE_RAD:
        return a * (1 - u) + b * u
    found: Array = (np.sin((1 - u) * angle) * a + np.sin(u * angle) * b) / np.sin(angle)
    return found


def pose(asset: Asset, clip: Clip, at_s: float) -> Array:
    """Return the world frames of all nodes at a time of a clip, shape (nodes, 4, 4), metres."""
    channels: dict[int, dict[str, Array]] = {}
    for track in clip.tracks:
        channels.setdefault(track.node, {})[track.path] = sampled(track, at_s)
    frames = np.empty((len(asset.nodes), 4, 4))
    for i in asset.order:
        node = asset.nodes[i]
        rest = node.placement
        local = matrix_of(rest)
        if i in channels:
            own = channels[i]
            local = matrix_of(
                Placement.of(
                    translation=own.get("translation", rest.translation),
                    rotation=own.get("rotation", rest.rotation),
                    scale=own.get("scale", rest.scale),
                    what=node.name,
                )
            )
        frames[i] = local if node.parent is None else frames[node.parent] @ local
    return frames


def morphed_points(mesh: Mesh, weights: Array) -> Array:
    """Return a mesh's vertices at morph `weights`, shape (targets,), in file numbers, shape (N, 3)."""
    found = mesh.points.astype(np.float64)
    for delta, weight, default in zip(mesh.morphs, weights, mesh.morph_weights, strict=True):
        if weight != default:
            found += (weight - default) * delta
    return found


def one_motion(before: Asset, after: Asset) -> Array:
    """Return the world motion, shape (4, 4), that steps made of an asset as a whole.

    Raises
    ------
    Refused
        If parts moved otherwise than the rest: a clip can't tell whether that holds at all times.
    """
    motion: Array | None = None
    for i in before.parts:
        back = inverse(before.world_from_mesh(i), what=say("part '{name}'", name=before.nodes[i].name))
        for j in after.bearers(i):
            own = after.world_from_mesh(j) @ back
            if motion is None:
                motion = own
            elif np.abs(own - motion).max() > SAME_BIND * max(1.0, float(np.abs(motion).max())):
                raise Refused(
                    say(
                        "'{name}' would move by itself, and its clips can't say at what times", name=after.nodes[j].name
                    )
                )
    return np.eye(4) if motion is None else motion


def clip_frames(before: Asset, after: Asset) -> dict[int, tuple[Array, Array]]:
    """Return, for each animated node, the matrices `D_p` and `D⁻¹` that its local transform lies between.

    Parameters
    ----------
    before, after : Asset
        The same nodes, as received and as prepared.

    Raises
    ------
    Refused
        If they are not moved as one, or hang from other nodes than before.
    """
    motion = one_motion(before, after)
    found = {}
    animated = {t.node for clip in before.clips for t in clip.tracks}
    for i, (old, new) in enumerate(zip(before.nodes, after.nodes, strict=False)):
        if (
            i not in animated
            and old.parent != new.parent
            and _find_above(before, i, animated) != _find_above(after, i, animated)
        ):
            raise Refused(say("'{name}' would no longer follow the clips that it follows", name=old.name))
    for i in sorted(animated):
        node = before.nodes[i]
        if node.parent != after.nodes[i].parent:
            raise Refused(say("'{name}' is animated, and would hang from another node", name=node.name))
        above = motion
        if node.parent is not None:
            above = _old_in_new(before, after, motion, node.parent)
        found[i] = above, inverse(_old_in_new(before, after, motion, i), what=say("node '{name}'", name=node.name))
    return found


def _find_above(asset: Asset, index: int, animated: set[int]) -> set[int]:
    """Return which of the animated nodes a node hangs from, whether directly or not."""
    found: set[int] = set()
    at = asset.nodes[index].parent
    while at is not None:
        found |= {at} & animated
        at = asset.nodes[at].parent
    return found


def _old_in_new(before: Asset, after: Asset, motion: Array, i: int) -> Array:
    found: Array = (
        inverse(after.worlds[i], what=say("node '{name}'", name=after.nodes[i].name)) @ motion @ before.worlds[i]
    )
    return found


def carried_values(track: Track, before: Asset, above: Array, below: Array) -> Array:
    """Return a track's values as they must be between new frames: `above L(t) below`.

    Raises
    ------
    Refused
        If translation, rotation and scale can't hold that at every time.
    """
    node = before.nodes[track.node]
    a_size, a_turn = _size_and_turn(above, node.name)
    along = _along_axes(below)
    if along is not None:
        # Innermost, beside the keys' own scale: those hold it, axis by axis.
        b_size, b_turn = 1.0, np.eye(3)
    else:
        along = np.ones(3)
        b_size, b_turn = _size_and_turn(below, node.name)
    _check_scales(before, track.node, b_turn)
    values = track.values
    if track.path == "scale":
        # Between square axes the three scales change places; else they are one number.
        order = np.abs(np.rint(b_turn)) if _is_square(b_turn) else np.eye(3)
        sized: Array = values @ order * (a_size * b_size * along)
        return sized
    if track.path == "rotation":
        return _multiply_quaternions(quaternion_of(a_turn), values, quaternion_of(b_turn))
    linear = above[:3, :3]
    carried = values @ linear.T
    rest = matrix_of(node.placement)[:3, :3] @ below[:3, 3]
    shift = linear @ rest + above[:3, 3]
    if track.interpolation == "CUBICSPLINE":
        carried[:, 1] += shift  # tangents are differences
        return carried
    found: Array = carried + shift
    return found


def _along_axes(matrix: Array) -> Array | None:
    """Return the factors along the axes, shape (3,), of a matrix that sizes along them and does no more; else None."""
    linear = matrix[:3, :3]
    factors: Array = np.diag(linear).copy()
    bare = np.abs(linear - np.diag(factors)).max() <= SAME_BIND * np.abs(factors).max()
    return factors if bare and (factors > 0).all() else None


def _size_and_turn(matrix: Array, name: str) -> tuple[float, Array]:
    """Return the uniform scale and the rotation of an affine matrix.

    Raises
    ------
    Refused
        If it sizes unevenly, shears or mirrors.
    """
    linear = matrix[:3, :3]
    size = float(np.cbrt(abs(np.linalg.det(linear))))
    turn: Array = linear / max(size, TINY)
    if np.linalg.det(turn) < 0 or np.abs(turn @ turn.T - np.eye(3)).max() > SAME_BIND * 10:
        raise Refused(say("the clips of '{name}' can't hold an uneven scale, a shear or a mirror", name=name))
    return size, rotation_of(quaternion_of(turn))


def _check_scales(before: Asset, node: int, turn: Array) -> None:
    """Make sure that a scale inside a turn stays a scale: it is the same all round, or the turn is square."""
    if _is_square(turn):
        return
    tracks = [t for clip in before.clips for t in clip.tracks if t.node == node and t.path == "scale"]
    scales = [before.nodes[node].placement.scale[None], *(t.values.reshape(-1, 3) for t in tracks)]
    if any(np.ptp(s, axis=1).max() > SAME_PLACE * np.abs(s).max() for s in scales):
        raise Refused(
            say("'{name}' is scaled unevenly, and its axes would turn under that", name=before.nodes[node].name)
        )


def _is_square(turn: Array) -> bool:
    return bool(np.abs(np.abs(turn) - np.abs(np.rint(turn))).max() < SAME_UNIT)


def _multiply_quaternions(a: Array, values: Array, b: Array) -> NDArray[Any]:
    """Return quaternions, shape (..., 4), multiplied by one from the left and one from the right: linear in them."""
    left, right = _make_left_product(a), _make_right_product(b)
    found: Array = values @ (left @ right).T
    return found


def _make_left_product(q: Array) -> Array:
    x, y, z, w = q
    return np.array([[w, -z, y, x], [z, w, -x, y], [-y, x, w, z], [-x, -y, -z, w]])


def _make_right_product(q: Array) -> Array:
    x, y, z, w = q
    return np.array([[w, z, -y, x], [-z, w, x, y], [y, -x, w, z], [-x, -y, -z, w]])
