"""The place Standards: all of them as moving tiles, one of them large, to read and to change."""

from __future__ import annotations

from collections.abc import Callable, Mapping

from PyQt6.QtCore import Qt, QTimer
from PyQt6.QtGui import QHideEvent, QShowEvent
from PyQt6.QtWidgets import (
    QFrame,
    QHBoxLayout,
    QLabel,
    QPushButton,
    QSplitter,
    QVBoxLayout,
    QWidget,
)

from guide_arc.app.contract.job import Alone, Job, Progress
from guide_arc.app.contract.place import HeaderParts
from guide_arc.app.contract.signal import silence
from guide_arc.app.places.standards.files import StandardFiles
from guide_arc.app.places.standards.finder import StandardFinder
from guide_arc.app.places.standards.model import StandardsModel
from guide_arc.app.places.standards.needs import StandardsNeeds
from guide_arc.app.places.standards.proof import Proof, film_of, preview, proof_words, prove
from guide_arc.app.places.standards.sheets.asks import AsksSheet
from guide_arc.app.places.standards.sheets.changes import ChangesSheet
from guide_arc.app.places.standards.sheets.checks import ChecksSheet
from guide_arc.app.places.standards.sheets.schools import SchoolsSheet
from guide_arc.app.places.standards.sheets.views import ViewsSheet
from guide_arc.app.places.standards.stage import StandardStage
from guide_arc.app.services.destinations import ToStandards
from guide_arc.app.widgets.tabs import Tabs
from guide_arc.core.model.errors import BadInput
from guide_arc.core.model.standard import Standard
from guide_arc.drawings.standard_sheet import Film
from guide_arc.library.trial import Trials
from guide_arc.standards.proof import Judged, judged_from

_SETTLE_MS = 180


def make(program: StandardsNeeds) -> StandardsPlace:
    place = StandardsPlace(program)
    program.recoloured.connect(place.set_colours)
    program.closing.connect(lambda: silence(place.model))
    return place


class StandardsPlace(QWidget):
    """All standards as tiles, one of them large. The library's sets are measured once, as
    trials."""

    def __init__(self, program: StandardsNeeds) -> None:
        super().__init__()
        self.program = program
        self.colours = program.colours
        library = program.library
        model = self.model = StandardsModel(library.own_standards, program.did)
        self.files = StandardFiles(program, model, self)
        self.trials = Trials(library.where)
        clients = library.library.clients
        model.refused.connect(program.say)
        model.edited.connect(library.standards_changed.emit)
        for news in (model.changed, model.chosen_changed):
            news.connect(program.changed)
        self.films: dict[str, Film] = {}
        self.proof: Proof | None = None
        self._judged: dict[tuple[str, str, str], Judged] = {}
        self._build(clients)
        self._settle = QTimer(self)
        self._settle.setSingleShot(True)
        self._settle.setInterval(_SETTLE_MS)
        self._settle.timeout.connect(self._try)
        model.changed.connect(self._list_changed)
        model.chosen_changed.connect(self.show_chosen)
        model.edited.connect(self._edited)
        self._entitled()
        self.show_chosen()

    # As the shell sees it

    def enter(self, to: ToStandards) -> None:
        if to.standard is not None:
            self.search.clear()
            self.model.show(self.model.doc.choosing(to.standard))
            if to.school is not None:
                self.model.show(self.model.doc.of_school(to.school))
        self.tiles.setFocus()
        if to.model_set is not None:
            self.files.propose(to.model_set, to.name)

    def leave(self) -> None:
        pass

    def header(self) -> HeaderParts:
        catalogue = self.model.doc.catalogue
        own = sum(catalogue.is_own(i) for i in catalogue.ids())
        count = f"{len(catalogue.ids())} standards"
        return HeaderParts(
            title="Standards", position=f"{count}, {own} of them yours" if own else count
        )

    # Building

    def _build(self, clients: Callable[[], list[str]]) -> None:
        self.finder = StandardFinder(self.model, self.colours, self.films)
        self.search, self.tiles = self.finder.search, self.finder.tiles
        self.stage = StandardStage(self.colours)
        self.stage.pulled.connect(self._pull)
        self.stage.let_go.connect(self._let_go)
        self.results = QLabel()
        self.results.setWordWrap(True)
        self.results.setMinimumHeight(38)
        self.results.setAlignment(Qt.AlignmentFlag.AlignTop)
        panel = QFrame()
        panel.setObjectName("panel")
        inside = QVBoxLayout(panel)
        inside.setContentsMargins(6, 6, 6, 6)
        self.name = QLabel()
        self.name.setObjectName("heading")
        self.name.setWordWrap(True)
        self.copy, self.revert = QPushButton("Copy"), QPushButton("Back to shipped")
        self.copy.clicked.connect(self.files.copy)
        self.revert.clicked.connect(self.files.revert)
        self.copy.setToolTip("A copy under a name of its own (Ctrl+D)")
        self.revert.setToolTip("Take your changes, or your copy, out; undo brings them back")
        top = QHBoxLayout()
        top.addWidget(self.name, 1)
        for button in (self.revert, self.copy):
            button.setObjectName("small")
            top.addWidget(button)
        inside.addLayout(top)
        inside.addWidget(self.stage, 1)
        inside.addWidget(self.results)
        self.asks, self.checks = AsksSheet(self.model), ChecksSheet(self.model)
        self.schools = SchoolsSheet(self.model, clients, self.colours)
        self.views, self.changes = ViewsSheet(self.colours), ChangesSheet(self.model)
        self.asks.went.connect(lambda id: self.model.show(self.model.doc.choosing(id)))
        self.checks.marked.connect(self._mark)
        self.sheets = Tabs(
            {
                "Asks": self.asks,
                "Checks": self.checks,
                "Schools": self.schools,
                "Views": self.views,
                "Changes": self.changes,
            },
            {
                "Asks": "Setup, range, tempo and dose",
                "Checks": "What is checked, with its limit",
                "Schools": "Where practitioners disagree",
                "Views": "What each camera view can judge",
                "Changes": "Yours against the shipped one",
            },
            [],
        )
        self.sheets.changed.connect(lambda _name: self._views_wanted())
        split = QSplitter()
        split.setHandleWidth(8)
        for widget, stretch in ((self.finder, 0), (panel, 4), (self.sheets, 5)):
            split.addWidget(widget)
            split.setStretchFactor(split.count() - 1, stretch)
        split.setSizes([316, 390, 440])
        split.setChildrenCollapsible(False)
        whole = QVBoxLayout(self)
        whole.setContentsMargins(0, 0, 0, 0)
        whole.addWidget(split, 1)

    # What is shown

    def set_colours(self, colours: Mapping[str, str]) -> None:
        self.colours = colours
        for widget in (self.tiles, self.stage):
            widget.set_colours(colours)
        self.schools.colours = self.views.colours = colours
        self.show_chosen()

    def showEvent(self, event: QShowEvent | None) -> None:
        super().showEvent(event)
        self.tiles.run(True)
        self.stage.run(True)
        self._perform_all()
        self.tiles.show_chosen()
        self._settle.start()

    def hideEvent(self, event: QHideEvent | None) -> None:
        super().hideEvent(event)
        self.tiles.run(False)
        self.stage.run(False)

    def _perform_all(self) -> None:
        """The tiles' figures, those at the top first, off the window's thread."""
        catalogue = self.model.doc.catalogue
        wanted = [i for i in self.model.doc.shown if i not in self.films]
        if not wanted:
            return

        def work(progress: Progress) -> None:
            for i, id in enumerate(wanted):
                progress(i / len(wanted))
                # Each is there to be drawn as soon as it is made: the dict is the tiles' own.
                self.films[id] = film_of(catalogue.standard(id))

        job = Job("", Alone(work), "films")
        self.program.start(job, lambda _none: None)

    def _list_changed(self) -> None:
        self.finder.refill()
        if self.isVisible():
            self._perform_all()

    def show_chosen(self) -> None:
        """Another standard or another school."""
        self.tiles.show_chosen()
        plan = self.model.doc.plan
        if plan is not None:
            self._show(plan)

    def _edited(self, _id: str) -> None:
        plan = self.model.doc.plan
        if plan is None:
            return
        self.films.pop(plan.id, None)
        if self.isVisible():
            self._perform_all()
        self._show(plan)

    def _show(self, plan: Standard) -> None:
        self.proof = None
        self._entitled()
        keep = self.checks.verticalScrollBar()
        at = keep.value() if keep is not None else 0
        self.asks.show_plan(plan)
        self.checks.show_plan(plan)
        self.schools.show_plan(plan)
        self.changes.show_changes()
        if keep is not None:
            keep.setValue(at)
        self._views_wanted()
        self.stage.show_plan(plan)
        self._settle.start()

    def _entitled(self) -> None:
        plan = self.model.doc.plan
        if plan is None:
            self.name.setText("")
            return
        school = f" · {plan.school.name}" if len(plan.schools) > 1 else ""
        mark = f" · {self.model.doc.mark}" if self.model.doc.mark else ""
        self.name.setText(f"{plan.name}{school}{mark}")
        self.revert.setVisible(self.model.doc.is_own)
        over = self.model.doc.catalogue.overrides(plan.id)
        self.revert.setText("Back to shipped" if over else "Take out")

    # Changing on the figure

    def _pull(self, values: dict[str, float]) -> None:
        """While a ring is dragged: the standard as it would be, not kept yet."""
        plan = self.model.doc.plan
        if plan is None:
            return
        try:
            self.stage.show_preview(preview(self.model.doc.catalogue, plan, values))
        except BadInput:
            return  # past what a standard may be: the ring stays where it was
        self._settle.start()

    def _let_go(self, values: dict[str, float]) -> None:
        names = {"from_deg": "Start", "to_deg": "Turn", "limit_pct": "Corridor"}
        key, value = next(iter(values.items()))
        if not self.model.set_values(values, f"{names[key.rsplit('.', maxsplit=1)[-1]]} {value:g}"):
            self.stage.show_preview(None)

    # Proving it: the clean set and the library's sets

    def _try(self) -> None:
        """The clean set and the library's sets against the standard as it is now."""
        plan = self.stage.preview or self.model.doc.plan
        if plan is None or not self.isVisible():
            return
        catalogue = self.model.doc.catalogue

        def work(progress: Progress) -> Proof:
            return prove(plan, catalogue, self.trials, progress)

        def done(proof: Proof) -> None:
            self.proof = proof
            self.checks.show_clean(proof.clean)
            self._say_results()

        self.proof = None
        self.program.start(Job("", Alone(work), "trial"), done)

    def _mark(self, check: str) -> None:
        self.stage.mark(check)
        self._say_results()

    def _say_results(self) -> None:
        self.results.setText(
            proof_words(self.proof, self.stage.marked)
            if self.proof is not None
            else "Reviewing the clean set and your clients' sets…"
        )

    def _views_wanted(self) -> None:
        """Film the standard from every side once its sheet is looked at."""
        plan = self.model.doc.plan
        if plan is None or self.sheets.current != "Views":
            return
        key = (plan.id, plan.school.id, repr(plan))
        self.views.show_views(plan, self._judged.get(key))
        if key in self._judged:
            return

        def done(found: Judged) -> None:
            self._judged[key] = found
            if self.model.doc.plan == plan and self.sheets.current == "Views":
                self.views.show_views(plan, found)

        def work(progress: Progress) -> Judged:
            return judged_from(plan, progress)

        self.program.start(Job("", Alone(work), "views"), done)
