"""From what a tracker found to a landmark track, and marks by hand joined with a model's."""

from __future__ import annotations

from typing import Final

import numpy as np
from numpy.typing import NDArray

from guide_arc.capture.tracking.tracker import Tracked
from guide_arc.capture.video.clip import Clip
from guide_arc.core.kinematics.calibrate import calibration_of
from guide_arc.core.model.landmarks import KNOWN
from guide_arc.core.model.marks import KNUCKLES, Marks
from guide_arc.core.model.track import CameraPlace, LandmarkTrack, PointsFrom, SetFacts

# A doubted sample counts as little as this; one without evidence is no measurement.
_DOUBTED: Final = 0.2
_WORTH: Final = 0.35


def landmark_track(
    tracked: Tracked,
    clip: Clip,
    marks: Marks,
    facts: SetFacts,
    frames: NDArray[np.int_] | None = None,
    *,
    points_from: PointsFrom,
) -> LandmarkTrack:
    """The track of a clip, or of those of its frames in which it was searched for. One mark on the
    knuckles gives both of them.

    points_from : who said where the joints are
    """
    time_s = clip.time_s if frames is None else clip.time_s[frames] - clip.time_s[frames[0]]
    names: list[str] = []
    columns: list[int] = []
    for i, name in enumerate(tracked.names):
        side = name.partition("_")[0]
        both = (f"{side}_index", f"{side}_pinky") if name in KNUCKLES else (name,)
        for one in both:
            if one in KNOWN and one not in tracked.names[:i] and one not in names:
                names.append(one)
                columns.append(i)
    sure = tracked.confidence
    confidence = np.where(tracked.doubted, np.where(sure < _WORTH, 0.0, _DOUBTED), sure)
    return LandmarkTrack(
        time_s=np.round(time_s, 6),
        names=tuple(names),
        position=np.round(tracked.position[:, columns], 2),
        confidence=np.round(np.clip(confidence[:, columns], 0.0, 1.0), 2),
        space="image",
        view=marks.side,
        image_size=(clip.width, clip.height),
        facts=facts,
        calibration=calibration_of(marks),
        points_from=points_from,
        camera=CameraPlace.stated(marks.view),
    )


def joined(by_hand: Tracked | None, by_model: Tracked) -> Tracked:
    """Marked points in place of a model's of the same name, and all others of both."""
    if by_hand is None:
        return by_model
    own = set(by_hand.names)
    for name in by_hand.names:
        if name in KNUCKLES:
            side = name.partition("_")[0]
            own |= {f"{side}_index", f"{side}_pinky"}
    kept = [i for i, name in enumerate(by_model.names) if name not in own]
    return Tracked(
        (*by_hand.names, *(by_model.names[i] for i in kept)),
        np.concatenate((by_hand.position, by_model.position[:, kept]), axis=1),
        np.concatenate((by_hand.confidence, by_model.confidence[:, kept]), axis=1),
        np.concatenate((by_hand.doubted, by_model.doubted[:, kept]), axis=1),
    )
