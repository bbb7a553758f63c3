"""`parent`: nodes hang from another one; nothing moves in the world."""

from __future__ import annotations

from typing import Annotated, ClassVar, Literal

from pydantic import Field

from oak_square.core.errors import Refused
from oak_square.core.motion import rehung
from oak_square.core.node_names import node_named
from oak_square.core.scene import Asset
from oak_square.core.words import one_or_many, say
from oak_square.steps.form_hints import FormHint
from oak_square.steps.setting import Setting
from oak_square.steps.step import NO_SUCH_NODE, Effect, Step, registered

_TO = FormHint(
    word=say("hang from"), kind="node", tip=say("What is aimed at hangs from that node from then on; nothing moves")
)


@registered
class ParentStep(Step):
    """Hangs the named nodes, with all below them, from another node, or from none."""

    stage: ClassVar[str] = "bake"
    needs_parts: ClassVar[bool] = True

    do: Literal["parent"] = "parent"
    to: Annotated[str | None, _TO] = Field(description=say("The node they hang from, by name; null for none."))

    def apply(self, asset: Asset, setting: Setting) -> Effect:
        """Return the asset with those nodes hung from there.

        Raises
        ------
        Failed
            If there is no node to hang them from.
        Refused
            If a node would hang from itself, or the format holds no hierarchy.
        """
        chosen = self.chosen(asset)
        if not chosen:
            return Effect(asset=asset, changed=False, detail=NO_SUCH_NODE)
        target = self._find_target(asset)
        due = [i for i in chosen if i != target and asset.nodes[i].parent != target]
        if not due:
            return Effect(asset=asset, changed=False, detail=say("they hang from there already"))
        if all(node.pinned for node in asset.nodes):
            raise Refused(say("its format holds no hierarchy"))
        below = {j for i in due for j in asset.below(i)}
        if target in below:
            raise Refused(say("'{to}' is below what would hang from it", to=self.to))
        hidden = next(
            (i for i in due if target is not None and asset.nodes[i].shown != asset.nodes[target].shown), None
        )
        if hidden is not None:
            raise Refused(
                say("'{name}' and '{to}' are not in the same scene", name=asset.nodes[hidden].name, to=self.to)
            )
        where = say("no node") if self.to is None else say("'{to}'", to=self.to)
        detail = one_or_many(
            len(due), "{count} node hangs from {where}", "{count} nodes hang from {where}", where=where
        )
        return Effect(asset=rehung(asset, dict.fromkeys(due, target)), changed=True, detail=detail)

    def _find_target(self, asset: Asset) -> int | None:
        if self.to is None:
            return None
        return node_named(asset, self.to)

    def words(self) -> dict[str, object]:
        """Return the step as the sheet writes it: `to: null` is said."""
        return {**super().words(), "to": self.to}

    def title(self) -> str:
        """Return `Hang leaf from gate`."""
        return say(
            "Hang {names} from {where}",
            names=", ".join(self.parts or ()),
            where=self.to if self.to is not None else say("none"),
        )
