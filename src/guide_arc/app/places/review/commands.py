"""What can be done in the review."""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING, Any, Final

from guide_arc.app.contract.command import Command
from guide_arc.app.contract.job import resolve

if TYPE_CHECKING:
    from guide_arc.app.places.review.model import ReviewModel
    from guide_arc.app.places.review.place import ReviewPlace
    from guide_arc.app.services.program import Program
    from guide_arc.core.model.settings import Saw

    Run = Callable[[Program, ReviewPlace], None]


def _open(place: ReviewPlace) -> bool:
    return place.model.measured is not None


def _reps(place: ReviewPlace) -> bool:
    measured = place.model.measured
    return measured is not None and bool(measured.review.reps)


def _drives(place: ReviewPlace) -> bool:
    measured = place.model.measured
    return measured is not None and bool(measured.repset.drives)


def _corrected(place: ReviewPlace) -> bool:
    return _open(place) and bool(place.model.settings.corrections)


def _finding(place: ReviewPlace) -> bool:
    finding = place.model.finding
    return finding is not None and finding.judged != "cannot-tell"


def _any_finding(place: ReviewPlace) -> bool:
    return place.model.finding is not None


def _clip(place: ReviewPlace) -> bool:
    record = place.model.record
    return record is not None and record.clip_hash is not None


def _picture(place: ReviewPlace) -> bool:
    return _clip(place) and place.stage.shows_picture()


def _model(act: Callable[[ReviewModel], Any]) -> Run:
    """Something that the model does by itself."""
    return lambda _program, place: act(place.model)


def _place(act: Callable[[ReviewPlace], Any]) -> Run:
    """Something that the place does: a dialog, or another sheet."""
    return lambda _program, place: act(place)


def _decide(choice: Any) -> Run:
    def run(_program: Program, place: ReviewPlace) -> None:
        if place.model.finding is not None:
            place.model.decide(place.model.finding, choice)

    return run


def _saw(saw: Saw) -> Run:
    def run(_program: Program, place: ReviewPlace) -> None:
        if place.model.finding is not None:
            place.model.by_hand.saw(place.model.finding, saw)

    return run


def _worst(_program: Program, place: ReviewPlace) -> None:
    rep = place.model.worst_rep()
    if rep is not None:
        place.model.choose_rep(rep)


def _standard(program: Program, place: ReviewPlace) -> None:
    measured = place.model.measured
    if measured is not None:
        plan = measured.review.standard
        program.go("standards", standard=plan.id, school=plan.school.id)


def _client(program: Program, place: ReviewPlace) -> None:
    record = place.model.record
    if record is not None:
        program.go("clients", client=record.client, standard=record.standard)


def _setup(program: Program, place: ReviewPlace) -> None:
    # By name: the commands are known before the core is loaded.
    resolve("guide_arc.app.places.review.to_setup:open_setup")(program, place.model)


def _mark(program: Program, place: ReviewPlace) -> None:
    record = place.model.record
    if record is not None:
        program.measuring.open_marks(record.id)


def _details(program: Program, place: ReviewPlace) -> None:
    record = place.model.record
    if record is not None:
        program.library.ask_for_details(record.id)


def _find(program: Program, _place: ReviewPlace) -> None:
    program.go("queue", find=True)


P = "review"
COMMANDS: Final = (
    Command(
        "review.details",
        "Set details…",
        "File",
        ("Ctrl+I",),
        "Correct client, exercise, school, tempo or load",
        _details,
        P,
        _open,
    ),
    Command(
        "review.page",
        "Page for the client…",
        "File",
        ("P",),
        "Save the one-page summary as PDF and HTML",
        _place(lambda p: p.ask_for_page()),
        P,
        _open,
    ),
    Command(
        "review.export",
        "Export…",
        "File",
        ("Ctrl+Shift+E",),
        "Clip, picture, subtitles, tables, track or the whole set in open forms",
        _place(lambda p: p.ask_for_export()),
        P,
        _open,
    ),
    Command(
        "review.find",
        "Find a set",
        "Edit",
        ("/", "Ctrl+F"),
        "Find by client, exercise, date or what is off",
        _find,
        P,
    ),
    Command(
        "review.standard",
        "Standard of this set",
        "Go",
        ("Ctrl+E",),
        "What this set is held against, large",
        _standard,
        P,
        _open,
    ),
    Command(
        "review.mark",
        "Mark the clip",
        "Go",
        ("F5",),
        "Joints and kit on the clip's picture, scale and vertical",
        _mark,
        P,
        _clip,
    ),
    Command(
        "review.next-set",
        "Next set",
        "Go",
        ("Ctrl+Right", "PgDown"),
        "The next set in the queue",
        _place(lambda p: p.step_set(1)),
        P,
        _open,
    ),
    Command(
        "review.previous-set",
        "Previous set",
        "Go",
        ("Ctrl+Left", "PgUp"),
        "The set before",
        _place(lambda p: p.step_set(-1)),
        P,
        _open,
    ),
    Command(
        "review.done",
        "Mark reviewed and go on",
        "Go",
        ("Ctrl+Return",),
        "Take the set off the queue and open the next",
        _place(lambda p: p.done_and_next()),
        P,
        _open,
    ),
    Command(
        "play.toggle",
        "Play or pause",
        "Play",
        ("Space",),
        "Play or pause",
        _model(lambda m: m.playback.toggle()),
        P,
        _open,
    ),
    Command(
        "play.next-frame",
        "Next frame",
        "Play",
        (".", "Right"),
        "One frame on",
        _model(lambda m: m.playback.step(1)),
        P,
        _open,
    ),
    Command(
        "play.previous-frame",
        "Previous frame",
        "Play",
        (",", "Left"),
        "One frame back",
        _model(lambda m: m.playback.step(-1)),
        P,
        _open,
    ),
    Command(
        "play.full",
        "Full speed",
        "Play",
        ("1",),
        "Play at full speed",
        _model(lambda m: m.playback.set_speed(1.0)),
        P,
        _open,
    ),
    Command(
        "play.half",
        "Half speed",
        "Play",
        ("2",),
        "Play at half speed",
        _model(lambda m: m.playback.set_speed(0.5)),
        P,
        _open,
    ),
    Command(
        "play.quarter",
        "Quarter speed",
        "Play",
        ("4",),
        "Play at quarter speed",
        _model(lambda m: m.playback.set_speed(0.25)),
        P,
        _open,
    ),
    Command(
        "play.eighth",
        "An eighth of the speed",
        "Play",
        ("8",),
        "Play at an eighth of the speed",
        _model(lambda m: m.playback.set_speed(0.125)),
        P,
        _open,
    ),
    Command(
        "play.double",
        "Double speed",
        "Play",
        ("9",),
        "Play at double speed",
        _model(lambda m: m.playback.set_speed(2.0)),
        P,
        _open,
    ),
    Command(
        "play.slower",
        "Slower",
        "Play",
        ("<",),
        "The next slower speed",
        _model(lambda m: m.playback.change_speed(-1)),
        P,
        _open,
    ),
    Command(
        "play.faster",
        "Faster",
        "Play",
        (">",),
        "The next faster speed",
        _model(lambda m: m.playback.change_speed(1)),
        P,
        _open,
    ),
    Command(
        "play.loop",
        "Loop this rep",
        "Play",
        ("L",),
        "Play the rep over and over",
        _model(lambda m: m.toggle_loop()),
        P,
        _reps,
    ),
    Command(
        "rep.next",
        "Next rep",
        "Reps",
        ("Down",),
        "The next rep",
        _model(lambda m: m.step_rep(1)),
        P,
        _reps,
    ),
    Command(
        "rep.previous",
        "Previous rep",
        "Reps",
        ("Up",),
        "The rep before",
        _model(lambda m: m.step_rep(-1)),
        P,
        _reps,
    ),
    Command(
        "rep.worst", "Worst rep", "Reps", ("W",), "The rep with most against it", _worst, P, _reps
    ),
    Command(
        "finding.next",
        "Next finding",
        "Findings",
        ("N", "Tab"),
        "The next finding",
        _model(lambda m: m.step_finding(1)),
        P,
        _open,
    ),
    Command(
        "finding.previous",
        "Previous finding",
        "Findings",
        ("Shift+N", "Shift+Tab"),
        "The finding before",
        _model(lambda m: m.step_finding(-1)),
        P,
        _open,
    ),
    Command(
        "finding.keep",
        "Keep as a cue",
        "Findings",
        ("K",),
        "Say this to the client",
        _decide("keep"),
        P,
        _finding,
    ),
    Command(
        "finding.drop", "Drop", "Findings", ("D",), "Leave this out", _decide("drop"), P, _finding
    ),
    Command(
        "finding.reword",
        "Reword…",
        "Findings",
        ("E",),
        "Say it in your own words",
        _place(lambda p: p.reword()),
        P,
        _finding,
    ),
    Command(
        "finding.held",
        "I saw it hold",
        "Findings",
        ("Q",),
        "Your own eye answers in the place of the recording: it held",
        _saw("held"),
        P,
        _any_finding,
    ),
    Command(
        "finding.broke",
        "I saw it break",
        "Findings",
        ("Shift+Q",),
        "Your own eye answers in the place of the recording: it broke",
        _saw("broke"),
        P,
        _any_finding,
    ),
    Command(
        "review.felt",
        "Where it was felt…",
        "Findings",
        ("H",),
        "Join what was measured with where it was felt",
        _place(lambda p: p.sheet.felt.ask()),
        P,
        _open,
    ),
    Command(
        "review.fit",
        "Judge it as it was done",
        "Findings",
        ("I",),
        "By the school that this set fits better",
        _place(lambda p: p.judge_as_it_fits()),
        P,
        lambda p: _open(p) and p.opened is not None and p.opened.fit is not None,
    ),
    Command(
        "review.other-view",
        "The same set from another side…",
        "Reps",
        (),
        "Another recording of these reps: each check by the view that shows it",
        _place(lambda p: p.ask_for_other_view()),
        P,
        _open,
    ),
    Command(
        "review.part-views",
        "Part the other view",
        "Reps",
        (),
        "The other recording is a set of its own again",
        _place(lambda p: p.part_views()),
        P,
        lambda p: _open(p) and bool(p.model.measured.others),
    ),
    Command(
        "review.setup",
        "Find the setup for this rep",
        "Go",
        ("F",),
        "Where the pull comes from on this very rep, with the chosen finding's wish",
        _setup,
        P,
        _open,
    ),
    Command(
        "review.client",
        "This client over the years",
        "Go",
        ("Y",),
        "Form against load, cues and what is known",
        _client,
        P,
        _open,
    ),
    Command(
        "review.note",
        "Write a note",
        "Findings",
        ("T",),
        "Go to the note",
        _place(lambda p: p.sheet.note.setFocus()),
        P,
        _open,
    ),
    Command(
        "review.follow-up",
        "Follow up…",
        "Findings",
        ("Ctrl+U",),
        "Keep something to come back to; it is told in the queue once it is due",
        _place(lambda p: p.ask_for_follow_up()),
        P,
        _open,
    ),
    Command(
        "review.answer",
        "Answer from a template…",
        "Findings",
        ("Shift+T",),
        "An answer in your own words becomes the note",
        _place(lambda p: p.ask_for_answer()),
        P,
        _open,
    ),
    Command(
        "review.pain",
        "Flag pain",
        "Findings",
        ("U",),
        "The client spoke of pain: the set goes first",
        _model(lambda m: m.set_pain(not m.notes.pain)),
        P,
        _open,
    ),
    Command(
        "rep.edge",
        "Put the nearest boundary here",
        "Reps",
        ("S",),
        "Move the nearest phase boundary to the clock",
        _model(lambda m: m.by_hand.move_edge_here()),
        P,
        _reps,
    ),
    Command(
        "rep.split",
        "Split the rep here",
        "Reps",
        ("X",),
        "Make two reps of one",
        _model(lambda m: m.by_hand.correct_here("split", "Split a rep")),
        P,
        _reps,
    ),
    Command(
        "rep.merge",
        "Merge with the next rep",
        "Reps",
        ("M",),
        "Make one rep of two",
        _model(lambda m: m.by_hand.correct_here("merge", "Merge two reps")),
        P,
        _reps,
    ),
    Command(
        "rep.delete",
        "Not a rep",
        "Reps",
        ("Backspace",),
        "Take the chosen rep out of the count",
        _model(lambda m: m.by_hand.correct_here("delete", "Not a rep")),
        P,
        _reps,
    ),
    Command(
        "rep.add",
        "Add a rep here",
        "Reps",
        ("A",),
        "Count the movement at the clock",
        _model(lambda m: m.by_hand.correct_here("add", "Add a rep")),
        P,
        _drives,
    ),
    Command(
        "set.start",
        "The set starts here",
        "Reps",
        ("[",),
        "Nothing before the clock is a rep",
        _model(lambda m: m.by_hand.mark_bound("start")),
        P,
        _drives,
    ),
    Command(
        "set.end",
        "The set ends here",
        "Reps",
        ("]",),
        "Nothing after the clock is a rep",
        _model(lambda m: m.by_hand.mark_bound("end")),
        P,
        _drives,
    ),
    Command(
        "set.uncorrect",
        "All as it was found",
        "Reps",
        (),
        "Take all corrections by hand back",
        _model(lambda m: m.by_hand.uncorrect()),
        P,
        _corrected,
    ),
    Command(
        "set.loose",
        "Loose last reps…",
        "Reps",
        (),
        "How many of the last reps may be loose",
        _place(lambda p: p.ask_for_loose()),
        P,
        _reps,
    ),
    Command(
        "set.split",
        "Split between two exercises…",
        "Reps",
        (),
        "A superset: make two sets of this recording",
        _place(lambda p: p.ask_to_split()),
        P,
        _open,
    ),
    Command(
        "set.model",
        "Standard from this set…",
        "Reps",
        (),
        "Make a standard of a model set",
        _place(lambda p: p.ask_for_standard()),
        P,
        _reps,
    ),
    Command(
        "rep.ghost",
        "Ghost of this rep",
        "View",
        ("O",),
        "See the other reps against this one; again takes it away",
        _model(lambda m: m.ghost_of_rep()),
        P,
        _reps,
    ),
    Command(
        "view.compare-last",
        "Compare with the set before",
        "View",
        ("C",),
        "The client's last set of this exercise as ghost and in figures; again takes it away",
        _place(lambda p: p.compare_with_last()),
        P,
        _open,
    ),
    Command(
        "view.path",
        "Figure or path",
        "View",
        ("B",),
        "Elbow and hand against the corridor, all reps",
        _place(lambda p: p.sheet.left.show_next()),
        P,
        _open,
    ),
    Command(
        "view.traces",
        "Tempo or traces",
        "View",
        ("G",),
        "Any measures over the set, stacked",
        _place(lambda p: p.sheet.below.show_next()),
        P,
        _open,
    ),
    Command(
        "view.measures",
        "Measures to trace…",
        "View",
        (),
        "Choose what the traces show",
        _place(lambda p: p.choose_traces()),
        P,
        _open,
    ),
    Command(
        "view.numbers",
        "Numbers",
        "View",
        ("J",),
        "Every rep in figures; again goes back to what to say",
        _place(lambda p: p.show_numbers()),
        P,
        _open,
    ),
    Command(
        "view.turn",
        "Look from another side",
        "View",
        ("V",),
        "Turn the figure, where the recording is in space",
        _model(lambda m: m.turn()),
        P,
        _open,
    ),
    Command(
        "view.clip",
        "Clip or figure",
        "View",
        ("R",),
        "The clip under the drawing, or the drawn figure",
        _model(lambda m: m.toggle_clip()),
        P,
        _clip,
    ),
    Command(
        "view.zoom-in",
        "Zoom in",
        "View",
        ("+", "="),
        "Larger; the wheel does it as well",
        _place(lambda p: p.stage.zoom_by(1.25)),
        P,
        _picture,
    ),
    Command(
        "view.zoom-out",
        "Zoom out",
        "View",
        ("-",),
        "Smaller",
        _place(lambda p: p.stage.zoom_by(0.8)),
        P,
        _picture,
    ),
    Command(
        "view.zoom-away",
        "Whole picture",
        "View",
        ("0",),
        "The whole picture again",
        _place(lambda p: p.stage.zoom_away()),
        P,
        _picture,
    ),
)
