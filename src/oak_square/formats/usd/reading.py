"""From a USD stage to an asset: its xformable prims, their meshes and looks."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path
from typing import Any, Literal

import numpy as np
from numpy.typing import NDArray

from oak_square.core.attached import Attached
from oak_square.core.errors import BadFile, Refused
from oak_square.core.frames import WORKING
from oak_square.core.motion import with_reading
from oak_square.core.placement import Placement
from oak_square.core.reshaping import corners_of
from oak_square.core.scene import Asset, Mesh, Node
from oak_square.core.words import say
from oak_square.formats.limits import Limits
from oak_square.formats.shared.plain import Plain, as_shaped, cut_out
from oak_square.formats.shared.polygons import reversed_corners
from oak_square.formats.usd.looks import StageMaterials
from oak_square.formats.usd.meshes import is_left_handed, mesh_of, plain_of, primvars_of
from oak_square.formats.usd.normals import normals_of
from oak_square.formats.usd.shapes import PROPERTIES, flattened, shape_primvars
from oak_square.formats.usd.stage import reading_of

__all__ = ["Content", "attached_of", "content_of", "plains_of"]

Array = NDArray[np.float64]
_PLACES_OF_MANY = ("positions", "orientations", "orientationsf", "scales", "protoIndices")
_MOVE = say("move with time, which is not carried in USD")


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Content:
    """What was read: the asset, and the path of the prim that each node is."""

    asset: Asset
    paths: tuple[str, ...]
    looks: StageMaterials


def content_of(stage: Any, file: str, key: str, folder: Path, limits: Limits) -> Content:
    """Return what a stage holds.

    Raises
    ------
    BadFile
        If a mesh does not hold together, or there is more than the limits allow.
    """
    # Heavy, and wanted for USD files alone.
    from pxr import Usd, UsdGeom

    nodes, meshes, paths = list[Node](), list[Mesh](), list[str]()
    place: dict[str, int] = {}
    looks = StageMaterials(folder)
    reasons: list[str] = []
    carries: set[str] = set()
    prims = iter(Usd.PrimRange(stage.GetPseudoRoot(), Usd.TraverseInstanceProxies()))
    total = 0
    for prim in prims:
        _note_losses(prim, carries, reasons)
        if not prim.IsA(UsdGeom.Xformable):
            continue
        if len(nodes) > limits.nodes:
            raise BadFile(file, say("has over {nodes} prims with a place", nodes=limits.nodes))
        mesh = mesh_of(prim, looks, file, limits.vertices - total)
        if prim.IsA(UsdGeom.PointInstancer):
            prims.PruneChildren()
        if mesh is not None:
            carries |= primvars_of(prim)
            total += len(mesh.points)
            if total > limits.vertices:
                raise BadFile(file, say("has over {vertices} vertices", vertices=limits.vertices))
            meshes.append(mesh)
        place[str(prim.GetPath())] = len(nodes)
        paths.append(str(prim.GetPath()))
        nodes.append(_read_node(prim, place, None if mesh is None else len(meshes) - 1, file))
    if looks.found:
        carries.add("materials")
    if looks.shading():
        carries.add("shading")
    if any(look.textures for look in looks.found):
        carries.add("textures")
    asset = Asset(
        file=file,
        format=key,
        reading=WORKING,
        nodes=tuple(nodes),
        meshes=tuple(meshes),
        carries=tuple(sorted(carries)),
        shading=looks.shading(),
        rigid_reason=reasons[0] if reasons else None,
    )
    return Content(asset=with_reading(asset, reading_of(stage, file)), paths=tuple(paths), looks=looks)


def _note_losses(prim: Any, carries: set[str], reasons: list[str]) -> None:
    """Note what a prim brings that is not carried."""
    from pxr import UsdGeom

    kind = str(prim.GetTypeName())
    if kind in {"SkelRoot", "Skeleton", "SkelAnimation"}:
        carries.add("skin")
        reasons.append(say("it has a skeleton, which is not carried in USD"))
    elif kind == "PointInstancer":
        carries.add("instances")
        if any(prim.GetAttribute(a).GetNumTimeSamples() > 1 for a in _PLACES_OF_MANY):
            reasons.append(say("the instances of '{getname}' {_move}", getname=prim.GetName(), _move=_MOVE))
            carries.add("animation")
    elif kind == "Mesh" and prim.GetAttribute("points").GetNumTimeSamples() > 1:
        reasons.append(say("the points of '{getname}' {_move}", getname=prim.GetName(), _move=_MOVE))
        carries.add("animation")
    elif prim.IsA(UsdGeom.Gprim) and any(
        prim.GetAttribute(a).GetNumTimeSamples() > 1 for a in PROPERTIES if prim.HasAttribute(a)
    ):
        reasons.append(
            say("'{getname}' changes its size with time, which is not carried in USD", getname=prim.GetName())
        )
        carries.add("animation")
    elif kind == "Camera":
        carries.add("cameras")
    elif kind.endswith("Light"):
        carries.add("lights")
    if prim.IsInstance():
        carries.add("instances")
    if prim.IsA(UsdGeom.Xformable) and UsdGeom.Xformable(prim).TransformMightBeTimeVarying():
        reasons.append(say("'{getname}' moves with time, which is not carried in USD", getname=prim.GetName()))
        carries.add("animation")


def _changes_size(prim: Any) -> bool:
    """Tell whether a shape's own numbers change with time."""
    from pxr import UsdGeom

    own = (prim.GetAttribute(a) for a in PROPERTIES if prim.IsA(UsdGeom.Gprim) and prim.HasAttribute(a))
    return any(a.GetNumTimeSamples() > 1 for a in own)


def _read_node(prim: Any, place: dict[str, int], mesh: int | None, file: str) -> Node:
    from pxr import Usd, UsdGeom

    xformable = UsdGeom.Xformable(prim)
    # As it stands when the time begins: without a time, what has values at times alone has none.
    now = Usd.TimeCode.EarliestTime()
    matrix = np.array(xformable.GetLocalTransformation(now), dtype=np.float64).T
    above = prim.GetParent()
    while above and str(above.GetPath()) not in place and not above.IsPseudoRoot():
        above = above.GetParent()
    parent = place.get(str(above.GetPath())) if above and not xformable.GetResetXformStack() else None
    name = str(prim.GetName())
    try:
        placement = Placement.as_read(matrix, what=f"'{prim.GetPath()}'")
    except Refused as error:
        raise BadFile(file, str(error)) from error
    imageable = UsdGeom.Imageable(prim)
    is_seen = str(imageable.ComputeVisibility(now)) != "invisible"
    kind = str(prim.GetTypeName())
    return Node(
        name=name,
        parent=parent,
        placement=placement,
        mesh=mesh,
        aimed=kind == "Camera" or kind.endswith("Light"),
        shown=is_seen and str(imageable.ComputePurpose()) in {"default", "render"},
    )


def attached_of(stage: Any, content: Content) -> dict[int, tuple[Attached, ...]]:
    """Return, for each node that is a mesh, its normals and the values of every other primvar that are numbers."""
    from pxr import UsdGeom

    found: dict[int, tuple[Attached, ...]] = {}
    for i, (path, node) in enumerate(zip(content.paths, content.asset.nodes, strict=True)):
        mesh = UsdGeom.Mesh(stage.GetPrimAtPath(path))
        if node.mesh is None:
            continue
        if not mesh:
            found[i] = _attached_to_shape(stage.GetPrimAtPath(path), content.asset.meshes[node.mesh])
            continue
        rows = list[Attached]()
        for given_so in normals_of(mesh.GetPrim()):
            own = given_so.at_corners(content.asset.meshes[node.mesh])
            of: Literal["corners", "faces", "rows"] = "rows"
            if own is not None:
                of = "faces" if given_so.how == "uniform" else "corners"
            told = given_so.values if own is None or of == "faces" else own
            rows.append(Attached(what="normals", kind="normal", values=told, of=of))
        for primvar in UsdGeom.PrimvarsAPI(mesh).GetPrimvarsWithAuthoredValues():
            laid = _laid_on(primvar, content.asset.meshes[node.mesh])
            if laid is not None and laid.what != "normals":
                rows.append(laid)
        found[i] = tuple({r.what: r for r in rows}.values())
    return found


def _attached_to_shape(prim: Any, shape: Mesh) -> tuple[Attached, ...]:
    """Return what a shape has as the mesh that it becomes where it is changed: normals, though it names none."""
    if shape.normals is None:
        return ()
    values = shape.normals[shape.triangles.reshape(-1)]
    drawn = [Attached(what="normals", kind="normal", values=values, of="corners")]
    for primvar, laid in shape_primvars(prim):
        of: Literal["corners", "rows"] = "rows" if str(primvar.GetInterpolation()) == "constant" else "corners"
        if laid is not None:
            flat = laid.reshape(len(laid), -1)
            drawn.append(Attached(what=primvar.GetPrimvarName(), kind="kept", values=flat, of=of))
    return tuple(drawn)


def _laid_on(primvar: Any, mesh: Mesh) -> Attached | None:
    """Return the numbers of a primvar by what of a mesh they are laid on; as they stand where they don't fit it."""
    from pxr import Usd

    value = primvar.Get(Usd.TimeCode.EarliestTime())
    values = np.array(value) if value is not None and hasattr(value, "__len__") else np.empty(0)
    if not values.size or values.dtype.kind not in "fiu":
        return None
    name, how = str(primvar.GetPrimvarName()), str(primvar.GetInterpolation())
    corners, counts = corners_of(mesh)
    kinds: dict[str, tuple[Literal["points", "corners", "faces"], int]] = {
        "vertex": ("points", len(mesh.points)), "varying": ("points", len(mesh.points)),
        "faceVarying": ("corners", len(corners)), "uniform": ("faces", len(counts)),
    }  # fmt: skip
    of, count = kinds.get(how, ("points", -1))
    flat = flattened(primvar)
    if flat is None or len(flat) != count:
        return Attached(what=name, kind="kept", values=values.reshape(len(values), -1), of="rows")
    rows = np.array(flat).reshape(count, -1)
    if of == "corners" and is_left_handed(primvar.GetAttr().GetPrim()):
        rows = rows[reversed_corners(counts)]
    return Attached(what=name, kind="kept", values=rows, of=of)


def plains_of(stage: Any, content: Content, asset: Asset, limits: Limits) -> dict[int, Plain]:
    """Return the meshes of `asset`, made of what was read, their corners told apart where what they have is."""
    looks = content.looks
    found: dict[int, Plain] = {}
    for i, node in enumerate(asset.nodes):
        if node.mesh is not None and node.mesh not in found:
            source = i if node.cut_from is None else node.cut_from
            prim, read = stage.GetPrimAtPath(content.paths[source]), content.asset.mesh_of(source)
            whole = plain_of(prim, read, looks, asset.file, limits.vertices)
            found[node.mesh] = as_shaped(cut_out(whole, asset.meshes[node.mesh].cut), asset.meshes[node.mesh])
    return found
