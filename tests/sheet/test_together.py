"""Several assets as one, places on other assets, and frames that hang from things."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from oak_square.core.boxes import asset_box
from oak_square.core.errors import BadReference, BadSheet
from oak_square.core.frames import Reading, translation
from oak_square.core.placement import Placement
from oak_square.core.scene import Asset, Node
from oak_square.sheet.evaluate import evaluate
from oak_square.sheet.references import asset_called, hanging_on, named_assets
from oak_square.sheet.standings import Standings
from oak_square.sheet.text import parse_sheet
from tests.strategies import solid_box, world_points

METRES = Reading(metres_per_unit=1.0, up="+Y", front="+Z", source="declared")


def block(file, low, size, *, node="block", geometry=True):
    """A box with its lowest corner at `low`, hanging from a node at its middle."""
    low, half = np.asarray(low, float), np.asarray(size, float) / 2
    made = Node(
        name=node,
        parent=None,
        placement=Placement.of(translation=low + half),
        mesh=0 if geometry else None,
        local_from_mesh=translation(-half),
    )
    mesh = solid_box(2 * half) if geometry else None
    return Asset(file=file, format="glb", reading=METRES, nodes=(made,), meshes=(mesh,) if mesh else ())


class Batch:
    def __init__(self, *assets):
        self.assets = {a.file: a for a in assets}

    def file_of(self, name):
        try:
            return asset_called(name, list(self.assets))
        except BadReference:
            return None

    def files(self):
        return list(self.assets)

    def received(self, file):
        return self.assets[file]


def sheet(*steps, head=""):
    return parse_sheet(f"prep-sheet: 1\n{head}steps:\n" + "".join(f"  - {{{s}}}\n" for s in steps), "s")


def run(told, *assets):
    """Return what each asset comes to; the last one is worked out first."""
    batch = Batch(*assets)
    named_assets(told, list(batch.assets))
    standings = Standings(told, batch)
    found = {a.file: evaluate(a, told, standings) for a in reversed(assets)}
    alone = {a.file: evaluate(a, told, Standings(told, batch)) for a in assets}
    for file, prepared in found.items():
        assert prepared.outcomes == alone[file].outcomes
        assert np.array_equal(prepared.asset.worlds, alone[file].asset.worlds)
    return found


def lows(prepared):
    return {file: asset_box(p.asset).low.tolist() for file, p in prepared.items()}


DOOR = (block("frame.glb", (10, 1, 0), (1, 2, 1)), block("leaf.glb", (11, 1, 0), (2, 2, 1)))


def test_the_base_of_their_common_box_goes_to_the_origin():
    found = lows(run(sheet("do: place, at: origin, together: true"), *DOOR))
    assert found == {"frame.glb": pytest.approx([-1.5, 0, -0.5]), "leaf.glb": pytest.approx([-0.5, 0, -0.5])}


@pytest.mark.parametrize(
    ("words", "point"),
    [
        ("by: [right, top, front]", (13, 3, 1)),
        ("by: pivot", (0, 0, 0)),
        ("by: middle, axes: [x]", (11.5, 0, 0)),
    ],
)
def test_a_point_of_what_they_are_together_goes_there(words, point):
    found = lows(run(sheet(f"do: place, at: origin, together: true, {words}"), *DOOR))
    wanted = (np.array([[10, 1, 0], [11, 1, 0]]) - point).tolist()
    assert [found["frame.glb"], found["leaf.glb"]] == [pytest.approx(w) for w in wanted]


@pytest.mark.parametrize(
    ("about", "centre"),
    [
        ("", (0, 0)),
        (", about: pivot", (0, 0)),
        (", about: common", (11.5, 0.5)),
        (", about: middle", (11.5, 0.5)),
        (", about: {point: [left, bottom, back]}", (10, 0)),
        (", about: {point: [right, bottom, back], of: leaf}, skip: [leaf.glb]", (13, 0)),
        (", about: {part: block, of: leaf}, skip: [leaf.glb]", (12, 0.5)),
    ],
)
def test_they_turn_as_one_about_the_centre_that_is_named(about, centre):
    found = run(sheet(f"do: turn, by: [0, 90, 0], together: true{about}"), *DOOR)
    x, z = centre
    box = asset_box(found["frame.glb"].asset)
    # A quarter turn about y takes (x, z) to (z, -x).
    assert box.low.tolist() == pytest.approx([x + (0 - z), 1, z - (11 - x)])
    assert box.size.tolist() == pytest.approx([1, 2, 1])


def test_after_a_move_of_each_the_pivot_is_where_the_first_ones_origin_has_come_to_and_mean_the_mean():
    moved = ("do: place, shift: [1, 0, 0], for: [frame]", "do: place, shift: [3, 0, 4], for: [leaf]")
    by_pivot = run(sheet(*moved, "do: turn, by: [0, 180, 0], about: pivot, together: true"), *DOOR)
    assert asset_box(by_pivot["frame.glb"].asset).high[0] == pytest.approx(2 * 1 - 11)
    by_mean = run(sheet(*moved, "do: turn, by: [0, 180, 0], about: mean, together: true"), *DOOR)
    assert asset_box(by_mean["frame.glb"].asset).high.tolist() == pytest.approx([2 * 2 - 11, 3, 2 * 2 - 0])


def test_a_length_is_that_of_the_common_box_and_their_gaps_are_sized_too():
    apart = (block("a.glb", (0, 0, 0), (1, 1, 1)), block("b.glb", (3, 0, 0), (1, 1, 1)))
    found = run(sheet("do: size, width: 8 m, together: true"), *apart)
    boxes = [asset_box(found[f].asset) for f in ("a.glb", "b.glb")]
    assert [b.low[0] for b in boxes] == pytest.approx([-2, 4])
    assert [b.size.tolist() for b in boxes] == [pytest.approx([2, 2, 2])] * 2
    assert found["a.glb"].outcomes[0].detail == "2 times as large, 2 assets together"


@given(
    st.lists(st.tuples(*[st.floats(-50, 50)] * 3), min_size=2, max_size=4),
    st.sampled_from(
        ["do: place, at: [1, 2, 3]", "do: turn, by: [20, 30, 40], about: common", "do: place, away: 2, from: origin"]
    ),
)
def test_how_they_stand_to_one_another_is_kept(places, words):
    assets = [block(f"{k}.glb", low, (1, 2, 0.5)) for k, low in enumerate(places)]
    found = run(sheet(f"{words}, together: true"), *assets)
    before = np.vstack([world_points(a, 0) for a in assets])
    after = np.vstack([world_points(found[a.file].asset, 0) for a in assets])
    assert {p.outcomes[0].outcome for p in found.values()} <= {"applied", "nothing"}
    assert len({p.outcomes[0].outcome for p in found.values()}) == 1

    def distances(points):
        return np.linalg.norm(points[:, None] - points[None], axis=2)

    assert np.allclose(distances(before), distances(after), atol=1e-9)


def test_what_has_no_geometry_moves_along_and_counts_for_nothing_in_the_box():
    lamp = block("lamp.glb", (100, 100, 100), (1, 1, 1), geometry=False)
    found = run(sheet("do: place, at: origin, together: true"), *DOOR, lamp)
    assert lows({f: p for f, p in found.items() if f != "lamp.glb"})["frame.glb"] == pytest.approx([-1.5, 0, -0.5])
    assert found["lamp.glb"].asset.worlds[0, :3, 3].tolist() == pytest.approx([89.0, 99.5, 100.0])


def test_one_that_failed_before_is_left_out_with_a_warning_in_each_of_the_others():
    told = sheet("do: check, height: {max: 1}, for: [leaf]", "do: place, at: origin, together: true")
    found = run(told, *DOOR)
    assert found["leaf.glb"].status == "failed"
    assert asset_box(found["frame.glb"].asset).low.tolist() == pytest.approx([-0.5, 0, -0.5])
    (warning,) = found["frame.glb"].warnings
    assert warning.startswith("step 2 (place): 'leaf.glb' is left out of what moves together: step 1 (check)")


def test_the_asset_that_a_step_names_is_no_member_of_the_group():
    told = sheet("do: place, at: {onto: wall, point: [middle, top, middle]}, together: true")
    found = run(told, *DOOR, block("wall.glb", (0, 0, 0), (4, 5, 1)))
    assert lows(found)["wall.glb"] == [0, 0, 0]
    assert lows(found)["frame.glb"] == pytest.approx([0.5, 5, 0])
    assert found["wall.glb"].outcomes[0].outcome == "nothing"


@pytest.mark.parametrize(
    ("words", "says"),
    [
        ("do: place, at: origin, parts: [block]", "whole assets"),
        ("do: place, at: {berth: quay}", "a berth"),
        ("do: turn, up: +Z, front: -Y", "up and front"),
        ("do: turn, square: true", "square"),
        ("do: turn, by: [1, 0, 0], along: own", "own axes"),
        ("do: place, shift: [1, 0, 0], along: own", "own axes"),
        ("do: size, factor: 2, along: own", "needs parts"),
        ("do: bake", "unknown key 'together'"),
        ("do: place, at: {point: [left, top, front]}", "needs 'of'"),
        ("do: size, match: {mark: m, of: leaf}, along: width", "match"),
    ],
)
def test_what_each_has_by_itself_is_a_bad_sheet_together(words, says):
    with pytest.raises(BadSheet, match=says):
        sheet(f"{words}, together: true", head="berths: {quay: {}}\n")


def test_a_place_on_another_asset_is_where_it_stands_before_the_step():
    told = sheet(
        "do: place, shift: [0, 0, 5], for: [leaf]",
        "do: place, at: {point: [right, top, back], of: leaf}, by: [left, bottom, back], for: [frame]",
        "do: place, shift: [0, 0, 100], for: [leaf]",
    )
    assert lows(run(told, *DOOR))["frame.glb"] == pytest.approx([13, 3, 5])


def test_a_place_on_another_asset_that_has_it_not_fails_the_asset_at_hand():
    found = run(sheet("do: turn, by: [0, 9, 0], about: {part: hinge, of: leaf}"), *DOOR)
    assert (found["frame.glb"].status, found["leaf.glb"].status) == ("failed", "ready")
    mark = "marks: {pintle: {on: block, kind: face, where: [0, 0.2, 0.5], way: left}}\n"
    found = run(sheet("do: place, at: {mark: pintle, of: leaf}, for: [frame]", head=mark), *DOOR)
    assert found["frame.glb"].status == "failed"


def test_a_mark_of_another_asset_is_looked_for_there():
    mark = "marks: {pintle: {on: block, kind: face, where: [0, 0.5, 0.5], way: left}}\n"
    words = "do: place, at: {mark: pintle, of: leaf}, by: [left, middle, middle], for: [frame]"
    assert lows(run(sheet(words, head=mark), *DOOR))["frame.glb"] == pytest.approx([11, 1, 0])


def test_as_wide_as_a_part_of_another_asset():
    found = run(sheet("do: size, match: {part: block, of: leaf}, along: width, for: [frame]"), *DOOR)
    assert asset_box(found["frame.glb"].asset).size.tolist() == pytest.approx([2, 4, 2])


def test_a_centre_may_be_a_point_of_each_ones_own_box():
    found = run(sheet("do: size, width: 4, about: {point: [left, bottom, back]}"), *DOOR)
    assert lows(found) == {"frame.glb": pytest.approx([10, 1, 0]), "leaf.glb": pytest.approx([11, 1, 0])}


@pytest.mark.parametrize("turn", [0, 90])
def test_a_frame_that_hangs_from_a_thing_follows_it_through_every_step(turn):
    head = "datums: {socket: {of: frame, on: block, at: [2, 0, 0]}}\n"
    told = sheet(
        f"do: turn, by: [0, {turn}, 0], for: [frame]",
        "do: place, shift: [0, 7, 0], for: [frame]",
        "do: turn, by: [0, 180, 0], about: {datum: socket}, for: [leaf]",
        head=head,
    )
    found = run(told, *DOOR)
    # The node of the frame is at (10.5, 2, 0.5); turned a quarter about y, at (0.5, 2, -10.5), its x along -z.
    x, z = ((12.5, 0.5), (0.5, -12.5))[turn == 90]
    box = asset_box(found["leaf.glb"].asset)
    assert ((box.low + box.high) / 2).tolist() == pytest.approx([2 * x - 12, 2, 2 * z - 0.5])


def test_a_frame_that_hangs_from_an_asset_counts_from_its_origin_along_the_deliverys_axes():
    head = "deliver: {up: Z}\nberths: {quay: {of: frame, at: [0, 0, 2]}}\n"
    moved = "do: place, shift: [1, 0, 0], for: [frame]"
    found = run(sheet(moved, "do: place, at: {berth: quay}, for: [leaf]", head=head), *DOOR)
    assert lows(found)["leaf.glb"] == pytest.approx([0, 2, -0.5])


def test_a_frame_on_a_part_of_the_asset_at_hand_is_each_ones_own():
    head = "datums: {middle: {on: block, turn: [0, 90, 0]}}\n"
    found = run(sheet("do: place, shift: [1, 0, 0], along: {datum: middle}", head=head), *DOOR)
    assert lows(found) == {"frame.glb": pytest.approx([10, 1, -1]), "leaf.glb": pytest.approx([11, 1, -1])}


def test_a_thing_that_a_frame_hangs_from_and_no_batch_has_is_a_bad_sheet():
    head = "datums: {socket: {of: nobody}}\n"
    with pytest.raises(BadReference, match=r"datum socket: there is no asset 'nobody'"):
        run(sheet("do: bake", head=head), *DOOR)


def test_what_hangs_on_what_changed_is_found_and_nothing_else():
    told = sheet(
        "do: place, at: origin, together: true, for: [a, b]",
        "do: size, match: b, along: width, for: [c]",
        "do: bake, for: [d]",
    )
    files = ["a.glb", "b.glb", "c.glb", "d.glb"]
    names = named_assets(told, files)
    assert hanging_on({"a.glb"}, told, files, names) == {"a.glb", "b.glb", "c.glb"}
    assert hanging_on({"c.glb"}, told, files, names) == {"c.glb"}
    assert hanging_on({"d.glb"}, told, files, names) == {"d.glb"}
    assert hanging_on(set(), told, files, names) == set()
