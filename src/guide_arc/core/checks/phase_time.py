"""How long a phase took against what was asked: shared by the tempo checks."""

from __future__ import annotations

from functools import partial
from typing import Final

import numpy as np

from guide_arc.core.checks.context import (
    NOTHING_SEEN,
    RepValue,
    SetContext,
    summarise,
    without_reps,
)
from guide_arc.core.checks.rules import CHECK
from guide_arc.core.kinematics.vectors import runs, span_of
from guide_arc.core.model.finding import Finding
from guide_arc.core.model.rep import Rep, Span
from guide_arc.core.model.standard import CheckRule
from guide_arc.core.reps.candidates import usual_size
from guide_arc.core.reps.rules import REP


def time_u(ctx: SetContext, length_s: float, edges_u_s: float) -> float:
    """Standard uncertainty of a duration: both ends to half a frame, and how unsure the two edges
    are, which is never less than a share of the duration as blur each."""
    pictured = ctx.body.cleaned.track.view != "none"
    blur = CHECK.picture_blur_share if pictured else CHECK.blur_share
    frames = np.sqrt(2.0) * 0.5 * ctx.body.step_s
    return float(np.hypot(frames, max(np.sqrt(2.0) * blur * length_s, edges_u_s)))


def phase_too_short(
    ctx: SetContext, rule: CheckRule, phase: str, asked_s: float | None
) -> list[Finding]:
    """One finding per working side on a phase that should last a share of the asked time.

    phase : "lift" or "lower"; rule.limit is that share in percent
    """
    out: list[Finding] = []
    for side in ctx.work_sides:
        blocked = without_reps(ctx, rule, side, "s")
        if blocked:
            out.append(blocked)
            continue
        reps = ctx.reps_of(side)
        timed = tuple(rep for rep in reps if getattr(rep, phase).seen)
        limit = rule.limit / 100.0 * (asked_s or 0.0)
        asked = f"asked {asked_s:g} s" if asked_s else "no time asked"
        word = {"lift": "lift", "lower": "lowering"}[phase]
        out.append(
            summarise(
                rule,
                side,
                [
                    _value(ctx, rep, getattr(rep, phase))
                    for rep in _going_all_the_way(ctx, timed, phase)
                ],
                "s",
                partial(_timed_words, word, asked),
                limit=limit,
                least=True,
                of=len(reps),
                else_why=_lost_words(ctx, word, reps, phase),
            )
        )
    return out


def phase_too_long(
    ctx: SetContext, rule: CheckRule, phase: str, asked_s: float | None
) -> list[Finding]:
    """One finding per working side on a phase that may last no longer than a share of a time.

    phase : "lift" or "lower"; rule.limit is that share in percent, and with no time nothing is
        asked
    """
    out: list[Finding] = []
    word = {"lift": "lift", "lower": "lowering"}[phase]
    for side in ctx.work_sides:
        blocked = without_reps(ctx, rule, side, "s")
        if blocked:
            out.append(blocked)
            continue
        every = ctx.reps_of(side)
        timed = tuple(rep for rep in every if getattr(rep, phase).seen)
        reps = _going_all_the_way(ctx, timed, phase)
        limit = rule.limit / 100.0 * asked_s if asked_s else NO_LIMIT_S
        asked = f"at most {limit:.1f} s" if asked_s else "no time asked"
        values = [_value(ctx, rep, getattr(rep, phase)) for rep in reps]
        out.append(
            summarise(
                rule,
                side,
                values,
                "s",
                partial(_timed_words, word, asked),
                limit=limit,
                of=len(every),
                else_why=_lost_words(ctx, word, every, phase),
            )
        )
    return out


# A stretch that is shorter says nothing of how long a phase took.
AT_LEAST_S: Final = 0.3
# Longer than any phase of a rep: what nobody asks for is never too long.
NO_LIMIT_S: Final = 3600.0


def _going_all_the_way(ctx: SetContext, reps: tuple[Rep, ...], phase: str) -> tuple[Rep, ...]:
    """The reps whose phase covers at least 70 % of the usual way: half a lowering, as in
    one-and-a-half reps or in partials after failure, is not asked to last as long as a whole
    one."""
    if not reps:
        return ()
    sizes = []
    for rep in reps:
        drive, span = ctx.repset.drives[rep.side], getattr(rep, phase)
        ends = np.interp((span.start_s, span.end_s), drive.time_s, drive.lift_deg)
        sizes.append(abs(float(ends[1] - ends[0])))
    least = REP.full_share * usual_size(np.array(sizes))
    return tuple(rep for rep, size in zip(reps, sizes, strict=True) if size >= least)


def _value(ctx: SetContext, rep: Rep, span: Span) -> RepValue:
    middle = 0.5 * (span.start_s + span.end_s)
    u = time_u(ctx, span.length_s, span.length_u_s)
    return RepValue(rep.number, span.length_s, u, middle)


def _lost_words(ctx: SetContext, word: str, reps: tuple[Rep, ...], phase: str) -> str:
    """Why nothing is timed, with what can still be said: what was seen of a phase is the least that
    it took."""
    spans: list[Span] = [getattr(rep, phase) for rep in reps]
    if all(span.seen for span in spans):
        return NOTHING_SEEN
    least_s = 0.0
    for rep, span in zip(reps, spans, strict=True):
        drive = ctx.repset.drives[rep.side]
        within = span_of(drive.time_s, span.start_s, span.end_s)
        seen = [b - a for a, b in runs(~drive.lost[within])]
        least_s = max(least_s, max(seen, default=0) / drive.rate_hz)
    at_least = f"; it took at least {least_s:.1f} s" if least_s >= AT_LEAST_S else ""
    return f"the ends of the {word} were not seen{at_least}"


def _timed_words(word: str, asked: str, seconds: float) -> str:
    return f"{word} {seconds:.1f} s, {asked}"
