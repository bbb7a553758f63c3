"""A USD layer made anew from a plain scene."""

from __future__ import annotations

import re
from typing import Any

import numpy as np
from numpy.typing import NDArray

from oak_square.core.words import say
from oak_square.formats.shared.look import Look
from oak_square.formats.shared.model_file import Companion, Written
from oak_square.formats.shared.plain import Plain, PlainScene, carried, to_linear
from oak_square.formats.usd.material_making import MAPS, material_of
from oak_square.formats.usd.stage import quiet
from oak_square.formats.usd.writing import author_place, exported

__all__ = ["fresh_stage", "made", "made_trouble", "prim_name", "spelled"]

Array = NDArray[np.float64]


def made(scene: PlainScene, suffix: str) -> Written:
    """Return the layer of a scene, in its unit and axes, as a file of that suffix.

    Raises
    ------
    Refused
        If a number is more than float32 can hold.
    """
    # Heavy, and wanted for USD files alone.
    from pxr import Usd, UsdGeom

    with quiet():
        layer, stage = fresh_stage(suffix, scene.reading.metres_per_unit, scene.reading.up[1])
        names: dict[str, set[str]] = {}
        # One prim above all, so that the layer can be referenced: the scene's own, where it has one.
        roots = [node for node in scene.nodes if node.parent is None]
        own_top = len(roots) == 1 and roots[0].plain is None
        top = f"/{prim_name(roots[0].name if own_top else scene.name, '/', names)}"
        root = UsdGeom.Xform.Define(stage, top).GetPrim()
        stage.SetDefaultPrim(root)
        Usd.ModelAPI(root).SetKind("component")
        looks = list(dict.fromkeys(run.look for plain in scene.plains for run in plain.runs))
        materials = _define_materials(stage, top, looks, names)
        paths: list[str] = []
        bearing = {node.parent for node in scene.nodes}
        for k, node in enumerate(scene.nodes):
            above = top if node.parent is None else paths[node.parent]
            path = top if own_top and node.parent is None else f"{above}/{prim_name(node.name, above, names)}"
            paths.append(path)
            plain = scene.plains[node.plain] if node.plain is not None else None
            # A shape may have nothing below it (the schema of geometry): it stands beside what hangs from its node.
            is_apart = plain is not None and k in bearing
            kind = UsdGeom.Xform if plain is None or is_apart else UsdGeom.Mesh
            prim = kind.Define(stage, path).GetPrim()
            if prim.GetName() != node.name:
                prim.SetDisplayName(node.name)
            author_place(prim, node.placement)
            if is_apart:
                prim = UsdGeom.Mesh.Define(stage, f"{path}/{prim_name(f'{node.name}_shape', path, names)}").GetPrim()
            if plain is not None:
                _fill_mesh(stage, prim, carried(plain, node.local_from_points), materials)
        data = exported(layer, suffix)
    images = dict.fromkeys(texture.image for look in looks for texture in look.textures)
    return Written(chunks=(data,), companions=tuple(Companion(path=i.name, chunks=(i.read(),)) for i in images))


def made_trouble(stage: Any) -> str:
    """Return what of a stage made here is not as it is made; empty where all is."""
    from pxr import Usd, UsdGeom

    top = stage.GetDefaultPrim()
    if not top or Usd.ModelAPI(top).GetKind() != "component":
        return say("it has no default prim that is a component")
    meshes = (UsdGeom.Mesh(p) for p in stage.Traverse() if p.IsA(UsdGeom.Mesh))
    if any(mesh.GetSubdivisionSchemeAttr().Get() != UsdGeom.Tokens.none for mesh in meshes):
        return say("a mesh of it would be drawn smoother than it is")
    return ""


def fresh_stage(suffix: str, metres_per_unit: float, up: str) -> tuple[Any, Any]:
    """Return a new layer, and the stage on it, in a unit and with an axis up."""
    from pxr import Sdf, Usd, UsdGeom

    layer = Sdf.Layer.CreateAnonymous(suffix)
    stage = Usd.Stage.Open(layer)
    layer.comment = "Oak Square"
    UsdGeom.SetStageMetersPerUnit(stage, metres_per_unit)
    UsdGeom.SetStageUpAxis(stage, up)
    return layer, stage


def prim_name(name: str, above: str, names: dict[str, set[str]]) -> str:
    """Return a name that a prim can have, unlike any below `above` so far."""
    base = spelled(name)
    taken, found, number = names.setdefault(above, set()), base, 2
    while found in taken:
        found, number = f"{base}_{number}", number + 1
    taken.add(found)
    return found


def spelled(name: str) -> str:
    """Return a name with what no prim's name can have replaced."""
    base = re.sub(r"\W", "_", name) or "prim"
    return f"_{base}" if base[0].isdigit() else base


def _define_materials(stage: Any, top: str, looks: list[Look], names: dict[str, set[str]]) -> dict[Look, Any]:
    """Define each look as a material of its own name, all in one scope."""
    from pxr import UsdGeom

    scope = f"{top}/{prim_name('looks', top, names)}"
    if looks:
        UsdGeom.Scope.Define(stage, scope)
    return {look: material_of(stage, f"{scope}/{prim_name(look.name, scope, names)}", look) for look in looks}


def _fill_mesh(stage: Any, prim: Any, plain: Plain, materials: dict[Look, Any]) -> None:
    from pxr import Sdf, UsdGeom, UsdShade, Vt

    def vectors(values: NDArray[Any], kind: Any) -> Any:
        return kind.FromNumpy(np.ascontiguousarray(values.astype(np.float32)))

    mesh = UsdGeom.Mesh(prim)
    points = plain.points.astype(np.float32)
    mesh.CreatePointsAttr(vectors(points, Vt.Vec3fArray))
    mesh.CreateExtentAttr(vectors(np.stack([points.min(axis=0), points.max(axis=0)]), Vt.Vec3fArray))
    mesh.CreateFaceVertexCountsAttr(Vt.IntArray.FromNumpy(np.full(len(plain.triangles), 3, dtype=np.int32)))
    corners = np.ascontiguousarray(plain.triangles.ravel().astype(np.int32))
    mesh.CreateFaceVertexIndicesAttr(Vt.IntArray.FromNumpy(corners))
    mesh.CreateSubdivisionSchemeAttr(UsdGeom.Tokens.none)
    if plain.normals is not None:
        mesh.CreateNormalsAttr(vectors(plain.normals, Vt.Vec3fArray))
        mesh.SetNormalsInterpolation(UsdGeom.Tokens.vertex)
    for name, uvs in zip(MAPS, (plain.uvs, plain.more_uvs), strict=True):
        if uvs is not None:
            kind = Sdf.ValueTypeNames.TexCoord2fArray
            primvar = UsdGeom.PrimvarsAPI(prim).CreatePrimvar(name, kind, UsdGeom.Tokens.vertex)
            primvar.Set(vectors(uvs, Vt.Vec2fArray))
    if plain.colours is not None:
        mesh.CreateDisplayColorPrimvar(UsdGeom.Tokens.vertex).Set(vectors(to_linear(plain.colours), Vt.Vec3fArray))
    own = {run.look for run in plain.runs}
    if own and all(look.both_sides for look in own):
        mesh.CreateDoubleSidedAttr(True)
    for look in own if len(own) == 1 else ():
        UsdShade.MaterialBindingAPI.Apply(prim).Bind(materials[look])
    for k, run in enumerate(plain.runs if len(own) > 1 else ()):
        faces = Vt.IntArray.FromNumpy(np.arange(run.first, run.first + run.count, dtype=np.int32))
        subset = UsdShade.MaterialBindingAPI.Apply(prim).CreateMaterialBindSubset(f"run_{k}", faces)
        UsdShade.MaterialBindingAPI.Apply(subset.GetPrim()).Bind(materials[run.look])
