"""The demo library: Lantern Yard, a made-up touring theatre company, in the spring of 2031.

Its in-house coach, Marit Engel, reviews what six performers film on tour. Each has a story. The
simulated camera films all sets; the same library comes out every time.
"""

from __future__ import annotations

import shutil
import tempfile
from collections.abc import Callable, Mapping
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass, field, replace
from multiprocessing import get_context
from pathlib import Path
from typing import Literal

import numpy as np

from guide_arc import __version__
from guide_arc.capture.film.film import Filming, film
from guide_arc.capture.tracking.simulated import SimulatedTracker
from guide_arc.core.model.track import LandmarkTrack, View
from guide_arc.core.review.assess import review_set
from guide_arc.core.simulate.camera import Camera
from guide_arc.core.simulate.opening import LEAST_WALK_IN_S
from guide_arc.core.simulate.perform import ArmsAtWork, Script, perform
from guide_arc.formats.track_csv import csv_text
from guide_arc.library.clip_sets import ClipDetails, ClipSets
from guide_arc.library.records import Choice, Decision, SetNotes
from guide_arc.library.reviewing import KeptForms, kept_forms, review_and_keep
from guide_arc.library.store import Library
from guide_arc.standards.loader import standard
from guide_arc.standards.tempo import parse_tempo

COACH = "Marit Engel"
EDITION = "5"
STATURE_M = {
    "Ada Quill": 1.68, "Benno Hartz": 1.84, "Cleo Marsh": 1.74,
    "Dario Venn": 1.79, "Esme Rook": 1.62, "Finn Adair": 1.88,
}  # fmt: skip


# A set that came as a clip: with its landmarks found, or still to be marked.
ClipState = Literal["found", "unmarked"]


@dataclass(frozen=True)
class Filmed:
    """One set of the demo: who, what, when, and how it went. clip : it is a film, not only landmarks"""

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


FILMED: tuple[Filmed, ...] = (
    # Benno's range shrinks when the load jumps.
    Filmed("Benno Hartz", "standing-barbell-curl", "2031-01-13T18:20", 30.0, 10, done=True),
    Filmed("Benno Hartz", "standing-barbell-curl", "2031-02-03T18:35", 32.5, 10, done=True),
    Filmed("Benno Hartz", "standing-barbell-curl", "2031-03-24T18:40", 40.0, 9,
           faults={"fatigue-drift": 30.0, "torso-swing": 15.0}, walk_in=True),
    # Cleo's upper arm leaves its place late in the set; lowering gets fast.
    Filmed("Cleo Marsh", "standing-barbell-curl", "2031-02-24T09:10", 27.5, 10, done=True,
           faults={"upper-arm-drift": 19.0}, fault_from=8, cue="Pin your elbows to your ribs."),
    Filmed("Cleo Marsh", "standing-barbell-curl", "2031-03-25T09:05", 30.0, 10, tempo="3-0-1-0",
           faults={"upper-arm-drift": 24.0, "too-fast-lower": 1.3}, fault_from=6),
    Filmed("Cleo Marsh", "standing-barbell-curl", "2031-03-26T21:15", 27.5, 8, view="left", tempo="3-0-1-0"),
    # Ada's right arm lags after a wrist sprain, and catches up.
    Filmed("Ada Quill", "overhead-press-dumbbell", "2031-01-20T16:00", 8.0, 8, done=True,
           faults={"left-right": 34.0}, cue="Both dumbbells arrive together."),
    Filmed("Ada Quill", "overhead-press-dumbbell", "2031-03-24T16:10", 9.0, 9, faults={"left-right": 26.0}),
    Filmed("Ada Quill", "rope-pushdown", "2031-03-26T16:25", 15.0, 12, tempo="2-0-1-1"),
    # Dario's shoulder hikes from rep 7.
    Filmed("Dario Venn", "lateral-raise-dumbbell", "2031-02-10T20:30", 8.0, 12, done=True,
           faults={"shoulder-hike": 15.0}, fault_from=9),
    Filmed("Dario Venn", "lateral-raise-dumbbell", "2031-03-25T20:40", 10.0, 12,
           faults={"shoulder-hike": 21.0}, fault_from=7, partial=2, pain=True),
    Filmed("Dario Venn", "lateral-raise-dumbbell", "2031-03-27T20:45", 8.0, 12, view="front",
           faults={"too-fast-lower": 0.7}),
    # Esme's cables stand too near: the hands no longer cross.
    Filmed("Esme Rook", "cable-cross-raise-low", "2031-03-03T11:20", 7.5, 12, done=True),
    Filmed("Esme Rook", "cable-cross-raise-low", "2031-03-24T11:30", 7.5, 12, faults={"end-point": 15.0}),
    Filmed("Esme Rook", "seated-row-narrow-low", "2031-03-26T11:40", 35.0, 8, first_hold_s=10.0),
    Filmed("Esme Rook", "cross-cable-rear-fly", "2031-03-27T11:35", 5.0, 12),
    # Finn's tempo recovers.
    Filmed("Finn Adair", "rope-pushdown", "2031-02-17T19:05", 20.0, 12, done=True, tempo="2-0-1-1",
           faults={"too-fast-lower": 0.8}, cue="Count the weight down, every rep."),
    Filmed("Finn Adair", "rope-pushdown", "2031-03-25T19:10", 20.0, 12, tempo="2-0-1-1",
           faults={"hold-missing": 0.25}),
    Filmed("Finn Adair", "one-arm-dumbbell-row", "2031-03-26T19:20", 24.0, 10),
    # The clean veteran films everything, and nothing is wrong with it.
    Filmed("Benno Hartz", "seated-row-narrow-low", "2031-03-27T18:50", 50.0, 10),
    Filmed("Ada Quill", "front-raise-midline", "2031-03-28T16:30", 4.0, 6, arms="alternating"),
    # Two clips: one with its landmarks found, one that waits to be marked.
    Filmed("Dario Venn", "lateral-raise-dumbbell", "2031-03-28T20:35", 8.0, 4, view="front",
           faults={"shoulder-hike": 20.0}, fault_from=3, clip="found"),
    Filmed("Esme Rook", "rope-pushdown", "2031-03-28T11:45", 12.5, 3, view="left", clip="unmarked"),
)  # fmt: skip


def ensure_demo_library(
    folder: Path, *, fresh: bool = False, progress: Callable[[float], None] | None = None
) -> None:
    """Build the demo library where it is missing or of another edition. Whole or not at all."""
    stamp = folder / "edition"
    if not fresh and stamp.exists() and stamp.read_text() == EDITION:
        return
    building = folder.with_name(folder.name + ".building")
    shutil.rmtree(building, ignore_errors=True)
    build(building, progress)
    (building / "edition").write_text(EDITION)
    shutil.rmtree(folder, ignore_errors=True)
    building.rename(folder)


def build(folder: Path, progress: Callable[[float], None] | None = None) -> None:
    """Film, add and review every set of the demo into a library at `folder`.

    Filming and reviewing run in two helper processes while this one stores what they made.
    """
    library = Library.open(folder)
    library.keep_setting("coach", COACH)
    jobs = [(filmed, 2031 + i) for i, filmed in enumerate(FILMED)]
    with (
        ProcessPoolExecutor(2, mp_context=get_context("spawn")) as pool,
        tempfile.TemporaryDirectory() as making,
    ):
        # The films take longest: they are begun first.
        films = [job for job in jobs if job[0].clip]
        coming = [pool.submit(filmed_clip, *job, Path(making)) for job in films]
        tracks = [job for job in jobs if not job[0].clip]
        for i, ((filmed, _seed), made) in enumerate(
            zip(tracks, pool.map(make_filmed, tracks), strict=True)
        ):
            if progress:
                progress(i / len(jobs))
            add_filmed(library, filmed, made)
        for (filmed, _seed), film_made in zip(films, coming, strict=True):
            name, data = film_made.result()
            _add_clip(library, filmed, Path(making) / name, data)
    library.close()


def filmed_track(filmed: Filmed, seed: int) -> tuple[str, bytes]:
    """The name and bytes of a set's track."""
    return file_name(filmed, ".csv"), csv_text(_track(filmed, seed)).encode()


def filmed_clip(filmed: Filmed, seed: int, making: Path) -> tuple[str, bytes]:
    """The name and bytes of a set's film, made in a folder."""
    view: View = filmed.view if filmed.view != "none" else "left"
    target = making / file_name(filmed, f"-{view}.mp4")
    filming = Filming(view, 640, 360, rate_hz=24.0, shake_px=1.0, light=0.08)
    film(target, standard(filmed.standard, filmed.school), _script(filmed), filming, seed)
    return target.name, target.read_bytes()


def file_name(filmed: Filmed, ending: str) -> str:
    """Who, when and what, as a phone's owner would never name it but an upload service does."""
    first = filmed.client.split(maxsplit=1)[0].lower()
    return f"{first}-{filmed.recorded[:10]}-{filmed.standard}{ending}"


def sent_sets(count: int, seed: int) -> list[Filmed]:
    """Sets that the performers send on one evening: what they did before, done anew."""
    rng = np.random.default_rng([seed, 5])
    out = []
    for i in range(count):
        base = FILMED[int(rng.integers(len(FILMED)))]
        at = f"2031-03-30T{17 + i * 5 // max(count, 1):02d}:{int(rng.integers(60)):02d}"
        reps = int(rng.integers(4, 7))
        out.append(
            replace(base, recorded=at, reps=reps, partial=0, done=False, cue=None, clip=None)
        )
    # No two of one name: an evening's sets of one exercise follow each other by day here.
    for i, filmed in enumerate(out):
        same = sum(f.client == filmed.client and f.standard == filmed.standard for f in out[:i])
        if same:
            out[i] = replace(filmed, recorded=f"2031-04-{same:02d}{filmed.recorded[10:]}")
    return out


@dataclass(frozen=True)
class _Made:
    """A filmed set: its file, its review, and the finding that its coach would have kept."""

    data: bytes
    forms: KeptForms
    worst: str | None


def _script(filmed: Filmed) -> Script:
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


def _track(filmed: Filmed, seed: int) -> LandmarkTrack:
    noise = 0.0045 if filmed.view == "none" else 1.6
    camera = Camera(filmed.view, filmed.rate_hz, noise, 0.25 * noise, 0.02)
    plan = standard(filmed.standard, filmed.school)
    return perform(plan, _script(filmed), camera, seed).track


def make_filmed(job: tuple[Filmed, int]) -> _Made:
    filmed, seed = job
    track = _track(filmed, seed)
    tempo = parse_tempo(filmed.tempo) if filmed.tempo else None
    review = review_set(track, standard(filmed.standard, filmed.school), tempo)
    off = review.with_verdict("off")
    return _Made(
        csv_text(track).encode(),
        kept_forms(review),
        off[0].key if off else None,
    )


def _add_clip(library: Library, filmed: Filmed, source: Path, data: bytes) -> None:
    """Take a film in as a clip would come, and find its landmarks where the demo has them."""
    source.write_bytes(data)
    sets = ClipSets(library)
    details = ClipDetails(
        filmed.client, filmed.standard, standard(filmed.standard, filmed.school).school.id,
        filmed.view, filmed.tempo, filmed.load_kg, filmed.recorded,
    )  # fmt: skip
    set_id, _new = sets.add(source, details)
    if filmed.clip == "found":
        review_and_keep(library, set_id, sets.find_landmarks(set_id, SimulatedTracker()))


def add_filmed(library: Library, filmed: Filmed, made: _Made) -> None:
    set_id, _new = library.add_set(
        made.data, file_name(filmed, ".csv"), client=filmed.client, standard=filmed.standard,
        school=standard(filmed.standard, filmed.school).school.id, tempo=filmed.tempo,
        pain=filmed.pain,
    )  # fmt: skip
    library.keep_review(set_id, __version__, *made.forms)
    if filmed.done:
        at = filmed.recorded[:10] + "T22:00"
        choice: Choice = "reword" if filmed.cue else "keep"
        kept = {made.worst: Decision(choice, filmed.cue, COACH, at)} if made.worst else {}
        library.keep_notes(set_id, SetNotes(kept, "", "done", filmed.pain))
