"""Measurements that hang on assets: spans, angles, circles, planes; read anew whenever what they hang on moves.

A measurement keeps where its points are in the numbers of the meshes they lie on (or on the asset's box), so that
steps, which never rewrite those numbers, carry it along.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from oak_square.core.boxes import asset_box, box_point
from oak_square.core.carrying import point_after_shaping
from oak_square.core.errors import Failed
from oak_square.core.frames import apply
from oak_square.core.picks import circle_through
from oak_square.core.scene import Asset
from oak_square.core.words import say

__all__ = ["KINDS_OF_MEASURE", "Anchor", "Kind", "Measure", "Measured", "Value", "read_measure"]

Array = NDArray[np.float64]
Kind = Literal["point", "span", "angle", "circle", "plane"]
KINDS_OF_MEASURE: dict[Kind, int] = {"point": 1, "span": 2, "angle": 3, "circle": 3, "plane": 3}
"""How many points each kind hangs on."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Anchor:
    """A point that a measurement hangs on.

    Attributes
    ----------
    node : int or None
        The node whose mesh `at` is on; None where `at` is a point of the asset's box, as fractions.
    name : str
        That node's name, to find it again in a file that was made anew.
    at : tuple of 3 floats
        Mesh numbers, as the mesh was received, before any step moved its vertices; or fractions along width, height
        and depth.
    kind : str
        What was picked: `vertex`, `edge middle`…
    file : str
        The asset that it is on, where that is another one than the measurement's.
    """

    node: int | None
    name: str
    at: tuple[float, float, float]
    kind: str = "surface"
    file: str = ""

    def world(self, asset: Asset) -> Array:
        """Return where it is now, metres.

        Raises
        ------
        Failed
            If the asset has no such node, or no box.
        """
        if self.node is None:
            box = asset_box(asset)
            if box is None:
                raise Failed(say("it has no geometry to measure"))
            return box_point(box, self.at)
        if self.kind == "pivot":
            pivot: Array = asset.worlds[self.pivot_of(asset)][:3, 3]
            return pivot
        node = self.index(asset)
        now = point_after_shaping(asset.mesh_of(node), np.array(self.at), self.kind)
        found: Array = apply(asset.world_from_mesh(node), now)
        return found

    def pivot_of(self, asset: Asset) -> int:
        """Return the position of the node whose pivot it is; as `index`, of groups too."""
        assert self.node is not None
        nodes = asset.nodes
        if self.node < len(nodes) and nodes[self.node].name == self.name:
            return self.node
        found = next((i for i, n in enumerate(nodes) if n.name == self.name), None)
        if found is None:
            raise Failed(say("it has no part '{name}' to measure on", name=self.name))
        return found

    def index(self, asset: Asset) -> int:
        """Return the position of its node; the number it had, where the name still fits.

        Raises
        ------
        Failed
            If there is none of that name.
        """
        assert self.node is not None
        nodes = asset.nodes
        if self.node < len(nodes) and nodes[self.node].name == self.name:
            if nodes[self.node].mesh is not None:
                return self.node
            pieces = [i for i in asset.bearers(self.node) if i != self.node]
            if pieces:
                # It was split: the piece that has the vertex nearest to the point.
                return min(pieces, key=lambda i: np.linalg.norm(asset.mesh_of(i).points - self.at, axis=1).min())
        found = next((i for i, n in enumerate(nodes) if n.name == self.name and n.mesh is not None), None)
        if found is None:
            raise Failed(say("it has no part '{name}' to measure on", name=self.name))
        return found


@dataclass(frozen=True, slots=True, kw_only=True)
class Measure:
    """One measurement: its kind, its asset, the points it hangs on (the second is an angle's apex)."""

    kind: Kind
    file: str
    anchors: tuple[Anchor, ...]


@dataclass(frozen=True, slots=True)
class Value:
    """One number of a measurement; `quantity` is `length`, `angle` or `plain`."""

    name: str
    value: float
    quantity: str = "length"


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Measured:
    """What a measurement comes to.

    Attributes
    ----------
    values : tuple of Value
        The number that it is about first.
    points : ndarray, shape (N, 3), metres, world
        Where its points are.
    """

    values: tuple[Value, ...]
    points: Array


def read_measure(
    measure: Measure,
    asset: Asset,
    frame_from_world: Array | None = None,
    others: Callable[[str], Asset | None] | None = None,
) -> Measured:
    """Return what a measurement reads on its asset as it is, coordinates along the axes of a frame.

    Parameters
    ----------
    measure : Measure
    asset : Asset
    frame_from_world : ndarray, shape (4, 4), optional
        The frame that coordinates are told in; its scale counts. The world where it is not given.
    others : callable, optional
        Returns another asset of the batch, where a point is on one; all stand where their numbers say.

    Raises
    ------
    Failed
        If what it hangs on is not there, or its points make no circle or plane.
    """
    world = np.array([a.world(_asset_of(a, asset, others)) for a in measure.anchors])
    frame = np.eye(4) if frame_from_world is None else frame_from_world
    points = apply(frame, world)
    return Measured(values=_READ[measure.kind](points), points=world)


def _asset_of(anchor: Anchor, asset: Asset, others: Callable[[str], Asset | None] | None) -> Asset:
    if not anchor.file or anchor.file == asset.file:
        return asset
    other = others(anchor.file) if others is not None else None
    if other is None:
        raise Failed(say("'{file}' is not in the batch", file=anchor.file))
    return other


def _tell_xyz(vector: Array, prefix: str = "", quantity: str = "length") -> tuple[Value, ...]:
    return tuple(Value(f"{prefix}{a}", float(v), quantity) for a, v in zip("xyz", vector, strict=True))


def _tell_point(points: Array) -> tuple[Value, ...]:
    return _tell_xyz(points[0])


def _tell_span(points: Array) -> tuple[Value, ...]:
    along = points[1] - points[0]
    return (
        Value("length", float(np.linalg.norm(along))),
        *_tell_xyz(along, say("along ")),
        *_tell_xyz(points[0], say("from ")),
        *_tell_xyz(points[1], say("to ")),
    )


def _tell_angle(points: Array) -> tuple[Value, ...]:
    a, b = points[0] - points[1], points[2] - points[1]
    # By both sine and cosine: neither alone is exact at every angle.
    degrees = math.degrees(math.atan2(float(np.linalg.norm(np.cross(a, b))), float(a @ b)))
    return (Value("angle", degrees, "angle"), Value(say("first arm"), float(np.linalg.norm(a))),
            Value(say("second arm"), float(np.linalg.norm(b))), *_tell_xyz(points[1], say("apex ")))  # fmt: skip


def _tell_circle(points: Array) -> tuple[Value, ...]:
    circle = circle_through(points)
    if circle is None:
        raise Failed(say("its three points lie on one line: no circle goes through them"))
    return (
        Value("diameter", 2 * circle.radius),
        Value("radius", circle.radius),
        *_tell_xyz(circle.centre, say("centre ")),
        *_tell_xyz(circle.normal, say("axis "), "plain"),
    )


def _tell_plane(points: Array) -> tuple[Value, ...]:
    normal = np.cross(points[1] - points[0], points[2] - points[0])
    length = float(np.linalg.norm(normal))
    if length == 0:
        raise Failed(say("its three points lie on one line: they make no plane"))
    normal = normal / length
    off = float(normal @ points[0])
    if off < 0:
        normal, off = -normal, -off
    tilt = math.degrees(math.atan2(float(np.hypot(normal[0], normal[2])), abs(float(normal[1]))))
    return (
        Value(say("off the origin"), off),
        Value("tilt", tilt, "angle"),
        *_tell_xyz(normal, say("normal "), "plain"),
    )


_READ = {"point": _tell_point, "span": _tell_span, "angle": _tell_angle, "circle": _tell_circle, "plane": _tell_plane}
