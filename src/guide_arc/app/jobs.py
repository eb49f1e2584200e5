"""Long work off the window's thread: it reports progress, can be asked to stop, and never gets lost."""

from __future__ import annotations

import traceback
from collections.abc import Callable
from typing import Any

from PyQt6.QtCore import QObject, QRunnable, QThreadPool, pyqtSignal


class Cancelled(Exception):
    """The work was asked to stop, and did."""


class JobSignals(QObject):
    progressed = pyqtSignal(float)
    done = pyqtSignal(object)
    failed = pyqtSignal(Exception)
    cancelled = pyqtSignal()
    finished = pyqtSignal()


class Job(QRunnable):
    """One piece of work. `work` takes a progress function, which raises Cancelled once asked to."""

    def __init__(self, work: Callable[[Callable[[float], None]], Any]) -> None:
        super().__init__()
        self.setAutoDelete(False)
        self.signals = JobSignals()
        self._work = work
        self._stop = False

    def stop(self) -> None:
        """Ask the work to stop at its next step."""
        self._stop = True

    def _progress(self, share: float) -> None:
        if self._stop:
            raise Cancelled
        self.signals.progressed.emit(share)

    def run(self) -> None:
        try:
            result = self._work(self._progress)
        except Cancelled:
            self.signals.cancelled.emit()
        except Exception as error:
            error.add_note(traceback.format_exc())
            self.signals.failed.emit(error)
        else:
            self.signals.done.emit(result)
        finally:
            self.signals.finished.emit()


class JobRunner(QObject):
    """Runs jobs on the pool and keeps them alive until they are through."""

    busy_changed = pyqtSignal(bool)

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._pool = QThreadPool(self)
        self._pool.setMaxThreadCount(2)
        self._running: list[Job] = []

    def start(
        self,
        work: Callable[[Callable[[float], None]], Any],
        done: Callable[[Any], None],
        failed: Callable[[Exception], None],
        progressed: Callable[[float], None] | None = None,
        cancelled: Callable[[], None] | None = None,
    ) -> Job:
        job = Job(work)
        job.signals.done.connect(done)
        job.signals.failed.connect(failed)
        if progressed:
            job.signals.progressed.connect(progressed)
        if cancelled:
            job.signals.cancelled.connect(cancelled)
        job.signals.finished.connect(lambda: self._through(job))
        self._running.append(job)
        self.busy_changed.emit(True)
        self._pool.start(job)
        return job

    def _through(self, job: Job) -> None:
        if job in self._running:
            self._running.remove(job)
        if not self._running:
            self.busy_changed.emit(False)

    @property
    def busy(self) -> bool:
        return bool(self._running)

    def stop_all(self) -> None:
        """Ask everything to stop and wait until it has."""
        for job in self._running:
            job.stop()
        self._pool.waitForDone()
