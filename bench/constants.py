"""What each number that decides changes, moved by a quarter: `./run dev python bench/constants.py`.

Writes docs/constants.md. Every number of the frozen groups (`core/*/rules.py`) is made a quarter
smaller and a quarter larger while all others stay, and a fixed collection of simulated recordings
is reviewed: in space and from each side, with noise, drift, lost samples, outliers, swaps of left
and right, walking in, short reps, one arm, arms in turn, corrections by hand, calibrated pictures,
and what a pose model and a camera aside do. All of them take hours; with names (`./run dev python
bench/constants.py settle_s leans_from_deg`) only those rows are computed again.
"""

from __future__ import annotations

import random
import sys
from collections.abc import Callable, Iterator, Mapping, Sequence
from concurrent.futures import ProcessPoolExecutor
from contextlib import contextmanager
from dataclasses import dataclass, replace
from datetime import date, timedelta
from functools import partial
from multiprocessing import get_context
from pathlib import Path
from typing import Any

import numpy as np

from guide_arc.core.checks.rules import CHECK, SPINE
from guide_arc.core.kinematics.calibrate import calibration_of
from guide_arc.core.kinematics.rules import ASIDE, BODY_RULES, CLEAN, FIT, LEVEL, PICTURE
from guide_arc.core.mechanics.path_load import loaded_joint
from guide_arc.core.mechanics.rules import PULL
from guide_arc.core.model.client import Client
from guide_arc.core.model.errors import BadInput
from guide_arc.core.model.landmarks import ALL
from guide_arc.core.model.marks import Line, Marks
from guide_arc.core.model.rules import CONTRACT, ToldNumber, told
from guide_arc.core.model.settings import PLAIN, Correction, Settings
from guide_arc.core.model.standard import Standard
from guide_arc.core.model.track import CameraPlace, LandmarkTrack, View
from guide_arc.core.planning.cues import followed
from guide_arc.core.planning.dose import next_dose
from guide_arc.core.planning.kept_set import KeptSet, RepTrace, Said, SetTrace
from guide_arc.core.planning.plan import Knowledge, dosed, length_of, proposed_session
from guide_arc.core.planning.rules import PLAN
from guide_arc.core.planning.session import Session, figures_of_session
from guide_arc.core.planning.session import SessionLine as PlanLine
from guide_arc.core.planning.weeks import Point, slopes_of
from guide_arc.core.reps.rules import EDGE, REP, SELECT
from guide_arc.core.reps.superset import split_by_standard
from guide_arc.core.review.assess import review_set, review_with_body
from guide_arc.core.review.reviewed_set import ReviewedSet
from guide_arc.core.review.rules import REVIEW
from guide_arc.core.review.trace import trace_of
from guide_arc.core.simulate.camera import Camera, camera_from
from guide_arc.core.simulate.joined import perform_in_turn
from guide_arc.core.simulate.perform import Script, perform
from guide_arc.core.simulate.tracker import TrackerNoise
from guide_arc.core.simulate.training import SimulatedClient, any_history, trained_year
from guide_arc.standards.loader import shipped, standard

TARGET = Path(__file__).resolve().parent.parent / "docs" / "constants.md"
GROUPS = (
    REP,
    EDGE,
    SELECT,
    CLEAN,
    LEVEL,
    PICTURE,
    ASIDE,
    FIT,
    BODY_RULES,
    CHECK,
    SPINE,
    REVIEW,
    PULL,
    PLAN,
)
HISTORIES = 2000
BY = 0.25
# What a quarter does not move is moved to a fifth, and to five times as much.
FAR = (-0.8, 4.0)


@dataclass(frozen=True)
class Recording:
    """A simulated recording, what it is of, and how many reps it truly has."""

    name: str
    track: LandmarkTrack
    standard: str
    reps: int
    settings: Settings = PLAIN
    two: tuple[str, ...] = ()

    @property
    def in_figures(self) -> bool:
        """Whether the figures of its reps are compared too, which takes as long as all else."""
        return self.reps <= 4


def _spoilt(track: LandmarkTrack, seed: int) -> LandmarkTrack:
    """Outliers, doubted samples, and left and right taken for one another for a moment."""
    rng = np.random.default_rng(seed)
    position, confidence = track.position.copy(), track.confidence.copy()
    wrist, elbow = track.names.index("left_wrist"), track.names.index("right_elbow")
    for at in rng.integers(20, len(position) - 20, 6):
        position[at : at + 2, wrist] += 0.25 if track.space == "world" else 70.0
    confidence[100:110, elbow] = 0.0
    a, b = track.names.index("left_hip"), track.names.index("right_hip")
    position[60:66, [a, b]] = position[60:66, [b, a]]
    return replace(track, position=position, confidence=confidence)


def _with_break(track: LandmarkTrack) -> LandmarkTrack:
    """The same set twice, a quarter of a minute apart."""
    rate = track.frame_rate_hz
    pause = np.repeat(track.position[-1:], round(15 * rate), axis=0)
    position = np.concatenate((track.position, pause, track.position))
    return LandmarkTrack(
        np.arange(len(position)) / rate,
        track.names,
        position,
        np.ones(position.shape[:2]),
        facts=track.facts,
    )


def _wrist_near_the_edge(track: LandmarkTrack) -> LandmarkTrack:
    """Moved so that the wrist is near the picture's edge for about a third of the time."""
    near = np.nanpercentile(track.point("left_wrist")[:, 0], 33.0)
    shift = np.array([0.07 * track.image_size[0] - near, 0.0]) if track.image_size else 0.0
    return replace(track, position=track.position + shift)


def _at_the_edge(track: LandmarkTrack) -> LandmarkTrack:
    """Moved to the picture's edge, by somebody whose stature nobody noted."""
    position = track.position - np.nanmin(track.position, axis=(0, 1)) + 12.0
    return replace(track, position=position, facts=replace(track.facts, subject_height_m=None))


def _steps_aside(
    track: LandmarkTrack, at_s: float, way_m: float, long_s: float = 0.8
) -> LandmarkTrack:
    """From a moment on the whole body stands elsewhere."""
    share = np.clip((track.time_s - at_s) / long_s, 0.0, 1.0)
    position = track.position.copy()
    position[..., 0] += way_m * share[:, None]
    return replace(track, position=position)


def _one_side_later(track: LandmarkTrack, by_s: float) -> LandmarkTrack:
    """The right arm does all that it does so much later."""
    position, shift = track.position.copy(), round(by_s * track.frame_rate_hz)
    for point in ("elbow", "wrist", "hand"):
        if track.has(f"right_{point}"):
            i = track.names.index(f"right_{point}")
            from_shoulder = position[:, i] - position[:, track.names.index("right_shoulder")]
            late = np.concatenate(
                (np.repeat(from_shoulder[:1], shift, axis=0), from_shoulder[:-shift])
            )
            position[:, i] = position[:, track.names.index("right_shoulder")] + late
    return replace(track, position=position)


def _unsure(track: LandmarkTrack) -> LandmarkTrack:
    """Samples that were written down unseen, departures of which the tracker was half sure, and a
    long swap."""
    position, confidence = track.position.copy(), track.confidence.copy()
    wrist = track.names.index("left_wrist")
    position[150:158, wrist] += 0.05
    confidence[150:158, wrist] = 0.006
    for at in range(200, len(position) - 4, 60):
        position[at : at + 2, wrist] += 0.052
        confidence[at : at + 2, wrist] = 0.4
    swapped = slice(90, 90 + round(0.5 * track.frame_rate_hz))
    for name in track.names:
        if name.startswith("left_") and track.has("right_" + name[5:]):
            a, b = track.names.index(name), track.names.index("right_" + name[5:])
            position[swapped, [a, b]] = position[swapped, [b, a]]
    return replace(track, position=position, confidence=confidence)


def _without(track: LandmarkTrack, *points: str) -> LandmarkTrack:
    kept = [i for i, n in enumerate(track.names) if not any(p in n for p in points)]
    return replace(
        track,
        names=tuple(track.names[i] for i in kept),
        position=track.position[:, kept],
        confidence=track.confidence[:, kept],
    )


def _odd_between(track: LandmarkTrack, amounts: tuple[float, ...]) -> LandmarkTrack:
    """The third rep and every second one after it are done with the upper arm led so far
    forward."""
    position, plan = track.position.copy(), standard("standing-barbell-curl")
    for i, amount in enumerate(amounts):
        odd = perform(
            plan, Script(reps=8, faults={"upper-arm-drift": amount}), Camera(noise=0.002), 5
        )
        rep = odd.truth["reps"][2 + 2 * i]
        inside = (track.time_s >= rep["lift"][0]) & (track.time_s <= rep["lower"][1])
        position[inside] = odd.track.position[: len(position)][inside]
    return replace(track, position=position)


def _loaded(track: LandmarkTrack, load_kg: float) -> LandmarkTrack:
    return replace(track, facts=replace(track.facts, load_kg=load_kg))


def rarer() -> list[Recording]:
    """What is seen seldom, each made for a rule that nothing else shows at work."""
    out: list[Recording] = []
    curl, raise_, quiet = "standing-barbell-curl", "lateral-raise-dumbbell", Camera(noise=0.002)

    def add(
        name: str,
        id: str,
        camera: Camera,
        changed: Callable[[LandmarkTrack], LandmarkTrack] = lambda t: t,
        settings: Settings = PLAIN,
        seed: int = 5,
        **script: Any,
    ) -> Any:
        done = perform(standard(id), Script(**script), camera, seed)
        out.append(Recording(name, changed(done.track), id, len(done.truth["reps"]), settings))
        return done

    add("hardly moves", curl, quiet, reps=5, faults={"range-short": 124.0})
    add("shrugs, hardly", "shrug", Camera(noise=0.001), reps=5, faults={"range-short": 8.0})
    add("half as far", curl, quiet, reps=6, faults={"range-short": 22.0})
    add("one arm does half", "lateral-raise-dumbbell", quiet, reps=6, faults={"left-right": 38.0})
    add(
        "arms out of time",
        "lateral-raise-dumbbell",
        quiet,
        lambda t: _one_side_later(t, 0.35),
        reps=5,
    )
    add("a step aside between two reps", curl, quiet, lambda t: _steps_aside(t, 9.9, 0.3), reps=8)
    add(
        "a slack cable from the side",
        "rope-pushdown",
        Camera("left", 30.0, 1.0),
        reps=4,
        faults={"slack-zone": 55.0},
    )
    add(
        "a cable curl from the side",
        "standing-cable-curl",
        Camera("left", noise=1.0),
        reps=4,
        faults={"slack-zone": 8.0},
    )
    found_by_model = TrackerNoise(2.0)
    views: tuple[tuple[View, str], ...] = (
        ("left", curl),
        ("front", "lateral-raise-dumbbell"),
        ("left", "cable-extension-one-arm"),
        ("right", "standing-low-row"),
        ("left", "lat-pulldown-close"),
    )
    for view, exercise in views:
        add(
            f"{exercise} from the {view}, a pose model's noise",
            exercise,
            Camera(view, tracker=found_by_model),
            reps=5,
            seed=103,
        )
    add(
        "joints elsewhere",
        "standing-barbell-curl",
        Camera("left", tracker=TrackerNoise(4.0, 8.0)),
        reps=5,
    )
    for aside in (8.0, 25.0, 41.0):
        add(
            f"camera {aside:g}° aside of the left",
            curl,
            Camera("left", yaw_deg=aside, tracker=found_by_model),
            reps=5,
        )
        add(
            f"camera {aside:g}° aside of the front",
            raise_,
            Camera("front", yaw_deg=aside, tracker=found_by_model),
            reps=5,
        )
    for stated in ("front-left", "back-right"):
        add(
            f"camera said to stand {stated}",
            curl,
            camera_from(stated, tracker=found_by_model),
            reps=5,
        )
    told_place = CameraPlace(yaw_deg=20.0, pitch_deg=6.0, roll_deg=4.0)
    add(
        "a camera that was measured",
        raise_,
        Camera("front", yaw_deg=20.0, pitch_deg=6.0, roll_deg=4.0, tracker=found_by_model),
        lambda t: replace(t, camera=told_place),
        reps=5,
    )
    for share in (0.33, 0.1):
        add(
            f"left and right swapped for {share:g}",
            raise_,
            Camera("front", tracker=TrackerNoise(1.5, swapped_share=share)),
            reps=5,
        )
        add(
            f"left and right swapped for {share:g}, from the left",
            curl,
            Camera("left", tracker=TrackerNoise(1.5, swapped_share=share)),
            reps=5,
        )
    in_space = Camera(tracker=TrackerNoise(0.006, 0.0, 3.5))
    for exercise in ("bent-over-row", "turn-over-curl", "one-arm-dumbbell-row", "prone-high-row"):
        add(f"{exercise} in space, a pose model's noise", exercise, in_space, reps=5, seed=103)
    add(
        "turn-over curl in space, knuckles rough",
        "turn-over-curl",
        Camera(tracker=TrackerNoise(0.0045)),
        reps=5,
    )
    add("a sweep towards the camera", "bent-rear-raise", Camera("left", 30.0, 1.0), reps=6)
    add("steps within a rep", curl, quiet, lambda t: _steps_aside(t, 6.5, 0.13), reps=6)
    add("two loose reps", curl, quiet, reps=2, faults={"upper-arm-drift": 48.0})
    add(
        "another way from the fifth",
        curl,
        quiet,
        reps=8,
        faults={"upper-arm-drift": 46.0},
        fault_from=5,
    )
    add("another way for one", curl, quiet, reps=7, faults={"elbow-path": 46.0}, fault_from=7)
    add(
        "another way, far, from the fifth",
        curl,
        quiet,
        reps=8,
        faults={"upper-arm-drift": 75.0},
        fault_from=5,
    )
    add(
        "three odd ones between", curl, quiet, lambda t: _odd_between(t, (28.0, 34.0, 40.0)), reps=8
    )
    add(
        "far shorter than asked, and partial ones",
        curl,
        quiet,
        reps=6,
        partial=3,
        faults={"range-short": 78.0},
    )
    add(
        "narrow pulldown from the front",
        "lat-pulldown-narrow-underhand",
        Camera("front", noise=1.0),
        reps=5,
    )
    add("row from the front", "one-arm-dumbbell-row", Camera("front", noise=1.0), reps=5)
    add("curl from the front", curl, Camera("front", noise=1.0), reps=5)
    ends = Camera("front", noise=1.2)
    for pause_s in (0.0, 5.0, 7.0):
        add(
            f"one arm goes on after {pause_s:g} s",
            raise_,
            quiet,
            partial(_goes_on, pause_s),
            reps=7,
        )
    add(
        "rows straight up",
        "one-arm-dumbbell-row",
        quiet,
        lambda t: _upper_arms_ahead(t, 30.0),
        reps=5,
    )
    add(
        "rows nearly straight up",
        "one-arm-dumbbell-row",
        quiet,
        lambda t: _upper_arms_ahead(t, 24.0),
        reps=5,
    )
    add(
        "cables that pull only from a quarter on, noisy",
        "cable-cross-raise-low",
        Camera(noise=0.006),
        reps=4,
        faults={"slack-zone": 30.0},
    )
    for amount in (33.0, 50.0):
        add(
            f"turns the palms {amount:g}° too little",
            "turn-over-curl",
            quiet,
            reps=4,
            faults={"forearm-turn": amount},
        )
    add("presses too upright", "reclined-cable-press", quiet, partial(_leans_ahead, 16.0), reps=4)
    add(
        "rows, leaning in", "seated-row-wide-blade-stop", quiet, partial(_leans_ahead, 24.0), reps=4
    )
    for id in (
        "chain-fly",
        "reverse-machine-fly",
        "prone-high-row",
        "upright-bench-high-cable-fly",
    ):
        add(f"{id} from the front", id, ends, reps=4)
    for id in ("seated-row-belly", "bent-over-row", "lat-pulldown-wide", "chest-pad-high-row"):
        add(f"{id} from the left", id, Camera("left", noise=1.2), reps=4)
    add("lies on a side, from the front", "swiss-ball-side-turn", ends, reps=4)
    add(
        "a curl a little fast, from the left",
        curl,
        Camera("left", noise=1.0),
        reps=5,
        faults={"too-fast-lower": 1.52},
    )
    add("a curl a little fast", curl, quiet, reps=5, faults={"too-fast-lower": 1.55})
    add("three reps, each a little less", curl, quiet, reps=3, faults={"fatigue-drift": 20.0})
    add("unsure of the wrist", curl, Camera(noise=0.003), _unsure, reps=5)
    add("unsure of the wrist, from the left", curl, Camera("left", noise=1.0), _unsure, reps=5)
    add("shrugs from the front", "shrug", Camera("front", noise=1.0), reps=5)
    add(
        "three raises, one arm less each time",
        "lateral-raise-dumbbell",
        quiet,
        reps=4,
        faults={"fatigue-drift": 12.0},
    )
    add(
        "cables, pulleys not tracked",
        "cable-cross-raise-low",
        quiet,
        lambda t: _without(t, "pulley"),
        reps=5,
    )
    add(
        "a foot that can't be seen, from the left",
        curl,
        Camera("left", noise=1.0, roll_deg=4.0),
        lambda t: _without(t, "heel", "foot"),
        reps=5,
    )
    add("on the toes, from the left", curl, Camera("left", noise=1.0), _on_the_toes, reps=5)
    add(
        "now and then near the picture's edge",
        curl,
        Camera("left", noise=1.0),
        _wrist_near_the_edge,
        reps=5,
    )
    add(
        "raises that fall apart",
        "lateral-raise-dumbbell",
        Camera(noise=0.0058),
        reps=10,
        fault_from=6,
        faults={
            "shoulder-hike": 18.0,
            "torso-swing": 16.0,
            "elbow-path": 30.0,
            "fatigue-drift": 25.0,
        },
    )
    add("raises from the left", "lateral-raise-dumbbell", Camera("left", noise=1.2), reps=5)
    add("press from the left", "overhead-press-dumbbell", Camera("left", noise=1.2), reps=5)
    add("pushdown from the front", "rope-pushdown", Camera("front", noise=1.2), reps=5)
    add("fly from the front", "cross-cable-rear-fly", Camera("front", noise=1.2), reps=5)
    stretch = next((i for i in shipped() if standard(i).holds.opening_stretch_s), "")
    if stretch:
        add("opening stretch", stretch, quiet, reps=4)
    add("partial ones added by hand", curl, quiet, reps=6, partial=3)
    reps = _reviewed(out[-1]).review.reps
    by_hand = Settings(
        (
            Correction(
                "edge", reps[0].lower.end_s + 0.5, reps[0].lower.end_s + 0.3, edge="lower-end"
            ),
            Correction("split", reps[1].turn_s + 0.4),
            *(Correction("add", at) for at in (1.0, reps[-1].end_s + 1.4)),
        )
    )
    out[-1] = replace(out[-1], settings=by_hand)
    hardly = add("hardly moves, added by hand", curl, quiet, reps=5, faults={"range-short": 124.0})
    turns = [
        sum(rep["top_hold"] or rep["lift"][1:]) / len(rep["top_hold"] or [1])
        for rep in hardly.truth["reps"]
    ]
    out[-1] = replace(out[-1], settings=Settings(tuple(Correction("add", at) for at in turns)))
    plans = (curl, "lateral-raise-dumbbell")
    three = (*plans, "rope-pushdown")
    done = perform_in_turn([(standard(p), Script(reps=4)) for p in three], quiet, 4)
    out.append(Recording("three exercises, two of them asked", done.track, curl, 4, two=plans))
    return out


def _right_arm_stops(track: LandmarkTrack, from_s: float) -> LandmarkTrack:
    """The right arm hangs as it did at a moment, from then on."""
    position = track.position.copy()
    first = int(np.searchsorted(track.time_s, from_s))
    shoulder = position[:, track.names.index("right_shoulder")]
    for part in ("elbow", "wrist", "thumb", "index", "pinky", "handle"):
        if track.has(f"right_{part}"):
            i = track.names.index(f"right_{part}")
            position[first:, i] = shoulder[first:] + (position[first, i] - shoulder[first])
    return replace(track, position=position)


def _rests(track: LandmarkTrack, at_s: float, seconds: float) -> LandmarkTrack:
    """Stands still at a moment for some seconds, trembling as the tracker does."""
    at, count = int(np.searchsorted(track.time_s, at_s)), round(30.0 * seconds)
    frames = np.concatenate((np.arange(at), np.full(count, at), np.arange(at, track.frames)))
    rng = np.random.default_rng(4)
    position = track.position[frames] + 0.001 * rng.standard_normal(
        (len(frames), *track.position.shape[1:])
    )
    return replace(
        track,
        time_s=np.arange(len(frames)) / 30.0,
        position=position,
        confidence=track.confidence[frames],
    )


def _goes_on(pause_s: float, track: LandmarkTrack) -> LandmarkTrack:
    return _rests(_right_arm_stops(track, 13.9), 13.9, pause_s)


def _upper_arms_ahead(track: LandmarkTrack, deg: float) -> LandmarkTrack:
    """The left elbow kept ahead of where it would go, the more the farther it comes up."""
    position = track.position.copy()
    names = [f"left_{p}" for p in ("elbow", "wrist", "thumb", "index", "pinky", "handle")]
    own = [track.names.index(n) for n in names if track.has(n)]
    shoulder = position[:, track.names.index("left_shoulder")]
    rise = position[:, own[0], 1] - shoulder[:, 1]
    low, high = np.nanpercentile(rise, (2, 98))
    turn = np.radians(deg) * np.clip((rise - low) / (high - low), 0.0, 1.0)
    limb = position[:, own] - shoulder[:, None]
    cos, sin = np.cos(turn)[:, None], np.sin(turn)[:, None]
    up, ahead = limb[..., 1], limb[..., 2]
    position[:, own, 1] = shoulder[:, None, 1] + cos * up + sin * ahead
    position[:, own, 2] = shoulder[:, None, 2] - sin * up + cos * ahead
    return replace(track, position=position)


def _leans_ahead(deg: float, track: LandmarkTrack) -> LandmarkTrack:
    """All above the hips turned forward about them."""
    position, turn = track.position.copy(), np.radians(deg)
    hips = 0.5 * (track.point("left_hip") + track.point("right_hip"))
    below = ("hip", "knee", "ankle", "heel", "foot")
    above = [i for i, n in enumerate(track.names) if not any(part in n for part in below)]
    limb = position[:, above] - hips[:, None]
    up, ahead = limb[..., 1], limb[..., 2]
    position[:, above, 1] = hips[:, None, 1] + np.cos(turn) * up - np.sin(turn) * ahead
    position[:, above, 2] = hips[:, None, 2] + np.sin(turn) * up + np.cos(turn) * ahead
    return replace(track, position=position)


def _on_the_toes(track: LandmarkTrack) -> LandmarkTrack:
    """Heels lifted so far that no foot lies level."""
    position = track.position.copy()
    for side in ("left", "right"):
        if track.has(f"{side}_heel"):
            position[:, track.names.index(f"{side}_heel"), 1] -= 12.0
    return replace(track, position=position)


def recordings() -> list[Recording]:
    """The collection, the same every time."""
    return [*common(), *rarer()]


def common() -> list[Recording]:
    """What a coach gets day by day."""
    out: list[Recording] = []

    def add(
        name: str, id: str, camera: Camera, *, spoil: bool = False, seed: int = 3, **script: Any
    ) -> None:
        done = perform(standard(id), Script(**script), camera, seed)
        track = _spoilt(done.track, seed) if spoil else done.track
        out.append(Recording(name, track, id, len(done.truth["reps"])))

    noisy = Camera(noise=0.0058, drift=0.002, dropout=0.03)
    add(
        "curl, noisy",
        "standing-barbell-curl",
        noisy,
        reps=7,
        faults={"upper-arm-drift": 13.0},
        fault_from=4,
    )
    add(
        "curl, walking in",
        "standing-barbell-curl",
        Camera(noise=0.003),
        reps=6,
        opening="walk-in",
        opening_s=7.0,
        partial=1,
    )
    add(
        "curl, spoilt",
        "standing-barbell-curl",
        Camera(noise=0.004),
        spoil=True,
        reps=6,
        faults={"torso-swing": 9.5},
    )
    add(
        "pushdown with holds",
        "rope-pushdown",
        Camera(noise=0.004),
        reps=6,
        faults={"hold-missing": 0.45},
    )
    add(
        "raises, short ones",
        "lateral-raise-dumbbell",
        noisy,
        reps=7,
        partial=2,
        faults={"shoulder-hike": 8.5},
    )
    add(
        "press, one arm behind",
        "overhead-press-dumbbell",
        noisy,
        reps=6,
        faults={"left-right": 16.0},
    )
    add(
        "front raises in turn",
        "front-raise-midline",
        Camera(noise=0.004),
        reps=4,
        arms="alternating",
    )
    add("row, one arm", "one-arm-dumbbell-row", noisy, reps=6)
    add(
        "cables to the rear",
        "cross-cable-rear-fly",
        Camera(noise=0.004),
        reps=6,
        faults={"line-of-pull": 14.0},
    )
    add(
        "low cables",
        "cable-cross-raise-low",
        noisy,
        reps=6,
        faults={"end-point": 7.0, "slack-zone": 8.0},
    )
    add("shrug", "shrug", Camera(noise=0.003), reps=6)
    add(
        "curl from the left",
        "standing-barbell-curl",
        Camera("left", noise=1.6, drift=0.4),
        reps=6,
        faults={"torso-swing": 8.5},
    )
    add(
        "curl from the left, spoilt",
        "standing-barbell-curl",
        Camera("left", noise=1.2),
        spoil=True,
        reps=5,
    )
    add(
        "raises from the front",
        "lateral-raise-dumbbell",
        Camera("front", noise=1.6, drift=0.4),
        reps=6,
        faults={"shoulder-hike": 8.0},
    )
    add("press from the front", "overhead-press-dumbbell", Camera("front", noise=1.2), reps=5)
    add(
        "pushdown from the left",
        "rope-pushdown",
        Camera("left", noise=1.6),
        reps=6,
        faults={"too-fast-lower": 1.0},
    )
    add(
        "row from the right",
        "one-arm-dumbbell-row",
        Camera("right", noise=1.2),
        reps=5,
        arms="right",
    )
    add(
        "falling apart",
        "standing-barbell-curl",
        Camera(noise=0.004),
        reps=10,
        faults={"fatigue-drift": 22.0, "momentum": 60.0},
        fault_from=1,
    )
    out[-1] = replace(out[-1], track=_loaded(out[-1].track, 40.0))
    add("a break of a quarter minute", "standing-barbell-curl", Camera(noise=0.004), reps=3, seed=8)
    out[-1] = replace(out[-1], track=_with_break(out[-1].track))
    add(
        "one and a half",
        "standing-barbell-curl",
        Camera(noise=0.003),
        reps=5,
        scheme="one-and-a-half",
    )
    add(
        "starts at once",
        "lateral-raise-dumbbell",
        Camera("front", noise=1.0),
        reps=5,
        opening_s=0.35,
    )
    add(
        "at the picture's edge, no stature",
        "standing-barbell-curl",
        Camera("left", noise=1.2),
        reps=5,
    )
    out[-1] = replace(out[-1], track=_at_the_edge(out[-1].track))
    add("crunch, kneeling", "kneeling-cable-crunch", Camera(noise=0.004), reps=5)
    add("crunch from the left", "kneeling-cable-crunch", Camera("left", noise=1.2), reps=5)
    add("lying press", "flat-bench-press", Camera(noise=0.004), reps=5)
    add("lying press from the left", "flat-bench-press", Camera("left", noise=1.4), reps=5)
    add(
        "rolled camera, from the front",
        "lateral-raise-dumbbell",
        Camera("front", noise=1.0, roll_deg=6.0),
        reps=5,
    )
    add("pulldown from the back", "lat-pulldown-wide", Camera("back", noise=1.2), reps=5)
    add("dip", "forward-lean-dip", Camera(noise=0.004), reps=5, faults={"range-over": 14.0})
    add(
        "walking in, falling apart",
        "rope-pushdown",
        Camera(noise=0.006),
        reps=8,
        opening="walk-in",
        opening_s=7.0,
        faults={"range-short": 40.0},
        fault_from=6,
    )
    first = out[0]
    turns = [r.turn_s for r in _reviewed(first).review.reps]
    by_hand = Settings(
        (
            Correction("delete", turns[0]),
            Correction("split", turns[2]),
            Correction("add", turns[0]),
        ),
        loose_last=2,
        felt=("front shoulder",),
    )
    out.append(replace(first, name="curl, corrected by hand", settings=by_hand))
    plans = ("standing-barbell-curl", "lateral-raise-dumbbell")
    both = perform_in_turn([(standard(p), Script(reps=4)) for p in plans], Camera(noise=0.004), 4)
    out.append(Recording("two exercises", both.track, plans[0], 4, two=plans))
    return out


def _reviewed(r: Recording) -> ReviewedSet:
    return ReviewedSet(
        *review_with_body(r.track, standard(r.standard), also=ALL, settings=r.settings)
    )


@dataclass(frozen=True)
class Outcome:
    """What a review gave: reps and verdicts by which sets are compared, and every other number."""

    reps: int
    verdicts: Mapping[str, str]
    rest: str


def outcome(r: Recording) -> Outcome:
    try:
        done = _reviewed(r)
    except BadInput as error:
        return Outcome(0, {}, str(error))
    review = done.review
    rest = [
        [
            (
                rep.key,
                rep.full,
                rep.lift,
                rep.top_hold,
                rep.lower,
                rep.bottom_hold,
                rep.from_deg,
                rep.to_deg,
            )
            for rep in review.reps
        ],
        [(f.value, f.uncertainty, f.says, f.why, f.at_s) for f in review.findings],
        review.trust,
        review.causes,
        review.broke_down,
        review.next_time,
        done.repset.doubts,
        {
            side: (
                None
                if p is None
                else np.nan_to_num(p.lever_m).sum()
                if hasattr(p, "lever_m")
                else repr(p)
            )
            for side, p in done.pulls.items()
        },
        done.off_plane,
        done.figures if r.in_figures else None,
    ]
    if r.two:
        rest.append(
            [
                (p.standard.id, p.span, len(p.repset.reps))
                for p in split_by_standard(done.body, tuple(standard(t) for t in r.two))
            ]
        )
    verdicts = {f.key: f.verdict for f in review.findings}
    return Outcome(sum(rep.full for rep in review.reps), verdicts, repr(rest))


def calibration() -> str:
    """What two lines drawn on a picture say of it, and one that is nearly too short; and which
    joint a setup is told by."""
    lines = (
        Line("length", 100, 100, 100, 340, 1.0, "pole"),
        Line("plumb", 50, 50, 54, 400, 0.0, ""),
        Line("level", 20, 300, 300, 304, 0.0, ""),
    )
    short = (Line("length", 100, 100, 100, 122, 0.1, "plate"),)
    drawn = [calibration_of(Marks("left", lines=some)) for some in (lines, short)]
    return repr((drawn, [loaded_joint(standard(id)) for id in shipped()]))


@contextmanager
def moved(group: Any, name: str, by: float) -> Iterator[None]:
    """One number by a share larger, for a while."""
    before = getattr(group, name)
    if isinstance(before, tuple):
        after: Any = tuple(v * (1 + by) for v in before)
    elif isinstance(before, int):
        after = (
            max(before + (1 if by > 0 else -1), 1)
            if abs(by) < 1
            else max(round(before * (1 + by)), 1)
        )
    else:
        after = before * (1 + by)
    object.__setattr__(group, name, after)
    try:
        yield
    finally:
        object.__setattr__(group, name, before)


@dataclass(frozen=True)
class Changes:
    """What one move changed, over the collection."""

    miscounted: int
    verdicts: int
    sets: int
    doses: int = 0

    def words(self) -> str:
        if not self.sets:
            return "nothing"
        parts = [f"{self.miscounted} sets counted wrongly"] if self.miscounted else []
        parts += [f"{self.verdicts} verdicts"] if self.verdicts else []
        parts += [f"{self.doses} of {HISTORIES} doses"] if self.doses else []
        return ", ".join(parts) if parts else f"numbers in {self.sets} sets"


def changes(group: int, name: str, by: float) -> tuple[int, str, float, Changes]:
    """In a helper process: the collection reviewed with one number moved."""
    if GROUPS[group] is PLAN:
        return group, name, by, _doses_changed(name, by)
    every, base, lines = _base()
    with moved(GROUPS[group], name, by):
        found = [outcome(r) for r in every]
        drawn = calibration()
    miscounted = sum(f.reps != b.reps for f, b in zip(found, base, strict=True))
    verdicts = sum(
        f.verdicts.get(k) != b.verdicts.get(k)
        for f, b in zip(found, base, strict=True)
        for k in {*f.verdicts, *b.verdicts}
    )
    sets = sum(f != b for f, b in zip(found, base, strict=True)) + (drawn != lines)
    return group, name, by, Changes(miscounted, verdicts, sets)


def _doses_changed(name: str, by: float) -> Changes:
    """What one move changes of the doses that follow from histories at random, and of what a year
    tells."""
    before = _planned()
    with moved(PLAN, name, by):
        after = _planned()
    doses = sum(a != b for a, b in zip(before, after, strict=True))
    return Changes(0, 0, doses, doses)


def _planned() -> list[str]:
    random_, plan = random.Random(8), standard("standing-barbell-curl")
    doses = [repr(next_dose(any_history(random_, plan))) for _ in range(HISTORIES)]
    rack = tuple(float(kg) for kg in range(10, 92, 2))
    year = trained_year(SimulatedClient(60.0), plan, rack, layoff=(20, 24))
    points = [Point(t.on.toordinal(), float(t.done[0].weaker), 0.4, i) for i, t in enumerate(year)]
    slopes = [repr(slopes_of([points[:n]])) for n in range(2, 9)]
    lines = tuple(
        PlanLine(standard(id), 3, 10, standard(id).tempo, 60.0)
        for id in ("flat-bench-press", "lat-pulldown-wide")
    )
    uneven = [
        figures_of_session(Session((*lines[:1] * n, lines[1]), 300.0)).warnings for n in (1, 2, 3)
    ]
    long = [Point(7 * i, 100.0 - 0.2 * min(i, 110), 0.4, i) for i in range(200)]
    return [
        *doses,
        repr([t.asked for t in year]),
        *slopes,
        repr(slopes_of([long])),
        repr(uneven),
        *_cues(plan),
        *_sessions(),
    ]


def _sessions() -> list[str]:
    """What a session would hold after exercises that lie so many days back, and how long it
    takes."""
    ids = (
        "standing-barbell-curl",
        "seated-row-narrow-low",
        "lateral-raise-dumbbell",
        "rope-pushdown",
    )
    held = tuple(RepTrace("both", True, "held") for _ in range(10))
    trace = SetTrace("none", "deg", held, (), None, None, None, 30.0, 1.0, 40.0)
    day, out = date(2031, 4, 3), []
    for apart in (4, 5, 6, 7):
        sets = tuple(
            KeptSet(
                i,
                id,
                standard(id).school.id,
                (day - timedelta(apart * (i + 1))).isoformat(),
                20.0,
                trace,
            )
            for i, id in enumerate(ids)
        )
        known = Knowledge(
            Client("Ada Quill"), {id: standard(id) for id in ids}, {}, sets[::-1], day
        )
        session = proposed_session(known, day)
        out.append(repr((session, length_of([dosed(line, known, day) for line in session.lines]))))
    return out


def _cues(plan: Standard) -> list[str]:
    """Whether a cue is to be said otherwise after so many sets without a change."""
    track = perform(
        plan, Script(reps=3, faults={"torso-swing": 20.0}), Camera(noise=0.002), 3
    ).track
    trace = trace_of(review_set(track, plan))
    said = (Said("torso-swing/both", "Plant yourself, ribs down."),)
    sets = [
        KeptSet(
            i, plan.id, plan.school.id, f"2031-03-{i:02}", 30.0, trace, said=said if i == 1 else ()
        )
        for i in range(1, 5)
    ]
    return [repr([f.say_it_otherwise for f in followed(sets[:n])]) for n in range(2, 5)]


_KEPT: list[tuple[list[Recording], list[Outcome], str]] = []


def _base() -> tuple[list[Recording], list[Outcome], str]:
    if not _KEPT:
        every = recordings()
        _KEPT.append((every, [outcome(r) for r in every], calibration()))
    return _KEPT[0]


HEAD = """# The numbers that decide

When a rep is a rep, how level is level: every number that a verdict hangs on stands in a frozen
group with its unit and its reason (`src/guide_arc/core/*/rules.py`). This page is made by
`./run dev python bench/constants.py`: each is moved by a quarter, down and up (whole numbers by
one), while {count} simulated recordings are reviewed, and compared with the reviews that stand.
Those that `formats.md` sets are not ours to choose. Verdicts are {verdicts} in all.
"""


def page(found: dict[tuple[int, str, float], Changes], count: int, verdicts: int) -> str:
    parts = [HEAD.format(count=count, verdicts=verdicts)]
    for i, group in enumerate(GROUPS):
        parts.append(f"\n{_title(group)}\n")
        parts.append("| number | is | because | a quarter less changes | a quarter more changes |")
        parts.append("| --- | --- | --- | --- | --- |")
        parts += [_row(i, one, found) for one in told(group)]
    return "\n".join(parts) + "\n"


def _row(group: int, one: ToldNumber, found: dict[tuple[int, str, float], Changes]) -> str:
    value = one.value if isinstance(one.value, tuple) else (one.value,)
    words = " to ".join(f"{v:.4g}" for v in value) + (f" {one.unit}" if one.unit else "")
    less, more = (found[group, one.name, by].words() for by in (-BY, BY))
    if less == more == "nothing":
        far = [found[group, one.name, by].words() for by in FAR]
        less, more = f"nothing; a fifth: {far[0]}", f"nothing; five times: {far[1]}"
    why = one.why.replace(CONTRACT, f"`{CONTRACT}`")
    return f"| `{one.name}` | {words} | {why} | {less} | {more} |"


def _title(group: object) -> str:
    return f"## {' '.join((type(group).__doc__ or '').split())}"


def with_rows(text: str, wanted: set[str], found: dict[tuple[int, str, float], Changes]) -> str:
    """The page with the rows of some numbers as they are now, each after the number before it in
    its group."""
    lines = text.splitlines()
    for i, group in enumerate(GROUPS):
        at = lines.index(_title(group)) + 4
        for one in told(group):
            there = lines[at].startswith(f"| `{one.name}` |") if at < len(lines) else False
            if one.name in wanted:
                lines[at : at + there] = [_row(i, one, found)]
                there = True
            at += there
    return "\n".join(lines) + "\n"


def main(names: Sequence[str] = (), workers: int = 2) -> None:
    jobs = [
        (i, t.name, by)
        for i, g in enumerate(GROUPS)
        for t in told(g)
        if not names or t.name in names
        for by in (-BY, BY)
    ]
    found: dict[tuple[int, str, float], Changes] = {}
    run: Callable[..., Any] = changes
    with ProcessPoolExecutor(workers, mp_context=get_context("spawn")) as pool:
        for n, (group, name, by, what) in enumerate(pool.map(run, *zip(*jobs, strict=True))):
            found[group, name, by] = what
            print(f"{n + 1}/{len(jobs)} {name} {by:+}: {what.words()}", file=sys.stderr, flush=True)
        still = [
            (g, n)
            for g, n, by in found
            if by > 0 and not found[g, n, by].sets and not found[g, n, -by].sets
        ]
        far = [(g, n, by) for g, n in still for by in FAR]
        if far:
            for group, name, by, what in pool.map(run, *zip(*far, strict=True)):
                found[group, name, by] = what
                print(f"{name} {by:+}: {what.words()}", file=sys.stderr, flush=True)
    if names:
        text = with_rows(TARGET.read_text(encoding="utf-8"), set(names), found)
    else:
        every, base, _lines = _base()
        text = page(found, len(every), sum(len(b.verdicts) for b in base))
    TARGET.write_text(text, encoding="utf-8")
    for group, name in still:
        if not any(found[group, name, by].sets for by in FAR):
            print(f"changes nothing: {type(GROUPS[group]).__name__}.{name}")


if __name__ == "__main__":
    main(sys.argv[1:])
