"""What the coach changes by hand in what a review rests on: reps, loose last ones, where it was
felt.

Each change is computed off the window's thread; they rest on each other, so one is computed at a
time.
"""

from __future__ import annotations

from collections import deque
from collections.abc import Callable, Mapping
from dataclasses import replace
from datetime import datetime
from typing import TYPE_CHECKING, Final, Literal

from guide_arc.core.model.finding import Finding
from guide_arc.core.model.rep import Rep, WorkSide
from guide_arc.core.model.settings import Correction, CorrectionKind, EyeAnswer, Saw, Settings
from guide_arc.drawings.ribbon import edges_of
from guide_arc.drawings.shown_set import ShownSet

if TYPE_CHECKING:
    from guide_arc.app.places.review.model import ReviewModel

_UNFIT: Mapping[str, str] = {
    "edge": "There is no boundary to move there.",
    "delete": "There is no rep there.",
    "split": "There is no rep there that could be two.",
    "merge": "There is no rep after this one to merge with.",
    "add": "Nothing there comes and goes like a rep.",
    "bounds": "No rep lies between these moments.",
}
_SHORTEST_SET_S: Final = 0.5


def _edges(rep: Rep) -> tuple[float, float, float, float]:
    return rep.lift.start_s, rep.lift.end_s, rep.lower.start_s, rep.lower.end_s


class ByHand:
    """Acts on the model's set."""

    def __init__(self, model: ReviewModel) -> None:
        self._m = model
        self._computing = False
        self._todo: deque[Callable[[], None]] = deque()
        self._visit = 0

    def forget(self) -> None:
        """Another set is open: what was asked for is about the one before."""
        self._visit += 1
        self._todo.clear()

    def correct(self, words: str, change: Correction) -> None:
        """A correction of the reps by hand. One that would change nothing is refused in words."""
        self._one_by_one(lambda: self._correct(words, change))

    def _correct(self, words: str, change: Correction) -> None:
        if self._m.measured is None:
            return
        before = self._m.measured
        settings = replace(self._m.settings, corrections=(*self._m.settings.corrections, change))

        def done(tried: ShownSet) -> None:
            fits = change not in tried.repset.unfit
            if change.kind == "bounds":
                fits = fits and bool(tried.review.reps)
            same = [_edges(r) for r in tried.review.reps] == [_edges(r) for r in before.review.reps]
            if not fits:
                self._m.refused.emit(_UNFIT[change.kind])
            elif same:
                self._m.refused.emit("That changes nothing.")
            else:
                self._m.change(words, replace(self._m.notes, settings=settings), tried=tried)

        self._compute(lambda: before.with_settings(settings), done)

    def _side(self) -> WorkSide:
        """The side that a correction is about: the chosen rep's, or the set's."""
        if self._m.rep is not None:
            return self._m.rep.side
        return next(iter(self._m.measured.repset.drives), "both") if self._m.measured else "both"

    def correct_here(self, kind: CorrectionKind, words: str) -> None:
        """A correction at the clock: "delete", "split", "merge", "add"."""

        def act() -> None:
            at_s = self._m.playback.at_s
            if kind in ("delete", "merge") and self._m.rep is not None:
                at_s = (
                    self._m.rep.turn_s
                )  # the chosen rep is meant, wherever in it the clock stands
            self._correct(words, Correction(kind, at_s, side=self._side()))

        self._one_by_one(act)

    def move_edge_here(self) -> None:
        """The boundary nearest to the clock comes to the clock."""
        if self._m.measured is None:
            return
        at_s, side = self._m.playback.at_s, self._side()
        near: list[tuple[float, Rep, Correction]] = [
            (abs(was - at_s), rep, Correction("edge", was, at_s, side, edge))
            for rep in self._m.measured.review.reps
            if rep.side == side
            for edge, was in edges_of(rep)
        ]
        if not near:
            self._m.refused.emit("There is no boundary to move.")
            return
        _gap, rep, change = min(near, key=lambda n: n[0])
        self.correct(f"Boundary of rep {rep.number}", change)

    def mark_bound(self, end: Literal["start", "end"]) -> None:
        """The set truly starts, or ends, at the clock."""
        start_s, end_s = self._m.settings.bounds or (
            self._m.playback.start_s,
            self._m.playback.end_s,
        )
        if end == "start":
            start_s = self._m.playback.at_s
        else:
            end_s = self._m.playback.at_s
        if end_s - start_s < _SHORTEST_SET_S:
            self._m.refused.emit("The set must end after it starts.")
            return
        words = "Start of the set" if end == "start" else "End of the set"
        self.correct(words, Correction("bounds", start_s, end_s))

    def uncorrect(self) -> None:
        """Take all corrections by hand back, as one step."""
        self._one_by_one(
            lambda: (
                self._set_up("All corrections back", replace(self._m.settings, corrections=()))
                if self._m.settings.corrections
                else None
            )
        )

    def toggle_felt(self, spot: str) -> None:
        """Say that the client felt it there, or take that back."""

        def toggle() -> None:
            felt = self._m.settings.felt
            felt = tuple(s for s in felt if s != spot) if spot in felt else (*felt, spot)
            self._set_up("Where it was felt", replace(self._m.settings, felt=felt))

        self._one_by_one(toggle)

    def saw(self, finding: Finding, saw: Saw) -> None:
        """Say that the coach's own eye saw a check hold or break. The same again takes it back."""

        def see() -> None:
            before = self._m.settings.seen_by_eye(finding.key)
            again = before is not None and before.saw == saw
            now = datetime.now().isoformat(timespec="seconds")
            settings = self._m.settings
            for own in self._m.spoken_for(finding):
                answer = None if again else EyeAnswer(own.key, saw, self._m.desk.coach, now)
                settings = settings.with_eye(answer, own.key)
            verb = {"held": "Seen to hold", "broke": "Seen to break"}[saw]
            waited = not again and self._waits_for(finding)
            words = f"{verb}{' taken back' if again else ''}: “{finding.title}”"
            self._set_up(words, settings, self._ask_on if waited else None)

        self._one_by_one(see)

    def _waits_for(self, finding: Finding) -> bool:
        """Whether the next weight waits for what is said of a finding."""
        plan = self._m.next_time
        return plan is not None and finding.rule.name in plan.look_for

    def _ask_on(self) -> None:
        """Go on to the next check that the weight waits for."""
        waiting = [f for f in self._m.findings if self._waits_for(f) and f.judged != "ok"]
        if waiting:
            self._m.choose_finding(waiting[0])

    def allow_loose(self, last: int) -> None:
        """How many of the last reps may be loose."""

        def allow() -> None:
            if last >= 0 and last != self._m.settings.loose_last:
                self._set_up("Loose last reps", replace(self._m.settings, loose_last=last))

        self._one_by_one(allow)

    def _set_up(
        self, words: str, settings: Settings, then: Callable[[], None] | None = None
    ) -> None:
        """Compute the review with other settings and keep it. then : what follows once it is
        shown"""
        if self._m.measured is None:
            return
        before, notes = self._m.measured, replace(self._m.notes, settings=settings)

        def changed(tried: ShownSet) -> None:
            self._m.change(words, notes, tried=tried)
            if then is not None:
                then()

        self._compute(
            lambda: before.with_settings(settings),
            changed,
        )

    def _one_by_one(self, act: Callable[[], None]) -> None:
        """Act once what is being computed has come: each rests on the one before."""
        self._todo.append(act)
        self._go_on()

    def _go_on(self) -> None:
        while self._todo and not self._computing:
            self._todo.popleft()()

    def _compute(self, work: Callable[[], ShownSet], done: Callable[[ShownSet], None]) -> None:
        self._computing, visit = True, self._visit

        def came(shown: ShownSet) -> None:
            if visit == self._visit:  # another set was opened meanwhile, otherwise
                done(shown)

        def over() -> None:
            self._computing = False
            self._go_on()

        self._m.desk.compute(work, came, over)
