"""Where a step stops: it stops only what it does not fit, and what leads on stands beside it."""

from __future__ import annotations

import numpy as np
import pytest
from PySide6.QtCore import Qt

from tests.app import lockworks
from tests.app.lockworks import Part, box

BORE = {"do": "pivot", "at": {"mark": "toe"}, "parts": ["flap_*"]}


@pytest.fixture
def flaps(hand, tmp_path):
    """Two valves of three flaps each, of which one of the first stands askew, and a mark that the others have."""
    lean = np.array([[np.cos(0.2), 0, np.sin(0.2)], [0, 1, 0], [-np.sin(0.2), 0, np.cos(0.2)]])
    for file, askew in (("valve.glb", True), ("sluice.glb", False)):
        turns = [np.eye(3), lean if askew else np.eye(3), np.eye(3)]
        parts = [Part(f"flap_{k}", *box((1, 0.1, 0.5)), at=(2.0 * k, 0, 0), turn=turns[k]) for k in range(3)]
        lockworks.write(tmp_path / file, parts)
    (tmp_path / "valve.prepsheet.yaml").write_text(
        "prep-sheet: 1\nmarks:\n  toe: {on: 'flap_*', kind: face, where: [0, 0.5, 0.5], way: left}\nsteps: []\n"
    )
    hand.open(tmp_path / "valve.glb", tmp_path / "sluice.glb", tmp_path / "valve.prepsheet.yaml")
    hand.pick("sluice.glb", "valve.glb")
    return hand


def tried(hand, words):
    hand.stage("pivot")
    hand.session.drafts.try_whole(words)
    hand.settle()


def test_one_flap_askew_stays_as_it_is_and_is_picked_by_one_click(flaps):
    hand = flaps
    tried(hand, {**BORE, "for": ["valve.glb"]})
    asset = hand.session.outcomes["valve.glb"].after.asset
    assert hand.session.outcomes["valve.glb"].after.status == "ready"
    assert asset.worlds[0][:3, 3] == pytest.approx([0, 0.05, 0.25], abs=1e-6)
    assert "'flap_1' stays as it is" in hand.window.panel.consequences.lines.text()
    hand.click(hand.window.panel.ways.buttons["pick"])
    assert [asset.nodes[n].name for n in hand.session.nodes] == ["flap_1"]
    assert hand.session.document.draft is not None


def test_what_is_refused_everywhere_is_kept_on_the_second_enter_only(flaps):
    hand = flaps
    tried(hand, {**BORE, "parts": ["flap_1"], "for": ["valve.glb"]})
    hand.key(Qt.Key.Key_Return)
    assert "refused everywhere" in hand.window.foot.words.text()
    assert hand.steps() == []
    hand.key(Qt.Key.Key_Return)
    assert len(hand.steps()) == 1
    # What stops there, and what leads on, stays beside it with nothing tried.
    ways = hand.window.panel.ways
    assert hand.window.panel.consequences.lines.isVisible()
    assert "step 1 (pivot): mark 'toe'" in hand.window.panel.consequences.lines.text()
    assert set(ways.buttons) == {"open", "pause", "remove", "skip", "without"}
    hand.click(ways.buttons["skip"])
    assert hand.session.document.sheet.steps[0].skip == ["valve.glb"]
    assert hand.session.outcomes["valve.glb"].after.status == "ready"
    assert not ways.isVisible()


@pytest.mark.parametrize(
    ("way", "so"),
    [
        ("pause", lambda hand: hand.session.document.sheet.steps[0].paused),
        ("remove", lambda hand: hand.steps() == []),
        ("without", lambda hand: hand.session.document.sheet.steps[0].may_refuse),
        ("open", lambda hand: hand.session.document.editing == 0),
    ],
)
def test_each_way_on_from_a_kept_step_does_what_it_says(flaps, way, so):
    hand = flaps
    tried(hand, {**BORE, "parts": ["flap_1"], "for": ["valve.glb"]})
    hand.session.drafts.keep()
    hand.settle()
    hand.click(hand.window.panel.ways.buttons[way])
    assert so(hand)


def test_of_several_assets_those_that_refuse_are_left_out_or_done_where_it_fits(flaps):
    hand = flaps
    tried(hand, {**BORE, "all": True})
    ways = hand.window.panel.ways
    assert set(ways.buttons) == {"loosen", "skip", "without"}
    hand.click(ways.buttons["skip"])
    assert hand.session.document.draft.skip == ["valve.glb"]
    assert not ways.isVisible()
    tried(hand, {**BORE, "all": True})
    hand.click(ways.buttons["loosen"])
    assert not hand.session.document.draft.all_
    assert hand.session.outcomes["valve.glb"].after.status == "ready"
