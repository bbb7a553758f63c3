"""Small made-up models for the tasks of a hand, as GLB files, each in two versions of one thing."""

from __future__ import annotations

from dataclasses import dataclass, field
from pathlib import Path

import numpy as np

from oak_square.core.placement import quaternion_of
from tests.bored import bored_plate
from tests.core.test_picks import drum
from tests.made import glb
from tests.strategies import solid_box


@dataclass
class Part:
    """A node to write: geometry in its own frame, where it stands, what it hangs from."""

    name: str
    points: np.ndarray | None = None
    triangles: np.ndarray | None = None
    at: tuple = (0.0, 0.0, 0.0)
    turn: np.ndarray = field(default_factory=lambda: np.eye(3))
    parent: str | None = None


def box(size, corner=(0.0, 0, 0)):
    mesh = solid_box(np.array(size, dtype=float))
    return np.asarray(mesh.points) + corner, np.asarray(mesh.triangles, dtype=np.int64)


def shape(mesh):
    return np.asarray(mesh.points, dtype=float), np.asarray(mesh.triangles, dtype=np.int64)


def along_z(points):
    """Turn what stands along y so that it lies along z."""
    return np.column_stack([points[:, 0], -points[:, 2], points[:, 1]])


def write(path: Path, parts: list[Part], *, second: bool = False) -> None:
    """Write parts as a GLB; the `second` version has another order of triangles, is in centimetres, and 5 % longer."""
    binary, views, accessors, meshes, nodes = b"", [], [], [], []
    names = [p.name for p in parts]
    unit = 100.0 if second else 1.0
    longer = np.array([1.05, 1.0, 1.0]) if second else np.ones(3)
    random = np.random.default_rng(7)
    for p in parts:
        node = {"name": p.name, "translation": (np.array(p.at) * unit * longer).tolist()}
        if not np.allclose(p.turn, np.eye(3)):
            node["rotation"] = quaternion_of(p.turn).tolist()
        if p.points is not None and p.triangles is not None:
            points, triangles = np.asarray(p.points) * unit, p.triangles
            # Longer along the world's x: for what is turned, along its own picture of it.
            points = points @ p.turn.T * longer @ p.turn
            if second:
                order = random.permutation(len(points))
                points, triangles = points[order], np.argsort(order)[triangles][random.permutation(len(triangles))]
            for kind, array, target in (
                ("VEC3", points.astype("<f4"), 34962),
                ("SCALAR", triangles.astype("<u4"), 34963),
            ):
                data = array.tobytes()
                views.append({"buffer": 0, "byteOffset": len(binary), "byteLength": len(data), "target": target})
                binary += data
                accessor = {"bufferView": len(views) - 1, "componentType": 5126 if kind == "VEC3" else 5125,
                            "count": len(array) if kind == "VEC3" else array.size, "type": kind}  # fmt: skip
                if kind == "VEC3":
                    accessor |= {"min": array.min(axis=0).tolist(), "max": array.max(axis=0).tolist()}
                accessors.append(accessor)
            meshes.append(
                {"primitives": [{"attributes": {"POSITION": len(accessors) - 2}, "indices": len(accessors) - 1}]}
            )
            node["mesh"] = len(meshes) - 1
        nodes.append(node)
    for p, node in zip(parts, nodes, strict=True):
        children = [names.index(c.name) for c in parts if c.parent == p.name]
        if children:
            node["children"] = children
    roots = [k for k, p in enumerate(parts) if p.parent is None]
    document = {
        "asset": {"version": "2.0"}, "scene": 0, "scenes": [{"nodes": roots}], "nodes": nodes, "meshes": meshes,
        "accessors": accessors, "bufferViews": views, "buffers": [{"byteLength": len(binary)}],
    }  # fmt: skip
    path.write_bytes(glb(document, binary))


def gate() -> list[Part]:
    """A post, and a leaf one wide, two high, that should hang at the edge beside it; a stop it would hit."""
    return [
        Part("gate"),
        Part("post", *box((0.2, 2.2, 0.2), (-0.3, 0, -0.1)), parent="gate"),
        Part("leaf", *box((1.0, 2.0, 0.1), (0.0, 0.1, -0.05)), parent="gate"),
        Part("stop", *box((0.1, 2.0, 0.1), (0.4, 0.1, -1.0)), parent="gate"),
    ]


def turned(axis: int, degrees: float) -> np.ndarray:
    from oak_square.core.frames import axis_turn

    return axis_turn(axis, degrees)


def flaps() -> list[Part]:
    """Twelve flaps in a row; four of them are tilted in their frames."""
    found = [Part("weir")]
    for k in range(12):
        turn = turned(2, 4.0) if k % 3 == 0 else np.eye(3)
        found.append(
            Part(
                f"flap_{k + 1:02}",
                *box((0.8, 1.0, 0.06), (0.1, 0.2, -0.03)),
                at=(1.2 * k, 0, 0),
                turn=turn,
                parent="weir",
            )
        )
    return found


def wheel() -> list[Part]:
    """A plate with a bore, and an axle that lies along z elsewhere."""
    points, triangles = shape(drum(24, 0.2, 1.0))
    bored = shape(bored_plate(size=(1.0, 0.2, 1.0), radius=0.22, at=(0.1, 0.0)))
    return [
        Part("works"),
        Part("disc", *bored, at=(0, 2.0, 0), parent="works"),
        Part("axle", along_z(points), triangles, at=(2.0, 1.0, 0.0), parent="works"),
    ]


def boats() -> list[Part]:
    """Three boats that lie about a bollard."""
    hulls = [(2.0, 0.0, 0), (0.0, 2.5, 90), (-2.2, -0.5, 180)]
    found = [Part("basin"), Part("bollard", *shape(drum(16, 0.15, 0.6)), at=(0.3, 0, 0.2), parent="basin")]
    for k, (x, z, degrees) in enumerate(hulls, 1):
        found.append(
            Part(
                f"boat_{k}",
                *box((0.5, 0.3, 1.4), (-0.25, 0, -0.7)),
                at=(x, 0, z),
                turn=turned(1, degrees),
                parent="basin",
            )
        )
    return found


def crates() -> list[Part]:
    """Two crates, to be set corner onto corner."""
    return [
        Part("stack"),
        Part("crate", *box((0.6, 0.4, 0.5)), at=(0, 0, 0), parent="stack"),
        Part("case", *box((0.5, 0.5, 0.5)), at=(1.5, 0.3, 0.2), parent="stack"),
    ]


def wedge() -> list[Part]:
    """A wedge with one face aslant, lying turned: to be laid on that face."""
    points = np.array([[0, 0, 0], [2, 0, 0], [0, 1, 0], [0, 0, 0.8], [2, 0, 0.8], [0, 1, 0.8]], dtype=float)
    triangles = np.array([[0, 2, 1], [3, 4, 5], [0, 1, 4], [0, 4, 3], [0, 3, 5], [0, 5, 2], [1, 2, 5], [1, 5, 4]])
    return [Part("wedge", points @ turned(1, 20.0).T, triangles)]
