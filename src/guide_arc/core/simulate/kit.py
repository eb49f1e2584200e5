"""The kit next to the simulated client: where the cables come from, and setups gone wrong."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Final

import numpy as np

from guide_arc.core.kinematics.vectors import Array, dot, unit
from guide_arc.core.mechanics.pull import working_plane
from guide_arc.core.mechanics.resistance import lever_along, slack_share
from guide_arc.core.model.errors import BadInput
from guide_arc.core.model.landmarks import SIDES, Side
from guide_arc.core.model.standard import Standard

_TURNS: Final = np.radians(np.concatenate((np.arange(0, 180, 1.5), -np.arange(1.5, 180, 1.5))))


def pulleys(
    standard: Standard, points: Mapping[str, Array], lift: slice, faults: Mapping[str, float]
) -> dict[str, Array]:
    """The pulleys of a cable standard as landmarks that do not move, (T, 3) each; none for others.

    lift : the frames of one lift, from start to turn
    Raises BadInput for a setup fault of an exercise without a cable.
    """
    if standard.pulley_m is None:
        for name in ("line-of-pull", "slack-zone"):
            if name in faults:
                raise BadInput(f"{standard.id} has no cable whose {name} could go wrong")
        return {}
    ankles = 0.5 * (points["left_ankle"] + points["right_ankle"])
    feet = ankles[lift].mean(axis=0)
    feet[1] = 0.0
    out: dict[str, Array] = {}
    for side in SIDES:
        outward = 1.0 if side == "left" else -1.0
        at = feet + np.array([outward, 1.0, 1.0]) * np.array(standard.pulley_m)
        if "line-of-pull" in faults:
            at = _off_plane(standard, points, side, lift, at, faults["line-of-pull"])
        if "slack-zone" in faults:
            at = _slack(points, side, lift, at, faults["slack-zone"])
        out[f"{side}_pulley"] = np.repeat(at[None], len(ankles), axis=0)
    return out


def _hand(points: Mapping[str, Array], side: Side, lift: slice) -> Array:
    return 0.5 * (points[f"{side}_index"] + points[f"{side}_pinky"])[lift]


def _plane(standard: Standard, points: Mapping[str, Array], side: Side, lift: slice) -> Array:
    """(3,) normal of the plane in which the hand moves about the working joint."""
    joint = "elbow" if standard.drive == "elbow_flexion" else "shoulder"
    place = _hand(points, side, lift) - points[f"{side}_{joint}"][lift]
    normal = working_plane(place)
    return np.array([1.0, 0.0, 0.0]) if normal is None else normal


def _off_plane(
    standard: Standard,
    points: Mapping[str, Array],
    side: Side,
    lift: slice,
    at: Array,
    amount_deg: float,
) -> Array:
    """The pulley moved sideways until the cable is that far off the arm's plane."""
    normal = _plane(standard, points, side, lift)
    middle = _hand(points, side, lift).mean(axis=0)
    line = at - middle
    aside = float(line @ normal)
    flat = line - aside * normal
    turn = np.radians(amount_deg)
    along = np.cos(turn) * unit(flat[None])[0] + np.sin(turn) * np.sign(aside or 1.0) * normal
    moved: Array = middle + np.linalg.norm(line) * along
    return moved


def _slack(
    points: Mapping[str, Array], side: Side, lift: slice, at: Array, amount_pct: float
) -> Array:
    """The pulley turned about the hand, within the plane of the hand's way, until the asked share
    of the lift has no resistance."""
    hand, shoulder = _hand(points, side, lift), points[f"{side}_shoulder"][lift]
    share = np.linspace(0.0, 1.0, len(hand))
    middle = hand.mean(axis=0)
    normal = np.linalg.svd(hand - middle)[2][-1]
    line = at - middle
    # Rodrigues' rotation about the normal, all turns at once.
    cos, sin = np.cos(_TURNS)[:, None], np.sin(_TURNS)[:, None]
    aside = normal * float(normal @ line)
    turned = line * cos + np.cross(normal, line) * sin + aside * (1.0 - cos)
    toward = unit((middle + turned)[:, None] - hand)
    lever = lever_along(share, hand - shoulder, toward, 1.0)
    miss = np.array([abs(100.0 * slack_share(own) - amount_pct) for own in lever])
    miss += 0.01 * np.abs(np.degrees(_TURNS))
    resists = dot(toward, np.gradient(hand, axis=0)).mean(axis=-1) < 0.0
    if not resists.any():
        return at
    best: Array = (middle + turned)[int(np.argmin(np.where(resists, miss, np.inf)))]
    return best
