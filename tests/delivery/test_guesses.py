"""Steps that guess: the same for any number of jobs, told with reasons, done anew where a folder has changed."""

from __future__ import annotations

import json
import shutil

import pytest

from oak_square.delivery.batch import find_sources
from oak_square.delivery.guessing import book_for
from oak_square.delivery.run import Run
from oak_square.delivery.running import deliver
from oak_square.sheet.text import parse_sheet

GUESS = (
    "prep-sheet: 1\ndeliver: {unit: m, up: Y}\nsteps:\n"
    "  - {do: unit, reads: guess}\n  - {do: turn, up: guess, front: guess}\n"
    "  - {do: place, ground: true}\n"
)


def run(folder, out, text=GUESS, **more):
    sheet = parse_sheet(text, "s.prepsheet.yaml")
    sources = tuple(find_sources([folder]))
    return deliver(
        Run(sources=sources, sheet=sheet, sheet_bytes=text.encode(), out=out, book=book_for(sheet, [folder]), **more)
    )


def entries(manifest):
    return {e["source"]: e for e in manifest["assets"]}


def test_a_guess_is_what_the_folder_says_whatever_the_number_of_jobs(joiner, tmp_path):
    one, two = run(joiner, tmp_path / "a"), run(joiner, tmp_path / "b", jobs=2)
    assert one == two
    chair = entries(one)["kitchen_chair.obj"]
    assert chair["status"] == "delivered"
    assert [s["outcome"] for s in chair["steps"]] == ["applied", "applied", "nothing"]
    unit, turn = (s["detail"] for s in chair["steps"][:2])
    assert unit.startswith("Unit: guess, in; a chair is usually 0.75 to 1.1 m")
    assert unit.endswith("others here")
    assert turn.startswith("Turn: guess, +Z is up, -Y is front; ")
    assert chair["size_after_m"]["height"] == pytest.approx(0.94, abs=1e-4)
    # The odd one is told apart, and its doubt is said.
    bed = entries(one)["single_bed.obj"]
    assert bed["steps"][0]["detail"].startswith("Unit: guess, mm; a bed is usually 1.9 to 2.3 m")
    assert bed["size_after_m"]["depth"] == pytest.approx(2.05, abs=1e-3)
    assert any("(unit): the unit is a guess: " in w for w in bed["warnings"])
    assert not any("(unit)" in w for w in chair["warnings"])


def test_one_alone_is_judged_by_itself_and_a_dry_run_guesses_the_same(joiner, tmp_path):
    alone = tmp_path / "alone"
    alone.mkdir()
    shutil.copy(joiner / "writing_desk.obj", alone)
    shutil.copy(joiner / "writing_desk.mtl", alone)
    lone = entries(run(alone, tmp_path / "a"))["writing_desk.obj"]
    assert "others here" not in lone["steps"][0]["detail"]
    dry, wet = run(joiner, tmp_path / "b", dry=True), run(joiner, tmp_path / "b")
    steps = [[s["detail"] for s in e["steps"]] for e in dry["assets"]]
    assert steps == [[s["detail"] for s in e["steps"]] for e in wet["assets"]]


def test_a_front_that_is_guessed_is_called_a_guess_and_one_that_the_folder_bears_out_is_not(joiner, tmp_path):
    for name, model in (("desk", "writing_desk.obj"), ("chair", "kitchen_chair.obj"), ("pole", None)):
        (tmp_path / name).mkdir()
        if model is not None:
            shutil.copy(joiner / model, tmp_path / name)
    # Three-cornered all round: nothing is mirrored.
    (tmp_path / "pole" / "pole.obj").write_text(
        "o pole\nv 0 0 0\nv 0.3 0 0.1\nv 0.1 0 0.4\nv 0.2 3 0.05\nf 1 2 3\nf 1 4 2\nf 2 4 3\nf 3 4 1\n"
    )

    def front_doubts(folder, name):
        entry = entries(run(folder, tmp_path / f"{folder.name} {name}", GUESS.replace("up: guess", "up: +Z")))[name]
        return [w.partition("the front is a guess: ")[2] for w in entry["warnings"] if "the front is a guess" in w]

    (alone,) = front_doubts(tmp_path / "chair", "kitchen_chair.obj")
    assert alone == "left and right are mirrored across X; -Y is taken"
    # Its drawers are on one side: mirrored the other way, for which custom has no front.
    (odd,) = front_doubts(tmp_path / "desk", "writing_desk.obj")
    assert odd == "left and right are mirrored across Y; front is +X or the other way; +X is taken"
    (nothing,) = front_doubts(tmp_path / "pole", "pole.obj")
    assert nothing.startswith("nothing tells it; ")
    for k in range(6):
        shutil.copy(joiner / "kitchen_chair.obj", tmp_path / "chair" / f"chair_{k}.obj")
    assert front_doubts(tmp_path / "chair", "chair_0.obj") == []


def test_what_a_step_says_of_one_counts_for_the_guess_of_the_rest(joiner, tmp_path):
    text = GUESS.replace(
        "  - {do: unit, reads: guess}\n",
        "  - {do: unit, reads: guess}\n  - {do: unit, reads: cm, for: [dining_table.*]}\n",
    )
    found = entries(run(joiner, tmp_path / "a", text))
    assert found["house_door.obj"]["steps"][0]["detail"].startswith("Unit: guess, cm")
    assert "settled for 1 of 1 here" in found["house_door.obj"]["steps"][0]["detail"]


def test_resumed_a_guess_is_done_anew_where_the_folder_now_says_otherwise(joiner, tmp_path):
    first = run(joiner, tmp_path / "out")
    same = run(joiner, tmp_path / "out", resume=True)
    assert same == first
    # All others leave: what is left is judged by itself.
    keep = {"kitchen_chair.obj", "kitchen_chair.mtl"}
    for path in joiner.iterdir():
        if path.name not in keep:
            path.unlink()
    later = entries(run(joiner, tmp_path / "out", resume=True))
    assert "others here" not in later["kitchen_chair.obj"]["steps"][0]["detail"]
    assert json.loads((tmp_path / "out" / "delivery.json").read_text())["assets"][0] == later["kitchen_chair.obj"]


def test_a_file_that_can_not_be_read_says_nothing_and_costs_the_others_nothing(joiner, tmp_path):
    (joiner / "broken.obj").write_text("v 1 2\nf 1 2 3\n")
    found = entries(run(joiner, tmp_path / "out"))
    assert found["broken.obj"]["status"] == "failed"
    assert found["kitchen_chair.obj"]["steps"][0]["detail"].startswith("Unit: guess, in")


def test_the_book_that_lies_in_the_folder_has_a_say(joiner, tmp_path):
    (joiner / "size_book.csv").write_text("pattern,width_max,height_max,depth_max\nkitchen_chair*,20 cm,39 cm,20 cm\n")
    found = entries(run(joiner, tmp_path / "out"))
    assert found["kitchen_chair.obj"]["steps"][0]["detail"].startswith("Unit: guess, cm; size book: as in the book")


def test_one_axis_may_be_said_and_the_other_guessed(joiner, tmp_path):
    text = "prep-sheet: 1\nsteps:\n  - {do: turn, up: guess, front: -Y}\n"
    found = entries(run(joiner, tmp_path / "out", text, dry=True))
    assert found["kitchen_chair.obj"]["steps"][0]["detail"].startswith("Turn: guess, +Z is up, -Y is front")
    # Of one whose likeliest up lies on the front's line another is taken, and that is said.
    text = "prep-sheet: 1\nsteps:\n  - {do: turn, up: guess, front: +Z}\n"
    found = entries(run(joiner, tmp_path / "out", text, dry=True))
    assert any("does not go with front +Z" in w for w in found["kitchen_chair.obj"]["warnings"])
    text = "prep-sheet: 1\nsteps:\n  - {do: turn, up: +Z, front: guess}\n"
    found = entries(run(joiner, tmp_path / "out", text, dry=True))
    assert found["kitchen_chair.obj"]["steps"][0]["detail"].startswith("Turn: guess, +Z is up, -Y is front")
