"""An attribute that keeps nothing alive: of what a form shows, others decide how long it is needed."""

from __future__ import annotations

import weakref
from typing import Any, Generic, TypeVar

__all__ = ["Weakly"]

T = TypeVar("T")


class Weakly(Generic[T]):
    """Declared in a class body; reads as None once what was set is gone."""

    def __set_name__(self, owner: type, name: str) -> None:
        self._name = f"{name}_weakly"

    def __get__(self, instance: Any, owner: type | None = None) -> T | None:
        found = instance.__dict__.get(self._name)
        return None if found is None else found()

    def __set__(self, instance: Any, value: T | None) -> None:
        instance.__dict__[self._name] = None if value is None else weakref.ref(value)
