"""The clients: who there is to the left; form against load, the weeks, the cues and what was felt
next to it."""

from __future__ import annotations

from collections.abc import Mapping
from typing import TYPE_CHECKING

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import (
    QComboBox,
    QFrame,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QListWidget,
    QListWidgetItem,
    QStackedLayout,
    QVBoxLayout,
    QWidget,
)

from guide_arc.app.contract.place import HeaderParts
from guide_arc.app.places.clients.asking import ClientQuestions
from guide_arc.app.places.clients.client_card import ClientCard
from guide_arc.app.places.clients.model import ClientsModel
from guide_arc.app.places.clients.needs import ClientsNeeds
from guide_arc.app.places.clients.sheets import CourseView, CuesView, FeltView, WeeksView
from guide_arc.app.services.destinations import ToClients
from guide_arc.app.widgets.panels import heading, panel, scrolled
from guide_arc.core.model.client import Client
from guide_arc.drawings.days import day_words
from guide_arc.drawings.words import next_words

if TYPE_CHECKING:
    from guide_arc.library.client_sheet import ClientSheet
    from guide_arc.library.clients import ClientSummary


def make(program: ClientsNeeds) -> ClientsPlace:
    place = ClientsPlace(program)
    program.recoloured.connect(place.set_colours)
    program.library.changed.connect(place.sets_changed)
    program.library.gone.connect(place.sets_changed)
    program.measuring.reviewed.connect(lambda: place.sets_changed(frozenset()))
    program.closing.connect(place.hear_no_more)
    return place


class ClientsPlace(QWidget):
    """Choosing a client and an exercise; reading how it goes; changing a profile."""

    def __init__(self, program: ClientsNeeds) -> None:
        super().__init__()
        self.program, self.model = program, ClientsModel(program)
        self.asking = ClientQuestions(program, self.model, self)
        self.here, self._closed = False, False
        self._listed: tuple[tuple[ClientSummary, ...], str, str | None] | None = None
        colours = program.colours
        self.search_field = QLineEdit()
        self.search_field.setPlaceholderText("Find")
        self.search_field.setClearButtonEnabled(True)
        self.search_field.textChanged.connect(self.model.search)
        self.list = QListWidget()
        self.list.setObjectName("clients")
        self.list.setAccessibleName("Clients")
        self.list.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.list.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.card = ClientCard(self.list, colours)
        self.list.setItemDelegate(self.card)
        self.list.currentRowChanged.connect(self._row_chosen)
        left = panel()
        left.setFixedWidth(208)
        side = QVBoxLayout(left)
        side.setContentsMargins(8, 8, 2, 8)
        side.setSpacing(6)
        side.addWidget(self.search_field)
        side.addWidget(self.list, 1)

        self.exercise = QComboBox()
        self.exercise.setAccessibleName("Exercise")
        self.exercise.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.exercise.setMinimumContentsLength(26)
        self.exercise.activated.connect(self._exercise_chosen)
        self.grain = QLabel()
        self.grain.setObjectName("hint")
        self.course = CourseView(self.model, colours)
        self.says, self.next = QLabel(), QLabel()
        for label in (self.says, self.next):
            label.setWordWrap(True)
            label.setTextInteractionFlags(Qt.TextInteractionFlag.TextSelectableByMouse)
        self.next.setObjectName("muted")
        self.weeks = WeeksView(self.model, colours)
        self.cues = CuesView(self.model, colours)
        self.felt = FeltView(self.model, colours)

        top = panel()
        box = QVBoxLayout(top)
        box.setContentsMargins(14, 8, 14, 10)
        box.setSpacing(4)
        row = QHBoxLayout()
        row.addWidget(heading("Form against load"))
        row.addSpacing(10)
        row.addWidget(self.exercise)
        row.addStretch(1)
        row.addWidget(self.grain)
        box.addLayout(row)
        box.addWidget(self.course, 1)
        box.addWidget(self.says)
        box.addWidget(self.next)
        below = QHBoxLayout()
        below.setSpacing(10)
        below.addWidget(_sheet("Over the weeks", "dots ± twice the uncertainty", self.weeks), 10)
        right = QVBoxLayout()
        right.setSpacing(10)
        right.addWidget(
            _sheet("Did the cues work?", "the set before → the sets after", self.cues), 3
        )
        right.addWidget(_sheet("Felt, and sore", "", self.felt), 2)
        below.addLayout(right, 11)
        page = QWidget()
        whole = QVBoxLayout(page)
        whole.setContentsMargins(0, 0, 0, 0)
        whole.setSpacing(10)
        whole.addWidget(top, 10)
        whole.addLayout(below, 11)
        self.empty = QLabel()
        self.empty.setObjectName("muted")
        self.empty.setAlignment(Qt.AlignmentFlag.AlignCenter)
        self.empty.setWordWrap(True)
        self.pages = QStackedLayout()
        self.pages.addWidget(page)
        self.pages.addWidget(self.empty)
        self.page = page
        outer = QHBoxLayout(self)
        outer.setContentsMargins(0, 0, 0, 0)
        outer.setSpacing(10)
        outer.addWidget(left)
        outer.addLayout(self.pages, 1)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.model.shown.connect(self._shown)
        self._shown()

    # As the shell sees it

    def enter(self, to: ToClients) -> None:
        self.here = True
        if to.client is not None:
            self.model.choose(to.client, to.standard)
        self.model.refresh()
        self.setFocus()

    def leave(self) -> None:
        self.here = False

    def header(self) -> HeaderParts:
        sheet = self.model.doc.sheet
        if sheet is None:
            return HeaderParts(
                title="Clients",
                position=f"{len(self.model.doc.every)} clients" if self.model.doc.every else "",
            )
        client = sheet.client
        facts = [client.goals] if client.goals else []
        if client.stature_m:
            facts.append(_stature(client))
        if client.covers_face:
            facts.append("face covered in clips")
        summary = next((c for c in self.model.doc.every if c.name == client.name), None)
        sets = summary.sets if summary else 0
        wait = f", {summary.waiting} waiting" if summary and summary.waiting else ""
        return HeaderParts(
            title=client.name,
            what=" · ".join(facts),
            position=f"{sets} set{'' if sets == 1 else 's'}{wait}",
        )

    # What is shown

    def sets_changed(self, _ids: frozenset[int]) -> None:
        if self.here and not self._closed:
            self.model.refresh()

    def hear_no_more(self) -> None:
        self._closed = True
        self.model.shown.disconnect()

    def set_colours(self, colours: Mapping[str, str]) -> None:
        self.card.colours = colours
        for view in (self.course, self.weeks, self.cues, self.felt):
            view.set_colours(colours)
        viewport = self.list.viewport()
        if viewport is not None:
            viewport.update()

    def _list_clients(self) -> None:
        """Fill the list again where other clients, or another one, are to be shown in it."""
        doc = self.model.doc
        listed = (doc.every, doc.words, doc.chosen)
        if listed == self._listed:
            return
        self._listed = listed
        self.list.blockSignals(True)
        self.list.clear()
        for summary in self.model.doc.rows:
            item = QListWidgetItem(summary.name)
            item.setData(Qt.ItemDataRole.UserRole, summary)
            self.list.addItem(item)
            if summary.name == self.model.doc.chosen:
                self.list.setCurrentItem(item)
        self.list.blockSignals(False)

    def _row_chosen(self, row: int) -> None:
        rows = self.model.doc.rows
        if 0 <= row < len(rows):
            self.model.choose(rows[row].name)

    def _shown(self) -> None:
        self._list_clients()
        sheet = self.model.doc.sheet
        some = sheet is not None
        self.pages.setCurrentWidget(self.page if some else self.empty)
        if sheet is None:
            self.empty.setText(
                "No client yet.\n\nThey come with their sets (Ctrl+O), or are made here (N)."
                if self.model.doc.loaded
                else "Reading…"
            )
            return
        self._exercises(sheet)
        said = " ".join(sheet.sentences)
        if sheet.untold:
            said += f" {sheet.untold} of the earlier sets need to be measured again (Clients menu)."
        self.says.setText(said or "No reviewed set yet: open one from the queue.")
        self.next.setText(self._best_and_next(sheet))
        self.grain.setText(f"{self.model.doc.grain}: dark held, notched broke, hollow unseen")
        for view in (self.course, self.weeks, self.cues, self.felt):
            view.renew()

    def _exercises(self, sheet: ClientSheet) -> None:
        self.exercise.blockSignals(True)
        self.exercise.clear()
        for id, name, count in sheet.exercises:
            self.exercise.addItem(f"{name}  ({count})", id)
            if sheet.plan and id == sheet.plan.id:
                self.exercise.setCurrentIndex(self.exercise.count() - 1)
        self.exercise.setEnabled(bool(sheet.exercises))
        self.exercise.blockSignals(False)

    def _exercise_chosen(self, index: int) -> None:
        self.model.choose(self.model.doc.chosen, self.exercise.itemData(index))
        self.setFocus()

    def _best_and_next(self, sheet: ClientSheet) -> str:
        parts = []
        best = sheet.course.best
        if best is not None and best.load_kg is not None:
            parts.append(
                f"Best with form: {_weight(sheet.client, best.load_kg)} × {best.full},"
                f" {day_words(best.at)}."
            )
        jumps = [j for j in sheet.course.jumps if j.large and j.share > 0]
        if jumps:
            last = jumps[-1]
            parts.append(
                f"The last jump of more than 10 % was {100 * last.share:+.0f} % on"
                f" {day_words(sheet.sets[last.at].at)}."
            )
        if sheet.next is not None:
            parts.append(f"Next: {next_words(sheet.next)}, because {sheet.next.reason}.")
        return "  ".join(parts)

    # Going on from here

    def go_to_search(self) -> None:
        self.search_field.setFocus()
        self.search_field.selectAll()

    def open_chosen(self) -> None:
        chosen = self.model.doc.chosen_set
        if chosen is not None:
            self.program.measuring.open(chosen.id)

    def measure_untold(self) -> None:
        """Sets whose review an older program computed are measured again."""
        if self.model.doc.chosen is not None:
            self.model.changes.measure_untold(self.model.doc.chosen)


def _sheet(title: str, hint: str, view: QWidget) -> QFrame:
    """A panel with its name, and a sheet that scrolls."""
    frame = panel()
    box = QVBoxLayout(frame)
    box.setContentsMargins(2, 8, 2, 4)
    box.setSpacing(4)
    row = QHBoxLayout()
    row.setContentsMargins(12, 0, 12, 0)
    row.addWidget(heading(title))
    row.addStretch(1)
    if hint:
        label = QLabel(hint)
        label.setObjectName("hint")
        row.addWidget(label)
    box.addLayout(row)
    area = scrolled(view)
    box.addWidget(area, 1)
    return frame


def _weight(client: Client, kg: float) -> str:
    return f"{kg:g} kg" if client.weight == "kg" else f"{kg / 0.45359237:.0f} lb"


def _stature(client: Client) -> str:
    assert client.stature_m is not None
    if client.length == "cm":
        return f"{client.stature_m:.2f} m"
    inches = client.stature_m / 0.0254
    return f"{int(inches // 12)} ft {inches % 12:.0f} in"
