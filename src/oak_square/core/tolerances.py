"""Every tolerance, with its unit and where it comes from.

`relative` ones are multiplied by the size of what is compared: a matrix's largest element, an asset's box
diagonal. Files hold float32, whose rounding is 6e-8 of a coordinate; float64 work adds about 1e-15 a product.
"""

__all__ = [
    "ABUTS",
    "BENT",
    "BOOK_ROUNDING",
    "COARSE_FLOAT32_M",
    "COARSE_SHARE",
    "CUT",
    "EDGE_ON",
    "EXACT_CHANNEL",
    "FACING",
    "FLOAT_STEP",
    "FRAME",
    "FURTHEST_M",
    "GREATEST_UNIT_M",
    "IN_ONE_PLANE_DEG",
    "LEAST_SAID_M",
    "LEAST_UNIT_M",
    "MARK_APART",
    "MARK_NEAR",
    "MARK_SAME_WAY",
    "MARK_SIZE",
    "MARK_TURN_DEG",
    "NEAREST_M",
    "NOTHING_M",
    "NO_ANGLE_RAD",
    "NO_AREA",
    "NO_EXTENT",
    "OFF_BASE",
    "OFF_GROUND",
    "ONE_OFFSET",
    "ON_GRID",
    "ON_ONE_LINE",
    "OPEN_VOLUME",
    "OPPOSITE",
    "PICKED_AT",
    "PIVOT_OUTSIDE",
    "PROOF",
    "RESAMPLED",
    "ROTATION_BAKED_DEG",
    "ROUND",
    "ROUNDED",
    "ROUNDED_COLOUR",
    "ROUNDED_DIGITS",
    "ROUNDED_FACTOR",
    "ROUNDED_TO_NOTHING",
    "ROUNDED_TO_ZERO",
    "SAME_ANGLE_DEG",
    "SAME_BIND",
    "SAME_FACTOR",
    "SAME_IN_FILE_M",
    "SAME_MATRIX",
    "SAME_PLACE",
    "SAME_SIZE",
    "SAME_TURN_DEG",
    "SAME_UNIT",
    "SAME_VERTEX",
    "SCALE_BAKED",
    "SHEARED",
    "SINGULAR",
    "SPECK",
    "SQUARE_COSINE",
    "STANDS_M",
    "STRAIGHT_DEG",
    "TINY",
    "UNLIKELY",
    "UPRIGHT_COSINE",
    "WHOLE_NUMBER",
]

SAME_MATRIX = 1e-11
"""relative; two float64 matrices reached by different products count as one."""

SAME_PLACE = 1e-6
"""relative to the box diagonal; float32 rounding of a delivered model must not look like a move to make."""

CUT = 1e-4
"""relative to the asset's box diagonal; how much deeper in another than at rest a part may swing: it can be seen."""

SAME_ANGLE_DEG = 0.01
"""degrees; how near the first angle of a cut is closed in on."""

EDGE_ON = 0.05
"""sine; a line or plane seen at less than 3 degrees can't be dragged along: a pixel would mean too much."""

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

ABUTS = 0.1
"""relative to the diagonal of two boxes together: how far apart they may be and lie beside one another; contract."""

ONE_OFFSET = 0.01
"""relative to how far they are off: how much two offsets may differ and be one; contract."""

OFF_GROUND = 0.01
"""relative to an asset's height; contract."""

COARSE_FLOAT32_M = 1e-4
"""metres; contract: float32 spacing at the furthest vertex from which precision counts as lost."""

PROOF = 1e-6
"""relative to a part's box diagonal; what a delivered vertex may be off beyond the rounding of its numbers."""

ROUNDED = 2.5e-7
"""relative to a coordinate; what rounding to float32 moves a point by: half a step, 6e-8, along each of three axes, for
the numbers of the mesh and those of its node."""

FRAME = 4e-6
"""relative to the largest of nine; what the axes of a delivered node may be off: some float32 roundings of a rotation,
and of those above it."""

ROUNDED_FACTOR = 1e-6
"""of 1, or relative above; what rounding to float32 may take from a texture coordinate or a factor."""

ROUNDED_COLOUR = 0.51 / 255
"""of 1; what a colour may be off that some formats keep in eight bits."""

COARSE_SHARE = 1e-4
"""relative to a part's box diagonal; rounding that moves a vertex by more than this, and by more than
`COARSE_FLOAT32_M`, has lost what the part looks like."""

FACING = 1e-4
"""distance of unit vectors; what a delivered normal or tangent may be off: a thousand float32 roundings."""

SAME_VERTEX = 1e-6
"""relative to a mesh's longest side; corners this near are one vertex for picking: a few float32 roundings."""

IN_ONE_PLANE_DEG = 0.1
"""degrees; contract: triangles this near in direction lie in one plane: flat sides survive float32, and a drum of some
thousand sides keeps its facets apart."""

STRAIGHT_DEG = 0.1
"""degrees; contract: sides of a rim this near in direction run on as one edge."""

ROUND = 1e-2
"""relative to the radius; contract: a ring whose corners are this near to a circle is one."""

MARK_NEAR = 0.05
"""fraction of a box's extent; contract: what a mark may lie off its place."""

MARK_APART = 0.02
"""fraction of a box's extent; contract: by how much nearer the nearer of two must be."""

MARK_TURN_DEG = 5.0
"""degrees; contract: what a mark may be turned by."""

MARK_SAME_WAY = 0.9999999
"""cosine; a mark's way this near to a side is that side: some float32 roundings."""

MARK_SIZE = 0.1
"""relative; contract: what a mark may differ in size."""

SQUARE_COSINE = 0.999
"""cosine; surfaces within 2.5 degrees face one way when a model is squared up: what a bevel or a draft angle leaves."""

SAME_BIND = 1e-7
"""relative; joints whose motions differ by less move as one: a tenth of what float32 bind matrices can tell."""

RESAMPLED = 1e-4
"""relative to the asset's box diagonal; what a resampled clip may be off between its keys: a tenth of a pixel when the
asset fills a picture."""

TINY = 1e-300
"""stands for nothing where something is divided by it: smaller than any quotient that means anything."""

UNLIKELY = 1e-12
"""of a whole; the least share or density that is told apart from none, so that no evidence is final."""

NO_EXTENT = 1e-9
"""relative to the box diagonal, or its square; stands for an extent or outline of nothing where a shape is judged."""

ON_GRID = 2e-6
"""relative to a shape's size; how far off a whole number float32, or six written digits, may leave a corner."""

SAME_IN_FILE_M = 6e-8
"""metres; what a float32 of one to two metres may be off (half of 2**-23), so much at most parts two same lengths."""

PICKED_AT = 1e-6
"""relative to a mesh's size; so near a pick is to the feature it was picked of: a few times what float32 parts."""

SPECK = 1e-9
"""metres, or pixels; stands for an extent of nothing, a billionth of a metre, where a size is told by it."""

NOTHING_M = 1e-10
"""metres; less than an atom: what float64 leaves of a zero is said as one."""

ROUNDED_TO_NOTHING = 1e-12
"""degrees, or of 1; a reading below is said as 0."""

STANDS_M = 1e-5
"""metres; what floats or sinks by less stands true: a hundredth of a millimetre."""

LEAST_SAID_M = 1e-9
"""metres; below it a deviation is said to be below what can be told."""

SAME_UNIT = 1e-9
"""relative; two units, or two numbers of one file, count as one: files round units to some nine digits."""

LEAST_UNIT_M, GREATEST_UNIT_M = 1e-9, 1e9
"""metres; no unit and no factor outside can be meant."""

SAME_FACTOR = 1e-12
"""of 1; a factor or a turn that differs from none by less does nothing: some thousand roundings of float64."""

SAME_TURN_DEG = 1e-9
"""degrees; a turn by less is none."""

NO_ANGLE_RAD = 1e-7
"""radians; below it the sine of half an angle is the angle to the last digit, and an axis can't be told."""

UPRIGHT_COSINE = 1e-6
"""cosine of a middle angle below which the first and the third turn about one axis: what float32 leaves of none."""

ON_ONE_LINE = 1e-18
"""of the product of two squared lengths: a cross product below it is what rounding leaves of none."""

OPPOSITE = 1e-14
"""of a cosine: two directions are opposite, and any axis across turns one onto the other."""

OPEN_VOLUME = 1e-12
"""of the sum of its pieces: a volume below it is what rounding leaves of an open or flat shape."""

NO_AREA = 1e-7
"""of its longest side: a triangle of less height has none in float32."""

WHOLE_NUMBER = 1e-6
"""of 1; numbers that near to whole ones were whole before they were carried."""

ROUNDED_TO_ZERO = 1e-14
"""of the reach of the numbers beside it: written as 0."""

ROUNDED_DIGITS = 1e-13
"""relative; what fewer digits may take from a number before more are written."""

NEAREST_M, FURTHEST_M = 1e-5, 1e8
"""metres; how near and far the eye goes: a screw's thread, a planet."""

BOOK_ROUNDING = 1e-6
"""relative; an extent read back from float32 still stands within a range made of it."""

SAME_SIZE = 1e-5
"""relative; a float32 box written and read again."""

BENT = 1e-9
"""relative to the polygon's area; a corner that turns back by less is straight but for rounding."""

FLOAT_STEP = 1.2e-7
"""relative; neighbouring float32 numbers lie so far apart."""
