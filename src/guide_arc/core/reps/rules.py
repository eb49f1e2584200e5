"""The numbers that decide in `reps`: when a movement is a rep, where a phase ends, and what belongs
to the set."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

from guide_arc.core.model.rules import rule


@dataclass(frozen=True)
class RepRules:
    """When a movement is a rep, and when an arm works."""

    full_share: float = rule(0.70, "share of the set's median size", "formats.md, section 4")
    no_rep_share: float = rule(0.25, "share of the set's median size", "formats.md, section 4")
    lost_share: float = rule(
        0.3, "share of the recording", "an arm lost for longer is not called idle"
    )
    gap_share: float = rule(
        0.2, "share of a usual rep", "a stretch without the arm that may hide a rep or its border"
    )
    size_floor_deg: float = rule(
        8.0, "degrees", "what a standing body sways by, and a tracker's noise, stays below it"
    )
    size_floor_share: float = rule(
        0.25,
        "share of the intended range",
        "a shrug's whole range is less than the floor in degrees",
    )
    turning_cutoff_hz: float = rule(
        3.0, "hertz", "people turn a weight round no faster; what is faster there is noise"
    )
    blind_share: float = rule(
        0.25,
        "share of the range",
        "where a picture leaves a part of the lift less sure, it tells neither range nor pace",
    )
    fit_unsure_share: float = rule(
        0.3, "share of the range", "a pose that a picture leaves less sure counts no reps"
    )
    shortest_by_hand_s: float = rule(
        0.1, "seconds", "a phase that a hand makes shorter was not meant so"
    )
    same_edge_s: float = rule(
        0.6, "seconds", "an edge is the one that was meant when it stands this near to where it was"
    )
    over_soon_share: float = rule(
        0.65,
        "share of the set's median time",
        "where a pose model's noise may cut a rep in two, one that is over sooner may be a part"
        " of one",
    )
    over_late_share: float = rule(
        1.8, "share of the set's median time", "and one that takes longer may be two"
    )
    rest_beside_s: float = rule(
        1.0, "seconds", "what follows on a set's rep sooner than one walks off may be a rep, too"
    )
    near_threshold_share: float = rule(
        0.05,
        "share of the threshold",
        "a size this near to a threshold could be counted either way",
    )
    break_s: float = rule(
        12.0, "seconds", "a longer pause within a set is a break, and may part two sets"
    )
    blip_size_share: float = rule(
        0.4,
        "share of the set's movements",
        "a movement there and back that is smaller may be a slip",
    )
    blip_time_share: float = rule(0.3, "share of their time", "and is one when it is over so soon")
    hasty_share: float = rule(
        0.3, "share of a rep's usual time", "what is small and over sooner is no short rep"
    )
    half_rep_shares: tuple[float, float] = rule(
        (0.3, 0.75),
        "share of the lift",
        "a lift that comes back only so far, and the next from there, may be one rep or two",
    )
    together_share: float = rule(
        0.5, "share of the reps", "arms whose lifts overlap in so many reps work together"
    )
    alone_at_least: int = rule(
        2, "reps", "one arm that goes on does so many; a single one may be a look at the phone"
    )
    shaky_arm_share: float = rule(
        0.5, "of the other arm's size", "an arm that moves less may be idle and only seen poorly"
    )
    shaky_arm_noise: float = rule(
        16.0, "standard deviations of its noise", "what it then has to move to count as working"
    )
    idle_arm_share: float = rule(
        0.25, "share of the other arm's range", "an arm that moves less is idle"
    )
    worst_fit_arms: float = rule(
        1.0,
        "upper-arm lengths",
        "what stays farther from a guide arc is another exercise, or the way to it",
    )


@dataclass(frozen=True)
class EdgeRules:
    """Where a phase starts and ends."""

    edge_share: float = rule(0.05, "share of the phase's peak speed", "formats.md, section 4")
    gap_in_hold_s: float = rule(
        1.0, "seconds", "in so long a gap an arm may have come down and up again"
    )
    long_gap_s: float = rule(0.25, "seconds", "a longer gap bends the course of its phase")
    gap_near_share: float = rule(
        0.35, "share of the phase", "an end that is nearer to such a gap was not seen"
    )
    seen_about_s: float = rule(
        0.12, "seconds", "an edge is seen where nothing is lost for this long to either side"
    )
    shortest_pause_s: float = rule(0.15, "seconds", "formats.md, section 4")
    rest_share: float = rule(
        0.08,
        "share of the movement",
        "what still moves beyond a pause belongs to the movement from so much on",
    )
    misfit_noises: float = rule(
        1.6, "times the noise", "a fit that misses by more is no single reach"
    )
    misfit_share: float = rule(
        0.012, "share of the movement", "the same, where there is hardly any noise"
    )
    misfit_most: float = rule(
        0.15, "share of the movement", "and however unsure the view makes it, no more than this"
    )
    ramp_start_share: float = rule(
        0.45, "share of the phase", "where the fit of a phase's ramps begins; a usual lift's"
    )
    ramp_shares: tuple[float, float] = rule(
        (0.06, 0.75),
        "share of the phase",
        "ramps outside are no human's: a jerk, or no steady part at all",
    )
    tie: float = rule(0.3, "weight", "how strongly a phase's two ramps are taken to be alike")
    tie_width_share: float = rule(0.2, "share of the phase", "within which they count as alike")
    alike_share: float = rule(
        0.01,
        "share of the phase",
        "within which the ramps of a set's movements in one direction are alike at least",
    )
    alike_deg: float = rule(0.5, "degrees", "and their ends")
    least_pace_share: float = rule(
        0.2,
        "share of the usual pace",
        "a measure that changes slower than so somewhere along its arc is taken to change evenly",
    )
    enough_alike: int = rule(3, "movements", "from so many on")
    fit_gain: float = rule(
        2.2,
        "times what the fit says",
        "edges of a fitted phase are unsure by so much: people are not quite courses, and noise is"
        " not quite white",
    )
    fit_gain_picture: float = rule(
        2.2, "times what the fit says", "the same in a picture, where angles are not quite angles"
    )
    cut_gain: float = rule(
        8.0,
        "share of the phase",
        "edges of a phase that no course fits are unsure by so much, times the noise over the"
        " movement",
    )
    cut_most: float = rule(0.25, "share of the phase", "and never more than that")
    noisy_share: float = rule(
        0.02,
        "share of the movement",
        "noise from which on a phase unlike the set's is rather cut wrongly",
    )
    unlike_share: float = rule(
        0.5, "share of what it differs by", "what its edges are unsure by then"
    )


@dataclass(frozen=True)
class SelectionRules:
    """Which movements are reps of the set, and which are the way to the kit and back."""

    spot_m: float = rule(0.09, "metres", "a body that stands for a set keeps its place within this")
    moves_within_m: float = rule(0.12, "metres", "within a rep a body that stands still moves less")
    leans_within_deg: float = rule(
        32.0,
        "degrees",
        "bending down for the kit turns the trunk by more than any swing within a rep",
    )
    off_path_arms: float = rule(
        0.38, "upper-arm lengths", "reps of a set lie nearer to one another's path"
    )
    off_standard_arms: float = rule(0.75, "upper-arm lengths", "and nearer to the standard's")
    close: float = rule(
        1.5,
        "times the limit",
        "past a limit by less, a movement between two reps is one, and one outside is a doubt",
    )
    loose: float = rule(
        3.0, "times the limit", "reps that fell apart keep this near to the usual path"
    )
    enough_elsewhere: int = rule(
        3,
        "movements",
        "so many alike in a row are reps: neither the way to the rack nor taking the kit is done so"
        " often alike",
    )
    one_arm_share: float = rule(
        0.25,
        "share of the other arm's way",
        "an arm that goes less of a way is not working in that movement",
    )


REP: Final = RepRules()
EDGE: Final = EdgeRules()
SELECT: Final = SelectionRules()
