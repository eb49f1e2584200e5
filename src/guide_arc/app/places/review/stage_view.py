"""The stage: the drawn figure, or the clip's own picture with the drawing over it, and a second one
next to it for another rep or set."""

from __future__ import annotations

from collections.abc import Mapping

from PyQt6.QtWidgets import QHBoxLayout, QWidget

from guide_arc.app.places.review.model import ReviewModel
from guide_arc.app.widgets.clip_frames import ClipFrames
from guide_arc.app.widgets.picture_canvas import PictureCanvas
from guide_arc.drawings.on_picture import person_in
from guide_arc.drawings.shapes import Drawing, Words
from guide_arc.drawings.shown_set import ShownSet
from guide_arc.drawings.stage import StageState, stage


class StageView(PictureCanvas):
    """The open set at the clock's moment."""

    def __init__(self, model: ReviewModel, colours: Mapping[str, str]) -> None:
        super().__init__(colours)
        self.model = model

    def shows_picture(self) -> bool:
        m = self.model
        return (
            self.frames is not None
            and m.doc.clip_wanted
            and m.doc.measured is not None
            and not m.doc.measured.can_turn
        )

    def shown(self) -> tuple[ShownSet, float] | None:
        """The measured set and its moment."""
        m = self.model
        return None if m.doc.measured is None else (m.doc.measured, m.playback.at_s)

    def drawn(self, width: float, height: float) -> Drawing | None:
        m, shown = self.model, self.shown()
        if shown is None:
            return None
        measured, at_s = shown
        if self.frames is not None and self.shows_picture():
            self.ask_for(self.frames.clip.index(at_s), playing=m.playback.playing)
        drawing = stage(self.state(measured, at_s), width, height)
        if self.frames is not None and self.shows_picture() and self.frames.wrong:
            drawing.add(Words(16, height / 2, self.frames.wrong, "off", 13, clear=True))
        return drawing

    def state(self, measured: ShownSet, at_s: float) -> StageState:
        m = self.model
        ghost = m.doc.ghost if not self.shows_picture() else None
        return StageState(
            measured=measured,
            at_s=at_s,
            looking=m.doc.looking,
            finding=m.doc.finding,
            ghost=ghost,
            placed=self.placed(),
            playing=m.playback.playing,
        )


class BesideView(StageView):
    """The ghost's own clip at the moment that matches the clock's, by rep and phase."""

    def shows_picture(self) -> bool:
        return self.frames is not None

    def shown(self) -> tuple[ShownSet, float] | None:
        m = self.model
        if m.doc.ghost is None or m.doc.measured is None:
            return None
        at_s = m.doc.ghost.at(m.doc.measured, m.playback.at_s)
        return m.doc.ghost.measured, m.doc.ghost.rep.start_s if at_s is None else at_s

    def state(self, measured: ShownSet, at_s: float) -> StageState:
        return StageState(measured, at_s, measured.looking, None, None, self.placed())

    def drawn(self, width: float, height: float) -> Drawing | None:
        drawing = super().drawn(width, height)
        ghost = self.model.doc.ghost
        if drawing is not None and ghost is not None and not ghost.own:
            drawing.add(Words(12, 43, ghost.words, "near", 12, clear=True))
        return drawing


class Stages(QWidget):
    """The stage, and next to it the clip of the rep or set that it is compared with."""

    def __init__(self, model: ReviewModel, colours: Mapping[str, str]) -> None:
        super().__init__()
        self.stage, self.beside = StageView(model, colours), BesideView(model, colours)
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(2)
        row.addWidget(self.stage, 1)
        row.addWidget(self.beside, 1)
        self.beside.hide()
        self.side_by_side = False

    def show_clips(self, own: ClipFrames | None, other: ClipFrames | None) -> None:
        """The open set's clip, and the ghost's, each about the person in it."""
        self.side_by_side = other is not None
        self.beside.setVisible(self.side_by_side)
        for view, frames in ((self.stage, own), (self.beside, other)):
            shown = view.shown() if frames is not None else None
            view.show_clip(frames, person_in(shown[0].body) if shown else None)

    def redraw(self) -> None:
        self.stage.redraw()
        if self.beside.isVisible():
            self.beside.redraw()

    def set_colours(self, colours: Mapping[str, str]) -> None:
        self.stage.set_colours(colours)
        self.beside.set_colours(colours)
