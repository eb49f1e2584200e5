"""Memory over long evenings: a thousand sets opened in turn, and a week of looking into the drop
folder.

    ./run dev python bench/long_evening.py [SETS]        1,000 when left out

Prints the window's memory after each fifth of the sets, and before and after the looks of a week by
a simulated clock: all of them at the folder itself, and a part of them through the window with its
jobs. Ends with 1 where it grows by more than MOST_MB between the first fifth and the last.
"""

from __future__ import annotations

import gc
import sys
import tempfile
from pathlib import Path

import harness
from builders import filmed
from guide_arc.app.main import application, settings_at
from guide_arc.capture.drop_folder import DropFolder
from guide_arc.formats.track_csv import csv_text
from guide_arc.library.batch import review_all
from guide_arc.library.store import Library
from hands import Hands, take_apart

MOST_MB = 12.0
PUSHDOWN = "rope-pushdown"
EVERY_S = 1.5
WEEK_S = 7 * 24 * 3600
IN_WINDOW = 600


def memory_mb(window: Hands | None = None) -> float:
    """What the process holds of the machine's memory, once nobody was at the window for a while."""
    if window is not None:
        window.program.garbage.everything()
    gc.collect()
    for line in Path("/proc/self/status").read_text().splitlines():
        if line.startswith("VmRSS:"):
            return float(line.split()[1]) / 1024
    raise OSError("this system does not say")


def filled(folder: Path, count: int) -> None:
    library = Library.open(folder)
    text = csv_text(filmed(PUSHDOWN, reps=2, rate=30.0, noise=0.002).track)
    for n in range(count):
        data = text.replace("# view", f"# round: {n}\n# view", 1).encode()
        library.add_set(
            data, f"{n}.csv", client=f"Client {n % 40}", standard=PUSHDOWN, school="locked"
        )
    review_all(library)
    library.close()


def evening(window: Hands, count: int) -> list[float]:
    """Memory after each fifth of the sets, opened one after the other."""
    ids = sorted(window.program.library.library.ids())
    took = []
    for n, set_id in enumerate(ids, 1):
        window.open_set(set_id)
        assert window.open_id == set_id
        if n % (count // 5) == 0:
            took.append(memory_mb(window))
    return took


def week(folder: Path) -> tuple[float, float]:
    """Megabytes after a seventh and at the end of a week of looks at a folder that files come to
    and leave."""
    drop = DropFolder(folder)
    looks = round(WEEK_S / EVERY_S)
    before = 0.0
    for n in range(looks):
        if n % 4000 == 0:
            (folder / f"{n}.csv").write_text("x")
            if n >= 12_000:
                (folder / f"{n - 12_000}.csv").unlink()
        drop.settle(drop.look(n * EVERY_S))
        if n == looks // 7:
            before = memory_mb()
    return before, memory_mb()


class Clock:
    now = 0.0

    def elapsed(self) -> float:
        return 1000.0 * self.now


def looked(window: Hands, folder: Path) -> tuple[float, float]:
    """The window's memory before and after many looks of its own."""
    watch = window.program.drop_folder
    watch.choose(str(folder))
    window.settle()
    watch.timer.stop()
    clock = Clock()
    watch.clock = clock  # type: ignore[assignment]
    before = 0.0
    for n in range(IN_WINDOW):
        clock.now += EVERY_S
        watch.look()
        window.settle()
        if n == IN_WINDOW // 4:
            before = memory_mb(window)
    return before, memory_mb(window)


def main(count: int) -> int:
    app = application()
    assert app is not None
    bad = 0
    with tempfile.TemporaryDirectory() as place:
        folder, drop = Path(place) / "library", Path(place) / "drop"
        drop.mkdir()
        filled(folder, count)
        window = Hands(folder, settings_at(folder))
        took = evening(window, count)
        print(
            f"{count} sets opened in turn: {', '.join(f'{mb:.0f}' for mb in took)} MB after each"
            " fifth"
        )
        bad += took[-1] - took[0] > MOST_MB
        before, after = looked(window, drop)
        print(
            f"{IN_WINDOW} looks of the window's into the drop folder: {before:.0f} MB after a"
            f" quarter, {after:.0f} MB at the end"
        )
        bad += after - before > MOST_MB
        take_apart(window)
        before, after = week(drop)
        print(
            f"a week of looks, {round(WEEK_S / EVERY_S)}: {before:.1f} MB after a day, {after:.1f}"
            " MB at the end"
        )
        bad += after - before > 2.0
    return 1 if bad else 0


if __name__ == "__main__":
    sys.exit(main(harness.number(1, 1000)))
