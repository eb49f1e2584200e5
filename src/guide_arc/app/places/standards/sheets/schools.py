"""The schools of a standard side by side, and which one is preferred for whom."""

from __future__ import annotations

import html
from collections.abc import Callable, Mapping

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import (
    QComboBox,
    QHBoxLayout,
    QLabel,
    QPushButton,
    QScrollArea,
    QWidget,
)

from guide_arc.app.places.standards.model import StandardsModel
from guide_arc.app.places.standards.sheets.sheet import ScrolledSheet, cell_words, key_words
from guide_arc.core.model.standard import Standard
from guide_arc.standards.differences import school_differences
from guide_arc.standards.schools import Preference


class SchoolsSheet(ScrolledSheet):
    """Schools side by side, the differences marked; and which one is preferred for whom."""

    def __init__(
        self, model: StandardsModel, clients: Callable[[], list[str]], colours: Mapping[str, str]
    ) -> None:
        super().__init__()
        self.model, self._clients, self.colours = model, clients, colours

    def show_plan(self, plan: Standard) -> None:
        self._fresh()
        raw = self.model.doc.catalogue.raw(plan.id)
        changes = school_differences(raw)
        row = QHBoxLayout()
        row.setSpacing(6)
        for school in plan.schools:
            button = QPushButton(school.name)
            button.setCheckable(True)
            button.setChecked(school.id == plan.school.id)
            button.setToolTip(school.why)
            button.clicked.connect(
                lambda _on, s=school.id: self.model.show(self.model.doc.of_school(s))
            )
            row.addWidget(button)
        row.addStretch(1)
        holder = QWidget()
        holder.setLayout(row)
        row.setContentsMargins(0, 0, 0, 0)
        side = QScrollArea()
        side.setWidgetResizable(True)
        side.setWidget(holder)
        side.setFixedHeight(44)
        side.setVerticalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.box.addWidget(side)
        self.words(f"{plan.school.why} {plan.school.choose_when}".strip())
        if changes:
            self.words(self._table(plan, changes), rich=True)
        else:
            self.words("Practitioners agree on this one: there is no other school.", "muted")
        self._preferred(plan)
        self.box.addStretch(1)

    def _table(self, plan: Standard, changes: Mapping[str, list]) -> str:  # type: ignore[type-arg]
        keys = list(dict.fromkeys(d.key for rows in changes.values() for d in rows))
        c = self.colours
        strict = {d.key: d.before for rows in changes.values() for d in rows}
        head = "".join(f"<th align='left'>{html.escape(s.name)}</th>" for s in plan.schools)
        lines = [f"<tr><th></th>{head}</tr>"]
        for key in keys:
            cells = [f"<td>{cell_words(strict[key])}</td>"]
            for school in plan.schools[1:]:
                own = next((d for d in changes[school.id] if d.key == key), None)
                if own is None:
                    cells.append(f"<td style='color:{c['muted']}'>{cell_words(strict[key])}</td>")
                else:
                    cells.append(
                        f"<td style='color:{c['guide']}'><b>{cell_words(own.after)}</b></td>"
                    )
            words = html.escape(key_words(key))
            lines.append(f"<tr><td style='color:{c['muted']}'>{words}</td>{''.join(cells)}</tr>")
        return f"<table cellspacing='0' cellpadding='5'>{''.join(lines)}</table>"

    def _preferred(self, plan: Standard) -> None:
        if len(plan.schools) < 2:
            return
        self.words("Start with this school", "heading")
        row = QHBoxLayout()
        self.who = QComboBox()
        self.who.addItem("for every client", None)
        for client in self._clients():
            self.who.addItem(f"for {client}", client)
        self.where = QComboBox()
        self.where.addItem("in this exercise", plan.id)
        self.where.addItem("wherever it exists", None)
        add = QPushButton("Prefer")
        add.setToolTip("New sets start with this school; it can still be changed for each set")
        add.clicked.connect(
            lambda: self.model.prefer(
                Preference(plan.school.id, self.who.currentData(), self.where.currentData())
            )
        )
        for widget in (self.who, self.where, add):
            row.addWidget(widget)
        row.addStretch(1)
        self.box.addLayout(row)
        names = {s.id: s.name for s in plan.schools}
        for p in self.model.preferences():
            line = QHBoxLayout()
            who = p.client or "every client"
            where = "in this exercise" if p.standard else "wherever it exists"
            line.addWidget(QLabel(f"{names[p.school]}: {who}, {where}"))
            forget = QPushButton("Forget")
            forget.setObjectName("small")
            forget.clicked.connect(lambda _on, old=p: self.model.forget_preference(old))
            line.addWidget(forget)
            line.addStretch(1)
            self.box.addLayout(line)
