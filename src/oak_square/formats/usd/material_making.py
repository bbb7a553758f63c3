"""Looks as materials of a USD stage: UsdPreviewSurface and the nodes that read textures."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

import numpy as np

from oak_square.formats.shared.look import Look, Texture
from oak_square.formats.shared.plain import to_linear

__all__ = ["MAPS", "material_of"]

MAPS = ("st", "st1")
"""What the first and second texture coordinates of a made mesh are called."""


def material_of(stage: Any, path: str, look: Look) -> Any:
    """Define a look as a material at `path`, and return it."""
    from pxr import Gf, Sdf, UsdShade

    material = UsdShade.Material.Define(stage, path)
    if material.GetPrim().GetName() != look.name:
        material.GetPrim().SetDisplayName(look.name)
    shader = UsdShade.Shader.Define(stage, f"{path}/surface")
    shader.CreateIdAttr("UsdPreviewSurface")
    material.CreateSurfaceOutput().ConnectToSource(shader.ConnectableAPI(), "surface")
    nodes = _ShaderNodes(stage, path)
    linear = to_linear(np.array(look.colour)).tolist()

    def colour(name: str, value: Sequence[float], source: Any) -> None:
        socket = shader.CreateInput(name, Sdf.ValueTypeNames.Color3f)
        if source is None:
            socket.Set(Gf.Vec3f(*value))
        else:
            socket.ConnectToSource(source.CreateOutput("rgb", Sdf.ValueTypeNames.Float3))

    def number(name: str, value: float, source: Any = None, output: str = "") -> None:
        socket = shader.CreateInput(name, Sdf.ValueTypeNames.Float)
        if source is None:
            socket.Set(value)
        else:
            socket.ConnectToSource(source.CreateOutput(output, Sdf.ValueTypeNames.Float))

    base = nodes.texture("image", look.texture, "sRGB", [*linear, look.opacity])
    colour("diffuseColor", linear, base)
    if look.seen_through and base is not None:
        number("opacity", look.opacity, base, "a")
    elif look.opacity < 1:
        number("opacity", look.opacity)
    if look.cutoff is not None:
        number("opacityThreshold", look.cutoff)
    rough, metal = look.roughness, look.metalness
    light = nodes.texture(
        "light", look.rough_metal, "raw", [1.0, _choose_value(rough, 1.0), _choose_value(metal, 1.0), 1.0]
    )
    if rough is not None or light is not None:
        number("roughness", _choose_value(rough, 1.0), light, "g")
    if metal is not None or light is not None:
        number("metallic", _choose_value(metal, 0.0), light, "b")
    shaded = nodes.texture("shade", look.occlusion, "raw", [look.shade, 1.0, 1.0, 1.0], [1 - look.shade, 0.0, 0.0, 0.0])
    if shaded is not None:
        number("occlusion", 1.0, shaded, "r")
    # A map holds 0 to 1 for -1 to 1, and may not be made steeper here (UsdPreviewSurface specification).
    bumps = nodes.texture("bumps", look.normal, "raw", [2.0, 2.0, 2.0, 1.0], [-1.0, -1.0, -1.0, 0.0])
    if bumps is not None:
        socket = shader.CreateInput("normal", Sdf.ValueTypeNames.Normal3f)
        socket.ConnectToSource(bumps.CreateOutput("rgb", Sdf.ValueTypeNames.Float3))
    if any(look.glow):
        colour("emissiveColor", look.glow, nodes.texture("glow", look.glow_texture, "sRGB", [*look.glow, 1.0]))
    return material


def _choose_value(value: float | None, usual: float) -> float:
    return usual if value is None else value


class _ShaderNodes:
    """The nodes of one material that read textures; one that reads coordinates serves all that are laid on by them."""

    def __init__(self, stage: Any, path: str) -> None:
        self.stage, self.path = stage, path
        self.readers: dict[int, Any] = {}

    def texture(
        self, name: str, texture: Texture | None, space: str, scale: list[float], bias: list[float] | None = None
    ) -> Any:
        """Return a node that reads a texture, each channel times `scale` plus `bias`; None where there is none."""
        from pxr import Gf, Sdf, UsdShade

        if texture is None:
            return None
        node = UsdShade.Shader.Define(self.stage, f"{self.path}/{name}")
        node.CreateIdAttr("UsdUVTexture")
        node.CreateInput("file", Sdf.ValueTypeNames.Asset).Set(Sdf.AssetPath(f"./{texture.image.name}"))
        node.CreateInput("st", Sdf.ValueTypeNames.Float2).ConnectToSource(self._make_reader(texture.uv))
        node.CreateInput("wrapS", Sdf.ValueTypeNames.Token).Set(texture.across)
        node.CreateInput("wrapT", Sdf.ValueTypeNames.Token).Set(texture.up)
        node.CreateInput("sourceColorSpace", Sdf.ValueTypeNames.Token).Set(space)
        if any(v != 1 for v in scale):
            node.CreateInput("scale", Sdf.ValueTypeNames.Float4).Set(Gf.Vec4f(*scale))
        if any(bias or ()):
            node.CreateInput("bias", Sdf.ValueTypeNames.Float4).Set(Gf.Vec4f(*(bias or ())))
        return node

    def _make_reader(self, uv: int) -> Any:
        from pxr import Sdf, UsdShade

        if uv not in self.readers:
            reader = UsdShade.Shader.Define(self.stage, f"{self.path}/{('map', 'map_2')[uv]}")
            reader.CreateIdAttr("UsdPrimvarReader_float2")
            reader.CreateInput("varname", Sdf.ValueTypeNames.String).Set(MAPS[uv])
            self.readers[uv] = reader.CreateOutput("result", Sdf.ValueTypeNames.Float2)
        return self.readers[uv]
