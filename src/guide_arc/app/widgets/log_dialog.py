"""What a client did on a day without being filmed: a line of text, or a table that the plan has
filled in already, so that only the reps are typed."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import replace
from datetime import date
from typing import TYPE_CHECKING, Final, NamedTuple

from PyQt6.QtCore import QDate, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import (
    QCheckBox,
    QDateEdit,
    QHBoxLayout,
    QHeaderView,
    QLabel,
    QLineEdit,
    QStyledItemDelegate,
    QTableWidget,
    QTableWidgetItem,
    QWidget,
)

from guide_arc.app.widgets.asking import AskingDialog, open_dialog
from guide_arc.core.model.errors import BadInput
from guide_arc.core.planning.odd_entries import odd_load
from guide_arc.core.planning.training_log import LoggedSet, read_line, set_typed

if TYPE_CHECKING:
    from guide_arc.library.log_sheet import LogSheet

_HEADS: Final = ("Exercise", "Weight, kg", "Reps", "Left in reserve", "Felt, or pain")
_EXERCISE, _LOAD, _REPS, _RESERVE, _NOTE = range(len(_HEADS))
_WIDE: Final = 720
_TALL: Final = 520


class _Odd(NamedTuple):
    """A row whose weight looks like a slip. said : its question"""

    row: int
    load: str
    said: str


class LogDialog(AskingDialog):
    """Rows without reps are not kept. The user is asked once about a weight that looks like a slip;
    keeping it again says that it is right.

    other_day : another day is to be shown
    """

    other_day = pyqtSignal(object)

    def __init__(self, parent: QWidget, sheet: LogSheet) -> None:
        super().__init__(parent, f"What {sheet.client} did", "Keep (Ctrl+Enter)")
        self.sheet = sheet
        self.resize(_WIDE, _TALL)
        self._standards: list[str] = []
        self._right: dict[int, bool] = {}
        self._asked: _Odd | None = None
        self._kept: tuple[LoggedSet, ...] = ()
        self.day = QDateEdit(QDate(sheet.on.year, sheet.on.month, sheet.on.day))
        self.day.setCalendarPopup(True)
        self.day.setDisplayFormat("dddd d MMMM yyyy")
        self.day.setAccessibleName("Day")
        self.day.dateChanged.connect(self._go_to_day)
        head = QLabel(
            "The day's sets. One that was filmed too counts once; a row without reps is left out."
        )
        head.setWordWrap(True)
        over = QHBoxLayout()
        over.addWidget(head, 1)
        over.addWidget(self.day)
        self.line = QLineEdit()
        self.line.setPlaceholderText("Add a line: curl 27.5x12x3 @2, then Enter")
        self.line.setAccessibleName("Add a line of sets")
        self.line.returnPressed.connect(self.add_line)
        self.table = QTableWidget(0, len(_HEADS))
        self.table.setHorizontalHeaderLabels(_HEADS)
        self.table.setAccessibleName("Sets of the day")
        side = self.table.verticalHeader()
        if side is not None:
            side.hide()
        top = self.table.horizontalHeader()
        if top is not None:
            top.setSectionResizeMode(_EXERCISE, QHeaderView.ResizeMode.Stretch)
            top.setSectionResizeMode(_NOTE, QHeaderView.ResizeMode.Stretch)
        self.box.addLayout(over)
        self.box.addWidget(self.line)
        self.box.addWidget(self.table, 1)
        cells = self.table.itemDelegate()
        if cells is not None:
            cells.closeEditor.connect(self._next_row)
        self.tired = QCheckBox("Slept poorly, or sore all over")
        self.tired.setChecked(sheet.tired)
        self.box.addWidget(self.tired)
        self.finish()
        for one in sheet.logged:
            self._add(one.standard, one)
        noted = {s.standard for s in sheet.logged}
        for asked in sheet.asked:
            for _ in range(asked.sets if asked.standard not in noted else 0):
                self._add(asked.standard, None, asked.load_kg, f"{asked.reps}")
        self._go_to_first_reps()

    def _add(
        self,
        standard: str,
        one: LoggedSet | None,
        load_kg: float | None = None,
        asked_reps: str = "",
    ) -> None:
        row = self.table.rowCount()
        self.table.insertRow(row)
        self._standards.append(standard)
        name = QTableWidgetItem(self.sheet.name_of(standard))
        name.setFlags(name.flags() & ~Qt.ItemFlag.ItemIsEditable)
        cells = ["", "", "", ""]
        load = one.load_kg if one is not None else load_kg
        cells[0] = "" if load is None else f"{load:g}"
        if one is not None:
            reps = f"{one.left_reps}"
            cells[1] = reps if one.right_reps == one.left_reps else f"{reps}/{one.right_reps}"
            cells[2] = "" if one.in_reserve is None else f"{one.in_reserve}"
            cells[3] = "; ".join(one.felt) or ("pain" if one.pain else "")
            self._right[row] = one.entry_is_right
        self.table.setItem(row, _EXERCISE, name)
        for column, words in enumerate(cells, _LOAD):
            item = QTableWidgetItem(words)
            item.setTextAlignment(
                Qt.AlignmentFlag.AlignVCenter
                | (Qt.AlignmentFlag.AlignLeft if column == _NOTE else Qt.AlignmentFlag.AlignRight)
            )
            self.table.setItem(row, column, item)
        reps_item = self.table.item(row, _REPS)
        if reps_item is not None and asked_reps:
            reps_item.setToolTip(f"{asked_reps} asked")

    def _go_to_first_reps(self) -> None:
        """Where typing begins: the reps of the first row without any, or a line of text."""
        for row in range(self.table.rowCount()):
            if not self._cell(row, _REPS):
                self.table.setCurrentCell(row, _REPS)
                self.table.setFocus()
                return
        self.line.setFocus()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Enter belongs to the line and the table; with Ctrl it saves the rows."""
        if event is None or event.key() not in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            super().keyPressEvent(event)
        elif event.modifiers() & Qt.KeyboardModifier.ControlModifier:
            self.try_accept()
        elif self.focusWidget() is self.table:
            self._next_row(None, QStyledItemDelegate.EndEditHint.SubmitModelCache)

    def _next_row(self, _editor: QWidget | None, how: QStyledItemDelegate.EndEditHint) -> None:
        """Enter in a cell goes to the one below."""
        below = self.table.currentRow() + 1
        if how == QStyledItemDelegate.EndEditHint.SubmitModelCache and below < len(self._standards):
            self.table.setCurrentCell(below, self.table.currentColumn())

    def _go_to_day(self, chosen: QDate) -> None:
        """Another day is read; what was typed is kept first."""
        wanted = date(chosen.year(), chosen.month(), chosen.day())
        if wanted == self.sheet.on:
            return
        typed = self.line.text().strip() or self.tired.isChecked() != self.sheet.tired
        if self.error() is None and self.kept == self.sheet.logged and not typed:
            self.other_day.emit(wanted)
            return
        self.wrong.setText("Keep these sets first, then choose another day.")
        self.day.setDate(QDate(self.sheet.on.year, self.sheet.on.month, self.sheet.on.day))

    def _cell(self, row: int, column: int) -> str:
        item = self.table.item(row, column)
        return item.text().strip() if item is not None else ""

    def add_line(self) -> None:
        """The sets of the typed line as rows."""
        try:
            sets = read_line(self.line.text(), self.sheet.on, self.sheet.offered, self.sheet.usual)
        except BadInput as error:
            self.wrong.setText(str(error))
            return
        for one in sets:
            self._add(one.standard, one)
        self.line.clear()
        self.wrong.setText("")
        self.table.scrollToBottom()

    def try_accept(self) -> None:
        if self.line.text().strip():  # Enter in the line adds it, and keeps nothing yet
            self.add_line()
            return
        super().try_accept()

    def error(self) -> str | None:
        out: list[LoggedSet] = []
        for row, standard in enumerate(self._standards):
            load, reps = self._cell(row, _LOAD), self._cell(row, _REPS)
            if not reps:
                continue
            try:
                one = set_typed(
                    standard,
                    self.sheet.on,
                    load=load,
                    reps=reps,
                    reserve=self._cell(row, _RESERVE),
                    note=self._cell(row, _NOTE),
                    assisted=any(n.assisted for n in self.sheet.offered if n.id == standard),
                )
            except BadInput as error:
                return f"Row {row + 1}: {error}."
            said = self._doubt(row, one)
            if said is not None:
                return said
            out.append(replace(one, entry_is_right=self._right.get(row, False)))
        self._kept = tuple(out)
        return None

    def _doubt(self, row: int, one: LoggedSet) -> str | None:
        """What is to be asked of a row's weight; None if nothing is, or it was asked before."""
        usual = self.sheet.usual_kg.get(one.standard)
        odd = odd_load(one.load_kg, usual) if one.load_kg and usual else None
        if odd is None or self._right.get(row):
            return None
        asked = _Odd(row, self._cell(row, _LOAD), odd.question)
        if asked == self._asked:
            self._right[row] = True
            return None
        self._asked = asked
        self.table.setCurrentCell(row, _LOAD)
        return f"Row {row + 1}: {odd.question} Correct it, or press Keep again if it is right."

    @property
    def kept(self) -> Sequence[LoggedSet]:
        """The sets that are noted, once the dialog is accepted."""
        return self._kept


# Reads a day of the log, for who shows it; keeps a day's sets, in place of those of its sheet.
ReadDay = Callable[[date, "Callable[[LogSheet], None]"], None]
KeepDay = Callable[["LogSheet", Sequence[LoggedSet], bool], None]


def ask_for_log(place: QWidget, on: date, read: ReadDay, keep: KeepDay) -> None:
    """A day of a client's log, and another one where that is chosen."""

    def show(sheet: LogSheet) -> None:
        dialog = LogDialog(place.window() or place, sheet)

        def again(day: date) -> None:
            dialog.reject()
            ask_for_log(place, day, read, keep)

        dialog.other_day.connect(again)
        open_dialog(dialog, lambda: keep(sheet, dialog.kept, dialog.tired.isChecked()))

    read(on, show)
