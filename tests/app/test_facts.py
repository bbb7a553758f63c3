"""From the state to what is shown: measures, remedies, the Bench's facts, where labels stand."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import assume, given
from hypothesis import strategies as st
from PySide6.QtCore import QRectF
from PySide6.QtGui import QImage, QPainter

from oak_square.app.facts.bench import bench_view
from oak_square.app.facts.stages import stage_words
from oak_square.app.session.remedies import remedy
from oak_square.app.view import Camera, Facts, PivotMark, framed
from oak_square.app.view.overlay import Lens, draw_facts, draw_sizes
from oak_square.core.boxes import Box
from oak_square.core.findings.finding import KINDS, finding
from oak_square.core.findings.survey import survey
from oak_square.core.frames import Reading, translation
from oak_square.core.placement import Placement
from oak_square.core.scene import Asset, Node
from oak_square.core.shown_units import ShownUnit
from oak_square.core.standing import standing_at
from oak_square.delivery.batch import find_sources
from oak_square.delivery.surveying import receive
from oak_square.sheet.evaluate import evaluate
from oak_square.sheet.model import Sheet
from oak_square.steps.naming import globs_for
from oak_square.steps.step import STEPS
from tests.strategies import assets, solid_box

READING = Reading(metres_per_unit=1.0, up="+Y", front="+Z", source="declared")


def made(*nodes, size=(1.0, 2, 3)):
    return Asset(file="m.glb", format="glb", reading=READING, nodes=nodes, meshes=(solid_box(np.array(size)),))


def part(name="post", parent=None, at=(-0.5, 0, -1.5), **channels):
    geometry = translation(np.array(at, dtype=float))
    return Node(name=name, parent=parent, placement=Placement.of(**channels), mesh=0, local_from_mesh=geometry)


@pytest.mark.parametrize(
    ("stage", "asset", "words"),
    [
        ("size", made(part()), "1.00 × 2.00 × 3.00 m"),
        ("turn", made(part()), "+Y up, 2.00 m tall"),
        ("pivot", made(part()), "on its base"),
        ("pivot", made(part(at=(5, 0, -1.5))), "5.50 m off, 1 outside"),
        ("bake", made(part()), "clean"),
        ("bake", made(part(scale=(2, 3, 4), rotation=(0, 1, 0, 1))), "scale 2, 3…, 1 turned"),
        ("bake", made(part(scale=(-1, 1, 1))), "scale −1"),
        ("place", made(part()), "on the ground"),
        ("place", made(part(at=(-0.5, 1, -1.5))), "bottom at 1.00 m"),
        ("place", made(part(at=(2.5, 0, -1.5))), "on the ground, 3.00 m off"),
        ("size", made(), "no geometry"),
        ("pivot", made(), "no geometry"),
        ("place", made(), "no geometry"),
        ("turn", made(), "no geometry"),
    ],
)
def test_each_stage_says_what_it_measures(stage, asset, words):
    assert stage_words(standing_at(stage, asset)) == words


@given(asset=assets(deepest=3))
def test_a_remedy_settles_what_it_is_for(asset):
    assume(max(np.linalg.cond(w[:3, :3]) for w in asset.worlds) < 1e3)
    for code in {f.code for f in survey(asset)} - {"pivot-outside", "sheared", "unit-suspect", "far-from-origin"}:
        step = remedy(code, {asset.file: [f for f in survey(asset) if f.code == code]})
        if step is None or step.stage in {"size", "turn"}:
            continue
        after = evaluate(asset, Sheet(steps=(step,)))
        assert after.status == "ready"
        assert code not in {f.code for f in survey(after.asset)}, code


def test_a_remedy_is_for_those_that_have_it_and_for_no_others():
    found = {"a[1].obj": [finding("scale-unbaked", "")], "b.obj": [finding("scale-unbaked", "")]}
    step = remedy("scale-unbaked", found)
    assert step.covers("a[1].obj")
    assert step.covers("b.obj")
    assert not step.covers("a1.obj")
    assert globs_for(["what?*.obj"]) == ["what[?][*].obj"]


def test_units_that_differ_get_a_step_each():
    found = {
        "a.obj": [finding("unit-suspect", "", measure=0.01)],
        "b.obj": [finding("unit-suspect", "", measure=0.0254)],
        "c.obj": [finding("unit-suspect", "", measure=0.01)],
    }
    step = remedy("unit-suspect", found)
    assert (step.reads, step.for_) == ("cm", ["a.obj", "c.obj"])


def test_what_no_step_settles_has_no_remedy():
    none = {c for c in KINDS if c != "unit-suspect" and remedy(c, {"a": [finding(c, "")]}) is None}
    assert none >= {"unreadable", "not-finite", "empty", "degenerate", "shared-geometry", "cannot-carry"}


def test_the_bench_shows_the_lead_in_its_place_and_the_others_beside_it():
    lead = made(part())
    other = replace(made(part(at=(7, 1, 7))), file="o.glb")
    picture, facts = bench_view([other, lead], unit=ShownUnit(), previewed=False)
    assert [s.file for s in picture.shapes] == ["m.glb", "o.glb"]
    assert facts.sizes == ("1.00 m", "2.00 m", "3.00 m")
    first, second = picture.shapes
    assert (first.world_from_mesh == lead.world_from_mesh(0)).all()
    # Beside it without touching, at its own height, as large as it is.
    low = (second.world_from_mesh @ [0, 0, 0, 1])[:3]
    assert low[0] > facts.box.high[0]
    assert low[1] == pytest.approx(1)
    assert picture.box.size[0] > 2
    assert facts.pivots[-1].lead


def test_a_picked_group_stands_for_all_below_it():
    group = Node(name="gate", parent=None, placement=Placement.of(translation=(0, 1, 0)))
    asset = made(group, part("leaf", 0), part("beam", 0, at=(2, 0, 0)), part("post"))
    picture, facts = bench_view([asset], (0,), unit=ShownUnit(), previewed=True)
    assert [s.picked for s in picture.shapes] == [True, True, False]
    assert facts.sizes[0] == "3.50 m"
    assert facts.title == "m  ›  gate"
    (lead,) = [p for p in facts.pivots if p.lead]
    assert lead.name == "gate"
    assert lead.at == pytest.approx([0, 1, 0])
    assert bench_view([made()], unit=ShownUnit(), previewed=False)[1].notice == "m.glb has no geometry"


@given(st.tuples(*[st.floats(0.01, 100)] * 3), st.floats(0, 360), st.floats(-89, 89), st.integers(320, 1600))
def test_size_labels_stand_inside_the_picture_and_off_one_another(qapp_size, azimuth, elevation, width):
    box = Box(np.zeros(3), np.array(qapp_size))
    camera = framed(
        Camera(target=np.zeros(3), distance=1, azimuth_deg=azimuth, elevation_deg=elevation), box, width, 600
    )
    image = QImage(width, 600, QImage.Format.Format_RGB32)
    painter = QPainter(image)
    facts = Facts(box=box, whole=box, sizes=("12.34 m", "5.00 m", "0.25 m"))
    plates = draw_sizes(draw_facts(painter, Lens(camera=camera, width=width, height=600), facts), facts)
    painter.end()
    assert set(plates) == {"width", "height", "depth"}
    room = QRectF(0, 0, width, 600)
    rects = list(plates.values())
    for k, plate in enumerate(rects):
        assert room.contains(plate)
        assert not any(plate.intersects(other) for other in rects[:k])


def test_a_segment_is_cut_where_it_runs_behind_the_eye():
    lens = Lens(camera=Camera(target=np.zeros(3), distance=10, azimuth_deg=0, elevation_deg=0), width=400, height=400)
    ends = lens.segment(np.array([1.0, 0, 0]), np.array([1.0, 0, 50]))
    assert ends is not None
    assert all(np.isfinite([e.x(), e.y()]).all() for e in ends)
    assert lens.segment(np.array([0.0, 0, 20]), np.array([0.0, 0, 50])) is None


def test_pivots_outside_the_picture_are_told_at_its_rim():
    box = Box(np.zeros(3), np.ones(3))
    camera = framed(Camera(target=np.zeros(3), distance=1), box, 500, 400)
    lens = Lens(camera=camera, width=500, height=400)

    def drawn(*marks):
        image = QImage(500, 400, QImage.Format.Format_RGB32)
        image.fill(0xFFFFFF)
        painter = QPainter(image)
        draw_facts(painter, lens, Facts(box=box, whole=box, sizes=("1 m", "1 m", "1 m"), pivots=marks))
        painter.end()
        return image

    near = PivotMark(at=np.zeros(3), axes=np.eye(3), name="post", lead=True)
    far = PivotMark(at=np.array([300.0, 0, 0]), axes=np.eye(3), name="leaf")
    bare, one, both = drawn(), drawn(near), drawn(near, far)
    rim = [(x, y) for x in range(380, 500) for y in range(400) if both.pixel(x, y) != one.pixel(x, y)]
    assert rim  # something is said towards the right, where the pivot is
    assert one != bare


def test_pieces_are_told_apart_by_their_tints_where_they_are_asked_for(lock):
    asset = receive(next(s for s in find_sources([lock]) if s.file == "strapping_bollard.glb")).asset
    step = STEPS["split"].model_validate({"parts": ["*"]})
    split = evaluate(asset, Sheet(steps=(step,))).asset
    plain, _ = bench_view([split], unit=ShownUnit(), previewed=False)
    told, _ = bench_view([split], unit=ShownUnit(), previewed=False, pieces=True)
    assert {s.tint for s in plain.shapes} == {-1}
    assert sorted(s.tint for s in told.shapes) == [0, 1, 2, 3]
    assert not told.same_as(plain)
