"""Several sets in one recording: supersets, and drop sets with the weight changed in between."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from typing import Any, Final

import numpy as np

from guide_arc.core.kinematics.vectors import Array
from guide_arc.core.model.standard import Standard
from guide_arc.core.model.track import LandmarkTrack, SetFacts
from guide_arc.core.simulate.camera import IMAGE_SIZE, Camera, record
from guide_arc.core.simulate.perform import Performance, Script, perform
from guide_arc.core.simulate.timing import minimum_jerk

# From the last pose of one part to the first of the next.
CHANGE_S: Final = 2.5


def perform_in_turn(
    parts: Sequence[tuple[Standard, Script]], camera: Camera, seed: int = 0
) -> Performance:
    """One recording of several sets of one client, done one after the other.

    The truth holds the truth of each part under `parts`, in the recording's time.
    Raises ValueError without a part.
    """
    if not parts:
        raise ValueError("there is nothing to perform")
    quiet = replace(camera, view="none", noise=0.0, drift=0.0, dropout=0.0)
    done = [perform(plan, script, quiet, seed + i) for i, (plan, script) in enumerate(parts)]
    names = tuple(n for n in done[0].track.names if all(n in d.track.names for d in done))
    pieces: list[Array] = []
    truths: list[dict[str, Any]] = []
    frames = 0
    for one in done:
        exact = one.exact[:, [one.track.names.index(n) for n in names]]
        if pieces:
            way = minimum_jerk(np.linspace(0.0, 1.0, round(CHANGE_S * camera.rate_hz)))
            change = pieces[-1][-1] + way[:, None, None] * (exact[0] - pieces[-1][-1])
            pieces.append(change)
            frames += len(change)
        truths.append(_later(one.truth, frames / camera.rate_hz))
        pieces.append(exact)
        frames += len(exact)
    every = np.concatenate(pieces)
    rng = np.random.default_rng(seed)
    seen, confidence = record(every, names, camera, rng)
    world = camera.view == "none"
    track = LandmarkTrack(
        time_s=np.arange(frames) / camera.rate_hz,
        names=names,
        position=seen,
        confidence=confidence,
        space="world" if world else "image",
        view=camera.view,
        image_size=None if world else IMAGE_SIZE,
        facts=SetFacts(subject_height_m=parts[0][1].stature_m),
    )
    return Performance(track, every, lambda: {"format": "set-truth/1", "parts": truths})


def _later(truth: dict[str, Any], by_s: float) -> dict[str, Any]:
    """A truth document with all its times shifted."""

    def moved(span: list[float] | None) -> list[float] | None:
        return None if span is None else [round(t + by_s, 4) for t in span]

    phases = ("lift", "top_hold", "lower", "bottom_hold")
    reps = [{**rep, **{p: moved(rep[p]) for p in phases}} for rep in truth["reps"]]
    return {**truth, "reps": reps}
