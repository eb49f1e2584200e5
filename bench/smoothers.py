"""Smoothers against each other, on simulated truth: `./run dev python bench/smoothers.py [SETS]`.

Prints the table of docs/accuracy.md, "What was tried". Each takes the same noisy landmarks (10 mm
root mean square in space, 2 mm drift, 30 fps, no lost samples) of the same varied sets as
`accuracy.py`; errors are those of the joint angles that follow, as a share of the angles' error
without any smoothing. Then one skeleton fitted to the whole set against the landmark-wise way, from
pictures (`one_skeleton.py`).
"""

from __future__ import annotations

import time
import warnings
from collections.abc import Callable
from concurrent.futures import ProcessPoolExecutor
from typing import Any

import numpy as np
from scipy import signal

import harness
from accuracy import Conditions, exactly, film
from conditions import apart
from guide_arc.core.kinematics.body import Body
from guide_arc.core.kinematics.cleaning import CUTOFFS_HZ, CleanTrack
from guide_arc.core.kinematics.smoothing import Smoother, best_cutoffs
from guide_arc.core.kinematics.vectors import length
from guide_arc.core.model.landmarks import SIDES
from guide_arc.core.simulate.camera import Camera
from one_skeleton import main as one_skeleton

AT = Conditions("10 mm", 10, 2, 30, 0)
MEASURES = (
    *((m, s) for m in ("elbow_flexion", "shoulder_elevation", "shoulder_plane") for s in SIDES),
    ("trunk_lean", None),
    ("trunk_rotation", None),
)
BONES = tuple(
    (f"{s}_{a}", f"{s}_{b}")
    for s in SIDES
    for a, b in (("shoulder", "elbow"), ("elbow", "wrist"), ("hip", "knee"), ("knee", "ankle"))
)
Array = Any


def raw(points: Array, _time: Array, _names: Any, _exact: Array) -> Array:
    return points


def butterworth_6(points: Array, time_s: Array, _names: Any, _exact: Array) -> Array:
    """The usual fixed choice: second order, both ways, 6 Hz."""
    b, a = signal.butter(2, 6.0, fs=1.0 / np.median(np.diff(time_s)))
    return signal.filtfilt(b, a, points, axis=0)


def butterworth_residual(points: Array, time_s: Array, _names: Any, _exact: Array) -> Array:
    """The cut-off by residual analysis (Winter, Biomechanics and Motor Control, ch. 3): where the
    residual leaves the straight line that the noise alone draws."""
    rate = 1.0 / float(np.median(np.diff(time_s)))
    tried = np.arange(1.0, 12.5, 0.5)
    every = []
    for cutoff in tried:
        b, a = signal.butter(2, cutoff / 0.802, fs=rate)
        every.append(signal.filtfilt(b, a, points, axis=0))
    residual = np.stack([np.sqrt(((points - f) ** 2).sum(axis=-1).mean(axis=0)) for f in every])
    tail = tried >= 8.0
    out = np.empty_like(points)
    for i in range(points.shape[1]):
        _slope, at_zero = np.polyfit(tried[tail], residual[tail, i], 1)
        below = np.flatnonzero(residual[:, i] <= at_zero)
        out[:, i] = every[below[0] if len(below) else -1][:, i]
    return out


def ours(points: Array, time_s: Array, _names: Any, _exact: Array) -> Array:
    """The penalised fit on the third difference, cut-off by generalised cross-validation."""
    smoother = Smoother(time_s)
    cutoff = best_cutoffs(points, smoother.rate_hz, CUTOFFS_HZ)
    out = np.empty_like(points)
    for i, hertz in enumerate(cutoff):
        out[:, i] = smoother.smooth(points[:, i], hertz)
    return out


def ours_two_orders(points: Array, time_s: Array, names: Any, exact: Array) -> Array:
    """A penalty on the second difference: the cubic smoothing spline."""
    rate = 1.0 / float(np.median(np.diff(time_s)))
    frames = len(points)
    difference = np.diff(np.eye(frames), n=2, axis=0)
    gram = difference.T @ difference
    values, vectors = np.linalg.eigh(gram)
    spectrum = vectors.T @ points.reshape(frames, -1)
    spectrum = spectrum.reshape(frames, points.shape[1], 3)
    best, score = np.zeros_like(points), np.full(points.shape[1], np.inf)
    for cutoff in CUTOFFS_HZ:
        stiff = (2.0 * np.sin(np.pi * cutoff / rate)) ** -4
        passed = 1.0 / (1.0 + stiff * values)
        missed = (((1 - passed)[:, None, None] * spectrum) ** 2).sum(axis=(0, 2))
        gcv = missed / (1.0 - passed.mean()) ** 2
        out = np.einsum("tf,fli->tli", vectors, passed[:, None, None] * spectrum)
        better = gcv < score
        best[:, better], score = out[:, better], np.minimum(gcv, score)
    return best


def kalman(points: Array, time_s: Array, _names: Any, _exact: Array) -> Array:
    """Rauch, Tung and Striebel's smoother on a white-jerk model; the ratio of noises by
    likelihood."""
    step = float(np.median(np.diff(time_s)))
    noise = np.maximum(_white(points), 1e-4)
    best, likely = np.zeros_like(points), np.full(points.shape[1], -np.inf)
    for jerk in (3.0, 10.0, 30.0, 100.0, 300.0):
        out, found = _rts(points, step, noise, jerk)
        better = found > likely
        best[:, better], likely = out[:, better], np.maximum(found, likely)
    return best


def _white(points: Array) -> Array:
    third = np.abs(np.diff(points, n=3, axis=0))
    return 1.4826 * np.median(third, axis=(0, 2)) / np.sqrt(20.0)


def _rts(points: Array, step: float, noise: Array, jerk: float) -> tuple[Array, Array]:
    frames, count, _ = points.shape
    move = np.array([[1, step, step**2 / 2], [0, 1, step], [0, 0, 1]])
    g = np.array([step**3 / 6, step**2 / 2, step])
    drive = jerk**2 * step * np.outer(g, g) / step**2 * step
    state = np.zeros((count, 3, 3))  # landmark, derivative, axis
    state[:, 0] = points[0]
    spread = np.repeat(np.diag([0.01, 1.0, 10.0])[None], count, axis=0)
    kept, kept_p, ahead, ahead_p = [], [], [], []
    likely = np.zeros(count)
    for t in range(frames):
        if t:
            state = np.einsum("ij,ljk->lik", move, state)
            spread = move @ spread @ move.T + drive
        ahead.append(state)
        ahead_p.append(spread)
        s = spread[:, 0, 0] + noise**2
        miss = points[t] - state[:, 0]
        likely -= 0.5 * (3 * np.log(s) + (miss**2).sum(axis=1) / s)
        gain = spread[:, :, 0] / s[:, None]
        state = state + gain[:, :, None] * miss[:, None, :]
        spread = spread - gain[:, :, None] * spread[:, :1, :]
        kept.append(state)
        kept_p.append(spread)
    out = np.empty_like(points)
    out[-1] = kept[-1][:, 0]
    later = kept[-1]
    for t in range(frames - 2, -1, -1):
        back = kept_p[t] @ move.T @ np.linalg.inv(ahead_p[t + 1])
        later = kept[t] + np.einsum("lij,ljk->lik", back, later - ahead[t + 1])
        out[t] = later[:, 0]
    return out, likely


def with_bones(inner: Callable[..., Array]) -> Callable[..., Array]:
    """After another smoother: bones drawn back to their usual lengths, both ends by half."""

    def smooth(points: Array, time_s: Array, names: Any, exact: Array) -> Array:
        out = inner(points, time_s, names, exact).copy()
        index = {n: i for i, n in enumerate(names)}
        pairs = [(index[a], index[b]) for a, b in BONES]
        usual = [float(np.median(length(out[:, a] - out[:, b]))) for a, b in pairs]
        for _ in range(4):
            for (a, b), bone in zip(pairs, usual, strict=True):
                line = out[:, b] - out[:, a]
                size = length(line)[:, None]
                by = 0.5 * (size - bone) / np.maximum(size, 1e-6) * line
                out[:, a] += by
                out[:, b] -= by
        return out

    return smooth


def robust(points: Array, time_s: Array, names: Any, exact: Array) -> Array:
    """Ours, then once more with samples far from it drawn half-way in (one step of Huber's
    weights)."""
    first = ours(points, time_s, names, exact)
    limit = 2.0 * _white(points)[None, :, None]
    return ours(first + np.clip(points - first, -limit, limit), time_s, names, exact)


def bound(points: Array, time_s: Array, _names: Any, exact: Array) -> Array:
    """The best that the same family can do: each landmark's cut-off chosen by looking at the
    truth."""
    smoother = Smoother(time_s)
    best, least = points.copy(), np.full(points.shape[1], np.inf)
    for cutoff in np.geomspace(0.8, 12.0, 16):
        out = smoother.smooth(points.reshape(len(points), -1), float(cutoff)).reshape(points.shape)
        error = ((out - exact) ** 2).sum(axis=(0, 2))
        better = error < least
        best[:, better], least = out[:, better], np.minimum(error, least)
    return best


TRIED: dict[str, Callable[..., Array]] = {
    "none": raw,
    "Butterworth both ways, 6 Hz": butterworth_6,
    "Butterworth both ways, cut-off by residual analysis": butterworth_residual,
    "second-difference penalty (cubic spline), GCV": ours_two_orders,
    "RTS on white jerk, noise ratio by likelihood": kalman,
    "the same, bones drawn to their usual lengths": with_bones(kalman),
    "third-difference penalty, GCV (kept)": ours,
    "the kept one, bones drawn to their usual lengths": with_bones(ours),
    "the kept one, robust weights": robust,
    "bound: the kept family, cut-off by the truth": bound,
}


def one(seed: int) -> dict[str, tuple[float, float]]:
    """Squared angle error by smoother, and the seconds it took."""
    warnings.simplefilter("ignore")
    _plan, done = film(seed, AT)
    camera = Camera(
        "none", AT.rate_hz, AT.noise_mm / 1000 / np.sqrt(3), AT.wander_mm / 1000 / np.sqrt(3)
    )
    from guide_arc.core.simulate.camera import record  # noqa: PLC0415

    names = done.track.names
    seen, _ = record(done.exact, names, camera, np.random.default_rng(seed + 10_000))
    truth = Body(exactly(done))
    out: dict[str, tuple[float, float]] = {}
    for name, smooth in TRIED.items():
        start = time.perf_counter()
        points = smooth(seen, done.track.time_s, names, done.exact)
        took = time.perf_counter() - start
        sigma = np.full(points.shape[:2], 1e-4)
        body = Body(
            CleanTrack(done.track, names, points, np.zeros(len(names)), sigma, 0.0, 0, 0, None)
        )
        errors = []
        for measure, side in MEASURES:
            miss = apart(body.measure(measure, side).value - truth.measure(measure, side).value)
            errors.append(float(np.nanmean(miss**2)))
        out[name] = (float(np.nanmean(errors)), took)
    return out


def main() -> None:
    sets = harness.number(1, 100)
    with ProcessPoolExecutor() as pool:
        found = list(pool.map(one, range(sets), chunksize=2))
    error = {name: np.sqrt(np.mean([f[name][0] for f in found])) for name in TRIED}
    took = {name: np.mean([f[name][1] for f in found]) for name in TRIED}
    bare = took["Butterworth both ways, 6 Hz"]
    best = error["bound: the kept family, cut-off by the truth"]
    print("| smoother | angle error, of raw | over the bound | time, of one filter pass |")
    print("| --- | --- | --- | --- |")
    for name in TRIED:
        print(
            f"| {name} | {error[name] / error['none']:.2f} | {error[name] / best:.2f} |"
            f" {took[name] / bare:.1f} |"
        )
    print()
    one_skeleton(every=3)


if __name__ == "__main__":
    main()
