"""What the server that processes are forked from loads first: none of them tells of a command that has ended.

One may be on its way when the command ends, and finds nothing left of what it was to be given.
"""

from __future__ import annotations

import sys
from types import TracebackType

__all__: list[str] = []


def _told(kind: type[BaseException], error: BaseException, trace: TracebackType | None) -> None:
    if not issubclass(kind, OSError | EOFError):
        sys.__excepthook__(kind, error, trace)


sys.excepthook = _told
