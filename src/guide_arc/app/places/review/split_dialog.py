"""The proposal to split one recording between two exercises, for the coach to confirm."""

from __future__ import annotations

from collections.abc import Sequence

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import (
    QDialog,
    QDialogButtonBox,
    QHeaderView,
    QLabel,
    QTableWidget,
    QTableWidgetItem,
    QVBoxLayout,
    QWidget,
)

from guide_arc.core.reps.doubts import clock
from guide_arc.core.reps.superset import Part
from guide_arc.library.records import SetPart, SetRecord


class SplitDialog(QDialog):
    """Each part with its time and reps, and how sure that is. A part can be left out."""

    def __init__(self, parent: QWidget, record: SetRecord, parts: Sequence[Part]) -> None:
        super().__init__(parent)
        self.setWindowTitle("Split between two exercises")
        self.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        self.parts = list(parts)
        self.resize(620, 300)
        box = QVBoxLayout(self)
        different = len({p.standard.id for p in self.parts})
        if different < 2:
            words = (
                "Only one of the two exercises was found in this recording, so there is nothing to"
                " split."
            )
        else:
            words = (
                f"{record.source_name} holds {len(self.parts)} sets. Each becomes a set of its own,"
                " with its start and end marked by hand; untick what is none."
            )
        note = QLabel(words)
        note.setWordWrap(True)
        box.addWidget(note)
        self.table = QTableWidget(len(self.parts), 4)
        self.table.setHorizontalHeaderLabels(["Exercise", "From – to", "Reps", "How sure"])
        head, side = self.table.horizontalHeader(), self.table.verticalHeader()
        assert head is not None
        assert side is not None
        side.hide()
        head.setSectionResizeMode(0, QHeaderView.ResizeMode.Stretch)
        for row, part in enumerate(self.parts):
            sure = "fits clearly best" if part.sure else "look at it: both fit"
            span = f"{clock(part.span.start_s)} – {clock(part.span.end_s)}"
            cells = (part.standard.name, span, str(len(part.repset.reps)), sure)
            for column, text in enumerate(cells):
                item = QTableWidgetItem(text)
                flags = Qt.ItemFlag.ItemIsEnabled
                if column == 0:
                    flags |= Qt.ItemFlag.ItemIsUserCheckable
                    item.setCheckState(Qt.CheckState.Checked)
                item.setFlags(flags)
                self.table.setItem(row, column, item)
        self.table.resizeColumnsToContents()
        head.setSectionResizeMode(0, QHeaderView.ResizeMode.Stretch)
        self.table.itemChanged.connect(self._changed)
        box.addWidget(self.table, 1)
        self.buttons = QDialogButtonBox(QDialogButtonBox.StandardButton.Cancel)
        self.make = self.buttons.addButton("Split", QDialogButtonBox.ButtonRole.AcceptRole)
        assert self.make is not None
        self.make.setObjectName("main")
        self.buttons.accepted.connect(self.accept)
        self.buttons.rejected.connect(self.reject)
        box.addWidget(self.buttons)
        self._changed()

    def _ticked(self) -> list[Part]:
        out = []
        for row, part in enumerate(self.parts):
            item = self.table.item(row, 0)
            if item is not None and item.checkState() == Qt.CheckState.Checked:
                out.append(part)
        return out

    def _changed(self) -> None:
        assert self.make is not None
        self.make.setEnabled(len(self._ticked()) > 1)

    def chosen(self) -> list[SetPart]:
        """The ticked parts as sets."""
        return [
            SetPart(part.standard.id, part.standard.school.id, part.bounds)
            for part in self._ticked()
        ]
