"""spine-straight: the spine does not round where rounding is the exercise.

Value: by how much the angle between the lower trunk (hips to the lowest rib) and the upper (lowest
rib to the base of the neck) closes from the start of the lift to the turn, for a lift that goes all
the way: one that stops short has rounded as much less. The limit is the smallest allowed value.
Needs the landmarks `mid_spine` and `neck`, seen from the side or in space. Unit: degrees."""

from __future__ import annotations

from typing import Final

import numpy as np

from guide_arc.core.checks.context import RepValue, SetContext, cannot_tell, no_rep, summarise
from guide_arc.core.checks.ends import arm_ends
from guide_arc.core.checks.neutral_back import SPINE_POINTS, spine_noise_u
from guide_arc.core.checks.rules import CHECK
from guide_arc.core.checks.spec import CheckSpec
from guide_arc.core.kinematics.vectors import median
from guide_arc.core.model.finding import Finding
from guide_arc.core.model.landmarks import Side
from guide_arc.core.model.rep import Rep
from guide_arc.core.model.standard import CheckRule


def spine_straight(ctx: SetContext, rule: CheckRule) -> list[Finding]:
    blocked = _hidden(ctx, rule)
    if blocked:
        return [blocked]
    body = ctx.body
    bend = body.measure("spine_bend").value
    u = spine_noise_u(ctx)

    def near(at_s: float) -> float:
        here = bend[np.abs(body.time_s - at_s) <= CHECK.end_half_window_s]
        return median(here[np.isfinite(here)])

    def value_of(rep: Rep) -> RepValue | None:
        if not (rep.lift.start_seen and rep.turn_seen):
            return None
        rounded = (near(rep.turn_s) - near(rep.start_s)) / _gone(ctx, rep)
        words = f"spine rounds {max(rounded, 0.0):.0f}° where {rule.limit:.0f}° is asked"
        return RepValue(rep.number, rounded, u, rep.turn_s, "", words)

    values = [v for rep in ctx.judged if (v := value_of(rep)) is not None]
    return [
        summarise(
            rule,
            "both",
            values,
            "deg",
            lambda v: f"spine rounds {v:.0f}°",
            least=True,
            of=len(ctx.judged),
            else_why="the ends of the rounding were not seen",
        )
    ]


def _hidden(ctx: SetContext, rule: CheckRule) -> Finding | None:
    body = ctx.body
    view = body.cleaned.track.view
    if view in ("front", "back"):
        why = f"hidden from the {view}"
        return cannot_tell(rule, "both", rule.limit, "deg", why, by_view=True)
    if not all(name in body.points for name in SPINE_POINTS) or not body.learned.seen.issuperset(
        SPINE_POINTS
    ):
        why = "the lowest rib and the base of the neck are not marked; mark both to see it"
        return cannot_tell(rule, "both", rule.limit, "deg", why)
    return None if ctx.repset.reps else no_rep(ctx, rule, "both", "deg")


def _gone(ctx: SetContext, rep: Rep) -> float:
    """The share of the asked range that a rep goes; a half at the least."""
    side: Side = "right" if rep.side == "right" else "left"
    ends = arm_ends(ctx, side, rep)
    if ends is None:
        return 1.0
    share = abs(ends.turn_deg - ends.start_deg) / ctx.standard.range.size_deg
    return float(np.clip(share, 0.5, 1.0))


SPEC: Final = CheckSpec(
    "spine-straight",
    spine_straight,
    "deg",
    57,
    "degrees of rounding that are missing at the turn",
    needs_points=SPINE_POINTS,
    least=True,
    praise="The spine rounded all the way.",
    course="spine rounds",
)
