"""`bake`: channels become identity and all geometry stays where it is in the world."""

from __future__ import annotations

from typing import ClassVar, Literal

from pydantic import Field

from oak_square.core.counting import counted
from oak_square.core.geometry import is_mirror
from oak_square.core.motion import baked
from oak_square.core.placement import turn_degrees
from oak_square.core.scene import Asset
from oak_square.steps.step import NO_SUCH_NODE, Channel, Effect, Setting, Step, registered, unclean_nodes


@registered
class BakeStep(Step):
    """Makes the named channels of every, or every named, node identity; geometry takes up the difference."""

    stage: ClassVar[str] = "bake"

    do: Literal["bake"] = "bake"
    what: list[Channel] = Field(
        default=["rotation", "scale"],
        min_length=1,
        description="Which channels: any of rotation, scale, location. Location sends pivots to the parent's.",
    )

    def apply(self, asset: Asset, setting: Setting) -> Effect:
        """Return the asset with those channels clean."""
        chosen = self.chosen(asset)
        unclean = unclean_nodes(asset, chosen, self.what)
        kept = [i for i in unclean if asset.nodes[i].aimed and "location" not in self.what]
        if not unclean or len(kept) == len(unclean):
            why = "those channels are clean already" if chosen else NO_SUCH_NODE
            return Effect(asset=asset, changed=False, detail=why)
        result = baked(asset, frozenset(self.what), frozenset(chosen))
        return Effect(
            asset=result,
            changed=True,
            detail=f"{' and '.join(self.what)} baked on {len(unclean) - len(kept)} of {counted(len(chosen), 'node')}",
            warnings=_consequences(asset, unclean, self.what),
        )

    def title(self) -> str:
        """Return `Bake: rotation, scale`."""
        return f"Bake: {', '.join(self.what)}"


def _consequences(asset: Asset, unclean: list[int], what: list[Channel]) -> tuple[str, ...]:
    said = []
    if "rotation" in what:
        lost = [asset.nodes[i].name for i in unclean if turn_degrees(asset.nodes[i].placement.rotation) > 0.01]
        if lost:
            said.append(f"own axes now follow the parent's: {_named(lost)}")
    mirrored = [asset.nodes[i].name for i in unclean if asset.nodes[i].mesh is not None and is_mirror(asset.worlds[i])]
    if mirrored and "scale" in what:
        said.append(f"mirrored faces are wound the other way round: {_named(mirrored)}")
    if "location" in what:
        sent = [asset.nodes[i].name for i in unclean]
        said.append(f"pivots sent to their parent's origin: {_named(sent)}")
    aimed = [asset.nodes[i].name for i in unclean if asset.nodes[i].aimed]
    if aimed:
        said.append(f"cameras and lights keep their direction: {_named(aimed)}")
    return tuple(said)


def _named(names: list[str]) -> str:
    shown = ", ".join(f"'{n}'" for n in names[:3])
    return shown if len(names) <= 3 else f"{shown} and {len(names) - 3} more"
