"""The queue: the sets that wait, each with its miniature dial and one line."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import date
from typing import TYPE_CHECKING

from PyQt6.QtCore import QModelIndex, Qt
from PyQt6.QtWidgets import (
    QButtonGroup,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QListView,
    QPushButton,
    QStackedLayout,
    QVBoxLayout,
    QWidget,
)

from guide_arc.app.contract.place import HeaderParts
from guide_arc.app.places.queue.asking import QueueQuestions
from guide_arc.app.places.queue.card import QueueCard
from guide_arc.app.places.queue.coach_choice import CoachChoice
from guide_arc.app.places.queue.model import empty_words
from guide_arc.app.places.queue.needs import QueueNeeds
from guide_arc.app.places.queue.quarantine_line import QuarantineLine
from guide_arc.app.places.queue.rows import SetRows
from guide_arc.app.services.destinations import ToQueue
from guide_arc.app.services.set_list_document import STATES
from guide_arc.lazily import lazily
from guide_arc.library.pace import minutes_words

with lazily():
    from guide_arc.app.places.queue.follow_ups_dialog import line_words

if TYPE_CHECKING:
    pass


# The next rows are read when the list ends within so many screens.
_AHEAD_SCREENS = 10


def make(program: QueueNeeds) -> QueuePlace:
    place = QueuePlace(program)
    program.recoloured.connect(place.set_colours)
    program.completed.connect(place.hear_what_is_asked)
    program.closing.connect(place.hear_no_more)
    return place


class QueuePlace(QWidget):
    """Finding and choosing sets; opening one; taking new ones in."""

    def __init__(self, program: QueueNeeds) -> None:
        super().__init__()
        self.program, self.sets = program, program.sets
        sets = self.sets
        self.quarantined = QuarantineLine(program)
        self.asking = QueueQuestions(program, self, self.quarantined.begin)
        self.search_field = QLineEdit(sets.doc.words)
        self.search_field.setPlaceholderText("Find by client, exercise, date or what is off")
        self.search_field.setClearButtonEnabled(True)
        self.search_field.textChanged.connect(sets.search)
        self.add = QPushButton("Add sets…")
        self.add.clicked.connect(lambda: program.library.when_ready(self.asking.ask_for_files))
        bar = QHBoxLayout()
        bar.setSpacing(8)
        bar.addWidget(self.search_field, 1)
        self.coach = CoachChoice(program)
        bar.addWidget(self.coach)
        self.states = QButtonGroup(self)
        self._state_buttons: dict[str | None, QPushButton] = {}
        for words, state in STATES:
            button = QPushButton(words)
            button.setCheckable(True)
            button.setChecked(state == sets.doc.state)
            button.clicked.connect(lambda _on, s=state: sets.show_state(s))
            self.states.addButton(button)
            self._state_buttons[state] = button
            bar.addWidget(button)
        bar.addWidget(self.add)
        self.list = QListView()
        self.list.setModel(SetRows(sets, self, self._name_of))
        self.card = QueueCard(
            self.list,
            program.colours,
            program.library.folder,
            self._name_of,
        )
        self.list.setItemDelegate(self.card)
        self.list.setMouseTracking(True)
        self.list.setUniformItemSizes(True)
        self.list.setVerticalScrollMode(QListView.ScrollMode.ScrollPerPixel)
        self.list.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.list.clicked.connect(lambda index: self._open(sets.doc.rows[index.row()].id))
        self.list.setAccessibleName("Sets")
        bar_beside = self.list.verticalScrollBar()
        assert bar_beside is not None
        bar_beside.valueChanged.connect(self._scrolled)
        selection = self.list.selectionModel()
        assert selection is not None
        selection.currentChanged.connect(self._selected)
        self.empty = QLabel()
        self.empty.setObjectName("muted")
        self.empty.setAlignment(Qt.AlignmentFlag.AlignCenter)
        self.empty.setWordWrap(True)
        self.pages = QStackedLayout()
        self.pages.addWidget(self.list)
        self.pages.addWidget(self.empty)
        box = QVBoxLayout(self)
        box.setContentsMargins(0, 0, 0, 0)
        box.setSpacing(10)
        self.due = QPushButton()
        self.due.setObjectName("line")
        self.due.setFlat(True)
        self.due.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.due.hide()
        self.due.clicked.connect(lambda: program.library.when_ready(self.asking.show_follow_ups))
        box.addLayout(bar)
        box.addWidget(self.due, 0, Qt.AlignmentFlag.AlignLeft)
        box.addWidget(self.quarantined, 0, Qt.AlignmentFlag.AlignLeft)
        box.addLayout(self.pages, 1)
        sets.changed.connect(self._changed)
        sets.chosen_changed.connect(self._chosen)
        self._came_back()
        self._changed()

    # As the shell sees it

    def enter(self, to: ToQueue) -> None:
        if to.set_id is not None:
            self.sets.choose(to.set_id)
        if self.sets.doc.loaded and self.program.library.ready:
            self.sets.refresh()
        if self.program.library.ready:
            self.program.follow_ups.refresh()
        self.list.setFocus()
        if to.find:
            self.go_to_search()

    def leave(self) -> None:
        pass

    def header(self) -> HeaderParts:
        takes = minutes_words(self.sets.doc.takes_s)
        waiting = f"{self.sets.doc.waiting} waiting" + (f", {takes}" if takes else "")
        return HeaderParts(title="Queue", position=waiting)

    # What is shown

    def _came_back(self) -> None:
        """Choose the set that was open last time."""
        self.coach.come_back()
        last = self.program.remembered.text("set")
        if last.isdigit() and int(last) in [row.id for row in self.sets.doc.rows]:
            self.sets.choose(int(last))

    def _selected(self, current: QModelIndex) -> None:
        if current.isValid():
            self.sets.choose(self.sets.doc.rows[current.row()].id)

    def _changed(self) -> None:
        some = bool(self.sets.doc.rows)
        self.card.pictures = any(row.clip for row in self.sets.doc.rows)
        self.pages.setCurrentWidget(self.list if some else self.empty)
        self.empty.setText(empty_words(self.sets.doc))
        if self.search_field.text() != self.sets.doc.words:
            self.search_field.setText(self.sets.doc.words)
        self._state_buttons[self.sets.doc.state].setChecked(True)
        self.coach.renew()
        self._show_chosen()
        self.program.changed()

    def _chosen(self) -> None:
        self._show_chosen()
        self.program.changed()

    def _scrolled(self, value: int) -> None:
        """The rows that follow are asked for before the last one is reached."""
        bar = self.list.verticalScrollBar()
        if bar is not None and bar.maximum() - value < _AHEAD_SCREENS * bar.pageStep():
            self.sets.read_more()

    def _show_chosen(self) -> None:
        ids = [row.id for row in self.sets.doc.rows]
        model = self.list.model()
        if self.sets.doc.chosen in ids and model is not None:
            index = model.index(ids.index(self.sets.doc.chosen), 0)
            if self.list.currentIndex() != index:
                self.list.setCurrentIndex(index)

    def set_colours(self, colours: Mapping[str, str]) -> None:
        self.card.set_colours(colours)
        viewport = self.list.viewport()
        if viewport is not None:
            viewport.update()

    def _show_due(self) -> None:
        due = self.program.follow_ups.due(date.today())
        self.due.setVisible(bool(due))
        if due:
            words = line_words(due)
            self.due.setText(words)

    def hear_what_is_asked(self) -> None:
        """The services ask the coach through this place: it is always there."""
        self.program.follow_ups.changed.connect(self._show_due)
        self.quarantined.begin()
        self.asking.hear_what_is_asked()

    def hear_no_more(self) -> None:
        """The list of sets outlives the widgets by a moment."""
        if self.program.library.ready:
            self.program.follow_ups.changed.disconnect()
        self.quarantined.hear_no_more()
        self.sets.changed.disconnect()
        self.sets.chosen_changed.disconnect()

    # Finding and opening

    def go_to_search(self) -> None:
        self.search_field.setFocus()
        self.search_field.selectAll()

    def clear_search(self) -> None:
        self.search_field.clear()
        self.list.setFocus()

    def open_chosen(self) -> None:
        if self.sets.doc.chosen is not None:
            self._open(self.sets.doc.chosen)

    def _name_of(self, standard: str) -> str:
        """An exercise's name; its id until the library is open."""
        library = self.program.library
        return library.catalogue().name(standard) if library.ready else standard

    def _open(self, set_id: int) -> None:
        self.program.library.when_ready(lambda: self.program.measuring.open(set_id))
