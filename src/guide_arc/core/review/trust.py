"""What the numbers of a review rest on, and what this recording cannot show."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Final

import numpy as np

from guide_arc.core.kinematics.body import Body
from guide_arc.core.kinematics.cleaning import CleanTrack
from guide_arc.core.kinematics.facing import side_seen
from guide_arc.core.kinematics.vectors import median
from guide_arc.core.kinematics.views import near_side
from guide_arc.core.model.finding import Finding
from guide_arc.core.model.landmarks import SIDES
from guide_arc.core.model.quantity import Quantity
from guide_arc.core.model.review import Trust
from guide_arc.core.model.standard import Standard
from guide_arc.core.model.track import LandmarkTrack, View, side_of
from guide_arc.core.reps.driven import driven, shows_the_whole_way, tells_drive
from guide_arc.core.reps.segment import RepSet
from guide_arc.core.review.far_arm import far_arm, told_once
from guide_arc.core.review.rules import REVIEW

_WORKING: Final = ("wrist", "elbow", "shoulder", "hip")
_PLURAL: Final = {"wrist": "hands"}
# Crossed arms and a body that turns for a moment take less of a recording.
_OTHER_WAY_SHARE: Final = 0.9
_VIEW_WORDS: Final = {
    "none": "Recorded in 3D",
    "front": "Seen from the front",
    "back": "Seen from the back",
    "left": "Seen from the left",
    "right": "Seen from the right",
    "front-left": "Seen from between front and left",
    "front-right": "Seen from between front and right",
    "back-left": "Seen from between back and left",
    "back-right": "Seen from between back and right",
}


def trust_in(body: Body, repset: RepSet, standard: Standard, findings: Iterable[Finding]) -> Trust:
    """The trust strip's facts for one review."""
    cleaned = body.cleaned
    track = cleaned.track
    us = [driven(body, standard, s).u for s in SIDES if tells_drive(body, standard, s)]
    finite = np.concatenate([u[np.isfinite(u)] for u in us]) if us else np.zeros(0)
    angle_u = median(finite)
    noise = cleaned.noise_m
    known_scale = track.calibration.px_per_m
    if track.space == "world":
        scale = "true lengths"
    elif known_scale is not None:
        what = track.calibration.scale_from or "a known length"
        scale = f"scale from {what}, ± {_pct(2 * scale_u_share(track))}"
    elif track.facts.subject_height_m:
        scale = "scale from stature"
    else:
        scale = "no scale"
    known = scale != "no scale" and noise.size > 0
    axes = 3 if track.space == "world" else 2
    noise_mm = median(noise) * 1000.0 * np.sqrt(axes) if known else None
    findings = tuple(findings)
    once = told_once(findings, track.view)
    hidden = dict.fromkeys(f.title.lower() for f in once if f.verdict == "cannot-tell")
    roll = cleaned.roll
    return Trust(
        roll_deg=Quantity(roll.deg, roll.u_deg) if roll and roll.put_straight else None,
        view=_VIEW_WORDS[track.stated_view],
        scale=scale,
        noise_mm=noise_mm,
        filled_pct=100.0 * cleaned.filled_share,
        outliers=cleaned.outliers + cleaned.swapped_frames,
        angle_u_deg=angle_u,
        cannot=tuple(hidden),
        doubts=_doubts(body, repset, standard)
        + _behind_the_body(findings, track.view)
        + _of_the_camera(cleaned)
        + _near_the_edge(track, cleaned.names),
        missing=_not_calibrated(body),
    )


def scale_u_share(track: LandmarkTrack) -> float:
    """How sure lengths are: their standard uncertainty from the scale, as a share. 0 in space."""
    if track.space == "world":
        return 0.0
    known = track.calibration.px_per_m
    if known is not None:
        return known.u / known.value
    return REVIEW.stature_u if track.facts.subject_height_m else REVIEW.no_stature_u


def _not_calibrated(body: Body) -> tuple[str, ...]:
    """What nobody drew on the picture, and what it costs."""
    track, roll = body.cleaned.track, body.cleaned.roll
    out = []
    if track.space == "image" and track.calibration.px_per_m is None:
        out.append(f"no known length, so lengths ± {_pct(2 * scale_u_share(track))}")
    if track.space == "image" and track.calibration.vertical_deg is None and roll is not None:
        out.append(f"no plumb line, so leans ± {2 * roll.u_deg:.0f}°")
    return tuple(out)


def _behind_the_body(findings: tuple[Finding, ...], view: View) -> tuple[str, ...]:
    far = far_arm(findings, view)
    if far is None:
        return ()
    return (f"the {far} arm is behind the body and not judged; film from the {far} as well",)


def _of_the_camera(cleaned: CleanTrack) -> tuple[str, ...]:
    """Where the camera is off the axis of its view, and what a pose model does that no figure
    shows."""
    out = []
    if cleaned.aside.said:
        out.append(
            f"the camera stands about {abs(cleaned.aside.yaw_deg):.0f}° round from the"
            f" {cleaned.track.view} side, ± {2 * cleaned.aside.u_deg:.0f}°"
        )
    elif cleaned.aside.deg:
        out.append(
            f"the camera stands about {cleaned.aside.deg:.0f}° aside of the {cleaned.track.view}"
            " view, so angles are less sure"
        )
    if _other_way_about(cleaned):
        other = "back" if cleaned.track.view == "front" else "front"
        out.append(
            f"left and right stand the other way about than from the {cleaned.track.view}: the clip"
            f" may be mirrored, or filmed from the {other}; what is said of one arm may be the"
            " other's"
        )
    if _faces_the_other_way(cleaned):
        out.append(
            f"the body faces the other way than one that is seen from the {cleaned.track.view}: the"
            " clip may be mirrored, or filmed from the other side; what is said of one arm may be"
            " the other's"
        )
    if cleaned.noise_stays and cleaned.track.points_from in ("", "pose"):
        out.append(
            "joint positions come from a pose model and may be a few centimetres off; a hidden arm"
            " may be guessed"
        )
    return tuple(out)


def _faces_the_other_way(cleaned: CleanTrack) -> bool:
    """Whether a view from one side shows, by toes and nose, a body that is seen from the other."""
    track = cleaned.track
    if near_side(track.view) is None:
        return False
    seen = side_seen(track.names, track.position, track.confidence)
    return (
        seen is not None
        and seen.sure
        and near_side(side_of(seen.view)) not in (None, near_side(track.view))
    )


def _other_way_about(cleaned: CleanTrack) -> bool:
    """Whether the left shoulder and hip are on the right's side in nearly all frames, which no view
    from the front or the back shows."""
    if cleaned.track.view not in ("front", "back"):
        return False
    for part in ("shoulder", "hip"):
        apart = (cleaned.point(f"left_{part}") - cleaned.point(f"right_{part}"))[:, 0]
        apart = apart[np.isfinite(apart)]
        if not len(apart) or np.mean(apart < 0.0) < _OTHER_WAY_SHARE:
            return False
    return True


def _near_the_edge(track: LandmarkTrack, names: tuple[str, ...]) -> tuple[str, ...]:
    """A doubt where the working joints come near the picture's edge, where lenses bend what is
    straight."""
    if track.image_size is None:
        return ()
    size = np.array(track.image_size, dtype=float)
    part_of: dict[str, float] = {}
    for name in names:
        part = name.partition("_")[2] or name
        if part in _WORKING:
            from_edge = np.minimum(track.point(name), size - track.point(name)) / size
            near = (
                np.nanmean(from_edge.min(axis=1) < REVIEW.picture_edge_share)
                if track.has(name)
                else 0.0
            )
            part_of[part] = max(part_of.get(part, 0.0), float(near))
    close = [part for part in _WORKING if part_of.get(part, 0.0) > REVIEW.edge_often_share]
    if not close:
        return ()
    words = " and ".join(_PLURAL.get(p, f"{p}s") for p in close[:2])
    return (
        (
            f"the {words} come near the picture's edge, where a lens bends lines; film from"
            " farther off"
        ),
    )


def _pct(share: float) -> str:
    return f"{100.0 * share:.0f} %"


def _doubts(body: Body, repset: RepSet, standard: Standard) -> tuple[str, ...]:
    out: list[str] = []
    if not repset.drives:
        out.append("this view does not show the movement that counts reps")
    elif not repset.reps:
        out.append("no rep of this exercise was found")
    elif not shows_the_whole_way(body, standard):
        out.append(
            "from here the arm seems to stand still on a part of its way: reps may be counted"
            " wrongly"
        )
    out += [doubt.words for doubt in repset.doubts]
    lost = len(repset.unfit)
    if lost:
        out.append(
            f"{lost} correction{'' if lost == 1 else 's'} by hand no longer"
            f" fit{'s' if lost == 1 else ''} any rep"
        )
    return tuple(out)
