"""The queue: the sets that wait, each with its miniature dial and one line."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import date
from pathlib import Path
from typing import TYPE_CHECKING, Any

from PyQt6.QtCore import QModelIndex, Qt
from PyQt6.QtWidgets import (
    QButtonGroup,
    QFileDialog,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QListView,
    QMessageBox,
    QPushButton,
    QStackedLayout,
    QVBoxLayout,
    QWidget,
)

from guide_arc.app.contract.place import HeaderParts
from guide_arc.app.places.queue.card import QueueCard
from guide_arc.app.places.queue.laid_line import LaidLine
from guide_arc.app.places.queue.model import empty_words
from guide_arc.app.places.queue.needs import QueueNeeds
from guide_arc.app.places.queue.rows import SetRows
from guide_arc.app.services.destinations import ToQueue
from guide_arc.app.services.set_list import STATES
from guide_arc.drawings.days import moment_words
from guide_arc.lazily import lazily
from guide_arc.library.pace import minutes_words

with lazily():
    from guide_arc.app.places.queue.details_dialog import DetailsDialog
    from guide_arc.app.places.queue.evening_dialogs import CleanDialog, SummaryDialog
    from guide_arc.app.places.queue.follow_ups_dialog import FollowUpsDialog, line_words
    from guide_arc.app.places.queue.incoming_dialog import IncomingDialog
    from guide_arc.app.places.queue.laid_dialog import LaidDialog
    from guide_arc.app.places.queue.names_dialog import NamesDialog
    from guide_arc.app.places.queue.peeking import peek
    from guide_arc.app.widgets.follow_up_dialog import ask_follow_up
    from guide_arc.library.intake import details_of, fields_of, file_filter

if TYPE_CHECKING:
    from guide_arc.app.services.intake_jobs import Looked
    from guide_arc.library.intake import Incoming, Known
    from guide_arc.library.queue_rows import QueueRow
    from guide_arc.library.records import SetRecord
    from guide_arc.library.set_aside import Laid


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
        self.search_field = QLineEdit(sets.words)
        self.search_field.setPlaceholderText("Find by client, exercise, date or what is off")
        self.search_field.setClearButtonEnabled(True)
        self.search_field.textChanged.connect(sets.search)
        self.add = QPushButton("Add sets…")
        self.add.clicked.connect(lambda: program.library.when_ready(self.ask_for_files))
        bar = QHBoxLayout()
        bar.setSpacing(8)
        bar.addWidget(self.search_field, 1)
        self.states = QButtonGroup(self)
        self._state_buttons: dict[str | None, QPushButton] = {}
        for words, state in STATES:
            button = QPushButton(words)
            button.setCheckable(True)
            button.setChecked(state == sets.state)
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
        self.list.clicked.connect(lambda index: self._open(sets.rows[index.row()].id))
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
        self.due.clicked.connect(lambda: program.library.when_ready(self.show_follow_ups))
        box.addLayout(bar)
        self.laid = LaidLine(program)
        box.addWidget(self.due, 0, Qt.AlignmentFlag.AlignLeft)
        box.addWidget(self.laid, 0, Qt.AlignmentFlag.AlignLeft)
        box.addLayout(self.pages, 1)
        sets.changed.connect(self._changed)
        sets.chosen_changed.connect(self._chosen)
        self._came_back()
        self._changed()

    # As the shell sees it

    def enter(self, to: ToQueue) -> None:
        if to.set_id is not None:
            self.sets.choose(to.set_id)
        if self.sets.loaded and self.program.library.ready:
            self.sets.refresh()
        if self.program.library.ready:
            self.program.follow_ups.refresh()
        self.list.setFocus()
        if to.find:
            self.go_to_search()

    def leave(self) -> None:
        pass

    def header(self) -> HeaderParts:
        takes = minutes_words(self.sets.takes_s)
        waiting = f"{self.sets.waiting} waiting" + (f", {takes}" if takes else "")
        return HeaderParts(title="Queue", position=waiting)

    def _front(self) -> QWidget:
        """What dialogs stand before."""
        return self.window() or self

    # What is shown

    def _came_back(self) -> None:
        """Choose the set that was open last time."""
        last = self.program.remembered.text("set")
        if last.isdigit() and int(last) in [row.id for row in self.sets.rows]:
            self.sets.choose(int(last))

    def _selected(self, current: QModelIndex) -> None:
        if current.isValid():
            self.sets.choose(self.sets.rows[current.row()].id)

    def _changed(self) -> None:
        some = bool(self.sets.rows)
        self.card.pictures = any(row.clip for row in self.sets.rows)
        self.pages.setCurrentWidget(self.list if some else self.empty)
        self.empty.setText(empty_words(self.sets))
        if self.search_field.text() != self.sets.words:
            self.search_field.setText(self.sets.words)
        self._state_buttons[self.sets.state].setChecked(True)
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
        ids = [row.id for row in self.sets.rows]
        model = self.list.model()
        if self.sets.chosen in ids and model is not None:
            index = model.index(ids.index(self.sets.chosen), 0)
            if self.list.currentIndex() != index:
                self.list.setCurrentIndex(index)

    def set_colours(self, colours: Mapping[str, str]) -> None:
        self.card.set_colours(colours)
        viewport = self.list.viewport()
        if viewport is not None:
            viewport.update()

    def hear_what_is_asked(self) -> None:
        """The services ask the coach through this place: it is always there."""
        self.program.follow_ups.changed.connect(self._show_due)
        self.laid.begin()
        intake = self.program.intake
        intake.needs_files.connect(self.ask_for_files)
        intake.needs_folder.connect(self.ask_for_drop_folder)
        intake.needs_names.connect(self.ask_for_names)
        intake.needs_laid.connect(self.show_laid)
        intake.needs_details.connect(self.ask_for_details)
        self.program.library.needs_details.connect(self.ask_to_correct)

    def show_laid(self, found: list[Laid]) -> None:
        """What is set aside: tried again, or left."""
        dialog = LaidDialog(self._front(), self.program.intake, found)
        dialog.accepted.connect(lambda: self.program.intake.try_again(dialog.ticked()))
        dialog.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        dialog.open()

    def hear_no_more(self) -> None:
        """The list of sets outlives the widgets by a moment."""
        if self.program.library.ready:
            self.program.follow_ups.changed.disconnect()
        self.laid.hear_no_more()
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
        if self.sets.chosen is not None:
            self._open(self.sets.chosen)

    def _name_of(self, standard: str) -> str:
        """An exercise's name; its id until the library is open."""
        library = self.program.library
        return library.catalogue().name(standard) if library.ready else standard

    def _open(self, set_id: int) -> None:
        self.program.library.when_ready(lambda: self.program.measuring.open(set_id))

    # Changing sets

    def edit_details(self) -> None:
        if self.sets.chosen is not None:
            self.program.library.ask_for_details(self.sets.chosen)

    def ask_to_erase(self) -> None:
        row = self.sets.chosen_row
        if row is None:
            return
        box = QMessageBox(
            QMessageBox.Icon.Question,
            "Erase set",
            f"Erase {row.client}'s set of {moment_words(row.recorded)}?",
            parent=self,
        )
        box.setInformativeText(
            "Its recording, review and notes leave the library. Undo brings them back until the"
            " program closes."
        )
        erase = box.addButton("Erase", QMessageBox.ButtonRole.DestructiveRole)
        box.addButton(QMessageBox.StandardButton.Cancel)
        box.buttonClicked.connect(
            lambda button: (
                self.program.library.erase(row.id, row.client) if button is erase else None
            )
        )
        box.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        box.open()

    def ask_to_correct(self, record: SetRecord, known: Known) -> None:
        """Another client, exercise, school, tempo or load for one set; the review asks for it
        too."""
        given = details_of(record)
        dialog = DetailsDialog(self._front(), known, given)
        dialog.accepted.connect(
            lambda: self.program.library.change(
                record.id, fields_of(given), fields_of(dialog.form.details())
            )
        )
        dialog.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        dialog.open()

    # The evening

    def ask_about_clean(self) -> None:
        """Show the sets in which nothing is off, and mark those that the coach leaves ticked."""

        def show(rows: list[QueueRow]) -> None:
            if not rows:
                self.program.say(
                    "No set that waits is clean: each has something off, near its limit, or pain."
                )
                return
            dialog = CleanDialog(self._front(), rows)
            dialog.accepted.connect(lambda: self.program.evening.mark_reviewed(dialog.ids()))
            dialog.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
            dialog.open()

        self.program.evening.ask_clean(show)

    def show_evening(self) -> None:
        """What was said to whom today."""

        def show(words: str) -> None:
            dialog = SummaryDialog(self._front(), words, self.program)
            dialog.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
            dialog.open()

        self.program.evening.ask_summary(date.today(), show)

    def _show_due(self) -> None:
        due = self.program.follow_ups.due(date.today())
        self.due.setVisible(bool(due))
        if due:
            words = line_words(due)
            self.due.setText(words)

    def show_follow_ups(self) -> None:
        """What is due and what is coming."""
        dialog = FollowUpsDialog(self._front(), self.program, date.today())
        dialog.accepted.connect(dialog.mark_done)
        dialog.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        dialog.open()

    def ask_for_follow_up(self) -> None:
        """Something to come back to, for the chosen set's client."""
        row = self.sets.chosen_row
        if row is None:
            return
        offered = ["Ask how it went", "Ask for another recording", "See whether the cue was taken"]
        ask_follow_up(
            self._front(),
            row.client,
            offered,
            lambda words, due: self.program.follow_ups.add(
                row.client, words, due, row.id, ToQueue()
            ),
        )

    # Taking sets in

    def ask_for_files(self) -> None:
        remembered = self.program.remembered
        folder = remembered.text("folder", str(Path.home()))
        names, _ = QFileDialog.getOpenFileNames(self.window(), "Add sets", folder, file_filter())
        if names:
            remembered.keep("folder", str(Path(names[0]).parent))
            self.program.intake.take_in(Path(n) for n in names)

    def ask_for_drop_folder(self) -> None:
        """Choose the folder to watch; choosing none stops watching."""
        folder = QFileDialog.getExistingDirectory(
            self.window(),
            "Drop folder: where clients' sets arrive",
            self.program.drop_folder.folder,
        )
        self.program.drop_folder.choose(folder)

    def ask_for_names(
        self, looked: Looked, file: str, markers: tuple[str, ...], guessed: Any
    ) -> None:
        """Which marker is which, before the file can be read."""
        dialog = NamesDialog(self._front(), file, markers, guessed)
        self.laid.begin()
        intake = self.program.intake

        def use() -> None:
            intake.keep_names(dialog.names())
            intake.take_in(looked.paths)

        dialog.accepted.connect(use)
        dialog.rejected.connect(lambda: intake.ask_about(looked))
        dialog.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        dialog.open()

    def ask_for_details(self, looked: Looked, asked: list[Incoming]) -> None:
        """Whose sets they are and what they are."""
        dialog = IncomingDialog(self._front(), looked.known, asked, looked.bad)
        dialog.accepted.connect(
            lambda: self.program.intake.add(dialog.result_rows(), words=dialog.agreed_words())
        )
        peek(self.program, dialog)
        dialog.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        dialog.open()
