"""The chosen standard as a figure that goes through its rep, with the phases below it."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Final

from PyQt6.QtCore import QTimer, pyqtSignal
from PyQt6.QtWidgets import QVBoxLayout, QWidget

from guide_arc.app.places.standards.figure import PhaseBar, StandardFigure
from guide_arc.core.model.standard import Standard
from guide_arc.drawings.standard_sheet import LOOK_DEG, SheetState
from guide_arc.standards.proof import Cycle, cycle_of

_FRAME_MS: Final = 50
# How far off the recommended view the figure is turned at first, so that its depth shows.
_BESIDE_SIDE_DEG: Final = -20.0
_BESIDE_FRONT_DEG: Final = 15.0


class StandardStage(QWidget):
    """pulled : a ring is dragged (the values it would give by key); let_go : it is let go

    cycle : the rep that is gone through; at_s : how far; playing : whether it moves
    marked : the check whose limit is shown; preview : the standard as it would be
    """

    pulled = pyqtSignal(dict)
    let_go = pyqtSignal(dict)

    def __init__(self, colours: Mapping[str, str]) -> None:
        super().__init__()
        self.cycle: Cycle | None = None
        self.at_s, self.playing = 0.0, True
        self.marked: str | None = None
        self.preview: Standard | None = None
        self.figure = StandardFigure(colours, self._sheet_state)
        self.figure.pulled.connect(self.pulled)
        self.figure.let_go.connect(self.let_go)
        self.phases = PhaseBar(colours)
        self.phases.asked.connect(self.look_at)
        box = QVBoxLayout(self)
        box.setContentsMargins(0, 0, 0, 0)
        box.addWidget(self.figure, 1)
        box.addWidget(self.phases)
        self._clock = QTimer(self)
        self._clock.setInterval(_FRAME_MS)
        self._clock.timeout.connect(self._tick)

    def show_plan(self, plan: Standard) -> None:
        """A standard, or the same one changed; another one begins its rep again."""
        if self.cycle is None or self.cycle.standard.id != plan.id:
            beside = _BESIDE_SIDE_DEG if plan.views[0] in ("left", "right") else _BESIDE_FRONT_DEG
            self.figure.turn_deg = LOOK_DEG[plan.views[0]] + beside
            self.marked, self.at_s, self.playing = None, 0.0, True
        self.cycle, self.preview = cycle_of(plan), None
        self._renew()

    def show_preview(self, plan: Standard | None) -> None:
        """The standard as it would be; None shows it as it is."""
        self.preview = plan
        if plan is not None:
            self.playing = False
        self.figure.redraw()

    def _sheet_state(self) -> SheetState | None:
        if self.cycle is None:
            return None
        plan = self.preview or self.cycle.standard
        return SheetState(
            plan, self.cycle.pose(self.at_s), self.cycle.extent, self.figure.turn_deg, self.marked
        )

    def _renew(self) -> None:
        if self.cycle is not None:
            self.figure.redraw()
            self.phases.show_at(self.cycle, self.at_s)

    def run(self, on: bool) -> None:
        """Let the clock run, or rest while nobody looks."""
        if on:
            self._clock.start()
        else:
            self._clock.stop()

    def _tick(self) -> None:
        if self.cycle is not None and self.playing:
            self.at_s = (self.at_s + _FRAME_MS / 1000.0) % self.cycle.length_s
            self._renew()

    def look_at(self, at_s: float) -> None:
        """Stand still at a moment of the rep, seconds."""
        self.playing, self.at_s = False, at_s
        self._renew()

    def toggle(self) -> None:
        self.playing = not self.playing

    def turn(self) -> None:
        """A quarter round."""
        self.figure.look_from((round(self.figure.turn_deg / 90.0) + 1) * 90.0)

    def mark(self, check: str) -> None:
        self.marked = check
        self.figure.redraw()

    def set_colours(self, colours: Mapping[str, str]) -> None:
        self.figure.set_colours(colours)
        self.phases.set_colours(colours)
