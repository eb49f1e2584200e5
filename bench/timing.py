"""Timing two things against each other in one run: medians of paired repeats, so drift cancels."""

from __future__ import annotations

import statistics
import time
from collections.abc import Callable


def seconds(work: Callable[[], object]) -> float:
    start = time.perf_counter()
    work()
    return time.perf_counter() - start


def paired(
    work: Callable[[], object], reference: Callable[[], object], repeats: int = 9
) -> tuple[float, float, float]:
    """Median seconds of both, and the median of the ratio pair by pair, after one warm-up each."""
    work()
    reference()
    pairs = [(seconds(work), seconds(reference)) for _ in range(repeats)]
    return (
        statistics.median(a for a, _ in pairs),
        statistics.median(b for _, b in pairs),
        statistics.median(a / b for a, b in pairs),
    )
