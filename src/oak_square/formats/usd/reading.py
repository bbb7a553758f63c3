"""From a USD stage to an asset: its xformable prims, their meshes and looks."""

from __future__ import annotations

import os
from dataclasses import dataclass, replace
from pathlib import Path
from typing import Any, Literal

import numpy as np
from numpy.typing import NDArray

from oak_square.core.attached import Attached
from oak_square.core.errors import BadFile, Refused
from oak_square.core.frames import WORKING
from oak_square.core.motion import with_reading
from oak_square.core.placement import Placement
from oak_square.core.scene import PLAIN_COLOUR, Asset, Mesh, Node, Surface
from oak_square.formats.limits import Limits
from oak_square.formats.model_file import count_not_finite
from oak_square.formats.plain import Image, Look, Plain, plain_mesh, shaded, to_srgb
from oak_square.formats.polygons import polygons_to_triangles
from oak_square.formats.usd.stage import reading_of

__all__ = ["Content", "attached_of", "content_of", "plains_of"]

Array = NDArray[np.float64]
_NO_LOOK = -1
_SHARED, _SHAPE = "shared by instances", "a shape without points"


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Content:
    """What was read: the asset, and the path of the prim that each node is."""

    asset: Asset
    paths: tuple[str, ...]
    looks: tuple[Look, ...]


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
    looks = _Looks(folder)
    reasons: list[str] = []
    carries: set[str] = set()
    prims = iter(Usd.PrimRange(stage.GetPseudoRoot(), Usd.TraverseInstanceProxies()))
    total = 0
    for prim in prims:
        _note(prim, carries, reasons)
        if not prim.IsA(UsdGeom.Xformable):
            continue
        if len(nodes) > limits.nodes:
            raise BadFile(file, f"has over {limits.nodes} prims with a place")
        mesh = _mesh(prim, looks, file)
        if prim.IsA(UsdGeom.PointInstancer):
            prims.PruneChildren()
        if mesh is not None:
            carries |= _primvars(prim)
            total += len(mesh.points)
            if total > limits.vertices:
                raise BadFile(file, f"has over {limits.vertices} vertices")
            meshes.append(mesh)
        place[str(prim.GetPath())] = len(nodes)
        paths.append(str(prim.GetPath()))
        nodes.append(_node(prim, place, None if mesh is None else len(meshes) - 1, file, reasons))
    if looks.found:
        carries.add("materials")
    if looks.is_shaded:
        carries.add("shading")
    if any(look.image for look in looks.found):
        carries.add("textures")
    asset = Asset(
        file=file,
        format=key,
        reading=WORKING,
        nodes=tuple(nodes),
        meshes=tuple(meshes),
        carries=tuple(sorted(carries)),
        rigid_reason=reasons[0] if reasons else None,
    )
    return Content(asset=with_reading(asset, reading_of(stage, file)), paths=tuple(paths), looks=tuple(looks.found))


def _note(prim: Any, carries: set[str], reasons: list[str]) -> None:
    """Note what a prim brings that is not carried."""
    kind = str(prim.GetTypeName())
    if kind in {"SkelRoot", "Skeleton", "SkelAnimation"}:
        carries.add("skin")
        reasons.append("it has a skeleton, which is not carried in USD")
    elif kind == "PointInstancer":
        carries.add("instances")
    elif kind == "Camera":
        carries.add("cameras")
    elif kind.endswith("Light"):
        carries.add("lights")
    if prim.IsInstance():
        carries.add("instances")


def _primvars(prim: Any) -> set[str]:
    """Return what a mesh has for its vertices or corners that some formats lack."""
    from pxr import UsdGeom

    primvars = UsdGeom.PrimvarsAPI(prim)
    found = {"texture-coordinates"} if _map_of(primvars) is not None else set()
    colours = primvars.GetPrimvar("displayColor")
    if colours and colours.HasAuthoredValue() and str(colours.GetInterpolation()) != "constant":
        found.add("vertex-colours")
    return found


def _map_of(primvars: Any) -> Any:
    """Return the texture coordinates of a prim: `st`, as USD's own shaders have it, else the first of that type."""
    from pxr import Sdf

    kinds = {Sdf.ValueTypeNames.TexCoord2fArray, Sdf.ValueTypeNames.TexCoord2hArray, Sdf.ValueTypeNames.TexCoord2dArray}
    plain = primvars.GetPrimvar("st")
    if plain and plain.HasValue():
        return plain
    there = (p for p in primvars.GetPrimvarsWithValues() if p.GetTypeName() in kinds)
    return min(there, key=lambda p: str(p.GetName()), default=None)


def _node(prim: Any, place: dict[str, int], mesh: int | None, file: str, reasons: list[str]) -> Node:
    from pxr import UsdGeom

    xformable = UsdGeom.Xformable(prim)
    if xformable.TransformMightBeTimeVarying():
        reasons.append(f"'{prim.GetName()}' moves with time, which is not carried in USD")
    matrix = np.array(xformable.GetLocalTransformation(), dtype=np.float64).T
    above = prim.GetParent()
    while above and str(above.GetPath()) not in place and not above.IsPseudoRoot():
        above = above.GetParent()
    parent = place.get(str(above.GetPath())) if above and not xformable.GetResetXformStack() else None
    name = str(prim.GetName())
    try:
        placement = Placement.as_read(matrix, what=f"'{prim.GetPath()}'")
    except Refused as error:
        raise BadFile(file, str(error)) from error
    purpose = str(UsdGeom.Imageable(prim).ComputePurpose())
    kind = str(prim.GetTypeName())
    return Node(
        name=name,
        parent=parent,
        placement=placement,
        mesh=mesh,
        aimed=kind == "Camera" or kind.endswith("Light"),
        shown=purpose in {"default", "render"},
    )


def _mesh(prim: Any, looks: _Looks, file: str) -> Mesh | None:
    """Return a prim's geometry; of shapes without points, and of what instances share, the extent alone."""
    from pxr import UsdGeom

    if prim.IsA(UsdGeom.Mesh):
        found = _polygons(prim, looks, file)
        return replace(found, sealed=_SHARED) if prim.IsInstanceProxy() else found
    if prim.IsA(UsdGeom.PointBased):
        points = _values(UsdGeom.PointBased(prim).GetPointsAttr(), 3)
        return Mesh(
            name=str(prim.GetName()),
            points=points,
            triangles=np.empty((0, 3), dtype=np.uint32),
            strokes=((0, len(points)),) if len(points) else (),
            sealed=_SHARED if prim.IsInstanceProxy() else "",
            not_finite=count_not_finite([points]),
        )
    if prim.IsA(UsdGeom.Gprim) or prim.IsA(UsdGeom.PointInstancer):
        extent = UsdGeom.Boundable.ComputeExtentFromPlugins(UsdGeom.Boundable(prim), 0.0)
        if not extent or len(extent) != 2:
            return None
        low, high = (np.array(e, dtype=np.float64) for e in extent)
        corners = np.array([[(low, high)[k][i] for i, k in enumerate(c)] for c in np.ndindex(2, 2, 2)])
        return Mesh(
            name=str(prim.GetName()), points=corners, triangles=np.empty((0, 3), dtype=np.uint32), sealed=_SHAPE
        )
    return None


def _values(attribute: Any, width: int) -> NDArray[Any]:
    """Return an attribute's numbers at the first time there is any, shape (N, width), or (N,) where `width` is 1."""
    from pxr import Usd

    value = attribute.Get(Usd.TimeCode.EarliestTime())
    found = np.array(value) if value is not None else np.empty(0)
    return found.reshape(-1, width) if width > 1 else found.reshape(-1)


def _polygons(prim: Any, looks: _Looks, file: str) -> Mesh:
    from pxr import UsdGeom

    mesh = UsdGeom.Mesh(prim)
    if mesh.GetPointsAttr().GetNumTimeSamples() > 1:
        raise BadFile(file, f"'{prim.GetPath()}' has points that move with time, which is not read")
    points = _values(mesh.GetPointsAttr(), 3)
    counts = _values(mesh.GetFaceVertexCountsAttr(), 1).astype(np.int64)
    corners = _values(mesh.GetFaceVertexIndicesAttr(), 1).astype(np.int64)
    if (counts < 0).any() or int(counts.sum()) != len(corners):
        raise BadFile(file, f"'{prim.GetPath()}' counts {int(counts.sum())} corners and has {len(corners)}")
    if len(corners) and (corners.min() < 0 or corners.max() >= len(points)):
        raise BadFile(file, f"'{prim.GetPath()}' has a face that names a vertex that is not there ({len(points)} are)")
    triangles = polygons_to_triangles(corners, counts, points)
    if str(mesh.GetOrientationAttr().Get()) == "leftHanded":
        triangles = triangles[:, [0, 2, 1]]
    return Mesh(
        name=str(prim.GetName()),
        points=points,
        triangles=triangles,
        surfaces=_surfaces(prim, looks, counts),
        not_finite=count_not_finite([points]),
    )


def _surfaces(prim: Any, looks: _Looks, counts: NDArray[np.int64]) -> tuple[Surface, ...]:
    """Return runs of triangles that are bound to one material: by face, in the order of faces."""
    from pxr import UsdGeom, UsdShade

    own = looks.of(prim)
    of_face = np.full(len(counts), own)
    for subset in UsdShade.MaterialBindingAPI(prim).GetMaterialBindSubsets():
        faces = np.array(subset.GetIndicesAttr().Get() or [], dtype=np.int64)
        of_face[faces[(faces >= 0) & (faces < len(counts))]] = looks.of(subset.GetPrim())
    of_triangle = np.repeat(of_face, np.maximum(counts - 2, 0))
    if not len(of_triangle):
        return ()
    starts = np.flatnonzero(np.diff(of_triangle, prepend=_NO_LOOK - 1))
    ends = np.append(starts[1:], len(of_triangle))
    shown = UsdGeom.Gprim(prim).GetDisplayColorPrimvar().Get()
    plain = tuple(to_srgb(np.array(shown[0])).tolist()) if shown else PLAIN_COLOUR
    return tuple(
        Surface(
            first=int(a),
            count=int(b - a),
            colour=looks.found[of_triangle[a]].colour if of_triangle[a] >= 0 else (plain[0], plain[1], plain[2]),
            material=int(of_triangle[a]) if of_triangle[a] >= 0 else None,
        )
        for a, b in zip(starts, ends, strict=True)
    )


class _Looks:
    """The materials of a stage, each looked up once."""

    def __init__(self, folder: Path) -> None:
        self.folder = folder
        self.found: list[Look] = []
        self.known: dict[str, int] = {}
        self.is_shaded = False

    def of(self, prim: Any) -> int:
        """Return the number of the look that a prim is bound to, or -1."""
        from pxr import UsdShade

        material, _ = UsdShade.MaterialBindingAPI(prim).ComputeBoundMaterial()
        if not material:
            return _NO_LOOK
        path = str(material.GetPath())
        if path not in self.known:
            self.known[path] = len(self.found)
            self.found.append(self._look(material))
        return self.known[path]

    def _look(self, material: Any) -> Look:
        from pxr import UsdShade

        name = str(material.GetPrim().GetDisplayName() or material.GetPrim().GetName())
        shader, _, _ = material.ComputeSurfaceSource()
        base = shader.GetInput("diffuseColor") if shader else None
        inputs = {str(i.GetBaseName()) for i in shader.GetInputs()} if shader else set()
        self.is_shaded |= bool(inputs - {"diffuseColor", "opacity"})
        colour, image, opacity = PLAIN_COLOUR, None, 1.0
        if base:
            value = base.Get()
            if value is not None:
                red, green, blue = to_srgb(np.array(value)).tolist()  # linear in the file (UsdPreviewSurface)
                colour = red, green, blue
            if base.HasConnectedSource():
                source = UsdShade.Shader(base.GetConnectedSources()[0][0].source.GetPrim())
                texture = source.GetInput("file").Get() if source and source.GetInput("file") else None
                image = self._image(texture)
                colour = (1.0, 1.0, 1.0) if image is not None else colour
        clear = shader.GetInput("opacity").Get() if shader and shader.GetInput("opacity") else None
        if isinstance(clear, float):
            opacity = min(1.0, max(0.0, clear))
        return Look(name=name, colour=colour, opacity=opacity, image=image)

    def _image(self, texture: Any) -> Image | None:
        if texture is None or not (texture.resolvedPath or texture.path):
            return None
        # Backslashes, which other systems write, are resolved by nobody here.
        own = str(texture.resolvedPath) or str(self.folder / str(texture.path).replace("\\", "/"))
        path, home = Path(os.path.realpath(own)), Path(os.path.realpath(self.folder))
        if not path.is_file() or not path.is_relative_to(home):
            return None
        return Image(name=path.relative_to(home).as_posix(), path=path)


def attached_of(stage: Any, content: Content) -> dict[int, tuple[Attached, ...]]:
    """Return, for each node that is a mesh, its normals and the values of every other primvar that are numbers."""
    from pxr import UsdGeom

    found: dict[int, tuple[Attached, ...]] = {}
    for i, (path, node) in enumerate(zip(content.paths, content.asset.nodes, strict=True)):
        mesh = UsdGeom.Mesh(stage.GetPrimAtPath(path))
        if node.mesh is None or not mesh:
            continue
        rows = list[Attached]()
        given = [("normals", mesh.GetNormalsAttr().Get())]
        given += [(str(p.GetName()), p.Get()) for p in UsdGeom.PrimvarsAPI(mesh).GetPrimvarsWithAuthoredValues()]
        for name, value in given:
            values = np.array(value) if value is not None and hasattr(value, "__len__") else np.empty(0)
            if values.size and values.dtype.kind in "fiu":
                kind: Literal["normal", "kept"] = "normal" if name in {"normals", "primvars:normals"} else "kept"
                flat = values.reshape(len(values), -1)
                rows.append(Attached(what=name.removeprefix("primvars:"), kind=kind, values=flat, of="rows"))
        found[i] = tuple({r.what: r for r in rows}.values())
    return found


def plains_of(stage: Any, content: Content) -> dict[int, Plain]:
    """Return the asset's meshes, their corners told apart where normals or texture coordinates are per corner."""
    looks = dict(enumerate(content.looks))
    found: dict[int, Plain] = {}
    for path, node in zip(content.paths, content.asset.nodes, strict=True):
        if node.mesh is not None and node.mesh not in found:
            plain = plain_mesh(content.asset.meshes[node.mesh], looks)
            found[node.mesh] = _by_corner(stage.GetPrimAtPath(path), plain) if len(plain.triangles) else plain
    return found


def _by_corner(prim: Any, plain: Plain) -> Plain:
    from pxr import UsdGeom

    mesh = UsdGeom.Mesh(prim)
    if not mesh:
        return plain
    counts = _values(mesh.GetFaceVertexCountsAttr(), 1).astype(np.int64)
    corners = _values(mesh.GetFaceVertexIndicesAttr(), 1).astype(np.int64)
    places = polygons_to_triangles(np.arange(len(corners)), counts, np.asarray(plain.points)[corners])
    if str(mesh.GetOrientationAttr().Get()) == "leftHanded":
        places = places[:, [0, 2, 1]]
    face_of = np.repeat(np.arange(len(counts)), counts)
    keys, rows = [corners], dict[str, NDArray[Any]]()
    primvars = UsdGeom.PrimvarsAPI(prim)
    normals = primvars.GetPrimvar("normals")
    map_ = _map_of(primvars)
    own = normals.GetInterpolation() if normals else mesh.GetNormalsInterpolation()
    given = [("normals", 3, _flat(normals) if normals else mesh.GetNormalsAttr().Get(), own)]
    given += [("uvs", 2, _flat(map_), map_.GetInterpolation())] if map_ is not None else []
    shade = primvars.GetPrimvar("displayColor")
    if shade and shade.HasAuthoredValue() and str(shade.GetInterpolation()) != "constant":
        given.append(("colours", 3, _flat(shade), shade.GetInterpolation()))
    for name, width, value, how in given:
        if value is None:
            continue
        numbers = np.array(value, dtype=np.float64).reshape(-1, width)
        at = {"vertex": corners, "varying": corners, "faceVarying": np.arange(len(corners)), "uniform": face_of}.get(
            str(how), np.zeros(len(corners), dtype=np.int64)
        )
        if len(numbers) and (not len(at) or int(at.max()) < len(numbers)):
            _, same = np.unique(numbers, axis=0, return_inverse=True)
            keys.append(same.ravel()[at])
            rows[name] = numbers[at]
    _, first, local = np.unique(np.column_stack(keys), axis=0, return_index=True, return_inverse=True)
    bare = replace(
        plain,
        points=np.asarray(plain.points)[corners[first]],
        triangles=local.ravel()[places],
        normals=rows["normals"][first] if "normals" in rows else None,
        uvs=rows["uvs"][first] if "uvs" in rows else None,
    )
    return shaded(bare, to_srgb(rows["colours"][first]) if "colours" in rows else None)


def _flat(primvar: Any) -> Any:
    from pxr import Tf, Usd

    try:
        return primvar.ComputeFlattened(Usd.TimeCode.EarliestTime())
    except Tf.ErrorException:
        return None  # its indices lead out of its values, or there are none
