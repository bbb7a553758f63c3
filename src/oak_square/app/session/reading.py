"""Reading a file for the window. Processes of their own do it too, and load no Qt for it."""

from __future__ import annotations

from collections.abc import Mapping
from pathlib import Path

from oak_square.app.session.stamps import Stamp, stamp_of
from oak_square.core.findings.finding import Finding
from oak_square.core.findings.survey import survey
from oak_square.core.likely.clues import Clues, clues_of
from oak_square.core.scene import Asset
from oak_square.delivery.batch import Source
from oak_square.delivery.files import further_files, sha256_of
from oak_square.delivery.surveying import receive, why_not

__all__ = ["ReadResult", "read_bare", "read_source"]

ReadResult = tuple[Asset | None, str | None, tuple[Finding, ...], str, Mapping[Path, Stamp], Clues | None]


def read_source(source: Source) -> ReadResult:
    """Return a source's asset, or why it can't be read; findings; its hash; what else it is read from; its clues."""
    found = read_bare(source)
    try:
        return found if found[0] is None else (*found[:5], clues_of(found[0]))
    except Exception:  # they are looked for once more where they are asked for, and what is wrong is said there
        return found


def read_bare(source: Source) -> ReadResult:
    """Return all of that but the clues, which are looked for once they are asked for."""
    try:
        received = receive(source)
        digest = sha256_of(source.path)
        also = {path: stamp_of(path) for path in further_files(source.path.parent, received.companions).values()}
        return received.asset, None, survey(received.asset), digest, also, None
    except Exception as error:  # the border of a file: what is wrong with it, or with us, costs it alone
        return None, why_not(error), (), "", {}, None
