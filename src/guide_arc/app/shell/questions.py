"""What the window asks and shows over itself: all commands, the keys, names, and trouble."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QApplication, QInputDialog, QMessageBox, QWidget

from guide_arc.app.contract.command import Action
from guide_arc.app.contract.registry import Registry
from guide_arc.app.shell.about import ABOUT
from guide_arc.app.shell.needs import ShellNeeds
from guide_arc.app.widgets.asking import open_dialog
from guide_arc.lazily import lazily
from guide_arc.library.errors import LostLibrary

with lazily():
    from guide_arc.app.shell.keys_page import KeysPage
    from guide_arc.app.shell.lost_library import LostLibraryBox
    from guide_arc.app.shell.restore_dialog import RestoreDialog
    from guide_arc.app.shell.trouble import Trouble
    from guide_arc.app.widgets.picker import Pick, pick_one


class ShellQuestions:
    """could_not_be_opened : whether the library is not open because it can't be"""

    def __init__(self, program: ShellNeeds, window: QWidget) -> None:
        self.program, self.window = program, window
        self.could_not_be_opened = False
        self._trouble: Trouble | None = None

    def show_palette(self, usable: Sequence[Action], run: Callable[[Action], None]) -> None:
        """The commands that can be used now, found by typing."""
        offered = [
            Pick(c.id, "   ".join((c.words.rstrip("…"), *c.keys[:1])), f"{c.help} {c.menu}")
            for c in usable
        ]
        by_id = {c.id: c for c in usable}
        pick_one(
            self.window,
            "All commands",
            "What do you want to do?",
            offered,
            "Do it",
            lambda id: run(by_id[id]),
        )

    def show_keys(self, registry: Registry, place: str) -> None:
        page = KeysPage(self.window, registry, place)
        page.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        page.open()

    def show_about(self) -> None:
        box = QMessageBox(QMessageBox.Icon.NoIcon, "About and limits", ABOUT, parent=self.window)
        open_dialog(box)

    def ask_for_coach(self) -> None:
        dialog = QInputDialog(self.window)
        dialog.setWindowTitle("Your name")
        dialog.setLabelText("Decisions are stored under this name:")
        dialog.setTextValue(self.program.library.coach)
        dialog.textValueSelected.connect(self._name_coach)
        open_dialog(dialog)

    def _name_coach(self, name: str) -> None:
        if name.strip():
            self.program.library.name_coach(name.strip(), self.program.keeper.keep)

    # Trouble

    def tell(self, error: BaseException) -> None:
        """An error of the program's own."""
        if self._trouble is None:
            self._trouble = Trouble(self.window)
        self._trouble.tell(error)

    def tell_not_open(self, error: Exception) -> None:
        self.could_not_be_opened = True
        if isinstance(error, LostLibrary):
            LostLibraryBox(self.window, self.program, error, self._open_again, self._give_up).open()
        else:
            QMessageBox.critical(self.window, "Guide Arc", str(error))
            self._give_up()

    def _open_again(self) -> None:
        self.could_not_be_opened = False
        self.program.library.open_again()

    def _give_up(self) -> None:
        QApplication.exit(2)

    def ask_to_restore(self) -> None:
        dialog = RestoreDialog(self.window, self.program.library.folder)
        dialog.accepted.connect(lambda: self.program.library.bring_back(dialog.chosen))
        dialog.open()

    def stay_open(self, pending: list[str], save_elsewhere: Callable[[], bool]) -> bool:
        """Whether the coach would rather try again than lose what can't be kept."""
        box = QMessageBox(
            QMessageBox.Icon.Warning,
            "Guide Arc",
            f"Not saved yet: {', '.join(pending)}.",
            parent=self.window,
        )
        box.setInformativeText("These changes could not be saved. If you close now, they are lost.")
        again = box.addButton("Keep trying", QMessageBox.ButtonRole.AcceptRole)
        elsewhere = box.addButton("Save it elsewhere…", QMessageBox.ButtonRole.ActionRole)
        box.addButton("Close anyway", QMessageBox.ButtonRole.DestructiveRole)
        box.setDefaultButton(again)
        box.exec()
        if box.clickedButton() is elsewhere:
            return not save_elsewhere()
        return box.clickedButton() is again
