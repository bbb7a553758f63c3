"""The two verbs. Every step is one of them.

`reframe` gives nodes new world frames while all geometry stays where it is in the world. `carry` moves frames, and
geometry follows. With old world frames W and new ones W', node i's new local is `W'_parent⁻¹ W'_i`, and its geometry
is rewritten by `C_i = W'_i⁻¹ W_i`.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace
from typing import TYPE_CHECKING

import numpy as np
from numpy.typing import NDArray

from oak_square.core.checked import readonly
from oak_square.core.frames import apply
from oak_square.core.placement import (
    Placement,
    inverse,
    quaternion_of,
    rotation_of,
    settled,
)
from oak_square.core.reframing import Reframed, inverse_of
from oak_square.core.tolerances import SAME_MATRIX
from oak_square.core.words import say

if TYPE_CHECKING:
    from oak_square.core.frames import Reading
    from oak_square.core.scene import Asset, Bind, Node

__all__ = [
    "carry",
    "carry_all",
    "in_basis",
    "in_place",
    "rebound",
    "reframe",
    "rehung",
    "resize",
    "resize_all",
    "same_matrix",
    "set_rotations",
    "with_reading",
]

Array = NDArray[np.float64]
Hints = Mapping[int, Placement]


def same_matrix(a: Array, b: Array) -> bool:
    """Tell whether two affine (4, 4) matrices are one but for float64 rounding."""
    linear = np.abs(b[:3, :3]).max()
    reach = np.abs(b[:3, 3]).max()
    return bool(
        np.abs(a[:3, :3] - b[:3, :3]).max() <= SAME_MATRIX * linear
        and np.abs(a[:3, 3] - b[:3, 3]).max() <= SAME_MATRIX * reach
    )


def reframe(asset: Asset, worlds: Array, *, hints: Hints | None = None) -> Asset:
    """Return `asset` with its nodes' world frames set to `worlds` and every vertex where it was in the world.

    Parameters
    ----------
    asset : Asset
    worlds : ndarray, shape (nodes, 4, 4), metres, working frame
    hints : mapping of node position to Placement, optional
        Channel numbers to keep to the bit where the new local agrees with them; a node's present ones are tried
        without being named.

    Raises
    ------
    Refused
        If a new frame has no inverse: its node's name is in the message.
    """
    hints = hints or {}
    old = asset.worlds
    moved = _have_moved(worlds, old)
    parents = np.array([-1 if n.parent is None else n.parent for n in asset.nodes], dtype=np.int64)
    due = moved | ((parents >= 0) & moved[parents]) if len(parents) else moved
    plan = Reframed(asset, worlds, parents) if due.any() else None
    nodes = list(asset.nodes)
    for i, node in enumerate(asset.nodes):
        if plan is None or not due[i]:
            nodes[i] = _as_hinted(node, hints.get(i, node.placement))
            continue
        placement = plan.placement(i, hints.get(i))
        if not moved[i]:
            nodes[i] = replace(node, placement=placement)
            continue
        back, local_from_mesh, received = plan.back(i)
        nodes[i] = replace(
            node,
            placement=placement,
            local_from_mesh=local_from_mesh if node.mesh is not None else node.local_from_mesh,
            pinned=False,
            binds=rebound(node, back) if node.binds else node.binds,
            received=received,
        )
    return replace(asset, nodes=tuple(nodes))


def _have_moved(worlds: Array, old: Array) -> NDArray[np.bool_]:
    """Tell which frames, shape (N, 4, 4), are others than they were; as `same_matrix`, for all at once."""
    off = np.abs(worlds - old)
    size = np.abs(old)
    linear = off[:, :3, :3].max(axis=(1, 2), initial=0.0) <= SAME_MATRIX * size[:, :3, :3].max(axis=(1, 2), initial=0.0)
    place = off[:, :3, 3].max(axis=1, initial=0.0) <= SAME_MATRIX * size[:, :3, 3].max(axis=1, initial=0.0)
    moved: NDArray[np.bool_] = ~(linear & place)
    return moved


def rebound(node: Node, matrix: Array) -> tuple[Bind, ...]:
    """Return what hangs on a joint, carried by a (4, 4) `matrix` in its frame."""
    return tuple(replace(b, joint_from_mesh=readonly(matrix @ b.joint_from_mesh)) for b in node.binds)


def _as_hinted(node: Node, hint: Placement) -> Node:
    """Return a node that stays, its channels those of `hint`: two scales of -1 and half a turn are the identity too."""
    own = node.placement
    if np.array_equal(own.rotation, hint.rotation) and np.array_equal(own.scale, hint.scale):
        return node
    return replace(node, placement=replace(hint, translation=own.translation))


def rehung(asset: Asset, parents: Mapping[int, int | None]) -> Asset:
    """Return `asset` with nodes hung from other ones, every node where it was in the world.

    Parameters
    ----------
    asset : Asset
    parents : mapping of node position to the position of its new parent, or None; none may be below itself

    Raises
    ------
    Refused
        If a new parent flattens space.
    """
    nodes = list(asset.nodes)
    for i, parent in parents.items():
        local = asset.worlds[i]
        if parent is not None:
            local = inverse(asset.worlds[parent], what=say("node '{name}'", name=asset.nodes[parent].name)) @ local
        like = asset.nodes[i].placement
        placement = settled(
            Placement.from_matrix(local, like=like, what=say("node '{name}'", name=asset.nodes[i].name))
        )
        nodes[i] = replace(asset.nodes[i], parent=parent, placement=placement)
    return replace(asset, nodes=tuple(nodes))


def carry(asset: Asset, motions: Mapping[int, Array]) -> Asset:
    """Return `asset` with each node of `motions` moved by its world motion, all below following.

    A node below another of `motions` moves by its own motion only.

    Parameters
    ----------
    asset : Asset
    motions : mapping of node position to (4, 4) ndarray, world, metres
    """
    old = asset.worlds
    new = np.empty_like(old)
    nodes = list(asset.nodes)
    moved = [False] * len(nodes)
    for i in asset.order:
        node = asset.nodes[i]
        moved[i] = i in motions or (node.parent is not None and moved[node.parent])
        parent_world = np.eye(4) if node.parent is None else new[node.parent]
        if i not in motions:
            new[i] = parent_world @ node.placement.matrix if moved[i] else old[i]
        elif node.pinned:
            new[i] = old[i]
            own = inverse(old[i], what=node.name) @ motions[i] @ old[i]
            nodes[i] = replace(
                node, local_from_mesh=readonly(own @ node.local_from_mesh), received=readonly(own @ node.received)
            )
        else:
            new[i] = motions[i] @ old[i]
            above = (
                np.eye(4) if node.parent is None else inverse(parent_world, what=say("node '{name}'", name=node.name))
            )
            placement = Placement.from_matrix(
                above @ new[i], like=node.placement, what=say("node '{name}'", name=node.name)
            )
            nodes[i] = replace(node, placement=settled(placement))
    return replace(asset, nodes=tuple(nodes))


def carry_all(asset: Asset, motion: Array) -> Asset:
    """Return `asset` moved as a whole by a world `motion`, shape (4, 4), metres."""
    moved = carry(asset, {i: motion for i, node in enumerate(asset.nodes) if node.parent is None})
    return replace(moved, received=readonly(motion @ asset.received))


def set_rotations(asset: Asset, rotations: Mapping[int, Array]) -> Asset:
    """Return `asset` with the rotation channels of some nodes set; they turn about their pivots, all below following.

    Parameters
    ----------
    rotations : mapping of node position to (3, 3) ndarray
        Parent from local, working axes: rotations.
    """
    nodes, motions = list(asset.nodes), dict[int, Array]()
    for i, rotation in rotations.items():
        if nodes[i].pinned:
            # It holds no channel: its geometry turns about the frame that it stays at.
            back = rotation_of(nodes[i].placement.rotation).T
            motions[i] = in_place(rotation @ back, asset.worlds[i][:3, 3])
        else:
            placement = replace(nodes[i].placement, rotation=readonly(quaternion_of(rotation)))
            nodes[i] = replace(nodes[i], placement=settled(placement))
    turned = replace(asset, nodes=tuple(nodes))
    return carry(turned, motions) if motions else turned


def in_place(turn: Array, centre: Array) -> Array:
    """Return the world motion, shape (4, 4), that turns by a (3, 3) `turn` about a centre, shape (3,)."""
    motion = np.eye(4)
    motion[:3, :3] = turn
    motion[:3, 3] = centre - turn @ centre
    return motion


def resize_all(asset: Asset, motion: Array) -> Asset:
    """Return `asset` sized as a whole by a world `motion`, shape (4, 4), metres.

    Pivots go where the motion takes them, but no node's rotation or scale channel changes: the size goes into the
    geometry, so that it leaves nothing to bake.
    """
    sized = resize(asset, {i: motion for i, node in enumerate(asset.nodes) if node.parent is None})
    return replace(sized, received=readonly(motion @ asset.received))


def resize(asset: Asset, motions: Mapping[int, Array]) -> Asset:
    """Return `asset` with each node of `motions` sized by its world motion, all below following.

    As `resize_all`: pivots move, channels keep rotation and scale, geometry takes up the size. A node below another
    of `motions` is sized by its own motion only.
    """
    worlds = asset.worlds.copy()
    own: list[Array | None] = [None] * len(asset.nodes)
    for i in asset.order:
        node = asset.nodes[i]
        motion = own[i] = motions.get(i, own[node.parent] if node.parent is not None else None)
        if motion is not None and not node.pinned:
            worlds[i][:3, 3] = apply(motion, worlds[i][:3, 3])
    resized = reframe(asset, worlds)
    nodes = list(resized.nodes)
    for i, node in enumerate(asset.nodes):
        motion = own[i]
        if motion is None:
            continue
        back = inverse_of(worlds[i], node) @ motion
        nodes[i] = replace(nodes[i], received=readonly(back @ asset.worlds[i] @ node.received))
        if node.mesh is not None:
            geometry = back @ asset.world_from_mesh(i)
            nodes[i] = replace(nodes[i], local_from_mesh=readonly(geometry), pinned=node.pinned)
        if node.binds:
            nodes[i] = replace(nodes[i], binds=rebound(node, back @ asset.worlds[i]))
    return replace(resized, nodes=tuple(nodes))


def with_reading(asset: Asset, reading: Reading) -> Asset:
    """Return `asset` as it is under another reading of its file: `asset` must be as received.

    The change of numbers is a change of basis, so a node without rotation or scale stays without.
    """
    basis = reading.working_from_file @ asset.reading.file_from_working
    return replace(asset, reading=reading, nodes=in_basis(asset, basis))


def in_basis(asset: Asset, basis: Array) -> tuple[Node, ...]:
    """Return the asset's nodes as seen in another basis.

    Parameters
    ----------
    asset : Asset
    basis : ndarray, shape (4, 4)
        New from present numbers: a signed axis permutation times a positive scale. Frames change as `B W B⁻¹`, but
        cameras and lights as `B W` without its scale: they look along axes of their own that can't be relabelled.
    """
    unit = float(np.cbrt(np.linalg.det(basis[:3, :3])))
    turn = np.rint(basis[:3, :3] / unit)
    if np.array_equal(turn, np.eye(3)):
        return tuple(_scale_node(node, basis, unit) for node in asset.nodes)
    relabelled = [_relabel_node(node, basis, unit, turn) for node in asset.nodes]
    if not any(node.aimed for node in asset.nodes):
        return tuple(relabelled)
    back = np.eye(4)
    back[:3, :3] = turn
    for i, node in enumerate(asset.nodes):
        if node.aimed:
            # On the right: relabelled is T W T⁻¹, wanted T W.
            matrix = relabelled[i].placement.matrix @ back
            relabelled[i] = replace(relabelled[i], placement=settled(Placement.from_matrix(matrix, what=node.name)))
        for child in asset.children[i] if node.aimed else ():
            matrix = back.T @ relabelled[child].placement.matrix
            placement = settled(Placement.from_matrix(matrix, what=asset.nodes[child].name))
            relabelled[child] = replace(relabelled[child], placement=placement)
        if node.aimed and node.mesh is not None:
            relabelled[i] = replace(relabelled[i], local_from_mesh=back.T @ relabelled[i].local_from_mesh)
    return tuple(relabelled)


def _scale_node(node: Node, basis: Array, unit: float) -> Node:
    moved = replace(node.placement, translation=readonly(node.placement.translation * unit))
    geometry = readonly(basis @ node.local_from_mesh)
    return replace(node, placement=moved, local_from_mesh=geometry, binds=rebound(node, basis))


def _relabel_node(node: Node, basis: Array, unit: float, turn: Array) -> Node:
    old = node.placement
    q = np.append(turn @ old.rotation[:3], old.rotation[3])
    placement = Placement(
        translation=readonly(turn @ old.translation * unit),
        rotation=readonly(q),
        scale=readonly(np.abs(turn) @ old.scale),
        shear=old.shear,
    )
    if old.is_sheared:
        matrix = np.eye(4)
        matrix[:3, :3] = turn @ old.matrix[:3, :3] @ turn.T
        matrix[:3, 3] = placement.translation
        placement = Placement.from_matrix(matrix, what=node.name)
    geometry = readonly(basis @ node.local_from_mesh)
    return replace(node, placement=placement, local_from_mesh=geometry, binds=rebound(node, basis))
