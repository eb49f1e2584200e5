"""The document of the clients' place, and what is read for it. Without Qt."""

from __future__ import annotations

from dataclasses import replace
from datetime import date
from typing import TYPE_CHECKING

from guide_arc.app.contract.job import Job, on_library
from guide_arc.app.contract.signal import Signal
from guide_arc.app.places.clients.changes import ClientChanges
from guide_arc.app.places.clients.document import (
    ClientsDocument,
    check_of,
    cleared_by_clinician,
    tired_toggled,
)
from guide_arc.app.services.destinations import ToReview
from guide_arc.core.model.client import Client
from guide_arc.lazily import lazily

with lazily():
    from guide_arc.app.services import client_jobs

if TYPE_CHECKING:
    from guide_arc.app.places.clients.needs import ClientsNeeds
    from guide_arc.library.client_sheet import ClientSheet
    from guide_arc.library.clients import ClientSummary


class ClientsModel:
    """shown : another document"""

    shown: Signal[()] = Signal()

    def __init__(self, program: ClientsNeeds) -> None:
        self._program, self.doc = program, ClientsDocument()
        self.changes = ClientChanges(program, self.come_to, self.refresh)

    def show(self, doc: ClientsDocument) -> None:
        if doc is not self.doc:
            self.doc = doc
            self.shown.emit()
            self._program.changed()

    # Reading

    def refresh(self) -> None:
        """Read the list and the page again."""

        def came(found: list[ClientSummary]) -> None:
            self.show(self.doc.with_clients(tuple(found)))
            self._read()

        self._program.start(Job("", on_library(client_jobs.read_clients), "clients", "now"), came)

    def _read(self) -> None:
        chosen = self.doc.chosen
        if chosen is None:
            self.show(self.doc.with_sheet(None))
            return

        def came(sheet: ClientSheet) -> None:
            self.show(self.doc.with_sheet(sheet))

        work = on_library(client_jobs.read_page, chosen, self.doc.standard)
        self._program.start(Job("", work, "client-sheet", "now"), came)

    def come_to(self, name: str | None) -> None:
        """A client's page as the library has it now; the list as well."""
        standard = self.doc.standard if name == self.doc.chosen else None
        self.doc = replace(self.doc, chosen=name, standard=standard)
        self.refresh()

    def search(self, words: str) -> None:
        before = self.doc.chosen
        self.show(self.doc.searching(words))
        if self.doc.chosen != before:
            self._read()

    def choose(self, name: str | None, standard: str | None = None) -> None:
        if name is not None and not self.doc.shows(name, standard):
            self.show(self.doc.choosing(name, standard))
            self._read()

    def step_exercise(self, by: int) -> None:
        standard = self.doc.stepped_exercise(by)
        if standard is not None:
            self.choose(self.doc.chosen, standard)

    # Set next to set

    def against(self) -> None:
        """Mark a set, or show the marked one next to the chosen one."""
        chosen, marked = self.doc.chosen_set, self.doc.marked
        if chosen is None:
            return
        if marked is None or marked == chosen.id:
            self.show(replace(self.doc, marked=None if marked == chosen.id else chosen.id))
            self._program.say(
                ""
                if self.doc.marked is None
                else "Marked. Go to another set and press X to see both."
            )
            return
        self.show(replace(self.doc, marked=None))
        self._side_by_side(chosen.id, marked)

    def before_and_after(self) -> None:
        """The set after the chosen cue, with the one in which it was given next to it."""
        cue, sheet = self.doc.chosen_cue, self.doc.sheet
        after = cue.set_after(sheet.course.sets) if cue is not None and sheet is not None else None
        if cue is not None and after is not None:
            self._side_by_side(after.id, cue.given_in.id)
        else:
            self._program.say("No set of this exercise came after this cue yet.")

    def _side_by_side(self, shown: int, ghost: int) -> None:
        self._program.measuring.look_up(
            shown, lambda opened: self._program.go(ToReview(opened, ghost=ghost)), "open"
        )

    # Changing the chosen client

    def say_from_now_on(self, words: str) -> None:
        """Use these words as the chosen cue in this client's next sets."""
        cue, name = self.doc.chosen_cue, self.doc.chosen
        if cue is not None and name is not None and words:
            self.changes.say_from_now_on(name, check_of(cue), words)

    def keep(self, client: Client) -> None:
        """What is known of the chosen client."""
        if self.doc.sheet is not None:
            self.changes.keep(client, self.doc.sheet.client)

    def tired_on(self, day: date) -> None:
        """Note that the client slept poorly or is sore all over; again takes it back."""
        if self.doc.sheet is None:
            return
        client = tired_toggled(self.doc.sheet.client, day)
        self.keep(client)
        noted = "is noted as tired" if day in client.tired else "is not noted as tired"
        self._program.say(f"{client.name} {noted} on {day.isoformat()}.")

    def clear(self, place: str | None, day: date) -> None:
        """Note that a clinician cleared a place, or everything."""
        if self.doc.sheet is None:
            return
        client = cleared_by_clinician(self.doc.sheet.client, place, day)
        self.keep(client)
        self._program.say(
            f"{client.name}: a clinician cleared {place or 'everything'}, noted for"
            f" {day.isoformat()}."
        )
