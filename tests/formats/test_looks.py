"""What materials say beyond a colour: carried where a format holds it, told of where it gets lost."""

from __future__ import annotations

import json
import shutil

import numpy as np
import pytest
from pxr import Sdf, Usd, UsdGeom, UsdShade

from oak_square.delivery.batch import find_sources
from oak_square.delivery.surveying import receive
from oak_square.demo import BATCH
from oak_square.demo.textures import plate_images
from oak_square.formats.register import FORMATS
from oak_square.formats.shared.crossing import losses
from tests.made import accessor, opened
from tests.runs import deliver_as

PLATE = 1  # the primitive that wears all of it


@pytest.fixture
def folder(tmp_path):
    (tmp_path / "in").mkdir()
    shutil.copy(BATCH / "milepost.glb", tmp_path / "in")
    return tmp_path


def across(folder, key, unit="unit: m, up: Y"):
    """Deliver what is in `in` as another format, put that in its place, and return its warnings."""
    (entry,) = deliver_as(folder, f"{{format: {key}, {unit}}}")["assets"]
    assert entry["status"] == "delivered", entry["reason"]
    shutil.rmtree(folder / "in")
    (folder / "out").rename(folder / "in")
    (folder / "in" / "delivery.json").unlink()
    return entry["warnings"]


def plate_of(path):
    """The plate's material, each texture as its image's bytes, its sampler and the coordinates that lay it on."""
    document, binary = opened(path.read_bytes())
    primitive = document["meshes"][0]["primitives"][PLATE]
    item = document["materials"][primitive["material"]]

    def laid(mention):
        texture = document["textures"][mention["index"]]
        view = document["bufferViews"][document["images"][texture["source"]]["bufferView"]]
        data = bytes(binary[view["byteOffset"] : view["byteOffset"] + view["byteLength"]])
        uvs = accessor(document, binary, primitive["attributes"][f"TEXCOORD_{mention.get('texCoord', 0)}"])
        points = accessor(document, binary, primitive["attributes"]["POSITION"])
        used = accessor(document, binary, primitive["indices"]).ravel()
        rows = {(*np.round(points[k], 5).tolist(), *np.round(uvs[k], 5).tolist()) for k in used.tolist()}
        sampler = document["samplers"][texture["sampler"]] if "sampler" in texture else None
        return data, sampler, rows

    surface = item["pbrMetallicRoughness"]
    holders = {**{k: v for k, v in surface.items() if "Texture" in k}, **{k: v for k, v in item.items() if "Tex" in k}}
    return item, surface, {k: laid(v) for k, v in holders.items()}


def test_all_of_a_painted_and_cast_plate_comes_back_from_usd(folder):
    before = plate_of(folder / "in" / "milepost.glb")
    assert across(folder, "usda") == ["USD text can't hold how strong its normal maps are"]
    assert across(folder, "glb") == []
    item, surface, textures = plate_of(folder / "in" / "milepost.glb")
    assert textures == before[2]
    assert {t[0] for t in textures.values()} == set(plate_images().values())
    for key in ("baseColorFactor", "metallicFactor", "roughnessFactor"):
        assert surface[key] == pytest.approx(before[1][key], abs=1e-6)
    assert item["occlusionTexture"]["strength"] == pytest.approx(0.7)
    assert item["name"] == before[0]["name"]


def test_usd_gets_the_nodes_that_its_renderers_know(folder):
    across(folder, "usda")
    stage = Usd.Stage.Open(str(folder / "in" / "milepost.usda"))
    paint = next(UsdShade.Material(p) for p in stage.Traverse() if p.GetDisplayName() == "white paint")
    surface = paint.ComputeSurfaceSource()[0]

    def source(name):
        (found,), _ = surface.GetInput(name).GetConnectedSources()
        node = UsdShade.Shader(found.source.GetPrim())
        reader = UsdShade.Shader(node.GetInput("st").GetConnectedSources()[0][0].source.GetPrim())
        values = {str(i.GetBaseName()): i.Get() for i in node.GetInputs()}
        return str(found.sourceName), values, reader.GetInput("varname").Get()

    for name, output, image, space, coordinates in (
        ("diffuseColor", "rgb", "paint", "sRGB", "st"),
        ("roughness", "g", "light", "raw", "st"),
        ("metallic", "b", "light", "raw", "st"),
        ("normal", "rgb", "bumps", "raw", "st"),
        ("occlusion", "r", "shade", "raw", "st1"),
    ):
        own, values, varname = source(name)
        assert (own, values["sourceColorSpace"], varname) == (output, space, coordinates)
        assert f"plate_{image}" in values["file"].path
        assert (values["wrapS"], values["wrapT"]) == ("clamp", "clamp")
    # Each as the specification of the surface has it: a value is texture * scale + bias.
    assert source("diffuseColor")[1]["scale"] == pytest.approx((1, 0.97, 0.9, 1))
    assert source("roughness")[1]["scale"][1] == pytest.approx(0.9)
    assert source("normal")[1]["scale"] == (2, 2, 2, 1)
    assert source("normal")[1]["bias"] == (-1, -1, -1, 0)
    assert source("occlusion")[1]["scale"][0] == pytest.approx(0.7)
    assert source("occlusion")[1]["bias"][0] == pytest.approx(0.3)
    mesh = next(p for p in stage.Traverse() if p.IsA(UsdGeom.Mesh))
    st1 = np.array(UsdGeom.PrimvarsAPI(mesh).GetPrimvar("st1").Get())
    assert st1.max() <= 1
    assert UsdGeom.PrimvarsAPI(mesh).GetPrimvar("st").Get() is not None


def test_what_gets_lost_is_told_by_what_it_is(folder):
    asset = receive(find_sources([folder / "in"])[0]).asset
    light = {"the roughness and metalness of its materials", "its normal maps", "the occlusion of its materials"}
    tint, wraps, second = (
        "the colours that its textures are multiplied by", "how its textures wrap", "its second texture coordinates",
    )  # fmt: skip
    strength = {"how strong its normal maps are"}
    shading, light = light | strength | {tint, wraps, second}, light | strength
    for key, lost in (("usdc", strength), ("glb", set()), ("dae", light | {tint}), ("obj", light | {wraps, second})):
        assert set(losses(asset, FORMATS[key])) & shading == lost, key


def glowing(folder):
    """A lamp glass of five words: it glows by a texture, is cut out, drawn from both sides, and wraps as a mirror."""
    path = folder / "in" / "milepost.glb"
    document, binary = opened(path.read_bytes())
    document["samplers"][0] = {"wrapS": 33648, "wrapT": 10497}
    for k, item in enumerate(document["materials"]):
        item.pop("normalTexture", None)
        item.pop("occlusionTexture", None)
        item["name"] = f"glass_{k}"
        item["pbrMetallicRoughness"] = {"baseColorFactor": [1, 1, 1, 0.5], "baseColorTexture": {"index": 0}}
        item |= {"emissiveFactor": [1, 1, 1], "emissiveTexture": {"index": 1, "texCoord": 1}, "doubleSided": True}
        item |= {"alphaMode": "MASK", "alphaCutoff": 0.25}
    plate = document["meshes"][0]["primitives"][PLATE]
    for primitive in document["meshes"][0]["primitives"]:
        primitive |= {k: plate[k] for k in ("attributes", "indices")}
    text = json.dumps(document).encode()
    text += b" " * (-len(text) % 4)
    body = bytes(binary)
    total = 12 + 8 + len(text) + 8 + len(body)
    head = b"glTF" + b"".join(v.to_bytes(4, "little") for v in (2, total, len(text))) + b"JSON"
    path.write_bytes(head + text + len(body).to_bytes(4, "little") + b"BIN\0" + body)


@pytest.mark.parametrize("key", ["usdc", "gltf"])
def test_glow_cut_outs_and_both_sides_come_back(folder, key):
    glowing(folder)
    before = plate_of(folder / "in" / "milepost.glb")
    across(folder, key)
    across(folder, "glb")
    item, surface, textures = plate_of(folder / "in" / "milepost.glb")
    assert textures == before[2]
    assert (item["alphaMode"], item["doubleSided"]) == ("MASK", True)
    assert item["alphaCutoff"] == pytest.approx(0.25)
    assert item["emissiveFactor"] == [1, 1, 1]
    assert surface["baseColorFactor"] == pytest.approx([1, 1, 1, 0.5], abs=1e-6)


def test_collada_gets_glow_wrapping_and_second_coordinates(folder):
    glowing(folder)
    before = plate_of(folder / "in" / "milepost.glb")
    across(folder, "dae")
    text = (folder / "in" / "milepost.dae").read_text()
    assert '<emission><texture texture="glow-sampler-0" texcoord="map_2"/></emission>' in text
    assert "<wrap_s>MIRROR</wrap_s><wrap_t>WRAP</wrap_t>" in text
    assert '<bind_vertex_input semantic="map_2" input_semantic="TEXCOORD" input_set="1"/>' in text
    across(folder, "glb")
    _, _, textures = plate_of(folder / "in" / "milepost.glb")
    assert textures == before[2]


@pytest.mark.parametrize(
    ("effect", "opacity"),
    [
        ("", 1.0),
        ("<transparency><float>0.25</float></transparency>", 0.25),
        ("<transparency><float>0</float></transparency>", 1.0),
        ("<transparent><color>1 1 1 0.5</color></transparent>", 0.5),
        ('<transparent opaque="A_ONE"><color>0 0 0 0.5</color></transparent>'
         "<transparency><float>0.5</float></transparency>", 0.25),
        ('<transparent opaque="RGB_ZERO"><color>1 1 1 1</color></transparent>'
         "<transparency><float>0.25</float></transparency>", 0.75),
    ],
)  # fmt: skip
def test_how_solid_a_collada_effect_is(folder, effect, opacity):
    across(folder, "dae")
    path = folder / "in" / "milepost.dae"
    path.write_text(path.read_text().replace("</diffuse>", f"</diffuse>{effect}"))
    across(folder, "glb")
    item, surface, _ = plate_of(folder / "in" / "milepost.glb")
    assert surface["baseColorFactor"][3] == pytest.approx(opacity)
    assert item.get("alphaMode", "OPAQUE") == ("OPAQUE" if opacity == 1 else "BLEND")


def test_what_usd_says_beyond_a_look_is_told(folder):
    across(folder, "usda")
    stage = Usd.Stage.Open(str(folder / "in" / "milepost.usda"))
    paint = next(UsdShade.Material(p) for p in stage.Traverse() if p.GetDisplayName() == "white paint")
    paint.ComputeSurfaceSource()[0].CreateInput("clearcoat", Sdf.ValueTypeNames.Float).Set(0.5)
    stage.GetRootLayer().Save()
    (said,) = across(folder, "glb")
    assert "what else its materials say" in said


def test_an_obj_tells_what_its_library_has_beyond_colour_and_texture(tmp_path):
    (tmp_path / "in").mkdir()
    (tmp_path / "in" / "hut.obj").write_text("mtllib hut.mtl\nv 0 0 0\nv 1 0 0\nv 0 1 0\nusemtl a\nf 1 2 3\n")
    library = tmp_path / "in" / "hut.mtl"
    for words, lost in (
        ("Kd 1 0 0\nKs 0 0 0\nKe 0 0 0\n", ()),
        ("Ke 1 0.5 0\n", ("emission",)),
        ("map_Bump -bm 0.5 bump.png\nKs 0.5 0.5 0.5\n", ("normal maps", "further shading")),
    ):
        library.write_text(f"newmtl a\n{words}")
        assert receive(find_sources([tmp_path / "in"])[0]).asset.shading == lost
