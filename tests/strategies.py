"""Random assets and frames: deep, uneven, mirrored, sheared, far away, with shared and with no geometry."""

from __future__ import annotations

import numpy as np
from hypothesis import strategies as st
from numpy.typing import NDArray

from oak_square.core.frames import WORKING
from oak_square.core.placement import Placement
from oak_square.core.scene import Asset, Mesh, Node, Surface

Array = NDArray[np.float64]

_LENGTHS = st.floats(-50, 50, allow_nan=False, width=32).map(lambda v: float(np.round(v, 4)))


def vectors(reach: st.SearchStrategy[float] = _LENGTHS) -> st.SearchStrategy[Array]:
    return st.tuples(reach, reach, reach).map(np.array)


@st.composite
def quaternions(draw: st.DrawFn) -> Array:
    q = np.array(draw(st.tuples(*[st.floats(-1, 1, width=32)] * 4)))
    length = np.linalg.norm(q)
    return q / length if length > 0.05 else np.array([0.0, 0, 0, 1])


def scales() -> st.SearchStrategy[Array]:
    size = st.floats(0.03125, 40, width=32)
    signed = st.builds(lambda s, flip: -s if flip else s, size, st.booleans())
    return st.one_of(
        st.just(np.ones(3)), size.map(lambda s: np.full(3, s)), st.tuples(signed, signed, signed).map(np.array)
    )


@st.composite
def placements(draw: st.DrawFn) -> Placement:
    return Placement.of(translation=draw(vectors()), rotation=draw(quaternions()), scale=draw(scales()))


@st.composite
def frames(draw: st.DrawFn) -> Array:
    """Any frame that has an inverse: turned, uneven, mirrored, sheared, moved."""
    one, other = draw(placements()).matrix, draw(placements()).matrix
    return one @ other if draw(st.booleans()) else one


def solid_box(size: Array, name: str = "box") -> Mesh:
    """A closed box with outward winding and a normal of its own for each side's corners."""
    corners, normals, triangles = [], [], []
    for axis in range(3):
        for sign in (-1.0, 1.0):
            u, v = (axis + 1) % 3, (axis + 2) % 3
            normal = np.zeros(3)
            normal[axis] = sign
            ring = []
            for a, b in ((0, 0), (1, 0), (1, 1), (0, 1)):
                point = np.zeros(3)
                point[axis], point[u], point[v] = sign > 0, a, b
                ring.append(point * size)
            start = len(corners)
            corners += ring if sign > 0 else ring[::-1]
            normals += [normal] * 4
            triangles += [[start, start + 1, start + 2], [start, start + 2, start + 3]]
    return Mesh(
        name=name,
        points=np.array(corners),
        triangles=np.array(triangles, dtype=np.uint32),
        surfaces=(Surface(first=0, count=12),),
        normals=np.array(normals),
    )


@st.composite
def assets(draw: st.DrawFn, deepest: int = 6) -> Asset:
    """A hierarchy up to `deepest` levels, a few roots, meshes shared between some of its parts."""
    sizes = draw(st.lists(st.tuples(*[st.floats(0.0625, 8, width=32)] * 3), min_size=1, max_size=3))
    meshes = tuple(solid_box(np.array(s), f"mesh_{k}") for k, s in enumerate(sizes))
    nodes: list[Node] = []
    depth: list[int] = []
    for i in range(draw(st.integers(1, 9))):
        parents = [None, *(k for k in range(i) if depth[k] < deepest - 1)]
        parent = draw(st.sampled_from(parents))
        mesh = draw(st.sampled_from([None, *range(len(meshes))]))
        geometry = np.eye(4)
        geometry[:3, 3] = draw(vectors()) if mesh is not None else 0.0
        nodes.append(
            Node(
                name=f"node_{i}",
                parent=parent,
                placement=draw(placements()),
                mesh=mesh,
                local_from_mesh=geometry,
            )
        )
        depth.append(0 if parent is None else depth[parent] + 1)
    return Asset(file="made.glb", format="glb", reading=WORKING, nodes=tuple(nodes), meshes=meshes)


def world_points(asset: Asset, index: int) -> Array:
    """A part's vertices in the world, shape (N, 3), the long way round: parent by parent."""
    node = asset.nodes[index]
    matrix = node.local_from_mesh
    at: int | None = index
    while at is not None:
        matrix = asset.nodes[at].placement.matrix @ matrix
        at = asset.nodes[at].parent
    points = np.asarray(asset.meshes[node.mesh or 0].points, dtype=np.float64)
    return points @ matrix[:3, :3].T + matrix[:3, 3]


def assert_same_points(there: Array, wanted: Array, *, relative: float = 1e-9) -> None:
    reach = max(float(np.abs(wanted).max()), 1e-6)
    assert np.abs(there - wanted).max() <= relative * reach


def triangle_normals(points: Array, triangles: NDArray[np.uint32]) -> Array:
    """Return each triangle's normal, shape (M, 3), twice its area long (right-hand rule)."""
    a, b, c = (points[triangles[:, k]] for k in range(3))
    return np.cross(b - a, c - a)


def signed_volume(points: Array, triangles: NDArray[np.uint32]) -> float:
    """Positive where triangles wind outward (divergence theorem)."""
    a = points[triangles[:, 0]] - points.mean(axis=0)
    return float((a * triangle_normals(points, triangles)).sum() / 6)
