"""Choosing from a list by typing: words in any order, by name, kit, region or muscle."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import NamedTuple

from PyQt6.QtCore import QEvent, QObject, QSortFilterProxyModel, QStringListModel, Qt
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import (
    QComboBox,
    QCompleter,
    QDialog,
    QDialogButtonBox,
    QLabel,
    QLineEdit,
    QListWidget,
    QListWidgetItem,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from guide_arc.app.widgets.asking import open_dialog, window_of

_SIZE = (520, 460)


class Pick(NamedTuple):
    """One thing to choose. also : more words by which it is found"""

    id: str
    words: str
    also: str = ""


def matches(typed: str, words: str) -> bool:
    """Whether every word that was typed is part of these words, in any order."""
    there = words.lower()
    return all(word in there for word in typed.lower().split())


class Picker(QDialog):
    """A field and the list of what matches; Enter takes the chosen one, arrows go through them."""

    def __init__(
        self, parent: QWidget, title: str, question: str, offered: Sequence[Pick], action: str
    ) -> None:
        super().__init__(parent)
        self.setWindowTitle(title)
        self.resize(*_SIZE)
        self.chosen: Pick | None = None
        self._offered = tuple(offered)
        self.field, self.list, self.none = QLineEdit(), QListWidget(), QLabel()
        self.field.setPlaceholderText("Type to search")
        self.field.setAccessibleName(question)
        self.field.setClearButtonEnabled(True)
        self.list.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.list.setAccessibleName(title)
        self.none.setObjectName("muted")
        self.buttons = QDialogButtonBox(QDialogButtonBox.StandardButton.Cancel)
        take = self.buttons.addButton(action, QDialogButtonBox.ButtonRole.AcceptRole)
        assert take is not None
        self.take = take
        for button in self.buttons.buttons():  # Enter belongs to the field
            if isinstance(button, QPushButton):
                button.setAutoDefault(False)
        self.buttons.accepted.connect(self._take)
        self.buttons.rejected.connect(self.reject)
        box = QVBoxLayout(self)
        for widget in (QLabel(question), self.field, self.none, self.list, self.buttons):
            box.addWidget(widget)
        self.field.textChanged.connect(self._fill)
        self.field.returnPressed.connect(self._take)
        self.list.itemClicked.connect(lambda _item: self.field.setFocus())
        self.list.itemDoubleClicked.connect(lambda _item: self._take())
        self.field.installEventFilter(self)
        self._fill("")

    def _fill(self, typed: str) -> None:
        self.list.clear()
        for pick in self._offered:
            if matches(typed, f"{pick.words} {pick.also}"):
                item = QListWidgetItem(pick.words)
                item.setData(Qt.ItemDataRole.UserRole, pick.id)
                self.list.addItem(item)
        self.list.setCurrentRow(0)
        self.take.setEnabled(self.list.count() > 0)
        self.none.setVisible(self.list.count() == 0)
        self.none.setText(f"Nothing matches “{typed.strip()}”.")

    def _take(self) -> None:
        item = self.list.currentItem()
        if item is not None:
            id = item.data(Qt.ItemDataRole.UserRole)
            self.chosen = next(pick for pick in self._offered if pick.id == id)
            self.accept()

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        if isinstance(event, QKeyEvent) and event.type() == QEvent.Type.KeyPress:
            step = {Qt.Key.Key_Down: 1, Qt.Key.Key_Up: -1}.get(Qt.Key(event.key()))
            if step is not None:
                row = min(max(self.list.currentRow() + step, 0), self.list.count() - 1)
                self.list.setCurrentRow(row)
                return True
        return super().eventFilter(watched, event)


def pick_one(
    parent: QWidget,
    title: str,
    question: str,
    offered: Sequence[Pick],
    action: str,
    then: Callable[[str], object],
) -> None:
    """Ask for one of many; `then` is called with its id."""
    dialog = Picker(window_of(parent), title, question, offered, action)
    open_dialog(dialog, lambda: then(dialog.chosen.id) if dialog.chosen else None)


class _AnyOrder(QSortFilterProxyModel):
    """The rows that hold every typed word."""

    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        self._typed = ""

    def search(self, typed: str) -> None:
        self._typed = typed
        self.invalidateFilter()

    def filterAcceptsRow(self, row: int, parent: object) -> bool:
        model = self.sourceModel()
        return model is not None and matches(self._typed, str(model.data(model.index(row, 0))))


def being_searched(combo: QComboBox) -> bool:
    """Whether something was typed into a searchable combo box that is not yet taken."""
    field = combo.lineEdit()
    return (
        field is not None
        and field.hasFocus()
        and field.text() != combo.itemText(combo.currentIndex())
    )


class _Search(QObject):
    """What is typed into a combo box, looked up among its rows.

    A separate object, child of the box: a function that holds the box would make a circle of
    references, and Qt would call it while Python takes the circle apart.
    """

    def __init__(self, combo: QComboBox, field: QLineEdit) -> None:
        super().__init__(combo)
        self._combo, self._field = combo, field
        self._names, self._found = QStringListModel(self), _AnyOrder(self)
        self._found.setSourceModel(self._names)
        completer = QCompleter(self._found, self)
        completer.setCompletionMode(QCompleter.CompletionMode.UnfilteredPopupCompletion)
        combo.setCompleter(completer)
        field.textEdited.connect(self._typed)
        field.editingFinished.connect(self._done)

    def _rows(self) -> list[str]:
        return [self._combo.itemText(row) for row in range(self._combo.count())]

    def _typed(self, words: str) -> None:
        self._names.setStringList([row for row in self._rows() if row])
        self._found.search(words)

    def _done(self) -> None:
        rows, words = self._rows(), self._field.text()
        if words in rows:
            fits = [rows.index(words)]
        else:
            fits = [at for at, row in enumerate(rows) if row and matches(words, row)]
        if fits and words.strip():
            self._combo.setCurrentIndex(fits[0])
        self._field.setText(self._combo.itemText(self._combo.currentIndex()))


def make_searchable(combo: QComboBox) -> None:
    """Let a combo box be searched by typing: the popup lists what holds every typed word; leaving
    the field takes the first of them, or goes back to what was chosen."""
    combo.setEditable(True)
    combo.setInsertPolicy(QComboBox.InsertPolicy.NoInsert)
    field = combo.lineEdit()
    assert field is not None
    _Search(combo, field)
