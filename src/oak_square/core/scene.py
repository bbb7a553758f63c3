"""What a model file holds, once its reading is known: nodes, meshes, and the asset they make.

Geometry is not rewritten here. A node keeps a matrix from its mesh's numbers, as the file has them, to its own frame;
steps change matrices, and the numbers are rewritten once, when a file is delivered. That is what keeps a preview over
a whole batch fast, and the source's vertices exact until the last moment. A step that moves some of a part's vertices
gives it a mesh of its own, which remembers what it was.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field, replace
from functools import cached_property
from pathlib import PurePosixPath
from typing import Any

import numpy as np
from numpy.typing import NDArray

from oak_square.core.clips import Clip
from oak_square.core.frames import Reading
from oak_square.core.placement import Placement, matrices_of

__all__ = ["PLAIN_COLOUR", "Asset", "Bind", "Cut", "Faces", "Hold", "Mesh", "Node", "Surface", "Unshaped"]

Array = NDArray[np.float64]
_SAME = np.eye(4)
_SAME.setflags(write=False)
PLAIN_COLOUR = (0.72, 0.68, 0.62)
"""The colour, sRGB, of what a file gives none."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Surface:
    """A run of a mesh's triangles that share one look.

    Attributes
    ----------
    first, count : int
        The run, in triangles.
    colour : tuple of 3 floats, 0 to 1, sRGB
        Base colour.
    material : int or None
        Its place among the file's own materials.
    """

    first: int
    count: int
    colour: tuple[float, float, float] = PLAIN_COLOUR
    material: int | None = None


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Cut:
    """What a mesh was cut from another one by: the rows of the other's that it is made of.

    Attributes
    ----------
    points, triangles, faces, corners : ndarray, shape (K,)
        Of its points, triangles, faces and corners of faces; where it has no wide faces, triangles are its faces.
    """

    points: NDArray[np.int64]
    triangles: NDArray[np.int64]
    faces: NDArray[np.int64]
    corners: NDArray[np.int64]


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Faces:
    """A mesh's faces as the file tells them, of any number of corners.

    Attributes
    ----------
    corners : ndarray of integers, shape (sum of counts,)
        Rows of the mesh's `points`, faces in a row.
    counts : ndarray of integers, shape (faces,)
    """

    corners: NDArray[Any]
    counts: NDArray[Any]

    @staticmethod
    def where_any_is_wide(corners: NDArray[Any], counts: NDArray[Any]) -> Faces | None:
        """Return the faces; None where each has three corners, so that triangles say it all."""
        return Faces(corners=corners, counts=counts) if len(counts) and (counts != 3).any() else None


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Hold:
    """How joints hold a skinned mesh's vertices.

    Attributes
    ----------
    points : ndarray, shape (N, 3), file numbers
        Where the vertices are without the skin.
    joints : ndarray of integers, shape (N, K)
        Places in the skin's list of joints.
    weights : ndarray, shape (N, K)
    """

    points: NDArray[Any]
    joints: NDArray[np.integer]
    weights: Array


@dataclass(frozen=True, slots=True, kw_only=True, eq=False, weakref_slot=True)
class Unshaped:
    """What a mesh was before some of its vertices were moved: `points` and `normals` as the file has them."""

    points: NDArray[Any]
    normals: NDArray[Any] | None


@dataclass(frozen=True, slots=True, kw_only=True, eq=False, weakref_slot=True)
class Mesh:
    """Geometry as the file holds it.

    Attributes
    ----------
    name : str
    points : ndarray, shape (N, 3), file numbers
    triangles : ndarray of integers, shape (M, 3)
        Rows of `points`, counter-clockwise seen from outside.
    surfaces : tuple of Surface
    normals : ndarray, shape (N, 3), or None
        Unit normals where the file gives one for each point.
    morphs : tuple of ndarray, shape (N, 3), file numbers
        What each morph target at full weight adds to `points`, which are as the default weights leave them.
    morph_weights : tuple of float
        The default weights of `morphs`.
    hold : Hold or None
        Where it is skinned: `points` are then where its joints hold it at rest, world, metres.
    sealed : str
        Why its numbers can't be rewritten, such as `compressed`; empty where they can. `points` may then be the corners
        of its declared bounds alone.
    strokes : tuple of (int, int)
        First row and count of each run of `points` that is drawn as points or lines.
    not_finite : int
        How many coordinates are NaN or infinite.
    spread : ndarray, shape (K, 4, 4), or None
        Where its node draws it many times: the matrix of each instance. `points` are then those of all of them.
    cut : Cut or None
        Where it is a piece of another mesh: what it is made of.
    counts : (int, int) or None
        How many vertices and triangles it declares, where `points` are those of its bounds alone.
    faces : Faces or None
        What `triangles` were cut from, where a face has another number of corners than three.
    unshaped : Unshaped or None
        Where a step moved some of its vertices: what the file has. `points` and `normals` are then what they became.
    drawn_from : int or None
        Where it is how instances or joints draw a mesh that the file holds once: that one.
    """

    name: str
    points: NDArray[Any] = field(repr=False)
    triangles: NDArray[Any] = field(repr=False)
    surfaces: tuple[Surface, ...] = ()
    normals: NDArray[Any] | None = field(default=None, repr=False)
    morphs: tuple[NDArray[Any], ...] = field(default=(), repr=False)
    morph_weights: tuple[float, ...] = ()
    hold: Hold | None = field(default=None, repr=False)
    sealed: str = ""
    strokes: tuple[tuple[int, int], ...] = ()
    not_finite: int = 0
    spread: Array | None = field(default=None, repr=False)
    cut: Cut | None = field(default=None, repr=False)
    faces: Faces | None = field(default=None, repr=False)
    counts: tuple[int, int] | None = None
    unshaped: Unshaped | None = field(default=None, repr=False)
    drawn_from: int | None = None

    def __post_init__(self) -> None:
        # Threads read it at once, and what is worked out of it is remembered: nobody may write in it.
        for array in (self.points, self.triangles, self.normals, *self.morphs):
            if array is not None:
                array.setflags(write=False)


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Bind:
    """A joint's part in a skin: which skin, which place in its list of joints, and the joint's frame from the mesh.

    `joint_from_mesh` (4, 4) is the inverse bind matrix: it takes the skinned mesh's file numbers to the joint's frame,
    as a node's `local_from_mesh` does for its own mesh, and follows the same rules.
    """

    skin: int
    place: int
    joint_from_mesh: Array


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Node:
    """A place in the hierarchy.

    Attributes
    ----------
    name : str
    parent : int or None
        Position in `Asset.nodes`.
    placement : Placement
        Parent from local, working frame.
    mesh : int or None
        Position in `Asset.meshes`; a node without is a group.
    local_from_mesh : ndarray, shape (4, 4)
        From the mesh's file numbers to this node's local frame.
    aimed : bool
        A camera or light: it looks along its own axes, so they can't be relabelled.
    pinned : bool
        The format holds no frame for it: it stays at the file's own until a step gives it one.
    shown : bool
        Reached from the default scene.
    skin : int or None
        The skin that carries its mesh. Its mesh then holds the rest pose, and this node's frame carries nothing.
    binds : tuple of Bind
        What hangs on this node as a joint.
    cut_from : int or None
        The node whose part this one is a piece of.
    received : ndarray, shape (4, 4)
        The frame that the file gave it, in its present one: it goes with the geometry.
    """

    name: str
    parent: int | None
    placement: Placement
    mesh: int | None = None
    local_from_mesh: Array = field(default_factory=lambda: np.eye(4))
    aimed: bool = False
    pinned: bool = False
    shown: bool = True
    skin: int | None = None
    binds: tuple[Bind, ...] = ()
    cut_from: int | None = None
    received: Array = field(default_factory=lambda: _SAME)

    @property
    def kind(self) -> str:
        """`part` when it has geometry of its own, else `group`."""
        return "group" if self.mesh is None else "part"


# No slots: the cached properties need the dict.
@dataclass(frozen=True, kw_only=True, eq=False)
class Asset:
    """One model file under a reading. All frames are working frames: metres, +Y up, +Z front.

    Attributes
    ----------
    file : str
        Path relative to the folder it was found in, with `/`.
    format : str
        Key of its format.
    reading : Reading
    nodes : tuple of Node
        In file order; a parent may come after its child.
    meshes : tuple of Mesh
    carries : tuple of str
        What else the file holds: `animation`, `skin`, `materials`…
    rigid_reason : str or None
        Why its geometry and frames can't be rewritten exactly, if they can't.
    clips : tuple of Clip
        The animation as the file holds it: not changed by steps, rewritten when a file is written.
    shading : tuple of str
        What its materials have beyond colour, opacity and a texture, in words.
    unread : str
        Why some of what the file holds is not read; it then crosses to no other format, and empty where all is.
    astray : tuple of str
        What it names outside its own folder, textures above all: it can't go along.
    received : ndarray, shape (4, 4)
        Where the file's own frame has gone with the whole of it: its origin first of all.
    """

    file: str
    format: str
    reading: Reading
    nodes: tuple[Node, ...]
    meshes: tuple[Mesh, ...]
    carries: tuple[str, ...] = ()
    rigid_reason: str | None = None
    clips: tuple[Clip, ...] = ()
    astray: tuple[str, ...] = ()
    shading: tuple[str, ...] = ()
    unread: str = ""
    received: Array = field(default_factory=lambda: _SAME)

    @cached_property
    def name(self) -> str:
        """The file's name without folders or suffix."""
        return PurePosixPath(self.file).stem

    @cached_property
    def order(self) -> tuple[int, ...]:
        """Node positions, every parent before its children."""
        children = self.children
        found = [i for i, node in enumerate(self.nodes) if node.parent is None]
        for i in found:  # grows while it is walked
            found.extend(children[i])
        return tuple(found)

    @cached_property
    def depth_first(self) -> tuple[int, ...]:
        """Node positions as a walk meets them: each node, then all below it, before its next sibling."""
        found = list[int]()
        due = [i for i, node in reversed(list(enumerate(self.nodes))) if node.parent is None]
        while due:
            found.append(due.pop())
            due += reversed(self.children[found[-1]])
        return tuple(found)

    @cached_property
    def children(self) -> tuple[tuple[int, ...], ...]:
        """For each node, the positions of its children."""
        below: list[list[int]] = [[] for _ in self.nodes]
        for i, node in enumerate(self.nodes):
            if node.parent is not None:
                below[node.parent].append(i)
        return tuple(tuple(b) for b in below)

    @cached_property
    def worlds(self) -> Array:
        """World from local for each node, shape (nodes, 4, 4), metres."""
        frames = matrices_of([node.placement for node in self.nodes])
        parents = np.array([-1 if node.parent is None else node.parent for node in self.nodes], dtype=np.int64)
        level = np.flatnonzero(parents < 0).tolist()
        # All nodes of one depth at once: what they hang from has its frame by then.
        while level := [child for i in level for child in self.children[i]]:
            above = parents[level]
            frames[level] = frames[above] @ frames[level]
        frames.setflags(write=False)
        return frames

    def mesh_of(self, index: int) -> Mesh:
        """Return the mesh of the part at `index`."""
        return self.meshes[self._find_mesh(index)]

    def world_from_mesh(self, index: int) -> Array:
        """World from mesh numbers, shape (4, 4), for the node at `index`."""
        matrix: Array = self.worlds[index] @ self.nodes[index].local_from_mesh
        return matrix

    @cached_property
    def parts(self) -> tuple[int, ...]:
        """Positions of the shown nodes that have geometry."""
        return tuple(i for i, n in enumerate(self.nodes) if n.mesh is not None and n.shown)

    def in_order(self, sequence: Sequence[int]) -> Asset:
        """Return the asset with its nodes in another order: at each place the one that stood at that of `sequence`."""
        place = {old: new for new, old in enumerate(sequence)}

        def moved(node: Node) -> Node:
            above, origin = node.parent, node.cut_from
            return replace(
                node,
                parent=None if above is None else place[above],
                cut_from=None if origin is None else place[origin],
            )

        return replace(self, nodes=tuple(moved(self.nodes[i]) for i in sequence))

    def bearers(self, index: int) -> tuple[int, ...]:
        """Return the nodes that carry what was the part at `index`: itself, or the pieces it was split into."""
        return self._pieces.get(index, (index,))

    @cached_property
    def _pieces(self) -> dict[int, tuple[int, ...]]:
        found: dict[int, list[int]] = {}
        for i, node in enumerate(self.nodes):
            if node.cut_from is not None:
                found.setdefault(node.cut_from, []).append(i)
        return {part: tuple(pieces) for part, pieces in found.items()}

    def below(self, index: int) -> tuple[int, ...]:
        """Return `index` and every node below it, parents first."""
        found = [index]
        for i in found:
            found.extend(self.children[i])
        return tuple(found)

    @cached_property
    def triangle_count(self) -> int:
        """Triangles drawn; an instance counts each time."""
        return sum((m.counts or (0, len(m.triangles)))[1] for m in map(self.mesh_of, self.parts))

    @property
    def vertex_count(self) -> int:
        """Vertices drawn; an instance counts each time."""
        return sum((m.counts or (len(m.points), 0))[0] for m in map(self.mesh_of, self.parts))

    def _find_mesh(self, index: int) -> int:
        mesh = self.nodes[index].mesh
        assert mesh is not None
        return mesh
