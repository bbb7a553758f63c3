"""The hierarchy of the lead asset: its parts and groups, and the picked one's pivot, rotation, scale and box."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from glob import escape
from typing import Any

import numpy as np
from PySide6.QtCore import QAbstractItemModel, QMimeData, QModelIndex, QPersistentModelIndex, QPoint, Qt, Signal
from PySide6.QtWidgets import QLabel, QMenu, QTreeView, QVBoxLayout, QWidget

from oak_square.app.facts.stages import box_words
from oak_square.app.widgets.entry_keys import FilterEdit, Framing
from oak_square.core.boxes import node_box, tree_box
from oak_square.core.node_names import name_of, nodes_named
from oak_square.core.placement import turn_degrees
from oak_square.core.scene import Asset
from oak_square.core.shown_units import ShownUnit
from oak_square.core.terms import term
from oak_square.core.words import number, say

__all__ = ["Hierarchy"]

_MOST_CHILDREN = 12  # that the menu names
Index = QModelIndex | QPersistentModelIndex
_DRAGGED = "application/x-oak-square-nodes"


class _HierarchyModel(QAbstractItemModel):
    """An asset's nodes, asked for as they are unfolded."""

    dropped = Signal(tuple, int)  # nodes, and what they shall hang from; -1 for nothing

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self.asset: Asset | None = None
        self._roots: tuple[int, ...] = ()
        self._place: dict[int, int] = {}
        self._names: list[str] = []

    def show(self, asset: Asset | None) -> None:
        self.beginResetModel()
        self.asset = asset
        nodes = asset.nodes if asset is not None else ()
        self._roots = tuple(i for i, n in enumerate(nodes) if n.parent is None)
        families = (self._roots, *asset.children) if asset is not None else ()
        self._place = {node: k for family in families for k, node in enumerate(family)}
        often = Counter(node.name for node in nodes)
        seen = Counter[str]()
        self._names = []
        for node in nodes:
            seen[node.name] += 1
            # As a step names it among its namesakes.
            self._names.append(node.name if often[node.name] == 1 else f"{node.name} #{seen[node.name]}")
        self.endResetModel()

    def _list_children(self, parent: Index) -> tuple[int, ...]:
        if self.asset is None:
            return ()
        return self.asset.children[parent.internalId()] if parent.isValid() else self._roots

    def rowCount(self, parent: Index = QModelIndex()) -> int:  # noqa: B008  Qt's own default
        return len(self._list_children(parent))

    def columnCount(self, parent: Index = QModelIndex()) -> int:  # noqa: B008  Qt's own default
        return 1

    def index(self, row: int, column: int, parent: Index = QModelIndex()) -> QModelIndex:  # noqa: B008  Qt's own
        children = self._list_children(parent)
        return self.createIndex(row, column, children[row]) if 0 <= row < len(children) else QModelIndex()

    def parent(self, index: Index) -> QModelIndex:  # type: ignore[override]  # Qt overloads it
        if self.asset is None or not index.isValid():
            return QModelIndex()
        above = self.asset.nodes[index.internalId()].parent
        return QModelIndex() if above is None else self.index_of(above)

    def index_of(self, node: int) -> QModelIndex:
        return self.createIndex(self._place[node], 0, node)

    def data(self, index: Index, role: int = Qt.ItemDataRole.DisplayRole) -> Any:
        if self.asset is None or role not in (Qt.ItemDataRole.DisplayRole, Qt.ItemDataRole.ToolTipRole):
            return None
        node = self.asset.nodes[index.internalId()]
        if role == Qt.ItemDataRole.ToolTipRole:
            return f"{node.name}: {term(node.kind)}"
        name = self._names[index.internalId()]
        return name if node.kind == "part" else say("{name}  (group)", name=name)

    # Dragged rows

    def flags(self, index: Index) -> Qt.ItemFlag:
        usual = super().flags(index)
        drops = Qt.ItemFlag.ItemIsDropEnabled  # onto no row: it hangs from nothing
        return usual | drops | Qt.ItemFlag.ItemIsDragEnabled if index.isValid() else usual | drops

    def supportedDropActions(self) -> Qt.DropAction:
        return Qt.DropAction.MoveAction

    def mimeTypes(self) -> list[str]:
        return [_DRAGGED]

    def mimeData(self, indexes: Sequence[QModelIndex]) -> QMimeData:
        data = QMimeData()
        data.setData(_DRAGGED, ",".join(str(int(i.internalId())) for i in indexes).encode())
        return data

    def canDropMimeData(self, data: QMimeData, action: Qt.DropAction, row: int, column: int, parent: Index) -> bool:
        """Tell whether rows can hang there: from none of themselves, nor from what hangs below them."""
        nodes = self._read_dragged(data)
        if self.asset is None or not nodes:
            return False
        above = int(parent.internalId()) if parent.isValid() else None
        below = {b for n in nodes for b in self.asset.below(n)}
        return above not in below and any(self.asset.nodes[n].parent != above for n in nodes)

    def dropMimeData(self, data: QMimeData, action: Qt.DropAction, row: int, column: int, parent: Index) -> bool:
        """Wish for the dragged nodes to hang there; the rows are moved once they do."""
        if self.canDropMimeData(data, action, row, column, parent):
            self.dropped.emit(self._read_dragged(data), int(parent.internalId()) if parent.isValid() else -1)
        return False

    def _read_dragged(self, data: QMimeData) -> tuple[int, ...]:
        told = bytes(data.data(_DRAGGED).data()).decode("ascii", "replace")
        count = 0 if self.asset is None else len(self.asset.nodes)
        return tuple(int(n) for n in told.split(",") if n.isdigit() and int(n) < count)


class Hierarchy(QWidget):
    """Shows the nodes of one asset; wishes for some to be picked, or hung elsewhere."""

    frame_wished = Signal(bool)  # everything, or what is picked
    nodes_wished = Signal(tuple)  # their positions, the leading one last
    pieces_wished = Signal()  # what is picked, in its connected pieces
    hang_wished = Signal(tuple, int)  # which nodes, and from which they shall hang; -1 for none
    pivot_wished = Signal(dict)  # where the pivot of what is picked shall go, as a step says it

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._title = QLabel(self)
        self._title.setProperty("role", "section")
        self._title.setContentsMargins(12, 6, 12, 4)
        self.tree = QTreeView(self)
        self.tree.setAccessibleName(say("Hierarchy"))
        self.tree.setHeaderHidden(True)
        self.tree.setIndentation(14)
        self.tree.setUniformRowHeights(True)
        self.tree.setSelectionMode(QTreeView.SelectionMode.ExtendedSelection)
        self.tree.setToolTip(
            say("Click a part or group to pick it; with Ctrl or Shift, several. Drag onto another to hang them from it")
        )
        self.tree.setDragDropMode(QTreeView.DragDropMode.InternalMove)
        self.tree.setDropIndicatorShown(True)
        self._framing = Framing(self.tree)
        self._framing.wished.connect(self.frame_wished)
        self._nodes = _HierarchyModel(self.tree)
        self._nodes.dropped.connect(self.hang_wished)
        self.tree.setModel(self._nodes)
        self.tree.selectionModel().selectionChanged.connect(self._tell_nodes)
        self.tree.setContextMenuPolicy(Qt.ContextMenuPolicy.CustomContextMenu)
        self.tree.customContextMenuRequested.connect(self._offer_menu)
        self.menu = QMenu(self.tree)
        self.pattern = FilterEdit(self)
        self.pattern.setObjectName("filter")
        self.pattern.setPlaceholderText(say("pick by name: blade_*…"))
        self.pattern.setAccessibleName(say("Pick parts by name"))
        self.pattern.setToolTip(say("Pick all parts and groups that a pattern fits: * for any letters, ? for one"))
        self.pattern.textEdited.connect(self._pick_by_name)
        self.pattern.done.connect(lambda: self.tree.setFocus(Qt.FocusReason.OtherFocusReason))
        self._details = QLabel(self)
        self._details.setProperty("role", "soft")
        self._details.setWordWrap(True)
        self._details.setContentsMargins(12, 4, 12, 8)
        rows = QVBoxLayout(self)
        rows.setContentsMargins(0, 0, 0, 0)
        rows.setSpacing(0)
        rows.addWidget(self._title)
        rows.addWidget(self.pattern)
        rows.addWidget(self.tree, 1)
        rows.addWidget(self._details)
        self._showing = False
        self._shape: object = None

    def show_asset(self, asset: Asset | None, nodes: Sequence[int], unit: ShownUnit) -> None:
        """Match the tree to `asset` and the picked `nodes`, the last one leading; sends no wish."""
        self._showing = True
        shape = None if asset is None else (asset.file, tuple((n.name, n.parent, n.mesh is None) for n in asset.nodes))
        if shape != self._shape:
            self._shape = shape
            self._nodes.show(asset)
            self.tree.expandToDepth(3)
        else:
            self._nodes.asset = asset
        self._title.setText(say("hierarchy") if asset is None else say("hierarchy of {name}", name=asset.name))
        picked = [n for n in nodes if asset is not None and n < len(asset.nodes)]
        if picked != self._picked_nodes():
            self._select_picked(picked)
        words = self._describe_node(asset, picked[-1], unit) if picked else ""
        self._details.setText(
            say("{count} picked, the last one:\n{words}", count=len(picked), words=words) if len(picked) > 1 else words
        )
        if asset is None:
            self._details.setText(say("Select an asset: its parts and groups are listed here."))
        self.pattern.setVisible(asset is not None)
        self._details.setVisible(bool(self._details.text()))
        self._showing = False

    def _pick_by_name(self, text: str) -> None:
        """Pick what a pattern fits; plain letters fit wherever a name has them."""
        asset = self._nodes.asset
        if asset is None or not text.strip():
            return
        body = text.strip()
        pattern = body if any(c in body for c in "*?[/#") else f"*{escape(body)}*"
        self.nodes_wished.emit(nodes_named(asset, (pattern,)))

    def _offer_menu(self, at: QPoint) -> None:
        """Offer where the pivot of a row could go, and to take it apart, at once."""
        index, asset = self.tree.indexAt(at), self._nodes.asset
        if not index.isValid() or asset is None:
            return
        node = int(index.internalId())
        if node not in self._picked_nodes():
            self.nodes_wished.emit((node,))
        menu = self.menu
        menu.clear()
        kind = asset.nodes[node].kind
        whole = say("all below it") if kind == "group" or asset.children[node] else "it"
        self._add_pivot_item(say("Pivot to the middle of {whole}", whole=whole), {"at": "middle", "box": "tree"})
        self._add_pivot_item(say("Pivot to the base of {whole}", whole=whole), {"at": "base", "box": "tree"})
        if asset.nodes[node].parent is not None:
            self._add_pivot_item(say("Pivot to its parent's"), {"at": "parent"})
        for child in asset.children[node][:_MOST_CHILDREN]:
            self._add_pivot_item(
                say("Pivot to {name}'s", name=asset.nodes[child].name), {"at": {"part": name_of(asset, child)}}
            )
        if asset.children[node]:
            self._add_pivot_item(say("Pivot to the mean of its children's"), {"at": "children"})
        self._add_pivot_item(say("Pivot as received"), {"at": "received", "axes": "received"})
        if kind == "part":
            menu.addAction(say("Take apart in pieces")).triggered.connect(lambda _=False: self.pieces_wished.emit())
        menu.popup(self.tree.viewport().mapToGlobal(at))

    def _add_pivot_item(self, words: str, told: dict[str, Any]) -> None:
        self.menu.addAction(words).triggered.connect(lambda _=False: self.pivot_wished.emit(told))

    def _describe_node(self, asset: Asset | None, index: int, unit: ShownUnit) -> str:
        if asset is None:
            return ""
        node = asset.nodes[index]
        at = unit.point(*asset.worlds[index][:3, 3].tolist())
        scale = node.placement.scale
        shown = number(f"{scale[0]:.5g}" if np.ptp(scale) == 0 else " × ".join(f"{v:.4g}" for v in scale))
        box = node_box(asset, index) if node.mesh is not None else tree_box(asset, index)
        size = say("empty") if box is None else box_words(box, unit)
        turned = turn_degrees(node.placement.rotation)
        return say(
            "pivot  {at}\nrotation  {turned:.4g}°   scale  {scale}\nbox  {size}",
            at=at,
            turned=turned,
            scale=shown,
            size=size,
        )

    def _picked_nodes(self) -> list[int]:
        """Return the nodes whose rows are selected, the current one last."""
        model = self.tree.selectionModel()
        found = [int(index.internalId()) for index in model.selectedIndexes()]
        current = model.currentIndex()
        if current.isValid() and model.isSelected(current):
            lead = int(current.internalId())
            found = [n for n in found if n != lead] + [lead]
        return found

    def _select_picked(self, picked: Sequence[int]) -> None:
        model = self.tree.selectionModel()
        flags = model.SelectionFlag
        model.clearSelection()
        for node in picked:
            model.select(self._nodes.index_of(node), flags.Select)
        if picked:
            lead = self._nodes.index_of(picked[-1])
            model.setCurrentIndex(lead, flags.NoUpdate)
            self.tree.scrollTo(lead)

    def _tell_nodes(self) -> None:
        if not self._showing:
            self.nodes_wished.emit(tuple(self._picked_nodes()))

    def place_of(self, node: int) -> QModelIndex:
        """Return the index of a node's row."""
        return self._nodes.index_of(node)
