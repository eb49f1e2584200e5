"""What can be done with a plan."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from datetime import timedelta
from typing import TYPE_CHECKING, Final

from guide_arc.app.contract.command import Command
from guide_arc.lazily import lazily

with lazily():
    from guide_arc.app.places.plan import edits

if TYPE_CHECKING:
    from guide_arc.app.places.plan.place import PlanPlace


def _some(place: PlanPlace) -> bool:
    return place.model.doc.sheet is not None


def _line(place: PlanPlace) -> bool:
    return place.model.doc.chosen_line is not None and not place.model.doc.weeks_shown


def _to_the_side(place: PlanPlace) -> bool:
    return _line(place) or _board(place)


def _session(place: PlanPlace) -> bool:
    return _some(place) and not place.model.doc.weeks_shown


def _board(place: PlanPlace) -> bool:
    return _some(place) and place.model.doc.weeks_shown


def _either(
    board: Callable[[PlanPlace], object], session: Callable[[PlanPlace], object]
) -> Callable[[PlanPlace], object]:
    """One key for one direction: on the board a day or a week, in a session a line or a weight."""
    return lambda place: (board if place.model.doc.weeks_shown else session)(place)


def _changed(place: PlanPlace) -> bool:
    line = place.model.doc.chosen_line
    return _line(place) and line is not None and line.changed


def _doubtful(place: PlanPlace) -> bool:
    line = place.model.doc.chosen_line
    return _line(place) and line is not None and bool(line.doubtful)


def _asks(place: PlanPlace) -> bool:
    line = place.model.doc.chosen_line
    return _line(place) and line is not None and line.proposed.ask is not None


def _filmed(place: PlanPlace) -> bool:
    return any(done.logged is None for done in place.model.doc.chosen_history)


def _lasting(place: PlanPlace) -> bool:
    line = place.model.doc.chosen_line
    return _line(place) and line is not None and not line.line.override.lasting.empty


def _dropped(place: PlanPlace) -> bool:
    sheet = place.model.doc.sheet
    return _session(place) and sheet is not None and bool(sheet.dropped)


def _missed(place: PlanPlace) -> bool:
    return place.model.doc.sheet is not None and bool(place.model.doc.sheet.missed)


def _move_session(days: int) -> Callable[[PlanPlace], object]:
    """The session of the chosen day goes that many days on."""

    def run(place: PlanPlace) -> None:
        doc = place.model.doc
        if doc.chosen_day is not None:
            to = doc.chosen_day + timedelta(days=days)
            place.model.edit(edits.session_moved(doc, doc.chosen_day, to))

    return run


def _move_line(by: int) -> Callable[[PlanPlace], object]:
    """The chosen line up or down the session."""

    def run(place: PlanPlace) -> None:
        doc = place.model.doc
        if doc.chosen is not None:
            place.model.edit(edits.line_moved(doc, doc.chosen, doc.chosen + by))

    return run


COMMANDS: Final[tuple[Command[PlanPlace], ...]] = (
    Command(
        "plan.previous",
        "Up",
        "Plan",
        ("Up",),
        "The line above; on the board the week before",
        run=_either(
            lambda p: p.model.show(p.model.doc.stepped_day(-7)),
            lambda p: p.model.show(p.model.doc.stepped_line(-1)),
        ),
        when=_some,
    ),
    Command(
        "plan.next",
        "Down",
        "Plan",
        ("Down",),
        "The line below; on the board the week after",
        run=_either(
            lambda p: p.model.show(p.model.doc.stepped_day(7)),
            lambda p: p.model.show(p.model.doc.stepped_line(1)),
        ),
        when=_some,
    ),
    Command(
        "plan.lighter",
        "A step lighter",
        "Plan",
        ("Left",),
        "Your choice: the next weight down; on the board the day before",
        run=_either(
            lambda p: p.model.show(p.model.doc.stepped_day(-1)),
            lambda p: p.model.edit(edits.load_stepped(p.model.doc, -1)),
        ),
        when=_to_the_side,
    ),
    Command(
        "plan.heavier",
        "A step heavier",
        "Plan",
        ("Right",),
        "Your choice: the next weight up (over 10 % asks first); on the board the day after",
        run=_either(
            lambda p: p.model.show(p.model.doc.stepped_day(1)), lambda p: p.asking.step_heavier()
        ),
        when=_to_the_side,
    ),
    Command(
        "plan.up",
        "Move up",
        "Plan",
        ("Shift+Up",),
        "The line earlier in the session; on the board the session a week earlier",
        run=_either(_move_session(-7), _move_line(-1)),
        when=_to_the_side,
    ),
    Command(
        "plan.down",
        "Move down",
        "Plan",
        ("Shift+Down",),
        "The line later in the session; on the board the session a week later",
        run=_either(_move_session(7), _move_line(1)),
        when=_to_the_side,
    ),
    Command(
        "plan.more",
        "One set more",
        "Plan",
        ("+", "="),
        "Your choice: one set more than now",
        run=lambda p: p.model.edit(edits.sets_changed(p.model.doc, 1)),
        when=_line,
    ),
    Command(
        "plan.fewer",
        "One set fewer",
        "Plan",
        ("-",),
        "Your choice: one set fewer than now",
        run=lambda p: p.model.edit(edits.sets_changed(p.model.doc, -1)),
        when=_line,
    ),
    Command(
        "plan.proposed",
        "Back to what is proposed",
        "Plan",
        ("Backspace",),
        "Undo your own changes to this line",
        run=lambda p: p.model.edit(edits.as_proposed(p.model.doc)),
        when=_changed,
    ),
    Command(
        "plan.prefer",
        "Keep this for the client…",
        "Plan",
        ("K",),
        "Your sets, reps and rest for this exercise, from now on; never a weight",
        run=lambda p: p.asking.ask_to_prefer(),
        when=_lasting,
    ),
    Command(
        "plan.forget",
        "Keep this no longer",
        "Plan",
        (),
        "Propose this exercise by the rules again",
        run=lambda p: p.model.prefer(None),
        when=lambda p: _line(p) and p.model.doc.preference is not None,
    ),
    Command(
        "plan.add",
        "Add an exercise…",
        "Plan",
        ("A",),
        "Another line",
        run=lambda p: p.asking.ask_for_exercise(),
        when=_session,
    ),
    Command(
        "plan.remove",
        "Take the line out",
        "Plan",
        ("Delete",),
        "This exercise is not done in this session",
        run=lambda p: p.model.edit(edits.taken_out(p.model.doc)),
        when=_line,
    ),
    Command(
        "plan.pair",
        "Pair with the line above",
        "Plan",
        ("P",),
        "Take turns set by set, or no longer",
        run=lambda p: p.model.edit(edits.paired(p.model.doc)),
        when=_line,
    ),
    Command(
        "plan.scheme",
        "Another scheme…",
        "Plan",
        ("S",),
        "Straight sets, rising weights, back-off sets and others",
        run=lambda p: p.asking.ask_for_scheme(),
        when=_line,
    ),
    Command(
        "plan.own-scheme",
        "A scheme of your own…",
        "Plan",
        ("Shift+S",),
        "Your own sets and reps, starting from the line's scheme, for every client",
        run=lambda p: p.asking.ask_for_own_scheme(),
        when=_line,
    ),
    Command(
        "plan.why",
        "Your reason…",
        "Plan",
        ("R",),
        "Your reason for this line; it is printed on the sheet",
        run=lambda p: p.asking.ask_for_reason(),
        when=_line,
    ),
    Command(
        "plan.answer",
        "Answer the question…",
        "Plan",
        ("Q",),
        "An entry of this exercise looks like a slip: put it right, or say that it is right",
        run=lambda p: p.asking.ask_about_entry(),
        when=_doubtful,
    ),
    Command(
        "plan.copy",
        "Copy the session",
        "Edit",
        ("Ctrl+C",),
        "To another day or client; on the board the whole week",
        run=lambda p: p.model.look(edits.copied(p.model.doc)),
        when=_some,
    ),
    Command(
        "plan.paste",
        "Paste the session",
        "Edit",
        ("Ctrl+V",),
        "What was copied, with this client's own weights; on the board into the chosen week",
        run=lambda p: p.model.edit(edits.pasted_here(p.model.doc)),
        when=lambda p: _some(p) and p.model.doc.copied is not None,
    ),
    Command(
        "plan.practice",
        "The week of all clients…",
        "Plan",
        ("Shift+W",),
        "Who trains when, who is overdue, who waits for you",
        run=lambda p: p.many.show_week(),
        when=_some,
    ),
    Command(
        "plan.block",
        "Put a block into plans…",
        "Plan",
        ("B",),
        "Apply saved weeks to several clients, each with their own weights",
        run=lambda p: p.many.ask_for_block(p.model.doc),
        when=_some,
    ),
    Command(
        "plan.keep_block",
        "Keep these weeks as a block…",
        "Plan",
        (),
        "The planned weeks from this session's on, under a name, without weights",
        run=lambda p: p.many.ask_to_keep_block(p.model.doc),
        when=_some,
    ),
    Command(
        "plan.write_all",
        "Sheets and calendars of all clients…",
        "File",
        (),
        "A folder for each client with the next session's sheet and the calendar",
        run=lambda p: p.many.ask_to_write_all(p.model.doc.names),
        when=_some,
    ),
    Command(
        "plan.propose",
        "Propose a session…",
        "Plan",
        ("G",),
        "Whole sessions to choose from, each line with its reason",
        run=lambda p: p.asking.propose_session(),
        when=_session,
    ),
    Command(
        "plan.next_best",
        "The next best exercise",
        "Plan",
        ("N",),
        "Another exercise of the same region in the place of this one",
        run=lambda p: p.model.edit(edits.next_best_taken(p.model.doc)),
        when=_line,
    ),
    Command(
        "plan.yes",
        "Yes to the step",
        "Plan",
        ("Y",),
        "Take the step that the dose asks you about",
        run=lambda p: p.model.edit(edits.asked_step_taken(p.model.doc)),
        when=_asks,
    ),
    Command(
        "plan.one_arm",
        "The other arm only",
        "Plan",
        ("1",),
        "Train around a sore place: only the arm that does not hurt, or both again",
        run=lambda p: p.model.edit(edits.by_one_arm(p.model.doc)),
        when=_line,
    ),
    Command(
        "plan.open_set",
        "Open the last set",
        "Plan",
        ("E",),
        "The last filmed set of this exercise, which the dose rests on",
        run=lambda p: p.open_last_set(),
        when=_filmed,
    ),
    Command(
        "plan.log",
        "Log what was done…",
        "Plan",
        ("D",),
        "Sets that were not filmed: weight, reps, reps in reserve, what was felt",
        run=lambda p: p.asking.ask_for_log(),
        when=_session,
    ),
    Command(
        "plan.order",
        "Another order",
        "Plan",
        ("O",),
        "Weak first, biggest first, raises before presses, as set",
        run=lambda p: p.model.edit(edits.next_order(p.model.doc)),
        when=_session,
    ),
    Command(
        "plan.drop",
        "Leave out what does not fit",
        "Plan",
        ("L",),
        "Leave out what does not fit into the session's time",
        run=lambda p: p.model.edit(edits.what_fits(p.model.doc)),
        when=_dropped,
    ),
    Command(
        "plan.earlier",
        "Session before",
        "Plan",
        ("[",),
        "The session before",
        run=lambda p: p.model.show_day(p.model.doc.stepped_session(-1)),
        when=_session,
    ),
    Command(
        "plan.later",
        "Session after",
        "Plan",
        ("]",),
        "The session after",
        run=lambda p: p.model.show_day(p.model.doc.stepped_session(1)),
        when=_session,
    ),
    Command(
        "plan.heads",
        "By muscle and head",
        "Plan",
        ("H",),
        "Time under tension by muscle and head, front against rear and left against right; or the"
        " regions' sets again",
        run=lambda p: p.model.show(replace(p.model.doc, by_head=not p.model.doc.by_head)),
        when=_session,
    ),
    Command(
        "plan.board",
        "Weeks on a board",
        "Plan",
        ("W",),
        "All weeks at once, or the session again",
        run=lambda p: p.model.show_weeks(not p.model.doc.weeks_shown),
        when=_some,
    ),
    Command(
        "plan.open",
        "Open the day's session",
        "Plan",
        ("Return",),
        "The session of the chosen day, or a new one there",
        run=lambda p: p.model.open_day(),
        when=_board,
    ),
    Command(
        "plan.day-earlier",
        "Move the session a day earlier",
        "Plan",
        ("Shift+Left",),
        "What is planned there takes its place",
        run=_move_session(-1),
        when=_board,
    ),
    Command(
        "plan.day-later",
        "Move the session a day later",
        "Plan",
        ("Shift+Right",),
        "What is planned there takes its place",
        run=_move_session(1),
        when=_board,
    ),
    Command(
        "plan.four",
        "Plan the four weeks ahead",
        "Plan",
        ("F",),
        "Sessions as far apart as usual, easier weeks where due",
        run=lambda p: p.model.plan_weeks(4),
        when=_some,
    ),
    Command(
        "plan.twelve",
        "Plan the twelve weeks ahead",
        "Plan",
        ("Shift+F",),
        "As the four, for twelve",
        run=lambda p: p.model.plan_weeks(12),
        when=_some,
    ),
    Command(
        "plan.many-weeks",
        "Plan more weeks ahead…",
        "Plan",
        (),
        "As the four, for as many weeks as you say, up to a year",
        run=lambda p: p.asking.ask_for_weeks(),
        when=_some,
    ),
    Command(
        "plan.shift",
        "Missed: do it next time",
        "Plan",
        (),
        "The missed session moves, and those after it with it",
        run=lambda p: p.model.edit(edits.missed_shifted(p.model.doc)),
        when=_missed,
    ),
    Command(
        "plan.merge",
        "Missed: join it with the next one",
        "Plan",
        (),
        "Its exercises join the next session",
        run=lambda p: p.model.edit(edits.missed_merged(p.model.doc)),
        when=_missed,
    ),
    Command(
        "plan.client",
        "Next client",
        "Plan",
        ("Tab",),
        "Another client's plan",
        lambda p: p.model.choose_client(p.model.doc.stepped_client(1)),
    ),
    Command(
        "plan.print",
        "Session sheet…",
        "File",
        ("Ctrl+P",),
        "PDF, HTML and CSV to take along",
        run=lambda p: p.asking.ask_to_print(),
        when=_some,
    ),
    Command(
        "plan.send",
        "Calendar entries…",
        "File",
        ("Ctrl+Return",),
        "One event a session, for the client's calendar",
        run=lambda p: p.asking.ask_to_send(),
        when=_some,
    ),
)
