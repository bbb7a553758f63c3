"""The stage panel: what each stage can settle, what it applies to, and what it would do."""

from oak_square.app.panel.column import PanelColumn

__all__ = ["PanelColumn"]
