"""`reset`: channels become identity without compensation; the node and what is below it move."""

from __future__ import annotations

from typing import ClassVar, Literal

from pydantic import Field

from oak_square.core.baking import reset
from oak_square.core.scene import Asset
from oak_square.core.terms import term
from oak_square.core.words import counted, joined, say
from oak_square.steps.setting import Setting
from oak_square.steps.step import NO_SUCH_NODE, Channel, Effect, Step, registered, unclean_nodes


@registered
class ResetStep(Step):
    """Makes the named channels of every, or every named, node identity, and lets it move."""

    stage: ClassVar[str] = "bake"

    do: Literal["reset"] = "reset"
    what: list[Channel] = Field(
        default=["rotation", "scale"],
        min_length=1,
        description=say("Which channels: any of rotation, scale, location."),
    )

    def apply(self, asset: Asset, setting: Setting) -> Effect:
        """Return the asset with those channels forgotten."""
        chosen = self.chosen(asset)
        unclean = unclean_nodes(asset, chosen, self.what)
        if not unclean:
            why = say("those channels are clean already") if chosen else NO_SUCH_NODE
            return Effect(asset=asset, changed=False, detail=why)
        detail = say(
            "{what} reset on {count} of {nodes}",
            what=joined(say(" and "), map(term, self.what)),
            count=len(unclean),
            nodes=counted(len(chosen), "node"),
        )
        moved = sorted({asset.nodes[j].name for i in unclean for j in asset.below(i) if j not in unclean})
        warnings = (
            (say("moved along: {names}{tail}", names=joined(", ", moved[:3]), tail="…" if len(moved) > 3 else ""),)
            if moved
            else ()
        )
        result = reset(asset, frozenset(self.what), frozenset(unclean))
        return Effect(asset=result, changed=True, detail=detail, warnings=warnings)

    def title(self) -> str:
        """Return `Reset: rotation`."""
        return say("Reset: {what}", what=joined(", ", map(term, self.what)))
