"""Plain words by which things are looked for that are called otherwise here: never shown, only found by."""

from __future__ import annotations

from fnmatch import fnmatchcase
from functools import lru_cache

from oak_square.core.findings.finding import KINDS
from oak_square.core.words import say

__all__ = ["other_words"]

# Patterns on what entries are called inside; words that many a trade has for it, in each language its own.
_OTHER_WORDS = {
    "action:stage.deliver": say("export write output deliver save models", "other words"),
    "means:deliver.run": say("export write output save models", "other words"),
    "means:deliver.forms.check*": say("validate test rules", "other words"),
    "action:open-folder": say("import load add folder", "other words"),
    "action:open-files": say("import load add models", "other words"),
    "action:close": say("clear new empty", "other words"),
    "action:square": say("align straighten level", "other words"),
    "action:line-up": say("align match orientation", "other words"),
    "action:lay-face": say("align flat lay down", "other words"),
    "action:zero": say("zero center centre origin home", "other words"),
    "action:ground": say("ground floor drop stand", "other words"),
    "means:place.ground": say("ground floor drop stand", "other words"),
    "action:centre": say("center middle", "other words"),
    "means:bake.usual": say("clean", "other words"),
    "means:bake.means.buttons.reset": say("clean clear", "other words"),
    "means:bake.forms.split*": say("separate split loose pieces", "other words"),
    "means:bake.forms.parent*": say("parent group hang attach", "other words"),
    "action:hold.rule": say("move translate shift", "other words"),
    "action:hold.dial": say("rotate turn spin", "other words"),
    "action:hold.callipers": say("scale size resize", "other words"),
    "action:hold.dividers": say("measure distance angle", "other words"),
    "action:leave-out": say("hide exclude skip", "other words"),
    "action:said": say("log messages history", "other words"),
    "action:manual": say("help documentation guide", "other words"),
    "action:keys": say("shortcuts hotkeys keyboard settings preferences", "other words"),
    "action:recheck": say("refresh reload update", "other words"),
    "action:shelf": say("presets templates library", "other words"),
    "setting:tone.dark": say("dark night theme settings preferences", "other words"),
    "setting:tone.light": say("light day theme settings preferences", "other words"),
    "setting:tone.desktop": say("system theme settings preferences", "other words"),
    "setting:text.*": say("font zoom larger smaller text size settings preferences", "other words"),
    "setting:language.*": say("language translation settings preferences", "other words"),
    "setting:still": say("animation motion settings preferences", "other words"),
    "setting:foot.unit": say("units metric imperial inches settings preferences", "other words"),
    "setting:hold.things*": say("rename marks names", "other words"),
    "setting:hold.switches.*": say("snapping magnet", "other words"),
    "action:view.looks.*": say("camera view", "other words"),
}


@lru_cache(maxsize=4096)
def other_words(name: str) -> str:
    """Return the plain words, with spaces between, by which an entry of that name is found too; empty for none."""
    kind, _, own = name.partition(":")
    if kind == "finding":
        # From what is seen downstream to what may cause it: told by its symptoms, and by the words of its reason.
        told = KINDS[own.rpartition("/")[2]]
        return f"{told.symptoms} {told.why}"
    return " ".join(words for pattern, words in _OTHER_WORDS.items() if fnmatchcase(name, pattern))
