"""Every tolerance, with its unit and where it comes from.

`relative` ones are multiplied by the size of what is compared: a matrix's largest element, an asset's box
diagonal. Files hold float32, whose rounding is 6e-8 of a coordinate; float64 work adds about 1e-15 a product.
"""

__all__ = [
    "COARSE_FLOAT32_M",
    "COARSE_SHARE",
    "COPLANAR_COSINE",
    "EXACT_CHANNEL",
    "FACING",
    "OFF_BASE",
    "OFF_GROUND",
    "PIVOT_OUTSIDE",
    "PROOF",
    "RESAMPLED",
    "ROTATION_BAKED_DEG",
    "ROUND",
    "ROUNDED",
    "SAME_BIND",
    "SAME_MATRIX",
    "SAME_PLACE",
    "SAME_VERTEX",
    "SCALE_BAKED",
    "SHEARED",
    "SINGULAR",
    "SQUARE_COSINE",
]

SAME_MATRIX = 1e-11
"""relative; two float64 matrices reached by different products count as one."""

SAME_PLACE = 1e-6
"""relative to the box diagonal; float32 rounding of a delivered model must not look like a move to make."""

EXACT_CHANNEL = 1e-9
"""plain number; a rotation or scale this near to 0 or 1 is written as exactly 0 or 1."""

SINGULAR = 1e-12
"""relative; smallest over largest axis length below which a frame has no useful inverse."""

SCALE_BAKED = 1e-4
"""plain number; contract: a node's scale may differ from 1 by this much."""

SHEARED = 1e-4
"""cosine; contract: the largest cosine between a node's world axes."""

ROTATION_BAKED_DEG = 0.01
"""degrees; contract: a node may be turned by this much."""

PIVOT_OUTSIDE = 0.05
"""relative to a part's box diagonal; contract."""

OFF_BASE = 0.01
"""relative to an asset's box diagonal; contract."""

OFF_GROUND = 0.01
"""relative to an asset's height; contract."""

COARSE_FLOAT32_M = 1e-4
"""metres; contract: float32 spacing at the furthest vertex from which precision counts as lost."""

PROOF = 1e-6
"""relative to a part's box diagonal; what a delivered vertex may be off beyond the rounding of its numbers."""

ROUNDED = 2.5e-7
"""relative to a coordinate; what rounding to float32 moves a point by: half a step, 6e-8, along each of three axes, for
the numbers of the mesh and those of its node."""

COARSE_SHARE = 1e-4
"""relative to a part's box diagonal; rounding that moves a vertex by more than this, and by more than
`COARSE_FLOAT32_M`, has lost what the part looks like."""

FACING = 1e-4
"""distance of unit vectors; what a delivered normal or tangent may be off: a thousand float32 roundings."""

SAME_VERTEX = 1e-6
"""relative to a mesh's longest side; corners this near are one vertex for picking: a few float32 roundings."""

COPLANAR_COSINE = 0.99999
"""cosine; neighbours within a quarter of a degree lie in one face: flat sides survive float32, and a drum of some
hundred sides keeps its facets apart."""

ROUND = 2e-3
"""relative to the radius; a rim this near to a circle is one: modelled circles are exact, scans are not meant."""

SQUARE_COSINE = 0.999
"""cosine; surfaces within 2.5 degrees face one way when a model is squared up: what a bevel or a draft angle leaves."""

SAME_BIND = 1e-7
"""relative; joints whose motions differ by less move as one: a tenth of what float32 bind matrices can tell."""

RESAMPLED = 1e-4
"""relative to the asset's box diagonal; what a resampled clip may be off between its keys: a tenth of a pixel when the
asset fills a picture."""
