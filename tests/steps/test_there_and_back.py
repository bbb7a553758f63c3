"""A step and its inverse give an asset back; so do frames set anew and set back."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from oak_square.core.motion import reframe
from oak_square.sheet.evaluate import evaluate
from oak_square.sheet.model import Sheet
from oak_square.steps.step import STEPS
from tests.strategies import assets, frames, world_points

PAIRS = [
    ({"do": "turn", "by": [33, 0, 0], "about": "origin"}, {"do": "turn", "by": [-33, 0, 0], "about": "origin"}),
    ({"do": "turn", "by": [0, 0, 90], "parts": ["node_0"]}, {"do": "turn", "by": [0, 0, -90], "parts": ["node_0"]}),
    ({"do": "size", "factor": 2.5, "about": "middle"}, {"do": "size", "factor": 0.4, "about": "middle"}),
    ({"do": "size", "factor": [1, 4, 2]}, {"do": "size", "factor": [1, 0.25, 0.5]}),
    ({"do": "place", "shift": [1, -2, 3]}, {"do": "place", "shift": [-1, 2, -3]}),
    (
        {"do": "place", "shift": [1, 0, 0], "parts": ["node_1"]},
        {"do": "place", "shift": [-1, 0, 0], "parts": ["node_1"]},
    ),
]  # fmt: skip


def assert_given_back(after, before):
    points = [world_points(before, i) for i in before.parts]
    reach = max([1.0, float(np.abs(before.worlds).max()), *(float(np.abs(p).max()) for p in points)])
    for i, wanted in zip(before.parts, points, strict=True):
        assert np.abs(world_points(after, i) - wanted).max() < 1e-8 * reach
    assert np.abs(after.worlds - before.worlds)[:, :3, 3].max() < 1e-8 * reach


@pytest.mark.parametrize("pair", PAIRS, ids=lambda p: " ".join(str(v) for v in p[0].values()))
@given(asset=assets(deepest=4))
def test_a_step_and_its_inverse_give_the_asset_back(pair, asset):
    assume(max(np.linalg.cond(w[:3, :3]) for w in asset.worlds) < 1e4)
    prepared = evaluate(asset, Sheet(steps=tuple(STEPS[w["do"]].model_validate(w) for w in pair)))
    assert prepared.status == "ready"
    assert_given_back(prepared.asset, asset)


@given(asset=assets(deepest=4), data=st.data())
def test_frames_set_anew_and_set_back_leave_all_as_it_was(asset, data):
    there = np.array([data.draw(frames()) for _ in asset.nodes])
    assume(max(np.linalg.cond(w[:3, :3]) for w in [*asset.worlds, *there]) < 1e4)
    assert_given_back(reframe(reframe(asset, there), asset.worlds), asset)
