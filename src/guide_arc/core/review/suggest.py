"""Which standard a movement fits best, when a recording does not say.

Each arm is held against every standard's guide arc both ways: how far the recorded poses stay from
the arc (something else was done) and how far the arc stays from the recorded poses (a part of it
was never done). Trunk, legs, the hand's turn, the kit and which arms work are held against the
standard as well.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from functools import lru_cache
from typing import Final

import numpy as np
from numpy.typing import NDArray

from guide_arc.core.kinematics.body import Body
from guide_arc.core.kinematics.endpoints import hand
from guide_arc.core.kinematics.guide import arm_directions, poses_along, poses_back, trunk_along
from guide_arc.core.kinematics.measures.registry import own_sign
from guide_arc.core.kinematics.trunk import middle
from guide_arc.core.kinematics.vectors import Array, across, cross, length, unit
from guide_arc.core.kinematics.views import hidden_axis
from guide_arc.core.mechanics.pull import pulley_is_marked
from guide_arc.core.model.landmarks import SIDES, Side
from guide_arc.core.model.standard import Base, Standard

# The landmarks that a suggestion rests on besides the arms and the trunk.
LANDMARKS: Final = tuple(
    f"{side}_{part}" for side in SIDES for part in ("knee", "ankle", "ear", "pulley")
)
_FRAMES: Final = 96
_SAMPLES: Final = 17
# An arm that moves by less than this share of the other's movement does not work.
_IDLE_SHARE: Final = 0.35
# The farthest part of the recorded poses is walking in and putting the kit back.
_TRIMMED: Final = 0.12
_SURE: Final = 1.25
_BEST_OF: Final = 5
# How much a part of the pose counts, and how many numbers it has; a whole turn of a direction is 2.
_WEIGHTS: Final = {"arm": 1.0, "grip": 0.22, "trunk": 1.0, "legs": 0.35, "hike": 4.0}
_NUMBERS: Final = (6, 3, 4, 4, 1)
_STARTS: Final = np.cumsum((0, *_NUMBERS[:-1]))
_SCALE: Final = np.repeat(np.sqrt(list(_WEIGHTS.values())), _NUMBERS)
# Knee bend and the thigh's tilt from hanging, degrees; prone legs follow the trunk.
_LEGS: Final[dict[Base, tuple[float, float]]] = {
    "standing": (12, 4),
    "seated": (82, 92),
    "hinged": (40, 20),
    "kneeling": (86, 10),
    "prone": (0, -36),
    "plank": (0, -70),
    "pike": (0, -55),
    "on-hands": (86, 16),
    "side-lying": (0, 0),
}
# What another number of working arms, or another kit than the recording shows, adds to the
# distance.
_OTHER_ARMS: Final = 0.12
_OTHER_KIT: Final = 0.15
_PULL_WEIGHT: Final = 0.25

PART_WORDS: Final = {
    "arm": "the arm's path",
    "grip": "the turn of the hand",
    "trunk": "the trunk",
    "legs": "the legs",
    "hike": "the shoulders' rise",
    "arms": "which arms work",
    "kit": "where the cable comes from",
}


@dataclass(frozen=True)
class Suggestion:
    """A standard with how far the movement stays from it.

    off : a distance, 0 is a perfect fit; parts : the share of each part in it, by `PART_WORDS`
    """

    standard: Standard
    off: float
    parts: dict[str, float]


@dataclass(frozen=True)
class Choice:
    """Standards that may fit, best first, and why the first one does."""

    ranked: tuple[Suggestion, ...]
    reason: str

    @property
    def best(self) -> Suggestion:
        return self.ranked[0]

    @property
    def sure(self) -> bool:
        """Whether the best fits clearly better than the next."""
        return len(self.ranked) < 2 or self.ranked[1].off > _SURE * self.best.off


class _Poses:
    """Poses as rows of weighted numbers, part by part as in `_WEIGHTS`.

    values : (F, 18), 0 where unknown; known : (F, 18) 1 or 0; squares : (F, 18) of the values
    """

    def __init__(self, parts: dict[str, Array]) -> None:
        rows = np.hstack([parts[name] for name in _WEIGHTS]) * _SCALE
        seen = np.isfinite(rows)
        self.values: Array = np.where(seen, rows, 0.0)
        self.known = seen.astype(np.float64)
        self.squares: Array = self.values**2


@dataclass(frozen=True, eq=False)
class _Seen:
    """What a recording shows of one arm, and how far that arm moved."""

    poses: _Poses
    moved: float


def suggest(body: Body, standards: Iterable[Standard]) -> Choice | None:
    """The standards that fit a recorded movement, best first; None if no arm was seen.

    body : cleaned with `LANDMARKS` besides those of the arms and the trunk
    standards : each in as many of its schools as may have been done; the best one represents it
    """
    frames = _active(body)
    seen = {side: _observed(body, side, frames) for side in SIDES}
    usable = {s: o for s, o in seen.items() if o.poses.known[:, : _NUMBERS[0]].any()}
    if not usable:
        return None
    most = max(o.moved for o in usable.values())
    working: list[Side] = [s for s, o in usable.items() if o.moved >= _IDLE_SHARE * most]
    best: dict[str, Suggestion] = {}
    for plan in standards:
        found = _fit(body, usable, working, plan)
        if plan.id not in best or found.off < best[plan.id].off:
            best[plan.id] = found
    ranked = tuple(sorted(best.values(), key=lambda s: s.off))
    return Choice(ranked[:_BEST_OF], _reason(ranked))


def _active(body: Body) -> Array:
    """Indices of some frames, thinned, over the whole recording."""
    count = len(body.time_s)
    return np.unique(np.linspace(0, count - 1, min(count, _FRAMES)).astype(int))


def _observed(body: Body, side: Side, frames: Array) -> _Seen:
    arm_m = body.learned.upper_arm_m[side]
    elbow = body.in_trunk(f"{side}_elbow", side)[frames] / arm_m
    wrist = body.in_trunk(f"{side}_wrist", side)[frames] / arm_m
    arm = np.concatenate((elbow, wrist - elbow), axis=1)
    sign = own_sign("trunk_side_lean", side)
    lean, aside, twist = (
        np.radians(body.measure(m).value[frames])
        for m in ("trunk_lean", "trunk_side_lean", "trunk_rotation")
    )
    trunk = np.stack(
        (np.cos(lean), np.sin(lean), sign * np.sin(aside), sign * np.sin(twist)), axis=1
    )
    parts = {
        "arm": arm,
        "grip": _grip_seen(body, side, frames),
        "trunk": trunk,
        "legs": _legs_seen(body, frames),
        "hike": 0.01 * _hike_seen(body, side, frames)[:, None],
    }
    known = arm[np.isfinite(arm).all(axis=1)]
    low, high = np.percentile(known, (5, 95), axis=0) if len(known) else (np.zeros(6), np.zeros(6))
    moved = float(np.linalg.norm(high - low))
    flat = hidden_axis(body.cleaned.track.view)
    if flat is not None:
        arm[:, [flat, flat + 3]] = np.nan
    return _Seen(_Poses(parts), moved)


def _grip_seen(body: Body, side: Side, frames: Array) -> Array:
    """(F, 3) across the hand from the little finger to the index, in the trunk's axes; none in a
    picture, which hardly shows it."""
    if body.cleaned.track.view != "none":
        return np.full((len(frames), 3), np.nan)
    line = body.in_trunk(f"{side}_index", side) - body.in_trunk(f"{side}_pinky", side)
    return unit(line[frames])


def _hike_seen(body: Body, side: Side, frames: Array) -> Array:
    gap = body.driven("shoulder_hike", side).value if body.shows("shoulder_hike", side) else None
    return np.full(len(frames), np.nan) if gap is None else gap[frames]


def mean_seen(values: list[Array]) -> Array:
    """The mean of those that were seen, moment by moment; NaN if none was seen."""
    stack = np.stack(values)
    seen = np.isfinite(stack)
    total = np.where(seen, stack, 0.0).sum(axis=0)
    out: Array = np.where(seen.any(axis=0), total / np.maximum(seen.sum(axis=0), 1), np.nan)
    return out


def _legs_seen(body: Body, frames: Array) -> Array:
    """(F, 4) cosine and sine of the knee's bend and of the thigh's tilt, hanging 0 and ahead
    positive."""
    sides = [s for s in SIDES if np.isfinite(body.points[f"{s}_knee"][:, 1]).any()]
    if not sides or hidden_axis(body.cleaned.track.view) == 2:
        return np.full((len(frames), 4), np.nan)
    knee = mean_seen([body.measure("knee_flexion", s).value[frames] for s in sides])
    thigh = mean_seen([(body.points[f"{s}_knee"] - body.points[f"{s}_hip"])[frames] for s in sides])
    tilt = np.arctan2(thigh[:, 2], -thigh[:, 1])
    bend = np.radians(knee)
    return np.stack((np.cos(bend), np.sin(bend), np.cos(tilt), np.sin(tilt)), axis=1)


@lru_cache(maxsize=512)
def _expected(standard: Standard, forearm: float) -> _Poses:
    """The poses along a standard's guide arc, there and back."""
    share = np.linspace(0.0, 1.0, _SAMPLES)
    poses = np.concatenate((poses_along(standard, share), poses_back(standard, share[::-1])))
    share = np.concatenate((share, share[::-1]))
    upper, fore = arm_directions(poses)
    lean, aside, twist, hike, _rounding = trunk_along(standard, share).T
    lean, aside, twist = np.radians(lean), np.radians(aside), np.radians(twist)
    parts = {
        "arm": np.concatenate((upper, forearm * fore), axis=1),
        "grip": _knuckles(poses, upper, fore),
        "trunk": np.stack((np.cos(lean), np.sin(lean), np.sin(aside), np.sin(twist)), axis=1),
        "legs": _legs_meant(standard.base, lean),
        "hike": 0.01 * hike[:, None],
    }
    return _Poses(parts)


def _knuckles(poses: Array, upper: Array, fore: Array) -> Array:
    """(K, 3) the line of the knuckles, from the little finger to the index: the underhand palm
    faces the way the elbow bends, the grip turns it."""
    curl = unit(across(-upper, fore))
    grip = np.radians(poses[:, 6])[:, None]
    # (out, up, ahead) of a left arm is right-handed as (left, up, ahead).
    palm = np.cos(grip) * curl + np.sin(grip) * cross(fore, curl)
    return -cross(fore, palm)


def _legs_meant(base: Base, lean_rad: Array) -> Array:
    bend, tilt = np.radians(_LEGS[base])
    if base == "prone":
        tilts = -np.clip(0.8 * lean_rad, 0.0, np.radians(72.0))
    elif base == "plank":
        tilts = -lean_rad
    else:
        tilts = np.full(len(lean_rad), tilt)
    bends = np.full(len(lean_rad), bend)
    return np.stack((np.cos(bends), np.sin(bends), np.cos(tilts), np.sin(tilts)), axis=1)


def _fit(
    body: Body, seen: dict[Side, _Seen], working: Sequence[Side], plan: Standard
) -> Suggestion:
    sides = list(working) if plan.arms != "both" or plan.across else list(seen)
    if plan.arms == "one" and len(sides) > 1:
        sides = [max(sides, key=lambda s: seen[s].moved)]
    each = []
    for side in sides:
        # To a hundredth: bodies of the same build share what was worked out for one.
        own = _expected(plan, round(body.learned.forearm_over_upper_arm[side], 2))
        each.append(_gaps(seen[side].poses, own))
    parts = dict(zip(_WEIGHTS, np.mean(each, axis=0).tolist(), strict=True))
    alone = len(working) == 1 and len(seen) == 2
    parts["arms"] = _OTHER_ARMS**2 * float(
        (alone and plan.arms == "both")
        or (len(working) == 2 and plan.arms == "one" and not _of_trunk(plan))
    )
    parts["kit"] = _kit_gap(body, plan, sides)
    return Suggestion(plan, float(np.sqrt(sum(parts.values()))), parts)


def _of_trunk(plan: Standard) -> bool:
    return plan.drive in ("trunk_lean", "trunk_side_lean")


def _gaps(seen: _Poses, meant: _Poses) -> Array:
    """(parts,) mean squared distance of each part, between each pose and the nearest of the other
    side; what either side does not know is left out."""
    # |a - b|^2 = a^2 - 2ab + b^2, a sum of products over the known.
    total = (
        seen.squares @ meant.known.T
        - 2.0 * seen.values @ meant.values.T
        + seen.known @ meant.squares.T
    )
    rows = seen.known[:, 1] > 0  # the elbow's height is seen from everywhere
    total = np.where(rows[:, None], total, np.inf)
    to_arc, to_set = total.argmin(axis=1), total.argmin(axis=0)
    nearest = total[np.arange(len(total)), to_arc]
    order = np.argsort(nearest)[: max(3, int((1.0 - _TRIMMED) * rows.sum()))]
    there = _mean_square(seen, order, meant, to_arc[order])
    back = _mean_square(seen, to_set, meant, np.arange(total.shape[1]))
    out: Array = 0.5 * np.add.reduceat(there + back, _STARTS)
    return out


def _mean_square(a: _Poses, i: NDArray[np.intp], b: _Poses, j: NDArray[np.intp]) -> Array:
    """(18,) mean squared distances of some poses from some others."""
    gap = (a.values[i] - b.values[j]) * (a.known[i] * b.known[j])
    out: Array = np.einsum("rn,rn->n", gap, gap) / len(gap)
    return out


def _kit_gap(body: Body, plan: Standard, sides: Sequence[Side]) -> float:
    """What a marked pulley says about the kit: none where the recording marks none."""
    marked = [s for s in sides if pulley_is_marked(body, s)]
    if not marked or body.cleaned.track.view != "none":
        return 0.0
    if plan.pulley_m is None:
        return _OTHER_KIT**2
    gaps = []
    for side in marked:
        pulley = np.nanmedian(body.points[f"{side}_pulley"], axis=0)
        ankles = middle(body.points, "ankle")
        feet = np.nanmedian(ankles, axis=0) if np.isfinite(ankles).any() else None
        if feet is None:
            continue
        out = 1.0 if side == "left" else -1.0
        meant = feet + np.array([out, 1.0, 1.0]) * np.array(plan.pulley_m)
        meant[1] = plan.pulley_m[1]
        held = np.nanmedian(hand(body, side), axis=0)
        a, b = unit((pulley - held)[None])[0], unit((meant - held)[None])[0]
        gaps.append(float(length(a - b)) ** 2)
    return _PULL_WEIGHT * _OTHER_KIT * float(np.mean(gaps)) if gaps else 0.0


def _reason(ranked: Sequence[Suggestion]) -> str:
    """Why the first one fits, against the next."""
    best = ranked[0]
    if len(ranked) < 2:
        return "it is the only one"
    other = ranked[1]
    gains = {name: other.parts[name] - best.parts[name] for name in best.parts}
    part = max(gains, key=lambda name: gains[name])
    names = f"{PART_WORDS[part]} fits better than in {other.standard.name!r}"
    if other.off <= _SURE * best.off:
        return f"{names}, though not by much"
    return names
