"""The demo library: Lantern Yard, a made-up touring theatre company, in the spring of 2031.

Its in-house coach, Marit Engel, reviews what six performers film on tour. Each has a story. The
simulated camera films all sets; the same library comes out every time.
"""

from __future__ import annotations

import shutil
import tempfile
from collections.abc import Callable
from concurrent.futures import Executor, ProcessPoolExecutor
from dataclasses import replace
from multiprocessing import get_context
from pathlib import Path
from typing import Final

import numpy as np

from guide_arc import __version__
from guide_arc.capture.film.film import Filming, film
from guide_arc.capture.tracking.simulated import SimulatedTracker
from guide_arc.core.model.track import View
from guide_arc.library.clip_sets import ClipDetails, ClipSets
from guide_arc.library.demo_film import DemoSet, Made, file_name, make_filmed, script, warm_up
from guide_arc.library.records import Choice, Decision, SetNotes
from guide_arc.library.reviewing import review_and_keep
from guide_arc.library.store import Library
from guide_arc.standards.loader import standard

Progress = Callable[[float], None]

COACH = "Marit Engel"
EDITION = "6"
# The settings that keep how many sets are there of each kind.
_WAITING: Final = "demo-waiting"
_REVIEWED: Final = "demo-reviewed"
_CLIPS: Final = "demo-clips"

FILMED: tuple[DemoSet, ...] = (
    # Benno's range shrinks when the load jumps.
    DemoSet("Benno Hartz", "standing-barbell-curl", "2031-01-13T18:20", 30.0, 10, done=True),
    DemoSet("Benno Hartz", "standing-barbell-curl", "2031-02-03T18:35", 32.5, 10, done=True),
    DemoSet(
        "Benno Hartz",
        "standing-barbell-curl",
        "2031-03-24T18:40",
        40.0,
        9,
        faults={"fatigue-drift": 30.0, "torso-swing": 15.0},
        walk_in=True,
    ),
    # Cleo's upper arm leaves its place late in the set; lowering gets fast.
    DemoSet(
        "Cleo Marsh",
        "standing-barbell-curl",
        "2031-02-24T09:10",
        27.5,
        10,
        done=True,
        faults={"upper-arm-drift": 19.0},
        fault_from=8,
        cue="Pin your elbows to your ribs.",
    ),
    DemoSet(
        "Cleo Marsh",
        "standing-barbell-curl",
        "2031-03-25T09:05",
        30.0,
        10,
        tempo="3-0-1-0",
        faults={"upper-arm-drift": 24.0, "too-fast-lower": 1.3},
        fault_from=6,
    ),
    DemoSet(
        "Cleo Marsh",
        "standing-barbell-curl",
        "2031-03-26T21:15",
        27.5,
        8,
        view="left",
        tempo="3-0-1-0",
    ),
    # Ada's right arm lags after a wrist sprain, and catches up.
    DemoSet(
        "Ada Quill",
        "overhead-press-dumbbell",
        "2031-01-20T16:00",
        8.0,
        8,
        done=True,
        faults={"left-right": 34.0},
        cue="Both dumbbells arrive together.",
    ),
    DemoSet(
        "Ada Quill",
        "overhead-press-dumbbell",
        "2031-03-24T16:10",
        9.0,
        9,
        faults={"left-right": 26.0},
    ),
    DemoSet("Ada Quill", "rope-pushdown", "2031-03-26T16:25", 15.0, 12, tempo="2-0-1-1"),
    # Dario's shoulder hikes from rep 7.
    DemoSet(
        "Dario Venn",
        "lateral-raise-dumbbell",
        "2031-02-10T20:30",
        8.0,
        12,
        done=True,
        faults={"shoulder-hike": 15.0},
        fault_from=9,
    ),
    DemoSet(
        "Dario Venn",
        "lateral-raise-dumbbell",
        "2031-03-25T20:40",
        10.0,
        12,
        faults={"shoulder-hike": 21.0},
        fault_from=7,
        partial=2,
        pain=True,
    ),
    DemoSet(
        "Dario Venn",
        "lateral-raise-dumbbell",
        "2031-03-27T20:45",
        8.0,
        12,
        view="front",
        faults={"too-fast-lower": 0.7},
    ),
    # Esme's cables are too near: the hands no longer cross.
    DemoSet("Esme Rook", "cable-cross-raise-low", "2031-03-03T11:20", 7.5, 12, done=True),
    DemoSet(
        "Esme Rook",
        "cable-cross-raise-low",
        "2031-03-24T11:30",
        7.5,
        12,
        faults={"end-point": 15.0},
    ),
    DemoSet("Esme Rook", "seated-row-narrow-low", "2031-03-26T11:40", 35.0, 8, first_hold_s=10.0),
    DemoSet("Esme Rook", "cross-cable-rear-fly", "2031-03-27T11:35", 5.0, 12),
    # Finn's tempo recovers.
    DemoSet(
        "Finn Adair",
        "rope-pushdown",
        "2031-02-17T19:05",
        20.0,
        12,
        done=True,
        tempo="2-0-1-1",
        faults={"too-fast-lower": 0.8},
        cue="Count the weight down, every rep.",
    ),
    DemoSet(
        "Finn Adair",
        "rope-pushdown",
        "2031-03-25T19:10",
        20.0,
        12,
        tempo="2-0-1-1",
        faults={"hold-missing": 0.25},
    ),
    DemoSet("Finn Adair", "one-arm-dumbbell-row", "2031-03-26T19:20", 24.0, 10),
    # The clean veteran films everything, and nothing is wrong with it.
    DemoSet("Benno Hartz", "seated-row-narrow-low", "2031-03-27T18:50", 50.0, 10),
    DemoSet("Ada Quill", "front-raise-midline", "2031-03-28T16:30", 4.0, 6, arms="alternating"),
    # Two clips: one with its landmarks found, one that waits to be marked.
    DemoSet(
        "Dario Venn",
        "lateral-raise-dumbbell",
        "2031-03-28T20:35",
        8.0,
        4,
        view="front",
        faults={"shoulder-hike": 20.0},
        fault_from=3,
        clip="found",
    ),
    DemoSet(
        "Esme Rook", "rope-pushdown", "2031-03-28T11:45", 12.5, 3, view="left", clip="unmarked"
    ),
)


def ensure_demo_library(folder: Path) -> None:
    """Have the demo library whole, with every set that is to wait in it."""
    prepare(folder)
    library = Library.open(folder)
    try:
        fill_waiting(library, lambda _share: None)
        fill_done(library, lambda _share: None)
        fill_clips(library, lambda _share: None)
    finally:
        library.close()


def prepare(folder: Path, *, fresh: bool = False) -> bool:
    """Make an empty demo library if there is none of this edition; whether it was made. Atomic."""
    stamp = folder / "edition"
    if not fresh and stamp.exists() and stamp.read_text() == EDITION:
        return False
    building = folder.with_name(folder.name + ".building")
    shutil.rmtree(building, ignore_errors=True)
    library = Library.open(building)
    library.keep_setting("coach", COACH)
    library.close()
    (building / "edition").write_text(EDITION)
    shutil.rmtree(folder, ignore_errors=True)
    building.rename(folder)
    return True


def fill_waiting(library: Library, progress: Progress, pool: Executor | None = None) -> int:
    """Film, review and add the sets of landmarks that wait and are not there yet; how many were
    added."""
    return fill(library, _WAITING, _tracks(done=False), progress, pool)


def fill_done(library: Library, progress: Progress) -> int:
    """The same for those that are marked reviewed."""
    return fill(library, _REVIEWED, _tracks(done=True), progress)


def _tracks(*, done: bool) -> list[tuple[DemoSet, int]]:
    return [(f, 2031 + i) for i, f in enumerate(FILMED) if not f.clip and f.done == done]


def fill_clips(library: Library, progress: Progress) -> int:
    """The same for the sets that came as clips."""
    jobs = [(f, 2031 + i) for i, f in enumerate(FILMED) if f.clip]
    begun = int(library.setting(_CLIPS, "0"))
    if begun >= len(jobs):
        return 0
    with tempfile.TemporaryDirectory() as making, helpers() as pool:
        coming = [pool.submit(filmed_clip, *job, Path(making)) for job in jobs[begun:]]
        for i, made in enumerate(coming, begun):
            progress(i / len(jobs))
            name, data = made.result()
            _add_clip(library, jobs[i][0], Path(making) / name, data)
            library.keep_setting(_CLIPS, str(i + 1))
    return len(jobs) - begun


def fill(
    library: Library,
    counter: str,
    jobs: list[tuple[DemoSet, int]],
    progress: Progress,
    pool: Executor | None = None,
) -> int:
    """Film, review and add what is not there yet of some sets, each with its seed; how many were
    added.

    counter : the setting with the number of sets made, so that an interrupted fill continues
    pool : the helpers, where they were started before
    """
    begun = int(library.setting(counter, "0"))
    left = jobs[begun:]
    if not left:
        return 0
    # Filming and reviewing run in helper processes while this one stores what they made.
    with pool or helpers() as busy:
        for i, ((filmed, _seed), made) in enumerate(
            zip(left, busy.map(make_filmed, left), strict=True)
        ):
            progress(i / len(left))
            add_filmed(library, filmed, made)
            library.keep_setting(counter, str(begun + i + 1))
    return len(left)


def helpers() -> Executor:
    """Two processes that film and review, on their way up."""
    pool = ProcessPoolExecutor(2, mp_context=get_context("spawn"))
    for _ in range(2):
        pool.submit(warm_up)
    return pool


def filmed_clip(filmed: DemoSet, seed: int, making: Path) -> tuple[str, bytes]:
    """The name and bytes of a set's film, made in a folder."""
    view: View = filmed.view if filmed.view != "none" else "left"
    target = making / file_name(filmed, f"-{view}.mp4")
    filming = Filming(view, 640, 360, rate_hz=24.0, shake_px=1.0, light=0.08)
    film(target, standard(filmed.standard, filmed.school), script(filmed), filming, seed)
    return target.name, target.read_bytes()


def sent_sets(count: int, seed: int) -> list[DemoSet]:
    """Sets that the performers send on one evening: what they did before, done again."""
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


def _add_clip(library: Library, filmed: DemoSet, source: Path, data: bytes) -> None:
    """Take a film in as a clip would come, and find its landmarks where the demo has them."""
    source.write_bytes(data)
    sets = ClipSets(library)
    details = ClipDetails(
        client=filmed.client,
        standard=filmed.standard,
        school=standard(filmed.standard, filmed.school).school.id,
        view=filmed.view,
        tempo=filmed.tempo,
        load_kg=filmed.load_kg,
        recorded=filmed.recorded,
    )
    set_id, _new = sets.add(source, details)
    if filmed.clip == "found":
        review_and_keep(library, set_id, sets.find_landmarks(set_id, SimulatedTracker()))


def add_filmed(library: Library, filmed: DemoSet, made: Made) -> None:
    set_id, _new = library.add_set(
        made.data,
        file_name(filmed, ".csv"),
        client=filmed.client,
        standard=filmed.standard,
        school=standard(filmed.standard, filmed.school).school.id,
        tempo=filmed.tempo,
        pain=filmed.pain,
    )
    library.keep_review(set_id, __version__, *made.forms)
    if filmed.done:
        at = filmed.recorded[:10] + "T22:00"
        choice: Choice = "reword" if filmed.cue else "keep"
        kept = {made.worst: Decision(choice, filmed.cue, COACH, at)} if made.worst else {}
        library.keep_notes(set_id, SetNotes(kept, "", "done", filmed.pain))
