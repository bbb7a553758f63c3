"""Deliver: where to, the run, and the proof of each file."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from pathlib import Path
from typing import Any

from PySide6.QtCore import Signal
from PySide6.QtWidgets import (
    QCheckBox,
    QComboBox,
    QFileDialog,
    QHBoxLayout,
    QLineEdit,
    QProgressBar,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from oak_square.app.panel.afterwards import Afterwards
from oak_square.app.panel.body import Body
from oak_square.app.panel.results import Results
from oak_square.app.widgets.fields import Advice, column, labelled, push_button, section, soft
from oak_square.app.widgets.pace import Pace
from oak_square.app.widgets.pages import Pages
from oak_square.core.errors import Occupied
from oak_square.core.lengths import UNIT_WORDS, format_deviation
from oak_square.core.scene import Asset
from oak_square.core.terms import term
from oak_square.core.words import counted, say
from oak_square.delivery.running import WOULD_STOP
from oak_square.formats.register import FORMATS
from oak_square.sheet.model import Deliver
from oak_square.steps.step import Step

__all__ = ["DeliverBody"]


class DeliverBody(Body):
    """The folder to deliver into, progress while it runs, and what came of each asset."""

    stage = "deliver"
    run_wished = Signal(object, bool, bool)  # folder, replace, only what does not stand yet
    look_wished = Signal(object, bool)  # folder, replace
    deliver_wished = Signal(str, str, str)  # unit, up, format
    cancel_wished = Signal()
    asset_wished = Signal(str)

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._offered = ""
        self.pages = Pages(
            [
                (
                    "write",
                    say("write and prove"),
                    say("Write new files, re-open each, and hold it against what it should be"),
                ),
                (
                    "check",
                    say("what must hold"),
                    say("A check on the sheet: size, channels, pivot, unit, as the team has agreed"),
                ),
            ],
            self,
        )
        column(self).addWidget(self.pages, 1)
        self.pages.turned.connect(lambda _: self.narrowing_changed.emit())
        rows = column(self.pages.add("write"))
        self.add_forms(column(self.pages.add("check")))
        self.summary = soft("", self)
        rows.addWidget(self.summary)
        self._make_target(rows)
        self.replace = QCheckBox(say("Replace an earlier delivery there"), self)
        self.replace.setToolTip(
            say("Without it, a file that is there already stops the delivery before anything is written")
        )
        rows.addWidget(self.replace)
        self._make_buttons(rows)
        self._progress = QWidget(self)
        under = QHBoxLayout(self._progress)
        under.setContentsMargins(0, 0, 0, 0)
        self.bar = QProgressBar(self)
        self.cancel = QPushButton(say("Cancel"), self)
        self.cancel.setToolTip(say("Stop after the asset under way; what is delivered stays"))
        self.cancel.clicked.connect(self.cancel_wished)
        under.addWidget(self.bar, 1)
        under.addWidget(self.cancel)
        rows.addWidget(self._progress)
        self._progress.hide()
        self.outcome = Advice(self)
        self.outcome.hide()
        rows.addWidget(self.outcome)
        self.afterwards = Afterwards(self)
        self.afterwards.rest_wished.connect(self._run_rest)
        rows.addWidget(self.afterwards)
        self.results = Results(self)
        self.results.asset_wished.connect(self.asset_wished)
        rows.addWidget(self.results, 1)
        self._pace = Pace()
        self._into = Path()
        self._is_dry = False

    def _make_buttons(self, rows: QVBoxLayout) -> None:
        self.run = push_button(
            say("Deliver and prove"),
            say("Write every included asset, re-open each file and hold it against what it should be"),
            self,
            "primary",
        )
        self.run.clicked.connect(self._run_delivery)
        self.look = QPushButton(say("Look first"), self)
        self.look.setToolTip(say("Say what would come of each asset, and what is in the way there; write nothing"))
        self.look.clicked.connect(self._look_first)
        both = QHBoxLayout()
        both.setSpacing(4)
        both.addWidget(self.run, 1)
        both.addWidget(self.look)
        rows.addLayout(both)

    @property
    def makes_steps(self) -> bool:
        """A check is a step; writing is none."""
        return self.pages.tabs.choice == "check"

    def show_step(self, step: Step | None, asset: Asset | None = None) -> None:
        """Match the form to a check."""
        if step is not None:
            self.pages.open_for(step, "check")

    def _make_target(self, rows: QVBoxLayout) -> None:
        """Make the fields of what is written, and where."""
        self.unit = QComboBox(self)
        self.up = QComboBox(self)
        self.format = QComboBox(self)
        for box, words, tip in (
            (
                self.unit,
                [("auto", say("auto")), ("same", say("as read")), *UNIT_WORDS.items()],
                say(
                    "Unit of the files, and of bare numbers on the sheet. auto: as the file declares it; "
                    "metres where its format declares none"
                ),
            ),
            (
                self.up,
                [("auto", say("auto")), ("same", say("as read")), ("Y", "+Y"), ("Z", "+Z")],
                say(
                    "Up axis of the files, and of the sheet's numbers. auto: as the file declares it; "
                    "+Y where its format declares none"
                ),
            ),
            (
                self.format,
                [("same", say("as they came")), *((e.key, e.title) for e in FORMATS.entries() if e.is_made)],
                say("Format of the files"),
            ),
        ):
            for key, word in words:
                box.addItem(term(word), key)
            box.setToolTip(say("{tip}. What a format fixes (glTF: metres, Y up) stays so", tip=tip))
            box.activated.connect(self._deliver_changed)
        rows.addWidget(labelled("unit", self.unit, self))
        rows.addWidget(labelled(say("up axis"), self.up, self))
        rows.addWidget(labelled("format", self.format, self))
        self.lost = Advice(self)
        self.lost.hide()
        rows.addWidget(self.lost)
        rows.addWidget(section(say("into the folder"), self))
        line = QHBoxLayout()
        line.setSpacing(4)
        self.folder = QLineEdit(self)
        self.folder.setToolTip(say("Where the new files go; it must lie apart from the folder they came from"))
        self.folder.setAccessibleName(say("Delivery folder"))
        browse = QPushButton("…", self)
        browse.setToolTip(say("Choose the folder"))
        browse.setFixedWidth(34)
        browse.clicked.connect(self._browse_folder)
        line.addWidget(self.folder, 1)
        line.addWidget(browse)
        rows.addLayout(line)

    def _deliver_changed(self, _index: int) -> None:
        self.deliver_wished.emit(self.unit.currentData(), self.up.currentData(), self.format.currentData())

    def show_deliver(self, deliver: Deliver) -> None:
        """Match the unit, up axis and format to the sheet's."""
        self.unit.setCurrentIndex(self.unit.findData(deliver.unit))
        self.up.setCurrentIndex(self.up.findData(deliver.up))
        self.format.setCurrentIndex(self.format.findData(deliver.format))

    def show_losses(self, lines: Sequence[str]) -> None:
        """Say what the format can't hold of the assets, before anything is written."""
        self.lost.show_lines(lines, "check", most=3)

    def _browse_folder(self) -> None:
        found = QFileDialog.getExistingDirectory(self, say("Deliver into"), str(Path(self.folder.text()).parent))
        if found:
            self.folder.setText(found)

    def _run_delivery(self) -> None:
        self._begin_delivery(dry=False)
        self.run_wished.emit(self._into, self.replace.isChecked(), False)

    def _run_rest(self) -> None:
        self._is_dry = False
        self.run_wished.emit(self._into, False, True)

    def _look_first(self) -> None:
        self._begin_delivery(dry=True)
        self.look_wished.emit(self._into, self.replace.isChecked())

    def _begin_delivery(self, *, dry: bool) -> None:
        self._is_dry = dry
        self._into = Path(self.folder.text()).expanduser()

    def show_ready(self, included: int, steps: int, folder: Path, *, tried: bool = False) -> None:
        """Say what would be delivered, and offer a folder when none is named; `tried`: a draft is open."""
        wanted = self.format.currentData()
        form = (
            say("each in the format it came in")
            if wanted == "same"
            else say("all as {title}", title=FORMATS.entry(wanted).title)
        )
        open_ = say(" The step that is being tried is not delivered until you keep it.") if tried else ""
        self.summary.setText(
            say(
                "{assets} through {steps}, {form}. Sources are never touched.{open_}",
                assets=counted(included, "asset"),
                steps=counted(steps, "step"),
                form=form,
                open_=open_,
            )
        )
        if self.folder.text() in ("", self._offered) and not self.folder.hasFocus():
            # Another batch is offered another folder, unless one was chosen.
            self._offered = str(folder)
            self.folder.setText(self._offered)
        for button in (self.run, self.look):
            button.setEnabled(included > 0 and not self._progress.isVisible())

    def show_running(self, done: int, total: int, entry: Mapping[str, Any] | None) -> None:
        """Show how far the run is, how long it still takes, and what came of the asset just done."""
        if not self._progress.isVisible():
            self._pace = Pace()
            self.outcome.hide()
            self.afterwards.hide()
            self.results.begin(dry=self._is_dry)
        self._progress.show()
        self.run.setEnabled(False)
        self.look.setEnabled(False)
        self.bar.setRange(0, max(1, total))
        self.bar.setValue(done)
        self.bar.setFormat(say("{done} of {total}{words}", done=done, total=total, words=self._pace.words(done, total)))
        if entry is not None:
            self.results.add(entry)

    def show_ended(self, manifest: Mapping[str, Any] | None, error: str | None) -> None:
        """Show what came of the run."""
        self._progress.hide()
        self.run.setEnabled(True)
        self.look.setEnabled(True)
        self.outcome.show()
        if manifest is None:
            self.outcome.show_lines([error or say("it stopped")], "fix")
            return
        entries = manifest["assets"]
        whole = sum(e["status"] in {"delivered", "unchanged"} for e in entries)
        furthest = max((e["deviation_m"] or 0.0 for e in entries), default=0.0)
        off = (
            say("no vertex is further off than {furthest}", furthest=format_deviation(furthest))
            if furthest
            else say("every vertex is exact")
        )
        text = say("{whole} of {count} delivered and proved; {off}.", whole=whole, count=len(entries), off=off)
        if self._is_dry:
            text = say("Nothing was written. {whole} of {count} would be delivered.", whole=whole, count=len(entries))
        stops = [_in_our_words(w) for w in manifest["warnings"] if w.startswith(WOULD_STOP)]
        if stops:
            text = say(
                "Nothing was written, and nothing would be. Without what is in the way: {whole} of {count}.",
                whole=whole,
                count=len(entries),
            )
        others = [w for w in manifest["warnings"] if not w.startswith(WOULD_STOP)]
        lines = [text, *(say("In the way: {w}", w=w) for w in stops), *others]
        self.outcome.show_lines(lines, "fix" if stops or whole < len(entries) else "true", most=max(4, 1 + len(stops)))
        if not self._is_dry:
            self.afterwards.show_manifest(manifest, self._into)
        self.results.show_all(entries)


def _in_our_words(stop: str) -> str:
    """Return what would stop a run, with the way out that there is here instead of the command's."""
    words = stop.removeprefix(WOULD_STOP)
    if words.endswith(Occupied.options):
        return say(
            "{removesuffix}. Let it replace an earlier delivery, or choose another folder",
            removesuffix=words.removesuffix(Occupied.options),
        )
    return words
