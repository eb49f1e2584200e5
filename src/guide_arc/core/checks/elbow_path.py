"""elbow-path: the elbow leaves its guide arc.

Value: the largest departure within the rep from the arc that the standard's key poses describe, in
the trunk's frame and from the shoulder, settled over 0.25 s. The arc goes on a little past both
ends, as too much range is no wrong path. A picture can show a departure but never that there is
none. Unit: percent of the upper arm.
"""

from __future__ import annotations

from typing import Final

from guide_arc.core.checks.context import SetContext
from guide_arc.core.checks.path import WAYS, path_findings
from guide_arc.core.checks.spec import CheckSpec, FromModel
from guide_arc.core.model.finding import Finding
from guide_arc.core.model.standard import CheckRule


def elbow_path(ctx: SetContext, rule: CheckRule) -> list[Finding]:
    return path_findings(ctx, rule, "elbow")


SPEC: Final = CheckSpec(
    "elbow-path",
    elbow_path,
    "pct",
    120,
    "percent of the upper arm that the elbow leaves its guide arc",
    shown_by=("elbow-low", "elbow-high", "hand-path", "end-point", "range-over"),
    from_model=FromModel("corridor", least=22.0),
    ways=WAYS,
    course="elbow off its arc",
)
