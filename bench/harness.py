"""What all benches share: their numbers from the command line, and their clocks.

A bench is run by `./run dev python bench/NAME.py`, which gives it the tests' builders, no screen
and one arithmetic thread.
"""

from __future__ import annotations

import statistics
import sys
import time
from collections.abc import Callable
from pathlib import Path
from typing import Final

ROOT: Final = Path(__file__).resolve().parents[1]


def number(nth: int, usual: int) -> int:
    """The nth argument of the command, from 1, or the usual number."""
    return int(sys.argv[nth]) if len(sys.argv) > nth else usual


def seconds(work: Callable[[], object]) -> float:
    """How long something takes, by the clock on the wall."""
    start = time.perf_counter()
    work()
    return time.perf_counter() - start


def ms(work: Callable[[], object]) -> float:
    return 1000.0 * seconds(work)


def processor_s(work: Callable[[], object]) -> float:
    """How long this process works for something, whatever else the machine does."""
    start = time.process_time()
    work()
    return time.process_time() - start


def paired(
    work: Callable[[], object], reference: Callable[[], object], repeats: int = 9
) -> tuple[float, float, float]:
    """Median seconds of two things, and the median of the ratio pair by pair, after one warm-up
    each: what drifts on the machine cancels."""
    work()
    reference()
    pairs = [(seconds(work), seconds(reference)) for _ in range(repeats)]
    return (
        statistics.median(a for a, _ in pairs),
        statistics.median(b for _, b in pairs),
        statistics.median(a / b for a, b in pairs),
    )
