"""The figures of each rep: ranges, times, speeds, what stayed, paths, the arms against each
other."""

from __future__ import annotations

from typing import Final

import numpy as np

from guide_arc.core.checks.context import SetContext, settled
from guide_arc.core.checks.ends import arm_ends
from guide_arc.core.checks.left_right import lag, range_gap
from guide_arc.core.checks.momentum import burst_share
from guide_arc.core.checks.path import way_of
from guide_arc.core.kinematics.endpoints import hand, height_words
from guide_arc.core.kinematics.path import PARTS, Departure, Part, corridor_pct, departure
from guide_arc.core.kinematics.vectors import Array, dot, length, median, span_of
from guide_arc.core.model.figures import PathFigures, RepFigures, SetFigures
from guide_arc.core.model.landmarks import SIDES, Side
from guide_arc.core.model.quantity import Quantity
from guide_arc.core.model.rep import Rep, Span
from guide_arc.core.reps.drive import DriveSignal
from guide_arc.core.reps.driven import tells_drive
from guide_arc.core.review.stays import stays_of
from guide_arc.core.review.trends import trends_of

ARC_SAMPLES: Final = 21
_SPEED_CUTOFF_HZ: Final = 5.0
# A lift that slows to under a quarter of its peak and speeds up again has nearly stood still.
_STOP_SHARE: Final = 0.25
_EARLY_SHARE: Final = 0.1
_HIGHEST_HZ: Final = 10.0
_FAINTEST: Final = 0.05


def figures_of(ctx: SetContext) -> SetFigures:
    """The figures of a measured set. Nothing is guessed: what the recording hides is None or left
    out."""
    departures = {
        (side, part): departure(ctx.body, ctx.standard, side, part)
        for side in ctx.sides
        for part in PARTS
        if ctx.body.shows("shoulder_elevation", side)
    }
    heights = {side: _height(ctx, side) for side in ctx.sides}
    courses = {key: _signed(ctx, key[0], found) for key, found in departures.items()}
    reps = tuple(_rep(ctx, rep, departures, courses, heights) for rep in ctx.repset.reps)
    return SetFigures(reps, trends_of(reps))


def _signed(ctx: SetContext, side: Side, found: Departure) -> tuple[Array, str]:
    """The larger part of the departures over the set's reps, across the arc's plane or within
    it."""
    reps = ctx.reps_of(side)
    frames = [span_of(ctx.body.time_s, r.start_s, r.end_s) for r in reps]

    def size(values: Array) -> float:
        every = np.concatenate([values[f] for f in frames]) if frames else values[:0]
        every = every[np.isfinite(every)]
        return float(np.percentile(np.abs(every), 90)) if len(every) else 0.0

    if found.spot or size(found.across_pct) >= size(found.within_pct):
        return found.across_pct, found.positive
    return found.within_pct, "outside the arc"


def _rep(
    ctx: SetContext,
    rep: Rep,
    departures: dict[tuple[Side, Part], Departure],
    courses: dict[tuple[Side, Part], tuple[Array, str]],
    heights: dict[Side, Array],
) -> RepFigures:
    drive = ctx.repset.drives[rep.side]
    arms = [s for s in ctx.sides if rep.side in ("both", s)]
    ends = [e for s in arms if (e := arm_ends(ctx, s, rep))]
    u = drive.noise_deg
    if ends:
        start = float(np.mean([e.start_deg for e in ends]))
        turn = float(np.mean([e.turn_deg for e in ends]))
    else:
        start, turn = rep.from_deg, rep.to_deg
    lift, lower = _speeds(drive, rep.lift), _speeds(drive, rep.lower)
    burst = burst_share(drive, rep)
    height, words = _hand(ctx, {s: heights[s] for s in arms}, rep)
    both = (
        rep.side == "both"
        and len(arms) == 2
        and all(tells_drive(ctx.body, ctx.standard, s) for s in SIDES)
    )
    gap, behind = (range_gap(ctx, rep), lag(ctx, rep)) if both else (None, None)
    return RepFigures(
        rep=rep,
        start_deg=Quantity(start, u),
        turn_deg=Quantity(turn, u),
        range_deg=Quantity(abs(turn - start), float(np.sqrt(2.0) * u)),
        lift_s=rep.lift.length_s,
        top_s=rep.top_hold.length_s if rep.top_hold else 0.0,
        lower_s=rep.lower.length_s,
        bottom_s=rep.bottom_hold.length_s if rep.bottom_hold else 0.0,
        under_load_s=rep.under_load_s,
        lift_peak_deg_s=float(lift.max(initial=0.0)),
        lift_mean_deg_s=abs(rep.to_deg - rep.from_deg) / max(rep.lift.length_s, 1e-3),
        lower_peak_deg_s=float(-lower.min(initial=0.0)),
        lower_mean_deg_s=abs(rep.to_deg - rep.from_deg) / max(rep.lower.length_s, 1e-3),
        burst_pct=Quantity(burst.value, burst.u),
        smoothness=spectral_arc_length(lift, drive.rate_hz),
        stops=_stops(lift),
        torso_early_deg=_torso_early(ctx, rep),
        hand_pct=height,
        hand_at=words,
        stays=stays_of(ctx, rep, arms),
        paths=tuple(
            path
            for (side, part), found in departures.items()
            if side in arms and (path := _path(ctx, rep, side, part, found, courses[(side, part)]))
        ),
        arms_apart_deg=Quantity(gap.value, gap.u) if gap else None,
        arms_apart_s=Quantity(behind.value, behind.u) if behind else None,
    )


def _speeds(drive: DriveSignal, span: Span) -> Array:
    return drive.speed(_SPEED_CUTOFF_HZ)[span_of(drive.time_s, span.start_s, span.end_s)]


def spectral_arc_length(speed: Array, rate_hz: float) -> float:
    """How smooth a movement is: the arc length of its speed's normalised spectrum, negative.

    Balasubramanian, Melendez-Calderon, Roby-Brami and Burdet, J. NeuroEng. Rehabil. 12:112 (2015),
    up to 10 Hz and no fainter than a twentieth of the peak. NaN for fewer than four samples.
    """
    if len(speed) < 4:
        return float("nan")
    count = int(2 ** (np.ceil(np.log2(len(speed))) + 4))
    power = np.abs(np.fft.rfft(speed, count))
    power = power / max(float(power.max()), 1e-12)
    hertz = np.arange(len(power)) * rate_hz / count
    power, hertz = power[hertz <= _HIGHEST_HZ], hertz[hertz <= _HIGHEST_HZ]
    loud = np.flatnonzero(power >= _FAINTEST)
    power, hertz = power[: loud[-1] + 1], hertz[: loud[-1] + 1]
    if len(power) < 2:
        return float("nan")
    step = np.diff(hertz) / (hertz[-1] - hertz[0])
    return -float(np.sqrt(step**2 + np.diff(power) ** 2).sum())


def _stops(speed: Array) -> int:
    """How often the speed dips below a quarter of its peak between two faster stretches."""
    if not len(speed):
        return 0
    fast = speed > _STOP_SHARE * speed.max()
    return max(int(((~fast[:-1]) & fast[1:]).sum() + fast[0]) - 1, 0)


def _torso_early(ctx: SetContext, rep: Rep) -> Quantity | None:
    """The trunk's lean at the end of the lift's first tenth against its start."""
    if not ctx.body.shows("trunk_lean", None):
        return None
    early = Span(rep.lift.start_s, rep.lift.start_s + max(_EARLY_SHARE * rep.lift.length_s, 0.05))
    start = ctx.around("trunk_lean", None, early.start_s)
    end = ctx.around("trunk_lean", None, early.end_s)
    i = int(np.searchsorted(ctx.body.time_s, early.end_s))
    u = ctx.body.measure("trunk_lean").u[min(i, len(ctx.body.time_s) - 1)]
    if not np.isfinite(start + end + u):
        return None
    return Quantity(end - start, float(u))


def _height(ctx: SetContext, side: Side) -> Array:
    """(T,) height of a hand along the trunk in percent: 0 at the hips, 100 at the shoulders."""
    body = ctx.body
    hips = 0.5 * (body.points["left_hip"] + body.points["right_hip"])
    out: Array = 100.0 * dot(hand(body, side) - hips, body.trunk_frame[:, 1]) / body.trunk_m
    return out


def _hand(ctx: SetContext, heights: dict[Side, Array], rep: Rep) -> tuple[Quantity | None, str]:
    """How high the working hands are at the turn, and in words."""
    body = ctx.body
    window = span_of(body.time_s, rep.turn_s - 0.12, rep.turn_s + 0.12)
    arms = list(heights)
    found = []
    for values in heights.values():
        high = values[window]
        found.append(median(high[np.isfinite(high)]))
    found = [f for f in found if np.isfinite(f)]
    if not found:
        return None, ""
    sigma = body.cleaned.sigma(f"{arms[0]}_wrist")[window]
    u = 100.0 * float(np.nanmedian(sigma)) * np.sqrt(2.0) / float(np.nanmedian(body.trunk_m))
    height = float(np.mean(found))
    return Quantity(height, u), height_words(height)


def _path(
    ctx: SetContext, rep: Rep, side: Side, part: Part, found: Departure, course: tuple[Array, str]
) -> PathFigures | None:
    time = ctx.body.time_s
    window = span_of(time, rep.start_s, rep.end_s)
    seen = np.isfinite(found.size_pct[window])
    if seen.sum() < 3:
        return None
    off = np.stack([settled(time[window][seen], a) for a in found.off_pct[window][seen].T], axis=-1)
    size = length(off)
    i = int(np.argmax(size))
    lift = span_of(time, rep.lift.start_s, rep.lift.end_s)
    share, signed = found.share[lift], course[0][lift]
    if found.spot:
        share = np.linspace(0.0, 1.0, len(signed))  # nothing to go along but time
    known = np.isfinite(share) & np.isfinite(signed)
    order = np.argsort(share[known])
    profile = np.full(ARC_SAMPLES, np.nan)
    if known.sum() > 3:
        at = np.linspace(0.0, 1.0, ARC_SAMPLES)
        profile = np.interp(at, share[known][order], signed[known][order], np.nan, np.nan)
    return PathFigures(
        part=part,
        side=side,
        largest_pct=Quantity(float(size[i]), float(found.u_pct[window][seen][i])),
        at_share=(
            _way_done(rep, float(time[window][seen][i]))
            if found.spot
            else float(found.share[window][seen][i])
        ),
        way=way_of(off[i]),
        inside_pct=float(100.0 * (size <= corridor_pct(ctx.standard, part)).mean()),
        signed_pct=tuple(profile.tolist()),
        positive=course[1],
    )


def _way_done(rep: Rep, at_s: float) -> float:
    """How far a rep has come at a moment by time alone: 0 at its ends, 1 at the turn."""
    if at_s <= rep.lower.start_s:
        return min((at_s - rep.lift.start_s) / max(rep.lift.length_s, 1e-3), 1.0)
    return max(1.0 - (at_s - rep.lower.start_s) / max(rep.lower.length_s, 1e-3), 0.0)
