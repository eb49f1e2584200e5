"""What the clients' place shows and what is chosen there. Without Qt."""

from __future__ import annotations

from dataclasses import replace
from datetime import date, timedelta
from typing import TYPE_CHECKING, Final

from guide_arc.app.contract.job import Job, on_library
from guide_arc.app.contract.signal import Signal
from guide_arc.app.services.destinations import ToClients, ToReview
from guide_arc.app.services.recorded_step import RecordedStep, tell
from guide_arc.core.model.client import Cleared, Client
from guide_arc.core.planning.cues import Followed, other_words
from guide_arc.core.planning.kept_set import KeptSet
from guide_arc.drawings.course_sheet import CourseColumn, Grain, columns_of
from guide_arc.lazily import lazily

with lazily():
    from guide_arc.app.services import client_jobs

if TYPE_CHECKING:
    from guide_arc.app.places.clients.needs import ClientsNeeds
    from guide_arc.library.changes import Changes
    from guide_arc.library.client_sheet import ClientSheet
    from guide_arc.library.clients import ClientSummary
    from guide_arc.library.undoing import Done

_GRAINS: Final[tuple[Grain, ...]] = ("sets", "weeks", "months")


class ClientsModel:
    """listed : other clients in the list; shown : another page, or another thing chosen on it"""

    listed: Signal[()] = Signal()
    shown: Signal[()] = Signal()

    def __init__(self, program: ClientsNeeds) -> None:
        self._program = program
        self.every: tuple[ClientSummary, ...] = ()
        self.words = ""
        self.loaded = False
        self.chosen: str | None = None
        self.standard: str | None = None
        self.sheet: ClientSheet | None = None
        self.grain: Grain = "sets"
        self.column: int | None = None
        self.marked: int | None = None
        self.cue: int | None = None

    # The list

    def refresh(self) -> None:
        """Read the list and the page again."""

        def came(found: list[ClientSummary]) -> None:
            self.every, self.loaded = tuple(found), True
            names = [c.name for c in self.rows]
            if self.chosen not in [c.name for c in self.every]:
                self.chosen = names[0] if names else None
                self.standard = None
            self.listed.emit()
            self._read()

        self._program.start(Job("", on_library(client_jobs.read_clients), "clients", "now"), came)

    @property
    def rows(self) -> tuple[ClientSummary, ...]:
        """The clients whose name has every word that is searched for."""
        words = self.words.lower().split()
        return tuple(c for c in self.every if all(w in c.name.lower() for w in words))

    def search(self, words: str) -> None:
        self.words = words
        names = [c.name for c in self.rows]
        if names and self.chosen not in names:
            self.choose(names[0])
        self.listed.emit()

    def choose(self, name: str, standard: str | None = None) -> None:
        if name == self.chosen and standard in (None, self.standard) and self.sheet is not None:
            return
        self.chosen, self.standard = name, standard
        self.column = self.cue = self.marked = None
        self.listed.emit()
        self._read()

    def step_client(self, by: int) -> None:
        names = [c.name for c in self.rows]
        if names:
            at = names.index(self.chosen) if self.chosen in names else 0
            self.choose(names[min(max(at + by, 0), len(names) - 1)])

    # The page

    def _read(self) -> None:
        if self.chosen is None:
            self.sheet = None
            self.shown.emit()
            self._program.changed()
            return
        work = on_library(client_jobs.read_page, self.chosen, self.standard)
        self._program.start(Job("", work, "client-sheet", "now"), self._came)

    def _came(self, sheet: ClientSheet) -> None:
        same = (
            self.sheet is not None
            and self.sheet.client.name == sheet.client.name
            and self.standard == (sheet.plan.id if sheet.plan else None)
        )
        self.sheet = sheet
        self.standard = sheet.plan.id if sheet.plan else None
        count = len(self.columns)
        if not same or self.column is None or self.column >= count:
            self.column = count - 1 if count else None
        if self.cue is not None and self.cue >= len(sheet.cues):
            self.cue = None
        self.shown.emit()
        self._program.changed()

    @property
    def columns(self) -> tuple[CourseColumn, ...]:
        return columns_of(self.sheet.course, self.grain) if self.sheet else ()

    @property
    def chosen_set(self) -> KeptSet | None:
        columns = self.columns
        if self.column is None or not 0 <= self.column < len(columns):
            return None
        return columns[self.column].of

    @property
    def chosen_cue(self) -> Followed | None:
        if self.sheet is None or self.cue is None or self.cue >= len(self.sheet.cues):
            return None
        return self.sheet.cues[self.cue]

    def step_exercise(self, by: int) -> None:
        if self.sheet is None or not self.sheet.exercises or self.chosen is None:
            return
        ids = [id for id, _, _ in self.sheet.exercises]
        at = ids.index(self.standard) if self.standard in ids else 0
        self.choose(self.chosen, ids[(at + by) % len(ids)])

    def choose_column(self, index: int) -> None:
        if 0 <= index < len(self.columns):
            self.column = index
            self._moved()

    def step_column(self, by: int) -> None:
        if self.column is not None:
            self.choose_column(min(max(self.column + by, 0), len(self.columns) - 1))

    def next_grain(self) -> None:
        """Sets, weeks, months, and round again; what was chosen stays chosen as far as it is
        there."""
        before = self.chosen_set
        self.grain = _GRAINS[(_GRAINS.index(self.grain) + 1) % len(_GRAINS)]
        columns = self.columns
        if before is not None and columns:
            near = [abs((c.of.on - before.on).days) for c in columns]
            self.column = len(near) - 1 - near[::-1].index(min(near))
        self._moved()

    def step_cue(self) -> None:
        if self.sheet and self.sheet.cues:
            self.cue = 0 if self.cue is None else (self.cue + 1) % len(self.sheet.cues)
            self._moved()

    def choose_cue(self, index: int) -> None:
        if self.sheet and 0 <= index < len(self.sheet.cues):
            self.cue = index
            self._moved()

    def _moved(self) -> None:
        self.shown.emit()
        self._program.changed()

    def against(self) -> None:
        """Mark a set, or show the marked one beside the chosen one."""
        chosen = self.chosen_set
        if chosen is None:
            return
        if self.marked is None or self.marked == chosen.id:
            self.marked = None if self.marked == chosen.id else chosen.id
            self._program.say(
                "" if self.marked is None else "Marked. Go to another set and press X to see both."
            )
            self._moved()
            return
        ghost, self.marked = self.marked, None
        self._side_by_side(chosen.id, ghost)

    def before_and_after(self) -> None:
        """The set after the chosen cue, with the one in which it was given beside it."""
        cue, sheet = self.chosen_cue, self.sheet
        after = cue.set_after(sheet.course.sets) if cue is not None and sheet is not None else None
        if cue is not None and after is not None:
            self._side_by_side(after.id, cue.given_in.id)
        else:
            self._program.say("No set of this exercise came after this cue yet.")

    def _side_by_side(self, shown: int, ghost: int) -> None:
        self._program.measuring.look_up(
            shown, lambda opened: self._program.go(ToReview(opened, ghost=ghost)), "open"
        )

    # Words

    def other_words(self) -> tuple[str, ...]:
        """Other ways to say the chosen cue to this client."""
        cue = self.chosen_cue
        if cue is None or self.sheet is None or self.sheet.plan is None:
            return ()
        check = cue.said.key.split("/")[0]
        rule = self.sheet.plan.check(check)
        own = [rule.cue, *rule.other_cues] if rule else []
        if rule:
            own += [
                w
                for way in rule.ways
                for w in (way.cue, *way.other_cues)
                if w and way.title == cue.title
            ]
        return tuple(w for w in other_words(own, self.sheet.cues, check) if w != cue.said.words)

    def say_from_now_on(self, words: str) -> None:
        """These words stand for the chosen cue in this client's next sets; undo takes them back."""
        cue, name = self.chosen_cue, self.chosen
        if cue is None or name is None or not words:
            return
        check = cue.said.key.split("/")[0]
        job = Job("", on_library(client_jobs.keep_words, name, check, words), lane="now")

        def done(changes: Changes) -> None:
            self.refresh()
            self._did(changes, f"Words for {name}", name)
            self._program.say(f"From the next set on {name} reads “{words}”.")

        self._program.start(job, done)

    def _did(
        self, changes: Changes, words: str, done_with: str | None, undone_with: str | None = None
    ) -> None:
        """Make a job's changes a step of undo; the page shows a client after redo, and maybe
        another one after undo."""

        def shown(done: bool) -> None:
            self.chosen = done_with if done else (undone_with or done_with)
            self.refresh()

        step = RecordedStep(self._program.library, changes, shown)
        self._program.did(step.step(words, ToClients()))

    @property
    def own_words(self) -> dict[str, str]:
        """The words that stand for a check's cue for this client."""
        return dict(self.sheet.own_words) if self.sheet else {}

    # Changing clients, each a step of undo

    def tired_on(self, day: date) -> None:
        """Note that the client slept poorly or is sore all over; again takes it back."""
        if self.sheet is None:
            return
        client = self.sheet.client
        days = {*client.tired} ^ {day}
        self.keep(replace(client, tired=tuple(sorted(days))))
        noted = "is noted as tired" if day in days else "is not noted as tired"
        self._program.say(f"{client.name} {noted} on {day.isoformat()}.")

    def clear(self, place: str | None, day: date) -> None:
        """Note that a clinician cleared a place, or everything: it counts as sore no longer."""
        if self.sheet is None:
            return
        client, before = self.sheet.client, day - timedelta(days=1)
        sore = tuple(
            replace(s, until=max(s.since, before))
            if s.until is None and (place is None or s.place == place)
            else s
            for s in client.sore
        )
        self.keep(replace(client, sore=sore, cleared=(*client.cleared, Cleared(place, day))))
        self._program.say(
            f"{client.name}: a clinician cleared {place or 'everything'}, noted for"
            f" {day.isoformat()}."
        )

    def keep(self, client: Client) -> None:
        """Keep what is known of a client, the chosen one or somebody new."""
        before = self.sheet.client if self.sheet and client.name and self.chosen else None
        if before == client:
            return
        self._store(client, before)

    def make(self, client: Client) -> None:
        """Somebody new."""
        self._store(client, None)

    def _store(self, client: Client, before: Client | None) -> None:
        job = Job("", on_library(client_jobs.keep_client, client, before), lane="now")
        words = f"New client {client.name}" if before is None else f"What is known of {client.name}"

        def done(answer: Done[str]) -> None:
            self.chosen = client.name
            if before is None:
                self.standard = None
            else:
                self._program.library.changed.emit(frozenset())
            self.refresh()
            self._did(answer.changes, words, client.name, before.name if before else None)
            if answer.result:
                self._program.say(answer.result)

        self._program.start(job, done)

    def join(self, into: str) -> None:
        """The chosen client becomes one with another."""
        name = self.chosen
        if name is None:
            return
        job = Job(
            "Joining two clients", on_library(client_jobs.join_clients, name, into), lane="now"
        )

        def done(answer: Done[list[int]]) -> None:
            self.chosen = into
            tell(self._program.library, answer.changes)
            self.refresh()
            self._did(answer.changes, f"Join {name} with {into}", into, name)

        self._program.start(job, done)

    def erase(self) -> None:
        """The chosen client with every set; back by undo until the program closes."""
        name = self.chosen
        if name is None:
            return
        job = Job("Erasing the client", on_library(client_jobs.take_client_out, name), lane="now")

        def done(changes: Changes) -> None:
            tell(self._program.library, changes)
            self.refresh()
            self._did(changes, f"Erase {name}", None, name)
            count = len(changes.erased())
            sets = "1 set" if count == 1 else f"{count} sets"
            self._program.say(f"{name} is erased with {sets}. Ctrl+Z brings all back.")

        self._program.start(job, done)

    def measure_untold(self) -> None:
        """Sets whose review an older program computed are measured again."""
        if self.chosen is None:
            return
        work = on_library(client_jobs.measure_untold, self.chosen)
        self._program.start(
            Job("Measuring earlier sets again", work, "untold"), lambda _count: self.refresh()
        )
