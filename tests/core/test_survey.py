from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from oak_square.core.findings.finding import KINDS, LEVELS
from oak_square.core.findings.survey import survey
from oak_square.core.frames import Reading, translation
from oak_square.core.motion import carry_all
from oak_square.core.placement import Placement
from oak_square.core.scene import Asset, Mesh, Node
from oak_square.core.stages import STAGES
from tests.strategies import solid_box

DECLARED = Reading(metres_per_unit=1.0, up="+Y", front="+Z", source="declared")


def made(*nodes: Node, size=(1.0, 2.0, 1.0), reading=DECLARED) -> Asset:
    return Asset(file="m.glb", format="glb", reading=reading, nodes=nodes, meshes=(solid_box(np.array(size)),))


def part(name="post", parent=None, at=(-0.5, 0, -0.5), **channels) -> Node:
    geometry = translation(np.array(at, dtype=float))
    return Node(name=name, parent=parent, placement=Placement.of(**channels), mesh=0, local_from_mesh=geometry)


def codes(asset):
    return {f.code: f for f in survey(asset)}


def test_a_true_model_has_nothing_to_say():
    assert codes(made(part())) == {}


def test_scale_and_rotation_left_on_nodes_are_measured():
    found = codes(made(part(scale=(0.01, 0.01, 0.01), rotation=(0, np.sin(np.pi / 8), 0, np.cos(np.pi / 8)))))
    assert found["scale-unbaked"].measure == pytest.approx(0.01)
    assert found["rotation-unbaked"].measure == pytest.approx(45)
    assert found["scale-unbaked"].part == "post"
    assert "scale-uneven" not in found


def test_uneven_scale_mirrors_and_shear_are_told_apart():
    group = Node(name="pole", parent=None, placement=Placement.of(scale=(1, 4, 1)))
    child = part(parent=0, rotation=(0, 0, np.sin(np.pi / 8), np.cos(np.pi / 8)))
    found = codes(made(group, child))
    assert found["scale-uneven"].measure == pytest.approx(4)
    # Axes (1, 4)/√2 and (-1, 4)/√2: the cosine between them is 15/17.
    assert found["sheared"].measure == pytest.approx(15 / 17)
    assert found["sheared"].part == "post"
    assert "mirrored" not in found
    assert codes(made(part(scale=(-1, 1, 1))))["mirrored"].measure == -1


def test_pivots_grounds_and_origins_are_measured_in_metres():
    found = codes(made(part(at=(3, 1, 0))))
    assert found["pivot-outside"].measure == pytest.approx(np.sqrt(10))
    assert found["off-ground"].measure == pytest.approx(1)
    assert found["off-origin"].measure == pytest.approx(3)
    assert found["pivot-off-base"].measure == pytest.approx(np.sqrt(3.5**2 + 1 + 0.5**2))
    sunk = codes(made(part(at=(-0.5, -0.5, -0.5))))
    assert sunk["off-ground"].measure == pytest.approx(-0.5)
    # A file that holds no pivots has none to be wrong.
    pinned = replace(part(at=(3, 0, 0)), pinned=True)
    assert "pivot-outside" not in codes(made(pinned))


def test_numbers_too_far_out_are_said_with_their_spacing():
    far = carry_all(made(part()), translation(np.array([512_000.0, 0, 0])))
    assert codes(far)["far-from-origin"].measure == pytest.approx(float(np.spacing(np.float32(512_000.5))))


def test_bad_geometry_is_counted():
    mesh = solid_box(np.ones(3))
    triangles = np.vstack([mesh.triangles, [[0, 0, 1], [2, 2, 2]]])
    bad = replace(mesh, triangles=triangles, not_finite=3)
    found = codes(Asset(file="b.glb", format="glb", reading=DECLARED, nodes=(part(), part("b")), meshes=(bad,)))
    assert found["degenerate"].measure == 2
    assert found["not-finite"].measure == 3
    assert found["shared-geometry"].measure == 2
    empty = Mesh(name="e", points=np.empty((0, 3)), triangles=np.empty((0, 3), dtype=np.uint32))
    assert set(codes(Asset(file="e.glb", format="glb", reading=DECLARED, nodes=(part(),), meshes=(empty,)))) == {
        "empty"
    }


def test_an_undeclared_unit_is_noted():
    assumed = replace(DECLARED, source="assumed")
    found = codes(made(part(at=(-500, 0, -500)), size=(1000, 2000, 1000), reading=assumed))
    assert found["unit-assumed"].measure == 1.0
    said = made(part(at=(-500, 0, -500)), size=(1000, 2000, 1000), reading=replace(DECLARED, source="sheet"))
    assert "unit-assumed" not in codes(said)


def test_every_kind_of_finding_says_why_it_matters():
    for code, kind in KINDS.items():
        assert kind.why.endswith("."), code
        assert kind.level in LEVELS
        assert kind.stage in STAGES
