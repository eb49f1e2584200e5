"""A library that is not there, or not whole: what can be done about it, for the coach to choose."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QMessageBox, QPushButton, QWidget

from guide_arc.app.contract.app import App
from guide_arc.app.contract.job import Alone, Job, alone
from guide_arc.app.shell.restore_dialog import RestoreDialog
from guide_arc.lazily import lazily
from guide_arc.library.errors import LostLibrary

with lazily():
    from guide_arc.app.services import copy_jobs


class LostLibraryBox(QMessageBox):
    """opened : called once there is a library to open; closed : where nothing is done"""

    def __init__(
        self,
        parent: QWidget,
        app: App,
        error: LostLibrary,
        opened: Callable[[], None],
        closed: Callable[[], None],
    ) -> None:
        sentence = str(error)
        super().__init__(
            QMessageBox.Icon.Warning,
            "Guide Arc",
            f"{sentence[0].upper()}{sentence[1:]}.",
            parent=parent,
        )
        self._app, self._folder, self._opened, self._closed = app, error.folder, opened, closed
        role = QMessageBox.ButtonRole.ActionRole
        self.ways: dict[str, QPushButton | None] = {}
        if error.lost == "folder":
            self.setInformativeText(
                "If its disk is only not connected, connect it and look again. A new library would"
                " be empty."
            )
            self.ways = {
                "again": self.addButton("Look again", QMessageBox.ButtonRole.AcceptRole),
                "new": self.addButton("Make a new library here", role),
            }
        else:
            self.setInformativeText(
                "A backup holds everything up to its day. Without one, each recording is listed as"
                " a new set, without its decisions and notes. What is left of the file is kept."
            )
            self.ways = {
                "restore": self.addButton(
                    "Bring a backup back…", QMessageBox.ButtonRole.AcceptRole
                ),
                "list": self.addButton("List the recordings again", role),
            }
        self.addButton("Close", QMessageBox.ButtonRole.RejectRole)
        self.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        self.buttonClicked.connect(self._chosen)

    def _chosen(self, button: object) -> None:
        way = next((name for name, own in self.ways.items() if own is button), None)
        if way == "again":
            self._opened()
        elif way == "new":
            self._start("Making a library", alone(copy_jobs.make_new, self._folder))
        elif way == "list":
            self._start(
                "Listing the recordings again", alone(copy_jobs.list_recordings_again, self._folder)
            )
        elif way == "restore":
            self._ask_which()
        else:
            self._closed()

    def _ask_which(self) -> None:
        parent = self.parentWidget()
        assert parent is not None
        dialog = RestoreDialog(parent, self._folder)
        dialog.accepted.connect(lambda: self._bring_back(dialog.chosen))
        dialog.rejected.connect(self._closed)
        dialog.open()

    def _bring_back(self, backup: Path) -> None:
        self._start("Bringing the backup back", alone(copy_jobs.bring_back, self._folder, backup))

    def _start(self, words: str, work: Alone[object]) -> None:
        opened = self._opened
        self._app.start(Job(words, work, "open-library", "now"), lambda _made: opened())
