"""The program behind the window: everything that places share, and one answer to each thing they
ask."""

from __future__ import annotations

import sys
import threading
from collections.abc import Callable, Mapping
from pathlib import Path
from types import TracebackType
from typing import TypeVar

from PyQt6.QtCore import QObject, QSettings, pyqtSignal

from guide_arc.app.contract.destination import Destination
from guide_arc.app.contract.history import Step, UndoHistory
from guide_arc.app.contract.job import Job
from guide_arc.app.contract.signal import Signal
from guide_arc.app.services.answers import Answers
from guide_arc.app.services.garbage import WindowThreadGarbage
from guide_arc.app.services.jobs import JobRunner
from guide_arc.app.services.keeper import Keeper
from guide_arc.app.services.names_forgotten import forget_names
from guide_arc.app.services.open_library import OpenLibrary
from guide_arc.app.services.remembered import Remembered
from guide_arc.app.services.set_changes import SetChanges
from guide_arc.app.services.set_list import SetList
from guide_arc.app.services.training_log import TrainingLog
from guide_arc.core.model.errors import BadInput
from guide_arc.lazily import lazily
from guide_arc.library.errors import BadLibrary, Gone

with lazily():
    from guide_arc.app.services.clips import Clips
    from guide_arc.app.services.daily_copies import DailyCopies
    from guide_arc.app.services.drop_folder import DropFolderWatch
    from guide_arc.app.services.evening import Evening
    from guide_arc.app.services.follow_ups import FollowUps
    from guide_arc.app.services.intake import Intake
    from guide_arc.app.services.measuring import Measuring
    from guide_arc.app.services.searching import Searching
    from guide_arc.library.store import Library


R = TypeVar("R")


class Program(QObject):
    """Implements the App of the contract and all services that places need. The shell is connected
    to its signals.

    said : a sentence; went : where to; refreshed : header and commands may be other;
    broke : an error of the program's own; could_not_open : the library, in a sentence;
    completed : the library is open, and all that works on it is there;
    recoloured : other colours, handed over; closing : no news after this
    """

    _elsewhere = pyqtSignal(object)

    said: Signal[str] = Signal()
    went: Signal[Destination] = Signal()
    refreshed: Signal[()] = Signal()
    broke: Signal[BaseException] = Signal()
    could_not_open: Signal[Exception] = Signal()
    completed: Signal[()] = Signal()
    recoloured: Signal[Mapping[str, str]] = Signal()
    closing: Signal[()] = Signal()

    def __init__(self, where: Path | str, folder: Path, settings: QSettings) -> None:
        super().__init__()
        self.settings = settings
        self.remembered = Remembered(settings)
        self.colours: Mapping[str, str] = {}
        self.history = UndoHistory()
        # The step that undo or redo is at work on, with its job.
        self._moving: tuple[Job[object], Step] | None = None
        self.keeper = Keeper(self._open_library, _is_hopeless, self)
        self.jobs = JobRunner(self._open_library, self.keeper.wait_for_kept, self)
        self.library = OpenLibrary(self, where, folder)
        self.set_changes = SetChanges(self, self.library)
        self.training_log = TrainingLog(self, self.library)
        self.sets = SetList(self, where)
        self.garbage = WindowThreadGarbage(self)
        self._elsewhere.connect(self.failed)
        self.jobs.failed.connect(self._job_failed)
        self.jobs.stopped.connect(lambda job: self.say(job.stopped) if job.words else None)
        self.keeper.failed.connect(lambda _words, error: self.failed(error))
        self.library.changed.connect(self._sets_changed)
        self.library.gone.connect(self._sets_changed)
        self.library.opened.connect(self._complete)
        self.library.forgot.connect(lambda names: forget_names(self.settings, names))

    def _complete(self) -> None:
        """The library is there: with it, what works on it. The first picture did not wait for
        this."""
        if self.library.library.read_only:
            self.sets.through_library = True
            self.sets.refresh()
            self.say(
                "This library can only be read: its disk or its files are read-only. Export works;"
                " changes don't."
            )
        self.evening = Evening(self, self.library)
        self.follow_ups = FollowUps(self, self.library)
        self.measuring = Measuring(self, self.library)
        self.clips = Clips(self, self.library, self)
        self.searching = Searching(self, self.library)
        self.intake = Intake(
            self,
            library=self.library,
            set_changes=self.set_changes,
            sets=self.sets,
            clips=self.clips,
            searching=self.searching,
            keeper=self.keeper,
        )
        self.answers = Answers(self, self.library, self.intake)
        self.drop_folder = DropFolderWatch(self, self.library, self.intake, self.keeper, self)
        self.copies = DailyCopies(self, self)
        self.measuring.reviewed.connect(self.sets.refresh)
        self.measuring.reviewed.connect(self.intake.quarantined.emit)
        self.library.gone.connect(lambda _ids: self.follow_ups.refresh())
        self.completed.emit()
        self.follow_ups.refresh()
        self.measuring.review_missing()
        self.intake.go_on_with_clips()
        self.searching.go_on()
        self.drop_folder.start()
        self.copies.start()

    def _open_library(self) -> Library:
        # It was open already: if it is gone, no new one is created.
        return Library.open(self.library.where, aside=self.library.aside, make=False)

    def _sets_changed(self, _ids: frozenset[int]) -> None:
        self.sets.refresh()
        self.changed()

    # What the contract asks

    def say(self, words: str) -> None:
        self.said.emit(words)

    def go(self, to: Destination) -> None:
        self.went.emit(to)

    def start(
        self, job: Job[R], done: Callable[[R], object], over: Callable[[], None] | None = None
    ) -> None:
        self.jobs.start(job, done, over)

    def did(self, step: Step) -> None:
        self.history.push(step)
        self.changed()

    def break_off(self) -> None:
        self.history.break_off()

    def changed(self) -> None:
        self.refreshed.emit()

    def start_over(self) -> None:
        self.history.forget()
        self.follow_ups.refresh()
        self.changed()

    def recolour(self, colours: Mapping[str, str]) -> None:
        """Use other colours, and repaint everything."""
        self.colours = colours
        self.recoloured.emit(colours)

    # Undo

    def undo(self) -> None:
        """Undo the last step, in whichever place it was made, and go there."""
        self.jobs.when_idle(
            lambda: self._move(self.history.to_undo(), "undo", self.history.undone, "Taken back")
        )

    def redo(self) -> None:
        self.jobs.when_idle(
            lambda: self._move(self.history.to_redo(), "redo", self.history.redone, "Done again")
        )

    def _move(self, step: Step | None, way: str, moved: Callable[[Step], None], words: str) -> None:
        if step is None:
            return

        def through(left: str | None) -> None:
            moved(step)
            self.go(step.shows)
            self.say(left or f"{words}: {step.words}.")
            self.changed()

        try:
            task = step.undo() if way == "undo" else step.redo()
        except BadInput as error:
            self.say(str(error))
            return
        if task is None or isinstance(task, str):
            through(task)
        else:
            self._moving = (task.job, step)
            task.begin(self, through)

    # Trouble

    def _job_failed(self, job: Job[object], error: Exception) -> None:
        if self._moving is not None and self._moving[0] is job and isinstance(error, Gone):
            # Left in the list, it would bar the way to the steps before it.
            step = self._moving[1]
            self.history.drop(step)
            self.say(f"“{step.words}” can't be undone or redone any more: {error}.")
            self.changed()
        elif job.key == "open-library":
            self.could_not_open.emit(error)
        elif job.key == "drop-folder" and isinstance(error, OSError):
            self.drop_folder.gone(error)
        else:
            self.failed(error)

    def failed(self, error: BaseException) -> None:
        """Show a message for bad input; report any other error with where its details are."""
        if isinstance(error, BadInput):
            self.say(str(error))
        else:
            self.broke.emit(error)

    def heard_in_thread(self, given: threading.ExceptHookArgs) -> None:
        """The same from another thread; reported on the window's."""
        self._elsewhere.emit(given.exc_value or given.exc_type())

    def heard(
        self, kind: type[BaseException], error: BaseException, trace: TracebackType | None
    ) -> None:
        """An exception that nobody caught, of any thread."""
        if issubclass(kind, KeyboardInterrupt):
            sys.__excepthook__(kind, error, trace)
            return
        self.failed(error)

    # Closing

    def close(self) -> None:
        self.closing.emit()
        if self.library.ready:
            self.drop_folder.stop()
        self.keeper.end()
        self.jobs.stop_all()
        if self.library.ready:
            self.clips.close()
        self.garbage.stop()
        self.library.close()


def _is_hopeless(error: Exception) -> bool:
    """What no trying again mends: the error is not one of disk or lock."""
    if isinstance(error, Gone):
        return True
    return not (
        isinstance(error, OSError | BadLibrary)
        or type(error).__name__ in ("OperationalError", "DatabaseError")
    )
