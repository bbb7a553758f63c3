"""What another up axis would move."""

from __future__ import annotations

import pytest

from oak_square.sheet.along_axes import meant_otherwise
from oak_square.sheet.model import Deliver
from oak_square.sheet.text import parse_sheet

TURNED = Deliver.model_validate({"up": "Z"})


@pytest.mark.parametrize(
    ("step", "moves"),
    [
        ("{do: place, shift: [0, 1 m, 0]}", True), ("{do: place, shift: [0, 0, 0]}", False),
        ("{do: place, ground: true}", False), ("{do: place, at: [1, 0, 0], axes: [x]}", True),
        ("{do: turn, by: [0, 90, 0]}", True), ("{do: turn, up: +Z, front: -Y}", False),
        ("{do: turn, bring: +X, to: right}", True), ("{do: size, height: 2 m}", False),
        ("{do: size, factor: [1, 2, 1]}", True), ("{do: size, factor: 2}", False),
        ("{do: pivot, at: {point: [left, bottom, 0.5], inset: {left: 4 cm}}}", False),
        ("{do: pivot, at: {xyz: [0, 1, 0]}}", True), ("{do: check, height: {max: 2 m}}", False),
    ],
)  # fmt: skip
def test_numbers_along_axes_are_told_and_sides_are_not(step, moves):
    sheet = parse_sheet(f"prep-sheet: 1\nsteps:\n  - {step}\n", "s")
    assert bool(meant_otherwise(sheet, TURNED)) == moves
    assert meant_otherwise(sheet, Deliver.model_validate({"up": "Y", "unit": "cm"})) == []


def test_named_places_are_told_too():
    sheet = parse_sheet(
        "prep-sheet: 1\ndatums: {sill: {at: [0, 1, 0]}, here: {}}\nberths: {quay: {turn: [0, 90, 0]}}\nsteps: []\n",
        "s",
    )
    assert meant_otherwise(sheet, TURNED) == ["datum sill", "berth quay"]
