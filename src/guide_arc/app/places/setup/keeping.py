"""Setups that are kept for a client and an exercise. Without Qt."""

from __future__ import annotations

from typing import TYPE_CHECKING

from guide_arc.app.contract.history import Step
from guide_arc.app.contract.job import Job, Task, later

if TYPE_CHECKING:
    from guide_arc.app.places.setup.model import SetupModel
    from guide_arc.app.services.program import Program

JOBS = "guide_arc.app.services.setup_jobs"


class Keeping:
    def __init__(self, setup: SetupModel, program: Program) -> None:
        self._setup, self._program = setup, program

    def keep(self, name: str) -> None:
        """Keep this setup for the client and exercise."""
        setup = self._setup
        if setup.kit is None or not setup.client or not name:
            return
        words, client = setup.words_of(setup.kit, setup.bench_deg), setup.client
        work = later(
            f"{JOBS}:keep", setup.standard, client, name, words, setup.kit, setup.bench_deg
        )

        def done(id: int) -> None:
            setup.refresh()
            self._program.say(f"Kept for {client}: {words}.")
            back = Job("", later(f"{JOBS}:forget", id), lane="now")
            again = Job("", work, lane="now")
            self._program.did(
                Step(f"Keep the setup {name}", "setup", lambda: Task(back, lambda _n: setup.refresh()),
                     lambda: Task(again, lambda _i: setup.refresh()))
            )  # fmt: skip

        self._program.start(Job("", work, lane="now"), done)

    def use(self, name: str) -> None:
        own = next((k for k in self._setup.kept if k.name == name), None)
        if own is not None:
            self._setup.set(f"The setup {name}", own.kit, own.bench_deg)
