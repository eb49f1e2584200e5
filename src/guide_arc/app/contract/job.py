"""Work off the window's thread, as a frozen request.

The types of the contract are named tuples: making a frozen data class of each costs the start its
first glance.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import (
    TYPE_CHECKING,
    Concatenate,
    Generic,
    Literal,
    NamedTuple,
    ParamSpec,
    Protocol,
    TypeVar,
)

if TYPE_CHECKING:
    from guide_arc.library.store import Library

P = ParamSpec("P")
R = TypeVar("R")
R_co = TypeVar("R_co", covariant=True)
Progress = Callable[[float], None]
Lane = Literal["now", "long"]


class Cancelled(Exception):
    """The work was asked to stop, and did."""


class OnLibrary(NamedTuple, Generic[R_co]):
    """Work on the library, which is opened for it and closed after it."""

    run: Callable[[Library, Progress], R_co]


class Alone(NamedTuple, Generic[R_co]):
    """Work that needs no library."""

    run: Callable[[Progress], R_co]


def on_library(
    run: Callable[Concatenate[Library, Progress, P], R], *args: P.args, **named: P.kwargs
) -> OnLibrary[R]:
    """A function of (library, progress, …) with all that follows. Imported `lazily`, its module is
    loaded on the job's thread."""
    return OnLibrary(lambda library, progress: run(library, progress, *args, **named))


def alone(run: Callable[Concatenate[Progress, P], R], *args: P.args, **named: P.kwargs) -> Alone[R]:
    """A function of (progress, …) with all that follows."""
    return Alone(lambda progress: run(progress, *args, **named))


class Job(NamedTuple, Generic[R_co]):
    """One piece of work.

    words : what the work bar says of it, with Stop; empty for work that nobody waits for
    work : is given a function for the share that is done (0 to 1), which raises Cancelled once the
        job was asked to stop
    key : a newer job of the same key stops the older one, whose answer is dropped
    lane : "now" for what the coach waits for: it never queues behind a long job
    stopped : what is said when the coach stopped it
    """

    words: str
    work: OnLibrary[R_co] | Alone[R_co]
    key: str = ""
    lane: Lane = "long"
    stopped: str = "Stopped."


class Runs(Protocol):
    """What runs jobs."""

    def start(
        self, job: Job[R], done: Callable[[R], object], over: Callable[[], None] | None = None
    ) -> None:
        """Run a job off the window's thread; `done` is called with its result, `over` when it ends
        in any way."""


class Task(NamedTuple, Generic[R]):
    """A job with a callback on the window's thread; the callback returns a message if nothing was
    done."""

    job: Job[R]
    done: Callable[[R], str | None]

    def begin(self, runs: Runs, then: Callable[[str | None], object]) -> None:
        """Run the job; `then` is called with that message, or None."""
        runs.start(self.job, lambda answer: then(self.done(answer)))


class AnyTask(Protocol):
    """A task, whatever its job answers."""

    @property
    def job(self) -> Job[object]: ...

    def begin(self, runs: Runs, then: Callable[[str | None], object]) -> None: ...
