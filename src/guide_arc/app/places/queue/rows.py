"""The rows of the queue as Qt's lists ask for them."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QAbstractListModel, QModelIndex, Qt
from PyQt6.QtWidgets import QWidget

from guide_arc.app.places.queue.model import row_words
from guide_arc.app.services.set_list import SetList


class SetRows(QAbstractListModel):
    """name_of : an exercise's name by its id"""

    def __init__(self, sets: SetList, parent: QWidget, name_of: Callable[[str], str]) -> None:
        super().__init__(parent)
        self.sets, self._name_of = sets, name_of
        self._ids = [row.id for row in sets.doc.rows]
        sets.changed.connect(self._reset)

    def _reset(self) -> None:
        """What only grew at its end keeps its place on the screen."""
        before, ids = self._ids, [row.id for row in self.sets.doc.rows]
        if before and len(ids) > len(before) and ids[: len(before)] == before:
            self.beginInsertRows(QModelIndex(), len(before), len(ids) - 1)
            self._ids = ids
            self.endInsertRows()
            return
        self.beginResetModel()
        self._ids = ids
        self.endResetModel()

    def canFetchMore(self, parent: QModelIndex) -> bool:
        return not parent.isValid() and self.sets.doc.has_more

    def fetchMore(self, parent: QModelIndex) -> None:
        if not parent.isValid():
            self.sets.read_more()

    def rowCount(self, parent: QModelIndex | None = None) -> int:
        return len(self._ids)

    def data(self, index: QModelIndex, role: int = Qt.ItemDataRole.DisplayRole) -> object:
        row = self.sets.doc.rows[index.row()]
        if role == Qt.ItemDataRole.UserRole:
            return row
        if role in (Qt.ItemDataRole.DisplayRole, Qt.ItemDataRole.AccessibleTextRole):
            return row_words(row, self._name_of(row.standard))
        return None
