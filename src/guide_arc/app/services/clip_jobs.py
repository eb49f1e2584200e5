"""What is done to clips off the window's thread. Each function is a job's work: (library, progress,
…)."""

from __future__ import annotations

from dataclasses import dataclass
from functools import partial

from guide_arc.app.contract.job import Progress
from guide_arc.capture.tracking.calibrated import CalibratedPoints
from guide_arc.capture.tracking.pose import PoseModel
from guide_arc.capture.tracking.simulated import SimulatedTracker, recipe_of
from guide_arc.capture.tracking.tracker import Tracker
from guide_arc.capture.video.clip import Clip
from guide_arc.core.model.marks import Marks
from guide_arc.library.clip_sets import ClipSets
from guide_arc.library.reviewing import review_and_keep
from guide_arc.library.searches import Search, Searches
from guide_arc.library.store import Library

_FINDING = 0.95


def part(progress: Progress, i: int, count: int, share: float) -> None:
    """How far the whole is, from how far its part number i is."""
    progress((i + share) / count)


def trackers(clip: Clip | None) -> list[Tracker]:
    """Every tracker there is, the one that asks least of the coach first."""
    out: list[Tracker] = [CalibratedPoints(), PoseModel()]
    if clip is not None and recipe_of(clip) is not None:
        out.append(SimulatedTracker())
    return out


def offers(_progress: Progress, clip: Clip, marks: Marks) -> list[tuple[str, str | None]]:
    """Each tracker's name, and why it can't work on a clip now."""
    return [(t.name, t.why_not(clip, marks)) for t in trackers(clip)]


def find(library: Library, progress: Progress, set_id: int, name: str) -> None:
    """Run a tracker over a set's clip, and review what it found."""
    clips = ClipSets(library)
    tracker = next(t for t in trackers(clips.clip(set_id)) if t.name == name)
    track = clips.find_landmarks(set_id, tracker, lambda s: progress(_FINDING * s))
    review_and_keep(library, set_id, track)


@dataclass(frozen=True)
class SearchedOne:
    """One clip that was searched, if there was one, its state now, and how many are left."""

    set_id: int | None
    search: Search | None
    left: int


def to_search(library: Library, _progress: Progress) -> int:
    """How many clips are still to be searched."""
    return len(Searches(library).wanted())


def search_next(library: Library, progress: Progress) -> SearchedOne:
    """Search the clip that has waited longest."""
    searches = Searches(library)
    wanted = searches.wanted()
    if not wanted:
        return SearchedOne(None, None, 0)
    search = searches.one(wanted[0], progress)
    return SearchedOne(wanted[0], search, len(searches.wanted()))


def give_up_search(library: Library, _progress: Progress) -> None:
    """What was not searched yet waits to be marked by hand."""
    Searches(library).give_up()


def turn_back(library: Library, _progress: Progress, set_id: int, mirrored: bool) -> None:
    """Say whether a clip was filmed as in a mirror, and review it again so."""
    ClipSets(library).turn_back(set_id, mirrored)
    if not library.record(set_id).waits_for_landmarks:
        review_and_keep(library, set_id)


def make_proxies(library: Library, progress: Progress) -> dict[str, Clip]:
    """Make the small copies that are missing; by the name of the clip's file."""
    clips = ClipSets(library).folder
    missing = clips.without_proxy()
    made = {}
    for i, name in enumerate(missing):
        clip = clips.find(name)
        if clip is not None:
            clips.make_proxy(clip, partial(part, progress, i, len(missing)))
            small = clips.proxy(clip)
            if small is not None:
                made[clip.path.name] = small
    return made
