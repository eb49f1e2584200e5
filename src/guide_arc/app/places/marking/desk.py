"""What the model of marking asks of the program, answered by it."""

from __future__ import annotations

from guide_arc.app.contract.history import Step
from guide_arc.app.contract.job import Job, Task, later
from guide_arc.app.services.open_library import JOBS
from guide_arc.app.services.program import Program
from guide_arc.core.model.marks import Marks
from guide_arc.library.clip_sets import ClipSets


class ProgramDesk:
    """Marks go to the keeper; what they measure anew, to the runner."""

    def __init__(self, program: Program) -> None:
        self._program = program

    def save(self, set_id: int, marks: Marks, *, measures_anew: bool) -> None:
        program = self._program
        if measures_anew:
            task = self.putting_marks(set_id, marks)
            program.start(task.job, task.done)
        else:
            program.keeper.keep(
                f"marks/{set_id}", "the marks", lambda lib: ClipSets(lib).keep_marks(set_id, marks)
            )

    def putting_marks(self, set_id: int, marks: Marks) -> Task[bool]:
        def done(measured_anew: bool) -> None:
            if measured_anew:
                self._program.library.changed.emit(frozenset({set_id}))

        job = Job("", later(f"{JOBS}:keep_marks", set_id, marks), lane="now")
        return Task(job, done)

    def did(self, step: Step) -> None:
        self._program.did(step)
