"""Which side is up: shapes whose answer anyone sees, in every way of lying, and how far a share can be trusted."""

from __future__ import annotations

import numpy as np
import pytest

from oak_square.core.frames import AXES
from oak_square.core.likely.answers import answer_alone, answers_of
from oak_square.core.likely.clues import clues_of
from oak_square.core.likely.sample import sample_of
from oak_square.core.likely.shape import TELLS, shape_of
from oak_square.core.likely.sides import side_down
from oak_square.demo.shapes import box, joined, lathe
from tests.likely.made_shapes import READ, as_file, crosswise, stand

CHAIR = joined(
    [
        *(box(0.05, 0.45, 0.05, at=(x, 0, z)) for x in (-0.2, 0.2) for z in (-0.2, 0.2)),
        box(0.45, 0.04, 0.45, at=(0, 0.45, 0)), box(0.45, 0.5, 0.04, at=(0, 0.49, -0.2)),
    ]
)  # fmt: skip
LAMP = lathe([(0, 0), (0.3, 0), (0.3, 0.1), (0.05, 0.15), (0.05, 4.0), (0.15, 4.1), (0, 4.5)], 16)


def tell(shape, axis, name):
    return shape.sides[AXES.index(axis), TELLS.index(name)]


def test_what_a_plain_solid_tells_is_what_one_measures_by_hand():
    # A block 2 wide, 1 high, 4 deep on legs 0.2 wide at its corners, 1 high: so 2 high in all.
    legs = [box(0.2, 1.0, 0.2, at=(x, 0, z)) for x in (-0.9, 0.9) for z in (-1.9, 1.9)]
    shape = shape_of(sample_of(as_file(joined([*legs, box(2, 1, 4, at=(0, 1, 0))]), "t.obj")))
    assert tell(shape, "+Y", "foot") == pytest.approx(1, abs=0.01)
    assert tell(shape, "+Y", "sole") == pytest.approx(4 * 0.04 / 8, abs=0.01)
    assert tell(shape, "-Y", "sole") == pytest.approx(1, abs=0.01)
    assert tell(shape, "+Y", "origin_base") == 1
    assert tell(shape, "-Y", "origin_hung") == 1
    # By area: the block's faces 8 + 8 + 4 + 4 + 2 + 2, each leg 4 of 0.2 and two ends.
    whole = 28 + 4 * (4 * 0.2 + 2 * 0.04)
    assert tell(shape, "+Y", "level") == pytest.approx((16 + 8 * 0.04) / whole, abs=0.01)
    assert tell(shape, "+Y", "upright") == pytest.approx((12 + 16 * 0.2) / whole, abs=0.01)
    height = (16 * 1.5 + 12 * 1.5 - 8 + 8 * 1 + 4 * (0.8 * 0.5 + 0.04)) / whole  # of the middle of its surface
    assert tell(shape, "+Y", "low") == pytest.approx(0.5 - height / 2, abs=0.01)
    assert tell(shape, "+Y", "stands") == pytest.approx(np.arctan(1.0 / height) / (np.pi / 2), abs=0.02)
    assert shape.mirrors.round(1).tolist() == [1, shape.mirrors[1].round(1), 1]
    assert not shape.falls[AXES.index("+Y")]


def test_what_leans_out_over_its_foot_falls():
    crane = joined([box(0.4, 2, 0.4), box(0.4, 0.3, 6, at=(0, 2, 2.8))])
    shape = shape_of(sample_of(as_file(crane, "c.obj")))
    assert shape.falls[AXES.index("+Y")]
    assert tell(shape, "+Y", "stands") < 0


@pytest.mark.parametrize("up", AXES)
def test_a_chair_and_a_lamp_are_found_in_every_way_of_lying_and_the_step_says_that_side(up):
    for solid, file in ((CHAIR, "chair.obj"), (LAMP, "street_lamp.stl")):
        answer = answer_alone(clues_of(as_file(solid, file, up=up, front=crosswise(up))))
        assert answer.up.best == up, (file, answer.up)
        assert answer.up.says or up == "+Y"


def test_shares_go_with_the_shape_however_it_is_turned():
    there = [clues_of(as_file(CHAIR, "x.obj", up=up, front=crosswise(up))).shape for up in AXES]
    stands = [shape.sides[AXES.index(up), TELLS.index("stands")] for shape, up in zip(there, AXES, strict=True)]
    assert stands == pytest.approx([stands[0]] * 6, abs=0.02)


def test_what_is_round_and_level_is_not_called_certain():
    ball = lathe([(abs(np.sin(a)), -np.cos(a)) for a in np.linspace(0, np.pi, 24)], 32)
    assert not answer_alone(clues_of(as_file(ball, "x.obj"))).up.certain
    cube = box(1, 1, 1).moved(y=-0.5)
    assert not answer_alone(clues_of(as_file(cube, "x.obj"))).up.certain


def test_a_check_of_upright_things_names_the_side_it_lies_on():
    assert side_down(as_file(CHAIR, "chair.obj")) is None
    # Z up in the file, read as Y up: it lies on its back.
    assert side_down(as_file(CHAIR, "chair.obj", up="+Z", front="-Y")) == "back"
    assert side_down(as_file(CHAIR, "chair.obj", up="-Y")) == "top"
    assert side_down(as_file(CHAIR, "chair.obj", up="+X")) == "left"


def test_front_is_said_where_left_and_right_are_mirrored_and_else_not():
    said = answer_alone(clues_of(as_file(CHAIR, "chair.obj", up="+Z", front="-Y")))
    assert (said.front, "mirrored across X" in said.front_says) == ("-Y", True)
    assert answer_alone(clues_of(as_file(LAMP, "lamp.obj"))).front == ""


def test_of_what_is_called_likely_as_much_is_right():
    """Reliability, over things of a kind the weights were not fitted on."""
    rng = np.random.default_rng(11)
    batch, truth = [], []
    for k in range(260):
        up = AXES[int(rng.choice(6, p=(0.08, 0.08, 0.36, 0.08, 0.32, 0.08)))]
        solid = stand(rng).moved(*(rng.uniform(-1, 1, 3) if rng.random() < 0.3 else (0, 0, 0)))
        batch.append(clues_of(as_file(solid, f"{k}/x.obj", up=up, front=crosswise(up))))
        truth.append(up)
    answers = answers_of(batch)
    shares = np.array([answers[c.file].up.share for c in batch])
    right = np.array([answers[c.file].up.best == up for c, up in zip(batch, truth, strict=True)])
    for low, high in ((0.5, 0.8), (0.8, 0.95), (0.95, 1.01)):
        there = (shares >= low) & (shares < high)
        assert there.sum() > 15
        assert right[there].mean() > shares[there].mean() - 0.1, (low, there.sum())
    assert right[shares >= 0.95].mean() > 0.98
    assert right.mean() > 0.8


def test_nothing_to_judge_by_gives_no_answer():
    flat = as_file(box(1, 1, 1), "x.obj")
    empty = as_file(box(1, 1, 1).scaled(0), "x.obj")
    assert clues_of(flat).shape is not None
    assert clues_of(empty).shape is None
    assert clues_of(empty).unit is None
    answer = answer_alone(clues_of(empty))
    assert (answer.unit, answer.up, answer.front) == (None, None, "")
    assert READ.source == "assumed"
