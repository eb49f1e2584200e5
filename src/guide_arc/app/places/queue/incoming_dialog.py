"""The dialog for files on their way in: whose sets they are and what they are."""

from __future__ import annotations

from collections.abc import Sequence
from functools import partial
from typing import Final

import numpy as np
from numpy.typing import NDArray
from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QCheckBox, QGridLayout, QLabel, QScrollArea, QVBoxLayout, QWidget

from guide_arc.app.places.queue.carry import Facts, filled
from guide_arc.app.places.queue.clip_picture import ClipPicture
from guide_arc.app.places.queue.details_dialog import DetailsForm
from guide_arc.app.widgets.asking import AskingDialog
from guide_arc.drawings.days import moment_words
from guide_arc.library.attribution import token_of
from guide_arc.library.intake import Details, Fits, Incoming, Known, Refused
from guide_arc.library.proposals import ClipProposal

_ROW_HEIGHT: Final = 84
_MOST_HEIGHT: Final = 560
_HEADS: Final = ("", "File", "Client", "Exercise and school", "Load and tempo", "Seen and filmed")
_STRETCHES: Final = (0, 4, 4, 6, 3, 3)


class IncomingDialog(AskingDialog):
    """One row for each file that comes in, and a sentence for each that can't.

    What a row does not say itself, and its clip does not show, it takes from the row above, in
    grey.
    """

    def __init__(
        self, parent: QWidget, known: Known, good: list[Incoming], bad: list[Refused]
    ) -> None:
        count = len(good)
        super().__init__(
            parent, "Add sets", f"Add {count} set{'' if count == 1 else 's'}" if count else "Close"
        )
        self.setMinimumWidth(1060)
        self.forms: list[tuple[Incoming, DetailsForm]] = []
        self.facts: list[Facts] = []
        self.pictures: list[ClipPicture | None] = []
        self._looks: list[QLabel] = []
        self._always: list[tuple[QCheckBox, str] | None] = []
        if good:
            self.box.addWidget(self._rows(known, good))
        for refused in bad:
            label = QLabel(f"Not added. {refused.why}")
            label.setWordWrap(True)
            self.box.addWidget(label)
        if count > 1 or any(item.proposed and not item.client for item in good):
            hint = QLabel("Grey values are suggestions. Type to replace them.")
            hint.setObjectName("hint")
            self.box.addWidget(hint)
        self.finish()
        self._fill()
        if self.forms:
            first = next(
                (f for _i, f in self.forms if not f.client.currentText()), self.forms[0][1]
            )
            first.client.setFocus()

    def _rows(self, known: Known, good: list[Incoming]) -> QScrollArea:
        inside = QWidget()
        grid = QGridLayout(inside)
        grid.setHorizontalSpacing(8)
        grid.setVerticalSpacing(10)
        clips = any(item.clip for item in good)
        for column, words in enumerate(_HEADS if clips else _HEADS[:-1]):
            head = QLabel(words)
            head.setObjectName("muted")
            grid.addWidget(head, 0, column)
        for row, item in enumerate(good, 1):
            self._add_row(grid, row, known, item)
        for column, stretch in enumerate(_STRETCHES if clips else _STRETCHES[:-1]):
            grid.setColumnStretch(column, stretch)
        grid.setRowStretch(len(good) + 1, 1)
        scroll = QScrollArea()
        scroll.setWidgetResizable(True)
        scroll.setWidget(inside)
        scroll.setMinimumHeight(min(_MOST_HEIGHT, 50 + _ROW_HEIGHT * len(good)))
        return scroll

    def _add_row(self, grid: QGridLayout, row: int, known: Known, item: Incoming) -> None:
        form = DetailsForm(known, None, item.client, item.load_kg, item.standard, item.fits)
        form.tempo.setPlaceholderText("usual tempo")
        picture = ClipPicture() if item.clip else None
        if picture is not None:
            grid.addWidget(picture, row, 0)
        name = QLabel()
        name.setText(name.fontMetrics().elidedText(item.name, Qt.TextElideMode.ElideMiddle, 190))
        name.setToolTip(f"{item.name}\n{item.frames} frames")
        about = QLabel(_about(item, known))
        about.setObjectName("hint")
        about.setWordWrap(True)
        grid.addLayout(_stacked(name, about), row, 1)
        always = self._ask_for_always(known, item)
        if always is None:
            grid.addWidget(form.client, row, 2, Qt.AlignmentFlag.AlignTop)
        else:
            grid.addLayout(_stacked(form.client, always), row, 2)
        grid.addLayout(_stacked(form.standard, form.school), row, 3)
        grid.addLayout(_stacked(form.load, form.meant, form.tempo), row, 4)
        if item.clip:
            grid.addLayout(_stacked(*form.ask_about_clip(item)), row, 5)
        self.forms.append((item, form))
        self.facts.append(_facts(item))
        self.pictures.append(picture)
        self._looks.append(about)
        form.edited.connect(partial(self._edited, row - 1))

    def _ask_for_always(self, known: Known, item: Incoming) -> QCheckBox | None:
        """A box that agrees on a word of the file's name, where the name does not say whose it
        is."""
        word = "" if item.client else token_of(item.name, known.names, item.proposed)
        if not word:
            self._always.append(None)
            return None
        box = QCheckBox(f"always for “{word}”")
        box.setToolTip(f"From now on, files with the word “{word}” in their name are this client's")
        self._always.append((box, word))
        return box

    # What follows from what

    def _edited(self, row: int, name: str) -> None:
        value = self.forms[row][1].value(name)
        if value in (None, ""):
            self.facts[row].own.pop(name, None)
        else:
            self.facts[row].own[name] = value
        self._fill(row, name)

    def _fill(self, edited: int = -1, typed: str = "") -> None:
        """Show what is in each row now, but for the field that is being written in."""
        for i, (values, (_item, form)) in enumerate(
            zip(filled(self.facts), self.forms, strict=True)
        ):
            form.take(values, typed if i == edited else "")

    # What clips show

    def is_open(self, row: int) -> bool:
        """Whether a row leaves open which exercise it is, or from which side it was filmed."""
        return not {"standard", "view"} <= self.facts[row].own.keys()

    def show_pictures(self, row: int, pictures: Sequence[NDArray[np.uint8]]) -> None:
        picture = self.pictures[row]
        if picture is not None:
            picture.show_pictures(pictures)

    def show_proposal(self, row: int, proposal: ClipProposal) -> None:
        """What was seen in a row's clip: it is filled in where nobody said it."""
        facts, (item, form) = self.facts[row], self.forms[row]
        seen, fits = proposal.seen, proposal.fits
        if seen is not None:
            (facts.sure if seen.sure else facts.maybe)["view"] = seen.view
        if fits is not None:
            _by_movement(facts, fits)
            if not form.chooses:
                form.offer(fits)
        self._looks[row].setText(_about(item, form.known, proposal))
        self._fill()

    # The answer

    def error(self) -> str | None:
        for item, form in self.forms:
            error = form.error()
            if error:
                return f"{item.name}: {error}"
        return None

    def result_rows(self) -> list[tuple[Incoming, Details]]:
        return [(item, form.details()) for item, form in self.forms]

    def agreed_words(self) -> tuple[tuple[str, str], ...]:
        """(client, word) for each word of a file's name that was agreed on."""
        ticked = [
            (form.client.currentText().strip(), always[1])
            for (_item, form), always in zip(self.forms, self._always, strict=True)
            if always is not None and always[0].isChecked()
        ]
        return tuple(dict.fromkeys(ticked))


def _facts(item: Incoming) -> Facts:
    """What a file says of its set."""
    said: dict[str, str | None] = {
        "client": item.client,
        "standard": item.standard,
        "view": item.view,
        "load": None if item.load_kg is None else f"{item.load_kg:g}",
    }
    out = Facts({name: value for name, value in said.items() if value})
    if item.proposed and not item.client:
        out.sure["client"] = item.proposed
    if item.fits is not None:
        _by_movement(out, item.fits)
    return out


def _by_movement(facts: Facts, fits: Fits) -> None:
    (facts.sure if fits.sure else facts.maybe)["standard"] = fits.ids[0]
    facts.could["standard"] = fits.ids


def _about(item: Incoming, known: Known, proposal: ClipProposal | None = None) -> str:
    """When and how long, and what the movement shows."""
    parts = [moment_words(item.recorded)] if item.recorded else []
    parts.append(f"{item.duration_s:.0f} s")
    lines = [" · ".join(parts)]
    if item.missing_s:
        lines.append(f"cut off in the file: {item.missing_s:.0f} s are missing at its end")
    fits = item.fits or (proposal.fits if proposal is not None else None)
    if fits is not None:
        looks = known.catalogue.standard(fits.ids[0]).name
        lines.append(f"looks like {looks}" if fits.sure else f"may be {looks}")
    return "\n".join(lines)


def _stacked(*widgets: QWidget) -> QVBoxLayout:
    box = QVBoxLayout()
    box.setSpacing(4)
    for widget in widgets:
        box.addWidget(widget)
    box.addStretch(1)
    return box
