"""The instruments of the review place that show one moment or one rep: path, arc dial, shelf, and
the lists of numbers."""

from __future__ import annotations

from collections.abc import Mapping

from PyQt6.QtCore import QSize
from PyQt6.QtGui import QMouseEvent, QResizeEvent
from PyQt6.QtWidgets import QWidget

from guide_arc.app.places.review.model import ReviewModel
from guide_arc.app.widgets.canvas import Canvas
from guide_arc.core.kinematics.measures.registry import spec_of_measure
from guide_arc.core.model.units import UNIT
from guide_arc.drawings.comparison import ComparisonState, comparison
from guide_arc.drawings.dial import DialState, RepKey, arc_dial, ring_at
from guide_arc.drawings.evidence import limit_on_dial
from guide_arc.drawings.numbers import NumbersState, lines_of, numbers
from guide_arc.drawings.paths import PathState, path_panel
from guide_arc.drawings.shapes import Drawing, Role
from guide_arc.drawings.shelf import ShelfState, rep_at, rep_shelf
from guide_arc.drawings.stage import StageState


class Instrument(Canvas):
    """A canvas on the review's model."""

    def __init__(
        self, model: ReviewModel, colours: Mapping[str, str], parent: QWidget | None = None
    ) -> None:
        super().__init__(colours, parent)
        self.model = model

    def marked(self) -> frozenset[RepKey]:
        """The reps of the chosen finding, unless it is fine in all of them."""
        finding, measured = self.model.doc.finding, self.model.doc.measured
        if finding is None or measured is None or finding.verdict not in ("off", "near"):
            return frozenset()
        return frozenset(rep.key for rep in measured.review.reps if finding.is_about(rep))

    def chosen(self) -> RepKey | None:
        return self.model.doc.rep.key if self.model.doc.rep else None


class PathView(Instrument):
    """Elbow and hand against the corridor, all reps."""

    def drawn(self, width: float, height: float) -> Drawing | None:
        m = self.model
        if m.doc.measured is None:
            return None
        side = StageState(m.doc.measured, m.playback.at_s, m.doc.looking, m.doc.finding).side
        return path_panel(
            PathState(m.doc.measured, side, self.chosen(), self.marked()), width, height
        )


class _Sheet(Instrument):
    """An instrument as tall as its drawing asks, for a place that scrolls."""

    def tall(self, width: float) -> Drawing | None:
        """The drawing at a width; None leaves the sheet empty."""
        raise AssertionError("a sheet says what it draws")

    def drawn(self, width: float, height: float) -> Drawing | None:
        return self.tall(width)

    def redraw(self) -> None:
        self._fit()
        super().redraw()

    def _fit(self) -> None:
        drawing = self.tall(float(max(self.width(), 200)))
        self.setMinimumHeight(round(drawing.height) if drawing else 40)

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        if event is not None and event.oldSize().width() != event.size().width():
            self._fit()

    def sizeHint(self) -> QSize:
        return QSize(260, self.minimumHeight())


class NumbersView(_Sheet):
    """Every figure of every rep."""

    def tall(self, width: float) -> Drawing | None:
        m = self.model
        if m.doc.measured is None or not self.isVisible():
            return None
        lines = lines_of(m.doc.measured.figures)
        return numbers(NumbersState(lines, self.chosen()), width)


class CompareView(_Sheet):
    """The open set, or its chosen rep, against the ghost."""

    state: ComparisonState | None = None

    def show_state(self, state: ComparisonState | None) -> None:
        self.state = state
        self.redraw()

    def tall(self, width: float) -> Drawing | None:
        return None if self.state is None else comparison(self.state, width)


class DialView(Instrument):
    """The arc dial. A click on a ring goes to that rep."""

    def state(self) -> DialState | None:
        m = self.model
        if m.doc.measured is None:
            return None
        review = m.doc.measured.review
        measure = review.reps[0].measure if review.reps else review.standard.drive
        drives = list(m.doc.measured.repset.drives.values())
        intended = drives[0].intended if drives else review.standard.range
        finding = m.doc.finding
        limit = limit_on_dial(m.doc.measured, finding) if finding else None
        line, role = _dial_line(m)
        return DialState(
            joint=spec_of_measure(measure).joint,
            intended=intended,
            rings=m.doc.measured.rings,
            chosen=self.chosen(),
            marked=self.marked(),
            limit_deg=limit,
            limit_u_deg=(finding.uncertainty or 0.0) if finding and limit is not None else 0.0,
            line=line,
            line_role=role,
            sign=UNIT[spec_of_measure(measure).unit],
        )

    def drawn(self, width: float, height: float) -> Drawing | None:
        state = self.state()
        return None if state is None else arc_dial(state, width, height)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        state = self.state()
        if state is None or event is None or self.model.doc.measured is None:
            return
        at = event.position()
        key = ring_at(state, self.width(), self.height(), at.x(), at.y())
        rep = next((r for r in self.model.doc.measured.review.reps if r.key == key), None)
        if rep is not None:
            self.model.choose_rep(rep)


def _dial_line(m: ReviewModel) -> tuple[str, Role]:
    """One sentence under the dial: the range of the chosen rep against the intended one."""
    assert m.doc.measured is not None
    review = m.doc.measured.review
    rep = m.doc.rep or (review.reps[-1] if review.reps else None)
    if rep is None:
        return "no reps", "muted"
    drive = m.doc.measured.repset.drives[rep.side]
    short = drive.intended.direction * (drive.intended.to_deg - rep.to_deg)
    name, sign = f"rep {rep.number}", UNIT[spec_of_measure(rep.measure).unit]
    tolerance = drive.intended.tolerance_deg
    if short > tolerance:
        return f"short by {short:.0f}{sign} at {name}", "off"
    if short < -tolerance:
        return f"past by {-short:.0f}{sign} at {name}", "off"
    return f"{name}: {abs(rep.to_deg - rep.from_deg):.0f}{sign} of range", "ink"


class ShelfView(Instrument):
    """The rep shelf. A click goes to that rep."""

    def state(self) -> ShelfState | None:
        measured = self.model.doc.measured
        return None if measured is None else ShelfState(measured, self.chosen(), self.marked())

    def drawn(self, width: float, height: float) -> Drawing | None:
        state = self.state()
        return None if state is None else rep_shelf(state, width, height)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        state = self.state()
        if state is None or event is None:
            return
        at = event.position()
        rep = rep_at(state, self.width(), self.height(), at.x(), at.y())
        if rep is not None:
            self.model.choose_rep(rep)
