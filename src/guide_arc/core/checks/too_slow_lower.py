"""too-slow-lower: the weight is lowered so slowly that other muscles take it over.

Value: the length of the lower, of the reps whose lower goes at least 70 % of the usual way. Limit:
the rule's percent of the asked seconds, or of the lift's where no lowering is timed. Unit: seconds.
"""

from __future__ import annotations

from typing import Final

from guide_arc.core.checks.context import SetContext
from guide_arc.core.checks.phase_time import phase_too_long
from guide_arc.core.checks.spec import CheckSpec, FromModel
from guide_arc.core.model.finding import Finding
from guide_arc.core.model.standard import CheckRule


def too_slow_lower(ctx: SetContext, rule: CheckRule) -> list[Finding]:
    return phase_too_long(ctx, rule, "lower", ctx.tempo.lower_s or ctx.tempo.lift_s)


SPEC: Final = CheckSpec(
    "too-slow-lower",
    too_slow_lower,
    "pct",
    155,
    "seconds that the lowering lasts",
    picture="time",
    from_model=FromModel("usual"),
)
