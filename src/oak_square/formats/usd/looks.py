"""The materials of a USD stage as looks."""

from __future__ import annotations

import os
from pathlib import Path
from typing import Any

import numpy as np

from oak_square.core.scene import PLAIN_COLOUR
from oak_square.formats.plain import Image, Look, to_srgb

__all__ = ["NO_LOOK", "Looks"]

NO_LOOK = -1


class Looks:
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
            return NO_LOOK
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
