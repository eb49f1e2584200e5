"""A library of 20,000 sets beside one of 200: `./run dev python bench/size.py [SETS]`.

Prints, as medians in milliseconds: until the window shows its rows and until it can be used; a
letter typed into the search, until the list is another one; a frame of scrolling, until it is
painted; the next set, until it is shown and until it is painted; a set's review written down at the
beginning and at the end of `review --all`, and how that scales with cores.
"""

from __future__ import annotations

import itertools
import tempfile
import time
from collections.abc import Callable
from functools import partial
from pathlib import Path
from statistics import median, quantiles

from PyQt6.QtCore import QEventLoop
from PyQt6.QtWidgets import QApplication

import harness
from guide_arc.app.main import application, settings_at
from guide_arc.app.services.destinations import ToQueue
from guide_arc.library import batch
from guide_arc.library.queue_rows import QueueFilter, read_page
from guide_arc.library.store import Library
from hands import Hands, take_apart
from many_sets import grow

SMALL, RUNS = 200, 5
TYPED = (
    "c",
    "cl",
    "cle",
    "cleo",
    "cleo m",
    "cleo m",
    "swing",
    "elbows st",
    "2027-03",
    "marsh pushdown",
    "knee b",
)
REVIEWED = 240
STEP_PX, STEPS = 60, 1500
NEXT = 18


def until(true: Callable[[], bool], most_s: float = 20.0) -> None:
    """Let the window work as it does by itself: asleep until something happens, so that others have
    the processor."""
    end = time.perf_counter() + most_s
    while not true():
        assert time.perf_counter() < end, "it does not come"
        QApplication.processEvents(QEventLoop.ProcessEventsFlag.WaitForMoreEvents)


def starts(folder: Path) -> tuple[float, float]:
    """Until the rows are shown, and until the window can be used."""
    shown, usable = [], []
    for _ in range(RUNS):
        begun = time.perf_counter()
        shown.append(harness.ms(lambda: read_page(folder, QueueFilter())))
        window = Hands(folder, settings_at(folder))
        usable.append(1000.0 * (time.perf_counter() - begun))
        take_apart(window)
    return median(shown), median(usable)


def typed(window: Hands) -> list[float]:
    """Each text, until the list is the one for it."""
    took = []
    sets = window.sets
    sets.show_state(None)
    window.settle()
    came: list[bool] = []
    sets.changed.connect(lambda: came.append(True))

    def type_in(words: str) -> None:
        window.queue_place.search_field.setText(words)
        until(lambda: bool(came))

    for words in TYPED * 3:
        window.queue_place.search_field.clear()
        window.settle()
        came.clear()
        took.append(harness.ms(partial(type_in, words)))
    window.queue_place.search_field.clear()
    window.settle()
    return took


def scrolled(window: Hands) -> tuple[list[float], int]:
    """Steps of the list, each as far as a brisk turn of the wheel goes in a frame, until it is
    painted, with what the rows that follow take to come in; and how many rows there are at its
    end."""
    view = window.queue_place.list
    bar = view.verticalScrollBar()
    assert bar is not None
    took = []

    def step() -> None:
        bar.setValue(bar.value() + STEP_PX)
        QApplication.processEvents()

    for _ in range(STEPS):
        if bar.value() == bar.maximum():
            until(lambda: bar.value() < bar.maximum() or not window.sets.doc.has_more)
        if bar.value() == bar.maximum():
            break
        took.append(harness.ms(step))
    while True:
        before = (bar.value(), len(window.sets.doc.rows))
        bar.setValue(bar.maximum())
        QApplication.processEvents()
        if bar.value() == bar.maximum():
            window.settle()
        if (bar.value(), len(window.sets.doc.rows)) == before:
            return took, len(window.sets.doc.rows)


def stepped(window: Hands) -> tuple[list[float], list[float]]:
    """The next set, until it is shown, and until it is painted."""
    sets = window.sets
    sets.show_state("waiting")
    window.settle()
    window.open_set(sets.doc.rows[0].id)

    def step() -> None:
        before = window.open_id
        window.shell.actions_by_id["review.next-set"].trigger()
        until(lambda: window.open_id != before)

    shown, painted = [], []
    for _ in range(NEXT):
        shown.append(harness.ms(step))
        painted.append(shown[-1] + harness.ms(QApplication.processEvents))
        window.settle()
    window.program.go(ToQueue())
    return shown, painted


def reviewing(folder: Path, cores: int) -> tuple[float, float, float]:
    """Seconds for so many sets of a library, and milliseconds a set in the first and the last
    third."""
    library = Library.open(folder)
    batch.os.cpu_count = lambda: cores  # type: ignore[attr-defined]
    at: list[float] = []
    batch.review_all(library, lambda _share: at.append(time.perf_counter()), fresh=True)
    library.close()
    gaps = [b - a for a, b in itertools.pairwise(at)]
    third = len(gaps) // 3
    return (
        at[-1] - at[0],
        1000 * sum(gaps[third // 2 : third]) / len(gaps[third // 2 : third]),
        1000 * sum(gaps[-third:]) / third,
    )


def main(count: int) -> None:
    app = application()
    assert app is not None
    with tempfile.TemporaryDirectory() as place:
        folders = {n: Path(place) / str(n) for n in (SMALL, count)}
        for n, folder in folders.items():
            grow(folder, n)
        print("| what | 200 sets | so many sets |\n| --- | --- | --- |")
        small, large = starts(folders[SMALL]), starts(folders[count])
        print(f"| the queue's first rows | {small[0]:.0f} ms | {large[0]:.0f} ms |")
        print(
            f"| until the window can be used | {small[1]:.0f} ms | {large[1]:.0f} ms"
            f" ({large[1] / small[1]:.2f} times) |"
        )
        told: dict[str, list[str]] = {}
        for folder in folders.values():
            window = Hands(folder, settings_at(folder))
            keys = typed(window)
            steps, rows = scrolled(window)
            nexts, painted = stepped(window)
            take_apart(window)
            for what, took in (
                ("a letter in the search", keys),
                ("a frame of scrolling", steps),
                ("the next set, until it is shown", nexts),
                ("the next set, until it is painted", painted),
            ):
                told.setdefault(what, []).append(
                    f"{median(took):.0f} ms; 95 % {quantiles(took, n=20)[-1]:.0f} ms"
                )
            told.setdefault("rows in the list at its end", []).append(str(rows))
        for what, both in told.items():
            print(f"| {what} | {both[0]} | {both[1]} |")
        grow(Path(place) / "reviewed", REVIEWED)
        one, two = (reviewing(Path(place) / "reviewed", cores) for cores in (1, 2))
        print(
            f"\n`review --all` of {REVIEWED} sets: {one[0]:.1f} s on one core, {two[0]:.1f} s on"
            f" two, {one[0] / two[0]:.2f} times; a set took {two[1]:.0f} ms in the first third and"
            f" {two[2]:.0f} ms in the last."
        )


if __name__ == "__main__":
    main(harness.number(1, 20_000))
