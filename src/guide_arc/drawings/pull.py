"""The line of pull at a moment, and the lever arm it has about the working joint."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from guide_arc.core.model.landmarks import Side
from guide_arc.drawings.measured import Measured
from guide_arc.drawings.shapes import Points


@dataclass(frozen=True, eq=False)
class Pull:
    """hand, toward : (3,) the line of pull; joint, foot : (3,) the lever arm between them

    assumed : the pulley stands where the standard puts it, not where the recording shows it
    """

    hand: Points
    toward: Points
    joint: Points
    foot: Points
    lever_m: float
    assumed: bool


def pull_at(measured: Measured, side: Side, index: int) -> Pull | None:
    """Free weight pulls straight down; a cable towards its pulley. None for other kit."""
    standard = measured.review.standard
    part = "elbow" if standard.drive == "elbow_flexion" else "shoulder"
    joint = measured.body.points[f"{side}_{part}"][index]
    held = _hand_at(measured, side, index)
    if not (np.isfinite(joint).all() and np.isfinite(held).all()):
        return None
    if standard.pull == "free-weight":
        foot = np.array([held[0], joint[1], held[2]])
        below = held - np.array([0.0, 0.42, 0.0])
        return Pull(held, below, joint, foot, float(np.linalg.norm(foot - joint)), False)
    if standard.pull != "cable" or standard.pulley_m is None:
        return None
    pulley, assumed = _pulley(measured, side, index)
    if pulley is None:
        return None
    along = pulley - held
    along = along / max(float(np.linalg.norm(along)), 1e-6)
    foot = held + np.dot(joint - held, along) * along
    return Pull(held, pulley, joint, foot, float(np.linalg.norm(foot - joint)), assumed)


def _hand_at(measured: Measured, side: Side, index: int) -> Points:
    """Where the handle is held at a frame: the middle of the knuckles, or else the wrist."""
    points = measured.body.points
    knuckles: Points = 0.5 * (points[f"{side}_index"][index] + points[f"{side}_pinky"][index])
    return knuckles if np.isfinite(knuckles).all() else points[f"{side}_wrist"][index]


def _pulley(measured: Measured, side: Side, index: int) -> tuple[Points | None, bool]:
    marked = measured.body.points.get(f"{side}_pulley")
    if marked is not None and np.isfinite(marked[index]).all():
        return marked[index], False
    offset = measured.review.standard.pulley_m
    if offset is None or not measured.can_turn:
        return None, True
    ankles = [measured.body.points.get(f"{s}_ankle") for s in ("left", "right")]
    seen = [a[index] for a in ankles if a is not None and np.isfinite(a[index]).all()]
    if not seen:
        return None, True
    feet = np.mean(seen, axis=0)
    feet[1] = min(a[1] for a in seen) - 0.07
    out = 1.0 if side == "left" else -1.0
    pulley: Points = feet + np.array([out * offset[0], offset[1], offset[2]])
    return pulley, True
