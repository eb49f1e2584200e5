"""The fields for whose set it is and what it is, and the dialog that corrects them."""

from __future__ import annotations

from collections.abc import Mapping

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import QComboBox, QFormLayout, QLineEdit, QPushButton, QWidget

from guide_arc.app.places.queue.carry import Filled
from guide_arc.app.widgets.asking import AskingDialog
from guide_arc.app.widgets.decimal_box import show_understood
from guide_arc.app.widgets.picker import being_searched, make_searchable
from guide_arc.app.widgets.view_words import VIEW_WORDS
from guide_arc.core.model.errors import BadInput
from guide_arc.core.model.typed_number import number_from
from guide_arc.core.planning.odd_entries import OddLoad, odd_load
from guide_arc.library.intake import Details, Fits, Incoming, Known
from guide_arc.standards.schools import preferred_school
from guide_arc.standards.tempo import parse_tempo


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
    """Fields for one set. `error` is a sentence while something is missing or wrong.

    edited : a field, by its name in `carry.FIELDS`, was changed, and not by `take`
    """

    edited = pyqtSignal(str)

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
        self._filling = False
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
        for id in known.catalogue.ids():
            self.standard.addItem(known.catalogue.standard(id).name, id)
        if fits:
            self.offer(fits)
        self.school = _narrow(12)
        self._school_chosen = given is not None
        self.school.activated.connect(self._choose_school)
        self.tempo = QLineEdit(given.tempo or "" if given else "")
        self.tempo.setPlaceholderText("as the standard asks, or 3-1-1-0")
        self.tempo.setToolTip("Lower – bottom – lift – top in seconds, x for no demand")
        self.load = QLineEdit()
        self.load.setPlaceholderText("kg")
        self.load.setMinimumWidth(56)
        show_understood(self.load)
        load = given.load_kg if given else load_kg
        self.load.setText("" if load is None else f"{load:g}")
        self.meant = QPushButton()
        self.meant.setObjectName("line")
        self.meant.hide()
        self.meant.clicked.connect(self._take_meant)
        make_searchable(self.standard)
        self.standard.currentIndexChanged.connect(self._schools)
        self.client.editTextChanged.connect(self._prefer)
        wanted = given.standard if given else standard_id or (fits.ids[0] if fits else None)
        self.standard.setCurrentIndex(max(self.standard.findData(wanted), 0))
        self._schools()
        if given:
            self.school.setCurrentIndex(max(self.school.findData(given.school), 0))
        self.client.editTextChanged.connect(lambda _t: self._edit("client"))
        self.standard.currentIndexChanged.connect(lambda _i: self._edit("standard"))
        self.school.activated.connect(lambda _i: self._edit("school"))
        self.tempo.textChanged.connect(lambda _t: self._edit("tempo"))
        self.load.textChanged.connect(lambda _t: self._edit("load"))
        for changed in (
            self.load.textChanged,
            self.client.editTextChanged,
            self.standard.currentIndexChanged,
        ):
            changed.connect(self._ask_about_load)
        self._ask_about_load()

    def _odd_load(self) -> OddLoad | None:
        """The field's load, if it looks like a slip compared with the usual load."""
        try:
            load = self._load()
        except BadInput:
            return None
        whose = (self.client.currentText().strip(), self.standard.currentData())
        usual = self.known.usual_kg.get(whose)
        return odd_load(load, usual) if load and usual else None

    def _ask_about_load(self, _changed: object = None) -> None:
        odd = self._odd_load()
        self.meant.setVisible(odd is not None)
        if odd is not None:
            self.meant.setText(f"Is it {odd.meant_kg:.4g} kg?")
            self.meant.setToolTip(odd.question)
            self.meant.setAccessibleDescription(odd.question)

    def _take_meant(self) -> None:
        odd = self._odd_load()
        if odd is not None:
            self.load.setText(f"{odd.meant_kg:.4g}")
            self.load.setFocus()

    @property
    def chooses(self) -> bool:
        """Whether an exercise is being chosen or typed: nothing moves under the hand then."""
        view = self.standard.view()
        return (view is not None and view.isVisible()) or being_searched(self.standard)

    def offer(self, fits: Fits) -> None:
        """The standards that a movement fits, before all others."""
        catalogue = self.known.catalogue
        self._filling = True
        for place, id in enumerate(fits.ids, 1):
            self.standard.insertItem(place, catalogue.standard(id).name, id)
        self.standard.insertSeparator(len(fits.ids) + 1)
        self._filling = False
        best, *others = (catalogue.standard(id).name for id in fits.ids)
        more = f" Else {', '.join(others)}." if others else ""
        self.standard.setToolTip(f"Looks like {best}: {fits.reason}.{more}")

    # Filled in from the neighbouring row

    def _edit(self, name: str) -> None:
        if not self._filling:
            self.edited.emit(name)

    def _boxes(self) -> dict[str, QComboBox | QLineEdit]:
        """The fields by the names of `carry.FIELDS`."""
        boxes: dict[str, QComboBox | QLineEdit] = {
            "client": self.client,
            "standard": self.standard,
            "school": self.school,
            "tempo": self.tempo,
            "load": self.load,
        }
        return boxes | ({"view": self.view} if self.view is not None else {})

    def value(self, name: str) -> str | None:
        """What is in a field; None or empty if nothing does."""
        box = self._boxes()[name]
        if isinstance(box, QLineEdit):
            return box.text()
        return box.currentText() if box is self.client else box.currentData()

    def take(self, values: Mapping[str, Filled], typed: str = "") -> None:
        """Fill in what follows from elsewhere, greyed. typed : the field that is being written in
        stays as it is"""
        self._filling = True
        for name, box in self._boxes().items():
            filled = values[name]
            if name != typed and (filled.value or name != "school"):
                self._put(box, filled.value)
            box.setProperty("guessed", bool(filled.guessed and filled.value))
            style = box.style()
            if style is not None:
                style.polish(box)
        self._filling = False

    def _put(self, box: QComboBox | QLineEdit, value: str | None) -> None:
        if isinstance(box, QLineEdit):
            if box.text() != (value or ""):
                box.setText(value or "")
        elif box is self.client:
            if box.currentText() != (value or ""):
                box.setEditText(value or "")
        else:
            box.setCurrentIndex(max(box.findData(value), 0))

    def ask_about_clip(self, item: Incoming) -> list[QWidget]:
        """Fields for what only a clip leaves open: the side it shows, and the rate it was filmed
        at."""
        self.view = _narrow(9)
        self.view.addItem("Which side?", None)
        for view, words in VIEW_WORDS.items():
            self.view.addItem(words, view)
        self.view.setToolTip("The side of the body that the camera sees")
        self.view.setCurrentIndex(max(self.view.findData(item.view), 0))
        self.view.currentIndexChanged.connect(lambda _i: self._edit("view"))
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
            return "Choose the client."
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
        if not self.load.text().strip().removesuffix("kg").strip():
            return None
        try:
            load = number_from(self.load.text(), "kg")
        except BadInput:
            load = -1.0
        if not 0 <= load <= 2000:
            raise BadInput(f"The load is {self.load.text()!r}; it must be kilograms, such as 27.5.")
        return load

    def details(self) -> Details:
        return Details(
            client=self.client.currentText().strip(),
            standard=self.standard.currentData(),
            school=self.school.currentData(),
            tempo=self.tempo.text().strip() or None,
            load_kg=self._load(),
            view=self.view.currentData() if self.view else None,
            capture_hz=self.capture.currentData() if self.capture else None,
        )

    def fields(self) -> list[tuple[str, QWidget]]:
        return [
            ("Client", self.client),
            ("Exercise", self.standard),
            ("School", self.school),
            ("Tempo asked", self.tempo),
            ("Load", self.load),
            ("", self.meant),
        ]


class DetailsDialog(AskingDialog):
    """Correct the details of one set."""

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
