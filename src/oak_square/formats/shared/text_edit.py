"""Text changed in places, and all else left as it stands."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from oak_square.core.tolerances import ROUNDED_DIGITS, ROUNDED_TO_ZERO

__all__ = ["as_it_came", "digits_of", "in_utf8", "nine_digits", "spliced", "tidied", "tidied_matrix", "token_spans"]
__all__ += ["Edits", "triples_in"]

Ints = NDArray[np.int64]
Edits = tuple[Ints, Ints, list[bytes]]
_SPACE, _LONGEST_GAP, _FEW = 32, 64, 8  # a byte; bytes; spans that one edit of their own is worth


def spliced(data: bytes, starts: Ints, ends: Ints, texts: Sequence[bytes]) -> bytes:
    """Return `data` with each span from `starts` to `ends` replaced by its text; spans may come in any order."""
    order = np.argsort(starts, kind="stable")
    pieces, at = [], 0
    for k, start, end in zip(order.tolist(), starts[order].tolist(), ends[order].tolist(), strict=True):
        pieces += [data[at:start], texts[k]]
        at = end
    return b"".join([*pieces, data[at:]])


def triples_in(data: bytes, starts: Ints, ends: Ints, values: NDArray[np.floating], digits: int) -> Edits:
    """Return the edits that put rows of three numbers, shape (N, 3), into spans of a text, which are in order.

    Spans with the same few bytes between them, as lines of one kind have, become one edit for all of them.
    """
    if not len(starts):
        return starts, ends, []
    flat = np.frombuffer(data, dtype=np.uint8)
    gaps = starts[1:] - ends[:-1]
    goes_on = gaps == gaps[0] if len(gaps) else np.empty(0, dtype=bool)
    for k in range(int(gaps[0]) if len(gaps) and gaps[0] <= _LONGEST_GAP else 0):
        goes_on &= flat[np.minimum(ends[:-1] + k, len(flat) - 1)] == flat[ends[0] + k]
    firsts = np.concatenate([[0], np.flatnonzero(~goes_on) + 1])
    if (len(gaps) and gaps[0] > _LONGEST_GAP) or len(firsts) * _FEW > len(starts) + _FEW:
        form = f"%.{digits}g %.{digits}g %.{digits}g\n"
        shown = ((form * len(values)) % tuple((values + 0.0).ravel().tolist())).encode()
        return starts, ends, shown.split(b"\n")[:-1]
    between = data[int(ends[0]) : int(ends[0] + gaps[0])].decode("latin-1").replace("%", "%%") if len(gaps) else ""
    lasts = np.append(firsts[1:], len(starts)) - 1
    texts = []
    for a, b in zip(firsts.tolist(), lasts.tolist(), strict=True):
        form = f"%.{digits}g %.{digits}g %.{digits}g"
        rows = (values[a : b + 1] + 0.0).ravel().tolist()
        texts.append((form + (between + form) * (b - a)).encode("latin-1") % tuple(rows))
    return starts[firsts], ends[lasts], texts


def nine_digits(values: NDArray[np.floating], *, digits: int = 9) -> list[bytes]:
    """Return each number as text that gives a float32 back to the bit; with other `digits`, more than that.

    -0 is 0, and so is what is under a hundred-trillionth of the largest: what products leave where there is nothing.
    """
    numbers = np.asarray(values, dtype=np.float64).ravel() + 0.0
    reach = float(np.abs(numbers).max(initial=0.0))
    flat = np.where(np.abs(numbers) < ROUNDED_TO_ZERO * reach, 0.0, numbers).tolist()
    return ((f"%.{digits}g\n" * len(flat)) % tuple(flat)).encode().split(b"\n")[:-1]


def digits_of(values: NDArray[np.floating]) -> int:
    """Return how many digits numbers came with that give them back: 9, as float32 has, or 15 where one has more."""
    numbers = np.abs(np.asarray(values, dtype=np.float64).ravel())
    numbers = numbers[np.isfinite(numbers) & (numbers > 0)]
    if not len(numbers) or values.dtype == np.float32:
        return 9
    scale = 10.0 ** (8 - np.floor(np.log10(numbers)))
    with np.errstate(over="ignore", invalid="ignore"):
        off = np.abs(np.rint(numbers * scale) / scale - numbers)
    return 15 if (off > ROUNDED_DIGITS * numbers).any() else 9


def in_utf8(data: bytes) -> tuple[bytes, str]:
    """Return text as UTF-8, and the encoding it came in: `utf-16` as its byte order mark says, else `utf-8`.

    A mark of UTF-8 becomes blanks, so that every place in the text stays what it was.
    """
    if data[:3] == b"\xef\xbb\xbf":
        return b"   " + data[3:], "utf-8-sig"
    if data[:2] in {b"\xff\xfe", b"\xfe\xff"}:
        order = "utf-16-le" if data[:2] == b"\xff\xfe" else "utf-16-be"
        try:
            return data[2:].decode(order, "surrogatepass").encode("utf-8", "surrogatepass"), order
        except UnicodeDecodeError:
            return data, "utf-8"
    return data, "utf-8"


def as_it_came(text: bytes, encoding: str) -> bytes:
    """Return text in UTF-8 in the encoding that `in_utf8` told of, with its mark."""
    if encoding == "utf-8-sig":
        return b"\xef\xbb\xbf" + text[3:]
    if encoding.startswith("utf-16"):
        mark = b"\xff\xfe" if encoding == "utf-16-le" else b"\xfe\xff"
        return mark + text.decode("utf-8", "surrogatepass").encode(encoding, "surrogatepass")
    return text


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
