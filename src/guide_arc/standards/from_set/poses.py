"""The key poses of a model set: its reps' mean at the ends, on the way, and on the way back."""

from __future__ import annotations

import copy
from collections.abc import Callable
from typing import Any, Final

import numpy as np

from guide_arc.core.kinematics.body import Body
from guide_arc.core.kinematics.vectors import Array, across, angle_deg, median, span_of, unit
from guide_arc.core.model.errors import BadInput
from guide_arc.core.model.landmarks import Side
from guide_arc.core.model.rep import Rep
from guide_arc.core.model.standard import TRUNK_DRIVES, Standard
from guide_arc.standards.from_set.arms import working_arms

_BENDS_DEG: Final = 7.0
_OTHER_WAY_ARMS: Final = 0.18
_UPRIGHT_DEG: Final = 3.0


def rough_poses(
    body: Body, drive: str, working: tuple[Side, ...], start: float, turn: float
) -> list[dict[str, Any]]:
    poses = []
    for at, level in (("start", start), ("turn", turn)):
        arms = []
        for side in working:
            value = body.driven(drive, side).value
            near = np.abs(value - level) <= np.nanpercentile(np.abs(value - level), 20)
            arms.append(_arm_at(body, side, near))
        poses.append(_pose(at, arms))
    fit_to_range(poses, drive, start, turn)
    key = {"trunk_lean": "lean_deg", "trunk_side_lean": "side_lean_deg"}.get(drive)
    if key:
        for pose, level in zip(poses, (start, turn), strict=True):
            pose["trunk"] = {key: tidy(level)}
    return poses


def _as_pictured(
    body: Body, near: dict[str, Any], reps: tuple[Rep, ...], side: Side
) -> list[dict[str, Any]]:
    """The nearest standard's ends with what the picture shows of the arm: its rise and the elbow's
    bend."""
    poses = []
    for at in ("start", "turn"):
        pose = copy.deepcopy(next(p for p in near["pose"] if p["at"] == at))
        moments = [r.start_s if at == "start" else r.turn_s for r in reps]
        for key, measure, most in (
            ("elevation_deg", "shoulder_elevation", 180.0),
            ("elbow_deg", "elbow_flexion", 160.0),
        ):
            seen = (
                [_about(body, measure, t, side) for t in moments]
                if body.shows(measure, side)
                else []
            )
            seen = [v for v in seen if np.isfinite(v)]
            if seen:
                pose["arm"][key] = tidy(float(np.clip(np.median(seen), 0.0, most)))
        poses.append(pose)
    return poses


def shape_poses(
    body: Body,
    raw: dict[str, Any],
    plan: Standard,
    reps: tuple[Rep, ...],
    near: Standard,
    lent: dict[str, Any],
) -> None:
    """Range, tolerance and key poses from the reps: the ends, the middle of a curved path, and the
    lowering if it differs."""
    sides = working_arms(body, near)
    start = float(np.median([r.from_deg for r in reps]))
    turn = float(np.median([r.to_deg for r in reps]))
    spread = float(max(np.std([r.from_deg for r in reps]), np.std([r.to_deg for r in reps])))
    unit_name = "pct" if plan.drive == "shoulder_hike" else "deg"
    least = 4.0 if unit_name == "pct" else 12.0
    raw["range"] = {
        f"from_{unit_name}": tidy(start),
        f"to_{unit_name}": tidy(turn),
        f"tolerance_{unit_name}": tidy(min(max(least, 3.0 * spread + 0.5 * least), 40.0)),
    }

    def mean_arm(moment: Callable[[Rep], float]) -> list[tuple[Array, Array]]:
        out = []
        for side in sides:
            own = [r for r in reps if r.side in (side, "both")]
            near = np.zeros(len(body.time_s), dtype=bool)
            for rep in own:
                near[span_of(body.time_s, moment(rep) - 0.08, moment(rep) + 0.08)] = True
            out.append(_arm_at(body, side, near))
        return out

    if reps[0].measure != plan.drive:
        # A picture that foreshortens the driving joint counts reps by another: no range.
        raw["range"] = dict(lent["range"])
        raw["pose"] = copy.deepcopy(lent["pose"])
        return
    if body.cleaned.track.view != "none":
        poses = _as_pictured(body, lent, reps, sides[0])
        fit_to_range(poses, plan.drive, start, turn)
        _trunk(body, raw, plan, poses, reps)
        raw["pose"] = poses
        return
    poses = [
        _pose("start", mean_arm(lambda r: r.start_s)),
        _pose("turn", mean_arm(lambda r: r.turn_s)),
    ]
    fit_to_range(poses, plan.drive, start, turn)
    half = {
        "way": _pose("way", mean_arm(lambda r: _half(body, plan, r, lift=True))),
        "back": _pose("back", mean_arm(lambda r: _half(body, plan, r, lift=False))),
    }
    straight = _between(poses[0]["arm"], poses[1]["arm"])
    if _apart(half["way"]["arm"], straight) > _BENDS_DEG:
        poses.insert(1, {**half["way"], "share": 0.5})
    if _apart(half["back"]["arm"], half["way"]["arm"]) > 100.0 * _OTHER_WAY_ARMS:
        poses.append({**half["back"], "share": 0.5})
    _trunk(body, raw, plan, poses, reps)
    raw["pose"] = poses


def _half(body: Body, plan: Standard, rep: Rep, *, lift: bool) -> float:
    """When the driving measure is half-way."""
    side: Side = "right" if rep.side == "right" else "left"
    phase = rep.lift if lift else rep.lower
    window = span_of(body.time_s, phase.start_s, phase.end_s)
    value = body.driven(plan.drive, side).value[window]
    if not np.isfinite(value).any():
        return 0.5 * (phase.start_s + phase.end_s)
    middle = 0.5 * (rep.from_deg + rep.to_deg)
    return float(body.time_s[window][int(np.nanargmin(np.abs(value - middle)))])


def _arm_at(body: Body, side: Side, frames: Array) -> tuple[Array, Array]:
    """Upper arm and forearm (3,) each in the trunk's axes over some frames."""
    elbow = body.in_trunk(f"{side}_elbow", side)[frames]
    wrist = body.in_trunk(f"{side}_wrist", side)[frames]
    upper = np.array([median(c[np.isfinite(c)]) for c in elbow.T])
    fore = np.array([median(c[np.isfinite(c)]) for c in (wrist - elbow).T])
    return upper, fore


def _pose(at: str, arms: list[tuple[Array, Array]]) -> dict[str, Any]:
    upper = unit(np.mean([unit(a[0][None])[0] for a in arms], axis=0)[None])[0]
    fore = unit(np.mean([unit(a[1][None])[0] for a in arms], axis=0)[None])[0]
    if not (np.isfinite(upper).all() and np.isfinite(fore).all()):
        raise BadInput("the arm is not seen at the ends of the lift; choose another recording.")
    down = np.array([[0.0, -1.0, 0.0]])
    bend = float(angle_deg(upper[None], fore[None])[0])
    arm: dict[str, Any] = {
        "elevation_deg": tidy(float(angle_deg(upper[None], down)[0])),
        "plane_deg": tidy(float(np.degrees(np.arctan2(upper[2], upper[0])))),
        "elbow_deg": tidy(float(np.clip(bend, 0.0, 160.0))),
    }
    aside = across(fore[None], upper[None])[0]
    if bend > 5.0:
        arm["forearm_toward"] = [round(float(v), 2) for v in unit(aside[None])[0]]
    return {"at": at, "arm": arm}


def fit_to_range(poses: list[dict[str, Any]], drive: str, start: float, turn: float) -> None:
    """The driving number of the end poses is that of the range."""
    key = {
        "elbow_flexion": "elbow_deg",
        "shoulder_elevation": "elevation_deg",
        "shoulder_plane": "plane_deg",
    }.get(drive)
    if key:
        for pose, level in zip(poses, (start, turn), strict=True):
            low = -180.0 if key == "plane_deg" else 0.0
            pose["arm"][key] = tidy(
                float(np.clip(level, low, 160.0 if key == "elbow_deg" else 180.0))
            )


def _between(a: dict[str, Any], b: dict[str, Any]) -> dict[str, Any]:
    return {k: 0.5 * (a[k] + b[k]) for k in ("elevation_deg", "plane_deg", "elbow_deg")}


def _apart(a: dict[str, Any], b: dict[str, Any]) -> float:
    """Degrees between two poses: of the upper arm's direction and of the elbow's bend."""

    def direction(arm: dict[str, Any]) -> Array:
        e, p = np.radians(arm["elevation_deg"]), np.radians(arm["plane_deg"])
        return np.array([np.sin(e) * np.cos(p), -np.cos(e), np.sin(e) * np.sin(p)])

    turned = float(angle_deg(direction(a)[None], direction(b)[None])[0])
    return max(turned, abs(float(a["elbow_deg"]) - float(b["elbow_deg"])))


def _trunk(
    body: Body,
    raw: dict[str, Any],
    plan: Standard,
    poses: list[dict[str, Any]],
    reps: tuple[Rep, ...],
) -> None:
    """The lean that the setup asks for, and the trunk at both ends if it moves."""
    lean = body.measure("trunk_lean").value
    inside = np.zeros(len(lean), dtype=bool)
    for rep in reps:
        inside[span_of(body.time_s, rep.start_s, rep.end_s)] = True
    seen = lean[inside & np.isfinite(lean)]
    if not len(seen):
        return
    low, high = np.percentile(seen, (5, 95))
    room = max(4.0, 0.5 * (high - low))
    raw["posture"] = {
        **raw["posture"],
        "trunk_lean_deg": [tidy(low - room), tidy(high + room)],
    }
    if plan.drive not in (*TRUNK_DRIVES, "shoulder_hike"):
        return
    ends = {"start": [r.start_s for r in reps], "turn": [r.turn_s for r in reps]}
    for pose in poses:
        if pose["at"] not in ends:
            continue
        own: dict[str, Any] = {}
        for key, measure in (
            ("lean_deg", "trunk_lean"),
            ("side_lean_deg", "trunk_side_lean"),
            ("twist_deg", "trunk_rotation"),
        ):
            at = [_about(body, measure, t) for t in ends[pose["at"]]]
            at = [v for v in at if np.isfinite(v)]
            if at and (key == "lean_deg" or abs(float(np.median(at))) > _UPRIGHT_DEG):
                own[key] = tidy(float(np.median(at)))
        if plan.drive == "shoulder_hike":
            own["hike_pct"] = max(
                0.0, tidy(plan.range.from_deg if pose["at"] == "start" else plan.range.to_deg)
            )
        pose["trunk"] = own


def _about(body: Body, measure: str, at_s: float, side: Side | None = None) -> float:
    value = body.measure(measure, side).value[span_of(body.time_s, at_s - 0.1, at_s + 0.1)]
    return float(median(value[np.isfinite(value)]))


def tidy(value: float) -> float:
    return round(float(value), 0)
