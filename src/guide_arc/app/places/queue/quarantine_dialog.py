"""The quarantined files and sets, to try again or to remove from the list."""

from __future__ import annotations

from typing import TYPE_CHECKING, Final

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QCheckBox, QDialogButtonBox, QLabel, QPushButton, QVBoxLayout, QWidget

from guide_arc.app.widgets.asking import AskingDialog
from guide_arc.app.widgets.panels import scrolled
from guide_arc.drawings.days import moment_words

if TYPE_CHECKING:
    from guide_arc.app.services.intake import Intake
    from guide_arc.library.quarantine import Quarantined

_SIZE: Final = (680, 440)


class QuarantineDialog(AskingDialog):
    """The ticked entries are tried again, or removed from the list; files stay where they are."""

    def __init__(self, parent: QWidget, intake: Intake, found: list[Quarantined]) -> None:
        super().__init__(parent, "Set aside", "Try again")
        self.resize(*_SIZE)
        self._intake = intake
        self.boxes: list[tuple[Quarantined, QCheckBox]] = []
        inner = QWidget()
        lines = QVBoxLayout(inner)
        lines.setContentsMargins(0, 0, 12, 0)
        lines.setSpacing(4)
        for one in found:
            box = QCheckBox(one.name)
            box.setChecked(True)
            box.toggled.connect(lambda _on: self._counted())
            why = QLabel(f"{one.why}\nSet aside {moment_words(one.at)}")
            why.setObjectName("muted")
            why.setTextFormat(Qt.TextFormat.PlainText)
            why.setWordWrap(True)
            why.setContentsMargins(26, 0, 0, 10)
            self.boxes.append((one, box))
            lines.addWidget(box)
            lines.addWidget(why)
        if not found:
            nothing = QLabel(
                "Nothing is set aside. Files that can't be imported and sets that can't be"
                " reviewed are listed here with the reason."
            )
            nothing.setObjectName("muted")
            nothing.setWordWrap(True)
            lines.addWidget(nothing)
        lines.addStretch(1)
        self.leave = QPushButton("Leave it")
        self.leave.setToolTip("The files stay where they are and are no longer listed")
        self.leave.setAutoDefault(False)
        self.leave.clicked.connect(self._leave)
        self.buttons.addButton(self.leave, QDialogButtonBox.ButtonRole.ActionRole)
        self.box.addWidget(scrolled(inner, keys=True), 1)
        self.finish()
        if not found:
            self.leave.hide()
            self.only_close()
        self._counted()

    def ticked(self) -> tuple[Quarantined, ...]:
        return tuple(one for one, box in self.boxes if box.isChecked())

    def error(self) -> str | None:
        return None if self.ticked() else "Nothing is ticked."

    def _leave(self) -> None:
        self._intake.leave(self.ticked())
        self.reject()

    def _counted(self) -> None:
        self.wrong.setText("")
        self.leave.setEnabled(bool(self.ticked()))
