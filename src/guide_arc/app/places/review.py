"""The review place: one set, with its instruments about it."""

from __future__ import annotations

from collections.abc import Mapping

from PyQt6.QtCore import QElapsedTimer, Qt, QTimer
from PyQt6.QtWidgets import (
    QFrame,
    QGridLayout,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QVBoxLayout,
    QWidget,
)

from guide_arc.app.instruments.findings import FindingsPanel
from guide_arc.app.instruments.views import DialView, RibbonView, ShelfView, StageView
from guide_arc.app.viewmodels.review import ReviewModel
from guide_arc.drawings.words import JOINT, next_words, sentence, tempo_words, trust_lines

_TICK_MS = 16


class ReviewPlace(QWidget):
    """Lays out the instruments and keeps them in step with the model."""

    def __init__(self, model: ReviewModel, colours: Mapping[str, str]) -> None:
        super().__init__()
        self.model = model
        self.stage = StageView(model, colours)
        self.dial = DialView(model, colours)
        self.ribbon = RibbonView(model, colours)
        self.shelf = ShelfView(model, colours)
        self.findings = FindingsPanel(model, colours)
        self.stage.setMinimumSize(380, 320)
        self.dial.setMinimumSize(250, 210)
        self.shelf.setMinimumHeight(96)
        self.ribbon.setMinimumHeight(92)
        self._lay_out()
        self._timer = QTimer(self)
        self._timer.setTimerType(Qt.TimerType.PreciseTimer)
        self._timer.setInterval(_TICK_MS)
        self._timer.timeout.connect(self._tick)
        self._wall = QElapsedTimer()
        self._connect()
        self.show_set()

    # Layout

    def _lay_out(self) -> None:
        grid = QGridLayout(self)
        grid.setContentsMargins(0, 0, 0, 0)
        grid.setSpacing(10)
        grid.addWidget(_panel(self.stage), 0, 0, 2, 1)
        self.dial_title, self.dial_hint = (
            _label("", "heading"),
            _label("each ring a rep, first inside", "hint"),
        )
        grid.addWidget(_panel(self.dial, self.dial_title, self.dial_hint), 0, 1)
        self.shelf_title = _label("At the turn, against the guide", "heading")
        grid.addWidget(_panel(self.shelf, self.shelf_title), 1, 1)
        right = QVBoxLayout()
        right.setSpacing(8)
        right.addWidget(self.findings, 1)
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
        grid.addLayout(right, 0, 2, 2, 1)
        self.tempo_title, self.tempo_hint = _label("Tempo", "heading"), _label("", "hint")
        self.clock = _label("", "hint")
        grid.addWidget(
            _panel(self.ribbon, self.tempo_title, self.tempo_hint, self.clock), 2, 0, 1, 3
        )
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
        grid.setRowStretch(0, 60)
        grid.setRowStretch(1, 30)
        grid.setRowStretch(2, 26)

    def _connect(self) -> None:
        m = self.model
        m.opened.connect(self.show_set)
        m.chosen_changed.connect(self._chosen)
        m.notes_changed.connect(self._decided)
        m.look_changed.connect(self.stage.redraw)
        m.playback.moved.connect(self._moved)
        m.playback.changed.connect(self._played)
        self.note.textEdited.connect(m.write_note)
        self.note.returnPressed.connect(self.setFocus)

    # What changed

    def show_set(self) -> None:
        """Another set is open, or none."""
        m = self.model
        if m.measured is not None:
            review = m.measured.review
            measure = review.reps[0].measure if review.reps else review.standard.drive
            joint = JOINT[measure]
            count = len(review.reps)
            self.dial_title.setText(f"{sentence(joint)}, {count} rep{'' if count == 1 else 's'}")
            self.tempo_hint.setText(f"asked {tempo_words(review.tempo)}" if any(
                (review.tempo.lower_s, review.tempo.lift_s, review.tempo.top_s, review.tempo.bottom_s)
            ) else "no tempo asked")  # fmt: skip
            first, second = trust_lines(review)
            self.trust.setText(first)
            self.trust_more.setText(second)
            self.trust_more.setVisible(bool(second))
            self.next.setText(f"Next: {next_words(review.next_time)}")
            self.next_why.setText(f"{sentence(review.next_time.reason)}.")
        self.findings.rebuild()
        self._decided()
        self._redraw()

    def _redraw(self) -> None:
        for view in (self.stage, self.dial, self.ribbon, self.shelf):
            view.redraw()
        self._clock_words()

    def _chosen(self) -> None:
        self.findings.refresh()
        self._redraw()

    def _decided(self) -> None:
        self.findings.refresh()
        if self.note.text() != self.model.notes.note:
            self.note.setText(self.model.notes.note)

    def _moved(self, at_s: float) -> None:
        self.model.clock_moved(at_s)
        self.stage.redraw()
        self.ribbon.update()
        if not self.model.playback.playing:
            self._clock_words()

    def _played(self) -> None:
        if self.model.playback.playing and not self._timer.isActive():
            self._wall.start()
            self._timer.start()
        elif not self.model.playback.playing:
            self._timer.stop()
        self.ribbon.redraw()
        self._clock_words()

    def _tick(self) -> None:
        self.model.playback.tick(self._wall.restart() / 1000.0)

    def _clock_words(self) -> None:
        m = self.model
        if m.measured is None:
            self.clock.setText("")
            return
        review = m.measured.review
        speed = {1.0: "", 0.5: " · half speed", 0.25: " · quarter speed"}[m.playback.speed]
        loop = " · looping the rep" if m.playback.loop else ""
        words = f"under tension {review.under_tension_s:.0f} s"
        if review.lower_first_last_s:
            first, last = review.lower_first_last_s
            words += f" · lowering {first:.1f} s in the first rep, {last:.1f} s in the last"
        self.clock.setText(words + speed + loop)

    def set_colours(self, colours: Mapping[str, str]) -> None:
        for view in (self.stage, self.dial, self.ribbon, self.shelf):
            view.set_colours(colours)
        self.findings.set_colours(colours)


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
            if i == 2:
                row.addStretch(1)
            row.addWidget(label)
        if len(heads) < 3:
            row.addStretch(1)
        box.addLayout(row)
    box.addWidget(view, 1)
    return frame
