"""`size`: to a factor, to a length along one or more extents, to a longest side or a diagonal."""

from __future__ import annotations

from typing import Annotated, ClassVar, Literal

import numpy as np
from numpy.typing import NDArray
from pydantic import Field, model_validator

from oak_square.core.boxes import EXTENTS, Box, asset_box, node_box, tree_box
from oak_square.core.errors import Refused
from oak_square.core.motion import resize, resize_all
from oak_square.core.node_names import node_named
from oak_square.core.scene import Asset
from oak_square.core.terms import term
from oak_square.core.tolerances import SAME_FACTOR
from oak_square.core.words import capital, joined, numbers_in_a_row, say
from oak_square.steps.along import NODE_AXES, Along, along_sides, along_words
from oak_square.steps.centre import (
    OF_SEVERAL,
    AssetName,
    Centre,
    PartName,
    Place,
    centre_point,
    centre_words,
    other_asset_of,
    place_point,
)
from oak_square.steps.scaling import (
    Factor,
    Positive,
    factor_words,
    factors_along,
    factors_to,
    ratio,
    scaled_about,
)
from oak_square.steps.setting import Setting, WholeMotion, said
from oak_square.steps.step import NO_SUCH_NODE, Effect, registered
from oak_square.steps.whole import WholeStep

Array = NDArray[np.float64]


class PartOf(PartName):
    """A part of another asset: its own extents."""

    of: AssetName


@registered
class SizeStep(WholeStep):
    """Scales so that what is measured is as long as asked for. The size goes into geometry, not into channels."""

    stage: ClassVar[str] = "size"

    do: Literal["size"] = "size"
    factor: Factor | None = Field(
        None, description=say("How many times as large: one number, a ratio such as 1:12, or three along x, y, z.")
    )
    width: Positive | None = Field(None, description=say("The width it shall have, left to right."))
    height: Positive | None = Field(None, description=say("The height it shall have, bottom to top."))
    depth: Positive | None = Field(None, description=say("The depth it shall have, back to front."))
    keep: Literal["proportions", "none", "volume"] | None = Field(
        None, description=say("What follows when one extent is given: all, nothing, or the others giving way.")
    )
    longest: Positive | None = Field(None, description=say("The length of its longest extent."))
    diagonal: Positive | None = Field(None, description=say("The length of its box's diagonal."))
    between: Annotated[list[Place], Field(min_length=2, max_length=2)] | None = Field(
        None, description=say("Two points, x, y, z each or a mark, whose distance shall become the length.")
    )
    length: Positive | None = Field(None, description=say("How far apart the two points shall be."))
    match: AssetName | PartOf | None = Field(
        None, description=say("The asset, by path or name, whose extent it shall have; or a part of an asset.")
    )
    along: Literal["width", "height", "depth"] | Along | None = Field(
        None,
        description=say(
            "Beside match, the extent that is matched; beside a factor or extents, their axes: world (the "
            "default), parent, own, or a datum's."
        ),
    )
    about: Centre | None = Field(
        None, description=say("What stays in place: base (of assets), pivot (of named parts)…")
    )

    @model_validator(mode="after")
    def _one_way_to_size(self) -> SizeStep:
        given = [e for e in EXTENTS if getattr(self, e) is not None]
        single = ("factor", "longest", "diagonal", "between", "match")
        if sum(getattr(self, way) is not None for way in single) + bool(given) != 1:
            raise ValueError(say("size needs one of factor, width/height/depth, longest, diagonal, between, match"))
        if (self.between is None) != (self.length is None):
            raise ValueError(say("between and length go together"))
        self._says_along_what(bool(given))
        if self.keep is not None and not given:
            raise ValueError(say("keep goes with width, height or depth"))
        if self.keep in ("proportions", "volume") and len(given) > 1:
            raise ValueError(say("keep: {keep} goes with one extent, not {count}", keep=self.keep, count=len(given)))
        return self

    def _says_along_what(self, has_extents: bool) -> None:
        if self.match is not None or self.along in EXTENTS:
            if self.match is None or self.along not in EXTENTS:
                raise ValueError(say("match and along go together, and along is width, height or depth then"))
        elif self.along is not None and self.factor is None and not has_extents:
            raise ValueError(say("along goes with a factor, with extents, or with match"))
        elif self.along in NODE_AXES and self.parts is None:
            raise ValueError(say("along: {along} needs parts", along=self.along))
        if self.about in OF_SEVERAL and self.parts is None and not self.together:
            raise ValueError(say("about: {about} is of several parts: it needs parts", about=self.about))
        self.check_together(each="")

    @property
    def axes(self) -> Along:
        """The axes that a factor or extents are along."""
        along = self.along
        # Each by itself: so narrows the type.
        if along is None or along == "width" or along == "height" or along == "depth":
            return "world"
        return along

    @property
    def centre(self) -> Centre:
        """What stays in place: of an asset its base, of named parts their pivots, where it is not said."""
        return self.about or ("base" if self.parts is None else "pivot")

    @property
    def stays(self) -> str:
        """The centre in words."""
        return centre_words(self.centre, of_nodes=self.parts is not None)

    @property
    def refers_to(self) -> tuple[str, ...]:
        """The asset it is matched to, and that its centre is on."""
        matched = () if self.match is None else (self.match if isinstance(self.match, str) else self.match.of,)
        return (*matched, *other_asset_of(self.about))

    def apply(self, asset: Asset, setting: Setting) -> Effect:
        """Return the asset, or its named parts, at that size."""
        return self.apply_whole(asset, setting) if self.parts is None else self._size_parts(asset, setting)

    def find_motion(self, asset: Asset, setting: Setting, origins: Array | None = None) -> WholeMotion:
        """Return how the asset as a whole is sized; as `WholeStep.find_motion`."""
        if asset_box(asset) is None:
            return WholeMotion(motion=None, detail=say("it has no geometry to size"))
        frame, scale = self._find_directions(asset, None, setting)
        if np.abs(scale - 1).max() <= SAME_FACTOR:
            has = say("it has that size already") if origins is None else say("they have that size already")
            return WholeMotion(motion=None, detail=has)
        motion = scaled_about(centre_point(asset, None, self.centre, setting, origins=origins), frame, scale)
        return WholeMotion(motion=motion, detail=factor_words(scale))

    def carry_whole(self, asset: Asset, motion: Array) -> Asset:
        """Return an asset sized; the size goes into geometry."""
        return resize_all(asset, motion)

    def _size_parts(self, asset: Asset, setting: Setting) -> Effect:
        chosen = self.chosen(asset)
        if not chosen:
            return Effect(asset=asset, changed=False, detail=NO_SUCH_NODE)
        motions, scales = {}, []
        for i in chosen:
            if tree_box(asset, i) is None:
                continue
            frame, scale = self._find_directions(asset, i, setting)
            if np.abs(scale - 1).max() > SAME_FACTOR:
                motions[i] = scaled_about(centre_point(asset, i, self.centre, setting, chosen), frame, scale)
                scales.append(scale)
        if not motions:
            return Effect(asset=asset, changed=False, detail=say("they have that size already"))
        words = factor_words(scales[0]) if len(scales) == 1 else say("{count} parts sized", count=len(scales))
        return Effect(asset=resize(asset, motions), changed=True, detail=words)

    def _find_directions(self, asset: Asset, node: int | None, setting: Setting) -> tuple[Array, Array]:
        """Return the directions sized along, as columns, shape (3, 3), working frame, and the factor along each."""
        if self.factor is not None:
            return factors_along(self.factor, asset, node, self.axes, setting)
        if self.between is not None and self.length is not None:
            a, b = (place_point(asset, node, p, setting) for p in self.between)
            by = ratio(setting.metres(self.length), float(np.linalg.norm(b - a)), say("measured distance"))
            return np.eye(3), np.full(3, by)
        sides = np.eye(3) if self.axes == "world" else along_sides(asset, node, self.axes, setting)
        box = _box_along(asset, node, None if self.axes == "world" else sides)
        return sides, self._of_box(box, setting)

    def _of_box(self, box: Box, setting: Setting) -> Array:
        """Return the factors along a box's width, height and depth."""
        if self.longest is not None:
            return np.full(3, ratio(setting.metres(self.longest), float(box.size.max()), say("longest extent")))
        if self.diagonal is not None:
            return np.full(3, ratio(setting.metres(self.diagonal), box.diagonal, "diagonal"))
        if self.match is not None:
            return self._find_matching(box, self.match, EXTENTS.index(str(self.along)), setting)
        lengths = {e: setting.metres(getattr(self, e)) for e in EXTENTS if getattr(self, e) is not None}
        return factors_to(lengths, box.size, self.keep)

    def _find_matching(self, box: Box, match: str | PartOf, axis: int, setting: Setting) -> Array:
        if isinstance(match, str):
            name, other = match, asset_box(setting.other(match))
        else:
            bearer = setting.other(match.of)
            node = node_named(bearer, match.part)
            name = match.part
            other = node_box(bearer, node) if bearer.nodes[node].kind == "part" else tree_box(bearer, node)
        if other is None or other.size[axis] <= 0:
            raise Refused(say("'{name}' has no {extent} to match", name=name, extent=term(EXTENTS[axis])))
        return np.full(3, ratio(float(other.size[axis]), float(box.size[axis]), EXTENTS[axis]))

    def title(self) -> str:
        """Return `Height 5.2 m`, `Size × 2`, `As high as gate_leaf`."""
        words = self._say_title()
        return say("{words}, together", words=words) if self.together else words

    def _say_title(self) -> str:
        if self.match is not None:
            match = self.match if isinstance(self.match, str) else self.match.part
            return {
                "width": say("As wide as {match}", match=match),
                "height": say("As high as {match}", match=match),
                "depth": say("As deep as {match}", match=match),
            }[str(self.along)]
        if self.between is not None:
            return say("Measured length {length}", length=said(self.length))
        if self.factor is not None:
            values = self.factor if isinstance(self.factor, list) else [self.factor]
            return say(
                "Size × {factors} {along}",
                factors=numbers_in_a_row(say("{v:g}", v=v) for v in values),
                along=along_words(self.axes),
            ).rstrip()
        words = [
            say("{extent} {length}", extent=term(e), length=said(getattr(self, e)))
            for e in EXTENTS
            if getattr(self, e) is not None
        ]
        if words:
            return capital(say("{extents} {along}", extents=joined(", ", words), along=along_words(self.axes)).rstrip())
        return (
            say("Longest {length}", length=said(self.longest))
            if self.longest is not None
            else say("Diagonal {length}", length=said(self.diagonal))
        )


def _box_along(asset: Asset, node: int | None, sides: Array | None) -> Box:
    """Return the box of an asset, or of a node with all below, along world axes or the columns of `sides`."""
    if sides is None:
        box = asset_box(asset) if node is None else tree_box(asset, node)
    else:
        frame = np.eye(4)
        frame[:3, :3] = sides.T
        box = asset_box(asset, frame) if node is None else tree_box(asset, node, frame)
    assert box is not None
    return box
