"""The driving measure of a standard in a recording."""

from __future__ import annotations

import numpy as np

from guide_arc.core.kinematics.body import Body
from guide_arc.core.kinematics.pose_fit import MEASURES, fitted_arm
from guide_arc.core.model.landmarks import SIDES, Side
from guide_arc.core.model.quantity import Series
from guide_arc.core.model.standard import Standard
from guide_arc.core.reps.rules import REP


def by_pose(body: Body, standard: Standard) -> bool:
    """Whether an arm's driving measure is that of the pose that fits the picture best: in a picture
    an angle is no joint's angle, as a limb comes towards the camera or goes away from it. A lift
    that ends on the other side has no one path.
    """
    return (
        body.cleaned.track.view != "none" and standard.drive in MEASURES and standard.across is None
    )


def driven(body: Body, standard: Standard, side: Side) -> Series:
    """(T,) the driving measure as one arm's own; empty if the recording does not show it."""
    if not by_pose(body, standard):
        return body.driven(standard.drive, side)
    fit = fitted_arm(body, standard, side)
    if fit is None:
        return body.measure("shoulder_plane", side)  # empty in every picture
    value = np.where(body.lost(standard.drive, side), np.nan, fit.value[standard.drive])
    return Series(f"{side} {standard.drive}", "deg", value, fit.u[standard.drive])


def tells_drive(body: Body, standard: Standard, side: Side) -> bool:
    """Whether a recording shows an arm's driving measure."""
    if by_pose(body, standard):
        return fitted_arm(body, standard, side) is not None
    return body.shows(standard.drive, side)


def shows_the_whole_way(body: Body, standard: Standard) -> bool:
    """Whether no part of the lift looks as if the arm stood still, in the arm that shows it
    best."""
    if not by_pose(body, standard):
        return True
    fits = [fitted_arm(body, standard, side) for side in SIDES]
    worst = min((fit.worst_u[standard.drive] for fit in fits if fit is not None), default=0.0)
    return worst <= REP.blind_share * standard.range.size_deg
