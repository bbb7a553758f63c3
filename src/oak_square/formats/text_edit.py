"""Text changed in places, and all else left as it stands."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

__all__ = ["nine_digits", "spliced", "tidied", "tidied_matrix", "token_spans"]

Ints = NDArray[np.int64]
_SPACE = 32


def spliced(data: bytes, starts: Ints, ends: Ints, texts: Sequence[bytes]) -> bytes:
    """Return `data` with each span from `starts` to `ends` replaced by its text; spans may come in any order."""
    order = np.argsort(starts, kind="stable")
    pieces, at = [], 0
    for k, start, end in zip(order.tolist(), starts[order].tolist(), ends[order].tolist(), strict=True):
        pieces += [data[at:start], texts[k]]
        at = end
    return b"".join([*pieces, data[at:]])


def nine_digits(values: NDArray[np.floating]) -> list[bytes]:
    """Return each number as text that gives a float32 back to the bit.

    -0 is 0, and so is what is under a hundred-trillionth of the largest: what products leave where there is nothing.
    """
    numbers = np.asarray(values, dtype=np.float64).ravel() + 0.0
    reach = float(np.abs(numbers).max(initial=0.0))
    flat = np.where(np.abs(numbers) < 1e-14 * reach, 0.0, numbers).tolist()
    return (("%.9g\n" * len(flat)) % tuple(flat)).encode().split(b"\n")[:-1]


def tidied(vector: NDArray[np.float64]) -> NDArray[np.float64]:
    """Return a vector to twelve digits of its largest part: what float64 work leaves behind them is no news."""
    reach = float(np.abs(vector).max(initial=0.0))
    if reach == 0 or not np.isfinite(reach):
        return vector
    found: NDArray[np.float64] = np.round(vector, 11 - int(np.floor(np.log10(reach)))) + 0.0
    return found


def tidied_matrix(matrix: NDArray[np.float64]) -> NDArray[np.float64]:
    """Return an affine (4, 4) matrix to twelve digits of the largest of its axes, and of its translation."""
    found = matrix.copy()
    found[:3, :3], found[:3, 3] = tidied(matrix[:3, :3]), tidied(matrix[:3, 3])
    return found


def token_spans(body: NDArray[np.uint8]) -> tuple[Ints, Ints]:
    """Return where each run of bytes that are no blanks starts, and one past where it ends."""
    solid = np.concatenate([[False], body > _SPACE, [False]])
    edges = np.flatnonzero(solid[1:] != solid[:-1])
    return edges[0::2], edges[1::2]
