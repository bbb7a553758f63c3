"""The line-up's images: made when they are wanted, kept while they serve, made anew when they do not."""

from __future__ import annotations

import numpy as np
import pytest
from PySide6.QtCore import QRectF

from oak_square.app.view import Picture, Renderer, Shape
from oak_square.app.view.sprites import Sprites, SpriteWish
from oak_square.core.boxes import Box
from tests.patience import WAIT_MS
from tests.strategies import solid_box

WINDOW = QRectF(0, 0, 400, 300)
SIZE = np.array([2.0, 1.0, 4.0])


@pytest.fixture
def sprites(qtbot):
    renderer = Renderer()
    yield Sprites(lambda: renderer)
    renderer.close()


def picture():
    shape = Shape(file="post", node=0, mesh=solid_box(SIZE), world_from_mesh=np.eye(4))
    return Picture(shapes=(shape,), box=Box(np.zeros(3), SIZE))


def wish(shown, outline, dots=1.0):
    return SpriteWish(file="post", picture=shown, outline=outline, window=WINDOW, dots=dots)


def make(sprites, qtbot, *wishes, side="front"):
    sprites.want(wishes, side)
    qtbot.waitUntil(lambda: not sprites.busy, timeout=WAIT_MS)
    return sprites.of("post")


def test_an_image_shows_the_whole_outline_and_serves_until_it_is_coarse(sprites, qtbot):
    shown = picture()
    first = make(sprites, qtbot, wish(shown, QRectF(20, 100, 100, 50)))
    assert first.room.contains(QRectF(0.001, 0.001, 0.998, 0.998))
    assert (first.image.width(), first.image.height()) == pytest.approx((100, 50), abs=2)
    assert make(sprites, qtbot, wish(shown, QRectF(300, 100, 105, 52.5))) is first
    second = make(sprites, qtbot, wish(shown, QRectF(20, 100, 200, 100)))
    assert second.image.width() == pytest.approx(200, abs=2)
    fine = make(sprites, qtbot, wish(shown, QRectF(20, 100, 200, 100), dots=2.0))
    assert fine.image.width() == pytest.approx(400, abs=2)


def test_another_picture_or_side_is_drawn_anew(sprites, qtbot):
    shown = picture()
    front = make(sprites, qtbot, wish(shown, QRectF(20, 100, 100, 50)))
    side = make(sprites, qtbot, wish(shown, QRectF(20, 100, 200, 50)), side="side")
    assert side is not front
    assert side.image.width() / side.image.height() == pytest.approx(4, abs=0.1)
    changed = make(sprites, qtbot, wish(picture(), QRectF(20, 100, 200, 50)), side="side")
    assert changed is not side


def test_of_what_is_larger_than_the_window_only_what_is_seen_is_drawn(sprites, qtbot):
    shown = picture()
    outline = QRectF(-40_000, -10_000, 80_000, 40_000)
    near = make(sprites, qtbot, wish(shown, outline))
    assert near.image.width() < 3 * WINDOW.width()
    assert near.room.width() < 0.02
    # The window lies in what was drawn, at the same scale.
    left = outline.left() + near.room.left() * outline.width()
    assert left <= 0
    assert left + near.room.width() * outline.width() >= WINDOW.width()
    assert near.image.width() / (near.room.width() * outline.width()) == pytest.approx(1, abs=0.1)
    assert make(sprites, qtbot, wish(shown, outline.translated(50, 0))) is near
    assert make(sprites, qtbot, wish(shown, outline.translated(5000, 0))) is not near


def test_the_image_is_of_the_right_end(sprites, qtbot):
    """A thin post at the left of a wide box: its image is dark at the left only, from the side at the right (back)."""
    post = Shape(file="post", node=0, mesh=solid_box(np.array([0.2, 1, 0.4])), world_from_mesh=np.eye(4))
    shown = Picture(shapes=(post,), box=Box(np.zeros(3), SIZE))
    for side, share in (("front", 0.1), ("side", 0.9)):
        made = make(sprites, qtbot, wish(shown, QRectF(0, 0, 100, 50)), side=side)
        flat = np.frombuffer(made.image.constBits(), dtype=np.uint8).reshape(made.image.height(), -1, 4)
        columns = np.flatnonzero((flat[:, :, 3] > 128).any(axis=0)) / flat.shape[1]
        assert len(columns) < 0.2 * flat.shape[1]
        assert (columns > 0.5).all() == (share > 0.5)


def test_what_is_no_longer_wanted_is_not_made(sprites, qtbot):
    sprites.want([wish(picture(), QRectF(0, 0, 100, 50))], "front")
    assert sprites.busy
    sprites.stop()
    assert not sprites.busy
    assert sprites.of("post") is None
