"""The coach's corrections of the reps that were found: boundaries, splits, merges, deletions.

Each correction finds its rep by a moment; a correction whose rep no longer exists is left out and
reported."""

from __future__ import annotations

from dataclasses import replace
from typing import Final

import numpy as np

from guide_arc.core.kinematics.vectors import span_of
from guide_arc.core.model.rep import Span, WorkSide
from guide_arc.core.model.settings import Correction, Edge
from guide_arc.core.reps.candidates import Candidate, candidates
from guide_arc.core.reps.drive import DriveSignal
from guide_arc.core.reps.movements import Movement, level_at
from guide_arc.core.reps.rules import REP


def corrected(
    cut: list[Candidate], drive: DriveSignal, side: WorkSide, corrections: tuple[Correction, ...]
) -> tuple[list[Candidate], tuple[Correction, ...]]:
    """The reps of one side with the corrections for it, and those that fit nothing any more."""
    out, unfit = list(cut), []
    for change in corrections:
        if change.kind in ("bounds", "partials") or change.side != side:
            continue
        changed = _CHANGES[change.kind](out, drive, change)
        if changed is None:
            unfit.append(change)
        else:
            out = sorted(changed, key=lambda c: c.lift.span.start_s)
    return out, tuple(unfit)


def _whole(c: Candidate) -> Span:
    return Span(c.lift.span.start_s, c.lower.span.end_s)


def _index_at(cut: list[Candidate], at_s: float) -> int | None:
    """The rep under way at a moment; the rest after a rep belongs to it."""
    for i, c in enumerate(cut):
        end = cut[i + 1].lift.span.start_s if i + 1 < len(cut) else c.lower.span.end_s + 0.3
        if c.lift.span.start_s - 1e-6 <= at_s < end:
            return i
    return None


def _moved(cut: list[Candidate], drive: DriveSignal, change: Correction) -> list[Candidate] | None:
    edge, to_s = change.edge, change.to_s
    assert edge is not None
    assert to_s is not None
    gaps = [abs(edge_time(c, edge) - change.at_s) for c in cut]
    if not gaps or min(gaps) > REP.same_edge_s:
        return None
    i = int(np.argmin(gaps))
    before = cut[i - 1].lower.span.end_s if i else float(drive.time_s[0])
    after = cut[i + 1].lift.span.start_s if i + 1 < len(cut) else float(drive.time_s[-1])
    out = list(cut)
    out[i] = _with_edge(cut[i], drive, edge, to_s, before, after)
    return out


def edge_time(c: Candidate, edge: Edge) -> float:
    """When one of the four boundaries of a rep is."""
    span = c.lift.span if edge.startswith("lift") else c.lower.span
    return span.start_s if edge.endswith("start") else span.end_s


def _with_edge(
    c: Candidate, drive: DriveSignal, edge: Edge, to_s: float, before: float, after: float
) -> Candidate:
    """A rep with one boundary moved, limited by its neighbours: a boundary that meets the next one
    of its rep pushes it along."""
    lift, lower = c.lift.span, c.lower.span
    least = REP.shortest_by_hand_s
    if edge == "lift-start":
        start = float(np.clip(to_s, before, lift.end_s - least))
        lift = replace(lift, start_s=start, start_u_s=0.0)
    elif edge == "lift-end":
        end = float(np.clip(to_s, lift.start_s + least, lower.end_s - least))
        lift = replace(lift, end_s=end, end_u_s=0.0)
        if lower.start_s < end:
            lower = replace(lower, start_s=end, start_u_s=0.0)
    elif edge == "lower-start":
        start = float(np.clip(to_s, lift.start_s + least, lower.end_s - least))
        lower = replace(lower, start_s=start, start_u_s=0.0)
        if lift.end_s > start:
            lift = replace(lift, end_s=start, end_u_s=0.0)
    else:
        end = float(np.clip(to_s, lower.start_s + least, after))
        lower = replace(lower, end_s=end, end_u_s=0.0)
    return Candidate(_spanned(c.lift, drive, lift), _spanned(c.lower, drive, lower))


def _spanned(move: Movement, drive: DriveSignal, span: Span) -> Movement:
    return replace(
        move,
        span=span,
        from_deg=level_at(drive, span.start_s),
        to_deg=level_at(drive, span.end_s),
    )


def _deleted(
    cut: list[Candidate], drive: DriveSignal, change: Correction
) -> list[Candidate] | None:
    i = _index_at(cut, change.at_s)
    return None if i is None else cut[:i] + cut[i + 1 :]


def _split(cut: list[Candidate], drive: DriveSignal, change: Correction) -> list[Candidate] | None:
    i = _index_at(cut, change.at_s)
    if i is None:
        return None
    span = _whole(cut[i])
    least = 3 * REP.shortest_by_hand_s
    if not span.start_s + least <= change.at_s <= span.end_s - least:
        return None
    at_s = float(
        np.clip(_lowest_near(drive, change.at_s, span), span.start_s + least, span.end_s - least)
    )
    parts = [
        _rep_within(drive, Span(span.start_s, at_s)),
        _rep_within(drive, Span(at_s, span.end_s)),
    ]
    made = [part for part in parts if part is not None]
    return None if len(made) < 2 else cut[:i] + made + cut[i + 1 :]


def _lowest_near(drive: DriveSignal, at_s: float, span: Span) -> float:
    """Where two reps meet: the low point of the drive about a moment, a hand not being exact."""
    start = max(at_s - REP.same_edge_s, span.start_s + 2 * REP.shortest_by_hand_s)
    near = span_of(
        drive.time_s, start, min(at_s + REP.same_edge_s, span.end_s - 2 * REP.shortest_by_hand_s)
    )
    level = drive.smooth(REP.turning_cutoff_hz)[near]
    i = int(np.argmin(level))
    # A slope has no low point: there the hand has the say.
    return float(drive.time_s[near][i]) if 0 < i < len(level) - 1 else at_s


def _merged(cut: list[Candidate], drive: DriveSignal, change: Correction) -> list[Candidate] | None:
    """A rep and the one after it as one: it turns at the higher of their two turns."""
    i = _index_at(cut, change.at_s)
    if i is None or i + 1 >= len(cut):
        return None
    a, b = cut[i], cut[i + 1]
    if b.lift.to_deg > a.lift.to_deg:
        lift = _from_to(a.lift.span, b.lift.span)
        lower = b.lower.span
    else:
        lift = a.lift.span
        lower = _from_to(a.lower.span, b.lower.span)
    one = Candidate(_spanned(a.lift, drive, lift), _spanned(b.lower, drive, lower))
    return [*cut[:i], one, *cut[i + 2 :]]


def _from_to(first: Span, last: Span) -> Span:
    return Span(first.start_s, last.end_s, first.start_u_s, last.end_u_s)


def _added(cut: list[Candidate], drive: DriveSignal, change: Correction) -> list[Candidate] | None:
    """The rep that was missed about a moment, between the reps before and after it."""
    at_s = change.at_s
    before = max((c.lower.span.end_s for c in cut if c.lower.span.end_s <= at_s), default=None)
    after = min((c.lift.span.start_s for c in cut if c.lift.span.start_s >= at_s), default=None)
    if any(c.lift.span.start_s < at_s < c.lower.span.end_s for c in cut):
        return None
    start = float(drive.time_s[0]) if before is None else before
    end = float(drive.time_s[-1]) if after is None else after
    missed = _rep_within(drive, Span(start, end), near_s=at_s)
    return None if missed is None else [*cut, missed]


def _rep_within(drive: DriveSignal, span: Span, near_s: float | None = None) -> Candidate | None:
    """The largest rep within a stretch of the drive, or the one about a moment.

    Where the drive shows no clear turn there, its highest sample is the turn.
    """
    part = drive.within(span)
    if part is None:
        return None
    found = candidates(part, usual_deg=REP.size_floor_deg)
    if near_s is not None:
        about = (
            c for c in found if c.lift.span.start_s - 0.3 <= near_s <= c.lower.span.end_s + 0.3
        )
        one = next(about, None)
        return None if one is None else _inside(one, drive, span)
    if found:
        return _inside(max(found, key=lambda c: c.size_deg), drive, span)
    level = part.smooth(REP.turning_cutoff_hz)
    top = float(part.time_s[int(np.argmax(level))])
    turn = float(
        np.clip(top, span.start_s + REP.shortest_by_hand_s, span.end_s - REP.shortest_by_hand_s)
    )
    if span.length_s < 3 * REP.shortest_by_hand_s:
        return None
    lift = Movement(1, Span(span.start_s, turn), 0.0, 0.0, float(np.max(part.speed(3.0))))
    lower = Movement(-1, Span(turn, span.end_s), 0.0, 0.0, float(-np.min(part.speed(3.0))))
    return Candidate(_spanned(lift, drive, lift.span), _spanned(lower, drive, lower.span))


def _inside(c: Candidate, drive: DriveSignal, span: Span) -> Candidate:
    """A rep held within a stretch: the fit of its course may have placed an end outside."""
    if span.start_s <= c.lift.span.start_s and c.lower.span.end_s <= span.end_s:
        return c
    turn = float(np.clip(c.lift.span.end_s, span.start_s, span.end_s))
    back = float(np.clip(c.lower.span.start_s, turn, span.end_s))
    lift = Span(float(np.clip(c.lift.span.start_s, span.start_s, turn)), turn)
    lower = Span(back, float(np.clip(c.lower.span.end_s, back, span.end_s)))
    return Candidate(_spanned(c.lift, drive, lift), _spanned(c.lower, drive, lower))


_CHANGES: Final = {
    "edge": _moved,
    "delete": _deleted,
    "split": _split,
    "merge": _merged,
    "add": _added,
}
