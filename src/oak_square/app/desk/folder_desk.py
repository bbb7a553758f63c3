"""Between the session and what folders answer: shown in the Size and Turn forms, and what is wished there."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from pathlib import Path
from weakref import WeakKeyDictionary

from PySide6.QtCore import QObject

from oak_square.app.facts.folder import FolderFacts, folder_facts, side_rows
from oak_square.app.facts.units import doubtful
from oak_square.app.panel.bodies import Bodies
from oak_square.app.panel.folder_form import FolderForm
from oak_square.app.panel.size_body import SizeBody
from oak_square.app.panel.turn_body import TurnBody
from oak_square.app.session.session import Session
from oak_square.app.session.taking import reading_words
from oak_square.app.view.renderer import Renderer
from oak_square.app.view.thumbnails import Thumbnails
from oak_square.core.motion import with_reading
from oak_square.core.scene import Asset

__all__ = ["FolderDesk"]


class FolderDesk(QObject):
    """Keeps pictures of assets as they would lie beside those of how they do."""

    def __init__(
        self,
        session: Session,
        bodies: Bodies,
        pictures: Thumbnails,
        small: tuple[Callable[[], Renderer], Path | None],
        parent: QObject,
    ) -> None:
        """Take the forms, pictures as assets are read now, and what draws and keeps those as they are proposed."""
        super().__init__(parent)
        self._session = session
        self._bodies, self._pictures = bodies, pictures
        self.proposed = Thumbnails(*small, self)
        self._facts: FolderFacts | None = None
        # As proposed, while the asset and that are the same.
        self._turned: WeakKeyDictionary[Asset, tuple[str, str, Asset]] = WeakKeyDictionary()
        bodies.whenever(SizeBody, self._follow_sizes)
        bodies.whenever(TurnBody, self._follow_sides)

    def _follow_sizes(self, body: SizeBody) -> None:
        self._connect_form(body.folder, "unit")
        body.folder.picture = self._pictures.of
        self._pictures.made.connect(body.folder.tiles.repaint_tiles)

    def _follow_sides(self, body: TurnBody) -> None:
        self._connect_form(body.folder, "up")
        body.folder.picture = lambda file: self.proposed.of(file) or self._pictures.of(file)
        body.certain.clicked.connect(lambda: self._take_certain())
        for made in (self._pictures.made, self.proposed.made):
            made.connect(body.folder.tiles.repaint_tiles)

    def _connect_form(self, form: FolderForm, kind: str) -> None:
        form.taken.connect(lambda files: self._session.drafts.take_best(files, kind))
        form.looked_at.connect(lambda files: self._session.select(tuple(files)))

    def _take_certain(self) -> None:
        if self._facts is not None:
            self._session.drafts.take_best(self._facts.certain, "up")

    def show(self) -> None:
        """Match the form of the stage that is looked at to the session."""
        session = self._session
        if session.stage == "size":
            size, facts = self._bodies.of(SizeBody), folder_facts(session, "unit")
            size.folder.show_folder(facts, session.selection)
            certain = session.questions("certain")
            also = facts is None or set(certain) != set(facts.take)
            size.question.show_waiting(doubtful(session), len(certain), also=also)
        if session.stage == "turn":
            turn = self._bodies.of(TurnBody)
            self._facts = facts = folder_facts(session, "up")
            turn.folder.show_folder(facts, session.selection)
            lead = session.outcomes.get(session.lead or "")
            best = reading_words(lead, "up")[0] if lead is not None else ""
            turn.show_answers(facts, *side_rows(session), best)
            self._draw_thumbnails(facts)

    def _draw_thumbnails(self, facts: FolderFacts | None) -> None:
        wanted = []
        for tile in facts.tiles if facts is not None else ():
            asset = self._session.assets.get(tile.file)
            if asset is not None and tile.up:
                wanted.append((self._as_proposed(asset, tile.up, tile.front), self._session.rows[tile.file].digest))
        self.proposed.want(wanted)

    def _as_proposed(self, asset: Asset, up: str, front: str) -> Asset:
        known = self._turned.get(asset)
        if known is None or known[:2] != (up, front):
            turned = with_reading(asset, replace(asset.reading, up=up, front=front, source="sheet"))
            known = self._turned[asset] = up, front, turned
        return known[2]
