"""The steps of undo over a frozen document: an edit keeps the document before it."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Generic, TypeVar

T = TypeVar("T")


@dataclass(frozen=True)
class Step(Generic[T]):
    """One undoable step: its words for the menu, and the document on its other side."""

    words: str
    document: T


class Steps(Generic[T]):
    """What was done and what was taken back. Holds no document of its own: that is given each time."""

    def __init__(self) -> None:
        self._undo: list[Step[T]] = []
        self._redo: list[Step[T]] = []

    @property
    def undo_words(self) -> str | None:
        return self._undo[-1].words if self._undo else None

    @property
    def redo_words(self) -> str | None:
        return self._redo[-1].words if self._redo else None

    def clear(self) -> None:
        self._undo, self._redo = [], []

    def did(self, words: str, before: T, *, more_of_the_same: bool = False) -> None:
        """An edit was made. more_of_the_same : it belongs to the step before it, as typing on does"""
        if not (more_of_the_same and self._undo):
            self._undo.append(Step(words, before))
        self._redo.clear()

    def back(self, now: T) -> T | None:
        """The document before the last edit; None where there is none."""
        return self._swap(self._undo, self._redo, now)

    def again(self, now: T) -> T | None:
        """The document that was taken back last; None where there is none."""
        return self._swap(self._redo, self._undo, now)

    @staticmethod
    def _swap(take: list[Step[T]], give: list[Step[T]], now: T) -> T | None:
        if not take:
            return None
        step = take.pop()
        give.append(Step(step.words, now))
        return step.document
