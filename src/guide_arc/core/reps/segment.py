"""The reps of a set: which arms work, which movements are reps, and their phases."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, field, replace
from typing import Final

import numpy as np

from guide_arc.core.kinematics.body import Body
from guide_arc.core.kinematics.vectors import Flags, runs, span_of
from guide_arc.core.model.landmarks import SIDES, Side
from guide_arc.core.model.rep import Rep, Span, WorkSide
from guide_arc.core.model.settings import PLAIN, Correction, Settings
from guide_arc.core.model.standard import Standard
from guide_arc.core.reps.by_hand import corrected
from guide_arc.core.reps.candidates import Candidate, assumed_size, by_size, candidates, usual_size
from guide_arc.core.reps.doubts import Doubt, doubts_of, doubts_of_gaps, doubts_of_noise
from guide_arc.core.reps.drive import DriveSignal, both_arms, driving
from guide_arc.core.reps.rules import EDGE, REP
from guide_arc.core.reps.selection import RepSelection, select_reps

# An arm that covers this share of what the other one does is not looked at more closely, which
# takes time.
_CLEARLY_WORKS: Final = 0.6
# Nobody does a rep in less of the set's usual time: with less left, the search, which takes time,
# is skipped.
_HASTIEST: Final = 0.4
# A set whose reps are as large as assumed, but for this share, is not searched again, which
# takes time.
_AS_LARGE: Final = 0.15


@dataclass(frozen=True, eq=False)
class RepSet:
    """side: the arms that work ("left", "right", "both"; "both" for alternating sets too)
    drives : the driving measure by the side its reps carry
    doubts : where the count may be wrong, and why unfit : corrections by hand that fit no rep any
        more
    strays, left_out, cut : near misses, other movements as large as a rep, and each side's reps as
        first segmented"""

    side: WorkSide
    alternating: bool
    reps: tuple[Rep, ...]
    drives: dict[WorkSide, DriveSignal]
    doubts: tuple[Doubt, ...] = ()
    unfit: tuple[Correction, ...] = ()
    strays: tuple[Candidate, ...] = ()
    left_out: tuple[Candidate, ...] = ()
    cut: dict[WorkSide, list[Candidate]] = field(default_factory=dict, repr=False)

    @property
    def first_lift_s(self) -> float | None:
        """When the first lift starts, one that only nearly passed for a rep included: before it the
        body is at rest."""
        starts = [rep.start_s for rep in self.reps]
        return (
            min((*starts, *(c.lift.span.start_s for c in self.strays)), default=None)
            if starts
            else None
        )


def find_reps(body: Body, standard: Standard, settings: Settings = PLAIN) -> RepSet:
    """Split a recording into the reps of a standard, in order of time.

    settings : its corrections by hand are made on what was found
    """
    drives = driving(body, standard)
    if not drives:
        return RepSet("both", False, (), {})
    inside = drives
    if settings.bounds is not None:
        span = Span(min(settings.bounds), max(settings.bounds))
        inside = {s: part for s, d in drives.items() if (part := d.within(span))}
    found = _found(body, standard, inside) if inside else RepSet("both", False, (), {})
    whole: dict[WorkSide, DriveSignal] = {s: drives[s] for s in SIDES if s in drives}
    if len(drives) == 2:
        whole["both"] = both_arms(drives["left"], drives["right"])
    elif "both" in found.drives:
        whole["both"] = next(iter(drives.values()))
    found = replace(found, drives={side: whole[side] for side in found.drives})
    if settings.corrections:
        found = by_hand(found, settings.corrections)
    every = [c for own in found.cut.values() for c in own]
    # A stray that the coach has counted by hand is no doubt any more.
    strays = [c for c in found.strays if not _shared_s(_span(c), every)]
    doubts = (*doubts_of(found.reps, every, strays), *doubts_of_gaps(found.reps, found.drives))
    doubts = tuple(sorted(doubts, key=lambda d: d.at_s))
    if body.cleaned.noise_stays:
        left_out = [c for c in found.left_out if not _shared_s(_span(c), every)]
        doubts = tuple(
            sorted((*doubts, *doubts_of_noise(found.reps, left_out)), key=lambda d: d.at_s)
        )
    return replace(found, doubts=doubts)


def by_hand(found: RepSet, corrections: tuple[Correction, ...]) -> RepSet:
    """The reps that were found with the coach's corrections made on them."""
    cut: dict[WorkSide, list[Candidate]] = {}
    reps: list[Rep] = []
    ours = [c for c in corrections if c.kind not in ("bounds", "partials")]
    unfit = [c for c in ours if c.side not in found.drives]
    for side, drive in found.drives.items():
        own = found.cut.get(side, [])
        cut[side], lost = corrected(own, drive, side, corrections)
        reps += _as_reps(cut[side], drive, side, every=cut[side] != own)
        unfit += lost
    return replace(found, reps=_counted(reps), cut=cut, unfit=tuple(unfit))


def _found(body: Body, standard: Standard, drives: dict[Side, DriveSignal]) -> RepSet:
    if len(drives) == 1:
        side, drive = next(iter(drives.items()))
        worn: WorkSide = side if standard.arms == "one" else "both"
        return _together(body, standard, drives, drive, worn)
    mean = both_arms(drives["left"], drives["right"])
    if standard.arms == "both":
        idle = _idle_arm(body, standard, drives)
        if idle is None:
            found = _together(body, standard, drives, mean, "both")
            return _one_arm_goes_on(body, standard, drives, found)
        working: Side = "right" if idle == "left" else "left"
        return _together(body, standard, drives, drives[working], working)
    settled = {side: _settled(body, standard, drives, drives[side], side) for side in SIDES}
    single = _drop_idle({side: found.reps for side, found in settled.items()}, drives)
    if (
        standard.arms == "either"
        and len(single) == 2
        and _overlap(*single.values()) > REP.together_share
    ):
        found = _together(body, standard, drives, mean, "both")
        return _one_arm_goes_on(body, standard, drives, found)
    if len(single) == 2:
        single = _without_shared(single)
    reps = sorted(
        (rep for side, found in single.items() for rep in _as_reps(found, drives[side], side)),
        key=lambda rep: rep.start_s,
    )
    sides = {rep.side for rep in reps}
    work: WorkSide = "both" if len(sides) != 1 else next(iter(sides))
    kept: dict[WorkSide, DriveSignal] = {s: drives[s] for s in SIDES if s in sides}
    cut: dict[WorkSide, list[Candidate]] = {s: single[s] for s in SIDES if s in sides}
    own = [settled[s] for s in cut if s in SIDES]
    strays, left_out = (
        tuple(c for one in own for c in getattr(one, kind)) for kind in ("strays", "left_out")
    )
    return RepSet(
        work, len(sides) == 2, tuple(reps), kept, strays=strays, left_out=left_out, cut=cut
    )


def _together(
    body: Body,
    standard: Standard,
    drives: dict[Side, DriveSignal],
    drive: DriveSignal,
    side: WorkSide,
) -> RepSet:
    found = _settled(body, standard, drives, drive, side)
    reps = tuple(_as_reps(found.reps, drive, side))
    return RepSet(
        side,
        False,
        reps,
        {side: drive},
        strays=tuple(found.strays),
        left_out=tuple(found.left_out),
        cut={side: found.reps},
    )


def _one_arm_goes_on(
    body: Body, standard: Standard, drives: dict[Side, DriveSignal], found: RepSet
) -> RepSet:
    """The set with what one arm does once the other has given up: reps of the same size and path.
    A single one may be a look at the phone."""
    both = found.cut["both"]
    if not both:
        return found
    usual = usual_size(np.array([c.size_deg for c in both]))
    length = float(np.median([_span(c).length_s for c in both]))
    out = found
    for side in SIDES:
        other = drives["right" if side == "left" else "left"]
        if other.lost[np.searchsorted(other.time_s, both[-1].lift.span.end_s) :].any():
            continue  # an arm that was lost has not given up
        more, turned_s = [], both[-1].lift.span.end_s
        left_s = float(drives[side].time_s[-1]) - _span(both[-1]).end_s
        if left_s < _HASTIEST * REP.alone_at_least * length:
            continue
        for c in _settled(body, standard, drives, drives[side], side).reps:
            if (
                c.lift.span.start_s < turned_s
                or c.size_deg < REP.full_share * usual
                or _moves(other, c) > REP.idle_arm_share * usual
            ):
                continue
            more.append(c)
            turned_s = c.lift.span.end_s
        if len(more) >= REP.alone_at_least:
            reps = (*found.reps, *_as_reps(more, drives[side], side))
            out = replace(
                found,
                reps=_counted(reps),
                drives={**found.drives, side: drives[side]},
                cut={**found.cut, side: more},
            )
    return out


def _moves(drive: DriveSignal, c: Candidate) -> float:
    """How far an arm moves during another's lift."""
    ends = np.interp((c.lift.span.start_s, c.lift.span.end_s), drive.time_s, drive.lift_deg)
    return abs(float(ends[1] - ends[0]))


def _counted(reps: Iterable[Rep]) -> tuple[Rep, ...]:
    """Reps in order of time; where both arms began together, an arm that goes on alone counts
    on."""
    ordered = sorted(reps, key=lambda rep: rep.start_s)
    if any(rep.side == "both" for rep in ordered):
        ordered = [replace(rep, number=i) for i, rep in enumerate(ordered, 1)]
    return tuple(ordered)


def _settled(
    body: Body,
    standard: Standard,
    drives: dict[Side, DriveSignal],
    drive: DriveSignal,
    side: WorkSide,
) -> RepSelection:
    """Candidates again with the size of this set's own full rep, which may be small."""
    found = select_reps(body, standard, candidates(drive), side, drives)
    if not found.reps:
        return found
    usual = usual_size(np.array([c.size_deg for c in found.reps]))
    if abs(usual / assumed_size(drive) - 1.0) < _AS_LARGE:
        return found
    return select_reps(body, standard, candidates(drive, usual), side, drives)


def _idle_arm(body: Body, standard: Standard, drives: dict[Side, DriveSignal]) -> Side | None:
    """The arm that takes no part in the reps of the other, if there is one."""
    spread = {s: float(np.subtract(*np.percentile(d.lift_deg, (98, 2)))) for s, d in drives.items()}
    if min(spread.values()) > _CLEARLY_WORKS * max(spread.values()):
        return None
    active = _drop_idle(
        {side: _settled(body, standard, drives, drives[side], side).reps for side in SIDES}, drives
    )
    if len(active) == 2 or not active:
        return None
    side = next(iter(active))
    idle: Side = "right" if side == "left" else "left"
    if drives[idle].lost.mean() > REP.lost_share:
        return None  # an arm that was hardly seen is not idle
    # An arm that moves along, only less, is lagging and not idle.
    levels = drives[idle].lift_deg
    moved = [
        abs(
            float(
                np.interp(c.lift.span.end_s, drives[idle].time_s, levels)
                - np.interp(c.lift.span.start_s, drives[idle].time_s, levels)
            )
        )
        for c in active[side]
    ]
    own = [c.lift.size_deg for c in active[side]]
    return idle if np.median(moved) < REP.idle_arm_share * np.median(own) else None


def _drop_idle(
    found: dict[Side, list[Candidate]], drives: dict[Side, DriveSignal]
) -> dict[Side, list[Candidate]]:
    """Without an arm that moves far less than the other, or only as much as noise makes it seem
    to."""
    sizes = {s: usual_size(np.array([c.size_deg for c in f])) for s, f in found.items() if f}
    if not sizes:
        return {}
    largest = max(sizes.values())
    return {
        s: found[s]
        for s, size in sizes.items()
        if size >= REP.idle_arm_share * largest
        and (
            size >= REP.shaky_arm_share * largest
            or size >= REP.shaky_arm_noise * drives[s].jitter_deg
        )
    }


def _span(c: Candidate) -> Span:
    return Span(c.lift.span.start_s, c.lower.span.end_s)


def _shared_s(a: Span, others: list[Candidate]) -> float:
    return sum(
        max(0.0, min(a.end_s, _span(o).end_s) - max(a.start_s, _span(o).start_s)) for o in others
    )


def _overlap(a: list[Candidate], b: list[Candidate]) -> float:
    shared = sum(_shared_s(_span(c), b) for c in a)
    own = min(sum(_span(c).length_s for c in a), sum(_span(c).length_s for c in b))
    return shared / own if own else 0.0


def _without_shared(single: dict[Side, list[Candidate]]) -> dict[Side, list[Candidate]]:
    """In an alternating set, a movement of both arms at once over the same range is handling of the
    kit."""
    out: dict[Side, list[Candidate]] = {}
    for side, found in single.items():
        other = single["right" if side == "left" else "left"]
        out[side] = [
            c
            for c in found
            if _shared_s(
                _span(c), [o for o in other if o.size_deg > REP.shaky_arm_share * c.size_deg]
            )
            < REP.together_share * _span(c).length_s
        ]
    return out


def _as_reps(
    found: list[Candidate], drive: DriveSignal, side: WorkSide, *, every: bool = False
) -> list[Rep]:
    """every : keep also what is too small for a rep, as a hand put it there"""
    sized = by_size(found, keep_all=every)
    spans = [_as_seen(m.span, drive) for c, _full in sized for m in (c.lift, c.lower)]
    if drive.lost.any():
        for k in range(len(spans) - 1):
            spans[k], spans[k + 1] = _turned(spans[k], spans[k + 1], drive)
    out: list[Rep] = []
    for i, (c, full) in enumerate(sized):
        lift, lower = spans[2 * i : 2 * i + 2]
        after = spans[2 * i + 2] if i + 1 < len(sized) else None
        out.append(
            Rep(
                number=i + 1,
                side=side,
                full=full,
                lift=lift,
                top_hold=_pause(lift, lower),
                lower=lower,
                bottom_hold=_pause(lower, after) if after else None,
                measure=drive.measure,
                from_deg=drive.degrees(c.lift.from_deg),
                to_deg=drive.degrees(c.lift.to_deg),
            )
        )
    return out


def _pause(before: Span, after: Span) -> Span | None:
    if after.start_s - before.end_s < EDGE.shortest_pause_s:
        return None
    return Span(
        before.end_s,
        after.start_s,
        before.end_u_s,
        after.start_u_s,
        before.end_seen,
        after.start_seen,
    )


def _as_seen(span: Span, drive: DriveSignal) -> Span:
    """The span with whether each of its ends was seen: no lost sample may lie about it, and no long
    gap near it within the phase, as the course that is drawn through a gap draws the ends along."""
    if not drive.lost.any():
        return span
    near_s = EDGE.gap_near_share * span.length_s
    long = drive.lost & _in_long_gap(drive)

    def seen(at_s: float, inside: tuple[float, float]) -> bool:
        about = span_of(drive.time_s, at_s - EDGE.seen_about_s, at_s + EDGE.seen_about_s)
        within = span_of(drive.time_s, *inside)
        return not (drive.lost[about].any() or long[within].any())

    return replace(
        span,
        start_seen=seen(span.start_s, (span.start_s, span.start_s + near_s)),
        end_seen=seen(span.end_s, (span.end_s - near_s, span.end_s)),
    )


def _in_long_gap(drive: DriveSignal) -> Flags:
    """(N,) the samples of gaps that are long enough to bend the course of a phase."""
    out = np.zeros(len(drive.lost), dtype=bool)
    for a, b in runs(drive.lost):
        out[a:b] = (b - a) / drive.rate_hz >= EDGE.long_gap_s
    return out


def _turned(before: Span, after: Span, drive: DriveSignal) -> tuple[Span, Span]:
    """Two phases that follow one another. A turn without a hold is one moment, seen by both or by
    none; in a hold with a long gap there may have been more turns."""
    within = span_of(drive.time_s, before.end_s, after.start_s)
    longest = max((b - a for a, b in runs(drive.lost[within])), default=0) / drive.rate_hz
    both = before.end_seen and after.start_seen
    if longest >= EDGE.gap_in_hold_s:
        both = False
    elif after.start_s - before.end_s >= EDGE.shortest_pause_s:
        return before, after
    return replace(before, end_seen=both), replace(after, start_seen=both)
