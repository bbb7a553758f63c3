"""What instruments take hold of: the thing, the centre and the axes in force, and how a step says them."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from typing import Any

import numpy as np
from numpy.typing import NDArray
from pydantic import TypeAdapter

from oak_square.app.facts.scopes import beside_lead, is_for_several
from oak_square.app.facts.taken import as_usual, is_shaping, taken_points
from oak_square.app.session.aim import is_aimed_so
from oak_square.app.session.grip import Grip, about_words, axes_words
from oak_square.app.session.state import State
from oak_square.core.boxes import Box, asset_box, tree_box
from oak_square.core.errors import DataTrouble
from oak_square.core.node_names import name_of
from oak_square.core.scene import Asset
from oak_square.core.together import JointGroup, group_of
from oak_square.core.words import say
from oak_square.steps.along import told_axes
from oak_square.steps.centre import Centre, centre_point, centre_words
from oak_square.steps.naming import called
from oak_square.steps.setting import Setting
from oak_square.steps.step import Step

__all__ = ["AboutChoice", "HeldNodes", "about_choices", "along_choices", "hold_of"]

Array = NDArray[np.float64]
_CENTRE: TypeAdapter[Any] = TypeAdapter(Centre)


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class HeldNodes:
    """What is taken hold of.

    Attributes
    ----------
    asset : Asset
        The lead one, as it is shown.
    nodes : tuple of int
        Its nodes that are held, the lead one last; none where it is held as a whole.
    centre : ndarray, shape (3,), world, metres
        What a turn happens about; of `size_centre`, a size.
    axes : ndarray, shape (3, 3)
        x, y and z as unit columns, working frame.
    sides : ndarray, shape (3, 3)
        The directions of width, height and depth, as columns.
    frame : ndarray, shape (3, 3)
        The columns that the step's own numbers are along: `axes`, but the delivery's where those are the view's.
    along, about, size_about : str
        In words, for the foot.
    axis_words, centre_words : mapping
        How a step says them; nothing where it means them by itself.
    pivots : bool
        Pivots alone.
    started : mapping
        The words of the draft, which a further gesture goes on from; empty where there is none for what is held.
    trouble : str
        Why it can't be held so; empty where it can.
    bare : float, metres
        What a number without a unit means on the sheet.
    moved : frozenset of int
        All nodes of the asset that go along.
    datum : str
        The datum that is held by itself, with no node; empty where none is.
    points : ndarray, shape (N, 3), or None
        The vertices that are held, world, metres, in place of the things that have them.
    several : bool
        Whether more than one thing is held, in this asset or in others.
    files : frozenset of str
        The assets that are held as one thing; `asset` then has the nodes of them all. None where it is one asset.
    axes_instead : str
        Why it goes along the world's axes in place of those chosen; empty where it does not.
    beside : str
        How many assets and parts go together, where other assets have nodes of the names that are picked.
    """

    asset: Asset
    nodes: tuple[int, ...]
    centre: Array
    size_centre: Array
    axes: Array
    sides: Array
    frame: Array
    along: str
    about: str
    size_about: str
    axis_words: Mapping[str, Any] = field(default_factory=dict)
    centre_words: Mapping[str, Any] = field(default_factory=dict)
    pivots: bool = False
    started: Mapping[str, Any] = field(default_factory=dict)
    trouble: str = ""
    bare: float = 1.0
    moved: frozenset[int] = frozenset()
    datum: str = ""
    points: Array | None = None
    beside: str = ""
    several: bool = False
    files: frozenset[str] = frozenset()
    axes_instead: str = ""

    @property
    def box(self) -> Box | None:
        """The box of the lead thing along `sides`, in their frame; worked out when it is asked for."""
        if self.points is not None:
            along = self.points @ self.sides
            return Box(along.min(axis=0), along.max(axis=0)) if len(along) else None
        frame = None
        if not np.array_equal(self.sides, np.eye(3)):
            frame = np.eye(4)
            frame[:3, :3] = self.sides.T
        return asset_box(self.asset, frame) if self.lead is None else tree_box(self.asset, self.lead, frame)

    def moves(self, file: str, node: int | None) -> bool:
        """Tell whether a node of an asset goes along."""
        return file in self.files if self.files else file == self.asset.file and node in self.moved

    @property
    def lead(self) -> int | None:
        """The node picked last; None where the asset is held as a whole."""
        return self.nodes[-1] if self.nodes else None


def hold_of(
    session: State,
    asset: Asset,
    before: Asset,
    nodes: tuple[int, ...],
    view_axes: Array,
    together: Sequence[Asset] = (),
) -> HeldNodes:
    """Return what is held of the lead asset as it is shown, or of those that are held together with it.

    Parameters
    ----------
    before : Asset
        As it stands before the draft, which is where a step looks for marks.
    together : sequence of Asset
        All that are held as one thing, the lead one among them, as they are shown; none where it is one asset.
    view_axes : ndarray, shape (3, 3)
        Right, up and toward the eye, as rows.
    """
    grip, setting = session.document.grip, session.setting
    if grip.hold_datum in setting.datums:
        return _datum_held(grip, setting, asset, before, view_axes)
    lead = nodes[-1] if nodes else None
    group = None
    if together and not nodes and not grip.pivots:
        group = group_of(sorted(together, key=lambda a: a.file))
        asset = replace(group.asset, file=asset.file)
    key, told, instead = grip.along, axes_words(grip), ""
    if group is not None and key in ("own", "parent"):
        key, told, instead = "world", {}, say("each has axes of its own")
    along: Any = told.get("along", "world")
    try:
        axes, sides = told_axes(before if isinstance(along, dict) else asset, lead, along, setting)
    except DataTrouble as error:  # they are another asset's, or a flat part has none
        key, told = "world", {}
        instead = say("datum '{name}' is not on it", name=grip.datum) if grip.datum else str(error)
        axes, sides = told_axes(asset, lead, "world", setting)
    steps_axes = axes
    if grip.along == "view":
        axes = sides = view_axes.T.copy()
    words = about_words(
        grip,
        lead=name_of(asset, lead) if lead is not None else "",
        several=bool(nodes) or group is not None,
        elsewhere=_name_others(session, asset.file),
    )
    if group is not None:
        # Of several as one, a turn would be about the world's origin, which is seldom meant.
        words = words or {"about": "base"}
    places, words, astray = _find_centres((asset, before), nodes, words, setting, group)
    turn_about, size_about = words.get("about", "pivot"), words.get("about", "pivot" if nodes else "base")
    draft = session.document.draft
    held = HeldNodes(
        asset=asset,
        nodes=nodes,
        centre=places[0],
        size_centre=places[1],
        axes=axes,
        sides=sides,
        frame=steps_axes,
        along=key,
        axes_instead=instead,
        about=_about_said(turn_about, nodes, astray, group),
        size_about=_about_said(size_about, nodes, astray, group),
        axis_words=told,
        centre_words=words,
        pivots=grip.pivots,
        started=draft.words() if draft is not None and _is_for_this(session, draft) else {},
        bare=setting.unit,
        beside=beside_lead(session) if group is None else say("{count} assets as one", count=len(together)),
        several=group is None and (len(nodes) > 1 or is_for_several(session)),
        files=frozenset() if group is None else frozenset(a.file for a in together),
        moved=frozenset(b for n in nodes for b in asset.below(n)) if nodes else frozenset(range(len(asset.nodes))),
    )
    return _vertices_held(session, held, before) if is_shaping(session) else held


def _vertices_held(session: State, held: HeldNodes, before: Asset) -> HeldNodes:
    """Return a hold of the vertices that are taken, about their middle where no centre is chosen."""
    points = taken_points(session, before, held.asset, held.nodes)
    if not len(points):
        return replace(
            held, points=points, trouble=held.trouble or say("It takes no vertex: choose others"), moved=frozenset()
        )
    words, centre, draft = held.centre_words, held.centre, session.document.draft
    about = held.about
    if "about" not in words:
        turns = draft is not None and draft.do == "shape" and not {"by", "set"} & set(draft.words())
        # A turn goes on about the middle of what it began with.
        own = taken_points(session, before, before, held.nodes) if turns else points
        centre, about = (own.min(axis=0) + own.max(axis=0)) / 2, say("the middle of what is taken")
    return replace(
        held, points=points, centre=centre, size_centre=centre, about=about, size_about=about, moved=frozenset(),
        started=as_usual(held.started), pivots=False,
    )  # fmt: skip


def _datum_held(grip: Grip, setting: Setting, asset: Asset, before: Asset, view_axes: Array) -> HeldNodes:
    """Return a datum by itself, along the world's axes, its own, another datum's or the view's."""
    name, trouble = grip.hold_datum, ""
    try:
        frame = setting.datum(name, before)
        axes = setting.working_from_delivery
        if grip.along in ("own", "parent") or grip.datum == name:
            axes = frame[:3, :3]
        elif grip.datum:
            axes = setting.datum(grip.datum, before)[:3, :3]
    except DataTrouble as error:
        trouble, frame, axes = str(error), np.eye(4), setting.working_from_delivery
    axes = view_axes.T.copy() if grip.along == "view" else axes
    said = "own" if grip.along == "parent" or grip.datum == name else grip.along
    return HeldNodes(
        asset=asset, nodes=(), centre=frame[:3, 3], size_centre=frame[:3, 3], axes=axes, sides=axes, frame=axes,
        along=said, about=say("itself"), size_about=say("itself"), trouble=trouble, bare=setting.unit, datum=name,
    )  # fmt: skip


def _is_for_this(session: State, draft: Step) -> bool:
    """Tell whether a draft is for just what is held."""
    return is_aimed_so(draft, session.document.aim, session.scope)


def _name_others(session: State, lead: str) -> dict[str, str]:
    """Return how a step calls each asset of the batch but those that it is for."""
    own = {lead, *(session.selection if session.is_together else ())}
    return {file: name for file, name in called(list(session.rows)).items() if file not in own}


def _find_centre(
    asset: Asset, nodes: tuple[int, ...], about: Any, setting: Setting, group: JointGroup | None = None
) -> Array:
    node = nodes[-1] if nodes else None
    origins = None if group is None else group.origins
    return centre_point(asset, node, _CENTRE.validate_python(about), setting, nodes, origins=origins)


def _find_centres(
    states: tuple[Asset, Asset],
    nodes: tuple[int, ...],
    words: dict[str, Any],
    setting: Setting,
    group: JointGroup | None = None,
) -> tuple[tuple[Array, Array], dict[str, Any], str]:
    """Return what turns and what sizes happen about, the words that say so, and the centre that is not on the asset.

    Where the centre that was chosen is another asset's, each goes about its own as if none had been.
    """
    asset, before = states
    about = words.get("about")
    fixed = group is None and isinstance(about, dict) and not {"mark", "datum"}.isdisjoint(about)
    usual = ("pivot", "pivot" if nodes else "base")
    if about is not None:
        try:
            place = _find_centre(before if fixed else asset, nodes, about, setting, group)
        except DataTrouble:
            astray = centre_words(_CENTRE.validate_python(about), of_nodes=bool(nodes))
            return _find_centres(states, nodes, {}, setting, group)[0], {}, astray
        return (place, place), words, ""
    turns, sizes = (_find_centre(asset, nodes, c, setting, group) for c in usual)
    return (turns, sizes), words, ""


def _about_said(about: Any, nodes: tuple[int, ...], astray: str, group: JointGroup | None = None) -> str:
    if group is not None and about in ("base", "middle", "pivot"):
        return {
            "base": say("the base middle of their common box"),
            "middle": say("the middle of their common box"),
            "pivot": say("the first one's origin"),
        }[about]
    alone = about == "pivot" and len(nodes) == 1
    said = say("its pivot") if alone else centre_words(_CENTRE.validate_python(about), of_nodes=bool(nodes))
    return say("{centre} ({astray} is not on it)", centre=said, astray=astray) if astray else said


@dataclass(frozen=True, slots=True)
class AboutChoice:
    """A centre or axes to choose: its key, and its words."""

    key: str
    words: str


def along_choices(session: State) -> list[AboutChoice]:
    """Return the axes there are to go along."""
    own = say("own axes") if session.nodes else say("own axes (of its root)")
    told = [
        ("world", say("world axes")),
        ("own", own),
        ("parent", say("the parent's axes")),
        ("view", say("view axes")),
    ]
    told += [(f"datum {name}", say("datum {name}", name=name)) for name in session.document.sheet.datums]
    return [AboutChoice(*t) for t in told if t[0] != "parent" or session.nodes]


def about_choices(session: State) -> list[AboutChoice]:
    """Return the centres there are to go about."""
    one = session.is_together and not session.nodes
    own = say("each one's own pivot") if len(session.nodes) > 1 else say("its pivot")
    told = [("each", say("the base middle of their common box") if one else own)]
    if session.nodes or session.is_together:
        told += [("mean", say("the mean of their pivots")), ("common", say("the middle of their common box"))]
    if session.nodes:
        told += [("lead", say("the lead part's pivot"))]
    told += [("origin", say("the origin")), ("base", say("base middle")), ("middle", say("box middle"))]
    sheet = session.document.sheet
    told += [(f"datum {name}", say("datum {name}", name=name)) for name in sheet.datums]
    told += [(f"mark {name}", say("mark {name}", name=name)) for name in sheet.marks]
    return [AboutChoice(*t) for t in told]
