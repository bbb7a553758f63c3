"""`bake`: channels become identity and all geometry stays where it is in the world."""

from __future__ import annotations

from typing import ClassVar, Literal

from pydantic import Field

from oak_square.core.baking import baked
from oak_square.core.consequences import KINDS_OF_CONSEQUENCE, Consequence, consequences_of
from oak_square.core.lengths import format_length
from oak_square.core.scene import Asset
from oak_square.core.terms import term
from oak_square.core.words import counted, joined, say
from oak_square.steps.setting import Setting
from oak_square.steps.step import NO_SUCH_NODE, Channel, Effect, Step, registered, unclean_nodes

_TOLD: tuple[Literal["axes", "pivot", "mirror", "shear"], ...] = ("axes", "pivot", "mirror", "shear")
"""What a bake warns of; whoever writes the file tells of clips and of geometry that comes apart."""


@registered
class BakeStep(Step):
    """Makes the named channels of every, or every named, node identity; geometry takes up the difference."""

    stage: ClassVar[str] = "bake"

    do: Literal["bake"] = "bake"
    what: list[Channel] = Field(
        default=["rotation", "scale"],
        min_length=1,
        description=say("Which channels: any of rotation, scale, location. Location sends pivots to the parent's."),
    )

    def apply(self, asset: Asset, setting: Setting) -> Effect:
        """Return the asset with those channels clean."""
        chosen = self.chosen(asset)
        unclean = unclean_nodes(asset, chosen, self.what)
        kept = [i for i in unclean if asset.nodes[i].aimed and "location" not in self.what]
        if not unclean or len(kept) == len(unclean):
            why = say("those channels are clean already") if chosen else NO_SUCH_NODE
            return Effect(asset=asset, changed=False, detail=why)
        result = baked(asset, frozenset(self.what), frozenset(chosen))
        return Effect(
            asset=result,
            changed=True,
            detail=say(
                "{what} baked on {count} of {nodes}",
                what=joined(say(" and "), map(term, self.what)),
                count=len(unclean) - len(kept),
                nodes=counted(len(chosen), "node"),
            ),
            warnings=_list_consequences(asset, result, unclean),
        )

    def title(self) -> str:
        """Return `Bake: rotation, scale`."""
        return say("Bake: {what}", what=joined(", ", map(term, self.what)))


def _list_consequences(asset: Asset, result: Asset, unclean: list[int]) -> tuple[str, ...]:
    """Return what happened to the nodes, each kind with those it happened to and by how much."""
    told = consequences_of(asset, result)
    said = []
    for kind in _TOLD:
        words = KINDS_OF_CONSEQUENCE[kind]
        named = [
            say("'{name}'{amount}", name=asset.nodes[c.node].name, amount=_describe_amount(c))
            for c in told
            if c.kind == kind
        ]
        said += [say("{words}: {named}", words=words, named=_list_part_names(named))] if named else []
    aimed = [say("'{name}'", name=asset.nodes[i].name) for i in unclean if asset.nodes[i].aimed]
    if aimed:
        said.append(say("cameras and lights keep their direction: {named}", named=_list_part_names(aimed)))
    return tuple(said)


def _describe_amount(told: Consequence) -> str:
    if told.kind == "axes":
        return say(" ({amount:.3g}° from the world's)", amount=told.amount)
    if told.kind == "pivot":
        return say(" ({amount})", amount=format_length(told.amount))
    return say(" ({amount:.2g}°)", amount=told.amount) if told.kind == "shear" else ""


def _list_part_names(names: list[str]) -> str:
    shown = joined(", ", names[:3])
    return shown if len(names) <= 3 else say("{shown} and {count} more", shown=shown, count=len(names) - 3)
