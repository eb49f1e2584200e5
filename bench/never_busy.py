"""Is the window's thread ever busy for more than a blink outside a repaint, through an evening?

    ./run dev python bench/never_busy.py [SETS]        3 when left out; try 20000

An evening (`watched_evening.py`) is gone through on a library of so many sets, up to four times:
what holds the window up does so every time; another program on the machine does not.
Prints the steps that were busy for over 50 ms of processor time in each run; ends with 1 where
there are any.
"""

from __future__ import annotations

import json
import shutil
import sqlite3
import subprocess
import sys
import tempfile
from pathlib import Path
from typing import Final

import harness
from builders import filmed
from conftest import adder
from guide_arc.core.model.track import LandmarkTrack
from guide_arc.formats.track_file import write_track
from guide_arc.library.store import Library

SCRIPT: Final = Path(__file__).with_name("watched_evening.py")
MOST_MS: Final = 50.0
MOST_RUNS: Final = 4


def begin_evening(folder: Path) -> None:
    """Three sets of Cleo's and Finn's, as an evening begins with."""
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
    long. Raises CalledProcessError where the evening breaks off."""
    shutil.copytree(library, folder)
    given = folder.with_suffix(".csv")
    track: LandmarkTrack = filmed("standing-barbell-curl", reps=5, seed=77).track
    write_track(track, given)
    done = subprocess.run(
        [sys.executable, str(SCRIPT), str(folder), str(given)],
        stdout=subprocess.PIPE,
        text=True,
        check=True,
    )
    late = {f"{w['doing']}: {w['what']}" for w in json.loads(done.stdout) if w["ms"] > MOST_MS}
    # Nobody waits for a window that is gone already.
    return {what for what in late if not what.startswith("closing")}


def main(sets: int) -> int:
    with tempfile.TemporaryDirectory() as place:
        library = Path(place) / "library"
        begin_evening(library)
        if sets > 3:
            many(library, sets)
        late = late_steps(library, Path(place) / "evening-0")
        for run in range(1, MOST_RUNS):
            if late:
                late &= late_steps(library, Path(place) / f"evening-{run}")
    for step in sorted(late):
        print(step)
    print(f"{sets} sets: {len(late)} steps of over {MOST_MS:.0f} ms in every run")
    return bool(late)


if __name__ == "__main__":
    sys.exit(main(harness.number(1, 3)))
