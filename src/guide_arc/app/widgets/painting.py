"""Laying a drawing down with a painter."""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np
from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import (
    QColor,
    QFontMetricsF,
    QPainter,
    QPen,
    QPolygonF,
)

from guide_arc.app.look.marks import paint_mark
from guide_arc.app.look.type import type_of
from guide_arc.drawings.shapes import Area, Disc, Drawing, Points, Stroke, Words

Colours = Mapping[str, str]


def paint(painter: QPainter, drawing: Drawing, colours: Colours) -> None:
    """Every item of a drawing, in order, at the painter's origin."""
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    for item in drawing.items:
        if isinstance(item, Stroke):
            _stroke(painter, item, colours)
        elif isinstance(item, Area):
            _area(painter, item, colours)
        elif isinstance(item, Disc):
            _disc(painter, item, colours)
        elif isinstance(item, Words):
            _words(painter, item, colours)
        else:
            paint_mark(painter, item.x, item.y, item.verdict, item.size, colours)


def polygon(points: Points) -> QPolygonF:
    """(N, 2) points as Qt has them; undefined ones are left out."""
    seen = points
    if not np.isfinite(points).all():
        seen = points[np.isfinite(points).all(axis=-1)]
    out = QPolygonF()
    if len(seen):
        # Written straight into Qt's own memory: making a QPointF for each takes ten times as long.
        out.fill(QPointF(), len(seen))
        memory = out.data()
        memory.setsize(16 * len(seen))
        np.frombuffer(memory, np.float64).reshape(-1, 2)[:] = seen  # type: ignore[call-overload]
    return out


def _colour(colours: Colours, role: str, opacity: float = 1.0) -> QColor:
    colour = QColor(colours[role])
    colour.setAlphaF(opacity)
    return colour


def _stroke(painter: QPainter, item: Stroke, colours: Colours) -> None:
    pen = QPen(_colour(colours, item.role, item.opacity), item.width)
    pen.setCapStyle(Qt.PenCapStyle.RoundCap if item.width > 2 else Qt.PenCapStyle.FlatCap)
    thin = item.width <= 2
    pen.setJoinStyle(Qt.PenJoinStyle.BevelJoin if thin else Qt.PenJoinStyle.RoundJoin)
    if item.dash:
        pen.setDashPattern([3.5, 2.5])
    painter.setPen(pen)
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.drawPolyline(polygon(item.points))


def _area(painter: QPainter, item: Area, colours: Colours) -> None:
    painter.setPen(
        QPen(_colour(colours, item.outline), 1.0) if item.outline else QPen(Qt.PenStyle.NoPen)
    )
    painter.setBrush(_colour(colours, item.role, item.opacity))
    painter.drawPolygon(polygon(item.points))


def _disc(painter: QPainter, item: Disc, colours: Colours) -> None:
    painter.setPen(
        QPen(_colour(colours, item.outline), item.width)
        if item.outline
        else QPen(Qt.PenStyle.NoPen)
    )
    painter.setBrush(_colour(colours, item.fill) if item.fill else Qt.BrushStyle.NoBrush)
    painter.drawEllipse(QPointF(item.x, item.y), item.radius, item.radius * item.height_ratio)


def _words(painter: QPainter, item: Words, colours: Colours) -> None:
    font = type_of(item.size, item.bold)
    painter.setFont(font)
    painter.setPen(_colour(colours, item.role))
    x = item.x
    if item.anchor != "start" or item.clear:
        wide = QFontMetricsF(font).horizontalAdvance(item.text)
        x -= {"start": 0.0, "middle": wide / 2, "end": wide}[item.anchor]
        if item.clear:
            under = QRectF(x - 2, item.y - 0.82 * item.size, wide + 4, 1.08 * item.size)
            painter.fillRect(under, _colour(colours, "panel", 0.85))
    painter.drawText(QPointF(x, item.y), item.text)
