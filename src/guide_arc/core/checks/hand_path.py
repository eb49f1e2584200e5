"""hand-path: the hand leaves its guide arc.

Value: as elbow-path, for the wrist; the guide is drawn with the client's own forearm length. Unit:
percent of the upper arm.
"""

from __future__ import annotations

from typing import Final

from guide_arc.core.checks.context import SetContext
from guide_arc.core.checks.path import WAYS, path_findings
from guide_arc.core.checks.spec import CheckSpec, FromModel
from guide_arc.core.model.finding import Finding
from guide_arc.core.model.standard import CheckRule


def hand_path(ctx: SetContext, rule: CheckRule) -> list[Finding]:
    return path_findings(ctx, rule, "wrist")


SPEC: Final = CheckSpec(
    "hand-path",
    hand_path,
    "pct",
    130,
    "percent of the upper arm that the hand leaves its guide arc",
    shown_by=("elbow-path",),
    from_model=FromModel("corridor", least=26.0),
    ways=WAYS,
    course="hand off its arc",
)
