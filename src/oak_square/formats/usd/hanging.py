"""A USD layer whose prims hang elsewhere, and whose meshes are cut into pieces; all numbers stay."""

from __future__ import annotations

import zipfile
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import replace
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import Any
from uuid import uuid4

from oak_square.core.errors import Refused
from oak_square.core.scene import Asset
from oak_square.core.words import say
from oak_square.formats.shared.hanging import Rehanging
from oak_square.formats.usd.cutting import cut_mesh
from oak_square.formats.usd.making import spelled
from oak_square.formats.usd.reading import Content

__all__ = ["rehung_layer"]


@contextmanager
def rehung_layer(path: Path, content: Content, asset: Asset, change: Rehanging) -> Iterator[tuple[Any, Asset]]:
    """Let the prims of a layer hang as the nodes of `asset`, with prims for pieces.

    Parameters
    ----------
    path : Path
        Of the source's root layer, or of its package; nothing is written there.

    Yields
    ------
    tuple of Sdf.Layer and Asset
        The layer, which is in no file, and `asset` with the names that its prims have.

    Raises
    ------
    Refused
        If what would change is told in another layer, or a prim's children would share a name.
    """
    # Heavy, and wanted for USD files alone.
    from pxr import Sdf, Usd

    with _unpack_root(path) as first:
        root = Sdf.Layer.FindOrOpen(str(first))
        kind = root.GetFileFormat() if str(root.GetFileFormat().formatId) in {"usda", "usdc"} else None
        # Beside the source, so that paths in it lead where they led. It is never saved.
        name = first.parent / f".{uuid4().hex}.usda"
        layer = Sdf.Layer.New(kind or Sdf.FileFormat.FindById("usda"), str(name))
        layer.TransferContent(root)
        stage = Usd.Stage.Open(layer, Sdf.Layer.CreateAnonymous(".usda"), Usd.Stage.LoadAll)
        paths: dict[int, Any] = {i: Sdf.Path(p) for i, p in enumerate(content.paths)}
        materials = {i: _material_of(stage, path) for i, path in paths.items()}
        for i, pieces in change.pieces.items():
            _check_own(stage, layer, paths[i])
            names = _free_names(stage.GetPrimAtPath(paths[i]), [asset.nodes[k].name for k in pieces])
            cut_mesh(layer, root, paths[i], [asset.mesh_of(k) for k in pieces], names)
            paths.update((k, paths[i].AppendChild(n)) for k, n in zip(pieces, names, strict=True))
            materials.update(dict.fromkeys(pieces, materials[i]))
        anew = set(change.anew)
        for i in (i for i in asset.order if i in anew):  # those above others first: none hangs below itself on the way
            old, new = _hang_prim(stage, layer, paths, i, asset)
            for places in (paths, materials):
                places.update((k, path.ReplacePrefix(old, new)) for k, path in places.items())
        for i, node in enumerate(asset.nodes):
            if node.mesh is not None:
                _keep_material(stage, paths[i], materials[i])
        yield layer, _called_so(asset, [paths[i].name for i in range(len(asset.nodes))])


def _called_so(asset: Asset, names: list[str]) -> Asset:
    """Return an asset with its nodes, and the meshes of its pieces, called as their prims are."""
    nodes = [replace(node, name=name) for node, name in zip(asset.nodes, names, strict=True)]
    meshes = list(asset.meshes)
    for node in nodes:
        if node.mesh is not None and node.cut_from is not None:
            meshes[node.mesh] = replace(meshes[node.mesh], name=node.name)
    return replace(asset, nodes=tuple(nodes), meshes=tuple(meshes))


@contextmanager
def _unpack_root(path: Path) -> Iterator[Path]:
    """Yield the path of a source's root layer, of a package's one unpacked for the while."""
    if path.suffix.lower() != ".usdz":
        yield path
        return
    with TemporaryDirectory() as folder, zipfile.ZipFile(path) as package:
        package.extractall(folder)
        yield Path(folder) / package.infolist()[0].filename


def _free_names(prim: Any, wanted: list[str]) -> list[str]:
    taken = {str(child.GetName()) for child in prim.GetAllChildren()}
    found = []
    for name in map(spelled, wanted):
        own, number = name, 2
        while own in taken:
            own, number = f"{name}_{number}", number + 1
        taken.add(own)
        found.append(own)
    return found


def _check_own(stage: Any, layer: Any, path: Any) -> None:
    """Make sure that a prim, with all below it, is told in `layer` alone, and there in no variant or other file.

    What a reference of its own brings below it comes along as it is.
    """
    from pxr import Usd

    prim = stage.GetPrimAtPath(path)
    if prim.IsInstanceProxy():
        raise Refused(say("'{getname}' lies inside an instance, whose parts are shared", getname=prim.GetName()))
    if layer.GetPrimAtPath(path) is None:
        raise Refused(
            say("'{getname}' is told in another file or variant, which stays as it is", getname=prim.GetName())
        )
    others = {other for other in stage.GetLayerStack(includeSessionLayers=False) if other != layer}
    for below in Usd.PrimRange(prim) if others else ():
        if any(spec.layer in others for spec in below.GetPrimStack()):
            raise Refused(say("'{getname}' is told in several layers", getname=below.GetName()))


def _material_of(stage: Any, path: Any) -> Any:
    """Return the path of the material that a prim is drawn with, also where one above it names it; empty for none."""
    from pxr import UsdShade

    return UsdShade.MaterialBindingAPI(stage.GetPrimAtPath(path)).ComputeBoundMaterial()[0].GetPath()


def _keep_material(stage: Any, path: Any, wanted: Any) -> None:
    """Let a prim be drawn with the material that it was drawn with, whatever hangs above it now."""
    from pxr import UsdShade

    if _material_of(stage, path) == wanted:
        return
    if wanted.isEmpty:
        raise Refused(say("'{name}' has no material, and would take that of what it hangs from", name=path.name))
    material = UsdShade.Material(stage.GetPrimAtPath(wanted))
    UsdShade.MaterialBindingAPI.Apply(stage.GetPrimAtPath(path)).Bind(material)


def _hang_prim(stage: Any, layer: Any, paths: dict[int, Any], i: int, asset: Asset) -> tuple[Any, Any]:
    """Hang a prim from the one that its node hangs from; return where it was and where it is."""
    from pxr import Sdf, Usd

    above, old = asset.nodes[i].parent, paths[i]
    parent = Sdf.Path.absoluteRootPath if above is None else paths[above]
    if _parent_node(paths, old) == above:
        return old, old  # a piece, which is there already
    _check_own(stage, layer, old)
    new = parent.AppendChild(old.name)
    if stage.GetPrimAtPath(new):
        below = say("the whole") if above is None else say("'{name}'", name=asset.nodes[above].name)
        raise Refused(
            say("{below} has a '{name}' below it, and USD holds no two of one name there", below=below, name=old.name)
        )
    options = Usd.NamespaceEditor.EditOptions()
    options.allowRelocatesAuthoring = False
    editor = Usd.NamespaceEditor(stage, options)
    editor.ReparentPrim(stage.GetPrimAtPath(old), stage.GetPrimAtPath(parent))
    result = editor.CanApplyEdits()
    if not result or not editor.ApplyEdits():
        raise Refused(
            say("'{name}' can't be hung elsewhere in its layer: {why}", name=old.name, why=str(result.whyNot)[:200])
        )
    if layer.defaultPrim == old.name and old.IsRootPrimPath():
        layer.defaultPrim = new.GetPrefixes()[0].name
    return old, new


def _parent_node(paths: dict[int, Any], path: Any) -> int | None:
    """Return the node of the nearest prim above a path that is one."""
    by_path = {p: k for k, p in paths.items()}
    above = path.GetParentPath()
    while above not in by_path and not above.isEmpty and above != above.absoluteRootPath:
        above = above.GetParentPath()
    return by_path.get(above)
