"""The simulated client's timing: when each phase of each rep starts, and how far it has come.

Movements follow the minimum-jerk profile (Flash and Hogan 1985), the usual smooth reach.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Final

import numpy as np

from guide_arc.core.kinematics.vectors import Array
from guide_arc.core.model.standard import Holds, Tempo

# A minimum-jerk movement is above 5 % of its peak speed for 88 % of its time.
TIMED_SHARE: Final = 0.8810
# A burst that is longer than its lift starts before it and ends after it.
_AROUND_S: Final = 0.5
EVERY: Final = Holds()
_USUAL: Final = Tempo(lower_s=1.8, bottom_s=0.0, lift_s=1.0, top_s=0.0)


# How much a person's reps differ in time, standard deviation.
USUALLY_VARIED: Final = 0.04


def minimum_jerk(share_of_time: Array) -> Array:
    """0 to 1 along a smooth movement; flat before and after."""
    s = np.clip(share_of_time, 0.0, 1.0)
    out: Array = s**3 * (10.0 - 15.0 * s + 6.0 * s**2)
    return out


def steady(share_of_time: Array, ramp: float = 0.18) -> Array:
    """0 to 1 at one speed, with a smooth start and end of `ramp` of the time each.

    How people lower a weight to a count: no bell of speed, but an even pace.
    """
    s = np.clip(share_of_time, 0.0, 1.0)
    top = 1.0 / (1.0 - ramp)

    def risen(t: Array) -> Array:
        # The integral of a smooth step from 0 to the even speed.
        x = np.clip(t / ramp, 0.0, 1.0)
        out: Array = top * ramp * (x**3 - 0.5 * x**4) + top * np.maximum(t - ramp, 0.0)
        return out

    return np.where(s <= 0.5, risen(s), 1.0 - risen(1.0 - s))


@dataclass(frozen=True)
class RepPlan:
    """One rep of one arm as the client means to do it: seconds, and the share of the lift.

    burst : 0 for a smooth lift; 1 for one that is nearly all burst
    even : whether the lowering keeps one speed instead of a bell of speed
    from_share, to_share : where the lift starts and the lower ends; 0 is the standard's start
    """

    start_s: float
    lift_s: float
    top_s: float
    lower_s: float
    reach: float
    burst: float = 0.0
    even: bool = False
    from_share: float = 0.0
    to_share: float = 0.0

    @property
    def end_s(self) -> float:
        return self.start_s + self.lift_s + self.top_s + self.lower_s

    def share(self, time_s: Array) -> Array:
        """(N,) what the rep adds to the share of the intended lift at each time: 0 before it, and
        after it the difference between its end and its start."""
        up, down = self._phases(time_s)
        out: Array = (self.reach - self.from_share) * up - (self.reach - self.to_share) * down
        return out

    def passed(self, time_s: Array) -> Array:
        """(N,) 0 to 1 over the whole rep: half on the way up and half on the way down."""
        up, down = self._phases(time_s)
        out: Array = 0.5 * (up + down)
        return out

    def returning(self, time_s: Array) -> Array:
        """(N,) 0 on the way up and 1 on the way down, changing early on the way down."""
        return minimum_jerk(
            (time_s - self.start_s - self.lift_s - self.top_s) / (0.3 * self.lower_s)
        )

    def _phases(self, time_s: Array) -> tuple[Array, Array]:
        """(N,) how much of the lift and of the lower is done."""
        way = (time_s - self.start_s) / self.lift_s
        up = (1.0 - self.burst) * minimum_jerk(way) + self.burst * minimum_jerk(
            (way - 0.5) * self.lift_s / 0.24 + 0.5
        )
        back = (time_s - self.start_s - self.lift_s - self.top_s) / self.lower_s
        down = steady(back) if self.even else minimum_jerk(back)
        return up, down


def share_over(plans: Sequence[RepPlan], time_s: Array, *, per_reach: bool = False) -> Array:
    """(N,) the share of the intended lift over time that some reps make together.

    per_reach : each rep's as a share of its reach
    """
    out = np.zeros(len(time_s))
    for plan in plans:
        # A rep changes nothing before it; after it only the change of its end remains.
        a, b = np.searchsorted(time_s, (plan.start_s - _AROUND_S, plan.end_s + _AROUND_S))
        scale = 1.0 / plan.reach if per_reach else 1.0
        out[a:b] += scale * plan.share(time_s[a:b])
        out[b:] += scale * (plan.to_share - plan.from_share)
    return out


def plan_reps(
    tempo: Tempo,
    reach: Array,
    opening_s: float,
    faults: Mapping[str, float],
    rng: np.random.Generator,
    *,
    gap_s: float = 0.0,
    even: bool = False,
    holds: Holds = EVERY,
    varied: float = USUALLY_VARIED,
) -> list[RepPlan]:
    """Reps one after the other, each phase varied by a few percent as a person does.

    reach : (reps,) share of the lift that each rep reaches
    gap_s : extra rest after each rep (while the other arm works, say)
    even : whether lowering keeps one speed
    holds : which reps hold
    varied : share by which a phase's time differs from rep to rep, standard deviation; twice that
        at most
    """
    out: list[RepPlan] = []
    at = opening_s
    lift = (tempo.lift_s or _USUAL.lift_s or 1.0) * 1.1 / TIMED_SHARE
    lower = (tempo.lower_s or _USUAL.lower_s or 1.8) * 1.06 / TIMED_SHARE
    top, bottom = (1.12 * (s or 0.0) for s in (tempo.top_s, tempo.bottom_s))
    for way in ("too-fast", "too-slow"):
        lift = faults[f"{way}-lift"] / TIMED_SHARE if f"{way}-lift" in faults else lift
        lower = faults[f"{way}-lower"] / TIMED_SHARE if f"{way}-lower" in faults else lower
    if "hold-missing" in faults:
        top = bottom = faults["hold-missing"]
    burst = _burst_for(faults.get("momentum", 0.0), lift)
    for number, share in enumerate(reach, 1):
        holding = 1.0 if holds.asks(number, len(reach)) else 0.0
        vary = np.clip(
            1.0 + varied * rng.standard_normal(4), 1.0 - 2.0 * varied, 1.0 + 2.0 * varied
        )
        plan = RepPlan(
            start_s=at,
            lift_s=max(0.15, lift * vary[0]),
            top_s=holding * top * vary[1],
            lower_s=max(0.15, lower * vary[2]),
            reach=float(share),
            burst=burst,
            even=even,
        )
        out.append(plan)
        at = plan.end_s + max(holding * bottom * vary[3], 0.1 if not gap_s else 0.0) + gap_s
    return out


def one_and_a_half(plans: list[RepPlan]) -> list[RepPlan]:
    """Each rep as two: all the way up and half-way down, then up again and all the way down."""
    out: list[RepPlan] = []
    at = plans[0].start_s if plans else 0.0
    for i, plan in enumerate(plans):
        half = 0.5 * plan.reach
        first = replace(plan, start_s=at, to_share=half, lower_s=0.6 * plan.lower_s)
        second = replace(plan, start_s=first.end_s + 0.1, from_share=half, lift_s=0.6 * plan.lift_s)
        out += [first, second]
        rest = plans[i + 1].start_s - plan.end_s if i + 1 < len(plans) else 0.0
        at = second.end_s + rest
    return out


def _burst_for(share_pct: float, lift_s: float) -> float:
    """How much of the lift must be burst for a share of it to fall within 0.2 s."""
    if not share_pct:
        return 0.0
    tenth = np.array([0.5 - 0.1 / lift_s, 0.5 + 0.1 / lift_s])
    smooth = float(np.diff(minimum_jerk(tenth))[0])
    sharp = float(np.diff(minimum_jerk(np.array([0.5 - 0.1 / 0.24, 0.5 + 0.1 / 0.24])))[0])
    return float(np.clip((share_pct / 100.0 - smooth) / (sharp - smooth), 0.0, 1.0))
