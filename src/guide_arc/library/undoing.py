"""Doing something to a library so that it can be undone: one transaction forward, one transaction
back."""

from __future__ import annotations

import contextlib
from collections.abc import Callable, Iterator
from dataclasses import dataclass, replace
from typing import Generic, TypeVar

from sqlalchemy.orm import Session

from guide_arc.library.changes import Changes, changes_text, recorded_by, recording, revert
from guide_arc.library.erased import wanted
from guide_arc.library.store import Library

R = TypeVar("R")


@dataclass(frozen=True)
class Done(Generic[R]):
    """What was done, and the changes that undo takes back."""

    result: R
    changes: Changes


@dataclass(frozen=True)
class TakenBack:
    """changes: what redo takes back in turn; left: what was changed elsewhere since and stays, as a
    sentence or empty"""

    changes: Changes
    left: str


def do(library: Library, work: Callable[[Session], R]) -> Done[R]:
    """Run work in one transaction and record what it changes. Raises BadInput if it can't be
    done."""
    with library.writing() as session:
        with recording(session) as recorder:
            result = work(session)
        changes = recorded_by(recorder, session)
        if changes.erases:
            changes = replace(changes, note=library.aside.note(changes_text(changes)))
    return Done(result, changes)


def take_back(library: Library, changes: Changes) -> TakenBack:
    """Undo what `do` changed, or redo what `take_back` did, in one transaction.

    Sets that were erased keep their numbers and recordings. If this fails, nothing was changed, and
    the recordings stay in the library's folder even when the program closes: `finish_wanted` tries
    again at the next start.
    """
    with _wanted(library, changes):
        done = do(library, lambda session: revert(session, changes))
    left = ", ".join(dict.fromkeys(done.result))
    return TakenBack(
        done.changes,
        f"{left}: changed in another window since, so it stays as it is." if left else "",
    )


@contextlib.contextmanager
def _wanted(library: Library, changes: Changes) -> Iterator[None]:
    if not changes.note:
        yield
        return
    library.aside.want_back(changes.note)
    yield
    library.aside.is_back(changes.note)


def finish_wanted(library: Library) -> list[str]:
    """Bring back what an undo in an earlier run asked for and did not get. Returns the clients'
    names.

    Raises BadLibrary if that fails again; nothing is lost then.
    """
    names: list[str] = []
    for note in wanted(library.folder):
        with library.writing() as session:
            revert(session, note.changes)
        library.aside.is_back(str(note.folder))
        names += [name for _id, name in note.clients]
    return list(dict.fromkeys(names))
