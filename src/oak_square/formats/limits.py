"""What a file from a stranger may cost. One set, named, passed to every reader."""

from __future__ import annotations

from dataclasses import dataclass

__all__ = ["LIMITS", "Limits"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Limits:
    """Ceilings on input. Counts a file declares are also held against the bytes that are there.

    Attributes
    ----------
    file_bytes : int
        Of one file, companions each by themselves.
    text_bytes : int
        Of a JSON part.
    nodes, vertices, triangles : int
        Of one asset.
    drawn_vertices : int
        Of one asset, counting each instance of a mesh: a small file can ask for any number of them.
    elements : int
        Of an XML file.
    unpacked_bytes : int
        Of all that an archive holds, and a hundred times its own size at most.
    depth : int
        Of its hierarchy.
    """

    file_bytes: int = 8_000_000_000
    text_bytes: int = 512_000_000
    nodes: int = 1_000_000
    vertices: int = 200_000_000
    triangles: int = 200_000_000
    drawn_vertices: int = 20_000_000
    elements: int = 5_000_000
    unpacked_bytes: int = 4_000_000_000
    depth: int = 20_000


LIMITS = Limits()
"""The ceilings in force unless others are passed."""
