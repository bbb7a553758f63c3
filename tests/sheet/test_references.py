"""Assets that steps name: found, missing, doubled, and in a circle."""

from __future__ import annotations

import pytest

from oak_square.core.errors import BadReference
from oak_square.sheet.references import check_references
from oak_square.sheet.text import parse_sheet

FILES = ["a/post.glb", "b/post.glb", "boat.glb", "gate.obj", "lamp.obj"]


def sheet(*steps):
    return parse_sheet(
        "prep-sheet: 1\nsteps:\n" + "".join(f"  - {{do: size, along: width, {s}}}\n" for s in steps), "s"
    )


@pytest.mark.parametrize(
    ("steps", "says"),
    [
        (["match: gte"], r"step 1 \(size\): there is no asset 'gte' in the batch; did you mean 'gate'"),
        (["match: post"], "'post' is the name of 2 assets"),
        (["match: boat, for: [gate.*]", "match: gate, for: [boat.*]"], "refer to each other"),
        (
            ["match: boat, for: [gate.*]", "match: gate, for: [lamp.*]", "match: lamp, for: [boat.*]"],
            "step 2|step 3|step 1",
        ),
    ],
)
def test_a_name_nobody_has_and_a_circle_are_a_bad_sheet(steps, says):
    with pytest.raises(BadReference, match=says):
        check_references(sheet(*steps), FILES)


def test_a_path_a_name_and_a_chain_are_found():
    found = check_references(sheet("match: a/post.glb, for: [gate.obj]", "match: boat, for: ['*post*']"), FILES)
    assert found == {"a/post.glb": "a/post.glb", "boat": "boat.glb"}
    assert check_references(sheet("match: nobody, paused: true"), FILES) == {}
