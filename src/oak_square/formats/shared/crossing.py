"""From one format to another: what gets lost on the way, and the file that comes out."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from oak_square.core.baking import squared
from oak_square.core.errors import Refused
from oak_square.core.frames import Reading
from oak_square.core.motion import same_matrix
from oak_square.core.scene import Asset
from oak_square.core.words import counted, say
from oak_square.formats.register import FORMATS
from oak_square.formats.shared.model_file import Format, Received, Written
from oak_square.formats.shared.plain import scene_of

__all__ = ["cross", "losses", "losses_said", "target_of"]

_OF_MATERIALS = {
    "texture tints": say("the colours that its textures are multiplied by"),
    "roughness and metalness": say("the roughness and metalness of its materials"),
    "normal maps": say("its normal maps"),
    "normal map strength": say("how strong its normal maps are"),
    "occlusion": say("the occlusion of its materials"),
    "emission": say("the emission of its materials"),
    "cut-outs": say("the cut-outs of its materials"),
    "second texture coordinates": say("its second texture coordinates"),
    "texture wrapping": say("how its textures wrap"),
    "further shading": say("what else its materials say"),
}
_MOVING = {
    "animation": ("animation", say("its clips")),
    "skin": ("skins", say("its skins (the shape at rest is written)")),
    "morph": ("morph targets", say("its morph targets (the shape at rest is written)")),
    "instances": ("instances", say("its instances as such (each is written out)")),
    "cameras": ("cameras and lights", say("its cameras")),
    "lights": ("cameras and lights", say("its lights")),
}


def target_of(asset: Asset, wanted: str) -> Format:
    """Return the format that an asset is delivered in; `same` is its own."""
    return FORMATS[asset.format if wanted == "same" else wanted]


def losses(asset: Asset, target: Format) -> tuple[str, ...]:
    """Return what `target` does not get of an asset of another format, each in a few words."""
    return tuple(words for _, words in _list_lost(asset, target))


def _list_lost(asset: Asset, target: Format) -> list[tuple[str, str]]:
    """Return what gets lost on the way into `target`: what it is, of `CARRIED` where it is there, and in words."""
    source = FORMATS[asset.format]
    if target.is_kin(source):
        return []
    shown = [n for n in asset.nodes if n.shown]
    parts = [n for n in shown if n.mesh is not None]
    moving = (pair for key, pair in _MOVING.items() if key in asset.carries)
    found = [pair for pair in moving if pair[0] not in target.makes]
    if "hierarchy" not in target.makes and any(n.parent is not None for n in shown):
        found.append(("hierarchy", say("its hierarchy")))
    if "pivots" not in target.makes and any(_has_pivot(asset, i) for i in range(len(asset.nodes))):
        found.append(("pivots", say("the pivots of its parts")))
    if "names" not in target.makes and len(parts) > 1:
        found.append(("names", say("the names of its {parts}", parts=counted(len(parts), "part"))))
    if "normals" in source.holds and "normals" not in target.makes and any(m.normals is not None for m in asset.meshes):
        found.append(("normals", say("its normals")))
    if "texture-coordinates" in asset.carries and "texture coordinates" not in target.makes:
        found.append(("texture coordinates", say("its texture coordinates")))
    if "textures" in asset.carries and "textures" not in target.makes:
        found.append(("textures", say("its textures")))
    if "materials" in asset.carries and "colours" not in target.makes:
        found.append(("colours", say("its colours")))
    found += [(words, _OF_MATERIALS[words]) for words in asset.shading if words not in target.shades]
    if "vertex-colours" in asset.carries and "vertex colours" not in target.makes:
        found.append(("vertex colours", say("its vertex colours")))
    if "lines" in asset.carries or any(m.strokes for m in asset.meshes):
        found.append(("points and lines", say("its points and lines")))
    if any(not n.shown for n in asset.nodes):
        found.append(("scenes", say("what is in no scene")))
    if source.declares and not target.declares:
        found.append(("unit and axes", say("its unit and axes")))
    return found


def losses_said(asset: Asset, target: Format) -> str | None:
    """Return what gets lost of an asset on the way into `target`, and whose doing it is; None where nothing does."""
    lost = _list_lost(asset, target)
    theirs = [words for what, words in lost if not _can_hold(target, what)]
    ours = [words for what, words in lost if _can_hold(target, what)]
    said = [say("{title} can't hold {listed}", title=target.title, listed=_join_words(theirs))] if theirs else []
    said += (
        [say("Oak Square does not carry {listed} into {title} yet", listed=_join_words(ours), title=target.title)]
        if ours
        else []
    )
    return "; ".join(said) or None


def _can_hold(target: Format, what: str) -> bool:
    """Tell whether a format could hold something, whatever is made of it here."""
    return what in (*target.holds, *target.could)


def _join_words(words: list[str]) -> str:
    return words[0] if len(words) == 1 else say("{names} and {word}", names=", ".join(words[:-1]), word=words[-1])


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
        raise Refused(say("{unread}, so that it does not cross to another format", unread=received.asset.unread))
    for i in asset.parts:
        sealed = asset.mesh_of(i).sealed
        if sealed and not len(asset.mesh_of(i).triangles):
            raise Refused(
                say(
                    "the geometry of '{name}' is {sealed}, and does not cross to another format",
                    name=asset.nodes[i].name,
                    sealed=sealed,
                )
            )
    before, notes = asset, tuple[str, ...]()
    if not target.leans:
        asset, notes = squared(asset, range(len(asset.nodes)))
    written = target.make(scene_of(asset, source.plains(received, asset), reading))
    said = losses_said(asset, target)
    warnings = (*((said,) if said else ()), *notes, *written.warnings)
    return replace(written, warnings=warnings, asset=asset if asset is not before else None)
