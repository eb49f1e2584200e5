"""What is painted, probed where geometry says it must be."""

from __future__ import annotations

import numpy as np
import pytest
from PyQt6.QtCore import QSize
from PyQt6.QtGui import QColor, QFontDatabase, QFontMetricsF, QImage, QPainter
from PyQt6.QtWidgets import QApplication

from guide_arc.app.look import theme
from guide_arc.app.look.marks import paint_mark
from guide_arc.app.look.type import type_of
from guide_arc.app.widgets.canvas import Canvas
from guide_arc.app.widgets.painting import paint, polygon
from guide_arc.drawings.palette import DARK, LIGHT, PAGE
from guide_arc.drawings.shapes import Area, Disc, Drawing, MarkShape, Stroke, Words
from guide_arc.drawings.typeface import FAMILY


@pytest.fixture
def sheet(qapp):
    image = QImage(QSize(100, 80), QImage.Format.Format_RGB32)
    image.fill(QColor(LIGHT["panel"]))
    return image


def painted(sheet: QImage, *items: object) -> QImage:
    drawing = Drawing(100, 80)
    drawing.items = list(items)  # type: ignore[arg-type]
    painter = QPainter(sheet)
    paint(painter, drawing, LIGHT)
    painter.end()
    return sheet


def at(image: QImage, x: int, y: int) -> str:
    return image.pixelColor(x, y).name().upper()


def test_an_area_fills_its_inside_and_no_more(sheet):
    box = np.array([[20.0, 20.0], [60.0, 20.0], [60.0, 50.0], [20.0, 50.0]])
    image = painted(sheet, Area(box, "off"))
    assert at(image, 40, 35) == LIGHT["off"]
    assert at(image, 70, 35) == LIGHT["panel"]


def test_a_stroke_lies_on_its_line(sheet):
    image = painted(sheet, Stroke(np.array([[10.0, 40.0], [90.0, 40.0]]), "ink", 4.0))
    assert at(image, 50, 40) == LIGHT["ink"]
    assert at(image, 50, 47) == LIGHT["panel"]


def test_a_broken_line_has_gaps(sheet):
    image = painted(sheet, Stroke(np.array([[0.0, 40.0], [100.0, 40.0]]), "ink", 2.0, dash=True))
    row = {at(image, x, 40) for x in range(5, 95)}
    assert LIGHT["panel"] in row
    assert LIGHT["ink"] in row


def test_undefined_points_are_left_out(qapp):
    points = np.array([[1.0, 2.0], [np.nan, 5.0], [3.0, 4.0]])
    shape = polygon(points)
    assert [(p.x(), p.y()) for p in shape] == [(1.0, 2.0), (3.0, 4.0)]  # type: ignore[attr-defined]
    assert polygon(np.full((3, 2), np.nan)).isEmpty()


def test_words_stand_where_they_are_anchored(sheet):
    image = painted(sheet, Words(95, 40, "MMM", "ink", 14, bold=True, anchor="end"))
    inked = [
        x for x in range(100) for y in range(20, 45) if image.pixelColor(x, y).lightness() < 120
    ]
    assert 85 < max(inked) <= 95


def test_verdicts_differ_by_shape_not_only_by_colour(qapp):
    """In one ink, the four marks still cover different places."""
    grey = dict.fromkeys(LIGHT, "#000000")
    covered = {}
    for verdict in ("ok", "near", "off", "cannot-tell"):
        image = QImage(QSize(40, 40), QImage.Format.Format_RGB32)
        image.fill(QColor("#FFFFFF"))
        painter = QPainter(image)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        paint_mark(painter, 20, 20, verdict, 30, grey)
        painter.end()
        covered[verdict] = frozenset(
            (x, y) for x in range(40) for y in range(40) if image.pixelColor(x, y).lightness() < 128
        )
    names = list(covered)
    for i, a in enumerate(names):
        for b in names[i + 1 :]:
            apart = len(covered[a] ^ covered[b]) / max(len(covered[a] | covered[b]), 1)
            assert apart > 0.25, (a, b)
    assert (14, 20) in covered["near"]  # the left half is filled
    assert (26, 20) not in covered["near"]


def test_a_mark_and_a_disc_are_items_too(sheet):
    image = painted(sheet, MarkShape(30, 40, "off", 20), Disc(70, 40, 10, fill="guide"))
    assert at(image, 30, 43) == LIGHT["off"]
    assert at(image, 70, 40) == LIGHT["guide"]


def test_figures_are_as_wide_as_each_other(qapp):
    theme.load_fonts()
    assert FAMILY in QFontDatabase.families()
    widths = {QFontMetricsF(type_of(13, False)).horizontalAdvance(d) for d in "0123456789"}
    assert len(widths) == 1


def luminance(name: str) -> float:
    parts = []
    for channel in QColor(name).getRgbF()[:3]:
        parts.append(channel / 12.92 if channel <= 0.03928 else ((channel + 0.055) / 1.055) ** 2.4)
    return 0.2126 * parts[0] + 0.7152 * parts[1] + 0.0722 * parts[2]


@pytest.mark.parametrize("colours", [LIGHT, DARK, PAGE], ids=["light", "dark", "page"])
@pytest.mark.parametrize("role", ["ink", "muted", "guide", "off", "near"])
def test_words_stand_out_from_the_sheet(colours, role):
    light, dark = sorted((luminance(colours[role]), luminance(colours["panel"])), reverse=True)
    assert (light + 0.05) / (dark + 0.05) >= 4.5


def test_both_palettes_have_every_role():
    assert set(LIGHT) == set(DARK)
    assert set(PAGE) <= set(LIGHT)


@pytest.mark.parametrize(("mode", "colours"), [("light", LIGHT), ("dark", DARK)])
def test_a_mode_gives_the_application_its_colours(qapp, mode, colours):
    assert theme.apply(qapp, mode) == colours
    app = QApplication.instance()
    assert app.palette().window().color() == QColor(colours["paper"])
    theme.apply(qapp, "light")


class Counting(Canvas):
    """A canvas that counts how often it is drawn."""

    drawn_times = 0

    def drawn(self, width, height):
        self.drawn_times += 1
        drawing = Drawing(width, height)
        drawing.add(Words(5, 20, "forty degrees", "ink", 12))
        return drawing


def test_a_kept_picture_is_not_drawn_again(qtbot):
    canvas = Counting(LIGHT)
    qtbot.addWidget(canvas)
    canvas.resize(120, 60)
    with qtbot.waitExposed(canvas):
        canvas.show()
    canvas.grab()
    first = canvas.drawn_times
    canvas.grab()
    assert canvas.drawn_times == first
    assert canvas.accessibleDescription() == "forty degrees"
    canvas.redraw()
    canvas.grab()
    assert canvas.drawn_times == first + 1
    canvas.resize(140, 60)
    canvas.grab()
    assert canvas.drawn_times == first + 2
