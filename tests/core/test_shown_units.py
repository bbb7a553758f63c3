"""What lengths are shown and typed in."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from oak_square.core.lengths import UNITS, parse_length
from oak_square.core.shown_units import ShownUnit

FEET = ShownUnit(kind="ft-in", denominator=32)
BAYS = ShownUnit(kind="mod", module=3.6, module_name="bay")


@pytest.mark.parametrize(
    ("shown", "says"),
    [
        (ShownUnit(), ("5.20 m", "50.00 mm", "0.61 × 5.20 × 0.61 m")),
        (ShownUnit(kind="cm"), ("520.0 cm", "5.00 cm", "61.00 × 520.0 × 61.00 cm")),
        (FEET, ("17' 23/32\"", '1 31/32"', "2' 1/32\" × 17' 23/32\" × 2' 1/32\"")),
        (BAYS, ("1.444 bay", "0.014 bay", "0.169 × 1.444 × 0.169 bay")),
    ],
)
def test_lengths_are_shown_in_the_unit_that_is_chosen(shown, says):
    assert (shown.length(5.2), shown.length(0.05), shown.size(0.61, 5.2, 0.61)) == says


@pytest.mark.parametrize(
    ("shown", "typed", "sheet"),
    [
        (ShownUnit(), "5.2", "5.2 m"),
        (ShownUnit(kind="mm"), " 40 ", "40 mm"),
        (FEET, "5 1/2", "5 1/2 ft"),
        (FEET, "3' 6\"", "3' 6\""),
        (BAYS, "1.5", "1.5 mod"),
        (BAYS, "2 cm", "2 cm"),
    ],
)
def test_a_bare_number_is_written_with_the_unit_it_was_typed_in(shown, typed, sheet):
    assert shown.as_typed(typed) == sheet
    assert parse_length(typed, bare=shown.bare, module=3.6) == pytest.approx(parse_length(sheet, bare=9, module=3.6))


@given(st.floats(1e-4, 1e5))
def test_the_grid_follows_the_unit_at_round_lengths_that_can_be_seen(wanted):
    for shown, one in ((ShownUnit(), 1.0), (BAYS, 3.6), (FEET, UNITS["in"])):
        spacing, majors = shown.grid_for(wanted)
        assert 0.35 < spacing / wanted < 2.9
        assert majors > 1
        lines = spacing / one
        if shown is FEET:
            parts = (1 / 256, 1 / 128, 1 / 64, 1 / 32, 1 / 16, 1 / 8, 1 / 4, 1 / 2, 1, 2, 3, 6)
            whole_feet = lines > 11 and abs(lines / 12 - round(lines / 12)) < 1e-6
            assert whole_feet or min(abs(lines - p) for p in parts) < 1e-9
        else:
            mantissa = lines / 10 ** np.floor(np.log10(lines) + 1e-9)
            assert min(abs(mantissa - k) for k in (1, 2, 5)) < 1e-6


def test_a_grid_that_is_set_stays_until_its_lines_would_run_together():
    shown = ShownUnit(grid=0.25, majors=4)
    assert shown.grid_for(0.02) == (0.25, 4)
    assert shown.grid_for(1.0) == (0.25, 4)
    assert shown.grid_for(10.0)[0] == pytest.approx(2.5)


def test_three_coordinates_have_one_unit():
    assert ShownUnit().point(-0.45, 0.04, -0.02) == "-0.45, 0.04, -0.02 m"
    assert ShownUnit().point(0.045, 0, -0.02) == "45.00, 0.00, -20.00 mm"
    assert ShownUnit(kind="cm").point(1, 0.5, 0) == "100.0, 50.00, 0.00 cm"
    assert ShownUnit(kind="ft-in").point(0.3048, 0, 0.6096) == "1', 0\", 2'"


def test_what_is_copied_has_all_digits_that_a_file_holds():
    assert ShownUnit().exact(1 / 3) == "0.33333333 m"
    assert ShownUnit().exact(-0.0123456789) == "-12.345679 mm"
    assert ShownUnit(kind="ft-in").exact(0.3048 * 5.25) == "5.25 ft"
    assert ShownUnit(kind="mod", module=0.3, module_name="brick").exact(0.45) == "1.5 brick"
