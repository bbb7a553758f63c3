"""Points of what moves that come near points of what stands still, against trying every pair."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from oak_square.core.nearing import Nearing

FLAT = np.eye(3)


def seen(points):
    """A flat picture of 100 pixels a metre, all of it before the eye."""
    return np.column_stack([points[:, :2] * 100, np.ones(len(points))])


@given(seed=st.integers(0, 10_000), kept=st.sampled_from([(0,), (1,), (0, 1), (0, 1, 2)]))
def test_the_nearest_pair_is_that_of_all_pairs(seed, kept):
    random = np.random.default_rng(seed)
    moved, still = random.uniform(-1, 1, (7, 3)), random.uniform(-1, 1, (8, 3))
    move, held = random.uniform(-0.3, 0.3, 3) * np.isin(range(3), kept), FLAT[:, list(kept)]
    reach, aside = 20.0, 6.0 if len(kept) < 3 else 1.0
    pair = Nearing(moved, still, seen).nearest(move, held, reach)
    best = np.inf
    for m in moved:
        for s in still:
            snapped = held @ held.T @ (s - m)
            apart = np.linalg.norm((s - m - move)[:2]) * 100
            leap, goes = np.linalg.norm((snapped - move)[:2]) * 100, np.linalg.norm(snapped[:2]) * 100
            if apart < reach * aside and leap <= reach and goes >= 0.5:
                best = min(best, leap)
    if best == np.inf:
        assert pair is None
    else:
        assert pair is not None
        assert np.linalg.norm((pair.move - move)[:2]) * 100 == pytest.approx(best, abs=0.13)
        off = held.T @ (moved[pair.moved] + pair.move - still[pair.still])
        assert np.abs(off).max() < 1e-9


def test_what_touches_from_the_start_holds_nothing_back():
    corners = np.array([[0.0, 0, 0], [1, 0, 0]])
    near = Nearing(corners, corners.copy(), seen)
    assert near.nearest(np.array([0.02, 0, 0]), FLAT, 10.0) is None
    found = near.nearest(np.array([0.97, 0, 0]), FLAT, 10.0)
    assert found is not None
    assert found.move == pytest.approx([1, 0, 0])


def test_what_lies_behind_the_eye_is_not_near():
    def behind(points):
        return np.column_stack([points[:, :2] * 100, -np.ones(len(points))])

    assert Nearing(np.zeros((1, 3)), np.full((1, 3), 0.01), behind).nearest(np.zeros(3), FLAT, 10.0) is None
    assert Nearing(np.zeros((1, 3)), np.empty((0, 3)), seen).nearest(np.zeros(3), FLAT, 10.0) is None
