"""A COLLADA file made anew from a plain scene."""

from __future__ import annotations

import re
from collections.abc import Iterable
from urllib.parse import quote

import numpy as np
from numpy.typing import NDArray

from oak_square.core.frames import Reading
from oak_square.formats.collada.document import PROFILE, up_word
from oak_square.formats.collada.writing import digits, stack_words
from oak_square.formats.shared.look import Image, Look, Texture, Wrap
from oak_square.formats.shared.model_file import Companion, Written
from oak_square.formats.shared.plain import Plain, PlainScene, carried, to_srgb
from oak_square.formats.shared.text_edit import nine_digits
from oak_square.formats.shared.xml_spans import in_text, in_value

__all__ = ["made"]

Array = NDArray[np.float64]
_MAPS = ("map", "map_2")
_WRAPS: dict[Wrap, str] = {"repeat": "WRAP", "clamp": "CLAMP", "mirror": "MIRROR"}


def made(scene: PlainScene) -> Written:
    """Return the file of a scene, in its unit and axes."""
    looks = list(dict.fromkeys(run.look for plain in scene.plains for run in plain.runs))
    images = list(
        dict.fromkeys(texture.image for look in looks for texture in (look.texture, look.glow_texture) if texture)
    )
    geometries: dict[tuple[int, bytes], str] = {}
    shapes: list[str] = []
    for node in scene.nodes:
        if node.plain is None:
            continue
        key = node.plain, np.round(node.local_from_points, 12).tobytes()
        if key not in geometries:
            geometries[key] = f"geometry-{len(geometries)}"
            plain = scene.plains[node.plain]
            moved = carried(plain, node.local_from_points)
            shapes += _write_geometry(geometries[key], node.name, moved, looks)
    lines = [
        '<?xml version="1.0" encoding="utf-8"?>',
        '<COLLADA xmlns="http://www.collada.org/2005/11/COLLADASchema" version="1.4.1">',
        *_write_asset(scene.reading),
    ]
    if images:
        lines.append(" <library_images>")
        lines += [
            f'  <image id="image-{k}"><init_from>{in_text(quote(image.name))}</init_from></image>'
            for k, image in enumerate(images)
        ]
        lines.append(" </library_images>")
    if looks:
        lines.append(" <library_effects>")
        for k, look in enumerate(looks):
            lines += _write_effect(k, look, images)
        lines += [" </library_effects>", " <library_materials>"]
        lines += [
            f'  <material id="material-{k}"{_write_name(look.name)}><instance_effect url="#effect-{k}"/>'
            f"{_in_full(look.name)}</material>"
            for k, look in enumerate(looks)
        ]
        lines.append(" </library_materials>")
    if shapes:
        lines += [" <library_geometries>", *shapes, " </library_geometries>"]
    lines += [" <library_visual_scenes>", f'  <visual_scene id="scene"{_write_name(scene.name)}>']
    lines += _write_nodes(scene, geometries, looks)
    lines += [f"  {_in_full(scene.name)}</visual_scene>", " </library_visual_scenes>"]
    lines += [' <scene><instance_visual_scene url="#scene"/></scene>', "</COLLADA>", ""]
    companions = tuple(Companion(path=image.name, chunks=(image.read(),)) for image in images)
    return Written(chunks=("\n".join(lines).encode(),), companions=companions)


def _write_asset(reading: Reading) -> list[str]:
    # The time is part of the schema; a fixed one keeps the same input giving the same file.
    day = "2000-01-01T00:00:00Z"
    return [
        " <asset>",
        "  <contributor><authoring_tool>Oak Square</authoring_tool></contributor>",
        f"  <created>{day}</created><modified>{day}</modified>",
        f'  <unit meter="{reading.metres_per_unit!r}"/>',
        f"  <up_axis>{up_word(reading) or 'Y_UP'}</up_axis>",
        " </asset>",
    ]


def _write_effect(number: int, look: Look, images: list[Image]) -> list[str]:
    params: list[str] = []

    def texture_of(kind: str, texture: Texture) -> str:
        params.append(
            f'   <newparam sid="{kind}-surface-{number}"><surface type="2D">'
            f"<init_from>image-{images.index(texture.image)}</init_from></surface></newparam>"
        )
        wraps = f"<wrap_s>{_WRAPS[texture.across]}</wrap_s><wrap_t>{_WRAPS[texture.up]}</wrap_t>"
        params.append(
            f'   <newparam sid="{kind}-sampler-{number}"><sampler2D><source>{kind}-surface-{number}</source>'
            f"{wraps}</sampler2D></newparam>"
        )
        return f'<texture texture="{kind}-sampler-{number}" texcoord="{_MAPS[texture.uv]}"/>'

    glow = ""
    if look.glow_texture is not None:
        glow = f"<emission>{texture_of('glow', look.glow_texture)}</emission>"
    elif any(look.glow):
        glow = f"<emission>{_print_colour(to_srgb(np.array(look.glow)))}</emission>"
    base = _print_colour(look.colour) if look.texture is None else texture_of("base", look.texture)
    seen = f"<transparency><float>{look.opacity:.9g}</float></transparency>" if look.opacity < 1 else ""
    return [
        f'  <effect id="effect-{number}"><profile_COMMON>',
        *params,
        f'   <technique sid="common"><lambert>{glow}<diffuse>{base}</diffuse>{seen}</lambert></technique>',
        "  </profile_COMMON></effect>",
    ]


def _print_colour(colour: Iterable[float]) -> str:
    red, green, blue = colour
    return f"<color>{red:.9g} {green:.9g} {blue:.9g} 1</color>"


def _make_ncname(name: str) -> str:
    """Return a name as the schema wants its attribute: letters, digits and `._-`, a letter first."""
    found = re.sub(r"[^\w.-]", "_", in_text(name))
    return found if found[:1].isalpha() or found[:1] == "_" else f"_{found}"


def _write_name(name: str) -> str:
    return f" name={in_value(_make_ncname(name))}"


def _in_full(name: str) -> str:
    """Return where a name stands in full, if its attribute can't hold it."""
    if _make_ncname(name) == name:
        return ""
    return f'<extra><technique profile="{PROFILE}"><name>{in_text(name)}</name></technique></extra>'


def _write_geometry(ident: str, name: str, plain: Plain, looks: list[Look]) -> list[str]:
    lines = [f'  <geometry id="{ident}"{_write_name(name)}><mesh>']
    lines += _write_source(f"{ident}-points", plain.points, "XYZ", plain.digits)
    inputs = [f'<input semantic="VERTEX" source="#{ident}-vertices" offset="0"/>']
    if plain.normals is not None:
        lines += _write_source(f"{ident}-normals", plain.normals, "XYZ")
        inputs.append(f'<input semantic="NORMAL" source="#{ident}-normals" offset="0"/>')
    if plain.uvs is not None:
        lines += _write_source(f"{ident}-map", plain.uvs, "ST")
        inputs.append(f'<input semantic="TEXCOORD" source="#{ident}-map" offset="0" set="0"/>')
    if plain.more_uvs is not None:
        lines += _write_source(f"{ident}-map-2", plain.more_uvs, "ST")
        inputs.append(f'<input semantic="TEXCOORD" source="#{ident}-map-2" offset="0" set="1"/>')
    if plain.colours is not None:
        lines += _write_source(f"{ident}-colours", plain.colours, "RGB")
        inputs.append(f'<input semantic="COLOR" source="#{ident}-colours" offset="0" set="0"/>')
    lines.append(f'   <vertices id="{ident}-vertices"><input semantic="POSITION" source="#{ident}-points"/></vertices>')
    for run in plain.runs:
        rows = plain.triangles[run.first : run.first + run.count].ravel().tolist()
        lines += [
            f'   <triangles count="{run.count}" material="look-{looks.index(run.look)}">{"".join(inputs)}',
            f"    <p>{' '.join(map(str, rows))}</p>",
            "   </triangles>",
        ]
    return [*lines, f"  </mesh>{_in_full(name)}</geometry>"]


def _write_source(ident: str, values: NDArray[np.floating], names: str, digits: int = 9) -> list[str]:
    numbers = b" ".join(nine_digits(values[:, : len(names)], digits=digits)).decode()
    params = "".join(f'<param name="{n}" type="float"/>' for n in names)
    return [
        f'   <source id="{ident}">',
        f'    <float_array id="{ident}-array" count="{len(values) * len(names)}">{numbers}</float_array>',
        f'    <technique_common><accessor source="#{ident}-array" count="{len(values)}" stride="{len(names)}">{params}'
        "</accessor></technique_common></source>",
    ]


def _write_nodes(scene: PlainScene, geometries: dict[tuple[int, bytes], str], looks: list[Look]) -> list[str]:
    below: list[list[int]] = [[] for _ in scene.nodes]
    roots: list[int] = []
    for i, node in enumerate(scene.nodes):
        (roots if node.parent is None else below[node.parent]).append(i)
    lines: list[str] = []
    due: list[int | None] = list(reversed(roots))
    ends: list[str] = []
    while due:
        at = due.pop()
        if at is None:
            lines.append(f"   {ends.pop()}</node>")
            continue
        node = scene.nodes[at]
        ends.append(_in_full(node.name))
        lines.append(f'   <node id="node-{at}"{_write_name(node.name)}>')
        for tag, values in stack_words(node.placement):
            lines.append(f"    <{tag}>{digits(values).decode()}</{tag}>")
        if node.plain is not None:
            ident = geometries[node.plain, np.round(node.local_from_points, 12).tobytes()]
            plain = scene.plains[node.plain]
            maps = "".join(
                f'<bind_vertex_input semantic="{symbol}" input_semantic="TEXCOORD" input_set="{k}"/>'
                for k, symbol in enumerate(_MAPS)
                if k == 0 or plain.more_uvs is not None
            )
            binds = "".join(
                f'<instance_material symbol="look-{k}" target="#material-{k}">{maps}</instance_material>'
                for k in dict.fromkeys(looks.index(run.look) for run in plain.runs)
            )
            bound = f"<bind_material><technique_common>{binds}</technique_common></bind_material>" if binds else ""
            lines.append(f'    <instance_geometry url="#{ident}">{bound}</instance_geometry>')
        due += [None, *reversed(below[at])]
    return lines
