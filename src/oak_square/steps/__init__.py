"""One file a step. A new file here is found and registered by itself."""

from importlib import import_module
from pkgutil import iter_modules

from oak_square.steps.along import Along, along_axes, along_sides
from oak_square.steps.bring import SheetDirection, direction
from oak_square.steps.centre import Centre, MarkName, Xyz, centre_point, centre_words
from oak_square.steps.naming import as_reads, called, globs_for
from oak_square.steps.step import NO_SUCH_NODE, STEPS, Effect, Length, NamedFrame, Setting, Step, nodes_named
from oak_square.steps.take import Take, rows_of_feature, take_for, take_words, taken

for _module in iter_modules(__path__):
    import_module(f"{__name__}.{_module.name}")

__all__ = [
    "NO_SUCH_NODE",
    "STEPS",
    "Along",
    "Centre",
    "Effect",
    "Length",
    "MarkName",
    "NamedFrame",
    "Setting",
    "SheetDirection",
    "Step",
    "Take",
    "Xyz",
    "along_axes",
    "along_sides",
    "as_reads",
    "called",
    "centre_point",
    "centre_words",
    "direction",
    "globs_for",
    "nodes_named",
    "rows_of_feature",
    "take_for",
    "take_words",
    "taken",
]
