"""A pivot by several picks, and on some axes alone."""

from __future__ import annotations

import numpy as np
import pytest
from PySide6.QtCore import Qt

from tests.app import lockworks
from tests.app.test_hands import switch


@pytest.fixture
def points(deeds):
    """The crate picked, and the page of points open."""
    made = deeds("stack", lockworks.crates())
    made.look(-30, 30)
    made.row("crate")
    made.hand.stage("pivot")
    made.hand.click(made.hand.body("pivot").pages.tabs.buttons["point"])
    switch(made, "vertex", "edge middle")
    return made, made.hand.body("pivot").point


def said(d):
    return d.session.document.draft.words()["at"]


def test_the_mean_of_picked_vertices_is_kept_by_their_numbers_and_follows_each_pick(points):
    d, page = points
    page.more.open()
    d.hand.click(page.several.buttons["mean"])
    d.click((0.0, 0.4, 0.5))
    assert "1 so far, Esc ends" in d.hand.window.views.band.text()
    assert d.pivot("crate") == pytest.approx([0.0, 0.4, 0.5], abs=1e-6)
    d.click((0.6, 0.4, 0.5))
    assert len(said(d)["vertices"]) == 2
    assert d.pivot("crate") == pytest.approx([0.3, 0.4, 0.5], abs=1e-6)
    d.click((0.6, 0.0, 0.5))
    assert d.pivot("crate") == pytest.approx(np.mean([(0, 0.4, 0.5), (0.6, 0.4, 0.5), (0.6, 0, 0.5)], axis=0))
    d.key(Qt.Key.Key_Escape)
    assert d.hand.window.desk.hands.wants == ""
    assert len(said(d)["vertices"]) == 3
    d.hand.click(page.fewer)
    assert not page.many_said.text().startswith("3 points")


def test_what_is_more_than_vertices_is_kept_by_its_mean(points):
    d, page = points
    page.more.open()
    d.hand.click(page.several.buttons["mean"])
    d.click((0.0, 0.4, 0.5))
    d.click((0.6, 0.4, 0.25))
    assert [float(v.removesuffix(" m")) for v in said(d)["xyz"]] == pytest.approx([0.3, 0.4, 0.375], abs=1e-6)
    assert d.pivot("crate") == pytest.approx([0.3, 0.4, 0.375], abs=1e-6)


def test_three_picks_make_the_circle_through_them(points):
    d, page = points
    page.more.open()
    d.hand.click(page.several.buttons["circle"])
    for corner in ((0.0, 0.4, 0.5), (0.6, 0.4, 0.5), (0.6, 0.0, 0.5)):
        d.click(corner)
    assert set(said(d)) == {"circle"}
    assert d.hand.window.desk.hands.wants == ""
    assert d.pivot("crate") == pytest.approx([0.3, 0.2, 0.5], abs=1e-6)


def test_on_one_axis_alone_a_pick_leaves_the_others(points):
    d, page = points
    start = d.pivot("crate").copy()
    for axis in "xz":
        d.hand.click(page.only[axis])
    d.hand.click(page.point.pick)
    d.click((0.6, 0.4, 0.5))
    assert d.pivot("crate") == pytest.approx([start[0], 0.4, start[2]], abs=1e-6)
    assert float(said(d)["xyz"][1].removesuffix(" m")) == pytest.approx(0.4, abs=1e-6)


def test_on_one_axis_alone_several_pivots_are_not_moved_and_the_reason_is_said(points):
    d, page = points
    d.row("case", Qt.KeyboardModifier.ControlModifier)
    d.hand.click(page.only["x"])
    d.hand.click(page.point.pick)
    d.click((0.6, 0.4, 0.5))
    assert d.session.document.draft is None
    assert page.why.isVisible()
    assert "choose one part or group" in page.why.text()


@pytest.mark.parametrize("picked", [True, False])
@pytest.mark.parametrize("place", [(0.6, 0.4, 0.5), (0.6, 0.4, 0.25), (0.3, 0.4, 0.25)])
def test_with_pivots_only_the_same_click_says_the_same_each_time(deeds, place, picked):
    d = deeds("stack", lockworks.crates())
    d.look(-30, 30)
    if picked:
        d.row("crate")
    else:
        d.select()
    d.key(Qt.Key.Key_P)
    d.click(place)
    first = said(d)
    assert "mark" in first
    assert d.pivot("crate") == pytest.approx(place, abs=1e-6)
    for _ in range(2):
        d.click(place)
        assert said(d) == first
    assert d.pivot("crate") == pytest.approx(place, abs=1e-6)
