"""hold-missing: a hold that was asked for is missing or too short, at the top, at the bottom, or in
the stretch before the first lift.

Value: the length of the hold that falls shortest of its demand; 0 if there was none (a slow
turning point of less than 0.15 s is no hold). Limit: the rule's percent of that demand. Only the
reps that the standard's scheme names are held to it, and the last rep's bottom hold is never asked
for. An opening stretch counts from when the driving measure came to where the first lift starts.
Unit: seconds.
"""

from __future__ import annotations

from typing import Final

import numpy as np

from guide_arc.core.checks.context import RepValue, SetContext, cannot_tell, summarise, without_reps
from guide_arc.core.checks.phase_time import time_u
from guide_arc.core.checks.rules import CHECK
from guide_arc.core.checks.spec import CheckSpec, FromModel
from guide_arc.core.model.finding import Finding
from guide_arc.core.model.rep import Rep, Span, WorkSide
from guide_arc.core.model.standard import CheckRule, Holds
from guide_arc.core.reps.rules import REP


def hold_missing(ctx: SetContext, rule: CheckRule) -> list[Finding]:
    out: list[Finding] = []
    for side in ctx.work_sides:
        blocked = without_reps(ctx, rule, side, "s")
        if blocked:
            out.append(blocked)
            continue
        reps = ctx.reps_of(side)
        share = rule.limit / 100.0
        # A tempo that was asked for this set holds for all of its reps.
        own = ctx.tempo == ctx.standard.tempo
        scheme = ctx.standard.holds if own else Holds()
        held = tuple(rep for rep in reps if scheme.asks(rep.number, reps[-1].number))
        before_last = tuple(rep for rep in held if rep is not reps[-1])
        top = _held(
            ctx, rule, side, reps=held, hold="top_hold", asked_s=ctx.tempo.top_s or 0.0, share=share
        )
        bottom = _held(
            ctx,
            rule,
            side,
            reps=before_last,
            hold="bottom_hold",
            asked_s=ctx.tempo.bottom_s or 0.0,
            share=share,
        )
        opening = _opening(ctx, rule, side, reps[0], scheme.opening_stretch_s, share)
        asked = [f for f in (top, bottom, opening) if f is not None]
        out.append(max(asked, key=_shortfall) if asked else _nothing_asked(rule, side, reps))
    return out


def _held(
    ctx: SetContext,
    rule: CheckRule,
    side: WorkSide,
    reps: tuple[Rep, ...],
    hold: str,
    asked_s: float,
    share: float,
) -> Finding | None:
    if not asked_s or not reps:
        return None
    every, reps = reps, tuple(rep for rep in reps if _hold_seen(ctx, rep, hold))
    spans: list[Span | None] = [getattr(rep, hold) for rep in reps]
    lengths = [span.length_s if span else 0.0 for span in spans]
    unsure = [
        span.length_u_s if span else _turn_u_s(ctx, rep, hold)
        for span, rep in zip(spans, reps, strict=True)
    ]
    where = hold.split("_", maxsplit=1)[0]
    values = [
        RepValue(
            rep.number,
            length,
            time_u(ctx, length, u),
            rep.turn_s if hold == "top_hold" else rep.end_s,
            where,
        )
        for rep, length, u in zip(reps, lengths, unsure, strict=True)
    ]
    return summarise(
        rule,
        side,
        values,
        "s",
        lambda v: f"{where} hold {v:.1f} s, asked {asked_s:g} s",
        limit=share * asked_s,
        least=True,
        of=len(every),
        else_why=f"the {where} was not seen",
    )


def _hold_seen(ctx: SetContext, rep: Rep, hold: str) -> bool:
    """Whether both edges of a hold were seen, also of one that is none."""
    if hold == "top_hold":
        return rep.turn_seen
    after = next(
        (r for r in ctx.repset.reps if r.side == rep.side and r.number == rep.number + 1), None
    )
    return rep.lower.end_seen and (after is None or after.lift.start_seen)


def _turn_u_s(ctx: SetContext, rep: Rep, hold: str) -> float:
    """How unsure it is that a turn was none but a turn: its two edges met."""
    if hold == "top_hold":
        return float(np.hypot(rep.lift.end_u_s, rep.lower.start_u_s))
    later = [r for r in ctx.repset.reps if r.side == rep.side and r.number == rep.number + 1]
    return float(np.hypot(rep.lower.end_u_s, later[0].lift.start_u_s if later else 0.0))


def _opening(
    ctx: SetContext, rule: CheckRule, side: WorkSide, first: Rep, asked_s: float, share: float
) -> Finding | None:
    if not asked_s:
        return None
    drive = ctx.repset.drives[side]
    if (
        not first.lift.start_seen
        or drive.lost[: int(np.searchsorted(drive.time_s, first.start_s))].any()
    ):
        return cannot_tell(
            rule, side, share * asked_s, "s", "the stretch before the first lift was not seen"
        )
    # A fast lift shows a little before it starts, once the signal is smoothed.
    start = int(np.searchsorted(drive.time_s, first.start_s - CHECK.settle_s))
    level = drive.smooth(REP.turning_cutoff_hz)[: start + 1]
    lengths = []
    for within in (0.5 * drive.intended.tolerance_deg, 2.0 * drive.noise_deg):
        away = np.flatnonzero(
            np.abs(level - level[-1]) > max(within, 0.5 * drive.intended.tolerance_deg)
        )
        since = drive.time_s[int(away[-1]) + 1] if len(away) else drive.time_s[0]
        lengths.append(float(max(first.start_s - since, 0.0)))
    # Noise makes a stretch look left when it was kept: it may have lasted as long as the wider look
    # says.
    length = lengths[0]
    u = float(np.hypot(time_u(ctx, length, first.lift.start_u_s), lengths[1] - lengths[0]))
    value = RepValue(first.number, length, u, first.start_s - length, "opening")
    return summarise(
        rule,
        side,
        [value],
        "s",
        lambda v: f"opening stretch {v:.1f} s, asked {asked_s:g} s",
        limit=share * asked_s,
        least=True,
    )


def _shortfall(f: Finding) -> tuple[int, float]:
    rank = ("ok", "cannot-tell", "near", "off").index(f.verdict)
    return rank, (f.limit - (f.value or 0.0)) / f.limit


def _nothing_asked(rule: CheckRule, side: WorkSide, reps: tuple[Rep, ...]) -> Finding:
    return summarise(
        rule,
        side,
        [RepValue(rep.number, 0.0, 0.0, rep.turn_s) for rep in reps],
        "s",
        lambda _v: "no hold asked",
        limit=0.0,
        least=True,
    )


SPEC: Final = CheckSpec(
    "hold-missing",
    hold_missing,
    "pct",
    170,
    "seconds that the hold lasts",
    picture="time",
    least=True,
    ways=("top", "bottom", "opening"),
    from_model=FromModel("usual", keeps=True),
)
