"""Whether a clip was filmed as in a mirror, as phones do that film who holds them."""

from __future__ import annotations

from functools import partial

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QCheckBox

from guide_arc.app.contract.history import Step
from guide_arc.app.contract.job import Job, Task, on_library
from guide_arc.app.places.marking.model import MarkingModel
from guide_arc.app.places.marking.needs import MarkingNeeds
from guide_arc.app.services.destinations import ToMarking
from guide_arc.lazily import lazily

with lazily():
    from guide_arc.app.services import clip_jobs


class MirrorBox(QCheckBox):
    """Ticked, the clip's pictures are turned left to right, with all that was marked and found on
    them."""

    def __init__(self, program: MarkingNeeds, model: MarkingModel) -> None:
        super().__init__("Filmed as in a mirror")
        self._program, self._model = program, model
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.setToolTip(
            "A phone that films who holds it often keeps the picture as a mirror shows it: the left"
            " arm looks like the right one. Ticked, it is turned back"
        )
        self.clicked.connect(self._turn)
        model.changed.connect(self._show)

    def _show(self) -> None:
        clip = self._model.doc.clip
        self.setEnabled(clip is not None)
        self.setChecked(clip is not None and clip.mirrored)

    def _turn(self, mirrored: bool) -> None:
        record = self._model.doc.record
        if record is None:
            return
        task = self._task(record.id, mirrored)

        def done(answer: None) -> None:
            task.done(answer)
            self._program.did(
                Step(
                    "Filmed as in a mirror" if mirrored else "Filmed as it is",
                    ToMarking(set_id=record.id),
                    partial(self._task, record.id, not mirrored),
                    partial(self._task, record.id, mirrored),
                )
            )

        self._program.start(task.job, done)

    def _task(self, set_id: int, mirrored: bool) -> Task[None]:
        work = on_library(clip_jobs.turn_back, set_id, mirrored)

        def done(_none: None) -> None:
            self._program.library.changed.emit(frozenset({set_id}))
            record = self._model.doc.record
            if record is not None and record.id == set_id:
                self._program.measuring.open_marks(set_id)

        return Task(Job("", work, lane="now"), done)
