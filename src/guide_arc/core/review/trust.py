"""What stands behind the numbers of a review, and what this recording can't show."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Final

import numpy as np

from guide_arc.core.kinematics.body import Body
from guide_arc.core.model.finding import Finding
from guide_arc.core.model.landmarks import SIDES
from guide_arc.core.model.quantity import Quantity
from guide_arc.core.model.review import Trust
from guide_arc.core.model.standard import Standard
from guide_arc.core.reps.segment import RepSet

_VIEW_WORDS: Final = {
    "none": "Recorded in 3D",
    "front": "Seen from the front",
    "back": "Seen from the back",
    "left": "Seen from the left",
    "right": "Seen from the right",
}


def trust_in(body: Body, repset: RepSet, standard: Standard, findings: Iterable[Finding]) -> Trust:
    """The trust strip's facts for one review."""
    cleaned = body.cleaned
    track = cleaned.track
    measure = repset.reps[0].measure if repset.reps else standard.drive
    us = [body.measure(measure, s).u for s in SIDES if body.shows(measure, s)]
    angle_u = float(np.nanmedian(us)) if us else float("nan")
    noise = cleaned.noise_m
    if track.space == "world":
        scale = "true lengths"
    elif track.facts.subject_height_m:
        scale = "scale from stature"
    else:
        scale = "no scale"
    known = scale != "no scale" and noise.size > 0
    axes = 3 if track.space == "world" else 2
    noise_mm = float(np.median(noise)) * 1000.0 * np.sqrt(axes) if known else None
    hidden = dict.fromkeys(f.rule.title.lower() for f in findings if f.verdict == "cannot-tell")
    roll = cleaned.roll
    return Trust(
        roll_deg=Quantity(roll.deg, roll.u_deg) if roll and roll.put_straight else None,
        view=_VIEW_WORDS[track.view],
        scale=scale,
        noise_mm=noise_mm,
        filled_pct=100.0 * cleaned.filled_share,
        slips=cleaned.slips + cleaned.swapped_frames,
        angle_u_deg=angle_u,
        cannot=tuple(hidden),
        doubts=_doubts(repset, measure, standard),
    )


def _doubts(repset: RepSet, measure: str, standard: Standard) -> tuple[str, ...]:
    out: list[str] = []
    if not repset.drives:
        out.append("this view does not show the movement that counts reps")
    elif not repset.reps:
        out.append("no rep of this exercise was found")
    elif measure != standard.drive:
        words = measure.replace("_", " ")
        out.append(
            f"reps counted by {words}, as this view hides {standard.drive.replace('_', ' ')}"
        )
    out += [doubt.words for doubt in repset.doubts]
    lost = len(repset.unfit)
    if lost:
        out.append(
            f"{lost} correction{'' if lost == 1 else 's'} by hand no longer fit{'s' if lost == 1 else ''} any rep"
        )
    return tuple(out)
