"""The window's thread is never busy for more than a blink outside a repaint, through a whole
evening."""

from __future__ import annotations

import json
import os
import shutil
import sqlite3
import subprocess
import sys
from pathlib import Path

import pytest

from builders import filmed, some_of
from conftest import adder
from guide_arc.core.model.track import LandmarkTrack
from guide_arc.formats.track_file import write_track
from guide_arc.library.store import Library

SCRIPT = Path(__file__).resolve().parent.parent / "watched_evening.py"
MOST_MS = 50.0
# What holds the window up does so every time; what another program on the machine does, it does
# once.
MOST_RUNS = 4


@pytest.fixture(scope="module")
def evening_library(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """Three sets of Cleo's and Finn's, as an evening begins with."""
    folder = tmp_path_factory.mktemp("evening") / "library"
    library = Library.open(folder)
    add = adder(library)
    for seed, day in ((1, "2031-03-01"), (2, "2031-03-08")):
        add(
            "Cleo Marsh",
            reps=10,
            noise=0.003,
            faults={"torso-swing": 22.0},
            recorded=day,
            seed=seed,
        )
    add("Finn Adair", "rope-pushdown", reps=8, noise=0.003)
    library.close()
    return folder


def many(folder: Path, count: int) -> None:
    """Make a library as large as one of years: the same sets over and over."""
    with sqlite3.connect(folder / "library.sqlite") as db:
        columns = [r[1] for r in db.execute("pragma table_info(recorded_set)") if r[1] != "id"]
        names = ", ".join(columns)
        numbers = "with recursive n(i) as (select 1 union all select i + 1 from n where i < ?)"
        db.execute(
            f"insert into recorded_set ({names}) {numbers} select {names} from recorded_set, n",
            (count // 3,),
        )
        db.execute(
            "insert into review (set_id, program, document, glance, trace, said) select s.id,"
            " r.program, r.document, r.glance, r.trace, r.said from recorded_set s join"
            " recorded_set o on o.track_hash = s.track_hash join review r on r.set_id = o.id where"
            " s.id > 3"
        )
    db.close()


def late_steps(library: Path, folder: Path) -> set[str]:
    """The steps of one evening, on a copy of a library, in which the window was busy for too
    long."""
    shutil.copytree(library, folder)
    given = folder.with_suffix(".csv")
    track: LandmarkTrack = filmed("standing-barbell-curl", reps=5, seed=77).track
    write_track(track, given)
    done = subprocess.run(
        [sys.executable, str(SCRIPT), str(folder), str(given)],
        capture_output=True,
        text=True,
        timeout=240,
        check=False,
        env={**os.environ, "PYTHONPATH": os.pathsep.join(p for p in sys.path if p)},
    )
    assert done.returncode == 0, done.stderr[-3000:]
    worst = json.loads(done.stdout)
    assert len(worst) > 5
    late = {f"{w['doing']}: {w['what']}" for w in worst if w["ms"] > MOST_MS}
    # Nobody waits for a window that is gone already.
    return {what for what in late if not what.startswith("closing")}


@pytest.mark.parametrize("sets", some_of([3, 20_000]))
def test_an_evening_never_holds_the_window_up(
    evening_library: Path, tmp_path: Path, sets: int
) -> None:
    folder = tmp_path / "library"
    shutil.copytree(evening_library, folder)
    if sets > 3:
        many(folder, sets)
    late = late_steps(folder, tmp_path / "evening-0")
    for run in range(1, MOST_RUNS):
        if not late:
            break
        late &= late_steps(folder, tmp_path / f"evening-{run}")
    assert not late
