"""What a step says stays in place does stay, for the asset as a whole and for each of its parts."""

from __future__ import annotations

import numpy as np
import pytest

from oak_square.delivery.batch import find_sources
from oak_square.delivery.surveying import receive
from oak_square.demo import BATCH
from oak_square.sheet.evaluate import evaluate
from oak_square.sheet.model import Sheet
from oak_square.steps.step import STEPS
from tests.strategies import world_points


@pytest.fixture(scope="module")
def boat():
    source = next(s for s in find_sources([BATCH]) if s.file == "narrowboat.glb")
    return evaluate(receive(source).asset, Sheet()).asset


@pytest.mark.parametrize("about", [None, "base", "middle", "pivot", "origin"])
@pytest.mark.parametrize("parts", [None, ["hull", "chimney"]])
@pytest.mark.parametrize(
    "words", [{"do": "size", "factor": 1.7}, {"do": "size", "height": "3 m", "keep": "none"},
              {"do": "turn", "by": [10, 40, -25]}],
)  # fmt: skip
def test_what_is_said_to_stay_stays(boat, words, parts, about):
    more = {**({"about": about} if about else {}), **({"parts": parts} if parts else {})}
    step = STEPS[words["do"]].model_validate({**words, **more})
    after = evaluate(boat, Sheet(steps=(step,))).asset
    names = [n.name for n in boat.nodes]
    chosen = [names.index(p) for p in parts] if parts else list(boat.parts)
    each = [[i] for i in chosen] if parts else [chosen]
    moved = 0.0
    for nodes in each:
        points = np.concatenate([world_points(boat, i) for i in nodes])
        low, high = points.min(axis=0), points.max(axis=0)
        middle = (low + high) / 2
        pivot = boat.worlds[nodes[0]][:3, 3] if parts else np.zeros(3)
        said = step.stays.replace("its ", "").replace("each one's own ", "")
        point = {
            "origin": np.zeros(3), "the origin": np.zeros(3), "pivot": pivot,
            "base middle": np.array([middle[0], low[1], middle[2]]), "box middle": middle,
        }[said]  # fmt: skip
        for i in nodes:
            motion = after.world_from_mesh(i) @ np.linalg.inv(boat.world_from_mesh(i))
            assert np.abs(motion[:3, :3] @ point + motion[:3, 3] - point).max() < 1e-9
            moved = max(moved, float(np.abs(motion - np.eye(4)).max()))
    assert moved > 0.1
    assert ("each one's own" in step.stays) == (bool(parts) and about != "origin")


def test_a_reading_and_a_bake_have_no_centre():
    assert STEPS["turn"].model_validate({"up": "+Z", "front": "-Y"}).stays == ""
    assert STEPS["bake"].model_validate({}).stays == ""
