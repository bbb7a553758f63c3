"""Nodes that hang elsewhere than in the source, and parts taken apart, in formats whose files nest their nodes.

Such a file is written in two goes. First its nodes are hung as they are to hang, and parts cut into their pieces, all
numbers as they were. What comes of it is read, and then edited like any other file. Its nodes stand in the file's
order, which is another than the prepared asset's.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from oak_square.core.errors import Refused
from oak_square.core.scene import Asset
from oak_square.core.words import say

__all__ = ["Rehanging", "file_order", "rehanging_of"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Rehanging:
    """How the nodes of a prepared asset hang otherwise than those of its source.

    Attributes
    ----------
    anew : tuple of int
        Pieces, and nodes of the source that hang from another one now; those further down first, and
        those of one depth in their order.
    pieces : dict of int to tuple of int
        For each part that was taken apart, the nodes of its pieces.
    """

    anew: tuple[int, ...]
    pieces: dict[int, tuple[int, ...]]


def rehanging_of(received: Asset, asset: Asset) -> Rehanging | None:
    """Return how the nodes of `asset`, prepared from `received`, hang otherwise; None where they do not.

    Raises
    ------
    Refused
        If a piece was taken apart again.
    """
    count = len(received.nodes)
    depths = dict[int | None, int]({None: 0})
    for i in asset.order:
        depths[i] = depths[asset.nodes[i].parent] + 1
    anew = [i for i, n in enumerate(asset.nodes) if i >= count or n.parent != received.nodes[i].parent]
    anew.sort(key=lambda i: -depths[i])
    pieces = dict[int, list[int]]()
    for i, node in enumerate(asset.nodes[count:], count):
        assert node.cut_from is not None
        if node.cut_from >= count:
            raise Refused(
                say("'{name}' is a piece of a piece: deliver it, and split what was delivered", name=node.name)
            )
        pieces.setdefault(node.cut_from, []).append(i)
    if not anew:
        return None
    return Rehanging(anew=tuple(anew), pieces={part: tuple(own) for part, own in pieces.items()})


def file_order(received: Asset, asset: Asset, names: Sequence[str], there: Asset) -> tuple[int, ...]:
    """Return which node of `asset` each node of a file is that was hung as `asset` is, and read again as `there`.

    Below one node they are told by their names, and those of one name by their order: what hung there before comes
    first.

    Parameters
    ----------
    names : sequence of str
        What each node of `asset` is called in the file.

    Raises
    ------
    Refused
        If they do not hang so.
    """
    count = len(received.nodes)

    def is_new(i: int) -> bool:
        return i >= count or asset.nodes[i].parent != received.nodes[i].parent

    found: dict[int, int] = {}
    due = [(_list_roots(asset), _list_roots(there))]
    while due:
        wanted, read = due.pop()
        wanted.sort(key=lambda i: (names[i], is_new(i), i))
        read.sort(key=lambda k: (there.nodes[k].name, k))
        if [names[i] for i in wanted] != [there.nodes[k].name for k in read]:
            raise Refused(say("its nodes can't be hung so in a file of its format: deliver it as glb"))
        found.update(zip(read, wanted, strict=True))
        due += [(list(asset.children[i]), list(there.children[k])) for i, k in zip(wanted, read, strict=True)]
    return tuple(found[k] for k in range(len(there.nodes)))


def _list_roots(asset: Asset) -> list[int]:
    return [i for i, node in enumerate(asset.nodes) if node.parent is None]
