"""Assets that steps name: found, missing, doubled; each worked out once, also where they refer to each other."""

from __future__ import annotations

import numpy as np
import pytest

from oak_square.core.boxes import asset_box
from oak_square.core.errors import BadReference
from oak_square.core.frames import Reading
from oak_square.core.placement import Placement
from oak_square.core.scene import Asset, Node
from oak_square.sheet.course import Course
from oak_square.sheet.evaluate import evaluate
from oak_square.sheet.references import named_assets
from oak_square.sheet.standings import Standings
from oak_square.sheet.text import parse_sheet
from tests.strategies import solid_box

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
    ],
)
def test_a_name_nobody_has_is_a_bad_sheet(steps, says):
    with pytest.raises(BadReference, match=says):
        named_assets(sheet(*steps), FILES)


def test_a_path_a_name_and_a_chain_are_found():
    found = named_assets(sheet("match: a/post.glb, for: [gate.obj]", "match: boat, for: ['*post*']"), FILES)
    assert found == {"a/post.glb": "a/post.glb", "boat": "boat.glb"}
    assert named_assets(sheet("match: nobody, paused: true"), FILES) == {}


class Pile:
    """Crates, each an asset of its own; counts how often each is asked for."""

    def __init__(self, *widths):
        self.assets = {f"crate_{k}.glb": crate(k, width) for k, width in enumerate(widths)}
        self.asked = []

    def file_of(self, name):
        return f"{name}.glb" if f"{name}.glb" in self.assets else None

    def received(self, file):
        self.asked.append(file)
        return self.assets[file]


def crate(number, width):
    mesh = solid_box(np.array([width, 1, 1]))
    node = Node(name="crate", parent=None, placement=Placement.of(), mesh=0)
    metres = Reading(metres_per_unit=1.0, up="+Y", front="+Z", source="declared")
    return Asset(file=f"crate_{number}.glb", format="glb", reading=metres, nodes=(node,), meshes=(mesh,))


def piled(count):
    """Each crate as wide as the one below, then set on it."""
    lines = ["prep-sheet: 1", "steps:"]
    for k in range(1, count):
        below = f"crate_{k - 1}"
        lines.append(f"  - {{do: size, match: {below}, along: width, for: [crate_{k}]}}")
        lines.append(f"  - {{do: place, at: {{onto: {below}, point: [middle, top, middle]}}, for: [crate_{k}]}}")
    return parse_sheet("\n".join(lines) + "\n", "s")


def test_a_pile_is_worked_out_once_however_high_it_is(monkeypatch):
    pile, sheet = Pile(2, *[1] * 199), piled(200)
    standings, taken = Standings(sheet, pile), []
    take = Course.take_step
    monkeypatch.setattr(Course, "take_step", lambda self, *a: (taken.append(self.file), take(self, *a)))
    # From the top, where all below it is needed first.
    for k in reversed(range(200)):
        box = asset_box(evaluate(pile.assets[f"crate_{k}.glb"], sheet, standings).asset)
        assert (box.size[0], box.low[1]) == pytest.approx((2, max(0, 2 * k - 1)))
    assert len(taken) == 2 * 199
    assert len(pile.asked) == len(set(pile.asked))


def test_assets_may_refer_to_each_other_as_they_stood():
    pile = Pile(1, 3)
    sheet = parse_sheet(
        "prep-sheet: 1\nsteps:\n"
        "  - {do: size, match: crate_1, along: width, for: [crate_0]}\n"
        "  - {do: size, factor: 2, for: [crate_1]}\n"
        "  - {do: size, match: crate_0, along: width, for: [crate_1]}\n"
        "  - {do: size, match: crate_1, along: width, for: [crate_0]}\n",
        "s",
    )
    standings = Standings(sheet, pile)
    for file, asset in pile.assets.items():
        prepared = evaluate(asset, sheet, standings)
        assert prepared.status == "ready", file
        assert asset_box(prepared.asset).size[0] == pytest.approx(3)


def test_what_is_refused_of_one_asset_is_refused_of_no_other():
    pile, sheet = Pile(2, 1, 1), piled(3)
    prepared = evaluate(pile.assets["crate_1.glb"], sheet, Standings(sheet, pile), refused={1: "no room"})
    assert (prepared.status, prepared.reason) == ("refused", "step 1 (size): no room")
    standings = Standings(sheet, pile)
    evaluate(pile.assets["crate_1.glb"], sheet, standings, refused={1: "no room"})
    assert evaluate(pile.assets["crate_2.glb"], sheet, standings).status == "ready"
