"""The prep sheet: its model, its YAML, and what it makes of an asset."""

from oak_square.sheet.comparing import differences
from oak_square.sheet.evaluate import Prepared, StepOutcome, evaluate, unmatched_steps
from oak_square.sheet.keeping import SheetText
from oak_square.sheet.measures import dump_measures, load_measures, measures_path, parse_measures
from oak_square.sheet.model import Deliver, Frame, Mark, Sheet, named_in
from oak_square.sheet.questions import (
    SideQuestion,
    UnitQuestion,
    guesses_for,
    is_open,
    settled_in,
    side_question,
    unit_question,
)
from oak_square.sheet.references import Others, asset_called, check_references, referred_to, set_out_files
from oak_square.sheet.schema import sheet_schema
from oak_square.sheet.set_out import Row, SetOut
from oak_square.sheet.text import dump_sheet, load_sheet, parse_sheet, step_line

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
    "SideQuestion",
    "StepOutcome",
    "UnitQuestion",
    "asset_called",
    "check_references",
    "differences",
    "dump_measures",
    "dump_sheet",
    "evaluate",
    "guesses_for",
    "is_open",
    "load_measures",
    "load_sheet",
    "measures_path",
    "named_in",
    "parse_measures",
    "parse_sheet",
    "referred_to",
    "set_out_files",
    "settled_in",
    "sheet_schema",
    "side_question",
    "step_line",
    "unit_question",
    "unmatched_steps",
]
