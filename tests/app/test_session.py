"""The session with its real worker: what it answers, what it drops, what it says."""

from __future__ import annotations

import os
import subprocess
import sys
import threading
import time

import numpy as np
import pytest

from oak_square.app.session import memory, reading, worker
from oak_square.app.session import worker as worker_module
from oak_square.app.session.reading import read_source
from oak_square.app.session.session import Session
from oak_square.core.errors import BadUsage
from oak_square.core.scene import Mesh
from oak_square.core.shown_units import ShownUnit
from oak_square.delivery.batch import find_sources
from oak_square.steps.naming import called
from oak_square.steps.step import STEPS
from tests.made import triangle_document, write_glb, write_gltf
from tests.patience import WAIT_MS, WAIT_S


def step(**words):
    return STEPS[words["do"]].model_validate(words)


@pytest.fixture
def session(qtbot):
    made = Session()
    yield made
    made.batch.worker.close()


@pytest.fixture
def opened(session, batch, qtbot):
    session.batch.open_paths([batch])
    qtbot.waitUntil(session.is_settled, timeout=WAIT_MS)
    return session


def dead_on_the_windlass(source):
    """Stands in for a reader that a file kills, as a fault in C code would."""
    if source.file == "windlass.stl":
        os._exit(9)
    return read_source(source)


def settle(session, qtbot):
    qtbot.waitUntil(lambda: session.is_settled() and not session.deliveries.is_running, timeout=WAIT_MS)


def test_files_are_read_and_the_first_is_selected(opened):
    assert len(opened.assets) == 6
    assert opened.lead in opened.assets
    assert set(opened.outcomes) == set(opened.rows)
    assert opened.to_read == 0


def test_opening_what_is_open_adds_nothing_and_says_so(opened, batch, qtbot):
    said = []
    opened.messages.said.connect(said.append)
    opened.batch.open_paths([batch])
    settle(opened, qtbot)
    assert said == ["No models there that are not open already"]
    with pytest.raises(BadUsage):
        opened.batch.open_paths([batch / "nothing"])
    assert len(opened.rows) == 6


def test_only_the_newest_answer_counts(opened, qtbot):
    for unit in ("mm", "cm", "in", "ft", "m", "cm"):
        opened.drafts.try_step(step(do="unit", reads=unit))
    settle(opened, qtbot)
    assert {o.after.asset.reading.metres_per_unit for o in opened.outcomes.values()} == {0.01}
    assert {o.before.asset.reading.source for o in opened.outcomes.values()} == {"declared", "assumed"}


def test_the_same_question_is_worked_out_once(opened, qtbot, monkeypatch):
    asked = []
    real = memory.evaluate
    monkeypatch.setattr(
        memory, "evaluate", lambda asset, sheet, *_, **__: asked.append(asset.file) or real(asset, sheet)
    )
    opened.drafts.try_step(step(do="unit", reads="mm", **{"for": ["windlass.*"]}))
    settle(opened, qtbot)
    # The steps that cover the others are the same as before.
    assert asked == ["windlass.stl"]
    opened.drafts.drop()
    settle(opened, qtbot)
    opened.sheet.undo()
    settle(opened, qtbot)
    assert asked == ["windlass.stl"]


def test_every_deed_is_an_entry_in_words(opened, qtbot):
    said = []
    opened.messages.said.connect(said.append)
    opened.drafts.try_step(step(do="bake"))
    opened.drafts.try_step(step(do="bake"))  # the same again is nothing new
    opened.drafts.keep()
    opened.drafts.try_step(step(do="place", ground=True))
    opened.drafts.drop()
    opened.sheet.include(("milepost.glb",), False)
    opened.drafts.open_step(0)
    opened.drafts.drop()
    opened.sheet.remove_step(0)
    assert [label for label, _ in opened.sheet.history.past] == [
        "Try Bake: rotation, scale",
        "Keep Bake: rotation, scale",
        "Try Place: on the ground",
        "Drop Place: on the ground",
        "Leave out milepost.glb",
        "Open step 1",
        "Drop Bake: rotation, scale",
        "Remove Bake: rotation, scale",
    ]
    opened.sheet.undo()
    assert said[-1] == "Undid: Remove Bake: rotation, scale"
    assert len(opened.document.sheet.steps) == 1
    opened.sheet.redo()
    assert said[-1] == "Redid: Remove Bake: rotation, scale"
    opened.sheet.redo()
    assert said[-1] == "Nothing to redo"
    settle(opened, qtbot)


def test_left_out_assets_neither_count_nor_go(opened, qtbot):
    before = opened.stages_left()["bake"]
    opened.sheet.include(("narrowboat.glb",), False)
    assert opened.stages_left()["bake"] == before - 1
    assert "narrowboat.glb" not in opened.included()
    opened.sheet.include(("narrowboat.glb",), True)
    assert opened.stages_left()["bake"] == before


def test_a_fault_of_ours_is_said_not_swallowed(opened, qtbot, monkeypatch):
    said = []
    opened.messages.failed.connect(said.append)
    monkeypatch.setattr(memory, "evaluate", lambda *_, **__: 1 / 0)
    opened.drafts.try_step(step(do="bake"))
    qtbot.waitUntil(lambda: bool(said), timeout=WAIT_MS)
    settle(opened, qtbot)
    assert said == ["A fault of ours, please report it: ZeroDivisionError('division by zero')"]


def test_a_fault_of_ours_in_what_a_step_makes_of_an_asset_costs_that_asset_alone(opened, qtbot, monkeypatch):
    real = memory.evaluate
    monkeypatch.setattr(memory, "evaluate", lambda a, *m, **k: {}["milk"] if "windlass" in a.file else real(a, *m, **k))
    opened.drafts.try_step(step(do="bake"))
    settle(opened, qtbot)
    assert {f: o.after.status for f, o in opened.outcomes.items() if o.after.status != "ready"} == {
        "windlass.stl": "failed"
    }
    assert opened.outcomes["windlass.stl"].after.reason == "a fault of ours: KeyError('milk'); please report it"


def test_a_delivery_can_be_cancelled_and_what_is_done_stays(opened, tmp_path, qtbot):
    progress = []

    def stop_soon(done, total, entry):
        progress.append((done, total, entry))
        opened.batch.worker.cancel()

    opened.batch.worker.progressed.connect(stop_soon)
    ended = []
    opened.deliveries.ended.connect(lambda manifest, error: ended.append((manifest, error)))
    # Told from the worker's own thread, so that it is asked before the next asset.
    opened.batch.worker.progressed.emit(0, 6, None)
    opened.deliveries.begin(tmp_path / "out", replace_old=False)
    settle(opened, qtbot)
    manifest, error = ended[0]
    assert error is None
    assert progress
    assert len(manifest["assets"]) <= 6
    for entry in manifest["assets"]:
        assert (tmp_path / "out" / entry["output"]).exists()


def test_a_folder_that_can_not_be_made_is_one_clear_line(opened, tmp_path, qtbot):
    (tmp_path / "in the way").write_text("a file")
    ended = []
    opened.deliveries.ended.connect(lambda manifest, error: ended.append((manifest, error)))
    opened.deliveries.begin(tmp_path / "in the way" / "out", replace_old=False)
    settle(opened, qtbot)
    manifest, error = ended[0]
    assert manifest is None
    assert "Not a directory" in error


def test_a_reader_that_dies_costs_its_own_file_and_not_the_batch(session, batch, qtbot, monkeypatch):
    monkeypatch.setattr(worker, "_MANY_FILES", 0)
    monkeypatch.setattr(worker, "read_source", dead_on_the_windlass)
    session.batch.open_paths([batch])
    settle(session, qtbot)
    assert session.rows["windlass.stl"].error == "its reader crashed, or ran out of memory"
    assert set(session.assets) == set(session.rows) - {"windlass.stl"}


def test_large_files_are_read_in_another_process(session, batch, qtbot, monkeypatch):
    monkeypatch.setattr(worker, "_SMALL_BYTES", 0)
    session.batch.open_paths([batch / "milepost.glb"])
    settle(session, qtbot)
    assert session.assets["milepost.glb"].triangle_count > 50


def test_a_module_is_as_long_as_the_sheet_says(opened, tmp_path):
    sheet = tmp_path / "bays.prepsheet.yaml"
    sheet.write_text("prep-sheet: 1\ndeliver: {module: 12 ft}\nsteps: []\n")
    opened.sheet.open(sheet)
    assert opened.unit.module == pytest.approx(3.6576)
    opened.sheet.set_module("bay", "3.6 m")
    assert (opened.unit.kind, opened.unit.module_name) == ("mod", "bay")
    assert opened.unit.length(7.2) == "2.00 bay"
    opened.sheet.undo()
    assert opened.unit.module == pytest.approx(3.6576)


SHEET_A = "# A\nprep-sheet: 1\ntitle: A\nsteps:\n  - {do: bake}   # of A\n"
SHEET_B = "# B\nprep-sheet: 1\ndatums: {sill: {at: [0, 1, 0]}}\nsteps:\n  - {do: place, at: origin}\n"


def test_undo_after_opening_a_sheet_goes_back_to_the_file_it_came_from(opened, tmp_path, qtbot):
    a, b = tmp_path / "a.prepsheet.yaml", tmp_path / "b.prepsheet.yaml"
    a.write_text(SHEET_A)
    b.write_text(SHEET_B)
    opened.sheet.open(a)
    assert opened.is_saved
    opened.sheet.open(b)
    opened.sheet.set_title("B, changed")
    assert (opened.sheet.path, opened.is_saved) == (b, False)
    opened.sheet.undo()
    assert opened.is_saved
    opened.sheet.undo()
    assert (opened.sheet.path, opened.sheet.text(), opened.is_saved) == (a, SHEET_A, True)
    opened.sheet.save(opened.sheet.path)
    assert (a.read_text(), b.read_text()) == (SHEET_A, SHEET_B)
    opened.sheet.redo()
    assert (opened.sheet.path, opened.sheet.text()) == (b, SHEET_B)
    settle(opened, qtbot)


def test_a_sheet_that_is_saved_keeps_its_file_through_undo_and_knows_whether_it_is_saved(opened, tmp_path, qtbot):
    opened.sheet.set_title("One")
    assert not opened.is_saved
    opened.sheet.set_title("Two")
    path = tmp_path / "new.prepsheet.yaml"
    opened.sheet.save(path)
    assert opened.is_saved
    opened.sheet.undo()
    assert (opened.sheet.path, opened.is_saved) == (path, False)
    opened.sheet.save(path)
    assert "title: One" in path.read_text()
    settle(opened, qtbot)


def test_a_size_book_that_was_opened_along_is_there_whatever_is_undone(session, batch, lock, qtbot):
    (batch / "size_book.csv").write_bytes((lock / "size_book.csv").read_bytes())
    session.sheet.set_title("First")
    session.batch.open_paths([batch])
    settle(session, qtbot)
    assert session.book is not None
    session.sheet.undo()
    assert session.book is not None
    assert session.document.book_path == batch / "size_book.csv"
    session.sheet.set_book(None, None)
    session.sheet.undo()
    assert session.document.book_path == batch / "size_book.csv"
    settle(session, qtbot)


def test_models_of_one_name_from_two_folders_both_stand(session, tmp_path, qtbot):
    for folder in ("north", "south"):
        document, binary = triangle_document(nodes=[{"name": folder, "mesh": 0}])
        (tmp_path / folder).mkdir()
        write_glb(tmp_path / folder / "sign.glb", document, binary)
    session.batch.open_paths([tmp_path / "north"])
    settle(session, qtbot)
    session.batch.open_paths([tmp_path / "south"])
    settle(session, qtbot)
    assert {f: a.nodes[0].name for f, a in session.assets.items()} == {"sign.glb": "north", "south/sign.glb": "south"}
    session.deliveries.begin(tmp_path / "out", replace_old=False)
    settle(session, qtbot)
    assert (tmp_path / "out" / "sign.glb").exists()
    assert (tmp_path / "out" / "south" / "sign.glb").exists()


def look(session, qtbot):
    """How many files are new or changed."""
    with qtbot.waitSignal(session.batch.watch.looked, timeout=WAIT_MS) as seen:
        session.batch.watch.look()
    return seen.args[0]


def test_a_buffer_that_changes_is_read_again(session, tmp_path, qtbot):
    document, binary = triangle_document()
    (tmp_path / "in").mkdir()
    write_gltf(tmp_path / "in" / "sign.gltf", document, binary)
    session.batch.open_paths([tmp_path / "in"])
    settle(session, qtbot)
    assert look(session, qtbot) == 0
    before = session.assets["sign.gltf"]
    moved = np.frombuffer(binary[:36], "<f4") + np.float32(3)
    (tmp_path / "in" / "sign data.bin").write_bytes(moved.tobytes() + binary[36:])
    os.utime(tmp_path / "in" / "sign data.bin", ns=(1, 1))
    assert look(session, qtbot) == 1
    settle(session, qtbot)
    after = session.assets["sign.gltf"]
    assert after is not before
    assert after.meshes[0].points[0].tolist() == [3, 3, 3]


def test_what_was_not_read_when_reading_was_stopped_is_offered_again(session, batch, qtbot):
    session.batch.open_paths([batch])
    qtbot.waitUntil(lambda: bool(session.rows), timeout=WAIT_MS)
    session.batch.stop_reading()
    left = len(session.rows)
    settle(session, qtbot)
    with qtbot.waitSignal(session.batch.watch.looked, timeout=WAIT_MS):
        session.batch.recheck()
    settle(session, qtbot)
    assert left <= 6
    assert len(session.assets) == 6


def asleep(source):
    """Stands in for a reader that takes very long."""
    time.sleep(WAIT_S)
    return read_source(source)


def test_closing_does_not_wait_for_what_is_being_read(batch, qtbot, monkeypatch):
    monkeypatch.setattr(worker, "read_source", asleep)
    monkeypatch.setattr(worker, "_SMALL_BYTES", 0)
    session = Session()
    session.batch.open_paths([batch])
    qtbot.waitUntil(lambda: bool(session.rows), timeout=WAIT_MS)
    qtbot.wait(1500)
    started = time.monotonic()
    session.close()
    assert time.monotonic() - started < WAIT_S / 2


def test_a_corner_of_a_large_mesh_is_not_waited_for(session, qtbot):
    grid = np.stack(np.meshgrid(np.arange(200.0), np.arange(200.0), [0.0], indexing="ij"), axis=-1).reshape(-1, 3)
    at = np.arange(199 * 199)
    corner = at // 199 * 200 + at % 199
    rows = np.stack([corner, corner + 200, corner + 1], axis=1)
    mesh = Mesh(name="floor", points=grid, triangles=rows.astype(np.uint32))
    assert not session.batch.worker.gather(mesh)
    qtbot.waitUntil(lambda: session.batch.worker.gather(mesh), timeout=WAIT_MS)


def test_a_thousand_names_are_found_in_one_go():
    files = [f"a/{k % 500}.glb" if k < 500 else f"b/{k}.glb" for k in range(1000)] + ["c/7.obj"]
    names = called(files)
    assert (names["a/7.glb"], names["c/7.obj"], names["b/600.glb"]) == ("a/7.glb", "c/7.obj", "600")


def test_processes_that_read_for_the_window_load_no_window():
    code = (
        f"import sys; from {read_source.__module__} import read_source\n"
        "print([m for m in ('PySide6', 'vtkmodules', 'pydantic', 'oak_square.app.start') if m in sys.modules])"
    )
    done = subprocess.run([sys.executable, "-c", code], check=True, capture_output=True, text=True)
    assert done.stdout == "[]\n"


def test_what_is_looked_at_first_is_worked_out_before_the_others_are_read(session, qtbot, tmp_path):
    for name in ("a", "b", "c"):
        write_glb(tmp_path / f"{name}.glb", *triangle_document())
    heard = []
    session.batch.worker.read.connect(lambda source, _: heard.append(source.file))
    session.batch.worker.worked_out.connect(lambda *_: heard.append("worked out"))
    session.batch.open_paths([tmp_path])
    settle(session, qtbot)
    assert heard[:2] == ["a.glb", "worked out"]
    assert {"b.glb", "c.glb"} <= set(heard[2:])


def test_a_first_file_that_cant_be_read_keeps_none_waiting(session, qtbot, tmp_path, monkeypatch):
    monkeypatch.setattr(worker, "_FIRST_S", 600)
    (tmp_path / "a.glb").write_bytes(b"no model")
    write_glb(tmp_path / "b.glb", *triangle_document())
    session.batch.open_paths([tmp_path])
    settle(session, qtbot)
    assert list(session.assets) == ["b.glb"]


@pytest.mark.anew
def test_a_fault_of_ours_costs_the_file_it_is_met_in_alone(session, batch, qtbot, monkeypatch):
    real = reading.survey
    monkeypatch.setattr(reading, "survey", lambda a: {}["milk"] if a.file == "windlass.stl" else real(a))
    session.batch.open_paths([batch])
    settle(session, qtbot)
    assert session.rows["windlass.stl"].error == "can't be read, by a fault of ours: KeyError('milk'); please report it"
    assert len(session.assets) == 5


def test_what_can_not_be_told_of_a_file_beforehand_keeps_none_waiting(session, batch, qtbot, monkeypatch):
    monkeypatch.setattr(worker, "format_of", lambda _: {}["milk"])
    session.batch.open_paths([batch])
    settle(session, qtbot)
    assert len(session.assets) == 6


def test_where_no_process_can_be_started_each_file_says_so(session, batch, qtbot, monkeypatch):
    def none_left(*_, **__):
        raise BlockingIOError(11, "Resource temporarily unavailable")

    monkeypatch.setattr(worker, "_SMALL_BYTES", 0)
    monkeypatch.setattr(worker, "in_processes", none_left)
    session.batch.open_paths([batch])
    settle(session, qtbot)
    assert {r.error for r in session.rows.values()} == {"can't be read: Resource temporarily unavailable"}


@pytest.mark.parametrize("name", ["milepost.glb", "windlass.stl"])
def test_a_file_that_becomes_a_pipe_keeps_nothing_waiting(session, batch, qtbot, name):
    session.batch.open_paths([batch])
    settle(session, qtbot)
    (batch / name).unlink()
    os.mkfifo(batch / name)
    look(session, qtbot)
    settle(session, qtbot)
    assert name not in session.assets
    assert len(session.assets) == 5


def test_stop_while_a_folder_is_searched_ends_the_search(session, batch, qtbot, monkeypatch):
    began, seen = threading.Event(), []

    def slow(paths, stopped):
        began.set()
        deadline = time.monotonic() + WAIT_S
        while not stopped() and time.monotonic() < deadline:
            time.sleep(0.01)
        seen.append(stopped())
        return find_sources(paths)

    monkeypatch.setattr(worker_module, "find_sources", slow)
    session.batch.open_paths([batch])
    assert began.wait(WAIT_S)
    assert session.progress() is not None
    session.batch.stop_reading()
    assert session.progress() is None
    qtbot.waitUntil(lambda: seen == [True], timeout=WAIT_MS)
    settle(session, qtbot)
    assert not session.rows
    assert session.paths == []
    # It can be opened again.
    monkeypatch.undo()
    session.batch.open_paths([batch])
    settle(session, qtbot)
    assert len(session.assets) == 6


def test_undoing_a_module_shows_lengths_as_they_were_shown_before(session):
    session.show_in(ShownUnit(kind="cm"))
    session.sheet.set_module("bay", "3.6 m")
    assert session.unit.kind == "mod"
    session.sheet.undo()
    assert session.unit.kind == "cm"
    assert session.unit.as_typed("2") == "2 cm"


def test_renaming_keeps_hold_of_what_is_held_there_and_back(session):
    session.names.put_datum("sill", [0, 1, 0], (0, 0, 0), use=False)
    session.names.put_datum("rail", [0, 2, 0], (0, 0, 0))
    session.names.take_datum("sill")
    session.names.name_thing("datum", "sill", "step")
    grip = session.document.grip
    assert (grip.hold_datum, grip.last_datum, grip.about) == ("step", "rail", "datum rail")
    session.sheet.undo()
    assert session.document.grip.hold_datum == "sill"
    session.sheet.redo()
    assert session.document.grip.hold_datum == "step"
    session.names.name_thing("datum", "rail", "edge")
    session.sheet.undo()
    assert (session.document.grip.about, session.document.grip.last_datum) == ("datum rail", "rail")
