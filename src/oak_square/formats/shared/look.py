"""What a run of triangles looks like, as one format hands it to another.

The terms are those that glTF's and USD's plain surfaces share: a base colour, roughness and metalness, bumps,
occlusion, emission. Colours are sRGB, emission is linear.
"""

from __future__ import annotations

from dataclasses import dataclass, field
from pathlib import Path
from typing import Literal

__all__ = ["SHADING", "Image", "Look", "Texture", "Wrap"]

Colour = tuple[float, float, float]
Wrap = Literal["repeat", "clamp", "mirror"]
SHADING = (
    "texture tints", "roughness and metalness", "normal maps", "normal map strength", "occlusion", "emission",
    "cut-outs", "second texture coordinates", "texture wrapping", "further shading",
)  # fmt: skip
"""What a material may have beyond colour, opacity and a texture, as it is said where it gets lost."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Image:
    """An image file: its path beside the model, with `/`, and its bytes or where they are."""

    name: str
    path: Path | None = None
    data: bytes = field(default=b"", repr=False)

    def read(self) -> bytes:
        """Return its bytes."""
        return self.data if self.path is None else self.path.read_bytes()


@dataclass(frozen=True, slots=True, kw_only=True)
class Texture:
    """An image laid on by the first (`uv` 0) or second (1) texture coordinates; what lies beyond its edges."""

    image: Image
    across: Wrap = "repeat"
    up: Wrap = "repeat"
    uv: int = 0

    @staticmethod
    def of(image: Image | None) -> Texture | None:
        """Return an image as a texture laid on the usual way, where there is one."""
        return None if image is None else Texture(image=image)


@dataclass(frozen=True, slots=True, kw_only=True)
class Look:
    """What a run of triangles looks like.

    Attributes
    ----------
    name : str
    colour : tuple of 3 floats, 0 to 1, sRGB
        Base colour; where there is a texture, what it is multiplied by, both linear.
    opacity : float
        1 is solid.
    texture : Texture or None
    seen_through : bool
        Whether the texture's alpha counts as opacity too.
    cutoff : float or None
        Opacity below which nothing is drawn, and above which all of it is; None where it is not cut out.
    both_sides : bool
    roughness, metalness : float or None
        0 to 1; None where the file says nothing of light at all.
    rough_metal : Texture or None
        What they are multiplied by: roughness by its green, metalness by its blue (glTF 2.0, 3.9.2).
    normal : Texture or None
        Tangent-space normals; `bump` is what their slope is multiplied by.
    occlusion : Texture or None
        Its red, as far as `shade` says.
    glow : tuple of 3 floats, linear
        Emission; where there is `glow_texture`, what that is multiplied by.
    is_ours : bool
        Where the file gives it none.
    """

    name: str
    colour: Colour
    opacity: float = 1.0
    texture: Texture | None = None
    seen_through: bool = False
    cutoff: float | None = None
    both_sides: bool = False
    roughness: float | None = None
    metalness: float | None = None
    rough_metal: Texture | None = None
    normal: Texture | None = None
    bump: float = 1.0
    occlusion: Texture | None = None
    shade: float = 1.0
    glow: Colour = (0.0, 0.0, 0.0)
    glow_texture: Texture | None = None
    is_ours: bool = False

    @property
    def image(self) -> Image | None:
        """The image of its base colour."""
        return None if self.texture is None else self.texture.image

    @property
    def textures(self) -> tuple[Texture, ...]:
        """All it has."""
        every = (self.texture, self.rough_metal, self.normal, self.occlusion, self.glow_texture)
        return tuple(t for t in every if t is not None)

    def shading(self) -> tuple[str, ...]:
        """Return what of `SHADING` it has."""
        there = {
            "texture tints": self.texture is not None and self.colour != (1.0, 1.0, 1.0),
            "roughness and metalness": self.roughness is not None or self.metalness is not None or self.rough_metal,
            "normal maps": self.normal,
            "normal map strength": self.normal is not None and self.bump != 1,
            "occlusion": self.occlusion,
            "emission": any(self.glow),
            "cut-outs": self.cutoff is not None,
            "second texture coordinates": any(t.uv for t in self.textures),
            "texture wrapping": any((t.across, t.up) != ("repeat", "repeat") for t in self.textures),
        }
        return tuple(words for words in SHADING if there.get(words))
