"""Answers that the coach keeps in their own words, filled in with what a set gives."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Final

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QHBoxLayout, QLabel, QListWidget, QPlainTextEdit, QPushButton, QWidget

from guide_arc.app.places.review.model import ReviewModel
from guide_arc.app.places.review.needs import ReviewNeeds
from guide_arc.app.widgets.asking import AskingDialog, open_dialog, window_of

# A note is a line on the client's page.
MOST_LETTERS: Final = 400
FIRST: Final = (
    "Good work, {client}. {cues} Next time {next}.",
    "{client}: {reps} clean reps of the {exercise}. Keep it just like that; next time {next}.",
)
_SIZE: Final = (620, 420)


def values_of(model: ReviewModel) -> dict[str, str]:
    """The value of each name in braces, from the open set."""
    record, shown, plan = model.doc.record, model.doc.measured, model.doc.next_time
    assert record is not None
    assert shown is not None
    cues = " ".join(f"{model.doc.cue(f).rstrip('.')}." for f in model.doc.kept)
    if plan is None or plan.ask_first:
        then = "nothing until a licensed clinician has been consulted"
    else:
        weight = f"{plan.load_kg:g} kg, " if plan.load_kg is not None else ""
        then = f"{weight}{plan.reps[0]}–{plan.reps[1]} reps"
    return {
        "client": record.client.split(maxsplit=1)[0],
        "exercise": shown.review.standard.name.lower(),
        "reps": str(shown.review.full_reps),
        "cues": cues,
        "next": then,
    }


def filled_in(text: str, values: Mapping[str, str]) -> str:
    """A text with each name in braces filled in; what is no known name stays as it is."""
    for name, value in values.items():
        text = text.replace(f"{{{name}}}", value)
    return " ".join(text.split())


class AnswersDialog(AskingDialog):
    """The kept answers on the left, the chosen one to be changed, and how it will read for this
    set."""

    def __init__(self, parent: QWidget, texts: list[str], model: ReviewModel) -> None:
        super().__init__(parent, "Answer from a template", "Use as note")
        self.resize(*_SIZE)
        self.texts = list(texts) or list(FIRST)
        self._values = values_of(model)
        self.list = QListWidget()
        self.list.setAccessibleName("Kept answers")
        self.list.setObjectName("boxed")
        self.list.setMaximumHeight(110)
        self.list.setWordWrap(True)
        self.list.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.text = QPlainTextEdit()
        self.text.setAccessibleName("The answer")
        self.text.setMaximumHeight(90)
        self.reads = QLabel()
        self.reads.setWordWrap(True)
        names = ", ".join(f"{{{name}}}" for name in self._values)
        hint = QLabel(f"Filled in for each set: {names}")
        hint.setObjectName("hint")
        self.new, self.forget = QPushButton("Keep as a new one"), QPushButton("Forget this one")
        row = QHBoxLayout()
        row.addWidget(self.new)
        row.addWidget(self.forget)
        row.addStretch(1)
        for widget in (self.list, self.text, hint):
            self.box.addWidget(widget)
        self.box.addLayout(row)
        self.box.addWidget(self.reads, 1)
        self.finish()
        self.list.currentRowChanged.connect(self._chosen)
        self.text.textChanged.connect(self._changed)
        self.new.clicked.connect(self._keep_new)
        self.forget.clicked.connect(self._forget)
        self._show(0)

    def filled(self) -> str:
        """The answer as it reads for this set."""
        return filled_in(self.text.toPlainText(), self._values)

    def error(self) -> str | None:
        letters = len(self.filled())
        if not letters:
            return "The answer is empty."
        if letters > MOST_LETTERS:
            return f"The answer has {letters} letters; a note has room for {MOST_LETTERS}."
        return None

    def _show(self, chosen: int) -> None:
        self.list.clear()
        self.list.addItems([" ".join(text.split()) for text in self.texts])
        self.forget.setEnabled(len(self.texts) > 1)
        self.list.setCurrentRow(min(chosen, len(self.texts) - 1))

    def _chosen(self, row: int) -> None:
        if 0 <= row < len(self.texts) and self.text.toPlainText() != self.texts[row]:
            self.text.setPlainText(self.texts[row])

    def _changed(self) -> None:
        row = self.list.currentRow()
        if 0 <= row < len(self.texts):
            self.texts[row] = self.text.toPlainText()
            item = self.list.item(row)
            if item is not None:
                item.setText(" ".join(self.texts[row].split()))
        self.reads.setText(self.filled())
        self.wrong.setText("")

    def _keep_new(self) -> None:
        self.texts.append(self.text.toPlainText())
        self._show(len(self.texts) - 1)

    def _forget(self) -> None:
        row = self.list.currentRow()
        if len(self.texts) > 1 and 0 <= row < len(self.texts):
            del self.texts[row]
            self._show(max(row - 1, 0))


def ask_for_answer(program: ReviewNeeds, model: ReviewModel, parent: QWidget) -> None:
    """One of them becomes the open set's note."""

    def show(texts: list[str]) -> None:
        dialog = AnswersDialog(window_of(parent), texts, model)

        def use() -> None:
            if tuple(dialog.texts) != tuple(texts):
                program.evening.keep_templates(tuple(dialog.texts))
            model.write_note(dialog.filled())

        open_dialog(dialog, use)

    program.evening.ask_templates(show)
