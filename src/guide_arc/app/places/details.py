"""The dialog for whose set it is and what it is: for sets coming in and for corrections."""

from __future__ import annotations

from dataclasses import dataclass
from functools import partial
from typing import Final

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import (
    QComboBox,
    QDialog,
    QDialogButtonBox,
    QFormLayout,
    QGridLayout,
    QLabel,
    QLineEdit,
    QScrollArea,
    QVBoxLayout,
    QWidget,
)

from guide_arc.app.viewmodels.incoming import Fits, Incoming, Refused
from guide_arc.core.model.errors import BadInput
from guide_arc.standards.catalogue import Catalogue
from guide_arc.standards.schools import Preference, preferred_school
from guide_arc.standards.tempo import parse_tempo

VIEW_WORDS: Final = {"left": "from the left", "right": "from the right", "front": "from the front",
                     "back": "from the back"}  # fmt: skip


@dataclass(frozen=True)
class Known:
    """What the dialogs offer: the clients, the standards, and which schools are preferred."""

    clients: list[str]
    catalogue: Catalogue
    preferences: tuple[Preference, ...] = ()


@dataclass(frozen=True)
class Details:
    """What the dialog gives back for one set. view, capture_hz : of a clip only"""

    client: str
    standard: str
    school: str
    tempo: str | None
    load_kg: float | None
    view: str | None = None
    capture_hz: float | None = None


def _narrow(letters: int) -> QComboBox:
    """A list whose longest entry does not set its width."""
    box = QComboBox()
    box.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon)
    box.setMinimumContentsLength(letters)
    view = box.view()
    if view is not None:
        view.setTextElideMode(Qt.TextElideMode.ElideNone)
    return box


class DetailsForm(QWidget):
    """Fields for one set. `error` is a sentence while something is missing or wrong."""

    def __init__(
        self,
        known: Known,
        given: Details | None,
        client: str = "",
        load_kg: float | None = None,
        standard_id: str | None = None,
        fits: Fits | None = None,
    ) -> None:
        super().__init__()
        self.known = known
        self.view: QComboBox | None = None
        self.capture: QComboBox | None = None
        self.client = QComboBox()
        self.client.setEditable(True)
        self.client.addItems(known.clients)
        self.client.setCurrentText(given.client if given else client)
        field = self.client.lineEdit()
        assert field is not None
        self.field = field
        self.field.setPlaceholderText("Whose set?")
        self.standard = _narrow(22)
        self.standard.addItem("Which exercise?", None)
        catalogue = known.catalogue
        for id in fits.ids if fits else ():
            self.standard.addItem(catalogue.standard(id).name, id)
        if fits:
            self.standard.insertSeparator(self.standard.count())
        for id in catalogue.ids():
            self.standard.addItem(catalogue.standard(id).name, id)
        if fits:
            best, *others = (catalogue.standard(id).name for id in fits.ids)
            self.standard.setToolTip(f"Looks like {best}: {fits.reason}. Else {', '.join(others)}.")
        self.school = _narrow(12)
        self._school_chosen = given is not None
        self.school.activated.connect(self._choose_school)
        self.tempo = QLineEdit(given.tempo or "" if given else "")
        self.tempo.setPlaceholderText("as the standard asks, or 3-1-1-0")
        self.tempo.setToolTip("Lower – bottom – lift – top in seconds, x for no demand")
        self.load = QLineEdit()
        self.load.setPlaceholderText("kg")
        self.load.setMinimumWidth(56)
        load = given.load_kg if given else load_kg
        self.load.setText("" if load is None else f"{load:g}")
        self.standard.currentIndexChanged.connect(self._schools)
        self.client.editTextChanged.connect(self._prefer)
        wanted = given.standard if given else standard_id or (fits.ids[0] if fits else None)
        self.standard.setCurrentIndex(max(self.standard.findData(wanted), 0))
        self._schools()
        if given:
            self.school.setCurrentIndex(max(self.school.findData(given.school), 0))

    def ask_about_clip(self, item: Incoming) -> list[QWidget]:
        """Fields for what only a clip leaves open: the side it shows, and the rate it was filmed at."""
        self.view = _narrow(9)
        self.view.addItem("Which side?", None)
        for view, words in VIEW_WORDS.items():
            self.view.addItem(words, view)
        self.view.setToolTip("The side of the body that the camera sees")
        self.view.setCurrentIndex(max(self.view.findData(item.view), 0))
        self.capture = _narrow(9)
        self.capture.addItem(f"as shown, {item.shown_hz:.0f}/s", None)
        rates = {r for r in (60.0, 120.0, 240.0, item.capture_hz or 0.0) if r > 1.2 * item.shown_hz}
        for rate in sorted(rates):
            self.capture.addItem(f"slowed, {rate:.0f}/s", rate)
        self.capture.setToolTip("A slow-motion clip was filmed faster than it is shown")
        self.capture.setCurrentIndex(max(self.capture.findData(item.capture_hz), 0))
        return [self.view, self.capture]

    def _choose_school(self) -> None:
        self._school_chosen = True

    def _schools(self) -> None:
        self.school.clear()
        id = self.standard.currentData()
        if id:
            for school in self.known.catalogue.standard(id).schools:
                self.school.addItem(school.name, school.id)
                self.school.setItemData(
                    self.school.count() - 1, school.why, Qt.ItemDataRole.ToolTipRole
                )
        self.school.setEnabled(self.school.count() > 1)
        self._prefer()

    def _prefer(self) -> None:
        """The school that this client or exercise usually follows, until one is chosen by hand."""
        id = self.standard.currentData()
        if id and not self._school_chosen:
            plan = self.known.catalogue.standard(id)
            client = self.client.currentText().strip()
            wanted = preferred_school(self.known.preferences, plan, client)
            self.school.setCurrentIndex(max(self.school.findData(wanted), 0))

    def error(self) -> str | None:
        if not self.client.currentText().strip():
            return "Say whose set it is."
        if not self.standard.currentData():
            return "Choose the exercise."
        if self.view is not None and not self.view.currentData():
            return "Say from which side it was filmed."
        try:
            if self.tempo.text().strip():
                parse_tempo(self.tempo.text())
            self._load()
        except BadInput as error:
            return str(error)
        return None

    def _load(self) -> float | None:
        text = self.load.text().strip().removesuffix("kg").strip().replace(",", ".")
        if not text:
            return None
        try:
            load = float(text)
        except ValueError:
            load = -1.0
        if not 0 <= load <= 2000:
            raise BadInput(f"The load is {self.load.text()!r}; it must be kilograms, such as 27.5.")
        return load

    def details(self) -> Details:
        return Details(
            self.client.currentText().strip(), self.standard.currentData(), self.school.currentData(),
            self.tempo.text().strip() or None, self._load(),
            self.view.currentData() if self.view else None,
            self.capture.currentData() if self.capture else None,
        )  # fmt: skip

    def fields(self) -> list[tuple[str, QWidget]]:
        return [("Client", self.client), ("Exercise", self.standard), ("School", self.school),
                ("Tempo asked", self.tempo), ("Load", self.load)]  # fmt: skip


class AskingDialog(QDialog):
    """A dialog that is only left with its action once nothing is missing."""

    def __init__(self, parent: QWidget, title: str, action: str) -> None:
        super().__init__(parent)
        self.setWindowTitle(title)
        self.box = QVBoxLayout(self)
        self.box.setContentsMargins(20, 18, 20, 16)
        self.box.setSpacing(12)
        self.wrong = QLabel()
        self.wrong.setObjectName("hint")
        self.wrong.setWordWrap(True)
        self.buttons = QDialogButtonBox(
            QDialogButtonBox.StandardButton.Ok | QDialogButtonBox.StandardButton.Cancel
        )
        self.ok = self.buttons.button(QDialogButtonBox.StandardButton.Ok)
        assert self.ok is not None
        self.ok.setText(action)
        self.ok.setObjectName("main")
        self.buttons.accepted.connect(self.try_accept)
        self.buttons.rejected.connect(self.reject)

    def finish(self) -> None:
        self.box.addWidget(self.wrong)
        self.box.addWidget(self.buttons)

    def try_accept(self) -> None:
        error = self.error()
        if error:
            self.wrong.setText(error)
        else:
            self.accept()

    def error(self) -> str | None:
        return None


class DetailsDialog(AskingDialog):
    """Correct what is known of one set."""

    def __init__(self, parent: QWidget, known: Known, given: Details) -> None:
        super().__init__(parent, "Set details", "Save")
        self.setMinimumWidth(420)
        self.form = DetailsForm(known, given)
        layout = QFormLayout()
        layout.setSpacing(8)
        for words, field in self.form.fields():
            layout.addRow(words, field)
        self.box.addLayout(layout)
        self.finish()

    def error(self) -> str | None:
        return self.form.error()


class IncomingDialog(AskingDialog):
    """One row for each file that comes in, and a sentence for each that can't."""

    def __init__(
        self, parent: QWidget, known: Known, good: list[Incoming], bad: list[Refused]
    ) -> None:
        count = len(good)
        super().__init__(
            parent, "Add sets", f"Add {count} set{'' if count == 1 else 's'}" if count else "Close"
        )
        self.setMinimumWidth(1180 if any(item.clip for item in good) else 1000)
        self.forms: list[tuple[Incoming, DetailsForm]] = []
        self._own_names = {row for row, item in enumerate(good) if item.client}
        if good:
            inside = QWidget()
            grid = QGridLayout(inside)
            grid.setHorizontalSpacing(8)
            clips = any(item.clip for item in good)
            heads = ("File", "Client", "Exercise", "School", "Tempo asked", "Load")
            for column, words in enumerate((*heads, "Seen", "Filmed") if clips else heads):
                head = QLabel(words)
                head.setObjectName("muted")
                grid.addWidget(head, 0, column)
            for row, item in enumerate(good, 1):
                form = DetailsForm(known, None, item.client, item.load_kg, item.standard, item.fits)
                looks = ""
                if item.fits:
                    looks = (
                        " · by its movement" if item.fits.sure else " · by its movement, not sure"
                    )
                name = QLabel()
                short = name.fontMetrics().elidedText(item.name, Qt.TextElideMode.ElideMiddle, 190)
                name.setText(f"{short}\n{item.duration_s:.0f} s{looks}")
                name.setToolTip(f"{item.name}\n{item.frames} frames")
                grid.addWidget(name, row, 0)
                for column, (_words, field) in enumerate(form.fields(), 1):
                    grid.addWidget(field, row, column)
                if item.clip:
                    for column, field in enumerate(form.ask_about_clip(item), len(heads)):
                        grid.addWidget(field, row, column)
                self.forms.append((item, form))
                form.client.editTextChanged.connect(partial(self._follow, row - 1))
            for column, stretch in enumerate(
                (4, 4, 5, 4, 4, 2, 3, 3) if clips else (4, 4, 5, 4, 4, 2)
            ):
                grid.setColumnStretch(column, stretch)
            grid.setRowStretch(len(good) + 1, 1)
            scroll = QScrollArea()
            scroll.setWidgetResizable(True)
            scroll.setWidget(inside)
            scroll.setMinimumHeight(min(420, 60 + 46 * count))
            self.box.addWidget(scroll)
        for refused in bad:
            label = QLabel(f"Not added. {refused.why}")
            label.setWordWrap(True)
            self.box.addWidget(label)
        self.finish()
        if self.forms:
            first = next(
                (f for _i, f in self.forms if not f.client.currentText()), self.forms[0][1]
            )
            first.client.setFocus()

    def _follow(self, row: int, text: str) -> None:
        """The rows below that name nobody yet take the same client: an evening's sets are often one person's."""
        if not self.forms[row][1].client.hasFocus() and not self.forms[row][1].field.hasFocus():
            return  # it follows somebody else itself
        self._own_names.add(row)
        for below in range(row + 1, len(self.forms)):
            if below not in self._own_names:
                self.forms[below][1].client.setEditText(text)

    def error(self) -> str | None:
        for item, form in self.forms:
            error = form.error()
            if error:
                return f"{item.name}: {error}"
        return None

    def result_rows(self) -> list[tuple[Incoming, Details]]:
        return [(item, form.details()) for item, form in self.forms]
