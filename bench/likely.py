"""What “likely” is worth: of findings that say a probability, how many are true?

`./run dev python bench/likely.py [SETS] [SEED]` (1,500 and 1 when left out). Each set of a random
exercise, in space or from a recommended view, has one fault at 0.2 to 1.8 times its limit and up to
two others at less than half of theirs, by a client of another stature and arm length. The fault is
truly past its limit where its amount is.
"""

from __future__ import annotations

import itertools
import random
import sys
from concurrent.futures import ProcessPoolExecutor

from faults_from_views import near_arm
from guide_arc.core.review.assess import review_set
from guide_arc.core.simulate.camera import Camera
from guide_arc.core.simulate.perform import Script, perform
from guide_arc.standards.loader import shipped, standard

# Faults whose amount is the value that their check measures, in the limit's unit.
ALIKE = (
    "torso-swing",
    "torso-twist",
    "upper-arm-drift",
    "elbow-bend-change",
    "shoulder-hike",
    "neutral-back",
    "range-short",
    "range-over",
    "left-right",
    "hips-move",
)
BINS = (0.0, 0.05, 0.3, 0.5, 0.8, 0.95, 1.0)
Told = tuple[str, float, bool, str]


def one_set(seed: str) -> list[Told]:
    """Each telling finding of the fault's own check: (check, p, whether it is past its limit,
    verdict)."""
    rng = random.Random(seed)
    plan = standard(rng.choice(list(shipped())))
    names = [r for r in plan.checks if r.name in ALIKE]
    if not names:
        return []
    rule = rng.choice(names)
    times = rng.uniform(0.2, 1.8)
    faults = {rule.name: times * rule.limit}
    for other in rng.sample(names, min(2, len(names))):
        faults.setdefault(other.name, rng.uniform(0.0, 0.45) * other.limit)
    view = rng.choice(("none", *plan.views))
    noise = rng.uniform(0.001, 0.005) if view == "none" else rng.uniform(0.5, 2.5)
    script = Script(
        reps=rng.randint(5, 9),
        arms=near_arm(plan, view),
        faults=faults,
        stature_m=rng.uniform(1.55, 1.95),
        arm_length=rng.uniform(0.94, 1.06),
    )
    yaw = 0.0 if view == "none" else rng.gauss(0.0, 5.0)
    camera = Camera(view, 30.0, noise, yaw_deg=yaw)  # type: ignore[arg-type]
    review = review_set(perform(plan, script, camera, rng.randrange(10**6)).track, plan)
    return [
        (rule.name, f.p, times > 1.0, f.verdict)
        for f in review.findings
        if f.rule.name == rule.name and f.p is not None
    ]


def main(sets: int, seed: int) -> int:
    with ProcessPoolExecutor() as pool:
        told = [
            t
            for own in pool.map(one_set, [f"{seed}/{n}" for n in range(sets)], chunksize=20)
            for t in own
        ]
    print(f"{sets} sets, {len(told)} findings of the fault's own check that were judged")
    for low, high in itertools.pairwise(BINS):
        inside = [t for t in told if low <= t[1] < high or (high == 1.0 and t[1] == 1.0)]
        if inside:
            true = 100.0 * sum(t[2] for t in inside) / len(inside)
            print(
                f"  p {low:.2f} to {high:.2f}: {len(inside)} findings, {true:.0f} % truly past the"
                f" limit, {100 * sum(t[1] for t in inside) / len(inside):.0f} % said"
            )
    hints = [t for t in told if t[3] == "near" and t[1] >= 0.8]
    if hints:
        print(
            f"  likely: {len(hints)}, of which {100 * sum(t[2] for t in hints) / len(hints):.0f} %"
            " are true"
        )
    return 0


if __name__ == "__main__":
    given = [int(a) for a in sys.argv[1:]]
    sys.exit(main(*[*given, *(1500, 1)[len(given) :]]))
