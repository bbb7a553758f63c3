"""The `vn` lines of an OBJ whose parts change, and the corners that name them.

A corner that wants another normal than those it shares its line with is given a line of its own.
"""

from __future__ import annotations

from dataclasses import replace

import numpy as np
from numpy.typing import NDArray

from oak_square.core.reshaping import normals_at_corners
from oak_square.formats.obj.faces import corner_spans
from oak_square.formats.obj.text import Numbers, ObjText
from oak_square.formats.shared.change import Change, told_apart
from oak_square.formats.shared.text_edit import nine_digits, spliced

__all__ = ["normals_now", "with_lines_of_their_own"]

Ints = NDArray[np.int64]
Array = NDArray[np.float64]


def normals_now(change: Change, normals: Array, named: Ints) -> Array:
    """Return the normal of each corner of a part as it is shaped, in the file's numbers, not a number for none.

    Parameters
    ----------
    normals : ndarray, shape (N, 3)
        Of the `vn` lines.
    named : ndarray, shape (C,)
        The line that each corner of the part names, -1 for none.
    """
    given: Array = np.vstack([normals, np.full(3, np.nan)])[named]
    if change.shaped is None:
        return given
    found: Array = normals_at_corners(change.shaped, given)
    return found


def with_lines_of_their_own(
    text: ObjText, file: str, normals: Array, named: Ints, part_of_corner: Ints, changes: list[Change]
) -> tuple[ObjText, Numbers]:
    """Return the text with a `vn` line for all that is wanted, and what its lines are and what they become.

    New lines stand behind the last one; corners that count back from where they stand are told from the start then.
    """
    wanted = np.full((len(named), 3), np.nan)
    for k, change in enumerate(changes):
        mine = part_of_corner == k
        wanted[mine] = change.normals(normals_now(change, normals, named[mine]))
    number, table = told_apart(normals, named, wanted)
    more = table[len(normals) :]
    if not len(more):
        return text, (normals, table)
    starts, ends, is_back = corner_spans(text, len(named))
    edited = (number != named) | is_back
    texts = [b"%d" % k for k in (number[edited] + 1).tolist()]
    at = int(text.ends[text.lines["vn"][-1]])
    ending = b"\r\n" if text.data[at : at + 2] == b"\r\n" else b"\n"
    added = b"".join(ending + b"vn " + b" ".join(nine_digits(row)) for row in more)
    data = spliced(text.data, np.append(starts[edited], at), np.append(ends[edited], at), [*texts, added])
    return replace(ObjText.of(data, file), encoding=text.encoding), (np.vstack([normals, more]), table)
