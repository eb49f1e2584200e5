"""wrist-bend: the wrist leaves the forearm's line.

Value: the largest wrist bend within the rep, settled over 0.25 s. Unit: degrees.
"""

from __future__ import annotations

from typing import Final

from guide_arc.core.checks.context import RepValue, SetContext, largest, per_limb, whole
from guide_arc.core.checks.spec import CheckSpec, FromModel, Stays
from guide_arc.core.model.finding import Finding
from guide_arc.core.model.landmarks import Side
from guide_arc.core.model.rep import Rep
from guide_arc.core.model.standard import CheckRule


def wrist_bend(ctx: SetContext, rule: CheckRule) -> list[Finding]:
    def value_of(side: Side, rep: Rep) -> RepValue | None:
        return largest(rep, *ctx.samples("wrist_bend", side, whole(rep)))

    return per_limb(ctx, rule, "wrist_bend", "deg", value_of, lambda v: f"wrist bends {v:.0f}°")


SPEC: Final = CheckSpec(
    "wrist-bend", wrist_bend, "deg", 70, "degrees the wrist curls at the turn",
    needs=("wrist_bend",), evidence="wrist",
    stays=Stays("wrist straight", ("{side}_wrist", "{side}_index")),
    from_model=FromModel("stays", 40.0, 30.0),
    course="wrist bends",
)  # fmt: skip
