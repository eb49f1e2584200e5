"""One set under review: what is chosen, and what the coach decided, each a step of undo."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import replace
from datetime import datetime
from functools import partial
from typing import Any, Protocol

from guide_arc.app.contract.history import Step
from guide_arc.app.contract.job import Alone, Job, Task
from guide_arc.app.contract.signal import Signal
from guide_arc.app.places.review.by_hand import ByHand
from guide_arc.app.places.review.playback import Playback
from guide_arc.app.services.destinations import ToReview
from guide_arc.core.model.finding import Finding
from guide_arc.core.model.prescription import Prescription
from guide_arc.core.model.rep import Rep, Span
from guide_arc.core.model.review import Review
from guide_arc.core.model.settings import Settings
from guide_arc.core.planning.pain import asking_first
from guide_arc.core.review.far_arm import told_once
from guide_arc.core.review.rank import MOST_CUES
from guide_arc.drawings.dial import RepKey
from guide_arc.drawings.figure import Looking
from guide_arc.drawings.ghost import Ghost, usual_rep
from guide_arc.drawings.shown_set import ShownSet
from guide_arc.drawings.words import rep_name
from guide_arc.library.merging import Merged, merged_notes
from guide_arc.library.records import Choice, Decision, SetNotes, SetRecord
from guide_arc.library.same_day import OtherRecording

_ALL_LOOKS: tuple[Looking, ...] = ("left", "front", "right", "back")


def _same(a: Finding, b: Finding) -> bool:
    return a.rule.name == b.rule.name and a.judged == b.judged and a.side != b.side


class Desk(Protocol):
    """What the model asks of the program."""

    @property
    def coach(self) -> str:
        """The name that decisions are stored under."""

    def opened(self, set_id: int, notes: SetNotes) -> None:
        """A set is shown, with its document as the library has it."""

    def save(
        self, set_id: int, notes: SetNotes, joined: Callable[[SetNotes, Merged[SetNotes]], None]
    ) -> None:
        """Keep the coach's document; tried again until it is kept. `joined` hears what was kept
        where another window had changed the set meanwhile, and what had been written from here."""

    def keep_review(self, set_id: int, review: Review) -> None:
        """Keep a review that was computed anew because the document changed it."""

    def compute(
        self,
        work: Callable[[], ShownSet],
        done: Callable[[ShownSet], None],
        over: Callable[[], None],
    ) -> None:
        """Do something off the window's thread; `done` hears what came of it, `over` that it
        ended."""

    def did(self, step: Step) -> None: ...

    def putting_notes(self, set_id: int, notes: SetNotes, since: SetNotes | None) -> Task[Any]:
        """Change the document of a set that is not open, from `since` to this; None changes its
        note alone."""


class ReviewModel:
    """The state of the review place."""

    opened: Signal[()] = Signal()
    chosen_changed: Signal[()] = Signal()
    notes_changed: Signal[()] = Signal()
    look_changed: Signal[()] = Signal()
    remeasured: Signal[()] = Signal()
    ghost_changed: Signal[()] = Signal()
    refused: Signal[str] = Signal()

    def __init__(self, desk: Desk) -> None:
        self.desk = desk
        self.playback = Playback()
        self.record: SetRecord | None = None
        self.measured: ShownSet | None = None
        self.notes = SetNotes()
        self.that_day: tuple[OtherRecording, ...] = ()
        self.finding: Finding | None = None
        self.rep: Rep | None = None
        self.looking: Looking = "left"
        self.ghost: Ghost | None = None
        self.clip_wanted = True
        self._visit = 0
        self.by_hand = ByHand(self)

    # What is open

    def open(
        self, record: SetRecord, measured: ShownSet, that_day: Sequence[OtherRecording] = ()
    ) -> None:
        """Show a set with its worst finding chosen, standing where that shows most, or at the first
        lift. All is new: who hears `opened` need not be told of the rest.

        that_day : the day's other recordings of the exercise
        """
        self.record, self.measured, self.notes = record, measured, record.notes
        self.that_day = tuple(that_day)
        self._visit += 1
        self.desk.opened(record.id, record.notes)
        self.by_hand.forget()
        self.looking = measured.looking
        self.rep = self.ghost = None
        reps = measured.review.reps
        start = reps[0].start_s if reps else float(measured.time_s[0])
        self.finding = next(iter(measured.review.with_verdict("off", "near")), None)
        if self.finding is not None and self.finding.at_s is not None:
            start = self.finding.at_s
        self.playback.load(tuple(measured.time_s.tolist()), start)
        self._follow_clock()
        self.opened.emit()

    def shown_elsewhere(self, finding: Finding) -> str:
        """What another recording of the day shows of a check that this one can't tell, in words;
        else nothing."""
        for other in reversed(self.that_day):
            shown = other.shows.get(finding.key)
            if shown is not None:
                view = other.view.removeprefix("Seen ")
                at = f"at {other.recorded[11:16]}" if len(other.recorded) >= 16 else "that day"
                return f"{shown} in the set {at}, seen {view}"
        return ""

    def close(self) -> None:
        self._visit += 1
        self.record = self.measured = self.finding = self.rep = self.ghost = None
        self.playback.load((0.0,), 0.0)
        self.opened.emit()

    @property
    def findings(self) -> tuple[Finding, ...]:
        """The findings in the order in which they should be read. Where both arms have the same
        verdict, the worse one speaks for both."""
        every = self._once()
        return tuple(f for i, f in enumerate(every) if not any(_same(f, g) for g in every[:i]))

    def _once(self) -> tuple[Finding, ...]:
        """The findings without those that only say that an arm is behind the body."""
        if self.measured is None:
            return ()
        return told_once(self.measured.review.findings, self.measured.body.cleaned.track.view)

    def speaks_for_both(self, finding: Finding) -> bool:
        """Whether the other arm has the same verdict, and is left out for it."""
        return len(self.spoken_for(finding)) > 1

    def spoken_for(self, finding: Finding) -> tuple[Finding, ...]:
        """The finding with that of the other arm for which it speaks."""
        every = self._once()
        return (finding, *(g for g in every if g is not finding and _same(finding, g)))

    # Choosing

    def choose_finding(self, finding: Finding | None) -> None:
        """Choose a finding and go to the moment it shows most. None chooses nothing."""
        self.finding = finding
        if finding is not None and finding.at_s is not None:
            self.playback.pause()
            self.playback.set_loop(None)
            self.playback.go_to(finding.at_s)
            self._follow_clock()
        self.chosen_changed.emit()

    def step_finding(self, by: int) -> None:
        found = self.findings
        if not found:
            return
        at = found.index(self.finding) if self.finding in found else (-1 if by > 0 else 0)
        self.choose_finding(found[(at + by) % len(found)])

    def choose_rep(self, rep: Rep) -> None:
        """Choose a rep and go to the moment of its turn, or of its chosen finding."""
        self.rep = rep
        judged = None
        if self.finding is not None:
            judged = next((j for j in self.finding.per_rep if j.rep == rep.number), None)
        if self.playback.loop:
            self.playback.set_loop(Span(rep.start_s, rep.end_s))
        self.playback.go_to(judged.at_s if judged else rep.turn_s)
        self.chosen_changed.emit()

    def step_rep(self, by: int) -> None:
        if self.measured is None or not self.measured.review.reps:
            return
        reps = self.measured.review.reps
        at = reps.index(self.rep) + by if self.rep in reps else 0 if by > 0 else len(reps) - 1
        self.choose_rep(reps[min(max(at, 0), len(reps) - 1)])

    def worst_rep(self) -> Rep | None:
        """The rep with most findings off, the latest of equals."""
        if self.measured is None:
            return None
        reps = self.measured.review.reps
        off = self.measured.review.with_verdict("off")

        def weight(rep: Rep) -> tuple[int, float]:
            return sum(f.is_about(rep) for f in off), rep.start_s

        return max(reps, key=weight, default=None)

    def toggle_loop(self) -> None:
        rep = self.rep or (
            self.measured.review.rep_at(self.playback.at_s) if self.measured else None
        )
        if self.playback.loop or rep is None:
            self.playback.set_loop(None)
        else:
            self.playback.set_loop(Span(rep.start_s, rep.end_s))

    def clock_moved(self, _at_s: float) -> None:
        """The rep under the clock is the chosen one."""
        before = self.rep
        self._follow_clock()
        if self.rep is not before:
            self.chosen_changed.emit()

    def _follow_clock(self) -> None:
        if self.measured is not None:
            rep = self.measured.review.rep_at(self.playback.at_s)
            if rep is not None:
                self.rep = rep

    def turn(self) -> None:
        """Look from the next side, where the recording allows it."""
        if self.measured is None:
            return
        if not self.measured.can_turn:
            self.refused.emit("A camera's recording can't be turned: it shows one side.")
            return
        self.looking = _ALL_LOOKS[(_ALL_LOOKS.index(self.looking) + 1) % len(_ALL_LOOKS)]
        self.look_changed.emit()

    def toggle_clip(self) -> None:
        """The clip under the drawing, or the drawn figure alone."""
        self.clip_wanted = not self.clip_wanted
        self.look_changed.emit()

    # Deciding

    def decision(self, finding: Finding) -> Decision | None:
        return self.notes.decisions.get(finding.key)

    def kept(self) -> tuple[Finding, ...]:
        """The findings that became cues, in reading order."""
        return tuple(f for f in self.findings if (d := self.decision(f)) and d.choice != "drop")

    def cue(self, finding: Finding) -> str:
        """The words that the client will read."""
        decision = self.decision(finding)
        return (decision.words if decision else None) or finding.cue

    def decide(self, finding: Finding, choice: Choice, words: str | None = None) -> None:
        """Keep, drop or reword a finding. Deciding the same again takes it back."""
        old = self.decision(finding)
        if old and old.choice == choice and choice != "reword":
            decisions = {k: d for k, d in self.notes.decisions.items() if k != finding.key}
            self._change(
                f"{choice} “{finding.title}” taken back",
                replace(self.notes, decisions=decisions),
            )
            return
        already = old is not None and old.choice != "drop"
        if choice != "drop" and not already and len(self.kept()) >= MOST_CUES:
            self.refused.emit(
                f"{MOST_CUES} cues are enough for a client; drop one to keep another."
            )
            return
        if choice == "keep" and old is not None and old.words:
            words = old.words
        now = datetime.now().isoformat(timespec="seconds")
        decision = Decision(choice, words, self.desk.coach, now)
        verb = {"keep": "Keep", "drop": "Drop", "reword": "Reword"}[choice]
        self._change(
            f"{verb} “{finding.title}”",
            replace(self.notes, decisions={**self.notes.decisions, finding.key: decision}),
        )

    def write_note(self, text: str) -> None:
        """The coach's note. Typing on is one step of undo."""
        if text != self.notes.note:
            self._change("Note", replace(self.notes, note=text), typing=True)

    def set_done(self, done: bool) -> None:
        self._change(
            "Mark reviewed" if done else "Put back in the queue",
            replace(self.notes, state="done" if done else "waiting"),
        )

    @property
    def next_time(self) -> Prescription | None:
        """What to do next time; pain, however it was said, stops it."""
        if self.measured is None:
            return None
        plan = self.measured.review.next_time
        return asking_first(plan) if self.notes.pain else plan

    def set_pain(self, pain: bool) -> None:
        self._change("Pain flag", replace(self.notes, pain=pain))

    @property
    def settings(self) -> Settings:
        return self.notes.settings

    def change(self, words: str, notes: SetNotes, *, tried: ShownSet | None = None) -> None:
        """Another document, with the review that it gives where that is another one."""
        self._change(words, notes, tried=tried)

    def _show_anew(self, shown: ShownSet) -> None:
        """Another review of the same recording; what was chosen stays chosen where it is still
        there."""
        assert self.record is not None
        key, rep = self.finding.key if self.finding else None, self.rep
        self.measured = shown
        review = shown.review
        self.finding = next((f for f in review.findings if f.key == key), None)
        self.rep = review.rep_at(rep.turn_s) if rep else None
        if self.ghost is not None and self.ghost.own:
            self.ghost = None
        self.desk.keep_review(self.record.id, review)
        self.remeasured.emit()

    # Ghosts

    def show_ghost(self, ghost: Ghost | None) -> None:
        """Lay another rep, of this set or another, over the figure."""
        self.ghost = ghost
        self.ghost_changed.emit()

    def ghost_of_rep(self, key: RepKey | None = None) -> None:
        """A rep of this set (the chosen one, or by its key) becomes the ghost that the others are
        seen against; the same again takes it away."""
        if self.measured is None:
            return
        rep = next((r for r in self.measured.review.reps if r.key == key), self.rep)
        if rep is None:
            return
        if self.ghost is not None and self.ghost.own and self.ghost.rep.key == rep.key:
            self.show_ghost(None)
        else:
            self.show_ghost(Ghost(self.measured, rep, rep_name(rep), own=True))

    def ghost_of_set(self, measured: ShownSet, words: str, set_id: int) -> None:
        """Another set becomes the ghost, by the rep that stands for it."""
        rep = usual_rep(measured)
        if rep is None:
            self.refused.emit("That set has no reps to compare with.")
            return
        self.show_ghost(Ghost(measured, rep, words, own=False, set_id=set_id))

    # Keeping, and taking back

    def _change(
        self, words: str, notes: SetNotes, *, typing: bool = False, tried: ShownSet | None = None
    ) -> None:
        if self.record is None:
            return
        before, set_id = self.notes, self.record.id
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

    def _swap(self, set_id: int, since: SetNotes | None, to: SetNotes) -> Task[Any] | None:
        """What a step changed of a set's document, taken back or done again; what came from another
        window stays.

        since : None where it was typing: the note alone becomes what it was, however far it had
            come
        """
        if self.record is None or self.record.id != set_id or self.measured is None:
            return self.desk.putting_notes(set_id, to, since)
        since = since or replace(to, note=self.notes.note)
        notes = merged_notes(since, to, self.notes).value
        if notes.settings == self.notes.settings:
            self._put(notes)
            return None
        before = self.measured
        job = Job(
            "",
            Alone(lambda _share: before.with_settings(notes.settings)),
            "",
            "now",
        )
        return Task(job, lambda tried: self._put(notes, tried))

    def _put(self, notes: SetNotes, tried: ShownSet | None = None) -> None:
        assert self.record is not None
        self.notes = notes
        self.record = replace(self.record, notes=notes)
        self.desk.save(self.record.id, notes, partial(self._joined, self.record.id))
        if tried is not None:
            self._show_anew(tried)
        self.notes_changed.emit()

    def _joined(self, set_id: int, written: SetNotes, kept: Merged[SetNotes]) -> None:
        """Another window changed this set as well: what both say is shown from here on."""
        if self.record is None or self.record.id != set_id or self.measured is None:
            return
        notes = merged_notes(written, self.notes, kept.value).value
        other = notes.settings != self.notes.settings
        self.notes = notes
        self.record = replace(self.record, notes=notes)
        if other:
            before, visit = self.measured, self._visit

            def show(shown: ShownSet) -> None:
                if visit == self._visit:
                    self._show_anew(shown)

            self.desk.compute(lambda: before.with_settings(notes.settings), show, lambda: None)
        self.notes_changed.emit()
        self.refused.emit(kept.words or "Another window changed this set too; both are kept.")
