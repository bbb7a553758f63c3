"""The formats of OpenUSD: text, binary, and packages, which are not made from other formats."""

from __future__ import annotations

from dataclasses import dataclass, replace
from pathlib import Path
from typing import Any, ClassVar

from oak_square.core.attached import Attached
from oak_square.core.errors import BadFile
from oak_square.core.frames import WORKING, Reading
from oak_square.core.scene import Asset
from oak_square.core.words import say
from oak_square.formats.limits import LIMITS, Limits
from oak_square.formats.register import Entry
from oak_square.formats.shared.hanging import Rehanging, file_order, rehanging_of
from oak_square.formats.shared.look import SHADING
from oak_square.formats.shared.model_file import Companion, Format, Received, Written, checked_size, registered
from oak_square.formats.shared.plain import Plain, PlainScene
from oak_square.formats.usd import USDA, USDC, USDZ
from oak_square.formats.usd.belongings import belongings_of
from oak_square.formats.usd.hanging import rehung_layer
from oak_square.formats.usd.making import made, made_trouble, spelled
from oak_square.formats.usd.reading import Content, attached_of, content_of, plains_of
from oak_square.formats.usd.stage import NoNumbers, open_stage, quiet
from oak_square.formats.usd.writing import written

__all__ = ["Usda", "Usdc", "Usdz"]

_AXES = {("+Y", "+Z"), ("+Z", "-Y")}


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class _UsdCarrier:
    path: Path
    content: Content
    limits: Limits


class _Usd(Format):
    declares: ClassVar[bool] = True
    could: ClassVar[tuple[str, ...]] = (
        "points and lines",
        "texture tints",
        "roughness and metalness",
        "normal maps",
        "occlusion",
        "emission",
        "cut-outs",
        "second texture coordinates",
        "texture wrapping",
        "further shading",
        "instances",
    )
    holds: ClassVar[tuple[str, ...]] = (
        "unit and axes", "names", "hierarchy", "pivots", "normals", "texture coordinates", "colours", "textures",
        "vertex colours", "shared geometry", "animation", "skins", "instances", "cameras and lights",
    )  # fmt: skip
    makes: ClassVar[tuple[str, ...]] = (
        "unit and axes", "names", "hierarchy", "pivots", "normals", "texture coordinates", "colours", "textures",
        "vertex colours",
    )  # fmt: skip
    looks: ClassVar[tuple[str, ...]] = (
        "colour", "opacity", "texture", "cutoff", "roughness", "metalness", "rough_metal", "normal",
        "occlusion", "glow", "glow_texture",
    )  # fmt: skip
    shades: ClassVar[tuple[str, ...]] = tuple(s for s in SHADING[:-1] if s != "normal map strength")
    family: ClassVar[str] = "usd"

    def name_in_file(self, name: str) -> str:
        """Return a name with what no prim's name can have replaced."""
        return spelled(name)

    def reads_in_c(self, path: Path) -> bool:
        """All of USD is read by its own library."""
        return True

    def read(self, path: Path, file: str, limits: Limits = LIMITS) -> Received:
        """Return the model at `path`."""
        checked_size(path, file, limits)
        opened = open_stage(path, file, limits)
        try:
            with quiet():
                content = content_of(opened.stage, file, self.key, path.parent, limits)
                content = replace(content, asset=replace(content.asset, astray=opened.astray))
        except NoNumbers as error:
            raise BadFile(file, str(error)) from error
        except (UnicodeDecodeError, RuntimeError) as error:  # Tf's errors are RuntimeErrors
            raise BadFile(file, say("is no USD that can be read: {name}", name=type(error).__name__)) from error
        carrier = _UsdCarrier(path=path, content=content, limits=limits)
        return Received(asset=content.asset, carrier=carrier, companions=opened.companions)

    def write(self, received: Received, asset: Asset, reading: Reading) -> Written:
        """Return the root layer with what steps changed authored on its prims."""
        carrier: _UsdCarrier = received.carrier
        suffix = carrier.path.suffix.lower() if received.asset.format == self.key else self.suffixes[0]
        change = rehanging_of(received.asset, asset)
        if change is None:
            out = written(carrier.path, carrier.content, asset, received.asset.reading, reading, suffix)
        else:
            out = self._write_rehung(received, asset, reading, suffix, change)
        companions = tuple(Companion(path=c, source=carrier.path.parent / c) for c in received.companions)
        return replace(out, companions=companions)

    def _write_rehung(
        self, received: Received, asset: Asset, reading: Reading, suffix: str, change: Rehanging
    ) -> Written:
        from pxr import Usd

        carrier: _UsdCarrier = received.carrier
        path, before = carrier.path, received.asset.reading
        with quiet(), rehung_layer(path, carrier.content, asset, change) as (layer, named):
            stage = Usd.Stage.Open(layer, Usd.Stage.LoadAll)
            content = content_of(stage, asset.file, self.key, path.parent, carrier.limits)
            order = file_order(received.asset, named, [n.name for n in named.nodes], content.asset)
            out = written(path, content, named.in_order(order), before, reading, suffix, layer)
        called = [(a.name, b.name) for a, b in zip(asset.nodes, named.nodes, strict=True) if a.name != b.name]
        told = [say("USD holds no '{name}': it is called '{name_2}'", name=a, name_2=b) for a, b in called[:1]]
        if len(called) > 1:
            told = [say("USD holds no '{name}': it is called '{name_2}', and {count} more likewise",
                        name=called[0][0], name_2=called[0][1], count=len(called) - 1)]  # fmt: skip
        return replace(out, order=order, asset=named, warnings=(*told, *out.warnings))

    def attached(self, received: Received) -> dict[int, tuple[Attached, ...]]:
        """Return the normals of its meshes, and every primvar of theirs."""
        carrier: _UsdCarrier = received.carrier
        with quiet():
            stage = open_stage(carrier.path, received.asset.file, carrier.limits).stage
            return attached_of(stage, carrier.content)

    def belongings(self, received: Received) -> dict[str, Any]:
        """Return every field of its root layer but places and numbers of geometry."""
        carrier: _UsdCarrier = received.carrier
        with quiet():
            return {**super().belongings(received), **belongings_of(carrier.path)}

    def plains(self, received: Received, asset: Asset) -> dict[int, Plain]:
        """Return its meshes, corners told apart where normals or texture coordinates are."""
        carrier: _UsdCarrier = received.carrier
        with quiet():
            stage = open_stage(carrier.path, asset.file, carrier.limits).stage
            return plains_of(stage, carrier.content, asset, carrier.limits)

    def make(self, scene: PlainScene) -> Written:
        """Return a new layer of a scene, in its unit and axes."""
        return made(scene, self.suffixes[0])

    def made_trouble(self, received: Received) -> str:
        """Return whether it has no default prim of a kind, or a mesh that would be drawn smoother than it is."""
        carrier: _UsdCarrier = received.carrier
        with quiet():
            return made_trouble(open_stage(carrier.path, received.asset.file, carrier.limits).stage)

    def reading_out(self, wanted: Reading) -> Reading:
        """Return `wanted` where `upAxis` can name its axes, else metres, Y up."""
        return replace(wanted, source="declared") if (wanted.up, wanted.front) in _AXES else WORKING

    def unnamed(self, wanted: Reading) -> tuple[str, ...]:
        """Return a warning where `upAxis` can't name the axes asked for."""
        if (wanted.up, wanted.front) in _AXES:
            return ()
        return (
            say(
                "USD can't name {up} up and {front} front: it is written in metres, Y up",
                up=wanted.up,
                front=wanted.front,
            ),
        )


@registered
class Usda(_Usd):
    """USD layers as text."""

    entry: ClassVar[Entry] = USDA


@registered
class Usdc(_Usd):
    """USD layers in binary form."""

    entry: ClassVar[Entry] = USDC


@registered
class Usdz(_Usd):
    """USD packages, which are read and delivered as packages, or as another format."""

    entry: ClassVar[Entry] = USDZ
    makes: ClassVar[tuple[str, ...]] = ()
    family: ClassVar[str] = ""
