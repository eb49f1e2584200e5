"""What the model of marking asks of the program, answered by it."""

from __future__ import annotations

from collections.abc import Callable

from guide_arc.app.contract.history import Step
from guide_arc.app.contract.job import Job, Task, on_library
from guide_arc.app.places.marking.needs import MarkingNeeds
from guide_arc.core.model.marks import Marks
from guide_arc.lazily import lazily
from guide_arc.library.clip_sets import ClipSets
from guide_arc.library.merging import Merged
from guide_arc.library.store import Library

with lazily():
    from guide_arc.app.services import set_jobs

Joined = Callable[[Marks, Merged[Marks]], None]


class MarkingProgramDesk:
    """Marks go to the keeper; what is measured again, to the runner."""

    def __init__(self, program: MarkingNeeds) -> None:
        self._program = program
        # The marks of each clip as the library last had them from here, and how its picture is
        # shown: what another window did meanwhile shows by it.
        self._since: dict[int, Marks] = {}
        self._mirrored: dict[int, bool] = {}

    def opened(self, set_id: int, marks: Marks, *, mirrored: bool) -> None:
        self._since[set_id], self._mirrored[set_id] = marks, mirrored

    def save(self, set_id: int, marks: Marks, joined: Joined, *, measure_again: bool) -> None:
        program, key = self._program, f"marks/{set_id}"

        def write(library: Library) -> Merged[Marks]:
            since, mirrored = self._since.get(set_id), self._mirrored.get(set_id)
            out = ClipSets(library).keep_marks(set_id, marks, since, mirrored)
            self._since[set_id] = marks
            return out

        def heard(out: Merged[Marks]) -> None:
            if out.value == marks:
                return
            if not program.keeper.waits(key):
                self._since[set_id] = out.value
            joined(marks, out)

        if not measure_again:
            program.keeper.keep(key, "the marks", write, heard)
            return
        task = self.putting_marks(set_id, marks, self._since.get(set_id))
        self._since[set_id] = marks

        def measured(answer: tuple[bool, Merged[Marks]]) -> None:
            task.done(answer)
            heard(answer[1])

        program.start(task.job, measured)

    def putting_marks(
        self, set_id: int, marks: Marks, since: Marks | None
    ) -> Task[tuple[bool, Merged[Marks]]]:
        def done(answer: tuple[bool, Merged[Marks]]) -> None:
            measured_anew, _marks = answer
            if measured_anew:
                self._program.library.changed.emit(frozenset({set_id}))

        work = on_library(set_jobs.keep_marks, set_id, marks, since, self._mirrored.get(set_id))
        job = Job("", work, lane="now")
        return Task(job, done)

    def did(self, step: Step) -> None:
        self._program.did(step)
