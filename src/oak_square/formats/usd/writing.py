"""From a prepared asset back to its USD layer: opinions authored on the prims that steps touched, all else untouched.

A prim whose place is unchanged keeps its operations. Where only its translation changed, and its order begins with
`xformOp:translate`, that operation's value changes; a single `xformOp:transform` stays one. Any other order is replaced
by translate, orient and scale, or by one matrix where those can't hold it.
"""

from __future__ import annotations

import difflib
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import Any

import numpy as np
from numpy.typing import NDArray

from oak_square.core.errors import Refused
from oak_square.core.frames import Reading
from oak_square.core.geometry import as_float32
from oak_square.core.placement import Placement
from oak_square.core.scene import Asset, Mesh
from oak_square.core.tolerances import SAME_MATRIX
from oak_square.core.words import say
from oak_square.formats.shared.change import Change, change_of
from oak_square.formats.shared.model_file import Written, file_nodes, placements_reach, same_placement
from oak_square.formats.shared.text_edit import tidied
from oak_square.formats.usd.instancers import carry
from oak_square.formats.usd.normals import normals_of
from oak_square.formats.usd.packages import first_layer, packed_again
from oak_square.formats.usd.reading import Content
from oak_square.formats.usd.shapes import PROPERTIES, become_mesh, resized
from oak_square.formats.usd.stage import quiet, values_of

__all__ = ["author_place", "exported", "written"]

Array = NDArray[np.float64]


def written(
    path: Path, content: Content, asset: Asset, before: Reading, reading: Reading, suffix: str, rehung: Any = None
) -> Written:
    """Return the layer for `asset`, prepared from `content`, its numbers under `reading`.

    Parameters
    ----------
    path : Path
        Of the source's root layer.
    before : Reading
        What the source declares or is assumed to be in.
    suffix : str
        Of the file to be. A package is written as a package, all in it but its first layer as it was.
    rehung : Sdf.Layer, optional
        The root layer that `content` was read from, where that is not the source's own.

    Raises
    ------
    Refused
        If a change lies inside what instances share.
    """
    # Heavy, and wanted for USD files alone.
    from pxr import Sdf, Usd

    received = content.asset
    is_same = reading.same_frame(before)
    olds, news = file_nodes(received, before), file_nodes(asset, reading)
    reach = placements_reach(olds, received.meshes)
    pairs = enumerate(zip(olds, news, strict=True))
    moved = [k for k, (a, b) in pairs if not same_placement(a.placement, b.placement, reach)]
    changes = {k: change_of(n, asset) for k, n in enumerate(news) if n.mesh is not None}
    shaped = [k for k, change in changes.items() if not change.is_none]
    if is_same and not moved and not shaped and rehung is None and path.suffix.lower() == suffix:
        return Written(chunks=None)
    if received.rigid_reason and not is_same:
        raise Refused(received.rigid_reason)
    is_package = path.suffix.lower() == ".usdz"
    source = first_layer(path) if is_package else path.read_bytes()
    is_text = source[:5] == b"#usda"
    if suffix in {".usd", ".usdz"}:
        suffix = ".usda" if is_text else ".usdc"
    with quiet():
        received_root = Sdf.Layer.FindOrOpen(str(path))
        root = received_root if rehung is None else rehung
        session = Sdf.Layer.CreateAnonymous(".usda")
        stage = Usd.Stage.Open(root, session, Usd.Stage.LoadAll)
        stage.SetEditTarget(Usd.EditTarget(session))
        for k in moved:
            author_place(stage.GetPrimAtPath(content.paths[k]), news[k].placement)
        for k in shaped:
            _author_shape(stage.GetPrimAtPath(content.paths[k]), received.mesh_of(k), changes[k])
        remade = [news[k].name for k in shaped if session.GetPrimAtPath(content.paths[k]).typeName]
        warnings = (*_told_of_variants(stage, [content.paths[k] for k in shaped]), *_told_of_shapes(remade))
        out = Sdf.Layer.CreateAnonymous(suffix)
        out.TransferContent(root)
        if not is_same:
            _declare_reading(out, reading)
        _merge_layer(session, out)
        _without_leftovers(session, out)
        data = exported(out, suffix)
        if suffix == ".usda" and is_text:
            data = _with_comments(source, exported(received_root, suffix), data)
    return Written(chunks=(packed_again(path, data) if is_package else data,), warnings=warnings)


def _author_shape(prim: Any, mesh: Mesh, change: Change) -> None:
    """Author what a prim draws, read as `mesh`, changed."""
    from pxr import UsdGeom

    if prim.IsA(UsdGeom.PointInstancer):
        if change.shaped is not None:
            raise Refused(
                say(
                    "'{getname}' is drawn as many instances, which can't be given a shape of their own",
                    getname=prim.GetName(),
                )
            )
        carry(prim, change.matrix)
        return
    if not prim.IsA(UsdGeom.PointBased):
        if change.shaped is None and resized(prim, change.matrix):
            return
        become_mesh(prim, mesh)
    _author_geometry(prim, change)


def _told_of_shapes(names: list[str]) -> tuple[str, ...]:
    if not names:
        return ()
    if len(names) == 1:
        return (
            say("'{name}', a shape with a radius or size, is written as the mesh that it is drawn as", name=names[0]),
        )
    return (
        say(
            "'{name}' and {count} more shapes are written as the meshes that they are drawn as",
            name=names[0],
            count=len(names) - 1,
        ),
    )


def _told_of_variants(stage: Any, paths: list[str]) -> tuple[str, ...]:
    """Return a warning for each variant set whose choice decides what was rewritten: it is written for one of them."""
    found: dict[str, None] = {}
    for path in paths:
        prim = stage.GetPrimAtPath(path)
        while prim and not prim.IsPseudoRoot():
            for name in prim.GetVariantSets().GetNames():
                chosen = prim.GetVariantSet(name)
                others = [n for n in chosen.GetVariantNames() if n != chosen.GetVariantSelection()]
                if others:
                    words = say(
                        "'{getname}' is written as its variant '{name}: {getvariantselection}' has it",
                        getname=prim.GetName(),
                        name=name,
                        getvariantselection=chosen.GetVariantSelection(),
                    )
                    found[
                        say(
                            "{words}; under its other variants ({others}) it would not be true",
                            words=words,
                            others=", ".join(others),
                        )
                    ] = None
            prim = prim.GetParent()
    return tuple(found)


def _declare_reading(layer: Any, reading: Reading) -> None:
    layer.pseudoRoot.SetInfo("metersPerUnit", reading.metres_per_unit)
    layer.pseudoRoot.SetInfo("upAxis", reading.up[1])


def exported(layer: Any, suffix: str) -> bytes:
    """Return a layer's bytes as a file of that suffix."""
    with TemporaryDirectory() as folder:
        target = Path(folder) / f"layer{suffix}"
        layer.Export(str(target))
        return target.read_bytes()


def _merge_layer(strong: Any, into: Any) -> None:
    """Put the values that `strong` holds into another layer, and leave all else there as it is."""
    from pxr import Sdf

    paths: list[Any] = []
    strong.Traverse(Sdf.Path.absoluteRootPath, paths.append)
    for path in sorted(p for p in paths if p.IsPropertyPath()):
        spec = strong.GetPropertyAtPath(path)
        prim = Sdf.CreatePrimInLayer(into, path.GetPrimPath())
        own = into.GetAttributeAtPath(path)
        if own is None:
            own = Sdf.AttributeSpec(prim, path.name, spec.typeName, spec.variability, spec.custom)
        if spec.HasInfo("interpolation"):
            own.SetInfo("interpolation", spec.GetInfo("interpolation"))
        for time in into.ListTimeSamplesForPath(path):  # at any time they would speak louder than what is put here
            into.EraseTimeSample(path, time)
        own.default = spec.default
    for path in sorted(p for p in paths if p.IsPrimPath()):
        kind = strong.GetPrimAtPath(path).typeName
        if kind:
            Sdf.CreatePrimInLayer(into, path).typeName = kind


def _without_leftovers(session: Any, layer: Any) -> None:
    """Take out of a layer what told the shapes that have become meshes."""
    from pxr import Sdf

    paths: list[Any] = []
    session.Traverse(Sdf.Path.absoluteRootPath, paths.append)
    for path in (p for p in paths if p.IsPrimPath() and session.GetPrimAtPath(p).typeName):
        spec = layer.GetPrimAtPath(path)
        for name in PROPERTIES:
            if name in spec.properties:
                spec.RemoveProperty(spec.properties[name])


def author_place(prim: Any, placement: Placement) -> None:
    """Author a prim's place in the stage's edit target.

    Raises
    ------
    Refused
        If the prim lies inside an instance.
    """
    from pxr import Gf, UsdGeom

    if prim.IsInstanceProxy():
        raise Refused(say("'{getname}' lies inside an instance, whose parts are shared", getname=prim.GetName()))
    xformable = UsdGeom.Xformable(prim)
    ops = xformable.GetOrderedXformOps()
    names = [str(op.GetOpName()) for op in ops]
    matrix = Gf.Matrix4d(placement.matrix.T.tolist())
    if names == ["xformOp:transform"]:
        ops[0].Set(matrix)
        return
    if names and names[0] == "xformOp:translate" and not xformable.GetResetXformStack():
        rest = np.eye(4)
        for op in ops[1:]:
            rest = rest @ np.array(op.GetOpTransform(0.0)).T
        same = np.abs(rest[:3, :3] - placement.matrix[:3, :3]).max() <= SAME_MATRIX * max(
            1.0, float(np.abs(rest).max())
        )
        if same:
            _set_matrix(ops[0], placement.translation - rest[:3, 3])
            return
    keep = bool(xformable.GetResetXformStack())
    if placement.is_sheared:
        xformable.ClearXformOpOrder()
        _add_operation(xformable, UsdGeom.XformOp.TypeTransform).Set(matrix)
    else:
        xformable.ClearXformOpOrder()
        if placement.translation.any():
            _set_matrix(_add_operation(xformable, UsdGeom.XformOp.TypeTranslate), placement.translation)
        x, y, z, w = (float(v) for v in placement.rotation)
        if (x, y, z) != (0.0, 0.0, 0.0):
            orient = _add_operation(xformable, UsdGeom.XformOp.TypeOrient)
            single = orient.GetPrecision() == UsdGeom.XformOp.PrecisionFloat
            orient.Set(Gf.Quatf(w, x, y, z) if single else Gf.Quatd(w, x, y, z))
        if (placement.scale != 1).any():
            _set_matrix(_add_operation(xformable, UsdGeom.XformOp.TypeScale), placement.scale)
    if keep:
        xformable.SetResetXformStack(True)


def _add_operation(xformable: Any, kind: Any) -> Any:
    """Add an operation, of the precision that its attribute has where there is one."""
    from pxr import Sdf, UsdGeom

    attribute = xformable.GetPrim().GetAttribute(f"xformOp:{UsdGeom.XformOp.GetOpTypeToken(kind)}")
    floats = {Sdf.ValueTypeNames.Float3, Sdf.ValueTypeNames.Quatf}
    single = bool(attribute) and attribute.GetTypeName() in floats
    precision = UsdGeom.XformOp.PrecisionFloat if single else UsdGeom.XformOp.PrecisionDouble
    return xformable.AddXformOp(kind, precision)


def _set_matrix(op: Any, values: Array) -> None:
    from pxr import Gf, UsdGeom

    single = op.GetPrecision() == UsdGeom.XformOp.PrecisionFloat
    x, y, z = (float(v) for v in tidied(values))
    op.Set(Gf.Vec3f(x, y, z) if single else Gf.Vec3d(x, y, z))


def _author_geometry(prim: Any, change: Change) -> None:
    """Author a mesh's points, normals and extent, changed; a mirror turns its orientation."""
    from pxr import UsdGeom, Vt

    if prim.IsInstanceProxy() or not prim.IsA(UsdGeom.PointBased):
        raise Refused(say("the geometry of '{getname}' can't be rewritten here", getname=prim.GetName()))
    shape = UsdGeom.PointBased(prim)
    points = as_float32(change.points(values_of(shape.GetPointsAttr(), 3).astype(np.float64)))
    shape.GetPointsAttr().Set(Vt.Vec3fArray.FromNumpy(points))
    if len(points):
        ends = np.stack([points.min(axis=0), points.max(axis=0)])
        shape.GetExtentAttr().Set(Vt.Vec3fArray.FromNumpy(np.ascontiguousarray(ends)))
    for normals in normals_of(prim):
        own: Array | None = normals.values
        if change.shaped is not None:
            own = normals.author_now(change.shaped)
            if own is None:
                raise Refused(
                    say(
                        "'{getname}' has normals for other corners than its own: none can be worked out",
                        getname=prim.GetName(),
                    )
                )
        if own is not None:
            turned = change.normals(own).astype(np.float32)
            normals.attribute.Set(Vt.Vec3fArray.FromNumpy(np.ascontiguousarray(turned)))
    if change.mirrors and prim.IsA(UsdGeom.Mesh):
        orientation: Any = UsdGeom.Mesh(prim).GetOrientationAttr()
        left = str(orientation.Get()) == "leftHanded"
        orientation.Set(UsdGeom.Tokens.rightHanded if left else UsdGeom.Tokens.leftHanded)


def _with_comments(source: bytes, plain: bytes, edited: bytes) -> bytes:
    """Return the source text with the lines changed that differ between its plain export and the edited one.

    The library drops comments and sorts properties when it writes text. Where the source's own text, changed line by
    line, says the same as the edited export, it is kept.
    """
    own, old, new = (data.decode("utf-8").split("\n") for data in (source, plain, edited))
    place = _same_lines(old, own)
    drop, put = set[int](), dict[int, list[str]]()
    for tag, i1, i2, j1, j2 in difflib.SequenceMatcher(None, old, new, autojunk=False).get_opcodes():
        if tag == "equal":
            continue
        lines = range(i1, i2) if i2 > i1 else range(i1 - 1, i1)
        if any(i not in place for i in lines):
            return edited
        if i2 > i1:
            drop.update(place[i] for i in lines)
            put.setdefault(place[i1], []).extend(new[j1:j2])
        else:
            put.setdefault(place[i1 - 1] + 1, []).extend(new[j1:j2])
    out = list[str]()
    for k, line in enumerate([*own, ""]):
        out += put.get(k, [])
        if k < len(own) and k not in drop:
            out.append(line)
    text = "\n".join(out).encode()
    return text if _normalise_text(text) == edited else edited


def _normalise_text(text: bytes) -> bytes:
    """Return how the library writes what a text says; nothing where it says nothing that can be read."""
    from pxr import Sdf, Tf

    layer = Sdf.Layer.CreateAnonymous(".usda")
    try:
        return exported(layer, ".usda") if layer.ImportFromString(text.decode("utf-8")) else b""
    except Tf.ErrorException:
        return b""


def _same_lines(old: list[str], own: list[str]) -> dict[int, int]:
    """Return where lines of one text stand in another: by their words and the prims they are in."""
    there: dict[tuple[str, ...], list[int]] = {}
    for k, key in enumerate(_split_keys(own)):
        there.setdefault(key, []).append(k)
    here: dict[tuple[str, ...], list[int]] = {}
    for k, key in enumerate(_split_keys(old)):
        here.setdefault(key, []).append(k)
    return {
        a: b
        for key, rows in here.items()
        if len(rows) == len(there.get(key, []))
        for a, b in zip(rows, there[key], strict=True)
    }


def _split_keys(lines: list[str]) -> list[tuple[str, ...]]:
    stack, head, found = list[str](), "", list[tuple[str, ...]]()
    for line in lines:
        words = line.strip()
        if words.startswith(("def ", "over ", "class ")):
            head = words
        if words == "}" and stack:
            stack.pop()
        found.append((*stack, words))
        if words == "{":
            stack.append(head)
    return found
