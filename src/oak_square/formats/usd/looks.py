"""The materials of a USD stage as looks (UsdPreviewSurface), by the nodes that its own renderers know."""

from __future__ import annotations

import os
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import numpy as np

from oak_square.core.scene import PLAIN_COLOUR
from oak_square.formats.shared.look import SHADING, Image, Look, Texture, Wrap
from oak_square.formats.shared.plain import to_srgb

__all__ = ["NO_LOOK", "StageMaterials"]

NO_LOOK = -1
_WRAPS: dict[str, Wrap] = {"clamp": "clamp", "mirror": "mirror"}
_CARRIED = {
    "diffuseColor", "opacity", "opacityThreshold", "opacityMode", "roughness", "metallic", "normal", "occlusion",
    "emissiveColor", "useSpecularWorkflow",
}  # fmt: skip
_ROUGH = 0.5  # what it is where a surface does not say (UsdPreviewSurface specification)


@dataclass(frozen=True, slots=True, kw_only=True)
class _Connected:
    """What an input takes from a texture: which of its outputs, and what that is multiplied by, by channel."""

    texture: Texture
    output: str
    scale: tuple[float, ...]


def _find_source(socket: Any) -> Any:
    """Return what an input is connected to, or None."""
    sources = socket.GetConnectedSources()[0] if socket and socket.HasConnectedSource() else []
    return sources[0] if sources else None


def _input_value(shader: Any, name: str, usual: Any) -> Any:
    """Return an input's own value, or that of the input of its material it is connected to; `usual` where none."""
    from pxr import Usd

    socket = shader.GetInput(name)
    attributes = socket.GetValueProducingAttributes() if socket else []
    value = attributes[0].Get(Usd.TimeCode.EarliestTime()) if attributes else None
    return usual if value is None or type(value).__name__ == "UnregisteredValue" else value


def _number_or(value: Any, usual: float) -> float:
    """Return a value as a number; `usual` where it is of another kind."""
    try:
        return float(value)
    except (TypeError, ValueError):
        return usual


def _read_factor(shader: Any, name: str, usual: float, source: Any, channel: int) -> float:
    """Return the number of an input, or what the channel of its texture is multiplied by."""
    return float(source.scale[channel]) if source else _number_or(_input_value(shader, name, usual), usual)


def _make_srgb(linear: Any) -> tuple[float, float, float]:
    red, green, blue = to_srgb(np.array(linear, dtype=np.float64)[:3]).tolist()
    return red, green, blue


def _read_linear(values: Any) -> tuple[float, float, float]:
    red, green, blue = (float(v) for v in list(values)[:3])
    return red, green, blue


class StageMaterials:
    """The materials of a stage, each looked up once.

    Attributes
    ----------
    found : list of Look
    maps : list of str
        The primvars that textures are laid on by, in the order they are met: the first two are carried.
    beyond : bool
        Whether a material says what a look can't.
    """

    def __init__(self, folder: Path) -> None:
        self.folder = folder
        self.found: list[Look] = []
        self.known: dict[str, int] = {}
        self.maps: list[str] = []
        self.beyond = False

    def shading(self) -> tuple[str, ...]:
        """Return what of `SHADING` the materials have."""
        there = {words for look in self.found for words in look.shading()}
        return tuple(w for w in SHADING if w in there or (w == "further shading" and self.beyond))

    def of(self, prim: Any) -> int:
        """Return the number of the look that a prim is bound to, or -1."""
        from pxr import UsdShade

        material, _ = UsdShade.MaterialBindingAPI(prim).ComputeBoundMaterial()
        if not material:
            return NO_LOOK
        path = str(material.GetPath())
        if path not in self.known:
            self.known[path] = len(self.found)
            self.found.append(self._read_look(material))
        return self.known[path]

    def _read_look(self, material: Any) -> Look:
        name = str(material.GetPrim().GetDisplayName() or material.GetPrim().GetName())
        shader, _, _ = material.ComputeSurfaceSource()
        if not shader or str(shader.GetIdAttr().Get()) != "UsdPreviewSurface":
            self.beyond |= bool(shader)
            return Look(name=name, colour=self._input_colour(shader))
        told = {str(i.GetBaseName()) for i in shader.GetInputs() if i.GetAttr().HasAuthoredValue() or _find_source(i)}
        self.beyond |= bool(told - _CARRIED) or bool(_input_value(shader, "useSpecularWorkflow", 0))
        base = self._find_connected(shader, "diffuseColor")
        rough, metal = self._find_connected(shader, "roughness"), self._find_connected(shader, "metallic")
        through, normal = self._find_connected(shader, "opacity"), self._find_connected(shader, "normal")
        shade, glow = self._find_connected(shader, "occlusion"), self._find_connected(shader, "emissiveColor")
        lit = told & {"roughness", "metallic"}
        packed = self._find_packed(rough, metal)
        cutoff = float(_input_value(shader, "opacityThreshold", 0.0))
        opacity = through.scale[3] if through is not None else float(_input_value(shader, "opacity", 1.0))
        seen_through = (
            through is not None and base is not None and (through.texture, through.output) == (base.texture, "a")
        )
        self.beyond |= (through is not None and not seen_through) or (shade is not None and shade.output != "r")
        return Look(
            name=name,
            colour=_make_srgb(base.scale) if base is not None else self._input_colour(shader),
            opacity=min(1.0, max(0.0, opacity)),
            texture=None if base is None else base.texture,
            seen_through=seen_through,
            cutoff=cutoff if cutoff > 0 else None,
            roughness=_read_factor(shader, "roughness", _ROUGH, packed and rough, 1) if lit else None,
            metalness=_read_factor(shader, "metallic", 0.0, packed and metal, 2) if lit else None,
            rough_metal=packed,
            normal=None if normal is None else normal.texture,
            bump=1.0 if normal is None else normal.scale[0] / 2,
            occlusion=None if shade is None else shade.texture,
            shade=1.0 if shade is None else shade.scale[0],
            glow=_read_linear(
                glow.scale if glow is not None else _input_value(shader, "emissiveColor", (0.0, 0.0, 0.0))
            ),
            glow_texture=None if glow is None else glow.texture,
        )

    def _input_colour(self, shader: Any) -> tuple[float, float, float]:
        value = _input_value(shader, "diffuseColor", None) if shader else None
        return PLAIN_COLOUR if value is None else _make_srgb(value)  # linear in the file

    def _find_packed(self, rough: _Connected | None, metal: _Connected | None) -> Texture | None:
        """Return the texture that roughness and metalness share, by the channels that looks have; note any other."""
        both = [c for c in (rough, metal) if c is not None]
        fits = [c.output == channel for c, channel in ((rough, "g"), (metal, "b")) if c is not None]
        if both and all(fits) and all(c.texture == both[0].texture for c in both):
            return both[0].texture
        self.beyond |= bool(both)
        return None

    def _find_connected(self, shader: Any, name: str) -> _Connected | None:
        """Return what an input of a surface takes from a texture."""
        from pxr import UsdShade

        socket = shader.GetInput(name)
        source = _find_source(socket) if socket else None
        if source is None:
            return None
        node = UsdShade.Shader(source.source.GetPrim())
        asset = _input_value(node, "file", None) if node and str(node.GetIdAttr().Get()) == "UsdUVTexture" else None
        image = self._read_image(asset)
        if image is None:
            self.beyond |= asset is None
            return None
        across, up = (_WRAPS.get(str(_input_value(node, k, "")), "repeat") for k in ("wrapS", "wrapT"))
        texture = Texture(image=image, across=across, up=up, uv=self._find_map(node))
        told = _input_value(node, "scale", (1.0, 1.0, 1.0, 1.0))
        scale = tuple(_number_or(v, 1.0) for v in told) if len(told) == 4 else (1.0, 1.0, 1.0, 1.0)
        return _Connected(texture=texture, output=str(source.sourceName), scale=scale)

    def _find_map(self, texture: Any) -> int:
        """Return which texture coordinates lay a texture on: 0 or 1."""
        from pxr import UsdShade

        source = _find_source(texture.GetInput("st"))
        reader = UsdShade.Shader(source.source.GetPrim()) if source is not None else None
        if reader and str(reader.GetIdAttr().Get()) == "UsdTransform2d":
            self.beyond = True
            source = _find_source(reader.GetInput("in"))
            reader = UsdShade.Shader(source.source.GetPrim()) if source is not None else None
        name = str(_input_value(reader, "varname", "") or "st") if reader else "st"
        if name not in self.maps:
            self.maps.append(name)
        self.beyond |= self.maps.index(name) > 1
        return min(self.maps.index(name), 1)

    def _read_image(self, texture: Any) -> Image | None:
        if texture is None or not hasattr(texture, "resolvedPath") or not (texture.resolvedPath or texture.path):
            return None
        # Backslashes, which other systems write, are resolved by nobody here.
        own = str(texture.resolvedPath) or str(self.folder / str(texture.path).replace("\\", "/"))
        path, home = Path(os.path.realpath(own)), Path(os.path.realpath(self.folder))
        if not path.is_file() or not path.is_relative_to(home):
            return None
        return Image(name=path.relative_to(home).as_posix(), path=path)
