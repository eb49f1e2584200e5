"""One jointed body fitted to a whole set by maximum a posteriori, tried against the landmark-wise way.

    ./run dev python bench/one_skeleton.py [EVERY]      also the second table of `smoothers.py`

Unknown are every landmark's place in every frame, in space even where a picture shows two of its axes, and the lengths of
the bones. What speaks for them: the samples (with weights that fall for what is far off, Student's t of four degrees of
freedom), bones that keep their lengths (learned; at first those of a usual body), a trunk that keeps its shape, and courses
without a third derivative. The whole is one system of equations that is banded in time; it is linearised and solved until it
stands, and its inverse gives the uncertainty, by drawing from it. Of a picture's unknown yaw the two hips tell: they are as
far apart in depth as they look too narrow, or too broad from a side.

Prints, for the conditions of `bench/conditions.py` that a camera makes, the angles' errors of both ways, root mean square
over every EVERY-th view of the catalogue, and the share of errors inside twice their uncertainty.
"""

from __future__ import annotations

import sys
import warnings
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray
from scipy.linalg import cho_solve_banded, cholesky_banded
from scipy.linalg.lapack import dtbtrs

from conditions import CONDITIONS, Condition, apart, film, jobs_of
from guide_arc.core.kinematics.anatomy import Anatomy
from guide_arc.core.kinematics.body import Body
from guide_arc.core.kinematics.cleaning import CleanTrack, clean
from guide_arc.core.kinematics.views import hidden_axis, near_side, shown
from guide_arc.core.model.landmarks import SIDES
from guide_arc.core.model.track import LandmarkTrack
from guide_arc.core.reps.segment import find_reps
from guide_arc.standards.loader import standard

Array = NDArray[np.float64]
TRIED = (
    "a pose model's noise, 2 px",
    "joints 10 px",
    "camera 15",
    "camera 30",
    "2.5 m",
    "arms an eighth shorter",
)
PARTS = ("shoulder", "elbow", "wrist", "hip", "knee", "ankle", "ear")
LIMBS = (
    ("shoulder", "elbow"),
    ("elbow", "wrist"),
    ("hip", "knee"),
    ("knee", "ankle"),
    ("shoulder", "ear"),
)
ROUNDS = 12
DRAWS = 16
# Standard deviations: of a bone about its own length in a moment, of its length about a usual body's, of a depth about none.
RIGID_M, USUAL, DEPTH_M = 0.006, 0.06, 0.5
# A course's third derivative, metres a second cubed.
JERK = 12.0
STAYS_S = 0.125
# What no draw shows, as the landmark-wise way counts it: a camera and a body a little out of plane.
FLOOR_DEG = 2.5
# No camera that is judged stands farther aside, radians.
MOST_TURN = 0.8


@dataclass(frozen=True)
class Bone:
    a: int
    b: int
    usual_m: float


def bones_of(names: tuple[str, ...], stature_m: float) -> list[Bone]:
    """The limbs' bones, and the sides and diagonals of the trunk."""
    body = Anatomy(stature_m)
    at = {n: i for i, n in enumerate(names)}
    usual = {
        "shoulder-elbow": body.upper_arm_m, "elbow-wrist": body.forearm_m, "hip-knee": body.thigh_m,
        "knee-ankle": body.shank_m,
    }  # fmt: skip
    out = []
    for side in SIDES:
        for a, b in LIMBS:
            if f"{a}-{b}" in usual and {f"{side}_{a}", f"{side}_{b}"} <= at.keys():
                out.append(Bone(at[f"{side}_{a}"], at[f"{side}_{b}"], usual[f"{a}-{b}"]))
    broad, narrow, long = 2 * body.half_shoulders_m, 2 * body.half_hips_m, body.trunk_m
    slope = 0.5 * (broad - narrow)
    across = {
        ("left_shoulder", "right_shoulder"): broad, ("left_hip", "right_hip"): narrow,
        **{(f"{s}_shoulder", f"{s}_hip"): float(np.hypot(long, slope)) for s in SIDES},
        **{(f"{s}_shoulder", f"{o}_hip"): float(np.hypot(long, 0.5 * (broad + narrow))) for s, o in (SIDES, SIDES[::-1])},
    }  # fmt: skip
    out += [Bone(at[a], at[b], size) for (a, b), size in across.items() if {a, b} <= at.keys()]
    return out


@dataclass(frozen=True)
class Fitted:
    """place : (T, L, 3) most probable; draws : (D, T, L, 3) as probable ones"""

    place: Array
    draws: Array


def fit(
    seen: Array,
    sigma: Array,
    flat: int | None,
    names: tuple[str, ...],
    bones: list[Bone],
    rate_hz: float,
) -> Fitted:
    """seen : (T, L, 3) raw samples, NaN where there are none; sigma : (L,) of one axis; flat : the axis not seen"""
    frames, count, _ = seen.shape
    size = 3 * count
    axes = [k for k in range(3) if k != flat]
    start = np.stack([_drawn_through(seen[:, i]) for i in range(count)], axis=1)
    if flat is not None:
        start[..., flat] = _first_depth(start, bones, flat, names)
    place, long = start.copy(), np.array([b.usual_m for b in bones])
    smooth = _third(frames, rate_hz)
    factor = np.zeros(0)
    for _ in range(ROUNDS):
        bands = np.zeros((3 * size + size, frames * size))
        right = np.zeros(frames * size)
        _add_samples(bands, right, seen, place, sigma, axes, size)
        _add_smoothness(bands, right, place, smooth, size)
        _add_bones(bands, right, place, bones, long, size)
        if flat is not None:
            _add_depth(bands, right, place, flat, size)
        factor = cholesky_banded(bands, lower=True, overwrite_ab=True, check_finite=False)
        step = cho_solve_banded((factor, True), right, check_finite=False).reshape(place.shape)
        place = place + np.clip(step, -0.15, 0.15)
        long = _lengths(place, bones)
        if np.abs(step).max() < 5e-4:
            break
    rng = np.random.default_rng(5)
    white = rng.standard_normal((frames * size, DRAWS))
    moved, _info = dtbtrs(factor, white, uplo="L", trans="T")
    return Fitted(place, place + moved.T.reshape(DRAWS, *place.shape))


def _drawn_through(samples: Array) -> Array:
    out = samples.copy()
    at = np.arange(len(samples))
    for k in range(samples.shape[1]):
        known = np.isfinite(samples[:, k])
        out[:, k] = np.interp(at, at[known], samples[known, k]) if known.any() else 0.0
    return out


def _first_depth(start: Array, bones: list[Bone], flat: int, names: tuple[str, ...]) -> Array:
    """(T, L) from a side the left of the body is to the left, as broad as usual; from the front a limb that looks short
    reaches ahead, as arms do."""
    depth = np.zeros(start.shape[:2])
    at = {n: i for i, n in enumerate(names)}
    broad = {(b.a, b.b): b.usual_m for b in bones}
    if flat == 0:
        for part in ("shoulder", "hip"):
            half = 0.5 * broad[at[f"left_{part}"], at[f"right_{part}"]]
            depth[:, at[f"left_{part}"]], depth[:, at[f"right_{part}"]] = half, -half
    limbs = [b for b in bones if names[b.a].partition("_")[0] == names[b.b].partition("_")[0]]
    for bone in limbs:
        if names[bone.a].endswith("shoulder") and names[bone.b].endswith("hip"):
            continue
        line = start[:, bone.b] - start[:, bone.a]
        line[:, flat] = 0.0
        short = np.sqrt(np.maximum(bone.usual_m**2 - (line**2).sum(axis=1), 0.0))
        depth[:, bone.b] = depth[:, bone.a] + (np.median(short) if flat == 2 else 0.0)
    return depth


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


def _add_samples(bands: Array, right: Array, seen: Array, place: Array, sigma: Array, axes: list[int], size: int) -> None:  # fmt: skip
    count = seen.shape[1]
    for i in range(count):
        for k in axes:
            miss = seen[:, i, k] - place[:, i, k]
            known = np.isfinite(miss)
            weight = 5.0 / (4.0 + (miss / sigma[i]) ** 2) / sigma[i] ** 2
            at = 3 * i + k + size * np.arange(len(seen))
            bands[0, at[known]] += weight[known]
            right[at[known]] += (weight * miss)[known]


def _add_smoothness(bands: Array, right: Array, place: Array, smooth: Array, size: int) -> None:
    frames = len(place)
    flat = place.reshape(frames, size)
    for lag in range(4):
        own = smooth[lag, : frames - lag]
        at = size * np.arange(frames - lag)
        for c in range(size):
            bands[lag * size, at + c] += own
            right[at + c] -= own * flat[lag:, c]
            if lag:
                right[at + c + lag * size] -= own * flat[: frames - lag, c]


def _add_bones(bands: Array, right: Array, place: Array, bones: list[Bone], long: Array, size: int) -> None:  # fmt: skip
    at = size * np.arange(len(place))
    for bone, wanted in zip(bones, long, strict=True):
        line = place[:, bone.b] - place[:, bone.a]
        now = np.maximum(np.linalg.norm(line, axis=1), 1e-3)
        slope = line / now[:, None]
        miss = (wanted - now) / RIGID_M**2
        for k in range(3):
            right[at + 3 * bone.b + k] += miss * slope[:, k]
            right[at + 3 * bone.a + k] -= miss * slope[:, k]
            for m in range(3):
                push = slope[:, k] * slope[:, m] / RIGID_M**2
                for p, q, sign in ((bone.a, bone.a, 1), (bone.b, bone.b, 1), (bone.a, bone.b, -1)):
                    row, col = 3 * p + k, 3 * q + m
                    if p == q:
                        if row >= col:
                            bands[row - col, at + col] += sign * push
                    else:
                        low, high = min(row, col), max(row, col)
                        bands[high - low, at + low] += sign * push


def _add_depth(bands: Array, right: Array, place: Array, flat: int, size: int) -> None:
    at = size * np.arange(len(place))
    for i in range(place.shape[1]):
        bands[0, at + 3 * i + flat] += 1.0 / DEPTH_M**2
        right[at + 3 * i + flat] -= place[:, i, flat] / DEPTH_M**2


def _lengths(place: Array, bones: list[Bone]) -> Array:
    """The bones' lengths as the set shows them, drawn to a usual body's, left and right alike."""
    out = np.empty(len(bones))
    for i, bone in enumerate(bones):
        sizes = np.linalg.norm(place[:, bone.b] - place[:, bone.a], axis=1)
        seen, spread = float(np.median(sizes)), 0.02 * bone.usual_m
        prior = USUAL * bone.usual_m
        out[i] = (seen / spread**2 + bone.usual_m / prior**2) / (1 / spread**2 + 1 / prior**2)
    return out


def measured(track: LandmarkTrack, cleaned: CleanTrack, names: tuple[str, ...]) -> Fitted:
    """One skeleton on the raw samples of a recording, in the body's axes as the cleaned track has them."""
    flat = hidden_axis(track.view)
    raw = _in_axes(track, cleaned, names)
    at = [cleaned.names.index(n) for n in names]
    # An error that stays for an eighth of a second makes as many samples one.
    worth = np.sqrt(max(STAYS_S * track.frame_rate_hz, 1.0)) if cleaned.noise_stays else 1.0
    sigma = worth * np.maximum(cleaned.noise_m[at], 0.003)
    stature = track.facts.subject_height_m or 1.75
    return fit(raw, sigma, flat, names, bones_of(names, stature), track.frame_rate_hz)


def _in_axes(track: LandmarkTrack, cleaned: CleanTrack, names: tuple[str, ...]) -> Array:
    """The raw samples where the smoothed ones are: scale, level and axes are those that were found."""
    own = np.stack([cleaned.point(n) for n in names], axis=1)
    raw = np.stack([track.position[:, track.names.index(n)] for n in names], axis=1)
    if track.space == "world":
        return np.asarray(raw, dtype=float)
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


def turned_upright(place: Array, names: tuple[str, ...], view: str) -> Array:
    """The body turned about the vertical until its hips stand as the view has them: yaw taken out."""
    left, right = (place[..., names.index(f"{s}_hip"), :] for s in SIDES)
    line = np.median(left - right, axis=-2)
    turn = np.clip(np.arctan2(line[..., 2], line[..., 0]), -MOST_TURN, MOST_TURN)
    c, s = np.cos(turn)[..., None, None], np.sin(turn)[..., None, None]
    out = place.copy()
    out[..., 0] = c * place[..., 0] + s * place[..., 2]
    out[..., 2] = -s * place[..., 0] + c * place[..., 2]
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
        n for n in (f"{s}_{p}" for s in SIDES for p in PARTS if p != "ear")
        if n in cleaned.names and np.isfinite(cleaned.point(n)[:, 1]).mean() > 0.8
        and (n.partition("_")[0] in sides or n.endswith(("shoulder", "hip")))
    )  # fmt: skip
    if not {f"{s}_{p}" for s in SIDES for p in ("shoulder", "hip")} <= set(names):
        return {}
    found = measured(done.track, cleaned, names)
    world = LandmarkTrack(
        done.track.time_s, done.track.names, done.exact, np.ones(done.exact.shape[:2])
    )
    exact = Body(CleanTrack(world, done.track.names, done.exact, np.zeros(done.exact.shape[1]), np.full(done.exact.shape[:2], 1e-4), 0.0, 0, 0, None))  # fmt: skip
    bodies = [_as_body(place, names, world) for place in turned_upright(np.concatenate((found.place[None], found.draws)), names, view)]  # fmt: skip
    out: dict[str, list[tuple[float, float, float]]] = {
        "landmark by landmark": [],
        "one skeleton": [],
    }
    for measure, side in shown(view):  # type: ignore[arg-type]
        if measure in ("shoulder_hike", "wrist_bend") or side not in (None, *sides):
            continue
        true = exact.measure(measure, side).value
        own = body.measure(measure, side)
        every = np.stack([b.measure(measure, side).value for b in bodies])
        for way, value, u in (
            ("landmark by landmark", own.value, own.u),
            (
                "one skeleton",
                every[0],
                np.hypot(apart(every[1:] - every[0]).std(axis=0), FLOOR_DEG),
            ),
        ):
            miss = apart(value - true)
            known = np.isfinite(miss)
            if known.mean() > 0.3:
                out[way].append((
                    float((miss[known] ** 2).mean()), float((np.abs(miss[known]) <= 2 * u[known]).mean()),
                    float(np.median(u[known])),
                ))  # fmt: skip
    return out


def _as_body(place: Array, names: tuple[str, ...], world: LandmarkTrack) -> Body:
    track = LandmarkTrack(world.time_s, names, place, np.ones(place.shape[:2]))
    return Body(CleanTrack(track, names, place, np.zeros(len(names)), np.full(place.shape[:2], 1e-4), 0.0, 0, 0, None))  # fmt: skip


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
                    f"| {condition.name} | {way} | {np.sqrt(rows[:, 0].mean()):.1f} "
                    f"({np.sqrt(np.median(rows[:, 0])):.1f} usual) | {100 * rows[:, 1].mean():.0f} % | {np.median(rows[:, 2]):.1f} |",
                    flush=True,
                )


if __name__ == "__main__":
    main(int(sys.argv[1]) if len(sys.argv) > 1 else 4)
