"""How many prims a stage would come to, told from its layers alone: references that double are met before they grow."""

from __future__ import annotations

import os
from collections.abc import Iterator, Mapping
from pathlib import Path
from typing import Any

from oak_square.core.errors import BadFile
from oak_square.core.words import say

__all__ = ["check_growth"]

_ARCS = ("referenceList", "payloadList", "inheritPathList", "specializesList")


def check_growth(layers: Mapping[Path, Any], root: Path, file: str, most: int) -> None:
    """Make sure that what layers refer to does not come to more prims than a model may have.

    Parameters
    ----------
    layers : mapping of path to layer
        Every layer a stage is made of, by its real path.
    root : Path
        Of the first.

    Raises
    ------
    BadFile
        If it does, or if prims and references nest deeper than they can be followed.
    """
    if not any(_has_arcs(layer) for layer in layers.values()):
        return
    counter = _Counter(layers, most)
    try:
        total = counter.below(root, "/")
    except RecursionError as error:
        raise BadFile(file, say("nests prims and references deeper than can be followed")) from error
    if total > most:
        raise BadFile(file, say("its references come to over {most} prims", most=most))


def _has_arcs(layer: Any) -> bool:
    found = False

    def look(path: Any) -> None:
        nonlocal found
        if not found and (path.IsPrimPath() or path.IsPrimVariantSelectionPath()):
            spec = layer.GetPrimAtPath(path)
            found = spec is not None and any(_list_arcs(spec, name) for name in _ARCS)

    layer.Traverse("/", look)
    return found


def _list_arcs(spec: Any, name: str) -> list[Any]:
    return list(getattr(spec, name).GetAddedOrExplicitItems())


class _Counter:
    """Counts prims, each place once; what refers to itself, which is no valid stage, counts as nothing."""

    def __init__(self, layers: Mapping[Path, Any], most: int) -> None:
        self._layers, self._most = layers, most
        self._known: dict[tuple[Path, str], int] = {}
        self._open: set[tuple[Path, str]] = set()

    def below(self, place: Path, path: str) -> int:
        """Return how many prims a prim, or a layer's root, comes to with all below it: one too many at the most."""
        key = place, path
        if key in self._known:
            return self._known[key]
        spec = self._layers[place].GetPrimAtPath(path) if place in self._layers else None
        if spec is None or key in self._open:
            return 0
        self._open.add(key)
        total = 1
        for child in self._list_children(spec):
            total += self.below(place, str(child.path))
        for target, inner in self._list_targets(place, spec):
            total += self.below(target, inner)
            if total > self._most:
                break
        self._open.discard(key)
        self._known[key] = min(total, self._most + 1)
        return self._known[key]

    def _list_children(self, spec: Any) -> Iterator[Any]:
        yield from spec.nameChildren
        for variants in spec.variantSets.values():
            for variant in variants.variants.values():
                yield variant.primSpec

    def _list_targets(self, place: Path, spec: Any) -> Iterator[tuple[Path, str]]:
        if spec.path == spec.path.absoluteRootPath:
            for own in spec.layer.subLayerPaths:
                yield Path(os.path.realpath(place.parent / str(own))), "/"
            return
        for name in _ARCS[:2]:
            for arc in _list_arcs(spec, name):
                own = str(arc.assetPath).split("[", 1)[0]
                target = Path(os.path.realpath(place.parent / own)) if own else place
                layer = self._layers.get(target)
                inner = str(arc.primPath) or (f"/{layer.defaultPrim}" if layer is not None else "")
                if inner:
                    yield target, inner
        for name in _ARCS[2:]:
            yield from ((place, str(path)) for path in _list_arcs(spec, name))
