"""A 3MF package made anew from a plain scene."""

from __future__ import annotations

import io
import zipfile
from dataclasses import replace

import numpy as np

from oak_square.formats.shared.look import Look
from oak_square.formats.shared.plain import Plain, PlainScene, carried
from oak_square.formats.shared.text_edit import nine_digits
from oak_square.formats.shared.xml_spans import in_value
from oak_square.formats.threemf.model import UNITS, transform_text

__all__ = ["made"]

_TYPES = """<?xml version="1.0" encoding="UTF-8"?>
<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types">
 <Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/>
 <Default Extension="model" ContentType="application/vnd.ms-package.3dmanufacturing-3dmodel+xml"/>
</Types>
"""
_RELS = """<?xml version="1.0" encoding="UTF-8"?>
<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships">
 <Relationship Target="/3D/3dmodel.model" Id="rel0" Type="http://schemas.microsoft.com/3dmanufacturing/2013/01/3dmodel"/>
</Relationships>
"""


def made(scene: PlainScene) -> bytes:
    """Return the package of a scene in its unit, +Z up."""
    looks = list(dict.fromkeys(run.look for plain in scene.plains for run in plain.runs))
    unit = next(name for name, metres in UNITS.items() if metres == scene.reading.metres_per_unit)
    core = "http://schemas.microsoft.com/3dmanufacturing/core/2015/02"
    lines = ['<?xml version="1.0" encoding="UTF-8"?>', f'<model unit="{unit}" xml:lang="en-US" xmlns="{core}">']
    lines += [' <metadata name="Application">Oak Square</metadata>', " <resources>"]
    if looks:
        rows = [f"   <base name={in_value(k.name)} displaycolor={in_value(_format_hex(k))}/>" for k in looks]
        lines += ['  <basematerials id="1">', *rows, "  </basematerials>"]
    number, shapes, named = 2, dict[tuple[int, bytes], int](), dict[int, str]()
    for node in scene.nodes:
        if node.plain is not None:
            key = node.plain, np.round(node.local_from_points, 12).tobytes()
            if key not in shapes:
                shapes[key], named[number] = number, node.name
                lines += _write_object(
                    number, node.name, carried(scene.plains[node.plain], node.local_from_points), looks
                )
                number += 1
    below: list[list[int]] = [[] for _ in scene.nodes]
    for i, node in enumerate(scene.nodes):
        if node.parent is not None:
            below[node.parent].append(i)
    ids: dict[int, int] = {}
    for i in reversed(range(len(scene.nodes))):  # children stand behind their parents: their objects come first
        node = scene.nodes[i]
        own = None if node.plain is None else shapes[node.plain, np.round(node.local_from_points, 12).tobytes()]
        if own is not None and not below[i] and named[own] == node.name:
            ids[i] = own
            continue
        kept = [k for k in below[i] if k in ids]
        if own is None and not kept:
            continue  # a group of nothing: an object must be made of something
        rows = [f'<component objectid="{own}"/>'] if own is not None else []
        rows += [f'<component objectid="{ids[k]}"{_write_item(scene, k)}/>' for k in kept]
        ids[i], number = number, number + 1
        lines.append(f'  <object id="{ids[i]}" type="model" name={in_value(node.name)}>')
        lines += [f"   <components>{''.join(rows)}</components>", "  </object>"]
    lines += [" </resources>", " <build>"]
    roots = [i for i, node in enumerate(scene.nodes) if node.parent is None and i in ids]
    lines += [f'  <item objectid="{ids[i]}"{_write_item(scene, i)}/>' for i in roots]
    lines += [" </build>", "</model>", ""]
    return _zip_model("\n".join(lines))


def _write_item(scene: PlainScene, index: int) -> str:
    matrix = scene.nodes[index].placement.matrix
    return "" if np.array_equal(matrix, np.eye(4)) else f' transform="{transform_text(matrix).decode()}"'


def _format_hex(look: Look) -> str:
    parts = (*look.colour, look.opacity) if look.opacity < 1 else look.colour
    return "#" + "".join(f"{round(255 * c):02X}" for c in parts)


def _write_object(number: int, name: str, plain: Plain, looks: list[Look]) -> list[str]:
    plain = _close_mesh(plain)
    texts = [t.decode() for t in nine_digits(plain.points, digits=plain.digits)]
    rows = zip(texts[::3], texts[1::3], texts[2::3], strict=True)
    lines = [f'  <object id="{number}" type="model" name={in_value(name)} pid="1" pindex="0"><mesh>', "   <vertices>"]
    lines += [f'<vertex x="{x}" y="{y}" z="{z}"/>' for x, y, z in rows]
    lines += ["   </vertices>", "   <triangles>"]
    for run in plain.runs:
        look = looks.index(run.look)
        own = plain.triangles[run.first : run.first + run.count].tolist()
        lines += [f'<triangle v1="{a}" v2="{b}" v3="{c}" pid="1" p1="{look}"/>' for a, b, c in own]
    return [*lines, "   </triangles>", "  </mesh></object>"]


def _close_mesh(plain: Plain) -> Plain:
    """Return a mesh whose vertices at one place are one: a 3MF mesh is closed by its vertices' numbers alone.

    Where that would leave a triangle with one vertex twice, which the specification forbids, it keeps its own.
    """
    points = np.ascontiguousarray(np.asarray(plain.points, dtype=np.float64) + 0.0)
    _, first, place = np.unique(points.view("V24").ravel(), return_index=True, return_inverse=True)
    order = np.argsort(np.argsort(first))  # vertices stay in the order they came in
    triangles = order[place.ravel()][plain.triangles]
    flat = (
        (triangles[:, 0] == triangles[:, 1])
        | (triangles[:, 1] == triangles[:, 2])
        | (triangles[:, 2] == triangles[:, 0])
    )
    own = plain.triangles[flat]
    triangles[flat] = len(first) + np.arange(own.size).reshape(-1, 3)
    return replace(plain, points=np.concatenate([points[np.sort(first)], points[own.ravel()]]), triangles=triangles)


def _zip_model(model: str) -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        for name, text in (("[Content_Types].xml", _TYPES), ("_rels/.rels", _RELS), ("3D/3dmodel.model", model)):
            # A fixed time: the same input gives the same file.
            info = zipfile.ZipInfo(name, (1980, 1, 1, 0, 0, 0))
            info.compress_type = zipfile.ZIP_DEFLATED
            archive.writestr(info, text)
    return out.getvalue()
