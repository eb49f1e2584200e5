"""Long work off the window's thread: it reports progress, can be asked to stop, and never gets lost."""

from __future__ import annotations

import threading
import traceback
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any, Literal

from PyQt6.QtCore import QObject, QRunnable, QThreadPool, pyqtSignal, pyqtSlot

Kind = Literal["progress", "done", "failed", "cancelled", "finished"]
Work = Callable[[Callable[[float], None]], Any]


class Cancelled(Exception):
    """The work was asked to stop, and did."""


class _News(QObject):
    """Carries a job's news to the window's thread: (job, kind, what goes with it)."""

    told = pyqtSignal(object, str, object)


class Job(QRunnable):
    """One piece of work. `work` takes a progress function, which raises Cancelled once asked to."""

    def __init__(self, work: Work) -> None:
        super().__init__()
        self.setAutoDelete(False)
        self.news = _News()
        self.left = threading.Event()
        self._work = work
        self._stop = False

    def stop(self) -> None:
        """Ask the work to stop at its next step."""
        self._stop = True

    def _progress(self, share: float) -> None:
        if self._stop:
            raise Cancelled
        self._tell("progress", share)

    def _tell(self, kind: Kind, what: object = None) -> None:
        self.news.told.emit(self, kind, what)

    def run(self) -> None:
        try:
            result = self._work(self._progress)
        except Cancelled:
            self._tell("cancelled")
        except Exception as error:
            error.add_note(traceback.format_exc())
            self._tell("failed", error)
        else:
            self._tell("done", result)
        finally:
            self._tell("finished")
            self.left.set()  # nothing of this job is touched on its thread from here on


@dataclass(frozen=True)
class _Hearers:
    done: Callable[[Any], None]
    failed: Callable[[Exception], None]
    progressed: Callable[[float], None] | None
    cancelled: Callable[[], None] | None


class JobRunner(QObject):
    """Runs jobs on the pool and keeps them alive until they are through.

    All news comes in through one slot of this object, so that none is delivered once it is gone.
    """

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._pool = QThreadPool(self)
        self._pool.setMaxThreadCount(2)
        self._running: dict[Job, _Hearers] = {}
        self._closed = False

    def start(
        self,
        work: Work,
        done: Callable[[Any], None],
        failed: Callable[[Exception], None],
        progressed: Callable[[float], None] | None = None,
        cancelled: Callable[[], None] | None = None,
    ) -> Job:
        job = Job(work)
        job.news.told.connect(self._hear)
        self._running[job] = _Hearers(done, failed, progressed, cancelled)
        self._pool.start(job)
        return job

    @pyqtSlot(object, str, object)
    def _hear(self, job: Job, kind: str, what: Any) -> None:
        hearers = self._running.get(job)
        if hearers is None or self._closed:
            return
        if kind == "progress" and hearers.progressed:
            hearers.progressed(what)
        elif kind == "done":
            hearers.done(what)
        elif kind == "failed":
            hearers.failed(what)
        elif kind == "cancelled" and hearers.cancelled:
            hearers.cancelled()
        elif kind == "finished":
            # The thread may still be on its way out of this very signal: dropping the job under
            # it would pull the floor away.
            job.left.wait()
            self._running.pop(job, None)

    @property
    def busy(self) -> bool:
        return bool(self._running)

    def stop_all(self) -> None:
        """Ask everything to stop, wait until it has, and hear no more."""
        for job in self._running:
            job.stop()
        self._pool.waitForDone()
        self._closed = True
        self._running.clear()
