"""The instruments of the setup's place."""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np
from PyQt6.QtCore import QPointF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QMouseEvent, QPainter, QPen, QWheelEvent

from guide_arc.app.look.marks import paint_mark
from guide_arc.app.look.type import type_of
from guide_arc.app.places.setup.beside import rings
from guide_arc.app.places.setup.document import kit_words
from guide_arc.app.places.setup.joints import joint_lines
from guide_arc.app.places.setup.model import SetupModel
from guide_arc.app.places.setup.moving import dragged, handles
from guide_arc.app.places.setup.saying import says
from guide_arc.app.places.setup.wishing import choosing
from guide_arc.app.widgets.canvas import Canvas
from guide_arc.drawings.setup_sheet import (
    Look,
    frame_of,
    joint_strip,
    load_dial,
    setup_view,
    torque_strip,
)
from guide_arc.drawings.shapes import Disc, Drawing

_NEAR_PX = 16.0


class BodyView(Canvas):
    """The body and the pull; what can be moved is dragged, the wheel goes along the lift."""

    def __init__(self, model: SetupModel, colours: Mapping[str, str]) -> None:
        super().__init__(colours)
        self.model = model
        self.look: Look = "front"
        self._held: str | None = None
        self.setMinimumSize(360, 230)
        self.setMouseTracking(True)
        self.setAccessibleName("Where the pull comes from")

    def show_look(self, look: Look) -> None:
        self.look = look
        self.redraw()

    def drawn(self, width: float, height: float) -> Drawing | None:
        state = self.model.doc.state
        if state is None:
            return None
        out = setup_view(state, self.look, width, height)
        frame = frame_of(self.look, width, height)
        for name, spot in handles(self.model.doc, self.look).items():
            if name in ("feet", "trunk"):
                x, y = frame.place(np.array(spot))
                out.add(Disc(float(x), float(y), 6.0, "panel", "guide", 2.0))
        return out

    def _under(self, event: QMouseEvent) -> str | None:
        frame = frame_of(self.look, self.width(), self.height())
        at, near = event.position(), {}
        for name, spot in handles(self.model.doc, self.look).items():
            x, y = frame.place(np.array(spot))
            near[name] = float(np.hypot(x - at.x(), y - at.y()))
        best = min(near, key=lambda name: near[name], default=None)
        return best if best is not None and near[best] < _NEAR_PX else None

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is not None and event.button() == Qt.MouseButton.LeftButton:
            self._held = self._under(event)

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        if event is None:
            return
        if self._held is None:
            over = self._under(event) is not None
            self.setCursor(Qt.CursorShape.OpenHandCursor if over else Qt.CursorShape.ArrowCursor)
            return
        before = handles(self.model.doc, self.look).get(self._held)
        if before is None:
            return
        frame = frame_of(self.look, self.width(), self.height())
        spot = frame.world(event.position().x(), event.position().y(), before)
        self.model.move(dragged(self.model.doc, self._held, spot))

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        if self._held is not None:
            self._held = None
            self.model.let_go()

    def wheelEvent(self, event: QWheelEvent | None) -> None:
        if event is not None:
            self.model.go_to(self.model.doc.at + (8 if event.angleDelta().y() > 0 else -8))


class LoadDialView(Canvas):
    def __init__(self, model: SetupModel, colours: Mapping[str, str]) -> None:
        super().__init__(colours)
        self.model = model
        self.setMinimumSize(230, 130)
        self.setAccessibleName("Load over the arc")

    def drawn(self, width: float, height: float) -> Drawing:
        doc = self.model.doc
        alike = doc.beside != "kilograms"
        return load_dial(width, height, rings(doc), doc.at, alike=alike)


class StripView(Canvas):
    def __init__(self, model: SetupModel, colours: Mapping[str, str]) -> None:
        super().__init__(colours)
        self.model = model
        self.setMinimumHeight(90)
        self.setAccessibleName("Torque over the lift")

    def drawn(self, width: float, height: float) -> Drawing:
        doc = self.model.doc
        lines = joint_lines(doc)
        if lines:
            return joint_strip(width, height, lines, doc.path.share, doc.at)
        return torque_strip(width, height, rings(doc), doc.at)


class FoundView(Canvas):
    """The setups that were found, best first; a click chooses, a second one takes it."""

    used = pyqtSignal()
    _ROW = 72

    def __init__(self, model: SetupModel, colours: Mapping[str, str]) -> None:
        super().__init__(colours)
        self.model = model
        self.setMinimumHeight(self._ROW)
        self.setAccessibleName("Setups found")

    def redraw(self) -> None:
        self.setMinimumHeight(max(len(self.model.doc.found), 1) * self._ROW)
        super().redraw()

    def drawn(self, width: float, height: float) -> Drawing:
        return Drawing(width, height)

    def under(self, painter: QPainter) -> None:
        c, doc = self.colours, self.model.doc
        wrapped = Qt.AlignmentFlag.AlignLeft | Qt.TextFlag.TextWordWrap
        if not doc.found:
            painter.setPen(QPen(QColor(c["muted"])))
            painter.setFont(type_of(12, False))
            rect = QRectF(2, 6, self.width() - 4, self._ROW - 6)
            painter.drawText(rect, int(wrapped), "The five nearest setups will be shown here.")
        for i, setup in enumerate(doc.found):
            top = i * self._ROW
            if i == doc.chosen:
                painter.fillRect(QRectF(0, top + 4, 3, self._ROW - 8), QColor(c["guide"]))
            painter.setPen(QPen(QColor(c["ink"])))
            painter.setFont(type_of(12.5, True))
            rect = QRectF(12, top + 4, self.width() - 14, 34)
            words = kit_words(doc, setup.kit, setup.bench_deg, weight=False)
            painter.drawText(rect, int(wrapped), words)
            painter.setFont(type_of(11.5, False))
            painter.setPen(QPen(QColor(c["muted"])))
            hardest = setup.curve.hardest
            told = (
                f"hardest at {hardest.angle_deg:.0f}°, at least {setup.curve.least_pct:.0f} % of it"
                if hardest is not None
                else "nothing resists the lift"
            )
            steady = f"a hand's width moves it {setup.moves_deg:.0f}°"
            for line, y in ((told, 38), (steady, 53)):
                painter.drawText(
                    QRectF(12, top + y, self.width() - 14, 16),
                    int(Qt.AlignmentFlag.AlignLeft),
                    line,
                )

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is None:
            return
        row = int(event.position().y() // self._ROW)
        doc = self.model.doc
        if row == doc.chosen and row < len(doc.found):
            self.model.use_found()
        else:
            self.model.show(choosing(doc, row))


class MeaningView(Canvas):
    """What it means: a shape and two lines for each thing."""

    _ROW = 40

    def __init__(self, model: SetupModel, colours: Mapping[str, str]) -> None:
        super().__init__(colours)
        self.model = model
        self.setMinimumHeight(3 * self._ROW)
        self.setAccessibleName("What it means")

    def drawn(self, width: float, height: float) -> Drawing:
        return Drawing(width, height)

    def under(self, painter: QPainter) -> None:
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        said = says(self.model.doc)
        # Parts without room below are placed to the right.
        rows = max(self.height() // self._ROW, 1)
        wide = self.width() / max(-(-len(said) // rows), 1)
        for i, one in enumerate(said):
            left, top = (i // rows) * wide, (i % rows) * self._ROW
            paint_mark(painter, left + 20, top + 13, one.verdict, 10, self.colours)
            for words, y, size, role in (
                (one.words, 17, 12.5, "ink"),
                (one.more, 33, 11.5, "muted"),
            ):
                painter.setFont(type_of(size, False))
                painter.setPen(QPen(QColor(self.colours[role])))
                fitted = painter.fontMetrics().elidedText(
                    words, Qt.TextElideMode.ElideRight, int(wide) - 52
                )
                painter.drawText(QPointF(left + 38, top + y), fitted)
        self.setAccessibleDescription("; ".join(f"{s.words} {s.more}" for s in said))
