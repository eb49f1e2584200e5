"""The numbers that decide in `kinematics`: what is measured, how level the camera stood, and what a
picture can show."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

from guide_arc.core.model.rules import rule


@dataclass(frozen=True)
class CleaningRules:
    """What in a track is a measurement, and what is a tracker's mistake."""

    outlier_sigmas: float = rule(
        7.0,
        "standard deviations",
        "a landmark this far from the running median of its surroundings is an outlier",
    )
    outlier_least_m: float = rule(
        0.06, "metres", "and never less than what a hand may truly do between two samples"
    )
    outlier_window_s: float = rule(0.15, "seconds", "the surroundings on either side")
    longest_outlier_s: float = rule(0.35, "seconds", "what stays away longer has moved")
    no_confidence: float = rule(
        0.01,
        "confidence",
        "a sample below it counts as missing, where the landmark is seen surely at most times",
    )
    sure_elsewhere: float = rule(0.3, "confidence", "what counts as seen surely")
    doubted_share: float = rule(
        0.5,
        "share of the samples",
        "a landmark doubted in more of them is doubted by its tracker's habit",
    )
    doubted_confidence: float = rule(0.6, "confidence", "what counts as doubted")
    longest_bridge_s: float = rule(
        0.3, "seconds", "a longer gap is not drawn through: a limb may have done anything"
    )
    least_drift_m: float = rule(0.001, "metres", "no tracker drifts less than this")
    drift_share: float = rule(
        0.2, "share of the white noise", "a tracker's slow drift where its bones show none"
    )
    model_joint_u_m: float = rule(
        0.008, "metres", "a pose model's joint stands so far from where the bones meet, either axis"
    )
    model_joint_space_u_m: float = rule(
        0.012, "metres", "the same in space, where depth is guessed"
    )
    model_joint_noises: float = rule(1.1, "times its jitter", "and no farther, either way")
    still_hz: tuple[float, float] = rule(
        (0.75, 3.0), "hertz", "what stands still moves so fast only by a tracker's errors"
    )
    no_limb_hz: tuple[float, float] = rule(
        (4.5, 7.0), "hertz", "limbs under load move slower; a tracker's errors do not"
    )
    faster_from: float = rule(
        1.2,
        "times the highest frequencies",
        "what is as strong there is white, whatever moves below",
    )
    highest_share: float = rule(
        0.8, "share of half the frame rate", "the frequencies that show how strong the noise is"
    )
    trunk_of_stature: float = rule(
        0.288, "share of the stature", "a usual body, see kinematics/anatomy.py"
    )
    usual_stature_m: float = rule(1.75, "metres", "a usual adult, where nobody said")


@dataclass(frozen=True)
class LevelRules:
    """How level the camera stood, by what should be plumb or level."""

    usual_roll_deg: float = rule(
        3.0, "degrees", "cameras on a bag or a tripod: standard deviation, before anything was seen"
    )
    told_roll_u_deg: float = rule(0.5, "degrees", "of a tilt that somebody measured")
    plumb_front_u_deg: float = rule(
        2.0, "degrees", "standard uncertainty of a stance seen from the front"
    )
    feet_level_u_deg: float = rule(4.5, "degrees", "of the line between two feet")
    shoulders_level_u_deg: float = rule(3.5, "degrees", "of the line between two shoulders")
    foot_flat_u_deg: float = rule(5.0, "degrees", "of a foot on the floor")
    stands_over_u_deg: float = rule(4.0, "degrees", "of a body over its ankles, seen from the side")
    stands_ahead_deg: float = rule(
        1.5, "degrees", "seen from the side a body at ease leans this much ahead of its ankles"
    )
    upright_deg: float = rule(
        20.0, "degrees", "a standard whose trunk leans more has no upright stance"
    )
    feet_apart_m: float = rule(0.12, "metres", "feet nearer together give no line")
    most_roll_deg: float = rule(
        22.0, "degrees", "nobody props a camera up farther off level than this and leaves it so"
    )
    no_level_deg: float = rule(
        18.0, "degrees", "a foot or body farther off stands on its toes, hangs or lies"
    )


@dataclass(frozen=True)
class PictureRules:
    """What a picture can show of a body in space, and how sure that is."""

    seen_whole_share: float = rule(
        0.93,
        "share of the usual length",
        "an arm that never looked longer never lay in the picture's plane",
    )
    seen_length_u: float = rule(
        0.03, "share", "standard uncertainty of a length that was seen whole"
    )
    usual_length_u: float = rule(
        0.06, "share", "and of one taken from the trunk, from the spread of bodies"
    )
    surely_short_share: float = rule(
        0.8,
        "share of the usual length",
        "a limb that never looked longer surely reached out of the plane; up to the share above it"
        " may be short instead",
    )
    looks_down_from_m: float = rule(
        0.42,
        "metres",
        "a camera may stand so far above or below what it looks at: what is nearer looks lower or"
        " higher",
    )
    of_noise: float = rule(
        1.5, "standard deviations", "by which a noisy limb's longest looks are too long"
    )
    poor_sine: float = rule(
        0.2, "sine", "below it a length says no more of the elevation than there"
    )
    flat_u_deg: float = rule(
        1.5, "degrees", "what is left of doubt where a limb lies flat in the picture"
    )
    length_says_share: float = rule(
        0.25, "share", "what a length that a limb never showed may be wrong by, of what it changes"
    )
    usual_distance_m: float = rule(
        2.8, "metres", "a phone stands about this far away, where the picture's size is not known"
    )
    focal_share: float = rule(
        0.85, "share of the picture's longer side", "a phone's usual focal length"
    )
    distances_m: tuple[float, float] = rule(
        (1.5, 3.5),
        "metres",
        "no nearer fits a body; and a wide lens may stand nearer than it looks",
    )
    looks_whole_share: float = rule(
        0.95, "share of the length", "a limb that looks longer lies in the picture's plane"
    )
    hangs_ahead_deg: float = rule(
        5.0, "degrees", "an arm at rest hangs this much ahead of the trunk"
    )
    hanging_deg: float = rule(25.0, "degrees", "an arm below it hangs")
    out_of_plane_u: float = rule(
        2.5,
        "degrees, or percent of a length",
        "a limb up to about 20 degrees out of the picture's plane, a camera up to 3 degrees off"
        " level",
    )
    legs_out_of_plane_u_deg: float = rule(
        1.0, "degrees", "the same of hips and knees, which bend in the plane of a side view"
    )
    forearm_out_of_plane_u_deg: float = rule(
        3.5, "degrees", "of how a forearm stands, which a camera that looks down shows steeper"
    )
    rise_u_pct: float = rule(
        1.6,
        "percent of the trunk",
        "a shrug is a change in the picture, in which a head that nods and a trunk that tips take"
        " part",
    )
    trunk_out_of_plane_u_deg: float = rule(
        2.0, "degrees", "and of how a trunk leans: a camera off level is told by itself"
    )
    change_u_deg: float = rule(
        0.8, "degrees", "of what a trunk's lean changes by in a picture, beside the noise"
    )
    side_lean_out_of_plane_u_deg: float = rule(1.2, "degrees", "and of how it leans aside")
    click_u_px: float = rule(
        1.5, "pixels", "a click falls this far from what it means, either axis"
    )
    depth_u: float = rule(
        0.03,
        "share of the length",
        "what is measured seldom stands exactly as far away as the person",
    )
    plumb_u_deg: float = rule(0.3, "degrees", "cords swing a little")
    level_line_u_deg: float = rule(0.6, "degrees", "shelves sag a little")


@dataclass(frozen=True)
class BodyRules:
    """What of a body counts as at rest, and where a measure is defined."""

    least_rest_share: float = rule(
        0.75,
        "share of the usual trunk",
        "a shrug lengthens what is seen of the trunk by no more; a hanging head must not"
        " shorten it",
    )
    tipped_deg: float = rule(
        45.0, "degrees", "a trunk that leans more has no plumb line to be put straight by"
    )
    least_sine: float = rule(0.3, "sine", "a trunk that points at the camera more gives no lean")
    quiet_s: float = rule(
        1.0, "seconds", "formats.md, section 3: the quietest second before the first lift"
    )
    quiet_least_s: float = rule(0.3, "seconds", "where the recording has less than that before it")
    plane_defined_deg: tuple[float, float] = rule((15.0, 165.0), "degrees", "formats.md, section 3")
    side_lean_until_deg: float = rule(60.0, "degrees", "formats.md, section 3")
    usual_corridor_pct: float = rule(
        15.0,
        "percent of the upper arm",
        "half of the corridor where a standard sets no limit of its own",
    )
    beyond_share: float = rule(
        0.15,
        "share of the arc",
        "a lift that goes on past the guide's end is a matter of range, not of path",
    )


@dataclass(frozen=True)
class AsideRules:
    """How far a camera is off the axis of its view, and what that does to what it shows."""

    shoulders_u_deg: float = rule(
        5.0,
        "degrees",
        "seen from the side, of the line between the shoulders: trunks turn a little",
    )
    hips_u_deg: float = rule(8.0, "degrees", "of the shorter one between the hips")
    feet_u_deg: float = rule(7.0, "degrees", "of two feet, which point out unevenly")
    sure_from_u: float = rule(1.5, "times that", "what is less may be none")
    unseen_share: float = rule(
        0.7, "share of its uncertainty", "by which a camera may stand aside without being found out"
    )
    out_of_plane_share: float = rule(
        0.25, "share of its length", "by which an arm reaches out of a picture's plane"
    )
    usual_u_deg: float = rule(
        12.0, "degrees", "a camera stands off its view by so much at most times"
    )
    between_u_deg: float = rule(12.0, "degrees", "and off the middle between two sides")
    told_u_deg: float = rule(2.0, "degrees", "of an angle that somebody measured")
    told_pitch_u_deg: float = rule(3.0, "degrees", "and of how far it looks down")
    too_far_deg: float = rule(
        38.0, "degrees", "a camera farther round shows neither the one view nor the next"
    )
    trunk_share: float = rule(
        0.4, "share of a limb's", "by which a camera aside makes the trunk's lean wrong"
    )
    trunk_leans_deg: float = rule(
        9.5, "degrees", "a trunk leans ahead or back so far, and seems to lean aside by its share"
    )
    least_cosine: float = rule(0.5, "cosine", "of a camera farther round no lean is measured")
    steepest_deg: float = rule(60.0, "degrees", "the same as an angle")
    leans_aside_deg: float = rule(2.0, "degrees", "a trunk leans to one side so far")
    forearm_share: float = rule(
        0.6, "share of a limb's", "and a forearm's tilt, which stands upright more than across"
    )
    knee_share: float = rule(0.9, "share of a limb's", "and a knee's bend")
    hip_share: float = rule(
        1.6, "times a limb's", "and a hip's bend, whose trunk and thigh both look narrower"
    )
    spine_share: float = rule(
        0.15, "share of a limb's", "and the spine's bend, which is small: two parts narrow alike"
    )


@dataclass(frozen=True)
class FitRules:
    """What is known of a pose before a picture of it was seen: standard deviations about the
    standard's path."""

    elevation_deg: float = rule(5.0, "degrees", "people's own style of an upper arm's height")
    plane_deg: float = rule(7.0, "degrees", "and of its direction about the trunk")
    elbow_deg: float = rule(5.5, "degrees", "of an elbow's bend")
    forearm_deg: float = rule(8.0, "degrees", "of the forearm's turn about the upper arm")
    lean_deg: float = rule(6.0, "degrees", "of the trunk's lean")
    leans_more_deg: float = rule(
        25.0, "degrees", "a trunk that leans otherwise by more stands up or lies down"
    )
    twist_deg: float = rule(5.0, "degrees", "and of its turn")
    yaw_u_deg: float = rule(5.0, "degrees", "a phone stands so far round from where it is said to")
    pitch_deg: float = rule(8.0, "degrees", "and looks down or up by so much, its height with it")
    limb_share: float = rule(0.06, "share of its length", "limbs of people of one stature differ")
    scale_share: float = rule(0.05, "share", "a picture's scale from the trunk's looks")
    nearness_share: float = rule(0.25, "share", "of the camera's distance")
    apart_share: float = rule(0.25, "share of the path", "places that lie apart are not the same")
    alike_squared: float = rule(
        9.0, "squared standard deviations", "and look alike where a picture takes one for the other"
    )
    way_hz: float = rule(10.0, "hertz", "how often a course is asked where it came from")
    fastest_share_s: float = rule(1.2, "paths a second", "how fast a limb usually goes at most")
    trunk_tells_share: float = rule(
        0.8, "share of its length", "a trunk that looks shorter tells no scale"
    )
    learns_at_hz: float = rule(6.0, "hertz", "so often a recording is looked at to learn from it")
    enough_hz: float = rule(30.0, "hertz", "and so often for the pose itself: limbs move slower")
    rounds: int = rule(2, "rounds", "of learning build, camera and style from the whole recording")
    style_stays_share: float = rule(
        0.5, "share of its variance", "what of a person's style is the same all along the path"
    )
    fits_below: float = rule(
        4.0, "times the usual misfit", "what fits worse is another movement and teaches nothing"
    )
    parts: int = rule(8, "parts of the path", "each of which is one witness")
    fewest: int = rule(5, "moments", "fewer say nothing of a part")
    joint_gain: float = rule(
        1.4, "times", "a pose model's joints stand elsewhere by more than its jitter tells"
    )
    anything_deg: float = rule(
        22.0, "degrees", "an upper arm that may be anywhere departs by so much"
    )
    any_bend_deg: float = rule(40.0, "degrees", "and an elbow that may have any bend")
    end_share: float = rule(0.05, "share of the path", "at its ends a path turns round")
    lost_m: float = rule(5.0, "metres", "what was not seen may be anywhere")
    freedom: int = rule(3, "numbers", "two limbs give four numbers, of which the place takes one")


CLEAN: Final = CleaningRules()
LEVEL: Final = LevelRules()
PICTURE: Final = PictureRules()
BODY_RULES: Final = BodyRules()
ASIDE: Final = AsideRules()
FIT: Final = FitRules()
