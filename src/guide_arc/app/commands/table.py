"""Every command of the window: its words, its keys, when it can be used, and what it does.

Menus, keyboard, palette and the keys page are all made from this one table.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import TYPE_CHECKING, Final

if TYPE_CHECKING:
    from guide_arc.app.window import Window

Run = Callable[["Window"], None]
When = Callable[["Window"], bool]


@dataclass(frozen=True)
class Command:
    """`keys` are as Qt writes them; the first one is shown. `help` is its line in the keys page."""

    id: str
    words: str
    menu: str
    keys: tuple[str, ...]
    help: str
    run: Run
    when: When


def _always(_w: Window) -> bool:
    return True


def _queue_row(w: Window) -> bool:
    return w.place == "queue" and w.queue.chosen is not None


def _in_review(w: Window) -> bool:
    return w.place == "review" and w.review.measured is not None


def _reps(w: Window) -> bool:
    return _in_review(w) and bool(w.review.measured and w.review.measured.review.reps)


def _drives(w: Window) -> bool:
    return _in_review(w) and bool(w.review.measured and w.review.measured.repset.drives)


def _corrected(w: Window) -> bool:
    return _in_review(w) and bool(w.review.settings.corrections)


def _finding(w: Window) -> bool:
    return (
        _in_review(w) and w.review.finding is not None and w.review.finding.verdict != "cannot-tell"
    )


def _in_standards(w: Window) -> bool:
    return w.place == "standards" and w.standards.plan is not None


def _own_standard(w: Window) -> bool:
    return _in_standards(w) and w.standards.is_own


def _in_marking(w: Window) -> bool:
    return w.place == "marking" and w.marking.record is not None


def _has_clip(w: Window) -> bool:
    return _in_review(w) and w.review.record is not None and w.review.record.clip_hash is not None


def _can_mark(w: Window) -> bool:
    if w.place == "queue":
        row = next((r for r in w.queue.rows if r.id == w.queue.chosen), None)
        return row is not None and row.has_clip
    return _has_clip(w)


def _steps(w: Window) -> bool:
    return _in_review(w) or _in_marking(w)


def _step(by: int) -> Run:
    def run(w: Window) -> None:
        if w.place == "marking":
            w.marking.step(by)
        else:
            w.review.playback.step(by)

    return run


def _open(w: Window) -> None:
    if w.place == "marking":
        w.go_review()
    else:
        w.open_chosen()


def _done(w: Window) -> None:
    if w.place == "marking":
        w.follow_marks()
    else:
        w.done_and_next()


def _delete(w: Window) -> None:
    if w.place == "marking":
        w.marking.remove()
    else:
        w.correct_here("delete", "Not a rep")


def _rep(by: int) -> Run:
    def run(w: Window) -> None:
        if w.place == "marking":
            w.marking.step_point(by)
        else:
            w.review.step_rep(by)

    return run


def _zoom(factor: float) -> Run:
    def run(w: Window) -> None:
        view = w.marking_place.view if w.place == "marking" else w.review_place.stage
        if factor:
            view.zoom_by(factor)
        else:
            view.zoom_away()

    return run


def _zooms(w: Window) -> bool:
    return _in_marking(w) or (_has_clip(w) and w.review_place.stage.shows_picture())


def _plays(w: Window) -> bool:
    return _in_review(w) or _in_standards(w)


def _toggle(w: Window) -> None:
    if w.place == "standards":
        w.standards_place.toggle()
    else:
        w.review.playback.toggle()


def _turn(w: Window) -> None:
    if w.place == "standards":
        w.standards_place.turn()
    else:
        w.review.turn()


def _decide(choice: str) -> Run:
    def run(w: Window) -> None:
        if w.review.finding is not None:
            w.review.decide(w.review.finding, choice)  # type: ignore[arg-type]

    return run


def _speed(speed: float) -> Run:
    return lambda w: w.review.playback.set_speed(speed)


def _worst(w: Window) -> None:
    rep = w.review.worst_rep()
    if rep is not None:
        w.review.choose_rep(rep)


COMMANDS: Final[tuple[Command, ...]] = (
    Command("file.add", "Add sets…", "File", ("Ctrl+O",), "Take landmark track files in", lambda w: w.ask_for_files(), _always),
    Command("file.details", "Set details…", "File", ("Ctrl+I",), "Correct client, exercise, school, tempo or load", lambda w: w.edit_details(), lambda w: _in_review(w) or _queue_row(w)),
    Command("file.page", "Page for the client…", "File", ("P",), "Save the one-page summary as PDF and HTML", lambda w: w.ask_for_page(), _in_review),
    Command("file.export", "Export…", "File", ("Ctrl+Shift+E",), "Clip, picture, subtitles, tables, track or the whole set in open forms", lambda w: w.ask_for_export(), _in_review),
    Command("file.drop-folder", "Drop folder…", "File", (), "Watch a folder to which clients send their sets", lambda w: w.ask_for_drop_folder(), _always),
    Command("file.dropped", "What came in the drop folder…", "File", ("Ctrl+Shift+O",), "Say whose the files are that do not say it themselves", lambda w: w.ask_about_dropped(), lambda w: bool(w.dropped)),
    Command("file.erase", "Erase set…", "File", ("Delete",), "Take a set out of the library with its recording", lambda w: w.erase_chosen(), _queue_row),
    Command("file.quit", "Quit", "File", ("Ctrl+Q",), "Close the program; everything is already saved", lambda w: w.close_quietly(), _always),
    Command("edit.undo", "Undo", "Edit", ("Ctrl+Z",), "Take back the last decision, note or change", lambda w: w.undo(), lambda w: w.undo_words() is not None),
    Command("edit.redo", "Redo", "Edit", ("Ctrl+Shift+Z", "Ctrl+Y"), "Do it again", lambda w: w.redo(), lambda w: w.redo_words() is not None),
    Command("edit.find", "Find", "Edit", ("/", "Ctrl+F"), "Find a set", lambda w: w.find_set(), _always),
    Command("edit.coach", "Your name…", "Edit", (), "The name that decisions are stored under", lambda w: w.ask_for_coach(), _always),
    Command("go.queue", "Queue", "Go", ("Escape", "F2"), "Back to the sets that wait", lambda w: w.go_queue(), _always),
    Command("go.standards", "Standards", "Go", ("F4",), "The exercise standards: read, change and make them", lambda w: w.go_standards(), _always),
    Command("go.standard", "Standard of this set", "Go", ("Ctrl+E",), "What this set is held against, large", lambda w: w.show_standard(), _in_review),
    Command("go.open", "Open set", "Go", ("Return", "F3"), "Review the chosen set", _open, lambda w: _queue_row(w) or _in_marking(w)),
    Command("go.next-set", "Next set", "Go", ("Ctrl+Right", "PgDown"), "The next set in the queue", lambda w: w.step_set(1), _in_review),
    Command("go.previous-set", "Previous set", "Go", ("Ctrl+Left", "PgUp"), "The set before", lambda w: w.step_set(-1), _in_review),
    Command("go.done", "Mark reviewed and go on", "Go", ("Ctrl+Return",), "Take the set off the queue and open the next; on a clip: follow the marks", _done, lambda w: _in_review(w) or _in_marking(w)),
    Command("play.toggle", "Play or pause", "Play", ("Space",), "Play or pause", _toggle, _plays),
    Command("play.next-frame", "Next frame", "Play", (".", "Right"), "One frame on", _step(1), _steps),
    Command("play.previous-frame", "Previous frame", "Play", (",", "Left"), "One frame back", _step(-1), _steps),
    Command("play.full", "Full speed", "Play", ("1",), "Play at full speed", _speed(1.0), _in_review),
    Command("play.half", "Half speed", "Play", ("2",), "Play at half speed", _speed(0.5), _in_review),
    Command("play.quarter", "Quarter speed", "Play", ("4",), "Play at quarter speed", _speed(0.25), _in_review),
    Command("play.eighth", "An eighth of the speed", "Play", ("8",), "Play at an eighth of the speed", _speed(0.125), _in_review),
    Command("play.double", "Double speed", "Play", ("9",), "Play at double speed", _speed(2.0), _in_review),
    Command("play.slower", "Slower", "Play", ("<",), "The next slower speed", lambda w: w.review.playback.change_speed(-1), _in_review),
    Command("play.faster", "Faster", "Play", (">",), "The next faster speed", lambda w: w.review.playback.change_speed(1), _in_review),
    Command("play.loop", "Loop this rep", "Play", ("L",), "Play the rep over and over", lambda w: w.review.toggle_loop(), _reps),
    Command("rep.next", "Next rep", "Review", ("Down",), "The next rep; on a clip: the next point", _rep(1), lambda w: _reps(w) or _in_marking(w)),
    Command("rep.previous", "Previous rep", "Review", ("Up",), "The rep before; on a clip: the point before", _rep(-1), lambda w: _reps(w) or _in_marking(w)),
    Command("rep.worst", "Worst rep", "Review", ("W",), "The rep with most against it", _worst, _reps),
    Command("finding.next", "Next finding", "Review", ("N", "Tab"), "The next finding", lambda w: w.review.step_finding(1), _in_review),
    Command("finding.previous", "Previous finding", "Review", ("Shift+N", "Shift+Tab"), "The finding before", lambda w: w.review.step_finding(-1), _in_review),
    Command("finding.keep", "Keep as a cue", "Review", ("K",), "Say this to the client", _decide("keep"), _finding),
    Command("finding.drop", "Drop", "Review", ("D",), "Leave this out", _decide("drop"), _finding),
    Command("finding.reword", "Reword…", "Review", ("E",), "Say it in your own words", lambda w: w.reword(), _finding),
    Command("rep.edge", "Put the nearest boundary here", "Reps", ("S",), "Move the nearest phase boundary to the clock", lambda w: w.move_edge_here(), _reps),
    Command("rep.split", "Split the rep here", "Reps", ("X",), "Make two reps of one", lambda w: w.correct_here("split", "Split a rep"), _reps),
    Command("rep.merge", "Merge with the next rep", "Reps", ("M",), "Make one rep of two", lambda w: w.correct_here("merge", "Merge two reps"), _reps),
    Command("rep.delete", "Not a rep", "Reps", ("Backspace",), "Take the chosen rep out of the count; on a clip: take the mark away", _delete, lambda w: _reps(w) or _in_marking(w)),
    Command("rep.add", "Add a rep here", "Reps", ("A",), "Count the movement at the clock", lambda w: w.correct_here("add", "Add a rep"), _drives),
    Command("set.start", "The set starts here", "Reps", ("[",), "Nothing before the clock is a rep", lambda w: w.mark_bound("start"), _drives),
    Command("set.end", "The set ends here", "Reps", ("]",), "Nothing after the clock is a rep", lambda w: w.mark_bound("end"), _drives),
    Command("set.uncorrect", "All as it was found", "Reps", (), "Take all corrections by hand back", lambda w: w.review.uncorrect(), _corrected),
    Command("set.loose", "Loose last reps…", "Reps", (), "How many of the last reps may be loose", lambda w: w.ask_for_loose(), _reps),
    Command("set.split", "Split between two exercises…", "Reps", (), "A superset: make two sets of this recording", lambda w: w.ask_to_split(), _in_review),
    Command("mark.go", "Mark the clip", "Landmarks", ("F5",), "Joints and kit on the clip's picture, scale and vertical", lambda w: w.go_marks(), _can_mark),
    Command("mark.doubt", "Look again", "Landmarks", ("Q",), "The next place where the tracker doubts", lambda w: w.marking.next_doubt(), _in_marking),
    Command("mark.doubt-before", "Look again before", "Landmarks", ("Shift+Q",), "The doubt before", lambda w: w.marking.next_doubt(-1), _in_marking),
    Command("mark.length", "Known length", "Landmarks", ("Ctrl+1",), "Draw a line of known length: scale", lambda w: w.marking.use("length"), _in_marking),
    Command("mark.plumb", "Plumb line", "Landmarks", ("Ctrl+2",), "Draw along what is truly upright", lambda w: w.marking.use("plumb"), _in_marking),
    Command("mark.level", "Level line", "Landmarks", ("Ctrl+3",), "Draw along what is truly level", lambda w: w.marking.use("level"), _in_marking),
    Command("mark.person", "This person", "Landmarks", ("Ctrl+4",), "Draw a box about the person meant", lambda w: w.marking.use("person"), _in_marking),
    Command("standard.next", "Next standard", "Standards", ("Ctrl+Down",), "The next standard", lambda w: w.standards.step(1), _in_standards),
    Command("standard.previous", "Previous standard", "Standards", ("Ctrl+Up",), "The standard before", lambda w: w.standards.step(-1), _in_standards),
    Command("standard.copy", "Copy as your own…", "Standards", ("Ctrl+D",), "A copy under a name of its own", lambda w: w.copy_standard(), _in_standards),
    Command("standard.rename", "Rename…", "Standards", (), "Another name for a standard of yours", lambda w: w.rename_standard(), _own_standard),
    Command("standard.revert", "Back to the shipped one", "Standards", (), "Take your changes, or your copy, out", lambda w: w.revert_standard(), _own_standard),
    Command("standard.import", "Import standard…", "Standards", (), "Take a standard's file in as your own", lambda w: w.ask_to_import_standard(), _always),
    Command("standard.export", "Export standard…", "Standards", (), "Save the chosen standard as a file", lambda w: w.ask_to_export_standard(), _in_standards),
    Command("standard.from-set", "Standard from this set…", "Standards", (), "Make a standard of a model set", lambda w: w.ask_for_standard_from_set(), _reps),
    Command("rep.ghost", "Ghost of this rep", "View", ("O",), "See the other reps against this one; again takes it away", lambda w: w.review.ghost_of_rep(), _reps),
    Command("view.compare-last", "Compare with the set before", "View", ("C",), "The client's last set of this exercise as ghost and in figures; again takes it away", lambda w: w.compare_with_last(), _in_review),
    Command("view.path", "Figure or path", "View", ("B",), "Elbow and hand against the corridor, all reps", lambda w: w.review_place.left.show_next(), _in_review),
    Command("view.traces", "Tempo or traces", "View", ("G",), "Any measures over the set, stacked", lambda w: w.review_place.below.show_next(), _in_review),
    Command("view.measures", "Measures to trace…", "View", (), "Choose what the traces show", lambda w: w.choose_traces(), _in_review),
    Command("view.numbers", "Numbers", "View", ("J",), "Every rep in figures; again goes back to what to say", lambda w: w.show_numbers(), _in_review),
    Command("review.felt", "Where it was felt…", "Review", ("H",), "Join what was measured with where it was felt", lambda w: w.review_place.felt.ask(), _in_review),
    Command("review.note", "Write a note", "Review", ("T",), "Go to the note", lambda w: w.write_note(), _in_review),
    Command("review.pain", "Flag pain", "Review", ("F",), "The client spoke of pain: the set goes first", lambda w: w.review.set_pain(not w.review.notes.pain), _in_review),
    Command("view.turn", "Look from another side", "View", ("V",), "Turn the figure, where the recording is in space", _turn, _plays),
    Command("view.clip", "Clip or figure", "View", ("R",), "The clip under the drawing, or the drawn figure", lambda w: w.review.toggle_clip(), _has_clip),
    Command("view.zoom-in", "Zoom in", "View", ("+", "="), "Larger; the wheel does it as well", _zoom(1.25), _zooms),
    Command("view.zoom-out", "Zoom out", "View", ("-",), "Smaller", _zoom(0.8), _zooms),
    Command("view.zoom-away", "Whole picture", "View", ("0",), "The whole picture again", _zoom(0.0), _zooms),
    Command("view.light", "Light", "View", (), "Paper and ink", lambda w: w.set_mode("light"), _always),
    Command("view.dark", "Dark", "View", (), "For the evening", lambda w: w.set_mode("dark"), _always),
    Command("view.system", "As the desktop", "View", (), "Light or dark as the desktop is", lambda w: w.set_mode("system"), _always),
    Command("help.palette", "All commands…", "Help", ("Ctrl+K",), "Find any command by typing", lambda w: w.show_palette(), _always),
    Command("help.keys", "Keys", "Help", ("F1", "?"), "This page", lambda w: w.show_keys(), _always),
    Command("help.care", "Care and limits", "Help", (), "What this program does not do", lambda w: w.show_care(), _always),
)  # fmt: skip

MENUS: Final[tuple[str, ...]] = (
    "File",
    "Edit",
    "Go",
    "Play",
    "Review",
    "Reps",
    "Landmarks",
    "Standards",
    "View",
    "Help",
)
