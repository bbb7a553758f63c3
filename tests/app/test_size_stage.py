"""The morning's work by hand: units settled, sizes typed, spans measured and made a length, matched, shown in feet."""

from __future__ import annotations

from dataclasses import replace

import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtGui import QGuiApplication
from PySide6.QtWidgets import QTableWidgetItem

from oak_square.core.boxes import asset_box
from oak_square.core.picks import face_at
from oak_square.core.size_book import SizeBook
from oak_square.formats.register import entry_of
from oak_square.steps.step import STEPS

HUT, GATE, LAMP, MILEPOST = "keepers_hut.obj", "gate_leaf.glb", "lamp_standard.obj", "milepost.glb"


@pytest.fixture
def desk(hand, lock):
    wanted = (HUT, GATE, LAMP, MILEPOST, "lifebuoy_post.glb", "windlass.stl", "tiller.ply")
    for path in lock.iterdir():
        if entry_of(path) is not None and path.name not in wanted:
            path.unlink()
    hand.open(lock)
    hand.stage("size")
    return hand


def size(hand, file):
    return asset_box(hand.session.outcomes[file].after.asset).size


def write(hand, field, text):
    field.setFocus()
    field.selectAll()
    hand.qtbot.keyClicks(field, text)
    hand.settle()


def corner(hand, k: int, inward=(0, 0)) -> QPoint:
    """Return the pixel of a box corner of the lead asset, a little inward."""
    bench = hand.window.bench
    x, y, _ = bench.lens().seen(asset_box(hand.session.outcomes[hand.session.lead].after.asset).corners)[k]
    return QPoint(round(x) + inward[0], round(y) + inward[1])


def touch(hand, at: QPoint):
    hand.qtbot.mouseMove(hand.window.bench, at)
    hand.qtbot.mouseClick(hand.window.bench, Qt.MouseButton.LeftButton, pos=at)
    hand.settle()


def test_the_certain_units_are_taken_at_once_and_the_list_says_who_waits(desk):
    form = desk.body("size").question
    waiting = {form.table.item(k, 0).text(): form.table.item(k, 1).text() for k in range(form.table.rowCount())}
    assert waiting == {
        "gate_leaf": "centimetres, over 99 %",
        "keepers_hut": "centimetres, over 99 %",
        "lamp_standard": "inches, over 99 %",
        "tiller": "millimetres, over 99 %",
        "windlass": "millimetres, over 99 %",
    }
    assert form.take.text() == "Take the best for 5 that are certain"
    desk.click(form.take)
    assert desk.steps() == ["Unit: cm", "Unit: in", "Unit: mm"]
    assert size(desk, HUT)[1] == pytest.approx(3.9)
    assert not form.table.isVisible()
    desk.session.sheet.undo()
    desk.settle()
    assert desk.steps() == []


def test_without_a_book_what_cannot_be_told_is_said_and_comes_first(desk):
    desk.session.sheet.set_book(None, None)
    desk.settle()
    form = desk.body("size").question
    words = [form.table.item(k, 1).text() for k in range(form.table.rowCount())]
    assert words[0].startswith("can't tell: ")
    assert words == sorted(words, key=lambda w: not w.startswith("can't tell"))
    desk.click(form.table.viewport(), form.table.visualItemRect(form.table.item(0, 0)).center())
    assert desk.session.lead is not None
    assert form.candidates.rows[0].unit in words[0]
    desk.click(form.candidates.buttons["mm"])
    assert desk.session.document.draft.title() == "Unit: mm"


def test_a_height_is_typed_on_the_box_and_what_follows_is_chosen_beside_it(desk):
    desk.pick(MILEPOST)
    bench, editor = desk.window.bench, desk.window.desk.plate_editor
    before = size(desk, MILEPOST)
    desk.click(bench, desk.window.desk.plates.plate("height").center().toPoint())
    assert editor.isVisible()
    write(desk, editor.field, "1.84")
    assert size(desk, MILEPOST) == pytest.approx(before * 2, rel=1e-3)
    desk.click(editor.keep.buttons["none"])
    assert size(desk, MILEPOST)[0] == pytest.approx(before[0])
    desk.key(Qt.Key.Key_Return)
    assert not editor.isVisible()
    assert desk.session.document.sheet.steps[0].words() == {
        "do": "size", "height": "1.84 m", "keep": "none", "for": [MILEPOST],
    }  # fmt: skip
    desk.click(bench, desk.window.desk.plates.plate("width").center().toPoint())
    assert editor.keep.choice == "proportions"  # remembered on the step only
    desk.key(Qt.Key.Key_Escape)
    assert not editor.isVisible()


def test_several_show_each_ones_sizes_or_their_common_box_sized_by_one_factor(desk):
    desk.pick(MILEPOST, "lifebuoy_post.glb")
    bench = desk.window.bench
    assert len(bench.facts.beside) == 1
    desk.click(desk.window.views.together_button)
    assert bench.facts.beside == ()
    present = float(bench.facts.box.size[1])
    before = [size(desk, f) for f in (MILEPOST, "lifebuoy_post.glb")]
    desk.click(bench, desk.window.desk.plates.plate("height").center().toPoint())
    write(desk, desk.window.desk.plate_editor.field, f"{2 * present:.6f}")
    for file, old in zip((MILEPOST, "lifebuoy_post.glb"), before, strict=True):
        assert size(desk, file) == pytest.approx(old * 2, rel=1e-5)


def test_a_span_is_measured_read_anew_and_made_a_known_length(desk):
    desk.pick(MILEPOST)
    form = desk.body("size").measures
    desk.key(Qt.Key.Key_5)
    assert desk.window.views.band.text().startswith("Dividers, span: click the first point")
    touch(desk, corner(desk, 4))
    assert "second point" in desk.window.views.band.text()
    touch(desk, corner(desk, 5))
    row = form._rows[0]
    assert row.reads == "0.46 m"
    assert dict(row.values)["along y"] == "0.00 m"
    write(desk, form.length, "92 cm")
    assert size(desk, MILEPOST) == pytest.approx([0.92, 1.84, 0.68], rel=2e-3)
    assert form._rows[0].reads == "0.92 m"  # what it hangs on has moved
    desk.key(Qt.Key.Key_Return)
    step = desk.session.document.sheet.steps[0].words()
    assert step["length"] == "92 cm"
    assert step["between"][1][0] - step["between"][0][0] == pytest.approx(0.46)
    desk.key(Qt.Key.Key_Escape)
    assert desk.window.views.band.text() == ""


def test_measurements_are_copied_told_along_other_axes_forgotten_and_kept_with_the_sheet(desk, tmp_path):
    desk.pick(GATE)
    form = desk.body("size").measures
    desk.key(Qt.Key.Key_5)
    desk.click(form.kind.buttons["angle"])
    for k in (4, 5, 7):
        touch(desk, corner(desk, k))
    assert form._rows[0].reads == "90°"
    desk.click(form.values["first arm"])
    assert QGuiApplication.clipboard().text() == "396 m"
    form.table.setFocus()
    desk.key(Qt.Key.Key_C, Qt.KeyboardModifier.ControlModifier)
    assert QGuiApplication.clipboard().text().startswith("angle, gate_leaf: angle 90°, first arm 396 m")
    desk.session.sheet.save(tmp_path / "lock.prepsheet.yaml")
    desk.click(next(b for b in form.findChildren(type(form.kind.buttons["span"])) if b.text() == "Forget it"))
    assert form._rows == ()
    desk.session.sheet.open(tmp_path / "lock.prepsheet.yaml")
    desk.settle()
    assert form._rows[0].reads == "90°"


def test_a_rim_reads_its_circle_and_a_face_its_tilt(desk):
    bench, form = desk.window.bench, desk.body("size").measures
    desk.key(Qt.Key.Key_5)
    desk.pick(MILEPOST)
    desk.look_from(0, -89)
    desk.click(form.kind.buttons["plane"])
    touch(desk, QPoint(bench.width() // 2, bench.height() // 2))
    assert dict(form._rows[0].values)["tilt"] == "0°"
    desk.pick("windlass.stl")
    desk.click(form.kind.buttons["circle"])
    # The socket's round end is the one face down there with a rim.
    shape = bench.picture.shapes[0]
    faces = [face_at(shape.mesh, shape.world_from_mesh, k) for k in range(len(shape.mesh.triangles))]
    ring = next(f for f in faces if f.circles and f.centre[1] == min(g.centre[1] for g in faces))
    at = ring.circles[0].rim[0] * 0.97 + ring.circles[0].centre * 0.03
    x, y, _ = bench.lens().seen(at[None])[0]
    rim = QPoint(round(x), round(y))
    touch(desk, rim)
    assert form._rows[1].title == "circle, windlass"
    values = dict(form._rows[1].values)
    assert float(values["diameter"].split()[0]) == pytest.approx(2 * float(values["radius"].split()[0]), rel=1e-2)
    assert abs(float(values["axis y"])) == pytest.approx(1)


def test_an_extent_is_matched_to_an_asset_picked_in_the_list_or_chosen_by_name(desk):
    desk.click(desk.body("size").question.take)
    desk.pick("lifebuoy_post.glb")
    body = desk.body("size")
    desk.click(body.pages.tabs.buttons["match"])
    desk.click(body.pick)
    assert "click the asset to match" in desk.window.views.band.text()
    desk.pick(MILEPOST)
    assert desk.session.selection == ("lifebuoy_post.glb",)
    assert desk.session.document.draft.words() == {
        "do": "size", "match": "milepost", "along": "height", "for": ["lifebuoy_post.glb"],
    }  # fmt: skip
    assert size(desk, "lifebuoy_post.glb")[1] == pytest.approx(size(desk, MILEPOST)[1])
    desk.click(body.along.buttons["width"])
    assert size(desk, "lifebuoy_post.glb")[0] == pytest.approx(size(desk, MILEPOST)[0])
    desk.key(Qt.Key.Key_Return)
    # Assets may refer to each other: each to the other as it stood before.
    desk.pick(MILEPOST)
    body.match_to("lifebuoy_post")
    desk.settle()
    assert desk.session.document.draft.words()["match"] == "lifebuoy_post"
    assert desk.session.outcomes[MILEPOST].after.status == "ready"
    assert size(desk, "lifebuoy_post.glb")[0] == pytest.approx(size(desk, MILEPOST)[0])


def test_feet_and_modules_change_what_is_read_and_typed_never_the_geometry(desk):
    desk.pick(MILEPOST)
    before = size(desk, MILEPOST)
    menu = desk.window.foot.unit
    menu.actions_["ft-in/16"].trigger()
    desk.settle()
    assert desk.row(MILEPOST).detail.startswith("1' 6 1/8\" × 3' 1/4\"")
    assert desk.window.bench.facts.sizes[1] == "3' 1/4\""
    desk.click(desk.body("size").pages.tabs.buttons["extent"])
    write(desk, desk.body("size").extents["height"], "4")
    assert desk.session.document.draft.height == "4 ft"
    desk.key(Qt.Key.Key_Escape)
    menu.module_wished.emit("bay", "3.6 m")
    desk.settle()
    assert desk.window.bench.facts.sizes[1] == "0.256 bay"
    write(desk, desk.body("size").extents["height"], "0.5")
    assert desk.session.document.draft.height == "0.5 mod"
    assert size(desk, MILEPOST)[1] == pytest.approx(1.8)
    desk.key(Qt.Key.Key_Return)
    assert "module: 3.6 m" in desk.session.sheet.text()
    desk.session.sheet.set_module("bay", "4 m")
    assert "written in modules of 3.6 m" in desk.window.foot.words.text()
    desk.session.sheet.undo()  # keeping it
    desk.session.sheet.undo()  # trying it
    desk.settle()
    menu.actions_["auto"].trigger()
    desk.settle()
    assert size(desk, MILEPOST) == pytest.approx(before)


def test_the_grid_follows_the_unit_or_stays_where_it_is_set(desk):
    desk.session.show_in(replace(desk.session.unit, kind="ft-in"))
    desk.settle()
    assert desk.window.foot._grid.text().endswith(("'", '"'))
    desk.session.show_in(replace(desk.session.unit, kind="auto", grid=0.25))
    desk.settle()
    assert desk.window.bench._grid_m % 0.25 == pytest.approx(0)


def test_what_was_measured_is_told_along_the_part_or_a_datum(desk, tmp_path):
    sheet = tmp_path / "s.prepsheet.yaml"
    sheet.write_text("prep-sheet: 1\ndatums:\n  sill: {at: [0, 1, 0], turn: [0, 90, 0]}\nsteps: []\n")
    desk.session.sheet.open(sheet)
    desk.settle()
    desk.pick(MILEPOST)
    form = desk.body("size").measures
    desk.key(Qt.Key.Key_5)
    touch(desk, corner(desk, 4))
    touch(desk, corner(desk, 5))
    along = {}
    for k in range(form.frame.count()):
        form.frame.setCurrentIndex(k)
        form.frame_wished.emit(form.frame.currentData())
        desk.settle()
        values = dict(form._rows[0].values)
        along[form.frame.currentText()] = (values["along x"], values["along z"], values["from y"])
    # Turned a quarter about y, the datum's z is the world's x, and it stands a metre up.
    assert along["the world"] == ("0.46 m", "0.00 m", "0.00 m")
    assert along["datum sill"] == ("0.00 m", "0.46 m", "-1.00 m")
    assert along["the part"] == along["the world"]


def test_candidates_are_taken_with_the_keyboard_and_tell_their_evidence(desk):
    desk.pick("windlass.stl")
    candidates = desk.body("size").question.candidates
    best = candidates.buttons["mm"]
    assert "size book: as in the book" in best.toolTip()
    assert "the file: declares nothing" in best.toolTip()
    best.setFocus()
    desk.key(Qt.Key.Key_Space)
    assert desk.session.document.draft.title() == "Unit: mm"
    assert size(desk, "windlass.stl") == pytest.approx([0.315, 0.21, 0.09], rel=1e-3)
    assert next(r for r in candidates.rows if r.unit == "mm").holds
    assert candidates.buttons["mm"].hasFocus()


def test_the_rest_of_the_folder_speaks_for_its_unit(desk):
    desk.session.sheet.set_book(None, None)
    for file in (HUT, GATE):
        desk.session.drafts.try_step(STEPS["unit"].model_validate({"do": "unit", "reads": "cm", "for": [file]}))
        desk.session.drafts.keep()
    desk.settle()
    desk.pick(LAMP)
    rows = {r.unit: r for r in desk.body("size").question.candidates.rows}
    # Of the files that declare nothing one is settled: its word is beyond what the lamp's size says by itself.
    assert desk.body("size").question.candidates.rows[0].unit == "cm"
    assert "same folder: settled for 1 of 1 here" in rows["cm"].tip
    assert "same folder: settled for 0 of 1 here" in rows["mm"].tip


def test_the_book_editor_takes_rows_in_and_out(desk):
    editor = desk.window.files.edit_book()
    desk.click(editor.buttons["add"])
    row = editor.table.rowCount() - 1
    for column, text in ((0, "weather_*"), (3, "2 m")):
        editor.table.setItem(row, column, QTableWidgetItem(text))
    desk.settle()
    # The first pattern holds: weather_vane has one already.
    assert desk.session.book.entry_for("weather_vane.glb").spans[1].low == pytest.approx(1.2)
    first = next(k for k in range(row) if editor.table.item(k, 0).text() == "weather_vane")
    editor.table.setCurrentCell(first, 0)
    desk.click(editor.buttons["remove"])
    assert desk.session.book.entry_for("weather_vane.glb").spans[1].low == pytest.approx(2)
    editor.table.setItem(row - 1, 0, QTableWidgetItem(""))
    desk.settle()
    assert "has no pattern" in editor.complaint.text()
    editor.close()


def test_the_whole_morning_by_hand(desk):
    window, session = desk.window, desk.session
    # The units that are certain, at once; the lamp, whose name the book no longer knows, from the line-up.
    session.sheet.set_book(
        SizeBook(entries=tuple(e for e in session.book.entries if e.pattern != "lamp_standard")), None
    )
    desk.settle()
    desk.click(desk.body("size").question.take)
    assert desk.steps() == ["Unit: cm", "Unit: mm"]
    window.activateWindow()
    window._show_view("line-up")
    desk.settle()
    row, page = window.views.lineup.row, window.views.lineup
    desk.click(row, row.outline_of(LAMP).center().toPoint())
    assert page.card.isVisible()
    desk.click(page.card.candidates.buttons["in"])
    desk.key(Qt.Key.Key_Return)
    assert desk.steps() == ["Unit: cm", "Unit: mm", "Unit: in"]
    assert size(desk, LAMP).max() == pytest.approx(5.2, rel=1e-3)
    # A height typed on the box.
    window._show_view("bench")
    desk.pick(MILEPOST)
    desk.click(window.bench, window.desk.plates.plate("height").center().toPoint())
    write(desk, window.desk.plate_editor.field, "3'")
    desk.key(Qt.Key.Key_Return)
    assert size(desk, MILEPOST)[1] == pytest.approx(0.9144)
    # Two points spanned, and the span made a length.
    desk.pick(HUT)
    desk.key(Qt.Key.Key_5)
    touch(desk, corner(desk, 4))
    touch(desk, corner(desk, 5))
    write(desk, desk.body("size").measures.length, "4.4 m")
    desk.key(Qt.Key.Key_Return)
    assert size(desk, HUT)[0] == pytest.approx(4.4, rel=1e-2)
    desk.key(Qt.Key.Key_Escape)
    # The lifebuoy post as high as the milepost.
    desk.pick("lifebuoy_post.glb")
    desk.body("size").match_to("milepost")
    desk.settle()
    desk.key(Qt.Key.Key_Return)
    assert size(desk, "lifebuoy_post.glb")[1] == pytest.approx(0.9144)
    # In feet, in modules, and none of it moved.
    before = {f: size(desk, f).copy() for f in session.outcomes}
    window.foot.unit.actions_["ft-in/16"].trigger()
    desk.settle()
    assert desk.row(MILEPOST).detail.split(" × ")[1] == "3'"
    window.foot.unit.module_wished.emit("bay", "3 ft")
    desk.settle()
    assert desk.row(MILEPOST).detail.split(" × ")[1] == "1.00"
    for file, there in before.items():
        assert size(desk, file) == pytest.approx(there)
    assert desk.steps()[3:] == ["Height 3'", "Measured length 4.4 m", "As high as milepost"]
    while session.sheet.history.past:
        session.sheet.undo()
    desk.settle()
    assert desk.steps() == []
