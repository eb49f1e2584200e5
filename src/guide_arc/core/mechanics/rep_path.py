"""The path of one recorded rep's lift, in the form in which setups are compared."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

import numpy as np

from guide_arc.core.kinematics.body import Body
from guide_arc.core.kinematics.vectors import Array, span_of
from guide_arc.core.mechanics.path_load import POINTS, PathOfArms, arms_on_path
from guide_arc.core.model.errors import BadInput
from guide_arc.core.model.landmarks import SIDES, Side
from guide_arc.core.model.rep import Rep
from guide_arc.core.model.standard import TRUNK_DRIVES, Standard

_FEWEST: Final = 12
_LEAST_WAY: Final = 0.2
_NEEDED: Final = ("shoulder", "elbow", "wrist", "hip")
_LOWEST: Final = ("heel", "foot", "ankle")


@dataclass(frozen=True, eq=False)
class RecordedRep:
    """A rep that a setup is looked at on. words : whose and which; share, points : as `body_of_rep`
    gives them"""

    words: str
    standard: str
    client: str
    load_kg: float | None
    share: Array
    points: dict[str, Array]


def body_of_rep(body: Body, standard: Standard, rep: Rep) -> tuple[Array, dict[str, Array]]:
    """(P,) shares of the standard's range that the lift went through, and every landmark at them,
    (P, 3): y = 0 is the floor and the hips are above x = z = 0 at the start, as in `body_on_path`.

    Raises BadInput for a picture, for an exercise that moves the trunk, and for a lift of which too
    little was seen.
    """
    if standard.drive in (*TRUNK_DRIVES, "shoulder_hike"):
        raise BadInput(
            "this exercise moves the trunk, not the arm: there is no arm's way to stand a setup"
            " against"
        )
    if body.cleaned.track.view != "none":
        raise BadInput(
            "a picture shows no depth, so the standard's own path stands in for the rep's"
        )
    window = span_of(body.time_s, rep.lift.start_s, rep.lift.end_s)
    sides: tuple[Side, ...] = SIDES if rep.side == "both" else (rep.side,)
    asked = standard.range
    drive = np.mean([body.driven(standard.drive, side).value[window] for side in sides], axis=0)
    share = (drive - asked.from_deg) / (asked.to_deg - asked.from_deg)
    needed = [body.points[f"{side}_{part}"][window] for side in sides for part in _NEEDED]
    seen = np.isfinite(share) & np.isfinite(np.concatenate(needed, axis=1)).all(axis=1)
    if seen.sum() < _FEWEST:
        raise BadInput(
            f"too little of rep {rep.number}'s lift was seen to stand a setup against it"
        )
    # A lift that trembles back is taken at the first time it comes to a place.
    rising = np.maximum.accumulate(share[seen])
    first = np.r_[True, np.diff(rising) > 1e-6]
    if rising[-1] - rising[0] < _LEAST_WAY:
        raise BadInput(f"rep {rep.number} goes too short a way to stand a setup against it")
    at = np.linspace(float(rising[0]), float(rising[-1]), POINTS)
    time = np.interp(at, rising[first], body.time_s[window][seen][first])
    points = {name: _at(body, place, time) for name, place in body.points.items()}
    return at, _on_the_floor(points)


def path_of_rep(body: Body, standard: Standard, rep: Rep) -> PathOfArms:
    """Both arms along a rep's lift. Raises as `body_of_rep`."""
    share, points = body_of_rep(body, standard, rep)
    return arms_on_path(points, standard, share)


def _at(body: Body, place: Array, time_s: Array) -> Array:
    """(P, 3) a landmark at some times; NaN in all samples if it was hardly seen."""
    seen = np.isfinite(place).all(axis=1)
    if seen.sum() < 2:
        return np.full((len(time_s), 3), np.nan)
    return np.stack(
        [np.interp(time_s, body.time_s[seen], place[seen, k]) for k in range(3)], axis=1
    )


def _on_the_floor(points: dict[str, Array]) -> dict[str, Array]:
    start = 0.5 * (points["left_hip"][0] + points["right_hip"][0])
    low = [
        float(points[name][:, 1].min())
        for name in (f"{side}_{part}" for side in SIDES for part in _LOWEST)
        if name in points and np.isfinite(points[name]).all()
    ]
    floor = min(low) if low else float(start[1]) - 0.9
    return {name: place - np.array([start[0], floor, start[2]]) for name, place in points.items()}
