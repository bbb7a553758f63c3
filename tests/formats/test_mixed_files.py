"""Files that mix all a glTF can carry, through random steps: every drawn vertex is where they say, at any time.

Where that is, is worked out here from the bytes of the files alone.
"""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.spatial import cKDTree
from scipy.spatial.transform import Rotation, Slerp

from tests.made import glb, laid_out, opened
from tests.runs import through, troubles
from tests.strategies import solid_box

BOX = solid_box(np.array([1.0, 0.6, 0.4]))
POINTS, NORMALS = BOX.points.astype("<f4"), BOX.normals.astype("<f4")
FACES = BOX.triangles.astype("<u2").reshape(-1, 1)
CODED = np.round(POINTS * 60_000).astype("<u2")
TWO = np.concatenate([POINTS, POINTS + np.float32([3, 0, 0])])
DTYPES = {5120: "i1", 5121: "u1", 5122: "<i2", 5123: "<u2", 5125: "<u4", 5126: "<f4"}
WIDTHS = {"SCALAR": 1, "VEC2": 2, "VEC3": 3, "VEC4": 4, "MAT4": 16}
PATHS = {"translation": 3, "rotation": 4, "scale": 3}


class Maker:
    """Draws a file: a hierarchy of plain, morphed, quantised, sparse, two-piece, instanced and skinned parts."""

    def __init__(self, seed):
        self.chance = np.random.default_rng(seed)
        self.arrays, self.more, self.meshes, self.nodes, self.skins, self.channels, self.samplers = (
            [],
            {},
            [],
            [],
            [],
            [],
            [],
        )
        self.sparse = []

    def add(self, values, **more):
        self.arrays.append(np.asarray(values))
        if more:
            self.more[f"a{len(self.arrays) - 1}"] = more
        return len(self.arrays) - 1

    def mesh(self, kind):
        attributes = {"POSITION": self.add(POINTS), "NORMAL": self.add(NORMALS)}
        primitive = {"attributes": attributes, "indices": self.add(FACES)}
        mesh = {"name": kind, "primitives": [primitive]}
        if kind == "morphed":
            primitive["targets"] = [{"POSITION": self.add(self.chance.normal(0, 0.3, POINTS.shape).astype("<f4"))}]
            mesh["weights"] = [float(self.chance.choice([0, 0.5]))]
        elif kind == "coded":
            attributes["POSITION"] = self.add(np.pad(CODED, ((0, 0), (0, 1))), type="VEC3", normalized=True)
        elif kind == "sparse":
            self.sparse.append(attributes["POSITION"])
        elif kind == "pieces":
            attributes["POSITION"], attributes["NORMAL"] = self.add(TWO), self.add(np.concatenate([NORMALS, NORMALS]))
            primitive["indices"] = self.add(np.concatenate([FACES, FACES + np.uint16(len(POINTS))]))
        elif kind == "skinned":
            joints = np.zeros((len(POINTS), 4), dtype="u1")
            joints[:, 1] = 1
            share = np.clip(POINTS[:, :1], 0, 1)
            attributes["JOINTS_0"] = self.add(joints)
            attributes["WEIGHTS_0"] = self.add(np.hstack([1 - share, share, 0 * share, 0 * share]).astype("<f4"))
        self.meshes.append(mesh)
        return len(self.meshes) - 1

    def node(self, name, parent=None, **more):
        chance = self.chance
        item = {"name": name, "translation": chance.normal(0, 2, 3).round(3).tolist()}
        if chance.random() < 0.7:
            item["rotation"] = Rotation.random(random_state=int(chance.integers(1 << 31))).as_quat().tolist()
        if chance.random() < 0.6:
            size = chance.uniform(0.4, 2.5, 3).round(2)
            item["scale"] = (size if chance.random() < 0.3 else np.full(3, size[0])).tolist()
        self.nodes.append({**item, **more})
        if parent is not None:
            self.nodes[parent].setdefault("children", []).append(len(self.nodes) - 1)
        return len(self.nodes) - 1

    def animate(self, node):
        chance = self.chance
        for path in chance.permutation(list(PATHS))[: chance.integers(1, 3)]:
            kind = str(chance.choice(["STEP", "LINEAR", "CUBICSPLINE"]))
            rows = 3 * (3 if kind == "CUBICSPLINE" else 1)
            values = chance.normal(0, 1, (rows, PATHS[path]))
            if path == "rotation" and kind != "CUBICSPLINE":
                values /= np.linalg.norm(values, axis=1, keepdims=True)
            if path == "scale":
                values = np.abs(values[:, :1]).repeat(3, axis=1) + 0.5
            times = self.add(np.array([0, 0.5, 2], "<f4"))
            self.samplers.append({"input": times, "output": self.add(values.astype("<f4")), "interpolation": kind})
            self.channels.append({"sampler": len(self.samplers) - 1, "target": {"node": node, "path": str(path)}})

    def file(self):
        chance = self.chance
        kinds = ["plain", "morphed", "coded", "sparse", "pieces"]
        meshes = [self.mesh(str(k)) for k in chance.permutation(kinds)[:3]]
        root = self.node("root")
        places = [root]
        for k in range(int(chance.integers(2, 6))):
            parent = int(chance.choice(places)) if chance.random() < 0.9 else None
            more = {"mesh": int(chance.choice(meshes))} if chance.random() < 0.8 else {}
            places.append(self.node(f"node_{k}", parent, **more))
        if chance.random() < 0.5:
            joints = [self.node("heel", root), self.node("toe", root)]
            binds = np.stack([np.eye(4), np.eye(4)]).astype("<f4")
            binds[1, 3, 0] = -1.0
            self.skins.append({"joints": joints, "inverseBindMatrices": self.add(binds.reshape(2, 16))})
            self.node("shoe", root, mesh=self.mesh("skinned"), skin=0)
        if chance.random() < 0.5:
            spots = {"TRANSLATION": self.add(chance.normal(0, 3, (4, 3)).astype("<f4"))}
            if chance.random() < 0.5:
                turns = Rotation.random(4, random_state=3).as_quat().astype("<f4")
                spots["ROTATION"] = self.add(turns)
            extension = {"EXT_mesh_gpu_instancing": {"attributes": spots}}
            self.node("posts", root, mesh=int(chance.choice(meshes)), extensions=extension)
        if chance.random() < 0.6:
            for node in chance.permutation(len(self.nodes))[:2]:
                self.animate(int(node))
        morphed = next(
            (i for i, n in enumerate(self.nodes) if self.meshes[n.get("mesh", 0)]["name"] == "morphed"), None
        )
        if morphed is not None and "mesh" in self.nodes[morphed] and chance.random() < 0.5:
            keys = self.add(np.array([0, 2], "<f4"))
            self.samplers.append({"input": keys, "output": self.add(np.array([0, 1], "<f4"))})
            self.channels.append({"sampler": len(self.samplers) - 1, "target": {"node": morphed, "path": "weights"}})
        return self._packed()

    def _packed(self):
        rows, moved = self.add(np.array([1, 5], "<u2")), self.add(np.array([[0.9, 0.1, 0.2], [0.1, 0.5, 0.3]], "<f4"))
        lists, binary = laid_out(*self.arrays, **self.more)
        for k, view in enumerate(lists["bufferViews"]):
            if self.more.get(f"a{k}", {}).get("type") == "VEC3":
                view["byteStride"] = 8
                lists["accessors"][k]["min"], lists["accessors"][k]["max"] = (
                    CODED.min(0).tolist(),
                    CODED.max(0).tolist(),
                )
        for k in self.sparse:
            lists["accessors"][k]["sparse"] = {
                "count": 2, "indices": {"bufferView": rows, "componentType": 5123}, "values": {"bufferView": moved}
            }  # fmt: skip
        below = {c for n in self.nodes for c in n.get("children", [])}
        document = {
            "asset": {"version": "2.0"}, "scene": 0, "nodes": self.nodes, "meshes": self.meshes, **lists,
            "scenes": [{"nodes": [i for i in range(len(self.nodes)) if i not in below]}],
        }  # fmt: skip
        if self.skins:
            document["skins"] = self.skins
        if self.channels:
            document["animations"] = [{"name": "work", "channels": self.channels, "samplers": self.samplers}]
        return glb(document, binary)


class World:
    """Where a file's own bytes put what it draws."""

    def __init__(self, data):
        self.json, self.binary = opened(data)

    def elements(self, index):
        item = self.json["accessors"][index]
        dtype, width = np.dtype(DTYPES[item["componentType"]]), WIDTHS[item["type"]]
        view = self.json["bufferViews"][item["bufferView"]]
        start = view.get("byteOffset", 0) + item.get("byteOffset", 0)
        stride = view.get("byteStride", dtype.itemsize * width)
        strides = (stride, dtype.itemsize)
        found = np.ndarray((item["count"], width), dtype, self.binary, start, strides).astype(float)
        if "sparse" in item:
            sparse = item["sparse"]
            at = [self.json["bufferViews"][sparse[k]["bufferView"]].get("byteOffset", 0) for k in ("indices", "values")]
            rows = np.frombuffer(self.binary, DTYPES[sparse["indices"]["componentType"]], sparse["count"], at[0])
            found[rows] = np.frombuffer(self.binary, dtype, sparse["count"] * width, at[1]).reshape(-1, width)
        return np.maximum(found / np.iinfo(dtype).max, -1) if item.get("normalized") else found

    def value(self, sampler, path, at_s):
        times, rows = self.elements(sampler["input"])[:, 0], self.elements(sampler["output"])
        kind = sampler.get("interpolation", "LINEAR")
        at_s = float(np.clip(at_s, times[0], times[-1]))
        k = min(int(np.searchsorted(times, at_s, side="right")) - 1, max(len(times) - 2, 0))
        if kind == "STEP":
            return rows[len(times) - 1 if at_s >= times[-1] else k]
        if len(times) == 1:
            return rows[0]
        span = times[k + 1] - times[k]
        u = (at_s - times[k]) / span
        if kind == "CUBICSPLINE":
            a, out, into, b = rows[3 * k + 1], rows[3 * k + 2], rows[3 * k + 3], rows[3 * k + 4]
            found = (2 * u**3 - 3 * u**2 + 1) * a + (u**3 - 2 * u**2 + u) * span * out
            found = found + (3 * u**2 - 2 * u**3) * b + (u**3 - u**2) * span * into
            return found / np.linalg.norm(found) if path == "rotation" else found
        if path == "rotation":
            return Slerp([0, 1], Rotation.from_quat(rows[k : k + 2]))(u).as_quat()
        return rows[k] * (1 - u) + rows[k + 1] * u

    def worlds(self, at_s):
        nodes, moving = self.json["nodes"], {}
        for clip in self.json.get("animations", []) if at_s is not None else []:
            for channel in clip["channels"]:
                node, path = channel["target"]["node"], channel["target"]["path"]
                moving[node, path] = self.value(clip["samplers"][channel["sampler"]], path, at_s)
        locals_ = []
        for i, node in enumerate(nodes):
            at, turn, size = (
                moving.get((i, p), node.get(p, rest))
                for p, rest in (("translation", [0, 0, 0]), ("rotation", [0, 0, 0, 1]), ("scale", [1, 1, 1]))
            )
            local = affine(at, turn, size)
            locals_.append(np.array(node["matrix"]).reshape(4, 4).T if "matrix" in node else local)
        parents = {c: i for i, n in enumerate(nodes) for c in n.get("children", [])}
        found = []
        for i in range(len(nodes)):
            world, at = np.eye(4), i
            while at is not None:
                world, at = locals_[at] @ world, parents.get(at)
            found.append(world)
        return found, {i: w for (i, path), w in moving.items() if path == "weights"}

    def cloud(self, at_s=None):
        """Every corner of every triangle, in the world, at a time of the clip or at rest."""
        worlds, weighed = self.worlds(at_s)
        found = []
        for i, node in enumerate(self.json["nodes"]):
            if "mesh" not in node:
                continue
            mesh = self.json["meshes"][node["mesh"]]
            (primitive,) = mesh["primitives"]
            points = self.elements(primitive["attributes"]["POSITION"])
            weights = np.atleast_1d(weighed.get(i, node.get("weights", mesh.get("weights", []))))
            for weight, target in zip(weights, primitive.get("targets", []), strict=False):
                points = points + weight * self.elements(target["POSITION"])
            corners = points[self.elements(primitive["indices"])[:, 0].astype(int)]
            if "skin" in node:
                skin = self.json["skins"][node["skin"]]
                binds = self.elements(skin["inverseBindMatrices"]).reshape(-1, 4, 4).transpose(0, 2, 1)
                frames = np.array([worlds[j] @ b for j, b in zip(skin["joints"], binds, strict=True)])
                rows = self.elements(primitive["indices"])[:, 0].astype(int)
                joints = self.elements(primitive["attributes"]["JOINTS_0"]).astype(int)[rows]
                shares = self.elements(primitive["attributes"]["WEIGHTS_0"])[rows]
                each = np.einsum("nkij,nj->nki", frames[joints][:, :, :3, :3], corners) + frames[joints][:, :, :3, 3]
                found.append((shares[:, :, None] * each).sum(axis=1))
                continue
            for own in self.instances(node):
                world = worlds[i] @ own
                found.append(corners @ world[:3, :3].T + world[:3, 3])
        return np.concatenate([np.zeros((0, 3)), *found])

    def instances(self, node):
        names = node.get("extensions", {}).get("EXT_mesh_gpu_instancing", {}).get("attributes")
        if names is None:
            return [np.eye(4)]
        count = self.json["accessors"][names["TRANSLATION"]]["count"]
        rest = {"TRANSLATION": [0, 0, 0], "ROTATION": [0, 0, 0, 1], "SCALE": [1, 1, 1]}
        rows = {k: self.elements(names[k]) if k in names else [v] * count for k, v in rest.items()}
        return [affine(*(rows[k][n] for k in rest)) for n in range(count)]


def affine(at, turn, size):
    found = np.eye(4)
    found[:3, :3] = Rotation.from_quat(turn).as_matrix() * size
    found[:3, 3] = at
    return found


STEPS = [
    ("{do: bake, may-refuse: true}", np.eye(4)),
    ("{do: bake, what: [rotation], may-refuse: true}", np.eye(4)),
    ("{do: pivot, at: middle, of: all, may-refuse: true}", np.eye(4)),
    ("{do: pivot, at: mass, axes: world, of: parts, may-refuse: true}", np.eye(4)),
    ("{do: split, parts: ['node_*', shoe], into: pieces, may-refuse: true}", np.eye(4)),
    ("{do: parent, parts: [node_1], to: null, may-refuse: true}", np.eye(4)),
    ("{do: size, factor: 2.5, about: origin, may-refuse: true}", np.diag([2.5, 2.5, 2.5, 1])),
    ("{do: turn, by: [0, 90, 0], about: origin, may-refuse: true}", affine([0, 0, 0], [0, 0.5**0.5, 0, 0.5**0.5], 1)),
    ("{do: size, factor: [1, 2, 1], about: origin, may-refuse: true}", np.diag([1, 2, 1, 1])),
]


def apart(a, b):
    if not len(a) or not len(b):
        return abs(len(a) - len(b))
    return max(cKDTree(a).query(b)[0].max(), cKDTree(b).query(a)[0].max())


@settings(max_examples=60)
@given(seed=st.integers(0, 10_000), chosen=st.lists(st.integers(0, len(STEPS) - 1), min_size=1, max_size=4))
def test_every_vertex_is_where_the_steps_say_at_rest_and_at_any_time(tmp_path_factory, seed, chosen):
    folder = tmp_path_factory.mktemp("mixed")
    (folder / "in").mkdir()
    source = folder / "in" / "made.glb"
    source.write_bytes(Maker(seed).file())
    entry = through(folder, *(STEPS[k][0] for k in chosen))
    if entry["status"] not in {"delivered", "unchanged"}:
        # Steps may refuse one by one; a transform that the file can't hold shows when it is written.
        assert "would be sheared" in entry["reason"], entry["reason"]
        return
    motion = np.eye(4)
    for step, k in zip(entry["steps"], chosen, strict=True):
        motion = STEPS[k][1] @ motion if step["outcome"] == "applied" else motion
    before, after = World(source.read_bytes()), World((folder / "out" / "made.glb").read_bytes())
    reach = 1.0
    for at_s in (None, 0.0, 0.3, 0.5, 1.3, 2.0):
        wanted = before.cloud(at_s) @ motion[:3, :3].T + motion[:3, 3]
        reach = max(reach, float(np.abs(wanted).max(initial=1.0)))
        assert apart(after.cloud(at_s), wanted) < 3e-4 * reach, (at_s, entry["steps"])
    assert not any(troubles(folder / "out").values())


@pytest.mark.parametrize("seed", range(3))
def test_the_same_file_and_steps_give_the_same_bytes(tmp_path, seed):
    results = []
    for name in "ab":
        (tmp_path / name / "in").mkdir(parents=True)
        (tmp_path / name / "in" / "made.glb").write_bytes(Maker(seed).file())
        entry = through(tmp_path / name, *(words for words, _ in STEPS))
        out = tmp_path / name / "out" / "made.glb"
        results.append(out.read_bytes() if out.exists() else entry["reason"])
    assert results[0] == results[1]
