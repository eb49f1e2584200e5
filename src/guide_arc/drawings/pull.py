"""The line of pull at a moment, and the lever arm it has about the working joint."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

import numpy as np

from guide_arc.core.model.landmarks import Side
from guide_arc.drawings.shapes import Points
from guide_arc.drawings.shown_set import ShownSet

# How much of a weight's line is drawn.
_WEIGHT_LINE_M: Final = 0.42


@dataclass(frozen=True, eq=False)
class DrawnPull:
    """hand, toward : (3,) the line of pull; joint, foot : (3,) the lever arm between them

    assumed : the pulley is shown where the standard puts it, not where the recording shows it
    """

    hand: Points
    toward: Points
    joint: Points
    foot: Points
    lever_m: float
    assumed: bool


def pull_at(measured: ShownSet, side: Side, index: int) -> DrawnPull | None:
    """Free weight pulls straight down; a cable towards its pulley. None for other kit."""
    pull = measured.pulls[side]
    if pull is None:
        return None
    part = "elbow" if measured.review.standard.drive == "elbow_flexion" else "shoulder"
    joint, held = measured.body.points[f"{side}_{part}"][index], pull.hand[index]
    along = pull.toward[index]
    if not (np.isfinite(joint).all() and np.isfinite(along).all()):
        return None
    foot = held + np.dot(joint - held, along) * along
    end = held + _WEIGHT_LINE_M * along if pull.pulley is None else pull.pulley[index]
    return DrawnPull(held, end, joint, foot, float(np.linalg.norm(foot - joint)), pull.assumed)
