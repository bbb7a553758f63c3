"""Files with something wrong in their JSON: one clear error each, or an asset that steps can be tried on."""

from __future__ import annotations

import json
import random
import warnings

import numpy as np
import pytest

from oak_square.core.errors import BadFile
from oak_square.core.findings.survey import survey
from oak_square.delivery.batch import find_sources
from oak_square.delivery.surveying import receive
from oak_square.demo import BATCH
from oak_square.sheet.evaluate import evaluate
from oak_square.sheet.text import parse_sheet
from tests.made import glb

SHEET = parse_sheet(
    "prep-sheet: 1\nsteps:\n  - {do: bake}\n  - {do: pivot, at: mass, of: all}\n  - {do: size, height: 2 m}\n", "s"
)
STRANGE = (None, -1, [], {}, "x", 1e300, 3, 99, True, [0], [99])


def spoil(value, chance: random.Random) -> None:
    """Replace, or take away, one thing somewhere in a document."""
    places = list(value) if isinstance(value, dict) else list(range(len(value)))
    if not places:
        return
    at = chance.choice(places)
    if chance.random() < 0.25:
        value[at] = chance.choice(STRANGE)
    elif isinstance(value, dict) and chance.random() < 0.1:
        del value[at]
    elif isinstance(value[at], dict | list):
        spoil(value[at], chance)


@pytest.mark.parametrize("name", ["sluice_wheel.glb", "pennant.glb", "gate_leaf_twin.glb"])
def test_no_spoilt_file_is_a_fault_of_ours(tmp_path, name):
    carrier = receive(find_sources([BATCH / name])[0]).carrier
    chance, said = random.Random(name), []
    for _ in range(150):
        document = json.loads(json.dumps(carrier.json))
        for _ in range(chance.choice([1, 1, 2, 3])):
            spoil(document, chance)
        (tmp_path / name).write_bytes(glb(document, bytes(carrier.buffers[0].data)))
        try:
            asset = receive(find_sources([tmp_path / name])[0]).asset
        except BadFile as error:
            said.append(str(error))
            continue
        with warnings.catch_warnings():
            warnings.simplefilter("ignore", RuntimeWarning)  # 1e300 overflows float32, and is found by the survey
            survey(asset)
            prepared = evaluate(asset, SHEET)
        # What is ready has numbers; what is not says why, and not that we are at fault.
        if prepared.status == "ready":
            assert np.isfinite(prepared.asset.worlds).all()
            assert not sum(mesh.not_finite for mesh in prepared.asset.meshes)
        else:
            assert prepared.reason
            said.append(prepared.reason)
    assert [s for s in said if "fault of ours" in s] == []
    assert len(said) > 10
