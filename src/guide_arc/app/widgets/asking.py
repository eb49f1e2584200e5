"""A dialog that asks for something, and says what is missing or wrong."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import (
    QAbstractButton,
    QDialog,
    QDialogButtonBox,
    QInputDialog,
    QLabel,
    QMessageBox,
    QVBoxLayout,
    QWidget,
)


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


def window_of(widget: QWidget) -> QWidget:
    """The window that a widget is in, to open dialogs over."""
    return widget.window() or widget


def open_dialog(dialog: QDialog, accepted: Callable[[], object] | None = None) -> None:
    """Open a dialog over its window and delete it when it closes. accepted : called when the
    coach confirms"""
    if accepted is not None:
        dialog.accepted.connect(accepted)
    dialog.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
    dialog.open()


def ask_choice(
    parent: QWidget,
    title: str,
    question: str,
    details: str,
    answers: Sequence[tuple[str, Callable[[], object]]],
    *,
    destructive: bool = False,
) -> None:
    """Ask a question with a button for each answer; Enter and Escape cancel.

    answers : the words of each button and what it does
    destructive : the answers remove something
    """
    box = QMessageBox(QMessageBox.Icon.Question, title, question, parent=window_of(parent))
    box.setTextFormat(Qt.TextFormat.PlainText)
    box.setInformativeText(details)
    role = QMessageBox.ButtonRole
    kind = role.DestructiveRole if destructive else role.AcceptRole
    actions: dict[QAbstractButton | None, Callable[[], object]] = {
        box.addButton(words, kind): action for words, action in answers
    }
    box.setDefaultButton(box.addButton(QMessageBox.StandardButton.Cancel))
    box.buttonClicked.connect(lambda button: actions.get(button, lambda: None)())
    open_dialog(box)


def ask_words(
    parent: QWidget, title: str, question: str, given: str, then: Callable[[str], object]
) -> None:
    """Ask for a line of words; `then` is called with it, unless it is empty."""
    dialog = QInputDialog(window_of(parent))
    dialog.setWindowTitle(title)
    dialog.setLabelText(question)
    dialog.setTextValue(given)
    dialog.setMinimumWidth(460)
    dialog.textValueSelected.connect(lambda words: then(words.strip()) if words.strip() else None)
    open_dialog(dialog)


def ask_number(
    parent: QWidget, title: str, question: str, given: int, most: int, then: Callable[[int], object]
) -> None:
    """Ask for a whole number from 0 on."""
    dialog = QInputDialog(window_of(parent))
    dialog.setWindowTitle(title)
    dialog.setLabelText(question)
    dialog.setInputMode(QInputDialog.InputMode.IntInput)
    dialog.setIntRange(0, most)
    dialog.setIntValue(given)
    dialog.intValueSelected.connect(then)
    open_dialog(dialog)


def ask_which(
    parent: QWidget,
    title: str,
    question: str,
    offered: list[str],
    action: str,
    then: Callable[[str], object],
) -> None:
    """Ask for one of a list."""
    dialog = QInputDialog(window_of(parent))
    dialog.setWindowTitle(title)
    dialog.setLabelText(question)
    dialog.setComboBoxItems(offered)
    dialog.setOkButtonText(action)
    dialog.textValueSelected.connect(then)
    open_dialog(dialog)
