"""The Dividers without a window: what a click takes, and what clicks come to."""

from __future__ import annotations

import numpy as np
import pytest

from oak_square.app.instruments.aims import ClickTarget, Target, aim_at, aims_at
from oak_square.app.instruments.dividers import Points
from oak_square.app.view import Camera, Shape
from oak_square.app.view.overlay import Lens
from oak_square.app.view.pointing import Pointing
from oak_square.core.boxes import asset_box
from oak_square.core.frames import translation
from oak_square.core.measuring import Anchor
from oak_square.core.picks import face_at, picks_at
from tests.core.test_picks import drum
from tests.steps.test_steps import one_part

WIDE, HIGH = 800, 600
FRONT = Lens(camera=Camera(target=np.array([0.5, 1, 3]), distance=6, azimuth_deg=0, elevation_deg=0), width=WIDE,
             height=HIGH)  # fmt: skip


def shape_of(asset, shift=(0.0, 0, 0)):
    matrix = translation(np.array(shift)) @ asset.world_from_mesh(0)
    return Shape(file=asset.file, node=0, name="post", mesh=asset.mesh_of(0), world_from_mesh=matrix)


def front_triangle(mesh) -> int:
    return next(t for t in range(len(mesh.triangles)) if face_at(mesh, np.eye(4), t).centre[2] == pytest.approx(3))


def under(hit, pointer, lens):
    """Where the pointer is over a hit, or over nothing, with all in sight."""
    eye, toward = lens.camera.ray(*pointer, lens.width, lens.height)
    return Pointing(
        x=pointer[0], y=pointer[1], eye=eye, toward=toward, lens=lens,
        hits=lambda _near, _passing: hit, around=lambda _passing: [] if hit is None else [hit],
        sees=lambda _point, _passing: True,
    )  # fmt: skip


def aim(point, *, off=(0, 0), whole=True):
    """Aim at a point of the front of a box 1 × 2 × 3, some pixels beside it."""
    asset = one_part()
    shape = shape_of(asset)
    x, y, _ = FRONT.seen(np.array([[*point, 3.0]]))[0]
    hit = (shape, np.array([*point, 3.0]), front_triangle(shape.mesh))
    pointer = (x + off[0], y + off[1])
    return aim_at(under(hit, pointer, FRONT), Target(asset=asset, box=asset_box(asset)) if whole else Target())


@pytest.mark.parametrize(
    ("point", "off", "kind", "at"),
    [
        ((0.98, 1.98), (0, 0), "vertex", (1, 2, 3)),
        ((1.0, 1.02), (2, 0), "edge middle", (1, 1, 3)),
        ((1.0, 1.5), (3, 0), "edge", (1, 1.5, 3)),
        ((0.51, 1.01), (0, 0), "face centre", (0.5, 1, 3)),
        ((0.3, 1.6), (0, 0), "surface", (0.3, 1.6, 3)),
    ],
)
def test_what_is_nearest_in_the_picture_is_taken_corners_before_edges_before_faces(point, off, kind, at):
    found = aim(point, off=off, whole=False)
    assert found.anchor.kind == kind
    assert found.at == pytest.approx(np.array(at), abs=0.02)
    assert found.anchor.world(one_part()) == pytest.approx(found.at)
    assert len(found.plane) == 3


def test_box_points_are_taken_where_there_is_no_surface_and_nothing_beyond():
    asset = one_part()
    x, y, _ = FRONT.seen(np.array([[0.5, 2.0, 3.0]]))[0]
    target = Target(asset=asset, box=asset_box(asset))
    found = aim_at(under(None, (x + 3, y - 3), FRONT), target)
    assert (found.anchor.node, found.anchor.kind) == (None, "box point")
    assert found.anchor.at == (0.5, 1.0, 1.0)
    assert aim_at(under(None, (5, 5), FRONT), target) is None
    assert aim_at(under(None, (5, 5), FRONT), Target()) is None


def test_a_kind_that_is_switched_off_is_not_taken_and_all_under_the_pointer_are_listed():
    asset = one_part()
    shape = shape_of(asset)
    x, y, _ = FRONT.seen(np.array([[1.0, 2.0, 3.0]]))[0]
    hit = (shape, np.array([0.99, 1.99, 3.0]), front_triangle(shape.mesh))
    whole = Target(asset=asset, box=asset_box(asset))
    assert aim_at(under(hit, (x, y), FRONT), whole).kind == "vertex"
    edges = Target(asset=asset, box=asset_box(asset), kinds={"edge", "surface"})
    assert aim_at(under(hit, (x, y), FRONT), edges).kind == "edge"
    assert [a.kind for a in aims_at(under(hit, (x, y), FRONT), whole, wide=True)][:2] == ["vertex", "box point"]
    assert "surface" in {a.kind for a in aims_at(under(hit, (x, y), FRONT), whole, wide=True)}
    assert aim_at(under(None, (x, y), FRONT), Target(asset=asset, box=asset_box(asset), kinds={"pivot"})) is None
    x, y, _ = FRONT.seen(np.array([[0.0, 0.0, 0.0]]))[0]
    pivot = aim_at(under(None, (x + 3, y), FRONT), whole)
    assert (pivot.kind, pivot.anchor.name) == ("pivot", "post")
    assert pivot.anchor.world(asset) == pytest.approx([0, 0, 0])


@pytest.mark.parametrize(("distance", "kind"), [(60, "circle centre"), (6, "vertex")])
def test_a_circle_is_taken_however_small_it_is_on_screen(distance, kind):
    mesh = drum(24, 1.0, 3.0)
    lens = Lens(camera=Camera(target=np.array([0.0, 3, 0]), distance=distance, azimuth_deg=20, elevation_deg=60),
                width=WIDE, height=HIGH)  # fmt: skip
    shape = Shape(file="drum.glb", node=0, name="drum", mesh=mesh, world_from_mesh=np.eye(4))
    rim = np.array([0.99, 3.0, 0.02])
    x, y, _ = lens.seen(rim[None])[0]
    found = aim_at(under((shape, rim, 0), (x, y), lens), Target())
    assert found.kind == kind
    if kind == "circle centre":
        assert found.at == pytest.approx([0, 3, 0], abs=1e-9)


def test_a_shape_set_aside_for_the_picture_is_measured_in_its_own_numbers():
    asset = one_part()
    shape = shape_of(asset, shift=(10.0, 0, 0))
    lens = Lens(camera=Camera(target=np.array([10.5, 1, 3]), distance=6, azimuth_deg=0, elevation_deg=0), width=WIDE,
                height=HIGH)  # fmt: skip
    x, y, _ = lens.seen(np.array([[11.0, 2.0, 3.0]]))[0]
    hit = (shape, np.array([10.99, 1.99, 3.0]), front_triangle(shape.mesh))
    found = aim_at(under(hit, (x, y), lens), Target())
    assert found.at == pytest.approx([11, 2, 3])
    assert found.anchor.world(asset) == pytest.approx([1, 2, 3])


def point(x, file="post.glb"):
    return ClickTarget(file=file, anchor=Anchor(node=0, name="post", at=(x, 0.0, 0.0)), at=np.zeros(3))


def test_two_clicks_make_a_span_three_an_angle():
    one, measure, said = Points().touched(point(0.0), apart=True)
    assert (measure, said, one.asks) == (None, "", "click the second point")
    after, measure, _ = one.touched(point(1.0), apart=True)
    assert (measure.kind, [a.at[0] for a in measure.anchors]) == ("span", [0, 1])
    assert after == Points()
    angle = Points(kind="angle")
    for x, asks in ((0.0, "click the apex"), (1.0, "click a point on the second arm")):
        angle, measure, _ = angle.touched(point(x), apart=True)
        assert angle.asks == asks
    assert angle.touched(point(2.0), apart=True)[1].kind == "angle"


def test_one_span_stays_on_one_asset_and_needs_two_places():
    one, _, _ = Points().touched(point(0.0), apart=True)
    assert one.touched(point(1.0, "boat.glb"), apart=True)[1:] == (
        None, "Here they only stand side by side: take them in their common box to measure across",
    )  # fmt: skip
    assert one.touched(point(0.0), apart=True)[1:] == (None, "That is the point taken last")


def test_a_rim_is_a_circle_at_once_and_three_points_are_one_too():
    mesh = drum()
    rim = next(p for p in picks_at(mesh, np.eye(4), 0, np.array([1.99, 3, 0.1])) if p.kind == "edge").circle
    anchors = tuple(Anchor(node=0, name="drum", at=tuple(p)) for p in rim.rim)
    on_rim = ClickTarget(file="post.glb", anchor=anchors[0], at=np.zeros(3), circle=anchors)
    assert Points(kind="circle").touched(on_rim, apart=True)[1].anchors == anchors
    circle = Points(kind="circle")
    for x in (0.0, 1.0):
        circle, measure, _ = circle.touched(point(x), apart=True)
        assert measure is None
    # With points taken already, a rim is a point like others.
    assert len(circle.touched(on_rim, apart=True)[1].anchors) == 3


def test_a_plane_needs_a_face():
    flat = Points(kind="plane")
    assert flat.asks == "click a face"
    assert flat.touched(point(0.0), apart=True)[1:] == (None, "That is not on a face")
    face = aim((0.3, 1.6), whole=False)
    measure = flat.touched(face, apart=True)[1]
    assert measure.kind == "plane"
    assert {round(a.world(one_part())[2], 9) for a in measure.anchors} == {3}
