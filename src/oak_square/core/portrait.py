"""Small pictures of assets with no window and no graphics card: faces sampled into a depth buffer, lit flat.

Frames: world points in metres, working axes; pictures have their first row on top.
"""

from __future__ import annotations

import struct
import zlib
from collections.abc import Iterator, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from oak_square.core.boxes import Box
from oak_square.core.scene import PLAIN_COLOUR, Asset, Surface
from oak_square.core.tolerances import TINY

__all__ = ["PortraitCamera", "camera_on", "png_of", "portrait"]

Array = NDArray[np.float64]
Pixels = NDArray[np.uint8]
_BACK = np.array([0.62, 0.48, 1.0])  # towards the eye: from the front, a little from the right and from above
_LIGHT = np.array([0.35, 0.85, 0.6])
_GROUND = np.array([255, 253, 248])  # paper
_ORIGIN, _ARM = np.array([0x1F, 0x7A, 0x73], dtype=np.uint8), 5
_FINER = 2  # samples a pixel, each way
_MARGIN = 1.12
_MOST = 400_000  # sampled points at once
_BUDGET = 100_000_000  # points in all: a file can ask for any number of faces as large as the picture
_RATIO = 1.3
_STEPS = 24.0  # of light: few, so that a picture packs small


@dataclass(frozen=True, slots=True, kw_only=True)
class PortraitCamera:
    """An eye infinitely far away.

    Attributes
    ----------
    middle : ndarray, shape (3,), metres
        What the middle of the picture shows.
    across : float, metres
        The width of the picture.
    width, height : int, pixels
    """

    middle: Array
    across: float
    width: int
    height: int


def _picture_axes() -> Array:
    """Return the picture's axes in the world as rows: to the right, upwards, towards the eye."""
    back = _BACK / np.linalg.norm(_BACK)
    right = np.cross([0.0, 1.0, 0.0], back)
    right /= np.linalg.norm(right)
    return np.array([right, np.cross(back, right), back])


_AXES = _picture_axes()


def camera_on(boxes: Sequence[Box], width: int, height: int) -> PortraitCamera:
    """Return the camera that sees boxes, of what is given at least one, whole and as large as they can be."""
    corners = np.concatenate([box.corners for box in boxes])
    seen = corners @ _AXES.T
    low, high = seen.min(axis=0), seen.max(axis=0)
    across = max(high[0] - low[0], (high[1] - low[1]) * width / height, TINY)
    return PortraitCamera(middle=(low + high) / 2 @ _AXES, across=float(across * _MARGIN), width=width, height=height)


def portrait(asset: Asset, camera: PortraitCamera) -> Pixels:
    """Return an asset as a camera sees it, a cross at the world's origin, shape (height, width, 3), sRGB."""
    shape = camera.height * _FINER, camera.width * _FINER
    depth = np.full(shape[0] * shape[1], -np.inf)
    colours = np.tile(_GROUND.astype(np.uint8), (len(depth), 1))
    scale = shape[1] / camera.across
    left = _BUDGET
    with np.errstate(invalid="ignore", over="ignore"):  # what is no number, or too large for one, is not drawn
        for corners, own in _draw_faces(asset):
            seen, own = _keep_sound_faces((corners - camera.middle) @ _AXES.T * scale, own, shape)
            lit = _light_faces(seen, own)
            for points, rows in _yield_samples(seen, shape):
                left -= len(points)
                if left < 0:
                    break
                at = _find_pixels(points, shape)
                inside = at >= 0
                at, near, rows = at[inside], points[inside, 2], rows[inside]
                np.maximum.at(depth, at, near)
                nearest = near == depth[at]
                colours[at[nearest]] = lit[rows[nearest]]
    _draw_outline(colours, depth, shape)
    fine = colours.reshape(camera.height, _FINER, camera.width, _FINER, 3)
    found: Pixels = np.round(fine.mean(axis=(1, 3))).astype(np.uint8)
    _mark_origin(found, camera)
    return found


def _mark_origin(picture: Pixels, camera: PortraitCamera) -> None:
    """Draw a cross where the world's origin is, in front of all."""
    x, y, _ = (-camera.middle) @ _AXES.T * camera.width / camera.across
    column, row = int(np.floor(x + camera.width / 2)), int(np.floor(camera.height / 2 - y))
    if abs(x) < camera.width and abs(y) < camera.height:
        for k in range(-_ARM, _ARM + 1):
            for at, to in ((row, column + k), (row + k, column)):
                if 0 <= at < camera.height and 0 <= to < camera.width:
                    picture[at, to] = _ORIGIN


def _draw_faces(asset: Asset) -> Iterator[tuple[Array, NDArray[np.float32]]]:
    """Yield the corners in the world, shape (M, 3, 3), and colours, shape (M, 3), of each part's faces."""
    for i in asset.parts:
        mesh, matrix = asset.mesh_of(i), asset.world_from_mesh(i)
        points = mesh.points.astype(np.float64) @ matrix[:3, :3].T + matrix[:3, 3]
        colours = np.full((len(mesh.triangles), 3), PLAIN_COLOUR, dtype=np.float32)
        for surface in mesh.surfaces or (Surface(first=0, count=len(mesh.triangles)),):
            colours[surface.first : surface.first + surface.count] = surface.colour
        for start in range(0, len(mesh.triangles), _MOST):
            run = slice(start, start + _MOST)
            yield points[mesh.triangles[run]], colours[run]


def _keep_sound_faces(
    seen: Array, colours: NDArray[np.float32], shape: tuple[int, int]
) -> tuple[Array, NDArray[np.float32]]:
    """Return the faces that are finite and may lie in the picture."""
    half = np.array([shape[1], shape[0]]) / 2
    flat = seen[:, :, :2]
    kept = np.isfinite(seen).all(axis=(1, 2))
    kept &= (flat.max(axis=1) >= -half).all(axis=1) & (flat.min(axis=1) <= half).all(axis=1)
    return seen[kept], colours[kept]


def _light_faces(seen: Array, colours: NDArray[np.float32]) -> Pixels:
    """Return the colour of each face in the light, seen from either side."""
    across = np.cross(seen[:, 1] - seen[:, 0], seen[:, 2] - seen[:, 0])
    lengths = np.linalg.norm(across, axis=1, keepdims=True)
    towards = across / np.where(lengths > 0, lengths, 1.0)
    towards *= np.where(towards[:, 2:] < 0, -1.0, 1.0)
    light = _AXES @ (_LIGHT / np.linalg.norm(_LIGHT))
    shade = 0.42 + 0.58 * np.clip(towards @ light, 0, 1)
    shade = np.round(shade * _STEPS)[:, None] / _STEPS
    found: Pixels = np.round(255 * np.clip(colours * shade, 0, 1)).astype(np.uint8)
    return found


def _yield_samples(seen: Array, shape: tuple[int, int]) -> Iterator[tuple[Array, NDArray[np.int64]]]:
    """Yield points that lie on faces, shape (K, 3), no further apart than a pixel, and the face of each."""
    edges = np.roll(seen, -1, axis=1) - seen
    lengths = np.hypot(edges[:, :, 0], edges[:, :, 1])
    longest = lengths.argmax(axis=1)
    faces = np.arange(len(seen))
    # The first corner and the edge that is longest from there, then the third corner.
    start, along, out = seen[faces, longest], edges[faces, longest], -edges[faces, (longest + 2) % 3]
    span = lengths[faces, longest]
    high = np.abs(along[:, 0] * out[:, 1] - along[:, 1] * out[:, 0]) / np.where(span > 0, span, 1.0)
    counts = np.stack([span, high], axis=1) * 1.4 + 1
    # In classes, each worked through at once; three times the picture is enough, as no one looks at the rest.
    classes = np.ceil(_RATIO ** np.ceil(np.log(counts) / np.log(_RATIO))).clip(1, 3 * max(shape)).astype(np.int64)
    for columns, rows in np.unique(classes, axis=0):
        own = np.flatnonzero((classes == [columns, rows]).all(axis=1))
        u, v = (g.ravel() for g in np.meshgrid(np.linspace(0, 1, columns + 1), np.linspace(0, 1, rows + 1)))
        step = max(1, _MOST // len(u))
        for first in range(0, len(own), step):
            k = own[first : first + step]
            points = along[k, None] * (u * (1 - v))[:, None] + out[k, None] * v[:, None] + start[k, None]
            yield points.reshape(-1, 3), np.repeat(k, len(u))


def _find_pixels(points: Array, shape: tuple[int, int]) -> NDArray[np.int64]:
    """Return which pixel each point falls into, row by row; -1 where it is none."""
    x = np.floor(points[:, 0] + shape[1] / 2).astype(np.int64)
    y = np.floor(shape[0] / 2 - points[:, 1]).astype(np.int64)
    inside = (x >= 0) & (x < shape[1]) & (y >= 0) & (y < shape[0])
    found: NDArray[np.int64] = np.where(inside, y * shape[1] + x, -1)
    return found


def _draw_outline(colours: Pixels, depth: Array, shape: tuple[int, int]) -> None:
    """Darken pixels that what lies nearer ends at: where the depth leaps."""
    grid = np.where(np.isfinite(depth), depth, -4.0 * max(shape)).reshape(shape)
    leap = 0.04 * max(shape)
    edge = np.zeros(shape, dtype=bool)
    for axis in (0, 1):
        ahead = np.diff(grid, axis=axis)
        near = [slice(None), slice(None)]
        near[axis] = slice(None, -1)
        edge[tuple(near)] |= ahead < -leap
        near[axis] = slice(1, None)
        edge[tuple(near)] |= ahead > leap
    rows = edge.reshape(-1)
    colours[rows] = colours[rows] * 0.45


def png_of(pixels: Pixels, level: int = 9) -> bytes:
    """Return an RGB image, shape (height, width, 3), as a PNG (W3C, third edition), packed at a level of 0 to 9."""
    height, width, _ = pixels.shape
    rows = np.zeros((height, 1 + 3 * width), dtype=np.uint8)
    rows[:, 1:] = pixels.reshape(height, -1)
    found = b"\x89PNG\r\n\x1a\n"
    head = struct.pack(">IIBBBBB", width, height, 8, 2, 0, 0, 0)
    for name, data in ((b"IHDR", head), (b"IDAT", zlib.compress(rows.tobytes(), level)), (b"IEND", b"")):
        found += struct.pack(">I", len(data)) + name + data + struct.pack(">I", zlib.crc32(name + data))
    return found
