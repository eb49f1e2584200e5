"""Standards as files: copies, import and export, and one made from a model set."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from PyQt6.QtWidgets import QFileDialog, QMessageBox, QWidget

from guide_arc.app.contract.job import Alone, Job, Progress, alone
from guide_arc.app.places.standards.edits import text_of
from guide_arc.app.places.standards.model import StandardsModel
from guide_arc.app.places.standards.needs import StandardsNeeds
from guide_arc.app.places.standards.proposal_dialog import ProposalDialog
from guide_arc.app.services.destinations import ToStandards
from guide_arc.app.widgets.asking import ask_choice, ask_words, open_dialog
from guide_arc.core.model.errors import BadInput
from guide_arc.drawings.dial import RepKey
from guide_arc.drawings.shown_set import ShownSet
from guide_arc.formats.atomic import write_atomic
from guide_arc.lazily import lazily
from guide_arc.standards.from_set.propose import Proposal, propose
from guide_arc.standards.loader import read_standard
from guide_arc.standards.writing import as_toml, id_of

with lazily():
    from guide_arc.app.services import filming_jobs


class StandardFiles:
    """parent : whose window the dialogs belong to"""

    def __init__(self, program: StandardsNeeds, model: StandardsModel, parent: QWidget) -> None:
        self.program, self.model, self.parent = program, model, parent

    # Own standards

    def copy(self) -> None:
        plan = self.model.doc.plan
        if plan is not None:
            self._ask_name("Copy as your own", f"{plan.name}, mine"[:60], self._copy_named)

    def _copy_named(self, name: str) -> None:
        if self.model.copy_as_own(name):
            self.program.say(f"{name} is yours now. Changes are saved at once.")

    def rename(self) -> None:
        plan = self.model.doc.plan
        if plan is not None:
            self._ask_name("Rename", plan.name, self.model.rename)

    def _ask_name(self, title: str, given: str, then: Callable[[str], object]) -> None:
        ask_words(self.parent, title, "Name of the standard:", given, then)

    def revert(self) -> None:
        """The shipped standard again, or a copy taken out; undo brings it back."""
        plan, over = self.model.doc.plan, self.model.doc.mark.startswith("yours, over")
        if plan is not None and self.model.revert():
            self.program.say(
                f"{plan.name} is as it ships again. Ctrl+Z brings yours back."
                if over
                else f"{plan.name} is taken out. Ctrl+Z brings it back."
            )

    # Out and in

    def ask_to_export(self) -> None:
        id, remembered = self.model.doc.chosen, self.program.remembered
        if id is None:
            return
        folder = Path(remembered.text("standards", str(Path.home())))
        name, _ = QFileDialog.getSaveFileName(
            self.parent.window(), "Export standard", str(folder / f"{id}.toml"), "Standard (*.toml)"
        )
        if name:
            remembered.keep("standards", str(Path(name).parent))
            self.export(Path(name))

    def export(self, target: Path) -> None:
        text = text_of(self.model.doc, self.model.own.texts())

        def run(_progress: Progress) -> None:
            write_atomic(target, text.encode())

        job = Job("", Alone(run), lane="now")
        self.program.start(job, lambda _none: self.program.say(f"Saved {target.name}."))

    def ask_to_write_filming(self) -> None:
        """Choose where the sheet goes that says how to film the chosen exercise."""
        id, remembered = self.model.doc.chosen, self.program.remembered
        if id is None:
            return
        folder = Path(remembered.text("filming", str(Path.home())))
        name, _ = QFileDialog.getSaveFileName(
            self.parent.window(),
            "How to film",
            str(folder / f"film-{id}.pdf"),
            "PDF (*.pdf);;Page for phones (*.html)",
        )
        if name:
            remembered.keep("filming", str(Path(name).parent))
            target = Path(name)
            known = target.suffix.lower() in (".pdf", ".html")
            self.write_filming(target if known else target.with_suffix(".pdf"))

    def write_filming(self, target: Path) -> None:
        plan = self.model.doc.plan
        if plan is None:
            return

        work = alone(filming_jobs.write, plan, target)
        job = Job("Writing how to film", work, lane="now")
        self.program.start(job, lambda _path: self.program.say(f"Saved {target.name}."))

    def ask_to_import(self) -> None:
        remembered = self.program.remembered
        folder = remembered.text("standards", str(Path.home()))
        name, _ = QFileDialog.getOpenFileName(
            self.parent.window(), "Import standard", folder, "Standard (*.toml);;All files (*)"
        )
        if name:
            remembered.keep("standards", str(Path(name).parent))
            self.take_in(Path(name))

    def take_in(self, source: Path) -> None:
        """Take a standard's file in as the coach's own; over one of the same id only when
        confirmed."""

        def run(_progress: Progress) -> tuple[str, str, str] | str:
            try:
                plan = read_standard(source)
                return plan.id, plan.name, source.read_text(encoding="utf-8")
            except BadInput as error:
                return str(error)

        def done(found: tuple[str, str, str] | str) -> None:
            if isinstance(found, str):
                self._tell_bad(found)
            else:
                self._confirm(*found)

        self.program.start(Job("", Alone(run), lane="now"), done)

    def _confirm(self, id: str, name: str, text: str) -> None:
        catalogue = self.model.doc.catalogue
        if id not in catalogue:
            self._keep(text, id, name)
            return
        whose = "your own" if catalogue.is_own(id) else "the shipped"
        ask_choice(
            self.parent,
            "Import standard",
            f"The id {id} is already used by {whose} standard {catalogue.standard(id).name!r}.",
            "Importing the file replaces that standard. Undo restores it.",
            [("Replace it", lambda: self._keep(text, id, name))],
        )

    def _keep(self, text: str, id: str, name: str) -> None:
        if self.model.take_in(text, id):
            self.program.go(ToStandards(id))
            self.program.say(f"{name} is imported.")

    def _tell_bad(self, why: str) -> None:
        box = QMessageBox(
            QMessageBox.Icon.Warning,
            "Import standard",
            "This file is no standard.",
            parent=self.parent.window(),
        )
        box.setInformativeText(why)
        open_dialog(box)

    # From a model set

    def propose(self, measured: ShownSet, name: str, only: frozenset[RepKey] | None = None) -> None:
        """Read a set as a model, off the window's thread, then show what was found.

        only : the model reps, else all full ones that the coach has left in the set
        """
        catalogue = self.model.doc.catalogue
        like = measured.review.standard.id
        dropped = {r.key for r in measured.review.reps if not r.full}

        def run(progress: Progress) -> Proposal:
            return propose(
                measured.body,
                catalogue,
                id=id_of(name, catalogue),
                name=name,
                like=like,
                chosen=lambda rep: rep.key in only if only else rep.key not in dropped,
                progress=progress,
            )

        job = Job("Reading the model set", Alone(run), "propose", "now")
        self.program.start(job, lambda proposal: self._show(measured, proposal))

    def _show(self, measured: ShownSet, proposal: Proposal) -> None:
        dialog = ProposalDialog(self.parent, proposal, self.program.colours)

        def again(reps: frozenset[RepKey]) -> None:
            dialog.close()
            self.propose(measured, dialog.name(), reps)

        def keep() -> None:
            raw = {**proposal.raw, "name": dialog.name()}
            self._keep(as_toml(raw), proposal.standard.id, dialog.name())

        dialog.accepted.connect(keep)
        dialog.chosen.connect(again)
        open_dialog(dialog)
