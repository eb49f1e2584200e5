"""What is taken hold of in the setup's views: the pull, the feet, the trunk, the hand. Without
Qt."""

from __future__ import annotations

from typing import TYPE_CHECKING, Final

import numpy as np

from guide_arc.core.mechanics.kit import Band, Cable
from guide_arc.drawings.setup_sheet import Look, spots_of

if TYPE_CHECKING:
    from guide_arc.app.places.setup.model import SetupModel

Spot = tuple[float, float, float]
# On hands and feet the body's own line is the exercise.
_FIXED: Final = ("plank", "pike", "on-hands", "side-lying")
_NOTCH_DEG: Final = 5.0
_MOST_LEAN_DEG: Final = 90.0


class Dragging:
    def __init__(self, setup: SetupModel) -> None:
        self._setup = setup

    def handles(self, look: Look) -> dict[str, Spot]:
        """What can be dragged in a view, by name: the kit's own spots, "hand", "feet" and, from the
        side, "trunk"."""
        setup, state = self._setup, self._setup.state
        if state is None or setup.kit is None:
            return {}
        out: dict[str, Spot] = dict(spots_of(setup.kit))
        out["hand"] = _spot(state.load.path.arms["left"].grip[state.at])
        if isinstance(setup.kit, Cable | Band):
            out["feet"] = _spot(state.load.path.feet)
        if look == "side" and self._leans():
            middle = 0.5 * (state.points["left_shoulder"] + state.points["right_shoulder"])
            out["trunk"] = _spot(middle[0])
        return out

    def to(self, name: str, spot: Spot) -> None:
        """A handle dragged to a place of the world."""
        if name == "hand":
            self._hand(spot)
        elif name == "feet":
            self._feet(spot)
        elif name == "trunk":
            self._trunk(spot)
        else:
            self._setup.drag_to(name, spot)

    def _leans(self) -> bool:
        plan = self._setup.plan
        return plan is not None and plan.base not in _FIXED and not self._setup.on_rep

    def _hand(self, spot: Spot) -> None:
        """On along the lift, to the place of the way that is nearest."""
        way = self._setup.path.arms["left"].grip
        self._setup.go_to(int(np.linalg.norm(way - np.asarray(spot), axis=1).argmin()))

    def _feet(self, spot: Spot) -> None:
        """Standing elsewhere is the column standing elsewhere: the body stays in the middle of the
        view."""
        feet = self._setup.path.feet
        self._setup.shift((float(feet[0]) - spot[0], 0.0, float(feet[2]) - spot[2]), "setup/stance")

    def _trunk(self, spot: Spot) -> None:
        """The bench, or the trunk of who stands free, by notches."""
        setup, plan = self._setup, self._setup.plan
        if plan is None or setup.kit is None:
            return
        hips = setup.path.hips
        lean = float(np.degrees(np.arctan2(spot[2] - float(hips[2]), spot[1] - float(hips[1]))))
        lean = float(np.clip(lean, -_MOST_LEAN_DEG, _MOST_LEAN_DEG))
        bench = 90.0 - (lean if plan.base == "prone" else -lean)
        there = setup.room.bench_deg if plan.bench_deg is not None else ()
        notch = (
            min(there, key=lambda d: abs(d - bench))
            if there
            else _NOTCH_DEG * round(bench / _NOTCH_DEG)
        )
        if notch != setup.bench_deg:
            setup.set("Lean", setup.kit, notch, "setup/lean")


def _spot(place: object) -> Spot:
    x, y, z = (float(v) for v in place)  # type: ignore[attr-defined]
    return x, y, z
