"""The document of the marking of a clip: undo, and keeping each mark at once."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from functools import partial
from typing import Protocol

from guide_arc.app.contract.history import Step
from guide_arc.app.contract.job import AnyTask
from guide_arc.app.contract.signal import Signal
from guide_arc.app.places.marking.document import MarkChange, MarkingDocument, meant, opened
from guide_arc.app.services.destinations import ToMarking
from guide_arc.capture.tracking.people import Person
from guide_arc.capture.video.clip import Clip
from guide_arc.core.kinematics.calibrate import calibration_of
from guide_arc.core.model.marks import LineKind, Marks
from guide_arc.core.model.standard import Standard
from guide_arc.core.model.track import LandmarkTrack
from guide_arc.library.merging import Merged, merged_marks
from guide_arc.library.records import SetRecord


class MarkingDesk(Protocol):
    """What the model asks of the program."""

    def opened(self, set_id: int, marks: Marks, *, mirrored: bool) -> None:
        """These marks are in the library now, of a picture that is shown so."""

    def save(
        self,
        set_id: int,
        marks: Marks,
        joined: Callable[[Marks, Merged[Marks]], None],
        *,
        measure_again: bool,
    ) -> None:
        """Save the marks.

        joined : called with the written and the merged marks if another window also marked the clip
        measure_again : scale, vertical or side changed, so the found landmarks change as well
        """

    def putting_marks(self, set_id: int, marks: Marks, since: Marks | None) -> AnyTask:
        """Change the marks of a clip that is not open, from `since` to these."""

    def did(self, step: Step) -> None: ...


class MarkingModel:
    """opened : another clip; changed : another document of it; moved : another frame; refused : why
    something can't be; was_meant : one of the people in view was chosen"""

    opened: Signal[()] = Signal()
    changed: Signal[()] = Signal()
    moved: Signal[int] = Signal()
    refused: Signal[str] = Signal()
    was_meant: Signal[()] = Signal()

    def __init__(self, desk: MarkingDesk) -> None:
        self.desk, self.doc = desk, MarkingDocument()

    def open(
        self,
        record: SetRecord,
        clip: Clip,
        standard: Standard,
        marks: Marks,
        found: LandmarkTrack | None,
        people: tuple[Person, ...] = (),
    ) -> None:
        """Mark a set's clip. `found`: the landmarks found so far, if any; `people`: who may be
        meant."""
        self.desk.opened(record.id, marks, mirrored=clip.mirrored)
        self.doc = opened(self.doc, record, clip, standard, marks=marks, found=found, people=people)
        self.opened.emit()
        self.changed.emit()

    def close(self) -> None:
        """Nothing is marked any more: the set is gone."""
        self.doc = MarkingDocument()
        self.opened.emit()
        self.changed.emit()

    # Moving about

    def go_to(self, frame: int) -> None:
        before, self.doc = self.doc.frame, self.doc.at_frame(frame)
        if self.doc.clip is not None and self.doc.frame != before:
            self.moved.emit(self.doc.frame)

    def show(self, doc: MarkingDocument) -> None:
        """Another point, tool or frame."""
        frame, self.doc = self.doc.frame, doc
        if doc.frame != frame:
            self.moved.emit(doc.frame)
        self.changed.emit()

    def next_doubt(self, by: int = 1) -> None:
        """Go to the next place to look at again, with its point chosen."""
        doc = self.doc.at_doubt(by)
        if doc is None:
            self.refused.emit("There is nothing to look at again.")
        else:
            self.show(doc)

    # Marking

    def change(self, asked: MarkChange | MarkingDocument | str | None) -> None:
        """Store other marks, as a step of undo, and go to their frame; or say why they can't
        be."""
        if isinstance(asked, str):
            self.refused.emit(asked)
        elif isinstance(asked, MarkingDocument):
            self.show(asked)
        elif asked is not None and self.doc.record is not None:
            self._change(asked.words, asked.doc.marks)
            self.show(replace(asked.doc, marks=self.doc.marks, record=self.doc.record))

    def clear_line(self, kind: LineKind) -> None:
        marks = self.doc.marks.without_line(kind)
        self.change(MarkChange(f"Take the {kind} line away", replace(self.doc, marks=marks)))

    def clear_person(self) -> None:
        marks = replace(self.doc.marks, person=None)
        self.change(MarkChange("Anybody in view", replace(self.doc, marks=marks)))

    def mean(self, person: int) -> None:
        """Say which of the people in view is meant, by their place among them."""
        change = meant(self.doc, person)
        if change is not None:
            self.change(change)
            self.was_meant.emit()

    # Keeping, and taking back

    def _change(self, words: str, marks: Marks) -> None:
        if self.doc.record is None:
            return  # no clip is open: there is nothing to mark
        before, set_id = self.doc.marks, self.doc.record.id
        self._put(marks)
        back = partial(self._swap, set_id, marks, before)
        again = partial(self._swap, set_id, before, marks)
        self.desk.did(Step(words, ToMarking(set_id=set_id), back, again))

    def _swap(self, set_id: int, since: Marks, to: Marks) -> AnyTask | str | None:
        """What a step changed of a clip's marks, taken back or done again; what came from another
        window stays."""
        if self.doc.record is None or self.doc.record.id != set_id:
            return self.desk.putting_marks(set_id, to, since)
        out = merged_marks(since, to, self.doc.marks)
        self._put(out.value)
        return out.words or None

    def _put(self, marks: Marks) -> None:
        before, self.doc = self.doc.marks, replace(self.doc, marks=marks)
        assert self.doc.record is not None
        set_id, found = self.doc.record.id, self.doc.found is not None
        changed = (calibration_of(before), before.view) != (calibration_of(marks), marks.view)
        self.desk.save(
            set_id, marks, partial(self._joined, set_id), measure_again=changed and found
        )
        self.changed.emit()

    def _joined(self, set_id: int, written: Marks, kept: Merged[Marks]) -> None:
        """Another window marked this clip as well: what both marked is shown from here on."""
        if self.doc.record is None or self.doc.record.id != set_id:
            return
        marks = merged_marks(written, self.doc.marks, kept.value).value
        self.doc = replace(self.doc, marks=marks)
        self.changed.emit()
        self.refused.emit(
            kept.words or "Another window also marked this clip. Both sets of marks are saved."
        )
