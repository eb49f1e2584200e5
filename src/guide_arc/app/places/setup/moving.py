"""Moving the pull, the feet, the trunk and the hand, by key and by drag: each gives another
setup."""

from __future__ import annotations

from dataclasses import replace
from typing import Final, NamedTuple

import numpy as np

from guide_arc.app.places.setup.document import SetupDocument, spots_of_pull
from guide_arc.core.mechanics.kit import AnchoredBar, Band, Cable, Place
from guide_arc.core.model.landmarks import Side
from guide_arc.drawings.setup_sheet import Look, spots_of

# On hands and feet the body's own line is the exercise.
_FIXED: Final = ("plank", "pike", "on-hands", "side-lying")
_NOTCH_DEG: Final = 5.0
_MOST_LEAN_DEG: Final = 90.0
_HIGHEST_M: Final = 2.6


class Moved(NamedTuple):
    """words : of the step of undo; same : steps with an equal key that follow each other are one"""

    doc: SetupDocument
    words: str
    same: str


def placed_at(doc: SetupDocument, side: str, spot: Place, same: str = "setup/drag") -> Moved | None:
    """A pulley, anchor or pivot at another place; of two the other mirrors it, of one both hands
    have it. None if the kit has none."""
    if isinstance(doc.kit, AnchoredBar):
        return Moved(replace(doc, kit=replace(doc.kit, pivot_m=spot)), "Move the pivot", same)
    kit = doc.pull
    if kit is None:
        return None
    now = spots_of_pull(kit)
    one = tuple(now["left"]) == tuple(now["right"])
    x, y, z = spot[0], min(max(spot[1], 0.0), _HIGHEST_M), spot[2]
    left = (x, y, z) if side == "left" or one else (-x, y, z)
    spots: dict[Side, Place] = {"left": left, "right": left if one else (-left[0], *left[1:])}
    moved = replace(kit, pulley_m=spots) if isinstance(kit, Cable) else replace(kit, anchor_m=spots)
    return Moved(replace(doc, kit=moved), "Move the pull", same)


def shifted(doc: SetupDocument, by: Place, same: str) -> Moved | None:
    kit = doc.pull
    if kit is None:
        return None
    x, y, z = spots_of_pull(kit)["left"]
    return placed_at(doc, "left", (x + by[0], y + by[1], z + by[2]), same)


def notched(doc: SetupDocument, by: int) -> Moved | str | None:
    """The next hole up or down; words where the column has none further that way."""
    kit, holes = doc.pull, sorted(doc.room.pulley_heights_m)
    if kit is None or not holes:
        return None
    now = spots_of_pull(kit)["left"][1]
    way = [h for h in holes if (h > now + 1e-3 if by > 0 else h < now - 1e-3)]
    if not way:
        return "The column has no hole further that way."
    return shifted(doc, (0.0, (way[0] if by > 0 else way[-1]) - now, 0.0), "setup/hole")


def stepped(doc: SetupDocument, by_m: float) -> Moved | None:
    """Farther from the column, or nearer to it."""
    kit = doc.pull
    if kit is None:
        return None
    ahead = 1.0 if spots_of_pull(kit)["left"][2] >= float(doc.path.hips[2]) else -1.0
    return shifted(doc, (0.0, 0.0, ahead * by_m), "setup/distance")


def handles(doc: SetupDocument, look: Look) -> dict[str, Place]:
    """What can be dragged in a view, by name: the kit's own spots, "hand", "feet" and, from the
    side, "trunk"."""
    state = doc.state
    if state is None or doc.kit is None:
        return {}
    out: dict[str, Place] = dict(spots_of(doc.kit))
    out["hand"] = _spot(state.load.path.arms["left"].grip[state.at])
    if isinstance(doc.kit, Cable | Band):
        out["feet"] = _spot(state.load.path.feet)
    if look == "side" and _leans(doc):
        middle = 0.5 * (state.points["left_shoulder"] + state.points["right_shoulder"])
        out["trunk"] = _spot(middle[0])
    return out


def dragged(doc: SetupDocument, name: str, spot: Place) -> Moved | SetupDocument | None:
    """A handle at another place of the world. The hand only goes along the lift, which is no step
    of undo: that is a document alone."""
    if name == "hand":
        way = doc.path.arms["left"].grip
        return doc.going_to(int(np.linalg.norm(way - np.asarray(spot), axis=1).argmin()))
    if name == "feet":
        # Standing elsewhere is the column standing elsewhere: the body stays in the view's middle.
        feet = doc.path.feet
        by = (float(feet[0]) - spot[0], 0.0, float(feet[2]) - spot[2])
        return shifted(doc, by, "setup/stance")
    if name == "trunk":
        return _leant(doc, spot)
    return placed_at(doc, name, spot)


def _leans(doc: SetupDocument) -> bool:
    return doc.plan is not None and doc.plan.base not in _FIXED and not doc.on_rep


def _leant(doc: SetupDocument, spot: Place) -> Moved | None:
    """The bench, or the trunk of a person without one, by notches."""
    plan = doc.plan
    if plan is None or doc.kit is None:
        return None
    hips = doc.path.hips
    lean = float(np.degrees(np.arctan2(spot[2] - float(hips[2]), spot[1] - float(hips[1]))))
    lean = float(np.clip(lean, -_MOST_LEAN_DEG, _MOST_LEAN_DEG))
    bench = 90.0 - (lean if plan.base == "prone" else -lean)
    there = doc.room.bench_deg if plan.bench_deg is not None else ()
    notch = (
        min(there, key=lambda d: abs(d - bench))
        if there
        else _NOTCH_DEG * round(bench / _NOTCH_DEG)
    )
    if notch == doc.bench_deg:
        return None
    return Moved(replace(doc, bench_deg=notch), "Lean", "setup/lean")


def _spot(place: np.ndarray) -> Place:
    x, y, z = (float(v) for v in place)
    return x, y, z
