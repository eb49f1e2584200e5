"""What a clip shows before its import: from which side it was filmed, and which exercise it
may be."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import Final

import numpy as np
from numpy.typing import NDArray

from guide_arc.capture.tracking.landmarks import landmark_track
from guide_arc.capture.tracking.pose import PoseModel
from guide_arc.capture.tracking.tracker import Tracked, Tracker
from guide_arc.capture.video.clip import Clip
from guide_arc.core.kinematics.facing import SeenFrom, side_seen
from guide_arc.core.model.errors import BadInput
from guide_arc.core.model.marks import Marks
from guide_arc.core.model.track import SetFacts
from guide_arc.library.intake import Fits, fits_of
from guide_arc.library.searches import searcher
from guide_arc.standards.catalogue import Catalogue

Progress = Callable[[float], None]

# A few reps of the middle are used, with enough frames to see the path of the hands.
_SECONDS: Final = 9.0
_A_SECOND: Final = 8.0


@dataclass(frozen=True)
class ClipProposal:
    """seen : the side of the body that the camera sees; fits : standards that the movement fits;
    None: not known"""

    seen: SeenFrom | None = None
    fits: Fits | None = None


def propose(
    clip: Clip, catalogue: Catalogue, progress: Progress = lambda _share: None
) -> ClipProposal:
    """Examine a clip with an automatic tracker; nothing is proposed if there is no
    such thing.

    progress : may raise to stop
    """
    tracker = searcher(clip)
    if tracker is None:
        return ClipProposal()
    numbers = _looked_at(clip)
    try:
        found = _some(tracker, clip, numbers, progress)
    except BadInput:
        return ClipProposal()
    seen = side_seen(found.names, found.position, found.confidence)
    if seen is None:
        return ClipProposal()
    track = landmark_track(found, clip, Marks(seen.view), SetFacts(), numbers, points_from="pose")
    fits = fits_of(track, catalogue)
    if fits is not None and not seen.sure:
        fits = replace(fits, sure=False)
    return ClipProposal(seen, fits)


def _looked_at(clip: Clip) -> NDArray[np.int_]:
    middle, half = 0.5 * clip.duration_s, 0.5 * min(_SECONDS, clip.duration_s)
    times = np.arange(middle - half, middle + half, 1.0 / _A_SECOND)
    return np.unique([clip.index(float(t)) for t in times])


def _some(tracker: Tracker, clip: Clip, numbers: NDArray[np.int_], progress: Progress) -> Tracked:
    if isinstance(tracker, PoseModel):
        return tracker.some(clip, numbers, progress)
    every = tracker.track(clip, Marks("left"), progress)
    return Tracked(
        every.names, every.position[numbers], every.confidence[numbers], every.doubted[numbers]
    )
