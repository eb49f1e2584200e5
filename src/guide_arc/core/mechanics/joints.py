"""What a kit asks of every joint of an arm and of the trunk, along a path.

The moment of the force about a joint is r × F, r from the joint to the grip. At the shoulder its
parts are taken about the trunk's axes and the upper arm's own: flexion about the axis that runs to
the left, abduction about the one that runs ahead, rotation about the upper arm. At the hips the
trunk carries both hands.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np

from guide_arc.core.kinematics.vectors import Array, cross, dot, length, unit
from guide_arc.core.mechanics.path_load import PathLoad, trunk_frame
from guide_arc.core.model.landmarks import Side


@dataclass(frozen=True, eq=False)
class JointMoments:
    """Newton-metres along the path, (P,) each, of one arm and of the trunk under all that the hands
    hold.

    shoulder, elbow, wrist, trunk : the whole moment; flexion, abduction, rotation : the shoulder's
        parts, with the sign of the turn that the kit drives the arm to: positive raises it ahead,
        out to its side, or turns it outward
    trunk_bend, trunk_side, trunk_twist : of the trunk's, forward, to a side, about its own length;
        without a sign
    """

    shoulder: Array
    flexion: Array
    abduction: Array
    rotation: Array
    elbow: Array
    wrist: Array
    trunk: Array
    trunk_bend: Array
    trunk_side: Array
    trunk_twist: Array


def joint_moments(load: PathLoad, points: Mapping[str, Array], side: Side = "left") -> JointMoments:
    """The moments of the kit. points : body landmarks along the path, (P, 3) each"""
    arm, own = load.path.arms[side], load.loads[side]
    left, up, ahead = np.moveaxis(trunk_frame(points), 1, 0)
    out = left if side == "left" else -left
    shoulder = np.broadcast_to(own.shoulder_nm, arm.grip.shape)
    upper = unit(arm.elbow - arm.shoulder)
    mirrored = 1.0 if side == "left" else -1.0
    hips = 0.5 * (points["left_hip"] + points["right_hip"])
    trunk = np.sum(
        [
            cross(load.path.arms[s].grip - hips, np.broadcast_to(one.force_n, arm.grip.shape))
            for s, one in load.loads.items()
        ],
        axis=0,
    )
    return JointMoments(
        shoulder=length(shoulder),
        # A turn about the axis to the left takes what is ahead down: raising it ahead is the other
        # way.
        flexion=-dot(shoulder, left),
        abduction=mirrored * dot(shoulder, ahead),
        # The upper arm points from shoulder to elbow: about it the left arm turns inward.
        rotation=-mirrored * dot(shoulder, upper),
        elbow=length(np.broadcast_to(own.elbow_nm, arm.grip.shape)),
        wrist=length(cross(arm.grip - arm.wrist, np.broadcast_to(own.force_n, arm.grip.shape))),
        trunk=length(trunk),
        trunk_bend=np.abs(dot(trunk, out)),
        trunk_side=np.abs(dot(trunk, ahead)),
        trunk_twist=np.abs(dot(trunk, up)),
    )
