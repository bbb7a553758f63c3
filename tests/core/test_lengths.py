from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from oak_square.core.errors import BadLength
from oak_square.core.lengths import UNITS, format_length, format_size, metres_per, parse_length, shortest


@pytest.mark.parametrize(
    ("text", "metres"),
    [
        ("90 cm", 0.9),
        ("0.9m", 0.9),
        ("5.2 m", 5.2),
        ("3' 6 1/2\"", 3 * 0.3048 + 6.5 * 0.0254),
        ("3ft 6in", 1.0668),
        ("2 1/4 in", 2.25 * 0.0254),
        ("1/2 in", 0.0127),
        ("1.5 mod", 1.5 * 3.6),
        ("-40 mm", -0.04),
        ("−40 mm", -0.04),
        ("+4cm", 0.04),
        ("1e3 mm", 1.0),
        ("7", 7 * 0.01),
        ("2 yards", 1.8288),
        ("3' - 6\"", 1.0668),
        (12, 0.12),
        (0.5, 0.005),
    ],
)
def test_lengths_mean_what_people_write(text, metres):
    assert parse_length(text, bare=0.01, module=3.6) == pytest.approx(metres, rel=1e-15)


@pytest.mark.parametrize(
    ("text", "says"),
    [
        ("", "no length"),
        ("tall", "no length"),
        ("5 mtr", "no unit of length"),
        ("5 inchs", "did you mean 'inches'"),
        ("6 in 3 ft", "larger unit to the smaller"),
        ("3 m 4", "number without its unit"),
        ("1/0 in", "no number"),
        ("1e999 m", "no number"),
        ("2 mod", "needs a module"),
        (float("nan"), "not a finite"),
        (True, "no length"),
        ("9" * 100, "too long"),
    ],
)
def test_what_is_no_length_says_so(text, says):
    with pytest.raises(BadLength, match=says):
        parse_length(text, bare=1.0)


@pytest.mark.parametrize(
    ("metres", "unit", "text"),
    [
        (5.2, "auto", "5.20 m"),
        (0.042, "auto", "42.00 mm"),
        (21_000.0, "auto", "21.00 km"),
        (0.0, "auto", "0.00 m"),
        (-0.0000001, "m", "-1e-07 m"),
        (1.0668, "ft-in", "3' 6\""),
        (1.0795, "ft-in", "3' 6 1/2\""),
        (0.0127, "ft-in", '1/2"'),
        (-0.3048, "ft-in", "-1'"),
        (0.9, "cm", "90.00 cm"),
        (396.0, "m", "396.0 m"),
        (math.inf, "m", "not finite"),
    ],
)
def test_lengths_are_written_as_people_read_them(metres, unit, text):
    assert format_length(metres, unit) == text


def test_three_extents_share_the_unit_of_the_largest():
    assert format_size(0.61, 5.2, 0.005) == "0.61 × 5.20 × 0.005 m"
    assert format_size(0.3048, 0.6096, 0.0254, "ft-in") == "1' × 2' × 1\""


@given(st.floats(1e-4, 9e6), st.sampled_from([*UNITS]))
def test_a_length_that_is_written_reads_back_as_shown(metres, unit):
    again = parse_length(format_length(metres, unit), bare=1.0)
    assert again == pytest.approx(metres, rel=6e-3, abs=6e-4 * UNITS[unit])


def test_units_have_english_names_too():
    assert metres_per("feet") == 0.3048
    assert metres_per("Metres") == 1.0


@pytest.mark.parametrize("value", [16**300, -(16**300), 1e400])
def test_a_number_past_all_lengths_is_none(value):
    with pytest.raises(BadLength, match="not a finite length"):
        parse_length(value, bare=1.0)


@pytest.mark.parametrize(
    ("metres", "unit", "text"),
    [
        (float(np.float32(0.4)) * 0.8, 1.0, "0.32"), (1.31007623672, 1.0, "1.3100762"), (0.600000023842, 1.0, "0.6"),
        (float(np.float32(0.0254)), 0.0254, "1"), (1234567.890123, 1.0, "1234567.890123"), (-2.5, 1.0, "-2.5"),
        (1e-7, 1.0, "0.0000001"), (0.0, 1.0, "0"), (-0.0, 1.0, "0"), (1 / 3, 1.0, "0.33333333"),
        (12345.0, 1.0, "12345"),
    ],
)  # fmt: skip
def test_a_length_is_written_as_shortly_as_it_is_the_same_number(metres, unit, text):
    assert shortest(metres, unit) == text


@given(st.floats(-1e6, 1e6, width=32))
def test_what_is_written_shortly_is_the_same_number_in_a_file(metres):
    read = float(shortest(metres))
    assert np.float32(read) == np.float32(metres)
    assert abs(read - metres) <= 6e-8
