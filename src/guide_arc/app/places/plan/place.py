"""The plan: the session to scale, its lines, why each dose is what it is, and what the regions
had."""

from __future__ import annotations

from collections.abc import Mapping
from typing import TYPE_CHECKING

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import (
    QComboBox,
    QHBoxLayout,
    QLabel,
    QStackedLayout,
    QVBoxLayout,
    QWidget,
)

from guide_arc.app.contract.place import HeaderParts
from guide_arc.app.places.plan.asking import PlanQuestions
from guide_arc.app.places.plan.document import last_filmed, order_words
from guide_arc.app.places.plan.many import ManyClients
from guide_arc.app.places.plan.model import PlanModel
from guide_arc.app.places.plan.needs import PlanNeeds
from guide_arc.app.places.plan.sheets import (
    LinesView,
    RegionsView,
    TimelineView,
    WhyView,
)
from guide_arc.app.places.plan.weeks_page import WeeksPage
from guide_arc.app.services.destinations import ToPlan
from guide_arc.app.widgets.panels import heading, panel, scrolled
from guide_arc.drawings.days import day_words
from guide_arc.lazily import lazily

with lazily():
    pass

if TYPE_CHECKING:
    from guide_arc.core.planning.plan import DosedLine


def make(program: PlanNeeds) -> PlanPlace:
    place = PlanPlace(program)
    program.recoloured.connect(place.set_colours)
    program.library.changed.connect(place.sets_changed)
    program.library.gone.connect(place.sets_changed)
    program.measuring.reviewed.connect(lambda: place.sets_changed(frozenset()))
    program.closing.connect(place.hear_no_more)
    return place


class PlanPlace(QWidget):
    """Reading a proposal, changing it by keys and mouse, taking it along."""

    def __init__(self, program: PlanNeeds) -> None:
        super().__init__()
        self.program, self.model = program, PlanModel(program)
        self.asking = PlanQuestions(program, self.model, self)
        self.many = ManyClients(program, self, self.model.choose_client)
        self.here, self._closed = False, False
        colours = program.colours
        self.timeline = TimelineView(self.model, colours)
        self.lines = LinesView(self.model, colours)
        self.why = WhyView(self.model, colours)
        self.why.opened.connect(self.program.measuring.open)
        self.regions = RegionsView(self.model, colours)
        self.client = QComboBox()
        self.client.setAccessibleName("Client")
        self.client.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.client.activated.connect(lambda i: self.model.choose_client(self.client.itemText(i)))
        self.length, self.order, self.why_title, self.why_hint = (
            QLabel(),
            QLabel(),
            QLabel(),
            QLabel(),
        )
        self.advice = QLabel()
        self.advice.setWordWrap(True)
        self.foot = QLabel(
            "A proposal: the coach decides, and what is changed stays. Pain stops a line: see a"
            " licensed clinician. No step over 10 % goes in unasked."
        )
        self.foot.setObjectName("hint")
        for label in (self.length, self.order, self.why_hint):
            label.setObjectName("hint")
        self.why_title.setObjectName("heading")
        top = panel()
        box = QVBoxLayout(top)
        box.setContentsMargins(2, 8, 2, 2)
        box.addLayout(_row(heading("The session, to scale"), self.client, None, self.length))
        box.addWidget(self.timeline)
        left = panel()
        box = QVBoxLayout(left)
        box.setContentsMargins(2, 8, 2, 4)
        box.addLayout(_row(heading("Lines"), None, self.order))
        area = scrolled(self.lines)
        box.addWidget(area, 1)
        right = panel()
        box = QVBoxLayout(right)
        box.setContentsMargins(2, 8, 2, 4)
        box.addLayout(_row(self.why_title, None, self.why_hint))
        box.addWidget(self.why, 1)
        middle = QHBoxLayout()
        middle.setSpacing(10)
        middle.addWidget(left, 61)
        middle.addWidget(right, 39)
        below = panel()
        box = QVBoxLayout(below)
        box.setContentsMargins(2, 8, 2, 8)
        self.window_days = QLabel()
        self.window_days.setObjectName("heading")
        self.regions_hint = QLabel()
        self.regions_hint.setObjectName("hint")
        box.addLayout(_row(self.window_days, None, self.regions_hint))
        box.addWidget(self.regions)
        advice = QHBoxLayout()
        advice.setContentsMargins(12, 0, 12, 0)
        advice.addWidget(self.advice)
        box.addLayout(advice)
        page = QWidget()
        whole = QVBoxLayout(page)
        whole.setContentsMargins(0, 0, 0, 0)
        whole.setSpacing(10)
        whole.addWidget(top)
        whole.addLayout(middle, 1)
        whole.addWidget(below)
        whole.addWidget(self.foot)
        self.empty = QLabel()
        self.empty.setObjectName("muted")
        self.empty.setAlignment(Qt.AlignmentFlag.AlignCenter)
        self.page, self.weeks_page = page, WeeksPage(self.model, colours, self.foot.text())
        self.pages = QStackedLayout(self)
        self.pages.setContentsMargins(0, 0, 0, 0)
        self.pages.addWidget(page)
        self.pages.addWidget(self.weeks_page)
        self.pages.addWidget(self.empty)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.model.shown.connect(self._shown)
        self._shown()

    # As the shell sees it

    def enter(self, to: ToPlan) -> None:
        self.here = True
        if to.client is not None:
            self.model.choose_client(to.client)
        self.model.refresh()
        self.setFocus()

    def leave(self) -> None:
        self.here = False

    def header(self) -> HeaderParts:
        sheet = self.model.doc.sheet
        if sheet is None:
            return HeaderParts(title="Plan")
        easier = any(
            easy and 0 <= (sheet.session.on - monday).days < 7 for monday, easy in sheet.weeks
        )
        state = "done" if sheet.done else "planned" if sheet.kept else "proposed"
        days = [d for d, _done in sheet.days]
        at = days.index(sheet.session.on) + 1
        return HeaderParts(
            title=sheet.known.client.name,
            what=f"{state} for {sheet.session.on:%a} {day_words(sheet.session.on.isoformat())}",
            guide=order_words(self.model.doc),
            when="an easier week" if easier else "",
            position=f"session {at} of {len(days)}",
            before="plan.earlier" if at > 1 else "",
            after="plan.later" if at < len(days) else "",
        )

    # What is shown

    def sets_changed(self, _ids: frozenset[int]) -> None:
        if self.here and not self._closed:
            self.model.refresh()

    def hear_no_more(self) -> None:
        self._closed = True
        self.model.shown.disconnect()

    def open_last_set(self) -> None:
        """The set that the chosen dose rests on most."""
        last = last_filmed(self.model.doc)
        if last is not None:
            self.program.measuring.open(last.id)

    def set_colours(self, colours: Mapping[str, str]) -> None:
        for view in (self.timeline, self.lines, self.why, self.regions, self.weeks_page.board):
            view.set_colours(colours)

    def _shown(self) -> None:
        sheet = self.model.doc.sheet
        shown = self.weeks_page if self.model.doc.weeks_shown else self.page
        self.pages.setCurrentWidget(shown if sheet else self.empty)
        if sheet is None:
            self.empty.setText(
                "No client yet, and so nothing to plan.\n\nThey come with their sets (Ctrl+O), or"
                " are made in Clients (F7, N)."
                if self.model.doc.loaded
                else "Reading…"
            )
            return
        if self.model.doc.weeks_shown:
            self.weeks_page.renew()
            return
        self.client.blockSignals(True)
        self.client.clear()
        self.client.addItems(self.model.doc.names)
        self.client.setCurrentText(self.model.doc.client or "")
        self.client.blockSignals(False)
        self.length.setText(self._length_words())
        self.order.setText(f"order: {order_words(self.model.doc)}")
        line = self.model.doc.chosen_line
        self.why_title.setText("Why" if line is None else _why_words(line))
        self.why_hint.setText(line.name if line else "")
        heads, days = self.model.doc.by_head, sheet.known.client.neglect_days
        self.window_days.setText(f"{'Muscles and heads' if heads else 'Regions'}, last {days} days")
        self.regions_hint.setText(
            "minutes under tension done, and planned in teal · H regions"
            if heads
            else "sets done, and planned in teal · days since · H muscles and heads"
        )
        missed = [
            f"The session of {day_words(m.on.isoformat())} was missed: do it next time, or join it"
            " with the next one (Plan menu)."
            for m in sheet.missed[:1]
        ]
        self.advice.setText("   ".join([*missed, *sheet.advice]))
        self.advice.setObjectName("warning" if self.advice.text() else "muted")
        self.timeline.redraw()
        self.lines.renew()
        self.why.redraw()
        self.regions.redraw()

    def _length_words(self) -> str:
        sheet = self.model.doc.sheet
        if sheet is None or not sheet.slots:
            return ""
        parts = {
            kind: sum(s.end_s - s.start_s for s in sheet.slots if s.kind == kind)
            for kind in ("warm-up", "set", "rest", "change")
        }
        names = {
            "warm-up": "warm-up",
            "set": "in sets",
            "rest": "resting",
            "change": "changing kit",
        }
        told = " · ".join(
            f"{parts[kind] / 60:.0f} {names[kind]}" for kind in parts if parts[kind] >= 30
        )
        return f"{sheet.length_s / 60:.0f} min: {told}"


def _why_words(line: DosedLine) -> str:
    asked = line.asked
    if asked.ask_first:
        return "Why stop"
    return (
        f"Why {asked.load_kg:g} kg"
        if asked.load_kg is not None
        else f"Why {asked.reps[0]} to {asked.reps[1]} reps"
    )


def _row(*widgets: QWidget | None) -> QHBoxLayout:
    """Widgets side by side; None is where the room goes."""
    row = QHBoxLayout()
    row.setContentsMargins(12, 0, 12, 0)
    row.setSpacing(10)
    for widget in widgets:
        if widget is None:
            row.addStretch(1)
        else:
            row.addWidget(widget)
    return row
