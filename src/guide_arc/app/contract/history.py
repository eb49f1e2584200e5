"""What was done, in order of time over all places, and what was taken back."""

from __future__ import annotations

from collections.abc import Callable
from typing import Final, NamedTuple

from guide_arc.app.contract.destination import Destination
from guide_arc.app.contract.job import AnyTask

_MOST: Final = 500


class Step(NamedTuple):
    """One step of undo.

    shows : the place in which it is seen; gone to after it was taken back or done again
    undo, redo : either do it at once, or give the task that does it; words say why it was left, as
        where another window has changed it since
    same : steps with an equal key that follow each other are one, as typing on is; the first one's
        undo and the last one's redo count
    """

    words: str
    shows: Destination
    undo: Callable[[], AnyTask | str | None]
    redo: Callable[[], AnyTask | str | None]
    same: str = ""


class UndoHistory:
    """The one list. A step enters it after it succeeded, and moves when its undo or redo has."""

    def __init__(self) -> None:
        self._past: list[Step] = []
        self._future: list[Step] = []

    @property
    def undo_words(self) -> str | None:
        return self._past[-1].words if self._past else None

    @property
    def redo_words(self) -> str | None:
        return self._future[-1].words if self._future else None

    def push(self, step: Step) -> None:
        """Something was done: what was taken back before can't be done again from here."""
        before = self._past[-1] if self._past else None
        if before is not None and step.same and step.same == before.same and not self._future:
            self._past[-1] = step._replace(undo=before.undo)
        else:
            self._past.append(step)
            del self._past[:-_MOST]
        self._future.clear()

    def forget(self) -> None:
        """What was done was done to something that is not there any more."""
        self._past.clear()
        self._future.clear()

    def break_off(self) -> None:
        """The next change is a separate step, even if it continues the last one."""
        if self._past and self._past[-1].same:
            self._past[-1] = self._past[-1]._replace(same="")

    def to_undo(self) -> Step | None:
        """The step that undo would take back."""
        return self._past[-1] if self._past else None

    def to_redo(self) -> Step | None:
        """The step that redo would do again."""
        return self._future[-1] if self._future else None

    def undone(self, step: Step) -> None:
        if self._past and self._past[-1] is step:
            self._future.append(self._past.pop())

    def redone(self, step: Step) -> None:
        if self._future and self._future[-1] is step:
            self._past.append(self._future.pop())

    def drop(self, step: Step) -> None:
        """A step can't be taken back or done again any more: what it changed is gone."""
        self._past = [one for one in self._past if one is not step]
        self._future = [one for one in self._future if one is not step]

    def clear(self) -> None:
        self._past.clear()
        self._future.clear()
