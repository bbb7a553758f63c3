"""Colours, type and the style sheet: paper, ink, oak; by day, and by night."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from string import Template

from PySide6.QtCore import QObject, Qt, Signal
from PySide6.QtGui import QColor, QFont, QFontDatabase, QGuiApplication, QPalette
from PySide6.QtWidgets import QApplication

__all__ = ["SETS", "TONES", "colour", "dress", "follow_tone", "font", "install", "is_dark"]

_LIGHT: dict[str, str] = {
    "paper": "#F6F2EA", "card": "#FFFDF8", "line": "#D9CFBE", "ink": "#2A2521", "ink-soft": "#6B6157",
    "oak": "#A8743A", "oak-deep": "#7A5226", "oak-pale": "#EAD9BD", "verdigris": "#1F7A74",
    "fix": "#B4432F", "check": "#B97A10", "note": "#56687A", "true": "#5C7F3A",
    "x": "#BF4A3F", "y": "#4F8A3B", "z": "#2F66A8", "view-high": "#F1ECE2", "view-low": "#DDD4C4",
    # Shades of those above, each for one place.
    "ink-faint": "#9A9085", "oak-pressed": "#6A4620", "line-soft": "#EEE7DA", "over": "rgba(255, 253, 248, 215)",
    "measure": "#8A2F6B", "ground": "#D3C8B5", "ground-edge": "#CFC5B4", "staff": "#B4432F", "staff-edge": "#A99B85",
    "figure": "#8C8272", "brass": "#D9A441", "brass-pale": "#E8C27A", "thumb": "#F6F2EA",
}  # fmt: skip
_DARK: dict[str, str] = {
    "paper": "#211D19", "card": "#2B2621", "line": "#4A4138", "ink": "#F2EBDD", "ink-soft": "#BDB1A0",
    "oak": "#C8945A", "oak-deep": "#DDB37C", "oak-pale": "#4D3D29", "verdigris": "#58BDB4",
    "fix": "#EE8D7B", "check": "#E3A84E", "note": "#A3B5C8", "true": "#A2C584",
    "x": "#E6857B", "y": "#8CC684", "z": "#7FAEE6", "view-high": "#453F37", "view-low": "#2D2924",
    "ink-faint": "#877D71", "oak-pressed": "#EBC696", "line-soft": "#393129", "over": "rgba(43, 38, 33, 225)",
    "measure": "#E79AC8", "ground": "#3A342C", "ground-edge": "#5A5044", "staff": "#D2604C", "staff-edge": "#7C7061",
    "figure": "#8F8575", "brass": "#D9A441", "brass-pale": "#E8C27A", "thumb": "#6E6558",
}  # fmt: skip
SETS = {"light": _LIGHT, "dark": _DARK}
"""The tokens by day and by night: the same names."""

TONES = ("light", "dark", "desktop")
"""What a person may want: one of the sets, or the one that the desktop asks for."""

_FAMILY = "Lato"
_HOME = Path(__file__).parent.parent


class _Dress(QObject):
    """What the application wears now."""

    changed = Signal()

    def __init__(self) -> None:
        super().__init__()
        self.tokens = _LIGHT
        self.wanted = "light"


_dress = _Dress()


def colour(name: str, alpha: int = 255) -> QColor:
    """Return a token's colour as it is now."""
    found = QColor(_dress.tokens[name])
    found.setAlpha(alpha)
    return found


def is_dark() -> bool:
    """Whether the tokens are those of the night."""
    return _dress.tokens is _DARK


def font(pixels: int = 13, *, bold: bool = False, semibold: bool = False) -> QFont:
    """Return the interface's type at a size in pixels; its figures are tabular."""
    found = QFont(_FAMILY)
    found.setPixelSize(pixels)
    if bold:
        found.setWeight(QFont.Weight.Bold)
    elif semibold:
        found.setWeight(QFont.Weight.DemiBold)
    return found


def install(app: QApplication) -> None:
    """Load the shipped fonts and dress the application; once."""
    if app.property("dressed"):
        return
    app.setProperty("dressed", True)
    for path in sorted((_HOME / "fonts").glob("*.ttf")):
        QFontDatabase.addApplicationFont(str(path))
    app.setStyle("Fusion")
    app.setFont(font())
    QGuiApplication.styleHints().colorSchemeChanged.connect(lambda _: _dress_again())
    _dress_application(app)


def dress(tone: str) -> None:
    """Have the application wear a set of tokens, or the one that the desktop asks for, now and as that changes."""
    _dress.wanted = tone if tone in TONES else "light"
    _dress_again()


def follow_tone(work: Callable[[], object]) -> None:
    """Do something whenever the tokens are others: a method of a QObject, which is let go of with that."""
    _dress.changed.connect(work)


def _desktop_is_dark() -> bool:
    return QGuiApplication.styleHints().colorScheme() == Qt.ColorScheme.Dark


def _dress_again() -> None:
    dark = _dress.wanted == "dark" or (_dress.wanted == "desktop" and _desktop_is_dark())
    tokens = _DARK if dark else _LIGHT
    app = QApplication.instance()
    if tokens is _dress.tokens or not isinstance(app, QApplication):
        return
    _dress.tokens = tokens
    _dress_application(app)
    _dress.changed.emit()


def _dress_application(app: QApplication) -> None:
    palette = QPalette()
    for role, name in (
        (QPalette.ColorRole.Window, "paper"),
        (QPalette.ColorRole.WindowText, "ink"),
        (QPalette.ColorRole.Base, "card"),
        (QPalette.ColorRole.AlternateBase, "paper"),
        (QPalette.ColorRole.Text, "ink"),
        (QPalette.ColorRole.PlaceholderText, "ink-soft"),
        (QPalette.ColorRole.Button, "paper"),
        (QPalette.ColorRole.ButtonText, "ink"),
        (QPalette.ColorRole.ToolTipBase, "card"),
        (QPalette.ColorRole.ToolTipText, "ink"),
        (QPalette.ColorRole.Highlight, "oak-pale"),
        (QPalette.ColorRole.HighlightedText, "ink"),
        (QPalette.ColorRole.Link, "oak-deep"),
    ):
        palette.setColor(role, colour(name))
    app.setPalette(palette)
    sheet = Template((_HOME / "style.qss").read_text("utf-8"))
    values = {name.replace("-", "_"): value for name, value in _dress.tokens.items()}
    shade = "dark" if is_dark() else "light"
    app.setStyleSheet(sheet.substitute(values, icons=(_HOME / "icons" / shade).as_posix()))
