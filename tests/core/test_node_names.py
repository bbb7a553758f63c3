"""How a sheet names nodes: names, paths, and numbers among namesakes."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from oak_square.core.errors import Failed
from oak_square.core.findings.survey import survey
from oak_square.core.frames import WORKING
from oak_square.core.node_names import name_of, names_of, node_named, nodes_named, patterns_for, same_nodes
from oak_square.core.placement import Placement
from oak_square.core.scene import Asset, Node
from tests.strategies import solid_box


def asset_of(*nodes: tuple[str, int | None]) -> Asset:
    """An asset whose nodes have these names and parents; all are parts."""
    made = tuple(Node(name=name, parent=above, placement=Placement.of(), mesh=0) for name, above in nodes)
    return Asset(file="barge.glb", format="glb", reading=WORKING, nodes=made, meshes=(solid_box(np.ones(3)),))


#        0 hull
#        1   deck      2 cask  3 cask
#        4   hold      5 cask  6 a/b  7 cask#2  8 bolt[1]
BARGE = asset_of(
    ("hull", None), ("deck", 0), ("cask", 1), ("cask", 1), ("hold", 0), ("cask", 4), ("a/b", 4), ("cask#3", 4),
    ("bolt[1]", 4),
)  # fmt: skip


@pytest.mark.parametrize(
    ("pattern", "nodes"),
    [
        ("cask", (2, 3, 5)), ("cask#1", (2,)), ("cask#2", (3,)), ("cask#02", (3,)), ("c?sk#2", (3,)),
        # A node of that very name wins over the third of those called cask; what is past the last, or 0, is nothing.
        ("cask#3", (7,)), ("cas?#3", (5,)), ("cask#4", ()), ("cask#0", ()), ("cask#99999999999999999999", ()),
        ("CASK", ()), ("cask*", (2, 3, 5, 7)), ("#1", ()), ("cask#", ()),
        # Paths fit whole, from the root; a star stays within a level, two stars go over levels, and over none.
        ("hull/deck/cask", (2, 3)), ("deck/cask", ()), ("*/cask", ()), ("*/*/cask", (2, 3, 5)), ("**/cask", (2, 3, 5)),
        ("**/hull", (0,)), ("hull/**/cask#3", (5,)), ("hull/**", (0, 1, 2, 3, 4, 5, 6, 7, 8)), ("/hull", ()),
        ("hull/hold/cask#1", (5,)), ("**/**/deck", (1,)), ("hull/hold/cask#3", ()),
        ("hull/hold/cask[#]3", (7,)), ("hull/", ()),
        ("a/b", (6,)), ("hull/hold/a?b", (6,)), ("bolt[[]1]", (8,)), ("bolt[1]", ()), ("h*", (0, 4)),
    ],
)  # fmt: skip
def test_a_pattern_means_what_the_contract_says(pattern, nodes):
    assert nodes_named(BARGE, (pattern,)) == nodes


def test_several_patterns_mean_what_any_of_them_means():
    assert nodes_named(BARGE, ("cask#1", "d*", "hull/hold/*sk")) == (1, 2, 5)


def test_many_stars_over_many_levels_take_no_time():
    deep = asset_of(("n0", None), *((f"n{k}", k - 1) for k in range(1, 400)))
    assert nodes_named(deep, ("**/" * 200 + "n399",)) == (399,)
    assert nodes_named(deep, ("**/" * 200 + "missing",)) == ()


def test_one_name_means_one_node_or_says_how_many_there_are():
    assert node_named(BARGE, "hull") == 0
    assert node_named(BARGE, "bolt[1]") == 8
    assert node_named(BARGE, "cask#2") == 3
    with pytest.raises(Failed, match=r"3 nodes are called 'cask': .*'cask#1'"):
        node_named(BARGE, "cask")
    with pytest.raises(Failed, match="it has no node 'hul'; did you mean 'hull'"):
        node_named(BARGE, "hul")


def test_a_pick_is_named_as_shortly_as_it_can_be():
    assert patterns_for(BARGE, (0, 4)) == ("hull", "hold")
    assert patterns_for(BARGE, (2, 3, 5)) == ("cask",)
    assert patterns_for(BARGE, (3, 0)) == ("cask#2", "hull")
    # The third cask can't be cask#3: another node has that name.
    assert nodes_named(BARGE, patterns_for(BARGE, (5,))) == (5,)
    assert patterns_for(BARGE, (8,)) == ("bolt[[]1]",)


names = st.lists(st.sampled_from(["a", "b", "a#1", "a#2", "a/b", "*", "[a]", "a?", "#1"]), min_size=1, max_size=8)


@given(names, st.data())
def test_what_is_picked_is_just_what_is_meant(called, data):
    nodes = [(name, data.draw(st.sampled_from([None, *range(k)]))) for k, name in enumerate(called)]
    asset = asset_of(*nodes)
    paths = [path_of(nodes, k) for k in range(len(nodes))]
    picked = data.draw(st.lists(st.sampled_from(range(len(nodes))), unique=True, min_size=1))
    # Those of one path of which another is called as their number would call them can't be told apart by any words.
    if all(paths.count(path) == 1 for path in paths):
        assert set(nodes_named(asset, patterns_for(asset, picked))) == set(picked)
        assert [node_named(asset, name_of(asset, k)) for k in picked] == picked


def path_of(nodes, k):
    name, above = nodes[k]
    return ((*path_of(nodes, above), name)) if above is not None else (name,)


def test_nodes_are_found_in_another_state_by_name_and_number():
    later = asset_of(("new", None), ("hull", None), ("cask", 1), ("cask", 1))
    assert same_nodes(BARGE, (3, 0), later) == (3, 1)
    assert same_nodes(BARGE, (5,), later) == ()


def test_namesakes_are_counted_each_name_once():
    found = [(f.part, f.measure, f.level, f.stage) for f in survey(BARGE) if f.code == "same-name"]
    assert found == [("cask", 3, "note", "receive")]


def test_of_thousands_of_namesakes_all_are_named_in_one_go():
    many = asset_of(*(("bolt", None) for _ in range(5_000)))
    names = names_of(many)
    assert (names[0], names[-1]) == ("bolt#1", "bolt#5000")
    assert patterns_for(many, range(1, 5_000))[-1] == "bolt#5000"
