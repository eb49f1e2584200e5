"""The angle of a cable to the plane of the arm's path, from one picture."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Final

import numpy as np

from guide_arc.core.kinematics.body import Body
from guide_arc.core.kinematics.guide import arm_path
from guide_arc.core.kinematics.rules import PICTURE
from guide_arc.core.kinematics.vectors import Array
from guide_arc.core.kinematics.views import hidden_axis
from guide_arc.core.mechanics.pull import Pull
from guide_arc.core.mechanics.rules import PULL
from guide_arc.core.model.landmarks import Side
from guide_arc.core.model.quantity import Quantity
from guide_arc.core.model.rep import Span
from guide_arc.core.model.standard import Standard

_FEWEST: Final = 8
_USUAL_ARM_M: Final = 0.31
_USUAL_SHOULDER_M: Final = 0.19


def off_plane_in_picture(
    body: Body, standard: Standard, side: Side, pull: Pull | None, lifts: Sequence[Span]
) -> Quantity | None:
    """Degrees between the cable and the plane of the hand's way about its joint, over the lifts.

    Only a picture that shows that plane edge on shows the angle: the way is then a line in it. None
    in space (the check `line-of-pull` measures it there), without a marked cable, and where the
    plane faces the camera.
    """
    hidden = hidden_axis(body.cleaned.track.view)
    if hidden is None or pull is None or pull.pulley is None or pull.assumed:
        return None
    working = np.zeros(len(body.time_s), dtype=bool)
    for lift in lifts:
        working |= (body.time_s >= lift.start_s) & (body.time_s <= lift.end_s)
    joint = "elbow" if standard.drive == "elbow_flexion" else "shoulder"
    shown = [axis for axis in range(3) if axis != hidden]
    way = (pull.hand - body.points[f"{side}_{joint}"])[:, shown]
    cable = (pull.pulley - pull.hand)[:, shown]
    seen = working & np.isfinite(way).all(axis=1) & np.isfinite(cable).all(axis=1)
    if seen.sum() < _FEWEST:
        return None
    return _between(way[seen], cable[seen], pull.u_m, _into_the_picture_m(standard, hidden))


def _into_the_picture_m(standard: Standard, hidden: int) -> float:
    """How far a cable runs towards the camera or away, as the standard or the kept setup has it."""
    if standard.pulley_m is None:
        return PULL.beside_picture_m
    out, _up, ahead = np.median(arm_path(standard)["wrist"], axis=0) * _USUAL_ARM_M
    # The hand hangs from a shoulder, a little to the side of the middle between the feet.
    hand = (out + _USUAL_SHOULDER_M, 0.0, ahead)[hidden]
    return abs(standard.pulley_m[hidden] - float(hand))


def _between(way: Array, cable: Array, pulley_u_m: float, depth_m: float) -> Quantity | None:
    """way, cable : (N, 2) in the picture. The plane holds the joint, so its line goes through it.
    It holds the camera's axis as well, so a cable that runs into the picture is nearer to it than
    it looks: by how much is a doubt.
    """
    spread, axes = np.linalg.svd(way, full_matrices=False)[1:]
    if spread[1] > PULL.edge_on_share * spread[0]:
        return None
    line = axes[0]
    across = np.abs(cable[:, 0] * line[1] - cable[:, 1] * line[0])
    along = np.abs(cable @ line)
    looks = float(np.median(np.degrees(np.arctan2(across, along))))
    deep = float(np.median(np.degrees(np.arctan2(across, np.hypot(along, depth_m)))))
    scatter = float(np.degrees(np.arctan2(spread[1], spread[0]))) / 2.0
    far = float(np.median(np.linalg.norm(cable, axis=1)))
    aside = float(np.degrees(pulley_u_m / max(far, pulley_u_m)))
    u = float(
        np.sqrt(PICTURE.out_of_plane_u**2 + scatter**2 + aside**2 + (0.5 * (looks - deep)) ** 2)
    )
    return Quantity(0.5 * (looks + deep), u)
