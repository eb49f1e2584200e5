"""The dialog for what leaves the program: which form, and how."""

from __future__ import annotations

from collections.abc import Sequence

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QCheckBox, QLabel, QListWidget, QListWidgetItem, QWidget

from guide_arc.app.widgets.asking import AskingDialog
from guide_arc.reports.exports.export import Export


class ExportDialog(AskingDialog):
    """One list of what can leave; two questions about the clip.

    has_clip : whether the set came as one; covers_face : whether the client asked for that
    """

    def __init__(
        self, parent: QWidget, offered: Sequence[Export], *, has_clip: bool, covers_face: bool
    ) -> None:
        super().__init__(parent, "Export", "Choose where…")
        self.setMinimumWidth(560)
        self.kinds = QListWidget()
        self.kinds.setMinimumHeight(min(24 + 28 * len(offered), 380))
        for export in offered:
            item = QListWidgetItem(f"{export.words}: {export.help}")
            item.setData(Qt.ItemDataRole.UserRole, export)
            self.kinds.addItem(item)
        self.kinds.setCurrentRow(0)
        self.kinds.currentRowChanged.connect(lambda _row: self._ask())
        self.kinds.itemDoubleClicked.connect(lambda _item: self.try_accept())
        self.slow = QCheckBox("Slow motion at the faults")
        self.slow.setChecked(True)
        self.face = QCheckBox("Cover the client's face")
        self.face.setChecked(covers_face)
        self._uncovered = QLabel(
            "It holds the clip as it was filmed: the face is not covered, as this client asked."
        )
        self._uncovered.setObjectName("warning")
        self._uncovered.setWordWrap(True)
        self._has_clip, self._covers = has_clip, covers_face
        self.box.addWidget(self.kinds)
        self.box.addWidget(self.slow)
        self.box.addWidget(self.face)
        self.box.addWidget(self._uncovered)
        self.finish()
        self._ask()

    def chosen(self) -> Export:
        item = self.kinds.currentItem()
        assert item is not None
        export: Export = item.data(Qt.ItemDataRole.UserRole)
        return export

    def _ask(self) -> None:
        asks = self.chosen().asks
        self.slow.setVisible("slow" in asks)
        self.face.setVisible("face" in asks and self._has_clip)
        self._uncovered.setVisible("whole clip" in asks and self._has_clip and self._covers)
