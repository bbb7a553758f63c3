"""How the window looks: by day and by night, larger, narrower, still; by keyboard, and read aloud."""

from __future__ import annotations

import os
import subprocess
import sys

import pytest
from PySide6.QtCore import Qt
from PySide6.QtGui import QAccessible
from PySide6.QtWidgets import QApplication, QWidget

from oak_square.app.session.habit_book import HabitBook
from oak_square.app.view.view_area import VIEWS
from oak_square.app.widgets import theme
from oak_square.app.widgets.theme import SETS
from oak_square.core.stages import STAGES
from oak_square.demo import BATCH, SHEET
from oak_square.languages import wanted_language
from tests.app.clipped import not_whole
from tests.patience import WAIT_MS


@pytest.fixture(autouse=True)
def by_day(qapp):
    yield
    theme.dress("light")
    QApplication.setCursorFlashTime(1000)


def luminance(hexed):
    parts = [int(hexed[k : k + 2], 16) / 255 for k in (1, 3, 5)]
    linear = [c / 12.92 if c <= 0.04045 else ((c + 0.055) / 1.055) ** 2.4 for c in parts]
    return 0.2126 * linear[0] + 0.7152 * linear[1] + 0.0722 * linear[2]


def contrast(one, other):
    """As WCAG 2 defines it."""
    light, dark = sorted((luminance(one), luminance(other)), reverse=True)
    return (light + 0.05) / (dark + 0.05)


@pytest.mark.parametrize("tone", SETS)
def test_words_stand_out_from_what_they_are_written_on(tone):
    tokens = SETS[tone]
    for ink in ("ink", "ink-soft", "fix", "verdigris", "measure", "note"):
        for ground in ("paper", "card"):
            assert contrast(tokens[ink], tokens[ground]) >= 4.5, (ink, ground)
    assert contrast(tokens["ink"], tokens["oak-pale"]) >= 4.5
    assert contrast(tokens["card"], tokens["oak-deep"]) >= 4.5
    assert set(SETS["light"]) == set(SETS["dark"])


def test_colours_change_at_once_and_are_kept(hand, batch, tmp_path):
    path = tmp_path / "window.json"
    hand.window.habits._path = path
    hand.open(batch)
    ground = hand.window.grab().toImage().pixelColor(100, 40)
    hand.window.deeds["tone.dark"].trigger()
    hand.settle()
    assert theme.is_dark()
    dark = hand.window.grab().toImage().pixelColor(100, 40)
    assert dark.lightness() < 80 < ground.lightness()
    assert hand.window.deeds["tone.dark"].isChecked()
    hand.qtbot.waitUntil(lambda: HabitBook(path).now.tone == "dark", timeout=WAIT_MS)
    hand.window.deeds["tone.light"].trigger()
    assert not theme.is_dark()


def test_a_language_is_chosen_for_the_next_start_and_kept(hand, tmp_path, monkeypatch):
    path = tmp_path / "oak-square" / "window.json"
    hand.window.habits._path = path
    assert hand.window.deeds["language.desktop"].isChecked()
    hand.window.deeds["language.de"].trigger()
    hand.settle()
    assert hand.window.deeds["language.de"].isChecked()
    assert "from the next start on" in hand.window.foot.words.text()
    hand.qtbot.waitUntil(lambda: path.exists() and HabitBook(path).now.language == "de", timeout=WAIT_MS)
    monkeypatch.delenv("OAK_SQUARE_LANGUAGE", raising=False)
    monkeypatch.setenv("XDG_CONFIG_HOME", str(tmp_path))
    assert wanted_language(kept=True) == "de"
    assert hand.window.deeds["language.de"].text() == "Text auf Deutsch"


def test_as_the_desktop_has_it_follows_the_desktop(hand, qapp, monkeypatch):
    # The offscreen platform knows no colours of a desktop: what it would say, and that it says so, are told here.
    hints = qapp.styleHints()
    hand.window.deeds["tone.desktop"].trigger()
    assert not theme.is_dark()
    for dark, scheme in ((True, Qt.ColorScheme.Dark), (False, Qt.ColorScheme.Light)):
        monkeypatch.setattr(theme, "_desktop_is_dark", lambda dark=dark: dark)
        hints.colorSchemeChanged.emit(scheme)
        assert theme.is_dark() == dark
    monkeypatch.setattr(theme, "_desktop_is_dark", lambda: True)
    hand.window.deeds["tone.light"].trigger()
    hints.colorSchemeChanged.emit(Qt.ColorScheme.Dark)
    assert not theme.is_dark()


def test_still_stops_what_blinks_and_sweeps(hand):
    effect = Qt.UIEffect.UI_AnimateMenu
    before = QApplication.isEffectEnabled(effect)
    hand.window.deeds["still"].trigger()
    assert not QApplication.isEffectEnabled(effect)
    assert QApplication.cursorFlashTime() == 0
    assert hand.window.desk.swinging._timer.interval() >= 500
    assert hand.window.desk.display.playing._timer.interval() >= 500
    hand.window.deeds["still"].trigger()
    assert QApplication.isEffectEnabled(effect) == before
    assert QApplication.cursorFlashTime() > 0
    assert hand.window.desk.swinging._timer.interval() < 100


def test_a_larger_text_makes_all_as_much_larger_from_the_next_start_on(tmp_path):
    config = tmp_path / "config" / "oak-square"
    config.mkdir(parents=True)
    (config / "window.json").write_text('{"text": 150}')
    script = (
        "from oak_square.app.start import open_window\n"
        "window = open_window([])\n"
        "print(window.devicePixelRatioF())\n"
        "window.close()\n"
    )
    environment = {**os.environ, "XDG_CONFIG_HOME": str(tmp_path / "config"), "QT_QPA_PLATFORM": "offscreen"}
    environment.pop("QT_SCALE_FACTOR", None)
    environment |= {"XDG_STATE_HOME": str(tmp_path), "XDG_CACHE_HOME": str(tmp_path)}
    done = subprocess.run([sys.executable, "-c", script], env=environment, capture_output=True, text=True, check=True)
    assert float(done.stdout) == 1.5


SIZES = {"1024x700": (1024, 700), "1280x800 at 150 %": (853, 533), "1280x800": (1280, 800), "2560x1440": (2560, 1440)}


@pytest.mark.parametrize("size", SIZES)
def test_no_view_and_no_stage_cuts_words_off_or_lays_one_thing_over_another(hand, size):
    hand.window.habits.change(tray=("means:size.factor", "action:view.line-up"))
    hand.open(BATCH)
    hand.open(SHEET)
    hand.window.resize(*SIZES[size])
    found = {}
    for view in VIEWS:
        hand.window._show_view(view)
        for stage in STAGES if view == "bench" else STAGES[:1]:
            hand.session.enter_stage(stage)
            hand.settle()
            for column in ("left", "right"):
                hand.window.frame.show_column(column)
                QApplication.sendPostedEvents()
                for line in not_whole(hand.window):
                    found.setdefault(line, (view, stage))
    assert not found


@pytest.mark.parametrize("size", SIZES)
def test_the_opening_screen_the_tour_and_the_finder_are_seen_whole(hand, size):
    hand.window.resize(*SIZES[size])
    hand.settle()
    assert not not_whole(hand.window.opening)
    hand.window.beginning.begin()
    hand.settle()
    for _ in hand.window.beginning.steps:
        assert hand.window.rect().contains(hand.window.tour_card.geometry())
        assert not not_whole(hand.window.tour_card)
        hand.click(hand.window.tour_card.on)
    hand.window.finder_desk.open()
    assert hand.window.rect().contains(hand.window.finder.geometry())
    assert not not_whole(hand.window.finder)


def test_all_that_takes_the_keyboard_has_a_name_to_be_read(hand):
    hand.open(BATCH)
    hand.open(SHEET)
    nameless = {}
    for stage in STAGES:
        hand.stage(stage)
        for widget in hand.window.findChildren(QWidget):
            if widget.isVisible() and widget.focusPolicy() & Qt.FocusPolicy.TabFocus and widget.focusProxy() is None:
                read = QAccessible.queryAccessibleInterface(widget)
                if not read.text(QAccessible.Text.Name):
                    nameless[type(widget).__name__, widget.toolTip()] = stage
    assert not nameless


def test_rows_and_stages_are_read_with_what_is_seen_of_them(hand, batch):
    hand.open(batch)
    model = hand.window.batch.model()
    row = next(r for r in hand.window.batch.shown if ("bake", "fix") in r.marks)
    said = model.data(hand.window.batch.place_of(row.file), Qt.ItemDataRole.AccessibleTextRole)
    assert said.startswith(f"{row.title}, {row.detail}")
    assert "fix at bake" in said
    ruler = QAccessible.queryAccessibleInterface(hand.window.ruler)
    assert ruler.role() == QAccessible.Role.PageTabList
    assert "Bake, 2 to settle" in [hand.window.ruler.tabText(k) for k in range(7)]


def test_focus_is_seen_wherever_the_keyboard_goes(hand, batch):
    hand.open(batch)
    hand.stage("size")
    hand.window.activateWindow()
    hand.window.batch.setFocus()
    unseen = []
    for _ in range(40):
        hand.qtbot.keyClick(QApplication.focusWidget(), Qt.Key.Key_Tab)
        QApplication.processEvents()
        widget = QApplication.focusWidget()
        with_focus = widget.grab().toImage()
        widget.clearFocus()
        QApplication.processEvents()
        if widget.grab().toImage() == with_focus:
            unseen.append(f"{type(widget).__name__} {widget.accessibleName()}")
        widget.setFocus()
    assert not unseen
