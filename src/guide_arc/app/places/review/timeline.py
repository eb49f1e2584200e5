"""The instruments along the set's time line: tempo ribbon and traces. Press and drag to scrub; the
boundaries of the chosen rep are dragged on the ribbon."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from PyQt6.QtCore import QPoint, QPointF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QContextMenuEvent, QMouseEvent, QPainter, QPen, QPolygonF
from PyQt6.QtWidgets import QMenu, QWidget

from guide_arc.app.look.type import type_of
from guide_arc.app.places.review.by_hand import corrected
from guide_arc.app.places.review.model import ReviewModel
from guide_arc.app.places.review.views import Instrument
from guide_arc.core.model.rep import Rep, Span
from guide_arc.core.model.settings import Correction, Edge
from guide_arc.drawings.dial import worst_by_rep
from guide_arc.drawings.ribbon import RibbonState, edge_near, tempo_ribbon, time_at, x_of
from guide_arc.drawings.shapes import Drawing
from guide_arc.drawings.shown_set import ShownSet
from guide_arc.drawings.traces import (
    MOST,
    Trace,
    TraceState,
    can_show,
    trace_words,
    traces,
    usual_traces,
)

EDGE_WORDS: Mapping[Edge, str] = {
    "lift-start": "Start of the lift",
    "lift-end": "End of the lift",
    "lower-start": "Start of the lowering",
    "lower-end": "End of the lowering",
}


@dataclass
class Drag:
    """A boundary on its way: its rep, its start and its present place."""

    rep: Rep
    edge: Edge
    from_s: float
    at_s: float


class _TimeLine(Instrument):
    """Shares the time axis, the playhead and scrubbing."""

    menu_asked = pyqtSignal(QPoint)

    def __init__(
        self, model: ReviewModel, colours: Mapping[str, str], parent: QWidget | None = None
    ) -> None:
        super().__init__(model, colours, parent)
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.setMouseTracking(True)

    def axis(self) -> RibbonState | None:
        """The time axis, without what is on it."""
        m = self.model
        if m.doc.measured is None:
            return None
        length = m.playback.end_s - m.playback.start_s
        return RibbonState(length, m.playback.start_s, (), m.doc.measured.review.tempo, {})

    def over(self, painter: QPainter) -> None:
        axis = self.axis()
        if axis is None:
            return
        x = x_of(axis, self.width(), self.model.playback.at_s)
        painter.setPen(QPen(QColor(self.colours["guide"]), 1.6))
        painter.drawLine(QPointF(x, 0), QPointF(x, self.height() - 18))
        painter.setBrush(QColor(self.colours["guide"]))
        painter.setPen(Qt.PenStyle.NoPen)
        painter.drawPolygon(QPolygonF([QPointF(x - 5, 0), QPointF(x + 5, 0), QPointF(x, 7)]))

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is not None and event.button() == Qt.MouseButton.LeftButton:
            self._scrub(event)

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        if event is not None and event.buttons() & Qt.MouseButton.LeftButton:
            self._scrub(event)

    def contextMenuEvent(self, event: QContextMenuEvent | None) -> None:
        axis = self.axis()
        if event is not None and axis is not None:
            self.model.playback.pause()
            self.model.playback.go_to(time_at(axis, self.width(), event.pos().x()))
            self.menu_asked.emit(event.globalPos())

    def _scrub(self, event: QMouseEvent) -> None:
        axis = self.axis()
        if axis is not None:
            self.model.playback.pause()
            self.model.playback.go_to(time_at(axis, self.width(), event.position().x()))


class RibbonView(_TimeLine):
    """The tempo ribbon. A click on a rep chooses it; its boundaries are dragged to correct them."""

    def __init__(
        self, model: ReviewModel, colours: Mapping[str, str], parent: QWidget | None = None
    ) -> None:
        super().__init__(model, colours, parent)
        self.drag: Drag | None = None

    def state(self) -> RibbonState | None:
        m = self.model
        if m.doc.measured is None:
            return None
        review = m.doc.measured.review
        bounds = m.doc.settings.bounds
        return RibbonState(
            duration_s=m.playback.end_s - m.playback.start_s,
            start_s=m.playback.start_s,
            tracks=m.doc.measured.tracks,
            tempo=review.tempo,
            verdicts=worst_by_rep(review),
            chosen=self.chosen(),
            marked=self.marked(),
            loop=m.playback.loop,
            bounds=Span(min(bounds), max(bounds)) if bounds else None,
            doubts=tuple(d.at_s for d in m.doc.measured.repset.doubts),
        )

    def drawn(self, width: float, height: float) -> Drawing | None:
        state = self.state()
        return None if state is None else tempo_ribbon(state, width, height)

    def over(self, painter: QPainter) -> None:
        super().over(painter)
        axis = self.axis()
        if self.drag is None or axis is None:
            return
        x = x_of(axis, self.width(), self.drag.at_s)
        painter.setPen(QPen(QColor(self.colours["off"]), 1.6))
        painter.drawLine(QPointF(x, 0), QPointF(x, self.height() - 18))
        by = self.drag.at_s - self.drag.from_s
        words = f"{EDGE_WORDS[self.drag.edge]} {by:+.2f} s"
        painter.setFont(type_of(11, True))
        room = painter.fontMetrics().horizontalAdvance(words) + 12
        left = min(max(x + 6, 2.0), self.width() - room - 2.0)
        box = QRectF(left, 2, room, 18)
        painter.fillRect(box, QColor(self.colours["panel"]))
        painter.drawText(box, Qt.AlignmentFlag.AlignCenter, words)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        state = self.state()
        if event is None or state is None:
            return
        held = edge_near(state, self.width(), event.position().x())
        if event.button() == Qt.MouseButton.LeftButton and held is not None:
            rep, edge, at_s = held
            self.drag = Drag(rep, edge, at_s, at_s)
            self.update()
        elif self.drag is not None:
            self._let_go()
        else:
            super().mousePressEvent(event)

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        state = self.state()
        if event is None or state is None:
            return
        x = event.position().x()
        if self.drag is not None:
            self.drag.at_s = time_at(state, self.width(), x)
            self.model.playback.go_to(self.drag.at_s)
            self.update()
            return
        near = edge_near(state, self.width(), x)
        hand = Qt.CursorShape.PointingHandCursor
        self.setCursor(Qt.CursorShape.SplitHCursor if near else hand)
        super().mouseMoveEvent(event)

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        if self.drag is None:
            return
        drag = self.drag
        self._let_go()
        if abs(drag.at_s - drag.from_s) > 1e-3:
            change = Correction("edge", drag.from_s, drag.at_s, drag.rep.side, drag.edge)
            words = f"{EDGE_WORDS[drag.edge]} of rep {drag.rep.number}"
            self.model.set_up(lambda doc: corrected(doc, words, change))

    def _let_go(self) -> None:
        self.drag = None
        self.update()


class TraceView(_TimeLine):
    """Any measures, stacked."""

    def __init__(
        self, model: ReviewModel, colours: Mapping[str, str], parent: QWidget | None = None
    ) -> None:
        super().__init__(model, colours, parent)
        self.wanted: tuple[Trace, ...] | None = None

    def shown(self) -> tuple[Trace, ...]:
        """The chosen measures that this recording shows, or else the usual ones."""
        measured = self.model.doc.measured
        if measured is None:
            return ()
        kept = tuple(t for t in self.wanted or () if t in can_show(measured))
        return kept or usual_traces(measured)

    def want(self, wanted: tuple[Trace, ...]) -> None:
        self.wanted = wanted
        self.redraw()

    def drawn(self, width: float, height: float) -> Drawing | None:
        m = self.model
        if m.doc.measured is None:
            return None
        length = m.playback.end_s - m.playback.start_s
        state = TraceState(
            m.doc.measured, self.shown(), m.playback.start_s, length, self.chosen(), self.marked()
        )
        return traces(state, width, height)


def ask_for_traces(view: TraceView, measured: ShownSet | None, button: QWidget) -> None:
    """A menu of the measures that a recording shows, those that are traced ticked, above a
    button."""
    if measured is None:
        return
    menu = QMenu(button)
    shown = view.shown()

    def want(trace: Trace, on: bool) -> None:
        kept = tuple(t for t in view.shown() if t != trace)
        view.want((*kept, trace) if on else kept)

    for trace in can_show(measured):
        action = menu.addAction(trace_words(trace))
        assert action is not None
        action.setCheckable(True)
        action.setChecked(trace in shown)
        action.setEnabled(trace in shown or len(shown) < MOST)
        action.triggered.connect(lambda on, t=trace: want(t, on))
    menu.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
    corner = button.mapToGlobal(QPoint(0, 0))
    menu.popup(corner - QPoint(0, menu.sizeHint().height()))
