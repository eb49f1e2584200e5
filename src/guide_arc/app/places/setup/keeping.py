"""Setups that are kept for a client and an exercise. Without Qt."""

from __future__ import annotations

from typing import TYPE_CHECKING

from guide_arc.app.contract.history import Step
from guide_arc.app.contract.job import Job, Task, on_library
from guide_arc.app.services.destinations import ToSetup
from guide_arc.lazily import lazily
from guide_arc.library.setups import KeptSetup

with lazily():
    from guide_arc.app.services import setup_jobs

if TYPE_CHECKING:
    from guide_arc.app.places.setup.model import SetupModel
    from guide_arc.app.places.setup.needs import SetupNeeds


class Keeping:
    def __init__(self, setup: SetupModel, program: SetupNeeds) -> None:
        self._setup, self._program = setup, program

    def keep(self, name: str) -> None:
        """Keep this setup for the client and exercise."""
        setup = self._setup
        if setup.kit is None or not setup.client or not name:
            return
        words = setup.words_of(setup.kit, setup.bench_deg)
        client, standard = setup.client, setup.standard
        before = next((k for k in setup.kept if k.name == name), None)
        new = KeptSetup(0, name, words, setup.kit, setup.bench_deg)
        last = [new]

        def keep() -> Task[KeptSetup]:
            work = on_library(setup_jobs.keep, standard, client, new, before)
            return Task(Job("", work, lane="now"), kept)

        def kept(now: KeptSetup) -> None:
            last[0] = now
            setup.refresh()
            if now.name != name:
                self._program.say(
                    f"Another window kept another setup as {name}; both are there, yours as"
                    f" {now.name}."
                )
            elif before is not None and before.words != words:
                self._program.say(f"Kept for {client}: {words}. It was: {before.words}.")
            else:
                self._program.say(f"Kept for {client}: {words}.")

        def back() -> Task[bool]:
            work = on_library(setup_jobs.take_back, last[0], before)
            return Task(Job("", work, lane="now"), was_taken_back)

        def was_taken_back(done: bool) -> str | None:
            setup.refresh()
            changed = f"Another window changed the setup {last[0].name} since; it stands."
            return None if done else changed

        def first(now: KeptSetup) -> None:
            kept(now)
            self._program.did(Step(f"Keep the setup {name}", ToSetup(), back, keep))

        self._program.start(keep().job, first)

    def use(self, kept: KeptSetup) -> None:
        self._setup.set(f"The setup {kept.name}", kept.kit, kept.bench_deg)
