"""Work off the window's thread: news arrives, it can be stopped, and nothing is lost."""

from __future__ import annotations

import gc
import threading

import pytest
from PyQt6.QtCore import QObject

from guide_arc.app.garbage import WindowThreadGarbage
from guide_arc.app.jobs import JobRunner


@pytest.fixture
def runner(qtbot):
    made = JobRunner()
    yield made
    made.stop_all()


def test_a_result_arrives_on_the_windows_thread(qtbot, runner):
    heard: list[object] = []
    here = threading.get_ident()
    there: list[int] = []

    def work(progress):
        there.append(threading.get_ident())
        progress(0.5)
        return 42

    shares: list[float] = []
    runner.start(
        work, lambda r: heard.append((r, threading.get_ident())), pytest.fail, shares.append
    )
    qtbot.waitUntil(lambda: not runner.busy, timeout=3000)
    assert heard == [(42, here)]
    assert shares == [0.5]
    assert there[0] != here


def test_an_error_is_told_with_where_it_happened(qtbot, runner):
    heard: list[Exception] = []

    def work(_progress):
        raise KeyError("gone")

    runner.start(work, pytest.fail, heard.append)
    qtbot.waitUntil(lambda: bool(heard), timeout=3000)
    assert isinstance(heard[0], KeyError)
    assert "raise KeyError" in heard[0].__notes__[0]


def test_a_stopped_job_says_so_at_its_next_step(qtbot, runner):
    started, go_on, said = threading.Event(), threading.Event(), []

    def work(progress):
        started.set()
        go_on.wait(5)
        progress(0.1)
        return "too late"

    job = runner.start(work, pytest.fail, pytest.fail, None, lambda: said.append("stopped"))
    assert started.wait(5)
    job.stop()
    go_on.set()
    qtbot.waitUntil(lambda: said == ["stopped"], timeout=3000)


def test_two_jobs_run_side_by_side(qtbot, runner):
    both = threading.Barrier(2, timeout=5)
    done: list[int] = []
    for n in (1, 2):
        runner.start(lambda _p: both.wait(), lambda _r, n=n: done.append(n), pytest.fail)
    qtbot.waitUntil(lambda: sorted(done) == [1, 2], timeout=6000)


def test_after_closing_no_news_is_heard(qtbot):
    runner = JobRunner()
    heard: list[object] = []
    runner.start(lambda _p: 1, heard.append, heard.append)
    runner.stop_all()
    qtbot.wait(1)
    assert heard == []
    assert not runner.busy


def test_garbage_is_collected_by_the_window_and_given_back(qtbot):
    keeper = QObject()
    garbage = WindowThreadGarbage(keeper)
    assert not gc.isenabled()
    garbage._collect()
    garbage.stop()
    assert gc.isenabled()
