"""`shape`: some vertices of parts are set to a coordinate, moved, turned or sized."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Annotated, Any, ClassVar, Literal

import numpy as np
from numpy.typing import NDArray
from pydantic import Field, model_validator

from oak_square.core.boxes import EXTENTS
from oak_square.core.errors import Refused
from oak_square.core.euler import rotation_by
from oak_square.core.frames import apply
from oak_square.core.motion import in_place
from oak_square.core.placement import inverse
from oak_square.core.reshaping import places_of, reshaped, with_shapes
from oak_square.core.scene import Asset, Mesh
from oak_square.core.terms import term
from oak_square.core.tolerances import SAME_MATRIX
from oak_square.core.words import counted, joined, numbers_in_a_row, say
from oak_square.steps.along import NODE_AXES, Along, along_axes, along_sides, along_words
from oak_square.steps.centre import OF_SEVERAL, Centre, Xyz, centre_point, centre_words
from oak_square.steps.scaling import Factor, Keep, Positive, factor_words, factors_along, factors_to, scaled_about
from oak_square.steps.setting import Length, Setting, said
from oak_square.steps.step import NO_SUCH_NODE, Effect, Step, registered
from oak_square.steps.take import Extent, Take, take_words, taken

Array = NDArray[np.float64]
Rows = NDArray[np.int64]
_WAYS = say("set, by, turn, factor or width/height/depth")


@registered
class ShapeStep(Step):
    """Moves some vertices of the named parts, or of all; the others stay, and normals follow the faces."""

    stage: ClassVar[str] = "bake"

    do: Literal["shape"] = "shape"
    take: Take = Field(description=say("Which vertices: those at a side, in a slab, of a mark, or by their numbers."))
    set_: Annotated[dict[Extent, Length], Field(min_length=1)] | None = Field(
        None, alias="set", title="set", description=say("The coordinates they get along some of the delivery axes.")
    )
    by: Xyz | None = Field(None, description=say("How far they move along x, y, z."))
    turn: Annotated[list[float], Field(min_length=3, max_length=3)] | None = Field(
        None, description=say("Degrees about x, y, z, X first, then Y, then Z.")
    )
    factor: Factor | None = Field(
        None, description=say("How many times as large: one number, a ratio such as 1:12, or three along x, y, z.")
    )
    width: Positive | None = Field(None, description=say("The width that what is taken shall have."))
    height: Positive | None = Field(None, description=say("The height that what is taken shall have."))
    depth: Positive | None = Field(None, description=say("The depth that what is taken shall have."))
    keep: Keep | None = Field(None, description=say("What follows when one extent is given, as in size."))
    about: Centre | None = Field(
        None, description=say("What stays in place; the middle of what is taken where not given.")
    )
    along: Along | None = Field(
        None,
        description=say("The axes of by, turn, factor and extents: world (the default), parent, own, or a datum's."),
    )

    @model_validator(mode="after")
    def _one_thing_to_do(self) -> ShapeStep:
        given = self._list_extents()
        single = (self.set_, self.by, self.turn, self.factor)
        if sum(way is not None for way in single) + bool(given) != 1:
            raise ValueError(say("shape does one thing: {_ways}", _ways=_WAYS))
        if self.turn is not None and not np.isfinite(self.turn).all():
            raise ValueError(say("an angle is not finite"))
        if self.keep is not None and not given:
            raise ValueError(say("keep goes with width, height or depth"))
        if self.keep in ("proportions", "volume") and len(given) > 1:
            raise ValueError(say("keep: {keep} goes with one extent, not {count}", keep=self.keep, count=len(given)))
        if self.about is not None and (self.set_ is not None or self.by is not None):
            raise ValueError(say("about goes with turn, factor or extents"))
        if self.along is not None and self.set_ is not None:
            raise ValueError(say("along goes with by, turn, factor or extents: set is along the delivery axes"))
        if self.along in NODE_AXES and self.parts is None:
            raise ValueError(say("along: {along} needs parts", along=self.along))
        if self.about in OF_SEVERAL and self.parts is None:
            raise ValueError(say("about: {about} is of several parts: it needs parts", about=self.about))
        return self

    def _list_extents(self) -> dict[str, float | str]:
        return {e: getattr(self, e) for e in EXTENTS if getattr(self, e) is not None}

    @classmethod
    def is_for_nodes(cls, words: Mapping[str, Any]) -> bool:
        """It always can."""
        return True

    @property
    def axes(self) -> Along:
        """The axes that its numbers are along."""
        return self.along or "world"

    @property
    def stays(self) -> str:
        """The centre in words; none where nothing is turned or sized."""
        if self.set_ is not None or self.by is not None:
            return ""
        return say("the middle of what is taken") if self.about is None else centre_words(self.about, of_nodes=True)

    def met(self, asset: Asset) -> tuple[int, ...]:
        """Return the parts it is for: groups have no vertices."""
        return self.chosen(asset, kinds=("part",))

    def apply(self, asset: Asset, setting: Setting) -> Effect:
        """Return the asset with those vertices moved.

        Raises
        ------
        Refused
            If a skin or morph targets hold the geometry, others share it, or it can't be rewritten.
        DataTrouble
            If a mark is not found.
        """
        chosen = self.met(asset)
        if not chosen:
            return Effect(asset=asset, changed=False, detail=NO_SUCH_NODE)
        made, words, count, any_taken = dict[int, Mesh](), "", 0, False
        for i in chosen:
            rows = taken(asset, i, self.take, setting)
            if not len(rows):
                continue
            any_taken = True
            own, words = self._move_rows(asset, i, rows, setting, chosen)
            if own is not None:
                _check_part(asset, i, chosen)
                made[i] = own
                count += int(np.count_nonzero(np.bincount(places_of(asset.mesh_of(i))[rows])))
        if not made:
            nothing = say("they are there already") if any_taken else say("it takes no vertex")
            return Effect(asset=asset, changed=False, detail=nothing)
        words_of = counted(count, "vertex", "vertices")
        name = asset.nodes[next(iter(made))].name
        detail = (
            say("{vertices} of '{name}' {words}", vertices=words_of, name=name, words=words)
            if len(made) == 1
            else say("{vertices} of {count} parts {words}", vertices=words_of, count=len(made), words=words)
        ).rstrip()
        return Effect(asset=with_shapes(asset, made), changed=True, detail=detail)

    def _move_rows(
        self, asset: Asset, node: int, rows: Rows, setting: Setting, chosen: tuple[int, ...]
    ) -> tuple[Mesh | None, str]:
        """Return a part's mesh with the taken rows moved, None where they are there already, and in words how."""
        mesh, matrix = asset.mesh_of(node), asset.world_from_mesh(node)
        world = apply(matrix, np.asarray(mesh.points[rows], dtype=np.float64))
        there, words = self._find_goal(asset, node, world, setting, chosen)
        reach = max(float(np.abs(world).max()), float(np.abs(there).max()))
        off = np.abs(there - world).max(axis=1) > SAME_MATRIX * reach
        if not off.any():
            return None, words
        back = inverse(matrix, what=say("node '{name}'", name=asset.nodes[node].name))
        return reshaped(mesh, rows[off], apply(back, there[off])), words

    def _find_goal(
        self, asset: Asset, node: int, world: Array, setting: Setting, chosen: tuple[int, ...]
    ) -> tuple[Array, str]:
        """Return where the taken points, shape (K, 3), world, go, and in words what happens to them."""
        if self.set_ is not None:
            return self._set_coordinates(world, self.set_, setting)
        if self.by is not None:
            axes = along_axes(asset, node, self.axes, setting)
            return world + axes @ np.array([setting.metres(v) for v in self.by]), say("moved")
        centre = self._find_centre(asset, node, world, setting, chosen)
        if self.turn is not None:
            axes = along_axes(asset, node, self.axes, setting)
            motion = in_place(axes @ rotation_by(self.turn, "zyx") @ axes.T, centre)
            return apply(motion, world), say("turned")
        if self.factor is not None:
            frame, scale = factors_along(self.factor, asset, node, self.axes, setting)
        else:
            frame = np.eye(3) if self.axes == "world" else along_sides(asset, node, self.axes, setting)
            size = np.ptp(world @ frame, axis=0)
            # What is left of a plane after products is no extent.
            size = np.where(size <= SAME_MATRIX * np.abs(world).max(), 0.0, size)
            lengths = {e: setting.metres(v) for e, v in self._list_extents().items()}
            scale = factors_to(lengths, size, self.keep)
        return apply(scaled_about(centre, frame, scale), world), factor_words(scale)

    def _set_coordinates(
        self, world: Array, wanted: Mapping[Extent, float | str], setting: Setting
    ) -> tuple[Array, str]:
        """Return the points with some coordinates set; they are told along the delivery axes, as those run."""
        named = setting.working_from_delivery
        there = world @ named  # delivery coordinates
        for extent, value in wanted.items():
            axis = int(np.argmax(np.abs(named[EXTENTS.index(extent)])))
            there[:, axis] = setting.metres(value)
        return there @ named.T, say("set to {values}", values=_format_each(wanted))

    def _find_centre(self, asset: Asset, node: int, world: Array, setting: Setting, chosen: tuple[int, ...]) -> Array:
        if self.about is None:
            middle: Array = (world.min(axis=0) + world.max(axis=0)) / 2
            return middle
        return centre_point(asset, node, self.about, setting, chosen)

    def title(self) -> str:
        """Return `Top: width 20 cm`, `Height up to 5 cm: to height 0`, `Mark 'rim': × 1.2`."""
        if self.set_ is not None:
            act = say("to {values}", values=_format_each(self.set_))
        elif self.by is not None:
            act = say("move {distances}", distances=numbers_in_a_row(said(v) for v in self.by))
        elif self.turn is not None:
            turns = [
                say("{angle:g}° about {axis}", angle=angle, axis=axis)
                for axis, angle in zip("xyz", self.turn, strict=True)
                if angle
            ]
            act = say("turn {angles}", angles=joined(say(", then "), turns) if turns else "0°")
        elif self.factor is not None:
            values = self.factor if isinstance(self.factor, list) else [self.factor]
            act = say("× {factors}", factors=numbers_in_a_row(say("{v:g}", v=v) for v in values))
        else:
            act = _format_each(self._list_extents())
        return (
            say(
                "{what}: {act} {along}",
                what=take_words(self.take),
                act=act,
                along=along_words(self.along),
            )
            .rstrip()
            .replace("-", "−")
        )


def _format_each(values: Mapping[Any, float | str]) -> str:
    return joined(", ", (say("{extent} {length}", extent=term(e), length=said(v)) for e, v in values.items()))


def _check_part(asset: Asset, node: int, chosen: tuple[int, ...]) -> None:
    """Make sure that a part's vertices can be moved.

    Raises
    ------
    Refused
        If not, and why.
    """
    mesh, name = asset.mesh_of(node), asset.nodes[node].name
    if mesh.sealed:
        raise Refused(
            say("the geometry of '{name}' is {sealed}, and this would rewrite it", name=name, sealed=mesh.sealed)
        )
    if asset.nodes[node].skin is not None or mesh.hold is not None:
        raise Refused(
            say("joints hold the geometry of '{name}', and its vertices can't be moved by themselves", name=name)
        )
    if mesh.morphs:
        raise Refused(say("'{name}' has morph targets, which would no longer fit its vertices", name=name))
    if mesh.spread is not None:
        raise Refused(say("'{name}' is drawn as many instances of one mesh, which would all change", name=name))
    others = [n.name for i, n in enumerate(asset.nodes) if n.mesh == asset.nodes[node].mesh and i not in chosen]
    if others:
        more = say(" and {count} more", count=len(others) - 1) if len(others) > 1 else ""
        raise Refused(
            say(
                "'{name}' shares its geometry with '{other}'{more}: name them too, or none of them",
                name=name,
                other=others[0],
                more=more,
            )
        )
