"""too-fast-lower: the lowering takes less than the asked share of its time.

Value: the length of the lower, of the reps whose lower goes at least 70 % of the usual way. Limit: the
rule's percent of the asked seconds, because a movement is timed from 5 % of its peak speed and loses
its slow ends. Unit: seconds.
"""

from __future__ import annotations

from guide_arc.core.checks.context import SetContext
from guide_arc.core.checks.phase_time import phase_too_short
from guide_arc.core.model.finding import Finding
from guide_arc.core.model.standard import CheckRule


def too_fast_lower(ctx: SetContext, rule: CheckRule) -> list[Finding]:
    return phase_too_short(ctx, rule, "lower", ctx.tempo.lower_s)
