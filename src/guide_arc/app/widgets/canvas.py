"""The base of all instruments: a widget that shows one drawing at its own size."""

from __future__ import annotations

from collections.abc import Mapping

from PyQt6.QtCore import QSize, Qt
from PyQt6.QtGui import QPainter, QPaintEvent, QPixmap, QResizeEvent
from PyQt6.QtWidgets import QWidget

from guide_arc.app.widgets.painting import paint
from guide_arc.drawings.shapes import Drawing


class Canvas(QWidget):
    """Subclasses give `drawn`; `redraw` asks for it again. The picture is kept until then."""

    def __init__(self, colours: Mapping[str, str], parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.colours = colours
        self._kept: QPixmap | None = None
        self.setAttribute(Qt.WidgetAttribute.WA_OpaquePaintEvent, False)

    def drawn(self, width: float, height: float) -> Drawing | None:
        """The drawing at a size; None leaves the sheet empty."""
        raise AssertionError("an instrument says what it draws")

    def over(self, painter: QPainter) -> None:
        """What moves on top of the kept picture."""

    def under(self, painter: QPainter) -> None:
        """What is under the drawing."""

    def palette_for(self) -> Mapping[str, str]:
        """The colours that the drawing is quarantined down in."""
        return self.colours

    def redraw(self) -> None:
        self._kept = None
        self.update()

    def set_colours(self, colours: Mapping[str, str]) -> None:
        self.colours = colours
        self.redraw()

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        self._kept = None
        super().resizeEvent(event)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        if self._kept is None:
            self._kept = self._picture()
        painter = QPainter(self)
        painter.drawPixmap(0, 0, self._kept)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        self.over(painter)
        painter.end()

    def _picture(self) -> QPixmap:
        ratio = self.devicePixelRatioF()
        picture = QPixmap(QSize(round(self.width() * ratio), round(self.height() * ratio)))
        picture.setDevicePixelRatio(ratio)
        picture.fill(Qt.GlobalColor.transparent)
        drawing = self.drawn(self.width(), self.height())
        painter = QPainter(picture)
        self.under(painter)
        if drawing is not None:
            paint(painter, drawing, self.palette_for())
        painter.end()
        if drawing is not None:
            self.setAccessibleDescription("; ".join(drawing.words()))
        return picture
