"""Random files, laid out by hand here, through random steps and back."""

from __future__ import annotations

import re
from pathlib import Path
from tempfile import TemporaryDirectory

import numpy as np
import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from oak_square.core.errors import Refused
from oak_square.core.frames import AXES, Reading, translation
from oak_square.core.motion import carry_all, with_reading
from oak_square.delivery.proof import deviation
from oak_square.formats.register import FORMATS
from oak_square.sheet.evaluate import evaluate
from oak_square.sheet.model import Sheet
from oak_square.steps.step import STEPS
from tests.made import glb
from tests.strategies import assets, vectors, world_points

WORDS = st.lists(
    st.sampled_from(
        [
            {"do": "unit", "reads": "in"},
            {"do": "turn", "up": "+Z", "front": "-Y"},
            {"do": "pivot", "of": "parts"},
            {"do": "pivot"},
            {"do": "bake"},
            {"do": "bake", "what": ["scale"]},
            {"do": "place", "ground": True},
        ]
    ),
    max_size=4,
)


def as_glb(asset) -> bytes:
    """An asset written the plain way: every mesh with positions, normals and indices of its own."""
    views, accessors, meshes, binary = [], [], [], b""

    def add(values, kind, component, **more):
        nonlocal binary
        views.append({"buffer": 0, "byteOffset": len(binary), "byteLength": values.nbytes})
        accessors.append(
            {"bufferView": len(views) - 1, "componentType": component, "count": len(values), "type": kind, **more}
        )
        binary += values.tobytes() + b"\0" * (-values.nbytes % 4)
        return len(accessors) - 1

    users = [n for n in asset.nodes if n.mesh is not None]
    for node in users:
        mesh = asset.meshes[node.mesh]
        points = (mesh.points + node.local_from_mesh[:3, 3]).astype("<f4")
        ends = {"min": points.min(axis=0).tolist(), "max": points.max(axis=0).tolist()}
        attributes = {
            "POSITION": add(points, "VEC3", 5126, **ends),
            "NORMAL": add(mesh.normals.astype("<f4"), "VEC3", 5126),
        }
        indices = add(mesh.triangles.astype("<u2").reshape(-1, 1), "SCALAR", 5123)
        meshes.append({"primitives": [{"attributes": attributes, "indices": indices}]})
    nodes = []
    for i, node in enumerate(asset.nodes):
        placement = node.placement
        item = {
            "name": node.name,
            "translation": placement.translation.tolist(),
            "rotation": placement.rotation.tolist(),
            "scale": placement.scale.tolist(),
            "extras": {"row": i},
        }
        if asset.children[i]:
            item["children"] = list(asset.children[i])
        if node.mesh is not None:
            item["mesh"] = next(k for k, n in enumerate(users) if n is node)
        nodes.append(item)
    document = {
        "asset": {"version": "2.0"}, "scene": 0, "nodes": nodes, "buffers": [{"byteLength": len(binary)}],
        "scenes": [{"nodes": [i for i, n in enumerate(asset.nodes) if n.parent is None]}],
    }  # fmt: skip
    if meshes:
        document |= {"meshes": meshes, "accessors": accessors, "bufferViews": views}
    return glb(document, binary)


def joined(pieces) -> bytes:
    return b"".join(p.tobytes() if isinstance(p, np.ndarray) else bytes(p) for p in pieces)


@given(assets(deepest=4), WORDS)
def test_a_glb_through_any_steps_has_every_vertex_where_they_put_it(made, words):
    assume(max(np.linalg.cond(w[:3, :3]) for w in made.worlds) < 300)
    with TemporaryDirectory() as name:
        path = Path(name) / "made.glb"
        path.write_bytes(as_glb(made))
        received = FORMATS["glb"].read(path, path.name)
        for i in made.parts:
            reach = max(1.0, float(np.abs(world_points(made, i)).max()))
            assert np.abs(world_points(received.asset, i) - world_points(made, i)).max() < 1e-4 * reach
        sheet = Sheet(steps=tuple(STEPS[w["do"]].model_validate(w) for w in words))
        prepared = evaluate(received.asset, sheet)
        assert prepared.status == "ready"
        if any(n.placement.is_sheared for n in prepared.asset.nodes):
            with pytest.raises(Refused, match="would be sheared"):
                FORMATS["glb"].write(received, prepared.asset, received.asset.reading)
            return
        out = FORMATS["glb"].write(received, prepared.asset, received.asset.reading)
        if out.chunks is None:
            return
        path.write_bytes(joined(out.chunks))
        again = FORMATS["glb"].read(path, path.name).asset
        reach = max([1.0, *(float(np.abs(world_points(prepared.asset, i)).max()) for i in made.parts)])
        scale = max([1.0, *(float(np.abs(w[:3]).max()) for w in prepared.asset.worlds)])
        assert deviation(prepared.asset, again) < 3e-6 * reach * scale


SPACES = st.sampled_from([" ", "  ", "\t", " \t "])
ENDS = st.sampled_from(["\n", "\r\n", "   # a note\n", " \n"])
NUMBERS = st.integers(-9999, 9999).map(lambda v: f"{v / 100}")


@st.composite
def obj_texts(draw):
    """An OBJ as people's programs write them: odd spacing, comments, blank lines, statements nobody knows."""
    lines = ["# Fenwick Lock\n"]
    count = draw(st.integers(3, 9))
    for _ in range(count):
        space = draw(SPACES)
        more = draw(st.sampled_from(["", " 1.0", " 0.1 0.2 0.3"]))
        lines.append(f"v{space}{space.join(draw(st.tuples(NUMBERS, NUMBERS, NUMBERS)))}{more}{draw(ENDS)}")
        lines.append(draw(st.sampled_from(["", "\n", "# v 1 2 3\n", "vt 0.5 0.25\n", "vp 1 2\n", "curv2 1\n"])))
    for _ in range(draw(st.integers(1, 6))):
        lines.append(draw(st.sampled_from(["", "g a b\n", "s off\n", "usemtl oak\n", "o part one\n", "o two\n"])))
        corners = draw(st.lists(st.integers(1, count), min_size=3, max_size=5))
        if draw(st.booleans()):
            corners = [c - count - 1 for c in corners]
        lines.append("f" + "".join(draw(SPACES) + str(c) for c in corners) + draw(ENDS))
    return "".join(lines)


def vertex_rows(text):
    found = [m.group(1).split()[:3] for m in re.finditer(r"^v[ \t]+([^#\r\n]*)", text, re.MULTILINE)]
    return np.array(found, dtype=float)


def without_vertex_numbers(text):
    return re.sub(r"^(v[ \t]+)\S+[ \t]+\S+[ \t]+\S+", r"\1", text, flags=re.MULTILINE)


@given(obj_texts(), vectors())
def test_an_obj_moves_by_its_numbers_alone(text, shift):
    with TemporaryDirectory() as name:
        path = Path(name) / "made.obj"
        path.write_bytes(text.encode())
        received = FORMATS["obj"].read(path, path.name)
        moved = carry_all(received.asset, translation(shift))
        out = FORMATS["obj"].write(received, moved, received.asset.reading)
        after = text if out.chunks is None else joined(out.chunks).decode()
        assert without_vertex_numbers(after) == without_vertex_numbers(text)
        assert np.abs(vertex_rows(after) - vertex_rows(text) - shift).max() < 1e-6
        path.write_bytes(after.encode())
        again = FORMATS["obj"].read(path, path.name).asset
        assert [n.name for n in again.nodes] == [n.name for n in received.asset.nodes]
        for i in again.parts:
            assert np.abs(world_points(again, i) - world_points(moved, i)).max() < 1e-6


@given(st.lists(st.tuples(*[st.floats(-1e3, 1e3, width=32)] * 9), min_size=1, max_size=20), st.sampled_from(AXES))
def test_an_stl_under_another_reading_has_the_numbers_that_reading_gives(rows, up):
    corners = np.array(rows, dtype="<f4").reshape(-1, 3, 3)
    front = "+Z" if up[1] != "Z" else "-Y"
    reading = Reading(metres_per_unit=0.001, up=up, front=front, source="sheet")
    header = b"made".ljust(80) + len(corners).to_bytes(4, "little")
    records = np.zeros(len(corners), dtype=[("n", "<f4", 3), ("c", "<f4", (3, 3)), ("a", "<u2")])
    records["c"] = corners
    with TemporaryDirectory() as name:
        path = Path(name) / "made.stl"
        path.write_bytes(header + records.tobytes())
        received = FORMATS["stl"].read(path, path.name)
        asset = with_reading(received.asset, reading)
        wanted = corners.reshape(-1, 3).astype(float) @ reading.working_from_file[:3, :3].T
        assert np.abs(world_points(asset, 0) - wanted).max() < 1e-9
        # Written in the reading it was given, a file keeps its numbers to the bit.
        assert FORMATS["stl"].write(received, asset, reading).chunks is None
        metres = Reading(metres_per_unit=1.0, up="+Y", front="+Z", source="sheet")
        out = joined(FORMATS["stl"].write(received, asset, metres).chunks)
        numbers = np.frombuffer(out[84:], dtype=records.dtype)["c"].reshape(-1, 3)
        assert np.abs(numbers - wanted).max() <= 1e-7 * np.abs(wanted).max() + 1e-30
