"""Clean sets approved in one go, and the evening's cues by client."""

from __future__ import annotations

from datetime import date
from pathlib import Path
from typing import TYPE_CHECKING, Final

from PyQt6.QtGui import QGuiApplication
from PyQt6.QtWidgets import (
    QCheckBox,
    QDialog,
    QDialogButtonBox,
    QFileDialog,
    QLabel,
    QPlainTextEdit,
    QVBoxLayout,
    QWidget,
)

from guide_arc.app.places.queue.model import row_words
from guide_arc.app.widgets.asking import AskingDialog
from guide_arc.app.widgets.panels import scrolled
from guide_arc.core.model.errors import BadInput
from guide_arc.formats.atomic import write_atomic
from guide_arc.library.queue_rows import QueueRow

if TYPE_CHECKING:
    from guide_arc.app.places.queue.needs import QueueNeeds

_SIZE: Final = (640, 420)


class CleanDialog(AskingDialog):
    """Each set with its line; what is left ticked is marked reviewed."""

    def __init__(self, parent: QWidget, rows: list[QueueRow]) -> None:
        super().__init__(parent, "Review clean sets in one go", "Mark reviewed")
        self.resize(*_SIZE)
        words = QLabel(
            "In these sets nothing is off or near its limit, and nobody reported pain. Each line"
            " says what its recording could not show. Untick the sets that you want to see"
            " yourself."
        )
        words.setWordWrap(True)
        inner = QWidget()
        lines = QVBoxLayout(inner)
        lines.setContentsMargins(0, 0, 12, 0)
        lines.setSpacing(2)
        self.boxes: dict[int, QCheckBox] = {}
        for row in rows:
            who, _, line = row_words(row).partition(": ")
            box = QCheckBox(who)
            box.setChecked(True)
            box.toggled.connect(lambda _on: self._counted())
            told = QLabel(line)
            told.setObjectName("hint")
            told.setWordWrap(True)
            told.setContentsMargins(24, 0, 0, 6)
            self.boxes[row.id] = box
            lines.addWidget(box)
            lines.addWidget(told)
        lines.addStretch(1)
        area = scrolled(inner, keys=True)
        self.box.addWidget(words)
        self.box.addWidget(area, 1)
        self.finish()
        self._counted()

    def ids(self) -> tuple[int, ...]:
        """The sets that are still ticked."""
        return tuple(set_id for set_id, box in self.boxes.items() if box.isChecked())

    def _counted(self) -> None:
        count = len(self.ids())
        if self.ok is not None:
            self.ok.setText(f"Mark {count} reviewed" if count else "Mark reviewed")
        self.wrong.setText("")

    def error(self) -> str | None:
        return None if self.ids() else "No set is ticked."


class SummaryDialog(QDialog):
    """The evening in words, to be copied or saved."""

    def __init__(self, parent: QWidget, words: str, program: QueueNeeds) -> None:
        super().__init__(parent)
        self.program = program
        self.setWindowTitle("What was said today")
        self.resize(*_SIZE)
        self.text = QPlainTextEdit(words)
        self.text.setReadOnly(True)
        self.text.setAccessibleName("The evening's summary")
        buttons = QDialogButtonBox(QDialogButtonBox.StandardButton.Close)
        copy = buttons.addButton("Copy", QDialogButtonBox.ButtonRole.ActionRole)
        save = buttons.addButton("Save…", QDialogButtonBox.ButtonRole.ActionRole)
        pages = buttons.addButton("Pages for all…", QDialogButtonBox.ButtonRole.ActionRole)
        assert pages is not None
        pages.setToolTip("Write a folder for each client, with a page for each set of today")
        pages.clicked.connect(self._ask_for_folder)
        assert copy is not None
        assert save is not None
        copy.clicked.connect(self.copy)
        save.clicked.connect(self._ask_where)
        buttons.rejected.connect(self.reject)
        box = QVBoxLayout(self)
        box.setContentsMargins(20, 18, 20, 16)
        box.setSpacing(12)
        box.addWidget(self.text, 1)
        box.addWidget(buttons)

    def copy(self) -> None:
        clipboard = QGuiApplication.clipboard()
        if clipboard is not None:
            clipboard.setText(self.text.toPlainText())
        self.program.say("The summary is on the clipboard.")

    def _ask_for_folder(self) -> None:
        settings = self.program.remembered
        folder = QFileDialog.getExistingDirectory(
            self,
            "A folder for the pages of today",
            settings.text("evening_pages", str(Path.home())),
        )
        if folder:
            settings.keep("evening_pages", folder)
            self.write_pages(Path(folder))

    def write_pages(self, folder: Path) -> None:
        """Write a folder for each client, in one for the day."""
        day = date.today()
        self.program.evening.write_pages(day, folder / day.isoformat())

    def _ask_where(self) -> None:
        name, _ = QFileDialog.getSaveFileName(
            self, "Save the summary", "evening.txt", "Text (*.txt)"
        )
        if name:
            self.save(Path(name))

    def save(self, target: Path) -> None:
        """Write the summary; a disk that does not take it is said, and the dialog stays."""
        try:
            write_atomic(target, self.text.toPlainText().encode(), mode=0o600)
        except BadInput as error:
            self.program.say(str(error))
            return
        self.program.say(f"Saved {target.name}.")
