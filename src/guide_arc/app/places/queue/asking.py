"""What the queue asks: files, whose they are, changes to a set, and what the evening needs."""

from __future__ import annotations

from collections.abc import Callable
from datetime import date
from pathlib import Path
from typing import TYPE_CHECKING

from PyQt6.QtGui import QGuiApplication
from PyQt6.QtWidgets import QFileDialog, QWidget

from guide_arc.app.places.queue.needs import QueueNeeds
from guide_arc.app.services.destinations import ToQueue
from guide_arc.app.widgets.asking import ask_choice, open_dialog, window_of
from guide_arc.drawings.days import moment_words
from guide_arc.lazily import lazily

with lazily():
    from guide_arc.app.places.queue.details_dialog import DetailsDialog
    from guide_arc.app.places.queue.evening_dialogs import CleanDialog, SummaryDialog
    from guide_arc.app.places.queue.follow_ups_dialog import FollowUpsDialog
    from guide_arc.app.places.queue.incoming_dialog import IncomingDialog
    from guide_arc.app.places.queue.names_dialog import NamesDialog
    from guide_arc.app.places.queue.peeking import peek
    from guide_arc.app.places.queue.quarantine_dialog import QuarantineDialog
    from guide_arc.app.widgets.follow_up_dialog import ask_follow_up
    from guide_arc.formats.answer_json import is_answer
    from guide_arc.library.answers import answer_words
    from guide_arc.library.intake import details_of, fields_of, file_filter

if TYPE_CHECKING:
    from guide_arc.app.services.intake_jobs import Looked
    from guide_arc.formats.marker_names import Names
    from guide_arc.library.answers import Matched
    from guide_arc.library.intake import Incoming, Known
    from guide_arc.library.quarantine import Quarantined
    from guide_arc.library.queue_rows import QueueRow
    from guide_arc.library.records import SetRecord


class QueueQuestions:
    """Dialogs over the place's window. files_shown : called when a dialog shows the files that
    can't be read"""

    def __init__(
        self, program: QueueNeeds, parent: QWidget, files_shown: Callable[[], None]
    ) -> None:
        self.program, self.sets, self._parent = program, program.sets, parent
        self._files_shown = files_shown

    def hear_what_is_asked(self) -> None:
        """The services ask the coach through the queue: it is always there."""
        intake = self.program.intake
        intake.needs_files.connect(self.ask_for_files)
        intake.needs_folder.connect(self.ask_for_drop_folder)
        intake.needs_names.connect(self.ask_for_names)
        intake.needs_quarantine.connect(self.show_quarantine)
        intake.needs_clipboard.connect(self.paste_answer)
        self.program.answers.needs_decision.connect(self.ask_about_answer)
        intake.needs_details.connect(self.ask_for_details)
        self.program.set_changes.needs_details.connect(self.ask_to_correct)

    # Changing sets

    def edit_details(self) -> None:
        if self.sets.doc.chosen is not None:
            self.program.set_changes.ask_for_details(self.sets.doc.chosen)

    def ask_to_erase(self) -> None:
        row = self.sets.doc.chosen_row
        if row is None:
            return
        ask_choice(
            self._parent,
            "Erase set",
            f"Erase {row.client}'s set of {moment_words(row.recorded)}?",
            "This removes its recording, review and notes from the library. Undo restores them"
            " until the program closes.",
            [("Erase", lambda: self.program.set_changes.erase(row.id, row.client))],
            destructive=True,
        )

    def ask_to_correct(self, record: SetRecord, known: Known) -> None:
        """Another client, exercise, school, tempo or load for one set; the review asks for it
        too."""
        given = details_of(record)
        dialog = DetailsDialog(window_of(self._parent), known, given)
        open_dialog(
            dialog,
            lambda: self.program.set_changes.change(
                record.id, fields_of(given), fields_of(dialog.form.details())
            ),
        )

    # Clients' answers

    def paste_answer(self) -> None:
        """Take in an answer that was copied from a message."""
        clipboard = QGuiApplication.clipboard()
        text = clipboard.text() if clipboard is not None else ""
        if is_answer(text.encode()):
            self.program.answers.receive(((None, text),))
        else:
            self.program.say(
                "The clipboard holds no answer. Copy all of the client's message first."
            )

    def ask_about_answer(self, matched: Matched) -> None:
        """Whether an answer with an odd date is taken in."""
        ask_choice(
            self._parent,
            "Answer",
            f"Take this answer in? {matched.about}",
            f"It has an odd date: {matched.doubt}.\n\n{answer_words(matched.answer)}",
            [("Take it in", lambda: self.program.answers.take(matched))],
        )

    # The evening

    def ask_about_clean(self) -> None:
        """Show the sets in which nothing is off, and mark those that the coach leaves ticked."""

        def show(rows: list[QueueRow]) -> None:
            if not rows:
                self.program.say(
                    "No waiting set is clean: each has something off or near its limit, or pain."
                )
                return
            dialog = CleanDialog(window_of(self._parent), rows)
            open_dialog(dialog, lambda: self.program.evening.mark_reviewed(dialog.ids()))

        self.program.evening.ask_clean(show)

    def show_evening(self) -> None:
        """The cues of today by client."""

        def show(words: str) -> None:
            dialog = SummaryDialog(window_of(self._parent), words, self.program)
            open_dialog(dialog)

        self.program.evening.ask_summary(date.today(), show)

    def show_follow_ups(self) -> None:
        """What is due and what is coming."""
        dialog = FollowUpsDialog(window_of(self._parent), self.program, date.today())
        open_dialog(dialog, dialog.mark_done)

    def ask_for_follow_up(self) -> None:
        """Something to come back to, for the chosen set's client."""
        row = self.sets.doc.chosen_row
        if row is None:
            return
        offered = ["Ask how it went", "Ask for another recording", "See whether the cue was taken"]
        ask_follow_up(
            window_of(self._parent),
            row.client,
            offered,
            lambda words, due: self.program.follow_ups.add(
                row.client, words, due, row.id, ToQueue()
            ),
        )

    # Taking sets in

    def ask_for_files(self) -> None:
        remembered = self.program.remembered
        folder = remembered.text("folder", str(Path.home()))
        names, _ = QFileDialog.getOpenFileNames(
            window_of(self._parent), "Add sets", folder, file_filter()
        )
        if names:
            remembered.keep("folder", str(Path(names[0]).parent))
            self.program.intake.take_in(Path(n) for n in names)

    def ask_for_drop_folder(self) -> None:
        """Choose the folder to watch; choosing none stops watching."""
        folder = QFileDialog.getExistingDirectory(
            window_of(self._parent),
            "Drop folder: where clients' sets arrive",
            self.program.drop_folder.folder,
        )
        self.program.drop_folder.choose(folder)

    def ask_for_names(
        self, looked: Looked, file: str, markers: tuple[str, ...], guessed: Names
    ) -> None:
        """Which marker is which, before the file can be read."""
        dialog = NamesDialog(window_of(self._parent), file, markers, guessed)
        self._files_shown()
        intake = self.program.intake

        def use() -> None:
            intake.keep_names(dialog.names())
            intake.take_in(looked.paths)

        dialog.accepted.connect(use)
        dialog.rejected.connect(lambda: intake.ask_about(looked))
        open_dialog(dialog)

    def ask_for_details(self, looked: Looked, asked: list[Incoming]) -> None:
        """Whose sets they are and what they are."""
        dialog = IncomingDialog(window_of(self._parent), looked.known, asked, looked.bad)
        dialog.accepted.connect(
            lambda: self.program.intake.add(dialog.result_rows(), words=dialog.agreed_words())
        )
        peek(self.program, dialog)
        open_dialog(dialog)

    def show_quarantine(self, found: list[Quarantined]) -> None:
        """What is quarantined: tried again, or left."""
        dialog = QuarantineDialog(window_of(self._parent), self.program.intake, found)
        open_dialog(dialog, lambda: self.program.intake.try_again(dialog.ticked()))
