"""The instruments of the review place: stage, arc dial, tempo ribbon, rep shelf."""

from __future__ import annotations

from collections.abc import Mapping

from PyQt6.QtCore import QPointF, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QMouseEvent, QPainter, QPen, QPolygonF
from PyQt6.QtWidgets import QWidget

from guide_arc.app.instruments.canvas import Canvas
from guide_arc.app.viewmodels.review import ReviewModel
from guide_arc.drawings.dial import DialState, RepKey, arc_dial, ring_at, worst_by_rep
from guide_arc.drawings.evidence import limit_on_dial
from guide_arc.drawings.ribbon import RibbonState, tempo_ribbon, time_at, x_of
from guide_arc.drawings.shapes import Drawing, Role
from guide_arc.drawings.shelf import ShelfState, rep_at, rep_shelf
from guide_arc.drawings.stage import StageState, stage
from guide_arc.drawings.words import JOINT


class _Instrument(Canvas):
    def __init__(
        self, model: ReviewModel, colours: Mapping[str, str], parent: QWidget | None = None
    ) -> None:
        super().__init__(colours, parent)
        self.model = model

    def marked(self) -> frozenset[RepKey]:
        """The reps of the chosen finding, unless it is fine in all of them."""
        finding, measured = self.model.finding, self.model.measured
        if finding is None or measured is None or finding.verdict not in ("off", "near"):
            return frozenset()
        return frozenset(rep.key for rep in measured.review.reps if finding.is_about(rep))

    def chosen(self) -> RepKey | None:
        return self.model.rep.key if self.model.rep else None


class StageView(_Instrument):
    """The body at the clock's moment."""

    def drawn(self, width: float, height: float) -> Drawing | None:
        m = self.model
        if m.measured is None:
            return None
        return stage(StageState(m.measured, m.playback.at_s, m.looking, m.finding), width, height)


class DialView(_Instrument):
    """The arc dial. A click on a ring goes to that rep."""

    def state(self) -> DialState | None:
        m = self.model
        if m.measured is None:
            return None
        review = m.measured.review
        measure = review.reps[0].measure if review.reps else review.standard.drive
        drives = list(m.measured.repset.drives.values())
        intended = drives[0].intended if drives else review.standard.range
        finding = m.finding
        limit = limit_on_dial(m.measured, finding) if finding else None
        line, role = _dial_line(m)
        return DialState(
            joint=JOINT[measure],
            intended=intended,
            rings=m.measured.rings,
            chosen=self.chosen(),
            marked=self.marked(),
            limit_deg=limit,
            limit_u_deg=(finding.uncertainty or 0.0) if finding and limit is not None else 0.0,
            line=line,
            line_role=role,
        )

    def drawn(self, width: float, height: float) -> Drawing | None:
        state = self.state()
        return None if state is None else arc_dial(state, width, height)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        state = self.state()
        if state is None or event is None or self.model.measured is None:
            return
        at = event.position()
        key = ring_at(state, self.width(), self.height(), at.x(), at.y())
        rep = next((r for r in self.model.measured.review.reps if r.key == key), None)
        if rep is not None:
            self.model.choose_rep(rep)


def _dial_line(m: ReviewModel) -> tuple[str, Role]:
    """One sentence under the dial: the range of the chosen rep against the intended one."""
    assert m.measured is not None
    review = m.measured.review
    rep = m.rep or (review.reps[-1] if review.reps else None)
    if rep is None:
        return "no reps", "muted"
    drive = m.measured.repset.drives[rep.side]
    short = drive.intended.direction * (drive.intended.to_deg - rep.to_deg)
    name = f"rep {rep.number}"
    tolerance = drive.intended.tolerance_deg
    if short > tolerance:
        return f"short by {short:.0f}° at {name}", "off"
    if short < -tolerance:
        return f"past by {-short:.0f}° at {name}", "off"
    return f"{name}: {abs(rep.to_deg - rep.from_deg):.0f}° of range", "ink"


class RibbonView(_Instrument):
    """The tempo ribbon. Press and drag to scrub; a click on a rep chooses it."""

    scrubbing = pyqtSignal(bool)

    def __init__(
        self, model: ReviewModel, colours: Mapping[str, str], parent: QWidget | None = None
    ) -> None:
        super().__init__(model, colours, parent)
        self.setCursor(Qt.CursorShape.PointingHandCursor)

    def state(self) -> RibbonState | None:
        m = self.model
        if m.measured is None:
            return None
        review = m.measured.review
        return RibbonState(
            duration_s=m.playback.end_s - m.playback.start_s,
            start_s=m.playback.start_s,
            tracks=m.measured.tracks,
            tempo=review.tempo,
            verdicts=worst_by_rep(review),
            chosen=self.chosen(),
            marked=self.marked(),
            loop=m.playback.loop,
        )

    def drawn(self, width: float, height: float) -> Drawing | None:
        state = self.state()
        return None if state is None else tempo_ribbon(state, width, height)

    def over(self, painter: QPainter) -> None:
        state = self.state()
        if state is None:
            return
        x = x_of(state, self.width(), self.model.playback.at_s)
        painter.setPen(QPen(QColor(self.colours["guide"]), 1.6))
        painter.drawLine(QPointF(x, 0), QPointF(x, self.height() - 18))
        painter.setBrush(QColor(self.colours["guide"]))
        painter.setPen(Qt.PenStyle.NoPen)
        painter.drawPolygon(QPolygonF([QPointF(x - 5, 0), QPointF(x + 5, 0), QPointF(x, 7)]))

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is not None and event.button() == Qt.MouseButton.LeftButton:
            self.scrubbing.emit(True)
            self._scrub(event)

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        if event is not None and event.buttons() & Qt.MouseButton.LeftButton:
            self._scrub(event)

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        self.scrubbing.emit(False)

    def _scrub(self, event: QMouseEvent) -> None:
        state = self.state()
        if state is not None:
            self.model.playback.pause()
            self.model.playback.go_to(time_at(state, self.width(), event.position().x()))


class ShelfView(_Instrument):
    """The rep shelf. A click goes to that rep."""

    def drawn(self, width: float, height: float) -> Drawing | None:
        m = self.model
        if m.measured is None:
            return None
        return rep_shelf(ShelfState(m.measured, self.chosen(), self.marked()), width, height)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        m = self.model
        if m.measured is None or event is None:
            return
        reps = m.measured.review.reps
        at = event.position()
        index = rep_at(len(reps), self.width(), self.height(), at.x(), at.y())
        if index is not None:
            m.choose_rep(reps[index])
