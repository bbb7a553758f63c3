"""What a model names outside its folder: it is measured all the same, told of, and never read or taken along."""

from __future__ import annotations

import json
import shutil
from pathlib import Path

import pytest

from oak_square.delivery.batch import find_sources
from oak_square.delivery.surveying import receive, survey_source
from oak_square.formats.obj.materials import texture_name
from tests.formats.test_collada import BRIDGE
from tests.formats.test_ply import made
from tests.formats.test_usd import SIGN
from tests.made import triangle_document, write_glb
from tests.runs import deliver_as

PNG = b"\x89PNG\r\n\x1a\n"
OBJ = "mtllib s.mtl\nv 0 0 0\nv 1 0 0\nv 0 1 0\nvt 0 0\nusemtl wood\nf 1/1 2/1 3/1\n"


def write(folder, key, name):
    """A model of each format that names a texture by `name`."""
    path = folder / f"sign.{key}"
    if key == "obj":
        path.write_text(OBJ)
        (folder / "s.mtl").write_text(f"newmtl wood\nKd 1 0 0\nmap_Kd -s 1 1 1 {name}\n")
    elif key == "glb":
        document, binary = triangle_document(images=[{"uri": name}], textures=[{"source": 0}])
        surface = {"baseColorTexture": {"index": 0}}
        document["materials"] = [{"name": "wood", "pbrMetallicRoughness": surface}]
        document["meshes"][0]["primitives"][0]["material"] = 0
        write_glb(path, document, binary)
    elif key == "dae":
        path.write_text(BRIDGE.replace("wood%20grain.png", name.replace(" ", "%20")))
    elif key == "ply":
        path.write_bytes(
            made("ascii").replace(
                b"format ascii 1.0\n", b"format ascii 1.0\ncomment TextureFile " + name.encode() + b"\n"
            )
        )
    else:
        path.write_text(SIGN.replace('custom string note = "kept"', f"custom asset note = @{name}@"))
    return path


KEYS = ["obj", "glb", "dae", "ply", "usda"]


@pytest.mark.parametrize("key", KEYS)
@pytest.mark.parametrize(
    "name", ["../wood.png", "/etc/passwd", "C:/studio/wood.png", "file:///C:/wood.png", "..\\wood.png"]
)
def test_a_texture_outside_is_a_finding_and_fails_what_would_take_it_along(tmp_path, key, name):
    (tmp_path / "in").mkdir()
    (tmp_path / "wood.png").write_bytes(PNG)
    write(tmp_path / "in", key, name)
    (source,) = find_sources([tmp_path / "in"])
    entry = survey_source(source)
    assert entry["error"] is None
    (said,) = (f for f in entry["findings"] if f["code"] == "texture-astray")
    assert (said["level"], said["measure"]) == ("check", 1)
    assert f"it names '{name}', outside its folder" in said["message"]
    (entry,) = deliver_as(tmp_path, "{format: same}")["assets"]
    assert (entry["status"], entry["output"]) == ("failed", None)
    assert f"refers to '{name}', which lies outside its folder" in entry["reason"]
    (tmp_path / "out").rename(tmp_path / "first")
    (entry,) = deliver_as(tmp_path, "{format: stl}")["assets"]
    assert entry["status"] == "delivered", entry["reason"]


@pytest.mark.parametrize("key", KEYS)
@pytest.mark.parametrize("name", ["deep\\wood.png", "./deep/wood.png", "deep/wood.png"])
def test_backslashes_that_stay_inside_are_read_and_taken_along(tmp_path, key, name):
    (tmp_path / "in" / "deep").mkdir(parents=True)
    (tmp_path / "in" / "deep" / "wood.png").write_bytes(PNG)
    path = write(tmp_path / "in", key, name)
    received = receive(find_sources([path])[0])
    assert received.asset.astray == ()
    assert "deep/wood.png" in received.companions
    (entry,) = deliver_as(tmp_path, "{format: same}")["assets"]
    assert entry["status"] == "unchanged", entry["reason"]
    assert (tmp_path / "out" / "deep" / "wood.png").read_bytes() == PNG
    shutil.rmtree(tmp_path / "out")


@pytest.mark.parametrize(
    ("rest", "name"),
    [
        ("wood.png", "wood.png"),
        ("oak wood  grain.png", "oak wood  grain.png"),
        ("-clamp on -s 2 2 wood.png", "wood.png"),
        ("-o 0.5 -mm 0 1 -bm 2.5 old oak.png", "old oak.png"),
        ("-s 1 1 1 7.png", "7.png"),
        ("-blendu off", ""),
        ("", ""),
    ],
)
def test_a_texture_in_a_material_is_what_stands_behind_its_options(rest, name):
    assert texture_name(rest) == name


def test_a_texture_with_spaces_and_percents_goes_along(tmp_path):
    (tmp_path / "in").mkdir()
    for name in ("oak wood 50%.png", "a%41.png"):
        (tmp_path / "in" / name).write_bytes(PNG)
    write(tmp_path / "in", "obj", "oak wood 50%.png")
    (entry,) = deliver_as(tmp_path, "{format: same}")["assets"]
    assert {c["path"] for c in entry["companions"]} == {"s.mtl", "oak wood 50%.png"}
    assert (tmp_path / "out" / "oak wood 50%.png").exists()
    (tmp_path / "out").rename(tmp_path / "first")
    (entry,) = deliver_as(tmp_path, "{format: gltf}")["assets"]
    document = json.loads((tmp_path / "out" / "sign.gltf").read_text())
    assert document["images"] == [{"uri": "oak%20wood%2050%25.png"}]
    assert Path(tmp_path / "out" / "oak wood 50%.png").exists()
