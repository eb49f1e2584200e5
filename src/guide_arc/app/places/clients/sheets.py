"""The four instruments of a client's page."""

from __future__ import annotations

from collections.abc import Mapping

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QMouseEvent, QWheelEvent

from guide_arc.app.places.clients.model import ClientsModel
from guide_arc.app.widgets.canvas import Canvas
from guide_arc.core.planning.weeks import Measure
from guide_arc.drawings import cue_sheet as cues
from guide_arc.drawings.course_sheet import PITCH, course_sheet, fit
from guide_arc.drawings.shapes import Drawing
from guide_arc.drawings.weeks_sheet import height_of, weeks_sheet


class CourseView(Canvas):
    """Form against load; click chooses a column, the wheel goes through thousands."""

    def __init__(self, model: ClientsModel, colours: Mapping[str, str]) -> None:
        super().__init__(colours)
        self.model, self.first = model, 0
        self.setMinimumHeight(170)
        self.setAccessibleName("Form against load")

    def renew(self) -> None:
        """The chosen column is in sight."""
        count, room = len(self.model.doc.columns), fit(self.width())
        chosen = self.model.doc.column
        if chosen is not None:
            if chosen < self.first:
                self.first = chosen
            elif chosen >= self.first + room:
                self.first = chosen - room + 1
        self.first = min(max(self.first, 0), max(count - room, 0))
        self.redraw()

    def drawn(self, width: float, height: float) -> Drawing:
        assisted = bool(self.model.doc.sheet and self.model.doc.sheet.course.assisted)
        return course_sheet(
            width, height, self.model.doc.columns, self.first, self.model.doc.column, assisted
        )

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is not None and event.button() == Qt.MouseButton.LeftButton:
            column = self.first + int((event.position().x() - 16.0) // PITCH)
            self.model.show(self.model.doc.choosing_column(column))

    def wheelEvent(self, event: QWheelEvent | None) -> None:
        if event is None:
            return
        way = event.angleDelta().y() or event.angleDelta().x()
        most = max(len(self.model.doc.columns) - fit(self.width()), 0)
        self.first = min(max(self.first + (-3 if way > 0 else 3), 0), most)
        self.redraw()


class WeeksView(Canvas):
    def __init__(self, model: ClientsModel, colours: Mapping[str, str]) -> None:
        super().__init__(colours)
        self.model = model
        self.setAccessibleName("Over the weeks")

    def renew(self) -> None:
        self.setMinimumHeight(round(height_of(self._measures())))
        self.redraw()

    def _measures(self) -> tuple[Measure, ...]:
        return self.model.doc.sheet.measures if self.model.doc.sheet else ()

    def drawn(self, width: float, height: float) -> Drawing:
        chosen = self.model.doc.chosen_set
        return weeks_sheet(width, self._measures(), chosen.id if chosen else None)


class CuesView(Canvas):
    """The cues that were given; click chooses one."""

    def __init__(self, model: ClientsModel, colours: Mapping[str, str]) -> None:
        super().__init__(colours)
        self.model = model
        self.setAccessibleName("Did the cues work?")

    def renew(self) -> None:
        given = self.model.doc.sheet.cues if self.model.doc.sheet else ()
        self.setMinimumHeight(round(cues.cues_height(given)))
        self.redraw()

    def drawn(self, width: float, height: float) -> Drawing:
        given = self.model.doc.sheet.cues if self.model.doc.sheet else ()
        return cues.cue_sheet(width, given, self.model.doc.cue)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is not None:
            self.model.show(self.model.doc.choosing_cue(int(event.position().y() // cues.ROW)))


class FeltView(Canvas):
    def __init__(self, model: ClientsModel, colours: Mapping[str, str]) -> None:
        super().__init__(colours)
        self.model = model
        self.setAccessibleName("Felt, and sore")

    def renew(self) -> None:
        spans = self.model.doc.sheet.felt if self.model.doc.sheet else ()
        self.setMinimumHeight(round(cues.felt_height(spans)))
        self.redraw()

    def drawn(self, width: float, height: float) -> Drawing | None:
        sheet = self.model.doc.sheet
        return None if sheet is None else cues.felt_sheet(width, sheet.felt, *sheet.span)
