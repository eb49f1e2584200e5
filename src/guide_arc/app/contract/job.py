"""Work off the window's thread, as a frozen request.

The types of the contract are named tuples: making a frozen data class of each costs the start its
first glance.
"""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from importlib import import_module
from typing import Any, Generic, Literal, NamedTuple, TypeVar

R = TypeVar("R")
Progress = Callable[[float], None]
Lane = Literal["now", "long"]


class Cancelled(Exception):
    """The work was asked to stop, and did."""


class Job(NamedTuple, Generic[R]):
    """One piece of work.

    words : what the work bar says of it, with Stop; empty for work that nobody waits for
    run : given the library, opened for it and closed after it, and a function for the share that is
        done (0 to 1), which raises Cancelled once the job was asked to stop
    key : a newer job of the same key stops the older one, whose answer is dropped
    lane : "now" for what the coach waits for: it never queues behind a long job
    stopped : what is said when the coach stopped it
    needs_library : whether `run` is given a library; else None
    """

    words: str
    run: Callable[[Any, Progress], R]
    key: str = ""
    lane: Lane = "long"
    stopped: str = "Stopped."
    needs_library: bool = True


class Task(NamedTuple, Generic[R]):
    """A job with what is told on the window's thread once it is through; words of its own say why
    it was left."""

    job: Job[R]
    done: Callable[[R], str | None]


def resolve(where: str) -> Any:
    """What `module:name` names; its module is loaded now, where it is not yet."""
    module, _, name = where.partition(":")
    return getattr(import_module(module), name)


def _run(where: str, args: tuple[Any, ...], library: Any, progress: Progress) -> Any:
    return resolve(where)(library, progress, *args)


def later(where: str, *args: Any) -> Callable[[Any, Progress], Any]:
    """A job's work by name: `module:function`, called with the library, the progress, and these.
    Its module, and all that it needs, is loaded where it runs."""
    return partial(_run, where, args)
