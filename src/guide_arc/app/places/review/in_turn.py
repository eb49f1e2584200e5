"""What is computed off the window's thread one after the other, since each rests on the one
before."""

from __future__ import annotations

from collections import deque
from collections.abc import Callable
from typing import Generic, TypeVar

R = TypeVar("R")


class InTurn(Generic[R]):
    """compute : runs work elsewhere; reports its result, and in any case its end"""

    def __init__(
        self,
        compute: Callable[[Callable[[], R], Callable[[R], None], Callable[[], None]], None],
    ) -> None:
        self._compute = compute
        self._computing = False
        self._todo: deque[Callable[[], None]] = deque()
        self._round = 0

    def forget(self) -> None:
        """What was asked for is about something that is not there any more."""
        self._round += 1
        self._todo.clear()

    def then(self, act: Callable[[], None]) -> None:
        """Act once what is being computed has come."""
        self._todo.append(act)
        self._go_on()

    def compute(self, work: Callable[[], R], done: Callable[[R], None]) -> None:
        """Compute now; the result is dropped if the request was cancelled meanwhile."""
        self._computing, this = True, self._round

        def came(answer: R) -> None:
            if this == self._round:
                done(answer)

        def over() -> None:
            self._computing = False
            self._go_on()

        self._compute(work, came, over)

    def _go_on(self) -> None:
        while self._todo and not self._computing:
            self._todo.popleft()()
