"""shoulder-hike: the shoulder comes up towards the ear.

Value: the largest shoulder hike within the rep, kept up for half a second. Unit: percent of the
trunk.
"""

from __future__ import annotations

from typing import Final

from guide_arc.core.checks.context import (
    RepValue,
    SetContext,
    cannot_tell,
    largest,
    per_limb,
    settled,
    whole,
)
from guide_arc.core.checks.rules import CHECK
from guide_arc.core.checks.spec import CheckSpec, FromModel, Moves, Stays
from guide_arc.core.model.finding import Finding
from guide_arc.core.model.landmarks import Side
from guide_arc.core.model.rep import Rep
from guide_arc.core.model.standard import TRUNK_DRIVES, CheckRule


def shoulder_hike(ctx: SetContext, rule: CheckRule) -> list[Finding]:
    if ctx.body.quiet is None and ctx.repset.reps:
        why = "nothing quiet was recorded before the first lift; start filming a second earlier"
        return [cannot_tell(rule, side, rule.limit, "pct", why) for side in ctx.sides]

    def value_of(side: Side, rep: Rep) -> RepValue | None:
        time_s, value, u = ctx.samples("shoulder_hike", side, whole(rep))
        # The largest of many noisy looks reads high: only a hike that is held counts.
        return largest(rep, time_s, settled(time_s, value, CHECK.kept_up_s), u)

    return per_limb(
        ctx,
        rule,
        "shoulder_hike",
        "pct",
        value_of,
        lambda v: f"shoulder rises {max(v, 0):.0f} % of the trunk",
    )


SPEC: Final = CheckSpec(
    "shoulder-hike",
    shoulder_hike,
    "pct",
    60,
    "percent of the trunk that the shoulders rise at the turn",
    moves=Moves("shoulders", 0.01),
    evidence="hike",
    picture="front",
    praise="Your shoulders stayed down.",
    too_heavy=True,
    stays=Stays("shoulders down", ("{side}_shoulder", "{side}_ear")),
    from_model=FromModel("stays", 8.0, 8.0, (*TRUNK_DRIVES, "shoulder_hike")),
    course="shoulders rise",
)
