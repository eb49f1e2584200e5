"""What is known of a client: a form that says what is wrong before it is left."""

from __future__ import annotations

from dataclasses import replace
from datetime import date
from typing import Final

from PyQt6.QtCore import QTime
from PyQt6.QtWidgets import (
    QCheckBox,
    QComboBox,
    QFormLayout,
    QGridLayout,
    QLineEdit,
    QPlainTextEdit,
    QSpinBox,
    QTimeEdit,
    QWidget,
)

from guide_arc.app.places.clients.typed import (
    cleared_from,
    cleared_words,
    days_from,
    days_typed,
    rack_from,
    rack_words,
    sore_from,
    sore_words,
    stature_from,
    stature_words,
)
from guide_arc.app.widgets.asking import AskingDialog
from guide_arc.app.widgets.panels import scrolled
from guide_arc.core.model.client import PLACES, Client
from guide_arc.core.model.errors import BadInput
from guide_arc.core.planning.racks import RACKS

REGIONS = {
    "chest-upper": "upper chest",
    "chest-lower": "lower chest",
    "front-shoulder": "front shoulder",
    "side-shoulder": "side shoulder",
    "rear-shoulder": "rear shoulder",
    "traps": "traps",
    "back": "back",
    "elbow-flexors": "elbow flexors",
    "triceps": "triceps",
    "trunk": "trunk",
}


_FEEL: Final = (("a guide to whether it works", "guide"), ("a clue to joint position only", "clue"))


class KnownDialog(AskingDialog):
    """taken : names in small letters that are somebody else's"""

    def __init__(self, parent: QWidget, client: Client, taken: set[str] | None = None) -> None:
        super().__init__(parent, "What is known" if client.name else "New client", "Keep")
        self.before, self.taken = client, taken or set()
        self.resize(680, 700)
        self.name = QLineEdit(client.name)
        self.stature = QLineEdit(stature_words(client))
        self.goals = QLineEdit(client.goals)
        self.words = QLineEdit(client.words)
        self.room = QLineEdit(client.room)
        self.coach = QLineEdit(client.coach)
        self.coach.setPlaceholderText("in a team: who trains them; the queue can show theirs alone")
        self.file_words = QLineEdit(", ".join(client.file_words))
        self.file_words.setPlaceholderText("cleo, cm: files with one of these words are theirs")
        self.weak = {id: QCheckBox(words) for id, words in REGIONS.items()}
        for id, box in self.weak.items():
            box.setChecked(id in client.weak)
        self.sore = QPlainTextEdit(sore_words(client.sore))
        self.sore.setStyleSheet("min-height: 62px; max-height: 62px;")
        self.cleared = QPlainTextEdit(cleared_words(client.cleared))
        self.cleared.setStyleSheet("min-height: 44px; max-height: 44px;")
        self.cleared.setPlaceholderText("left elbow on 2031-03-16\neverything on 2031-04-02")
        self.cleared.setToolTip("What a licensed clinician cleared after pain, and when")
        self.tired = QLineEdit(days_typed(client.tired))
        self.racks = {kind: QLineEdit(rack_words(client.rack_kg.get(kind, ()))) for kind in RACKS}
        self.dominant = QComboBox()
        for words, value in (("not noted", ""), ("left", "left"), ("right", "right")):
            self.dominant.addItem(words, value)
        self.dominant.setCurrentIndex(("", "left", "right").index(client.dominant))
        self.feel = QComboBox()
        for words, value in _FEEL:
            self.feel.addItem(words, value)
        self.feel.setCurrentIndex([value for _words, value in _FEEL].index(client.feel))
        self.covers = QCheckBox("Cover the face in clips and pictures that leave the library")
        self.covers.setChecked(client.covers_face)
        self.pounds = QCheckBox("Pounds and feet on their page")
        self.pounds.setChecked(client.weight == "lb")
        self.neglect = _number(client.neglect_days, 3, 60, " days")
        self.begins = QTimeEdit(QTime(client.session_at.hour, client.session_at.minute))
        self.begins.setDisplayFormat("HH:mm")
        self.length = _number(client.session_min, 10, 240, " min")
        form = QFormLayout()
        form.setContentsMargins(0, 0, 18, 0)
        form.setFieldGrowthPolicy(QFormLayout.FieldGrowthPolicy.AllNonFixedFieldsGrow)
        form.addRow("Name", self.name)
        form.addRow("Stature", self.stature)
        form.addRow("Goals", self.goals)
        form.addRow("Weak regions", _columns(list(self.weak.values()), 3))
        form.addRow("Sore places", self.sore)
        form.addRow("Cleared by a clinician", self.cleared)
        form.addRow("Tired days", self.tired)
        form.addRow("Stronger side", self.dominant)
        form.addRow("Room", self.room)
        form.addRow("Coach", self.coach)
        form.addRow("Words in file names", self.file_words)
        for kind, field in self.racks.items():
            form.addRow(f"Weights: {RACKS[kind]}", field)
            field.setPlaceholderText("2.5 to 30 by 2.5, 34, 38 (kg)")
        form.addRow("Words they understand", self.words)
        form.addRow("What they feel is", self.feel)
        form.addRow("A session begins at", self.begins)
        form.addRow("A session lasts", self.length)
        form.addRow("A region may rest", self.neglect)
        form.addRow("", self.covers)
        form.addRow("", self.pounds)
        self.stature.setPlaceholderText("1.72 m, 172 cm or 5 ft 8 in")
        self.goals.setPlaceholderText("strength first; wider shoulders")
        self.tired.setPlaceholderText("2031-03-16, 2031-03-18: poor sleep, or sore all over")
        self.words.setPlaceholderText("“reach long” works; no talk of shoulder blades")
        self.sore.setPlaceholderText(
            "left elbow from 2031-03-16\nneck from 2031-02-01 to"
            f" 2031-02-20\n({', '.join(PLACES[:5])} …)"
        )
        inner = QWidget()
        inner.setLayout(form)
        area = scrolled(inner, keys=True)
        self.box.addWidget(area, 1)
        self.finish()

    def client(self) -> Client:
        """What the fields say. Raises BadInput with a sentence for what can't be read."""
        racks = {kind: rack_from(field.text(), RACKS[kind]) for kind, field in self.racks.items()}
        return replace(
            self.before,
            name=self.name.text().strip(),
            stature_m=stature_from(self.stature.text()),
            goals=self.goals.text().strip(),
            weak=tuple(id for id, box in self.weak.items() if box.isChecked()),
            sore=sore_from(self.sore.toPlainText(), date.today()),
            cleared=cleared_from(self.cleared.toPlainText(), date.today()),
            tired=days_from(self.tired.text()),
            rack_kg={kind: rack for kind, rack in racks.items() if rack},
            room=self.room.text().strip(),
            coach=" ".join(self.coach.text().split()),
            file_words=tuple(
                dict.fromkeys(w.strip() for w in self.file_words.text().split(",") if w.strip())
            ),
            dominant=self.dominant.currentData(),
            feel=self.feel.currentData(),
            covers_face=self.covers.isChecked(),
            words=self.words.text().strip(),
            weight="lb" if self.pounds.isChecked() else "kg",
            length="in" if self.pounds.isChecked() else "cm",
            neglect_days=self.neglect.value(),
            session_at=self.begins.time().toPyTime(),
            session_min=self.length.value(),
        )

    def error(self) -> str | None:
        name = self.name.text().strip()
        if not name:
            return "A client needs a name."
        if name.lower() in self.taken and name != self.before.name:
            return f"There is a client {name} already."
        try:
            self.client()
        except BadInput as error:
            return str(error)
        return None


def _number(value: int, low: int, high: int, unit: str) -> QSpinBox:
    box = QSpinBox()
    box.setRange(low, high)
    box.setSuffix(unit)
    box.setValue(value)
    return box


def _columns(boxes: list[QCheckBox], count: int) -> QWidget:
    group = QWidget()
    grid = QGridLayout(group)
    grid.setContentsMargins(0, 0, 0, 0)
    for i, box in enumerate(boxes):
        grid.addWidget(box, i // count, i % count)
    return group
