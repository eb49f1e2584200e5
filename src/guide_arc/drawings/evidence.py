"""What a finding looks like on the body: the actual place, the right place, and the limit."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Final

import numpy as np

from guide_arc.core.checks.context import SetContext
from guide_arc.core.checks.ends import arm_ends
from guide_arc.core.checks.neutral_back import rest_bend
from guide_arc.core.checks.registry import spec_of
from guide_arc.core.kinematics.measures.registry import own_sign
from guide_arc.core.model.finding import Finding
from guide_arc.core.model.landmarks import SIDES, Side
from guide_arc.core.model.rep import Rep
from guide_arc.core.review.flat_lift import lies_flat
from guide_arc.drawings.shapes import Points
from guide_arc.drawings.shown_set import ShownSet


@dataclass(frozen=True, eq=False)
class Wedge:
    """An angle at a joint, in space: (3,) each. `limit` is None if the check has no
    direction."""

    joint: Points
    actual: Points
    wanted: Points
    limit: Points | None


@dataclass(frozen=True, eq=False)
class Level:
    """A line that a point should reach or stay below: both in space, (2, 3) and (3,)."""

    line: Points
    limit: Points | None
    point: Points


Evidence = Wedge | Level


def evidence(measured: ShownSet, finding: Finding, at_s: float) -> Evidence | None:
    """What to draw for a finding at a moment; None for findings about time alone."""
    draw = _DRAWN.get(spec_of(finding.rule.name).evidence)
    if draw is None:
        return None
    side = _side(measured, finding)
    found = draw(measured, finding, side, measured.index(at_s))
    if found is None:
        return None
    parts = (
        (found.joint, found.actual, found.wanted)
        if isinstance(found, Wedge)
        else (found.line, found.point)
    )
    return found if all(np.isfinite(p).all() for p in parts) else None


def limit_on_dial(measured: ShownSet, finding: Finding) -> float | None:
    """The angle of the driving measure at which a range check's limit is; else None."""
    if not measured.review.reps:
        return None
    span = measured.review.standard.range
    spec = spec_of(finding.rule.name)
    if spec.evidence != "range":
        return None
    return span.to_deg + spec.outward * span.direction * finding.limit


def _side(measured: ShownSet, finding: Finding) -> Side:
    if finding.side in SIDES:
        return "left" if finding.side == "left" else "right"
    return measured.shown_side


def _unit(v: Points) -> Points:
    size = float(np.linalg.norm(v))
    return v / size if size > 1e-6 else np.full(3, np.nan)


def turned(start: Points, toward: Points, angle_deg: float) -> Points:
    """A direction turned by an angle within the plane of two directions."""
    a = _unit(start)
    side = _unit(toward - np.dot(toward, a) * a)
    angle = np.radians(angle_deg)
    out: Points = np.cos(angle) * a + np.sin(angle) * side
    return out


def _rep_start(measured: ShownSet, index: int) -> int:
    rep = measured.review.rep_at(float(measured.time_s[index]))
    return measured.index(rep.start_s) if rep else index


def _upper_arm(m: ShownSet, f: Finding, side: Side, i: int) -> Evidence | None:
    p = m.body.points
    shoulder, elbow = p[f"{side}_shoulder"][i], p[f"{side}_elbow"][i]
    local = m.body.in_trunk(f"{side}_elbow", side)
    starts = [m.index(rep.start_s) for rep in m.review.reps]
    place = np.nanmedian(local[starts], axis=0)
    mirror = np.array([1.0 if side == "left" else -1.0, 1.0, 1.0])
    wanted = (place * mirror) @ m.body.trunk_frame[i]
    arm = float(np.linalg.norm(elbow - shoulder))
    limit = arm * turned(wanted, elbow - shoulder, f.limit)
    return Wedge(shoulder, elbow, shoulder + arm * _unit(wanted), shoulder + limit)


def _bend(m: ShownSet, f: Finding, side: Side, i: int) -> Evidence | None:
    series = m.body.measure("elbow_flexion", side).value
    begun = np.array([series[m.index(rep.start_s)] for rep in m.review.reps])
    if not np.isfinite(begun).any():
        return None  # a picture does not show the bend itself
    kept = float(np.nanmedian(begun))
    sign = 1.0 if series[i] >= kept else -1.0
    return _elbow_wedge(m, side, i, kept, kept + sign * f.limit)


def _elbow_wedge(m: ShownSet, side: Side, i: int, wanted_deg: float, limit_deg: float) -> Evidence:
    p = m.body.points
    shoulder, elbow, wrist = (p[f"{side}_{n}"][i] for n in ("shoulder", "elbow", "wrist"))
    line = _unit(elbow - shoulder)
    fore = wrist - elbow
    size = float(np.linalg.norm(fore))
    return Wedge(
        elbow,
        wrist,
        elbow + size * turned(line, fore, wanted_deg),
        elbow + size * turned(line, fore, limit_deg),
    )


def _shoulder_wedge(
    m: ShownSet, side: Side, i: int, wanted_deg: float, limit_deg: float
) -> Evidence:
    p = m.body.points
    shoulder, elbow = p[f"{side}_shoulder"][i], p[f"{side}_elbow"][i]
    down = -m.body.trunk_frame[i][1]
    arm = elbow - shoulder
    size = float(np.linalg.norm(arm))
    return Wedge(
        shoulder,
        elbow,
        shoulder + size * turned(down, arm, wanted_deg),
        shoulder + size * turned(down, arm, limit_deg),
    )


def _plane_wedge(m: ShownSet, side: Side, i: int, wanted_deg: float, limit_deg: float) -> Evidence:
    p = m.body.points
    shoulder, elbow = p[f"{side}_shoulder"][i], p[f"{side}_elbow"][i]
    left, _up, ahead = m.body.trunk_frame[i]
    out = left if side == "left" else -left
    size = float(np.linalg.norm(elbow - shoulder))
    ends = [
        shoulder + size * (np.cos(a) * out + np.sin(a) * ahead)
        for a in np.radians([wanted_deg, limit_deg])
    ]
    return Wedge(shoulder, elbow, ends[0], ends[1])


def _range(m: ShownSet, f: Finding, side: Side, i: int) -> Evidence | None:
    rep = m.review.rep_at(float(m.time_s[i])) or (m.review.reps[0] if m.review.reps else None)
    if rep is None or not _flat(m):
        return None
    span = m.review.standard.range
    # At which end of the rep are we?
    at = float(m.time_s[i])
    top = abs(at - rep.turn_s) <= min(at - rep.start_s, rep.end_s - at)
    end = span.to_deg if top else span.from_deg
    inward = (-1 if top else 1) * span.direction
    limit = end - spec_of(f.rule.name).outward * inward * f.limit
    return _drive_wedge(m, rep, side, i, end, limit)


def _flat(m: ShownSet) -> bool:
    """Whether an angle of the lift can be drawn on the picture as it is."""
    return lies_flat(m.review.standard, m.body.cleaned.track.view)


def _drive_wedge(
    m: ShownSet, rep: Rep, side: Side, i: int, wanted: float, limit: float
) -> Evidence:
    draw: Callable[[ShownSet, Side, int, float, float], Evidence] = {
        "elbow_flexion": _elbow_wedge,
        "shoulder_elevation": _shoulder_wedge,
        "shoulder_plane": _plane_wedge,
        "trunk_lean": _lean_wedge,
        "trunk_side_lean": _side_lean_wedge,
        "shoulder_hike": _hike_level,
    }[rep.measure]
    return draw(m, side, i, wanted, limit)


def _lean_wedge(m: ShownSet, _side: Side, i: int, wanted: float, limit: float) -> Evidence:
    hips, trunk = _trunk_at(m, i)
    size = float(np.linalg.norm(trunk))
    ends = [
        hips + size * np.array([0.0, np.cos(a), np.sin(a)]) for a in np.radians([wanted, limit])
    ]
    return Wedge(hips, hips + trunk, ends[0], ends[1])


def _side_lean_wedge(m: ShownSet, side: Side, i: int, wanted: float, limit: float) -> Evidence:
    hips, trunk = _trunk_at(m, i)
    size = float(np.linalg.norm(trunk))
    sign = own_sign("trunk_side_lean", side)
    ends = [
        hips + size * np.array([np.sin(sign * a), np.cos(a), 0.0])
        for a in np.radians([wanted, limit])
    ]
    return Wedge(hips, hips + trunk, ends[0], ends[1])


def _hike_level(m: ShownSet, side: Side, i: int, wanted: float, limit: float) -> Evidence:
    shoulder = m.body.points[f"{side}_shoulder"][i]
    left, up, _ahead = m.body.trunk_frame[i]
    now = m.body.driven("shoulder_hike", side).value[i]
    per_pct = 0.01 * float(m.body.trunk_m[i])

    def line(level: float) -> Points:
        spot = shoulder + per_pct * (level - now) * up
        return np.stack((spot - 0.12 * left, spot + 0.12 * left))

    return Level(line(wanted), line(limit), shoulder)


def _trunk_at(m: ShownSet, i: int) -> tuple[Points, Points]:
    p = m.body.points
    hips = 0.5 * (p["left_hip"][i] + p["right_hip"][i])
    return hips, 0.5 * (p["left_shoulder"][i] + p["right_shoulder"][i]) - hips


def _swing(m: ShownSet, f: Finding, _side: Side, i: int) -> Evidence | None:
    hips, trunk = _trunk_at(m, i)
    _, before = _trunk_at(m, _rep_start(m, i))
    size = float(np.linalg.norm(trunk))
    return Wedge(
        hips,
        hips + trunk,
        hips + size * _unit(before),
        hips + size * turned(before, trunk, f.limit),
    )


def _spine(m: ShownSet, f: Finding, side: Side, i: int) -> Evidence | None:
    """The upper spine compared with rest; of a back that was judged by the hips, the
    trunk against the thigh."""
    p = m.body.points
    if f.partly:
        hips, trunk = _trunk_at(m, i)
        lower, joint, end, rest_deg = hips - p[f"{side}_knee"][i], hips, hips + trunk, 0.0
        sign = -1.0
    else:
        rest_deg, _u = rest_bend(m.body, m.review.reps)
        joint, end = p["mid_spine"][i], p["neck"][i]
        lower = joint - 0.5 * (p["left_hip"][i] + p["right_hip"][i])
        sign = np.sign(float(m.body.measure("spine_bend").value[i]) - rest_deg) or 1.0
    to_left, size = m.body.trunk_frame[i][0], float(np.linalg.norm(end - joint))

    def bent(deg: float) -> Points:
        a, line = np.radians(deg), _unit(lower)
        out: Points = joint + size * (np.cos(a) * line + np.sin(a) * np.cross(to_left, line))
        return out

    return Wedge(joint, end, bent(rest_deg), bent(rest_deg + sign * f.limit))


def _lean(m: ShownSet, f: Finding, _side: Side, i: int) -> Evidence | None:
    hips, trunk = _trunk_at(m, i)
    low, high = m.review.standard.trunk_lean_deg
    lean = float(m.body.measure("trunk_lean").value[i])
    bound = high if lean > 0.5 * (low + high) else low
    size = float(np.linalg.norm(trunk))
    wanted, limit = (
        np.array([0.0, np.cos(a), np.sin(a)])
        for a in np.radians([bound, bound + np.sign(lean - bound) * f.limit])
    )
    return Wedge(hips, hips + trunk, hips + size * wanted, hips + size * limit)


def _hike(m: ShownSet, f: Finding, side: Side, i: int) -> Evidence | None:
    left, up, _ahead = m.body.trunk_frame[i]
    shoulder = m.body.points[f"{side}_shoulder"][i]
    hike = float(m.body.measure("shoulder_hike", side).value[i])
    if m.body.quiet is None:
        return None
    trunk = float(np.nanmedian(m.body.trunk_m[m.body.quiet]))
    rest = shoulder - up * (0.01 * hike * trunk)
    across = (left if side == "left" else -left) * 0.16
    ahead = m.body.trunk_frame[i][2] * 0.12
    half = across if m.looking in ("front", "back") else ahead
    line = np.stack((rest - half, rest + half))
    return Level(line, line + up * (0.01 * f.limit * trunk), shoulder)


def _wrist(m: ShownSet, f: Finding, side: Side, i: int) -> Evidence | None:
    p = m.body.points
    elbow, wrist = p[f"{side}_elbow"][i], p[f"{side}_wrist"][i]
    knuckles = 0.5 * (p[f"{side}_index"][i] + p[f"{side}_pinky"][i])
    size = float(np.linalg.norm(knuckles - wrist)) * 1.5
    fore = _unit(wrist - elbow)
    hand = knuckles - wrist
    return Wedge(
        wrist,
        wrist + size * _unit(hand),
        wrist + size * fore,
        wrist + size * turned(fore, hand, f.limit),
    )


def _elbow_level(m: ShownSet, f: Finding, side: Side, i: int) -> Evidence | None:
    p = m.body.points
    shoulder, elbow = p[f"{side}_shoulder"][i], p[f"{side}_elbow"][i]
    up = m.body.trunk_frame[i][1]
    level = elbow - np.dot(elbow - shoulder, up) * up
    line = np.stack((shoulder, shoulder + 1.25 * (level - shoulder)))
    limit_m = 0.01 * f.limit * m.body.learned.upper_arm_m[side]
    return Level(
        line,
        line + spec_of(f.rule.name).outward * up * limit_m,
        elbow,
    )


def _end_point(m: ShownSet, f: Finding, side: Side, i: int) -> Evidence | None:
    p = m.body.points
    hand = 0.5 * (p[f"{side}_index"][i] + p[f"{side}_pinky"][i])
    left, up, ahead = m.body.trunk_frame[i]
    trunk = float(np.nanmedian(m.body.trunk_m))
    shoulders = 0.5 * (p["left_shoulder"][i] + p["right_shoulder"][i])
    if f.rule.target == "midline":
        middle = (
            shoulders + np.dot(hand - shoulders, up) * up + np.dot(hand - shoulders, ahead) * ahead
        )
        line = np.stack((middle - 0.28 * up, middle + 0.28 * up))
        outward = left if side == "left" else -left
        return Level(line, line + outward * (0.01 * f.limit * trunk), hand)
    if f.rule.target in ("nose-height", "eye-level"):
        level = (
            p["nose"][i]
            if f.rule.target == "nose-height"
            else 0.5 * (p["left_ear"][i] + p["right_ear"][i])
        )
        at = hand + np.dot(level - hand, up) * up
        across = ahead if m.looking in SIDES else left
        line = np.stack((at - 0.2 * across, at + 0.2 * across))
        return Level(line, line - up * (0.01 * f.limit * trunk), hand)
    return None


def _arms(m: ShownSet, f: Finding, _side: Side, i: int) -> Evidence | None:
    """The arm that does less, held against how far the other one came in the same rep."""
    rep = m.review.rep_at(float(m.time_s[i])) or (m.review.reps[0] if m.review.reps else None)
    if rep is None or not _flat(m):
        return None
    context = SetContext(m.review.standard, m.review.tempo, m.body, m.repset)
    ends = {side: arm_ends(context, side, rep) for side in SIDES}
    left, right = ends["left"], ends["right"]
    if left is None or right is None:
        return None
    direction = m.review.standard.range.direction
    weaker: Side = "left" if direction * (left.turn_deg - right.turn_deg) < 0 else "right"
    stronger = right if weaker == "left" else left
    return _drive_wedge(
        m, rep, weaker, i, stronger.turn_deg, stronger.turn_deg - direction * f.limit
    )


# By the evidence that a check's SPEC names.
_DRAWN: Final[dict[str, Callable[[ShownSet, Finding, Side, int], Evidence | None]]] = {
    "upper-arm": _upper_arm,
    "bend": _bend,
    "range": _range,
    "swing": _swing,
    "lean": _lean,
    "spine": _spine,
    "hike": _hike,
    "wrist": _wrist,
    "elbow-level": _elbow_level,
    "end-point": _end_point,
    "arms": _arms,
}
