"""shoulder-hike: the shoulder comes up towards the ear.

Value: the largest shoulder hike within the rep, settled over 0.25 s. Unit: percent of the trunk.
"""

from __future__ import annotations

from guide_arc.core.checks.context import (
    RepValue,
    SetContext,
    cannot_tell,
    largest,
    per_limb,
    whole,
)
from guide_arc.core.model.finding import Finding
from guide_arc.core.model.landmarks import Side
from guide_arc.core.model.rep import Rep
from guide_arc.core.model.standard import CheckRule


def shoulder_hike(ctx: SetContext, rule: CheckRule) -> list[Finding]:
    if ctx.body.quiet is None and ctx.repset.reps:
        why = "nothing quiet was recorded before the first lift; start filming a second earlier"
        return [cannot_tell(rule, side, rule.limit, "pct", why) for side in ctx.sides]

    def value_of(side: Side, rep: Rep) -> RepValue | None:
        return largest(rep, *ctx.samples("shoulder_hike", side, whole(rep)))

    return per_limb(
        ctx, rule, "shoulder_hike", "pct", value_of,
        lambda v: f"shoulder rises {max(v, 0):.0f} % of the trunk",
    )  # fmt: skip
