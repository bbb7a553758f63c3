"""Numbers of things in words."""

from __future__ import annotations

import pytest

from oak_square.core.words import counted, ordinal


@pytest.mark.parametrize(
    ("number", "words"),
    [(1, "1st"), (2, "2nd"), (3, "3rd"), (4, "4th"), (11, "11th"), (12, "12th"), (13, "13th"), (21, "21st"),
     (102, "102nd"), (112, "112th")],
)  # fmt: skip
def test_ordinals_end_as_they_are_said(number, words):
    assert ordinal(number) == words


def test_one_is_one_and_many_are_many():
    assert [counted(n, "pivot") for n in (0, 1, 2)] == ["0 pivots", "1 pivot", "2 pivots"]
    assert [counted(n, "entry", "entries") for n in (1, 2)] == ["1 entry", "2 entries"]
