"""The findings of a set, most harmful first: choose one, keep, drop or reword it."""

from __future__ import annotations

from collections.abc import Mapping

from PyQt6.QtCore import QSize, Qt, QTimer, pyqtSignal
from PyQt6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import (
    QFrame,
    QHBoxLayout,
    QLabel,
    QPushButton,
    QScrollArea,
    QVBoxLayout,
    QWidget,
)

from guide_arc.app.look.marks import paint_mark
from guide_arc.app.places.review.model import ReviewModel
from guide_arc.core.checks.registry import spec_of
from guide_arc.core.model.finding import Finding
from guide_arc.core.model.settings import Saw
from guide_arc.core.review.rank import MOST_CUES
from guide_arc.drawings.words import sentence, sure_words


class FindingRow(QWidget):
    """One finding: its shape, title, number, and what was decided."""

    chosen = pyqtSignal(str)

    def __init__(self, finding: Finding, model: ReviewModel, colours: Mapping[str, str]) -> None:
        super().__init__()
        self.model, self.colours = model, colours
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.setAttribute(Qt.WidgetAttribute.WA_Hover)
        box = QVBoxLayout(self)
        box.setContentsMargins(34, 8, 10, 8)
        box.setSpacing(2)
        self.title = QLabel()
        self.title.setObjectName(_title_kind(finding))
        self.title.setWordWrap(True)
        self.number = QLabel()
        self.number.setObjectName("hint")
        self.number.setWordWrap(True)
        self.cue = QLabel()
        self.cue.setObjectName("guide")
        self.cue.setWordWrap(True)
        for label in (self.title, self.number, self.cue):
            label.setAttribute(Qt.WidgetAttribute.WA_TransparentForMouseEvents)
            box.addWidget(label)
        self.show_finding(finding)

    def show_finding(self, finding: Finding) -> None:
        """This one, or another whose title looks alike: rows are made once and shown for set after
        set."""
        self.finding = finding
        side = f", {finding.side}" if finding.side != "both" else ""
        if len(self.model.doc.spoken_for(finding)) > 1:
            side = ", both arms"
        says = (
            sentence(finding.says) if finding.verdict == finding.judged == "ok" else finding.title
        )
        self.title.setText(f"{says}{side}")
        self.number.setText(self._number())
        self.refresh()

    def _number(self) -> str:
        seen = self.model.doc.settings.seen_by_eye(self.finding.key)
        if seen is not None:
            by = f" ({seen.by})" if seen.by else ""
            return f"seen by eye: {seen.saw}{by} · measured: {self._measured()}"
        return self._measured()

    def _measured(self) -> str:
        finding = self.finding
        if finding.verdict == "cannot-tell":
            other = self.model.doc.shown_elsewhere(finding)
            return " · ".join(part for part in (finding.why, other) if part)
        parts = [] if finding.verdict == "ok" else [finding.says]
        if finding.hint:
            parts = [f"likely: {finding.says}"]
        parts.append(sure_words(finding))
        parts += ["allowed in the last reps"] if finding.allowed else []
        parts += [f"seen {finding.seen_from}"] if finding.seen_from else []
        return " · ".join(parts)

    @property
    def _by_setup(self) -> str:
        """Where the setup is what goes wrong, the way to a better one."""
        return (
            " · the setup does this: F finds a better one"
            if spec_of(self.finding.rule.name).wish
            else ""
        )

    def refresh(self) -> None:
        """Show what was decided, and whether this one is chosen."""
        decision = self.model.doc.decision(self.finding)
        kept = decision is not None and decision.choice != "drop"
        dropped = decision is not None and decision.choice == "drop"
        chosen = self.model.doc.finding is self.finding
        self.cue.setVisible(kept or dropped or (chosen and self.finding.verdict in ("off", "near")))
        if kept:
            self.cue.setText(f"“{self.model.doc.cue(self.finding)}”")
        elif dropped:
            self.cue.setText("dropped")
        else:
            self.cue.setText(f"say: “{self.finding.cue}”{self._by_setup}")
        self.setAccessibleName(f"{self.title.text()}: {self.finding.verdict}, {self.number.text()}")
        self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        if self.model.doc.finding is self.finding:
            painter.fillRect(self.rect(), QColor(self.colours["hover"]))
        decision = self.model.doc.decision(self.finding)
        if decision is not None and decision.choice != "drop":
            painter.fillRect(0, 3, 3, self.height() - 6, QColor(self.colours["guide"]))
        paint_mark(painter, 19, 18, self.finding.judged, 12, self.colours)
        painter.setPen(QPen(QColor(self.colours["rule"]), 1))
        painter.drawLine(10, self.height() - 1, self.width() - 10, self.height() - 1)
        painter.end()

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        self.chosen.emit(self.finding.key)


def _title_kind(finding: Finding) -> str:
    """How its title looks: what is fine is not put in bold."""
    return "" if finding.verdict == finding.judged == "ok" else "heading"


class FindingsPanel(QFrame):
    """All findings with the keys to decide on the chosen one."""

    reword_asked = pyqtSignal()

    def __init__(self, model: ReviewModel, colours: Mapping[str, str]) -> None:
        super().__init__()
        self.model, self.colours = model, colours
        self.rows: list[FindingRow] = []
        self._settle = QTimer(self)
        self._settle.setSingleShot(True)
        self._settle.timeout.connect(self._show_chosen)
        self.quiet_shown = False
        outer = QVBoxLayout(self)
        outer.setContentsMargins(0, 2, 0, 8)
        outer.setSpacing(6)
        self.count = QLabel()
        self.count.setObjectName("muted")
        self.count.setToolTip(f"Findings kept to say, at most {MOST_CUES}")
        self.area = QScrollArea()
        self.area.setWidgetResizable(True)
        self.area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.area.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        inside = QWidget()
        self.list = QVBoxLayout(inside)
        self.list.setContentsMargins(0, 0, 0, 0)
        self.list.setSpacing(0)
        self.area.setWidget(inside)
        outer.addWidget(self.area, 1)
        outer.addLayout(self._buttons())
        outer.addWidget(self._eye_buttons())

    def _buttons(self) -> QHBoxLayout:
        row = QHBoxLayout()
        row.setContentsMargins(10, 0, 10, 0)
        row.setSpacing(6)
        self.keep = self._button("Keep", "Say this to the client (K)")
        self.drop = self._button("Drop", "Leave this out (D)")
        self.reword = self._button("Reword…", "Say it in your own words (E)")
        self.keep.clicked.connect(lambda: self._decide("keep"))
        self.drop.clicked.connect(lambda: self._decide("drop"))
        self.reword.clicked.connect(self.reword_asked)
        for button in (self.keep, self.drop, self.reword):
            row.addWidget(button, 1)
        return row

    def _eye_buttons(self) -> QWidget:
        """What the recording can't tell, the coach's own eye may."""
        self.eye = QWidget()
        row = QHBoxLayout(self.eye)
        row.setContentsMargins(10, 0, 10, 0)
        row.setSpacing(6)
        for words, saw, key in (
            ("I saw it hold", "held", "Q"),
            ("I saw it break", "broke", "Shift+Q"),
        ):
            button = self._button(
                words, f"Your own eye answers in the place of the recording ({key})"
            )
            button.clicked.connect(lambda _on, s=saw: self._saw(s))
            row.addWidget(button, 1)
        return self.eye

    def _saw(self, saw: Saw) -> None:
        if self.model.doc.finding is not None:
            self.model.saw(self.model.doc.finding, saw)

    @staticmethod
    def _button(words: str, tip: str) -> QPushButton:
        button = QPushButton(words)
        button.setObjectName("small")
        button.setToolTip(tip)
        button.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        return button

    def _decide(self, choice: str) -> None:
        if self.model.doc.finding is not None:
            self.model.decide(self.model.doc.finding, choice)  # type: ignore[arg-type]

    def rebuild(self) -> None:
        """The findings of another set; `refresh` comes after it."""
        spare: dict[str, list[FindingRow]] = {}
        for row in self.rows:
            spare.setdefault(row.title.objectName(), []).append(row)
        while self.list.count():
            widget = self.list.takeAt(0).widget()  # type: ignore[union-attr]
            if isinstance(widget, QLabel):
                widget.deleteLater()
        self.rows = []
        loud = [f for f in self.model.doc.findings if f.judged in ("off", "near")]
        unsure = [f for f in self.model.doc.findings if f.judged == "cannot-tell"]
        fine = [f for f in self.model.doc.findings if f.judged == "ok"]
        if self.model.doc.measured is not None and not loud:
            note = (
                "Nothing is past its limit."
                if self.model.doc.measured.review.reps
                else "No reps to judge."
            )
            self.list.addWidget(self._note(note))
        for group, words in (
            (loud, ""),
            (unsure, "Can't tell from this recording"),
            (fine, "Within the limits"),
        ):
            if group and words:
                self.list.addWidget(self._note(words))
            for finding in group:
                row = self._row(finding, spare.get(_title_kind(finding), []))
                self.rows.append(row)
                self.list.addWidget(row)
        for own in spare.values():
            for row in own:
                row.deleteLater()
        self.list.addStretch(1)

    def _row(self, finding: Finding, spare: list[FindingRow]) -> FindingRow:
        if spare:
            row = spare.pop(0)
            row.show_finding(finding)
            return row
        row = FindingRow(finding, self.model, self.colours)
        row.chosen.connect(self._choose)
        return row

    @staticmethod
    def _note(words: str) -> QLabel:
        label = QLabel(words)
        label.setObjectName("muted")
        label.setContentsMargins(12, 10, 12, 4)
        return label

    def _choose(self, key: str) -> None:
        self.model.choose_finding(next(f for f in self.model.doc.findings if f.key == key))

    def refresh(self) -> None:
        """What was decided or chosen has changed."""
        for row in self.rows:
            row.refresh()
        # Rows take their new heights first.
        self._settle.start(0)
        self.count.setText(f"{len(self.model.doc.kept)} of {MOST_CUES}")
        chosen = self.model.doc.finding
        some = chosen is not None and chosen.judged != "cannot-tell"
        self.eye.setVisible(
            chosen is not None
            and (chosen.eye is not None or chosen.verdict in ("near", "cannot-tell"))
        )
        for button in (self.keep, self.drop, self.reword):
            button.setEnabled(some)
        doc = self.model.doc
        decision = doc.decision(doc.finding) if doc.finding else None
        self.keep.setText("Kept" if decision and decision.choice != "drop" else "Keep")
        self.drop.setText("Dropped" if decision and decision.choice == "drop" else "Drop")

    def _show_chosen(self) -> None:
        """Scroll so that the chosen row is seen whole."""
        inside = self.area.widget()
        assert inside is not None
        # Rows whose words have changed get their new heights first.
        self.list.activate()
        inside.resize(inside.width(), self.list.totalHeightForWidth(inside.width()))
        for i, row in enumerate(self.rows):
            if row.finding is self.model.doc.finding:
                if i:
                    self.area.ensureWidgetVisible(row, 0, 8)
                else:
                    bar = self.area.verticalScrollBar()
                    assert bar is not None
                    bar.setValue(0)

    def set_colours(self, colours: Mapping[str, str]) -> None:
        self.colours = colours
        for row in self.rows:
            row.colours = colours
            row.update()

    def sizeHint(self) -> QSize:
        return QSize(280, 400)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is not None:
            event.ignore()
