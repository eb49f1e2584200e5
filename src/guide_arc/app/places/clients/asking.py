"""What the clients' place asks, and what leaves from there."""

from __future__ import annotations

from datetime import date
from functools import partial
from pathlib import Path
from typing import Final

from PyQt6.QtWidgets import QFileDialog, QInputDialog, QWidget

from guide_arc.app.contract.job import Job, on_library
from guide_arc.app.places.clients.known_dialog import KnownDialog
from guide_arc.app.places.clients.model import ClientsModel
from guide_arc.app.places.clients.needs import ClientsNeeds
from guide_arc.app.services.destinations import ToClients
from guide_arc.app.widgets.asking import ask_choice, open_dialog, window_of
from guide_arc.app.widgets.log_dialog import ask_for_log
from guide_arc.app.widgets.picker import Pick, pick_one
from guide_arc.core.model.client import SIDED, Client
from guide_arc.formats.file_names import file_name_part
from guide_arc.lazily import lazily

with lazily():
    from guide_arc.app.services import client_jobs


# Places that have no left and right.
_MIDDLE: Final = ("lower back", "neck")


class ClientQuestions:
    """Dialogs over the place's window."""

    def __init__(self, program: ClientsNeeds, model: ClientsModel, parent: QWidget) -> None:
        self.program, self.model, self._parent = program, model, parent

    def ask_for_words(self) -> None:
        """Other words for a cue; the chosen ones are said from now on to this client."""
        cue, words = self.model.doc.chosen_cue, self.model.doc.other_words()
        if cue is None:
            return
        dialog = QInputDialog(window_of(self._parent))
        dialog.setWindowTitle("Say it another way")
        dialog.setLabelText(f"Instead of “{cue.said.words}”, say from the next set on:")
        dialog.setComboBoxItems(list(words) or [cue.said.words])
        dialog.setComboBoxEditable(True)
        dialog.setMinimumWidth(480)
        dialog.textValueSelected.connect(lambda said: self.model.say_from_now_on(said.strip()))
        open_dialog(dialog)

    def ask_what_is_known(self) -> None:
        if self.model.doc.sheet is None:
            return
        dialog = KnownDialog(window_of(self._parent), self.model.doc.sheet.client)
        open_dialog(dialog, lambda: self.model.keep(dialog.client()))

    def ask_for_log(self) -> None:
        """What the client did today without being filmed."""
        name = self.model.doc.chosen
        if name is not None:
            sheet = self.model.doc.sheet
            # A library with later days than the clock uses its own latest day.
            days = [date.today(), *(s.on for s in sheet.sets)] if sheet else [date.today()]
            log, shows = self.program.training_log, ToClients(client=name)
            ask_for_log(self._parent, max(days), partial(log.read, name), partial(log.keep, shows))

    def ask_what_was_cleared(self) -> None:
        """What a clinician cleared today; what is sore comes first."""
        if self.model.doc.sheet is None:
            return
        sore = [s.place for s in self.model.doc.sheet.client.sore_on(date.today())]
        sided = [place for place in SIDED if not place.endswith(_MIDDLE)]
        places = dict.fromkeys((*sore, *sided, *_MIDDLE))
        offered = [Pick("", "Everything")]
        offered += [Pick(p, f"{p} (sore)" if p in sore else p) for p in places]
        pick_one(
            self._parent,
            "Cleared by a clinician",
            "What did a licensed clinician clear today?",
            offered,
            "Note it",
            lambda place: self.model.clear(place or None, date.today()),
        )

    def ask_for_new(self) -> None:
        taken = {c.name.lower() for c in self.model.doc.every}
        dialog = KnownDialog(window_of(self._parent), Client(""), taken)
        open_dialog(dialog, lambda: self.model.changes.keep(dialog.client(), None))

    def ask_to_join(self) -> None:
        name = self.model.doc.chosen
        others = [c.name for c in self.model.doc.every if c.name != name]
        if name is None:
            return
        if not others:
            self.program.say("There is no other client to join with.")
            return
        dialog = QInputDialog(window_of(self._parent))
        dialog.setWindowTitle("Join two clients")
        dialog.setLabelText(f"All sets of {name} go to:")
        dialog.setComboBoxItems(others)
        dialog.textValueSelected.connect(lambda into: self.model.changes.join(name, into))
        open_dialog(dialog)

    def ask_to_erase(self) -> None:
        name = self.model.doc.chosen
        summary = next((c for c in self.model.doc.every if c.name == name), None)
        if summary is None:
            return
        sets = "1 set with its recording, review and notes"
        if summary.sets != 1:
            sets = f"{summary.sets} sets with their recordings, reviews and notes"
        ask_choice(
            self._parent,
            "Erase client",
            f"Erase {name} and all data about them?",
            f"This removes {sets}, the client's details, plans and setups. Undo restores them"
            " until the program closes. After that they are gone.",
            [("Erase", lambda: self.model.changes.erase(summary.name))],
            destructive=True,
        )

    def ask_for_report(self) -> None:
        name = self.model.doc.chosen
        if name is None:
            return
        proposed = str(Path.home() / f"{file_name_part(name)} - progress.pdf")
        target, _ = QFileDialog.getSaveFileName(
            window_of(self._parent), "Progress report", proposed, "PDF (*.pdf)"
        )
        if target:
            self.write_report(Path(target))

    def write_report(self, target: Path) -> None:
        name = self.model.doc.chosen
        if name is None:
            return
        work = on_library(client_jobs.write_report, name, None, target)
        self.program.start(
            Job("Writing the report", work, "report"),
            lambda written: self.program.say(f"The report is in {written}."),
        )

    def ask_to_export(self) -> None:
        folder = QFileDialog.getExistingDirectory(
            window_of(self._parent), "Export everything of this client into", str(Path.home())
        )
        if folder:
            self.export_to(Path(folder))

    def export_to(self, folder: Path) -> None:
        name = self.model.doc.chosen
        if name is None:
            return
        work = on_library(client_jobs.export_client, name, folder)
        self.program.start(
            Job("Exporting", work, "export-client"),
            lambda count: self.program.say(f"{count} sets and all that is known are in {folder}."),
        )
