"""Every check of every standard from each view that it recommends: `./run dev python
bench/proof_from_views.py`.

A set with the check's fault at twice the limit is filmed with one pixel of noise. Prints how often
that check called it off, near, not to be told, or fine, and every one that was called fine; the
same for schools: a set done in one school of an exercise and judged by another; and clean sets from
each view at 0, 1 and 2 pixels: whether every rep is counted, nothing is off, and the range, the
tempo and what harms are judged.
"""

from __future__ import annotations

from collections import Counter
from concurrent.futures import ProcessPoolExecutor

from across_schools import PAIRS, told_across
from faults_from_views import OTHER_VIEWS, PIXELS, RECOMMENDED, REPS, clean_from, told_from
from guide_arc.core.review.assess import review_set
from guide_arc.standards.loader import standard

# Judged from every recommended view, whatever is at stake.
ALWAYS = ("range-short", "too-fast-lower")


def from_view(pair: tuple[str, str]) -> list[tuple[str, str, str, str]]:
    plan = standard(pair[0])
    return [(*pair, rule.name, told_from(plan, pair[1], rule.name)) for rule in plan.checks]


def clean(pair: tuple[str, str, float]) -> tuple[list[str], list[str]]:
    """What is wrong with the review of a clean set, and what it can't judge of range, tempo and
    harm."""
    id, view, pixels = pair
    plan = standard(id)
    review = review_set(clean_from(plan, view, pixels), plan)
    wrong = [f.rule.name for f in review.with_verdict("off")]
    if [rep.full for rep in review.reps] != [True] * REPS:
        wrong.append("reps")
    told = {f.rule.name for f in review.findings if f.verdict != "cannot-tell"}
    asked = {r.name for r in plan.checks if r.harm != "effect" or r.name in ALWAYS}
    return wrong, sorted(asked - told)


def main() -> None:
    cleans = [(id, view, px) for id, view in RECOMMENDED for px in PIXELS]
    with ProcessPoolExecutor() as pool:
        told = [row for rows in pool.map(from_view, RECOMMENDED) for row in rows]
        plain = list(zip(cleans, pool.map(clean, cleans), strict=True))
        rest = [(id, view, 1.0) for id, view in OTHER_VIEWS]
        others = list(zip(rest, pool.map(clean, rest), strict=True))
        across = list(zip(PAIRS, pool.map(told_across, PAIRS), strict=True))
    counts = Counter(row[3] for row in told)
    print(
        f"{len(told)} faults at twice the limit from {len(RECOMMENDED)} recommended views:",
        dict(counts),
    )
    for row in told:
        if row[3] == "ok":
            print("  called fine:", *row[:3])
    print(
        f"{len(plain)} clean sets:",
        sum(not wrong for _c, (wrong, _) in plain),
        "counted whole, nothing off",
    )
    nothing_off = sum(set(wrong) <= {"reps"} for _c, (wrong, _) in others)
    print(f"{len(others)} clean sets from the other views: {nothing_off} with nothing off")
    for case, (wrong, _hidden) in plain:
        if wrong:
            print("  wrong:", *case, *wrong)
    for case, (wrong, _hidden) in others:
        if wrong:
            print("  wrong from a view that is not recommended:", *case, *wrong)
    hidden = {(id, view): names for (id, view, _px), (_w, names) in plain if names}
    print(
        f"{len(hidden)} of {len(RECOMMENDED)} views hide something of range, tempo or harm, and"
        " say so:"
    )
    for (id, view), names in hidden.items():
        print("  ", id, view, *names)
    differ = sum(bool(checks) for _pair, checks in across)
    print(
        f"{len(across)} pairs of schools: {differ} differ in what is said of a set done in the"
        " other"
    )
    for pair, checks in across:
        if not checks:
            print("  no difference:", *pair)


if __name__ == "__main__":
    main()
