"""Whose frame numbers are told in: the world's, the parent's, another part's or a datum's."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from typing import Any

import numpy as np
from numpy.typing import NDArray
from PySide6.QtCore import QSignalBlocker
from PySide6.QtWidgets import QComboBox, QWidget

from oak_square.core.scene import Asset
from oak_square.core.words import say

__all__ = ["ToldIn"]

Array = NDArray[np.float64]
_MOST_NAMES = 200


class ToldIn(QComboBox):
    """Offers frames by their names. The first entry has the key None; others `("node", i)` and `("datum", name)`."""

    def __init__(
        self, name: str, tip: str, first: str, parent: QWidget, *, more: Sequence[tuple[str, Any]] = ()
    ) -> None:
        super().__init__(parent)
        self.setAccessibleName(name)
        self.setToolTip(tip)
        self._first: list[tuple[str, Any]] = [(first, None), *more]
        for words, key in self._first:
            self.addItem(words, key)

    @property
    def key(self) -> Any:
        """What is chosen."""
        return self.currentData()

    def offer(self, asset: Asset | None, nodes: tuple[int, ...] | None, names: Mapping[str, Sequence[str]]) -> None:
        """Offer the frames for what is aimed at: of one part or asset, for several stand in several."""
        one = asset is not None and (nodes is None or len(nodes) == 1)
        told = list(self._first)
        if one and asset is not None and nodes is not None:
            above = asset.nodes[nodes[0]].parent
            told += [(say("its parent"), ("node", above))] if above is not None else []
            told += [(say("part {name}", name=n.name), ("node", i)) for i, n in enumerate(asset.nodes[:_MOST_NAMES])
                     if i not in (above, nodes[0])]  # fmt: skip
        told += [(f"datum {name}", ("datum", name)) for name in names.get("datum", ())] if one else []
        held = self.key
        if [self.itemText(k) for k in range(self.count())] != [words for words, _ in told]:
            with QSignalBlocker(self):
                self.clear()
                for words, key in told:
                    self.addItem(words, key)
                self.setCurrentIndex(max(0, next((k for k, t in enumerate(told) if t[1] == held), 0)))

    def frame(self, asset: Asset | None, datum: Callable[[str, Asset], Array]) -> Array:
        """Return world from the frame that is chosen, working frame; a node's without its scale, else the world's."""
        frame = np.eye(4)
        if not isinstance(self.key, tuple) or asset is None:
            return frame
        kind, which = self.key
        if kind == "datum":
            return datum(which, asset)
        world = asset.worlds[which]
        lengths = np.linalg.norm(world[:3, :3], axis=0)
        frame[:3, :3] = world[:3, :3] / np.where(lengths > 0, lengths, 1.0)
        frame[:3, 3] = world[:3, 3]
        return frame
