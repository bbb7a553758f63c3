"""Colours, type and the style sheet: paper, ink, oak."""

from __future__ import annotations

from pathlib import Path
from string import Template

from PySide6.QtGui import QColor, QFont, QFontDatabase
from PySide6.QtWidgets import QApplication

__all__ = ["TOKENS", "colour", "font", "install"]

TOKENS: dict[str, str] = {
    "paper": "#F6F2EA", "card": "#FFFDF8", "line": "#D9CFBE", "ink": "#2A2521", "ink-soft": "#6B6157",
    "oak": "#A8743A", "oak-deep": "#7A5226", "oak-pale": "#EAD9BD", "verdigris": "#1F7A74",
    "fix": "#B4432F", "check": "#B97A10", "note": "#56687A", "true": "#5C7F3A",
    "x": "#BF4A3F", "y": "#4F8A3B", "z": "#2F66A8", "view-high": "#F1ECE2", "view-low": "#DDD4C4",
}  # fmt: skip
_FAMILY = "Lato"
_HOME = Path(__file__).parent.parent


def colour(name: str, alpha: int = 255) -> QColor:
    """Return a token's colour."""
    found = QColor(TOKENS[name])
    found.setAlpha(alpha)
    return found


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
    sheet = Template((_HOME / "style.qss").read_text("utf-8"))
    values = {name.replace("-", "_"): value for name, value in TOKENS.items()}
    app.setStyleSheet(sheet.substitute(values, icons=(_HOME / "icons").as_posix()))
