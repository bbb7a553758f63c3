"""Pictures with no window: what is seen, and where, by closed forms."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from PySide6.QtGui import QImage

from oak_square.core.boxes import asset_box
from oak_square.core.frames import WORKING
from oak_square.core.placement import Placement
from oak_square.core.portrait import camera_on, png_of, portrait
from oak_square.core.scene import Asset, Node, Surface
from tests.strategies import solid_box

PAPER = np.array([255, 253, 248])
BACK = np.array([0.62, 0.48, 1.0]) / np.linalg.norm([0.62, 0.48, 1.0])


def asset_of(*boxes):
    """Boxes by size, place and colour."""
    meshes, nodes = [], []
    for k, (size, at, colour) in enumerate(boxes):
        mesh = solid_box(np.array(size, dtype=float))
        meshes.append(replace(mesh, surfaces=(Surface(first=0, count=len(mesh.triangles), colour=colour),)))
        matrix = np.eye(4)
        matrix[:3, 3] = at
        nodes.append(Node(name=f"b{k}", parent=None, placement=Placement.from_matrix(matrix, what="b"), mesh=k))
    return Asset(file="a.glb", format="glb", reading=WORKING, meshes=tuple(meshes), nodes=tuple(nodes))


def drawn(picture):
    return (picture != PAPER).any(axis=2)


@pytest.mark.parametrize("size", [(1, 1, 1), (4, 0.5, 0.25), (0.2, 3, 1)])
def test_a_box_covers_the_area_of_its_faces_that_are_seen(size):
    asset = asset_of((size, (7, -2, 5), (0.5, 0.4, 0.3)))
    camera = camera_on([asset_box(asset)], 400, 300)
    seen = BACK @ [size[1] * size[2], size[0] * size[2], size[0] * size[1]]
    covered = drawn(portrait(asset, camera)).sum() * (camera.across / camera.width) ** 2
    assert covered == pytest.approx(seen, rel=0.04)


def test_it_is_whole_in_the_picture_and_nearly_fills_it():
    asset = asset_of(((3, 1, 2), (0, 0, 0), (0.5, 0.5, 0.5)))
    there = np.argwhere(drawn(portrait(asset, camera_on([asset_box(asset)], 200, 150))))
    low, high = there.min(axis=0), there.max(axis=0)
    assert (low > 0).all()
    assert (high < [149, 199]).all()
    assert max((high - low) / [150, 200]) > 0.85


@pytest.mark.parametrize(("where", "is_seen"), [(2, True), (-2, False)])
def test_what_is_behind_is_hidden(where, is_seen):
    red = ((0.5, 0.5, 0.5), BACK * where, (1, 0, 0))
    asset = asset_of(((2, 2, 2), (0, 0, 0), (0.6, 0.6, 0.6)), red)
    picture = portrait(asset, camera_on([asset_box(asset)], 200, 150)).astype(int)
    reds = (picture[:, :, 0] > 90) & (picture[:, :, 1] < 20)
    assert bool(reds.sum() > 100) == is_seen
    assert reds.any() == is_seen


def test_the_cross_is_where_the_origin_is():
    asset = asset_of(((1, 1, 1), (2, 0, 0), (0.5, 0.5, 0.5)))
    camera = camera_on([asset_box(asset), asset_box(asset_of(((1, 1, 1), (-3, -1, -1), (0, 0, 0))))], 200, 150)
    picture = portrait(asset, camera)
    teal = np.argwhere((picture == [0x1F, 0x7A, 0x73]).all(axis=2))
    assert teal.mean(axis=0) == pytest.approx([75, 100], abs=1)  # halfway between the two


def test_what_is_not_finite_or_far_too_large_is_left_out():
    asset = asset_of(((1, 1, 1), (0, 0, 0), (0.5, 0.5, 0.5)))
    points = np.array(asset.meshes[0].points)
    points[0] = np.nan
    points[1] = 1e30
    spoilt = replace(asset, meshes=(replace(asset.meshes[0], points=points),))
    picture = portrait(spoilt, camera_on([asset_box(asset)], 100, 75))
    assert drawn(picture).any()


def test_a_png_is_read_by_others_as_it_was():
    pixels = np.random.default_rng(1).integers(0, 256, (7, 5, 3), dtype=np.uint8)
    image = QImage.fromData(png_of(pixels)).convertToFormat(QImage.Format.Format_RGB888)
    assert (image.width(), image.height()) == (5, 7)
    found = np.frombuffer(image.constBits(), dtype=np.uint8).reshape(7, image.bytesPerLine())[:, :15].reshape(7, 5, 3)
    assert (found == pixels).all()
