"""The demo library: Lantern Yard, a made-up touring theatre company, in the spring of 2031.

Its in-house coach, Marit Engel, reviews what six performers film on tour. Each has a story. The
simulated camera films all sets; the same library comes out every time.
"""

from __future__ import annotations

import shutil
from collections.abc import Callable, Mapping
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass, field
from multiprocessing import get_context
from pathlib import Path
from typing import Any

from guide_arc import __version__
from guide_arc.core.model.track import View
from guide_arc.core.review.assess import review_set
from guide_arc.core.simulate.camera import Camera
from guide_arc.core.simulate.opening import LEAST_WALK_IN_S
from guide_arc.core.simulate.perform import ArmsAtWork, Script, perform
from guide_arc.formats.review_json import review_document
from guide_arc.formats.track_csv import csv_text
from guide_arc.library.glance import glance_of
from guide_arc.library.records import Choice, Decision, SetNotes
from guide_arc.library.store import Library
from guide_arc.standards.loader import standard
from guide_arc.standards.tempo import parse_tempo

COACH = "Marit Engel"
EDITION = "3"
_STATURE_M = {
    "Ada Quill": 1.68, "Benno Hartz": 1.84, "Cleo Marsh": 1.74,
    "Dario Venn": 1.79, "Esme Rook": 1.62, "Finn Adair": 1.88,
}  # fmt: skip


@dataclass(frozen=True)
class Filmed:
    """One set of the demo: who, what, when, and how it went."""

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
    with ProcessPoolExecutor(2, mp_context=get_context("spawn")) as pool:
        for i, (filmed, made) in enumerate(zip(FILMED, pool.map(_make, jobs), strict=True)):
            if progress:
                progress(i / len(FILMED))
            _add(library, filmed, made)
    library.close()


@dataclass(frozen=True)
class _Made:
    """A filmed set: its file, its review, and the finding that its coach would have kept."""

    data: bytes
    document: dict[str, Any]
    glance: dict[str, Any]
    worst: str | None


def _make(job: tuple[Filmed, int]) -> _Made:
    filmed, seed = job
    plan = standard(filmed.standard, filmed.school)
    tempo = parse_tempo(filmed.tempo) if filmed.tempo else None
    script = Script(
        reps=filmed.reps,
        tempo=tempo,
        stature_m=_STATURE_M[filmed.client],
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
    noise = 0.0045 if filmed.view == "none" else 1.6
    camera = Camera(filmed.view, 30.0, noise, 0.25 * noise, 0.02)
    track = perform(plan, script, camera, seed, with_truth=False).track
    review = review_set(track, plan, tempo)
    off = review.with_verdict("off")
    return _Made(
        csv_text(track).encode(),
        review_document(review),
        glance_of(review),
        off[0].key if off else None,
    )


def _add(library: Library, filmed: Filmed, made: _Made) -> None:
    name = f"{filmed.client.split()[0].lower()}-{filmed.recorded[:10]}-{filmed.standard}.csv"
    set_id, _new = library.add_set(
        made.data, name, client=filmed.client, standard=filmed.standard,
        school=standard(filmed.standard, filmed.school).school.id, tempo=filmed.tempo,
        pain=filmed.pain,
    )  # fmt: skip
    library.keep_review(set_id, __version__, made.document, made.glance)
    if filmed.done:
        at = filmed.recorded[:10] + "T22:00"
        choice: Choice = "reword" if filmed.cue else "keep"
        kept = {made.worst: Decision(choice, filmed.cue, COACH, at)} if made.worst else {}
        library.keep_notes(set_id, SetNotes(kept, "", "done", filmed.pain))
