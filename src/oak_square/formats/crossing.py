"""From one format to another: what gets lost on the way, and the file that comes out."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from oak_square.core.errors import Refused
from oak_square.core.frames import Reading
from oak_square.core.motion import same_matrix, squared
from oak_square.core.scene import Asset
from oak_square.formats.model_file import FORMATS, Format, Received, Written
from oak_square.formats.plain import scene_of

__all__ = ["cross", "losses", "losses_said", "target_of"]

_MOVING = {
    "animation": ("animation", "its clips"),
    "skin": ("skins", "its skins (the shape at rest is written)"),
    "morph": ("morph targets", "its morph targets (the shape at rest is written)"),
    "instances": ("instances", "its instances as such (each is written out)"),
    "cameras": ("cameras and lights", "its cameras"),
    "lights": ("cameras and lights", "its lights"),
}


def target_of(asset: Asset, wanted: str) -> Format:
    """Return the format that an asset is delivered in; `same` is its own."""
    return FORMATS[asset.format if wanted == "same" else wanted]


def losses(asset: Asset, target: Format) -> tuple[str, ...]:
    """Return what `target` can't hold of an asset of another format, each in a few words; nothing where all of it."""
    source = FORMATS[asset.format]
    if target.is_kin(source):
        return ()
    shown = [n for n in asset.nodes if n.shown]
    parts = [n for n in shown if n.mesh is not None]
    found = [words for key, (what, words) in _MOVING.items() if key in asset.carries and what not in target.makes]
    if "hierarchy" not in target.makes and any(n.parent is not None for n in shown):
        found.append("its hierarchy")
    if "pivots" not in target.makes and any(_has_pivot(asset, i) for i in range(len(asset.nodes))):
        found.append("the pivots of its parts")
    if "names" not in target.makes and len(parts) > 1:
        found.append(f"the names of its {len(parts)} parts")
    if "normals" in source.holds and "normals" not in target.makes and any(m.normals is not None for m in asset.meshes):
        found.append("its normals")
    if "texture-coordinates" in asset.carries and "texture coordinates" not in target.makes:
        found.append("its texture coordinates")
    if "textures" in asset.carries and "textures" not in target.makes:
        found.append("its textures")
    if "materials" in asset.carries and "colours" not in target.makes:
        found.append("its colours")
    if "shading" in asset.carries:
        found.append("its materials beyond colour and texture")
    if "vertex-colours" in asset.carries and "vertex colours" not in target.makes:
        found.append("its vertex colours")
    if "lines" in asset.carries or any(m.strokes for m in asset.meshes):
        found.append("its points and lines")
    if any(not n.shown for n in asset.nodes):
        found.append("what is in no scene")
    if source.declares and not target.declares:
        found.append("its unit and axes")
    return tuple(found)


def losses_said(asset: Asset, target: Format) -> str | None:
    """Return what `target` can't hold of an asset in a sentence; None where it holds all."""
    words = losses(asset, target)
    if not words:
        return None
    listed = words[0] if len(words) == 1 else f"{', '.join(words[:-1])} and {words[-1]}"
    return f"{target.title} can't hold {listed}"


def _has_pivot(asset: Asset, index: int) -> bool:
    node = asset.nodes[index]
    return node.mesh is not None and not node.pinned and not same_matrix(asset.worlds[index], np.eye(4))


def cross(received: Received, asset: Asset, target: Format, reading: Reading) -> Written:
    """Return the file of format `target` for `asset`, prepared from `received`, its numbers under `reading`.

    Raises
    ------
    Refused
        If the target can't hold what the asset has become.
    """
    source = FORMATS[received.asset.format]
    if received.asset.unread:
        raise Refused(f"{received.asset.unread}, so that it does not cross to another format")
    for i in asset.parts:
        sealed = asset.mesh_of(i).sealed
        if sealed and not len(asset.mesh_of(i).triangles):
            raise Refused(f"the geometry of '{asset.nodes[i].name}' is {sealed}, and does not cross to another format")
    before, notes = asset, tuple[str, ...]()
    if not target.leans:
        asset, notes = squared(asset, range(len(asset.nodes)))
    written = target.make(scene_of(asset, source.plains(received, asset), reading))
    said = losses_said(asset, target)
    warnings = (*((said,) if said else ()), *notes, *written.warnings)
    return replace(written, warnings=warnings, asset=asset if asset is not before else None)
