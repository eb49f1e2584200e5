"""The comparison: what to compare with, and what changed."""

from __future__ import annotations

from collections.abc import Mapping

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import QComboBox, QLabel, QVBoxLayout, QWidget

from guide_arc.app.places.review.model import ReviewModel
from guide_arc.app.places.review.views import CompareView
from guide_arc.app.widgets.panels import scrolled
from guide_arc.core.model.errors import BadInput
from guide_arc.core.review.compare import Taken, compare, whole_set
from guide_arc.drawings.comparison import ComparisonState
from guide_arc.drawings.days import moment_words
from guide_arc.drawings.shown_set import ShownSet
from guide_arc.drawings.words import rep_name
from guide_arc.library.records import EarlierSet

_NOTHING = "Compare with…"


class ComparePanel(QWidget):
    """Chooses another set of this client, or a rep of this one; both become the stage's ghost."""

    set_asked = pyqtSignal(int)

    def __init__(self, model: ReviewModel, colours: Mapping[str, str]) -> None:
        super().__init__()
        self.model = model
        self.earlier: list[EarlierSet] = []
        box = QVBoxLayout(self)
        box.setContentsMargins(10, 8, 4, 4)
        box.setSpacing(6)
        self.choice = QComboBox()
        self.choice.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.choice.setAccessibleName("Compare with")
        self.choice.activated.connect(self._chosen)
        box.addWidget(self.choice)
        self.note = QLabel()
        self.note.setObjectName("hint")
        self.note.setWordWrap(True)
        box.addWidget(self.note)
        self.view = CompareView(model, colours)
        self.area = scrolled(self.view)
        box.addWidget(self.area, 1)

    def offer(self, earlier: list[EarlierSet]) -> None:
        """What there is to compare with: other sets of this client, then the reps of this one."""
        self.earlier = earlier
        self.refill()

    def refill(self) -> None:
        self.choice.blockSignals(True)
        self.choice.clear()
        self.choice.addItem(_NOTHING, None)
        for other in self.earlier:
            load = f", {other.load_kg:g} kg" if other.load_kg else ""
            self.choice.addItem(
                f"the set of {moment_words(other.recorded)}{load}", ("set", other.id)
            )
        measured = self.model.doc.measured
        for rep in measured.review.reps if measured else ():
            self.choice.addItem(f"{rep_name(rep)} of this set", ("rep", rep.key))
        self.choice.blockSignals(False)
        self.refresh()

    def _chosen(self, index: int) -> None:
        asked = self.choice.itemData(index)
        if asked is None:
            self.model.show_ghost(None)
        elif asked[0] == "set":
            self.set_asked.emit(asked[1])
        else:
            self.model.show_ghost(self.model.doc.own_ghost(asked[1]))

    def refresh(self) -> None:
        """The comparison of what is chosen now."""
        ghost, measured = self.model.doc.ghost, self.model.doc.measured
        state, note = None, ""
        if measured is None or not measured.review.reps:
            note = "This set has no reps to compare."
        elif ghost is None:
            note = (
                "Choose an earlier set of this client, or a rep of this one. It is drawn behind the"
                " figure as a ghost."
            )
        else:
            try:
                state = self._state(measured)
            except BadInput as error:
                note = f"{error}."
        self._show_choice()
        self.note.setText(note)
        self.note.setVisible(bool(note))
        self.view.show_state(state)

    def _state(self, measured: ShownSet) -> ComparisonState:
        ghost = self.model.doc.ghost
        assert ghost is not None
        after = whole_set(measured.review, measured.body, measured.figures)
        if ghost.own:
            before = Taken(measured.review, measured.body, measured.figures, (ghost.rep,))
            rep = self.model.doc.rep
            if rep is not None and rep.key != ghost.rep.key:
                after = Taken(measured.review, measured.body, measured.figures, (rep,))
                return ComparisonState(compare(before, after), ghost.words, rep_name(rep))
            return ComparisonState(compare(before, after), ghost.words, "all full reps")
        other = ghost.measured
        before = whole_set(other.review, other.body, other.figures)
        return ComparisonState(compare(before, after), ghost.words, "this set")

    def _show_choice(self) -> None:
        ghost = self.model.doc.ghost
        wanted = (
            None
            if ghost is None
            else ("rep", ghost.rep.key)
            if ghost.own
            else ("set", ghost.set_id)
        )
        for i in range(self.choice.count()):
            if self.choice.itemData(i) == wanted:
                self.choice.setCurrentIndex(i)
                return
        self.choice.setCurrentIndex(0)
