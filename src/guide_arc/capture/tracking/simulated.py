"""The simulated tracker: finds the landmarks in a simulated film, with a tracker's noise and
losses.

The film says itself how it was made; the performance is made again from that. It replaces a pose
model in the demo and in tests."""

from __future__ import annotations

import json
from typing import Any, Final

import numpy as np

from guide_arc.capture.film.film import RECIPE, in_film, performed
from guide_arc.capture.tracking.tracker import Progress, Tracked
from guide_arc.capture.video.clip import Clip
from guide_arc.core.kinematics.views import near_side
from guide_arc.core.model.errors import BadInput
from guide_arc.core.model.landmarks import KIT
from guide_arc.core.model.marks import Marks
from guide_arc.standards.loader import standard

# As a pose model is on a picture 720 pixels wide: its jitter, frames without a find, and the scores
# that it gives joints that are seen and hidden.
_NOISE_PX: Final = 1.6
_LOST_SHARE: Final = 0.004
_SEEN: Final = 0.93
_HIDDEN: Final = 0.5


class SimulatedTracker:
    """A substitute that works on films of the simulated camera only."""

    name = "simulated tracker"

    def why_not(self, clip: Clip, marks: Marks) -> str | None:
        if recipe_of(clip) is None:
            return (
                "the simulated tracker reads films of the simulated camera only; mark the joints by"
                " hand"
            )
        return None

    def track(self, clip: Clip, marks: Marks, progress: Progress) -> Tracked:
        """The true landmarks with noise. Raises BadInput for another clip than a simulated film."""
        recipe = recipe_of(clip)
        if recipe is None:
            raise BadInput(f"{clip.path.name} is no film of the simulated camera")
        progress(0.1)
        plan = standard(recipe["standard"], recipe["school"])
        done, filming, moves = performed(recipe, plan)
        progress(0.8)
        exact = in_film(done, filming, moves)
        body = [i for i, n in enumerate(exact.names) if n not in KIT]
        names = tuple(exact.names[i] for i in body)
        frames = min(clip.frames, exact.frames)
        rng = np.random.default_rng([int(recipe["seed"]), 79])
        scale = clip.width / filming.width
        position = np.full((clip.frames, len(names), 2), np.nan)
        position[:frames] = scale * exact.position[:frames][:, body]
        position += scale * _NOISE_PX * rng.standard_normal(position.shape)
        position[rng.random(position.shape[:2]) < _LOST_SHARE] = np.nan
        near = near_side(filming.view)
        hidden = [bool(near) and n.partition("_")[0] not in (near, n) for n in names]
        confidence = np.where(hidden, _HIDDEN, _SEEN) + 0.03 * rng.standard_normal(
            position.shape[:2]
        )
        confidence = np.where(np.isnan(position[..., 0]), 0.0, np.clip(confidence, 0.0, 1.0))
        return Tracked(names, position, confidence, np.isnan(position[..., 0]))


def recipe_of(clip: Clip) -> dict[str, Any] | None:
    """How a simulated film was made, as it says itself; None for any other clip."""
    try:
        recipe = json.loads(clip.made_by)
    except ValueError:
        return None
    return recipe if isinstance(recipe, dict) and recipe.get("made") == RECIPE else None
