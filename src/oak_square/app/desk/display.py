"""What the views and the hierarchy make of the session; plain values go out, nothing comes back."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from oak_square.app.desk.hand import InstrumentDesk
from oak_square.app.desk.playing import Playing
from oak_square.app.facts.bake_rows import consequence_notes
from oak_square.app.facts.bench import bench_view, moved_view
from oak_square.app.facts.hold import HeldNodes, hold_of
from oak_square.app.facts.lineup import LineUpFacts
from oak_square.app.facts.measurements import measure_marks
from oak_square.app.facts.named_things import berths_shown, named_things
from oak_square.app.facts.set_out import set_out_shown
from oak_square.app.facts.stand import stand_shown
from oak_square.app.facts.taken import is_shaping, taken_points
from oak_square.app.instruments import Scene
from oak_square.app.instruments.aims import KINDS
from oak_square.app.session.outcomes import Outcome
from oak_square.app.session.session import Session
from oak_square.app.view import Facts, Picture
from oak_square.app.view.view_area import ViewArea
from oak_square.app.widgets.actions import key_hint
from oak_square.app.widgets.hierarchy import Hierarchy
from oak_square.core.scene import Asset
from oak_square.core.words import say
from oak_square.steps.naming import called

__all__ = ["Display", "HandSettings"]

Array = NDArray[np.float64]


@dataclass(frozen=True, slots=True, kw_only=True)
class HandSettings:
    """How a hand works: what it picks and snaps to, and at which steps it turns and moves.

    Attributes
    ----------
    kinds : frozenset of str
    angle_step_deg : float
        0 for none.
    to_grid : bool
    grid_m : float, metres
        The distance between the lines that are snapped to.
    """

    kinds: frozenset[str] = frozenset(KINDS)
    angle_step_deg: float = 15.0
    to_grid: bool = False
    grid_m: float = 0.1


_NONE_SELECTED = say("Select an asset in the list at the left to see it here")


class Display:
    """Shows what is selected in whichever view is in front."""

    def __init__(self, session: Session, views: ViewArea, hierarchy: Hierarchy, hand: InstrumentDesk) -> None:
        self._session, self._views, self._hierarchy, self._hand = session, views, hierarchy, hand
        self.facts = Facts()
        self._row_facts = LineUpFacts()
        views.lineup.row_wished.connect(self.show_row)
        self.playing = Playing(session, views)
        self.picking: Callable[[str], None] | None = None  # the next asset that is clicked goes there
        self._moved_from: tuple[Picture, HeldNodes | None] = Picture(), None
        self.preview: dict[str, Asset] = {}
        """What a drag makes of assets, until the batch has been worked out with it."""
        self.dragging = False
        self.guest = ""
        """The asset that stands beside what is selected, for a place on it to be picked; empty where none does."""
        self.settings = HandSettings()
        self.wants: Callable[[], str] = lambda: ""

    @property
    def band(self) -> str:
        """What the band over the view says; empty when no mode is on."""
        if self.picking is not None:
            return say("Match: click the asset to match, in the list or the view  ·  Esc leaves it")
        return self._hand.held.band

    def show(self) -> None:
        """Match views and hierarchy to the session."""
        session, views = self._session, self._views
        if views.view == "line-up" or not session.rows:
            self.show_row()
        if views.view == "set-out" and views.set_out is not None:
            views.set_out.show_set_out(set_out_shown(session, called(list(session.rows))), session.unit)
        if views.view == "stand" and views.stand is not None:
            views.stand.show_stand(stand_shown(session), session.lead, session.unit)
        lead = session.rows.get(session.lead or "")
        outcomes = [session.outcomes[f] for f in session.selection if f in session.outcomes]
        if lead is not None and lead.error is not None:
            self._show_notice(f"{lead.file}\n\n{lead.error}", lead.file)
        elif not outcomes:
            empty = say("Drop a folder of models here, or open one{key}", key=key_hint("open-folder"))
            self._show_notice(empty if not session.rows else "" if session.selection else _NONE_SELECTED, None)
        else:
            self._show_outcomes(outcomes)
        self.show_band()

    def show_band(self) -> None:
        """Say which mode is on: what is held knows by now what it would take hold of."""
        self._views.show_band(self.band, self._hand.held.name)

    def show_preview(self, assets: dict[str, Asset]) -> None:
        """Show assets as a drag leaves them, at once."""
        self.preview = assets
        outcomes = [o for f in self._session.selection if (o := self._session.outcomes.get(f)) is not None]
        if outcomes and self._views.view == "bench":
            self._show_outcomes(outcomes, lightly=True)

    def begin_motion(self) -> None:
        """Take note of what is moved from here on."""
        self._moved_from = self._views.bench.picture, self._hand.held.scene.hold

    def show_motion(self, motion: Array) -> None:
        """Show what is held moved by one world motion, shape (4, 4), since the gesture began: nothing is worked out."""
        picture, hold = self._moved_from
        if hold is None:
            return
        shapes = tuple(
            replace(s, world_from_mesh=motion @ s.world_from_mesh) if hold.moves(s.file, s.node) else s
            for s in picture.shapes
        )
        self.facts = replace(self.facts, box=None, pivots=(), sizes=("", "", ""))
        centre = motion[:3, :3] @ hold.centre + motion[:3, 3]
        held = self._hand.held
        held.show(replace(held.scene, facts=self.facts, hold=replace(hold, centre=centre)))
        bench = self._views.bench
        bench.show_picture(replace(picture, shapes=shapes), self.facts, bench.picture, held=True)

    def show_datum(self, name: str, frame: Array) -> None:
        """Show a datum where a drag has brought it, world from datum, shape (4, 4)."""
        datums = tuple(
            replace(d, at=frame[:3, 3], axes=frame[:3, :3].T) if d.name == name else d for d in self.facts.datums
        )
        self.facts = replace(self.facts, datums=datums)
        held, bench = self._hand.held, self._views.bench
        hold = held.scene.hold
        hold = None if hold is None else replace(hold, centre=frame[:3, 3])
        held.show(replace(held.scene, facts=self.facts, hold=hold))
        bench.show_picture(bench.picture, self.facts, bench.picture, held=True)

    def end_preview(self) -> None:
        """Show what is worked out again."""
        self.preview, self.dragging = {}, False

    def show_row(self) -> None:
        """Match the line-up to the session."""
        page = self._views.lineup
        order, side = page.order.choice or "height", page.side.choice or "front"
        page.show_row(self._row_facts.row(self._session, order=order, side=side))

    def _show_outcomes(self, outcomes: list[Outcome], *, lightly: bool = False) -> None:
        session, views = self._session, self._views
        guest = session.outcomes.get(self.guest) if self.guest not in session.selection else None
        outcomes = outcomes if guest is None else [guest, *outcomes]
        if not self.dragging and not any(session.owes(f) for f in self.preview):
            self.preview = {}
        assets = [self.preview.get(o.file, o.after.asset) for o in outcomes]
        nodes = tuple(n for n in session.nodes if n < len(assets[-1].nodes))
        previewed = session.document.draft is not None
        # While it is tried, or picked from right after.
        pieces = session.stage == "bake" and (session.own_draft is None or session.own_draft.do == "split")
        own = assets if guest is None else assets[1:]
        together = session.is_together and len(own) > 1
        shapes = views.bench.picture.shapes
        if lightly and len(assets) == 1 and len(shapes) == len(assets[0].parts) and shapes[0].file == assets[0].file:
            picture, self.facts = moved_view(views.bench.picture, self.facts, assets[0], nodes, session.unit)
            if self._hand.held.name != "callipers":
                # Sizes stay while it is moved and turned: their plates would only be in the way.
                self.facts = replace(self.facts, sizes=("", "", ""))
            if is_shaping(session):
                taken = taken_points(session, outcomes[0].before.asset, assets[0], nodes)
                self.facts = replace(self.facts, taken=taken)
            self._tell_hand(assets[0], nodes)
            views.bench.show_picture(picture, self.facts, (session.selection, together, guest is not None), held=True)
            return
        picture, facts = bench_view(
            assets, nodes, unit=session.unit, previewed=previewed, together=together, pieces=pieces
        )
        datums, marks = named_things(session, assets[-1], outcomes[-1].before.asset, session.batch.worker.gather)
        measures = measure_marks(session, outcomes[-1].file)
        notes = consequence_notes(session, outcomes[-1].file)
        facts = replace(
            facts, measures=measures, datums=datums, marks=marks, notes=notes, berths=berths_shown(session, assets[-1])
        )
        if self.dragging and self._hand.held.name == "swing":
            # Its angles stand where the plates would.
            facts = replace(facts, sizes=("", "", ""))
        if is_shaping(session):
            facts = replace(facts, taken=taken_points(session, outcomes[-1].before.asset, assets[-1], nodes))
        picture, self.facts = self.playing.frame(picture, facts, assets[-1])
        self._tell_hand(assets[-1], nodes, own if together else ())
        views.bench.show_in(session.unit)
        views.bench.show_picture(
            picture, self.facts, (session.selection, together, guest is not None), held=self.dragging
        )
        if lightly:
            return
        if views.compare is not None and views.view == "before-after":
            received = session.assets[outcomes[-1].file]
            views.compare.show_asset(received, assets[-1], nodes, session.unit)
        views.show_title(self.facts.title)
        views.offer_together(len(own) > 1, together)
        views.offer_play(self.playing.can_play(session.lead) and not together, self.playing.is_on)
        self._hierarchy.show_asset(*((assets[-1], nodes) if guest is None else (assets[0], ())), session.unit)

    def _tell_hand(self, asset: Asset | None, nodes: tuple[int, ...] = (), together: Sequence[Asset] = ()) -> None:
        session, settings = self._session, self.settings
        hold = None
        if asset is not None and self._views.view == "bench":
            outcome = session.outcomes.get(asset.file)
            before = outcome.before.asset if outcome is not None else asset
            hold = hold_of(session, asset, before, nodes, self._views.bench.camera.axes, together)
        self._hand.show(
            Scene(
                asset=asset,
                facts=self.facts,
                unit=session.unit,
                ready=session.batch.worker.gather,
                kinds=settings.kinds,
                hold=hold,
                angle_step_deg=settings.angle_step_deg,
                grid_m=settings.grid_m if settings.to_grid else 0.0,
                wants=self.wants(),
                shaping=is_shaping(session),
                # With pivots alone, a click takes what is picked in any stage: it says the same in this one.
                spots=session.stage == "pivot" and not (self.dragging or self.wants() or session.document.grip.pivots),
            )
        )

    def _show_notice(self, notice: str, subject: object) -> None:
        unit = self._session.unit
        self.facts = Facts(notice=notice)
        self._tell_hand(None)
        self._views.bench.show_picture(Picture(), self.facts, subject)
        if self._views.compare is not None:
            self._views.compare.show_asset(None, None, (), unit, notice)
        self._views.show_title("")
        self._views.offer_together(False, False)
        self._views.offer_play(False, False)
        self._hierarchy.show_asset(None, (), unit)
