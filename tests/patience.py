"""How long tests wait for what is bound to come.

A wait ends as soon as it is there, so this costs nothing; it only tells what hangs from a machine that is slow, or busy
with other things, for a while.
"""

from __future__ import annotations

WAIT_S = 120.0
WAIT_MS = int(1000 * WAIT_S)
