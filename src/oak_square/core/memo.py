"""What pure functions have already worked out of values that never change, kept outside the values.

A value stays frozen, and may be read by any number of threads: at worst two of them work out the same thing.
"""

from __future__ import annotations

from collections.abc import Callable, Hashable
from threading import Lock
from typing import Any, Generic, TypeVar
from weakref import WeakKeyDictionary

__all__ = ["Memo"]

T = TypeVar("T")


class Memo(Generic[T]):
    """Results by the value they were worked out of, and a key; forgotten with the value.

    `most` results are kept of each value, the newest ones.
    """

    def __init__(self, most: int = 1) -> None:
        self._most = most
        self._known: WeakKeyDictionary[Any, dict[Hashable, T]] = WeakKeyDictionary()
        self._lock = Lock()

    def has(self, owner: object, key: Hashable) -> bool:
        """Tell whether what belongs to `owner` and `key` is remembered."""
        with self._lock:
            return key in self._known.get(owner, {})

    def put(self, owner: object, key: Hashable, found: T) -> None:
        """Remember what was worked out for `owner` and `key` together with others."""
        with self._lock:
            known = self._known.setdefault(owner, {})
            while len(known) >= self._most and key not in known:
                known.pop(next(iter(known)))
            known[key] = found

    def of(self, owner: object, key: Hashable, work: Callable[[], T]) -> T:
        """Return what `work` gives for `owner` and `key`: remembered, or worked out now. `work` must be pure."""
        with self._lock:
            known = self._known.get(owner, {})
            if key in known:
                return known[key]
        # Outside the lock: one that waits for long work of another's could wait on itself.
        found = work()
        self.put(owner, key, found)
        return found
