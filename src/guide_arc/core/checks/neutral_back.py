"""neutral-back: the spine rounds or arches under load, although it should keep its natural bend.

Value: by how much the bend of the spine (`spine_bend`) leaves the bend that the person has at rest,
upright, before or after the set; where no rest was recorded, a usual bend, with the spread of
people as its uncertainty. The change since the start of the first rep is judged as well; it needs
no rest position: it holds what happens within a rep and what grows from rep to rep. Of the two the
one that is surer past the limit counts. Unit: degrees.

Without the lowest rib and the base of the neck only part of it shows, from the side or in space: an
upright person who leans back from the hips, or a push-up whose hips sag below the line from
shoulders to knees (Finding.partly). The back of a person who bends forward or sits cannot be judged
then."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from typing import Final

import numpy as np

from guide_arc.core.checks.context import (
    RepValue,
    SetContext,
    cannot_tell,
    no_rep,
    settled,
    summarise,
    whole,
)
from guide_arc.core.checks.rules import CHECK, SPINE
from guide_arc.core.checks.spec import CheckSpec
from guide_arc.core.kinematics.body import Body
from guide_arc.core.kinematics.rules import FIT
from guide_arc.core.kinematics.trunk import middle
from guide_arc.core.kinematics.vectors import Array, length, median, span_of
from guide_arc.core.kinematics.views import near_side
from guide_arc.core.model.finding import Finding
from guide_arc.core.model.rep import Rep
from guide_arc.core.model.standard import CheckRule, Standard

SPINE_POINTS: Final = ("neck", "mid_spine")


def neutral_back(ctx: SetContext, rule: CheckRule) -> list[Finding]:
    view = ctx.body.cleaned.track.view
    if view in ("front", "back"):
        why = f"hidden from the {view}"
        return [cannot_tell(rule, "both", rule.limit, "deg", why, by_view=True)]
    if not ctx.repset.reps:
        return [no_rep(ctx, rule, "both", "deg")]
    if ctx.body.shows("spine_bend", None):
        return [_by_the_spine(ctx, rule)]
    if shown_by_hips(ctx.standard):
        return [_by_the_hips(ctx, rule)]
    why = (
        "the lowest rib and the base of the neck are not marked; "
        "mark both to see whether the back keeps its bend"
    )
    return [cannot_tell(rule, "both", rule.limit, "deg", why)]


def shown_by_hips(standard: Standard) -> bool:
    """Whether shoulders, hips and knees show the danger of this exercise: arching of an upright
    person, or sagging in a push-up. A back that rounds, bent ahead or seated, shows in the spine
    alone."""
    lean = abs(float(np.mean(standard.trunk_lean_deg)))
    upright = standard.base == "standing" and lean <= SPINE.upright_until_deg
    return upright or standard.base == "plank"


# By the spine


def _by_the_spine(ctx: SetContext, rule: CheckRule) -> Finding:
    rest_deg, rest_u = rest_bend(ctx.body, ctx.repset.reps)
    first = ctx.around("spine_bend", None, ctx.repset.reps[0].start_s)
    noise_u = spine_noise_u(ctx)
    drawn = ctx.body.cleaned.track.view != "none"

    def value_of(rep: Rep) -> RepValue | None:
        time, bend, u = ctx.samples("spine_bend", None, whole(rep))
        # A back that gives way stays so for a while; a single sample of it is the tracker's.
        bend = settled(time, bend, CHECK.kept_up_s)
        if len(time) < SPINE.seen_share * _frames(ctx, rep):
            return None
        found = [
            _most(ctx, rep, time, bend - rest_deg, np.hypot(u, rest_u), ""),
            _most(ctx, rep, time, bend - first, np.full(len(bend), noise_u), " further"),
        ]
        if drawn:
            # An off-axis camera makes a bend, and its change, look larger or smaller.
            found = [_in_a_picture(v) for v in found]
        return max(found, key=lambda v: v.value - 2.0 * v.u)

    values = [value_of(rep) for rep in ctx.judged]
    seen = [v for v in values if v is not None and np.isfinite(v.value)]
    return summarise(
        rule, "both", seen, "deg", lambda _v: "back keeps its bend", of=len(ctx.judged)
    )


def _in_a_picture(v: RepValue) -> RepValue:
    u = float(np.hypot(v.u, SPINE.picture_share * v.value))
    return RepValue(v.rep, v.value, u, v.at_s, v.way, v.words)


def _most(ctx: SetContext, rep: Rep, time: Array, off: Array, u: Array, further: str) -> RepValue:
    """The largest departure of a rep, forward or back, and how it is said."""
    i = int(np.argmax(np.abs(off)))
    at_s, size = float(time[i]), float(abs(off[i]))
    way = "round" if off[i] > 0 else "arch"
    part = _part_that_gives(ctx, rep, at_s, way)
    verb = {"round": "rounds", "arch": "arches"}[way]
    words = f"{part} {verb} {size:.0f}°{further}" if size >= SPINE.said_from_deg else ""
    return RepValue(rep.number, size, float(u[i]), at_s, way, words)


def _part_that_gives(ctx: SetContext, rep: Rep, at_s: float, way: str) -> str:
    """Which part of the back moves within the rep, by how each turns: the one that turns twice as
    far as the other."""
    points, time_s = ctx.body.points, ctx.body.time_s
    sign = 1.0 if way == "round" else -1.0
    upper_deg: list[float] = []
    lower_deg: list[float] = []
    for moment in (rep.start_s, at_s):
        about = span_of(time_s, moment - 0.12, moment + 0.12)
        hips = 0.5 * (points["left_hip"][about] + points["right_hip"][about])
        rib, neck = points["mid_spine"][about], points["neck"][about]
        for part, out in ((neck - rib, upper_deg), (rib - hips, lower_deg)):
            lean = np.degrees(np.arctan2(part[:, 2], part[:, 1]))
            out.append(median(lean[np.isfinite(lean)]))
    # The upper part rounds by going ahead of the lower one, the lower part by falling behind the
    # upper one.
    upper = sign * _turned(*upper_deg)
    lower = -sign * _turned(*lower_deg)
    if max(upper, lower) < SPINE.part_from_deg:
        return "back"
    if upper > 2.0 * abs(lower):
        return "upper back"
    return "lower back" if lower > 2.0 * abs(upper) else "back"


def _turned(from_deg: float, to_deg: float) -> float:
    """Degrees from one direction to another, the short way round."""
    return (to_deg - from_deg + 180.0) % 360.0 - 180.0


def rest_bend(body: Body, reps: Sequence[Rep]) -> tuple[float, float]:
    """The bend at rest with its standard uncertainty: from upright frames outside the reps,
    otherwise a usual value."""
    series, lean = body.measure("spine_bend"), body.measure("trunk_lean").value
    bend = settled(body.time_s, series.value)
    outside = (body.time_s < reps[0].start_s) | (body.time_s > reps[-1].end_s)
    upright = outside & (np.abs(lean) <= SPINE.upright_until_deg) & np.isfinite(bend)
    if upright.sum() * body.step_s >= SPINE.rest_least_s:
        deg = median(bend[upright])
        low, high = SPINE.believed_rest_deg
        if low <= deg <= high:
            return deg, SPINE.own_rest_u_deg
    return SPINE.usual_bend_deg, SPINE.usual_bend_u_deg


def spine_noise_u(ctx: SetContext) -> float:
    """Degrees by which the noise of the landmarks turns the two parts of the spine."""
    points = ctx.body.points
    hips, rib, neck = middle(points, "hip"), points["mid_spine"], points["neck"]
    sigma = ctx.body.cleaned.sigma("mid_spine")
    # Where a model puts the points turns with the parts that they lie on, for about half.
    stays = SPINE.stays_share * FIT.joint_gain * ctx.body.learned.joint_u_m
    noise = float(np.hypot(median(sigma[np.isfinite(sigma)]), stays))
    parts = [length(rib - hips), length(neck - rib)]
    each = [median(m[np.isfinite(m)]) for m in parts]
    return float(np.degrees(2.0 * noise * np.hypot(1.0 / each[0], 1.0 / each[1])))


def _frames(ctx: SetContext, rep: Rep) -> int:
    window = span_of(ctx.body.time_s, rep.start_s, rep.end_s)
    return int(window.stop - window.start)


# By the hips


def _by_the_hips(ctx: SetContext, rule: CheckRule) -> Finding:
    plank = ctx.standard.base == "plank"
    thigh = _thigh_lean(ctx)
    if plank and thigh is None:
        why = "the knees are not in the recording; with them the line of the body shows"
        return cannot_tell(rule, "both", rule.limit, "deg", why)
    quiet = ctx.body.quiet
    lean = ctx.body.measure("trunk_lean")
    extension = -lean.value if thigh is None else thigh - lean.value
    straight = 0.0
    if not plank:
        if quiet is None or not np.isfinite(extension[quiet]).any():
            why = "nothing quiet was recorded before the first lift; start filming a second earlier"
            return cannot_tell(rule, "both", rule.limit, "deg", why)
        straight = median(extension[quiet][np.isfinite(extension[quiet])])
    changes = ctx.body.change_u("trunk_lean")
    change_u = float(np.median(changes[np.isfinite(changes)]))
    verb = "hips sag" if plank else "leans back from the hips"

    def value_of(rep: Rep) -> RepValue | None:
        time, _, u = ctx.samples("trunk_lean", None, whole(rep))
        window = span_of(ctx.body.time_s, rep.start_s, rep.end_s)
        off = extension[window] - straight
        seen = np.isfinite(off)
        if not len(time) or seen.sum() < SPINE.seen_share * len(off):
            return None
        at = ctx.body.time_s[window][seen]
        off = settled(at, off[seen])
        i = int(np.argmax(off))
        # Without a plank's line what counts is the change from the quiet before the set.
        own = float(np.median(u)) if plank else change_u
        value_u = float(np.hypot(own, SPINE.thigh_u_deg if thigh is not None else 0.0))
        size = max(float(off[i]), 0.0)
        words = f"{verb} {size:.0f}°" if size >= SPINE.said_from_deg else ""
        return RepValue(
            rep.number, size, value_u, float(at[i]), "sag" if plank else "lean-back", words
        )

    values = [v for rep in ctx.judged if (v := value_of(rep)) is not None]
    says = "hips stay in line" if plank else "does not lean back"
    return partly(summarise(rule, "both", values, "deg", lambda _v: says, of=len(ctx.judged)))


def _thigh_lean(ctx: SetContext) -> Array | None:
    """(T,) how far the thigh leans as the trunk does, of the leg that is seen; None if no knee
    is."""
    points = ctx.body.points
    near = near_side(ctx.body.cleaned.track.view)
    names = [near] if near else ["left", "right"]
    seen = [n for n in names if ctx.body.learned.seen.issuperset((f"{n}_knee", f"{n}_hip"))]
    if not seen:
        return None
    each = [points[f"{n}_hip"] - points[f"{n}_knee"] for n in seen]
    line = np.mean(each, axis=0)
    lean: Array = np.degrees(np.arctan2(line[:, 2], line[:, 1]))
    return lean if np.isfinite(lean).any() else None


def partly(finding: Finding) -> Finding:
    """The finding as one of a part of what its check asks for."""
    return replace(finding, partly=finding.verdict != "cannot-tell")


SPEC: Final = CheckSpec(
    "neutral-back",
    neutral_back,
    "deg",
    42,
    "degrees the spine rounds in each rep, or arches where the person stands upright",
    needs=("hip_flexion",),
    needs_points=SPINE_POINTS,
    picture="side",
    ways=("round", "arch", "lean-back", "sag"),
    evidence="spine",
    praise="Your back kept its natural bend.",
    too_heavy=True,
    course="back gives way",
)
