"""What a fault shows as besides its own check: one fact seen twice, so that one cue is enough.

A lift that is too fast is a burst; an arm that does less than the other stops short; a hand that is led
off its arc ends elsewhere. Other faults leave all other checks alone.
"""

from __future__ import annotations

from typing import Final

from guide_arc.core.model.standard import CheckName

SHOWS_ALSO: Final[dict[CheckName, tuple[CheckName, ...]]] = {
    "momentum": ("too-fast-lift",),
    "too-fast-lift": ("momentum",),
    "fatigue-drift": ("range-short", "end-point"),
    "left-right": ("range-short", "end-point"),
    "range-short": ("end-point",),
    "end-point": ("range-short",),
    "upper-arm-drift": ("end-point",),
    "elbow-path": ("end-point", "elbow-low", "elbow-high"),
    "hand-path": ("end-point",),
    "elbow-low": ("elbow-path",),
    "elbow-high": ("elbow-path",),
    "shoulder-hike": ("end-point",),
    "wrist-bend": ("end-point",),
    "torso-lean": ("end-point",),
    "slack-zone": ("line-of-pull",),
}


def follows(name: CheckName, other: CheckName) -> bool:
    """Whether one check being off is what another's fault also shows as."""
    return name in SHOWS_ALSO.get(other, ())
