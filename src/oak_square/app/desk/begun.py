"""What was begun and is not ended yet, in the order it was begun: Esc leaves the last of it."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

__all__ = ["BegunThing", "BegunThings"]


@dataclass(frozen=True, slots=True)
class BegunThing:
    """One kind of thing that can be begun: what it is now (anything false: none is), and how it is left."""

    name: str
    now: Callable[[], object]
    leave: Callable[[], object]


class BegunThings:
    """Knows the order in which things were begun, from looking at them each time something has changed."""

    def __init__(self, kinds: list[BegunThing]) -> None:
        self._kinds = {kind.name: kind for kind in kinds}
        self._order: dict[str, object] = {}

    @property
    def order(self) -> list[str]:
        """The names of what is on, what was begun last at the end."""
        self.look()
        return list(self._order)

    def look(self) -> None:
        """Take note of what has begun and ended since."""
        for name, kind in self._kinds.items():
            now = kind.now()
            if not now:
                self._order.pop(name, None)
            elif name not in self._order or self._order[name] != now:
                # Another one in its place was begun just now.
                self._order.pop(name, None)
                self._order[name] = now

    def leave_last(self) -> str:
        """Leave what was begun last, and return its name; "" where nothing is on."""
        self.look()
        if not self._order:
            return ""
        name = list(self._order)[-1]
        self._kinds[name].leave()
        self.look()
        return name
