"""All checks by name. A standard may only name what stands here."""

from __future__ import annotations

from collections.abc import Callable
from typing import Final

from guide_arc.core.checks.context import SetContext
from guide_arc.core.checks.elbow_bend_change import elbow_bend_change
from guide_arc.core.checks.elbow_high import elbow_high
from guide_arc.core.checks.elbow_low import elbow_low
from guide_arc.core.checks.elbow_path import elbow_path
from guide_arc.core.checks.end_point import end_point
from guide_arc.core.checks.fatigue_drift import fatigue_drift
from guide_arc.core.checks.hand_path import hand_path
from guide_arc.core.checks.hold_missing import hold_missing
from guide_arc.core.checks.left_right import left_right
from guide_arc.core.checks.line_of_pull import line_of_pull
from guide_arc.core.checks.momentum import momentum
from guide_arc.core.checks.range_over import range_over
from guide_arc.core.checks.range_short import range_short
from guide_arc.core.checks.shoulder_hike import shoulder_hike
from guide_arc.core.checks.slack_zone import slack_zone
from guide_arc.core.checks.too_fast_lift import too_fast_lift
from guide_arc.core.checks.too_fast_lower import too_fast_lower
from guide_arc.core.checks.torso_lean import torso_lean
from guide_arc.core.checks.torso_swing import torso_swing
from guide_arc.core.checks.torso_twist import torso_twist
from guide_arc.core.checks.upper_arm_drift import upper_arm_drift
from guide_arc.core.checks.wrist_bend import wrist_bend
from guide_arc.core.model.finding import Finding
from guide_arc.core.model.standard import CheckRule

Check = Callable[[SetContext, CheckRule], list[Finding]]

CHECKS: Final[dict[str, Check]] = {
    "upper-arm-drift": upper_arm_drift,
    "elbow-bend-change": elbow_bend_change,
    "torso-swing": torso_swing,
    "torso-lean": torso_lean,
    "torso-twist": torso_twist,
    "shoulder-hike": shoulder_hike,
    "wrist-bend": wrist_bend,
    "range-short": range_short,
    "range-over": range_over,
    "elbow-low": elbow_low,
    "elbow-high": elbow_high,
    "elbow-path": elbow_path,
    "hand-path": hand_path,
    "end-point": end_point,
    "too-fast-lower": too_fast_lower,
    "too-fast-lift": too_fast_lift,
    "hold-missing": hold_missing,
    "momentum": momentum,
    "left-right": left_right,
    "line-of-pull": line_of_pull,
    "slack-zone": slack_zone,
    "fatigue-drift": fatigue_drift,
}
