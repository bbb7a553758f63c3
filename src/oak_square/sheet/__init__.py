"""The prep sheet: its model, its YAML, and what it makes of an asset."""

from oak_square.sheet.evaluate import Prepared, StepOutcome, evaluate, unmatched_steps
from oak_square.sheet.keeping import SheetText
from oak_square.sheet.model import Deliver, Sheet
from oak_square.sheet.references import Others, asset_called, check_references, referred_to
from oak_square.sheet.text import dump_sheet, load_sheet, parse_sheet, step_line

__all__ = [
    "Deliver",
    "Others",
    "Prepared",
    "Sheet",
    "SheetText",
    "StepOutcome",
    "asset_called",
    "check_references",
    "dump_sheet",
    "evaluate",
    "load_sheet",
    "parse_sheet",
    "referred_to",
    "step_line",
    "unmatched_steps",
]
