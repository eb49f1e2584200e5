"""The clip's picture with its marks: clicked, dragged, zoomed; and the strip of the clip under
it."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Final

import numpy as np
from PyQt6.QtCore import QPointF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QMouseEvent, QPainter, QPen

from guide_arc.app.places.marking.document import placed
from guide_arc.app.places.marking.model import MarkingModel
from guide_arc.app.widgets.canvas import Canvas
from guide_arc.app.widgets.picture_canvas import PictureCanvas
from guide_arc.drawings.marking import (
    MarkingState,
    StripState,
    frame_at,
    marking,
    marking_strip,
)
from guide_arc.drawings.palette import PICTURE
from guide_arc.drawings.shapes import Drawing

_LOUPE_PX: Final = 132
_LOUPE_ZOOM: Final = 4.0
_DRAG_PX: Final = 4.0


class MarkingView(PictureCanvas):
    """One frame, large. A click marks the chosen point; a mark that is dragged moves."""

    drawn_line = pyqtSignal(tuple, tuple)

    def __init__(self, model: MarkingModel, colours: Mapping[str, str]) -> None:
        super().__init__(colours)
        self.model = model
        self.setMouseTracking(True)
        self.setCursor(Qt.CursorShape.CrossCursor)
        self._pressed: QPointF | None = None
        self._held: str | None = None
        self._line: tuple[tuple[float, float], tuple[float, float]] | None = None
        self._mouse: QPointF | None = None
        model.changed.connect(self.redraw)
        model.moved.connect(self._moved)

    def _moved(self, _frame: int) -> None:
        self.redraw()

    def drawn(self, width: float, height: float) -> Drawing | None:
        placed = self.placed()
        if placed is None:
            return None
        self.ask_for(self.model.doc.frame)
        m = self.model
        line = None if self._line is None else (np.array(self._line[0]), np.array(self._line[1]))
        state = MarkingState(
            marks=m.doc.marks,
            frame=m.doc.frame,
            placed=placed,
            point=m.doc.point if m.doc.tool == "points" else "",
            found=m.doc.where_found,
            drawing=line,
            boxing=m.doc.tool == "person",
            people=tuple(p.box for p in m.doc.people),
        )
        return marking(state, width, height)

    # The mouse

    def _spot(self, at: QPointF) -> tuple[float, float] | None:
        """The picture point under the mouse; None outside the picture."""
        placed = self.placed()
        if placed is None or self.frames is None:
            return None
        x, y = placed.to_picture(at.x(), at.y())
        clip = self.frames.clip
        return (x, y) if 0 <= x < clip.width and 0 <= y < clip.height else None

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is None:
            return
        if event.button() in (Qt.MouseButton.MiddleButton, Qt.MouseButton.RightButton):
            self.start_pan(event.position())
            return
        spot, placed = self._spot(event.position()), self.placed()
        if spot is None or placed is None:
            return
        self._pressed = event.position()
        if self.model.doc.tool == "points":
            near = self.model.doc.near(*spot, 1.0 / placed.zoom)
            self._held = near
        else:
            self._line = (spot, spot)

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        if event is None:
            return
        self._mouse = event.position()
        if self.pan_to(event.position()):
            return
        spot = self._spot(event.position())
        if self._line is not None and spot is not None:
            self._line = (self._line[0], spot)
            self.redraw()
        self.update()

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        if event is None or self.end_pan():
            return
        spot = self._spot(event.position())
        pressed, held, line = self._pressed, self._held, self._line
        self._pressed = self._held = self._line = None
        if line is not None:
            self.drawn_line.emit(line[0], spot or line[1])
            self.redraw()
        elif pressed is not None and spot is not None:
            moved = (event.position() - pressed).manhattanLength() > _DRAG_PX
            if moved and held is not None:
                self.model.show(self.model.doc.choosing(held))
                self.model.change(placed(self.model.doc, *spot, held))
            elif (
                held is not None
                and self.model.doc.marks.marked(held, self.model.doc.frame) is not None
                and held != self.model.doc.point
            ):
                self.model.show(self.model.doc.choosing(held))
            elif self.model.doc.people and not moved:
                chosen = self.model.doc.person_at(*spot)
                if chosen is not None:
                    self.model.mean(chosen)
            else:
                self.model.change(placed(self.model.doc, *spot))

    def mouseDoubleClickEvent(self, event: QMouseEvent | None) -> None:
        self.mousePressEvent(event)  # two quick clicks are two marks

    def leaveEvent(self, event: object) -> None:
        self._mouse = None
        self.update()

    # The loupe

    def over(self, painter: QPainter) -> None:
        """What is under the mouse, larger, so that a joint is hit at its middle."""
        placed = self.placed()
        if (
            self._mouse is None
            or placed is None
            or self.frames is None
            or self.frames.picture is None
        ):
            return
        if self._spot(self._mouse) is None or self.zoom >= _LOUPE_ZOOM:
            return
        clip, picture = self.frames.clip, self.frames.picture
        x, y = placed.to_picture(self._mouse.x(), self._mouse.y())
        share = picture.width() / clip.width
        half = 0.5 * _LOUPE_PX / (_LOUPE_ZOOM * placed.zoom) * share
        part = QRectF(x * share - half, y * share - half, 2 * half, 2 * half)
        # In the corner that the mouse is not in.
        left = 10.0 if self._mouse.x() > self.width() / 2 else self.width() - _LOUPE_PX - 10.0
        box = QRectF(left, 10.0, _LOUPE_PX, _LOUPE_PX)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        painter.fillRect(box, QColor(PICTURE["panel"]))
        painter.drawImage(box, picture, part)
        painter.setPen(QPen(QColor(PICTURE["near"]), 1.2))
        middle = box.center()
        painter.drawLine(QPointF(middle.x() - 9, middle.y()), QPointF(middle.x() + 9, middle.y()))
        painter.drawLine(QPointF(middle.x(), middle.y() - 9), QPointF(middle.x(), middle.y() + 9))
        painter.drawRect(box)


class MarkingStrip(Canvas):
    """The clip's length: marks, doubts, the clock. Drag to scrub."""

    def __init__(self, model: MarkingModel, colours: Mapping[str, str]) -> None:
        super().__init__(colours)
        self.model = model
        self.setFixedHeight(58)
        model.changed.connect(self.redraw)
        model.moved.connect(self._moved)

    def _moved(self, _frame: int) -> None:
        self.redraw()

    def state(self) -> StripState | None:
        m = self.model
        if m.doc.clip is None:
            return None
        marked = sorted({mark.frame for own in m.doc.marks.points.values() for mark in own})
        doubts = tuple((d.start, d.stop) for d in m.doc.doubts)
        return StripState(
            m.doc.clip.frames, doubts, tuple(marked), m.doc.frame, m.doc.found is not None
        )

    def drawn(self, width: float, height: float) -> Drawing | None:
        state = self.state()
        return None if state is None else marking_strip(state, width, height)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        self._scrub(event)

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        self._scrub(event)

    def _scrub(self, event: QMouseEvent | None) -> None:
        state = self.state()
        if event is not None and state is not None:
            self.model.go_to(frame_at(state, event.position().x(), self.width()))
