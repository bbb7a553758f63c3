"""The shape of a glTF's JSON, checked once where it comes in: whoever reads it later can trust its types.

Only what is read is told of; all else may be anything, and is kept. Follows the schema of glTF 2.0 (Khronos Group).
"""

from __future__ import annotations

from threading import Lock
from typing import Annotated, Any

import msgspec

__all__ = ["trouble_of"]

Index = Annotated[int, msgspec.Meta(ge=0, le=2**31)]
Whole = Annotated[int, msgspec.Meta(ge=0, le=2**53)]
Number = Annotated[float, msgspec.Meta(ge=-1e300, le=1e300)]
Three = Annotated[list[Number], msgspec.Meta(min_length=3, max_length=3)]
Four = Annotated[list[Number], msgspec.Meta(min_length=4, max_length=4)]
Sixteen = Annotated[list[Number], msgspec.Meta(min_length=16, max_length=16)]
Attributes = dict[str, Index]


class _Item(msgspec.Struct):
    name: str = ""
    extensions: dict[str, Any] = {}


class _Node(_Item):
    children: list[Index] = []
    mesh: Index | None = None
    skin: Index | None = None
    camera: Index | None = None
    matrix: Sixteen | None = None
    translation: Three | None = None
    rotation: Four | None = None
    scale: Three | None = None
    weights: list[Number] = []


class _Primitive(_Item):
    attributes: Attributes = {}
    indices: Index | None = None
    material: Index | None = None
    mode: Annotated[int, msgspec.Meta(ge=0, le=6)] = 4
    targets: list[Attributes] = []


class _Mesh(_Item):
    primitives: list[_Primitive] = []
    weights: list[Number] = []


class _Run(msgspec.Struct, rename="camel"):
    buffer_view: Index
    component_type: int = 0
    byte_offset: Whole = 0


class _Sparse(msgspec.Struct):
    count: Whole
    indices: _Run
    values: _Run


class _Accessor(_Item, rename="camel"):
    component_type: int = 0
    count: Whole = 0
    type: str = ""
    buffer_view: Index | None = None
    byte_offset: Whole = 0
    normalized: bool = False
    sparse: _Sparse | None = None
    min: list[float] = []
    max: list[float] = []


class _View(_Item, rename="camel"):
    buffer: Index = 0
    byte_length: Whole = 0
    byte_offset: Whole = 0
    byte_stride: Annotated[int, msgspec.Meta(ge=0, le=65_535)] | None = None


class _Buffer(_Item, rename="camel"):
    byte_length: Whole = 0
    uri: str | None = None


class _Scene(_Item):
    nodes: list[Index] = []


class _Skin(_Item, rename="camel"):
    joints: list[Index] = []
    skeleton: Index | None = None
    inverse_bind_matrices: Index | None = None


class _TextureUse(msgspec.Struct):
    index: Index = 0


class _Surface(msgspec.Struct, rename="camel"):
    base_color_texture: _TextureUse | None = None


class _Material(_Item, rename="camel"):
    pbr_metallic_roughness: _Surface | None = None
    alpha_mode: str = "OPAQUE"


class _Texture(_Item):
    source: Index | None = None


class _Image(_Item, rename="camel"):
    uri: str | None = None
    buffer_view: Index | None = None
    mime_type: str | None = None


class _Document(msgspec.Struct, rename="camel"):
    asset: dict[str, Any]
    scene: Index = 0
    scenes: list[_Scene] = []
    nodes: list[_Node] = []
    meshes: list[_Mesh] = []
    accessors: list[_Accessor] = []
    buffer_views: list[_View] = []
    buffers: list[_Buffer] = []
    skins: list[_Skin] = []
    animations: list[dict[str, Any]] = []  # one that does not hold together leaves the model as it is: see `clips`
    materials: list[_Material] = []
    textures: list[_Texture] = []
    images: list[_Image] = []
    samplers: list[dict[str, Any]] = []
    cameras: list[dict[str, Any]] = []
    extensions: dict[str, Any] = {}
    extensions_used: list[str] = []
    extensions_required: list[str] = []


# The library works a type's shape out when it first meets it, and ends the process where two threads do so at once.
_ONE_AT_A_TIME = Lock()


def trouble_of(document: dict[str, Any]) -> str | None:
    """Return where a document is not of glTF's shape, and what stands there; None where it is."""
    try:
        with _ONE_AT_A_TIME:
            msgspec.convert(document, _Document)
    except msgspec.ValidationError as error:
        return str(error).replace(" - at `$.", ", at `").replace(" - at `$", ", at `")
    return None
