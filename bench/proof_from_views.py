"""Every check of every standard from each view that it recommends: `./run dev python bench/proof_from_views.py`.

A set with the check's fault at twice the limit is filmed with one pixel of noise. Prints how often that check
called it off, near, not to be told, or fine, and every one that was called fine; and the same for schools: a set
done in one school of an exercise and judged by another.
"""

from __future__ import annotations

import sys
from collections import Counter
from concurrent.futures import ProcessPoolExecutor
from pathlib import Path

sys.path.insert(0, str(Path(__file__).resolve().parent.parent / "tests"))

from across_schools import PAIRS, told_across
from faults_from_views import RECOMMENDED, told_from
from guide_arc.standards.loader import standard


def from_view(pair: tuple[str, str]) -> list[tuple[str, str, str, str]]:
    plan = standard(pair[0])
    return [(*pair, rule.name, told_from(plan, pair[1], rule.name)) for rule in plan.checks]


def main() -> None:
    with ProcessPoolExecutor() as pool:
        told = [row for rows in pool.map(from_view, RECOMMENDED) for row in rows]
        across = list(zip(PAIRS, pool.map(told_across, PAIRS), strict=True))
    counts = Counter(row[3] for row in told)
    print(f"{len(told)} faults at twice the limit from {len(RECOMMENDED)} recommended views:", dict(counts))  # fmt: skip
    for row in told:
        if row[3] == "ok":
            print("  called fine:", *row[:3])
    differ = sum(bool(checks) for _pair, checks in across)
    print(
        f"{len(across)} pairs of schools: {differ} differ in what is said of a set done in the other"
    )
    for pair, checks in across:
        if not checks:
            print("  no difference:", *pair)


if __name__ == "__main__":
    main()
