"""What the review's model asks of the program, answered by it."""

from __future__ import annotations

from collections.abc import Callable

from guide_arc.app.contract.history import Step
from guide_arc.app.contract.job import Alone, AnyTask, Job, Progress
from guide_arc.app.places.review.needs import ReviewNeeds
from guide_arc.core.model.review import Review
from guide_arc.drawings.shown_set import ShownSet
from guide_arc.library.merging import Merged
from guide_arc.library.records import SetNotes, notes_text
from guide_arc.library.reviewing import keep_review
from guide_arc.library.store import Library


class ReviewProgramDesk:
    """Writes go to the keeper, work to the runner, steps to the one history."""

    def __init__(self, program: ReviewNeeds) -> None:
        self._program = program
        # The document of each set as the library last had it from here: what another window did
        # meanwhile shows by it.
        self._since: dict[int, SetNotes] = {}

    @property
    def coach(self) -> str:
        return self._program.library.coach

    def opened(self, set_id: int, notes: SetNotes) -> None:
        self._since[set_id] = notes

    def save(
        self, set_id: int, notes: SetNotes, joined: Callable[[SetNotes, Merged[SetNotes]], None]
    ) -> None:
        key = f"notes/{set_id}"

        def write(library: Library) -> Merged[SetNotes]:
            out = library.keep_notes(set_id, notes, self._since.get(set_id))
            self._since[set_id] = notes
            return out

        def heard(out: Merged[SetNotes]) -> None:
            if out.value == notes:
                return
            if not self._program.keeper.waits(key):
                self._since[set_id] = out.value
            joined(notes, out)

        self._program.keeper.keep(key, "what you decided", write, heard, notes_text(notes))

    def keep_review(self, set_id: int, review: Review) -> None:
        self._program.keeper.keep(
            f"review/{set_id}", "the review", lambda lib: keep_review(lib, set_id, review)
        )

    def compute(
        self,
        work: Callable[[], ShownSet],
        done: Callable[[ShownSet], None],
        over: Callable[[], None],
    ) -> None:
        def run(_progress: Progress) -> ShownSet:
            shown = work()
            # Made here, off the window's thread.
            _ = shown.rings, shown.extent, shown.tracks, shown.figures
            return shown

        self._program.start(Job("", Alone(run), lane="now"), done, over)

    def did(self, step: Step) -> None:
        self._program.did(step)

    def putting_notes(self, set_id: int, notes: SetNotes, since: SetNotes | None) -> AnyTask:
        return self._program.set_changes.putting_notes(set_id, notes, since)
