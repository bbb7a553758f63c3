"""Reading a file for the window. Processes of their own do it too, and load no Qt for it."""

from __future__ import annotations

from collections.abc import Mapping
from pathlib import Path

from oak_square.app.session.stamps import Stamp, stamp_of
from oak_square.core.errors import OakSquareError
from oak_square.core.findings import Finding
from oak_square.core.likely.clues import Clues, clues_of
from oak_square.core.scene import Asset
from oak_square.core.survey import survey
from oak_square.core.words import say
from oak_square.delivery.batch import Source
from oak_square.delivery.files import further_files, sha256_of
from oak_square.delivery.surveying import receive

__all__ = ["ReadResult", "read_bare", "read_source"]

ReadResult = tuple[Asset | None, str | None, tuple[Finding, ...], str, Mapping[Path, Stamp], Clues | None]


def read_source(source: Source) -> ReadResult:
    """Return a source's asset, or why it can't be read; findings; its hash; what else it is read from; its clues."""
    found = read_bare(source)
    return found if found[0] is None else (*found[:5], clues_of(found[0]))


def read_bare(source: Source) -> ReadResult:
    """Return all of that but the clues, which are looked for once they are asked for."""
    try:
        received = receive(source)
        digest = sha256_of(source.path)
    except OakSquareError as error:
        return None, getattr(error, "reason", str(error)), (), "", {}, None
    except OSError as error:
        return None, say("can't be read: {strerror}", strerror=error.strerror or error), (), "", {}, None
    also = {path: stamp_of(path) for path in further_files(source.path.parent, received.companions).values()}
    return received.asset, None, survey(received.asset), digest, also, None
