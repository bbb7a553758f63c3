"""`split`: a part's connected pieces become parts of their own; nothing moves."""

from __future__ import annotations

from dataclasses import replace
from typing import Annotated, ClassVar, Literal

import numpy as np
from pydantic import Field

from oak_square.core.errors import Refused
from oak_square.core.pieces import pieces_of
from oak_square.core.placement import Placement
from oak_square.core.scene import Asset, Mesh, Node
from oak_square.core.words import say
from oak_square.steps.form_hints import FormHint
from oak_square.steps.setting import Setting
from oak_square.steps.step import NO_SUCH_NODE, Effect, Step, registered

_INTO = FormHint(
    choices=(
        (
            "pieces",
            say("Take apart in pieces"),
            say("Pieces that nothing joins become parts of their own, with their own pivots; nothing moves"),
        ),
    )
)


@registered
class SplitStep(Step):
    """Takes the named parts apart into their connected pieces, each a child of its own."""

    stage: ClassVar[str] = "bake"
    needs_parts: ClassVar[bool] = True
    means_all: ClassVar[bool] = True

    do: Literal["split"] = "split"
    into: Annotated[Literal["pieces"], _INTO] = Field(
        "pieces", description=say("Connected pieces; vertices at one position count as joined.")
    )

    def apply(self, asset: Asset, setting: Setting) -> Effect:
        """Return the asset with those parts as groups, and their pieces below them.

        Raises
        ------
        Refused
            If the format holds no hierarchy, the geometry is compressed, or the pieces are too many.
        """
        chosen = self.met(asset)
        if not chosen:
            return Effect(asset=asset, changed=False, detail=NO_SUCH_NODE)
        for i in chosen:
            _check_whole(asset.nodes[i], asset.mesh_of(i))
        due = [i for i in chosen if len(pieces_of(asset.mesh_of(i))) > 1]
        if not due:
            detail = (
                say("'{name}' is in one piece", name=asset.nodes[chosen[0]].name)
                if len(chosen) == 1
                else say("each is in one piece")
            )
            return Effect(asset=asset, changed=False, detail=detail)
        result = _split_parts(asset, due)
        total = len(result.nodes) - len(asset.nodes)
        detail = (
            say("{total} pieces of '{name}'", total=total, name=asset.nodes[due[0]].name)
            if len(due) == 1
            else say("{total} pieces of {count} parts", total=total, count=len(due))
        )
        return Effect(asset=result, changed=True, detail=detail)

    def met(self, asset: Asset) -> tuple[int, ...]:
        """Return the parts it names: groups are in pieces already."""
        return self.chosen(asset, kinds=("part",))

    def words(self) -> dict[str, object]:
        """Return the step as the sheet writes it: what it splits into is said."""
        return {**super().words(), "into": self.into}

    def title(self) -> str:
        """Return `Split bollards`."""
        return say("Split {names}", names=", ".join(self.parts or ()))


def _check_whole(node: Node, mesh: Mesh) -> None:
    if node.pinned:
        raise Refused(say("its format holds no hierarchy"))
    if mesh.spread is not None:
        raise Refused(
            say("'{name}' is drawn as many instances of one mesh, and its pieces would not be", name=node.name)
        )
    if mesh.sealed:
        raise Refused(
            say("the geometry of '{name}' is {sealed}, and this would rewrite it", name=node.name, sealed=mesh.sealed)
        )


def _split_parts(asset: Asset, due: list[int]) -> Asset:
    """Return the asset with the parts `due` taken apart; a mesh that several of them use is taken apart once."""
    nodes, meshes = list(asset.nodes), list(asset.meshes)
    placed: dict[int, range] = {}
    for i in due:
        node = nodes[i]
        assert node.mesh is not None
        if node.mesh not in placed:
            pieces = pieces_of(meshes[node.mesh])
            placed[node.mesh] = range(len(meshes), len(meshes) + len(pieces))
            meshes.extend(pieces)
        nodes.extend(
            Node(
                name=f"{node.name}.{number}",
                parent=i,
                placement=Placement.of(what=node.name),
                mesh=mesh,
                local_from_mesh=node.local_from_mesh,
                shown=node.shown,
                skin=node.skin,
                cut_from=i,
                received=node.received,
            )
            for number, mesh in enumerate(placed[node.mesh], 1)
        )
        nodes[i] = replace(node, mesh=None, skin=None, local_from_mesh=np.eye(4))
    return replace(asset, nodes=tuple(nodes), meshes=tuple(meshes))
