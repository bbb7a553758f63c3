"""What is seen is what is picked: of neighbours, of what is covered, beside an instrument's own handles."""

from __future__ import annotations

import numpy as np
import pytest
from PySide6.QtCore import QPointF, Qt

from oak_square.app.instruments.aims import Target, aims_at
from tests.app.lockworks import Part, box, shape
from tests.bored import bored_plate
from tests.strategies import world_points


@pytest.fixture
def hinge(deeds):
    """A leaf and a post that meet in one plane, with a pivot 5 cm below the top of the post."""
    d = deeds(
        "hinge",
        [
            Part("post", *box((0.4, 2, 0.4), (-0.4, -1.9, 0)), at=(0, 1.9, 0)),
            Part("leaf", *box((1.2, 2, 0.4)), at=(0.0, 0, 0)),
        ],
    )
    d.hand.pick("hinge.glb")
    return d


def under(d, point, off=(0.0, 0.0)):
    """Where the pointer is, some pixels beside a world point."""
    x, y, _ = d.bench.lens().seen(np.array([point]))[0]
    return d.bench.pointing(QPointF(x + off[0], y + off[1]))


def found(d, at, **more):
    target = Target(asset=d.asset, **more)
    return [(aim.anchor.name, aim.kind) for aim in aims_at(at, target)]


@pytest.mark.parametrize("off", [(-4, 0), (-2, 0), (0, 0), (2, 0), (4, 0)])
@pytest.mark.parametrize("name", ["post", "leaf"])
def test_an_edge_that_two_parts_share_is_taken_of_the_one_that_is_picked(hinge, off, name):
    d = hinge
    d.look(0, 0)
    d.row(name)
    aims = found(d, under(d, (0, 1.3, 0.4), off))
    edges = [who for who, kind in aims if kind == "edge"]
    assert edges[0] == name
    assert set(edges) == {"post", "leaf"}


def test_with_nothing_picked_both_are_listed(hinge):
    d = hinge
    d.look(0, 0)
    aims = found(d, under(d, (0, 1.3, 0.4), (3, 0)))
    assert {who for who, kind in aims if kind == "edge"} == {"post", "leaf"}


def test_what_is_covered_never_beats_what_is_seen(hinge):
    d = hinge
    d.look(0, 85)
    middle = (-0.2, 2.0, 0.2)
    d.session.drafts.try_whole(
        {"do": "pivot", "at": {"xyz": [-0.2, 1.95, 0.2]}, "parts": ["post"], "for": ["hinge.glb"]}
    )
    d.session.drafts.keep()
    d.hand.settle()
    aims = found(d, under(d, middle))
    assert aims[0] == ("post", "face centre")
    # It can still be chosen from the list, before any point of the surface.
    assert aims.index(("post", "pivot")) < aims.index(("post", "surface"))
    d.look(0, -80)
    assert ("post", "face centre") not in found(d, under(d, middle))[:1]


def test_a_bore_under_the_rules_rails_is_taken_hold_of(deeds):
    plate = bored_plate(at=(0.5, 0.0))
    d = deeds("wheel", [Part("wheel", *shape(plate))])
    d.hand.pick("wheel.glb")
    d.look(0, 85)
    d.hand.click(d.hand.window.views.instruments["rule"])
    rule = d.hand.window.desk.hand.held
    hold, lens = rule.scene.hold, d.bench.lens()
    for handle in rule.handles(hold, lens):
        if len(handle.axes) != 1:
            continue
        slider = lens.seen((hold.centre + hold.axes[:, handle.axes[0]] * lens.reach(hold.centre, 92.0))[None])[0]
        at = d.bench.pointing(QPointF(float(slider[0]), float(slider[1])))
        assert rule._find_handle(hold, at).name == handle.name
    corners = [v for v in world_points(d.asset, 0) if v[1] > 0 and near_rail(rule, hold, lens, v)]
    assert corners
    for corner in corners:
        rule.press(under(d, corner))
        assert rule.handle.name == "grab"
        rule.lay_down()


def near_rail(rule, hold, lens, point):
    """Whether a corner in sight lies under a rail, beside its slider."""
    x, y, _ = lens.seen(point[None])[0]
    return any(len(h.axes) == 1 and h.away(x, y) < 5 for h in rule.handles(hold, lens))


@pytest.mark.parametrize(
    ("look", "point", "up", "front"),
    [((0, 80), (0.6, 2, 0.2), (0, 1, 0), (0, 0, 1)), ((90, 0), (1.2, 1, 0.2), (0, 1, 0), (1, 0, 0))],
)
def test_a_datum_put_on_a_face_is_turned_as_it_is_and_so_is_a_berth(hinge, look, point, up, front):
    d = hinge
    d.look(*look)
    d.hand.key(Qt.Key.Key_D)
    d.click(point)
    (name,) = d.session.document.sheet.datums
    frame = d.session.document.sheet.setting().datum(name, d.asset)[:3, :3]
    assert frame[:, 1] == pytest.approx(up, abs=1e-6)
    assert frame[:, 2] == pytest.approx(front, abs=1e-6)
