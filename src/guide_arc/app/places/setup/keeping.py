"""What a coach keeps from here: setups for a client, the room, measured bands. Each is a step of
undo, or says what another window did meanwhile."""

from __future__ import annotations

from collections.abc import Callable

from guide_arc.app.contract.history import Step
from guide_arc.app.contract.job import Job, Task, on_library
from guide_arc.app.places.setup.document import SetupDocument
from guide_arc.app.places.setup.needs import SetupNeeds
from guide_arc.app.services.destinations import ToSetup
from guide_arc.core.mechanics.band_table import MeasuredBand
from guide_arc.core.mechanics.room import TrainingRoom
from guide_arc.lazily import lazily
from guide_arc.library.setups import KeptSetup

with lazily():
    from guide_arc.app.services import setup_jobs


class Keeping:
    """read_again : asks for what the library has of the exercise and the client now"""

    def __init__(self, program: SetupNeeds, read_again: Callable[[], None]) -> None:
        self._program, self._read_again = program, read_again

    def keep_setup(self, doc: SetupDocument, name: str) -> None:
        """Keep this setup for the client and exercise."""
        if doc.kit is None or not doc.client or not name:
            return
        words, client, standard = doc.words, doc.client, doc.standard
        before = next((k for k in doc.kept if k.name == name), None)
        new = KeptSetup(0, name, words, doc.kit, doc.bench_deg)
        last = [new]

        def keep() -> Task[KeptSetup]:
            work = on_library(setup_jobs.keep, standard, client, new, before)
            return Task(Job("", work, lane="now"), kept)

        def kept(now: KeptSetup) -> None:
            last[0] = now
            self._read_again()
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
            self._read_again()
            changed = f"Another window changed the setup {last[0].name} since and stays as it is."
            return None if done else changed

        def first(now: KeptSetup) -> None:
            kept(now)
            self._program.did(Step(f"Keep the setup {name}", ToSetup(), back, keep))

        self._program.start(keep().job, first)

    def keep_room(self, doc: SetupDocument, room: TrainingRoom) -> None:
        """Keep the room for all who train in it."""
        before = doc.training_room
        name = doc.known.room_name if doc.known else ""

        def task(now: TrainingRoom, since: TrainingRoom) -> Task[str]:
            work = on_library(setup_jobs.keep_room, name, now, since)
            return Task(Job("", work, lane="now"), kept)

        def kept(told: str) -> str:
            self._read_again()
            return told

        def first(told: str) -> None:
            if kept(told):
                self._program.say(told)
            self._program.did(
                Step("The room", ToSetup(), lambda: task(before, room), lambda: task(room, before))
            )

        self._program.start(task(room, before).job, first)

    def keep_band(
        self, doc: SetupDocument, name: str, band: MeasuredBand, take: Callable[[], None]
    ) -> None:
        """Keep a band that was measured; `take` then takes it."""
        before = dict(doc.known.bands).get(name) if doc.known else None

        def kept(now: str) -> None:
            self._read_again()
            take()
            also = (
                "" if now == name else f" Another window measured another {name}; both are there."
            )
            self._program.say(f"{now}: {band.newton_per_m:.0f} N a metre.{also}")

        work = on_library(setup_jobs.keep_band, name, band, before)
        self._program.start(Job("", work, lane="now"), kept)
