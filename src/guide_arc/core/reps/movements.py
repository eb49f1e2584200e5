"""Cutting a driving measure into movements, and finding when each one starts and ends."""

from __future__ import annotations

import itertools
from dataclasses import dataclass, replace
from typing import Final

import numpy as np

from guide_arc.core.kinematics.vectors import Array, median, span_of
from guide_arc.core.model.rep import Span
from guide_arc.core.reps.drive import DriveSignal
from guide_arc.core.reps.profile import SAMPLES, fit_reaches
from guide_arc.core.reps.rules import EDGE, REP

_CUTOFFS_HZ: Final = (1.4, 2.0, 3.0, 4.5, 6.5, 10.0)
_FEWEST_TO_FIT: Final = 8
# A minimum-jerk movement covers its middle 80 % in 53 % of its time.
_MIDDLE_SHARE_OF_TIME: Final = 0.53


@dataclass(frozen=True)
class Movement:
    """One run of the driving measure in one direction.

    sign : +1 lift, -1 lower
    span : from the first to the last crossing of 5 % of its peak speed, with their uncertainties
    from_deg, to_deg : values of the lift-positive signal at its start and end
    """

    sign: int
    span: Span
    from_deg: float
    to_deg: float
    peak_speed_deg_s: float

    @property
    def size_deg(self) -> float:
        return abs(self.to_deg - self.from_deg)


def turning_points(smooth: Array, least_deg: float) -> list[int]:
    """Indices of alternating lows and highs that are at least `least_deg` apart.

    The first and the last sample count as ends. A turn is confirmed only once the signal has
    come back by `least_deg`, so noise below that makes none.
    """
    turns = np.flatnonzero(np.diff(np.sign(np.diff(smooth))) != 0) + 1
    points = [0]
    low = high = 0
    direction = 0
    # Only where the slope changes its sign can a turn be; the last sample closes the list.
    for i in [*turns.tolist(), len(smooth) - 1]:
        if smooth[i] > smooth[high]:
            high = i
        if smooth[i] < smooth[low]:
            low = i
        if direction >= 0 and smooth[high] - smooth[i] >= least_deg:
            if high != points[-1]:
                points.append(high)
            direction, low, high = -1, i, i
        elif direction <= 0 and smooth[i] - smooth[low] >= least_deg:
            if low != points[-1]:
                points.append(low)
            direction, low, high = 1, i, i
    last = high if direction > 0 else low
    if direction != 0 and last != points[-1]:
        points.append(last)
    if points[-1] != len(smooth) - 1:
        points.append(len(smooth) - 1)
    return points


def movements(drive: DriveSignal, least_deg: float) -> list[Movement]:
    """The drive as alternating movements of at least `least_deg`, in order."""
    turning = drive.smooth(REP.turning_cutoff_hz)
    points = without_blips(turning_points(turning, least_deg), turning)
    ends = [
        (a, b) for a, b in itertools.pairwise(points) if abs(turning[b] - turning[a]) >= least_deg
    ]
    return _refined(drive, ends, [_measured(drive, turning, a, b) for a, b in ends])


def without_blips(points: list[int], turning: Array) -> list[int]:
    """Turning points without those between which a tracker slipped: far smaller than the set's
    movements, and far quicker. Nobody turns a weight round twice in a fraction of a rep."""
    out = list(points)
    if len(out) < 4:
        return out
    size, time = np.abs(np.diff(turning[out])), np.diff(out)
    large = size >= REP.full_share * size.max()
    usual_size, usual_time = float(np.median(size[large])), float(np.median(time[large]))
    k = 1
    while k + 2 < len(out):
        a, b = out[k], out[k + 1]
        if (
            abs(turning[b] - turning[a]) < REP.blip_size_share * usual_size
            and b - a < REP.blip_time_share * usual_time
        ):
            # Of the two turns on one side the farther one stays.
            first, then = (abs(turning[i] - turning[b]) for i in (a, out[k + 2]))
            out[k : k + 3] = [a if first > then else out[k + 2]]
        else:
            k += 1
    return out


def _refined(
    drive: DriveSignal, ends: list[tuple[int, int]], found: list[Movement]
) -> list[Movement]:
    """Movements that are one smooth reach get their edges from a fit of the whole course."""
    long_enough = [k for k, (a, b) in enumerate(ends) if b - a >= _FEWEST_TO_FIT]
    if not long_enough:
        return found
    windows = [_window(drive, ends[k], found[k]) for k in long_enough]
    time_s = np.stack([np.linspace(*w, SAMPLES) for w in windows])
    smooth = np.interp(time_s, drive.time_s, drive.lift_deg)
    reaches = fit_reaches(time_s, _means(drive, time_s), EDGE.edge_share, drive.arcs, smooth)
    out = list(found)
    noise = drive.jitter_deg or float(np.median(reaches.misfit_deg))
    for row, k in enumerate(long_enough):
        move = found[k]
        missed = min(EDGE.misfit_noises * drive.noise_deg, EDGE.misfit_most * move.size_deg)
        allowed = max(missed, EDGE.misfit_share * move.size_deg)
        start, end = float(reaches.start_s[row]), float(reaches.end_s[row])
        apart = max(abs(start - move.span.start_s), abs(end - move.span.end_s))
        if (
            reaches.misfit_deg[row] <= allowed
            and end > start
            and apart <= 0.35 * move.span.length_s
        ):
            gain = EDGE.fit_gain_picture if drive.pictured else EDGE.fit_gain
            own = (float(u[row]) for u in (reaches.start_u_s, reaches.end_u_s))
            start_u_s, end_u_s = (min(gain * u_s, EDGE.cut_most * (end - start)) for u_s in own)
            out[k] = replace(
                move,
                span=Span(start, end, start_u_s, end_u_s),
                peak_speed_deg_s=float(reaches.peak_deg_s[row]),
            )
        else:
            u_s = cut_edge_u(noise, move.size_deg) * move.span.length_s
            out[k] = replace(move, span=replace(move.span, start_u_s=u_s, end_u_s=u_s))
    return _in_order(_unlike_the_others(out, drive.jitter_deg))


def _unlike_the_others(found: list[Movement], noise_deg: float) -> list[Movement]:
    """Where noise is strong, a phase that lasts otherwise than the set's was rather cut wrongly
    than done so: its edges are the less sure the more it differs."""
    out = list(found)
    largest = max(m.size_deg for m in found)
    for sign in (1, -1):
        alike = [
            k
            for k, m in enumerate(found)
            if m.sign == sign and m.size_deg >= REP.full_share * largest
        ]
        if len(alike) < EDGE.enough_alike:
            continue
        usual_s = float(np.median([found[k].span.length_s for k in alike]))
        for k in alike:
            span = found[k].span
            weight = min(noise_deg / found[k].size_deg / EDGE.noisy_share, 1.0)
            more = EDGE.unlike_share * weight * abs(span.length_s - usual_s)
            out[k] = replace(
                found[k],
                span=replace(
                    span,
                    start_u_s=float(np.hypot(span.start_u_s, more)),
                    end_u_s=float(np.hypot(span.end_u_s, more)),
                ),
            )
    return out


def cut_edge_u(noise_deg: float, size_deg: float) -> float:
    """Standard uncertainty of edges where no course fits and they are where the speed crosses its
    threshold, as a share of the phase's length (the law is from `bench/edges.py`, over all
    standards, views and kinds of noise).
    """
    return float(min(EDGE.cut_gain * noise_deg / max(size_deg, 1e-6), EDGE.cut_most))


def _means(drive: DriveSignal, time_s: Array) -> Array:
    """(M, SAMPLES) of the drive about each moment: as it was before it was smoothed, where that is
    known. A mean over each moment's share of the time takes all samples in."""
    level = drive.lift_deg if drive.sharp_deg is None else drive.sharp_deg
    step_s = drive.time_s[1] - drive.time_s[0]
    sum_deg = np.concatenate(([0.0], np.cumsum(level) * step_s))
    until_s = np.append(drive.time_s, drive.time_s[-1] + step_s) - 0.5 * step_s
    half_s = 0.5 * np.maximum(np.diff(time_s[:, :2], axis=1), step_s)
    low = np.maximum(time_s - half_s, until_s[0])
    high = np.minimum(time_s + half_s, until_s[-1])
    area = np.interp(high, until_s, sum_deg) - np.interp(low, until_s, sum_deg)
    out: Array = area / (high - low)
    return out


def _window(drive: DriveSignal, ends: tuple[int, int], move: Movement) -> tuple[float, float]:
    """From turn to turn, but no more of a long hold than a third of the movement."""
    margin = max(0.35 * move.span.length_s, 0.15)
    return (
        max(float(drive.time_s[ends[0]]), move.span.start_s - margin),
        min(float(drive.time_s[ends[1]]), move.span.end_s + margin),
    )


def _in_order(found: list[Movement]) -> list[Movement]:
    """Neighbours that overlap by a hair after the fit meet in the middle."""
    out = list(found)
    for k in range(len(out) - 1):
        a, b = out[k], out[k + 1]
        if a.span.end_s > b.span.start_s:
            middle = 0.5 * (a.span.end_s + b.span.start_s)
            middle = min(max(middle, a.span.start_s), b.span.end_s)
            out[k] = replace(a, span=replace(a.span, end_s=middle))
            out[k + 1] = replace(b, span=replace(b.span, start_s=middle))
    return out


def _usable(drive: DriveSignal) -> list[float]:
    usable = [c for c in _CUTOFFS_HZ if c < 0.35 * drive.rate_hz]
    return usable or [_CUTOFFS_HZ[0]]


def _measured(drive: DriveSignal, turning: Array, a: int, b: int) -> Movement:
    sign = 1 if turning[b] > turning[a] else -1
    rise = sign * (turning[a : b + 1] - turning[a])
    size = rise[-1]
    tenth = int(np.argmax(rise >= 0.1 * size))
    ninth = int(np.argmax(rise >= 0.9 * size))
    seconds = max(ninth - tenth, 1) / drive.rate_hz / _MIDDLE_SHARE_OF_TIME
    cutoff = _cutoff_for(drive, _usable(drive), size, seconds)
    speed = sign * drive.speed(cutoff)[a : b + 1]
    first, last, peak = _edges(speed, rise, drive.rate_hz)
    t0 = drive.time_s[a]
    span = Span(float(t0 + first / drive.rate_hz), float(t0 + last / drive.rate_hz))
    return Movement(
        sign=sign,
        span=span,
        from_deg=level_at(drive, span.start_s),
        to_deg=level_at(drive, span.end_s),
        peak_speed_deg_s=peak,
    )


def _cutoff_for(drive: DriveSignal, cutoffs: list[float], size: float, seconds: float) -> float:
    """The highest cut-off whose speed noise stays under the edge speed of this movement.

    Never so low that it would smear the movement itself.
    """
    edge = EDGE.edge_share * 1.875 * size / seconds  # peak of a minimum-jerk profile
    chosen = cutoffs[0]
    for cutoff in cutoffs:
        # White noise of the measure has already been cut at about 4.5 Hz.
        noise = drive.noise_deg * 2 * np.pi * cutoff * np.sqrt(min(cutoff / 4.5, 1.0) / 3.0)
        if noise <= 0.8 * edge or cutoff <= 3.0 / seconds:
            chosen = cutoff
    return chosen


def _edges(speed: Array, rise: Array, rate_hz: float) -> tuple[float, float, float]:
    """First and last crossing of 5 % of the peak speed, as fractional samples, and the peak.

    Walks outward from the peak. A dip shorter than 0.15 s ends nothing; and neither does a longer
    stop before a good part of the movement."""
    top = int(np.argmax(speed))
    peak = float(speed[top])
    level = EDGE.edge_share * peak
    pause = EDGE.shortest_pause_s * rate_hz
    rest = EDGE.rest_share * rise[-1]
    forward = _walk(speed[top:], level, pause, lambda i: rise[-1] - rise[top + i] > rest)
    backward = _walk(speed[top::-1], level, pause, lambda i: rise[top - i] > rest)
    return top - backward, top + forward, peak


def _walk(speed: Array, level: float, pause: float, more_beyond) -> float:  # type: ignore[no-untyped-def]
    """How many samples from index 0 until the speed is below the level for good."""
    below = speed < level
    i, n = 0, len(speed)
    edge = float(n - 1)
    while i < n:
        if not below[i]:
            i += 1
            continue
        j = i
        while j < n and below[j]:
            j += 1
        crossing = i - 1 + (speed[i - 1] - level) / max(speed[i - 1] - speed[i], 1e-12)
        if (j - i < pause and j < n) or more_beyond(i):
            i = j
            continue
        edge = float(crossing)
        break
    return edge


def level_at(drive: DriveSignal, at_s: float) -> float:
    """The lift-positive drive about a moment."""
    turning = drive.smooth(REP.turning_cutoff_hz)
    return median(turning[span_of(drive.time_s, at_s - 0.05, at_s + 0.05)])
