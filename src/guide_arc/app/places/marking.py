"""The marking place: joints and kit on a clip's picture, scale and vertical, and the trackers."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Final

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import (
    QComboBox,
    QDoubleSpinBox,
    QFormLayout,
    QFrame,
    QGridLayout,
    QHBoxLayout,
    QLabel,
    QListWidget,
    QListWidgetItem,
    QProgressBar,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from guide_arc.app.instruments.clip_frames import ClipFrames
from guide_arc.app.instruments.marking_view import MarkingStrip, MarkingView
from guide_arc.app.places.details import VIEW_WORDS, AskingDialog
from guide_arc.app.viewmodels.marking import MarkingModel, Tool
from guide_arc.core.kinematics.calibrate import calibration_of
from guide_arc.core.model.marks import LineKind
from guide_arc.drawings.marking import point_words

# What usually stands in a picture with a known length, metres.
_KNOWN: Final = (
    ("a large plate", 0.45), ("a long bar", 2.20), ("a short bar", 1.20), ("a measuring pole", 1.00),
    ("the client, standing upright", 1.75), ("something else", 0.50),
)  # fmt: skip
_TOOLS: Final[tuple[tuple[LineKind, str, str], ...]] = (
    ("length", "Known length", "Draw along something whose length you know (plate, bar, stature), where the person stands"),
    ("plumb", "Plumb line", "Draw along something that hangs or stands upright: a door frame, a rack"),
    ("level", "Level line", "Draw along something that lies level and faces the camera: a shelf, the floor's edge"),
)  # fmt: skip


@dataclass(frozen=True)
class TrackerOffer:
    """One tracker as the place offers it. `why_not`: what it would take, where it can't work now."""

    name: str
    words: str
    tip: str
    why_not: str | None


class LengthDialog(AskingDialog):
    """What the drawn line is, and how long."""

    def __init__(self, parent: QWidget, stature_m: float | None) -> None:
        super().__init__(parent, "Known length", "Use it")
        self.what = QComboBox()
        for words, metres in _KNOWN:
            self.what.addItem(words, stature_m if "client" in words and stature_m else metres)
        self.metres = QDoubleSpinBox()
        self.metres.setRange(0.05, 20.0)
        self.metres.setDecimals(3)
        self.metres.setSingleStep(0.01)
        self.metres.setSuffix(" m")
        self.what.currentIndexChanged.connect(
            lambda _i: self.metres.setValue(float(self.what.currentData()))
        )
        self.metres.setValue(float(self.what.currentData()))
        form = QFormLayout()
        form.setSpacing(8)
        form.addRow("The line is along", self.what)
        form.addRow("and is as long as", self.metres)
        self.box.addLayout(form)
        self.finish()


class MarkingPlace(QWidget):
    """The picture with its strip to the left; points, calibration and trackers to the right."""

    follow_asked = pyqtSignal(str)
    stop_asked = pyqtSignal()
    offers_old = pyqtSignal()

    def __init__(self, model: MarkingModel, colours: Mapping[str, str]) -> None:
        super().__init__()
        self.model = model
        self._offered_with_marks = False
        self.stature_of: Callable[[], float | None] = lambda: None
        self.view = MarkingView(model, colours)
        self.strip = MarkingStrip(model, colours)
        self.view.setMinimumSize(480, 320)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        left = QFrame()
        left.setObjectName("panel")
        box = QVBoxLayout(left)
        box.setContentsMargins(1, 1, 1, 4)
        box.setSpacing(0)
        box.addWidget(self.view, 1)
        box.addWidget(self.strip)
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(10)
        row.addWidget(left, 1)
        row.addWidget(self._side())
        model.opened.connect(self._opened)
        model.changed.connect(self.refresh)
        model.moved.connect(lambda _frame: self.refresh())
        self.view.drawn_line.connect(self._drawn)

    def _side(self) -> QWidget:
        side = QWidget()
        side.setFixedWidth(304)
        box = QVBoxLayout(side)
        box.setContentsMargins(0, 0, 0, 0)
        box.setSpacing(8)
        self.what_next = QLabel()
        self.what_next.setObjectName("next")
        self.what_next.setWordWrap(True)
        box.addWidget(self.what_next)
        self.seen_from = QComboBox()
        self.seen_from.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        for view, words in VIEW_WORDS.items():
            self.seen_from.addItem(f"Seen {words}", view)
        self.seen_from.activated.connect(
            lambda _i: self.model.see_from(self.seen_from.currentData())
        )
        box.addWidget(self.seen_from)
        self.points = QListWidget()
        self.points.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.points.itemClicked.connect(
            lambda item: self.model.choose(item.data(Qt.ItemDataRole.UserRole))
        )
        box.addWidget(self.points, 1)
        self.other = QComboBox()
        self.other.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.other.activated.connect(self._other)
        box.addWidget(self.other)
        box.addWidget(_rule("Scale and vertical"))
        grid = QGridLayout()
        grid.setHorizontalSpacing(8)
        grid.setVerticalSpacing(4)
        self.tools: dict[Tool, QPushButton] = {}
        self.told: dict[Tool, QLabel] = {}
        self.clear: dict[Tool, QPushButton] = {}
        for i, (kind, words, tip) in enumerate((*_TOOLS, ("person", "This person", "Draw a box about the person meant, where several are in view"))):  # fmt: skip
            self._tool_row(grid, i, kind, words, tip)  # type: ignore[arg-type]
        grid.setColumnStretch(1, 1)
        box.addLayout(grid)
        box.addWidget(_rule("Landmarks"))
        self.trackers = QVBoxLayout()
        self.trackers.setSpacing(6)
        box.addLayout(self.trackers)
        self.progress = QProgressBar()
        self.progress.setTextVisible(True)
        self.stop = QPushButton("Stop")
        self.stop.setObjectName("small")
        self.stop.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.stop.clicked.connect(self.stop_asked)
        busy = QHBoxLayout()
        busy.addWidget(self.progress, 1)
        busy.addWidget(self.stop)
        box.addLayout(busy)
        self.show_progress(None)
        return side

    def _tool_row(self, grid: QGridLayout, row: int, kind: Tool, words: str, tip: str) -> None:
        button = QPushButton(words)
        button.setObjectName("small")
        button.setCheckable(True)
        button.setToolTip(tip)
        button.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        button.clicked.connect(lambda _on, k=kind: self.model.use(k))
        told = QLabel()
        told.setObjectName("hint")
        told.setWordWrap(True)
        clear = QPushButton("×")
        clear.setObjectName("flat")
        clear.setFixedWidth(26)
        clear.setToolTip("Take it away")
        clear.setAccessibleName(f"Take away: {words}")
        clear.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        clear.clicked.connect(
            lambda _on, k=kind: (
                self.model.clear_person() if k == "person" else self.model.clear_line(k)
            )
        )
        grid.addWidget(button, row, 0)
        grid.addWidget(told, row, 1)
        grid.addWidget(clear, row, 2)
        self.tools[kind], self.told[kind], self.clear[kind] = button, told, clear

    # What is shown

    def _opened(self) -> None:
        self.other.clear()
        self.other.addItem("Mark something else…", None)
        for name in self.model.others():
            self.other.addItem(point_words(name), name)

    def show_clip(self, frames: ClipFrames | None) -> None:
        self.view.show_clip(frames)
        self.setFocus()

    def offer(self, offers: list[TrackerOffer]) -> None:
        """The trackers and what each would do; the first one that can work is the main one."""
        while (item := self.trackers.takeAt(0)) is not None:
            widget = item.widget()
            if widget is not None:
                widget.deleteLater()
        first = next((o.name for o in offers if o.why_not is None), None)
        for offer in offers:
            button = QPushButton(offer.words)
            button.setFocusPolicy(Qt.FocusPolicy.NoFocus)
            button.setToolTip(offer.why_not or offer.tip)
            button.setEnabled(offer.why_not is None)
            if offer.name == first:
                button.setObjectName("main")
            button.clicked.connect(lambda _on, n=offer.name: self.follow_asked.emit(n))
            self.trackers.addWidget(button)
            if offer.why_not is not None and offer.name == "pose model":
                why = QLabel(offer.why_not)
                why.setObjectName("hint")
                why.setWordWrap(True)
                why.setTextInteractionFlags(Qt.TextInteractionFlag.TextSelectableByMouse)
                self.trackers.addWidget(why)

    def show_progress(self, share: float | None, words: str = "") -> None:
        """How far a tracker is; None when none works."""
        self.progress.setVisible(share is not None)
        self.stop.setVisible(share is not None)
        if share is not None:
            self.progress.setValue(round(100 * share))
            self.progress.setFormat(f"{words} %p %")

    def refresh(self) -> None:
        m = self.model
        if m.record is None:
            return
        self.what_next.setText(self._next_words())
        self.seen_from.setCurrentIndex(self.seen_from.findData(m.marks.view))
        self._list()
        known = calibration_of(m.marks)
        scale, vertical = known.px_per_m, known.vertical_deg
        told = {
            "length": f"{scale.value:.0f} ± {2 * scale.u:.0f} px a metre" if scale else "none: lengths by stature",
            "plumb": "", "level": "",
            "person": "the one in the box" if m.marks.person else "whoever is in view",
        }  # fmt: skip
        lean = f"leans {vertical.value:+.1f}° ± {2 * vertical.u:.1f}°" if vertical else "none"
        for kind in ("plumb", "level"):
            told[kind] = lean if m.marks.line(kind) else "none"
        for kind, button in self.tools.items():
            button.setChecked(m.tool == kind)
            self.told[kind].setText(told[kind])
            there = m.marks.person is not None if kind == "person" else bool(m.marks.line(kind))  # type: ignore[arg-type]
            self.clear[kind].setVisible(there)
        if bool(m.marks.points) != self._offered_with_marks:
            self._offered_with_marks = bool(m.marks.points)
            self.offers_old.emit()

    def _next_words(self) -> str:
        m = self.model
        if m.tool in ("length", "plumb", "level"):
            return "Draw the line from one end to the other."
        if m.tool == "person":
            return "Draw a box about the person, head to feet."
        doubt = next(
            (d for d in m.doubts if d.point == m.point and d.start <= m.frame < d.stop), None
        )
        if doubt is not None:
            return f"Is the {point_words(m.point).lower()} here? Click where it is."
        left = [n for n in m.asked() if n not in m.marks.points]
        if not left and m.point in m.asked():
            return "All is marked. Follow the marks, or click to correct one."
        return f"Click the {point_words(m.point).lower()}."

    def _list(self) -> None:
        m = self.model
        names = [*m.asked(), *(n for n in m.marks.points if n not in m.asked())]
        if m.point and m.point not in names:
            names.append(m.point)
        self.points.clear()
        doubts = [d.point for d in m.doubts]
        for name in names:
            own = m.marks.points.get(name, ())
            here = m.marks.marked(name, m.frame) is not None
            sign = "●" if here else "◐" if own else "○"
            more = f"   {len(own)} marks" if len(own) > 1 else ""
            if name in doubts:
                more += f"   {doubts.count(name)} to look at"
            item = QListWidgetItem(f"{sign}  {point_words(name)}{more}")
            item.setData(Qt.ItemDataRole.UserRole, name)
            self.points.addItem(item)
            if name == m.point and m.tool == "points":
                item.setSelected(True)
                self.points.setCurrentItem(item)

    def _other(self, _index: int) -> None:
        name = self.other.currentData()
        self.other.setCurrentIndex(0)
        if name:
            self.model.choose(name)

    # Lines

    def _drawn(self, a: tuple[float, float], b: tuple[float, float]) -> None:
        if self.model.tool != "length":
            self.model.draw(a, b)
            return
        dialog = LengthDialog(self, self.stature_of())
        dialog.accepted.connect(
            lambda: self.model.draw(a, b, dialog.metres.value(), dialog.what.currentText())
        )
        dialog.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        dialog.open()

    def set_colours(self, colours: Mapping[str, str]) -> None:
        self.view.set_colours(colours)
        self.strip.set_colours(colours)


def _rule(words: str) -> QLabel:
    label = QLabel(words)
    label.setObjectName("heading")
    return label
