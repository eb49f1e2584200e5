"""Every measure of a recording, with or without a standard that says where the lifts are."""

from __future__ import annotations

from guide_arc.core.kinematics.body import Body
from guide_arc.core.kinematics.cleaning import clean
from guide_arc.core.kinematics.views import shown
from guide_arc.core.model.quantity import Series
from guide_arc.core.model.standard import Standard
from guide_arc.core.model.track import LandmarkTrack
from guide_arc.core.reps.first_lift import first_lift_s
from guide_arc.core.reps.segment import find_reps


def measure_all(track: LandmarkTrack, standard: Standard | None) -> list[Series]:
    """All measures that the view can show, each (T,).

    Shoulder hike counts from before the first lift: of the standard's reps, or without a
    standard of whatever joint moves up and down most.
    """
    body = Body(clean(track))
    first = find_reps(body, standard).first_lift_s if standard else None
    if first is None:
        first = first_lift_s(body)
    body = body.counted_from(first)
    return [body.measure(measure, side) for measure, side in shown(track.view)]
