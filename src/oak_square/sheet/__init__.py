"""The prep sheet: its model, its YAML, and what it makes of an asset."""

from oak_square.sheet.comparing import differences
from oak_square.sheet.evaluate import Prepared, StepOutcome, evaluate, unmatched_steps
from oak_square.sheet.keeping import SheetText
from oak_square.sheet.measures import dump_measures, load_measures, measures_path
from oak_square.sheet.model import Deliver, Frame, Mark, Sheet, named_in
from oak_square.sheet.references import Others, asset_called, check_references, referred_to, set_out_files
from oak_square.sheet.schema import sheet_schema
from oak_square.sheet.set_out import Row, SetOut
from oak_square.sheet.text import dump_sheet, load_sheet, parse_sheet, step_line
from oak_square.sheet.unit_question import UnitQuestion, settled_units, unit_question

__all__ = [
    "Deliver",
    "Frame",
    "Mark",
    "Others",
    "Prepared",
    "Row",
    "SetOut",
    "Sheet",
    "SheetText",
    "StepOutcome",
    "UnitQuestion",
    "asset_called",
    "check_references",
    "differences",
    "dump_measures",
    "dump_sheet",
    "evaluate",
    "load_measures",
    "load_sheet",
    "measures_path",
    "named_in",
    "parse_sheet",
    "referred_to",
    "set_out_files",
    "settled_units",
    "sheet_schema",
    "step_line",
    "unit_question",
    "unmatched_steps",
]
