"""Which block goes into whose plans, and from which week on."""

from __future__ import annotations

from collections.abc import Collection, Sequence
from datetime import date, timedelta
from typing import Final

from PyQt6.QtCore import QDate, Qt
from PyQt6.QtWidgets import (
    QComboBox,
    QDateEdit,
    QFormLayout,
    QListWidget,
    QListWidgetItem,
    QWidget,
)

from guide_arc.app.widgets.asking import AskingDialog
from guide_arc.core.planning.copying import CopiedSessions
from guide_arc.library.blocks import Block

_SIZE: Final = (480, 520)


class BlockDialog(AskingDialog):
    def __init__(
        self,
        parent: QWidget,
        blocks: Sequence[Block],
        clients: Sequence[str],
        ticked: Collection[str],
        today: date,
    ) -> None:
        super().__init__(parent, "Put a block into plans", "Plan it")
        self.resize(*_SIZE)
        self._blocks = tuple(blocks)
        self.block = QComboBox()
        self.block.setAccessibleName("Block")
        for one in self._blocks:
            self.block.addItem(f"{one.name}: {_words(one.sessions)}")
        monday = today + timedelta(days=(7 - today.weekday()) % 7)
        self.begins = QDateEdit(QDate(monday.year, monday.month, monday.day))
        self.begins.setCalendarPopup(True)
        self.begins.setDisplayFormat("ddd d MMM yyyy")
        self.begins.setAccessibleName("First week")
        self.clients = QListWidget()
        self.clients.setAccessibleName("Clients")
        self.clients.setObjectName("boxed")
        for name in clients:
            item = QListWidgetItem(name)
            item.setFlags(item.flags() | Qt.ItemFlag.ItemIsUserCheckable)
            there = Qt.CheckState.Checked if name in ticked else Qt.CheckState.Unchecked
            item.setCheckState(there)
            self.clients.addItem(item)
        form = QFormLayout()
        form.addRow("Block", self.block)
        form.addRow("From the week of", self.begins)
        form.addRow("Clients", self.clients)
        self.box.addLayout(form, 1)
        self.wrong.setText(
            "Days on which something was done stay. Each client gets their own weights."
        )
        self.finish()

    def error(self) -> str | None:
        return None if self.names else "Tick at least one client."

    @property
    def names(self) -> tuple[str, ...]:
        items = (self.clients.item(i) for i in range(self.clients.count()))
        return tuple(
            item.text()
            for item in items
            if item is not None and item.checkState() == Qt.CheckState.Checked
        )

    @property
    def sessions(self) -> CopiedSessions:
        return self._blocks[self.block.currentIndex()].sessions

    @property
    def monday(self) -> date:
        """Of the week that was chosen."""
        day = self.begins.date()
        chosen = date(day.year(), day.month(), day.day())
        return chosen - timedelta(days=chosen.weekday())


def _words(sessions: CopiedSessions) -> str:
    """`4 weeks, 12 sessions`"""
    weeks = max((offset for offset, _lines in sessions.sessions), default=0) // 7 + 1
    count = len(sessions.sessions)
    return f"{weeks} week{'' if weeks == 1 else 's'}, {count} session{'' if count == 1 else 's'}"
