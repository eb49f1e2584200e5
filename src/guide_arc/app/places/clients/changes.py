"""What changes a client in the library: each change is one step of undo."""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING

from guide_arc.app.contract.job import Job, on_library
from guide_arc.app.services.destinations import ToClients
from guide_arc.app.services.recorded_step import RecordedStep, tell
from guide_arc.core.model.client import Client
from guide_arc.lazily import lazily

with lazily():
    from guide_arc.app.services import client_jobs

if TYPE_CHECKING:
    from guide_arc.app.places.clients.needs import ClientsNeeds
    from guide_arc.library.changes import Changes
    from guide_arc.library.undoing import Done

# A client's name, or None for nobody: whose page is shown once the library is changed.
ShowClient = Callable[[str | None], None]


class ClientChanges:
    """show : called with the client whose page is to be read after a change, its undo or its redo
    renew : reads the current page again
    """

    def __init__(self, program: ClientsNeeds, show: ShowClient, renew: Callable[[], None]) -> None:
        self._program, self._show, self._renew = program, show, renew

    def keep(self, client: Client, before: Client | None) -> None:
        """What is known of a client. before : None for somebody new"""
        if before == client:
            return
        job = Job("", on_library(client_jobs.keep_client, client, before), lane="now")
        words = f"New client {client.name}" if before is None else f"What is known of {client.name}"

        def done(answer: Done[str]) -> None:
            if before is not None:
                self._program.library.changed.emit(frozenset())
            self._show(client.name)
            self.did(answer.changes, words, client.name, before.name if before else None)
            if answer.result:
                self._program.say(answer.result)

        self._program.start(job, done)

    def say_from_now_on(self, name: str, check: str, said: str) -> None:
        """Use these words as a check's cue in this client's next sets."""
        job = Job("", on_library(client_jobs.keep_words, name, check, said), lane="now")

        def done(changes: Changes) -> None:
            self._show(name)
            self.did(changes, f"Words for {name}", name)
            self._program.say(f"From the next set on {name} reads “{said}”.")

        self._program.start(job, done)

    def join(self, name: str, into: str) -> None:
        """Two names for one person become one client."""
        work = on_library(client_jobs.join_clients, name, into)

        def done(answer: Done[list[int]]) -> None:
            tell(self._program.library, answer.changes)
            self._show(into)
            self.did(answer.changes, f"Join {name} with {into}", into, name)

        self._program.start(Job("Joining two clients", work, lane="now"), done)

    def erase(self, name: str) -> None:
        """A client with every set; back by undo until the program closes."""
        work = on_library(client_jobs.take_client_out, name)

        def done(changes: Changes) -> None:
            tell(self._program.library, changes)
            self._renew()
            self.did(changes, f"Erase {name}", None, name)
            count = len(changes.erased())
            sets = "1 set" if count == 1 else f"{count} sets"
            self._program.say(f"{name} is erased with {sets}. Ctrl+Z brings all back.")

        self._program.start(Job("Erasing the client", work, lane="now"), done)

    def measure_untold(self, name: str) -> None:
        """Sets whose review an older program computed are measured again."""
        work = on_library(client_jobs.measure_untold, name)
        job = Job("Measuring earlier sets again", work, "untold")
        self._program.start(job, lambda _count: self._renew())

    def did(
        self, changes: Changes, words: str, done_with: str | None, undone_with: str | None = None
    ) -> None:
        """Make a job's changes a step of undo; a client's page is shown after redo, and maybe
        another one's after undo."""

        def shown(done: bool) -> None:
            self._show(done_with if done else (undone_with or done_with))

        step = RecordedStep(self._program.library, changes, shown)
        self._program.did(step.step(words, ToClients()))
