"""What is measured on each rep, and how it changes over the set."""

from __future__ import annotations

from dataclasses import dataclass

from guide_arc.core.model.landmarks import Side
from guide_arc.core.model.quantity import Quantity
from guide_arc.core.model.rep import Rep, WorkSide


@dataclass(frozen=True)
class Stay:
    """One thing that should have stayed, in one rep.

    name : as in `stays.NAMES`; largest : its largest departure from where the lift started
    mean : the mean size of the departure over the rep; both in `unit`
    """

    name: str
    side: WorkSide
    largest: Quantity
    mean: float
    unit: str


@dataclass(frozen=True)
class PathFigures:
    """Elbow or hand of one arm against its guide arc in one rep, percent of the upper arm.

    largest_pct : the largest departure; at_share : where along the arc (0 start, 1 turn); way : in
        words
    inside_pct : share of the rep's time inside the corridor
    signed_pct : departures at even shares of the way along the arc, NaN where unseen: across the
        arc's plane or within it, whichever is larger in this set; positive towards `positive`
    """

    part: str
    side: Side
    largest_pct: Quantity
    at_share: float
    way: str
    inside_pct: float
    signed_pct: tuple[float, ...]
    positive: str


@dataclass(frozen=True)
class RepFigures:
    """Everything that is reported of one rep.

    start_deg, turn_deg, range_deg : of the driving measure lift_peak_deg_s ... : speeds of the
        driving measure, always positive
    burst_pct : the largest share of the lift within 0.2 s
    smoothness : spectral arc length of the lift's speed: about -1.5 for a smooth reach, less for a
        jerky one; stops : how often the lift nearly stops
    torso_early_deg : how much the trunk's lean changes in the first tenth of the lift; None unseen
    hand_pct : height of the working hand at the turn along the trunk, 0 hips, 100 shoulders; None
        unseen; hand_at : the same in words
    arms_apart_deg, arms_apart_s : left against right in range and timing; None with one arm
    """

    rep: Rep
    start_deg: Quantity
    turn_deg: Quantity
    range_deg: Quantity
    lift_s: float
    top_s: float
    lower_s: float
    bottom_s: float
    under_load_s: float
    lift_peak_deg_s: float
    lift_mean_deg_s: float
    lower_peak_deg_s: float
    lower_mean_deg_s: float
    burst_pct: Quantity
    smoothness: float
    stops: int
    torso_early_deg: Quantity | None
    hand_pct: Quantity | None
    hand_at: str
    stays: tuple[Stay, ...]
    paths: tuple[PathFigures, ...]
    arms_apart_deg: Quantity | None
    arms_apart_s: Quantity | None


@dataclass(frozen=True)
class Trend:
    """How one figure changes over the set.

    per_rep : robust slope with its standard uncertainty; first, last : the line at both ends
    sure : whether the slope is more than its uncertainty allows to be chance
    """

    name: str
    side: WorkSide
    unit: str
    per_rep: Quantity
    first: float
    last: float
    sure: bool
    says: str


@dataclass(frozen=True)
class SetFigures:
    """The figures of every rep in order of time, and their trends."""

    reps: tuple[RepFigures, ...]
    trends: tuple[Trend, ...]


@dataclass(frozen=True)
class BreakDown:
    """The rep from which the set broke down, and the checks that went off there."""

    rep: int
    side: WorkSide
    checks: tuple[str, ...]
    says: str


@dataclass(frozen=True)
class Cause:
    """What was measured joined with what was felt.

    kind : "agrees" felt where a fault would be felt; "unexplained" felt, but nothing measured says
        why; "unfelt" a fault that the client did not feel; "on-target"; "clue" felt in the right
        place, which proves nothing; "likely" a cause of several faults together; "load" what a
        fault does to the load on the joints
    finding : the finding's key, if there is one"""

    kind: str
    words: str
    finding: str | None = None
