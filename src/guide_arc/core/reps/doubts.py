"""Where the count of reps may be wrong, said with the moment to look at."""

from __future__ import annotations

import itertools
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from typing import Final

import numpy as np

from guide_arc.core.kinematics.vectors import runs
from guide_arc.core.model.rep import Rep, WorkSide
from guide_arc.core.reps.candidates import Candidate, usual_size
from guide_arc.core.reps.drive import DriveSignal
from guide_arc.core.reps.rules import REP

# Short reps among full ones, as a share of a set's: more are meant.
_SEVERAL: Final = 0.25


@dataclass(frozen=True)
class Doubt:
    """Where to look, and what may be wrong there in words. hardly : the rep that may be none"""

    at_s: float
    words: str
    hardly: tuple[WorkSide, int] | None = None


def doubts_of(
    reps: tuple[Rep, ...], cut: Iterable[Candidate], strays: Iterable[Candidate]
) -> tuple[Doubt, ...]:
    """The doubts about a set.

    cut : the reps as they were cut, in any order; strays : what nearly passed for a rep
    """
    out: list[Doubt] = []
    sizes = {c.lift.span.start_s: c.size_deg for c in cut}
    usual = usual_size(np.array(list(sizes.values()))) if sizes else 0.0
    for rep in reps:
        share = sizes.get(rep.start_s, 0.0) / usual if usual else 0.0
        if abs(share - REP.full_share) < REP.near_threshold_share:
            out.append(Doubt(rep.turn_s, f"rep {rep.number} is on the edge between full and short"))
        elif share < REP.no_rep_share + REP.near_threshold_share:
            words = f"rep {rep.number} is hardly large enough for a rep"
            out.append(Doubt(rep.turn_s, words, rep.key))
    counted = {rep.start_s for rep in reps}
    for start, size in sizes.items():
        if start not in counted and size >= REP.no_rep_share * usual:
            words = (
                f"at {clock(start)} something as large as a short rep is over too soon for one: not"
                " counted"
            )
            out.append(Doubt(start, words))
    for stray in strays:
        at = stray.lift.span.end_s
        out.append(
            Doubt(at, f"at {clock(at)} something like a rep goes along another path: not counted")
        )
    beside = [(a, b) for a, b in itertools.pairwise(reps) if a.side == b.side]
    rests = [b.start_s - a.end_s for a, b in beside]
    # A hold that is a target in every rep is no break.
    usual_rest = float(np.median(rests)) if rests else 0.0
    for (a, _b), rest in zip(beside, rests, strict=True):
        if rest > max(REP.break_s, 3.0 * usual_rest):
            out.append(
                Doubt(a.end_s, f"{rest:.0f} s of rest after rep {a.number}: counted as one set")
            )
    halves = half_reps(reps, list(cut))
    if halves:
        out.append(
            Doubt(reps[0].start_s, f"looks like one-and-a-half reps: {halves} pairs of two lifts")
        )
    return tuple(sorted(out, key=lambda d: d.at_s))


def doubts_of_noise(reps: tuple[Rep, ...], left_out: Iterable[Candidate]) -> list[Doubt]:
    """More doubts about a recording with a pose model's noise, which stays for a while: that cuts a
    rep in two, makes one of a twitch, and leads one along another path.

    left_out : what is as large as a rep and was not counted; what follows on the set, or leads up
        to it, is reported
    """
    out: list[Doubt] = []
    last_full = max((rep.start_s for rep in reps if rep.full), default=-np.inf)
    short = [rep for rep in reps if not rep.full and rep.start_s < last_full]
    amid = {rep.key for rep in short}
    if len(amid) > max(_SEVERAL * len(reps), 1.0):
        amid = set()
        words = (
            f"{len(short)} of {len(reps)} reps are short, with full ones after them: unless half"
            " reps were asked for, they may be none"
        )
        if not _in_turn(reps):
            out.append(Doubt(short[0].turn_s, words))
    for rep in reps:
        beside = [other.end_s - other.start_s for other in reps if other.side == rep.side]
        share = (rep.end_s - rep.start_s) / float(np.median(beside))
        if rep.key in amid:
            words = f"rep {rep.number} is short and full ones follow it: it may be none"
            out.append(Doubt(rep.turn_s, words, rep.key))
        elif share < REP.over_soon_share:
            words = (
                f"rep {rep.number} is over in {100 * share:.0f} % of the usual time: it may be a"
                " part of one"
            )
            out.append(Doubt(rep.turn_s, words))
        elif share > REP.over_late_share:
            words = f"rep {rep.number} takes {share:.1f} times the usual time: it may be two"
            out.append(Doubt(rep.turn_s, words))
    return out + _beside_the_set(reps, list(left_out))


def doubts_of_gaps(reps: tuple[Rep, ...], drives: Mapping[WorkSide, DriveSignal]) -> list[Doubt]:
    """Stretches in which the arm was not seen for so long that a rep, or the border between two,
    may lie in them."""
    if not reps:
        return []
    usual_s = float(np.median([rep.end_s - rep.start_s for rep in reps]))
    out = []
    for side, drive in drives.items():
        arm = "the arms were" if side == "both" else f"the {side} arm was"
        for a, b in runs(drive.lost):
            start_s, end_s = float(drive.time_s[a]), float(drive.time_s[b - 1])
            if end_s - start_s >= REP.gap_share * usual_s:
                words = (
                    f"{arm} not seen from {clock(start_s)} to {clock(end_s)}: the count of reps may"
                    " be wrong there"
                )
                out.append(Doubt(start_s, words))
    return out


def _in_turn(reps: tuple[Rep, ...]) -> bool:
    """Whether as many short reps follow each full one that another full one follows, as in
    one-and-a-half reps: the set's rule."""
    full = [i for i, rep in enumerate(reps) if rep.full]
    return len(set(np.diff(full))) <= 1


def _beside_the_set(reps: tuple[Rep, ...], left_out: list[Candidate]) -> list[Doubt]:
    """What was left out next to a rep, or next to another such movement."""
    spans = [(rep.start_s, rep.end_s) for rep in reps]
    out: list[Doubt] = []
    waiting = left_out
    while True:
        next_to = [c for c in waiting if _gap(c, spans) < REP.rest_beside_s]
        if not next_to:
            return out
        for c in next_to:
            at = c.lift.span.end_s
            words = (
                f"at {clock(at)} something as large as a rep goes along another path: not counted"
            )
            out.append(Doubt(at, words))
            spans.append((c.lift.span.start_s, c.lower.span.end_s))
        waiting = [c for c in waiting if c not in next_to]


def _gap(c: Candidate, spans: list[tuple[float, float]]) -> float:
    """Seconds to the nearest of some spans."""
    low, high = c.lift.span.start_s, c.lower.span.end_s
    return min((max(start - high, low - end, 0.0) for start, end in spans), default=np.inf)


def half_reps(reps: tuple[Rep, ...], cut: list[Candidate]) -> int:
    """How many times a rep came down half-way only and the next one started from there; 0 unless
    it is the rule of the set (one-and-a-half reps)."""
    if len({rep.side for rep in reps}) != 1 or len(cut) < 4:
        return 0
    ordered = sorted(cut, key=lambda c: c.lift.span.start_s)
    half = [
        REP.half_rep_shares[0]
        < a.lower.size_deg / max(a.lift.size_deg, 1.0)
        < REP.half_rep_shares[1]
        and REP.half_rep_shares[0]
        < b.lift.size_deg / max(b.lower.size_deg, 1.0)
        < REP.half_rep_shares[1]
        for a, b in itertools.pairwise(ordered)
    ]
    pairs = sum(half)
    return pairs if pairs >= 0.4 * len(ordered) else 0


def clock(at_s: float) -> str:
    """A moment as minutes and seconds."""
    return f"{int(at_s // 60)}:{at_s % 60:04.1f}"
