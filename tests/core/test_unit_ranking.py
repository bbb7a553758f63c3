"""The ranking of units against what can be worked out by hand."""

from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from oak_square.core.size_book import parse_book
from oak_square.core.unit_ranking import Evidence, rank_units, unit_of

HUT = parse_book("pattern,width_max,height_min,height_max\nhut,3 m,3.4 m,4.4 m\n", "b.csv").entries[0]


def ranked(height, **evidence):
    return rank_units(np.array([height / 2, height, height / 2]), Evidence(**evidence))


def test_the_size_alone_seldom_settles_it_and_the_ranking_says_so():
    ranking = ranked(390.0)
    assert not ranking.certain
    assert ranking.words.startswith("can't tell: cm ")
    # By hand: prior 0.25 times the log-normal about 1.5 m with spread 1.3, for centimetres over inches.
    there = {c.unit: c.share for c in ranking.candidates}
    weight = {
        u: p * math.exp(-0.5 * (math.log(390 * m / 1.5) / 1.3) ** 2)
        for u, m, p in (("cm", 0.01, 0.25), ("in", 0.0254, 0.12))
    }
    assert there["cm"] / there["in"] == pytest.approx(weight["cm"] / weight["in"])
    assert sum(there.values()) == pytest.approx(1)


def test_the_book_and_the_folder_settle_what_the_size_can_not():
    by_book = ranked(390.0, book=HUT)
    assert by_book.certain
    assert by_book.best.unit == "cm"
    assert by_book.best.size == pytest.approx([1.95, 3.9, 1.95])
    says = {c.unit: dict(c.says)["book"] for c in by_book.candidates}
    assert says["cm"] == "as in the book"
    assert says["in"] == "2.25 × too high"
    assert says["mm"] == "8.72 × too low"
    by_folder = ranked(39.0, folder={"in": 40})
    assert by_folder.best.unit == "in"
    assert dict(by_folder.best.says)["folder"] == "40 of 40 in in"


def test_a_declared_unit_holds_until_much_speaks_against_it():
    assert ranked(2.0, declared=1.0).certain
    assert ranked(2.0, declared=1.0).best.unit == "m"
    assert ranked(39.0, declared=0.0254).best.unit == "in"
    assert ranked(5200.0, declared=1.0).best.unit == "mm"
    odd = ranked(2.0, declared=0.5)
    assert odd.best.unit == "0.5"
    assert unit_of(0.0254) == "in"


def test_nothing_to_judge_by_gives_no_ranking():
    assert ranked(0.0) is None
    assert ranked(math.inf) is None


@given(height=st.floats(1e-6, 1e9), factor=st.floats(0.1, 10), declared=st.sampled_from([None, 1.0, 0.01]))
def test_shares_make_one_whole_and_the_best_comes_first(height, factor, declared):
    ranking = ranked(height * factor, declared=declared, book=HUT, folder={"cm": 3, "ft": 1})
    shares = [c.share for c in ranking.candidates]
    assert sum(shares) == pytest.approx(1)
    assert shares == sorted(shares, reverse=True)


def test_a_model_that_lies_on_its_back_is_held_against_the_book_as_it_would_stand():
    lamp = parse_book("pattern,width_max,height_min,depth_max\nlamp,62 cm,5 m,62 cm\n", "b.csv").entries[0]
    ranking = rank_units(np.array([24.0, 24.0, 204.7]), Evidence(book=lamp))
    assert ranking.best.unit == "in"
    assert dict(ranking.best.says)["book"] == "as in the book, lying"
