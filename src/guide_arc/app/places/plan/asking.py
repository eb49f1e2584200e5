"""What the plan's place asks, and what leaves from there."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from datetime import date
from functools import partial
from pathlib import Path
from typing import Final

from PyQt6.QtWidgets import (
    QFileDialog,
    QWidget,
)

from guide_arc.app.contract.job import Alone, Job, on_library
from guide_arc.app.places.plan.edits import added, by_scheme, load_stepped, reasoned, session_taken
from guide_arc.app.places.plan.model import PlanModel
from guide_arc.app.places.plan.needs import PlanNeeds
from guide_arc.app.places.plan.propose_dialog import ask_for_session
from guide_arc.app.places.plan.scheme_dialog import SchemeDialog
from guide_arc.app.services.destinations import ToPlan, ToReview
from guide_arc.app.widgets.asking import ask_choice, ask_number, ask_words, open_dialog, window_of
from guide_arc.app.widgets.log_dialog import ask_for_log
from guide_arc.app.widgets.picker import Pick, pick_one
from guide_arc.core.planning.plan import preference_words, sore_for
from guide_arc.core.planning.propose import ProposedSession, proposals
from guide_arc.core.planning.scheme import PLAIN_SCHEME
from guide_arc.formats.file_names import file_name_part
from guide_arc.lazily import lazily

# Weeks that are offered first, and the most that are planned in one go: a year.
_USUAL_WEEKS: Final = 16
_MOST_WEEKS: Final = 52

with lazily():
    from guide_arc.app.services import plan_jobs


class PlanQuestions:
    """Dialogs over the place's window."""

    def __init__(self, program: PlanNeeds, model: PlanModel, parent: QWidget) -> None:
        self.program, self.model, self._parent = program, model, parent

    def step_heavier(self) -> None:
        """A step up; a step of more than a tenth asks first."""
        if not self.model.doc.asks_about_jump:
            self.model.edit(load_stepped(self.model.doc, 1))
            return
        share = 100 * self.model.doc.jump_of_step
        ask_choice(
            self._parent,
            "A large step",
            f"The next weight is {share:.0f} % more than last time.",
            "Few lifters keep their form after a step of more than 10 %. Adding reps first is the"
            " usual way.",
            [("Take the step", lambda: self.model.edit(load_stepped(self.model.doc, 1)))],
        )

    def ask_about_entry(self) -> None:
        """What an entry of the chosen exercise's that looks like a slip should have been."""
        line = self.model.doc.chosen_line
        if line is None or not line.doubtful:
            return
        doubt, changes = line.doubtful[-1], self.program.set_changes
        set_id, logged = doubt.set_id, doubt.logged
        client = self.model.doc.client or ""
        answers: list[tuple[str, Callable[[], object]]] = []
        if logged is not None:
            log = self.program.training_log
            if doubt.meant_kg is not None:
                meant_kg = round(doubt.meant_kg, 1)
                meant = replace(logged, load_kg=meant_kg)
                answers.append(
                    (
                        f"It is {meant_kg:g} kg",
                        lambda: log.correct(client, logged, meant, ToPlan()),
                    )
                )
            right = replace(logged, entry_is_right=True)
            answers += [
                ("It is right", lambda: log.correct(client, logged, right, ToPlan())),
                ("Open the log", lambda: self.ask_for_log(logged.on)),
            ]
        elif doubt.meant_kg is not None:
            before, after = {"load_kg": doubt.load_kg}, {"load_kg": round(doubt.meant_kg, 1)}
            answers.append(
                (
                    f"It is {doubt.meant_kg:.4g} kg",
                    lambda: changes.change(set_id, before, after),
                )
            )
        if logged is None:
            answers += [
                ("It is right", lambda: changes.call_entry_right(set_id)),
                ("Open the set", lambda: self.program.go(ToReview(set_id=set_id))),
            ]
        ask_choice(
            self._parent,
            line.plan.name,
            doubt.question[0].upper() + doubt.question[1:],
            "Until this is answered, the set does not count for the plan.",
            answers,
        )

    def ask_for_log(self, on: date | None = None) -> None:
        """What was done on a day without being filmed; None takes the session's day, or today."""
        sheet, client = self.model.doc.sheet, self.model.doc.client
        if sheet is None or client is None:
            return
        day = on or min(sheet.session.on, self.model.doc.today)
        log = self.program.training_log
        ask_for_log(self._parent, day, partial(log.read, client), partial(log.keep, ToPlan(client)))

    def propose_session(self) -> None:
        """Whole sessions for the day, to choose from."""
        sheet = self.model.doc.sheet
        if sheet is None:
            return
        on, order = sheet.session.on, sheet.plan.order

        def show(offered: tuple[ProposedSession, ...]) -> None:
            if not offered:
                self.program.say("No exercise is left that the kit and sore places allow.")
                return
            day = f"{on:%A} {on.day} {on:%B}"
            ask_for_session(
                self._parent,
                offered,
                day,
                lambda taken: self.model.edit(session_taken(self.model.doc, taken)),
            )

        work = Alone(lambda _progress: proposals(sheet.known, on, order))
        self.program.start(Job("", work, "propose", "now"), show)

    def ask_for_exercise(self) -> None:
        sheet = self.model.doc.sheet
        if sheet is None:
            return
        taken = {d.plan.id for d in sheet.lines}
        weak = sheet.known.client.weak
        free = [p for id, p in sheet.known.standards.items() if id not in taken]
        sore = {p.id: sore_for(p, sheet.known, sheet.session.on) for p in free}
        # What a sore place stops comes last, and says so.
        free.sort(key=lambda p: (bool(sore[p.id]), p.region not in weak, p.region, p.name))
        offered = [
            Pick(
                p.id,
                f"{p.name} (loads the sore {sore[p.id][0]})" if sore[p.id] else p.name,
                f"{p.id} {p.region} {p.muscle} {p.pull} {p.held}",
            )
            for p in free
        ]
        pick_one(
            self._parent,
            "Add an exercise",
            "Which exercise?",
            offered,
            "Add",
            lambda id: self.model.edit(added(self.model.doc, id)),
        )

    def ask_for_weeks(self) -> None:
        """How many weeks ahead are planned in one go."""
        question = "How many weeks from today? What is planned already stays."
        ask_number(
            self._parent,
            "Plan more weeks ahead",
            question,
            _USUAL_WEEKS,
            _MOST_WEEKS,
            lambda weeks: self.model.plan_weeks(weeks) if weeks else None,
        )

    def ask_for_scheme(self) -> None:
        sheet = self.model.doc.sheet
        if sheet is not None:
            schemes = [Pick(s.id, f"{s.name}: {s.why}") for s in sheet.known.schemes.values()]
            pick_one(
                self._parent,
                "Another scheme",
                "Which scheme?",
                schemes,
                "Use",
                lambda id: self.model.edit(by_scheme(self.model.doc, id)),
            )

    def ask_for_own_scheme(self) -> None:
        """Begun from the scheme of the chosen line."""
        line, sheet = self.model.doc.chosen_line, self.model.doc.sheet
        if line is None or sheet is None:
            return
        begun_from = sheet.known.schemes.get(line.line.scheme, PLAIN_SCHEME)
        dialog = SchemeDialog(window_of(self._parent), begun_from)
        open_dialog(dialog, lambda: self.model.keep_scheme(dialog.id, dialog.fields()))

    def ask_to_prefer(self) -> None:
        """A preference is learned only once the coach says yes."""
        line, client = self.model.doc.chosen_line, self.model.doc.client
        if line is None:
            return
        own = line.line.override.lasting
        ask_choice(
            self._parent,
            "Keep this for the client",
            f"{client}, {line.plan.name}: {preference_words(own)} from now on?",
            "Every proposal starts from it. Easier weeks, pain and sore places still come first."
            " The weight is never kept.",
            [("Keep it", lambda: self.model.prefer(own))],
        )

    def ask_for_reason(self) -> None:
        line = self.model.doc.chosen_line
        if line is not None:
            ask_words(
                self._parent,
                "Your reason",
                f"Why is {line.plan.name} as you set it?",
                line.line.override.why,
                lambda why: self.model.edit(reasoned(self.model.doc, why)),
            )

    def ask_to_print(self) -> None:
        target = self._target("Session sheet", ".pdf", "PDF (*.pdf)")
        if target:
            self.print_to(target)

    def print_to(self, target: Path) -> None:
        sheet = self.model.doc.sheet
        assert sheet is not None
        work = on_library(
            plan_jobs.print_session, sheet.known.client.name, sheet.session.on, target
        )
        self.program.start(
            Job("Writing the session's sheet", work, "print-session"),
            lambda written: self.program.say(
                f"The sheet is in {written}, with HTML and CSV next to it."
            ),
        )

    def ask_to_send(self) -> None:
        target = self._target("Calendar entries", ".ics", "iCalendar (*.ics)")
        if target:
            self.send_to(target)

    def send_to(self, target: Path) -> None:
        sheet = self.model.doc.sheet
        assert sheet is not None
        work = on_library(plan_jobs.send, sheet.known.client.name, sheet.session.on, target)
        self.program.start(
            Job("Writing calendar entries", work, "send-sessions"),
            lambda count: self.program.say(
                f"{count} session{'' if count == 1 else 's'} in {target}."
            ),
        )

    def _target(self, title: str, ending: str, kinds: str) -> Path | None:
        sheet = self.model.doc.sheet
        if sheet is None:
            return None
        proposed = (
            Path.home()
            / f"{file_name_part(sheet.known.client.name)} - {sheet.session.on.isoformat()}{ending}"
        )
        name, _ = QFileDialog.getSaveFileName(window_of(self._parent), title, str(proposed), kinds)
        return Path(name) if name else None
