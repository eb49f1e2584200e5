"""The bend of the wrist."""

from __future__ import annotations

from guide_arc.core.kinematics.measures.spec import MeasureSpec
from guide_arc.core.kinematics.trunk import Points
from guide_arc.core.kinematics.vectors import Array, angle_deg
from guide_arc.core.model.landmarks import Side


def wrist_bend(p: Points, side: Side) -> Array:
    """Forearm against the line from the wrist to the middle of the knuckles."""
    wrist = p[f"{side}_wrist"]
    knuckles = 0.5 * (p[f"{side}_index"] + p[f"{side}_pinky"])
    return angle_deg(wrist - p[f"{side}_elbow"], knuckles - wrist)


SPEC = MeasureSpec(
    name="wrist_bend",
    unit="deg",
    order=60,
    parts=("{side}_elbow", "{side}_wrist", "{side}_index", "{side}_pinky"),
    formula=wrist_bend,
    words="wrist bend",
    joint="wrist",
    drives="the wrist's bend",
    from_side=True,
)
