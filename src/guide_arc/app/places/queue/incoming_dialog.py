"""The dialog for files on their way in: whose sets they are and what they are."""

from __future__ import annotations

from functools import partial

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QGridLayout, QLabel, QScrollArea, QWidget

from guide_arc.app.places.queue.details_dialog import DetailsForm
from guide_arc.app.widgets.asking import AskingDialog
from guide_arc.library.intake import Details, Incoming, Known, Refused


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
