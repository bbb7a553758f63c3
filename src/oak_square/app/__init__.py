"""The window: with the languages it speaks, all that imports Qt or VTK."""

from oak_square.app.start import open_window, run_demo, run_window

__all__ = ["open_window", "run_demo", "run_window"]
