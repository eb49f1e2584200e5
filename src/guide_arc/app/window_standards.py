"""What the window does with standards: the place, copies, files, and one made from a model set."""

from __future__ import annotations

from collections.abc import Callable
from functools import cached_property
from pathlib import Path
from typing import TYPE_CHECKING

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QFileDialog, QInputDialog, QMessageBox, QPushButton, QStackedWidget

from guide_arc.app.window_reps import WindowWithReps
from guide_arc.app.window_sets import PlaceName

if TYPE_CHECKING:
    from guide_arc.app.places.proposal import ProposalDialog
    from guide_arc.app.places.standards import StandardsPlace
    from guide_arc.app.viewmodels.standards import StandardsModel
    from guide_arc.drawings.dial import RepKey
    from guide_arc.standards.from_set.propose import Proposal


class WindowWithStandards(WindowWithReps):
    """The part of the window that reads and changes standards. The place is made when first gone to."""

    stack: QStackedWidget
    rail: dict[PlaceName, QPushButton]
    colours: dict[str, str]

    @cached_property
    def standards(self) -> StandardsModel:
        from guide_arc.app.viewmodels.standards import StandardsModel  # noqa: PLC0415

        model = StandardsModel(self.own_standards)
        model.refused.connect(self.say)
        model.edited.connect(self._standards_edited)
        model.changed.connect(self._refresh)
        model.chosen_changed.connect(self._refresh)
        return model

    @cached_property
    def standards_place(self) -> StandardsPlace:
        from guide_arc.app.places.standards import StandardsPlace  # noqa: PLC0415
        from guide_arc.library.trial import Trials  # noqa: PLC0415

        place = StandardsPlace(
            self.standards, self.colours, self.jobs, Trials(self.library.folder),
            self.library.clients, self._failed,
        )  # fmt: skip
        place.copy.clicked.connect(self.copy_standard)
        place.revert.clicked.connect(self.revert_standard)
        self.stack.addWidget(place)
        return place

    @property
    def standards_seen(self) -> bool:
        """Whether the place has been made."""
        return "standards_place" in self.__dict__

    def go_standards(self) -> None:
        self.review.playback.pause()
        place = self.standards_place
        self.place = "standards"
        self.stack.setCurrentWidget(place)
        place.tiles.setFocus()
        self._refresh()

    def show_standard(self) -> None:
        """The standard of the set that is open, large."""
        measured = self.review.measured
        if measured is None:
            return
        plan = measured.review.standard
        self.go_standards()
        self.standards_place.search.clear()
        self.standards.choose(plan.id)
        self.standards.show_school(plan.school.id)

    def _standards_edited(self) -> None:
        """Sets that follow a standard are reviewed anew when it has changed."""
        id = self.standards.chosen
        if id is None:
            return
        ids = [set_id for set_id, _client in self.library.sets_of_standard(id)]
        for set_id in ids:
            self._measured.pop(set_id, None)
        if ids and self.review.record is not None and self.review.record.id in ids:
            self.review.close()
        if ids:
            self._review_again(ids)
        self._refresh()

    def _review_again(self, ids: list[int]) -> None:
        folder = self.library.folder
        self._again_wanted = ids

        def work(progress: Callable[[float], None]) -> None:
            from guide_arc.library.reviewing import review_and_keep  # noqa: PLC0415
            from guide_arc.library.store import Library  # noqa: PLC0415

            library = Library.open(folder)
            try:
                for i, set_id in enumerate(ids):
                    progress(i / len(ids))
                    # A later change starts over: its reviews would be of an older standard.
                    if self._again_wanted is not ids:
                        return
                    review_and_keep(library, set_id)
            finally:
                library.close()

        self.jobs.start(work, lambda _none: self.queue.refresh(), self._failed)

    _again_wanted: list[int] = []  # noqa: RUF012 - replaced as a whole, never changed

    # Own standards

    def copy_standard(self) -> None:
        plan = self.standards.plan
        if plan is not None:
            self._ask_name("Copy as your own", f"{plan.name}, mine"[:60], self._copy_named)

    def _copy_named(self, name: str) -> None:
        if self.standards.copy_as_own(name):
            self.say(f"{name} is yours now. What you change in it is kept at once.")

    def rename_standard(self) -> None:
        plan = self.standards.plan
        if plan is not None:
            self._ask_name("Rename", plan.name, self.standards.rename)

    def _ask_name(self, title: str, given: str, then: Callable[[str], object]) -> None:
        dialog = QInputDialog(self)
        dialog.setWindowTitle(title)
        dialog.setLabelText("Name of the standard:")
        dialog.setTextValue(given)
        dialog.setMinimumWidth(420)
        dialog.textValueSelected.connect(lambda name: then(name.strip()) if name.strip() else None)
        dialog.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        dialog.open()

    def revert_standard(self) -> None:
        """The shipped standard again, or a copy taken out; undo brings it back."""
        plan, over = self.standards.plan, self.standards.mark.startswith("yours, over")
        if plan is not None and self.standards.revert():
            self.say(
                f"{plan.name} is as it ships again. Ctrl+Z brings yours back."
                if over
                else f"{plan.name} is taken out. Ctrl+Z brings it back."
            )

    def ask_to_export_standard(self) -> None:
        id = self.standards.chosen
        if id is None:
            return
        folder = Path(str(self.settings.value("standards", str(Path.home()))))
        name, _ = QFileDialog.getSaveFileName(
            self, "Export standard", str(folder / f"{id}.toml"), "Standard (*.toml)"
        )
        if name:
            self.settings.setValue("standards", str(Path(name).parent))
            self.export_standard(Path(name))

    def export_standard(self, target: Path) -> None:
        from guide_arc.core.model.errors import BadInput  # noqa: PLC0415
        from guide_arc.formats.atomic import write_atomic  # noqa: PLC0415

        try:
            write_atomic(target, self.standards.text().encode())
        except BadInput as error:
            self.say(str(error))
            return
        self.say(f"Saved {target.name}.")

    def ask_to_import_standard(self) -> None:
        folder = str(self.settings.value("standards", str(Path.home())))
        name, _ = QFileDialog.getOpenFileName(
            self, "Import standard", folder, "Standard (*.toml);;All files (*)"
        )
        if name:
            self.settings.setValue("standards", str(Path(name).parent))
            self.import_standard(Path(name))

    def import_standard(self, source: Path) -> None:
        """Take a standard's file in as the coach's own; over one of the same id only when confirmed."""
        from guide_arc.core.model.errors import BadInput  # noqa: PLC0415
        from guide_arc.standards.loader import read_standard  # noqa: PLC0415

        try:
            plan = read_standard(source)
        except BadInput as error:
            self._tell_bad_standard(str(error))
            return
        text = source.read_text(encoding="utf-8")
        catalogue = self.catalogue()
        if plan.id not in catalogue:
            self._imported(text, plan.id, plan.name)
            return
        whose = "your own" if catalogue.is_own(plan.id) else "the shipped"
        box = QMessageBox(
            QMessageBox.Icon.Question, "Import standard",
            f"There is {whose} standard {catalogue.standard(plan.id).name!r} under the id {plan.id} already.",
            parent=self,
        )  # fmt: skip
        box.setInformativeText("The file would stand in its place. Undo brings it back.")
        take = box.addButton("Put it in its place", QMessageBox.ButtonRole.AcceptRole)
        box.addButton(QMessageBox.StandardButton.Cancel)
        box.buttonClicked.connect(
            lambda button: self._imported(text, plan.id, plan.name) if button is take else None
        )
        box.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        box.open()

    def _imported(self, text: str, id: str, name: str) -> None:
        if self.standards.take_in(text, id):
            self.go_standards()
            self.standards.choose(id)
            self.say(f"{name} is taken in.")

    def _tell_bad_standard(self, why: str) -> None:
        box = QMessageBox(
            QMessageBox.Icon.Warning, "Import standard", "This file is no standard.", parent=self
        )
        box.setInformativeText(why)
        box.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        box.open()

    # From a model set

    def ask_for_standard_from_set(self) -> None:
        """Propose a standard from the set that is open."""
        record = self.review.record
        if record is None or self.review.measured is None:
            return
        name = f"{self.review.measured.review.standard.name}, {record.client.split()[0]}"[:60]
        self._ask_name("Standard from this set", name, self.propose_standard)

    def propose_standard(self, name: str, only: frozenset[RepKey] | None = None) -> None:
        """Read the open set as a model, off the window's thread, then show what was found.

        only : the reps to go by, else all whole ones that the coach has left in the set
        """
        measured = self.review.measured
        if measured is None:
            return
        catalogue = self.catalogue()
        like = measured.review.standard.id
        dropped = {r.key for r in measured.review.reps if not r.full}
        self.say("Reading the model set…")

        def work(progress: Callable[[float], None]) -> Proposal:
            from guide_arc.standards.from_set.propose import propose  # noqa: PLC0415
            from guide_arc.standards.writing import id_of  # noqa: PLC0415

            return propose(
                measured.body, catalogue, id=id_of(name, catalogue), name=name, like=like,
                chosen=lambda rep: rep.key in only if only else rep.key not in dropped,
                progress=progress,
            )  # fmt: skip

        self.jobs.start(work, self._show_proposal, self._failed)

    def _show_proposal(self, proposal: Proposal) -> None:
        from guide_arc.app.places.proposal import ProposalDialog  # noqa: PLC0415

        self.say("")
        dialog = ProposalDialog(self, proposal, self.colours)
        dialog.accepted.connect(lambda: self._keep_proposal(proposal, dialog.name()))
        dialog.chosen.connect(lambda reps: self._propose_again(dialog, reps))
        dialog.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        dialog.open()

    def _propose_again(self, dialog: ProposalDialog, reps: frozenset[RepKey]) -> None:
        dialog.close()
        self.propose_standard(dialog.name(), reps)

    def _keep_proposal(self, proposal: Proposal, name: str) -> None:
        from guide_arc.standards.writing import as_toml  # noqa: PLC0415

        raw = {**proposal.raw, "name": name}
        self._imported(as_toml(raw), proposal.standard.id, name)
