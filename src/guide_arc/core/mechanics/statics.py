"""Moments at elbow and shoulder from what pulls at the hand and from the arm's own weight.

Quasi-static, in space: a force F at p gives the moment r × F about a joint, r from the joint to p.
Segment masses and mass centres as shares of the body's mass and of the segment's length from its
upper end: Winter, Biomechanics and Motor Control of Human Movement, 4th ed., table 4.1 (after
Dempster 1955).
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Final, Literal

import numpy as np

from guide_arc.core.kinematics.vectors import Array, cross, dot, length, unit
from guide_arc.core.mechanics.kit import GRAVITY

# (share of the body's mass, mass centre from the upper end)
UPPER_ARM: Final = (0.028, 0.436)
FOREARM: Final = (0.016, 0.430)
HAND: Final = (0.006, 0.506)
# Below this bend the plane of the arm can't be determined.
PLANE_FROM_DEG: Final = 5.0
# Below this share of the peak nothing resists worth speaking of (formats.md, section 7).
SLACK_SHARE: Final = 0.15
# Below this share of its fastest an upper arm's motion says no axis.
_SLOW: Final = 0.12

Joint = Literal["elbow", "shoulder"]


@dataclass(frozen=True, eq=False)
class ArmPoints:
    """One arm over time, (..., T, 3) each, world metres. grip : where the kit takes hold; knuckles
    : for the hand's mass"""

    shoulder: Array
    elbow: Array
    wrist: Array
    grip: Array
    knuckles: Array


@dataclass(frozen=True, eq=False)
class ArmLoad:
    """What one arm carries, newtons and newton-metres; arrays (..., T, 3) or (..., T).

    against_nm : what of the kit's moment opposes the lift about the working joint's axis
    lever_m, off_plane_deg : NaN if there is no force; the second also on a straight arm
    """

    force_n: Array
    elbow_nm: Array
    shoulder_nm: Array
    limb_elbow_nm: Array | None
    limb_shoulder_nm: Array | None
    against_nm: Array
    lever_m: Array
    off_plane_deg: Array


def load_of(
    arm: ArmPoints, force_n: Array, axis: Array, joint: Joint, body_kg: float | None = None
) -> ArmLoad:
    """The load on one arm. axis : (T, 3) unit axis about which the working joint turns in the
    lift"""
    force = np.broadcast_to(force_n, np.broadcast_shapes(force_n.shape, arm.grip.shape))
    elbow = cross(arm.grip - arm.elbow, force)
    shoulder = cross(arm.grip - arm.shoulder, force)
    working = elbow if joint == "elbow" else shoulder
    size = length(force)
    some = size > 1e-9
    lever = np.where(some, length(working) / np.where(some, size, 1.0), np.nan)
    return ArmLoad(
        force,
        elbow,
        shoulder,
        *_limb(arm, body_kg),
        -dot(working, np.broadcast_to(axis, working.shape)),
        lever,
        off_plane(arm, force),
    )


def _limb(arm: ArmPoints, body_kg: float | None) -> tuple[Array | None, Array | None]:
    """Moments of forearm with hand about the elbow, and of the whole arm about the shoulder."""
    if body_kg is None:
        return None, None
    ends = (
        (arm.shoulder, arm.elbow, UPPER_ARM),
        (arm.elbow, arm.wrist, FOREARM),
        (arm.wrist, arm.knuckles, HAND),
    )
    parts = [
        (a + at * (b - a), share * body_kg * GRAVITY * np.array([0.0, -1.0, 0.0]))
        for a, b, (share, at) in ends
    ]
    elbow = sum(
        (cross(p - arm.elbow, np.broadcast_to(w, p.shape)) for p, w in parts[1:]),
        np.zeros(arm.elbow.shape),
    )
    shoulder = sum(
        (cross(p - arm.shoulder, np.broadcast_to(w, p.shape)) for p, w in parts),
        np.zeros(arm.elbow.shape),
    )
    return elbow, shoulder


def off_plane(arm: ArmPoints, force: Array) -> Array:
    """(..., T) degrees between the force and the plane of shoulder, elbow and wrist."""
    upper, fore = unit(arm.elbow - arm.shoulder), unit(arm.wrist - arm.elbow)
    normal = cross(upper, fore)
    bent = length(normal) > np.sin(np.radians(PLANE_FROM_DEG))
    # A straight arm's normal is noise, one that is bent right round is as good as any other.
    bent |= dot(upper, fore) < 0.0
    size = length(force)
    sine = np.abs(dot(unit(normal), unit(force)))
    angle = np.degrees(np.arcsin(np.clip(sine, 0.0, 1.0)))
    out: Array = np.where(bent & (size > 1e-9), angle, np.nan)
    return out


def elbow_axis(arm: ArmPoints, direction: int) -> Array:
    """(T, 3) the axis about which the forearm turns in the lift: +1 if lifting bends the elbow, -1
    if it straightens it. On a straight arm it is the nearest one that can be determined."""
    upper, fore = unit(arm.elbow - arm.shoulder), unit(arm.wrist - arm.elbow)
    axis = cross(upper, fore)
    told = length(axis) > np.sin(np.radians(PLANE_FROM_DEG))
    out: Array = direction * _filled(unit(axis), told)
    return out


def shoulder_axis(upper_in_trunk: Array, trunk: Array, time_s: Array, sign: Array) -> Array:
    """(T, 3) the axis of the upper arm's motion against the trunk, as in the lift, kept through
    holds.

    upper_in_trunk : (T, 3) the upper arm's direction in the trunk's axes; trunk : (T, 3, 3) rows
        are those axes
    sign : (T,) +1 while lifting, -1 while lowering, 0 between
    """
    u = unit(upper_in_trunk)
    rate = np.gradient(u, time_s, axis=0)
    spin = cross(u, rate) * np.where(sign == 0.0, 1.0, sign)[:, None]
    speed = length(spin)
    fastest = np.nanmax(np.where(sign != 0.0, speed, 0.0), initial=0.0)
    told = (sign != 0.0) & (speed > _SLOW * fastest) & (speed > 1e-9)
    own = _filled(unit(spin), told)
    out: Array = np.einsum("ti,tij->tj", own, trunk)
    return out


def _filled(axis: Array, told: Array) -> Array:
    """Axes with those that can't be determined taken from the nearest one before, else after."""
    known = np.flatnonzero(told)
    if not len(known):
        return np.full(axis.shape, np.nan)
    before = np.maximum(np.searchsorted(known, np.arange(len(axis)), side="right") - 1, 0)
    out: Array = axis[known[before]]
    return out


# Curves over the lift


@dataclass(frozen=True)
class Hardest:
    share: float
    angle_deg: float
    nm: float


@dataclass(frozen=True)
class Curve:
    """What a lift asks of the working joint over the share of its range.

    slack : stretches of the share in which it asks less than 15 % of the peak
    least_pct : the lowest, as a share of the peak; 0 if the load turns round
    """

    hardest: Hardest | None
    slack: tuple[tuple[float, float], ...]
    mean_nm: float
    least_pct: float


def curve_of(share: Array, angle_deg: Array, against_nm: Array) -> Curve:
    """The curve of one lift. Samples without a value take no part."""
    seen = np.isfinite(share) & np.isfinite(against_nm)
    if seen.sum() < 2:
        return Curve(None, (), float("nan"), 0.0)
    order = np.argsort(share[seen], kind="stable")
    s, nm, angle = share[seen][order], against_nm[seen][order], angle_deg[seen][order]
    i = int(np.argmax(nm))
    peak = float(nm[i])
    span = float(s[-1] - s[0])
    mean = (
        float(np.sum(0.5 * (nm[1:] + nm[:-1]) * np.diff(s)) / span)
        if span > 1e-9
        else float(nm.mean())
    )
    if peak <= 1e-9:
        return Curve(
            Hardest(float(s[i]), float(angle[i]), peak), ((float(s[0]), float(s[-1])),), mean, 0.0
        )
    return Curve(
        Hardest(float(s[i]), float(angle[i]), peak),
        _below(s, nm, SLACK_SHARE * peak),
        mean,
        100.0 * max(float(nm.min()) / peak, 0.0),
    )


def _below(s: Array, nm: Array, bar: float) -> tuple[tuple[float, float], ...]:
    """Intervals in which a curve is below a threshold; their ends are interpolated linearly between
    samples."""
    low = nm < bar
    out: list[tuple[float, float]] = []
    start: float | None = None
    for k in range(len(s)):
        if low[k] and start is None:
            start = float(s[k]) if k == 0 else _crossing(s, nm, k - 1, bar)
        if start is not None and (not low[k] or k == len(s) - 1):
            end = float(s[k]) if low[k] else _crossing(s, nm, k - 1, bar)
            if end > start:
                out.append((start, end))
            start = None
    return tuple(out)


def _crossing(s: Array, nm: Array, k: int, bar: float) -> float:
    rise = float(nm[k + 1] - nm[k])
    part = (bar - float(nm[k])) / rise if abs(rise) > 1e-12 else 0.0
    return float(s[k] + np.clip(part, 0.0, 1.0) * (s[k + 1] - s[k]))


def mean_of(arms: Sequence[Array]) -> Array:
    """The mean of the arms that work, sample by sample."""
    out: Array = np.mean(np.stack(list(arms)), axis=0)
    return out
