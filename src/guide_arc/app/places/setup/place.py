"""The setup: the body with the pull, the load over the arc, the wish, and what it means."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from functools import partial
from typing import Final

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import (
    QButtonGroup,
    QComboBox,
    QFrame,
    QGridLayout,
    QHBoxLayout,
    QLabel,
    QPushButton,
    QStackedLayout,
    QVBoxLayout,
    QWidget,
)

from guide_arc.app.contract.place import HeaderParts
from guide_arc.app.places.setup.asking import SetupQuestions
from guide_arc.app.places.setup.meaning import care_words
from guide_arc.app.places.setup.model import SetupModel
from guide_arc.app.places.setup.needs import SetupNeeds
from guide_arc.app.places.setup.sheets import (
    BodyView,
    FoundView,
    LoadDialView,
    MeaningView,
    StripView,
)
from guide_arc.app.places.setup.wishing import flipped, hardest_or_none, spared_or_not
from guide_arc.app.services.destinations import ToSetup
from guide_arc.app.widgets.panels import heading, hint, panel, scrolled
from guide_arc.core.mechanics.find_setup import Spare, Where, Wish
from guide_arc.drawings.setup_sheet import LOOKS

_NOBODY = "usual stature"
_WISH_WORDS: Final[tuple[tuple[str, Where], ...]] = (
    ("stretched", "stretched"),
    ("middle", "middle"),
    ("short", "shortened"),
    ("even", "even"),
)
_SPARED: Final[tuple[Spare, ...]] = ("elbow", "wrist")


def make(program: SetupNeeds) -> SetupPlace:
    place = SetupPlace(program)
    program.recoloured.connect(place.set_colours)
    program.closing.connect(place.hear_no_more)
    return place


class SetupPlace(QWidget):
    """Trying setups by hand and key; wishing for one."""

    def __init__(self, program: SetupNeeds) -> None:
        super().__init__()
        self.program, self.model = program, SetupModel(program)
        self.asking = SetupQuestions(program, self.model, self)
        colours = program.colours
        self.body, self.dial = BodyView(self.model, colours), LoadDialView(self.model, colours)
        self.strip, self.found = StripView(self.model, colours), FoundView(self.model, colours)
        self.meaning = MeaningView(self.model, colours)
        self.standard, self.school, self.client = QComboBox(), QComboBox(), QComboBox()
        names = ((self.standard, "Exercise"), (self.school, "School"), (self.client, "Client"))
        for box, name in names:
            box.setAccessibleName(name)
            box.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.standard.activated.connect(
            lambda i: self._ask_for(ToSetup(standard=self.standard.itemData(i)))
        )
        self.school.activated.connect(lambda i: self.model.take_school(self.school.itemData(i)))
        self.client.activated.connect(
            lambda i: self._ask_for(ToSetup(client=self.client.itemData(i)))
        )
        self.angle = QLabel()
        self.angle.setObjectName("heading")
        self.hardest = QLabel()
        self.hardest.setObjectName("guide")
        self.hardest.setWordWrap(True)
        self._wish_buttons: dict[str, QPushButton] = {}
        page = QWidget()
        grid = QGridLayout(page)
        grid.setContentsMargins(0, 0, 0, 0)
        grid.setSpacing(10)
        grid.addWidget(self._body_panel(), 0, 0, 2, 1)
        grid.addWidget(_sheet("Load over the arc", self.dial, self.hardest), 0, 1)
        grid.addWidget(_sheet("Torque, N·m (estimate)", self.strip), 1, 1)
        grid.addWidget(self._wish_panel(), 0, 2, 2, 1)
        grid.addWidget(_sheet("What it means", self.meaning), 2, 0, 1, 3)
        self.care = QLabel()
        self.care.setObjectName("hint")
        self.care.setWordWrap(True)
        grid.addWidget(self.care, 3, 0, 1, 3)
        for column, stretch in enumerate((56, 28, 28)):
            grid.setColumnStretch(column, stretch)
        for row, stretch in enumerate((26, 15, 17, 0)):
            grid.setRowStretch(row, stretch)
        self.page, self.empty = page, QLabel()
        self.empty.setObjectName("muted")
        self.empty.setAlignment(Qt.AlignmentFlag.AlignCenter)
        self.empty.setWordWrap(True)
        self.pages = QStackedLayout(self)
        self.pages.setContentsMargins(0, 0, 0, 0)
        self.pages.addWidget(page)
        self.pages.addWidget(self.empty)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.model.shown.connect(self._shown)
        self.model.moved.connect(self._moved)
        self._shown()

    def _body_panel(self) -> QFrame:
        frame = panel()
        box = QVBoxLayout(frame)
        box.setContentsMargins(6, 6, 6, 4)
        row = QHBoxLayout()
        self.looks = QButtonGroup(self)
        for look in LOOKS:
            button = QPushButton(look.capitalize())
            button.setObjectName("tab")
            button.setCheckable(True)
            button.setFocusPolicy(Qt.FocusPolicy.NoFocus)
            button.setChecked(look == "front")
            button.clicked.connect(lambda _on, to=look: self.body.show_look(to))
            self.looks.addButton(button)
            row.addWidget(button)
        row.addStretch(1)
        row.addWidget(self.angle)
        box.addLayout(row)
        row = QHBoxLayout()
        for chosen, stretch in ((self.standard, 3), (self.school, 2), (self.client, 2)):
            row.addWidget(chosen, stretch)
        box.addLayout(row)
        box.addWidget(self.body, 1)
        return frame

    def _wish_panel(self) -> QFrame:
        frame = panel()
        box = QVBoxLayout(frame)
        box.setContentsMargins(14, 8, 8, 6)
        box.setSpacing(6)
        box.addWidget(heading("The wish"))
        box.addWidget(hint("hardest where the arm is"))
        row = QHBoxLayout()
        row.setSpacing(4)
        for words, where in _WISH_WORDS:
            row.addWidget(self._wish(words, where, partial(self._wish_hardest, where)))
        row.addStretch(1)
        box.addLayout(row)
        box.addWidget(hint("and"))
        row = QHBoxLayout()
        row.setSpacing(4)
        row.addWidget(
            self._wish(
                "no slack", "no_slack", lambda: self._want(flipped(self._wished, "no_slack"))
            )
        )
        row.addWidget(
            self._wish(
                "in the arm's plane",
                "in_plane",
                lambda: self._want(flipped(self._wished, "in_plane")),
            )
        )
        row.addStretch(1)
        box.addLayout(row)
        row = QHBoxLayout()
        row.setSpacing(4)
        for joint in _SPARED:
            row.addWidget(
                self._wish(
                    f"spare the {joint}",
                    joint,
                    partial(self._wish_spared, joint),
                )
            )
        row.addStretch(1)
        box.addLayout(row)
        find = QPushButton("Find the setup (F)")
        find.setObjectName("main")
        find.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        find.clicked.connect(self.model.find)
        box.addWidget(find)
        area = scrolled(self.found)
        box.addWidget(area, 1)
        return frame

    def _wish(self, words: str, key: str, act: Callable[[], object]) -> QPushButton:
        button = QPushButton(words)
        button.setObjectName("small")
        button.setCheckable(True)
        button.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        button.clicked.connect(lambda _on: act())
        self._wish_buttons[key] = button
        return button

    @property
    def _wished(self) -> Wish:
        return self.model.doc.wish

    def _wish_hardest(self, where: Where) -> None:
        self._want(hardest_or_none(self._wished, where))

    def _wish_spared(self, joint: Spare) -> None:
        self._want(spared_or_not(self._wished, joint))

    def _want(self, wish: Wish) -> None:
        self.model.want(wish)

    # As the shell sees it

    def enter(self, to: ToSetup) -> None:
        self._ask_for(to)

    def leave(self) -> None:
        pass

    def header(self) -> HeaderParts:
        doc = self.model.doc
        plan, known = doc.plan, doc.known
        if plan is None or known is None:
            return HeaderParts(title="Setup")
        kept = len(doc.kept)
        return HeaderParts(
            title=plan.name,
            what=self._for_whom(known.client.name if known.client else ""),
            guide=plan.school.name if len(plan.schools) > 1 else "",
            load=doc.words,
            position=f"{kept} setup{'' if kept == 1 else 's'} kept" if known.client else "",
        )

    def _for_whom(self, client: str) -> str:
        doc = self.model.doc
        on = f", {doc.rep.words}" if doc.rep and doc.on_rep else ""
        return f"for {client}{on}" if client else ""

    # What is shown

    def hear_no_more(self) -> None:
        self.model.shown.disconnect()
        self.model.moved.disconnect()

    def set_colours(self, colours: Mapping[str, str]) -> None:
        for view in self._views():
            view.set_colours(colours)

    def _views(
        self,
    ) -> tuple[BodyView | LoadDialView | StripView | FoundView | MeaningView, ...]:
        return self.body, self.dial, self.strip, self.found, self.meaning

    def _ask_for(self, to: ToSetup) -> None:
        self.model.ask_for(to)
        self.setFocus()

    def next_look(self) -> None:
        look = LOOKS[(LOOKS.index(self.body.look) + 1) % len(LOOKS)]
        self.looks.buttons()[LOOKS.index(look)].setChecked(True)
        self.body.show_look(look)

    def _shown(self) -> None:
        doc = self.model.doc
        known, state = doc.known, doc.state
        self.pages.setCurrentWidget(
            self.page
            if state is not None or (known is not None and not doc.refused)
            else self.empty
        )
        if known is None:
            self.empty.setText("Reading…")
            return
        if doc.refused:
            self.empty.setText(
                f"{doc.refused}.\n\nChoose another exercise with its kit: {known.plan.name}."
            )
        self._fill(self.standard, known.standards, doc.standard)
        self._fill(self.client, ((("", _NOBODY)), *((n, n) for n in known.clients)), doc.client)
        plan = doc.plan or known.plan
        self._fill(self.school, [(s.id, s.name) for s in plan.schools], plan.school.id)
        self.school.setVisible(len(plan.schools) > 1)
        self.school.setToolTip(plan.school.why)
        self.care.setText(care_words(known.plan, state.points) if state is not None else "")
        wish = doc.wish
        for key, button in self._wish_buttons.items():
            button.setChecked(
                key == wish.hardest or key in wish.spare or bool(getattr(wish, key, False))
            )
        load, found = doc.load, doc.found_setup
        words = ""
        if load is not None and load.curve.hardest is not None:
            words = f"hardest at {load.curve.hardest.angle_deg:.0f}°"
            if found is not None and found.curve.hardest is not None:
                words = (
                    f"hardest at {found.curve.hardest.angle_deg:.0f}°, now"
                    f" {load.curve.hardest.angle_deg:.0f}°"
                )
        self.hardest.setText(words)
        self._moved()

    def _moved(self) -> None:
        load, at = self.model.doc.load, self.model.doc.at
        self.angle.setText(f"{load.path.angle_of} {load.path.angle_deg[at]:.0f}°" if load else "")
        for view in self._views():
            view.redraw()

    def _fill(self, box: QComboBox, items: Iterable[tuple[str, str]], chosen: str) -> None:
        box.blockSignals(True)
        if [box.itemData(i) for i in range(box.count())] != [value for value, _words in items]:
            box.clear()
            for value, words in items:
                box.addItem(words, value)
        box.setCurrentIndex(max(box.findData(chosen), 0))
        box.blockSignals(False)


def _sheet(title: str, view: QWidget, foot: QWidget | None = None) -> QFrame:
    frame = panel()
    box = QVBoxLayout(frame)
    box.setContentsMargins(12, 8, 8, 6)
    box.setSpacing(4)
    box.addWidget(heading(title))
    box.addWidget(view, 1)
    if foot is not None:
        box.addWidget(foot)
    return frame
