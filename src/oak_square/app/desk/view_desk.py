"""Between the views and the session: the instrument in hand, sizes typed in the view, assets picked to match."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from functools import partial
from typing import Any

from PySide6.QtCore import QObject, QRectF, Qt, Signal

from oak_square.app.desk.at_once import AtOnce
from oak_square.app.desk.begun import BegunThing, BegunThings
from oak_square.app.desk.berth_desk import BerthDesk
from oak_square.app.desk.clip_desk import ClipDesk
from oak_square.app.desk.datum_desk import DatumDesk
from oak_square.app.desk.display import Display
from oak_square.app.desk.hand import InstrumentDesk
from oak_square.app.desk.hands_desk import HandsDesk
from oak_square.app.desk.measure_desk import MeasureDesk
from oak_square.app.desk.shape_desk import ShapeDesk
from oak_square.app.desk.swing_desk import SwingDesk
from oak_square.app.facts.hold import about_choices, along_choices
from oak_square.app.facts.stages import size_words
from oak_square.app.facts.taken import is_shaping
from oak_square.app.facts.units import question_facts
from oak_square.app.instruments.aims import ClickTarget
from oak_square.app.instruments.box_labels import BoxLabels
from oak_square.app.instruments.holder import Holder
from oak_square.app.instruments.swing import Swing
from oak_square.app.instruments.wishes import (
    AddMeasure,
    CentreAt,
    DropTried,
    EndSwing,
    HangAt,
    HoldDatum,
    KeepTried,
    LetGo,
    ListUnder,
    MoveDatum,
    PickNode,
    PickNodes,
    PutDatum,
    Say,
    ShapeAt,
    ShapeFramed,
    SwingTo,
    TakePoint,
    TryWords,
    TypeOver,
    Wish,
)
from oak_square.app.panel.bake_body import BakeBody
from oak_square.app.panel.bodies import Bodies
from oak_square.app.panel.body import Body
from oak_square.app.panel.size_body import SizeBody
from oak_square.app.session.session import Session
from oak_square.app.view.view_area import ViewArea
from oak_square.app.widgets.box_label_editor import BoxLabelEditor
from oak_square.app.widgets.hierarchy import Hierarchy
from oak_square.app.widgets.hold_bar import HoldBar
from oak_square.core.boxes import EXTENTS
from oak_square.core.measuring import Anchor
from oak_square.core.terms import along_word, term
from oak_square.core.words import say
from oak_square.steps.naming import as_reads, called, globs_for
from oak_square.steps.step import STEPS

__all__ = ["ViewDesk"]


class ViewDesk(QObject):
    """Carries wishes between the views, the Size form and the session."""

    changed = Signal()
    step_wished = Signal(dict)
    settings_changed = Signal()  # how a hand works
    view_wished = Signal(str)
    page_wished = Signal(str, str)  # a stage, and which of its means goes with what is in hand

    def __init__(
        self, session: Session, views: ViewArea, hierarchy: Hierarchy, bodies: Bodies, bar: HoldBar, parent: QObject
    ) -> None:
        super().__init__(parent)
        self._session, self._views, self._bodies = session, views, bodies
        self.hand = InstrumentDesk(views.bench, self)
        self.measuring = MeasureDesk(session, self.hand, self)
        self.display = Display(session, views, hierarchy, self.hand)
        self.hands = HandsDesk(session, self.display, views.bench, self)
        self.at_once = AtOnce(session, self.hands)
        self.shapes = ShapeDesk(session, self.hands)
        self.datums = DatumDesk(session, self.hands, self.display, views.bench)
        self.hands.changed.connect(self.changed)
        self.hands.waited.connect(self._take_former)
        self._former = ""  # the instrument that was laid down for a point to be picked
        self.display.wants = lambda: self.hands.wants
        swing = self.hand.instruments["swing"]
        assert isinstance(swing, Swing)
        self.swinging = SwingDesk(session, swing, self.display, views.bench, self)
        self.clips = ClipDesk(session, self.hand, self.hands, self)
        self.bar = bar
        bar.kinds_wished.connect(lambda kinds: self.set_hand(kinds=kinds))
        bar.grid_wished.connect(lambda on, metres: self.set_hand(to_grid=on, grid_m=metres))
        bar.step_wished.connect(lambda degrees: self.set_hand(angle_step_deg=degrees))
        bar.along_wished.connect(lambda key: session.names.set_grip(lambda g: replace(g, along=key)))
        bar.about_wished.connect(lambda key: session.names.set_grip(lambda g: replace(g, about=key)))
        bar.about_pick_wished.connect(self.pick_centre)
        self._connect_things(bar)
        self.plate_editor = BoxLabelEditor(views.bench)
        self.hand.wished.connect(self._carry_wish)
        self.begun = self._things_begun()
        for news in (session.sheet.document_changed, session.stage_changed, self.hand.changed, self.hands.changed):
            news.connect(self.begun.look)
        self.hand.changed.connect(self.changed)
        views.pointed_apart.connect(self.hand.usual.release)
        views.lineup.selection_wished.connect(self.select)
        views.set_out_wished.connect(session.berths.set_out)
        views.selection_wished.connect(self.select)
        views.lineup.unit_wished.connect(self._try_unit)
        views.instrument_wished.connect(self.take_up)
        views.together_wished.connect(session.take_together)
        views.play_wished.connect(self.display.playing.turn)
        self.display.playing.changed.connect(self.display.show)
        self.plate_editor.words_wished.connect(self._try_on_selected)
        hierarchy.hang_wished.connect(self.at_once.hang)
        hierarchy.pieces_wished.connect(self.at_once.take_apart)
        hierarchy.pivot_wished.connect(self.at_once.pivot_to)
        self.measuring.step_wished.connect(self.step_wished)
        session.sheet.document_changed.connect(self._close_plate)
        bodies.whenever(SizeBody, self._follow_sizes)
        bodies.whenever(Body, lambda body: body.point_wished.connect(self.want_point))
        bodies.whenever(Body, lambda body: body.place_wished.connect(partial(self.want_point, elsewhere=True)))
        bodies.whenever(BakeBody, self._follow_shapes)
        self.page_wished.connect(lambda stage, page: bodies[stage].open_page(page))

    def _follow_sizes(self, body: SizeBody) -> None:
        self.measuring.take_up(body.measures)
        body.pick_wished.connect(self._pick_for)
        body.question.certain_wished.connect(self._session.drafts.take_certain_units)
        body.question.asset_wished.connect(lambda file: self._session.select((file,)))

    def _follow_shapes(self, body: BakeBody) -> None:
        body.take_wished.connect(self.shapes.begin)
        body.shape.take.mean_wished.connect(self.shapes.hang_at_mean)

    def _connect_things(self, bar: HoldBar) -> None:
        """Carry on what is wished of marks, datums and berths."""
        session = self._session
        bar.things.name_wished.connect(session.names.name_thing)
        bar.things.forget_wished.connect(session.names.forget_thing)
        bar.things.use_wished.connect(session.names.use_datum)
        bar.things.take_wished.connect(self._take_datum)
        bar.things.datum_wished.connect(self.datums.change_datum)
        self.berths = BerthDesk(session, self.hands, self.want_point)
        bar.things.set_down_wished.connect(self.berths.set_down)
        bar.things.beside_wished.connect(self.berths.set_side_by_side)
        bar.things.berth_wished.connect(self.berths.make)
        bar.things.mark_wished.connect(self.datums.set_at_mark)
        bar.things.typed.connect(self.datums.type_datum)

    @property
    def is_picking(self) -> bool:
        """Whether the next asset that is clicked is not selected, but given to a form."""
        return self.display.picking is not None

    def take_up(self, instrument: str) -> None:
        """Take an instrument in hand."""
        if self._views.view != "bench" and instrument != self.hand.usual.name:
            self.view_wished.emit("bench")
        self.hand.take_up(instrument)
        # What is typed next is typed to it.
        self._views.bench.setFocus(Qt.FocusReason.OtherFocusReason)
        held = self.hand.held
        if held.stage:
            self._session.enter_stage(held.stage)
        if held.page:
            self.page_wished.emit(held.stage, held.page)

    def swap_projection(self) -> None:
        """Look in parallel projection, or in perspective again."""
        self._views.swap_projection()

    def leave_mode(self) -> bool:
        """Leave what was begun last, what is under way with a hand before all else; tell whether there was anything."""
        if self._is_label_open:
            self._hide_plate()
        elif not self.hand.held.lay_down() and not self.begun.leave_last():
            return False
        self.changed.emit()
        return True

    def _things_begun(self) -> BegunThings:
        """Return all that can be begun, and how each is left."""
        session, hand = self._session, self.hand
        return BegunThings(
            [
                BegunThing("mode", lambda: session.document.grip.pivots, lambda: session.names.take_pivots(False)),
                BegunThing("shape", lambda: is_shaping(session), lambda: self.shapes.begin(None)),
                BegunThing("datum", lambda: session.document.grip.hold_datum, lambda: session.names.take_datum("")),
                BegunThing("instrument", lambda: hand.held is not hand.usual and hand.held.name, hand.lay_down),
                BegunThing("draft", self._find_draft, session.drafts.drop),
                BegunThing("asset", lambda: self.is_picking, lambda: self._pick_for(None)),
                BegunThing("point", lambda: self.hands.wants, self.hands.stop_waiting),
            ]
        )

    def _find_draft(self) -> tuple[str, int] | None:
        """Return what tells the draft from one that is begun once it was kept."""
        document = self._session.document
        return None if document.draft is None else (document.draft.do, len(document.sheet.steps))

    @property
    def _is_label_open(self) -> bool:
        """Whether a length may be typed over the picture, and none is yet."""
        return self.plate_editor.isVisible() and self._session.document.draft is None

    def select(self, files: tuple[str, ...]) -> None:
        """Select assets, or give the one clicked to whoever waits for it."""
        picking = self.display.picking
        if picking is not None and files:
            self._pick_for(None)
            picking(called(list(self._session.rows))[files[-1]])
        elif files and self.hands.wants_elsewhere and files[-1] not in self._session.selection:
            # Where a place is waited for, another asset is looked at beside what is selected, which stays so.
            self._show_guest(files[-1])
        else:
            self._session.select(files)

    def _show_guest(self, file: str) -> None:
        """Set an asset beside what is selected, for a place on it to be picked; with no name, take it away."""
        if self.display.guest != file:
            self.display.guest = file
            if file and self._views.view != "bench":
                self.view_wished.emit("bench")
            self.changed.emit()

    def select_nodes(self, nodes: tuple[int, ...]) -> None:
        """Pick nodes of the hierarchy; where a place is waited for, the pivot of the one clicked is that place."""
        guest, session = self.display.guest, self._session
        file = guest or session.lead
        if self.hands.wants_elsewhere and nodes and file is not None and (guest or self.hands.wants):
            node = nodes[-1]
            name = session.outcomes[file].after.asset.nodes[node].name
            anchor = Anchor(node=node, name=name, at=(0.0, 0.0, 0.0), kind="pivot")
            world = session.outcomes[file].after.asset.worlds[node][:3, 3]
            self.hands.take_point(TakePoint(aim=ClickTarget(file=file, anchor=anchor, at=world)))
        elif not guest:
            session.select(session.selection, nodes)

    def _pick_for(self, picking: Callable[[str], None] | None) -> None:
        self.display.picking = picking
        self.changed.emit()

    def _try_unit(self, file: str, unit: str) -> None:
        self._session.drafts.try_step(STEPS["unit"].model_validate({"reads": as_reads(unit), "for": globs_for([file])}))

    def _carry_wish(self, wish: Wish) -> None:
        """Carry an instrument's wish on."""
        hands = self.hands
        if isinstance(wish, PickNode | PickNodes | LetGo) and self._session.document.grip.hold_datum:
            self._session.names.take_datum("")
        match wish:
            case PickNode(file=file, node=node, beside=beside):
                self._pick_node(file, node, beside)
            case PickNodes(nodes=nodes, beside=beside):
                rest = tuple(n for n in self._session.nodes if n not in nodes) if beside else ()
                self._session.select(self._session.selection, (*rest, *nodes))
            case LetGo():
                self._session.select(self._session.selection)
            case AddMeasure(measure=measure):
                self._session.measures.add(measure)
            case TypeOver(extent=extent, place=place):
                self._type_over(extent, QRectF(*place))
            case ListUnder():
                self._list_under(wish)
            case Say(text=text):
                self._session.messages.said.emit(text)
            case _:
                works: dict[type, Callable[[Any], None]] = {
                    TryWords: hands.try_words,
                    KeepTried: lambda _: hands.keep(),
                    DropTried: lambda _: hands.drop(),
                    TakePoint: hands.take_point,
                    HangAt: hands.hang_at,
                    CentreAt: lambda w: hands.centre_at(w.aim),
                    PutDatum: self.datums.put_datum,
                    ShapeAt: self.shapes.take_at,
                    ShapeFramed: self.shapes.take_framed,
                    MoveDatum: self.datums.move_datum,
                    HoldDatum: lambda w: self._session.names.take_datum(w.name),
                    SwingTo: self.swinging.swing_to,
                    EndSwing: lambda _: self.swinging.end(),
                }
                works[type(wish)](wish)

    def _list_under(self, wish: ListUnder) -> None:
        """List what lies under the pointer: to be taken where a point is waited for, else its part to be picked."""

        def take(aim: ClickTarget) -> None:
            if self.hands.wants:
                self.hands.take_point(TakePoint(aim=aim))
            elif is_shaping(self._session):
                self.shapes.take_at(ShapeAt(aim=aim, beside=False))
            elif self._session.document.grip.pivots:
                self.hands.hang_at(HangAt(aim=aim, node=aim.anchor.node))
            elif aim.anchor.node is not None:
                self._pick_node(aim.file, aim.anchor.node, beside=False)

        self.listed = self.hands.list_under(wish, take)
        if is_shaping(self._session) and not self.hands.wants:
            whole = self.listed.addAction(say("all that hangs together of {whose}", whose=wish.aims[0].whose))
            whole.triggered.connect(lambda _=False: self.shapes.take_connected(wish.aims[0]))

    def _take_datum(self, name: str) -> None:
        """Take a datum by itself in hand, with an instrument that moves it."""
        self._session.names.take_datum(name)
        if not isinstance(self.hand.held, Holder):
            self.take_up("rule")

    def pick_centre(self) -> None:
        """Wait for the part or point that turns and sizes shall happen about."""

        asks = say("Centre: click a pivot, a corner, a circle; first another asset, to have it here")
        self.want_point(asks, lambda _, aim: self.hands.centre_at(aim), any_will_do=True, elsewhere=True)

    def want_point(
        self,
        asks: str,
        take: Callable[[dict[str, Any], ClickTarget], None],
        *,
        any_will_do: bool = False,
        elsewhere: bool = False,
    ) -> None:
        """Wait for a point that a form asks for: picked with Pick, on the Bench; `elsewhere`, on any asset."""
        if self._views.view != "bench":
            self.view_wished.emit("bench")
        if self.hand.held is not self.hand.usual:
            self._former = self.hand.held.name
            self.hand.take_up(self.hand.usual.name)
        self.hands.want_point(asks, take, any_will_do=any_will_do, elsewhere=elsewhere)
        self._views.bench.setFocus(Qt.FocusReason.OtherFocusReason)

    def _take_former(self) -> None:
        """Take up again what was in hand before a point was waited for."""
        self._show_guest("")
        former, self._former = self._former, ""
        if former and self.hand.held is self.hand.usual:
            self.hand.take_up(former)

    def set_hand(self, **changes: Any) -> None:
        """Work in another way: what is snapped to, and at which steps."""
        self.display.settings = replace(self.display.settings, **changes)
        self.settings_changed.emit()
        self.changed.emit()

    def show_bar(self) -> None:
        """Match the second line of the foot to the session."""
        session, settings = self._session, self.display.settings
        grip, hold = session.document.grip, self.hand.usual.scene.hold
        held = self.hand.held
        said = (along_word(grip.along), say("its pivot"))
        if hold is not None:
            said = (along_word(hold.along), held.centre_said(hold) if isinstance(held, Holder) else hold.about)
        self.bar.show_grip(grip.along, grip.about, said, along_choices(session), about_choices(session))
        self.bar.show_beside(hold.beside if hold is not None else "")
        sheet = session.document.sheet
        marks = [(name, say("{kind} of {on}", kind=term(m.kind), on=m.on)) for name, m in sheet.marks.items()]
        self.bar.things.show_things(marks, list(sheet.datums), grip.datum, list(sheet.berths))
        self.bar.show_settings(
            settings.kinds,
            settings.angle_step_deg,
            to_grid=settings.to_grid,
            grid_m=settings.grid_m,
            unit=session.unit,
        )

    def _pick_node(self, file: str, node: int, beside: bool) -> None:
        """Pick a node; `beside` those that are picked already, or no more if it is one of them."""
        session = self._session
        if self.is_picking:
            self.select((file,))
        elif file == session.lead and beside:
            rest = tuple(n for n in session.nodes if n != node)
            session.select(session.selection, rest if node in session.nodes else (*rest, node))
        elif file == session.lead:
            session.select(session.selection, (node,))
        else:
            others = tuple(f for f in session.selection if f != file)
            session.select((*others, file), (node,))

    # Sizes in the view

    @property
    def plates(self) -> BoxLabels:
        """The instrument that writes the sizes."""
        plates = self.hand.instruments["plates"]
        assert isinstance(plates, BoxLabels)
        return plates

    def _type_over(self, name: str, plate: QRectF) -> None:
        box = self.display.facts.box
        if box is None:
            return
        common = self._session.is_together
        if len(self._session.nodes) > 1 and not common:
            # What is drawn is the box about them all, and a step would size each by its own.
            self._session.messages.said.emit(say("Several are picked: type their size in the panel, or pick one"))
            return
        present = float(box.size[EXTENTS.index(name)])
        several = len(self._session.selection) > 1 and not self._session.nodes
        self.plates.editing = name
        self.plate_editor.open_at(name, plate, present, self._session.unit, common=common, several=several)

    def _try_on_selected(self, words: dict[str, Any]) -> None:
        """Try a step on what the plates are of: the selected assets, or what is picked of the lead one."""
        session = self._session
        scope: dict[str, Any] = {"for": globs_for(session.selection)}
        scope |= {"together": True} if session.is_together and not session.nodes else {}
        picked = session.scope.picked
        if picked and session.lead is not None and not session.is_together:
            scope = {"for": globs_for([session.lead]), "parts": list(picked)}
        self.step_wished.emit({**words, **scope} if words else {})

    def _close_plate(self) -> None:
        """Close the field once what was typed is kept or dropped."""
        if self._session.document.draft is None and self.plate_editor.isVisible() and self.plate_editor.field.text():
            self._hide_plate()

    def _hide_plate(self) -> None:
        self.plates.editing = None
        self.plate_editor.hide()
        self._views.bench.setFocus(Qt.FocusReason.OtherFocusReason)

    # Showing

    def show_form(self) -> None:
        """Match what the Size form says of the batch to the session."""
        session, body = self._session, self._bodies.of(SizeBody)
        facts = question_facts(session, session.lead)
        if facts is None:
            body.question.show_question("", "", ())
        else:
            body.question.show_question(facts.name, facts.asks, facts.rows, facts.best_says)
        names_of = called(list(session.rows))
        others = [f for f in session.assets if f not in session.selection and f in session.outcomes]
        names = [(names_of[f], size_words(session.outcomes[f].size, session.unit)) for f in others]
        body.show_assets([(name, f"{name}   {size}") for name, size in names])
        self.measuring.show(body.measures)
