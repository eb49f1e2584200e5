"""The queue: the sets that wait, each with its miniature dial and one line."""

from __future__ import annotations

from collections.abc import Mapping

from PyQt6.QtCore import QAbstractListModel, QModelIndex, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QFontMetricsF, QPainter, QPen
from PyQt6.QtWidgets import (
    QButtonGroup,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QListView,
    QProgressBar,
    QPushButton,
    QStackedLayout,
    QStyle,
    QStyledItemDelegate,
    QStyleOptionViewItem,
    QVBoxLayout,
    QWidget,
)

from guide_arc.app.instruments.painting import paint, paint_mark, type_of
from guide_arc.app.viewmodels.queue import STATES, QueueModel
from guide_arc.drawings.dial import mini_dial
from guide_arc.drawings.words import day_words
from guide_arc.library.records import QueueRow

_ROW_HEIGHT = 74
_VIEW_WORDS = {"none": "in 3D", "front": "from the front", "back": "from the back",
               "left": "from the left", "right": "from the right"}  # fmt: skip


class _Rows(QAbstractListModel):
    def __init__(self, model: QueueModel, parent: QWidget) -> None:
        super().__init__(parent)
        self.model = model
        model.changed.connect(self._reset)

    def _reset(self) -> None:
        self.beginResetModel()
        self.endResetModel()

    def rowCount(self, parent: QModelIndex | None = None) -> int:
        return len(self.model.rows)

    def data(self, index: QModelIndex, role: int = Qt.ItemDataRole.DisplayRole) -> object:
        row = self.model.rows[index.row()]
        if role == Qt.ItemDataRole.UserRole:
            return row
        if role in (Qt.ItemDataRole.DisplayRole, Qt.ItemDataRole.AccessibleTextRole):
            return row_words(row)
        return None


def row_words(row: QueueRow) -> str:
    """A row as one sentence."""
    name = row.glance["name"] if row.glance else row.standard
    line = row.glance["line"] if row.glance else _without_review(row).rstrip("…")
    return f"{row.client}, {name}, {day_words(row.recorded)}: {line}"


def _without_review(row: QueueRow) -> str:
    return (
        "being reviewed…" if row.has_track else "a clip without landmarks yet: open it to mark them"
    )


class _Card(QStyledItemDelegate):
    """Paints one set: dial, who and what, the line, and the facts to the right."""

    def __init__(self, colours: Mapping[str, str]) -> None:
        super().__init__()
        self.colours = colours

    def sizeHint(self, option: QStyleOptionViewItem, index: QModelIndex) -> QSize:
        return QSize(200, _ROW_HEIGHT)

    def paint(
        self, painter: QPainter | None, option: QStyleOptionViewItem, index: QModelIndex
    ) -> None:
        assert painter is not None
        row: QueueRow = index.data(Qt.ItemDataRole.UserRole)
        c = self.colours
        box = option.rect.adjusted(0, 2, -8, -2)
        chosen = bool(option.state & QStyle.StateFlag.State_Selected)
        hover = bool(option.state & QStyle.StateFlag.State_MouseOver)
        painter.save()
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(QPen(QColor(c["guide"] if chosen else c["rule"]), 1.4 if chosen else 1.0))
        painter.setBrush(QColor(c["hover"] if hover and not chosen else c["panel"]))
        painter.drawRoundedRect(QRectF(box).adjusted(0.5, 0.5, -0.5, -0.5), 3, 3)
        painter.translate(box.left(), box.top())
        self._card(painter, row, box.width(), box.height())
        painter.restore()

    def _card(self, painter: QPainter, row: QueueRow, width: int, height: int) -> None:
        c, glance = self.colours, row.glance
        if glance:
            painter.save()
            painter.translate(12, 7)
            paint(painter, mini_dial(glance, 74, height - 14), c)
            painter.restore()
        x, right = 104.0, width - 16.0
        facts = [day_words(row.recorded), _VIEW_WORDS[row.view]]
        fact_width = max(_wide(f, 12, False) for f in facts)
        reps = ""
        if glance:
            partial = f" + {glance['partial']} short" if glance["partial"] else ""
            load = f"{row.load_kg:g} kg × " if row.load_kg else ""
            reps = f"{load}{glance['full']}{partial}" + ("" if load else " reps")
        middle = right - fact_width - 24.0
        reps_width = _wide(reps, 13, False)
        room = middle - reps_width - 20 - x
        name = str(glance["name"]) if glance else row.standard
        school = f" · {glance['school']}" if glance and glance["school"] else ""
        client_width = min(_wide(row.client, 14, True), 0.55 * room)
        _text(painter, x, 28, row.client, 14, True, c["ink"], client_width + 2)
        after = x + client_width + 14
        _text(painter, after, 28, name + school, 13, False, c["muted"], room - (after - x))
        _text(painter, middle - reps_width, 28, reps, 13, False, c["ink"], reps_width + 2)
        for i, fact in enumerate(facts):
            _text(
                painter,
                right - _wide(fact, 12, False),
                28 + 21 * i,
                fact,
                12,
                False,
                c["muted"],
                fact_width + 2,
            )
        if not glance:
            _text(painter, x, 51, _without_review(row), 13, False, c["muted"], middle - x)
            return
        if row.pain:
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(QColor(c["off"]))
            flag = QRectF(x, 39, _wide("pain", 11, True) + 12, 17)
            painter.drawRoundedRect(flag, 2, 2)
            _text(painter, x + 6, 52, "pain", 11, True, c["panel"], 60)
            x += flag.width() + 8
        verdict = glance["verdict"]
        paint_mark(painter, x + 6, 47, verdict, 11, c)  # type: ignore[arg-type]
        role = {"off": "off", "near": "near"}.get(str(verdict), "ink")
        _text(painter, x + 20, 51, str(glance["line"]), 13, False, c[role], middle - x - 20)


def _wide(text: str, size: float, bold: bool) -> float:
    return QFontMetricsF(type_of(size, bold)).horizontalAdvance(text)


def _text(
    painter: QPainter,
    x: float,
    y: float,
    text: str,
    size: float,
    bold: bool,
    colour: str,
    room: float,
) -> None:  # noqa: PLR0913
    font = type_of(size, bold)
    painter.setFont(font)
    painter.setPen(QColor(colour))
    short = QFontMetricsF(font).elidedText(text, Qt.TextElideMode.ElideRight, max(room, 0))
    painter.drawText(round(x), round(y), short)


class QueuePlace(QWidget):
    """Finding and choosing sets; opening one; taking new ones in."""

    opened = pyqtSignal(int)
    add_asked = pyqtSignal()
    stop_asked = pyqtSignal()

    def __init__(self, model: QueueModel, colours: Mapping[str, str]) -> None:
        super().__init__()
        self.model = model
        self.search_field = QLineEdit()
        self.search_field.setPlaceholderText("Find by client, exercise, date or what is off")
        self.search_field.setClearButtonEnabled(True)
        self.search_field.textChanged.connect(model.search)
        self.add = QPushButton("Add sets…")
        self.add.clicked.connect(self.add_asked)
        bar = QHBoxLayout()
        bar.setSpacing(8)
        bar.addWidget(self.search_field, 1)
        self.states = QButtonGroup(self)
        for words, state in STATES:
            button = QPushButton(words)
            button.setCheckable(True)
            button.setChecked(state == model.state)
            button.clicked.connect(lambda _on, s=state: model.show_state(s))
            self.states.addButton(button)
            bar.addWidget(button)
        bar.addWidget(self.add)
        self.list = QListView()
        self.list.setModel(_Rows(model, self))
        self.card = _Card(colours)
        self.list.setItemDelegate(self.card)
        self.list.setMouseTracking(True)
        self.list.setUniformItemSizes(True)
        self.list.setVerticalScrollMode(QListView.ScrollMode.ScrollPerPixel)
        self.list.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.list.clicked.connect(lambda index: self.opened.emit(model.rows[index.row()].id))
        self.list.setAccessibleName("Sets")
        selection = self.list.selectionModel()
        assert selection is not None
        selection.currentChanged.connect(self._selected)
        self.empty = QLabel()
        self.empty.setObjectName("muted")
        self.empty.setAlignment(Qt.AlignmentFlag.AlignCenter)
        self.empty.setWordWrap(True)
        self.pages = QStackedLayout()
        self.pages.addWidget(self.list)
        self.pages.addWidget(self.empty)
        self.progress = QProgressBar()
        self.progress.setRange(0, 1000)
        self.progress.setTextVisible(False)
        self.progress_words = QLabel()
        self.progress_words.setObjectName("hint")
        self.stop = QPushButton("Stop")
        self.stop.setObjectName("small")
        self.stop.clicked.connect(self.stop_asked)
        self.progress_bar = QWidget()
        work = QHBoxLayout(self.progress_bar)
        work.setContentsMargins(0, 0, 8, 0)
        work.addWidget(self.progress_words)
        work.addWidget(self.progress, 1)
        work.addWidget(self.stop)
        self.progress_bar.hide()
        box = QVBoxLayout(self)
        box.setContentsMargins(0, 0, 0, 0)
        box.setSpacing(10)
        box.addLayout(bar)
        box.addWidget(self.progress_bar)
        box.addLayout(self.pages, 1)
        model.changed.connect(self._changed)
        model.chosen_changed.connect(self._show_chosen)

    def _selected(self, current: QModelIndex) -> None:
        if current.isValid():
            self.model.choose(self.model.rows[current.row()].id)

    def _changed(self) -> None:
        some = bool(self.model.rows)
        self.pages.setCurrentWidget(self.list if some else self.empty)
        if self.model.words:
            self.empty.setText(
                f"No set matches “{self.model.words}”.\n\nClear the search with Escape."
            )
        elif self.model.state == "waiting":
            self.empty.setText(
                "No set is waiting.\n\nDrop clips or landmark tracks (CSV or JSON) anywhere on this window,\n"
                "or choose them with “Add sets…” (Ctrl+O)."
            )
        elif self.model.state == "done":
            self.empty.setText(
                "No set has been reviewed yet.\n\nOpen one and mark it reviewed with Ctrl+Enter."
            )
        else:
            self.empty.setText(
                "This library is empty.\n\nDrop clips or landmark tracks (CSV or JSON) here."
            )
        self._show_chosen()

    def _show_chosen(self) -> None:
        ids = [row.id for row in self.model.rows]
        if self.model.chosen in ids:
            index = self.list.model().index(ids.index(self.model.chosen), 0)  # type: ignore[union-attr]
            if self.list.currentIndex() != index:
                self.list.setCurrentIndex(index)

    def show_progress(self, share: float | None, words: str = "") -> None:
        """How far the work is; None hides it."""
        self.progress_bar.setVisible(share is not None)
        if share is not None:
            self.progress.setValue(round(1000 * share))
            self.progress_words.setText(words)

    def open_chosen(self) -> None:
        if self.model.chosen is not None:
            self.opened.emit(self.model.chosen)

    def set_colours(self, colours: Mapping[str, str]) -> None:
        self.card.colours = colours
        self.list.viewport().update()  # type: ignore[union-attr]
