"""From the session to the table of channels: every node of all in scope, as it is, as it would be, and what happens."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from oak_square.app.facts.picture import NoteMark
from oak_square.app.session.outcomes import Outcome
from oak_square.app.session.state import State
from oak_square.core.boxes import node_box
from oak_square.core.consequences import KINDS_OF_CONSEQUENCE, Consequence, consequences_of
from oak_square.core.placement import turn_degrees
from oak_square.core.scene import Asset, Node
from oak_square.core.shown_units import ShownUnit
from oak_square.core.tolerances import ROTATION_BAKED_DEG, SAME_PLACE, SCALE_BAKED
from oak_square.core.words import number, say
from oak_square.steps.step import Step

__all__ = ["CHANNELS", "BakeRow", "bake_rows", "consequence_notes"]

CHANNELS = ("rotation", "scale", "location")
_SHORT = {
    "axes": say("axes"), "pivot": say("pivot"), "mirror": say("mirrored"), "shear": say("slanted"),
    "shared": say("own mesh"), "clip": say("clip"),
    "path": say("path resampled"),
}  # fmt: skip
_MOST_NOTES = 12


@dataclass(frozen=True, slots=True, kw_only=True)
class BakeRow:
    """One node.

    Attributes
    ----------
    file, asset, name : str
    node : int
    depth : int
        How far down the hierarchy.
    is_met : bool
        Whether the draft, or what is chosen, is for it.
    cells : tuple of (before, after, clean)
        Rotation, scale and location in words; `after` is empty where it stays, `clean` tells of what it is now.
    exact : tuple of 3 str
        The channels as they are, in full.
    happens, shortly : tuple of str
        What else happens to it, in words; and in one word each.
    """

    file: str
    asset: str
    name: str
    node: int
    depth: int
    is_met: bool
    cells: tuple[tuple[str, str, bool], ...]
    exact: tuple[str, str, str] = ("", "", "")
    happens: tuple[str, ...] = ()
    shortly: tuple[str, ...] = ()


def bake_rows(session: State, nodes_of: dict[str, tuple[int, ...]]) -> list[BakeRow]:
    """Return the rows of all assets that what is chosen is for; `nodes_of` are the nodes of each that are met."""
    rows = list[BakeRow]()
    for file, met in nodes_of.items():
        outcome = session.outcomes.get(file)
        if outcome is not None:
            rows += _rows_of(outcome, session.own_draft, frozenset(met), session.unit)
    return rows


def _rows_of(outcome: Outcome, draft: Step | None, met: frozenset[int], unit: ShownUnit) -> list[BakeRow]:
    before, after = outcome.before.asset, outcome.after.asset
    told: dict[int, list[Consequence]] = {}
    tried = draft is not None and draft.do in ("bake", "reset") and outcome.after.status == "ready"
    for each in consequences_of(before, after) if tried and draft is not None and draft.do == "bake" else ():
        told.setdefault(each.node, []).append(each)
    deep = _find_depths(before)
    rows = []
    for i in before.depth_first:
        old = before.nodes[i]
        new = after.nodes[i] if tried and i < len(after.nodes) else old
        pairs = zip(_make_cells(old, unit), _make_cells(new, unit), strict=True)
        rows.append(
            BakeRow(
                file=outcome.file, asset=before.name, name=old.name, node=i, depth=deep[i], is_met=i in met,
                cells=tuple((a[0], b[0] if b[0] != a[0] else "", a[1]) for a, b in pairs),
                exact=_format_channels(old, unit),
                happens=tuple(_describe_consequence(c, unit) for c in told.get(i, ())),
                shortly=tuple(_SHORT[c.kind] for c in told.get(i, ())),
            )
        )  # fmt: skip
    return rows


def _find_depths(asset: Asset) -> list[int]:
    found = [0] * len(asset.nodes)
    for i in asset.order:
        parent = asset.nodes[i].parent
        found[i] = 0 if parent is None else found[parent] + 1
    return found


def _make_cells(node: Node, unit: ShownUnit) -> list[tuple[str, bool]]:
    turned, scale, at = turn_degrees(node.placement.rotation), node.placement.scale, node.placement.translation
    even = np.ptp(scale) <= SCALE_BAKED
    far = float(np.linalg.norm(at))
    away = float(f"{far:.3g}") if unit.kind == "auto" else far
    return [
        (number(f"{turned:.3g}°"), turned <= ROTATION_BAKED_DEG),
        (number(f"{scale[0]:.3g}") if even else say("uneven"), bool(np.abs(scale - 1).max() <= SCALE_BAKED)),
        # That a node stands somewhere is no fault.
        ("0" if far <= SAME_PLACE else unit.mark(away), True),
    ]


def _format_channels(node: Node, unit: ShownUnit) -> tuple[str, str, str]:
    """Return the three channels in full, as a tooltip has room for them."""
    scale, at = node.placement.scale, node.placement.translation
    return (
        number(f"{turn_degrees(node.placement.rotation):.6g}°"), " × ".join(number(f"{v:.6g}") for v in scale),
        ", ".join(unit.length(float(v)) for v in at),
    )  # fmt: skip


def _describe_consequence(told: Consequence, unit: ShownUnit) -> str:
    amount = {
        "axes": say(", which stood {amount:.3g}° from the world's", amount=told.amount),
        "pivot": say(", {length} away", length=unit.length(told.amount)),
        "shear": say(", by {amount:.2g}°", amount=told.amount),
        "shared": say(", {amount:.0f} others", amount=told.amount - 1),
    }.get(told.kind, "")
    return f"{KINDS_OF_CONSEQUENCE[told.kind]}{amount}"


def consequence_notes(session: State, file: str) -> tuple[NoteMark, ...]:
    """Return what a draft that bakes brings about on an asset, to be written on the parts it happens to."""
    outcome, draft = session.outcomes.get(file), session.own_draft
    if outcome is None or draft is None or draft.do != "bake" or outcome.after.status != "ready":
        return ()
    by_node: dict[int, list[Consequence]] = {}
    for each in consequences_of(outcome.before.asset, outcome.after.asset):
        by_node.setdefault(each.node, []).append(each)
    return tuple(_describe_node(outcome.after.asset, i, each) for i, each in list(by_node.items())[:_MOST_NOTES])


def _describe_node(asset: Asset, node: int, told: Sequence[Consequence]) -> NoteMark:
    box = node_box(asset, node)
    at = asset.worlds[node][:3, 3] if box is None else box.middle
    return NoteMark(at=at, text=f"{asset.nodes[node].name}: {', '.join(_SHORT[c.kind] for c in told)}")
