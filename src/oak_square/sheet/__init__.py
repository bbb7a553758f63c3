"""The prep sheet: its model, its YAML, and what it makes of an asset."""

from oak_square.sheet.evaluate import Prepared, StepOutcome, evaluate, unmatched_steps
from oak_square.sheet.keeping import SheetText
from oak_square.sheet.model import Deliver, Sheet
from oak_square.sheet.text import dump_sheet, load_sheet, parse_sheet

__all__ = [
    "Deliver",
    "Prepared",
    "Sheet",
    "SheetText",
    "StepOutcome",
    "dump_sheet",
    "evaluate",
    "load_sheet",
    "parse_sheet",
    "unmatched_steps",
]
