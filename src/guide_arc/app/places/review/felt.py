"""Where the client felt it, and what that says together with what was measured."""

from __future__ import annotations

from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtWidgets import QFrame, QLabel, QMenu, QPushButton, QVBoxLayout

from guide_arc.app.places.review.by_hand import felt_there
from guide_arc.app.places.review.model import ReviewModel
from guide_arc.core.review.causes import felt_spots

_MOST_SHOWN = 2


class FeltPanel(QFrame):
    """A button that lists the spots, and the sentences below it."""

    def __init__(self, model: ReviewModel) -> None:
        super().__init__()
        self.model = model
        box = QVBoxLayout(self)
        box.setContentsMargins(0, 0, 0, 0)
        box.setSpacing(3)
        self.button = QPushButton()
        self.button.setObjectName("small")
        self.button.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.button.setToolTip("Where the client felt the set (H)")
        self.button.clicked.connect(self.ask)
        box.addWidget(self.button)
        self.words = QLabel()
        self.words.setObjectName("hint")
        self.words.setWordWrap(True)
        # Clients' own words are among them.
        self.words.setTextFormat(Qt.TextFormat.PlainText)
        box.addWidget(self.words)

    def menu(self) -> QMenu:
        """The spots of this exercise, those that were felt ticked."""
        menu = QMenu(self)
        measured = self.model.doc.measured
        felt = self.model.doc.settings.felt
        spots = felt_spots(measured.review.standard) if measured else ()
        for spot in dict.fromkeys((*spots, *felt)):
            action = menu.addAction(spot)
            assert action is not None
            action.setCheckable(True)
            action.setChecked(spot in felt)
            action.triggered.connect(
                lambda _on, s=spot: self.model.set_up(lambda doc: felt_there(doc, s))
            )
        return menu

    def ask(self) -> None:
        menu = self.menu()
        menu.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        menu.popup(self.button.mapToGlobal(QPoint(0, self.button.height())))

    def refresh(self) -> None:
        felt = self.model.doc.settings.felt
        self.button.setText(f"Felt in: {', '.join(felt)} ▾" if felt else "Where was it felt? ▾")
        causes = self.model.doc.measured.review.causes if self.model.doc.measured else ()
        told = [f"Answered {words}" for words in self.model.doc.answers[-1:]]
        told += [c.words for c in causes]
        more = len(told) - _MOST_SHOWN
        shown = told[:_MOST_SHOWN] + ([f"… and {more} more"] if more > 0 else [])
        self.words.setText("\n".join(shown))
        self.words.setToolTip("\n".join(told) if len(told) > _MOST_SHOWN else "")
        self.words.setVisible(bool(told))
