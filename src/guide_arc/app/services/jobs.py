"""Running jobs: two lanes, news on the window's thread, one way to stop each, and nothing gets
lost."""

from __future__ import annotations

import threading
from collections.abc import Callable
from contextlib import ExitStack
from typing import TYPE_CHECKING, Final, Literal, NamedTuple, TypeVar, cast

from PyQt6.QtCore import QObject, QRunnable, QThreadPool, QTimer, pyqtSignal, pyqtSlot

from guide_arc.app.contract.job import Cancelled, Job, Lane, OnLibrary
from guide_arc.app.contract.signal import Signal

if TYPE_CHECKING:
    from guide_arc.library.store import Library

Opener = Callable[[], "Library"]

Kind = Literal["progress", "done", "failed", "stopped", "finished"]

_THREADS: Final[dict[Lane, int]] = {"now": 2, "long": 2}
# A long job pauses while something runs that the coach waits for, but only up to this limit.
_LONGEST_PAUSE_S: Final = 20.0
_SHARE_STEP: Final = 0.004


R = TypeVar("R")


class _News(QObject):
    """Carries a job's news to the window's thread: (running, kind, its data)."""

    told = pyqtSignal(object, str, object)


class Running(QRunnable):
    """One job under way. answer : what its work gave, once that is done"""

    def __init__(self, job: Job[object], runner: JobRunner) -> None:
        super().__init__()
        self.setAutoDelete(False)
        self.answer: object = None
        self.job, self.share, self.stopping = job, 0.0, False
        self.dropped = False
        self.left = threading.Event()
        self.news = _News()
        self._runner = runner
        self._told = 0.0

    def stop(self) -> None:
        """Ask the work to stop at its next step."""
        self.stopping = True

    def _progress(self, share: float) -> None:
        if self.job.lane == "long":
            self._runner.let_the_others_pass(self)
        if self.stopping:
            raise Cancelled
        if abs(share - self._told) >= _SHARE_STEP or share in (0.0, 1.0):
            self._told = share
            self._tell("progress", share)

    def _tell(self, kind: Kind, what: object = None) -> None:
        self.news.told.emit(self, kind, what)

    def run(self) -> None:
        try:
            with ExitStack() as stack:
                if self.stopping:
                    raise Cancelled
                self._runner.before_each()
                work = self.job.work
                if isinstance(work, OnLibrary):
                    library = self._runner.open_library()
                    stack.callback(library.close)
                    self.answer = work.run(library, self._progress)
                else:
                    self.answer = work.run(self._progress)
        except Cancelled:
            self._tell("stopped")
        except Exception as error:
            self._tell("failed", error)
        else:
            self._tell("done")
        finally:
            self._tell("finished")
            self.left.set()  # nothing of this job is touched on its thread from here on


class _Hearers(NamedTuple):
    done: Callable[[object], object]
    over: Callable[[], None] | None


class JobRunner(QObject):
    """Runs jobs and keeps them alive until they are through.

    All events arrive through one slot of this object, so none is delivered after it is deleted.

    changed : which jobs run, or how far they are, has changed
    failed : a job failed: (the job, its error)
    stopped : the coach stopped a job
    """

    changed: Signal[()] = Signal()
    failed: Signal[Job[object], Exception] = Signal()
    stopped: Signal[Job[object]] = Signal()

    def __init__(
        self,
        open_library: Opener,
        before_each: Callable[[], None] = lambda: None,
        parent: QObject | None = None,
    ) -> None:
        super().__init__(parent)
        self.open_library, self.before_each = open_library, before_each
        self._pools: dict[Lane, QThreadPool] = {}
        for lane, threads in _THREADS.items():
            self._pools[lane] = QThreadPool(self)
            self._pools[lane].setMaxThreadCount(threads)
        self._running: dict[Running, _Hearers] = {}
        self._urgent = 0
        self._free = threading.Condition()
        self._closed = False

    # Starting and stopping

    def start(
        self, job: Job[R], done: Callable[[R], object], over: Callable[[], None] | None = None
    ) -> None:
        if self._closed:
            return
        for running in list(self._running):
            if job.key and running.job.key == job.key:
                running.dropped = True
                running.stop()
        running = Running(job, self)
        running.news.told.connect(self._hear)
        # It is called with the result of this job.
        self._running[running] = _Hearers(cast("Callable[[object], object]", done), over)
        if job.lane == "now":
            with self._free:
                self._urgent += 1
        self._pools[job.lane].start(running)
        self.changed.emit()

    @property
    def shown(self) -> list[Running]:
        """The jobs shown in the work bar, the latest first."""
        named = [r for r in self._running if r.job.words and not r.dropped]
        return named[::-1]

    def runs(self, key: str) -> bool:
        """Whether a job of a key is under way."""
        return any(r.job.key == key and not r.dropped for r in self._running)

    def stop(self, key: str) -> None:
        """Ask the jobs of a key to stop."""
        for running in self._running:
            if running.job.key == key:
                running.stop()

    @property
    def busy(self) -> bool:
        return bool(self._running)

    def busy_now(self) -> bool:
        """Whether anything runs that the coach waits for."""
        return any(r.job.lane == "now" for r in self._running)

    def stop_all(self) -> None:
        """Ask everything to stop, wait until it has, and hear no more."""
        self._closed = True
        for running in self._running:
            running.stop()
        with self._free:
            self._free.notify_all()
        for pool in self._pools.values():
            pool.waitForDone()
        self._running.clear()

    # On the jobs' threads

    def let_the_others_pass(self, running: Running) -> None:
        """A long job pauses here while one runs that the coach waits for."""
        with self._free:
            self._free.wait_for(
                lambda: not self._urgent or running.stopping or self._closed, _LONGEST_PAUSE_S
            )

    # On the window's thread

    @pyqtSlot(object, str, object)
    def _hear(self, running: Running, kind: Kind, what: object) -> None:
        callbacks = self._running.get(running)
        if callbacks is None or self._closed:
            return
        if kind == "progress":
            assert isinstance(what, float)
            running.share = what
            if running.job.words:
                self.changed.emit()
        elif kind == "finished":
            # The thread may still be on its way out of this very signal: dropping the job under
            # it would pull the floor away.
            running.left.wait()
            self._running.pop(running, None)
            if running.job.lane == "now":
                with self._free:
                    self._urgent -= 1
                    self._free.notify_all()
            self.changed.emit()
            if callbacks.over is not None:
                callbacks.over()
        elif running.dropped:
            return
        elif kind == "done":
            callbacks.done(running.answer)
        elif kind == "failed":
            assert isinstance(what, Exception)
            self.failed.emit(running.job, what)
        elif kind == "stopped":
            self.stopped.emit(running.job)

    def when_idle(self, then: Callable[[], None]) -> None:
        """Call once nothing runs that the coach waits for."""
        if not self.busy_now():
            then()
        else:
            QTimer.singleShot(10, lambda: None if self._closed else self.when_idle(then))
