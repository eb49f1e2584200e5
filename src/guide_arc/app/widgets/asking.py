"""A dialog that asks for something, and says what is missing or wrong."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QDialog, QDialogButtonBox, QInputDialog, QLabel, QVBoxLayout, QWidget


class AskingDialog(QDialog):
    """A dialog that is only left with its action once nothing is missing."""

    def __init__(self, parent: QWidget, title: str, action: str) -> None:
        super().__init__(parent)
        self.setWindowTitle(title)
        self.box = QVBoxLayout(self)
        self.box.setContentsMargins(20, 18, 20, 16)
        self.box.setSpacing(12)
        self.wrong = QLabel()
        self.wrong.setObjectName("hint")
        self.wrong.setWordWrap(True)
        self.buttons = QDialogButtonBox(
            QDialogButtonBox.StandardButton.Ok | QDialogButtonBox.StandardButton.Cancel
        )
        self.ok = self.buttons.button(QDialogButtonBox.StandardButton.Ok)
        assert self.ok is not None
        self.ok.setText(action)
        self.ok.setObjectName("main")
        self.buttons.accepted.connect(self.try_accept)
        self.buttons.rejected.connect(self.reject)

    def finish(self) -> None:
        self.box.addWidget(self.wrong)
        self.box.addWidget(self.buttons)

    def only_close(self) -> None:
        """There is nothing to do here."""
        assert self.ok is not None
        self.ok.hide()
        cancel = self.buttons.button(QDialogButtonBox.StandardButton.Cancel)
        if cancel is not None:
            cancel.setText("Close")

    def try_accept(self) -> None:
        error = self.error()
        if error:
            self.wrong.setText(error)
        else:
            self.accept()

    def error(self) -> str | None:
        return None


def ask_words(
    parent: QWidget, title: str, question: str, given: str, then: Callable[[str], object]
) -> None:
    """Ask for a line of words; `then` is called with it, unless it is empty."""
    dialog = QInputDialog(parent.window())
    dialog.setWindowTitle(title)
    dialog.setLabelText(question)
    dialog.setTextValue(given)
    dialog.setMinimumWidth(460)
    dialog.textValueSelected.connect(lambda words: then(words.strip()) if words.strip() else None)
    dialog.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
    dialog.open()


def ask_number(
    parent: QWidget, title: str, question: str, given: int, most: int, then: Callable[[int], object]
) -> None:
    """Ask for a whole number from 0 on."""
    dialog = QInputDialog(parent.window())
    dialog.setWindowTitle(title)
    dialog.setLabelText(question)
    dialog.setInputMode(QInputDialog.InputMode.IntInput)
    dialog.setIntRange(0, most)
    dialog.setIntValue(given)
    dialog.intValueSelected.connect(then)
    dialog.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
    dialog.open()


def ask_which(
    parent: QWidget,
    title: str,
    question: str,
    offered: list[str],
    action: str,
    then: Callable[[str], object],
) -> None:
    """Ask for one of a list."""
    dialog = QInputDialog(parent.window())
    dialog.setWindowTitle(title)
    dialog.setLabelText(question)
    dialog.setComboBoxItems(offered)
    dialog.setOkButtonText(action)
    dialog.textValueSelected.connect(then)
    dialog.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
    dialog.open()
