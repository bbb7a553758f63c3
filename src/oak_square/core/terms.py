"""The words of sheets and files that people read as they stand: what has a name of its own in each language."""

from __future__ import annotations

from oak_square.core.words import Words, say

__all__ = ["TERMS", "along_word", "term"]

# What `term` is asked for: the translations have a word for each.
TERMS = (
    "width", "height", "depth", "diagonal", "longest", "rotation", "scale", "location", "node", "part", "group",
    "parts", "groups", "nodes", "asset", "all", "picked", "whole", "xyz", "xzy", "yxz", "yzx", "zxy", "zyx",
    "metres", "centimetres", "millimetres", "kilometres", "inches", "feet", "yards", "metre", "centimetre",
    "millimetre", "kilometre", "inch", "foot", "yard", "narrow", "wide", "low", "high", "shallow", "deep", "left",
    "right", "bottom", "top", "back", "front", "middle", "side", "corner", "or", "within", "and", "by", "unit",
    "format", "extent", "factor", "match", "measure", "declared", "guess", "point", "span", "angle", "plane",
    "circle", "surface", "base", "origin", "mean", "common", "own", "world", "pivot", "parent", "children", "mass",
    "received", "proportions", "volume", "none", "degrees", "angles", "world's", "bake", "reset", "shape", "set",
    "move", "turn", "any", "even", "log", "play", "stop", "likely", "of", "reads", "about", "up", "square", "keep",
    "vertex", "edge", "face", "note", "check", "fix", "true", "odd", "doubt", "baked", "grounded", "upright", "mark",
    "datum", "berth", "delivered", "refused", "failed", "unchanged", "ready", "reading", "open", "action", "means",
    "finding", "setting", "manual", "level", "slope", "uneven", "applied", "nothing", "edge middle", "face centre",
    "circle centre", "box point", "view", "itself", "box", "vertices", "wider", "narrower", "module", "grid",
    "arrangement", "looks", "diameter", "radius", "tilt", "length", "rim",
)  # fmt: skip


def term(word: str) -> str:
    """Return a word of sheets and files, such as `rotation` or `left`, in the language spoken; others as they are."""
    return word if isinstance(word, Words) else say(word)


def along_word(along: str) -> str:
    """Return the axes in force as people read them: `world`, or `datum hinge`."""
    name = along.removeprefix("datum ")
    return say("datum {name}", name=name) if name != along else term(along)
