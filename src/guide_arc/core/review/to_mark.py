"""Which joints must be marked on a clip for a review against one standard from one view: no more
than that needs."""

from __future__ import annotations

from typing import Final

from guide_arc.core.checks.neutral_back import SPINE_POINTS, shown_by_hips
from guide_arc.core.kinematics.views import shows
from guide_arc.core.model.landmarks import SIDES
from guide_arc.core.model.marks import asked_points
from guide_arc.core.model.standard import Standard
from guide_arc.core.model.track import StatedView, side_of

# Besides what every review rests on (the arm, the trunk, and the ankle for how level the camera
# stood).
_EAR: Final = ("shoulder-hike", "hand-off-head", "end-point", "spine-straight")
_KNEE: Final = ("hips-move", "end-point", "spine-straight")


def points_to_mark(standard: Standard, view: StatedView) -> tuple[str, ...]:
    """The joints to mark, in the order of clicking: six for a curl from the side.

    From the front or the back the ears say where raised shoulders are; an ear or a knee that no
    check of this standard looks at from here is left out. From the side the spine must be marked if
    nothing else shows a rounding back."""
    seen = side_of(view)
    checks = {rule.name for rule in standard.checks}
    if not any(shows(seen, "shoulder_hike", side) for side in SIDES):
        checks.discard("shoulder-hike")
    left_out = set()
    if checks.isdisjoint(_EAR) and seen in SIDES:
        left_out.add("ear")
    if checks.isdisjoint(_KNEE) and not (standard.base == "plank" and "neutral-back" in checks):
        left_out.add("knee")
    joints = tuple(n for n in asked_points(view) if n.partition("_")[2] not in left_out)
    return (*joints, *SPINE_POINTS) if seen in SIDES and _rests_on_the_spine(standard) else joints


def _rests_on_the_spine(standard: Standard) -> bool:
    """Whether a check of the back can't be judged by shoulders, hips and knees alone."""
    if standard.check("spine-straight") is not None:
        return True
    return standard.check("neutral-back") is not None and not shown_by_hips(standard)
