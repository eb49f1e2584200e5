"""too-fast-lift: the lift takes less than the asked share of its time.

Value: the length of the lift, of the reps whose lift goes at least 70 % of the usual way. Limit:
the rule's percent of the asked seconds. Unit: seconds.
"""

from __future__ import annotations

from typing import Final

from guide_arc.core.checks.context import SetContext
from guide_arc.core.checks.phase_time import phase_too_short
from guide_arc.core.checks.spec import CheckSpec, FromModel
from guide_arc.core.model.finding import Finding
from guide_arc.core.model.standard import CheckRule


def too_fast_lift(ctx: SetContext, rule: CheckRule) -> list[Finding]:
    return phase_too_short(ctx, rule, "lift", ctx.tempo.lift_s)


SPEC: Final = CheckSpec(
    "too-fast-lift",
    too_fast_lift,
    "pct",
    160,
    "seconds that the lift lasts",
    shown_by=("momentum",),
    picture="time",
    least=True,
    tempo_part="lift_s",
    from_model=FromModel("usual"),
)
