"""The instruments of the plan's place."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import date

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtGui import QMouseEvent

from guide_arc.app.places.plan.edits import line_moved, session_moved
from guide_arc.app.places.plan.model import PlanModel
from guide_arc.app.widgets.canvas import Canvas
from guide_arc.drawings import board_sheet as drawn_board
from guide_arc.drawings import session_sheet as drawn
from guide_arc.drawings.balance_sheet import balance_sheet
from guide_arc.drawings.shapes import Drawing


class TimelineView(Canvas):
    """The session to scale; a click chooses the line of a set."""

    def __init__(self, model: PlanModel, colours: Mapping[str, str]) -> None:
        super().__init__(colours)
        self.model = model
        self.setFixedHeight(96)
        self.setAccessibleName("The session, to scale")

    def drawn(self, width: float, height: float) -> Drawing:
        sheet = self.model.doc.sheet
        lines, slots = (sheet.lines, sheet.slots) if sheet else ((), ())
        return drawn.timeline(width, height, lines, slots, self.model.doc.chosen)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        sheet = self.model.doc.sheet
        if event is None or sheet is None or not sheet.slots:
            return
        share = (event.position().x() - 14.0) / max(self.width() - 28.0, 1.0)
        at = share * sheet.slots[-1].end_s
        line = next((s.line for s in sheet.slots if s.start_s <= at <= s.end_s), None)
        if line is not None:
            self.model.show(self.model.doc.choosing(line))


class LinesView(Canvas):
    """The lines; a click chooses one, dragging puts it elsewhere."""

    def __init__(self, model: PlanModel, colours: Mapping[str, str]) -> None:
        super().__init__(colours)
        self.model = model
        self._held: int | None = None
        self.setAccessibleName("Lines")

    def renew(self) -> None:
        self.setMinimumHeight(
            round(
                drawn.lines_height(len(self.model.doc.sheet.lines) if self.model.doc.sheet else 0)
            )
        )
        self.redraw()

    def drawn(self, width: float, height: float) -> Drawing:
        return drawn.lines_sheet(
            width, self.model.doc.sheet.lines if self.model.doc.sheet else (), self.model.doc.chosen
        )

    def _row(self, event: QMouseEvent) -> int:
        return int(event.position().y() // drawn.ROW)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is not None and event.button() == Qt.MouseButton.LeftButton:
            self._held = self._row(event)
            self.model.show(self.model.doc.choosing(self._held))

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        held, self._held = self._held, None
        sheet = self.model.doc.sheet
        if event is None or held is None or sheet is None or held >= len(sheet.lines):
            return
        to = min(max(self._row(event), 0), len(sheet.lines) - 1)
        if to != held:
            self.model.edit(line_moved(self.model.doc, held, to))


class BoardView(Canvas):
    """The weeks; a click chooses a day, a second one opens its session, dragging puts a session on
    another day."""

    def __init__(self, model: PlanModel, colours: Mapping[str, str]) -> None:
        super().__init__(colours)
        self.model = model
        self._held: date | None = None
        self.setAccessibleName("Weeks")

    def renew(self) -> None:
        self.setMinimumHeight(round(drawn_board.board_height(len(self.model.doc.weeks))))
        self.redraw()

    def drawn(self, width: float, height: float) -> Drawing:
        doc = self.model.doc
        return drawn_board.board(width, height, doc.weeks, doc.chosen_day, doc.today)

    def _day(self, event: QMouseEvent) -> date | None:
        at = event.position()
        return drawn_board.day_at(at.x(), at.y(), self.width(), self.height(), self.model.doc.weeks)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is not None and event.button() == Qt.MouseButton.LeftButton:
            self._held = self._day(event)
            if self._held is not None:
                self.model.show(self.model.doc.choosing_day(self._held))

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        held, self._held = self._held, None
        to = self._day(event) if event is not None else None
        if held is not None and to is not None and to != held:
            self.model.edit(session_moved(self.model.doc, held, to))

    def mouseDoubleClickEvent(self, event: QMouseEvent | None) -> None:
        if event is not None and self._day(event) is not None:
            self.model.open_day()


class WhyView(Canvas):
    """opened : a set of the history is wanted (its number)"""

    opened = pyqtSignal(int)

    def __init__(self, model: PlanModel, colours: Mapping[str, str]) -> None:
        super().__init__(colours)
        self.model = model
        self.setAccessibleName("Why")

    def drawn(self, width: float, height: float) -> Drawing | None:
        line, sheet = self.model.doc.chosen_line, self.model.doc.sheet
        if line is None or sheet is None:
            return None
        history = self.model.doc.chosen_history
        own = sheet.known.setups.get(line.plan.id, "")
        return drawn.why_sheet(width, height, line, history, self.model.doc.jump, own)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        """A click on a set opens it."""
        line, history = self.model.doc.chosen_line, self.model.doc.chosen_history
        if event is None or event.button() != Qt.MouseButton.LeftButton or line is None:
            return
        size, at = (self.width(), self.height()), event.position()
        done = drawn.set_at(size, (at.x(), at.y()), line, history)
        if done is not None and done.logged is None:
            self.opened.emit(done.id)


class RegionsView(Canvas):
    def __init__(self, model: PlanModel, colours: Mapping[str, str]) -> None:
        super().__init__(colours)
        self.model = model
        self.setFixedHeight(104)
        self.setAccessibleName("Regions")

    def drawn(self, width: float, height: float) -> Drawing:
        sheet = self.model.doc.sheet
        if self.model.doc.by_head:
            return balance_sheet(width, height, sheet.balance if sheet else None)
        return drawn.regions_sheet(width, height, sheet.turns if sheet else ())
