"""Imports of clips and tracks survive kill -9 at random moments: the library opens, and the next run finishes.

    ./run dev python bench/kills.py [KILLS]        50 when left out

Prints one line for each kill that left anything broken, and ends with 1 then.
"""

from __future__ import annotations

import random
import sqlite3
import subprocess
import sys
import tempfile
import time
from pathlib import Path

HERE = Path(__file__).resolve()
sys.path[:0] = [str(HERE.parents[1] / "src"), str(HERE.parents[1] / "tests")]

from builders import filmed
from clips import numbered_clip
from guide_arc.formats.track_file import write_track
from guide_arc.library.batch import TrackFile, import_tracks
from guide_arc.library.clip_sets import ClipDetails, ClipSets
from guide_arc.library.store import Library

CLIPS, TRACKS = 4, 4
CLIP_FRAMES = 250


def work(library: Path, folder: Path) -> None:
    """Go on with what was cut off, then import all, and make the small copies."""
    opened = Library.open(library)
    sets = ClipSets(opened)
    print("ready", flush=True)
    for coming in sets.folder.pending():
        sets.resume(coming)
    for path in sorted(folder.glob("*.mp4")):
        sets.add(path, ClipDetails("Esme Rook", "rope-pushdown", "locked", "left"))
    import_tracks(
        opened, [TrackFile(p, "Finn Adair", "rope-pushdown") for p in sorted(folder.glob("*.csv"))]
    )
    for name in sets.folder.without_proxy():
        clip = sets.folder.find(name)
        assert clip is not None
        sets.folder.make_proxy(clip)
    print("done", flush=True)


def intact(library: Path) -> list[str]:
    """What is broken in a library after a kill; nothing should be."""
    wrong = []
    opened = Library.open(library)
    sets = ClipSets(opened)
    for row in opened.queue(state=None):
        record = opened.record(row.id)
        try:
            if record.clip_hash and sets.clip(row.id) is None:
                wrong.append(f"set {row.id} names a clip that is not there")
            if not record.waits_for_landmarks:
                opened.track(row.id)
        except Exception as error:
            wrong.append(f"set {row.id}: {error!r}")
    opened.close()
    with sqlite3.connect(library / "library.sqlite") as file:
        if file.execute("pragma integrity_check").fetchone() != ("ok",):
            wrong.append("the library file is damaged")
        if file.execute("pragma foreign_key_check").fetchall():
            wrong.append("the library file refers to something that is gone")
    return wrong


def main(kills: int) -> int:

    rng = random.Random(2031)
    broken: list[str] = []
    landed = 0
    with tempfile.TemporaryDirectory() as place:
        folder = Path(place) / "in"
        folder.mkdir()
        for i in range(CLIPS):
            numbered_clip(folder / f"{i}.mp4", CLIP_FRAMES + i, size=(640, 480))
        for i in range(TRACKS):
            write_track(filmed("rope-pushdown", reps=2, seed=i).track, folder / f"{i}.csv")
        command = [sys.executable, str(HERE), "--work"]
        whole = [*command, str(Path(place) / "whole"), str(folder)]
        running = subprocess.Popen(whole, stdout=subprocess.PIPE)
        assert running.stdout is not None
        running.stdout.readline()
        begun = time.monotonic()
        assert running.communicate()[0].split()[-1] == b"done"
        longest_s = time.monotonic() - begun
        library = Path(place) / "library"
        tries = 0
        while landed < kills:
            tries += 1
            running = subprocess.Popen(
                [*command, str(library), str(folder)], stdout=subprocess.PIPE
            )
            assert running.stdout is not None
            running.stdout.readline()
            time.sleep(rng.uniform(0.0, 0.6 * longest_s))
            in_the_middle = running.poll() is None
            # The helpers of the import die with it, as when a machine loses its power.
            subprocess.run(["pkill", "-9", "-P", str(running.pid)], check=False)
            running.kill()
            running.communicate()
            landed += in_the_middle
            broken += [f"kill {tries}: {what}" for what in intact(library)]
            if not in_the_middle or tries % 3 == 0:  # begin anew, so that every part is hit
                library = Path(place) / f"library-{tries}"
        end = subprocess.run([*command, str(library), str(folder)], capture_output=True, text=True)
        if end.stdout.split()[-1:] != ["done"]:
            broken.append(f"the last run does not finish: {end.stderr[-400:]}")

        opened = Library.open(library)
        if opened.count() != CLIPS + TRACKS:
            broken.append(f"{opened.count()} sets instead of {CLIPS + TRACKS}")
        opened.close()
    for line in broken:
        print("BROKEN", line)
    print(
        f"{landed} kills in the middle of work of {longest_s:.1f} s: {len(broken)} left something broken"
    )
    return 1 if broken else 0


if __name__ == "__main__":
    if sys.argv[1:2] == ["--work"]:
        work(Path(sys.argv[2]), Path(sys.argv[3]))
    else:
        sys.exit(main(int(sys.argv[1]) if len(sys.argv) > 1 else 50))
