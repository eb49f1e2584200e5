"""What a drifting upper arm does to the load: how much more the shoulder carries, and how much less
the elbow, than with the upper arm kept where the lift began.

The arm is turned back about the shoulder until the upper arm points as at the start of the lift;
the elbow keeps its angle. The moment of a force about a joint is the force times the distance of
its line from the joint.
"""

from __future__ import annotations

from typing import Final, NamedTuple

import numpy as np

from guide_arc.core.kinematics.body import Body
from guide_arc.core.kinematics.vectors import Array, cross, length, span_of, unit
from guide_arc.core.mechanics.pull import Pull, pull_of
from guide_arc.core.model.figures import Cause
from guide_arc.core.model.finding import Finding
from guide_arc.core.model.landmarks import SIDES, Side
from guide_arc.core.model.rep import Rep
from guide_arc.core.model.standard import Standard
from guide_arc.core.review.flat_lift import lies_flat
from guide_arc.core.review.load_course import force_n

_CHECK: Final = "upper-arm-drift"
# A shoulder that carries less than this much more is not worth a sentence.
_LEAST_MORE: Final = 0.1
# The smallest change of the elbow's moment worth reporting.
_LEAST_ELBOW: Final = 0.03
_FEWEST: Final = 5


class DriftLoad(NamedTuple):
    """The peak moment about the shoulder, and the mean about the elbow, over the lifts in which the
    upper arm drifted: with the upper arm held at its start, and as recorded. Newton-metres, or
    metres of lever where the weight is not known."""

    shoulder_kept: float
    shoulder: float
    elbow_kept: float
    elbow: float


def drift_causes(
    body: Body, standard: Standard, reps: tuple[Rep, ...], findings: tuple[Finding, ...]
) -> tuple[Cause, ...]:
    """The sentence about the load of an upper arm that drifts; empty if none does, or where the
    recording does not show the levers."""
    off = [f for f in findings if f.rule.name == _CHECK and f.verdict == "off" and not f.allowed]
    view = body.cleaned.track.view
    if not off or not (view == "none" or lies_flat(standard, view)):
        return ()
    worst = max(off, key=lambda f: f.value or 0.0)
    drifted = [rep for rep in reps if worst.is_about(rep)]
    sides = [s for s in SIDES if worst.side in ("both", s)]
    loads = [load for side in sides if (load := drift_load(body, standard, drifted, side))]
    if not loads:
        return ()
    load = DriftLoad(*np.mean(loads, axis=0))
    kg = body.cleaned.track.facts.load_kg
    together = 2 if any(rep.side == "both" for rep in reps) else 1
    words = _words(load, force_n(standard, kg, together) if kg else None)
    return (Cause("load", words, worst.key),) if words else ()


def drift_load(body: Body, standard: Standard, reps: list[Rep], side: Side) -> DriftLoad | None:
    """Levers in metres, over the lifts of some reps; None if the line of pull or the arm is not
    seen."""
    pull = pull_of(body, standard, side)
    found = [_of_lift(body, pull, rep, side) for rep in reps] if pull is not None else []
    seen = [one for one in found if one is not None]
    return DriftLoad(*np.median(seen, axis=0)) if seen else None


def _of_lift(body: Body, pull: Pull, rep: Rep, side: Side) -> DriftLoad | None:
    window = span_of(body.time_s, rep.lift.start_s, rep.lift.end_s)
    shoulder, elbow = (body.points[f"{side}_{part}"][window] for part in ("shoulder", "elbow"))
    grip, toward = pull.hand[window], pull.toward[window]
    seen = np.isfinite(np.hstack((shoulder, elbow, grip, toward))).all(axis=1)
    if seen.sum() < _FEWEST:
        return None
    frame = body.trunk_frame[window][seen]
    shoulder, elbow, grip, toward = (a[seen] for a in (shoulder, elbow, grip, toward))
    upper, fore = _in(frame, elbow - shoulder), _in(frame, grip - elbow)
    first = unit(upper[: max(len(upper) // 10, 1)].mean(axis=0))
    kept_upper = length(upper)[:, None] * first
    kept_fore = _turned(fore, unit(upper), np.broadcast_to(first, upper.shape))
    kept_elbow = shoulder + _out(frame, kept_upper)
    kept_grip = kept_elbow + _out(frame, kept_fore)
    kept_toward = toward if pull.pulley is None else unit(pull.pulley[window][seen] - kept_grip)
    return DriftLoad(
        float(_lever(kept_grip - shoulder, kept_toward).max()),
        float(_lever(grip - shoulder, toward).max()),
        float(_lever(kept_grip - kept_elbow, kept_toward).mean()),
        float(_lever(grip - elbow, toward).mean()),
    )


def _lever(place: Array, toward: Array) -> Array:
    return length(cross(place, toward))


def _in(frame: Array, offset: Array) -> Array:
    """(N, 3) in the trunk's axes."""
    out: Array = np.einsum("tij,tj->ti", frame, offset)
    return out


def _out(frame: Array, local: Array) -> Array:
    """(N, 3) out of the trunk's axes again."""
    out: Array = np.einsum("tij,ti->tj", frame, local)
    return out


def _turned(what: Array, start: Array, end: Array) -> Array:
    """(N, 3) turned by the smallest turn that brings one direction to another (Rodrigues)."""
    axis, cosine = cross(start, end), np.einsum("ti,ti->t", start, end)[:, None]
    along = np.einsum("ti,ti->t", axis, what)[:, None]
    out: Array = what * cosine + cross(axis, what) + axis * along / (1.0 + cosine)
    return out


def _words(load: DriftLoad, force: float | None) -> str:
    more = load.shoulder / max(load.shoulder_kept, 1e-6) - 1.0
    if more < _LEAST_MORE:
        return ""
    if force is not None:
        kept, now = force * load.shoulder_kept, force * load.shoulder
        shoulder = f"raises the shoulder's peak load from {kept:.0f} to {now:.0f} N·m"
    else:
        shoulder = f"raises the shoulder's peak load by {100 * more:.0f} %"
    less = 1.0 - load.elbow / max(load.elbow_kept, 1e-6)
    if abs(less) < _LEAST_ELBOW:
        return f"The drifting upper arm {shoulder}."
    elbow = f"takes {100 * less:.0f} % off" if less > 0 else f"puts {-100 * less:.0f} % more on"
    return f"The drifting upper arm {shoulder} and {elbow} the elbow."
