"""A standard performed by the simulated client: to be looked at, and to prove itself."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from functools import cached_property, lru_cache
from typing import Final

import numpy as np

from guide_arc.core.kinematics.vectors import Array
from guide_arc.core.model.finding import Finding
from guide_arc.core.model.landmarks import SIDES
from guide_arc.core.model.review import Review
from guide_arc.core.model.standard import Standard, Tempo
from guide_arc.core.model.track import View
from guide_arc.core.review.assess import review_set
from guide_arc.core.simulate.camera import Camera
from guide_arc.core.simulate.perform import Script, perform

Progress = Callable[[float], None]
# By view, whether each check gives a verdict.
Judged = Mapping[View, Mapping[str, bool]]

VIEWS: Final[tuple[View, ...]] = ("none", "front", "back", "left", "right")
_STATURE_M: Final = 1.75
_RATE_HZ: Final = 25.0
_BEFORE_S: Final = 0.2
_SEEDS: Final = (5, 9)
# A quick look at the movement, where the standard's own pace would take too long.
BRISK: Final = Tempo(1.4, 0.3, 1.0, 0.4)


@dataclass(frozen=True, eq=False)
class Cycle:
    """The movement once through, to be shown over and over.

    time_s : (T,); points : each landmark (T, 3) in metres
    phases : (name, from, to) in seconds
    """

    standard: Standard
    time_s: Array
    points: dict[str, Array]
    phases: tuple[tuple[str, float, float], ...]

    @property
    def length_s(self) -> float:
        return float(self.time_s[-1])

    def index(self, at_s: float) -> int:
        return int(np.clip(np.searchsorted(self.time_s, at_s), 0, len(self.time_s) - 1))

    def pose(self, at_s: float) -> dict[str, Array]:
        """Every landmark at a time, (3,) each."""
        i = self.index(at_s)
        return {name: place[i] for name, place in self.points.items()}

    @cached_property
    def extent(self) -> Array:
        """(N, 3) what a picture of it must hold: the body without the kit."""
        stack = [p for n, p in self.points.items() if "pulley" not in n]
        flat = np.concatenate(stack)
        return np.stack((flat.min(axis=0), flat.max(axis=0) + np.array([0.0, 0.14, 0.0])))

    def phase_at(self, at_s: float) -> str:
        return next((n for n, a, b in self.phases if a <= at_s < b), "ready")


def cycle_of(standard: Standard, tempo: Tempo | None = None) -> Cycle:
    """The movement as a standard asks for it. `tempo` shows it at another pace."""
    reps = 2 if standard.across is not None else 1
    script = Script(reps=reps, tempo=tempo, stature_m=_STATURE_M, opening_s=_BEFORE_S)
    done = perform(standard, script, Camera("none", _RATE_HZ), 1)
    truth = done.truth["reps"]
    start = max(truth[0]["lift"][0] - _BEFORE_S, 0.0)
    end = truth[-1]["lower"][1] + _BEFORE_S
    time = done.track.time_s
    inside = (time >= start) & (time <= end)
    phases = tuple(
        (name, rep[name][0] - start, rep[name][1] - start)
        for rep in truth
        for name in ("lift", "top_hold", "lower", "bottom_hold")
        if rep[name]
    )
    points = {n: done.exact[inside, i] for i, n in enumerate(done.track.names)}
    return Cycle(standard, time[inside] - time[inside][0], points, phases)


@lru_cache(maxsize=64)
def clean_review(standard: Standard) -> Review:
    """The simulated client's clean set, six reps, against the standard itself; the same each
    time."""
    done = perform(standard, Script(reps=6), Camera("none", 30.0, 0.0023), 21)
    return review_set(done.track, standard)


def judged_from(standard: Standard, progress: Progress = lambda _share: None) -> Judged:
    """By recording, which checks give a verdict: what each camera view can judge and what it
    can't."""
    letters = standard.shown_from or shown_from(standard, progress)
    right = "A" if standard.arms == "one" else "N"
    sight = {"none": "S", "front": "F", "back": "B", "left": "N", "right": right}
    return {view: {name: sight[view] in told for name, told in letters.items()} for view in VIEWS}


def shown_from(standard: Standard, progress: Progress = lambda _share: None) -> dict[str, str]:
    """By check the recordings that judge clean sets, as `Standard.shown_from` has them."""
    found: dict[tuple[str, str], bool] = {}
    for i, view in enumerate(VIEWS):
        progress(i / len(VIEWS))
        noise = 0.002 if view == "none" else 1.0
        for seed in _SEEDS:
            done = perform(standard, Script(reps=8), Camera(view, 30.0, noise), seed)
            for f in review_set(done.track, standard).findings:
                beside = "A" if view in SIDES and _across(standard, f, view) else "N"
                letter = {"none": "S", "front": "F", "back": "B"}.get(view, beside)
                key = f.rule.name, letter
                found[key] = found.get(key, True) and f.verdict != "cannot-tell"
    for rule in standard.checks:
        front, back = (rule.name, "F"), (rule.name, "B")
        # The two see the same, mirrored: where one fails the other did not by luck, unless it is
        # recommended.
        if not (found.get(front) and found.get(back)):
            found[front] = found.get(front, False) and "front" in standard.views
            found[back] = found.get(back, False) and "back" in standard.views
    return {
        rule.name: "".join(letter for letter in "SFBNA" if found.get((rule.name, letter)))
        for rule in standard.checks
    }


def _across(standard: Standard, finding: Finding, view: View) -> bool:
    """Whether a side view looks across the body at what a finding is about. A single arm is the
    left."""
    about = "left" if standard.arms == "one" else finding.side
    return about not in (view, "both")
