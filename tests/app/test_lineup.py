"""The line-up: where everything stands, what is drawn, and how hands move it."""

from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from PySide6.QtCore import QPoint, QPointF, Qt
from PySide6.QtGui import QImage, QWheelEvent
from PySide6.QtWidgets import QApplication

from oak_square.app.view.elevation import laid_out
from oak_square.app.view.lineup import FIGURE
from tests.patience import WAIT_MS

SIDES = st.lists(st.tuples(st.floats(1e-4, 1e4), st.floats(1e-4, 1e4)), min_size=1, max_size=12)


@given(SIDES)
def test_in_the_even_scale_a_metre_is_a_metre_and_nothing_overlaps(sides):
    layout = laid_out(sides, even=True)
    for (width, height), slot in zip(sides, layout.slots, strict=True):
        assert (slot.width, slot.height, slot.per_metre) == (width, height, 1)
    for a, b in zip(layout.slots, layout.slots[1:], strict=False):
        assert b.left > a.left + a.width


@given(SIDES)
def test_in_the_logarithmic_scale_tops_meet_their_heights_and_ten_times_is_one_unit(sides):
    layout = laid_out(sides, even=False)
    for (_, height), slot in zip(sides, layout.slots, strict=True):
        assert slot.height == pytest.approx(layout.height_of(height))
        assert slot.per_metre * height <= slot.height * (1 + 1e-9)
        assert layout.metres_at(layout.height_of(height)) == pytest.approx(height)
        assert layout.height_of(10 * height) - layout.height_of(height) == pytest.approx(1)


@given(SIDES, st.booleans(), st.floats(0.05, 5))
def test_marks_are_round_heights_in_the_range_asked_for(sides, even, wanted):
    layout = laid_out(sides, even=even)
    for metres, _ in layout.ticks(0.0, layout.height, wanted):
        assert layout.height_of(metres) <= layout.height * (1 + 1e-6)
        if metres > 0:
            mantissa = metres / 10 ** math.floor(math.log10(metres) + 1e-9)
            # Whole multiples of 1, 2 or 5 times a power of ten.
            assert abs(mantissa * 1000 - round(mantissa * 1000)) < 1e-6 * mantissa * 1000 + 1e-6


FEW = ("keepers_hut", "milepost", "narrowboat", "casks", "footbridge")


def in_a_row(hand, folder):
    hand.open(folder)
    hand.key(Qt.Key.Key_L)
    assert hand.window.views.view == "line-up"
    sharpen(hand)
    return hand.window.views.lineup.row


@pytest.fixture
def row(hand, lock):
    """Some models of the demo, with its size book: each picture costs its time."""
    for path in lock.iterdir():
        if path.is_file() and path.suffix != ".csv" and not path.name.startswith(FEW):
            path.unlink()
    return in_a_row(hand, lock)


def sharpen(hand):
    row = hand.window.views.lineup.row
    hand.qtbot.waitUntil(lambda: row.is_sharp, timeout=WAIT_MS)


def wheel(widget, at: QPointF, notches: int) -> None:
    event = QWheelEvent(
        at, widget.mapToGlobal(at), QPoint(), QPoint(0, 120 * notches), Qt.MouseButton.NoButton,
        Qt.KeyboardModifier.NoModifier, Qt.ScrollPhase.NoScrollPhase, False,
    )  # fmt: skip
    QApplication.sendEvent(widget, event)


def centre(row, file: str) -> QPoint:
    return row.outline_of(file).center().toPoint()


def test_all_stand_on_one_ground_at_one_scale_the_figure_among_them(hand, lock):
    row = in_a_row(hand, lock)
    ground = {round(row.outline_of(i.file).bottom(), 3) for i in row.items}
    assert len(ground) == 1
    per_metre = {i.file: row.outline_of(i.file).height() / i.height for i in row.items}
    assert max(per_metre.values()) == pytest.approx(min(per_metre.values()))
    heights = [i.height for i in row.items]
    assert heights == sorted(heights)
    assert FIGURE in per_metre
    # The STL and OBJ files say nothing of their unit, and stand far too tall: the size book marks them.
    words = {i.file: i.trouble for i in row.items}
    assert words["keepers_hut.obj"] == "all outside the book"
    assert words["milepost.glb"] == ""
    assert hand.window.views.lineup.words.toolTip().startswith("15 stand within the size book, 5 do not; heights span")
    assert hand.window.views.lineup.words.text().endswith(": 1: try log")


def test_what_is_drawn_is_the_silhouette_sharp_at_any_zoom(hand, row):
    hand.click(row, centre(row, "keepers_hut.obj"))
    hand.key(Qt.Key.Key_Space)
    sharpen(hand)
    outline = row.outline_of("keepers_hut.obj")
    sprite = row.sprites.of("keepers_hut.obj")
    assert sprite.image.width() >= 0.9 * outline.width()
    alpha = image_alpha(sprite.image)
    # A hut: a chimney's width at the top, the walls' at the bottom, nothing beside the roof.
    wide = alpha.any(axis=1).nonzero()[0]
    top, bottom = alpha[wide[0] + 2].sum(), alpha[wide[-1] - 2].sum()
    assert top < 0.3 * bottom
    at = QPointF(outline.center().x(), outline.top() + 0.1 * outline.height())
    for _ in range(6):
        wheel(row, at, 4)
    sharpen(hand)
    deep = row.outline_of("keepers_hut.obj")
    assert deep.width() > 20 * outline.width()
    near = row.sprites.of("keepers_hut.obj")
    assert near.room.width() < 0.2
    assert near.image.width() / (near.room.width() * deep.width()) > 0.85


def image_alpha(image: QImage) -> np.ndarray:
    flat = np.frombuffer(image.constBits(), dtype=np.uint8).reshape(image.height(), image.width(), 4)
    return flat[:, :, 3] > 128


def test_zoom_keeps_what_is_under_the_pointer_and_drag_pans(hand, row):
    at = row.outline_of("milepost.glb").center()
    before = row.scale
    wheel(row, at, 10)
    after = row.scale
    assert after.per_unit > 4 * before.per_unit
    assert row.outline_of("milepost.glb").center().x() == pytest.approx(at.x(), abs=1e-6)
    start = QPoint(300, 300)
    hand.qtbot.mousePress(row, Qt.MouseButton.LeftButton, pos=start)
    hand.qtbot.mouseMove(row, start + QPoint(20, 0))
    hand.qtbot.mouseMove(row, start + QPoint(60, 0))
    hand.qtbot.mouseRelease(row, Qt.MouseButton.LeftButton, pos=start + QPoint(60, 0))
    assert row.outline_of("milepost.glb").center().x() == pytest.approx(at.x() + 60, abs=1)
    hand.key(Qt.Key.Key_Space)
    hand.key(Qt.Key.Key_Space)
    assert row.scale.per_unit == pytest.approx(before.per_unit)


def test_units_are_tried_from_the_picture_and_seen_at_once(hand, row):
    page = hand.window.views.lineup
    hand.click(row, centre(row, "keepers_hut.obj"))
    assert page.card.isVisible()
    assert page.card.title.text() == "keepers_hut: 420.0 m at its longest"
    assert page.card.asks.text() == "The file declares no unit. If it was made in"
    hand.click(page.card.candidates.buttons["cm"])
    item = next(i for i in row.items if i.file == "keepers_hut.obj")
    assert item.height == pytest.approx(3.9)
    assert item.trouble == ""
    assert page.card.isVisible()
    assert next(r for r in page.card.candidates.rows if r.unit == "cm").holds
    hand.key(Qt.Key.Key_Return)
    assert hand.steps() == ["Unit: cm"]
    assert not page.card.isVisible()


def test_elevation_order_scale_and_reference_are_chosen_below(hand, row):
    page = hand.window.views.lineup
    hand.click(page.side.buttons["side"])
    boat = next(i for i in row.items if i.file == "narrowboat.glb")
    assert boat.width == pytest.approx(21, abs=0.1)
    hand.click(page.order.buttons["name"])
    assert [i.name for i in row.items][:3] == ["figure", "casks", "footbridge"]
    hand.click(page.order.buttons["finding"])
    assert row.items[1].trouble
    hand.click(page.scale.buttons["log"])
    assert not row.layout_.even
    shares = [row.layout_.slots[k].height for k, i in enumerate(row.items) if i.file in ("milepost.glb", FIGURE)]
    assert max(shares) / min(shares) < 1.75 / 0.92
    hand.qtbot.mouseClick(row, Qt.MouseButton.RightButton, pos=centre(row, "milepost.glb"))
    hand.settle()
    assert row.reference == "milepost.glb"
    files = [i.file for i in row.items if i.file != FIGURE]
    at = files.index(hand.session.lead)
    hand.key(Qt.Key.Key_Right)
    assert hand.session.lead == files[at + 1]


def test_what_is_left_out_of_the_delivery_does_not_stand_in_the_row(hand, row):
    hand.session.sheet.include(("narrowboat.glb",), False)
    hand.settle()
    assert row.outline_of("narrowboat.glb") is None
    hand.session.sheet.undo()
    hand.settle()
    assert row.outline_of("narrowboat.glb") is not None
