"""What a proof sees: every field of a delivered file is damaged, one at a time, as a faulty writer would.

What is not seen must stand on the list of what is not compared, with what tells it here; and each entry of that list
that a file can show is shown by one.
"""

from __future__ import annotations

import copy
import re
import zipfile
from io import BytesIO

import numpy as np
import pytest

from oak_square.core.errors import DataTrouble
from oak_square.delivery.batch import find_sources
from oak_square.delivery.files import write_chunks
from oak_square.delivery.proof_written import NOT_COMPARED, prove_written
from oak_square.delivery.surveying import receive
from oak_square.formats.register import FORMATS
from oak_square.formats.shared.crossing import cross
from oak_square.sheet.evaluate import evaluate
from oak_square.sheet.text import parse_sheet
from tests.formats.test_collada import BRIDGE
from tests.formats.test_crossing import LIBRARY, LOOKED, PNG
from tests.formats.test_off import SIGN as OFF
from tests.formats.test_ply import made as ply
from tests.formats.test_threemf import package
from tests.formats.test_usd import SIGN as USD
from tests.made import glb, laid_out, opened

# What tells each entry of the list, by the label of a damage; None where no file here shows it.
EXCUSED = {
    1: r"glb json/(accessors/\d+/(min|max|byteOffset|normalized)|bufferViews|buffers|meshes/\d+/primitives/\d+/indices)"
    r"|usda interpolation in |dae (name|foot) in .*<unit |dae count in |dae [01] in .*<matrix>"
    r"|off 0 in 4 2 0|usda .* in .*extent|usda 0.70\d+ in quatd",
    2: r"dae 1 in .*plank-n",
    3: r"glb json/skins/\d+/skeleton",
    5: r"dae 99 in |usda .* in float3? xformOp:",  # operations that are not in the order any more
}
"""What tells entries of the list, by their place there, where a file here shows them: labels of damages."""


CROSSED = (
    # What all files of a format have, whoever made them and of what; identifiers nobody refers to; names of materials.
    r"(xmlns|http:|schemas?\b|\.org|\.com|package|openxml|relationships|20\d\d|content-types|core|en-US|xml:lang|version"
    r"|generator|Oak|Square|created|name|[Ii]d|sid|common|Application|Types|Default|Extension|application|rels)\b"
    r"|json/(asset|scene gone|images|materials/\d/name|meshes/\d/name|accessors/\d+/(min|max)|bufferViews|buffers)"
    r"|colour_b8ad9e|\boak\b|\bred\b|material-|effect-"
    # Looks that came without a word on light, and colours that are none beyond white.
    r"|metallicFactor|roughness|baseColorFactor|doubleSided|material( gone)?$|materials shorter"
    # Numbers that follow from others, are no unit's, or name one row for another that says the same.
    r"|usda (upAxis|token|inputs:|outputs:|sRGB|repeat|float[23]|Shader|surface|map|color3f|apiSchemas|Material|Scope)"
    r"|usda (1 in (normal3f|color3f)|interpolation|vertex in|primvars:st|xformOpOrder|[\d.]+ in quatd)"
    r"|dae (offset|set|\S+ in <(triangles count|instance_geometry url)|1 in <rotate>|.* in <scene>)"
    r"|numbers of accessor 1|count in|[Ee]xtent|in (vn|f) |in \d+ \d+ 0$|^off (255|1) in|meter|unit in|stride in"
)
"""What is not seen after crossing, by what it is: labels of damages."""


def everything():
    """A glTF with all that a node, a mesh and a file may have beside triangles."""
    corners = np.array([[0, 0, 0], [1, 0, 0], [0, 2, 0]], "<f4")
    ups, maps = np.array([[0, 0, 1]] * 3, "<f4"), np.array([[0, 0], [1, 0], [0, 1]], "<f4")
    tans = np.array([[1, 0, 0, 1]] * 3, "<f4")
    shades, odd = np.array([[1, 0, 0], [0, 1, 0], [0, 0, 1]], "<f4"), np.array([[1], [2], [3]], "<f4")
    raised, spots = np.array([[0, 0, 0], [0, 0, 1], [0, 0.5, 0]], "<f4"), np.array([[0, 0, 0], [3, 0, 0]], "<f4")
    marks, times = np.array([[5], [7]], "<f4"), np.array([[0], [1]], "<f4")
    lifts, weights = np.array([[0, 0, 0], [0, 1, 0]], "<f4"), np.array([[0], [1]], "<f4")
    rows = [corners, ups, maps, tans, shades, odd, raised, spots, marks, times, lifts, weights]
    rows.append(np.array([[0], [1], [2], [0]], "<u2")[:3])
    lists, binary = laid_out(*rows)
    attributes = {"POSITION": 0, "NORMAL": 1, "TEXCOORD_0": 2, "TANGENT": 3, "COLOR_0": 4, "_AGE": 5}
    primitive = {
        "attributes": attributes,
        "indices": 12,
        "material": 0,
        "targets": [{"POSITION": 6}],
        "extras": {"p": 1},
    }
    spread = {"EXT_mesh_gpu_instancing": {"attributes": {"TRANSLATION": 7, "_ID": 8}}}
    light = {
        "KHR_lights_punctual": {"lights": [{"type": "spot", "color": [1, 0.5, 0.25], "range": 7.0, "name": "lamp"}]}
    }
    plain = {"attributes": {"POSITION": 0}, "indices": 12}
    document = {
        "asset": {"version": "2.0", "generator": "by hand", "copyright": "Fenwick", "extras": {"a": 1}},
        "scene": 0, "scenes": [{"name": "yard", "nodes": [0], "extras": {"s": 1}}], "extras": {"root": [1, 2]},
        "nodes": [
            {"name": "yard", "children": [1, 2, 3, 4], "scale": [2, 2, 2], "extras": {"n": 1}},
            {"name": "flag", "mesh": 0, "translation": [1, 2, 3], "rotation": [0, 0.6, 0, 0.8], "weights": [0.25]},
            {"name": "posts", "mesh": 1, "extensions": spread},
            {"name": "eye", "camera": 0, "translation": [0, 1, 0]},
            {"name": "glow", "extensions": {"KHR_lights_punctual": {"light": 0}}, "translation": [0, 2, 0]},
        ],
        "meshes": [
            {"name": "flag", "primitives": [primitive], "weights": [0.5], "extras": {"targetNames": ["up"]}},
            {"name": "post", "primitives": [plain]},
        ],
        "cameras": [{"name": "eye", "type": "perspective", "perspective": {"yfov": 0.7, "znear": 0.1, "zfar": 9}}],
        "materials": [{"name": "red", "pbrMetallicRoughness": {"baseColorFactor": [1, 0, 0, 1]}, "extras": {"m": 1}}],
        "animations": [{
            "name": "wave", "extras": {"c": 1},
            "samplers": [{"input": 9, "output": 10}, {"input": 9, "output": 11}],
            "channels": [
                {"sampler": 0, "target": {"node": 1, "path": "translation"}},
                {"sampler": 1, "target": {"node": 1, "path": "weights"}},
            ],
        }],
        "extensionsUsed": ["EXT_mesh_gpu_instancing", "KHR_lights_punctual"], "extensions": light, **lists,
    }  # fmt: skip
    return glb(document, binary)


PLANK = USD.replace(
    "def Xform", 'def Xform "unused" ( kind = "group" )\n{\n    token visibility = "inherited"\n}\n\ndef Xform', 1
)
FILES = {
    "glb": ("all.glb", everything, "{do: place, shift: [0, 0.25, 0]}"),
    "dae": ("bridge.dae", lambda: BRIDGE.encode(), "{do: bake}"),
    "3mf": ("casks.3mf", package, "{do: bake, what: [scale, rotation, location]}"),
    "usda": ("sign.usda", lambda: PLANK.encode(), "{do: bake, what: [scale]}"),
    "obj": ("board.obj", lambda: LOOKED.encode(), "{do: turn, by: [0, 30, 0]}"),
    "off": ("sign.off", lambda: OFF, "{do: turn, by: [0, 30, 0]}"),
    "ply": ("tiller.ply", lambda: ply("ascii"), "{do: turn, by: [0, 30, 0]}"),
    "stl": ("plate.stl", lambda: STL, "{do: turn, by: [0, 30, 0]}"),
}
STL = b"""solid plate of the sluice
 facet normal 0 0 1
  outer loop
   vertex 0 0 0
   vertex 2 0 0
   vertex 0 3 0
  endloop
 endfacet
endsolid plate of the sluice
"""


def spoilt_number(text):
    return str(int(text) + 1) if re.fullmatch(rb"-?\d+", text) else repr(float(text) + 0.37)


def in_json(value, label):
    """Yield copies of a JSON value, each with one leaf changed, one key or one item taken away."""
    if isinstance(value, dict):
        for key in value:
            yield f"{label}/{key} gone", {k: v for k, v in value.items() if k != key}
            for name, one in in_json(value[key], f"{label}/{key}"):
                yield name, {**value, key: one}
    elif isinstance(value, list):
        if value:
            yield f"{label} shorter", value[:-1]
        for k, item in enumerate(value):
            for name, one in in_json(item, f"{label}/{k}"):
                yield name, [*value[:k], one, *value[k + 1 :]]
    elif isinstance(value, str):
        yield label, f"{value}x"
    elif isinstance(value, bool):
        yield label, not value
    else:
        yield label, value + (1 if isinstance(value, int) else 0.37)


def glb_damages(data):
    document, binary = opened(data)
    for label, one in in_json(document, "json"):
        yield label, glb(copy.deepcopy(one), binary)
    for k, item in enumerate(document["accessors"]):
        view = document["bufferViews"][item["bufferView"]]
        at = view.get("byteOffset", 0) + item.get("byteOffset", 0)
        at += 4 if item["type"] != "SCALAR" and item["componentType"] == 5126 else 0
        spoilt = bytearray(binary)
        if item["componentType"] == 5126:
            spoilt[at : at + 4] = (np.frombuffer(binary, "<f4", 1, at) + np.float32(0.5)).tobytes()
        else:
            spoilt[at] ^= 1
        yield f"numbers of accessor {k}", glb(document, bytes(spoilt))


TEXT = re.compile(rb"[^\s<>\"'=,()\[\]{}/;]+")


def text_damages(data, apart=rb"\A\Z"):
    """Yield copies of a text with one word of it changed, or one line taken away; comments are left."""
    skip = [m.span() for m in re.finditer(apart, data)]
    for match in TEXT.finditer(data):
        if any(a <= match.start() < b for a, b in skip):
            continue
        word = match[0]
        try:
            new = spoilt_number(word).encode()
        except ValueError:
            new = word + b"x"
        line = data[data.rfind(b"\n", 0, match.start()) + 1 : data.find(b"\n", match.end())]
        yield f"{word.decode()} in {line.decode().strip()[:60]}", data[: match.start()] + new + data[match.end() :]


def package_damages(data):
    with zipfile.ZipFile(BytesIO(data)) as archive:
        parts = {name: archive.read(name) for name in archive.namelist()}
    for name, own in parts.items():
        for label, one in text_damages(own, rb"<!--.*?-->|<\?.*?\?>"):
            out = BytesIO()
            with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
                for each, text in parts.items():
                    archive.writestr(each, one if each == name else text)
            yield f"{name}: {label}", out.getvalue()


DAMAGES = {
    "glb": glb_damages,
    "3mf": package_damages,
    "dae": lambda d: text_damages(d, rb"<!--.*?-->|<\?.*?\?>"),
    "usda": lambda d: text_damages(d, rb"#[^\n]*"),
    "obj": lambda d: text_damages(d, rb"#[^\n]*"),
    "off": lambda d: text_damages(d, rb"#[^\n]*"),
    "ply": text_damages,
    "stl": text_damages,
}


def written_file(folder, key, target, steps):
    """The source as read, what was written, and a function that proves some bytes in place of it."""
    name, made, _ = FILES[key]
    (folder / "in").mkdir()
    (folder / "in" / name).write_bytes(made())
    (folder / "in" / "board.mtl").write_text(LIBRARY)
    for picture in ("letters.png", "wood grain.png"):
        (folder / "in" / picture).write_bytes(PNG)
    sheet = parse_sheet(f"prep-sheet: 1\nsteps: [{steps}]\n", "s")
    source = receive(find_sources([folder / "in" / name])[0])
    prepared = evaluate(source.asset, sheet)
    kind = FORMATS[target]
    reading = kind.reading_out(sheet.deliver.file_reading(prepared.read.reading, declares=kind.declares))
    write = kind.write if target == key else lambda *given: cross(*given[:2], kind, given[2])
    out = write(source, prepared.asset, reading)
    assert out.chunks is not None
    path = folder / "out" / f"{name.split('.')[0]}{kind.suffixes[0]}"
    path.parent.mkdir()
    for companion in out.companions:
        if companion.source is None:
            write_chunks(path.parent / companion.path, companion.chunks)
        else:
            write_chunks(path.parent / companion.path, (companion.source.read_bytes(),))
    write_chunks(path, out.chunks)

    def is_seen(data):
        # A name of its own each time: libraries remember what they have opened.
        is_seen.count += 1
        own = path.with_name(f"{path.stem}{is_seen.count}{path.suffix}") if key == target == "usda" else path
        own.write_bytes(data)
        try:
            again = kind.read(own, path.name)
            prove_written(source, out.asset or prepared.asset, out, again, reading)
        except DataTrouble:
            return True
        return False

    is_seen.count = 0
    return path.read_bytes(), is_seen


@pytest.mark.parametrize("key", sorted(FILES))
def test_every_field_that_is_damaged_is_seen_or_on_the_list(key, tmp_path):
    data, is_seen = written_file(tmp_path, key, key, FILES[key][2])
    assert not is_seen(data)
    unseen = [label for label, one in DAMAGES[key](data) if one != data and not is_seen(one)]
    left = [label for label in unseen if not any(re.search(p, f"{key} {label}") for p in EXCUSED.values())]
    assert not left, "\n".join(left)
    assert max(EXCUSED) < len(NOT_COMPARED)


@pytest.mark.parametrize("target", ["glb", "dae", "3mf", "usda", "obj", "off"])
@pytest.mark.parametrize("key", ["dae", "glb"])
def test_every_field_of_a_file_of_another_format_that_is_damaged_is_seen_or_on_the_list(key, target, tmp_path):
    if key == target:
        return
    data, is_seen = written_file(tmp_path, key, target, FILES[key][2])
    assert not is_seen(data)
    unseen = [label for label, one in DAMAGES[target](data) if one != data and not is_seen(one)]
    left = [label for label in unseen if not re.search(CROSSED, f"{target} {label}")]
    assert not left, "\n".join(left)
