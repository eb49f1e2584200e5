"""`review --all` spread over the workers of a cluster."""

from __future__ import annotations

import os
import signal
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest

from builders import slow
from guide_arc.cli.main import run
from guide_arc.library.batch import review_all
from guide_arc.library.store import Library

distributed = pytest.importorskip("distributed", reason="the extra 'team' is not installed")
pytestmark = [pytest.mark.filterwarnings("ignore"), slow]


@pytest.fixture(scope="module")
def cluster() -> Iterator[Any]:
    """Two workers, each a process of its own, on this machine alone."""
    with distributed.LocalCluster(
        n_workers=2, threads_per_worker=1, dashboard_address=None, host="127.0.0.1"
    ) as made:
        yield made


def test_every_set_is_reviewed_by_the_workers(library: Library, add_set, cluster: Any):
    ids = [add_set("Ada Quill", reps=reps) for reps in (1, 2, 3, 4)]
    with library.writing() as session:
        session.connection().exec_driver_sql("delete from review")
    broken = library.record(ids[2]).track_hash
    (library.folder / "tracks" / f"{broken}.csv").unlink()
    out = review_all(library, scheduler=cluster.scheduler_address)
    assert sorted(out.done) == [i for i in ids if i != ids[2]]
    assert len(out.refused) == 1
    assert all(library.kept_review(i) for i in out.done)
    with distributed.Client(cluster.scheduler_address, set_as_default=False) as client:
        assert len(client.scheduler_info()["workers"]) == 2


def test_a_worker_that_is_killed_takes_no_set_with_it(library: Library, add_set, cluster: Any):
    """Its work goes to another worker, and every set is reviewed."""
    ids = [add_set("Ada Quill", reps=2, seed=n) for n in range(8)]
    killed = []

    def kill_one(share: float) -> None:
        if share > 0.2 and not killed:
            worker = next(iter(cluster.workers.values()))
            killed.append(worker.pid)
            os.kill(worker.pid, signal.SIGKILL)

    out = review_all(library, kill_one, fresh=True, scheduler=cluster.scheduler_address)
    assert killed
    assert sorted(out.done) == ids
    assert out.refused == []


def test_no_scheduler_there_is_said(library: Library, add_set, capsys, tmp_path: Path):
    add_set(reps=1)
    given = ["review", "--all", "--library", str(library.folder), "--scheduler", "nonsense://x"]
    assert run(given) == 2
    assert "does not answer" in capsys.readouterr().err
