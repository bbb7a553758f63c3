"""3MF packages: items and components as nodes, transforms and numbers edited in place, archives opened with care."""

from __future__ import annotations

import io
import zipfile

import numpy as np
import pytest

from oak_square.core.boxes import asset_box
from oak_square.core.errors import BadFile
from oak_square.delivery.batch import find_sources
from oak_square.delivery.surveying import receive
from oak_square.formats.limits import Limits
from oak_square.formats.register import FORMATS
from tests.runs import deliver_as, through, troubles
from tests.strategies import world_points

RELS = """<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships">
<Relationship Target="/3D/casks.model" Id="r" Type="http://schemas.microsoft.com/3dmanufacturing/2013/01/3dmodel"/>
</Relationships>"""
CASKS = """<?xml version="1.0" encoding="UTF-8"?>
<!-- casks for the wharf -->
<model unit="millimeter" xmlns="http://schemas.microsoft.com/3dmanufacturing/core/2015/02">
 <metadata name="Title">Casks</metadata>
 <resources>
  <basematerials id="5">
   <base name="oak" displaycolor="#804000FF"/><base name="iron" displaycolor="#202020"/></basematerials>
  <object id="1" name="cask" type="model" pid="5" pindex="0"><mesh>
   <vertices>
    <vertex x="0" y="0" z="0"/><vertex y="0" x="600" z="0"/>
    <vertex x='600' y='0' z='900.5' /><vertex x="0" y="300" z="900.5"></vertex>
   </vertices>
   <triangles>
    <triangle v1="0" v2="1" v3="2"/><triangle v1="0" v2="2" v3="3" p1="1"/>
   </triangles>
  </mesh></object>
  <object id="2" name="pair"><components>
   <component objectid="1"/><component objectid="1" transform="1 0 0 0 1 0 0 0 1 1000 0 0"/>
  </components></object>
 </resources>
 <build>
  <item objectid="2" transform="0 1 0 -1 0 0 0 0 1 0 0 50"/>
  <item objectid="1"/>
 </build>
</model>
"""


def package(model=CASKS, *, extra=(("Metadata/notes.txt", "kept"),), rels=RELS):
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        archive.writestr("[Content_Types].xml", "<Types/>")
        archive.writestr("_rels/.rels", rels)
        archive.writestr("3D/casks.model", model)
        for name, text in extra:
            archive.writestr(name, text)
    return out.getvalue()


def spoiled(data, name=b".model"):
    """`data` with the packed bytes of its model, or of the part whose name ends so, overwritten."""
    start = data.index(name) + len(name)
    return data[:start] + b"\xff" * 8 + data[start + 8 :]


@pytest.fixture
def folder(tmp_path):
    (tmp_path / "in").mkdir()
    (tmp_path / "in" / "casks.3mf").write_bytes(package())
    return tmp_path


def read(folder, name="in"):
    return receive(find_sources([folder / name])[0])


def model_of(path):
    with zipfile.ZipFile(path) as archive:
        return archive.read("3D/casks.model").decode()


def test_items_and_components_are_nodes_in_millimetres_z_up(folder):
    asset = read(folder).asset
    assert (asset.reading.metres_per_unit, asset.reading.up, asset.reading.source) == (0.001, "+Z", "declared")
    assert [(n.name, n.parent, n.kind) for n in asset.nodes] == [
        ("pair", None, "group"), ("cask", 0, "part"), ("cask", 0, "part"), ("cask", None, "part"),
    ]  # fmt: skip
    # The second of the pair: a metre along x, turned a quarter onto y, fifty millimetres up.
    assert world_points(asset, 2)[1] == pytest.approx([0, 0.05, -1.6])
    assert [s.colour for s in asset.meshes[0].surfaces] == [
        pytest.approx((0.502, 0.251, 0), abs=1e-3), pytest.approx((0.125, 0.125, 0.125), abs=1e-3)
    ]  # fmt: skip
    assert asset.triangle_count == 6


def test_a_place_changes_transforms_alone(folder):
    entry = through(folder, "{do: place, shift: [1, 0, 0]}")
    assert (entry["status"], entry["deviation_m"] < 1e-9) == ("delivered", True)
    out = model_of(folder / "out" / "casks.3mf")
    wanted = CASKS.replace('1 0 0 50"', '1 1000 0 50"').replace(
        '<item objectid="1"/>', '<item objectid="1" transform="1 0 0 0 1 0 0 0 1 1000 0 0"/>'
    )
    assert out == wanted
    with zipfile.ZipFile(folder / "out" / "casks.3mf") as archive:
        assert archive.read("Metadata/notes.txt") == b"kept"
    assert not any(troubles(folder / "out").values())


def test_a_size_rewrites_an_object_once_for_all_its_places(folder):
    before = read(folder).asset
    entry = through(folder, "{do: size, factor: 2, about: origin}")
    assert entry["status"] == "delivered", entry["reason"]
    after = read(folder, "out").asset
    for i in before.parts:
        assert np.abs(world_points(after, i) - 2 * world_points(before, i)).max() < 1e-6
    out = model_of(folder / "out" / "casks.3mf")
    assert "<vertex x='1200' y='0' z='1801' />" in out
    assert "<!-- casks for the wharf -->" in out


def test_a_mirror_turns_triangles(tmp_path):
    (tmp_path / "in").mkdir()
    text = CASKS.replace('<item objectid="1"/>', '<item objectid="1" transform="-1 0 0 0 1 0 0 0 1 0 0 0"/>')
    text = text.replace('<item objectid="2" transform="0 1 0 -1 0 0 0 0 1 0 0 50"/>', "")
    (tmp_path / "in" / "casks.3mf").write_bytes(package(text))
    assert through(tmp_path, "{do: bake}")["status"] == "delivered"
    assert '<triangle v1="0" v2="2" v3="1"/><triangle v1="0" v2="3" v3="2" p1="1"/>' in model_of(
        tmp_path / "out" / "casks.3mf"
    )


def test_a_place_that_needs_other_geometry_gets_a_copy(folder):
    before = read(folder).asset
    text = CASKS.replace('<item objectid="1"/>', '<item objectid="1" transform="0 0 1 0 1 0 -1 0 0 0 0 0"/>')
    (folder / "in" / "casks.3mf").write_bytes(package(text))
    before = read(folder).asset
    entry = through(folder, "{do: bake}")
    assert entry["status"] == "delivered", entry["reason"]
    assert entry["warnings"][-1] == "object 1 is placed with other geometry for 'cask': a copy, object 6, was made"
    after = read(folder, "out").asset
    for i in before.parts:
        assert np.abs(world_points(after, i) - world_points(before, i)).max() < 1e-6
    out = model_of(folder / "out" / "casks.3mf")
    assert '<item objectid="6" transform="1 0 0 0 1 0 0 0 1 0 0 0"/>' in out
    assert [s.colour for s in after.meshes[1].surfaces] == [s.colour for s in before.meshes[0].surfaces]


def test_one_place_that_stands_for_parts_with_different_needs_is_refused(folder):
    text = CASKS.replace('<item objectid="1"/>', '<item objectid="2" transform="0 0 1 0 1 0 -1 0 0 0 0 0"/>')
    (folder / "in" / "casks.3mf").write_bytes(package(text))
    assert "is placed once in the file for several parts" in through(folder, "{do: bake}")["reason"]


def test_another_unit_is_written_when_asked_for(folder):
    (entry,) = deliver_as(folder, "{unit: m, up: Y}")["assets"]
    assert entry["status"] == "delivered", entry["reason"]
    assert 'unit="meter"' in model_of(folder / "out" / "casks.3mf")
    sizes = [asset_box(read(folder, name).asset).size for name in ("in", "out")]
    assert sizes[1] == pytest.approx(sizes[0])


@pytest.mark.parametrize(
    ("data", "says"),
    [
        (b"PK\x03\x04 but no more", "is no 3MF package"),
        (spoiled(package()), "its archive is damaged"),
        (package(extra=(("../../up.txt", "x"),)), "leads out of the package"),
        (package(rels="<Relationships/>"), "it has no model"),
        (package(CASKS.replace("millimeter", "furlong")), "its unit 'furlong' is none of"),
        (package(CASKS.replace('v3="3"', 'v3="9"')), "names a vertex that is not there"),
        (package(CASKS.replace('<item objectid="1"/>', '<item objectid="7"/>')), "places object 7, which is not there"),
        (package(CASKS.replace('<component objectid="1"/>', '<component objectid="2"/>')), "made of one another over"),
        (package(CASKS.replace("1 0 0 0 1 0 0 0 1 1000 0 0", "1 0 0")), "is not twelve numbers"),
        (package(CASKS.replace('x="0" y="0"', 'x="0"', 1)), "line 10: a vertex lacks one of its three numbers"),
        (package("<!DOCTYPE m [<!ENTITY a 'b'>]>" + CASKS[39:]), "declares a document type"),
        (package(extra=(("big.bin", b"\0" * 200_000_000),)), "more files or bytes than the limits allow"),
    ],
)
def test_what_is_wrong_or_hostile_is_said(tmp_path, data, says):
    path = tmp_path / "casks.3mf"
    path.write_bytes(data)
    with pytest.raises(BadFile, match=says):
        FORMATS["3mf"].read(path, "casks.3mf", Limits(unpacked_bytes=100_000_000))


def test_a_damaged_part_beside_the_model_is_told_as_damage(folder):
    path = folder / "in" / "casks.3mf"
    notes = ("Metadata/notes.txt", " ".join(map(str, range(99))))
    path.write_bytes(spoiled(package(extra=(notes,)), b"notes.txt"))
    assert "holds a part beside its model that is damaged" in through(folder, "{do: place, at: origin}")["reason"]
