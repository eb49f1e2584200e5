"""What the kit asks of the working joint, frame by frame of a recording: for the strip under the
stage."""

from __future__ import annotations

from typing import Final

import numpy as np

from guide_arc.core.kinematics.body import Body
from guide_arc.core.kinematics.vectors import Array, cross, length
from guide_arc.core.mechanics.kit import GRAVITY
from guide_arc.core.mechanics.path_load import working_joint
from guide_arc.core.mechanics.pull import Pull
from guide_arc.core.model.landmarks import Side
from guide_arc.core.model.quantity import Series
from guide_arc.core.model.standard import Standard
from guide_arc.core.review.trust import scale_u_share

NEWTON_METRES: Final = "Nm"
LEVER: Final = "cm"


def load_course(
    body: Body, standard: Standard, side: Side, pull: Pull, load_kg: float | None, arms: int
) -> Series:
    """The moment of the kit about the working joint: newton-metres if the weight is known,
    otherwise the lever arm in centimetres, which also shows where it is hardest.

    pull : as `pull_of`; load_kg : as noted of the set; arms : how many work at a time The
    uncertainty joins the landmarks', the pulley's place and, in a picture, the scale's. A picture
    shows the part in its plane.
    """
    joint = working_joint(standard)
    hand, about = pull.hand, body.points[f"{side}_{joint}"]
    lever: Array = length(cross(hand - about, pull.toward))
    sigma = np.hypot(body.cleaned.sigma(f"{side}_wrist"), body.cleaned.sigma(f"{side}_{joint}"))
    u = np.hypot(sigma, scale_u_share(body.cleaned.track) * lever)
    if pull.pulley is not None:
        # A pulley off its true place turns the line by that over its distance.
        far = np.maximum(length(pull.pulley - hand), 0.1)
        u = np.hypot(u, pull.u_m / far * length(hand - about))
    force = force_n(standard, load_kg, arms)
    times, unit = (100.0, LEVER) if force is None else (force, NEWTON_METRES)
    return Series("load", unit, lever * times, u * times)


def force_n(standard: Standard, load_kg: float | None, arms: int) -> float | None:
    """At one hand: each dumbbell is of that weight, a bar or a stack is shared by the arms that
    work."""
    if load_kg is None:
        return None
    held = 1 if standard.held in ("dumbbell", "dumbbells", "handles") else arms
    return load_kg * GRAVITY / held
