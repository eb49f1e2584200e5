"""What is planned and written for several clients at once: their week, blocks, sheets."""

from __future__ import annotations

from collections.abc import Callable
from datetime import date, timedelta
from pathlib import Path
from typing import Final

from PyQt6.QtWidgets import QFileDialog, QWidget

from guide_arc.app.contract.job import Job, on_library
from guide_arc.app.places.plan.block_dialog import BlockDialog
from guide_arc.app.places.plan.document import PlanDocument
from guide_arc.app.places.plan.needs import PlanNeeds
from guide_arc.app.places.plan.practice_dialog import PracticeDialog
from guide_arc.app.services.destinations import ToPlan
from guide_arc.app.services.recorded_step import RecordedStep, tell
from guide_arc.app.widgets.asking import ask_words, open_dialog, window_of
from guide_arc.core.planning.copying import copied_weeks
from guide_arc.core.planning.practice import ClientFacts
from guide_arc.lazily import lazily
from guide_arc.library.changes import Changes

with lazily():
    from guide_arc.app.services import plan_jobs
    from guide_arc.app.services.plan_jobs import BlocksAndClients
    from guide_arc.library.blocks import Applied
    from guide_arc.library.undoing import Done

# A block is at most a year.
MOST_WEEKS: Final = 52


class ManyClients:
    """Dialogs over the place's window. plan_of : shows a client's plan"""

    def __init__(
        self, program: PlanNeeds, parent: QWidget, plan_of: Callable[[str], object]
    ) -> None:
        self.program, self._parent, self._plan_of = program, parent, plan_of

    def show_week(self) -> None:
        """The week of all clients; the chosen one's plan follows."""

        def show(facts: tuple[ClientFacts, ...]) -> None:
            last = max((day for one in facts for day in one.trained), default=date.min)
            # A library with later days than the clock uses its own latest day.
            today = max(date.today(), last)
            dialog = PracticeDialog(
                window_of(self._parent), facts, today, self.program.colours, self._plan_of
            )
            open_dialog(dialog)

        self.program.start(Job("", on_library(plan_jobs.practice), "practice", "now"), show)

    # Blocks

    def ask_to_keep_block(self, doc: PlanDocument) -> None:
        """The weeks from the shown session's on become a block under a name."""
        sheet, client = doc.sheet, doc.client
        if sheet is None or client is None:
            return
        monday = sheet.session.on - timedelta(days=sheet.session.on.weekday())
        weeks = copied_weeks(sheet.plan.sessions, monday, MOST_WEEKS, client)
        if not weeks.sessions:
            self.program.say("Nothing is planned in these weeks: F plans four.")
            return
        count, last = len(weeks.sessions), 1 + weeks.sessions[-1][0] // 7
        sessions = f"{count} session{'' if count == 1 else 's'}"
        long = f"{last} week{'' if last == 1 else 's'}"
        day = f"{monday.day} {monday:%B}"
        question = (
            f"{sessions} in {long} from {day} will be saved as a block, without weights.\n\nName:"
        )

        def keep(name: str) -> None:
            job = Job("", on_library(plan_jobs.keep_block, name, weeks), lane="now")
            self.program.start(job, lambda changes: self._did(changes, f"Block {name}"))
            self.program.say(f"{name} is saved. B applies it to plans.")

        ask_words(
            self._parent,
            "Keep as a block",
            question,
            f"{client.split()[0]}, {long}",
            keep,
        )

    def ask_for_block(self, doc: PlanDocument) -> None:
        """Choose a block, clients and the first week."""

        def show(found: BlocksAndClients) -> None:
            if not found.blocks:
                self.program.say("There is no block yet: keep the weeks of a plan as one first.")
                return
            ticked = (doc.client,) if doc.client else ()
            dialog = BlockDialog(
                window_of(self._parent), found.blocks, found.clients, ticked, doc.today
            )
            open_dialog(dialog, lambda: self._apply(dialog))

        work = on_library(plan_jobs.blocks_and_clients)
        self.program.start(Job("", work, "blocks", "now"), show)

    def _apply(self, dialog: BlockDialog) -> None:
        work = on_library(plan_jobs.apply_block, dialog.sessions, dialog.names, dialog.monday)

        def done(answer: Done[Applied]) -> None:
            sessions, clients = answer.result
            if not sessions:
                self.program.say("Nothing was planned: on those days something was done already.")
                return
            many = f"{clients} client{'' if clients == 1 else 's'}"
            self._did(answer.changes, f"Block for {many}")
            self.program.say(f"{sessions} sessions are planned for {many}.")

        self.program.start(Job("Planning the block", work, lane="now"), done)

    def _did(self, changes: Changes, words: str) -> None:
        tell(self.program.library, changes)
        step = RecordedStep(self.program.library, changes)
        self.program.did(step.step(words, ToPlan()))

    # Sheets

    def ask_to_write_all(self, names: tuple[str, ...]) -> None:
        """The next session's sheet and the calendar of every client, into a folder."""
        folder = QFileDialog.getExistingDirectory(
            window_of(self._parent), "Sheets and calendars of all clients into", str(Path.home())
        )
        if folder:
            self.write_all(names, Path(folder))

    def write_all(self, names: tuple[str, ...], folder: Path) -> None:
        work = on_library(plan_jobs.write_all, names, folder)

        def done(count: int) -> None:
            many = f"{count} client{'' if count == 1 else 's'}"
            self.program.say(
                f"Sheets and calendars of {many} are in {folder}."
                if count
                else "No client has a session planned: F plans four weeks."
            )

        job = Job("Writing sheets", work, "write-all", stopped="Stopped. What is written stays.")
        self.program.start(job, done)
