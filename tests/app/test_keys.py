"""Everything by key: Tab goes the way the work goes, focus can be seen wherever it is, and lists know the keys."""

from __future__ import annotations

from itertools import pairwise

import numpy as np
import pytest
from PySide6.QtCore import QMimeData, QPointF, QSize, Qt, QUrl
from PySide6.QtGui import QDropEvent, QGuiApplication, QImage
from PySide6.QtWidgets import QApplication, QWidget

from oak_square.app.widgets.fields import Fold
from oak_square.app.widgets.frame import opening_size
from oak_square.core.stages import STAGES
from oak_square.demo import BATCH
from oak_square.steps.step import STEPS


def picture(widget: QWidget) -> np.ndarray:
    image = widget.grab().toImage().convertToFormat(QImage.Format.Format_RGBA8888)
    return np.frombuffer(image.constBits(), np.uint8).reshape(image.height(), image.bytesPerLine()).copy()


def walk(hand, most=200):
    """Press Tab until it comes round; return what had the focus."""
    hand.window.filter.setFocus()
    first, found = hand.window.filter, []
    for _ in range(most):
        found.append(QApplication.focusWidget())
        hand.qtbot.keyClick(QApplication.focusWidget(), Qt.Key.Key_Tab)
        if QApplication.focusWidget() is first:
            return found
    raise AssertionError("Tab does not come round")


def region(hand, widget):
    window = hand.window
    for k, home in enumerate(
        (window.filter_bar, window.batch, window.hierarchy, window.views, window.foot, window.hold_bar, window.panel,
         window.strip, window.title, window.ruler)
    ):  # fmt: skip
        if home is widget or home.isAncestorOf(widget):
            return k
    raise AssertionError(f"{widget} is nowhere")


@pytest.mark.parametrize("stage", STAGES)
def test_tab_goes_the_way_the_work_goes_and_the_focus_is_seen(hand, batch, stage):
    hand.open(batch)
    hand.pick("gate_leaf.glb")
    hand.stage(stage)
    for fold in hand.window.panel.findChildren(Fold):
        fold.open()
    seen = walk(hand)
    regions = [region(hand, w) for w in seen]
    assert regions == sorted(regions)
    assert set(regions) >= {0, 1, 2, 3, 4, 5, 6, 8, 9}
    # Within the panel, from top to bottom.
    tall = [w for w in seen if region(hand, w) == 6]
    inner = hand.window.panel.area.widget()
    tops = [w.mapTo(inner, w.rect().topLeft()).y() for w in tall if inner.isAncestorOf(w)]
    assert all(b >= a - 8 for a, b in pairwise(tops))
    # Wherever the focus is, it makes a difference that can be seen.
    for widget in seen:
        if widget is hand.window.bench:
            continue  # drawn by its own test: a picture is slow
        hand.window.setFocus()
        widget.clearFocus()
        QApplication.processEvents()
        without = picture(widget)
        widget.setFocus(Qt.FocusReason.TabFocusReason)
        QApplication.processEvents()
        assert widget.hasFocus()
        assert (picture(widget) != without).any(), f"{widget} {widget.accessibleName()}: the focus can't be seen"


def test_from_the_list_to_the_delivery_folder_it_is_a_few_tabs_and_back(hand, batch):
    hand.open(batch)
    hand.stage("deliver")
    hand.pick("gate_leaf.glb")
    folder = hand.body("deliver").folder
    for key, keys in ((Qt.Key.Key_Tab, {}), (Qt.Key.Key_Backtab, {"modifier": Qt.KeyboardModifier.ShiftModifier})):
        home, goal = (hand.window.batch, folder) if key == Qt.Key.Key_Tab else (folder, hand.window.batch)
        assert home.hasFocus()
        tabs = 0
        while not goal.hasFocus():
            hand.qtbot.keyClick(QApplication.focusWidget(), key, **keys)
            tabs += 1
            assert tabs <= 14


def test_the_arrows_walk_a_row_of_buttons_and_tab_comes_back_to_where_it_was_left(hand, batch):
    hand.open(batch)
    hand.pick("gate_leaf.glb")
    buttons = hand.window.views.instruments

    def tab_to(widgets):
        for _ in range(60):
            if QApplication.focusWidget() in widgets:
                return QApplication.focusWidget()
            hand.qtbot.keyClick(QApplication.focusWidget(), Qt.Key.Key_Tab)
        raise AssertionError("Tab does not lead there")

    assert tab_to(buttons.values()) is buttons["pick"]
    hand.key(Qt.Key.Key_Right)
    assert buttons["rule"].hasFocus()
    hand.key(Qt.Key.Key_Left)
    hand.key(Qt.Key.Key_Left)
    assert QApplication.focusWidget() is next(b for b in reversed(buttons.values()) if b.isEnabled())
    for _ in range(3):
        hand.key(Qt.Key.Key_Right)
    assert buttons["dial"].hasFocus()
    hand.key(Qt.Key.Key_Space)
    assert hand.window.desk.hand.held.name == "dial"
    hand.key(Qt.Key.Key_Tab)
    assert QApplication.focusWidget() not in buttons.values()
    assert tab_to(buttons.values()) is buttons["dial"]


def test_space_in_the_lists_frames_as_in_the_views(hand, batch):
    hand.open(batch)
    hand.pick("gate_leaf.glb")
    bench = hand.window.bench
    far = bench.camera.distance
    for widget in (hand.window.batch, hand.window.hierarchy.tree):
        bench.camera = bench.camera.zoomed(0.2, 10, 10, bench.width(), bench.height())
        bench._by_hand()
        widget.setFocus()
        selected = hand.session.selection
        hand.key(Qt.Key.Key_Space)
        assert bench.camera.distance == pytest.approx(far, rel=0.05)
        assert hand.session.selection == selected
        hand.qtbot.wait(700)


def drop(hand, *paths):
    data = QMimeData()
    data.setUrls([QUrl.fromLocalFile(str(p)) for p in paths])
    event = QDropEvent(
        QPointF(600, 400), Qt.DropAction.CopyAction, data, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier
    )
    hand.window.dropEvent(event)
    hand.settle()


def test_what_is_dropped_is_opened_as_what_it_is_and_a_note_is_refused_in_words(hand, batch, tmp_path):
    book = tmp_path / "sizes.csv"
    book.write_text((BATCH / "size_book.csv").read_text())
    note = tmp_path / "read me.txt"
    note.write_text("turn the hut round\n")
    drop(hand, batch, book, note)
    assert len(hand.session.rows) == 6
    assert hand.session.document.book_path == book
    assert hand.window.foot.words.text() == "read me.txt: is no model, prep sheet or size book, so it is not opened"
    wrong = tmp_path / "wrong.csv"
    wrong.write_text("this,is\nno,book\n")
    drop(hand, wrong)
    assert "wrong.csv" in hand.window.foot.words.text()
    assert hand.session.document.book_path == book


def test_what_went_wrong_stays_until_it_is_read_and_can_be_read_again(hand, batch):
    hand.open(batch)
    foot = hand.window.foot
    hand.session.messages.failed.emit("the first thing that went wrong")
    hand.session.messages.said.emit("something else, said later")
    foot._timer.setInterval(1)
    hand.qtbot.wait(60)
    assert foot.words.text() == "the first thing that went wrong"
    hand.session.messages.failed.emit("the second")
    assert foot.words.text() == "the second  (and 1 more)"
    hand.click(foot.words)
    assert foot.words.text() == ""
    hand.key(Qt.Key.Key_F8)
    lines = [hand.window.said_log.list.item(k).text() for k in range(hand.window.said_log.list.count())]
    assert [line[11:] for line in lines[-3:]] == [
        "▲ the first thing that went wrong", "something else, said later", "▲ the second",
    ]  # fmt: skip
    hand.window.said_log.close()


@pytest.mark.parametrize("size", [(1280, 800), (1024, 700), (853, 533)])
@pytest.mark.parametrize("stage", STAGES)
def test_all_of_it_can_be_reached_at_every_size(hand, batch, size, stage):
    """The last size is what 1280 by 800 leaves at a scale of one and a half."""
    hand.window.resize(*size)
    hand.open(batch)
    hand.pick_if_seen("gate_leaf.glb")
    hand.stage(stage)
    assert (hand.window.width(), hand.window.height()) == size
    for column in ("right", "left"):
        hand.window.frame.show_column(column)
        QApplication.processEvents()
        hand.window.ruler.setFocus()
        for _ in range(120):
            hand.qtbot.keyClick(QApplication.focusWidget(), Qt.Key.Key_Tab)
            widget = QApplication.focusWidget()
            if widget is hand.window.ruler:
                break
            seen = widget.visibleRegion().boundingRect()
            assert seen.width() >= min(widget.width(), 24), widget
            assert seen.height() >= min(widget.height(), 14), (widget, widget.accessibleName())
            left = widget.mapTo(hand.window, seen.topLeft())
            assert hand.window.rect().contains(left)
            if hand.window.panel.isAncestorOf(widget):
                # Nothing of the panel is cut off at its right.
                edge = widget.mapTo(hand.window.panel, widget.rect().topRight()).x()
                assert edge <= hand.window.panel.width(), widget


@pytest.mark.parametrize("size", [(1280, 800), (1024, 700), (853, 533), (800, 480)])
def test_keep_is_in_sight_however_long_the_form_is(hand, batch, size):
    hand.window.resize(*size)
    hand.open(batch)
    hand.pick_if_seen("gate_leaf.glb")
    tried = [{"do": "bake"}, {"do": "pivot"}, {"do": "place", "ground": True}, {"do": "size", "factor": 2}]
    for words in tried:
        stage = words["do"]
        hand.stage(stage)
        hand.session.drafts.try_step(STEPS[words["do"]].model_validate(words))
        hand.settle()
        keep = hand.window.panel.keep
        assert keep.visibleRegion().boundingRect().size() == keep.size()
        assert hand.window.rect().contains(keep.mapTo(hand.window, keep.rect().bottomRight()))
        assert hand.window.panel.area.viewport().height() >= 100
        hand.session.drafts.drop()


def test_the_window_opens_no_larger_than_the_screen(qapp, monkeypatch):
    monkeypatch.setattr(QGuiApplication, "platformName", lambda: "xcb")
    assert opening_size(QSize(1024, 700)) == QSize(1024, 700)
    assert opening_size(QSize(1366, 728)) == QSize(1280, 728)
    assert opening_size(QSize(3840, 2100)) == QSize(1280, 800)


def test_the_columns_share_one_place_where_there_is_little_room(hand, batch):
    hand.window.resize(1024, 700)
    hand.open(batch)
    frame = hand.window.frame
    assert frame.is_folded
    assert hand.window.panel.isVisible()
    assert not hand.window.batch.isVisible()
    hand.key(Qt.Key.Key_F6)
    assert hand.window.batch.isVisible()
    assert not hand.window.panel.isVisible()
    hand.stage("pivot")
    assert hand.window.panel.isVisible()
    hand.key(Qt.Key.Key_F, Qt.KeyboardModifier.ControlModifier)
    assert hand.window.filter.hasFocus()
    hand.window.resize(1280, 800)
    QApplication.processEvents()
    assert hand.window.batch.isVisible()
    assert hand.window.panel.isVisible()
