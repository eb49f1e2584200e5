"""One jointed body, its joints' limits, the ground and the camera, fitted to a whole set by maximum
a posteriori, tried against the landmark-wise way.

    ./run dev python bench/one_skeleton.py [EVERY]      also the second table of `smoothers.py`

Unknown are every landmark's place in every frame, in space even where a picture shows two of its
axes; the lengths of the bones; and where the camera stood: yaw, pitch, roll and distance. What
speaks for them: the samples as that camera would show them (with weights that fall for what is far
off, Student's t of four degrees of freedom), bones that keep their lengths (learned; at first those
of a usual body), a trunk that keeps its shape and faces ahead, knees that bend backwards, arms that
go no farther back and fold no closer than joints do, feet that stay where they stand on level
ground, and courses without a third derivative. The whole is one system of equations, banded in time
with a border for the camera; it is linearised and solved until it stands. A picture leaves each
limb two ways out of its plane: the fit is begun with each of four, and each end counts by how well
it explains the set. The inverse gives the uncertainty, by drawing from it.

Prints, for the conditions of `bench/conditions.py` that a camera makes, the angles' errors of both
ways, root mean square over every EVERY-th view of the catalogue, and the share of errors inside
twice their uncertainty.
"""

from __future__ import annotations

import warnings
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass
from itertools import product
from typing import Any

import numpy as np
from numpy.typing import NDArray
from scipy.linalg import cho_solve_banded, cholesky_banded
from scipy.linalg.lapack import dtbtrs

import harness
from conditions import CONDITIONS, Condition, apart, film, jobs_of
from guide_arc.core.kinematics.anatomy import Anatomy
from guide_arc.core.kinematics.body import Body
from guide_arc.core.kinematics.cleaning import CleanTrack, clean
from guide_arc.core.kinematics.views import hidden_axis, near_side, shown
from guide_arc.core.model.landmarks import SIDES
from guide_arc.core.model.standard import Standard
from guide_arc.core.model.track import LandmarkTrack
from guide_arc.core.reps.segment import find_reps
from guide_arc.standards.loader import standard

Array = NDArray[np.float64]
Rows = NDArray[np.intp]
TRIED = (
    "a pose model's noise, 2 px",
    "joints 10 px",
    "camera 15",
    "camera 30",
    "2.5 m",
    "arms an eighth shorter",
)
PARTS = ("shoulder", "elbow", "wrist", "hip", "knee", "ankle")
LIMBS = (("shoulder", "elbow"), ("elbow", "wrist"), ("hip", "knee"), ("knee", "ankle"))
ROUNDS, DRAWS = 10, 16
# Of a bone about its own length in a moment, of its length about a usual body's, of a depth about
# none.
RIGID_M, USUAL, DEPTH_M = 0.006, 0.06, 0.5
# A course's third derivative, metres a second cubed. Fitted at so many frames a second, which shows
# every rep.
JERK, RATE_HZ = 12.0, 15.0
STAYS_S = 0.125
# What no draw shows, as the landmark-wise way counts it: a camera and a body a little out of plane.
FLOOR_DEG = 2.5
# The camera before anything is seen: yaw, pitch, roll in radians and one over its distance; and how
# far each may lie off.
CAMERA, MAY_LIE = np.array([0.0, 0.0, 0.0, 0.25]), np.array([0.35, 0.15, 0.06, 0.1])
# How softly a joint's limit holds, how far feet wander, how far the feet's and the hips' line turns
# from straight ahead.
LIMIT_M, FOOT_M, STANCE_M, FACES_M = 0.01, 0.03, 0.08, 0.05
# The elbow no farther behind the shoulder than this, the hand no closer to it, by arm lengths.
ELBOW_BACK, HAND_BACK, FOLDED = 0.85, 0.6, 0.27
# A second end of the fit counts with what its cost leaves, as samples that stay alike are worth
# fewer.
TEMPER = 0.1


@dataclass(frozen=True)
class Bone:
    a: int
    b: int
    usual_m: float


def bones_of(names: tuple[str, ...], stature_m: float) -> list[Bone]:
    """The limbs' bones, and the sides and diagonals of the trunk."""
    body = Anatomy(stature_m)
    at = {n: i for i, n in enumerate(names)}
    usual = (body.upper_arm_m, body.forearm_m, body.thigh_m, body.shank_m)
    out = [
        Bone(at[f"{side}_{a}"], at[f"{side}_{b}"], size)
        for side in SIDES
        for (a, b), size in zip(LIMBS, usual, strict=True)
        if {f"{side}_{a}", f"{side}_{b}"} <= at.keys()
    ]
    broad, narrow, long = 2 * body.half_shoulders_m, 2 * body.half_hips_m, body.trunk_m
    slope = 0.5 * (broad - narrow)
    across = {
        ("left_shoulder", "right_shoulder"): broad,
        ("left_hip", "right_hip"): narrow,
        **{(f"{s}_shoulder", f"{s}_hip"): float(np.hypot(long, slope)) for s in SIDES},
        **{
            (f"{s}_shoulder", f"{o}_hip"): float(np.hypot(long, 0.5 * (broad + narrow)))
            for s, o in (SIDES, SIDES[::-1])
        },
    }
    return out + [
        Bone(at[a], at[b], size) for (a, b), size in across.items() if {a, b} <= at.keys()
    ]


@dataclass(frozen=True)
class Seen:
    """What was seen: (T, L, 3) samples with NaN where there are none, (L,) their standard deviation
    of one axis."""

    samples: Array
    sigma: Array
    names: tuple[str, ...]
    bones: list[Bone]
    hidden: int
    toward: float
    stands: bool

    @property
    def at(self) -> dict[str, int]:
        return {n: i for i, n in enumerate(self.names)}

    @property
    def shown(self) -> tuple[int, int]:
        return (2 - self.hidden, 1)

    def turned(self, camera: Array) -> Array:
        """(3, 3) the body's axes to the camera's: about the vertical, about the picture's
        horizontal, about its depth."""
        out = np.eye(3)
        for axis, angle in zip((1, 2 - self.hidden, self.hidden), camera, strict=False):
            c, s = np.cos(angle), np.sin(angle)
            i, j = (axis + 1) % 3, (axis + 2) % 3
            turn = np.eye(3)
            turn[i, i] = turn[j, j] = c
            turn[i, j], turn[j, i] = -s, s
            out = turn @ out
        return out

    def pictured(self, place: Array, camera: Array) -> tuple[Array, Array]:
        """(T, L, 2) where the camera shows places, and (T, L, 2, 3) how that changes with them."""
        turn = self.turned(camera)
        inside = place @ turn.T
        near = 1.0 - camera[3] * self.toward * inside[..., self.hidden]
        shown = inside[..., self.shown]
        slope = turn[list(self.shown)] / near[..., None, None] + (
            (shown * camera[3] * self.toward / near[..., None] ** 2)[..., None] * turn[self.hidden]
        )
        return shown / near[..., None], slope


@dataclass(frozen=True)
class Fitted:
    """place : (T, L, 3) most probable; draws : (D, T, L, 3) as probable ones; cost : of what is
    left unexplained"""

    place: Array
    draws: Array
    cost: float


class System:
    """The normal equations: bands for every place in every frame, a border for the camera."""

    def __init__(self, frames: int, count: int) -> None:
        self.size = 3 * count
        self.frames = frames
        self.bands = np.zeros((4 * self.size, frames * self.size))
        self.right = np.zeros(frames * self.size)
        self.border = np.zeros((frames * self.size, 4))
        self.corner, self.low = np.zeros((4, 4)), np.zeros(4)
        self.cost = 0.0

    def add(
        self, rows: Rows, columns: list[int], slopes: Array, miss: Array, weight: Array
    ) -> None:
        """One equation in each of some frames. rows : (R,) frames; slopes : (R, C); miss, weight :
        (R,)"""
        self.cost += float((weight * miss**2).sum())
        at = self.size * rows
        for p, own in enumerate(columns):
            self.right[at + own] += weight * slopes[:, p] * miss
            for q, other in enumerate(columns):
                if own >= other:
                    self.bands[own - other, at + other] += weight * slopes[:, p] * slopes[:, q]

    def solved(self) -> tuple[Any, Any, Any, Any, Any]:
        """The step of the places and of the camera; the factor, what the camera moves, and the
        camera's own spread."""
        factor = cholesky_banded(self.bands, lower=True, overwrite_ab=True, check_finite=False)
        both = cho_solve_banded(
            (factor, True), np.column_stack([self.right, self.border]), check_finite=False
        )
        moved = both[:, 1:]
        spread = np.linalg.inv(self.corner - self.border.T @ moved)
        camera = spread @ (self.low - self.border.T @ both[:, 0])
        return both[:, 0] - moved @ camera, camera, factor, moved, spread


def fit(seen: Seen, start: Array, rate_hz: float) -> Fitted:
    frames, count, _ = seen.samples.shape
    place, camera, long = start, CAMERA.copy(), np.array([b.usual_m for b in seen.bones])
    smooth = _third(frames, rate_hz)
    for _ in range(ROUNDS):
        system = System(frames, count)
        _add_samples(system, seen, place, camera)
        _add_smoothness(system, place, smooth)
        _add_bones(system, seen, place, long)
        _add_body(system, seen, place)
        system.corner += np.diag(MAY_LIE**-2.0)
        system.low += (CAMERA - camera) / MAY_LIE**2
        system.cost += float((((CAMERA - camera) / MAY_LIE) ** 2).sum())
        step, turn, factor, moved, spread = system.solved()
        place = place + np.clip(step.reshape(place.shape), -0.12, 0.12)
        camera = camera + np.clip(turn, -0.1, 0.1)
        long = _lengths(place, seen.bones)
        if np.abs(step).max() < 1e-3:
            break
    rng = np.random.default_rng(5)
    white = rng.standard_normal((step.size, DRAWS))
    own, _info = dtbtrs(factor, white, uplo="L", trans="T")
    own -= moved @ np.linalg.cholesky(0.5 * (spread + spread.T)) @ rng.standard_normal((4, DRAWS))
    return Fitted(place, place + own.T.reshape(DRAWS, *place.shape), system.cost)


def best_of(seen: Seen, rate_hz: float) -> Fitted:
    """From each way that arms may point out of the picture; the ends share the draws by what their
    costs leave."""
    ends = [fit(seen, _start(seen, ways), rate_hz) for ways in product((1.0, -1.0), repeat=2)]
    best = min(ends, key=lambda end: end.cost)
    share = np.exp(-0.5 * TEMPER * (np.array([end.cost for end in ends]) - best.cost))
    whose = np.random.default_rng(6).choice(len(ends), DRAWS, p=share / share.sum())
    return Fitted(best.place, np.stack([ends[w].draws[d] for d, w in enumerate(whose)]), best.cost)


def _start(seen: Seen, ways: tuple[float, ...]) -> Array:
    """Drawn through the samples; the trunk as broad as usual, limbs out of the picture by as much
    as they look short: arms by the first way, forearms by the second (outwards from a side, ahead
    from the front)."""
    out = np.stack([_drawn_through(seen.samples[:, i]) for i in range(len(seen.names))], axis=1)
    at, hidden = seen.at, seen.hidden
    out[..., hidden] = 0.0
    broad = {(b.a, b.b): b.usual_m for b in seen.bones}
    if hidden == 0:
        for part in ("shoulder", "hip"):
            half = 0.5 * broad[at[f"left_{part}"], at[f"right_{part}"]]
            out[:, at[f"left_{part}"], 0], out[:, at[f"right_{part}"], 0] = half, -half
    for bone in seen.bones:
        side, _, part = seen.names[bone.b].partition("_")
        if not seen.names[bone.a].startswith(side) or part == "hip":
            continue
        line = out[:, bone.b] - out[:, bone.a]
        line[:, hidden] = 0.0
        short = np.sqrt(np.maximum(bone.usual_m**2 - (line**2).sum(axis=1), 0.0))
        way = {"elbow": ways[0], "wrist": ways[1]}.get(part, 0.0)
        outward = (1.0 if side == "left" else -1.0) if hidden == 0 else 1.0
        out[:, bone.b, hidden] = out[:, bone.a, hidden] + way * outward * np.median(short)
    return out


def _drawn_through(samples: Array) -> Array:
    out = samples.copy()
    at = np.arange(len(samples))
    for k in range(samples.shape[1]):
        known = np.isfinite(samples[:, k])
        out[:, k] = np.interp(at, at[known], samples[known, k]) if known.any() else 0.0
    return out


def _third(frames: int, rate_hz: float) -> Array:
    """(4, frames) bands of the third difference's own square, scaled to a usual jerk."""
    weight = (rate_hz**3 / JERK) ** 2 / rate_hz * 2.0
    stencil = np.array([-1.0, 3.0, -3.0, 1.0])
    out = np.zeros((4, frames))
    for t in range(frames - 3):
        for i in range(4):
            for j in range(i, 4):
                out[j - i, t + i] += weight * stencil[i] * stencil[j]
    return out


def _add_samples(system: System, seen: Seen, place: Array, camera: Array) -> None:
    where, slope = seen.pictured(place, camera)
    # How the camera's own four change the picture, by small steps.
    turned = np.stack(
        [(seen.pictured(place, camera + 1e-5 * step)[0] - where) / 1e-5 for step in np.eye(4)],
        axis=-1,
    )
    for i in range(place.shape[1]):
        columns = [3 * i, 3 * i + 1, 3 * i + 2]
        for k, axis in enumerate(seen.shown):
            miss = seen.samples[:, i, axis] - where[:, i, k]
            rows = np.flatnonzero(np.isfinite(miss))
            miss = miss[rows]
            weight = 5.0 / (4.0 + (miss / seen.sigma[i]) ** 2) / seen.sigma[i] ** 2
            system.add(rows, columns, slope[rows, i, k], miss, weight)
            by_camera = turned[rows, i, k]
            for c, own in enumerate(columns):
                system.border[system.size * rows + own] += (weight * slope[rows, i, k, c])[
                    :, None
                ] * by_camera
            system.corner += (weight[:, None] * by_camera).T @ by_camera
            system.low += by_camera.T @ (weight * miss)


def _add_smoothness(system: System, place: Array, smooth: Array) -> None:
    frames, size = system.frames, system.size
    flat = place.reshape(frames, size)
    for lag in range(4):
        own = smooth[lag, : frames - lag]
        at = size * np.arange(frames - lag)
        for c in range(size):
            system.bands[lag * size, at + c] += own
            system.right[at + c] -= own * flat[lag:, c]
            if lag:
                system.right[at + c + lag * size] -= own * flat[: frames - lag, c]
    third = np.diff(flat, n=3, axis=0)
    if len(third):
        system.cost += float((third**2).sum() * smooth[3, 0] * -1.0)


def _add_bones(system: System, seen: Seen, place: Array, long: Array) -> None:
    every = np.arange(system.frames)
    for bone, wanted in zip(seen.bones, long, strict=True):
        _add_distance(system, place, bone.a, bone.b, wanted, every, RIGID_M)
        prior = USUAL * bone.usual_m
        system.cost += ((wanted - bone.usual_m) / prior) ** 2


def _add_distance(
    system: System, place: Array, a: int, b: int, wanted: float, rows: Rows, sigma: float
) -> None:
    line = place[rows, b] - place[rows, a]
    now = np.maximum(np.linalg.norm(line, axis=1), 1e-3)
    slope = line / now[:, None]
    columns = [3 * b, 3 * b + 1, 3 * b + 2, 3 * a, 3 * a + 1, 3 * a + 2]
    system.add(
        rows, columns, np.hstack([slope, -slope]), wanted - now, np.full(len(rows), sigma**-2.0)
    )


def _add_body(system: System, seen: Seen, place: Array) -> None:
    """Joints' limits, the ground, and which way the body faces; nothing lies far out of the
    picture's plane."""
    at, every = seen.at, np.arange(system.frames)
    # What holds of the whole set counts a few times, and not with every frame again.
    worth = max(len(every) / 4.0, 1.0)

    def held(terms: dict[int, float], to: Array | float, sigma: float, rows: Rows = every) -> None:
        columns = list(terms)
        flat = place.reshape(system.frames, -1)[np.ix_(rows, np.array(columns))]
        slopes = np.tile(np.array(list(terms.values())), (len(rows), 1))
        system.add(
            rows, columns, slopes, to - (flat * slopes).sum(axis=1), np.full(len(rows), sigma**-2.0)
        )

    def at_least(terms: dict[int, float], least: float) -> None:
        columns = list(terms)
        now = place.reshape(system.frames, -1)[:, columns] @ np.array(list(terms.values()))
        held(terms, least, LIMIT_M, np.flatnonzero(now < least))

    for i in range(len(seen.names)):
        held({3 * i + seen.hidden: 1.0}, 0.0, DEPTH_M)
    held({3 * at["left_hip"] + 2: 1.0, 3 * at["right_hip"] + 2: -1.0}, 0.0, FACES_M * worth**0.5)
    for side in SIDES:
        shoulder, elbow, wrist, hip, knee, ankle = (at.get(f"{side}_{p}") for p in PARTS)
        if elbow is not None and shoulder is not None:
            long = next(b.usual_m for b in seen.bones if (b.a, b.b) == (shoulder, elbow))
            at_least({3 * elbow + 2: 1.0, 3 * shoulder + 2: -1.0}, -ELBOW_BACK * long)
            if wrist is not None:
                whole = long + next(b.usual_m for b in seen.bones if (b.a, b.b) == (elbow, wrist))
                at_least({3 * wrist + 2: 1.0, 3 * shoulder + 2: -1.0}, -HAND_BACK * whole)
                close = np.linalg.norm(place[:, wrist] - place[:, shoulder], axis=1)
                rows = np.flatnonzero(close < FOLDED * whole)
                _add_distance(system, place, shoulder, wrist, FOLDED * whole, rows, LIMIT_M)
        if knee is not None and hip is not None and ankle is not None and seen.stands:
            at_least({3 * knee + 2: 1.0, 3 * hip + 2: -0.5, 3 * ankle + 2: -0.5}, 0.0)
        if ankle is not None and seen.stands:
            for k in range(3):
                held({3 * ankle + k: 1.0}, float(np.median(place[:, ankle, k])), FOOT_M)
    left, right = at.get("left_ankle"), at.get("right_ankle")
    if left is not None and right is not None and seen.stands:
        held({3 * left + 1: 1.0, 3 * right + 1: -1.0}, 0.0, 0.3 * STANCE_M * worth**0.5)
        held({3 * left + 2: 1.0, 3 * right + 2: -1.0}, 0.0, STANCE_M * worth**0.5)


def _lengths(place: Array, bones: list[Bone]) -> Array:
    """The bones' lengths as the set shows them, drawn to a usual body's."""
    out = np.empty(len(bones))
    for i, bone in enumerate(bones):
        seen = float(np.median(np.linalg.norm(place[:, bone.b] - place[:, bone.a], axis=1)))
        spread, prior = 0.02 * bone.usual_m, USUAL * bone.usual_m
        out[i] = (seen / spread**2 + bone.usual_m / prior**2) / (1 / spread**2 + 1 / prior**2)
    return out


def measured(
    track: LandmarkTrack, cleaned: CleanTrack, names: tuple[str, ...], plan: Standard, step: int
) -> Fitted:
    """One skeleton on the raw samples of a picture, in the body's axes as the cleaned track has
    them."""
    hidden = hidden_axis(track.view)
    assert hidden is not None
    raw = _in_axes(track, cleaned, names)[::step]
    at = [cleaned.names.index(n) for n in names]
    rate = track.frame_rate_hz / step
    # An error that stays for an eighth of a second makes as many samples one.
    worth = np.sqrt(max(STAYS_S * rate, 1.0)) if cleaned.noise_stays else 1.0
    sigma = worth * np.maximum(cleaned.noise_m[at], 0.003)
    middle = np.nanmean(raw, axis=(0, 1))
    middle[hidden] = 0.0
    stature = track.facts.subject_height_m or 1.75
    toward = 1.0 if track.view in ("front", "left") else -1.0
    seen = Seen(
        raw - middle,
        sigma,
        names,
        bones_of(names, stature),
        hidden,
        toward,
        plan.base.startswith("stand"),
    )
    return best_of(seen, rate)


def _in_axes(track: LandmarkTrack, cleaned: CleanTrack, names: tuple[str, ...]) -> Array:
    """The raw samples where the smoothed ones are: scale, level and axes are those that were
    found."""
    own = np.stack([cleaned.point(n) for n in names], axis=1)
    raw = np.stack([track.position[:, track.names.index(n)] for n in names], axis=1)
    # The way from pixels to the body's axes, read off the two.
    known = np.isfinite(own).all(axis=2) & np.isfinite(raw).all(axis=2)
    pixels = np.column_stack([raw[known], np.ones(known.sum())])
    way, *_ = np.linalg.lstsq(pixels, own[known], rcond=None)
    flat = np.column_stack([raw.reshape(-1, 2), np.ones(raw.shape[0] * raw.shape[1])]) @ way
    out: Array = flat.reshape(*raw.shape[:2], 3)
    hidden = hidden_axis(track.view)
    if hidden is not None:
        out[..., hidden] = 0.0
    return out


def one(job: tuple[Condition, str, str, int]) -> dict[str, list[tuple[float, float, float]]]:
    """By way, for each measure: its mean squared error, the share inside 2 u, and its usual u."""
    condition, id, view, number = job
    warnings.simplefilter("ignore")
    plan, done = standard(id), film(condition, id, view, number)
    cleaned = clean(done.track)
    body = Body(cleaned)
    reps = find_reps(body, plan)
    body = body.counted_from(reps.first_lift_s)
    near = near_side(view)  # type: ignore[arg-type]
    sides = SIDES if near is None else (near,)
    names = tuple(
        n
        for n in (f"{s}_{p}" for s in SIDES for p in PARTS if p != "ear")
        if n in cleaned.names
        and np.isfinite(cleaned.point(n)[:, 1]).mean() > 0.8
        and (n.partition("_")[0] in sides or n.endswith(("shoulder", "hip")))
    )
    if not {f"{s}_{p}" for s in SIDES for p in ("shoulder", "hip")} <= set(names):
        return {}
    step = max(round(done.track.frame_rate_hz / RATE_HZ), 1)
    found = measured(done.track, cleaned, names, plan, step)
    world = LandmarkTrack(
        done.track.time_s, done.track.names, done.exact, np.ones(done.exact.shape[:2])
    )
    exact = Body(
        CleanTrack(
            world,
            done.track.names,
            done.exact,
            np.zeros(done.exact.shape[1]),
            np.full(done.exact.shape[:2], 1e-4),
            0.0,
            0,
            0,
            None,
        )
    )
    bodies = [_as_body(place, names, world.time_s[::step]) for place in (found.place, *found.draws)]
    out: dict[str, list[tuple[float, float, float]]] = {
        "landmark by landmark": [],
        "one skeleton": [],
    }
    for measure, side in shown(view):  # type: ignore[arg-type]
        if measure in ("shoulder_hike", "wrist_bend") or side not in (None, *sides):
            continue
        true = exact.measure(measure, side).value[::step]
        own = body.measure(measure, side)
        every = np.stack([b.measure(measure, side).value for b in bodies])
        for way, value, u in (
            ("landmark by landmark", own.value[::step], own.u[::step]),
            (
                "one skeleton",
                every[0],
                np.hypot(apart(every[1:] - every[0]).std(axis=0), FLOOR_DEG),
            ),
        ):
            miss = apart(value - true)
            known = np.isfinite(miss)
            if known.mean() > 0.3:
                out[way].append(
                    (
                        float((miss[known] ** 2).mean()),
                        float((np.abs(miss[known]) <= 2 * u[known]).mean()),
                        float(np.median(u[known])),
                    )
                )
    return out


def _as_body(place: Array, names: tuple[str, ...], time_s: Array) -> Body:
    track = LandmarkTrack(time_s, names, place, np.ones(place.shape[:2]))
    return Body(
        CleanTrack(
            track,
            names,
            place,
            np.zeros(len(names)),
            np.full(place.shape[:2], 1e-4),
            0.0,
            0,
            0,
            None,
        )
    )


def main(every: int) -> None:
    print("| conditions | way | angles and heights, error | within 2 u | stated u, median |")
    print("| --- | --- | --- | --- | --- |")
    with ProcessPoolExecutor() as pool:
        for condition in CONDITIONS:
            if not any(n in condition.name for n in TRIED):
                continue
            found = list(pool.map(one, jobs_of(condition)[::every]))
            for way in ("landmark by landmark", "one skeleton"):
                rows: Any = np.array([r for one_ in found for r in one_.get(way, [])])
                print(
                    f"| {condition.name} | {way} | {np.sqrt(rows[:, 0].mean()):.1f}"
                    f" ({np.sqrt(np.median(rows[:, 0])):.1f} usual) | {100 * rows[:, 1].mean():.0f}"
                    f" % | {np.nanmedian(rows[:, 2]):.1f} |",
                    flush=True,
                )


if __name__ == "__main__":
    main(harness.number(1, 4))
