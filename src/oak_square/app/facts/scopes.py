"""From the session to what a step can be for."""

from __future__ import annotations

from dataclasses import dataclass

from oak_square.app.session.state import State

__all__ = ["Scope", "scope_of"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Scope:
    """What there is to choose from: the selected files, how many there are, the picked node's name."""

    selected: tuple[str, ...]
    total: int
    picked: str | None


def scope_of(session: State) -> Scope:
    """Return what a step's scope can be chosen from."""
    outcome = session.outcomes.get(session.lead or "")
    # As the step finds it: an earlier one may have made the part that is picked.
    asset = outcome.before.asset if outcome is not None else session.assets.get(session.lead or "")
    node = session.picked_node
    picked = asset.nodes[node].name if asset is not None and node is not None and node < len(asset.nodes) else None
    selected = tuple(f for f in session.selection if f in session.assets)
    return Scope(selected=selected, total=len(session.assets), picked=picked)
