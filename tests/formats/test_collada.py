"""COLLADA as people's programs write it: the unit and axis believed, stacks kept, geometry edited in place."""

from __future__ import annotations

import re

import numpy as np
import pytest

from oak_square.core.boxes import asset_box
from oak_square.core.errors import BadFile
from oak_square.core.scene import PLAIN_COLOUR
from oak_square.delivery.batch import find_sources
from oak_square.delivery.surveying import receive
from oak_square.formats.register import FORMATS
from tests.runs import deliver_as, through, troubles
from tests.strategies import world_points

BRIDGE = """<?xml version="1.0" encoding="utf-8"?>
<!-- a footbridge at Fenwick Lock -->
<COLLADA xmlns='http://www.collada.org/2005/11/COLLADASchema' version="1.4.1">
  <asset><unit name="foot" meter="0.3048" /><up_axis>Z_UP</up_axis><extra>kept</extra></asset>
  <library_images><image id="wood"><init_from>wood%20grain.png</init_from></image></library_images>
  <library_effects><effect id="oak-fx"><profile_COMMON>
    <newparam sid="s"><surface type="2D"><init_from>wood</init_from></surface></newparam>
    <newparam sid="m"><sampler2D><source>s</source></sampler2D></newparam>
    <technique sid="c"><lambert><diffuse><texture texture="m" texcoord="UV"/></diffuse></lambert></technique>
  </profile_COMMON></effect></library_effects>
  <library_materials><material id="oak"><instance_effect url="#oak-fx"/></material></library_materials>
  <library_geometries>
    <geometry id="plank" name="plank"><mesh>
      <source id="plank-pos"><float_array id="plank-pos-a" count="13">99
         0 0 0   10 0 0
         10 4 0  0 4 0</float_array>
        <technique_common><accessor source="#plank-pos-a" count="4" offset="1" stride="3"/></technique_common></source>
      <source id="plank-n"><float_array id="plank-n-a" count="3">0 0 1</float_array>
        <technique_common><accessor source="#plank-n-a" count="1" stride="3"/></technique_common></source>
      <source id="plank-uv"><float_array id="plank-uv-a" count="4">0 0 1 1</float_array>
        <technique_common><accessor source="#plank-uv-a" count="2" stride="2"/></technique_common></source>
      <vertices id="plank-v"><input semantic="POSITION" source="#plank-pos"/></vertices>
      <polylist count="1" material="m0"><input semantic="VERTEX" source="#plank-v" offset="0"/>
        <input semantic="NORMAL" source="#plank-n" offset="1"/>
        <input semantic="TEXCOORD" source="#plank-uv" offset="2" set="0"/>
        <vcount>4</vcount><p>0 0 0 1 0 1 2 0 1 3 0 0</p></polylist>
    </mesh></geometry>
  </library_geometries>
  <library_visual_scenes><visual_scene id="s0">
    <node id="bridge" name="bridge">
      <translate sid="t">0 0 2</translate><rotate sid="rz">0 0 1 90</rotate><scale>2 2 2</scale>
      <node id="deck" name="deck"><instance_geometry url="#plank"><bind_material><technique_common>
        <instance_material symbol="m0" target="#oak"/></technique_common></bind_material></instance_geometry></node>
      <node id="rail" name="rail"><matrix>1 0 0 0  0 0 -1 0  0 1 0 3  0 0 0 1</matrix>
        <instance_geometry url="#plank"/></node>
    </node>
  </visual_scene></library_visual_scenes>
  <scene><instance_visual_scene url="#s0"/></scene>
</COLLADA>
"""

CLIPS = "<library_animations><animation/></library_animations>"


@pytest.fixture
def folder(tmp_path):
    (tmp_path / "in").mkdir()
    (tmp_path / "in" / "bridge.dae").write_text(BRIDGE)
    (tmp_path / "in" / "wood grain.png").write_bytes(b"\x89PNG")
    return tmp_path


def read(folder, name="in"):
    return receive(find_sources([folder / name])[0])


def test_its_unit_and_axis_are_believed_and_its_stacks_multiplied(folder):
    received = read(folder)
    asset = received.asset
    assert (asset.reading.metres_per_unit, asset.reading.up, asset.reading.source) == (0.3048, "+Z", "declared")
    assert [n.name for n in asset.nodes] == ["bridge", "deck", "rail"]
    # Ten feet along x, turned a quarter about the upright and doubled: twenty feet back, in metres.
    deck = world_points(asset, 1)
    assert np.abs(deck - 0.3048 * np.array([[0, 2, 0], [0, 2, -20], [-8, 2, -20], [-8, 2, 0]])).max() < 1e-9
    assert asset_box(asset).size[1] == pytest.approx(0.3048 * (3 + 4) * 2)
    assert received.companions == ("wood grain.png",)
    assert asset.carries == ("materials", "texture-coordinates", "textures")


def test_a_place_changes_one_number_and_nothing_else(folder):
    entry = through(folder, "{do: place, at: origin, by: pivot, shift: [0, 1.8288, 0]}")
    assert (entry["status"], entry["deviation_m"] < 1e-9) == ("delivered", True)
    out = (folder / "out" / "bridge.dae").read_text()
    assert out == BRIDGE.replace('<translate sid="t">0 0 2</translate>', '<translate sid="t">0 0 8</translate>')
    assert entry["companions"][0]["path"] == "wood grain.png"
    assert not any(troubles(folder / "out").values())


def test_a_bake_rewrites_shared_geometry_and_leaves_the_rest(folder):
    before = read(folder).asset
    entry = through(folder, "{do: bake}")
    assert entry["status"] == "delivered", entry["reason"]
    after = read(folder, "out").asset
    for i in before.parts:
        assert np.abs(world_points(after, i) - world_points(before, i)).max() < 1e-6
    assert all((n.placement.scale == 1).all() for n in after.nodes)
    out = (folder / "out" / "bridge.dae").read_text()
    assert entry["warnings"][-1] == "shared geometry 'plank' split: 'plank.2' for 'rail'"
    assert '<geometry id="plank.2"' in out
    assert 'url="#plank.2"' in out
    assert "<!-- a footbridge at Fenwick Lock -->" in out
    assert ">99\n" in out
    assert "<extra>kept</extra>" in out


def test_another_unit_and_axis_are_declared_when_asked_for(folder):
    (entry,) = deliver_as(folder, "{unit: cm, up: Y}")["assets"]
    assert entry["status"] == "delivered"
    out = (folder / "out" / "bridge.dae").read_text()
    assert '<unit name="centimeter" meter="0.01" /><up_axis>Y_UP</up_axis>' in out
    before, after = read(folder).asset, read(folder, "out").asset
    for i in before.parts:
        assert np.abs(world_points(after, i) - world_points(before, i)).max() < 1e-6


def test_a_mirror_winds_polygons_the_other_way_with_all_their_indices(folder):
    text = BRIDGE.replace("<scale>2 2 2</scale>", "<scale>-2 2 2</scale>")
    (folder / "in" / "bridge.dae").write_text(text)
    entry = through(folder, "{do: bake, what: [scale]}")
    assert entry["status"] == "delivered", entry["reason"]
    out = (folder / "out" / "bridge.dae").read_text()
    assert re.findall(r"<p>(.*?)</p>", out) == ["0 0 0 3 0 0 2 0 1 1 0 1"] * 2


@pytest.mark.parametrize(
    ("change", "says"),
    [
        (("<library_geometries>", CLIPS + "<library_geometries>"), "has clips"),
        (('<instance_geometry url="#plank"/>', '<instance_node url="#deck"/>'), "stands once in the file"),
    ],
)  # fmt: skip
def test_what_is_not_carried_refuses_a_change_and_is_delivered_untouched_without(folder, change, says):
    (folder / "in" / "bridge.dae").write_text(BRIDGE.replace(*change))
    assert says in through(folder, "{do: bake}")["reason"]
    assert through(folder, "{do: size, factor: 1}")["status"] == "unchanged"


@pytest.mark.parametrize(
    ("change", "says"),
    [
        (("<COLLADA", '<!DOCTYPE c [<!ENTITY a "aa">]><COLLADA'), "declares a document type"),
        (("Z_UP", "W_UP"), "up axis 'W_UP' is none of"),
        (("0.3048", "a foot"), "which is no number"),
        (("10 4 0", "10 4 zero"), "holds something that is no number"),
        (('count="4" offset="1"', 'count="4000" offset="1"'), "declares 4000 rows of 3 and has 13 numbers"),
        (("<p>0 0 0 1", "<p>7 0 0 1"), "names POSITION 7, which is not there"),
        (('url="#plank"/>', 'url="#plonk"/>'), "'#plonk', not there"),
        (("</COLLADA>", ""), "no well-formed XML"),
        (('encoding="utf-8"', 'encoding="utf-7"'), "an encoding that is not read"),
    ],
)
def test_what_is_wrong_or_hostile_is_said(tmp_path, change, says):
    path = tmp_path / "bridge.dae"
    path.write_text(BRIDGE.replace(*change, 1))
    with pytest.raises(BadFile, match=says):
        FORMATS["dae"].read(path, "bridge.dae")


def test_lookat_and_skew_place_a_node_as_the_specification_says(folder):
    # 1.4.1, 5: a lookat stands at its eye and looks along -Z at its point; a skew by 45 degrees moves along its line
    # by as much as a point lies off across it.
    stack = "<lookat>1 2 3  1 2 -7  0 1 0</lookat><skew>45  0 1 0  1 0 0</skew>"
    text = re.sub(r"<node [^>]*name=\"deck\".*?>", lambda m: m[0] + stack, BRIDGE, count=1, flags=re.DOTALL)
    assert stack in text
    (folder / "in" / "bridge.dae").write_text(text)
    asset = read(folder).asset
    deck = next(n for n in asset.nodes if n.name == "deck")
    plain = next(n for n in _plain_bridge(folder).nodes if n.name == "deck")
    # In the file's own frame, feet, Z up.
    lean = np.eye(4)
    lean[0, 1], lean[:3, 3] = 1, (1, 2, 3)
    basis = asset.reading.working_from_file
    wanted = basis @ lean @ np.linalg.inv(basis) @ plain.placement.matrix
    assert deck.placement.matrix == pytest.approx(wanted, abs=1e-9)


def _plain_bridge(folder):
    (folder / "in" / "bridge.dae").write_text(BRIDGE)
    return read(folder).asset


def test_a_lookat_aside_turns_its_back_on_what_it_looks_at():
    from oak_square.formats.collada.document import transform_of

    class Numbers:
        def numbers(self, element):
            return np.array([0.0, 0, 0, 5, 0, 0, 0, 0, 1])

    class Tag:
        tag = "lookat"

    matrix = transform_of(Numbers(), Tag())
    # Its -Z lies along +X, its Y is up, its X is what is left of a right-handed frame.
    assert matrix[:3, :3] == pytest.approx(np.array([[0, 0, -1], [-1, 0, 0], [0, 1, 0]]))


@pytest.mark.parametrize(
    ("said", "red"), [("0,25 0,5 0,75 1", 0.25), ("a b c d", None), ("nan 0 0 1", None), ("0.5", None)]
)
def test_a_colour_that_can_not_be_read_costs_itself_alone(tmp_path, said, red):
    text = BRIDGE.replace('<texture texture="m" texcoord="UV"/>', f"<color>{said}</color>")
    assert text != BRIDGE
    (tmp_path / "bridge.dae").write_text(text)
    asset = receive(find_sources([tmp_path / "bridge.dae"])[0]).asset
    colours = {s.colour[0] for m in asset.meshes for s in m.surfaces if s.material is not None}
    assert colours == {PLAIN_COLOUR[0] if red is None else red}


# A triangle aslant about z, under a node that is scaled threefold in y; all of its directions are unit.
RAMP = """<?xml version="1.0" encoding="utf-8"?>
<COLLADA xmlns="http://www.collada.org/2005/11/COLLADASchema" version="1.4.1">
  <asset><unit name="meter" meter="1"/><up_axis>Y_UP</up_axis></asset>
  <library_geometries><geometry id="ramp" name="ramp"><mesh>
    {sources}
    <vertices id="ramp-v"><input semantic="POSITION" source="#ramp-p"/></vertices>
    <triangles count="1"><input semantic="VERTEX" source="#ramp-v" offset="0"/>
      <input semantic="NORMAL" source="#ramp-n" offset="1"/><input semantic="{tangent}" source="#ramp-t" offset="1"/>
      <input semantic="{binormal}" source="#ramp-b" offset="1"/><p>0 0 1 0 2 0</p></triangles>
  </mesh></geometry></library_geometries>
  <library_visual_scenes><visual_scene id="s0"><node id="n0" name="ramp"><scale>1 3 1</scale>
    <instance_geometry url="#ramp"/></node></visual_scene></library_visual_scenes>
  <scene><instance_visual_scene url="#s0"/></scene>
</COLLADA>
"""
HALF = np.sqrt(0.5)


def write_ramp(tmp_path, tangent, binormal):
    rows = {"p": "0 1 0 0 1 1 1 0 0", "n": f"{HALF} {HALF} 0", "t": f"{HALF} -{HALF} 0", "b": "0 0 -1"}
    sources = "".join(
        f'<source id="ramp-{key}"><float_array id="ramp-{key}-a" count="{len(row.split())}">{row}</float_array>'
        f'<technique_common><accessor source="#ramp-{key}-a" count="{len(row.split()) // 3}" stride="3"/>'
        "</technique_common></source>"
        for key, row in rows.items()
    )
    (tmp_path / "in").mkdir()
    (tmp_path / "in" / "ramp.dae").write_text(RAMP.format(sources=sources, tangent=tangent, binormal=binormal))


def rows_of(text, key):
    """The unit directions of the triangle's three corners, by the file's own numbers."""
    values = np.array(re.search(rf'ramp-{key}-a"[^>]*>([^<]*)<', text)[1].split(), dtype=float).reshape(-1, 3)
    return values / np.linalg.norm(values, axis=1)[:, None]


@pytest.mark.parametrize(("tangent", "binormal"), [("TANGENT", "BINORMAL"), ("TEXTANGENT", "TEXBINORMAL")])
def test_tangents_go_with_the_surface_and_normals_stay_square_to_it(tmp_path, tangent, binormal):
    write_ramp(tmp_path, tangent, binormal)
    entry = through(tmp_path, "{do: bake}")
    assert entry["status"] == "delivered", entry["reason"]
    text = (tmp_path / "out" / "ramp.dae").read_text()
    # Three times as steep: along it one to three, square to it three to one.
    for key, wanted in (("t", [1, -3, 0]), ("n", [3, 1, 0]), ("b", [0, 0, -1])):
        assert rows_of(text, key) == pytest.approx(np.array([wanted]) / np.linalg.norm(wanted), abs=1e-6), key


@pytest.mark.parametrize(("tangent", "binormal"), [("TANGENT", "BINORMAL"), ("TEXTANGENT", "TEXBINORMAL")])
def test_tangents_are_squared_to_the_normals_of_a_shape_and_do_not_become_them(tmp_path, tangent, binormal):
    write_ramp(tmp_path, tangent, binormal)
    entry = through(tmp_path, "{do: shape, take: {side: right, within: 1 %}, by: [0, -1 m, 0], parts: [ramp]}")
    assert entry["status"] == "delivered", entry["reason"]
    text = (tmp_path / "out" / "ramp.dae").read_text()
    # In its own frame the corner at x 1 sank by a third: the slope there is one to four thirds.
    for key, wanted in (("t", [3, -4, 0]), ("n", [4, 3, 0]), ("b", [0, 0, -1])):
        found = rows_of(text, key)
        assert found == pytest.approx(np.tile(np.array(wanted) / np.linalg.norm(wanted), (len(found), 1)), abs=1e-6)
