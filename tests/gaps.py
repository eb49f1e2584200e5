"""Points that get lost in a clean recording, and what a review makes of it; for tests and
`bench/lost_points.py`."""

from __future__ import annotations

import random
from dataclasses import dataclass, replace

import numpy as np

from faults_from_views import near_arm
from guide_arc.core.model.review import Review
from guide_arc.core.model.track import LandmarkTrack
from guide_arc.core.review.assess import review_set
from guide_arc.core.simulate.camera import Camera
from guide_arc.core.simulate.perform import Script, perform
from guide_arc.standards.loader import shipped, standard

ARM = ("shoulder", "elbow", "wrist", "index", "pinky", "thumb")
JOINTS = ("shoulder", "elbow", "wrist", "hip", "ear", "knee")
WINDOWS = ("top", "bottom", "one piece", "pieces", "flicker", "always")


@dataclass(frozen=True)
class Trial:
    """what : what was lost of which recording; off : the verdicts that turned `off`; reps : reps
    that came or went without a doubt"""

    what: str
    off: tuple[str, ...]
    reps: str


def lost(track: LandmarkTrack, names: list[str], where: np.ndarray) -> LandmarkTrack:
    """The track without these points in these frames."""
    position, confidence = track.position.copy(), track.confidence.copy()
    columns = [i for i, n in enumerate(track.names) if n in names]
    for i in columns:
        position[where, i] = np.nan
        confidence[where, i] = 0.0
    return replace(track, position=position, confidence=confidence)


def window(kind: str, whole: Review, time_s: np.ndarray, rng: random.Random) -> np.ndarray:
    """(F,) the frames in which the points are lost."""
    out = np.zeros(len(time_s), dtype=bool)
    if kind == "always":
        out[:] = True
    elif kind in ("top", "bottom"):
        for rep in whole.reps:
            if rng.random() < 0.2:
                continue
            for a, b in ((rep.start_s, rep.turn_s), (rep.turn_s, rep.end_s)):
                done = (time_s - a) / max(b - a, 1e-6)
                up = done if b == rep.turn_s else 1.0 - done
                inside = (time_s >= a) & (time_s <= b)
                out |= inside & ((up > 2 / 3) if kind == "top" else (up < 1 / 3))
    elif kind == "flicker":
        lost_s, step_s = rng.uniform(0.05, 0.4) * time_s[-1], float(np.median(np.diff(time_s)))
        while lost_s > 0.0:
            long_s = rng.uniform(0.03, 0.4)
            begin = rng.randrange(len(time_s))
            out[begin : begin + max(1, round(long_s / step_s))] = True
            lost_s -= long_s
    else:
        pieces = 1 if kind == "one piece" else rng.randint(2, 8)
        share = rng.uniform(0.05, 0.4)
        for _ in range(pieces):
            start = rng.uniform(0.0, 1.0 - share / pieces)
            a = int(start * len(time_s))
            out[a : a + max(1, int(share / pieces * len(time_s)))] = True
    return out


def one_trial(seed: str) -> Trial:
    rng = random.Random(seed)
    id = rng.choice(list(shipped()))
    plan = standard(id, rng.choice(standard(id).schools).id)
    view = rng.choice(("none", *plan.views))
    noise = rng.uniform(0.0005, 0.003) if view == "none" else rng.uniform(0.3, 2.0)
    script = Script(reps=rng.randint(4, 8), arms=near_arm(plan, view))
    track = perform(plan, script, Camera(view, 30.0, noise), rng.randrange(10**6)).track  # type: ignore[arg-type]
    whole = review_set(track, plan)
    side = rng.choice(("left", "right"))
    parts = ARM if rng.random() < 0.25 else (rng.choice(JOINTS),)
    names = [f"{side}_{p}" for p in parts]
    kind = rng.choice(WINDOWS)
    where = window(kind, whole, track.time_s, rng)
    review = review_set(lost(track, names, where), plan)
    was_off = {f.rule.name for f in whole.with_verdict("off")}
    off = tuple(
        f"{f.key}: {f.says}" for f in review.with_verdict("off") if f.rule.name not in was_off
    )
    reps = ""
    if len(review.reps) != len(whole.reps) and not review.trust.doubts and review.reps:
        reps = f"{len(whole.reps)} reps became {len(review.reps)}"
    what = f"{id}, {plan.school.id}, {view}, {parts if len(parts) == 1 else 'arm'} {side}, {kind}"
    return Trial(what, off, reps)
