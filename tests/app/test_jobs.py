"""Work off the window's thread: news arrives, the right job is stopped, and nothing is lost."""

from __future__ import annotations

import gc
import threading
import traceback
import weakref
from typing import cast

import pytest
from PyQt6.QtCore import QObject

from guide_arc.app.contract.job import Alone, Job, Lane, OnLibrary
from guide_arc.app.services.garbage import WindowThreadGarbage
from guide_arc.app.services.jobs import JobRunner
from guide_arc.app.services.keeper import Keeper
from guide_arc.app.shell.work_bar import WorkBar
from guide_arc.library.store import Library


class Book:
    """Stands in for the library."""

    def __init__(self, closed: list[int]) -> None:
        self._closed = closed

    def close(self) -> None:
        self._closed.append(1)


@pytest.fixture
def closed() -> list[int]:
    return []


@pytest.fixture
def runner(qtbot, closed):
    made = JobRunner(lambda: cast("Library", Book(closed)))
    yield made
    made.stop_all()


def until_quiet(qtbot, runner) -> None:
    qtbot.waitUntil(lambda: not runner.busy, timeout=6000)


class Held:
    """A job that goes on until it is let go or stopped."""

    def __init__(self, words: str = "Held", lane: Lane = "long", key: str = "") -> None:
        self.started, self.go_on = threading.Event(), threading.Event()
        self.job = Job(words, Alone(self.run), key, lane)

    def run(self, progress):
        self.started.set()
        for _ in range(2000):
            progress(0.1)
            if self.go_on.wait(0.003):
                return "let go"
        raise AssertionError("nobody let go")


def test_a_result_arrives_on_the_windows_thread_and_the_library_is_closed(qtbot, runner, closed):
    heard: list[object] = []
    here = threading.get_ident()
    there: list[int] = []

    def work(library, progress):
        assert isinstance(library, Book)
        there.append(threading.get_ident())
        progress(0.5)
        return 42

    runner.start(
        Job("Counting", OnLibrary(work)), lambda r: heard.append((r, threading.get_ident()))
    )
    until_quiet(qtbot, runner)
    assert heard == [(42, here)]
    assert there[0] != here
    assert closed == [1]


def test_an_error_is_told_with_where_it_happened(qtbot, runner):
    heard: list[Exception] = []
    runner.failed.connect(lambda _job, error: heard.append(error))

    def work(_library, _progress):
        raise KeyError("gone")

    over: list[int] = []
    runner.start(Job("", OnLibrary(work)), pytest.fail, lambda: over.append(1))
    until_quiet(qtbot, runner)
    assert isinstance(heard[0], KeyError)
    assert "raise KeyError" in "".join(traceback.format_exception(heard[0]))
    assert over == [1]


def test_stop_ends_the_job_that_the_bar_names_and_no_other(qtbot, runner):
    bar = WorkBar(runner)
    qtbot.addWidget(bar)
    said: list[str] = []
    runner.stopped.connect(lambda job: said.append(job.words))
    first, second = Held("Copying"), Held("Writing")
    for held in (first, second):
        runner.start(held.job, lambda _r: None)
        assert held.started.wait(5)
    assert bar.words.text() == "Writing · 1 more"
    choices = {a.text(): a for a in bar.menu().actions()}
    assert list(choices) == ["Stop: Writing", "Stop: Copying"]
    choices["Stop: Copying"].trigger()
    qtbot.waitUntil(lambda: said == ["Copying"], timeout=3000)
    assert bar.words.text() == "Writing"
    bar.stop.click()
    assert bar.words.text() == "Stopping: Writing"
    until_quiet(qtbot, runner)
    assert said == ["Copying", "Writing"]
    assert not bar.isVisible()


def test_a_newer_job_of_a_key_stops_the_older_whose_answer_is_dropped(qtbot, runner):
    heard: list[object] = []
    old, new = Held(key="search"), Held(key="search")
    runner.start(old.job, lambda _r: heard.append("old"))
    assert old.started.wait(5)
    runner.start(new.job, lambda _r: heard.append("new"))
    old.go_on.set()
    new.go_on.set()
    until_quiet(qtbot, runner)
    assert heard == ["new"]


def test_what_the_coach_waits_for_never_queues_behind_long_jobs(qtbot, runner):
    heard: list[str] = []
    long = [Held() for _ in range(4)]
    for held in long:
        runner.start(held.job, lambda _r: None)
    assert long[0].started.wait(5)
    assert long[1].started.wait(5)
    runner.start(Job("", OnLibrary(lambda _l, _p: "there"), lane="now"), heard.append)
    qtbot.waitUntil(lambda: heard == ["there"], timeout=3000)
    for held in long:
        held.go_on.set()
    until_quiet(qtbot, runner)


def test_a_long_job_stands_still_while_the_coach_waits(qtbot, runner):
    steps: list[int] = []

    def count(progress):
        for i in range(5000):
            progress(i / 5000)
            steps.append(i)
            if still.started.is_set() and still.go_on.is_set():
                return

    still = Held(lane="now")
    runner.start(Job("Counting", Alone(count)), lambda _r: None)
    runner.start(still.job, lambda _r: None)
    assert still.started.wait(5)
    qtbot.wait(30)
    before = len(steps)
    qtbot.wait(30)
    assert len(steps) - before <= 1
    still.go_on.set()
    until_quiet(qtbot, runner)


def test_after_closing_no_news_is_heard(qtbot):
    runner = JobRunner(lambda: cast("Library", Book([])))
    heard: list[object] = []
    runner.start(Job("", OnLibrary(lambda _l, _p: 1)), heard.append)
    runner.stop_all()
    qtbot.wait(1)
    assert heard == []
    assert not runner.busy


class Ring:
    """Two objects that hold one another: only collection takes them away."""

    def __init__(self) -> None:
        self.other = self


def test_garbage_is_collected_by_the_window_and_given_back(qtbot):
    keeper = QObject()
    garbage = WindowThreadGarbage(keeper)
    try:
        assert not gc.isenabled()
        garbage.begin()
        gone = weakref.ref(Ring())
        held = [[] for _ in range(5000)]
        garbage._look()
        assert gone() is None
        assert len(held) == 5000
    finally:
        garbage.stop()
    assert gc.isenabled()
    assert gc.get_freeze_count() == 0


def test_what_was_set_aside_is_collected_once_nobody_is_at_the_window(qtbot):
    keeper = QObject()
    garbage = WindowThreadGarbage(keeper)
    try:
        gone = weakref.ref(Ring())
        garbage.begin()  # sets the ring aside with all the rest
        for _ in range(200):
            garbage._look()
        assert gone() is None
    finally:
        garbage.stop()


# The keeper


class Disk(Book):
    """Stands in for a library on a disk that may be full."""

    def __init__(self) -> None:
        super().__init__([])
        self.full = False
        self.kept: list[str] = []

    def write(self, words: str) -> None:
        if self.full:
            raise OSError(28, "No space left on device")
        self.kept.append(words)


@pytest.fixture
def disk() -> Disk:
    return Disk()


@pytest.fixture
def keeper(qtbot, disk):
    made = Keeper(lambda: disk, lambda error: isinstance(error, LookupError))
    made.try_again_s = 0.01
    yield made
    disk.full = False
    made.end()


def test_writes_are_kept_in_order_and_typing_on_writes_the_last_word(qtbot, disk, keeper):
    disk.full = True
    for text in ("g", "go", "good"):
        keeper.keep("note", "the note", lambda d, t=text: d.write(t))
    keeper.keep("pain", "the flag", lambda d: d.write("pain"))
    disk.full = False
    qtbot.waitUntil(lambda: keeper.idle, timeout=3000)
    assert sorted(disk.kept) == ["good", "pain"]


def test_what_could_not_be_kept_is_said_and_tried_again(qtbot, disk, keeper):
    said: list[str] = []
    keeper.trouble.connect(said.append)
    disk.full = True
    keeper.keep("note", "the note", lambda d: d.write("keep it up"))
    qtbot.waitUntil(lambda: bool(said), timeout=3000)
    assert said[0].startswith("Not saved yet: the note (No space left on device)")
    assert keeper.pending == ["the note"]
    disk.full = False
    qtbot.waitUntil(lambda: said[-1] == "", timeout=3000)
    assert disk.kept == ["keep it up"]
    assert keeper.pending == []


def test_one_write_that_never_can_be_does_not_stop_the_others(qtbot, disk, keeper):
    failed: list[str] = []
    keeper.failed.connect(lambda words, _error: failed.append(words))

    def gone(_disk):
        raise LookupError

    keeper.keep("a", "a note of a set that is gone", gone)
    keeper.keep("b", "another", lambda d: d.write("b"))
    qtbot.waitUntil(lambda: keeper.idle and bool(failed), timeout=3000)
    assert disk.kept == ["b"]
    assert failed == ["a note of a set that is gone"]
