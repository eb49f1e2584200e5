"""All standards as moving tiles, found by their words, their kit, and whose they are."""

from __future__ import annotations

from collections.abc import Mapping

from PyQt6.QtWidgets import (
    QComboBox,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from guide_arc.app.places.standards.document import PULLS
from guide_arc.app.places.standards.figure import StandardTiles
from guide_arc.app.places.standards.model import StandardsModel
from guide_arc.drawings.standard_sheet import Film


class StandardFinder(QWidget):
    """films : each standard's moving picture by its id, filled by whoever performs them"""

    def __init__(
        self, model: StandardsModel, colours: Mapping[str, str], films: dict[str, Film]
    ) -> None:
        super().__init__()
        self.model = model
        self.setMinimumWidth(310)
        self.search = QLineEdit()
        self.search.setPlaceholderText("Find by muscle, kit, position or name")
        self.search.setClearButtonEnabled(True)
        self.search.textChanged.connect(lambda words: model.show(model.doc.searching(words)))
        self.kit = QComboBox()
        self.kit.addItem("any kit", None)
        for pull, words in PULLS:
            self.kit.addItem(words, pull)
        self.kit.currentIndexChanged.connect(
            lambda _i: model.show(model.doc.of_pull(self.kit.currentData()))
        )
        self.only_own = QPushButton("yours")
        self.only_own.setCheckable(True)
        self.only_own.setToolTip("Only the standards that you made or changed")
        self.only_own.toggled.connect(lambda only: model.show(model.doc.of_own(only)))
        self.tiles = StandardTiles(model, colours, films)
        self.none_found = QLabel("No standard has all these words. Clear the search to see all.")
        self.none_found.setObjectName("muted")
        self.none_found.setWordWrap(True)
        self.none_found.hide()
        filters = QHBoxLayout()
        filters.addWidget(self.kit, 1)
        filters.addWidget(self.only_own)
        box = QVBoxLayout(self)
        box.setContentsMargins(0, 0, 0, 0)
        box.setSpacing(6)
        box.addWidget(self.search)
        box.addLayout(filters)
        box.addWidget(self.none_found)
        box.addWidget(self.tiles, 1)

    def refill(self) -> None:
        """Other standards are to be shown."""
        self.tiles.refill()
        empty = not self.model.doc.shown
        self.none_found.setVisible(empty)
        self.none_found.setText(
            "You have not made or changed a standard yet: change a limit, or copy one."
            if empty and self.model.doc.only_own and not self.model.doc.words
            else "No standard has all these words. Clear the search to see all."
        )

    def go_to_search(self) -> None:
        self.search.setFocus()
        self.search.selectAll()
