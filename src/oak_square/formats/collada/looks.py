"""Materials of a COLLADA file as looks: what its effects' common profile says (COLLADA 1.4.1, "Effects")."""

from __future__ import annotations

from urllib.parse import urlparse

import numpy as np
from numpy.typing import NDArray

from oak_square.core.scene import PLAIN_COLOUR
from oak_square.formats.collada.document import ColladaDocument, name_of
from oak_square.formats.shared.look import SHADING, Image, Look, Texture, Wrap
from oak_square.formats.shared.model_file import Beside
from oak_square.formats.shared.plain import to_linear
from oak_square.formats.shared.xml_spans import Element

__all__ = ["looks_of", "shading_of"]

Colour = tuple[float, float, float]
_WRAPS: dict[str, Wrap] = {"CLAMP": "clamp", "BORDER": "clamp", "NONE": "clamp", "MIRROR": "mirror"}
_BLACK: Colour = (0.0, 0.0, 0.0)
_FURTHER = ("specular", "reflective", "ambient")
_BUMPED = {"bump", "normal", "normalmap"}


def looks_of(document: ColladaDocument, beside: Beside) -> tuple[dict[str, Look], tuple[str, ...]]:
    """Return the look of each material by its id, and the image files that are there."""
    maps = _Maps(document)
    found = {m.attributes.get("id", ""): _read_look(document, beside, maps, m) for m in _list_materials(document)}
    textures = (_find_image_file(beside, e) for e in document.root.all("library_images", "image"))
    return found, tuple(dict.fromkeys(t for t in textures if t is not None))


def shading_of(document: ColladaDocument, looks: dict[str, Look]) -> tuple[str, ...]:
    """Return what of `SHADING` the materials have."""
    there = {words for look in looks.values() for words in look.shading()}
    for material in _list_materials(document):
        effect = _effect_of(document, material)
        for element in effect.walk() if effect is not None else ():
            if element.tag in _FURTHER and (element.one("texture") is not None or any(_read_colour(document, element))):
                there.add("further shading")
            if element.tag in _BUMPED:
                there.add("normal maps")
    return tuple(words for words in SHADING if words in there)


def _list_materials(document: ColladaDocument) -> list[Element]:
    return document.root.all("library_materials", "material")


def _effect_of(document: ColladaDocument, material: Element) -> Element | None:
    named = material.one("instance_effect")
    return document.target(named.attributes.get("url")) if named is not None else None


def _read_look(document: ColladaDocument, beside: Beside, maps: _Maps, material: Element) -> Look:
    effect, name = _effect_of(document, material), name_of(material)
    if effect is None:
        return Look(name=name, colour=PLAIN_COLOUR)
    parts = {e.tag: e for e in reversed(list(effect.walk()))}
    diffuse, emission = parts.get("diffuse"), parts.get("emission")
    texture = maps.texture(beside, effect, diffuse)
    colour = PLAIN_COLOUR
    if diffuse is not None and diffuse.one("texture") is not None:
        colour = (1.0, 1.0, 1.0)
    elif diffuse is not None:
        colour = _read_colour(document, diffuse, PLAIN_COLOUR)
    glow_texture = maps.texture(beside, effect, emission)
    glow = (1.0, 1.0, 1.0) if glow_texture is not None else _make_linear(_read_colour(document, emission))
    opacity = _find_opacity(document, parts)
    return Look(
        name=name,
        colour=colour,
        opacity=opacity,
        texture=texture,
        glow=glow,
        glow_texture=glow_texture,
    )


def _read_colour(document: ColladaDocument, element: Element | None, usual: Colour = _BLACK) -> Colour:
    plain = element.one("color") if element is not None else None
    values = _numbers_or_none(document, plain)
    if len(values) < 3:
        return usual
    red, green, blue = np.clip(values[:3], 0, 1)
    return float(red), float(green), float(blue)


def _numbers_or_none(document: ColladaDocument, element: Element | None) -> NDArray[np.float64]:
    """Return an element's numbers; none where one is none: a colour that can't be read costs itself, not the model.

    Some exporters write them as their desktop does, with a comma.
    """
    if element is None:
        return np.empty(0)
    try:
        values = np.array(element.text().replace(",", ".").split(), dtype=np.float64)
    except ValueError:
        return np.empty(0)
    return values if np.isfinite(values).all() else np.empty(0)


def _make_linear(colour: Colour) -> Colour:
    red, green, blue = to_linear(np.array(colour)).tolist()
    return red, green, blue


def _find_opacity(document: ColladaDocument, parts: dict[str, Element]) -> float:
    """Return how solid an effect is (COLLADA 1.4.1, "Determining Transparency").

    What would come to nothing is solid: programs that mean it the other way round write 0 for that.
    """
    clear, level = parts.get("transparent"), parts.get("transparency")
    if clear is None and level is None:
        return 1.0
    amount = level.one("float") if level is not None else None
    shares = _numbers_or_none(document, amount)
    share = float(shares[0]) if len(shares) else 1.0
    plain = clear.one("color") if clear is not None else None
    values = _numbers_or_none(document, plain)
    found = float(values[3] if len(values) > 3 else 1.0) * share
    if clear is not None and clear.attributes.get("opaque", "A_ONE") == "RGB_ZERO":
        seen = float(np.array([0.2126, 0.7152, 0.0722]) @ np.array(values[:3])) if len(values) >= 3 else 1.0
        found = 1 - seen * share
    return float(np.clip(found, 0, 1)) or 1.0


class _Maps:
    """Which texture coordinates each symbol of a document stands for, and the images behind samplers."""

    def __init__(self, document: ColladaDocument) -> None:
        self.document = document
        self.sets: dict[str, int] = {}
        there = set[int]()
        for element in document.root.walk():
            if element.tag == "input" and element.attributes.get("semantic") == "TEXCOORD":
                there.add(_parse_channel(element.attributes.get("set")))
            elif element.tag == "bind_vertex_input" and element.attributes.get("input_semantic") == "TEXCOORD":
                which = _parse_channel(element.attributes.get("input_set"))
                self.sets.setdefault(element.attributes.get("semantic", ""), which)
        self.order = sorted(there)

    def texture(self, beside: Beside, effect: Element, part: Element | None) -> Texture | None:
        """Return the texture that a part of an effect has."""
        named = part.one("texture") if part is not None else None
        if named is None:
            return None
        params = {e.attributes.get("sid"): e for e in effect.walk() if e.tag == "newparam"}
        name, wraps = named.attributes.get("texture", ""), dict[str, Wrap]()
        for _ in range(3):  # a sampler's source is a surface, a surface is initialised from an image
            param = params.get(name)
            inside = list(param.walk()) if param is not None else []
            wraps |= {e.tag: _WRAPS.get(e.text().strip(), "repeat") for e in inside if e.tag in {"wrap_s", "wrap_t"}}
            inner = next((e for e in inside if e.tag in {"source", "init_from"}), None)
            if inner is None:
                break
            name = inner.text()
        image = self.document.ids.get(name)
        reference = _find_image_file(beside, image) if image is not None and image.tag == "image" else None
        if reference is None:
            return None
        which = self.sets.get(named.attributes.get("texcoord", ""), -1)
        return Texture(
            image=Image(name=reference, path=self.document.folder / reference),
            across=wraps.get("wrap_s", "repeat"),
            up=wraps.get("wrap_t", "repeat"),
            uv=1 if which in self.order[1:2] else 0,
        )


def _parse_channel(text: str | None) -> int:
    return int(text) if text is not None and text.strip().isdecimal() and len(text) < 9 else 0


def _find_image_file(beside: Beside, image: Element) -> str | None:
    """Return the file that an image names, by its path from the folder, where it is there."""
    init = image.one("init_from")
    text = (init.one("ref") or init).text() if init is not None else ""
    return beside.name(text, is_uri=True) if text and urlparse(text).scheme != "data" else None
