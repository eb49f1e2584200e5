"""too-slow-lift: the lift stalls, because the weight is more than the muscle can move.

Value: the length of the lift, of the reps whose lift goes at least 70 % of the usual way. Limit:
the rule's percent of the asked seconds. Unit: seconds.
"""

from __future__ import annotations

from typing import Final

from guide_arc.core.checks.context import SetContext
from guide_arc.core.checks.phase_time import phase_too_long
from guide_arc.core.checks.spec import CheckSpec, FromModel
from guide_arc.core.model.finding import Finding
from guide_arc.core.model.standard import CheckRule


def too_slow_lift(ctx: SetContext, rule: CheckRule) -> list[Finding]:
    return phase_too_long(ctx, rule, "lift", ctx.tempo.lift_s)


SPEC: Final = CheckSpec(
    "too-slow-lift",
    too_slow_lift,
    "pct",
    165,
    "seconds that the lift lasts",
    picture="time",
    too_heavy=True,
    from_model=FromModel("usual"),
)
