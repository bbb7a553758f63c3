"""The unit question against what can be worked out by hand."""

from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from oak_square.core.frames import Reading
from oak_square.core.likely.answers import Settled, answer_alone, answers_of
from oak_square.core.likely.clues import clues_of
from oak_square.core.likely.units import unit_of
from oak_square.core.likely.weights import IN_NAME, SLANTS, TRUE_WHEN_DECLARED, UNITS_MET
from oak_square.core.size_book import parse_book
from oak_square.demo.shapes import box
from tests.likely.made_shapes import as_file

BOOK = parse_book("pattern,width_max,height_min,height_max\nhut*,3 m,3.4 m,4.4 m\n", "b.csv")
GLB = Reading(metres_per_unit=1.0, up="+Y", front="+Z", source="declared")


def block(file, height, **more):
    return clues_of(as_file(box(height / 2, height, height / 2), file, **more))


def shares(answer):
    return {c.unit: c.share for c in answer.unit.candidates}


def test_shares_are_bayes_rule_over_prior_and_the_density_of_sizes():
    clues = block("x.obj", 390.0)
    there = shares(answer_alone(clues))
    weight = {
        u: UNITS_MET[u] * math.exp(-0.5 * (math.log(390 * m / 1.5) / 1.8) ** 2)
        for u, m in (("cm", 0.01), ("in", 0.0254), ("mm", 0.001))
    }
    assert there["cm"] / there["in"] == pytest.approx(weight["cm"] / weight["in"], rel=1e-6)
    assert there["cm"] / there["mm"] == pytest.approx(weight["cm"] / weight["mm"], rel=1e-6)
    assert not answer_alone(clues).unit.certain
    assert answer_alone(clues).unit.words.startswith("can't tell: ")


def test_a_name_is_weighed_for_each_slant_its_folder_may_have():
    clues = block("post.obj", 1.4)
    there, named = shares(answer_alone(clues)), clues.unit.named
    by_hand = {
        u: UNITS_MET[u] * sum(w * math.exp(named.log_likelihood(1.4 * m * math.exp(-s))) for s, w in SLANTS)
        for u, m in (("m", 1.0), ("ft", 0.3048))
    }
    assert there["m"] / there["ft"] == pytest.approx(by_hand["m"] / by_hand["ft"], rel=1e-3)


def test_the_book_settles_what_the_size_can_not():
    answer = answers_of([block("hut_7.obj", 390.0)], None, BOOK)["hut_7.obj"].unit
    assert answer.certain
    assert answer.best.unit == "cm"
    assert answer.best.size == pytest.approx([1.95, 3.9, 1.95])
    says = {c.unit: dict(c.says)["book"] for c in answer.candidates}
    assert says == {
        "cm": "as in the book", "in": "2.25 × too high", "mm": "8.72 × too low", "m": "88.6 × too high",
        "ft": "27 × too high",
    }  # fmt: skip


def test_a_model_on_its_back_is_held_against_the_book_as_it_would_stand():
    lamp = parse_book("pattern,width_max,height_min,depth_max\nx,62 cm,5 m,62 cm\n", "b.csv")
    clues = clues_of(as_file(box(24.0, 24.0, 204.7), "x.obj"))
    answer = answers_of([clues], None, lamp)["x.obj"].unit
    assert answer.best.unit == "in"
    assert dict(answer.best.says)["book"] == "as in the book, lying"


def test_a_declared_unit_holds_until_much_speaks_against_it():
    assert shares(answer_alone(block("x.glb", 2.0, declared=GLB)))["m"] > TRUE_WHEN_DECLARED
    assert answer_alone(block("x.glb", 2.0, declared=GLB)).unit.certain
    assert answer_alone(block("chair.glb", 950.0, declared=GLB)).unit.best.unit == "mm"
    odd = block("x.glb", 2.0, declared=Reading(metres_per_unit=0.5, up="+Y", front="+Z", source="declared"))
    assert answer_alone(odd).unit.best.unit == "0.5"
    assert unit_of(0.0254) == "in"


def test_a_length_in_the_name_counts_for_the_unit_it_fits():
    plain, told = block("x.obj", 240.0), block("x_240cm.obj", 240.0)
    before, after = shares(answer_alone(plain)), shares(answer_alone(told))
    assert math.log(after["cm"] / after["in"]) == pytest.approx(math.log(before["cm"] / before["in"]) + IN_NAME)


@given(height=st.floats(1e-6, 1e9), name=st.sampled_from(["chair", "x", "ship"]))
def test_shares_make_one_whole_and_the_best_comes_first(height, name):
    answer = answer_alone(block(f"{name}.obj", height))
    found = [c.share for c in answer.unit.candidates]
    assert sum(found) == pytest.approx(1)
    assert found == sorted(found, reverse=True)


@pytest.mark.parametrize(
    ("step_mm", "metres", "kind"), [(10.0, 0.0254, "metric"), (25.4, 0.001, "inches"), (25.4, 0.01, "inches")]
)
def test_corners_on_whole_numbers_of_the_other_kind_of_unit_speak_for_a_conversion(step_mm, metres, kind):
    rng = np.random.default_rng(3)
    boxes = [rng.integers(1, 60, 3) * step_mm / 1000 for _ in range(12)]
    from oak_square.demo.shapes import joined

    drawn = joined(
        [box(float(w), float(h), float(d)).moved(y=float(k) * step_mm / 1000) for k, (w, h, d) in enumerate(boxes)]
    )
    drawn = drawn.moved(*(-drawn.points.min(axis=0)))
    assert clues_of(as_file(drawn, "x.stl", metres=metres)).unit.on_grid == kind
    # In its own unit they are short numbers, which both would have.
    own = 0.001 if kind == "metric" else 0.0254
    assert clues_of(as_file(drawn, "x.stl", metres=own)).unit.on_grid == ""
    rough = drawn.scaled(1.0)
    rough.points[:] += rng.normal(0, 0.003, rough.points.shape)
    assert clues_of(as_file(rough, "x.stl", metres=metres)).unit.on_grid == ""


HOME = {"chair": 0.9, "table": 1.5, "bed": 2.0, "door": 2.0, "mug": 0.1, "bucket": 0.3, "ladder": 3.0, "hammer": 0.3}


def folder(metres, **odd):
    return [
        block(f"home/{name}.obj", size / odd.get(name, metres)) for name, size in HOME.items()
    ]  # fmt: skip


@pytest.mark.parametrize("unit", ["m", "cm", "mm", "in", "ft"])
def test_a_folder_of_nameable_things_settles_its_unit_and_names_the_odd_one(unit):
    metres = {"m": 1.0, "cm": 0.01, "mm": 0.001, "in": 0.0254, "ft": 0.3048}
    other = "mm" if unit in ("m", "ft", "in") else "m"
    answers = answers_of(folder(metres[unit], bed=metres[other]))
    got = {f.split("/")[1].split(".")[0]: a.unit.best.unit for f, a in answers.items()}
    assert got == {name: other if name == "bed" else unit for name in HOME}
    way = answers["home/mug.obj"].units
    assert (way.answer, way.alike, way.count, way.odd) == (unit, 7, 8, ("home/bed.obj",))
    assert way.is_way
    assert dict(answers["home/mug.obj"].unit.best.says)["folder"] == "6 of 7 others here"


def test_what_speaks_for_another_by_itself_is_never_certain_however_sure_its_folder():
    # Settled as centimetres beside it, and 48 cm high so: a small chair, or one in inches.
    told = {f"home/{k}.obj": "cm" for k in range(60)}
    batch = [block(f"home/{k}.obj", 150.0) for k in range(60)] + [block("home/chair.obj", 48.0)]
    chair = answers_of(batch, Settled(units=told))["home/chair.obj"].unit
    assert (chair.best.unit, chair.best.share > 0.95, chair.at_odds, chair.certain) == ("cm", True, True, False)
    assert chair.words.endswith("as its folder; by itself another")
    fits = answers_of([*batch[:-1], block("home/chair.obj", 90.0)], Settled(units=told))["home/chair.obj"].unit
    assert (fits.best.unit, fits.certain, fits.at_odds) == ("cm", True, False)


def test_what_is_settled_counts_for_the_rest_of_the_folder_beyond_all_guesses():
    batch = folder(0.01)
    free = answers_of(batch)
    assert free["home/mug.obj"].unit.best.unit == "cm"
    told = answers_of(batch, Settled(units={"home/chair.obj": "in"}))
    assert {a.unit.best.unit for f, a in told.items() if f != "home/chair.obj"} == {"in"}
    assert told["home/mug.obj"].units.by_hand
    assert dict(told["home/mug.obj"].unit.best.says)["folder"] == "settled for 1 of 1 here"
    elsewhere = answers_of(batch, Settled(units={"other/chair.obj": "in"}))
    assert elsewhere["home/mug.obj"].unit.best.unit == "cm"
    # Only one that speaks loudly for itself differs.
    loud = answers_of(folder(0.01, bed=1.0), Settled(units={"home/chair.obj": "cm"}))
    assert loud["home/bed.obj"].unit.best.unit != "cm"


def test_the_order_of_files_does_not_matter():
    batch = folder(0.0254, bed=0.001)
    one, other = answers_of(batch), answers_of(batch[::-1])
    assert {f: a.unit.best.share for f, a in one.items()} == {f: a.unit.best.share for f, a in other.items()}


def test_a_small_thing_in_a_folder_of_large_ones_has_their_unit_whatever_the_folder_is_called():
    batch = [*(block(f"benches/k{k}.obj", 1530.0 + k) for k in range(5)), block("benches/q.obj", 41.0)]
    answers = answers_of(batch)
    assert {a.unit.best.unit for a in answers.values()} == {"mm"}
