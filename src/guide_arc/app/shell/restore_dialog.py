"""File → Restore…: the copies of the library, each with what it holds."""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QLabel, QListWidget, QListWidgetItem, QWidget

from guide_arc.app.widgets.asking import AskingDialog
from guide_arc.library.backups import KEPT, backups


class RestoreDialog(AskingDialog):
    """One copy is chosen, or none exists."""

    def __init__(self, parent: QWidget, folder: Path) -> None:
        super().__init__(parent, "Restore a backup", "Bring it back")
        found = backups(folder)
        words = QLabel(
            f"One copy a day is made while the program is used, and {KEPT} are kept. Bringing one"
            " back puts clients, sets, reviews and notes as they were; recordings stay where they"
            " are. What is there now is copied first."
            if found
            else "There is no backup yet. One is made each day on which the program is used."
        )
        words.setWordWrap(True)
        words.setMinimumWidth(560)
        self.list = QListWidget()
        self.list.setAlternatingRowColors(False)
        for backup in found:
            kind = (
                ", from before the last restoring" if backup.path.name.startswith("before-") else ""
            )
            item = QListWidgetItem(f"{backup.day}{kind}   {backup.what}")
            item.setData(Qt.ItemDataRole.UserRole, backup.path)
            self.list.addItem(item)
        self.list.setCurrentRow(0 if found else -1)
        self.list.itemActivated.connect(lambda _item: self.try_accept())
        self.box.addWidget(words)
        self.box.addWidget(self.list)
        self.list.setVisible(bool(found))
        self.finish()
        if not found:
            self.only_close()
        self.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)

    @property
    def chosen(self) -> Path:
        item = self.list.currentItem()
        assert item is not None, "asked for once one was chosen"
        path: Path = item.data(Qt.ItemDataRole.UserRole)
        return path

    def error(self) -> str | None:
        return None if self.list.currentItem() is not None else "Choose a copy."
