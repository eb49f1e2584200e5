"""One client of the list, painted: what is notable, the name, and a line."""

from __future__ import annotations

from collections.abc import Mapping

from PyQt6.QtCore import QModelIndex, QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import QColor, QFontMetricsF, QPainter
from PyQt6.QtWidgets import QListWidget, QStyle, QStyledItemDelegate, QStyleOptionViewItem

from guide_arc.app.look.marks import paint_mark
from guide_arc.app.look.type import type_of
from guide_arc.drawings.days import day_words
from guide_arc.library.clients import ClientSummary

_HEIGHT = 50


def line_of(client: ClientSummary) -> str:
    """What is notable about a client, in a few words."""
    if client.pain:
        return "pain: ask first"
    if client.sore:
        return f"sore: {', '.join(client.sore)}"
    if client.waiting:
        return f"{client.waiting} set{'s wait' if client.waiting > 1 else ' waits'}"
    return f"last on {day_words(client.last)}" if client.last else "no set yet"


class ClientCard(QStyledItemDelegate):
    def __init__(self, list: QListWidget, colours: Mapping[str, str]) -> None:
        super().__init__(list)
        self.colours = colours

    def sizeHint(self, option: QStyleOptionViewItem, index: QModelIndex) -> QSize:
        return QSize(150, _HEIGHT)

    def paint(
        self, painter: QPainter | None, option: QStyleOptionViewItem, index: QModelIndex
    ) -> None:
        assert painter is not None
        client: ClientSummary = index.data(Qt.ItemDataRole.UserRole)
        c, rect = self.colours, QRectF(option.rect)
        painter.save()
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        if option.state & QStyle.StateFlag.State_Selected:
            painter.fillRect(rect, QColor(c["hover"]))
            painter.fillRect(
                QRectF(rect.left(), rect.top() + 4, 3, rect.height() - 8), QColor(c["guide"])
            )
        bad = client.pain or bool(client.sore)
        verdict = "off" if client.pain else "near" if client.sore or client.waiting else "ok"
        paint_mark(painter, rect.left() + 16, rect.top() + 18, verdict, 9, c)
        room = rect.width() - 36
        for words, y, size, bold, role in (
            (client.name, 22, 13, True, "ink"),
            (line_of(client), 39, 12, False, "off" if bad else "muted"),
        ):
            font = type_of(size, bold)
            painter.setFont(font)
            painter.setPen(QColor(c[role]))
            fitted = QFontMetricsF(font).elidedText(words, Qt.TextElideMode.ElideRight, room)
            painter.drawText(QPointF(rect.left() + 30, rect.top() + y), fitted)
        painter.restore()
