"""Finding the landmarks of clips without anybody's help: what is still to be searched, and what
became of it.

What is to be done is kept with each set, so that a search that was cut off goes on at the next
start.
"""

from __future__ import annotations

import json
import logging
from collections.abc import Callable, Iterable
from dataclasses import dataclass, replace
from typing import Any, Final, Literal

from sqlalchemy import select, update

from guide_arc.capture.tracking.people import Person, clearly_meant
from guide_arc.capture.tracking.pose import PoseModel
from guide_arc.capture.tracking.pose_process import pose_python
from guide_arc.capture.tracking.simulated import SimulatedTracker, recipe_of
from guide_arc.capture.tracking.tracker import Tracker
from guide_arc.capture.video.clip import Clip
from guide_arc.core.model.errors import BadInput
from guide_arc.library.clip_sets import ClipSets
from guide_arc.library.reviewing import review_and_keep
from guide_arc.library.store import Library
from guide_arc.library.tables import SetRow

_LOG = logging.getLogger(__name__)

Progress = Callable[[float], None]
State = Literal["", "wanted", "asks", "failed"]

_LOOKING: Final = 0.04
_FINDING: Final = 0.94
_MOST_WORDS: Final = 300


@dataclass(frozen=True)
class Search:
    """How far finding a clip's landmarks has come.

    state : "" where nobody waits for it; "wanted"; "asks" who of `people` is meant; or "failed",
        `words` says why
    """

    state: State = ""
    words: str = ""
    people: tuple[Person, ...] = ()


NOT_SEARCHED: Final = Search()


@dataclass
class Searched:
    """What became of several searches. wrong : a sentence each"""

    found: int = 0
    asks: int = 0
    wrong: tuple[str, ...] = ()

    def add(self, search: Search | None) -> None:
        """The state of one clip after its tracking."""
        if search is not None:
            self.found += search.state == ""
            self.asks += search.state == "asks"
            self.wrong += (search.words,) if search.state == "failed" else ()

    @property
    def words(self) -> str:
        """All of it in one line; empty if nothing was searched."""
        parts = []
        if self.found:
            parts.append(f"landmarks found in {_clips(self.found)}, which can be reviewed now")
        if self.asks:
            parts.append(f"{_clips(self.asks)} {'asks' if self.asks == 1 else 'ask'} who is meant")
        if self.wrong:
            parts.append(f"{_clips(len(self.wrong))} to be marked by hand ({self.wrong[0]})")
        line = "; ".join(parts)
        return f"{line[0].upper()}{line[1:]}." if line else ""


def search_text(search: Search) -> str:
    """A search as it is kept with its set."""
    if not search.state:
        return ""
    people = [[p.frame, *(round(v, 1) for v in p.box)] for p in search.people]
    return json.dumps({"state": search.state, "words": search.words, "people": people})


def search_of(text: str) -> Search:
    """A search as it was kept; none for a text that can't be read."""
    if not text:
        return Search()
    try:
        kept: dict[str, Any] = json.loads(text)
        people = tuple(
            Person(int(f), (float(a), float(b), float(c), float(d)))
            for f, a, b, c, d in kept["people"]
        )
        return Search(kept["state"], str(kept["words"]), people)
    except (ValueError, KeyError, TypeError):
        return Search()


_WANTED: Final = search_text(Search("wanted"))


def searcher(clip: Clip) -> Tracker | None:
    """The automatic tracker of a clip: the pose model, or on a simulated film its substitute."""
    if pose_python() is not None:
        return PoseModel()
    return SimulatedTracker() if recipe_of(clip) is not None else None


class Searches:
    """The searches of a library."""

    def __init__(self, library: Library) -> None:
        self._library = library
        self._sets = ClipSets(library)

    def want(self, ids: Iterable[int]) -> list[int]:
        """Clips that are to be searched; those of them that can be."""
        out = []
        for set_id in ids:
            record = self._library.record(set_id)
            clip = self._sets.clip(set_id) if record.waits_for_landmarks else None
            if clip is not None and searcher(clip) is not None:
                self.keep(set_id, Search("wanted"))
                out.append(set_id)
        return out

    def wanted(self) -> list[int]:
        """The clips that are still to be searched, the oldest first."""
        with self._library.reading() as session:
            ask = select(SetRow.id).where(SetRow.search == _WANTED, SetRow.track_hash.is_(None))
            return list(session.scalars(ask.order_by(SetRow.recorded, SetRow.id)))

    def give_up(self) -> None:
        """The coach stopped the search: what was not searched waits to be marked by hand."""
        with self._library.writing() as session:
            session.execute(update(SetRow).where(SetRow.search == _WANTED).values(search=""))

    def keep(self, set_id: int, search: Search) -> None:
        with self._library.writing() as session:
            session.execute(
                update(SetRow).where(SetRow.id == set_id).values(search=search_text(search))
            )

    def run(self, progress: Progress = lambda _share: None) -> Searched:
        """Search every clip that is to be, one after the other. One that fails stops no other.

        progress : may raise to stop; the clips that are left go on being wanted then
        """
        todo = self.wanted()
        out = Searched()
        for i, set_id in enumerate(todo):

            def part(share: float, i: int = i) -> None:
                progress((i + share) / len(todo))

            out.add(self.one(set_id, part))
        return out

    def one(self, set_id: int, progress: Progress = lambda _share: None) -> Search | None:
        """Search one clip and review what was found; its state then. None if there was
        nothing to be done any more."""
        progress(0.0)
        try:
            record = self._library.record(set_id)
            clip = self._sets.clip(set_id) if record.waits_for_landmarks else None
        except BadInput:
            return None  # it was erased meanwhile
        tracker = searcher(clip) if clip is not None else None
        if clip is None or tracker is None:
            self.keep(set_id, Search())
            return None
        stopping = False

        def step(share: float) -> None:
            nonlocal stopping
            try:
                progress(share)
            except BaseException:
                stopping = True
                raise

        try:
            search = self._whom(set_id, clip, tracker, step)
            if search is None:
                track = self._sets.find_landmarks(
                    set_id, tracker, lambda s: step(_LOOKING + _FINDING * s), only_if_waiting=True
                )
                review_and_keep(self._library, set_id, track)
                return Search()
        except Exception as error:
            if stopping:
                raise
            if self._gone(set_id):
                return None
            search = Search("failed", f"{record.source_name}: {_why(error)}"[:_MOST_WORDS])
        self.keep(set_id, search)
        return search

    def _gone(self, set_id: int) -> bool:
        try:
            self._library.record(set_id)
        except BadInput:
            return True
        return False

    def _whom(self, set_id: int, clip: Clip, tracker: Tracker, progress: Progress) -> Search | None:
        """What has to be asked before a clip is searched: who is meant. One who is clearly larger
        than the others is marked as meant."""
        marks = self._sets.marks(set_id)
        if not isinstance(tracker, PoseModel) or marks.person is not None:
            return None
        people = tracker.people(clip)
        progress(_LOOKING)
        if len(people) < 2:
            return None
        if not clearly_meant(people):
            return Search("asks", f"{_NUMBERS[min(len(people), 4)]} people are in view", people)
        first = people[0]
        self._sets.keep_marks(set_id, replace(marks, person=(first.frame, *first.box)))
        return None


def _why(error: Exception) -> str:
    """Why a clip could not be searched, as the end of a sentence."""
    if isinstance(error, BadInput):
        return str(error).removesuffix(".")
    if isinstance(error, OSError):
        return f"it can't be read ({error.strerror})"
    _LOG.exception("a clip could not be searched")
    return "something is wrong in the program itself; mark the joints by hand"


_NUMBERS: Final = {2: "Two", 3: "Three", 4: "Several"}


def _clips(count: int) -> str:
    return "one clip" if count == 1 else f"{count} clips"
