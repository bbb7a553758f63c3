"""Rows and grids: laws over any boxes, and one laid out by hand."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from hypothesis.extra.numpy import arrays

from oak_square.core.setting_out import row_shifts

CORNERS = arrays(np.float64, st.tuples(st.integers(1, 9), st.just(3)), elements=st.floats(-5, 5))


def boxes_of(lows, sizes):
    return np.stack([lows, lows + sizes[: len(lows)]], axis=1)


@given(lows=CORNERS, seed=st.integers(0, 999), gap=st.floats(0, 2), columns=st.sampled_from([None, 1, 2, 3]),
       along=st.sampled_from(["width", "depth"]))  # fmt: skip
def test_all_stand_on_the_ground_apart_by_the_gap_from_the_origin_on(lows, seed, gap, columns, along):
    boxes = boxes_of(lows, np.random.default_rng(seed).uniform(0, 3, (9, 3)))
    moved = boxes + row_shifts(boxes, gap=gap, columns=columns, along=along)[:, None]
    assert moved[:, 0, 1] == pytest.approx(np.zeros(len(boxes)), abs=1e-12)
    run, across = (0, 2) if along == "width" else (2, 0)
    assert moved[:, 0, run].min() >= -1e-12
    per_row = min(columns or len(boxes), len(boxes))
    for a in range(len(boxes)):
        for b in range(a):
            row, column = (a // per_row, b // per_row), (a % per_row, b % per_row)
            if row[0] == row[1]:
                assert moved[a, :, across].mean() == pytest.approx(moved[b, :, across].mean(), abs=1e-9)
                assert moved[a, 0, run] - moved[b, 1, run] >= gap - 1e-9
            elif column[0] == column[1]:
                assert moved[a, :, run].mean() == pytest.approx(moved[b, :, run].mean(), abs=1e-9)
                assert moved[a, 0, across] - moved[b, 1, across] >= gap - 1e-9


def test_a_grid_by_hand():
    boxes = np.array([[[0, 0, 0], [1, 1, 1]], [[0, 2, 0], [3, 4, 2]], [[-1, -1, -1], [1, 1, 1]]], dtype=float)
    shifts = row_shifts(boxes, gap=0.5, columns=2)
    # Columns of 2 and 3 wide; the first row's middles over 0; the second half of 2, the gap and half of 2 before it.
    assert shifts[0] == pytest.approx([0.5, 0, -0.5])
    assert shifts[1] == pytest.approx([2.5, -2, -1])
    assert shifts[2] == pytest.approx([1, 1, 2.5])
    assert row_shifts(np.empty((0, 2, 3)), gap=1).shape == (0, 3)
