"""A desk for the review's model without a program: everything is done at once and kept in lists."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from guide_arc.app.contract.history import Step, UndoHistory
from guide_arc.app.contract.job import Alone, AnyTask, Job, Task
from guide_arc.app.places.review.model import ReviewModel
from guide_arc.library.records import SetNotes


class Desk:
    """What the model saved, in order, and the history of its steps."""

    coach = "Marit Engel"

    def __init__(self) -> None:
        self.notes: list[SetNotes] = []
        self.reviews: list[int] = []
        self.elsewhere: list[tuple[int, SetNotes]] = []
        self.history = UndoHistory()

    def opened(self, _set_id: int, _notes: SetNotes) -> None:
        pass

    def save(self, _set_id: int, notes: SetNotes, _joined: Any) -> None:
        self.notes.append(notes)

    def keep_review(self, _set_id: int, review: Any) -> None:
        self.reviews.append(len(review.reps))

    def compute(self, work: Any, done: Any, over: Any) -> None:
        done(work())
        over()

    def did(self, step: Step) -> None:
        self.history.push(step)

    def putting_notes(self, set_id: int, notes: SetNotes, _since: SetNotes | None) -> Task[None]:
        job: Job[None] = Job("", Alone(lambda _p: self.elsewhere.append((set_id, notes))))
        return Task(job, lambda _none: None)


class UndoneModel(ReviewModel):
    """The review's model on such a desk, with its steps taken back and done again."""

    desk: Desk

    def __init__(self) -> None:
        super().__init__(Desk())

    @property
    def undo_words(self) -> str | None:
        return self.desk.history.undo_words

    def undo(self) -> None:
        step = self.desk.history.to_undo()
        assert step is not None
        _at_once(step.undo())
        self.desk.history.undone(step)

    def redo(self) -> None:
        step = self.desk.history.to_redo()
        assert step is not None
        _at_once(step.redo())
        self.desk.history.redone(step)


class _AtOnce:
    """Runs a job where it is asked for."""

    def start(self, job: Job[Any], done: Callable[[Any], object], _over: object = None) -> None:
        assert isinstance(job.work, Alone)
        done(job.work.run(lambda _share: None))


def _at_once(task: AnyTask | str | None) -> None:
    if task is not None and not isinstance(task, str):
        task.begin(_AtOnce(), lambda _left: None)
