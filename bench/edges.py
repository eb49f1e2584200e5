"""Whether phase edges are as unsure as they say: `./run dev python bench/edges.py`.

Every second set of the conditions of `bench/conditions.py` that are of noise and of the camera,
reviewed; by what an edge says of itself (as a share of its phase's length), how far two thirds of
such edges are really off, and how many are inside twice what they say. The gains and powers of
`EdgeRules` (hidden_*, cut_*, unlike_*) were chosen so that the two columns agree.
"""

from __future__ import annotations

import warnings
from concurrent.futures import ProcessPoolExecutor
from itertools import pairwise

import numpy as np

from conditions import CONDITIONS, Condition, film, jobs_of
from guide_arc.core.review.assess import review_set
from guide_arc.standards.loader import standard

STEPS = (0.0, 0.01, 0.02, 0.04, 0.08, 0.16, 0.32, 10.0)
LEFT_OUT = ("elsewhere", "swapped", "45°")


def edges_of(job: tuple[Condition, str, str, int]) -> list[tuple[float, float, float]]:
    """(what it says, how far off it is, half a frame), all over the phase's length."""
    condition, id, view, number = job
    warnings.simplefilter("ignore")
    done = film(condition, id, view, number)
    review, truth = review_set(done.track, standard(id)), done.truth["reps"]
    if len(review.reps) != len(truth):
        return []
    out = []
    for got, true in zip(review.reps, truth, strict=True):
        for span, at in ((got.lift, true["lift"]), (got.lower, true["lower"])):
            half = 0.5 / condition.camera.rate_hz / span.length_s
            out.append(
                (span.start_u_s / span.length_s, abs(span.start_s - at[0]) / span.length_s, half)
            )
            out.append(
                (span.end_u_s / span.length_s, abs(span.end_s - at[1]) / span.length_s, half)
            )
    return out


def main() -> None:
    chosen = [c for c in CONDITIONS if not any(words in c.name for words in LEFT_OUT)]
    jobs = [job for c in chosen for job in jobs_of(c)[::2]]
    with ProcessPoolExecutor() as pool:
        rows = np.array([row for found in pool.map(edges_of, jobs, chunksize=8) for row in found])
    says, off, half = rows.T
    print(
        "| an edge says, share of its phase | edges | two thirds are off by at most | inside twice"
        " that |"
    )
    print("| --- | --- | --- | --- |")
    for low, high in pairwise(STEPS):
        here = (says >= low) & (says < high)
        if here.sum() < 50:
            continue
        inside = off[here] <= 2.0 * np.hypot(says[here], half[here])
        print(
            f"| {100 * np.median(says[here]):.1f} % | {here.sum()} |"
            f" {100 * np.percentile(off[here], 68):.1f} % | {100 * inside.mean():.0f} % |"
        )
    print(f"| all | {len(says)} | | {100 * (off <= 2.0 * np.hypot(says, half)).mean():.0f} % |")


if __name__ == "__main__":
    main()
