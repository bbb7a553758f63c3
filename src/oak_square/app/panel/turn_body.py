"""Turn: which axes of the file are up and front; turns by degrees, to angles, of one direction onto another."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from PySide6.QtWidgets import QPushButton, QWidget

from oak_square.app.facts.folder import FolderFacts, SideRow
from oak_square.app.panel.body import Body
from oak_square.app.panel.folder_form import FolderForm
from oak_square.app.panel.frame_rows import AlongRow, CentreRow
from oak_square.app.panel.side_form import SideForm
from oak_square.app.panel.turn_pages import AnglesPage, BringPage
from oak_square.app.widgets.entries import NumberEdit, Triple
from oak_square.app.widgets.fields import Choices, column, section, soft
from oak_square.app.widgets.pages import Pages
from oak_square.core.frames import AXES, FRONT_OF, on_one_line
from oak_square.core.scene import Asset
from oak_square.core.terms import term
from oak_square.core.words import one_or_many, say
from oak_square.steps.step import Step
from oak_square.steps.way import GUESS

__all__ = ["TurnBody"]


class TurnBody(Body):
    """Up and front, as signed file axes; degrees about some axes; angles; directions."""

    stage = "turn"
    by_hand = ("turn",)

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.pages = Pages(
            [
                ("reading", say("up, front"), say("Say which axes of the file point up and to the front")),
                ("by", "degrees", say("Turn by angles about a centre")),
                ("set", "angles", say("Set one angle of the rotation channel, the others stay")),
                ("bring", "bring", say("Bring a picked face, an edge or an axis onto a side, or square it up")),
            ],
            self,
        )
        rows = column(self)
        rows.addWidget(self.pages)
        self.pages.turned.connect(lambda _: self._show_page())
        self.pages.turned.connect(lambda _: self.narrowing_changed.emit())
        self._fill_reading(self.pages.add("reading"))
        self._fill_degrees(self.pages.add("by"))
        self.set = AnglesPage(self)
        column(self.pages.add("set")).addWidget(self.set)
        self.set.wished.connect(lambda told: self.wish({"do": "turn", "set": told} if told else {}))
        self.set.turn_wished.connect(lambda by: self.wish({"do": "turn", "by": by} if by else {}))
        self.bring = BringPage(self)
        column(self.pages.add("bring")).addWidget(self.bring)
        self.bring.wished.connect(self._take_brought)
        self.bring.ways.pick_wished.connect(self.point_wished)
        self._centre_title = section(say("about"), self)
        rows.addWidget(self._centre_title)
        self.about = CentreRow(self)
        self.about.chosen.connect(lambda _: self._change_turn_frame())
        self.about.pick_wished.connect(
            self.asking(say("Centre: click what it turns about"), self.about.choose, elsewhere=True)
        )
        rows.addWidget(self.about)
        self._by = [0.0, 0.0, 0.0]
        self._words: dict[str, Any] = {}
        self.best = ""
        self._show_page()

    def _fill_reading(self, page: QWidget) -> None:
        rows = column(page)
        self.folder = FolderForm(page)
        rows.addWidget(self.folder)
        self.certain = QPushButton(page)
        self.certain.setProperty("role", "small")
        self.certain.setToolTip(say("Keep a step for each way of lying that all the evidence speaks for"))
        rows.addWidget(self.certain)
        self.sides = SideForm(page)
        self.sides.axis_wished.connect(self._side_chosen)
        rows.addWidget(self.sides)
        shown = [(a, a.replace("-", "−")) for a in AXES]
        guess = (GUESS, GUESS, say("For each asset the likeliest, also in the next batch; doubts are warned of"))
        rows.addWidget(section(say("in the file, up is"), page))
        self.up = Choices(
            [*((a, w, say("The file's {w} points up", w=w)) for a, w in shown), guess], page, per_row=6, tight=True
        )
        rows.addWidget(self.up)
        rows.addWidget(section(say("and the front faces"), page))
        faces = [(a, w, say("The front faces the file's {w}", w=w)) for a, w in shown]
        self.front = Choices([*faces, guess], page, per_row=6, tight=True)
        rows.addWidget(self.front)
        rows.addWidget(
            soft(say("Readings are settled before all other steps, wherever they stand on the sheet."), page)
        )
        self.up.chosen.connect(self._up_chosen)
        self.front.chosen.connect(self._front_chosen)

    def _fill_degrees(self, page: QWidget) -> None:
        rows = column(page, 6)
        rows.addWidget(section(say("turn about x, then y, then z, in degrees"), page))
        self.angles = [
            NumberEdit(say("Degrees about {a}", a=a), say("Degrees about {a}, right-handed", a=a), page) for a in "xyz"
        ]
        for k, edit in enumerate(self.angles):
            edit.entered.connect(lambda value, k=k: self._set_degrees(k, value))
        rows.addWidget(Triple(list(zip("xyz", self.angles, strict=True)), page))
        rows.addWidget(section(say("or a quarter on"), page))
        ways = ((90, "↺", "left"), (-90, "↻", "right"))
        quarters = [
            (f"{a}{d}", f"{a} {sign}", say("A quarter turn about {a}, {w}", a=a, w=term(w)))
            for a in "xyz"
            for d, sign, w in ways
        ]
        self.quarters = Choices(quarters, page, per_row=6)
        self.quarters.chosen.connect(self._turn_by_quarter)
        rows.addWidget(self.quarters)
        self.along = AlongRow(page)
        self.along.chosen.connect(lambda _: self._change_turn_frame())
        rows.addWidget(self.along)

    def _show_page(self) -> None:
        turns = self.pages.tabs.choice in ("by", "bring")
        self._centre_title.setVisible(turns)
        self.about.setVisible(turns)

    def _set_degrees(self, axis: int, value: float | None) -> None:
        self._by[axis] = value or 0.0
        self._wish_degrees()

    def _turn_by_quarter(self, key: str) -> None:
        """Turn on by a quarter: from what the fields say, where they say something of that axis alone."""
        axis, more = "xyz".index(key[0]), float(key[1:])
        alone = not any(v for k, v in enumerate(self._by) if k != axis)
        before = self._by[axis] if alone else 0.0
        self._by = [0.0, 0.0, 0.0]
        self._by[axis] = (before + more + 180.0) % 360.0 - 180.0
        self._wish_degrees()

    def _change_turn_frame(self) -> None:
        """Another centre, or other axes: of the step that is open, else of the next one."""
        if any(self._by):
            self._wish_degrees()
        elif not {"bring", "square"}.isdisjoint(self._words):
            self._take_brought({k: v for k, v in self._words.items() if k in ("do", "bring", "to", "square")})

    def _wish_degrees(self) -> None:
        self.wish(self._read_degrees() if any(self._by) else {})

    def _read_degrees(self) -> dict[str, Any]:
        return {"do": "turn", "by": list(self._by), **self.along.told(), **self._centre_words()}

    def _centre_words(self) -> dict[str, Any]:
        return {} if self.about.centre == "pivot" else {"about": self.about.centre}

    def _take_brought(self, words: dict[str, Any]) -> None:
        self.wish({**words, **self._centre_words()} if words else {})

    @property
    def narrows(self) -> bool:
        """Up and front are the file's."""
        return self.pages.tabs.choice != "reading"

    def open_page(self, page: str) -> None:
        """Bring one of its means to the front."""
        self.pages.open(page)

    def _up_chosen(self, up: str) -> None:
        front = self.front.choice
        if up == GUESS:
            front = GUESS
        elif front is None or (front != GUESS and on_one_line(up, front)):
            front = FRONT_OF[up]
        self.wish({"do": "turn", "up": up, "front": front})

    def _front_chosen(self, front: str) -> None:
        up = self.up.choice
        if front == GUESS:
            up = up or GUESS
        elif up is None or (up != GUESS and on_one_line(up, front)):
            up = "+Z" if front[1] == "Y" else "+Y"
        self.wish({"do": "turn", "up": up, "front": front})

    def _side_chosen(self, up: str) -> None:
        self.wish({"do": "turn", "up": up, "front": FRONT_OF[up] if up != self.best[:2] else self.best[3:]})

    def show_answers(self, facts: FolderFacts | None, name: str, sides: Sequence[SideRow], best: str) -> None:
        """Match what is said of the lead asset's sides, and of its folder; `best` is `+Z -Y`: up and front."""
        self.best = best
        certain = () if facts is None else facts.certain
        self.certain.setText(
            one_or_many(
                len(certain), "Take the best for {count} that is certain", "Take the best for {count} that are certain"
            )
        )
        self.certain.setVisible(bool(certain) and set(certain) != set(facts.take if facts is not None else ()))
        self.sides.show_sides(name, sides)

    def show_step(self, step: Step | None, asset: Asset | None = None) -> None:
        """Match the form to a turn step."""
        had, words = bool(self._words), step.words() if step is not None and step.do == "turn" else {}
        self._words = words
        self.up.show_choice(words.get("up"))
        self.front.show_choice(words.get("front"))
        self._by = [float(v) for v in words.get("by", (0.0, 0.0, 0.0))]
        self._show_frame(words, anew=bool(words) or had)
        for edit, value in zip(self.angles, self._by, strict=True):
            edit.show_text(f"{value:g}" if value else "")
        self.quarters.show_choice(None)
        self.set.show_frames(self.names, self.datum, self.delivery_from_working)
        self.set.show_set(words.get("set", {}), asset, self.nodes, turns="by" in words)
        self.bring.show_words(words, self.names)
        if step is not None:
            page = next((p for p in ("by", "set", "bring") if p in words), "bring" if "square" in words else "reading")
            # What is typed as angles told in another frame is a turn by degrees: it is typed on where it began.
            self.pages.open_for(step, "set" if page == "by" and self.set.is_turning else page)
        self._show_page()

    def _show_frame(self, words: dict[str, Any], *, anew: bool) -> None:
        # What was chosen before there is a step stays chosen for it.
        about = words.get("about", "pivot") if anew else self.about.centre
        along = words.get("along", "world") if anew else self.along.along
        self.about.show_centre(about, self.names, of_nodes=self.nodes is not None)
        self.along.show_along(along, self.names, of_nodes=self.nodes is not None)
