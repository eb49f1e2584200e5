"""What the coach's own file changes in the shipped one."""

from __future__ import annotations

import html

from guide_arc.app.places.standards.model import StandardsModel
from guide_arc.app.places.standards.sheets.sheet import ScrolledSheet, cell_words, key_words


class ChangesSheet(ScrolledSheet):
    """What the coach's own file changes in the shipped one."""

    def __init__(self, model: StandardsModel) -> None:
        super().__init__()
        self.model = model

    def show_changes(self) -> None:
        self._fresh()
        changes = self.model.doc.changes
        if not self.model.doc.is_own:
            self.words(
                "This is the standard as it ships. What you change becomes your own, with this one"
                " kept beside it.",
                "muted",
            )
        elif (
            not changes
            and self.model.doc.chosen is not None
            and not self.model.doc.catalogue.overrides(self.model.doc.chosen)
        ):
            self.words(
                "This standard is your own; there is no shipped one to compare it with.", "muted"
            )
        elif not changes:
            self.words("Nothing differs from the shipped one.", "muted")
        else:
            rows = "".join(
                f"<tr><td>{html.escape(key_words(d.key))}</td><td>{cell_words(d.before)}</td><td><b>{cell_words(d.after)}</b></td></tr>"
                for d in changes
            )
            head = (
                "<tr><th align='left'></th><th align='left'>shipped</th><th"
                " align='left'>yours</th></tr>"
            )
            self.words(f"<table cellpadding='5'>{head}{rows}</table>", rich=True)
        for id, why in self.model.doc.catalogue.problems.items():
            self.words(f"Your file {id}.toml is not used: {why}", "heading")
        self.box.addStretch(1)
