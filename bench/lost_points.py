"""Points that get lost in clean recordings: does a gap ever count as evidence?

`./run dev python bench/lost_points.py [TRIALS] [SEED]` (2,000 and 1 when left out). A clean set of
a random exercise, in space or from a recommended view, loses a random joint, or a whole arm, in a
random window: the top or the bottom third of the reps, 5 to 40 % of the recording in one piece, in
several or in gaps of up to 0.4 s, or all the time. Counted is each verdict that is `off` though the
whole recording's is not, and each rep that comes or goes without a doubt being stated. Ends with 1
where more than 0.2 % of the trials have one.
"""

from __future__ import annotations

import sys
from collections import Counter
from concurrent.futures import ProcessPoolExecutor

from gaps import one_trial

# The share of trials that may go wrong.
ALLOWED = 0.002


def main(trials: int, seed: int) -> int:
    with ProcessPoolExecutor() as pool:
        found = list(pool.map(one_trial, [f"{seed}/{n}" for n in range(trials)], chunksize=20))
    off = [t for t in found if t.off]
    reps = [t for t in found if t.reps]
    share = 100.0 * len(off) / trials
    print(
        f"{trials} trials: {len(off)} with a verdict that turned off ({share:.1f} %), {len(reps)}"
        " with reps that came or went without a doubt"
    )
    print(
        "  by check: "
        + ", ".join(
            f"{n} {c}"
            for n, c in Counter(o.split("/")[0] for t in off for o in t.off).most_common()
        )
    )
    print(
        "  by window: "
        + ", ".join(
            f"{n} {c}" for n, c in Counter(t.what.rpartition(", ")[2] for t in off).most_common()
        )
    )
    for t in [*off[:40], *reps[:25]]:
        print(f"  {t.what}: {'; '.join(t.off) or t.reps}")
    return 1 if len(off) > ALLOWED * trials or len(reps) > ALLOWED * trials else 0


if __name__ == "__main__":
    given = [int(a) for a in sys.argv[1:]]
    sys.exit(main(*[*given, *(2000, 1)[len(given) :]]))
