"""One set of the queue, painted: its dial, who and what, the line, and the facts to the right."""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Callable, Mapping
from functools import lru_cache
from pathlib import Path
from typing import Final

from PyQt6.QtCore import QModelIndex, QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import (
    QColor,
    QCursor,
    QFontMetricsF,
    QImage,
    QPainter,
    QPen,
    QPixmap,
    QPixmapCache,
    QPolygonF,
)
from PyQt6.QtWidgets import QListView, QStyledItemDelegate, QStyleOptionViewItem

from guide_arc.app.look.marks import paint_mark
from guide_arc.app.look.type import type_of
from guide_arc.app.places.queue.model import without_review
from guide_arc.app.widgets.view_words import ANY_VIEW_WORDS
from guide_arc.drawings.days import moment_words
from guide_arc.drawings.mini_dial import MiniDial, mini_dial
from guide_arc.library.queue_rows import QueueRow, summary_in

_ROW_HEIGHT = 74
_PICTURE_WIDTH = 116
# A few screens of cards: a step of the wheel then paints one or two again, and moves the others.
_KEPT: Final = 48


@lru_cache(maxsize=512)
def _dial_of(glance: str, width: float, height: float) -> MiniDial:
    """A row's dial; scrolling draws it many times."""
    return mini_dial(summary_in(glance) or {}, width, height)


class QueueCard(QStyledItemDelegate):
    """Paints one set: dial, who and what, the line, and the facts to the right."""

    def __init__(
        self,
        list: QListView,
        colours: Mapping[str, str],
        folder: Path,
        name_of: Callable[[str], str],
    ) -> None:
        super().__init__(list)
        self._name_of = name_of
        self.list, self.colours = list, colours
        self._clips = folder / "clips"
        # Whether any row has a clip: the facts then leave room for its picture in all of them.
        self.pictures = False
        self._kept: OrderedDict[tuple[object, ...], QPixmap] = OrderedDict()

    def sizeHint(self, option: QStyleOptionViewItem, index: QModelIndex) -> QSize:
        return QSize(200, _ROW_HEIGHT)

    def paint(
        self, painter: QPainter | None, option: QStyleOptionViewItem, index: QModelIndex
    ) -> None:
        assert painter is not None
        row: QueueRow = index.data(Qt.ItemDataRole.UserRole)
        box = option.rect.adjusted(0, 2, -8, -2)
        # Asked of the list: the option's own state makes Qt's names for all styles load at the
        # start.
        chosen = index == self.list.currentIndex()
        hover = self.list.underMouse() and index == self.list.indexAt(
            self.list.mapFromGlobal(QCursor.pos())
        )
        painter.drawPixmap(box.topLeft(), self._picture_of(row, box.size(), chosen, hover))

    def set_colours(self, colours: Mapping[str, str]) -> None:
        self.colours = colours
        self._kept.clear()

    def _picture_of(self, row: QueueRow, size: QSize, chosen: bool, hover: bool) -> QPixmap:
        """The whole card, kept for the next time."""
        ratio = self.list.devicePixelRatioF()
        name = "" if row.summary else self._name_of(row.standard)
        what = (row, name, size.width(), size.height(), chosen, hover, self.pictures, ratio)
        found = self._kept.get(what)
        if found is not None:
            self._kept.move_to_end(what)
            return found
        c = self.colours
        picture = QPixmap(size * ratio)
        picture.setDevicePixelRatio(ratio)
        picture.fill(QColor(c["paper"]))
        painter = QPainter(picture)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(QPen(QColor(c["guide"] if chosen else c["rule"]), 1.4 if chosen else 1.0))
        painter.setBrush(QColor(c["hover"] if hover and not chosen else c["panel"]))
        painter.drawRoundedRect(QRectF(0.5, 0.5, size.width() - 1.0, size.height() - 1.0), 3, 3)
        if self._card(painter, row, size.width(), size.height()):
            self._kept[what] = picture
            if len(self._kept) > _KEPT:
                self._kept.popitem(last=False)
        painter.end()
        return picture

    def _card(self, painter: QPainter, row: QueueRow, width: int, height: int) -> bool:
        """Paint what is on a card; whether that is all of it: a clip's picture may still be in
        the making."""
        c, summary = self.colours, row.summary
        if summary:
            painter.save()
            painter.translate(12, 7)
            _dial(painter, _dial_of(row.glance or "", 74, height - 14), c)
            painter.restore()
        x, right = 104.0, width - 16.0
        whole = True
        if self.pictures:
            whole = self._picture(painter, row, width, height)
            right -= _PICTURE_WIDTH
        facts = [moment_words(row.recorded), ANY_VIEW_WORDS[row.view]]
        fact_width = max(_wide(f, 12, False) for f in facts)
        load = f"{row.load_kg:g} kg" if row.load_kg else ""
        reps = load
        if summary:
            partial = f" + {summary['partial']} short" if summary["partial"] else ""
            counted = f"{summary['full']}{partial}"
            reps = f"{load} × {counted}" if load else f"{counted} reps"
        middle = right - fact_width - 24.0
        reps_width = _wide(reps, 13, False)
        room = middle - reps_width - 20 - x
        name = str(summary["name"]) if summary else self._name_of(row.standard)
        school = f" · {summary['school']}" if summary and summary["school"] else ""
        client_width = min(_wide(row.client, 14, True), 0.55 * room)
        _text(
            painter,
            x,
            28,
            text=row.client,
            size=14,
            bold=True,
            colour=c["ink"],
            room=client_width + 2,
        )
        after = x + client_width + 14
        _text(
            painter,
            after,
            28,
            text=name + school,
            size=13,
            bold=False,
            colour=c["muted"],
            room=room - (after - x),
        )
        _text(
            painter,
            middle - reps_width,
            28,
            text=reps,
            size=13,
            bold=False,
            colour=c["ink"],
            room=reps_width + 2,
        )
        for i, fact in enumerate(facts):
            _text(
                painter,
                right - _wide(fact, 12, False),
                28 + 21 * i,
                text=fact,
                size=12,
                bold=False,
                colour=c["muted"],
                room=fact_width + 2,
            )
        if not summary:
            _text(
                painter,
                x,
                51,
                text=without_review(row),
                size=13,
                bold=False,
                colour=c["muted"],
                room=middle - x,
            )
            return whole
        if row.pain:
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(QColor(c["off"]))
            flag = QRectF(x, 39, _wide("pain", 11, True) + 12, 17)
            painter.drawRoundedRect(flag, 2, 2)
            _text(painter, x + 6, 52, text="pain", size=11, bold=True, colour=c["panel"], room=60)
            x += flag.width() + 8
        verdict = summary["verdict"]
        paint_mark(painter, x + 6, 47, verdict, 11, c)  # type: ignore[arg-type]
        role = {"off": "off", "near": "near"}.get(str(verdict), "ink")
        _text(
            painter,
            x + 20,
            51,
            text=str(summary["line"]),
            size=13,
            bold=False,
            colour=c[role],
            room=middle - x - 20,
        )
        return whole

    def _picture(self, painter: QPainter, row: QueueRow, width: int, height: int) -> bool:
        """The clip's picture at the card's right end, if it has one; False if it does not exist
        yet."""
        if not row.clip:
            return True
        room = QSize(_PICTURE_WIDTH - 4, height - 8)
        picture = _small_picture(
            self._clips / f"{row.clip}.jpg", room, self.list.devicePixelRatioF()
        )
        if picture is not None:
            size = picture.deviceIndependentSize()
            left = width - 8.0 - 0.5 * (_PICTURE_WIDTH - 4 + size.width())
            painter.drawPixmap(QPointF(left, 0.5 * (height - size.height())), picture)
        return picture is not None


def _small_picture(file: Path, room: QSize, ratio: float) -> QPixmap | None:
    """A picture fitted into a room, kept for the next time; None if there is none."""
    key = f"{file}|{room.width()}x{room.height()}|{ratio}"
    found = QPixmapCache.find(key)
    if found is not None:
        return found
    image = QImage(str(file))
    if image.isNull():
        return None
    fitted = QPixmap.fromImage(
        image.scaled(
            room * ratio,
            Qt.AspectRatioMode.KeepAspectRatio,
            Qt.TransformationMode.SmoothTransformation,
        )
    )
    fitted.setDevicePixelRatio(ratio)
    QPixmapCache.insert(key, fitted)
    return fitted


def _dial(painter: QPainter, dial: MiniDial, colours: Mapping[str, str]) -> None:
    """The miniature: the intended range, a line for each rep, the joint."""
    soft = QColor(colours["guide-soft"])
    soft.setAlphaF(0.55)
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(soft)
    painter.drawPolygon(QPolygonF([QPointF(*p) for p in dial.intended]))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    for ring in dial.rings:
        painter.setPen(QPen(QColor(colours["off" if ring.off else "actual"]), ring.width))
        painter.drawPolyline(QPolygonF([QPointF(*p) for p in ring.line]))
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(QColor(colours["ink"]))
    painter.drawEllipse(QPointF(*dial.joint), 1.6, 1.6)


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
) -> None:
    font = type_of(size, bold)
    painter.setFont(font)
    painter.setPen(QColor(colour))
    short = QFontMetricsF(font).elidedText(text, Qt.TextElideMode.ElideRight, max(room, 0))
    painter.drawText(round(x), round(y), short)
