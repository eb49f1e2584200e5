"""Random faulty sets of random exercises, in space and from recommended views: is anything praised
that was wrong?

`./run dev python bench/praise.py [SETS] [SEED]` (2,000 and 1 when left out). Each set has one or
two faults at 1.2 to 2.5 times their limits. A sentence of praise is false where a check that proves
it is the check of one of the faults, or where the fault shows in it by the tables of `core/checks`.
Ends with 1 if there is one.
"""

from __future__ import annotations

import random
import sys
from collections import Counter
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass

from faults_from_views import near_arm, twice_the_limit
from guide_arc.core.review.assess import review_set
from guide_arc.core.review.praise import praise_of
from guide_arc.core.simulate.camera import Camera
from guide_arc.core.simulate.perform import Script, perform
from guide_arc.standards.loader import shipped, standard

# Faults that lie in when things happen: their amounts are seconds or shares, which
# `twice_the_limit` knows.
_TIMED = {
    "hold-missing",
    "too-fast-lower",
    "too-fast-lift",
    "too-slow-lift",
    "too-slow-lower",
    "momentum",
}


@dataclass(frozen=True)
class Told:
    """what : exercise, school, view and faults; sentences : how many were given; false : those that
    were not so"""

    what: str
    sentences: int
    false: tuple[str, ...]


def one_set(seed: str) -> Told:
    rng = random.Random(seed)
    id = rng.choice(list(shipped()))
    plan = standard(id, rng.choice(standard(id).schools).id)
    view = rng.choice(("none", "none", *plan.views))
    faults: dict[str, float] = {}
    tempo = plan.tempo
    for rule in rng.sample(plan.checks, min(rng.choice((1, 1, 2)), len(plan.checks))):
        if rule.name in _TIMED and faults.keys() & _TIMED:
            continue
        if {rule.name, *faults} >= {"range-short", "range-over"}:
            continue  # together they are none
        own, amount = twice_the_limit(plan, rule.name)
        if rule.name in _TIMED:
            tempo = own
        else:
            amount *= rng.uniform(0.6, 1.25)
        faults[rule.name] = amount
    noise = rng.uniform(1.0, 4.0) * (0.001 if view == "none" else 0.5)
    script = Script(reps=rng.randint(5, 9), tempo=tempo, arms=near_arm(plan, view), faults=faults)
    track = perform(plan, script, Camera(view, 30.0, noise), rng.randrange(10**6)).track  # type: ignore[arg-type]
    given = praise_of(review_set(track, plan, tempo))
    false = tuple(p.words for p in given if not faults.keys().isdisjoint(p.checks))
    return Told(f"{id}, {plan.school.id}, {view}, {faults}", len(given), false)


def main(sets: int, seed: int) -> int:
    with ProcessPoolExecutor() as pool:
        told = list(pool.map(one_set, [f"{seed}/{n}" for n in range(sets)], chunksize=20))
    false = [t for t in told if t.false]
    sentences = sum(t.sentences for t in told)
    print(
        f"{sets} faulty sets, {sentences} sentences of praise, {len(false)} sets with a false one"
    )
    for t in false[:20]:
        print(f"  {t.what}: {t.false}")
    print(
        "  sentences a set: "
        + ", ".join(f"{n}: {c}" for n, c in sorted(Counter(t.sentences for t in told).items()))
    )
    return 1 if false else 0


if __name__ == "__main__":
    given = [int(a) for a in sys.argv[1:]]
    sys.exit(main(*[*given, *(2000, 1)[len(given) :]]))
