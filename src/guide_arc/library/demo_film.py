"""How a set of the demo is filmed by the simulated camera and reviewed, with nothing of the library
loaded: the helper processes that do it start fast."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from typing import Literal

import numpy as np

from guide_arc.core.model.track import LandmarkTrack, View
from guide_arc.core.review.assess import review_set
from guide_arc.core.simulate.camera import Camera
from guide_arc.core.simulate.opening import LEAST_WALK_IN_S
from guide_arc.core.simulate.perform import ArmsAtWork, Script, perform
from guide_arc.formats.track_csv import csv_text
from guide_arc.library.kept_forms import KeptForms, kept_forms
from guide_arc.standards.loader import standard
from guide_arc.standards.tempo import parse_tempo

STATURE_M = {
    "Ada Quill": 1.68,
    "Benno Hartz": 1.84,
    "Cleo Marsh": 1.74,
    "Dario Venn": 1.79,
    "Esme Rook": 1.62,
    "Finn Adair": 1.88,
}


# A set that came as a clip: with its landmarks found, or still to be marked.
ClipState = Literal["found", "unmarked"]


@dataclass(frozen=True)
class DemoSet:
    """One set of the demo: who, what, when, and how it went. clip : it is a film, not only
    landmarks"""

    client: str
    standard: str
    recorded: str
    load_kg: float
    reps: int
    school: str | None = None
    tempo: str | None = None
    faults: Mapping[str, float] = field(default_factory=dict)
    fault_from: int = 1
    view: View = "none"
    partial: int = 0
    walk_in: bool = False
    first_hold_s: float = 0.0
    arms: ArmsAtWork | None = None
    pain: bool = False
    done: bool = False
    cue: str | None = None
    clip: ClipState | None = None
    rate_hz: float = 30.0


def filmed_track(filmed: DemoSet, seed: int) -> tuple[str, bytes]:
    """The name and bytes of a set's track."""
    return file_name(filmed, ".csv"), csv_text(_track(filmed, seed)).encode()


def file_name(filmed: DemoSet, ending: str) -> str:
    """Who, when and what, as a phone's owner would never name it but an upload service does."""
    name = "-".join(filmed.client.lower().split())
    return f"{name}-{filmed.recorded[:10]}-{filmed.standard}{ending}"


def warm_up() -> None:
    """Nothing: it is called so that a helper process loads this module before there is work."""


@dataclass(frozen=True)
class Made:
    """A filmed set: its file, its review, and the finding that its coach would have kept."""

    data: bytes
    forms: KeptForms
    worst: str | None


def script(filmed: DemoSet) -> Script:
    return Script(
        reps=filmed.reps,
        tempo=parse_tempo(filmed.tempo) if filmed.tempo else None,
        stature_m=STATURE_M[filmed.client],
        arms=filmed.arms,
        partial=filmed.partial,
        first_hold_s=filmed.first_hold_s,
        opening="walk-in" if filmed.walk_in else "still",
        opening_s=LEAST_WALK_IN_S if filmed.walk_in else 2.0,
        faults=filmed.faults,
        fault_from=filmed.fault_from,
        load_kg=filmed.load_kg,
        recorded=filmed.recorded,
    )


def _track(filmed: DemoSet, seed: int) -> LandmarkTrack:
    noise = 0.0045 if filmed.view == "none" else 1.6
    camera = Camera(filmed.view, filmed.rate_hz, noise, 0.25 * noise, 0.02)
    plan = standard(filmed.standard, filmed.school)
    track = perform(plan, script(filmed), camera, seed).track
    # Written as finely as the tools that find landmarks do: to a tenth of a millimetre, to a
    # hundredth of a pixel.
    return replace(
        track,
        position=np.round(track.position, 4 if filmed.view == "none" else 2),
        confidence=np.round(track.confidence, 3),
    )


def make_filmed(job: tuple[DemoSet, int]) -> Made:
    filmed, seed = job
    track = _track(filmed, seed)
    tempo = parse_tempo(filmed.tempo) if filmed.tempo else None
    review = review_set(track, standard(filmed.standard, filmed.school), tempo)
    off = review.with_verdict("off")
    return Made(
        csv_text(track).encode(),
        kept_forms(review),
        off[0].key if off else None,
    )
