"""What every format offers."""

from __future__ import annotations

import os
from abc import ABC, abstractmethod
from collections.abc import Sequence
from dataclasses import dataclass, field, replace
from pathlib import Path
from typing import Any, ClassVar
from urllib.parse import unquote

import numpy as np
from numpy.typing import NDArray

from oak_square.core.attached import Attached
from oak_square.core.checked import readonly
from oak_square.core.errors import BadFile, Refused
from oak_square.core.frames import Reading
from oak_square.core.motion import in_basis, same_matrix
from oak_square.core.placement import Placement, matrix_of
from oak_square.core.precision import numbers_reach
from oak_square.core.scene import Asset, Mesh, Node
from oak_square.core.tolerances import SAME_MATRIX
from oak_square.core.words import say
from oak_square.formats.limits import LIMITS, Limits
from oak_square.formats.register import FORMATS, Entry
from oak_square.formats.shared.plain import Plain, PlainScene, plain_mesh

__all__ = [
    "CARRIED",
    "Beside",
    "Chunk",
    "Companion",
    "Format",
    "Received",
    "Written",
    "at_rest",
    "check_same_tree",
    "checked_size",
    "count_not_finite",
    "file_nodes",
    "inside_folder",
    "is_unmoved",
    "placements_reach",
    "registered",
    "same_placement",
]

_MOST_ASTRAY = 1000
_IDENTITY = readonly(np.eye(4))
CARRIED = (
    "unit and axes", "names", "hierarchy", "pivots", "normals", "texture coordinates", "colours", "textures",
    "vertex colours", "shared geometry", "animation", "skins", "morph targets", "instances", "cameras and lights",
)  # fmt: skip
"""What formats may hold, in the order it is told."""

Chunk = bytes | bytearray | memoryview | NDArray[Any]
"""A run of output bytes; arrays are written as their memory."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Received:
    """A file as read: the asset, and the carrier that writing to the same format edits.

    Attributes
    ----------
    asset : Asset
    carrier : object
        The format's own; no one else looks inside.
    companions : tuple of str
        Files it refers to, relative to its folder, with `/`.
    """

    asset: Asset
    carrier: Any
    companions: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True, kw_only=True)
class Companion:
    """A file that goes with a model, by its path from there. `source` is copied or `chunks` are written."""

    path: str
    source: Path | None = None
    chunks: tuple[Chunk, ...] = ()


@dataclass(frozen=True, slots=True, kw_only=True)
class Written:
    """What a model file becomes: its bytes (None: the source's own), its companions, what got lost.

    `asset` is what was written where that is not to the bit what was asked for, as the warnings say. `order` says which
    of its nodes each node of the file is, where the file has them in another order.
    """

    chunks: tuple[Chunk, ...] | None
    companions: tuple[Companion, ...] = ()
    warnings: tuple[str, ...] = field(default=())
    asset: Asset | None = None
    order: tuple[int, ...] | None = None


class Format(ABC):
    """One file format. `declares` tells whether its files name their own unit and axes."""

    entry: ClassVar[Entry]
    declares: ClassVar[bool]
    holds: ClassVar[tuple[str, ...]] = ()
    """What it can carry, of `CARRIED`."""
    makes: ClassVar[tuple[str, ...]] = ()
    """What of `holds` such a file gets."""
    shades: ClassVar[tuple[str, ...]] = ()
    """What of `SHADING` its materials get."""
    could: ClassVar[tuple[str, ...]] = ()
    """What it has a place for beside `holds`, whatever is made of it here."""
    leans: ClassVar[bool] = True
    """Whether a node's axes may lean: a matrix holds what translation, rotation and scale can't."""
    looks: ClassVar[tuple[str, ...]] = ()
    """What of a `Look` such a file gets, by its fields."""
    makes_empty_groups: ClassVar[bool] = True
    """Whether a node with nothing to draw, at it or below, is made too."""
    family: ClassVar[str] = ""
    """Formats of one family hold the same in another wrapping: one is written as another with nothing lost."""

    @property
    def key(self) -> str:
        """Its name in sheets, surveys and manifests."""
        return self.entry.key

    @property
    def title(self) -> str:
        """What it is called."""
        return self.entry.title

    @property
    def suffixes(self) -> tuple[str, ...]:
        """With their dot, in small letters; the first is that of files made in it."""
        return self.entry.suffixes

    @property
    def is_made(self) -> bool:
        """Whether files of it are made from other formats."""
        return self.entry.is_made

    def reads_in_c(self, path: Path) -> bool:
        """Tell whether a file is taken apart by a library in C, which can take its process down with it."""
        return False

    def name_in_file(self, name: str) -> str:
        """Return a node's name as a file made in this format spells it."""
        return " ".join(name.split())

    def is_kin(self, other: Format) -> bool:
        """Tell whether files of `other` are written as this format with nothing lost: it is this, or of its family."""
        return other is self or (self.family != "" and self.family == other.family)

    @abstractmethod
    def read(self, path: Path, file: str, limits: Limits = LIMITS) -> Received:
        """Return the model at `path`; `file` is its name in errors and in the batch.

        Raises
        ------
        BadFile
            If it is not what it claims to be, before anything large is allocated.
        """

    @abstractmethod
    def write(self, received: Received, asset: Asset, reading: Reading) -> Written:
        """Return the file for `asset`, prepared from `received`, its numbers under `reading`.

        Raises
        ------
        Refused
            If the format can't hold what the asset has become.
        """

    def plains(self, received: Received, asset: Asset) -> dict[int, Plain]:
        """Return the meshes of `asset`, prepared from `received`, as other formats take them, by their position."""
        used = {node.mesh for node in asset.nodes if node.mesh is not None}
        return {k: plain_mesh(asset.meshes[k]) for k in used}

    def attached(self, received: Received) -> dict[int, tuple[Attached, ...]]:
        """Return, for each node with geometry, what its file gives its mesh beside positions; the proof looks at it."""
        return {}

    def belongings(self, received: Received) -> dict[str, Any]:
        """Return what of a file no step changes, by what it is called; the proof looks at it.

        They are values that compare. Of what is `Kept` a delivered file may have more: copies of what was shared.
        """
        return {"textures and other files": received.companions}

    def belongings_of_parts(self, received: Received) -> dict[int, Any]:
        """Return what each part has that no step changes, and no list of numbers: values that compare, by its node."""
        return {}

    def make(self, scene: PlainScene) -> Written:
        """Return a new file of this format that holds `scene`.

        Raises
        ------
        Refused
            If it can't hold it.
        """
        raise Refused(say("{title} is not made from other formats", title=self.title))

    def made_trouble(self, received: Received) -> str:
        """Return what is wrong with a file that was made in this format and read again; empty where nothing is."""
        return ""

    def reading_out(self, wanted: Reading) -> Reading:
        """Return the reading a file of this format has when `wanted` is asked for."""
        return wanted

    def unnamed(self, wanted: Reading) -> tuple[str, ...]:
        """Return a warning where the format can name neither the unit nor the axes that are asked for."""
        return ()


def registered(kind: type[Format]) -> type[Format]:
    """Add a format to the register.

    Raises
    ------
    RuntimeError
        If its key or a suffix is another's: a fault of ours.
    """
    FORMATS.add(kind())
    return kind


def inside_folder(folder: Path, reference: str, file: str) -> Path:
    """Return the file a relative `reference` names, which must lie inside the model's own folder.

    Raises
    ------
    BadFile
        If it is absolute, has a scheme, or leads out, also by encoding or symbolic links.
    """
    name = unquote(reference)
    if not name or "\\" in name or "\0" in name or ":" in name.split("/")[0] or name.startswith(("/", "~")):
        raise BadFile(file, say("refers to '{reference}', which is no path inside its folder", reference=reference))
    home = Path(os.path.realpath(folder))
    target = Path(os.path.realpath(home / name))
    if not target.is_relative_to(home) or target == home:
        raise BadFile(file, say("refers to '{reference}', which lies outside its folder", reference=reference))
    return target


@dataclass(frozen=True, slots=True)
class Beside:
    """Finds what a model in `folder` names beside its geometry, such as textures; `astray` gathers what leads out."""

    folder: Path
    file: str
    astray: dict[str, None] = field(default_factory=dict)

    def find(self, reference: str, *, is_uri: bool = False) -> Path | None:
        """Return the file that a reference names, where it is there; one that leads out of the folder is noted.

        Backslashes part folders, as the programs that write them mean it. With `is_uri` the reference may be encoded.
        """
        name = reference.strip()
        name = (unquote(name) if is_uri else name).replace("\\", "/")
        while name.startswith("./"):
            name = name[2:]
        try:
            target = inside_folder(self.folder, name.replace("%", "%25"), self.file)
            return target if target.is_file() else None
        except (BadFile, OSError, ValueError):
            if len(self.astray) < _MOST_ASTRAY:
                self.astray[reference] = None
            return None

    def name(self, reference: str, *, is_uri: bool = False) -> str | None:
        """Return the path from the folder, with `/`, of what a reference names; None where it is not there."""
        found = self.find(reference, is_uri=is_uri)
        return None if found is None else found.relative_to(os.path.realpath(self.folder)).as_posix()


def checked_size(path: Path, file: str, limits: Limits) -> int:
    """Return the size of a regular file in bytes.

    Raises
    ------
    BadFile
        If it is missing, no regular file, empty, or over the limit.
    """
    try:
        if not path.is_file():
            raise BadFile(file, say("is no file") if path.exists() else say("is not there"))
        size = path.stat().st_size
    except OSError as error:
        raise BadFile(file, say("can't be read: {strerror}", strerror=error.strerror)) from error
    if size == 0:
        raise BadFile(file, say("is empty"))
    if size > limits.file_bytes:
        raise BadFile(
            file, say("is {size} bytes, over the limit of {file_bytes}", size=size, file_bytes=limits.file_bytes)
        )
    return size


def file_nodes(asset: Asset, reading: Reading) -> tuple[Node, ...]:
    """Return the asset's nodes in the numbers of a file under `reading`.

    Their `local_from_mesh` is then what a vertex of the source file is to be multiplied by: the identity to the bit
    where it moves none of them by more than what products of matrices leave behind.
    """
    return tuple(_kept_where_it_is(node, asset) for node in in_basis(asset, reading.file_from_working))


def _kept_where_it_is(node: Node, asset: Asset) -> Node:
    if node.mesh is None:
        return node
    matrix = at_rest(node.local_from_mesh, asset.meshes[node.mesh])
    return node if matrix is node.local_from_mesh else replace(node, local_from_mesh=matrix)


def at_rest(matrix: NDArray[np.float64], mesh: Mesh) -> NDArray[np.float64]:
    """Return the identity to the bit where a matrix moves no vertex by more than what products leave behind."""
    still = np.abs(matrix[:3, :3] - np.eye(3)).max() <= SAME_MATRIX
    reach = float(numbers_reach(mesh).max())
    return _IDENTITY if still and np.abs(matrix[:3, 3]).max() <= SAME_MATRIX * reach else matrix


def check_same_tree(received: Asset, asset: Asset, what: str, others: str) -> None:
    """Check that every node of `asset` still hangs where it hung in `received`, and none was added.

    Raises
    ------
    Refused
        If not; it says `what` stays where it is, and which `others` hold the change.
    """
    if [n.parent for n in received.nodes] != [n.parent for n in asset.nodes]:
        raise Refused(
            say("{what} are not taken apart or hung elsewhere: deliver it as {others}", what=what, others=others)
        )


def is_unmoved(matrix: NDArray[np.float64]) -> bool:
    """Tell whether a (4, 4) matrix, as `file_nodes` gives it, leaves numbers as they are."""
    return np.array_equal(matrix, _IDENTITY) or same_matrix(matrix, _IDENTITY)


def placements_reach(nodes: Sequence[Node], meshes: Sequence[Mesh]) -> float:
    """Return the largest number that a file's nodes and meshes are placed by: what rounding is relative to."""
    moved = [float(np.abs(node.placement.translation).max()) for node in nodes]
    return max([*moved, *(float(numbers_reach(m).max()) for m in meshes)], default=0.0)


def same_placement(a: Placement, b: Placement, reach: float = 0.0) -> bool:
    """Tell whether two placements are one but for float64 rounding, in a file whose numbers go up to `reach`."""
    old, new = matrix_of(a), matrix_of(b)
    if np.array_equal(old, new):
        return True
    moved = float(np.abs(old[:3, 3] - new[:3, 3]).max())
    linear = np.abs(old[:3, :3] - new[:3, :3]).max() <= SAME_MATRIX * np.abs(new[:3, :3]).max()
    return bool(linear and moved <= SAME_MATRIX * max(reach, float(np.abs(new[:3, 3]).max())))


def count_not_finite(points: Sequence[NDArray[Any]]) -> int:
    """Return how many coordinates are NaN or infinite."""
    return sum(int(np.count_nonzero(~np.isfinite(p))) for p in points)
