"""What moves in a model set: the working arms, the driving measure, its range, and which way is the
lift."""

from __future__ import annotations

from typing import Any, Final

import numpy as np

from guide_arc.core.checks.registry import spec_of
from guide_arc.core.kinematics.body import Body
from guide_arc.core.kinematics.views import how_to_see, near_side
from guide_arc.core.mechanics.pull import pulley_is_marked
from guide_arc.core.model.errors import BadInput
from guide_arc.core.model.landmarks import Side
from guide_arc.core.model.rep import Rep
from guide_arc.core.model.standard import TRUNK_DRIVES, Standard
from guide_arc.standards.from_set.arms import working_arms
from guide_arc.standards.from_set.poses import fit_to_range, rough_poses, tidy
from guide_arc.standards.from_set.trial import cut_reps

# A joint that works moves at least this far, degrees.
_WORKS_DEG: Final = 22.0
# An elbow that works by this share of what the arm turns by drives: curls, presses, rows.
_ELBOW_FIRST: Final = 0.7


def by_movement(body: Body, near: Standard, raw: dict[str, Any]) -> tuple[Rep, ...]:
    """Set drive, range and rough poses from what moved; the reps that this gives."""
    working = working_arms(body, near)
    drive = _drive(body, working, near)
    low, high = _ends(body, drive, working)
    if abs(high - low) < (_WORKS_DEG if drive != "shoulder_hike" else 5.0):
        raise BadInput(
            f"nothing moves enough in this recording to be a lift ({abs(high - low):.0f} at most)."
        )
    rising = _rises(body, drive, near, working, low, high)
    start, turn = (low, high) if rising else (high, low)
    unit_name = "pct" if drive == "shoulder_hike" else "deg"
    raw["drive"] = drive
    raw["range"] = {
        f"from_{unit_name}": tidy(start),
        f"to_{unit_name}": tidy(turn),
        f"tolerance_{unit_name}": 4.0 if unit_name == "pct" else 14.0,
    }
    one_seen = len(working) == 1 and near_side(body.cleaned.track.view) is not None
    if drive not in TRUNK_DRIVES and not one_seen and (len(working) == 1) != (raw["arms"] == "one"):
        raw["arms"] = "one" if len(working) == 1 else "both"
    if unit_name == "pct" or near.drive == "shoulder_hike":
        raw["check"] = [c for c in raw["check"] if spec_of(c["name"]).unit != "drive"]
    if body.cleaned.track.view == "none":
        raw["pose"] = rough_poses(body, drive, working, start, turn)
    else:
        raw["pose"] = [p for p in raw["pose"] if p["at"] in ("start", "turn")]
        fit_to_range(raw["pose"], drive, start, turn)
    return cut_reps(body, raw)[1].reps


def _span(body: Body, measure: str, side: Side) -> float:
    value = body.driven(measure, side).value if body.shows(measure, side) else np.full(1, np.nan)
    value = value[np.isfinite(value)]
    if measure == "shoulder_plane":
        value = np.degrees(np.unwrap(np.radians(value)))
    return float(np.subtract(*np.percentile(value, (92, 8)))) if len(value) > 3 else 0.0


def _drive(body: Body, working: tuple[Side, ...], near: Standard) -> str:
    """The measure that moved: the elbow before the arm's rise before its sweep; the trunk or the
    shoulders only where the nearest standard works by them."""
    if near.drive in (*TRUNK_DRIVES, "shoulder_hike"):
        return near.drive
    view = body.cleaned.track.view
    if view != "none":
        if not any(body.shows(near.drive, s) for s in working):
            how = how_to_see(near.drive, view, working[0])
            raise BadInput(
                f"the {view} view hides the {near.drive.replace('_', ' ')} that {near.name!r} is"
                f" counted by; {how}, or say which standard it is like."
            )
        return near.drive
    spans = {
        m: float(np.mean([_span(body, m, s) for s in working]))
        for m in ("elbow_flexion", "shoulder_elevation", "shoulder_plane")
    }
    if spans.get(near.drive, 0.0) >= max(_WORKS_DEG, 0.4 * max(spans.values())):
        return near.drive
    arm = max(spans["shoulder_elevation"], 0.8 * spans["shoulder_plane"])
    if spans["elbow_flexion"] >= _ELBOW_FIRST * arm:
        return "elbow_flexion"
    if spans["shoulder_elevation"] >= 0.8 * spans["shoulder_plane"]:
        return "shoulder_elevation"
    return "shoulder_plane"


def _ends(body: Body, drive: str, working: tuple[Side, ...]) -> tuple[float, float]:
    """Where the measure usually turns, low and high: the middle of its outer fifths."""
    ends = []
    for side in working:
        value = body.driven(drive, side).value
        value = value[np.isfinite(value)]
        if len(value):
            ends.append(np.percentile(value, (8, 92)))
    if not ends:
        raise BadInput("the working joint is not seen in this recording.")
    low, high = np.mean(ends, axis=0)
    return float(low), float(high)


def _rises(
    body: Body, drive: str, near: Standard, working: tuple[Side, ...], low: float, high: float
) -> bool:
    """Whether lifting makes the measure grow: the hand moves away from the pulley, or up against a
    weight; else as in the nearest standard of the same drive."""
    if near.drive == drive:
        return near.range.direction > 0
    side = working[0]
    value = body.driven(drive, side).value
    at_low, at_high = value <= low, value >= high
    hand = body.points[f"{side}_wrist"]
    if pulley_is_marked(body, side):
        pulley = np.nanmedian(body.points[f"{side}_pulley"], axis=0)
        gap = np.linalg.norm(hand - pulley, axis=1)
    else:
        gap = hand[:, 1]
    return bool(np.nanmedian(gap[at_high]) >= np.nanmedian(gap[at_low]))
