"""Between the window and how it looks: its colours, its size, what it speaks, and whether anything moves."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

from PySide6.QtCore import QObject, Qt
from PySide6.QtGui import QAction
from PySide6.QtWidgets import QApplication, QMenu, QWidget

from oak_square.app.desk.view_desk import ViewDesk
from oak_square.app.session.habit_book import HabitBook
from oak_square.app.session.habits import TEXT_SIZES, Habits
from oak_square.app.session.session import Session
from oak_square.app.widgets import theme
from oak_square.app.widgets.actions import Actions
from oak_square.core.words import say

__all__ = ["LooksDesk"]

_TONES = {
    "light": say("Colours of the day"),
    "dark": say("Colours of the night"),
    "desktop": say("Colours as the desktop has them"),
}
# Each says itself in its own words: whoever can't read one finds the way back.
_LANGUAGES = {
    "en": "Words in English",
    "de": "Text auf Deutsch",
    "desktop": say("Words as the desktop has them"),
}
_MOVING_EFFECTS = (
    Qt.UIEffect.UI_AnimateMenu,
    Qt.UIEffect.UI_AnimateCombo,
    Qt.UIEffect.UI_AnimateTooltip,
    Qt.UIEffect.UI_AnimateToolBox,
    Qt.UIEffect.UI_FadeMenu,
    Qt.UIEffect.UI_FadeTooltip,
)


class LooksDesk(QObject):
    """Dresses the window as is wanted, now and at the next start."""

    def __init__(
        self,
        session: Session,
        habits: HabitBook,
        deeds: Actions,
        desk: ViewDesk,
        menu: QMenu,
        drawn_anew: Callable[[], object],
        window: QWidget,
    ) -> None:
        super().__init__(window)
        self._session, self._habits, self._desk = session, habits, desk
        self._blink = QApplication.cursorFlashTime()
        self._effects = [effect for effect in _MOVING_EFFECTS if QApplication.isEffectEnabled(effect)]
        below = menu.addMenu(say("Looks"))
        self._tones: dict[str, QAction] = {}
        for tone, words in _TONES.items():
            self._tones[tone] = deeds.add(
                f"tone.{tone}", words, "", partial(habits.change_one, "tone", tone), sets="looks"
            )
        self._sizes: dict[int, QAction] = {}
        for size in TEXT_SIZES:
            words = say("Text and controls at {size} %", size=size)
            self._sizes[size] = deeds.add(f"text.{size}", words, "", partial(self._set_size, size), sets="looks")
        self._languages: dict[str, QAction] = {}
        for code, words in _LANGUAGES.items():
            self._languages[code] = deeds.add(
                f"language.{code}", words, "", partial(self._set_language, code), sets="looks"
            )
        self._still = deeds.add(
            "still", say("Keep everything still: no blinking, no sweeping"), "", self._turn_stillness, sets="looks"
        )
        for items in (self._tones.values(), self._sizes.values(), self._languages.values(), [self._still]):
            for item in items:
                item.setCheckable(True)
                below.addAction(item)
            below.addSeparator()
        theme.follow_tone(drawn_anew)
        habits.follow(self._follow_habits)

    def _set_size(self, size: int) -> None:
        if size != self._habits.now.text:
            self._session.messages.said.emit(
                say("Text and controls stand at {size} % from the next start on", size=size)
            )
        self._habits.change_one("text", size)

    def _set_language(self, code: str) -> None:
        if code != self._habits.now.language:
            self._session.messages.said.emit(say("The words are other ones from the next start on"))
        self._habits.change_one("language", code)

    def _turn_stillness(self) -> None:
        self._habits.change(still=not self._habits.now.still)

    def _follow_habits(self, habits: Habits) -> None:
        for tone, item in self._tones.items():
            item.setChecked(tone == habits.tone)
        for size, item in self._sizes.items():
            item.setChecked(size == habits.text)
        for code, item in self._languages.items():
            item.setChecked(code == habits.language)
        self._still.setChecked(habits.still)
        theme.dress(habits.tone)
        QApplication.setCursorFlashTime(0 if habits.still else self._blink)
        for effect in self._effects:
            QApplication.setEffectEnabled(effect, not habits.still)
        self._desk.display.playing.set_still(habits.still)
        self._desk.swinging.set_still(habits.still)
