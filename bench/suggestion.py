"""How often the standard that fits a movement best is the right one, over the whole catalogue:
`./run dev python bench/suggestion.py [SETS OF EACH]`.

Each set has its own reps, stature and noise from its number; 10 mm root mean square in space with a
little drift and lost samples, and pictures from the standard's best view. Pulleys are left out, as
no tracker gives them, and counted again with them.
"""

from __future__ import annotations

import time
import warnings
from concurrent.futures import ProcessPoolExecutor
from functools import cache

import numpy as np

import harness
from guide_arc.core.kinematics.body import Body
from guide_arc.core.kinematics.cleaning import clean
from guide_arc.core.model.landmarks import BODY
from guide_arc.core.model.standard import Standard
from guide_arc.core.review.suggest import LANDMARKS, suggest
from guide_arc.core.simulate.camera import Camera
from guide_arc.core.simulate.perform import Script, perform
from guide_arc.standards.catalogue import Catalogue
from guide_arc.standards.loader import shipped, standard

Job = tuple[str, str, int, str, bool]


@cache
def candidates() -> list[Standard]:
    return Catalogue().every_school()


def one(job: Job) -> tuple[str, str, bool, bool, float]:
    """(asked, found, right, sure, seconds) of one set."""
    id, school, seed, view, pulleys = job
    warnings.simplefilter("ignore")
    rng = np.random.default_rng(seed)
    plan = standard(id, school)
    if view != "none":
        view = plan.views[0]
    noise = 0.010 / np.sqrt(3) if view == "none" else 2.0
    camera = Camera(view, 30.0, noise, 0.1 * noise, 0.02)  # type: ignore[arg-type]
    script = Script(reps=int(rng.integers(2, 11)), stature_m=float(rng.uniform(1.55, 1.95)))
    track = perform(plan, script, camera, seed).track
    names = tuple(dict.fromkeys((*BODY, *(n for n in LANDMARKS if pulleys or "pulley" not in n))))
    body = Body(clean(track, names))
    start = time.perf_counter()
    choice = suggest(body, candidates())
    took = time.perf_counter() - start
    found = choice.best.standard.id if choice else "none"
    return id, found, found == id, bool(choice and choice.sure), took


def main() -> None:
    each = harness.number(1, 4)
    schools = [(id, s.id) for id in shipped() for s in standard(id).schools]
    print("| recording | sets | right | of those that it is sure of | seconds, median |")
    print("| --- | --- | --- | --- | --- |")
    confused: dict[tuple[str, str, str], int] = {}
    with ProcessPoolExecutor() as pool:
        for words, view, pulleys in (
            ("in space, 10 mm", "none", False),
            ("in space, 10 mm, pulleys marked", "none", True),
            ("a picture from the best view, 2 px", "best", False),
        ):
            jobs: list[Job] = [(i, s, n, view, pulleys) for i, s in schools for n in range(each)]
            rows = list(pool.map(one, jobs, chunksize=4))
            right = 100.0 * np.mean([r[2] for r in rows])
            sure = [r[2] for r in rows if r[3]]
            print(
                f"| {words} | {len(rows)} | {right:.1f} % | {100.0 * np.mean(sure):.1f} % of"
                f" {len(sure)} | {np.median([r[4] for r in rows]):.2f} |"
            )
            for asked, found, is_right, _sure, _took in rows:
                if not is_right:
                    key = (words, asked, found)
                    confused[key] = confused.get(key, 0) + 1
    print("\nConfusions:\n")
    for (words, asked, found), count in sorted(confused.items(), key=lambda c: (c[0][0], -c[1])):
        print(f"- {words}: `{asked}` taken for `{found}`, {count}")


if __name__ == "__main__":
    main()
