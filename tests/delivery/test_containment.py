"""A delivery writes nothing outside of its folder, and reads nothing outside of a model's, whatever is laid for it."""

from __future__ import annotations

import os
import shutil
import zipfile

import pytest

from oak_square.core.errors import BadFile, BadUsage
from oak_square.delivery.batch import find_sources
from oak_square.delivery.run import Run
from oak_square.delivery.running import deliver
from oak_square.formats.register import FORMATS
from oak_square.sheet.text import parse_sheet
from tests.made import triangle_document, write_gltf

PLATE = "v 0 0 0\nv 1 0 0\nv 1 1 0\nf 1 2 3\n"
TURN = "prep-sheet: 1\nsteps: [{do: turn, by: [0, 30, 0]}]\n"


def run(paths, out, **more):
    sheet = parse_sheet(TURN, "s")
    sources = tuple(find_sources(paths))
    return deliver(Run(sources=sources, sheet=sheet, sheet_bytes=TURN.encode(), out=out, jobs=1, **more))


@pytest.fixture
def folder(tmp_path):
    (tmp_path / "in").mkdir()
    (tmp_path / "in" / "plate.obj").write_text(PLATE)
    (tmp_path / "precious.txt").write_text("precious")
    return tmp_path


@pytest.mark.parametrize("name", ["lock", "journal.jsonl", "read.json", "stage-0"])
def test_a_link_in_the_workshop_is_never_written_through(folder, name):
    shop = folder / "out" / ".oak-square"
    shop.mkdir(parents=True)
    (shop / name).symlink_to(folder / "precious.txt")
    if name == "lock":
        with pytest.raises(BadUsage, match="can't be delivered into"):
            run([folder / "in"], folder / "out")
    else:
        assert run([folder / "in"], folder / "out")["assets"][0]["status"] == "delivered"
    assert (folder / "precious.txt").read_text() == "precious"


@pytest.mark.parametrize("text", [TURN, "prep-sheet: 1\nsteps: []\n"])
def test_what_goes_with_a_model_is_never_written_through_a_linked_folder(tmp_path, text):
    (tmp_path / "in" / "parts").mkdir(parents=True)
    model = write_gltf(tmp_path / "in" / "plate.gltf", *triangle_document())
    (tmp_path / "in" / "sign data.bin").rename(tmp_path / "in" / "parts" / "plate.bin")
    model.write_text(model.read_text().replace("sign%20data.bin", "parts/plate.bin"))
    (tmp_path / "elsewhere").mkdir()
    (tmp_path / "elsewhere" / "plate.bin").write_bytes(b"precious")
    (tmp_path / "out").mkdir()
    (tmp_path / "out" / "parts").symlink_to(tmp_path / "elsewhere")
    sources = tuple(find_sources([tmp_path / "in"]))
    (entry,) = deliver(
        Run(sources=sources, sheet=parse_sheet(text, "s"), sheet_bytes=text.encode(), out=tmp_path / "out", jobs=1)
    )["assets"]
    assert [p.name for p in (tmp_path / "elsewhere").iterdir()] == ["plate.bin"]
    assert (tmp_path / "elsewhere" / "plate.bin").read_bytes() == b"precious"
    assert entry["status"] == "failed"
    assert "'parts/plate.bin' goes with it, and its folder leads out of the delivery" in entry["reason"]


def test_a_workshop_that_is_a_link_is_refused_and_what_it_leads_to_stays(folder):
    (folder / "elsewhere" / "stage-mine").mkdir(parents=True)
    (folder / "out").mkdir()
    (folder / "out" / ".oak-square").symlink_to(folder / "elsewhere")
    with pytest.raises(BadUsage, match="is a link"):
        run([folder / "in"], folder / "out")
    assert [p.name for p in (folder / "elsewhere").iterdir()] == ["stage-mine"]


def test_a_lock_that_is_a_pipe_keeps_nobody_waiting(folder):
    (folder / "out" / ".oak-square").mkdir(parents=True)
    os.mkfifo(folder / "out" / ".oak-square" / "lock")
    with pytest.raises(BadUsage, match="no plain file"):
        run([folder / "in"], folder / "out")


def looked(folder, name, colour):
    folder.mkdir()
    (folder / f"{name}.obj").write_text(f"mtllib looks.mtl\n{PLATE}")
    (folder / "looks.mtl").write_text(f"newmtl a\nKd {colour} 0 0\n")
    return folder


def test_what_goes_with_a_model_that_stays_is_not_overwritten_by_another_input(folder):
    first, second = looked(folder / "a", "one", 0.1), looked(folder / "b", "two", 0.9)
    run([first], folder / "out")
    (entry,) = run([second], folder / "out", replace=True)["assets"]
    assert entry["status"] == "failed"
    assert "for 'one.obj', which stays" in entry["reason"]
    assert "Kd 0.1" in (folder / "out" / "looks.mtl").read_text()
    # And where no manifest tells whose it is.
    (folder / "out" / "delivery.json").unlink()
    assert run([second], folder / "out", replace=True)["assets"][0]["status"] == "failed"
    (first / "looks.mtl").write_text("newmtl a\nKd 0.5 0 0\n")
    assert run([first], folder / "out", replace=True)["assets"][0]["status"] == "delivered"
    assert "Kd 0.5" in (folder / "out" / "looks.mtl").read_text()


def test_one_buffer_named_in_two_ways_is_one_file(folder):
    document, binary = triangle_document()
    for name, uri in (("m1", "data.bin"), ("m2", "x/../data.bin")):
        home = folder / name
        home.mkdir()
        path = write_gltf(home / f"{name}.gltf", document, binary)
        (home / "sign data.bin").rename(home / "data.bin")
        path.write_text(path.read_text().replace("sign%20data.bin", uri))
    data = (folder / "m2" / "data.bin").read_bytes()
    (folder / "m2" / "data.bin").write_bytes(data[:12] + b"\0\0\x80\x40" + data[16:])
    entries = run([folder / "m1" / "m1.gltf", folder / "m2" / "m2.gltf"], folder / "out")["assets"]
    assert sorted(e["status"] for e in entries) == ["delivered", "failed"]
    assert "other contents" in next(e["reason"] for e in entries if e["status"] == "failed")


USDA = '#usda 1.0\n(metersPerUnit = 1)\ndef Mesh "m" {\n point3f[] points = [(0,0,0),(1,0,0),(0,1,0)]\n%s}\n'
FACES = " int[] faceVertexCounts = [3]\n int[] faceVertexIndices = [0,1,2]\n"


def packed(path, *rows):
    with zipfile.ZipFile(path, "w", zipfile.ZIP_STORED) as package:
        for name, text in rows:
            package.writestr(name, text)
    return path


def test_a_package_in_a_package_is_refused(tmp_path):
    inner = packed(tmp_path / "inner.usdz", ("m.usda", USDA % FACES)).read_bytes()
    outer = packed(tmp_path / "outer.usdz", ("a.usda", USDA % FACES), ("inner.usdz", inner))
    with pytest.raises(BadFile, match="a package in a package"):
        FORMATS["usdz"].read(outer, "outer.usdz")
    # Beside a layer, too.
    shutil.move(outer, tmp_path / "beside.usdz")
    (tmp_path / "top.usda").write_text('#usda 1.0\ndef "m" (references = @beside.usdz@</m>) {}\n')
    with pytest.raises(BadFile, match="a package in a package"):
        FORMATS["usda"].read(tmp_path / "top.usda", "top.usda")


def test_a_package_with_a_mistake_of_syntax_in_a_layer_says_so(tmp_path):
    path = packed(tmp_path / "m.usdz", ("a.usda", USDA % FACES), ("b.usda", "#usda 1.0\ndef Mesh {{{\n"))
    with pytest.raises(BadFile, match=r"^m\.usdz: is no USD that can be read"):
        FORMATS["usdz"].read(path, "m.usdz")


@pytest.mark.parametrize("place", ["def", "variant"])
def test_templates_of_clips_look_into_no_folder_outside(tmp_path, place):
    clips = (
        'clips = { dictionary default = { string templateAssetPath = "../secret/p.###.usda"\n'
        "double templateStartTime = 1\ndouble templateEndTime = 2\ndouble templateStride = 1 } }"
    )
    inside = tmp_path / "in"
    inside.mkdir()
    (tmp_path / "secret").mkdir()
    if place == "def":
        text = f'#usda 1.0\ndef Mesh "m" (\n{clips}\n) {{\n{FACES}}}\n'
    else:
        text = (
            '#usda 1.0\ndef Mesh "m" (\nvariants = { string v = "a" }\nprepend variantSets = "v"\n) {\n'
            f'variantSet "v" = {{ "a" (\n{clips}\n) {{ }} }}\n}}\n'
        )
    (inside / "m.usda").write_text(text)
    with pytest.raises(BadFile, match="outside its folder"):
        FORMATS["usda"].read(inside / "m.usda", "m.usda")


def doubling(times):
    lines = ["#usda 1.0", 'def Xform "x0" {', "}"]
    for k in range(1, times):
        arcs = [f' def "{n}" (references = </x{k - 1}>) {{' + "\n }" for n in "lr"]
        lines += [f'def Xform "x{k}" {{', *arcs, "}"]
    return "\n".join(lines) + "\n"


def test_references_that_double_are_told_before_they_grow(tmp_path):
    (tmp_path / "few.usda").write_text(doubling(8))
    assert len(FORMATS["usda"].read(tmp_path / "few.usda", "few.usda").asset.nodes) > 255
    (tmp_path / "many.usda").write_text(doubling(40))
    packed(tmp_path / "many.usdz", ("a.usda", doubling(40)))
    (tmp_path / "above.usda").write_text("#usda 1.0\n(\n subLayers = [@many.usda@]\n)\n")
    for name in ("many.usda", "many.usdz", "above.usda"):
        with pytest.raises(BadFile, match="come to over"):
            FORMATS[name[-4:]].read(tmp_path / name, name)


def test_a_reference_to_what_is_above_it_counts_once(tmp_path):
    text = '#usda 1.0\ndef Xform "a" (references = </b>) {\n}\ndef Xform "b" (references = </a>) {\n}\n'
    (tmp_path / "ring.usda").write_text(text)
    FORMATS["usda"].read(tmp_path / "ring.usda", "ring.usda")
