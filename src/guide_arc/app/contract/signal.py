"""Signals within the window's thread, without Qt. Connected callbacks are called at once, in order.

A library for this would cost the start a third of its time (`bench/speed.py`), for thirty lines.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import Generic, TypeVarTuple

Ts = TypeVarTuple("Ts")


class BoundSignal(Generic[*Ts]):
    """One object's signal."""

    def __init__(self) -> None:
        self._callbacks: list[Callable[[*Ts], object]] = []

    def connect(self, callback: Callable[[*Ts], object]) -> None:
        self._callbacks.append(callback)

    def disconnect(self, callback: Callable[[*Ts], object] | None = None) -> None:
        """Disconnect one callback, or all of them."""
        self._callbacks = [] if callback is None else [h for h in self._callbacks if h != callback]

    def emit(self, *news: *Ts) -> None:
        for callback in tuple(self._callbacks):
            callback(*news)


class Signal(Generic[*Ts]):
    """Declared in a class with the types of its arguments; each object has its own:
    `moved = Signal[float]()`, `self.moved.emit(0.5)`."""

    def __set_name__(self, _owner: type, name: str) -> None:
        self._name = f"_signal_{name}"

    def __get__(self, owner: object, _kind: type | None = None) -> BoundSignal[*Ts]:
        found: BoundSignal[*Ts] | None = owner.__dict__.get(self._name)
        if found is None:
            found = owner.__dict__[self._name] = BoundSignal[*Ts]()
        return found


def silence(owner: object) -> None:
    """Disconnect all callbacks from all signals of an object."""
    for value in vars(owner).values():
        if isinstance(value, BoundSignal):
            value.disconnect()
