"""From raw landmarks to smooth ones: swaps undone, outliers thrown out, gaps bridged, noise cut.

The order matters: a swapped frame would look like an outlier of every landmark, and an outlier left
in would ring through the filter.
"""

from __future__ import annotations

import itertools
from collections.abc import Iterable
from dataclasses import dataclass, replace
from typing import Final

import numpy as np
from numpy.typing import NDArray

from guide_arc.core.kinematics.anatomy import Anatomy
from guide_arc.core.kinematics.aside import NOT_ASIDE, CameraAside, camera_aside
from guide_arc.core.kinematics.level import (
    UNKNOWN_ROLL,
    Roll,
    drawn_roll,
    picture_roll,
    straightened,
)
from guide_arc.core.kinematics.noise import Noise, noise_of
from guide_arc.core.kinematics.rules import CLEAN, LEVEL
from guide_arc.core.kinematics.smoothing import (
    ENOUGH_RATE_HZ,
    Smoother,
    best_cutoffs,
    gap_growth,
)
from guide_arc.core.kinematics.swaps import undo_swaps
from guide_arc.core.kinematics.vectors import Array, length, median, odd_window, runs
from guide_arc.core.kinematics.views import PICTURE_RIGHT
from guide_arc.core.model.errors import BadInput
from guide_arc.core.model.landmarks import BODY, SIDES
from guide_arc.core.model.quantity import Quantity
from guide_arc.core.model.track import LandmarkTrack

# Third differences of white noise have 20 times its variance (1 + 9 + 9 + 1).
_THIRD_DIFFERENCE_GAIN: Final = np.sqrt(20.0)
_MAD_TO_SIGMA: Final = 1.4826
_ENOUGH_FOR_NOISE: Final = 900
# Fewer frames show no more of the noise than how strong it is.
_FEWEST_FOR_COLOUR: Final = 60
CUTOFFS_HZ: Final = (1.5, 2.0, 2.7, 3.6, 4.8, 6.5, 8.5, 11.0)
_BONES: Final = (("shoulder", "elbow"), ("elbow", "wrist"))


@dataclass(frozen=True, eq=False)
class CleanTrack:
    """Landmarks ready to measure.

    position : (T, L, 3) metres in the body's axes, smoothed with no phase shift; the axis
        that a picture does not show is 0; NaN if a gap was too long to bridge
    bridged : (T, L, 3) the same before it was smoothed: outliers out, gaps bridged; None if that
        is not known
    noise_m : (L,) raw white noise, one axis, root mean square
    sigma_m : (T, L) standard uncertainty of each smoothed coordinate
    metres_per_px : None for world tracks
    roll : how far the camera stood off level; None for world tracks
    by_axis : (L, 3) each axis' uncertainty over the landmark's; None if they are alike
    noise_stays : whether errors persist from frame to frame, as those of a pose model do
    aside : the camera's yaw from its stated view
    """

    track: LandmarkTrack
    names: tuple[str, ...]
    position: Array
    noise_m: Array
    sigma_m: Array
    filled_share: float
    outliers: int
    swapped_frames: int
    metres_per_px: float | None
    roll: Roll | None = None
    by_axis: Array | None = None
    aside: CameraAside = NOT_ASIDE
    noise_stays: bool = False
    bridged: Array | None = None

    @property
    def time_s(self) -> Array:
        return self.track.time_s

    def point(self, name: str) -> Array:
        """(T, 3) of one landmark; all NaN if the track does not hold it."""
        if name not in self.names:
            return np.full((self.track.frames, 3), np.nan)
        return self.position[:, self.names.index(name)]

    def sigma(self, name: str) -> Array:
        """(T,) standard uncertainty of one landmark's coordinates."""
        if name not in self.names:
            return np.full(self.track.frames, np.nan)
        return self.sigma_m[:, self.names.index(name)]

    def worst_sigma(self, name: str) -> Array:
        """(T,) the standard uncertainty of a landmark's least sure coordinate."""
        out: Array = float(self.axes(name).max()) * self.sigma(name)
        return out

    def axes(self, name: str) -> Array:
        """(3,) how much more or less sure each of its axes is."""
        if self.by_axis is None or name not in self.names:
            return np.ones(3)
        out: Array = self.by_axis[self.names.index(name)]
        return out


def clean(track: LandmarkTrack, needed: Iterable[str] = BODY) -> CleanTrack:
    """Smooth the needed landmarks of a track.

    White noise is estimated per landmark from third differences, which a limb's motion
    hardly reaches. The cut-off is found from the data, per landmark, by generalised
    cross-validation.

    Raises BadInput for fewer than 2 frames.
    """
    if track.frames < 2:
        raise BadInput(
            f"the track has {track.frames} frame{'' if track.frames == 1 else 's'}; "
            "a review needs at least 2"
        )
    wanted = tuple(n for n in dict.fromkeys(needed) if track.has(n))
    raw, scale, roll = _in_body_axes(track, wanted)
    raw, swapped = undo_swaps(raw, wanted, track.frame_rate_hz)
    # By name, and so only once each has its own: with fewer frames it would outweigh the evidence
    # of a swap.
    if track.view in SIDES:
        _usual_breadth(raw, wanted, track)
    noise = _noise(raw)
    raw[_worthless(track, wanted)] = np.nan
    unsure = _doubted(track, wanted)
    outlying = _outliers(raw, noise, track.frame_rate_hz, unsure)
    raw[outlying] = np.nan
    missing = np.isnan(raw[..., 0])
    too_long = _long_gaps(missing, track.time_s)
    filled = _bridge(raw, track.time_s)
    found = _noise_that_stays(filled, noise, track.frame_rate_hz)
    smooth, cutoff = _smooth(filled, ~missing, track.time_s, found)
    smooth[too_long] = np.nan
    filled[too_long] = np.nan
    return CleanTrack(
        track=track,
        names=wanted,
        position=smooth,
        noise_m=found.sigma_m,
        sigma_m=_sigma(
            found,
            cutoff,
            missing,
            track.frame_rate_hz,
            _drift(smooth, wanted, found, cutoff, track),
        ),
        filled_share=float(missing.mean()) if missing.size else 0.0,
        outliers=int(outlying.sum()),
        swapped_frames=swapped,
        metres_per_px=scale,
        roll=roll,
        aside=(
            NOT_ASIDE
            if track.space == "world"
            else camera_aside(
                smooth, wanted, track.view, track.facts.subject_height_m, track.camera
            )
        ),
        noise_stays=found.stays,
        bridged=filled,
        by_axis=found.by_axis if track.space == "world" and found.stays else None,
    )


def _in_body_axes(
    track: LandmarkTrack, names: tuple[str, ...]
) -> tuple[Array, float | None, Roll | None]:
    index = [track.names.index(n) for n in names]
    if track.space == "world":
        return np.array(track.position[:, index]), None, None
    scale = _metres_per_px(track)
    axis, sign = PICTURE_RIGHT[track.view]
    out = np.zeros((track.frames, len(names), 3))
    picture = track.position[:, index]
    out[..., axis] = sign * scale * picture[..., 0]
    out[..., 1] = -scale * picture[..., 1]
    out[np.isnan(picture).any(axis=-1)] = np.nan
    drawn = track.calibration.vertical_deg
    if drawn is None and track.camera.roll_deg is not None:
        # Of a camera that is tilted clockwise the picture's vertical leans to the left.
        drawn = Quantity(-track.camera.roll_deg, LEVEL.told_roll_u_deg)
    if drawn is not None:
        roll = drawn_roll(sign, drawn)
    elif track.camera.between:
        roll = UNKNOWN_ROLL  # lines of the floor run aslant there
    else:
        roll = picture_roll(out, names, track.view)
    return straightened(out, track.view, roll), scale, roll


def _usual_breadth(out: Array, names: tuple[str, ...], track: LandmarkTrack) -> None:
    """A side view does not show how broad a body is: each joint gets the usual half-breadth.

    Only hip flexion feels it, as shoulders are wider than hips.
    """
    stature = track.facts.subject_height_m or CLEAN.usual_stature_m
    body = Anatomy(stature)
    for i, name in enumerate(names):
        side, _, part = name.partition("_")
        if side in SIDES:
            half = body.half_shoulders_m
            if part in ("hip", "knee", "ankle", "heel", "foot"):
                half = body.half_hips_m
            elif part == "ear":
                half = body.half_ears_m
            out[:, i, 0] = np.where(
                np.isnan(out[:, i, 1]), np.nan, half if side == "left" else -half
            )


def _metres_per_px(track: LandmarkTrack) -> float:
    """Scale from a known length, or else from the stature, by the trunk's usual share of it. Angles
    do not depend on it."""
    stature = track.facts.subject_height_m or CLEAN.usual_stature_m
    lengths = [
        np.hypot(*(track.point(f"{side}_shoulder") - track.point(f"{side}_hip")).T)
        for side in ("left", "right")
    ]
    seen = np.concatenate([part[np.isfinite(part)] for part in lengths])
    if not len(seen) or np.percentile(seen, 90) < 1.0:
        raise BadInput("the picture shows no trunk: a shoulder and the hip below it are needed")
    known = track.calibration.px_per_m
    if known is not None:
        return 1.0 / known.value
    return float(CLEAN.trunk_of_stature * stature / np.percentile(seen, 90))


def _noise(raw: Array) -> Array:
    """(L,) white noise of one axis from third differences, robust against outliers and motion."""
    if len(raw) < 5:
        return np.full(raw.shape[1], 0.005)
    third = np.abs(np.diff(raw, n=3, axis=0))[:: max(1, len(raw) // _ENOUGH_FOR_NOISE)]
    third = np.where(third == 0, np.nan, third)  # the axis a picture lacks
    out = np.full(raw.shape[1], 0.0)
    for i in range(raw.shape[1]):
        seen = third[:, i][np.isfinite(third[:, i])]
        if seen.size:
            out[i] = _MAD_TO_SIGMA * median(seen) / _THIRD_DIFFERENCE_GAIN
    return out


def _doubted(track: LandmarkTrack, names: tuple[str, ...]) -> NDArray[np.bool_]:
    """(T, L) samples of which the tracker itself is far less sure than of the same landmark's
    others: a hint, never a sufficient reason."""
    sure = track.confidence[:, [track.names.index(n) for n in names]]
    out: NDArray[np.bool_] = sure < CLEAN.doubted_share * np.median(sure, axis=0)
    return out


def _worthless(track: LandmarkTrack, names: tuple[str, ...]) -> NDArray[np.bool_]:
    """(T, L) samples that the tracker itself gives no confidence, of landmarks it was sure of
    elsewhere, be it in a tenth of the recording: a place was written down, but nothing was seen
    there."""
    sure = track.confidence[:, [track.names.index(n) for n in names]]
    out: NDArray[np.bool_] = (sure <= CLEAN.no_confidence) & (
        np.percentile(sure, 90, axis=0) > CLEAN.sure_elsewhere
    )
    return out


def _outliers(
    raw: Array, noise: Array, rate_hz: float, doubted: NDArray[np.bool_]
) -> NDArray[np.bool_]:
    """(T, L) samples where the tracker was on something else.

    doubted : (T, L) where a smaller departure is enough

    An outlier of a frame or two is far from the median of its neighbours, which even a fast turn of
    the hand is not. A longer one jumps away and jumps back.
    """
    out = np.zeros(raw.shape[:2], dtype=bool)
    window = odd_window(CLEAN.outlier_window_s * rate_hz, least=5)
    longest = max(3, round(CLEAN.longest_outlier_s * rate_hz))
    for i in range(raw.shape[1]):
        seen = np.flatnonzero(np.isfinite(raw[:, i, 0]))
        limit = max(CLEAN.outlier_sigmas * noise[i], CLEAN.outlier_least_m)
        path = raw[seen, i]
        steps = length(np.diff(path, axis=0))
        least = CLEAN.doubted_confidence * limit if doubted[:, i].any() else limit
        if len(seen) < window or steps.max(initial=0.0) < least:
            continue
        off = length(path - running_median(path, window)) > np.where(
            doubted[seen, i], CLEAN.doubted_confidence * limit, limit
        )
        jumps = np.flatnonzero(steps > 1.6 * limit)
        for a, b in itertools.pairwise(jumps):
            away = steps[a]
            if b - a <= longest and length(path[b + 1] - path[a]) < 0.4 * away:
                off[a + 1 : b + 1] = True
        out[seen, i] = off
    return out


def _long_gaps(missing: NDArray[np.bool_], time_s: Array) -> NDArray[np.bool_]:
    """(T, L) samples in gaps too long to bridge, or before the first and after the last."""
    out = np.zeros_like(missing)
    for i in np.flatnonzero(missing.any(axis=0)):
        seen = np.flatnonzero(~missing[:, i])
        if not len(seen):
            out[:, i] = True
            continue
        out[: seen[0], i] = out[seen[-1] + 1 :, i] = True
        for a, b in itertools.pairwise(seen):
            if b - a > 1 and time_s[b] - time_s[a] > CLEAN.longest_bridge_s:
                out[a + 1 : b, i] = True
    return out


def _bridge(raw: Array, time_s: Array) -> Array:
    """Straight lines over the missing samples."""
    out = raw.copy()
    for i in np.flatnonzero(np.isnan(raw[..., 0]).any(axis=0)):
        seen = np.isfinite(raw[:, i, 0])
        if seen.any():
            for axis in range(3):
                out[~seen, i, axis] = np.interp(time_s[~seen], time_s[seen], raw[seen, i, axis])
        else:
            out[:, i] = 0.0
    return out


def _noise_that_stays(filled: Array, white: Array, rate_hz: float) -> Noise:
    """The noise that persists from frame to frame; else as the third differences have
    it."""
    every = max(1, int(rate_hz // ENOUGH_RATE_HZ))
    if len(filled) < _FEWEST_FOR_COLOUR * every:
        return Noise(None, white, rate_hz, np.ones((len(white), 3)))
    found = noise_of(filled[::every], rate_hz / every)
    return found if found.stays else replace(found, sigma_m=white, rate_hz=rate_hz)


def _smooth(
    filled: Array, seen: NDArray[np.bool_], time_s: Array, noise: Noise
) -> tuple[Array, Array]:
    """Each landmark at its own cut-off: (T, L, 3) positions and (L,) hertz."""
    smoother = Smoother(time_s)
    rate = smoother.rate_hz
    ladder = tuple(c for c in CUTOFFS_HZ if c <= 0.3 * rate) or (0.2 * rate,)
    if len(filled) <= 12:
        return filled.copy(), np.full(filled.shape[1], 0.5 * rate)
    axes = (np.ptp(filled, axis=0) > 0.0).sum(axis=-1)

    def known(share: Array) -> Array:
        out: Array = noise.strength(share)[:, None] * axes * noise.sigma_m**2
        return out

    cutoff = best_cutoffs(filled, rate, ladder, known if noise.stays else None)
    out = np.empty_like(filled)
    whole = seen.all(axis=0)
    for hertz in np.unique(cutoff):
        alike = np.flatnonzero((cutoff == hertz) & whole)
        if len(alike):
            flat = filled[:, alike].reshape(len(filled), -1)
            out[:, alike] = smoother.smooth(flat, hertz).reshape(len(filled), len(alike), 3)
    for i in np.flatnonzero(~whole):
        out[:, i] = smoother.smooth(filled[:, i], cutoff[i], seen[:, i].astype(float))
    return out, cutoff


def _sigma(
    noise: Noise, cutoff: Array, missing: NDArray[np.bool_], rate_hz: float, drift: Array
) -> Array:
    """(T, L) standard uncertainty of each smoothed coordinate.

    What the smoother leaves of the white noise, which also covers what it takes of the signal
    (Wahba 1983), larger inside gaps; and drift, which no smoother takes away.
    """
    kept = np.array([noise.kept(c) for c in cutoff])
    white = np.repeat((noise.sigma_m * np.sqrt(kept))[None], len(missing), axis=0)
    grown: dict[tuple[float, int], Array] = {}
    for i in np.flatnonzero(missing.any(axis=0)):
        for start, end in runs(missing[:, i]):
            run = min(end - start, int(CLEAN.longest_bridge_s * rate_hz) + 1)
            key = (float(cutoff[i]), run)
            if key not in grown:
                grown[key] = gap_growth(run, cutoff[i], rate_hz)
            white[start : start + run, i] *= grown[key]
    out: Array = np.hypot(white, drift)
    return out


def _drift(
    smooth: Array, names: tuple[str, ...], noise: Noise, cutoff: Array, track: LandmarkTrack
) -> Array:
    """(L,) slow drift of each coordinate, standard deviation.

    Bones keep their length: what the arms' smoothed segments still vary by, beyond what the white
    noise explains, is drift of their two ends. It applies to all landmarks. Pictures, whose
    segments change their looks anyway, get a share of the noise.
    """
    assumed = np.maximum(CLEAN.least_drift_m, CLEAN.drift_share * noise.sigma_m)
    if track.space != "world" or track.frames < 12:
        return assumed
    found = []
    for side in SIDES:
        for near, far in _BONES:
            ends = [f"{side}_{near}", f"{side}_{far}"]
            if not all(e in names for e in ends):
                continue
            i, j = (names.index(e) for e in ends)
            bone = length(smooth[:, i] - smooth[:, j])
            bone = bone[np.isfinite(bone)]
            if len(bone) >= 12:
                kept = np.array([noise.kept(c, 2) for c in cutoff[[i, j]]])
                white = (noise.sigma_m[[i, j]] ** 2 * kept).sum()
                spread = _MAD_TO_SIGMA * median(np.abs(bone - median(bone)))
                found.append((spread**2 - white) / 2.0)
    if len(found) < 2:
        return assumed
    drift = np.sqrt(max(float(np.mean(found)), 0.0))
    return np.full(len(names), max(drift, CLEAN.least_drift_m))


def running_median(values: Array, window: int) -> Array:
    """(T, C) median over an odd window about each sample, the ends repeated."""
    half = window // 2
    padded = np.pad(values, ((half, half), (0, 0)), mode="edge")
    view = np.lib.stride_tricks.sliding_window_view(padded, window, axis=0)
    out: Array = np.median(view, axis=-1)
    return out
