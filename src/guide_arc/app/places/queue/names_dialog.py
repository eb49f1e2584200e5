"""The dialog for markers that are named otherwise: which landmark is each?"""

from __future__ import annotations

from functools import partial
from typing import Final

from PyQt6.QtWidgets import QComboBox, QFormLayout, QLabel, QScrollArea, QWidget

from guide_arc.app.widgets.asking import AskingDialog
from guide_arc.core.model.landmarks import ALL
from guide_arc.drawings.marking import point_words
from guide_arc.formats.marker_names import NOT_USED, Names

_TALLEST: Final = 460


class NamesDialog(AskingDialog):
    """One row for each marker. What is said is remembered for files from the same program."""

    def __init__(
        self, parent: QWidget, file: str, markers: tuple[str, ...], guessed: Names
    ) -> None:
        super().__init__(parent, "Which marker is which?", "Use these names")
        self.setMinimumWidth(460)
        intro = QLabel(f"{file} names its markers in its own way. This is asked once.")
        intro.setWordWrap(True)
        self.box.addWidget(intro)
        inside = QWidget()
        form = QFormLayout(inside)
        self.choices: dict[str, QComboBox] = {}
        for marker in markers:
            box = QComboBox()
            box.addItem("not used", NOT_USED)
            for name in ALL:
                box.addItem(point_words(name), name)
            box.setCurrentIndex(max(box.findData(guessed.get(marker, NOT_USED)), 0))
            box.currentIndexChanged.connect(partial(self._changed))
            form.addRow(marker, box)
            self.choices[marker] = box
        scroll = QScrollArea()
        scroll.setWidgetResizable(True)
        scroll.setWidget(inside)
        scroll.setMinimumHeight(min(_TALLEST, 40 * len(markers) + 20))
        self.box.addWidget(scroll)
        self.finish()

    def _changed(self, _index: int) -> None:
        self.wrong.setText("")

    def names(self) -> dict[str, str]:
        return {marker: box.currentData() for marker, box in self.choices.items()}

    def error(self) -> str | None:
        used = [n for n in self.names().values() if n != NOT_USED]
        twice = next((n for n in used if used.count(n) > 1), None)
        if twice:
            return f"{point_words(twice)} is chosen twice."
        for part in ("shoulder", "hip"):
            if not any(n.endswith(part) for n in used):
                return f"Say which marker is a {part}: without one nothing can be measured."
        return None
