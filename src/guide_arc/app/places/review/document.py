"""What the review shows, as one frozen value: the set, what is chosen, what the coach decided.

Without Qt, and without the program: each rule of the place is a function of this value.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field, replace
from functools import cached_property
from typing import Final, NamedTuple

from guide_arc.core.model.finding import Finding
from guide_arc.core.model.prescription import Prescription
from guide_arc.core.model.rep import Rep
from guide_arc.core.model.settings import Settings
from guide_arc.core.planning.pain import asking_first
from guide_arc.core.review.far_arm import told_once
from guide_arc.core.review.rank import MOST_CUES
from guide_arc.drawings.dial import RepKey
from guide_arc.drawings.figure import Looking
from guide_arc.drawings.ghost import Ghost, usual_rep
from guide_arc.drawings.shown_set import ShownSet
from guide_arc.drawings.words import rep_name
from guide_arc.library.records import Choice, Decision, SetNotes, SetRecord
from guide_arc.library.same_day import OtherRecording

_ALL_LOOKS: Final[tuple[Looking, ...]] = ("left", "front", "right", "back")


class Change(NamedTuple):
    """Another document of the coach's. words : of the step of undo"""

    words: str
    notes: SetNotes


@dataclass(frozen=True, eq=False)
class ReviewDocument:
    """record, measured : the set that is open; None if there is none
    that_day : the day's other recordings of the exercise
    answers : what the client answered on the set's page, as lines
    rep, finding : what is chosen; looking : from which side, where the recording is in space
    ghost : another rep placed over the figure
    clip_wanted : the clip under the drawing, if there is one
    """

    record: SetRecord | None = None
    measured: ShownSet | None = None
    notes: SetNotes = field(default_factory=SetNotes)
    that_day: tuple[OtherRecording, ...] = ()
    answers: tuple[str, ...] = ()
    finding: Finding | None = None
    rep: Rep | None = None
    looking: Looking = "left"
    ghost: Ghost | None = None
    clip_wanted: bool = True

    @property
    def settings(self) -> Settings:
        return self.notes.settings

    @property
    def reps(self) -> tuple[Rep, ...]:
        return tuple(self.measured.review.reps) if self.measured is not None else ()

    # Findings

    @cached_property
    def findings(self) -> tuple[Finding, ...]:
        """The findings in the order in which they should be read. If both arms have the same
        verdict, the worse one represents both."""
        every = self._once
        return tuple(f for i, f in enumerate(every) if not any(_same(f, g) for g in every[:i]))

    @cached_property
    def _once(self) -> tuple[Finding, ...]:
        """The findings without those that only say that an arm is behind the body."""
        if self.measured is None:
            return ()
        return told_once(self.measured.review.findings, self.measured.body.cleaned.track.view)

    def spoken_for(self, finding: Finding) -> tuple[Finding, ...]:
        """The finding and that of the other arm which it represents."""
        return (finding, *(g for g in self._once if g is not finding and _same(finding, g)))

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

    def decision(self, finding: Finding) -> Decision | None:
        return self.notes.decisions.get(finding.key)

    @property
    def kept(self) -> tuple[Finding, ...]:
        """The findings that became cues, in reading order."""
        return tuple(f for f in self.findings if (d := self.decision(f)) and d.choice != "drop")

    def cue(self, finding: Finding) -> str:
        """The words that the client will read."""
        decision = self.decision(finding)
        return (decision.words if decision else None) or finding.cue

    @property
    def next_time(self) -> Prescription | None:
        """What to do next time; pain, however it was said, stops it."""
        if self.measured is None:
            return None
        plan = self.measured.review.next_time
        return asking_first(plan) if self.notes.pain else plan

    def waits_for(self, finding: Finding) -> bool:
        """Whether the next weight depends on the answer to a finding."""
        plan = self.next_time
        return plan is not None and finding.rule.name in plan.look_for

    # Reps

    @property
    def worst_rep(self) -> Rep | None:
        """The rep with most findings off, the latest of equals."""
        off = self.measured.review.with_verdict("off") if self.measured is not None else ()
        return max(
            self.reps, key=lambda r: (sum(f.is_about(r) for f in off), r.start_s), default=None
        )

    def rep_at(self, at_s: float) -> Rep | None:
        """The rep under the clock; between two the chosen one stays."""
        found = self.measured.review.rep_at(at_s) if self.measured is not None else None
        return found if found is not None else self.rep

    # Another one

    def stepped_finding(self, by: int) -> Finding | None:
        """The finding that many farther on, round and round."""
        found = self.findings
        if not found:
            return None
        at = found.index(self.finding) if self.finding in found else (-1 if by > 0 else 0)
        return found[(at + by) % len(found)]

    def stepped_rep(self, by: int) -> Rep | None:
        """The rep that many reps later, limited to the last."""
        reps = self.reps
        if not reps:
            return None
        at = reps.index(self.rep) + by if self.rep in reps else 0 if by > 0 else len(reps) - 1
        return reps[min(max(at, 0), len(reps) - 1)]

    def turned(self) -> ReviewDocument | str:
        """Looked at from the next side, where the recording allows it."""
        if self.measured is not None and not self.measured.can_turn:
            return "A camera's recording can't be turned: it shows one side."
        at = _ALL_LOOKS.index(self.looking)
        return replace(self, looking=_ALL_LOOKS[(at + 1) % len(_ALL_LOOKS)])

    def with_notes(self, notes: SetNotes) -> ReviewDocument:
        record = replace(self.record, notes=notes) if self.record is not None else None
        return replace(self, notes=notes, record=record)

    def remeasured(self, shown: ShownSet) -> ReviewDocument:
        """Another review of the same recording; the selection is kept if it still exists."""
        key, rep = self.finding.key if self.finding else None, self.rep
        return replace(
            self,
            measured=shown,
            finding=next((f for f in shown.review.findings if f.key == key), None),
            rep=shown.review.rep_at(rep.turn_s) if rep else None,
            ghost=None if self.ghost is not None and self.ghost.own else self.ghost,
        )

    def own_ghost(self, key: RepKey | None = None) -> Ghost | None:
        """The ghost of a rep of this set (the chosen one, or by its key); None if it is the ghost
        already; this removes it."""
        rep = next((r for r in self.reps if r.key == key), self.rep)
        if rep is None or self.measured is None:
            return self.ghost
        if self.ghost is not None and self.ghost.own and self.ghost.rep.key == rep.key:
            return None
        return Ghost(self.measured, rep, rep_name(rep), own=True)


def opened(
    record: SetRecord,
    measured: ShownSet,
    that_day: Sequence[OtherRecording],
    answers: tuple[str, ...] = (),
    *,
    clip_wanted: bool,
) -> tuple[ReviewDocument, float]:
    """A set with its worst finding chosen, and the time to show: where that shows most, or
    the first lift."""
    reps = measured.review.reps
    start = reps[0].start_s if reps else float(measured.time_s[0])
    finding = next(iter(measured.review.with_verdict("off", "near")), None)
    if finding is not None and finding.at_s is not None:
        start = finding.at_s
    doc = ReviewDocument(
        record=record,
        measured=measured,
        notes=record.notes,
        that_day=tuple(that_day),
        answers=answers,
        finding=finding,
        looking=measured.looking,
        clip_wanted=clip_wanted,
    )
    return doc, start


def ghost_of(measured: ShownSet, words: str, set_id: int) -> Ghost | None:
    """The ghost of another set: the rep that represents it; None if it has none."""
    rep = usual_rep(measured)
    return None if rep is None else Ghost(measured, rep, words, own=False, set_id=set_id)


def decided(
    doc: ReviewDocument, finding: Finding, choice: Choice, words: str | None, coach: str, now: str
) -> Change | str:
    """A finding kept, dropped or reworded; the same again takes it back. The reason if it can't be.

    now : the moment of the decision, ISO 8601
    """
    old, decisions = doc.decision(finding), doc.notes.decisions
    if old and old.choice == choice and choice != "reword":
        left = {k: d for k, d in decisions.items() if k != finding.key}
        return Change(f"{choice} “{finding.title}” taken back", replace(doc.notes, decisions=left))
    already = old is not None and old.choice != "drop"
    if choice != "drop" and not already and len(doc.kept) >= MOST_CUES:
        return f"{MOST_CUES} cues are enough for a client; drop one to keep another."
    if choice == "keep" and old is not None and old.words:
        words = old.words
    decision = Decision(choice, words, coach, now)
    verb = {"keep": "Keep", "drop": "Drop", "reword": "Reword"}[choice]
    made = {**decisions, finding.key: decision}
    return Change(f"{verb} “{finding.title}”", replace(doc.notes, decisions=made))


def done_noted(doc: ReviewDocument, done: bool) -> Change:
    """The set is reviewed, or waits again."""
    words = "Mark reviewed" if done else "Put back in the queue"
    return Change(words, replace(doc.notes, state="done" if done else "waiting"))


def pain_noted(doc: ReviewDocument, pain: bool) -> Change:
    """Whether the client spoke of pain in this set."""
    return Change("Pain flag", replace(doc.notes, pain=pain))


def _same(a: Finding, b: Finding) -> bool:
    return a.rule.name == b.rule.name and a.judged == b.judged and a.side != b.side
