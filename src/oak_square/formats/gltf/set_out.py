"""A GLB in which models stand: a node for each, copies below it, meshes shared among copies of one model."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from oak_square.core.baking import squared
from oak_square.core.frames import WORKING
from oak_square.core.placement import Placement, settled
from oak_square.formats.gltf.making import made
from oak_square.formats.limits import LIMITS
from oak_square.formats.register import FORMATS
from oak_square.formats.shared.model_file import Chunk
from oak_square.formats.shared.plain import Plain, PlainScene, SceneNode, scene_of
from oak_square.formats.shared.set_out_scenes import SCENES, Placed, SceneKind

__all__ = ["read_places", "written"]

Array = NDArray[np.float64]


def written(placed: Sequence[Placed], name: str) -> tuple[Chunk, ...]:
    """Return the file of a scene.

    Raises
    ------
    Refused
        If a model can't be held: a node is sheared, or a number is more than float32 can hold.
    """
    nodes, plains = list[SceneNode](), list[Plain]()
    known: dict[int, tuple[PlainScene, int]] = {}  # of each model its scene, and where its meshes begin
    for each in placed:
        if id(each.received) not in known:
            asset, _ = squared(each.asset, range(len(each.asset.nodes)))
            own = scene_of(asset, FORMATS[asset.format].plains(each.received, asset), WORKING)
            known[id(each.received)] = own, len(plains)
            plains += own.plains
        scene, first = known[id(each.received)]
        top = len(nodes)
        placement = settled(Placement.from_matrix(each.matrix, what=each.name))
        nodes.append(
            SceneNode(name=each.name, parent=None, placement=placement, plain=None, local_from_points=np.eye(4))
        )
        nodes += [
            replace(
                node,
                parent=top if node.parent is None else top + 1 + node.parent,
                plain=None if node.plain is None else first + node.plain,
            )
            for node in scene.nodes
        ]
    whole = PlainScene(name=name, reading=WORKING, nodes=tuple(nodes), plains=tuple(plains))
    return made(whole, binary=True).chunks or ()


def read_places(path: Path) -> list[Array]:
    """Return where each model of a scene stands, shape (4, 4), working frame, metres."""
    asset = FORMATS["glb"].read(path, path.name, LIMITS).asset
    return [asset.worlds[i] for i, node in enumerate(asset.nodes) if node.parent is None]


SCENES[".glb"] = SceneKind(written, read_places)
