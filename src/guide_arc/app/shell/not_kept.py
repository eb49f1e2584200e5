"""What can't be kept now: said at the foot of the window until it is, and saved elsewhere if the
coach wants."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QFileDialog, QHBoxLayout, QLabel, QPushButton, QWidget

from guide_arc.app.services.keeper import Keeper
from guide_arc.formats.atomic import write_atomic
from guide_arc.formats.errors import BadFile

_RIGHT = Qt.TextElideMode.ElideRight


class NotKept(QWidget):
    """say : tells the coach something in a sentence; instead_of : what makes room for this as long
    as it is there"""

    def __init__(self, keeper: Keeper, say: Callable[[str], None], instead_of: QWidget) -> None:
        super().__init__()
        self._keeper, self._say, self._instead_of = keeper, say, instead_of
        self._words = QLabel()
        self._words.setObjectName("warning")
        self.button = QPushButton("Save it elsewhere…")
        self.button.clicked.connect(self.save_elsewhere)
        box = QHBoxLayout(self)
        box.setContentsMargins(0, 0, 0, 0)
        box.addWidget(self._words)
        box.addWidget(self.button)
        self.hide()

    def text(self) -> str:
        return self._words.text()

    def show_trouble(self, words: str) -> None:
        """What can't be kept now is there until it is."""
        short = self._words.fontMetrics().horizontalAdvance("n") * 100
        self._words.setText(self._words.fontMetrics().elidedText(words, _RIGHT, short))
        self._words.setToolTip(words)
        self.setVisible(bool(words))
        self._instead_of.setVisible(not words)
        if not words:
            self._say("All changes are saved again.")

    def save_elsewhere(self) -> bool:
        """Write what was typed into a text file of the coach's choice; whether it was."""
        name, _filter = QFileDialog.getSaveFileName(
            self.window(),
            "Save unsaved changes to a file",
            str(Path.home() / "not-kept.txt"),
            "Text (*.txt)",
        )
        if not name:
            return False
        try:
            write_atomic(Path(name), self._keeper.unkept.encode("utf-8", "replace"))
        except BadFile as error:
            self._say(str(error))
            return False
        self._say(f"Saved in {name}; it is still tried to keep it in the library.")
        return True
