"""The document of the review with its clock: its requests, and its steps of undo."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import replace
from datetime import datetime
from functools import partial
from typing import Protocol

from guide_arc.app.contract.history import Step
from guide_arc.app.contract.job import Alone, AnyTask, Job, Task
from guide_arc.app.contract.signal import Signal
from guide_arc.app.places.review import by_hand
from guide_arc.app.places.review.document import Change, ReviewDocument, decided, opened
from guide_arc.app.places.review.in_turn import InTurn
from guide_arc.app.places.review.playback import Playback
from guide_arc.app.services.destinations import ToReview
from guide_arc.core.model.finding import Finding
from guide_arc.core.model.rep import Rep, Span
from guide_arc.core.model.review import Review
from guide_arc.core.model.settings import Saw
from guide_arc.drawings.ghost import Ghost
from guide_arc.drawings.shown_set import ShownSet
from guide_arc.library.merging import Merged, merged_notes
from guide_arc.library.records import Choice, SetNotes, SetRecord
from guide_arc.library.same_day import OtherRecording


class ReviewDesk(Protocol):
    """What the model asks of the program."""

    @property
    def coach(self) -> str:
        """The name that decisions are stored under."""

    def opened(self, set_id: int, notes: SetNotes) -> None:
        """A set is shown, with its document as the library has it."""

    def save(
        self, set_id: int, notes: SetNotes, joined: Callable[[SetNotes, Merged[SetNotes]], None]
    ) -> None:
        """Save the coach's document; retried until it is saved. `joined` is called with the written
        and the merged document if another window changed the set meanwhile."""

    def keep_review(self, set_id: int, review: Review) -> None:
        """Keep a review that was computed again because the document changed it."""

    def compute(
        self,
        work: Callable[[], ShownSet],
        done: Callable[[ShownSet], None],
        over: Callable[[], None],
    ) -> None:
        """Run `work` off the window's thread; `done` is called with its result, `over` when it
        ends in any way."""

    def did(self, step: Step) -> None: ...

    def putting_notes(self, set_id: int, notes: SetNotes, since: SetNotes | None) -> AnyTask:
        """Change the document of a set that is not open, from `since` to this; None changes its
        note alone."""


class ReviewModel:
    """doc : what is shown; playback : the clock

    opened : another set, and all with it; chosen_changed : another finding or rep; notes_changed :
    what the coach decided; look_changed : the side, or clip or figure; remeasured : another review
    of the same recording; ghost_changed; refused : why something can't be, in words
    """

    opened: Signal[()] = Signal()
    chosen_changed: Signal[()] = Signal()
    notes_changed: Signal[()] = Signal()
    look_changed: Signal[()] = Signal()
    remeasured: Signal[()] = Signal()
    ghost_changed: Signal[()] = Signal()
    refused: Signal[str] = Signal()

    def __init__(self, desk: ReviewDesk) -> None:
        self.desk, self.playback, self.doc = desk, Playback(), ReviewDocument()
        self._in_turn: InTurn[ShownSet] = InTurn(desk.compute)
        self._visit = 0

    # What is open

    def open(
        self,
        record: SetRecord,
        measured: ShownSet,
        that_day: Sequence[OtherRecording] = (),
        answers: Sequence[str] = (),
    ) -> None:
        """Show a set. The signal `opened` replaces all others: everything is new."""
        doc, start = opened(
            record, measured, that_day, tuple(answers), clip_wanted=self.doc.clip_wanted
        )
        self._visit += 1
        self._in_turn.forget()
        self.desk.opened(record.id, record.notes)
        self.playback.load(tuple(measured.time_s.tolist()), start)
        self.doc = replace(doc, rep=doc.rep_at(self.playback.at_s))
        self.opened.emit()

    def close(self) -> None:
        self._visit += 1
        self._in_turn.forget()
        self.doc = ReviewDocument(clip_wanted=self.doc.clip_wanted)
        self.playback.load((0.0,), 0.0)
        self.opened.emit()

    # Choosing

    def choose_finding(self, finding: Finding | None) -> None:
        """Choose a finding and go to the moment it shows most. None chooses nothing."""
        self.doc = replace(self.doc, finding=finding)
        if finding is not None and finding.at_s is not None:
            self.playback.pause()
            self.playback.set_loop(None)
            self.playback.go_to(finding.at_s)
            self.doc = replace(self.doc, rep=self.doc.rep_at(self.playback.at_s))
        self.chosen_changed.emit()

    def choose_rep(self, rep: Rep) -> None:
        """Choose a rep and go to the moment of its turn, or of its chosen finding."""
        self.doc = replace(self.doc, rep=rep)
        finding = self.doc.finding
        per_rep = finding.per_rep if finding is not None else ()
        judged = next((j for j in per_rep if j.rep == rep.number), None)
        if self.playback.loop:
            self.playback.set_loop(Span(rep.start_s, rep.end_s))
        self.playback.go_to(judged.at_s if judged else rep.turn_s)
        self.chosen_changed.emit()

    def toggle_loop(self) -> None:
        rep = self.doc.rep or self.doc.rep_at(self.playback.at_s)
        if self.playback.loop or rep is None:
            self.playback.set_loop(None)
        else:
            self.playback.set_loop(Span(rep.start_s, rep.end_s))

    def clock_moved(self, at_s: float) -> None:
        """The rep under the clock is the chosen one."""
        rep = self.doc.rep_at(at_s)
        if rep is not self.doc.rep:
            self.doc = replace(self.doc, rep=rep)
            self.chosen_changed.emit()

    def look(self, asked: ReviewDocument | str) -> None:
        """From another side, or at the clip or the figure; words say why it can't be."""
        if isinstance(asked, str):
            self.refused.emit(asked)
        else:
            self.doc = asked
            self.look_changed.emit()

    def show_ghost(self, ghost: Ghost | None) -> None:
        """Lay another rep, of this set or another, over the figure."""
        self.doc = replace(self.doc, ghost=ghost)
        self.ghost_changed.emit()

    # Deciding

    def note(self, asked: Change | str) -> None:
        """What the coach decided, as one step of undo; words say why it can't be."""
        if isinstance(asked, str):
            self.refused.emit(asked)
        else:
            self._change(*asked)

    def decide(self, finding: Finding, choice: Choice, words: str | None = None) -> None:
        """Keep, drop or reword a finding. Deciding the same again takes it back."""
        self.note(decided(self.doc, finding, choice, words, self.desk.coach, _now()))

    def write_note(self, text: str) -> None:
        """The coach's note. Typing on is one step of undo."""
        if text != self.doc.notes.note:
            self._change("Note", replace(self.doc.notes, note=text), typing=True)

    def set_up(
        self,
        ask: Callable[[ReviewDocument], by_hand.Asked],
        then: Callable[[], None] = lambda: None,
    ) -> None:
        """Other settings by hand, and the review that they give. They rest on each other, so one is
        computed at a time. ask : what is wanted, of the document as it is then; then : what follows
        once it is shown"""

        def act() -> None:
            asked, before = ask(self.doc), self.doc.measured
            if isinstance(asked, str):
                self.refused.emit(asked)
            elif asked is not None and before is not None:
                self._try(asked, before, then)

        self._in_turn.then(act)

    def _try(
        self, asked: by_hand.OtherSettings, before: ShownSet, then: Callable[[], None]
    ) -> None:
        def tried(shown: ShownSet) -> None:
            why = by_hand.why_unfit(asked, before, shown)
            if why:
                self.refused.emit(why)
                return
            self._change(asked.words, replace(self.doc.notes, settings=asked.settings), tried=shown)
            then()

        self._in_turn.compute(lambda: before.with_settings(asked.settings), tried)

    def saw(self, finding: Finding, saw: Saw) -> None:
        """The coach's own eye saw a check hold or break; then on to the next that the weight waits
        for."""
        waited = False

        def see(doc: ReviewDocument) -> by_hand.Asked:
            nonlocal waited
            waited = doc.waits_for(finding) and not by_hand.seen_already(doc, finding, saw)
            return by_hand.seen(doc, finding, saw, self.desk.coach, _now())

        def go_on() -> None:
            waiting = by_hand.next_waited_for(self.doc) if waited else None
            if waiting is not None:
                self.choose_finding(waiting)

        self.set_up(see, go_on)

    # Keeping, and taking back

    def _change(
        self, words: str, notes: SetNotes, *, typing: bool = False, tried: ShownSet | None = None
    ) -> None:
        if self.doc.record is None:
            return
        before, set_id = self.doc.notes, self.doc.record.id
        self._put(notes, tried)
        same = f"note/{set_id}/{self._visit}" if typing else ""
        self.desk.did(
            Step(
                words,
                ToReview(set_id=set_id),
                partial(self._swap, set_id, None if typing else notes, before),
                partial(self._swap, set_id, None if typing else before, notes),
                same,
            )
        )

    def _swap(self, set_id: int, since: SetNotes | None, to: SetNotes) -> AnyTask | None:
        """What a step changed of a set's document, taken back or done again; what came from another
        window stays.

        since : None if it was typing: the note alone becomes what it was, however far it had
            come
        """
        doc = self.doc
        if doc.record is None or doc.record.id != set_id or doc.measured is None:
            return self.desk.putting_notes(set_id, to, since)
        since = since or replace(to, note=doc.notes.note)
        notes = merged_notes(since, to, doc.notes).value
        if notes.settings == doc.notes.settings:
            self._put(notes)
            return None
        before = doc.measured
        job = Job(
            "",
            Alone(lambda _share: before.with_settings(notes.settings)),
            "",
            "now",
        )
        return Task(job, lambda tried: self._put(notes, tried))

    def _put(self, notes: SetNotes, tried: ShownSet | None = None) -> None:
        self.doc = self.doc.with_notes(notes)
        assert self.doc.record is not None
        self.desk.save(self.doc.record.id, notes, partial(self._joined, self.doc.record.id))
        if tried is not None:
            self._show_anew(tried)
        self.notes_changed.emit()

    def _show_anew(self, shown: ShownSet) -> None:
        """Another review of the same recording."""
        self.doc = self.doc.remeasured(shown)
        assert self.doc.record is not None
        self.desk.keep_review(self.doc.record.id, shown.review)
        self.remeasured.emit()

    def _joined(self, set_id: int, written: SetNotes, kept: Merged[SetNotes]) -> None:
        """Another window changed this set as well: what both say is shown from here on."""
        doc = self.doc
        if doc.record is None or doc.record.id != set_id or doc.measured is None:
            return
        notes = merged_notes(written, doc.notes, kept.value).value
        self.doc = doc.with_notes(notes)
        if notes.settings != doc.settings:
            before, visit = doc.measured, self._visit

            def show(shown: ShownSet) -> None:
                if visit == self._visit:
                    self._show_anew(shown)

            self.desk.compute(lambda: before.with_settings(notes.settings), show, lambda: None)
        self.notes_changed.emit()
        self.refused.emit(
            kept.words or "Another window also changed this set. Both changes are saved."
        )


def _now() -> str:
    return datetime.now().isoformat(timespec="seconds")
