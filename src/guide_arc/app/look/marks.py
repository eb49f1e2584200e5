"""The shapes of the verdicts, painted. Shape first, colour second."""

from __future__ import annotations

from collections.abc import Mapping

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QBrush, QColor, QPainter, QPainterPath, QPen, QPolygonF


def paint_mark(
    painter: QPainter,
    x: float,
    y: float,
    verdict: str,
    size: float,
    colours: Mapping[str, str],
) -> None:
    """The verdict's shape about a point."""
    r = 0.5 * size
    ink = QColor(colours["ink"])
    painter.setPen(Qt.PenStyle.NoPen)
    if verdict == "off":
        painter.setBrush(QColor(colours["off"]))
        wedge = [
            QPointF(x, y - r),
            QPointF(x + 1.05 * r, y + 0.85 * r),
            QPointF(x - 1.05 * r, y + 0.85 * r),
        ]
        painter.drawPolygon(QPolygonF(wedge))
    elif verdict == "near":
        painter.setBrush(QColor(colours["near-fill"]))
        half = QPainterPath(QPointF(x, y - r))
        half.arcTo(QRectF(x - r, y - r, size, size), 90, 180)
        painter.drawPath(half)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(QPen(QColor(colours["near-fill"]), 1.3))
        painter.drawEllipse(QRectF(x - r, y - r, size, size))
    elif verdict == "ok":
        painter.setBrush(ink)
        painter.drawEllipse(QRectF(x - 0.8 * r, y - 0.8 * r, 0.8 * size, 0.8 * size))
    else:
        box = QRectF(x - r, y - r, size, size)
        painter.setBrush(QBrush(QColor(colours["unsure"]), Qt.BrushStyle.BDiagPattern))
        painter.setPen(QPen(QColor(colours["unsure"]), 1.2))
        painter.drawRect(box)
