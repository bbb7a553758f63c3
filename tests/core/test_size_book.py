"""The size book's file, what falls outside it, and the book that is made of a batch."""

from __future__ import annotations

import math

import numpy as np
import pytest

from oak_square.core.errors import BadBook
from oak_square.core.size_book import book_of, parse_book

HEAD = "pattern,width_min,width_max,height_min,height_max,depth_min,depth_max,note\n"


def test_the_first_pattern_that_fits_holds_and_blank_cells_are_open():
    book = parse_book(f'{HEAD}lamps/*,,,5.15 m,5.25 m,,,agreed\n*,1,2,"3\' 6""",,,50 cm,\n', "b.csv")
    lamp = book.entry_for("lamps/lamp.obj")
    assert lamp.note == "agreed"
    assert lamp.outside(np.array([9, 5.2, 9])) == ()
    assert lamp.outside(np.array([9, 5.26, 9])) == (1,)
    other = book.entry_for("gate.glb")
    assert other.outside(np.array([0.9, 1.0, 0.6])) == (0, 1, 2)
    assert other.outside(np.array([2.0, 1.0668, 0.5])) == ()
    assert other.spans[1].off_by(1.0668 / 2) == pytest.approx(-math.log(2))
    assert [s.words() for s in other.spans] == ["1.00 m to 2.00 m", "at least 1.067 m", "at most 0.50 m"]
    assert parse_book(book.text(), "b.csv") == book
    assert parse_book(HEAD, "b.csv").entry_for("gate.glb") is None


@pytest.mark.parametrize(
    ("text", "says"),
    [
        ("name,width\n", "line 1: is no size book"),
        ("pattern,widht_min\n", "line 1: unknown column 'widht_min'; did you mean 'width_min'"),
        ("pattern,note,note\n", "'note' twice"),
        (f"{HEAD}lamp,2 parsec\n", "line 2: 'parsec' is no unit"),
        (f"{HEAD}\nlamp,2,1\n", "line 3: '2' is more than '1'"),
        (f"{HEAD}lamp,-2\n", "below nothing"),
        (f"{HEAD},1\n", "has no pattern"),
        (f"{HEAD}a,,,,,,,,,\n", "has 10 cells for 8 columns"),
        (f'{HEAD}"lamp\n', "is no CSV"),
    ],
)
def test_a_mistake_is_said_with_its_line(text, says):
    with pytest.raises(BadBook, match=says):
        parse_book(text, "b.csv")


def test_a_book_made_of_a_batch_holds_all_that_it_was_made_of():
    sizes = [("a/lamp.obj", [0.6, 5.2, 0.61]), ("b/lamp.glb", [0.5, 5.0, 0.6]), ("bolt[1].stl", [0.01, 0.002, 0.3])]
    book = parse_book(book_of(sizes).text(), "b.csv")
    assert len(book.entries) == 2
    for file, size in sizes:
        assert book.entry_for(file).outside(np.array(size)) == ()
    assert book.entry_for("lamp.obj").outside(np.array([0.6, 5.4, 0.6])) == (1,)
