"""What can find the landmarks in a clip: a button each, and why one can't."""

from __future__ import annotations

from typing import Final

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import QLabel, QPushButton, QVBoxLayout, QWidget

# Each tracker's words on its button, what it does, and what the work bar says.
TRACKERS: Final[dict[str, tuple[str, str, str]]] = {
    "marked points": (
        "Follow the marks  (Ctrl+Return)",
        "Follows every marked point through the clip, and says where it doubts",
        "Following the marks",
    ),
    "pose model": (
        "Find the body by the pose model",
        "Finds the joints in every frame; marked kit is tracked as well",
        "Finding the body",
    ),
    "simulated tracker": (
        "Simulated tracker",
        "Replaces a pose model on films of the simulated camera",
        "Reading the film",
    ),
}


class TrackerButtons(QWidget):
    """asked : a tracker by its name"""

    asked = pyqtSignal(str)

    def __init__(self) -> None:
        super().__init__()
        self._box = QVBoxLayout(self)
        self._box.setContentsMargins(0, 0, 0, 0)
        self._box.setSpacing(6)

    def show_offers(self, offers: list[tuple[str, str | None]]) -> None:
        """Trackers by name, each with why it can't work. The first one that can is the main one."""
        while (item := self._box.takeAt(0)) is not None:
            widget = item.widget()
            if widget is not None:
                widget.deleteLater()
        first = next((name for name, why_not in offers if why_not is None), None)
        for name, why_not in offers:
            words, tip, _doing = TRACKERS[name]
            button = QPushButton(words)
            button.setFocusPolicy(Qt.FocusPolicy.NoFocus)
            button.setToolTip(why_not or tip)
            button.setEnabled(why_not is None)
            if name == first:
                button.setObjectName("main")
            button.clicked.connect(lambda _on, n=name: self.asked.emit(n))
            self._box.addWidget(button)
            if why_not is not None and name == "pose model":
                why = QLabel(why_not)
                why.setObjectName("hint")
                why.setWordWrap(True)
                why.setTextInteractionFlags(Qt.TextInteractionFlag.TextSelectableByMouse)
                self._box.addWidget(why)
