"""Materials of a glTF as looks, and looks as materials (glTF 2.0, 3.9)."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

import numpy as np

from oak_square.core.checked import floats
from oak_square.core.errors import BadArray
from oak_square.formats.gltf.document import GltfDocument
from oak_square.formats.shared.look import SHADING, Image, Look, Texture, Wrap
from oak_square.formats.shared.model_file import Beside
from oak_square.formats.shared.plain import to_linear, to_srgb

__all__ = ["WRAPS", "Mention", "look_of", "material_of", "shading_of"]

WRAPS: dict[int, Wrap] = {10497: "repeat", 33071: "clamp", 33648: "mirror"}
_SUFFIXES = {"image/png": ".png", "image/jpeg": ".jpg", "image/webp": ".webp", "image/ktx2": ".ktx2"}
_TRANSFORM = "KHR_texture_transform"
_PBR = "pbrMetallicRoughness"
_LIT = {"roughnessFactor", "metallicFactor", "metallicRoughnessTexture"}
_USUAL_CUTOFF = 0.5


def look_of(document: GltfDocument, index: int, owner: str) -> Look:
    """Return a material as a look; `owner` goes into the names of images that lie inside the file."""
    item = document.items("materials")[index]
    surface = _find_object(item, _PBR)
    factor = _read_numbers(surface.get("baseColorFactor"), 4, 1.0)
    red, green, blue = to_srgb(np.array(factor[:3])).tolist()
    mode = item.get("alphaMode", "OPAQUE")
    texture = _read_texture(document, surface.get("baseColorTexture"), owner)
    normal, occlusion = item.get("normalTexture"), item.get("occlusionTexture")
    glow = _read_numbers(item.get("emissiveFactor"), 3, 0.0)
    return Look(
        name=str(item.get("name") or f"material_{index}"),
        colour=(red, green, blue),
        opacity=1.0 if mode == "OPAQUE" else float(np.clip(factor[3], 0, 1)),
        texture=texture,
        seen_through=mode != "OPAQUE" and texture is not None,
        cutoff=_read_number(item.get("alphaCutoff"), _USUAL_CUTOFF) if mode == "MASK" else None,
        both_sides=item.get("doubleSided") is True,
        roughness=_read_number(surface.get("roughnessFactor"), 1.0),
        metalness=_read_number(surface.get("metallicFactor"), 1.0),
        rough_metal=_read_texture(document, surface.get("metallicRoughnessTexture"), owner),
        normal=_read_texture(document, normal, owner),
        bump=_read_number(_find_object(item, "normalTexture").get("scale"), 1.0),
        occlusion=_read_texture(document, occlusion, owner),
        shade=_read_number(_find_object(item, "occlusionTexture").get("strength"), 1.0),
        glow=(glow[0], glow[1], glow[2]),
        glow_texture=_read_texture(document, item.get("emissiveTexture"), owner),
    )


def shading_of(document: GltfDocument) -> tuple[str, ...]:
    """Return what of `SHADING` the materials have; a file that leaves roughness out has no say in it."""
    found = set[str]()
    for item in document.items("materials"):
        mentions = list(_yield_mentions(item))
        surface = _find_object(item, _PBR)
        there = {
            "texture tints": "baseColorTexture" in surface
            and _read_numbers(surface.get("baseColorFactor"), 4, 1.0)[:3] != [1.0, 1.0, 1.0],
            "roughness and metalness": _LIT & set(surface),
            "normal maps": item.get("normalTexture"),
            "normal map strength": _read_number(_find_object(item, "normalTexture").get("scale"), 1.0) != 1,
            "occlusion": item.get("occlusionTexture"),
            "emission": any(_read_numbers(item.get("emissiveFactor"), 3, 0.0)),
            "cut-outs": item.get("alphaMode") == "MASK",
            "second texture coordinates": any(m.get("texCoord") == 1 for m in mentions),
            "texture wrapping": any(_read_wraps(document, m) != ("repeat", "repeat") for m in mentions),
            "further shading": item.get("extensions") or any(_is_beyond(m) for m in mentions),
        }
        found |= {words for words, is_there in there.items() if is_there}
    return tuple(words for words in SHADING if words in found)


def _yield_mentions(item: dict[str, Any]) -> Iterator[dict[str, Any]]:
    for group in (item, _find_object(item, _PBR)):
        yield from (v for k, v in group.items() if k.endswith("Texture") and isinstance(v, dict))


def _is_beyond(mention: dict[str, Any]) -> bool:
    """Tell whether a texture is moved, or laid on by a third set of coordinates."""
    return _TRANSFORM in _find_object(mention, "extensions") or mention.get("texCoord", 0) not in (0, 1)


def _find_object(item: dict[str, Any], key: str) -> dict[str, Any]:
    found = item.get(key)
    return found if isinstance(found, dict) else {}


def _read_number(value: object, usual: float) -> float:
    there = isinstance(value, int | float) and not isinstance(value, bool) and np.isfinite(value)
    return float(value) if there and isinstance(value, int | float) else usual


def _read_numbers(value: Any, count: int, usual: float) -> list[float]:
    try:
        return floats(value, (count,), "factor").tolist() if value is not None else [usual] * count
    except (BadArray, TypeError, ValueError):
        return [usual] * count


def _read_texture(document: GltfDocument, mention: Any, owner: str) -> Texture | None:
    if not isinstance(mention, dict) or mention.get("texCoord", 0) not in (0, 1):
        return None
    image = _find_image(document, mention, owner)
    if image is None:
        return None
    across, up = _read_wraps(document, mention)
    return Texture(image=image, across=across, up=up, uv=mention.get("texCoord", 0))


def _read_wraps(document: GltfDocument, mention: dict[str, Any]) -> tuple[Wrap, Wrap]:
    textures: Any = document.json.get("textures")
    samplers: Any = document.json.get("samplers")
    try:
        sampler = samplers[textures[mention["index"]]["sampler"]]
        return WRAPS.get(sampler.get("wrapS"), "repeat"), WRAPS.get(sampler.get("wrapT"), "repeat")
    except (KeyError, IndexError, TypeError, AttributeError):
        return "repeat", "repeat"


def _find_image(document: GltfDocument, mention: dict[str, Any], owner: str) -> Image | None:
    """Return the image a texture names; one that is inside the file gets a name that no other model's has."""
    textures: Any = document.json.get("textures")
    images: Any = document.json.get("images")
    try:
        source = images[textures[mention["index"]]["source"]]
        uri, view = source.get("uri"), source.get("bufferView")
        name = str(source.get("name") or "texture")
        if isinstance(uri, str) and not uri.startswith("data:"):
            beside = Beside(document.folder, document.file)
            path, own = beside.find(uri, is_uri=True), beside.name(uri, is_uri=True)
            return Image(name=own, path=path) if path is not None and own is not None else None
        if view is None:
            return None
        item = document.items("bufferViews")[view]
        start = item.get("byteOffset", 0)
        data = bytes(document.buffers[item["buffer"]].data[start : start + item["byteLength"]])
        suffix = _SUFFIXES.get(source.get("mimeType", ""), ".png")
        stem = "".join(c if c.isalnum() or c in "-_" else "_" for c in name) or "texture"
        alike = [i for i in images if isinstance(i, dict) and str(i.get("name") or "texture") == name]
        number = f"_{images.index(source)}" if len(alike) > 1 else ""
        return Image(name=f"{owner}_{stem}{number}{suffix}", data=data)
    except (KeyError, IndexError, TypeError, AttributeError):
        return None


Mention = tuple[dict[str, Any], str, Texture]


def material_of(look: Look) -> tuple[dict[str, Any], list[Mention]]:
    """Return a material, and each place in it where a texture is to be named: the object, its key, the texture."""
    linear = to_linear(np.array(look.colour)).tolist()
    surface: dict[str, Any] = {"baseColorFactor": [*linear, look.opacity]}
    # Metal is what a material without a word of it would be.
    surface["metallicFactor"] = 0.0 if look.metalness is None else look.metalness
    if look.roughness is not None:
        surface["roughnessFactor"] = look.roughness
    item: dict[str, Any] = {"name": look.name, _PBR: surface}
    if look.cutoff is not None:
        item |= {"alphaMode": "MASK", "alphaCutoff": look.cutoff}
    elif look.opacity < 1 or look.seen_through:
        item["alphaMode"] = "BLEND"
    if look.both_sides:
        item["doubleSided"] = True
    if any(look.glow):
        item["emissiveFactor"] = [min(1.0, c) for c in look.glow]
    named: list[Mention] = []
    for holder, key, texture, more in (
        (surface, "baseColorTexture", look.texture, {}),
        (surface, "metallicRoughnessTexture", look.rough_metal, {}),
        (item, "normalTexture", look.normal, {"scale": look.bump} if look.bump != 1 else {}),
        (item, "occlusionTexture", look.occlusion, {"strength": look.shade} if look.shade != 1 else {}),
        (item, "emissiveTexture", look.glow_texture, {}),
    ):
        if texture is not None:
            holder[key] = {**({"texCoord": texture.uv} if texture.uv else {}), **more}
            named.append((holder, key, texture))
    return item, named
