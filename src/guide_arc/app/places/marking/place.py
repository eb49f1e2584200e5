"""The marking place: joints and kit on a clip's picture, scale and vertical, and the trackers."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Final

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import (
    QComboBox,
    QFrame,
    QGridLayout,
    QHBoxLayout,
    QLabel,
    QListWidget,
    QListWidgetItem,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from guide_arc.app.contract.job import Job, alone, on_library
from guide_arc.app.contract.place import HeaderParts
from guide_arc.app.contract.signal import silence
from guide_arc.app.places.marking.desk import MarkingProgramDesk
from guide_arc.app.places.marking.document import DrawingTool, drawn, seen_from
from guide_arc.app.places.marking.length_dialog import LengthDialog
from guide_arc.app.places.marking.mirror import MirrorBox
from guide_arc.app.places.marking.model import MarkingModel
from guide_arc.app.places.marking.needs import MarkingNeeds
from guide_arc.app.places.marking.next_step import next_words
from guide_arc.app.places.marking.trackers import TRACKERS, TrackerButtons
from guide_arc.app.places.marking.view import MarkingStrip, MarkingView
from guide_arc.app.services.destinations import ToMarking, ToQueue, ToReview
from guide_arc.app.services.set_jobs import OpenedSet
from guide_arc.app.widgets.asking import open_dialog
from guide_arc.app.widgets.view_words import VIEW_WORDS
from guide_arc.core.kinematics.calibrate import calibration_of
from guide_arc.drawings.days import day_words
from guide_arc.drawings.marking import point_words
from guide_arc.lazily import lazily

with lazily():
    from guide_arc.app.services import clip_jobs

_TOOLS: Final[tuple[tuple[DrawingTool, str, str], ...]] = (
    (
        "length",
        "Known length",
        "Draw along something of known length (plate, bar, stature), as far away as the person",
    ),
    (
        "plumb",
        "Plumb line",
        "Draw along something vertical: a door frame, a rack, a hanging cable",
    ),
    (
        "level",
        "Level line",
        "Draw along something level that faces the camera: a shelf, the edge of the floor",
    ),
    ("person", "This person", "Draw a box about the person meant, where several are in view"),
)

_BY_MARKS: Final = "marked points"
_BY_MODEL: Final = "pose model"


def make(program: MarkingNeeds) -> MarkingPlace:
    place = MarkingPlace(program)
    program.recoloured.connect(place.set_colours)
    program.library.gone.connect(place.sets_gone)
    program.closing.connect(lambda: silence(place.model))
    return place


class MarkingPlace(QWidget):
    """The picture with its strip to the left; points, calibration and trackers to the right."""

    def __init__(self, program: MarkingNeeds) -> None:
        super().__init__()
        self.program = program
        colours = program.colours
        model = self.model = MarkingModel(MarkingProgramDesk(program))
        model.refused.connect(program.say)
        model.changed.connect(program.changed)
        model.was_meant.connect(lambda: self.find_landmarks(_BY_MODEL))
        self._offered_with_marks = False
        self._stature_m: float | None = None
        self.shown = False
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
            lambda _i: self.model.change(seen_from(self.model.doc, self.seen_from.currentData()))
        )
        box.addWidget(self.seen_from)
        self.mirror = MirrorBox(self.program, self.model)
        box.addWidget(self.mirror)
        self.points = QListWidget()
        self.points.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.points.itemClicked.connect(
            lambda item: self._choose(item.data(Qt.ItemDataRole.UserRole))
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
        self.tools: dict[DrawingTool, QPushButton] = {}
        self.told: dict[DrawingTool, QLabel] = {}
        self.clear: dict[DrawingTool, QPushButton] = {}
        for i, (kind, words, tip) in enumerate(_TOOLS):
            self._tool_row(grid, i, kind, words, tip)
        grid.setColumnStretch(1, 1)
        box.addLayout(grid)
        box.addWidget(_rule("Landmarks"))
        self.trackers = TrackerButtons()
        self.trackers.asked.connect(self.find_landmarks)
        box.addWidget(self.trackers)
        return side

    def _tool_row(
        self, grid: QGridLayout, row: int, kind: DrawingTool, words: str, tip: str
    ) -> None:
        button = QPushButton(words)
        button.setObjectName("small")
        button.setCheckable(True)
        button.setToolTip(tip)
        button.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        button.clicked.connect(lambda _on, k=kind: self.model.show(self.model.doc.using(k)))
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

    def _choose(self, point: str) -> None:
        self.model.show(self.model.doc.choosing(point))

    # As the shell sees it

    def enter(self, to: ToMarking) -> None:
        self.shown = True
        self.setFocus()
        if to.opened is not None:
            self._open(to.opened)
            return
        wanted = to.set_id if to.set_id is not None else self.program.sets.doc.chosen
        record = self.model.doc.record
        if wanted is not None and (record is None or record.id != wanted):
            self.program.measuring.open_marks(wanted)

    def leave(self) -> None:
        self.shown = False

    def header(self) -> HeaderParts:
        record = self.model.doc.record
        if record is None or self.model.doc.standard is None:
            return HeaderParts(title="Marks", position="no clip is open")
        found = f"found by {record.tracked_by}" if record.tracked_by else "none found yet"
        return HeaderParts(
            title=record.client,
            what=self.model.doc.standard.name,
            when=f"{day_words(record.recorded)}, landmarks",
            position=found,
        )

    def _open(self, opened: OpenedSet) -> None:
        frames = self.program.clips.frames(opened)
        if opened.clip_missing or frames is None or opened.clip is None or opened.marks is None:
            self.program.say(
                opened.clip_missing or "This set came as landmarks; there is no clip to mark."
            )
            if self.model.doc.record is None:
                self.program.go(ToQueue())
            return
        self.program.sets.choose(opened.record.id)
        self.program.remembered.keep("set", str(opened.record.id))
        self._stature_m = opened.stature_m
        self.view.show_clip(frames)
        people = opened.search.people if opened.search.state == "asks" else ()
        self.model.open(opened.record, opened.clip, opened.plan, opened.marks, opened.found, people)
        self.setFocus()
        self._offer()

    def sets_gone(self, ids: frozenset[int]) -> None:
        """A set that was taken out can't stay open."""
        if self.model.doc.record is not None and self.model.doc.record.id in ids:
            self.view.show_clip(None)
            self.model.close()
            if self.shown:
                self.program.go(ToQueue())

    def go_to_review(self) -> None:
        record = self.model.doc.record
        if record is None:
            return
        if record.waits_for_landmarks:
            self.program.say("There is nothing to review yet: follow the marks first.")
        else:
            self.program.measuring.open(record.id)

    # What is shown

    def _opened(self) -> None:
        self.other.clear()
        self.other.addItem("Mark another point…", None)
        for name in self.model.doc.others:
            self.other.addItem(point_words(name), name)

    # Trackers

    def _offer(self) -> None:
        """What each tracker would do, and why one can't, asked off the window's thread."""
        clip, marks = self.model.doc.clip, self.model.doc.marks
        if clip is not None:
            job = Job("", alone(clip_jobs.offers, clip, marks), "offers", "now")
            self.program.start(job, self.trackers.show_offers)

    def find_landmarks(self, name: str) -> None:
        """Run a tracker over the clip that is being marked; its review is computed and shown
        after."""
        record = self.model.doc.record
        if record is None:
            return
        set_id = record.id
        key = f"track/{set_id}"
        if self.program.jobs.runs(key):
            self.program.say("This clip is being searched already; Stop ends that.")
            return

        def done(_none: None) -> None:
            self.program.library.changed.emit(frozenset({set_id}))
            if (
                self.shown
                and self.model.doc.record is not None
                and self.model.doc.record.id == set_id
            ):
                self.program.measuring.look_up(set_id, self._found, "found", wanted="both")

        job = Job(
            TRACKERS[name][2],
            on_library(clip_jobs.find, set_id, name),
            key,
            stopped="Stopped. The landmarks have not changed.",
        )
        self.program.start(job, done)

    def _found(self, opened: OpenedSet) -> None:
        """A tracker is through: check the doubtful places, or go to the review."""
        if opened.clip is None or opened.marks is None:
            return
        self.model.open(opened.record, opened.clip, opened.plan, opened.marks, opened.found)
        doubts = len(self.model.doc.doubts)
        if doubts:
            self.model.next_doubt()
            places = "place" if doubts == 1 else "places"
            self.program.say(
                f"Followed. {doubts} {places} to look at again (Q); Enter goes to the review."
            )
        else:
            self.program.say("Followed without a doubt.")
            self.program.go(ToReview(opened))

    def follow_marks(self) -> None:
        """Follow what is marked, where something is."""
        if self.model.doc.marks.points:
            self.find_landmarks(_BY_MARKS)
        else:
            self.program.say("Nothing is marked yet; click the joints first.")

    def refresh(self) -> None:
        m = self.model
        if m.doc.record is None:
            return
        self.what_next.setText(next_words(self.model.doc))
        self.seen_from.setCurrentIndex(self.seen_from.findData(m.doc.marks.view))
        self._list()
        known = calibration_of(m.doc.marks)
        scale, vertical = known.px_per_m, known.vertical_deg
        told = {
            "length": (
                f"{scale.value:.0f} ± {2 * scale.u:.0f} px a metre"
                if scale
                else "none: lengths by stature"
            ),
            "plumb": "",
            "level": "",
            "person": "the one in the box" if m.doc.marks.person else "whoever is in view",
        }
        lean = f"leans {vertical.value:+.1f}° ± {2 * vertical.u:.1f}°" if vertical else "none"
        for kind in ("plumb", "level"):
            told[kind] = lean if m.doc.marks.line(kind) else "none"
        for kind, button in self.tools.items():
            button.setChecked(m.doc.tool == kind)
            self.told[kind].setText(told[kind])
            there = (
                m.doc.marks.person is not None if kind == "person" else bool(m.doc.marks.line(kind))
            )
            self.clear[kind].setVisible(there)
        if bool(m.doc.marks.points) != self._offered_with_marks:
            self._offered_with_marks = bool(m.doc.marks.points)
            self._offer()

    def _list(self) -> None:
        m = self.model
        names = [*m.doc.asked, *(n for n in m.doc.marks.points if n not in m.doc.asked)]
        if m.doc.point and m.doc.point not in names:
            names.append(m.doc.point)
        self.points.clear()
        doubts = [d.point for d in m.doc.doubts]
        for name in names:
            own = m.doc.marks.points.get(name, ())
            here = m.doc.marks.marked(name, m.doc.frame) is not None
            sign = "●" if here else "◐" if own else "○"
            more = f"   {len(own)} marks" if len(own) > 1 else ""
            if name in doubts:
                more += f"   {doubts.count(name)} to look at"
            item = QListWidgetItem(f"{sign}  {point_words(name)}{more}")
            item.setData(Qt.ItemDataRole.UserRole, name)
            self.points.addItem(item)
            if name == m.doc.point and m.doc.tool == "points":
                item.setSelected(True)
                self.points.setCurrentItem(item)

    def _other(self, _index: int) -> None:
        name = self.other.currentData()
        self.other.setCurrentIndex(0)
        if name:
            self._choose(name)

    # Lines

    def _drawn(self, a: tuple[float, float], b: tuple[float, float]) -> None:
        if self.model.doc.tool != "length":
            self.model.change(drawn(self.model.doc, a, b))
            return
        dialog = LengthDialog(self, self._stature_m)
        open_dialog(
            dialog,
            lambda: self.model.change(
                drawn(self.model.doc, a, b, dialog.metres.value(), dialog.what.currentText())
            ),
        )

    def set_colours(self, colours: Mapping[str, str]) -> None:
        self.view.set_colours(colours)
        self.strip.set_colours(colours)


def _rule(words: str) -> QLabel:
    label = QLabel(words)
    label.setObjectName("heading")
    return label
