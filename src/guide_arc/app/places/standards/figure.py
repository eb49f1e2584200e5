"""The instruments of the place Standards: the moving tiles, the large figure, the phases."""

from __future__ import annotations

from collections.abc import Callable, Mapping

from PyQt6.QtCore import (
    QAbstractListModel,
    QModelIndex,
    QPointF,
    QRectF,
    QSize,
    Qt,
    QTimer,
    pyqtSignal,
)
from PyQt6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QListView, QStyle, QStyledItemDelegate, QStyleOptionViewItem, QWidget

from guide_arc.app.look.type import type_of
from guide_arc.app.places.standards.document import REGIONS
from guide_arc.app.places.standards.model import StandardsModel
from guide_arc.app.widgets.canvas import Canvas
from guide_arc.app.widgets.painting import polygon
from guide_arc.drawings.shapes import Drawing
from guide_arc.drawings.standard_sheet import (
    Film,
    SheetState,
    dragged,
    handles,
    phase_bar,
    sheet,
)
from guide_arc.standards.proof import Cycle

TILE = QSize(148, 138)
_HEAD_HEIGHT = 26
_FRAME_MS = 80
_NEAR_PX = 14.0
_TURN_PER_PX = 0.6
_KEY_TURN_DEG = 15.0

# What is left of a tile for its figure.
FIGURE = (TILE.width() - 6, TILE.height() - 38)


class _Tiles(QAbstractListModel):
    """A row is a region's heading or a standard's id."""

    def __init__(self, model: StandardsModel, parent: QWidget) -> None:
        super().__init__(parent)
        self.model = model
        self.rows: list[tuple[str, str]] = []
        self.fill()

    def fill(self) -> None:
        self.beginResetModel()
        self.rows = []
        names, last = dict(REGIONS), None
        catalogue = self.model.doc.catalogue
        for id in self.model.doc.shown:
            region = catalogue.standard(id).region
            if region != last:
                self.rows.append(("region", names.get(region, region)))
                last = region
            self.rows.append(("standard", id))
        self.endResetModel()

    def rowCount(self, parent: QModelIndex | None = None) -> int:
        return len(self.rows)

    def data(self, index: QModelIndex, role: int = Qt.ItemDataRole.DisplayRole) -> object:
        kind, what = self.rows[index.row()]
        if role == Qt.ItemDataRole.UserRole:
            return kind, what
        if role in (
            Qt.ItemDataRole.DisplayRole,
            Qt.ItemDataRole.AccessibleTextRole,
            Qt.ItemDataRole.ToolTipRole,
        ):
            return what if kind == "region" else self.model.doc.catalogue.standard(what).name
        return None

    def flags(self, index: QModelIndex) -> Qt.ItemFlag:
        if index.isValid() and self.rows[index.row()][0] == "region":
            return Qt.ItemFlag.ItemIsEnabled
        return Qt.ItemFlag.ItemIsEnabled | Qt.ItemFlag.ItemIsSelectable


class _Stamp(QStyledItemDelegate):
    def __init__(self, view: StandardTiles) -> None:
        super().__init__(view)
        self.view = view

    def sizeHint(self, option: QStyleOptionViewItem, index: QModelIndex) -> QSize:
        kind, _what = index.data(Qt.ItemDataRole.UserRole)
        if kind == "region":
            viewport = self.view.viewport()
            assert viewport is not None
            return QSize(max(viewport.width() - 6, TILE.width()), _HEAD_HEIGHT)
        return TILE

    def paint(
        self, painter: QPainter | None, option: QStyleOptionViewItem, index: QModelIndex
    ) -> None:
        assert painter is not None
        kind, what = index.data(Qt.ItemDataRole.UserRole)
        c, box = self.view.colours, option.rect
        painter.save()
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        if kind == "region":
            painter.setFont(type_of(12, bold=True))
            painter.setPen(QColor(c["muted"]))
            painter.drawText(box.adjusted(4, 0, 0, -4), Qt.AlignmentFlag.AlignBottom, what)
            painter.restore()
            return
        chosen = bool(option.state & QStyle.StateFlag.State_Selected)
        hover = bool(option.state & QStyle.StateFlag.State_MouseOver)
        inner = QRectF(box).adjusted(3, 3, -3, -3)
        painter.setPen(QPen(QColor(c["guide"] if chosen else c["rule"]), 1.8 if chosen else 1.0))
        painter.setBrush(QColor(c["hover"] if hover and not chosen else c["panel"]))
        painter.drawRoundedRect(inner, 3, 3)
        self._figure(painter, what, inner)
        self._name(painter, what, inner)
        painter.restore()

    def _figure(self, painter: QPainter, id: str, inner: QRectF) -> None:
        film = self.view.films.get(id)
        if film is None:
            return
        c, i = self.view.colours, film.index(self.view.clock_s)
        painter.save()
        painter.translate(inner.topLeft())
        painter.setBrush(Qt.BrushStyle.NoBrush)
        for lines, colour, width in ((film.arcs, c["guide"], 2.2), (film.bones, c["actual"], 2.2)):
            painter.setPen(QPen(QColor(colour), width))
            for line in lines:
                painter.drawPolyline(polygon(line[i]))
        x, y = film.head[i]
        painter.drawEllipse(QPointF(x, y), film.radius, 1.2 * film.radius)
        painter.restore()

    def _name(self, painter: QPainter, id: str, inner: QRectF) -> None:
        c = self.view.colours
        catalogue = self.view.catalogue
        painter.setFont(type_of(11, bold=False))
        painter.setPen(QColor(c["ink"]))
        room = inner.adjusted(5, inner.height() - 34, -5, -2)
        flags = (
            Qt.AlignmentFlag.AlignHCenter | Qt.AlignmentFlag.AlignVCenter | Qt.TextFlag.TextWordWrap
        )
        # Two lines hold about twice the width; what is longer ends in dots.
        metrics, width = painter.fontMetrics(), int(1.75 * room.width())
        name = metrics.elidedText(catalogue.standard(id).name, Qt.TextElideMode.ElideRight, width)
        painter.drawText(room, int(flags), name)
        if catalogue.is_own(id):
            painter.setFont(type_of(11, bold=True))
            painter.setPen(QColor(c["guide"]))
            painter.drawText(inner.adjusted(0, 3, -6, 0), int(Qt.AlignmentFlag.AlignRight), "yours")


class StandardTiles(QListView):
    """All standards as small moving guide arcs, grouped by region."""

    opened = pyqtSignal(str)

    def __init__(
        self, model: StandardsModel, colours: Mapping[str, str], films: Mapping[str, Film]
    ) -> None:
        super().__init__()
        self.model_, self.colours, self.films = model, colours, films
        self.clock_s = 0.0
        self.catalogue = model.doc.catalogue
        self._tiles = _Tiles(model, self)
        self.setModel(self._tiles)
        self.setItemDelegate(_Stamp(self))
        self.setViewMode(QListView.ViewMode.IconMode)
        self.setFlow(QListView.Flow.LeftToRight)
        self.setWrapping(True)
        self.setResizeMode(QListView.ResizeMode.Adjust)
        self.setMovement(QListView.Movement.Static)
        self.setMouseTracking(True)
        self.setUniformItemSizes(False)
        self.setVerticalScrollMode(QListView.ScrollMode.ScrollPerPixel)
        self.setAccessibleName("Standards")
        self._timer = QTimer(self)
        self._timer.setInterval(_FRAME_MS)
        self._timer.timeout.connect(self._tick)
        selection = self.selectionModel()
        assert selection is not None
        selection.currentChanged.connect(self._moved)
        self.doubleClicked.connect(lambda index: self._open(index))

    @property
    def model(self) -> StandardsModel:  # type: ignore[override]
        return self.model_

    def set_colours(self, colours: Mapping[str, str]) -> None:
        self.colours = colours
        self._repaint()

    def run(self, moving: bool) -> None:
        """Move or stop: only what is looked at costs time."""
        if moving and not self._timer.isActive():
            self._timer.start()
        elif not moving:
            self._timer.stop()

    def _tick(self) -> None:
        self.clock_s += _FRAME_MS / 1000.0
        self._repaint()

    def _repaint(self) -> None:
        viewport = self.viewport()
        if viewport is not None:
            viewport.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        self.catalogue = self.model_.doc.catalogue  # once for all tiles: it looks into the folder
        super().paintEvent(event)

    def refill(self) -> None:
        self._tiles.fill()
        self.show_chosen()

    def show_chosen(self) -> None:
        for i, (kind, what) in enumerate(self._tiles.rows):
            if kind == "standard" and what == self.model_.doc.chosen:
                index = self._tiles.index(i)
                if self.currentIndex() != index:
                    self.setCurrentIndex(index)
                self.scrollTo(index)
                return

    def _moved(self, now: QModelIndex, _before: QModelIndex) -> None:
        if now.isValid():
            kind, what = self._tiles.rows[now.row()]
            if kind == "standard":
                self.model_.show(self.model_.doc.choosing(what))

    def _open(self, index: QModelIndex) -> None:
        kind, what = self._tiles.rows[index.row()]
        if kind == "standard":
            self.opened.emit(what)


class StandardFigure(Canvas):
    """The chosen standard performed: drag to turn it, drag a ring to change the standard.

    changed : (handle's keys and values) once a ring is let go
    """

    pulled = pyqtSignal(object)
    let_go = pyqtSignal(object)

    def __init__(self, colours: Mapping[str, str], state: Callable[[], SheetState | None]) -> None:
        super().__init__(colours)
        self._state = state
        self._from: tuple[float, float] | None = None
        self._handle: str | None = None
        self._values: dict[str, float] = {}
        self.turn_deg = 0.0
        self.setMinimumSize(360, 300)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMouseTracking(True)
        self.setAccessibleName("The figure performs the standard; arrow keys turn it")
        self.setToolTip(
            "Drag to turn it, or use ← →. Drag a ring to change where the lift starts or ends."
        )

    def drawn(self, width: float, height: float) -> Drawing | None:
        state = self._state()
        return None if state is None else sheet(state, width, height)

    def look_from(self, turn_deg: float) -> None:
        self.turn_deg = turn_deg % 360.0
        self.redraw()

    def _near(self, x: float, y: float) -> str | None:
        state = self._state()
        if state is None:
            return None
        found = handles(state, self.width(), self.height())
        gaps = {
            name: float(((p[0] - x) ** 2 + (p[1] - y) ** 2) ** 0.5) for name, p in found.items()
        }
        best = min(gaps, key=lambda name: gaps[name], default=None)
        return best if best is not None and gaps[best] <= _NEAR_PX else None

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is None or event.button() != Qt.MouseButton.LeftButton:
            return
        x, y = event.position().x(), event.position().y()
        self._from, self._handle, self._values = (x, y), self._near(x, y), {}

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        if event is None:
            return
        x, y = event.position().x(), event.position().y()
        if self._from is None:
            near = self._near(x, y)
            self.setCursor(
                Qt.CursorShape.PointingHandCursor if near else Qt.CursorShape.OpenHandCursor
            )
            return
        state = self._state()
        if self._handle is None:
            # Dragging to the right turns the body's front to the right.
            self.look_from(self.turn_deg + _TURN_PER_PX * (x - self._from[0]))
            self._from = (x, y)
        elif state is not None:
            self._values = dragged(state, self._handle, x, y, self.width(), self.height())
            self.pulled.emit(self._values)

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        if self._handle is not None and self._values:
            self.let_go.emit(self._values)
        self._from, self._handle, self._values = None, None, {}

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is None:
            return
        step = {Qt.Key.Key_Left: -_KEY_TURN_DEG, Qt.Key.Key_Right: _KEY_TURN_DEG}.get(
            Qt.Key(event.key())
        )
        if step is None:
            super().keyPressEvent(event)
        else:
            self.look_from(self.turn_deg + step)


class PhaseBar(Canvas):
    """Lift, holds and lower of the standard's own tempo; click to see a moment."""

    asked = pyqtSignal(float)

    def __init__(self, colours: Mapping[str, str]) -> None:
        super().__init__(colours)
        self.cycle: Cycle | None = None
        self.at_s = 0.0
        self.setFixedHeight(46)
        self.setToolTip("The phases in true proportion. Click to look at a moment, space to go on.")

    def show_at(self, cycle: Cycle | None, at_s: float) -> None:
        self.cycle, self.at_s = cycle, at_s
        self.redraw()

    def drawn(self, width: float, height: float) -> Drawing | None:
        if self.cycle is None:
            return None
        return phase_bar(self.cycle.phases, self.cycle.length_s, self.at_s, width, height)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is not None and self.cycle is not None:
            share = (event.position().x() - 8.0) / max(self.width() - 16.0, 1.0)
            self.asked.emit(min(max(share, 0.0), 1.0) * self.cycle.length_s)
