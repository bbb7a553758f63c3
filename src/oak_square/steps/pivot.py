"""`pivot`: where assets, parts and groups turn about, and along which axes. Geometry stays; an asset moves instead."""

from __future__ import annotations

from typing import ClassVar, Literal

import numpy as np
from numpy.typing import NDArray
from pydantic import Field, model_validator

from oak_square.core.boxes import asset_box
from oak_square.core.frames import translation
from oak_square.core.lengths import format_length
from oak_square.core.motion import carry_all, reframe
from oak_square.core.scene import Asset
from oak_square.core.shapes import centre_of_mass, corners_of
from oak_square.core.terms import term
from oak_square.core.tolerances import SAME_MATRIX, SAME_PLACE
from oak_square.core.words import joined, one_or_many, say
from oak_square.steps.along import NODE_AXES
from oak_square.steps.centre import Spot, XyzPoint
from oak_square.steps.pivot_at import (
    OF_NODES,
    At,
    Move,
    Vertices,
    asset_point,
    at_words,
    box_spot,
    node_point,
    spot_points,
)
from oak_square.steps.pivot_axes import Axes, axes_turn, axes_words
from oak_square.steps.setting import Setting
from oak_square.steps.step import NO_SUCH_NODE, Effect, Step, registered

Array = NDArray[np.float64]
KINDS = {"parts": ("part",), "groups": ("group",), "all": ("part", "group")}


@registered
class PivotStep(Step):
    """Moves and turns pivots. Of an asset: the whole moves so that the point becomes the origin."""

    stage: ClassVar[str] = "pivot"

    do: Literal["pivot"] = "pivot"
    at: At = Field(
        "base",
        description=say(
            "base, middle, mass, mean, origin, parent, children, received, a box point with insets, "
            "coordinates, another part's pivot, the centre of a circle "
            "through three points, vertices, a datum, a mark, "
            "across the asset, or moved on from where it is."
        ),
    )
    axes: Axes = Field(
        "keep",
        description=say(
            "The pivot's axes: kept, the world's, the parent's, a datum's, brought round, turned, half a turn "
            "about one of them, at the nearest right angles (square), or as received."
        ),
    )
    of: Literal["asset", "parts", "groups", "all"] | None = Field(
        None,
        description=say("The asset as a whole (the default), its parts (the default where named), groups, or all."),
    )
    box: Literal["own", "tree"] | None = Field(
        None, description=say("Whose box: its own geometry (default for parts), or with all below (for groups).")
    )
    box_axes: Literal["world", "own"] = Field(
        "world", alias="box-axes", description=say("Along which axes the box is measured.")
    )

    @model_validator(mode="after")
    def _fits_its_target(self) -> PivotStep:
        if self.target != "asset":
            return self
        if self.parts is not None:
            raise ValueError(say("of: asset is the whole asset, it takes no parts"))
        if isinstance(self.at, XyzPoint) and self.at.in_ == "part":
            raise ValueError(say("in: part needs of: parts, groups or all"))
        if self.at == "origin":
            raise ValueError(say("the asset's own pivot is the origin already"))
        if isinstance(self.at, Move) and self.at.along in NODE_AXES:
            raise ValueError(say("along: {along} needs of: parts, groups or all", along=self.at.along))
        if self.at in OF_NODES or isinstance(self.at, Vertices):
            raise ValueError(say("parent, children and vertices are a node's: they need of: parts, groups or all"))
        if self.axes != "keep":
            raise ValueError(say("axes are of parts and groups; an asset is turned by a turn step"))
        return self

    @property
    def target(self) -> str:
        """What `of` means, its default filled in."""
        return self.of or ("asset" if self.parts is None else "parts")

    def met(self, asset: Asset) -> tuple[int, ...]:
        """Return the nodes of the kind it is for."""
        return asset.parts if self.target == "asset" else self.chosen(asset, KINDS[self.target])

    @property
    def spot(self) -> Spot | None:
        """The box point that `at` names, if it names one."""
        return box_spot(self.at)

    def apply(self, asset: Asset, setting: Setting) -> Effect:
        """Return the asset with its pivots there."""
        return self._asset_pivot(asset, setting) if self.target == "asset" else self._node_pivots(asset, setting)

    def _asset_pivot(self, asset: Asset, setting: Setting) -> Effect:
        box = asset_box(asset)
        if box is None:
            return Effect(asset=asset, changed=False, detail=say("it has no geometry, so no box"))
        point = asset_point(asset, self.at, box, setting)
        if point is None:
            return Effect(asset=asset, changed=False, detail=say("it has no surface, so no centre"))
        off = float(np.linalg.norm(point))
        if off <= SAME_PLACE * box.diagonal:
            return Effect(asset=asset, changed=False, detail=say("the origin is there already"))
        moved = carry_all(asset, translation(-point))
        detail = say("origin moved {off} to its {point}", off=format_length(off), point=at_words(self.at)[1])
        return Effect(asset=moved, changed=True, detail=detail, warnings=self._describe_open_shapes(asset, asset.parts))

    def _node_pivots(self, asset: Asset, setting: Setting) -> Effect:
        chosen = self.met(asset)
        if not chosen:
            nothing = (
                NO_SUCH_NODE
                if self.parts is not None
                else say("it has no {what}", what=term(self.target.replace("all", "nodes")))
            )
            return Effect(asset=asset, changed=False, detail=nothing)
        worlds = asset.worlds.copy()
        whole = asset_box(asset)
        reach = whole.diagonal if whole is not None else 1.0
        points = self._find_goals(asset, chosen, setting)
        there = np.isfinite(points).all(axis=1)
        empty = int((~there).sum())
        off = np.where(there, np.linalg.norm(points - worlds[list(chosen), :3, 3], axis=1), 0.0)
        goes = off > SAME_PLACE * reach
        worlds[np.array(chosen)[goes], :3, 3] = points[goes]
        moved, furthest = int(goes.sum()), float(off.max(initial=0.0))
        turned = 0
        for i in chosen if self.axes != "keep" else ():
            turned += self._turn_axes(asset, i, worlds[i], setting)
        if not moved and not turned:
            why = (
                say("they have no geometry, so no box")
                if empty == len(chosen)
                else say("their pivots are there already")
            )
            return Effect(asset=asset, changed=False, detail=why)
        words = (
            [
                one_or_many(
                    len(chosen),
                    "{moved} of {count} pivot moved, up to {furthest}",
                    "{moved} of {count} pivots moved, up to {furthest}",
                    moved=moved,
                    furthest=format_length(furthest),
                )
            ]
            if moved
            else []
        )
        words += [say("axes of {turned} turned", turned=turned)] if turned else []
        warnings = (say("{empty} without geometry stay where they are", empty=empty),) if empty else ()
        opened = self._describe_open_shapes(asset, chosen)
        return Effect(
            asset=reframe(asset, worlds), changed=True, detail=joined(", ", words), warnings=(*warnings, *opened)
        )

    def _find_goals(self, asset: Asset, chosen: tuple[int, ...], setting: Setting) -> Array:
        """Return where the pivots of some nodes go, world, metres, shape (K, 3); NaN where nothing tells."""
        if self.spot is not None and self.box_axes == "world":
            return spot_points(asset, chosen, [self._is_tree(asset, i) for i in chosen], self.spot, setting)
        found = np.full((len(chosen), 3), np.nan)
        for k, i in enumerate(chosen):
            point = node_point(asset, i, self.at, setting, tree=self._is_tree(asset, i), box_axes=self.box_axes)
            if point is not None:
                found[k] = point
        return found

    def _describe_open_shapes(self, asset: Asset, nodes: tuple[int, ...]) -> tuple[str, ...]:
        """Say which of the nodes' shapes are open, where the centre of mass was asked for."""
        if self.at != "mass":
            return ()
        parts = [[i] for i in nodes] if self.target != "asset" else [list(nodes)]
        found = [centre_of_mass(corners_of(asset, [j for j in p if asset.nodes[j].mesh is not None])) for p in parts]
        count = sum(f is not None and f[1] == "surface" for f in found)
        return (say("{count} not closed: the centre of its surface is taken", count=count),) if count else ()

    def _turn_axes(self, asset: Asset, i: int, world: Array, setting: Setting) -> bool:
        """Turn a node's axes in place in its world frame, its scale along them kept; tell whether they turned."""
        turn = axes_turn(asset, i, self.axes, setting)
        if np.abs(turn - np.eye(3)).max() <= SAME_MATRIX:
            return False
        world[:3, :3] = turn @ world[:3, :3]
        return True

    def _is_tree(self, asset: Asset, i: int) -> bool:
        return (self.box or ("own" if asset.nodes[i].kind == "part" else "tree")) == "tree"

    def title(self) -> str:
        """Return `Pivot: base of asset`, `Pivot: axes +Z to top of parts`."""
        at = at_words(self.at)[0]
        stays = isinstance(self.at, Move) and not any(self.at.move) and self.axes != "keep"
        words = [w for w in ("" if stays else at, axes_words(self.axes)) if w]
        return say("Pivot: {words} of {target}", words=joined(", ", words), target=term(self.target))
