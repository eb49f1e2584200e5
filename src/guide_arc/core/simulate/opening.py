"""What comes before and after the reps: standing still, or walking in and taking the kit."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final, Literal

import numpy as np

from guide_arc.core.kinematics.vectors import Array
from guide_arc.core.model.landmarks import Side
from guide_arc.core.simulate.timing import minimum_jerk

Opening = Literal["still", "walk-in"]
_WALK_M: Final = 1.4
_WALK_S: Final = 2.2
_TAKE_S: Final = 2.4
_STILL_S: Final = 1.8
LEAST_WALK_IN_S: Final = _WALK_S + _TAKE_S + _STILL_S


@dataclass(frozen=True)
class Surroundings:
    """The client's way around the reps. Walking in ends `_STILL_S` before the first lift."""

    opening: Opening
    opening_s: float
    end_s: float

    @property
    def closing_s(self) -> float:
        return 0.0 if self.opening == "still" else _TAKE_S + _WALK_S

    def place_m(self, time_s: Array) -> Array:
        """(T, 2) where the hips are: to the left, ahead."""
        out = np.zeros((len(time_s), 2))
        if self.opening == "walk-in":
            arrive = self.opening_s - _STILL_S - _TAKE_S
            out[:, 1] = -_WALK_M * (1.0 - minimum_jerk((time_s - arrive + _WALK_S) / _WALK_S))
            leave = self.end_s + _TAKE_S
            out[:, 1] -= _WALK_M * minimum_jerk((time_s - leave) / _WALK_S)
        return out

    def _taking(self, time_s: Array) -> Array:
        """(T,) 0 to 1 and back while the client bends for the kit, before and after."""
        if self.opening == "still":
            return np.zeros(len(time_s))
        start = self.opening_s - _STILL_S - _TAKE_S
        half = 0.5 * _TAKE_S
        out = np.zeros(len(time_s))
        for at in (start, self.end_s):
            out += minimum_jerk((time_s - at) / half) - minimum_jerk((time_s - at - half) / half)
        return out

    def lean(self, lean_deg: Array, time_s: Array) -> Array:
        """(T,) trunk lean with the bending for the kit."""
        out: Array = lean_deg + 48.0 * self._taking(time_s)
        return out

    def arms(self, poses: Array, side: Side, time_s: Array) -> Array:
        """(T, 7) poses with the reach for the kit; the right hand looks at a phone afterwards."""
        if self.opening == "still":
            return poses
        out = poses.copy()
        taking = self._taking(time_s)[:, None]
        reach = np.array([52.0, 84.0, 14.0, 0.0, 0.3, 1.0, 90.0])
        out = np.asarray((1.0 - taking) * out + taking * reach)
        if side == "right":
            at = self.end_s + _TAKE_S + 0.3
            phone = minimum_jerk((time_s - at) / 0.7) - minimum_jerk((time_s - at - 1.4) / 0.5)
            out[:, 2] += 80.0 * np.clip(phone, 0.0, 1.0) * (out[:, 2] < 60.0)
        return out


def surroundings(opening: Opening, opening_s: float, end_s: float) -> Surroundings:
    """The way around reps that start at `opening_s` and end by `end_s`."""
    if opening == "walk-in" and opening_s < LEAST_WALK_IN_S:
        raise ValueError(f"walking in takes {LEAST_WALK_IN_S} s before the first lift")
    return Surroundings(opening, opening_s, end_s)
