"""hold-missing: a hold that was asked for is missing or too short, at the top or at the bottom.

Value: the length of the hold that falls shorter of its demand; 0 where there was none (a slow
turning point of less than 0.15 s is no hold). Limit: the rule's percent of that demand. The
last rep's bottom hold is never asked for. Unit: seconds.
"""

from __future__ import annotations

from guide_arc.core.checks.context import RepValue, SetContext, drive_hidden, summarise
from guide_arc.core.checks.phase_time import time_u
from guide_arc.core.model.finding import Finding
from guide_arc.core.model.rep import Rep, Span, WorkSide
from guide_arc.core.model.standard import CheckRule


def hold_missing(ctx: SetContext, rule: CheckRule) -> list[Finding]:
    out: list[Finding] = []
    for side in ctx.work_sides:
        blocked = drive_hidden(ctx, rule, side, "s")
        if blocked:
            out.append(blocked)
            continue
        reps = ctx.reps_of(side)
        share = rule.limit / 100.0
        top = _held(ctx, rule, side, reps, "top_hold", ctx.tempo.top_s or 0.0, share)
        bottom = _held(ctx, rule, side, reps[:-1], "bottom_hold", ctx.tempo.bottom_s or 0.0, share)
        asked = [f for f in (top, bottom) if f is not None]
        out.append(max(asked, key=_shortfall) if asked else _nothing_asked(rule, side, reps))
    return out


def _held(  # noqa: PLR0913
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
    values = []
    for rep in reps:
        span: Span | None = getattr(rep, hold)
        at = rep.turn_s if hold == "top_hold" else rep.end_s
        length = span.length_s if span else 0.0
        values.append(RepValue(rep.number, length, time_u(ctx, length), at))
    where = hold.split("_", maxsplit=1)[0]
    return summarise(
        rule, side, values, "s",
        lambda v: f"{where} hold {v:.1f} s, asked {asked_s:g} s",
        limit=share * asked_s, least=True,
    )  # fmt: skip


def _shortfall(f: Finding) -> tuple[int, float]:
    rank = ("ok", "cannot-tell", "near", "off").index(f.verdict)
    return rank, (f.limit - (f.value or 0.0)) / f.limit


def _nothing_asked(rule: CheckRule, side: WorkSide, reps: tuple[Rep, ...]) -> Finding:
    return summarise(
        rule, side, [RepValue(rep.number, 0.0, 0.0, rep.turn_s) for rep in reps], "s",
        lambda _v: "no hold asked", limit=0.0, least=True,
    )  # fmt: skip
