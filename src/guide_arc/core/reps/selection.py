"""Which candidates belong to the set: walking in, taking the kit and a look at the phone do not.

A rep is done on the same spot and along the same path as its neighbours. What comes before or
after the set fails one of the two.
"""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Final

import numpy as np

from guide_arc.core.kinematics.body import Body
from guide_arc.core.kinematics.guide import arm_path, way_back
from guide_arc.core.kinematics.trunk import middle
from guide_arc.core.kinematics.vectors import (
    Array,
    Flags,
    length,
    median,
    seen_median,
    span_of,
)
from guide_arc.core.kinematics.views import hidden_axis
from guide_arc.core.model.landmarks import SIDES, Side
from guide_arc.core.model.rep import WorkSide
from guide_arc.core.model.standard import Standard
from guide_arc.core.reps.candidates import Candidate
from guide_arc.core.reps.drive import DriveSignal
from guide_arc.core.reps.rules import REP, SELECT

# Two hundred reps need not all be tried as the reference.
_MOST_COMPARED: Final = 6
_SAMPLES: Final = 9
# So near to both its ends a candidate's hips must have been seen, to say that they went elsewhere.
_EITHER_END: Final = 0.1


@dataclass(frozen=True)
class RepSelection:
    """reps : the candidates that are reps of this set; strays : those that nearly were; left_out :
    others that are as large as whole reps"""

    reps: list[Candidate]
    strays: list[Candidate]
    left_out: list[Candidate] = field(default_factory=list)


def select_reps(
    body: Body,
    standard: Standard,
    found: list[Candidate],
    side: WorkSide,
    drives: dict[Side, DriveSignal],
) -> RepSelection:
    """The candidates that are reps of this set, opening and closing movements dropped."""
    sides: tuple[Side, ...] = SIDES if side == "both" else (side,)
    sides = tuple(s for s in sides if s in drives)
    turns = SELECT.leans_within_deg + abs(standard.trunk[1].lean_deg - standard.trunk[0].lean_deg)
    staying = [c for c in found if _stays(body, c, turns)]
    kept = [c for c in staying if _all_arms_work(c, drives, sides)]
    if not kept:
        return RepSelection([], [])
    paths = _paths(body, kept, sides)
    sizes = np.array([c.size_deg for c in kept])
    reference, limit = _reference(body, standard, paths, sizes, sides)
    off = _distances(paths, reference)
    # A set of which half fell apart may have its reference there: the standard's own arc counts
    # too.
    meant = np.minimum(off, _distances(paths, _arc(body, standard, sides)))
    good = ~(off > limit)
    if good.any():
        there = _on_the_spot(body, kept, good)
        good &= there
        good |= _linked(paths, good, there, meant, limit)
    # Only the ends of a set can be something else: a movement between two reps is a rep.
    inside = np.flatnonzero(good)
    if not len(inside):
        return RepSelection([], [])
    between = range(inside[0] + 1, inside[-1])
    close = off < SELECT.close * limit
    taken = [bool(good[i]) or (i in between and bool(close[i])) for i in range(len(kept))]
    usual = median(sizes[good])
    large = sizes >= 0.5 * usual
    strays = [c for i, c in enumerate(kept) if not taken[i] and close[i] and large[i]]
    # One arm alone is a look at the phone; but not if it is a whole rep of the two arms' mean.
    strays += [c for c in staying if c not in kept and c.size_deg >= REP.full_share * usual]
    reps = [c for i, c in enumerate(kept) if taken[i]]
    known = {id(c) for c in (*reps, *strays)}
    whole = [c for c in found if id(c) not in known and c.size_deg >= REP.full_share * usual]
    return RepSelection(reps, strays, whole)


def off_guide(body: Body, standard: Standard, found: list[Candidate], side: WorkSide) -> Array:
    """(C,) how far each candidate stays from the standard's own guide arc, in arm lengths."""
    sides: tuple[Side, ...] = SIDES if side == "both" else (side,)
    if not found:
        return np.zeros(0)
    return _distances(_paths(body, found, sides), _arc(body, standard, sides))


def _stays(body: Body, c: Candidate, leans_within_deg: float) -> bool:
    """Whether hips and trunk keep their place within the rep. A walk carries the hips away, and
    bending down for the kit tips the trunk."""
    frames = _frames(body, c.lift.span.start_s, c.lower.span.end_s)
    lean = body.measure("trunk_lean").value[frames]
    lean = lean[np.isfinite(lean)]
    if len(lean) and lean.max() - lean.min() > leans_within_deg:
        return False
    hips = [body.points[f"{s}_hip"][frames] for s in SIDES]
    seen = np.flatnonzero(np.isfinite(hips[0][:, 1] + hips[1][:, 1]))
    count = len(hips[0])
    # Hips that come back by the end have kept their place; of a part of the rep that can't be
    # determined.
    if len(seen) < 2 or seen[0] > _EITHER_END * count or seen[-1] < (1.0 - _EITHER_END) * count:
        return True
    moved = 0.5 * sum(h[seen[-1]] - h[seen[0]] for h in hips)
    return float(length(np.asarray(moved))) < SELECT.moves_within_m


def _all_arms_work(c: Candidate, drives: dict[Side, DriveSignal], sides: tuple[Side, ...]) -> bool:
    """When both arms work, a rep of one arm alone is something else (a look at the phone)."""
    if len(sides) < 2:
        return True
    spans = []
    for s in sides:
        d = drives[s]
        within = span_of(d.time_s, c.lift.span.start_s, c.lower.span.end_s)
        if d.lost[within].any():
            return True  # an arm that was lost may well have worked
        at = [c.lift.span.start_s, c.lift.span.end_s, c.lower.span.start_s, c.lower.span.end_s]
        level = np.interp(at, d.time_s, d.lift_deg)
        spans.append((level[1] - level[0], level[2] - level[3]))
    for phase in (0, 1):
        if min(s[phase] for s in spans) < SELECT.one_arm_share * max(s[phase] for s in spans):
            return False
    return True


def _paths(body: Body, kept: list[Candidate], sides: tuple[Side, ...]) -> Array:
    """(C, sides, 2 * samples, 3) each candidate's wrist from its shoulder, in arm lengths; the
    elbow where no wrist is seen."""
    times = np.array(
        [
            np.concatenate(
                [
                    np.linspace(c.lift.span.start_s, c.lift.span.end_s, _SAMPLES),
                    np.linspace(c.lower.span.start_s, c.lower.span.end_s, _SAMPLES),
                ]
            )
            for c in kept
        ]
    )
    at = np.clip(np.searchsorted(body.time_s, times), 0, len(body.time_s) - 1)
    out = []
    for side in sides:
        local = body.in_trunk(f"{side}_wrist", side)
        if not np.isfinite(local).any():
            local = body.in_trunk(f"{side}_elbow", side)
        out.append(local[at] / body.learned.upper_arm_m[side])
    return np.stack(out, axis=1)


def _reference(
    body: Body, standard: Standard, paths: Array, sizes: Array, sides: tuple[Side, ...]
) -> tuple[Array, float]:
    """The path the others are held against, and how far off it may be (arm lengths).

    With enough candidates it is the one of the large ones that is nearest to the rest (a short
    rep runs along a part of a long one's path, not the other way round); a short set is held
    against the standard's own guide arc, more loosely.
    """
    if len(paths) >= SELECT.enough_elsewhere:
        large = np.flatnonzero(sizes >= REP.full_share * sizes.max())
        tried = large[:: max(1, len(large) // _MOST_COMPARED)]
        apart = [seen_median(_distances(paths, paths[i])) for i in tried]
        return paths[tried[int(np.argmin(apart))]], SELECT.off_path_arms
    return _arc(body, standard, sides), SELECT.off_standard_arms


def _arc(body: Body, standard: Standard, sides: tuple[Side, ...]) -> Array:
    """(sides, samples, 3) the standard's own path of the wrist, as the view shows it."""
    way, back = arm_path(standard, _SAMPLES)["wrist"], way_back(standard, _SAMPLES)
    if back is not None:
        way = np.concatenate((way, back["wrist"]))
    arc = np.stack([way] * len(sides))
    flat = hidden_axis(body.cleaned.track.view)
    if flat is not None:
        arc[..., flat] = 0.0
    return arc


def _distances(paths: Array, reference: Array) -> Array:
    """(C,) how far nearly all (85 %) of each path stays from the nearest part of a reference.

    paths : (C, S, P, 3); reference : (S, Q, 3). The worse side counts; unseen parts do not.
    """
    gaps = length(paths[:, :, :, None] - reference[None, :, None])
    nearest = np.where(np.isnan(gaps), np.inf, gaps).min(axis=-1)
    nearest = np.where(np.isinf(nearest), 0.0, nearest)
    rank = int(0.85 * (nearest.shape[-1] - 1))
    out: Array = np.partition(nearest, rank, axis=-1)[..., rank].max(axis=-1)
    return out


def _linked(paths: Array, good: Flags, there: Flags, off: Array, limit: float) -> Flags:
    """(C,) reps that fell apart: on the spot, and next to a rep whose path they keep to; or three
    and more in a row that keep to each other's, not too far off the usual one.

    A path that changes from rep to rep is fatigue; what is done once before or after the set is
    like no rep next to it.
    """
    out = good.copy()
    if good.all():
        return out
    alike = np.array(
        [
            there[i] and there[i + 1] and _distances(paths[i : i + 1], paths[i + 1])[0] <= limit
            for i in range(len(paths) - 1)
        ],
        dtype=bool,
    )
    i = 0
    while i < len(paths):
        j = i
        while j < len(alike) and alike[j]:
            j += 1
        run = slice(i, j + 1)
        if out[run].any() or (
            j - i + 1 >= SELECT.enough_elsewhere and (off[run] < SELECT.loose * limit).all()
        ):
            out[run] |= there[run]
        i = j + 1
    return out


def _on_the_spot(body: Body, kept: list[Candidate], good: Flags) -> Flags:
    """(C,) whether the hips are where they are in most of the good candidates."""
    hips = middle(body.points, "hip")
    times = np.array([[c.lift.span.start_s, c.lift.span.end_s, c.lower.span.end_s] for c in kept])
    at = np.clip(np.searchsorted(body.time_s, times), 0, len(body.time_s) - 1)
    spots = seen_medians(hips[at])
    usual = seen_medians(spots[good][None])[0]
    off = length(spots - usual)
    if not np.isfinite(off[good]).any():
        return np.ones(len(kept), dtype=bool)  # hips that were not seen say nothing of where
    spread = seen_median(off[good])
    limit = max(SELECT.spot_m, 4.0 * spread)
    near: Flags = ~(off > limit)
    return near | _another_spot(spots, good & ~near, limit)


def seen_medians(spots: Array) -> Array:
    """(C, 3) the medians of (C, N, 3) spots over N, of those that were seen; NaN if none was
    seen."""
    out = np.full((len(spots), 3), np.nan)
    for i, own in enumerate(spots):
        seen = own[np.isfinite(own).all(axis=-1)]
        if len(seen):
            out[i] = np.median(seen, axis=0)
    return out


def _another_spot(spots: Array, elsewhere: Flags, limit: float) -> Flags:
    """(C,) those of at least three candidates in a row that are all done on another spot: after
    a lighter weight was taken in a drop set, say."""
    out = np.zeros(len(spots), dtype=bool)
    i = 0
    while i < len(spots):
        j = i
        while j < len(spots) and elsewhere[j] and length(spots[j] - spots[i]) <= limit:
            j += 1
        if j - i >= SELECT.enough_elsewhere:
            out[i:j] = True
        i = max(j, i + 1)
    return out


def _frames(body: Body, start_s: float, end_s: float) -> slice:
    a, b = np.searchsorted(body.time_s, (start_s, end_s))
    return slice(int(a), max(int(b), int(a) + 1))
