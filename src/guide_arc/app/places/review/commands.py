"""What can be done in the review."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from typing import TYPE_CHECKING, Final, Literal

from guide_arc.app.contract.command import Command
from guide_arc.app.services.destinations import ToClients, ToQueue, ToStandards
from guide_arc.lazily import lazily

with lazily():
    from guide_arc.app.places.review import by_hand
    from guide_arc.app.places.review.document import pain_noted
    from guide_arc.app.places.review.to_setup import open_setup

if TYPE_CHECKING:
    from guide_arc.app.places.review.by_hand import Asked
    from guide_arc.app.places.review.document import ReviewDocument
    from guide_arc.app.places.review.model import ReviewModel
    from guide_arc.app.places.review.place import ReviewPlace
    from guide_arc.core.model.settings import Saw
    from guide_arc.library.records import Choice


def _open(place: ReviewPlace) -> bool:
    return place.model.doc.measured is not None


def _reps(place: ReviewPlace) -> bool:
    measured = place.model.doc.measured
    return measured is not None and bool(measured.review.reps)


def _drives(place: ReviewPlace) -> bool:
    measured = place.model.doc.measured
    return measured is not None and bool(measured.repset.drives)


def _two_views(place: ReviewPlace) -> bool:
    measured = place.model.doc.measured
    return measured is not None and bool(measured.others)


def _corrected(place: ReviewPlace) -> bool:
    return _open(place) and bool(place.model.doc.settings.corrections)


def _finding(place: ReviewPlace) -> bool:
    finding = place.model.doc.finding
    return finding is not None and finding.judged != "cannot-tell"


def _any_finding(place: ReviewPlace) -> bool:
    return place.model.doc.finding is not None


def _clip(place: ReviewPlace) -> bool:
    record = place.model.doc.record
    return record is not None and record.clip_hash is not None


def _picture(place: ReviewPlace) -> bool:
    return _clip(place) and place.stage.shows_picture()


def _model(act: Callable[[ReviewModel], object]) -> Callable[[ReviewPlace], object]:
    """An action of the model without arguments."""
    return lambda place: act(place.model)


def _by_hand(ask: Callable[[ReviewDocument, float], Asked]) -> Callable[[ReviewPlace], object]:
    """Something that is corrected at the clock."""

    def run(place: ReviewPlace) -> None:
        at_s = place.model.playback.at_s
        place.model.set_up(lambda doc: ask(doc, at_s))

    return run


def _bound(end: Literal["start", "end"]) -> Callable[[ReviewPlace], object]:
    def run(place: ReviewPlace) -> None:
        clock = place.model.playback
        at_s, whole = clock.at_s, (clock.start_s, clock.end_s)
        place.model.set_up(lambda doc: by_hand.bounded(doc, whole, end, at_s))

    return run


def _step_rep(by: int) -> Callable[[ReviewPlace], object]:
    def run(place: ReviewPlace) -> None:
        rep = place.model.doc.stepped_rep(by)
        if rep is not None:
            place.model.choose_rep(rep)

    return run


def _step_finding(by: int) -> Callable[[ReviewPlace], object]:
    def run(place: ReviewPlace) -> None:
        finding = place.model.doc.stepped_finding(by)
        if finding is not None:
            place.model.choose_finding(finding)

    return run


def _decide(choice: Choice) -> Callable[[ReviewPlace], object]:
    def run(place: ReviewPlace) -> None:
        if place.model.doc.finding is not None:
            place.model.decide(place.model.doc.finding, choice)

    return run


def _saw(saw: Saw) -> Callable[[ReviewPlace], object]:
    def run(place: ReviewPlace) -> None:
        if place.model.doc.finding is not None:
            place.model.saw(place.model.doc.finding, saw)

    return run


def _worst(place: ReviewPlace) -> None:
    rep = place.model.doc.worst_rep
    if rep is not None:
        place.model.choose_rep(rep)


def _standard(place: ReviewPlace) -> None:
    measured = place.model.doc.measured
    if measured is not None:
        plan = measured.review.standard
        place.program.go(ToStandards(standard=plan.id, school=plan.school.id))


def _client(place: ReviewPlace) -> None:
    record = place.model.doc.record
    if record is not None:
        place.program.go(ToClients(record.client, record.standard))


def _setup(place: ReviewPlace) -> None:
    open_setup(place.program, place.model)


def _mark(place: ReviewPlace) -> None:
    record = place.model.doc.record
    if record is not None:
        place.program.measuring.open_marks(record.id)


def _details(place: ReviewPlace) -> None:
    record = place.model.doc.record
    if record is not None:
        place.program.set_changes.ask_for_details(record.id)


def _find(place: ReviewPlace) -> None:
    place.program.go(ToQueue(find=True))


COMMANDS: Final[tuple[Command[ReviewPlace], ...]] = (
    Command(
        "review.details",
        "Set details…",
        "File",
        ("Ctrl+I",),
        "Correct client, exercise, school, tempo or load",
        run=_details,
        when=_open,
    ),
    Command(
        "review.page",
        "Page for the client…",
        "File",
        ("P",),
        "Save the one-page summary as PDF and HTML",
        run=lambda p: p.asking.ask_for_page(),
        when=_open,
    ),
    Command(
        "review.export",
        "Export…",
        "File",
        ("Ctrl+Shift+E",),
        "Clip, picture, subtitles, tables, track or the whole set in open forms",
        run=lambda p: p.asking.ask_for_export(),
        when=_open,
    ),
    Command(
        "review.find",
        "Find a set",
        "Edit",
        ("/", "Ctrl+F"),
        "Find by client, exercise, date or what is off",
        _find,
    ),
    Command(
        "review.standard",
        "Standard of this set",
        "Go",
        ("Ctrl+E",),
        "What this set is held against, large",
        run=_standard,
        when=_open,
    ),
    Command(
        "review.mark",
        "Mark the clip",
        "Go",
        ("F5",),
        "Joints and kit on the clip's picture, scale and vertical",
        run=_mark,
        when=_clip,
    ),
    Command(
        "review.next-set",
        "Next set",
        "Go",
        ("Ctrl+Right", "PgDown"),
        "The next set in the queue",
        run=lambda p: p.step_set(1),
        when=_open,
    ),
    Command(
        "review.previous-set",
        "Previous set",
        "Go",
        ("Ctrl+Left", "PgUp"),
        "The set before",
        run=lambda p: p.step_set(-1),
        when=_open,
    ),
    Command(
        "review.done",
        "Mark reviewed and go on",
        "Go",
        ("Ctrl+Return",),
        "Take the set off the queue and open the next",
        run=lambda p: p.done_and_next(),
        when=_open,
    ),
    Command(
        "play.toggle",
        "Play or pause",
        "Play",
        ("Space",),
        "Play or pause",
        run=_model(lambda m: m.playback.toggle()),
        when=_open,
    ),
    Command(
        "play.next-frame",
        "Next frame",
        "Play",
        (".", "Right"),
        "One frame on",
        run=_model(lambda m: m.playback.step(1)),
        when=_open,
    ),
    Command(
        "play.previous-frame",
        "Previous frame",
        "Play",
        (",", "Left"),
        "One frame back",
        run=_model(lambda m: m.playback.step(-1)),
        when=_open,
    ),
    Command(
        "play.full",
        "Full speed",
        "Play",
        ("1",),
        "Play at full speed",
        run=_model(lambda m: m.playback.set_speed(1.0)),
        when=_open,
    ),
    Command(
        "play.half",
        "Half speed",
        "Play",
        ("2",),
        "Play at half speed",
        run=_model(lambda m: m.playback.set_speed(0.5)),
        when=_open,
    ),
    Command(
        "play.quarter",
        "Quarter speed",
        "Play",
        ("4",),
        "Play at quarter speed",
        run=_model(lambda m: m.playback.set_speed(0.25)),
        when=_open,
    ),
    Command(
        "play.eighth",
        "An eighth of the speed",
        "Play",
        ("8",),
        "Play at an eighth of the speed",
        run=_model(lambda m: m.playback.set_speed(0.125)),
        when=_open,
    ),
    Command(
        "play.double",
        "Double speed",
        "Play",
        ("9",),
        "Play at double speed",
        run=_model(lambda m: m.playback.set_speed(2.0)),
        when=_open,
    ),
    Command(
        "play.slower",
        "Slower",
        "Play",
        ("<",),
        "The next slower speed",
        run=_model(lambda m: m.playback.change_speed(-1)),
        when=_open,
    ),
    Command(
        "play.faster",
        "Faster",
        "Play",
        (">",),
        "The next faster speed",
        run=_model(lambda m: m.playback.change_speed(1)),
        when=_open,
    ),
    Command(
        "play.loop",
        "Loop this rep",
        "Play",
        ("L",),
        "Play the rep over and over",
        run=_model(lambda m: m.toggle_loop()),
        when=_reps,
    ),
    Command(
        "rep.next",
        "Next rep",
        "Reps",
        ("Down",),
        "The next rep",
        run=_step_rep(1),
        when=_reps,
    ),
    Command(
        "rep.previous",
        "Previous rep",
        "Reps",
        ("Up",),
        "The rep before",
        run=_step_rep(-1),
        when=_reps,
    ),
    Command(
        "rep.worst",
        "Worst rep",
        "Reps",
        ("W",),
        "The rep with most against it",
        run=_worst,
        when=_reps,
    ),
    Command(
        "finding.next",
        "Next finding",
        "Findings",
        ("N", "Tab"),
        "The next finding",
        run=_step_finding(1),
        when=_open,
    ),
    Command(
        "finding.previous",
        "Previous finding",
        "Findings",
        ("Shift+N", "Shift+Tab"),
        "The finding before",
        run=_step_finding(-1),
        when=_open,
    ),
    Command(
        "finding.keep",
        "Keep as a cue",
        "Findings",
        ("K",),
        "Say this to the client",
        run=_decide("keep"),
        when=_finding,
    ),
    Command(
        "finding.drop",
        "Drop",
        "Findings",
        ("D",),
        "Leave this out",
        run=_decide("drop"),
        when=_finding,
    ),
    Command(
        "finding.reword",
        "Reword…",
        "Findings",
        ("E",),
        "Say it in your own words",
        run=lambda p: p.asking.reword(),
        when=_finding,
    ),
    Command(
        "finding.held",
        "I saw it hold",
        "Findings",
        ("Q",),
        "Your own eye answers in the place of the recording: it held",
        run=_saw("held"),
        when=_any_finding,
    ),
    Command(
        "finding.broke",
        "I saw it break",
        "Findings",
        ("Shift+Q",),
        "Your own eye answers in the place of the recording: it broke",
        run=_saw("broke"),
        when=_any_finding,
    ),
    Command(
        "review.felt",
        "Where it was felt…",
        "Findings",
        ("H",),
        "Join what was measured with where it was felt",
        run=lambda p: p.sheet.felt.ask(),
        when=_open,
    ),
    Command(
        "review.fit",
        "Judge by the school it was done as",
        "Findings",
        ("I",),
        "By the school that this set fits better",
        run=lambda p: p.asking.judge_as_it_fits(),
        when=lambda p: _open(p) and p.opened is not None and p.opened.fit is not None,
    ),
    Command(
        "review.other-view",
        "The same set from another side…",
        "Reps",
        (),
        "Another recording of these reps: each check by the view that shows it",
        run=lambda p: p.asking.ask_for_other_view(),
        when=_open,
    ),
    Command(
        "review.part-views",
        "Part the other view",
        "Reps",
        (),
        "The other recording is a set of its own again",
        run=lambda p: p.asking.part_views(),
        when=_two_views,
    ),
    Command(
        "review.setup",
        "Find the setup for this rep",
        "Go",
        ("F",),
        "Where the pull comes from on this very rep, with the chosen finding's wish",
        run=_setup,
        when=_open,
    ),
    Command(
        "review.client",
        "This client over the years",
        "Go",
        ("Y",),
        "Form against load, cues and what is known",
        run=_client,
        when=_open,
    ),
    Command(
        "review.note",
        "Write a note",
        "Findings",
        ("T",),
        "Go to the note",
        run=lambda p: p.sheet.note.setFocus(),
        when=_open,
    ),
    Command(
        "review.follow-up",
        "Follow up…",
        "Findings",
        ("Ctrl+U",),
        "Note something to come back to; the queue shows it when it is due",
        run=lambda p: p.asking.ask_for_follow_up(),
        when=_open,
    ),
    Command(
        "review.answer",
        "Answer from a template…",
        "Findings",
        ("Shift+T",),
        "An answer in your own words becomes the note",
        run=lambda p: p.asking.ask_for_answer(),
        when=_open,
    ),
    Command(
        "review.pain",
        "Flag pain",
        "Findings",
        ("U",),
        "The client reported pain: the set goes first",
        run=_model(lambda m: m.note(pain_noted(m.doc, not m.doc.notes.pain))),
        when=_open,
    ),
    Command(
        "rep.edge",
        "Put the nearest boundary here",
        "Reps",
        ("S",),
        "Move the nearest phase boundary to the clock",
        run=_by_hand(lambda doc, at_s: by_hand.edge_moved_here(doc, at_s)),
        when=_reps,
    ),
    Command(
        "rep.split",
        "Split the rep here",
        "Reps",
        ("X",),
        "Make two reps of one",
        run=_by_hand(lambda doc, at_s: by_hand.corrected_here(doc, at_s, "split", "Split a rep")),
        when=_reps,
    ),
    Command(
        "rep.merge",
        "Merge with the next rep",
        "Reps",
        ("M",),
        "Make one rep of two",
        run=_by_hand(
            lambda doc, at_s: by_hand.corrected_here(doc, at_s, "merge", "Merge two reps")
        ),
        when=_reps,
    ),
    Command(
        "rep.delete",
        "Not a rep",
        "Reps",
        ("Backspace",),
        "Take the chosen rep out of the count",
        run=_by_hand(lambda doc, at_s: by_hand.corrected_here(doc, at_s, "delete", "Not a rep")),
        when=_reps,
    ),
    Command(
        "rep.add",
        "Add a rep here",
        "Reps",
        ("A",),
        "Count the movement at the clock",
        run=_by_hand(lambda doc, at_s: by_hand.corrected_here(doc, at_s, "add", "Add a rep")),
        when=_drives,
    ),
    Command(
        "set.start",
        "The set starts here",
        "Reps",
        ("[",),
        "Nothing before the clock is a rep",
        run=_bound("start"),
        when=_drives,
    ),
    Command(
        "set.end",
        "The set ends here",
        "Reps",
        ("]",),
        "Nothing after the clock is a rep",
        run=_bound("end"),
        when=_drives,
    ),
    Command(
        "set.uncorrect",
        "Undo all corrections",
        "Reps",
        (),
        "Take all corrections by hand back",
        run=_by_hand(lambda doc, _at_s: by_hand.uncorrected(doc)),
        when=_corrected,
    ),
    Command(
        "set.loose",
        "Loose last reps…",
        "Reps",
        (),
        "How many of the last reps may be loose",
        run=lambda p: p.asking.ask_for_loose(),
        when=_reps,
    ),
    Command(
        "set.partials",
        "Partial reps from here",
        "Reps",
        ("Shift+X",),
        "The reps from the chosen one on were asked for as partial: no fault, and no full reps",
        run=_by_hand(lambda doc, at_s: by_hand.partials_here(doc, at_s)),
        when=_reps,
    ),
    Command(
        "set.split",
        "Split between two exercises…",
        "Reps",
        (),
        "A superset: make two sets of this recording",
        run=lambda p: p.asking.ask_to_split(),
        when=_open,
    ),
    Command(
        "set.model",
        "Standard from this set…",
        "Reps",
        (),
        "Make a standard of a model set",
        run=lambda p: p.asking.ask_for_standard(),
        when=_reps,
    ),
    Command(
        "rep.ghost",
        "Ghost of this rep",
        "View",
        ("O",),
        "See the other reps against this one; again takes it away",
        run=_model(lambda m: m.show_ghost(m.doc.own_ghost())),
        when=_reps,
    ),
    Command(
        "view.compare-last",
        "Compare with the set before",
        "View",
        ("C",),
        "The client's last set of this exercise as ghost and in figures; again takes it away",
        run=lambda p: p.compare_with_last(),
        when=_open,
    ),
    Command(
        "view.path",
        "Figure or path",
        "View",
        ("B",),
        "Elbow and hand against the corridor, all reps",
        run=lambda p: p.sheet.left.show_next(),
        when=_open,
    ),
    Command(
        "view.traces",
        "Tempo or traces",
        "View",
        ("G",),
        "Any measures over the set, stacked",
        run=lambda p: p.sheet.below.show_next(),
        when=_open,
    ),
    Command(
        "view.measures",
        "Measures to trace…",
        "View",
        (),
        "Choose what the traces show",
        run=lambda p: p.choose_traces(),
        when=_open,
    ),
    Command(
        "view.numbers",
        "Numbers",
        "View",
        ("J",),
        "Every rep in figures; again goes back to what to say",
        run=lambda p: p.show_numbers(),
        when=_open,
    ),
    Command(
        "view.turn",
        "Look from another side",
        "View",
        ("V",),
        "Turn the figure, where the recording is in space",
        run=_model(lambda m: m.look(m.doc.turned())),
        when=_open,
    ),
    Command(
        "view.clip",
        "Clip or figure",
        "View",
        ("R",),
        "The clip under the drawing, or the drawn figure",
        run=_model(lambda m: m.look(replace(m.doc, clip_wanted=not m.doc.clip_wanted))),
        when=_clip,
    ),
    Command(
        "view.zoom-in",
        "Zoom in",
        "View",
        ("+", "="),
        "Larger; the wheel does it as well",
        run=lambda p: p.stage.zoom_by(1.25),
        when=_picture,
    ),
    Command(
        "view.zoom-out",
        "Zoom out",
        "View",
        ("-",),
        "Smaller",
        run=lambda p: p.stage.zoom_by(0.8),
        when=_picture,
    ),
    Command(
        "view.zoom-away",
        "Whole picture",
        "View",
        ("0",),
        "The whole picture again",
        run=lambda p: p.stage.zoom_away(),
        when=_picture,
    ),
)
