"""A USD scene in which models stand: a prim for each, that refers to its delivered file."""

from __future__ import annotations

from collections.abc import Sequence
from functools import partial
from pathlib import Path
from typing import Any

import numpy as np
from numpy.typing import NDArray

from oak_square.core.errors import BadFile, Failed
from oak_square.core.words import say
from oak_square.formats.shared.model_file import Chunk
from oak_square.formats.shared.set_out_scenes import SCENES, Placed, SceneKind
from oak_square.formats.usd.making import fresh_stage, prim_name
from oak_square.formats.usd.stage import quiet, reading_of
from oak_square.formats.usd.writing import exported

__all__ = ["read_places", "written"]

Array = NDArray[np.float64]


def written(placed: Sequence[Placed], name: str, *, suffix: str) -> tuple[Chunk, ...]:
    """Return the layer of a scene in metres, Y up; what it refers to lies where `path` of each says.

    Raises
    ------
    Failed
        If a delivered file has nothing to refer to.
    """
    with quiet():
        try:
            return (_write_layer(placed, name, suffix),)
        except RuntimeError as error:  # Tf's errors are RuntimeErrors
            raise Failed(say("the scene can't be written: {name}", name=type(error).__name__)) from error


def _write_layer(placed: Sequence[Placed], name: str, suffix: str) -> bytes:
    # Heavy, and wanted for USD files alone.
    from pxr import Usd, UsdGeom

    layer, stage = fresh_stage(suffix, 1.0, "Y")
    names: dict[str, set[str]] = {}
    top = f"/{prim_name(name, '/', names)}"
    root = UsdGeom.Xform.Define(stage, top).GetPrim()
    stage.SetDefaultPrim(root)
    Usd.ModelAPI(root).SetKind("assembly")
    for each in placed:
        path = f"{top}/{prim_name(each.name, top, names)}"
        prim = UsdGeom.Xform.Define(stage, path).GetPrim()
        if prim.GetName() != each.name:
            prim.SetDisplayName(each.name)
        _place_prim(prim, each.matrix)
        _refer_to_roots(stage, path, each)
    return exported(layer, suffix)


def _refer_to_roots(stage: Any, path: str, placed: Placed) -> None:
    """Bring in each root of a delivered layer below a prim, its numbers made metres, Y up."""
    from pxr import Sdf, UsdGeom

    layer = Sdf.Layer.FindOrOpen(str(placed.received.carrier.path))
    if layer is None:
        raise Failed(say("'{path}' can't be opened to be referred to", path=placed.path))
    roots = [root for root in layer.rootPrims if root.specifier != Sdf.SpecifierClass]
    if not roots:
        raise Failed(say("'{path}' has nothing to refer to", path=placed.path))
    model = UsdGeom.Xform.Define(stage, f"{path}/model").GetPrim()
    correction = np.eye(4)
    correction[:3, :3] = placed.asset.reading.working_from_file[:3, :3]
    if not np.array_equal(correction, np.eye(4)):
        _place_prim(model, correction)
    for root in roots:
        child = stage.DefinePrim(f"{path}/model/{root.name}")
        child.GetReferences().AddReference(f"./{placed.path}", root.path)


def _place_prim(prim: Any, matrix: Array) -> None:
    from pxr import Gf, UsdGeom

    # Rows of a USD matrix are our columns.
    UsdGeom.Xformable(prim).AddTransformOp().Set(Gf.Matrix4d(*matrix.T.ravel().tolist()))


def read_places(path: Path) -> list[Array]:
    """Return where each model of a scene stands, shape (4, 4), working frame, metres.

    Raises
    ------
    BadFile
        If it can't be opened, or a model that it refers to is not there.
    """
    from pxr import Usd, UsdGeom

    with quiet():
        try:
            stage = Usd.Stage.Open(str(path))
        except RuntimeError as error:
            raise BadFile(path.name, say("is no USD that can be read")) from error
        linear = reading_of(stage, path.name).working_from_file[:3, :3]
        found = list[Array]()
        for prim in stage.GetDefaultPrim().GetChildren():
            for root in prim.GetChild("model").GetChildren():
                if not root.GetTypeName() and not root.GetChildren():
                    raise BadFile(path.name, say("what '{getname}' refers to is not there", getname=prim.GetName()))
            local = UsdGeom.Xformable(prim).GetLocalTransformation()
            matrix = np.array(local, dtype=np.float64).T
            there = np.eye(4)
            there[:3, :3] = linear @ matrix[:3, :3] @ np.linalg.inv(linear)
            there[:3, 3] = linear @ matrix[:3, 3]
            found.append(there)
    return found


for _suffix in (".usda", ".usdc"):
    SCENES[_suffix] = SceneKind(partial(written, suffix=_suffix), read_places)
