"""What the review's model asks of the program, answered by it."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from guide_arc.app.contract.history import Step
from guide_arc.app.contract.job import Job, Task
from guide_arc.app.services.program import Program
from guide_arc.core.model.review import Review
from guide_arc.drawings.shown_set import ShownSet
from guide_arc.library.records import SetNotes
from guide_arc.library.reviewing import keep_review


class ProgramDesk:
    """Writes go to the keeper, work to the runner, steps to the one history."""

    def __init__(self, program: Program) -> None:
        self._program = program

    @property
    def coach(self) -> str:
        return self._program.library.coach

    def save(self, set_id: int, notes: SetNotes) -> None:
        self._program.keeper.keep(
            f"notes/{set_id}", "what you decided", lambda lib: lib.keep_notes(set_id, notes)
        )

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
        def run(_library: object, _progress: object) -> ShownSet:
            shown = work()
            # Made here, off the window's thread.
            _ = shown.rings, shown.extent, shown.tracks, shown.figures
            return shown

        self._program.start(Job("", run, lane="now", needs_library=False), done, over)

    def did(self, step: Step) -> None:
        self._program.did(step)

    def putting_notes(self, set_id: int, notes: SetNotes) -> Task[Any]:
        return self._program.library.putting_notes(set_id, notes)
