"""What a check sees, and how rep values become one finding. Shared by all checks."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass, field, replace
from typing import Final

import numpy as np

from guide_arc.core.checks.rules import CHECK
from guide_arc.core.kinematics.body import Body
from guide_arc.core.kinematics.pose_fit import Style, fitted_arm
from guide_arc.core.kinematics.vectors import Array, median, span_of
from guide_arc.core.kinematics.views import shows
from guide_arc.core.model.finding import Finding, RepVerdict, Verdict, judge
from guide_arc.core.model.landmarks import SIDES, Side
from guide_arc.core.model.quantity import Series
from guide_arc.core.model.rep import Rep, Span, WorkSide
from guide_arc.core.model.standard import CheckRule, Standard, Tempo
from guide_arc.core.model.track import View
from guide_arc.core.reps.driven import driven, shows_the_whole_way
from guide_arc.core.reps.segment import RepSet


@dataclass(frozen=True)
class ArmEnds:
    """One arm's driving measure at the two ends of a rep, with their standard uncertainties.

    u : the measure's own, which both arms have apart; start_u, turn_u : with that of the rep's
        edges, which they share
    start_seen, turn_seen : which end was seen; the other's angle is NaN
    """

    start_deg: float
    turn_deg: float
    start_s: float
    turn_s: float
    u: float
    start_u: float
    turn_u: float
    start_seen: bool = True
    turn_seen: bool = True


@dataclass(frozen=True, eq=False)
class SetContext:
    """A measured set: the body over time and its reps, against one standard.

    ends, settled : what was already found, as several checks ask for the same
    """

    standard: Standard
    tempo: Tempo
    body: Body
    repset: RepSet
    ends: dict[tuple[Side, WorkSide, int], ArmEnds | None] = field(default_factory=dict, repr=False)
    settled: dict[str, Array] = field(default_factory=dict, repr=False)

    @property
    def sides(self) -> tuple[Side, ...]:
        """The arms that a limb's check is about."""
        return SIDES if self.repset.side == "both" else (self.repset.side,)

    @property
    def work_sides(self) -> tuple[WorkSide, ...]:
        """The sides that carry reps: "both" together, each arm when they alternate."""
        if self.repset.alternating:
            return SIDES
        return (self.repset.side,)

    @property
    def judged(self) -> tuple[Rep, ...]:
        """The reps but for those that may be none."""
        hardly = {d.hardly for d in self.repset.doubts}
        return tuple(r for r in self.repset.reps if r.key not in hardly)

    def reps_of(self, side: WorkSide) -> tuple[Rep, ...]:
        """The reps in which a side works, without the partial ones that are asked for after the
        last full one, and without those that may be none."""
        own = [r for r in self.judged if side == "both" or r.side in (side, "both")]
        asked = self.standard.dose.partials
        while asked and own and not own[-1].full:
            own.pop()
            asked -= 1
        return tuple(own)

    def driven(self, side: Side) -> Series:
        """The driving measure as one arm's own."""
        return driven(self.body, self.standard, side)

    def fitted(
        self, measure: str, side: Side, free: tuple[Style, ...] = (), *, change: bool = False
    ) -> Series | None:
        """A measure of the pose that fits the picture best; None if no pose was fitted. free : see
        `fitted_arm`;
        change : with the uncertainty of what it changed by since the lift began"""
        fit = fitted_arm(self.body, self.standard, side, free)
        if fit is None:
            return None
        u = fit.change_u if change else fit.u
        name = f"{side} {measure} fitted {' '.join(free)}"
        return Series(name, "deg", fit.value[measure], u[measure])

    @property
    def view(self) -> View:
        return self.body.cleaned.track.view

    def samples(self, measure: str, side: Side | None, span: Span) -> tuple[Array, Array, Array]:
        """(N,) times, values and standard uncertainties within a span, settled over 0.25 s."""
        return self.samples_of(self.body.measure(measure, side), span)

    def samples_of(self, series: Series, span: Span) -> tuple[Array, Array, Array]:
        """The same of any series over the recording."""
        body = self.body
        window = span_of(body.time_s, span.start_s, span.end_s)
        if series.name not in self.settled:
            seen = np.isfinite(series.value)
            whole = np.full(len(series.value), np.nan)
            whole[seen] = settled(body.time_s[seen], series.value[seen])
            self.settled[series.name] = whole
        value = self.settled[series.name][window]
        seen = np.isfinite(value)
        return body.time_s[window][seen], value[seen], series.u[window][seen]

    def lift_seen(self, side: Side, rep: Rep) -> bool:
        """Whether an arm was seen all through a lift."""
        inside = span_of(self.body.time_s, rep.lift.start_s, rep.lift.end_s)
        return rep.lift.seen and not bool(self.body.lost(rep.measure, side)[inside].any())

    def as_seen(
        self, measure: str, side: Side | None, rep: Rep, value: RepValue | None
    ) -> RepValue | None:
        """A rep's value, marked as seen in part where the measure's landmarks were lost for a good
        part of the rep."""
        if value is None or not value.whole:
            return value
        lost = self.body.lost(measure, side)[span_of(self.body.time_s, rep.start_s, rep.end_s)]
        if not len(lost) or lost.mean() <= CHECK.lost_share:
            return value
        return replace(value, whole=False)

    def around(self, measure: str, side: Side | None, at_s: float, half_s: float = 0.12) -> float:
        """The median of a measure about a moment; NaN if it was not seen."""
        return self.around_of(self.body.measure(measure, side), at_s, half_s)

    def around_of(self, series: Series, at_s: float, half_s: float = 0.12) -> float:
        """The same of any series over the recording."""
        value = series.value[span_of(self.body.time_s, at_s - half_s, at_s + half_s)]
        return median(value[np.isfinite(value)])


NOTHING_SEEN: Final = "the landmarks are missing where it counts"


@dataclass(frozen=True)
class RepValue:
    """A check's value on one rep with its standard uncertainty, and when it shows.

    way : in which of the check's ways it departs; words : the text of the finding, if the value
        alone is not enough
    whole : whether all was seen that the value rests on; what was seen in part can be past its
        limit, but not within"""

    rep: int
    value: float
    u: float
    at_s: float
    way: str = ""
    words: str = ""
    whole: bool = True


def settled(time_s: Array, value: Array, over_s: float | None = None) -> Array:
    """(N,) moving mean over a quarter of a second, or a time, shrinking towards the ends."""
    if len(value) < 3:
        return value
    half = 0.5 * (over_s or CHECK.settle_s)
    total = np.concatenate(([0.0], np.cumsum(value)))
    a = np.searchsorted(time_s, time_s - half)
    b = np.searchsorted(time_s, time_s + half, side="right")
    out: Array = (total[b] - total[a]) / (b - a)
    return out


def cannot_tell(
    rule: CheckRule, side: WorkSide, limit: float, unit: str, why: str, *, by_view: bool = False
) -> Finding:
    """A finding without a verdict, with the reason. by_view : whether the view is the reason."""
    return Finding(
        rule=rule,
        verdict="cannot-tell",
        side=side,
        reps=(),
        value=None,
        uncertainty=None,
        limit=limit,
        unit=unit,
        at_s=None,
        says="can't tell",
        why=why,
        by_view=by_view,
    )


def hidden(
    ctx: SetContext,
    rule: CheckRule,
    measure: str,
    side: Side | None,
    unit: str,
    *,
    by_fit: bool = False,
) -> Finding | None:
    """A cannot-tell finding when the recording does not show a measure; None when it does."""
    worn: WorkSide = side or "both"
    if by_fit and side is not None and fitted_arm(ctx.body, ctx.standard, side) is not None:
        return None if ctx.reps_of(worn) else no_rep(ctx, rule, worn, unit)
    if not ctx.body.shows(measure, side):
        view = ctx.body.cleaned.track.view
        if not ctx.body.points_at_camera(measure) and shows(view, measure, side):
            return cannot_tell(
                rule, worn, rule.limit, unit, "its landmarks are missing from the track"
            )
        ahead = ctx.body.points_at_camera(measure)
        why = (
            f"from the {view} the trunk points at the camera"
            if ahead
            else f"hidden from the {view}"
        )
        return cannot_tell(rule, worn, rule.limit, unit, why, by_view=True)
    return None if ctx.reps_of(worn) else no_rep(ctx, rule, worn, unit)


def no_rep(ctx: SetContext, rule: CheckRule, side: WorkSide, unit: str) -> Finding:
    """A cannot-tell finding if there is no rep to judge: none was found, or the view hides the
    measure that counts them."""
    view = ctx.body.cleaned.track.view
    by_view = not ctx.repset.drives and view != "none"
    why = (
        "no rep was found in this recording"
        if ctx.repset.drives
        else (
            f"the {view} view hides the movement that counts reps"
            if by_view
            else "the landmarks that count reps are missing from the track"
        )
    )
    return cannot_tell(rule, side, rule.limit, unit, why, by_view=by_view)


def leans_to_camera(ctx: SetContext) -> bool:
    """Whether the setup's trunk leans towards or away from a camera in front or behind."""
    leans = max(abs(deg) for deg in ctx.standard.trunk_lean_deg) > CHECK.leans_from_deg
    return leans and ctx.body.cleaned.track.view in ("front", "back")


def looks_shorter(view: View) -> str:
    return f"from the {view} the leaning trunk looks shorter than it is"


def without_reps(ctx: SetContext, rule: CheckRule, side: WorkSide, unit: str) -> Finding | None:
    """A cannot-tell finding for the checks of range and timing: without a rep, and where a part of
    the lift looks as if the arm stood still."""
    if not ctx.reps_of(side):
        return no_rep(ctx, rule, side, unit)
    if shows_the_whole_way(ctx.body, ctx.standard):
        return None
    why = f"from the {ctx.view} the arm seems to stand still on a part of its way"
    return cannot_tell(rule, side, rule.limit, unit, why, by_view=True)


def summarise(
    rule: CheckRule,
    side: WorkSide,
    values: Iterable[RepValue],
    unit: str,
    says: Callable[[float], str],
    *,
    limit: float | None = None,
    least: bool = False,
    of: int = 0,
    else_why: str = NOTHING_SEEN,
) -> Finding:
    """One finding from the values of the reps.

    least : the limit is the smallest allowed value, and smaller values are worse
    of : how many reps there are; where fewer than half of them were seen, they show nothing but
        what is past its limit
    else_why : what is said where nothing is left to judge The finding carries its worst verdict,
        the reps that have it, and the worst of them.
    """
    bound = rule.limit if limit is None else limit
    sign = -1.0 if least else 1.0
    known = [v for v in values if np.isfinite(v.value) and np.isfinite(v.u)]
    known = [v for v in known if v.whole or judge(sign * v.value, 2.0 * v.u, sign * bound) == "off"]
    judged = [
        RepVerdict(
            v.rep, v.value, 2.0 * v.u, v.at_s, judge(sign * v.value, 2.0 * v.u, sign * bound)
        )
        for v in known
    ]
    if not judged:
        return cannot_tell(rule, side, bound, unit, else_why)
    worst_verdict: Verdict = next(
        v for v in ("off", "near", "ok") if any(j.verdict == v for j in judged)
    )
    if worst_verdict != "off" and len(judged) < 0.5 * of:
        why = f"it was seen in only {len(judged)} of {of} reps"
        return cannot_tell(rule, side, bound, unit, why)
    carrying = [j for j in judged if j.verdict == worst_verdict]
    worst = max(carrying, key=lambda j: sign * j.value)
    told = known[judged.index(worst)]
    out = Finding(
        rule=rule,
        verdict=worst_verdict,
        side=side,
        reps=tuple(j.rep for j in carrying),
        value=worst.value,
        uncertainty=worst.uncertainty,
        limit=bound,
        unit=unit,
        at_s=worst.at_s,
        says=told.words or says(worst.value),
        per_rep=tuple(judged),
        way=told.way,
        least=least,
    )
    if worst_verdict == "near" and worst.uncertainty > bound > 0 and not out.hint:
        return replace(out, verdict="cannot-tell", why="the recording is too noisy for this limit")
    return out


def per_limb(
    ctx: SetContext,
    rule: CheckRule,
    measure: str,
    unit: str,
    value_of: Callable[[Side, Rep], RepValue | None],
    says: Callable[[float], str],
    *,
    limit: float | None = None,
    else_why: Callable[[Side], str] = lambda _side: NOTHING_SEEN,
    by_fit: bool = False,
) -> list[Finding]:
    """The usual shape of a limb's check: a value per rep, one finding per working arm.

    else_why : what is said of an arm of which nothing is left to judge
    """
    out: list[Finding] = []
    for side in ctx.sides:
        blocked = hidden(ctx, rule, measure, side, unit, by_fit=by_fit)
        if blocked:
            out.append(blocked)
            continue
        reps = ctx.reps_of(side)
        found = [ctx.as_seen(measure, side, rep, value_of(side, rep)) for rep in reps]
        values = [v for v in found if v is not None]
        out.append(
            summarise(
                rule, side, values, unit, says, limit=limit, of=len(reps), else_why=else_why(side)
            )
        )
    return out


def per_trunk(
    ctx: SetContext,
    rule: CheckRule,
    measure: str,
    unit: str,
    value_of: Callable[[Rep], RepValue | None],
    says: Callable[[float], str],
) -> list[Finding]:
    """The usual shape of a trunk's check: one finding for the whole body."""
    blocked = hidden(ctx, rule, measure, None, unit)
    if blocked:
        return [blocked]
    found = [ctx.as_seen(measure, None, rep, value_of(rep)) for rep in ctx.judged]
    values = [v for v in found if v is not None]
    return [summarise(rule, "both", values, unit, says, of=len(ctx.judged))]


def whole(rep: Rep) -> Span:
    """From the start of the lift to the end of the lower."""
    return Span(rep.start_s, rep.end_s)


def surest(rep: Rep, time_s: Array, value: Array, u: Array) -> RepValue | None:
    """The value of a rep that is surely the largest, where some moments are seen better than
    others."""
    if not len(value):
        return None
    i = int(np.argmax(value - 2.0 * u))
    return RepValue(rep.number, float(value[i]), float(u[i]), float(time_s[i]))


def largest(rep: Rep, time_s: Array, value: Array, u: Array) -> RepValue | None:
    """The largest value of a rep and when it shows."""
    if not len(value):
        return None
    i = int(np.argmax(value))
    return RepValue(rep.number, float(value[i]), float(u[i]), float(time_s[i]))
