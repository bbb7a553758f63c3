"""`pivot`: where assets, parts and groups turn about, and along which axes. Geometry stays; an asset moves instead."""

from __future__ import annotations

from typing import Annotated, ClassVar, Literal

import numpy as np
from numpy.typing import NDArray
from pydantic import Field, model_validator

from oak_square.core.boxes import Box, asset_box, node_box, tree_box
from oak_square.core.counting import counted
from oak_square.core.errors import Failed
from oak_square.core.frames import apply, translation
from oak_square.core.lengths import format_length
from oak_square.core.motion import carry_all, reframe
from oak_square.core.picks import circle_through
from oak_square.core.scene import Asset
from oak_square.core.shapes import centre_of_mass, corners_of, mean_point
from oak_square.core.tolerances import SAME_MATRIX, SAME_PLACE
from oak_square.steps.bring import Bring, To, bring_turn, direction_words
from oak_square.steps.centre import (
    DatumName,
    PartName,
    Spot,
    Words,
    Xyz,
    XyzPoint,
    named_pivot,
    point_on_box,
    spot_words,
)
from oak_square.steps.step import NO_SUCH_NODE, Effect, Setting, Step, own_axes, registered, said

Array = NDArray[np.float64]
BASE = Spot(point=["middle", "bottom", "middle"])
MIDDLE = Spot(point=["middle", "middle", "middle"])
KINDS = {"parts": ("part",), "groups": ("group",), "all": ("part", "group")}
_OF_NODES = ("origin", "parent", "children")


class CirclePoints(Words):
    """The centre of the circle through three points."""

    circle: Annotated[list[Xyz], Field(min_length=3, max_length=3)]


class Vertices(Words):
    """The mean of some vertices, by their numbers over the part's primitives in order."""

    vertices: Annotated[list[Annotated[int, Field(ge=0)]], Field(min_length=1, max_length=100_000)]


class BringTo(Words):
    """The smallest turn of the axes that brings one direction onto another."""

    bring: Bring
    to: To


At = (
    Literal["base", "middle", "mass", "mean", "origin", "parent", "children"]
    | Spot | XyzPoint | PartName | CirclePoints | Vertices | DatumName
)  # fmt: skip


@registered
class PivotStep(Step):
    """Moves and turns pivots. Of an asset: the whole moves so that the point becomes the origin."""

    stage: ClassVar[str] = "pivot"

    do: Literal["pivot"] = "pivot"
    at: At = Field(
        "base",
        description="base, middle, mass, mean, origin, parent, children, a box point with insets, coordinates, another "
        "part's pivot, the centre of a circle through three points, vertices, or a datum.",
    )
    axes: Literal["keep", "world", "parent"] | DatumName | BringTo = Field(
        "keep", description="The pivot's axes: kept, the world's, the parent's, a datum's, or brought round."
    )
    of: Literal["asset", "parts", "groups", "all"] | None = Field(
        None, description="The asset as a whole (the default), its parts (the default where named), groups, or all."
    )
    box: Literal["own", "tree"] | None = Field(
        None, description="Whose box: its own geometry (default for parts), or with all below (for groups)."
    )
    box_axes: Literal["world", "own"] = Field(
        "world", alias="box-axes", description="Along which axes the box is measured."
    )

    @model_validator(mode="after")
    def _fits_its_target(self) -> PivotStep:
        if self.target != "asset":
            return self
        if self.parts is not None:
            raise ValueError("of: asset is the whole asset, it takes no parts")
        if isinstance(self.at, XyzPoint) and self.at.in_ == "part":
            raise ValueError("in: part needs of: parts, groups or all")
        if self.at == "origin":
            raise ValueError("the asset's own pivot is the origin already")
        if self.at in _OF_NODES or isinstance(self.at, Vertices):
            raise ValueError("parent, children and vertices are a node's: they need of: parts, groups or all")
        if self.axes != "keep":
            raise ValueError("axes are of parts and groups; an asset is turned by a turn step")
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
        if isinstance(self.at, Spot):
            return self.at
        return {"base": BASE, "middle": MIDDLE}.get(self.at) if isinstance(self.at, str) else None

    def apply(self, asset: Asset, setting: Setting) -> Effect:
        """Return the asset with its pivots there."""
        return self._asset_pivot(asset, setting) if self.target == "asset" else self._node_pivots(asset, setting)

    def _asset_pivot(self, asset: Asset, setting: Setting) -> Effect:
        box = asset_box(asset)
        if box is None:
            return Effect(asset=asset, changed=False, detail="it has no geometry, so no box")
        if self.spot is not None:
            point: Array | None = point_on_box(box, self.spot, setting)
        else:
            point = self._world_point(asset, asset.parts, setting)
        if point is None:
            return Effect(asset=asset, changed=False, detail="it has no surface, so no centre")
        off = float(np.linalg.norm(point))
        if off <= SAME_PLACE * box.diagonal:
            return Effect(asset=asset, changed=False, detail="the origin is there already")
        moved = carry_all(asset, translation(-point))
        detail = f"origin moved {format_length(off)} to its {self._place()}"
        return Effect(asset=moved, changed=True, detail=detail, warnings=self._open(asset, asset.parts))

    def _node_pivots(self, asset: Asset, setting: Setting) -> Effect:
        chosen = self.met(asset)
        if not chosen:
            nothing = NO_SUCH_NODE if self.parts is not None else f"it has no {self.target.replace('all', 'nodes')}"
            return Effect(asset=asset, changed=False, detail=nothing)
        worlds = asset.worlds.copy()
        whole = asset_box(asset)
        reach = whole.diagonal if whole is not None else 1.0
        moved, turned, furthest, empty = 0, 0, 0.0, 0
        for i in chosen:
            point = self._point_of(asset, i, setting)
            if point is None:
                empty += 1
            else:
                off = float(np.linalg.norm(point - worlds[i][:3, 3]))
                if off > SAME_PLACE * reach:
                    worlds[i][:3, 3] = point
                    moved, furthest = moved + 1, max(furthest, off)
            if self.axes != "keep":
                turned += self._turn_axes(asset, i, worlds[i], setting)
        if not moved and not turned:
            why = "they have no geometry, so no box" if empty == len(chosen) else "their pivots are there already"
            return Effect(asset=asset, changed=False, detail=why)
        words = [f"{moved} of {counted(len(chosen), 'pivot')} moved, up to {format_length(furthest)}"] if moved else []
        words += [f"axes of {turned} turned"] if turned else []
        warnings = (f"{empty} without geometry stay where they are",) if empty else ()
        opened = self._open(asset, chosen)
        return Effect(
            asset=reframe(asset, worlds), changed=True, detail=", ".join(words), warnings=(*warnings, *opened)
        )

    def _open(self, asset: Asset, nodes: tuple[int, ...]) -> tuple[str, ...]:
        """Say which of the nodes' shapes are open, where the centre of mass was asked for."""
        if self.at != "mass":
            return ()
        parts = [[i] for i in nodes] if self.target != "asset" else [list(nodes)]
        found = [centre_of_mass(corners_of(asset, [j for j in p if asset.nodes[j].mesh is not None])) for p in parts]
        count = sum(f is not None and f[1] == "surface" for f in found)
        return (f"{count} not closed: the centre of its surface is taken",) if count else ()

    def _turn_axes(self, asset: Asset, i: int, world: Array, setting: Setting) -> bool:
        """Turn a node's axes in place in its world frame, its scale along them kept; tell whether they turned."""
        own = own_axes(asset, i)
        if isinstance(self.axes, BringTo):
            turn = bring_turn(self.axes.bring, self.axes.to, own, setting)
        else:
            turn = self._target_axes(asset, i, setting) @ own.T
        if np.abs(turn - np.eye(3)).max() <= SAME_MATRIX:
            return False
        world[:3, :3] = turn @ world[:3, :3]
        return True

    def _target_axes(self, asset: Asset, i: int, setting: Setting) -> Array:
        if isinstance(self.axes, DatumName):
            return setting.datum(self.axes.datum)[:3, :3]
        parent = asset.nodes[i].parent
        if self.axes == "parent" and parent is not None:
            return own_axes(asset, parent)
        return np.eye(3)

    def _point_of(self, asset: Asset, i: int, setting: Setting) -> Array | None:
        """Return where the node's pivot goes, world, metres; None when there is nothing to tell it by."""
        world = asset.worlds[i]
        if self.at == "origin":
            return np.zeros(3)
        if self.at == "parent":
            parent = asset.nodes[i].parent
            return np.zeros(3) if parent is None else asset.worlds[parent][:3, 3].copy()
        if self.at == "children":
            below = asset.children[i]
            return asset.worlds[list(below), :3, 3].mean(axis=0) if below else None
        if isinstance(self.at, XyzPoint) and self.at.in_ == "part":
            local: Array = apply(world, setting.point(self.at.xyz))
            return local
        if isinstance(self.at, Vertices):
            return self._of_vertices(asset, i, self.at.vertices)
        if self.spot is None:
            tree = self._is_tree(asset, i)
            parts = tuple(j for j in (asset.below(i) if tree else (i,)) if asset.nodes[j].mesh is not None)
            return self._world_point(asset, parts, setting)
        frame = np.eye(4)
        if self.box_axes == "own":
            frame[:3, :3] = own_axes(asset, i).T
        box = self._box_of(asset, i, frame)
        if box is None:
            return None
        point: Array = frame[:3, :3].T @ point_on_box(box, self.spot, setting)
        return point

    def _world_point(self, asset: Asset, parts: tuple[int, ...], setting: Setting) -> Array | None:
        """Return the point that `at` names other than by a box or a node's own frame, world, metres."""
        at = self.at
        if isinstance(at, XyzPoint):
            return setting.point(at.xyz)
        if isinstance(at, PartName):
            return named_pivot(asset, at.part)
        if isinstance(at, DatumName):
            return setting.datum(at.datum)[:3, 3].copy()
        if isinstance(at, CirclePoints):
            circle = circle_through(np.array([setting.point(p) for p in at.circle]))
            if circle is None:
                raise Failed("the three points lie on one line: no circle goes through them")
            return circle.centre
        if at == "mean":
            return mean_point(asset, parts)
        mass = centre_of_mass(corners_of(asset, parts))
        return None if mass is None else mass[0]

    def _of_vertices(self, asset: Asset, i: int, wanted: list[int]) -> Array:
        count = len(asset.mesh_of(i).points) if asset.nodes[i].mesh is not None else 0
        if max(wanted) >= count:
            raise Failed(f"part '{asset.nodes[i].name}' has {count} vertices, and no vertex {max(wanted)}")
        matrix = asset.world_from_mesh(i)
        mean = np.asarray(asset.mesh_of(i).points[wanted], dtype=np.float64).mean(axis=0)
        point: Array = apply(matrix, mean)
        return point

    def _is_tree(self, asset: Asset, i: int) -> bool:
        return (self.box or ("own" if asset.nodes[i].kind == "part" else "tree")) == "tree"

    def _box_of(self, asset: Asset, i: int, frame_from_world: Array) -> Box | None:
        return (tree_box if self._is_tree(asset, i) else node_box)(asset, i, frame_from_world)

    def _place(self) -> str:
        if isinstance(self.at, str):
            return {"mass": "centre of mass", "mean": "mean of vertices"}.get(self.at, self.at)
        if isinstance(self.at, Spot):
            return f"{spot_words(self.at.point)} point"
        names = {XyzPoint: "given point", PartName: "named part", DatumName: "datum", CirclePoints: "circle's centre"}
        return names.get(type(self.at), "vertices")

    def title(self) -> str:
        """Return `Pivot: base of asset`, `Pivot: axes +Z to top of parts`."""
        at = self.at
        if isinstance(at, XyzPoint):
            place = ", ".join(said(v) for v in at.xyz)
        elif isinstance(at, Spot):
            place = spot_words(at.point)
        elif isinstance(at, Vertices):
            place = f"{len(at.vertices)} vertices"
        else:
            named = getattr(at, "part", None) or getattr(at, "datum", "circle")
            place = at if isinstance(at, str) else str(named)
        if isinstance(self.axes, BringTo):
            place += f", {direction_words(self.axes.bring)} to {direction_words(self.axes.to)}"
        elif self.axes != "keep":
            place += f", axes {getattr(self.axes, 'datum', self.axes)}"
        return f"Pivot: {place} of {self.target}"
