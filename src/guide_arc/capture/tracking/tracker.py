"""The one small interface that all trackers share."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Protocol

import numpy as np
from numpy.typing import NDArray

from guide_arc.capture.video.clip import Clip
from guide_arc.core.model.marks import Marks

Progress = Callable[[float], None]


@dataclass(frozen=True, eq=False)
class Tracked:
    """Where a tracker found each point, in pixels of the upright picture.

    names : the L points; position : (F, L, 2), NaN where not found; confidence : (F, L) 0 to 1
    doubted : (F, L) where the tracker asks for another look
    """

    names: tuple[str, ...]
    position: NDArray[np.float64]
    confidence: NDArray[np.float64]
    doubted: NDArray[np.bool_]


class Tracker(Protocol):
    """Finds points in a clip."""

    name: str

    def why_not(self, clip: Clip, marks: Marks) -> str | None:
        """What keeps it from working on this clip, as a sentence with what to do; None when nothing
        does."""
        ...

    def track(self, clip: Clip, marks: Marks, progress: Progress) -> Tracked:
        """Go through the whole clip. `progress` takes a share from 0 to 1 and may raise to stop."""
        ...
