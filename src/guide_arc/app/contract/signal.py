"""News within the window's thread, without Qt: who is connected hears it at once, in order.

A library for this would cost the start a third of its time (`bench/speed.py`), for thirty lines.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import Generic, TypeVarTuple

Ts = TypeVarTuple("Ts")


class BoundSignal(Generic[*Ts]):
    """One object's signal."""

    def __init__(self) -> None:
        self._hearers: list[Callable[[*Ts], object]] = []

    def connect(self, hearer: Callable[[*Ts], object]) -> None:
        self._hearers.append(hearer)

    def disconnect(self, hearer: Callable[[*Ts], object] | None = None) -> None:
        """No more news for one hearer, or for all of them."""
        self._hearers = [] if hearer is None else [h for h in self._hearers if h != hearer]

    def emit(self, *news: *Ts) -> None:
        for hearer in tuple(self._hearers):
            hearer(*news)


class Signal(Generic[*Ts]):
    """Declared in a class with what its news are; each object has its own:
    `moved = Signal[float]()`, `self.moved.emit(0.5)`."""

    def __set_name__(self, _owner: type, name: str) -> None:
        self._name = f"_signal_{name}"

    def __get__(self, owner: object, _kind: type | None = None) -> BoundSignal[*Ts]:
        found: BoundSignal[*Ts] | None = owner.__dict__.get(self._name)
        if found is None:
            found = owner.__dict__[self._name] = BoundSignal[*Ts]()
        return found


def silence(owner: object) -> None:
    """Nobody hears anything of an object any more: its hearers are gone."""
    for value in vars(owner).values():
        if isinstance(value, BoundSignal):
            value.disconnect()
