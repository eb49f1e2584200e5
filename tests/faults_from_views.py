"""Faults at twice their limit, and what a recording of one is told as; for tests and
`bench/proof_from_views.py`."""

from __future__ import annotations

from dataclasses import replace

from guide_arc.core.model.landmarks import SIDES
from guide_arc.core.model.standard import Standard, Tempo
from guide_arc.core.model.track import IMAGE_VIEWS, LandmarkTrack
from guide_arc.core.review.assess import review_set
from guide_arc.core.simulate.camera import Camera
from guide_arc.core.simulate.perform import ArmsAtWork, Script, perform
from guide_arc.standards.loader import shipped, standard

RECOMMENDED = [(id, view) for id in shipped() for view in standard(id).views]
OTHER_VIEWS = [
    (id, view) for id in shipped() for view in IMAGE_VIEWS if view not in standard(id).views
]
PIXELS = (0.0, 1.0, 2.0)
REPS = 5
# A burst can't carry more than all of a lift.
ALL_BURST_PCT = 95.0
# Of one arm's findings the telling one stands for the check: the far arm can never be seen from the
# side.
_TELLING = ("off", "near", "ok", "cannot-tell")


def near_arm(plan: Standard, view: str) -> ArmsAtWork | None:
    """One arm at a time is filmed from its own side."""
    return view if plan.arms == "one" and view in SIDES else None


def clean_from(plan: Standard, view: str, pixels: float) -> LandmarkTrack:
    """A clean set of five reps as a view shows it."""
    script = Script(reps=REPS, arms=near_arm(plan, view))
    return perform(plan, script, Camera(view, 30.0, pixels), 3).track  # type: ignore[arg-type]


def twice_the_limit(plan: Standard, check: str) -> tuple[Tempo, float]:
    """The tempo to perform in, and the amount of the fault in its own unit."""
    rule, tempo = plan.check(check), plan.tempo
    assert rule is not None
    if check == "hold-missing":
        asked = tempo.top_s or tempo.bottom_s or plan.holds.opening_stretch_s
        return (tempo if asked else replace(tempo, top_s=2.0)), 0.0
    if check == "too-fast-lower":
        tempo = tempo if tempo.lower_s else replace(tempo, lower_s=2.0)
        return tempo, 0.5 * rule.limit / 100.0 * (tempo.lower_s or 0.0)
    if check == "too-fast-lift":
        tempo = tempo if tempo.lift_s else replace(tempo, lift_s=1.0)
        return tempo, 0.5 * rule.limit / 100.0 * (tempo.lift_s or 0.0)
    if check == "too-slow-lift":
        return tempo, 1.4 * rule.limit / 100.0 * (tempo.lift_s or 0.0)
    if check == "too-slow-lower":
        return tempo, 1.4 * rule.limit / 100.0 * (tempo.lower_s or tempo.lift_s or 0.0)
    if check == "momentum":
        return tempo, ALL_BURST_PCT
    return tempo, 2.0 * rule.limit


def told_from(plan: Standard, view: str, check: str, seed: int = 5, pixels: float = 1.0) -> str:
    """The verdict on a check from a view, of a set that has that check's fault at twice the
    limit."""
    tempo, amount = twice_the_limit(plan, check)
    script = Script(
        reps=5, tempo=tempo, opening_s=1.4, faults={check: amount}, arms=near_arm(plan, view)
    )
    camera = Camera(view, 30.0, pixels)  # type: ignore[arg-type]
    track = perform(plan, script, camera, seed).track
    found = {f.verdict for f in review_set(track, plan, tempo).findings if f.rule.name == check}
    return next(v for v in _TELLING if v in found)
