"""The models of the lock that came in other trades' formats: a footbridge, casks, a hanging sign, a tiller.

Their files are written out here by hand, as such programs write them.
"""

from __future__ import annotations

import io
import zipfile
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from oak_square.demo.shapes import Solid, along, box, joined, lathe, prism

__all__ = ["casks", "footbridge", "hanging_sign", "tiller"]

Array = NDArray[np.float64]
FOOT = 0.3048
_RAILS = [(-2.6, 0.0), (-0.9, 0.18), (0.9, 0.18), (2.6, 0.0)]


def _z_up(points: Array) -> Array:
    """Return points, +Y up and +Z front, as a file has them that is +Z up, front -Y."""
    return np.column_stack([points[:, 0], -points[:, 2], points[:, 1]])


def _print_numbers(values: Array, digits: int = 6) -> str:
    return " ".join(f"{round(float(v), digits) + 0.0:g}" for v in values.ravel())


def footbridge(path: Path) -> None:
    """Write a footbridge over the lock's tail: feet, Z up, drawn at half its size below a scale of 2."""
    planks = [box(0.22, 0.05, 1.1, at=(-2.58 + 0.235 * k, 0.18, 0)) for k in range(23)]
    beams = [box(5.4, 0.18, 0.16, at=(0, 0, z)) for z in (-0.42, 0.42)]
    posts = [box(0.09, 1.05 + y, 0.09, at=(x, 0.2, z)) for x, y in _RAILS for z in (-0.55, 0.55)]
    rails = [box(5.4, 0.08, 0.1, at=(0, 1.24, z)) for z in (-0.55, 0.55)]
    parts = [("beams", joined(beams)), ("deck", joined(planks)), ("railing", joined([*posts, *rails]))]
    shapes = "".join(_collada_geometry(name, solid) for name, solid in parts)
    bound = (
        "<bind_material><technique_common>"
        '<instance_material symbol="wood" target="#weathered-oak"/></technique_common></bind_material>'
    )
    nodes = "".join(
        f'      <node id="{name}" name="{name}">\n        <instance_geometry url="#{name}-mesh">{bound}'
        "</instance_geometry>\n      </node>\n"
        for name, _ in parts
    )
    text = f"""<?xml version="1.0" encoding="utf-8"?>
<!-- Footbridge at the tail of Fenwick Lock. Drawn at half size: the sheet was too small. -->
<COLLADA xmlns="http://www.collada.org/2005/11/COLLADASchema" version="1.4.1">
  <asset>
    <contributor><author>the bridge wright</author></contributor>
    <created>2026-09-01T08:00:00Z</created><modified>2026-09-01T08:00:00Z</modified>
    <unit name="foot" meter="0.3048"/>
    <up_axis>Z_UP</up_axis>
  </asset>
  <library_effects><effect id="weathered-oak-effect"><profile_COMMON><technique sid="common"><lambert>
    <diffuse><color>0.47 0.36 0.24 1</color></diffuse>
  </lambert></technique></profile_COMMON></effect></library_effects>
  <library_materials>
    <material id="weathered-oak" name="weathered_oak"><instance_effect url="#weathered-oak-effect"/></material>
  </library_materials>
  <library_geometries>
{shapes}  </library_geometries>
  <library_visual_scenes><visual_scene id="lock" name="lock">
    <node id="footbridge" name="footbridge">
      <translate sid="place">22 -31.5 0</translate>
      <scale sid="size">2 2 2</scale>
{nodes}    </node>
  </visual_scene></library_visual_scenes>
  <scene><instance_visual_scene url="#lock"/></scene>
</COLLADA>
"""
    path.write_text(text, encoding="utf-8", newline="\n")


def _collada_geometry(name: str, solid: Solid) -> str:
    points = _z_up(solid.points) / FOOT / 2
    normals = _z_up(solid.normals)
    corners = np.repeat(solid.triangles.ravel()[:, None], 2, axis=1)
    rows = (("points", points), ("normals", normals))
    sources = "".join(
        f"""      <source id="{name}-{kind}">
        <float_array id="{name}-{kind}-array" count="{values.size}">{_print_numbers(values)}</float_array>
        <technique_common><accessor source="#{name}-{kind}-array" count="{len(values)}" stride="3">
          <param name="X" type="float"/><param name="Y" type="float"/><param name="Z" type="float"/>
        </accessor></technique_common>
      </source>
"""
        for kind, values in rows
    )
    return f"""    <geometry id="{name}-mesh" name="{name}"><mesh>
{sources}      <vertices id="{name}-vertices"><input semantic="POSITION" source="#{name}-points"/></vertices>
      <triangles count="{len(solid.triangles)}" material="wood">
        <input semantic="VERTEX" source="#{name}-vertices" offset="0"/>
        <input semantic="NORMAL" source="#{name}-normals" offset="1"/>
        <p>{" ".join(map(str, corners.ravel().tolist()))}</p>
      </triangles>
    </mesh></geometry>
"""


def casks(path: Path) -> None:
    """Write three casks for the wharf, one object placed three times: millimetres, Z up, off the plate's corner."""
    staves = lathe([(0.0, 0.0), (0.26, 0.0), (0.31, 0.22), (0.33, 0.45), (0.31, 0.68), (0.26, 0.9), (0.0, 0.9)], 20)
    hoops = [
        lathe([(r, y), (r + 0.012, y), (r + 0.012, y + 0.05), (r, y + 0.05), (r, y)], 20)
        for r, y in ((0.28, 0.08), (0.318, 0.24), (0.318, 0.61), (0.28, 0.77))
    ]
    solid = joined([staves, *hoops])
    points = np.round(_z_up(solid.points) * 1000 + [340, 340, 0], 3)
    rows = "".join(f'<vertex x="{x:g}" y="{y:g}" z="{z:g}"/>' for x, y, z in points.tolist())
    wood = len(staves.triangles)
    looks = ["" if k < wood else ' pid="1" p1="1"' for k in range(len(solid.triangles))]
    corners = zip(solid.triangles.tolist(), looks, strict=True)
    faces = "".join(f'<triangle v1="{a}" v2="{b}" v3="{c}"{look}/>' for (a, b, c), look in corners)
    core = "http://schemas.microsoft.com/3dmanufacturing/core/2015/02"
    places = [(2400, 1500), (3120, 1530), (2700, 2180)]
    items = "\n".join(f'  <item objectid="2" transform="1 0 0 0 1 0 0 0 1 {x} {y} 0"/>' for x, y in places)
    model = f"""<?xml version="1.0" encoding="UTF-8"?>
<!-- casks for the wharf at Fenwick Lock; one is cut, the others are placed -->
<model unit="millimeter" xml:lang="en-US" xmlns="{core}">
 <metadata name="Title">Casks</metadata>
 <resources>
  <basematerials id="1">
   <base name="oak staves" displaycolor="#8A5A2B"/>
   <base name="iron hoops" displaycolor="#3A3D40"/>
  </basematerials>
  <object id="2" name="cask" type="model" pid="1" pindex="0"><mesh>
   <vertices>
    {rows}
   </vertices>
   <triangles>
    {faces}
   </triangles>
  </mesh></object>
 </resources>
 <build>
{items}
 </build>
</model>
"""
    path.write_bytes(_pack_model(model))


def _pack_model(model: str) -> bytes:
    office = "http://schemas.openxmlformats.org/package/2006"
    types = f"""<?xml version="1.0" encoding="UTF-8"?>
<Types xmlns="{office}/content-types">
 <Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/>
 <Default Extension="model" ContentType="application/vnd.ms-package.3dmanufacturing-3dmodel+xml"/>
</Types>
"""
    kind = "http://schemas.microsoft.com/3dmanufacturing/2013/01/3dmodel"
    relations = f"""<?xml version="1.0" encoding="UTF-8"?>
<Relationships xmlns="{office}/relationships">
 <Relationship Target="/3D/3dmodel.model" Id="rel0" Type="{kind}"/>
</Relationships>
"""
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as archive:
        for name, text in (("[Content_Types].xml", types), ("_rels/.rels", relations), ("3D/3dmodel.model", model)):
            # Stored: the same bytes whatever the compressor's version.
            archive.writestr(zipfile.ZipInfo(name, (1980, 1, 1, 0, 0, 0)), text)
    return out.getvalue()


def hanging_sign(path: Path) -> None:
    """Write the lock-keeper's sign on its bracket: centimetres, Z up, turned on the wall, the board's pivot far off."""
    bracket = joined([box(0.05, 0.6, 0.05, at=(-0.45, 0, 0)), box(0.9, 0.04, 0.04, at=(0, 0.5, 0))])
    stay = along(lathe([(0.0, -0.3), (0.014, -0.3), (0.014, 0.3), (0.0, 0.3)], 8), "x").moved(-0.17, 0.38)
    chains = [box(0.015, 0.14, 0.015, at=(x, 0.36, 0)) for x in (-0.12, 0.32)]
    board = prism([(-0.22, -0.28), (0.42, -0.28), (0.42, 0.3), (0.1, 0.38), (-0.22, 0.3)], -0.02, 0.02)
    parts = [
        ("bracket", joined([bracket, stay, *chains]), (0.0, 0.0, 0.0), "iron"),
        ("board", board, (310.0, -120.0, 0.0), "painted"),
    ]
    shapes = "".join(_usd_mesh(*part) for part in parts)
    text = f"""#usda 1.0
(
    defaultPrim = "hanging_sign"
    metersPerUnit = 0.01
    upAxis = "Z"
)

# The sign of the lock-keeper's hut, as it hangs on the gable.
def Xform "hanging_sign" (
    kind = "component"
    customData = {{
        string drawn_by = "the sign painter"
    }}
)
{{
    double3 xformOp:translate = (180, 40, 212)
    float xformOp:rotateZ = 90
    uniform token[] xformOpOrder = ["xformOp:translate", "xformOp:rotateZ"]

    def Scope "looks"
    {{
{_usd_look("iron", (0.04, 0.045, 0.05))}
{_usd_look("painted", (0.02, 0.11, 0.08))}
    }}
{shapes}}}
"""
    path.write_text(text, encoding="utf-8", newline="\n")


def _usd_look(name: str, colour: tuple[float, float, float]) -> str:
    return f"""        def Material "{name}"
        {{
            token outputs:surface.connect = </hanging_sign/looks/{name}/surface.outputs:surface>

            def Shader "surface"
            {{
                uniform token info:id = "UsdPreviewSurface"
                color3f inputs:diffuseColor = {colour}
                token outputs:surface
            }}
        }}
"""


def _usd_mesh(name: str, solid: Solid, pivot: tuple[float, float, float], look: str) -> str:
    points = np.round(_z_up(solid.points) * 100 - pivot, 4)
    normals = _z_up(solid.normals)

    def listed(rows: Array) -> str:
        return ", ".join(f"({', '.join(f'{round(v, 6) + 0.0:g}' for v in row)})" for row in rows.tolist())

    corners = ", ".join(map(str, solid.triangles.ravel().tolist()))
    counts = ", ".join(["3"] * len(solid.triangles))
    ends = np.stack([points.min(axis=0), points.max(axis=0)])
    return f"""
    def Mesh "{name}" (
        prepend apiSchemas = ["MaterialBindingAPI"]
    )
    {{
        float3[] extent = [{listed(ends)}]
        int[] faceVertexCounts = [{counts}]
        int[] faceVertexIndices = [{corners}]
        rel material:binding = </hanging_sign/looks/{look}>
        normal3f[] normals = [{listed(normals)}] (
            interpolation = "vertex"
        )
        point3f[] points = [{listed(points)}]
        uniform token subdivisionScheme = "none"
        double3 xformOp:translate = {pivot}
        uniform token[] xformOpOrder = ["xformOp:translate"]
    }}
"""


def tiller(path: Path) -> None:
    """Write a boat's tiller as a scan leaves it: millimetres nobody declares, binary, with colours and a quality."""
    bar = along(lathe([(0.0, 0.0), (0.028, 0.0), (0.02, 0.9), (0.017, 1.28), (0.0, 1.28)], 24), "x").moved(0.14)
    grip = along(lathe([(0.0, 1.26), (0.021, 1.26), (0.026, 1.34), (0.021, 1.46), (0.0, 1.48)], 24), "x").moved(0.14)
    head = box(0.30, 0.09, 0.08, at=(0.08, -0.045, 0))
    solid = joined([head, bar, grip]).moved(-0.78, 0.33, 0.21)
    rows = np.zeros(
        len(solid.points),
        dtype=[(n, ">f4") for n in ("x", "y", "z", "nx", "ny", "nz")]
        + [(n, "u1") for n in ("red", "green", "blue")]
        + [("quality", ">f4")],
    )
    for k, name in enumerate(("x", "y", "z")):
        rows[name] = solid.points[:, k] * 1000
        rows[f"n{name}"] = solid.normals[:, k]
    parts = np.cumsum([len(head.points), len(bar.points), len(grip.points)])
    for name, shades in (("red", (70, 150, 96)), ("green", (72, 100, 30)), ("blue", (76, 52, 24))):
        rows[name] = np.repeat(shades, np.diff([0, *parts])).astype("u1")
    rows["quality"] = 0.5 + 0.5 * np.cos(np.arange(len(rows)))
    faces = np.zeros(len(solid.triangles), dtype=[("count", "u1"), ("corners", ">i4", 3)])
    faces["count"], faces["corners"] = 3, solid.triangles
    columns = "".join(f"property float {n}\n" for n in ("x", "y", "z", "nx", "ny", "nz"))
    columns += "".join(f"property uchar {n}\n" for n in ("red", "green", "blue")) + "property float quality\n"
    head_text = (
        "ply\nformat binary_big_endian 1.0\ncomment tiller, scanned on the slip at Fenwick Lock\n"
        f"obj_info turntable pass 3\nelement vertex {len(rows)}\n{columns}"
        f"element face {len(faces)}\nproperty list uchar int vertex_indices\nend_header\n"
    )
    path.write_bytes(head_text.encode() + rows.tobytes() + faces.tobytes())
