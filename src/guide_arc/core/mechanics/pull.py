"""The line of pull: which way the weight or the cable pulls at the hand."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from guide_arc.core.kinematics.body import Body
from guide_arc.core.kinematics.endpoints import hand
from guide_arc.core.kinematics.vectors import Array, unit
from guide_arc.core.kinematics.views import hidden_axis
from guide_arc.core.mechanics.kit import HANDS_WIDTH_M
from guide_arc.core.mechanics.rules import PULL
from guide_arc.core.model.landmarks import SIDES, Side
from guide_arc.core.model.standard import Standard


@dataclass(frozen=True, eq=False)
class Pull:
    """The pull on one hand over time.

    hand : (T, 3) the point of application; toward : (T, 3) unit direction of the pull
    pulley : (T, 3) where the cable comes from; None for a free weight
    assumed : the pulley's place comes from the standard, not from the recording or a saved setup
    u_m : standard uncertainty of the pulley's place
    """

    hand: Array
    toward: Array
    pulley: Array | None
    assumed: bool
    u_m: float = 0.0


def pull_of(body: Body, standard: Standard, side: Side) -> Pull | None:
    """Free weight pulls straight down, a cable towards its pulley; None for other kit, and for a
    cable in a picture that does not show its pulley."""
    held = hand(body, side)
    if standard.pull == "free-weight":
        return Pull(held, np.broadcast_to(np.array([0.0, -1.0, 0.0]), held.shape), None, False)
    if standard.pull != "cable":
        return None
    pulley, assumed, u_m = _pulley(body, standard, side)
    if pulley is None:
        return None
    return Pull(held, unit(pulley - held), pulley, assumed, u_m)


def working_plane(place_m: Array) -> Array | None:
    """(3,) unit normal of the plane in which a hand moves about its joint; None if the way is
    too short or too straight to span one.

    place_m : (N, 3) the hand from the joint. A turn about a joint keeps the joint in the plane of
    the way; where the arm sweeps a cone, it is the plane of the way itself.
    """
    rows = place_m - place_m.mean(axis=0)
    through_joint = np.linalg.svd(place_m, full_matrices=False)
    if through_joint[1][2] < 0.25 * through_joint[1][1]:
        rows, spread, axes = place_m, through_joint[1], through_joint[2]
    else:
        spread, axes = np.linalg.svd(rows, full_matrices=False)[1:]
    if spread[1] / np.sqrt(len(rows)) < 0.25 * PULL.way_least_m:
        return None
    normal: Array = axes[2]
    return normal


def pulley_is_marked(body: Body, side: Side) -> bool:
    """Whether the recording itself shows where the cable comes from."""
    marked = body.points.get(f"{side}_pulley")
    return marked is not None and bool(np.isfinite(marked[:, 1]).any())


def _pulley(body: Body, standard: Standard, side: Side) -> tuple[Array | None, bool, float]:
    """Its place over time, whether that is assumed, and how unsure. A picture has its two axes
    alone."""
    if pulley_is_marked(body, side):
        marked = body.points[f"{side}_pulley"]
        # A pulley does not move: its place over the set bridges the frames without it.
        return np.broadcast_to(np.nanmedian(marked, axis=0), marked.shape), False, PULL.marked_u_m
    offset = standard.pulley_m
    if offset is None or (body.cleaned.track.view != "none" and not standard.kit_kept):
        return None, True, 0.0
    ankles = [
        body.points[f"{s}_ankle"] for s in SIDES if np.isfinite(body.points[f"{s}_ankle"]).any()
    ]
    if not ankles:
        return None, True, 0.0
    spots = np.stack([np.nanmedian(a, axis=0) for a in ankles])
    feet = spots.mean(axis=0)
    feet[1] = spots[:, 1].min() - PULL.ankle_above_floor_m
    out = 1.0 if side == "left" else -1.0
    pulley = feet + np.array([out * offset[0], offset[1], offset[2]])
    hidden = hidden_axis(body.cleaned.track.view)
    if hidden is not None:
        pulley[hidden] = 0.0
    # Put up by eye: if it was measured for this client, a hand's width is two standard
    # uncertainties.
    u_m = (0.5 if standard.kit_kept else 1.0) * HANDS_WIDTH_M
    return np.broadcast_to(pulley, body.points[f"{side}_wrist"].shape), not standard.kit_kept, u_m
