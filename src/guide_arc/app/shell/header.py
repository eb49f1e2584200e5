"""The line at the top: whose set it is, or what the place is about."""

from __future__ import annotations

from collections.abc import Callable
from typing import Final

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QAction
from PyQt6.QtWidgets import QHBoxLayout, QLabel, QPushButton, QWidget

from guide_arc.app.contract.place import HeaderParts

# The parts of a header, and how each is written.
PARTS: Final = (
    ("title", "title"),
    ("what", ""),
    ("guide", "guide"),
    ("load", ""),
    ("when", "muted"),
)
_SPACE: Final = 16
_LEAST_NAME: Final = 120


class Header(QWidget):
    """action_of : the action of a command's id; it is behind the arrows"""

    def __init__(self, action_of: Callable[[str], QAction | None]) -> None:
        super().__init__()
        self._action_of = action_of
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 2, 0, 6)
        row.setSpacing(_SPACE)
        self.labels: dict[str, QLabel] = {}
        for part, style in PARTS:
            label = QLabel()
            label.setObjectName(style)
            self.labels[part] = label
            row.addWidget(label)
        row.addStretch(1)
        position = self.labels["position"] = QLabel()
        position.setObjectName("muted")
        row.addWidget(position)
        self.arrows: dict[str, QPushButton] = {}
        self._ids: dict[str, str] = {}
        for name, sign in (("before", "‹"), ("after", "›")):
            button = QPushButton(sign)
            button.setObjectName("flat")
            button.setFocusPolicy(Qt.FocusPolicy.NoFocus)
            button.clicked.connect(lambda _on, n=name: self._go(n))
            self.arrows[name] = button
            row.addWidget(button)

    def _go(self, arrow: str) -> None:
        action = self._action_of(self._ids.get(arrow, ""))
        if action is not None:
            action.trigger()

    def show_parts(self, parts: HeaderParts) -> None:
        said = parts._asdict()
        for name, label in self.labels.items():
            words = said[name]
            label.setVisible(bool(words))
            label.setText(words)
        self._ids = {name: said[name] for name in self.arrows if said[name]}
        for name, button in self.arrows.items():
            action = self._action_of(self._ids.get(name, ""))
            button.setVisible(action is not None)
            if action is not None:
                key = action.shortcut().toString()
                button.setEnabled(action.isEnabled())
                button.setToolTip(f"{action.text()} ({key})" if key else action.text())
                button.setAccessibleName(action.text())
        self._shorten()

    def _shorten(self) -> None:
        """A name for which there is no room is cut; the whole of it is in the tip."""
        title = self.labels["title"]
        words = title.text()
        title.setToolTip(words)
        beside = [label for label in self.labels.values() if label is not title]
        shown = [w for w in (*beside, *self.arrows.values()) if not w.isHidden()]
        taken = sum(w.sizeHint().width() + _SPACE for w in shown)
        room = max(self.width() - taken - _SPACE, _LEAST_NAME)
        title.ensurePolished()
        title.setText(title.fontMetrics().elidedText(words, Qt.TextElideMode.ElideRight, room))
