"""The instruments of one set, arranged and kept in step with the model."""

from __future__ import annotations

from collections.abc import Callable, Mapping

from PyQt6.QtCore import QPoint, Qt, pyqtSignal
from PyQt6.QtWidgets import (
    QFrame,
    QGridLayout,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from guide_arc.app.places.review.compare import ComparePanel
from guide_arc.app.places.review.felt import FeltPanel
from guide_arc.app.places.review.findings import FindingsPanel
from guide_arc.app.places.review.model import ReviewModel
from guide_arc.app.places.review.stage_view import Stages
from guide_arc.app.places.review.ticker import Ticker, clock_words
from guide_arc.app.places.review.timeline import RibbonView, TraceView, ask_for_traces
from guide_arc.app.places.review.views import DialView, NumbersView, PathView, ShelfView
from guide_arc.app.widgets.clip_frames import ClipFrames
from guide_arc.app.widgets.panels import scrolled
from guide_arc.app.widgets.tabs import Tabs
from guide_arc.core.kinematics.measures.registry import spec_of_measure
from guide_arc.core.planning.pain import STOP
from guide_arc.drawings.words import next_words, sentence, tempo_words, trust_lines

# How the rows share the height: figure and dial, shelf, time line.
_TEMPO_ROWS = (60, 30, 26)
_TRACE_ROWS = (52, 10, 62)
_TRACES_TALL = 264


ClipsOf = Callable[[], tuple[ClipFrames | None, ClipFrames | None]]


class ReviewSheet(QWidget):
    """clips_of : the frames of the open set's clip and of its ghost's"""

    menu_asked = pyqtSignal(QPoint)

    def __init__(self, model: ReviewModel, colours: Mapping[str, str], clips_of: ClipsOf) -> None:
        super().__init__()
        self.model, self._clips_of = model, clips_of
        self.stages = Stages(model, colours)
        self.stage = self.stages.stage
        self.paths = PathView(model, colours)
        self.dial = DialView(model, colours)
        self.ribbon = RibbonView(model, colours)
        self.traces = TraceView(model, colours)
        self.shelf = ShelfView(model, colours)
        self.findings = FindingsPanel(model, colours)
        self.numbers = NumbersView(model, colours)
        self.compare = ComparePanel(model, colours)
        self.felt = FeltPanel(model)
        self.stages.setMinimumSize(320, 240)
        self.dial.setMinimumSize(236, 176)
        self.shelf.setMinimumHeight(84)
        self.ribbon.setMinimumHeight(92)
        self._lay_out()
        self.ticker = Ticker(model.playback, self)
        self._connect()
        self.show_set()

    # Layout

    def _lay_out(self) -> None:
        grid = self._grid = QGridLayout(self)
        grid.setContentsMargins(0, 0, 0, 0)
        grid.setSpacing(10)
        self.left = Tabs(
            {"Figure": self.stages, "Path": self.paths},
            {"Path": "Elbow and hand against the corridor, all reps (B)"},
            [],
        )
        grid.addWidget(self.left, 0, 0, 2, 1)
        self.dial_title, self.dial_hint = (
            _label("", "heading"),
            _label("first rep inside", "hint"),
        )
        self.dial_panel = _panel(self.dial, self.dial_title, self.dial_hint)
        grid.addWidget(self.dial_panel, 0, 1)
        self.shelf_title = _label("At the turn, against the guide", "heading")
        self.shelf_panel = _panel(self.shelf, self.shelf_title)
        grid.addWidget(self.shelf_panel, 1, 1)
        grid.addLayout(self._right(), 0, 2, 2, 1)
        self.tempo_hint, self.clock = _label("", "hint"), _label("", "hint")
        self.by_hand = _label("", "guide")
        self.choose_traces = QPushButton("Measures ▾")
        self.choose_traces.setObjectName("small")
        self.choose_traces.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.choose_traces.clicked.connect(self.traces_menu)
        self.below = Tabs(
            {"Tempo": self.ribbon, "Traces": self.traces},
            {"Traces": "Any measures over the set, stacked (G)"},
            [self.by_hand, self.clock, self.tempo_hint, self.choose_traces],
        )
        self.choose_traces.hide()
        grid.addWidget(self.below, 2, 0, 1, 3)
        self.trust, self.trust_more = _label("", "hint"), _label("", "hint")
        self.trust_more.setWordWrap(True)
        strip = QVBoxLayout()
        strip.setSpacing(2)
        strip.addWidget(self.trust)
        strip.addWidget(self.trust_more)
        grid.addLayout(strip, 3, 0, 1, 3)
        grid.setColumnStretch(0, 56)
        grid.setColumnStretch(1, 27)
        grid.setColumnStretch(2, 30)
        grid.setColumnMinimumWidth(1, 262)
        grid.setColumnMinimumWidth(2, 326)
        _share_rows(grid, _TEMPO_ROWS)

    def _right(self) -> QVBoxLayout:
        scroll = scrolled(self.numbers)
        self.right = Tabs(
            {"What to say": self.findings, "Numbers": scroll, "Compare": self.compare},
            {"Numbers": "Every rep in figures (J)", "Compare": "Against another set or rep (C)"},
            [self.findings.count],
        )
        right = QVBoxLayout()
        right.setSpacing(6)
        self.stop = _label("", "warning")
        self.stop.setWordWrap(True)
        self.stop.hide()
        right.addWidget(self.stop)
        right.addWidget(self.right, 1)
        right.addWidget(self.felt)
        self.note = QLineEdit()
        self.note.setPlaceholderText("Note to the client, or for yourself")
        self.note.setMaxLength(400)
        right.addWidget(self.note)
        self.next = _label("", "next")
        self.next.setWordWrap(True)
        right.addWidget(self.next)
        self.next_why = _label("", "hint")
        self.next_why.setWordWrap(True)
        right.addWidget(self.next_why)
        return right

    def _connect(self) -> None:
        m = self.model
        m.opened.connect(self.show_set)
        m.chosen_changed.connect(self._chosen)
        m.notes_changed.connect(self._decided)
        m.look_changed.connect(self._looks)
        m.remeasured.connect(self.show_set)
        m.ghost_changed.connect(self._ghost)
        m.playback.moved.connect(self._moved)
        m.playback.changed.connect(self._played)
        self.note.textEdited.connect(m.write_note)
        self.note.returnPressed.connect(self.setFocus)
        for line in (self.ribbon, self.traces):
            line.menu_asked.connect(self.menu_asked)
        self.below.changed.connect(self._below)
        self.left.changed.connect(lambda _name: self._redraw())
        self.right.changed.connect(self._right_changed)

    def _below(self, name: str) -> None:
        tracing = name == "Traces"
        self.choose_traces.setVisible(tracing)
        self._room()
        self.below.setMinimumHeight(_TRACES_TALL if tracing else 0)
        self.stages.setMinimumHeight(220 if tracing else 240)
        _share_rows(self._grid, _TRACE_ROWS if tracing else _TEMPO_ROWS)
        self._redraw()

    def _room(self) -> None:
        """Two clips side by side take the dial's and the shelf's place; with traces the dial takes
        the shelf's."""
        two = self.stages.side_by_side
        tracing = self.below.current == "Traces"
        self.dial_panel.setVisible(not two)
        self.shelf_panel.setVisible(not two and not tracing)
        for widget, place in (
            (self.left, (0, 0, 2, 2 if two else 1)),
            (self.dial_panel, (0, 1, 2 if tracing else 1, 1)),
        ):
            self._grid.removeWidget(widget)
            self._grid.addWidget(widget, *place)

    def _right_changed(self, name: str) -> None:
        self.findings.count.setVisible(name == "What to say")
        self._figures()

    def traces_menu(self) -> None:
        """The measures that this recording shows, above their button."""
        ask_for_traces(self.traces, self.model.doc.measured, self.choose_traces)

    # What changed

    def show_set(self) -> None:
        """Another set is open, or none."""
        m = self.model
        self.ticker.stop()
        self._clips()
        if m.doc.measured is not None:
            review = m.doc.measured.review
            measure = review.reps[0].measure if review.reps else review.standard.drive
            joint = spec_of_measure(measure).joint
            count = len(review.reps)
            self.dial_title.setText(f"{sentence(joint)}, {count} rep{'' if count == 1 else 's'}")
            made = len(m.doc.settings.corrections)
            self.by_hand.setText(f"{made} by hand" if made else "")
            self.tempo_hint.setText(
                f"asked {tempo_words(review.tempo)}"
                if any(
                    (
                        review.tempo.lower_s,
                        review.tempo.lift_s,
                        review.tempo.top_s,
                        review.tempo.bottom_s,
                    )
                )
                else "no tempo asked"
            )
            first, second = trust_lines(review)
            self.trust.setText(first)
            self.trust_more.setText(second)
            self.trust_more.setVisible(bool(second))
        self.findings.rebuild()
        self.compare.refill()
        self._decided()
        self._redraw()
        self._figures()

    def _redraw(self) -> None:
        """The instruments that can be seen."""
        left = self.stages if self.left.current == "Figure" else self.paths
        line = self.ribbon if self.below.current == "Tempo" else self.traces
        for view in (left, line, self.dial, self.shelf):
            view.redraw()
        self.clock.setText(clock_words(self.model.doc, self.model.playback))

    def _figures(self) -> None:
        if self.right.current == "Numbers":
            self.numbers.redraw()
        elif self.right.current == "Compare":
            self.compare.refresh()

    def _chosen(self) -> None:
        self.findings.refresh()
        self._redraw()
        self._figures()

    def _looks(self) -> None:
        """The clip or the figure, or the figure from another side."""
        self._clips()
        self.stages.redraw()

    def _clips(self) -> None:
        """Show the clips of the open set and of its ghost, where they have some."""
        self.stages.show_clips(*self._clips_of())
        self._room()

    def _ghost(self) -> None:
        self._clips()
        self.stages.redraw()
        self._figures()

    def _decided(self) -> None:
        plan = self.model.doc.next_time
        if plan is not None:
            self.stop.setText(STOP if plan.ask_first else "")
            self.stop.setVisible(plan.ask_first)
            self.next.setText(f"Next: {next_words(plan)}")
            asks = " Did you see it? Q: it held · Shift+Q: it broke." if plan.look_for else ""
            self.next_why.setText(f"{sentence(plan.reason)}.{asks}")
        self.findings.refresh()
        self.felt.refresh()
        if self.note.text() != self.model.doc.notes.note:
            self.note.setText(self.model.doc.notes.note)

    def _moved(self, at_s: float) -> None:
        self.model.clock_moved(at_s)
        if self.left.current == "Figure":
            self.stages.redraw()
        (self.ribbon if self.below.current == "Tempo" else self.traces).update()
        if not self.model.playback.playing:
            self.clock.setText(clock_words(self.model.doc, self.model.playback))

    def _played(self) -> None:
        self.ticker.follow()
        self.ribbon.redraw()
        self.clock.setText(clock_words(self.model.doc, self.model.playback))

    def set_colours(self, colours: Mapping[str, str]) -> None:
        for view in (
            *(self.stages, self.paths, self.dial, self.ribbon, self.traces, self.shelf),
            *(self.numbers, self.compare.view),
        ):
            view.set_colours(colours)
        self.findings.set_colours(colours)


def _share_rows(grid: QGridLayout, shares: tuple[int, int, int]) -> None:
    for row, share in enumerate(shares):
        grid.setRowStretch(row, share)


def _label(words: str, name: str) -> QLabel:
    label = QLabel(words)
    label.setObjectName(name)
    return label


def _panel(view: QWidget, *heads: QLabel) -> QFrame:
    """A framed sheet with words over an instrument, the last ones to the right."""
    frame = QFrame()
    frame.setObjectName("panel")
    box = QVBoxLayout(frame)
    box.setContentsMargins(1, 10 if heads else 1, 1, 4 if heads else 1)
    box.setSpacing(0)
    if heads:
        row = QHBoxLayout()
        row.setContentsMargins(12, 0, 12, 0)
        row.setSpacing(10)
        for i, label in enumerate(heads):
            if i == 1:
                row.addStretch(1)
            row.addWidget(label)
        if len(heads) < 2:
            row.addStretch(1)
        box.addLayout(row)
    box.addWidget(view, 1)
    return frame
