"""too-fast-lower: the lowering takes less than the asked share of its time.

Value: the length of the lower, of the reps whose lower goes at least 70 % of the usual way. Limit:
the rule's percent of the asked seconds, because a movement is timed from 5 % of its peak speed and
loses its slow ends. Unit: seconds.
"""

from __future__ import annotations

from typing import Final

from guide_arc.core.checks.context import SetContext
from guide_arc.core.checks.phase_time import phase_too_short
from guide_arc.core.checks.spec import CheckSpec, FromModel
from guide_arc.core.model.finding import Finding
from guide_arc.core.model.standard import CheckRule


def too_fast_lower(ctx: SetContext, rule: CheckRule) -> list[Finding]:
    return phase_too_short(ctx, rule, "lower", ctx.tempo.lower_s)


SPEC: Final = CheckSpec(
    "too-fast-lower",
    too_fast_lower,
    "pct",
    150,
    "seconds that the lowering lasts",
    picture="time",
    praise="You lowered the weight under control.",
    least=True,
    tempo_part="lower_s",
    from_model=FromModel("usual", keeps=True),
)
