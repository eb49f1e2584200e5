"""The place Plan, by keys, mouse and commands."""

from __future__ import annotations

import shutil
from collections.abc import Iterator
from dataclasses import replace
from datetime import date, datetime, time, timedelta
from pathlib import Path

import icalendar
import pytest
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QMessageBox

from conftest import adder
from guide_arc.app.places.plan.edits import by_scheme
from guide_arc.app.places.plan.scheme_dialog import SchemeDialog
from guide_arc.app.widgets.picker import Picker
from guide_arc.core.mechanics.kit import FreeWeight
from guide_arc.core.model.client import Client, SorePlace
from guide_arc.core.model.errors import BadInput
from guide_arc.core.model.settings import ENTRY
from guide_arc.core.planning.plan import Override, Plan, PlannedLine, PlannedSession, dosed, moved
from guide_arc.drawings.board_sheet import day_at
from guide_arc.formats.plan_json import plan_document, plan_from
from guide_arc.library.clients import Clients
from guide_arc.library.own_schemes import keep_scheme
from guide_arc.library.planning import keep_plan, plan_of_client, preferences
from guide_arc.library.setups import KeptSetup, keep_setup
from guide_arc.library.store import Library
from guide_arc.standards.schemes import schemes_with
from hands import Hands, dialog_of


@pytest.fixture(scope="module")
def one_evening(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """Two sets of Cleo's and one of Finn's; built once and copied."""
    folder = tmp_path_factory.mktemp("evening") / "library"
    library = Library.open(folder)
    add_set = adder(library)
    add_set("Cleo Marsh", reps=12, recorded="2031-03-01", load_kg=30.0)
    add_set("Cleo Marsh", "rope-pushdown", reps=4, recorded="2031-03-01", load_kg=20.0)
    add_set("Finn Adair", "rope-pushdown", reps=4, recorded="2031-03-03", seed=7)
    Clients(library).keep(Client("Cleo Marsh", rack_kg={"bar": (20.0, 30.0, 40.0)}))
    library.close()
    return folder


@pytest.fixture
def library(one_evening: Path, tmp_path: Path) -> Iterator[Library]:
    shutil.copytree(one_evening, tmp_path / "library")
    opened = Library.open(tmp_path / "library")
    yield opened
    opened.close()


@pytest.fixture
def window(library: Library, open_window) -> Hands:
    hands = open_window()
    hands.do("go.plan")
    model(hands).choose_client("Cleo Marsh")
    hands.settle()
    return hands


def model(window: Hands):
    return window.of("plan").model


def ids(window: Hands) -> list[str]:
    return [d.plan.id for d in model(window).doc.sheet.lines]


def test_a_proposal_says_what_how_long_and_why(window: Hands):
    here = window.of("plan")
    assert window.head("title") == "Cleo Marsh"
    assert "proposed for" in window.head("what")
    assert "min: " in here.length.text()
    drawn = " ".join(here.lines.drawn(700, 300).words())
    assert "30 kg · 3 × 12–15" in drawn
    assert "a jump of 33 %" in drawn
    assert here.why_title.text() in ("Why 17.5 kg", "Why 20 kg", "Why 30 kg")
    assert "Standing barbell curl" in " ".join(here.timeline.drawn(900, 96).words())


def test_keys_change_weight_sets_and_order_and_undo_takes_them_back(
    window: Hands, library: Library
):
    window.do("plan.next")
    before = ids(window)
    curl = before.index("standing-barbell-curl")
    model(window).show(model(window).doc.choosing(curl))
    window.do("plan.lighter")
    assert model(window).doc.chosen_line.asked.load_kg == 20.0
    assert model(window).doc.chosen_line.changed
    window.do("plan.more")
    assert model(window).doc.chosen_line.asked.sets == 4
    other = "plan.up" if curl else "plan.down"
    window.do(other)
    assert ids(window) == before[::-1]
    assert plan_of_client(library, "Cleo Marsh").order == "as-set"
    for _ in range(3):
        window.undo()
    assert ids(window) == before
    assert not model(window).doc.chosen_line.changed
    window.redo()
    assert model(window).doc.sheet.lines[curl].asked.load_kg == 20.0


def test_a_large_step_is_asked_about_first(window: Hands):
    model(window).show(model(window).doc.choosing(ids(window).index("standing-barbell-curl")))
    window.do("plan.heavier")
    [box] = [
        w for w in QApplication.topLevelWidgets() if isinstance(w, QMessageBox) and w.isVisible()
    ]
    assert "33 % more" in box.text()
    box.button(QMessageBox.StandardButton.Cancel).click()
    window.settle()
    assert model(window).doc.chosen_line.asked.load_kg == 30.0


def test_lines_are_added_paired_and_taken_out(qtbot, window: Hands):
    window.do("plan.add")
    ask = dialog_of(window, Picker)
    qtbot.keyClicks(ask.field, "dumbbell lateral")
    qtbot.keyClick(ask.field, Qt.Key.Key_Return)
    window.settle()
    assert ids(window)[-1] == "lateral-raise-dumbbell"
    window.do("plan.pair")
    labels = [d.line.pair for d in model(window).doc.sheet.lines]
    assert labels[-2:] == ["A", "A"]
    window.do("plan.remove")
    assert [d.line.pair for d in model(window).doc.sheet.lines] == ["", ""]
    model(window).edit(by_scheme(model(window).doc, "finisher"))
    window.settle()
    assert model(window).doc.chosen_line.line.scheme == "finisher"
    assert model(window).doc.chosen_line.asked.sets == 1


def answer(window: Hands, words: str) -> None:
    window.do("plan.answer")
    box = dialog_of(window, QMessageBox)
    assert "ten times the usual 30 kg: is it 30 kg?" in box.text()
    next(b for b in box.buttons() if b.text() == words).click()
    window.settle()


def questions(window: Hands) -> tuple[str, ...]:
    here = model(window)
    here.show(here.doc.choosing(ids(window).index("standing-barbell-curl")))
    return here.doc.chosen_line.proposed.questions


def test_a_slip_of_the_keyboard_is_put_right_from_the_plan(window: Hands, add_set, library):
    assert not window.can("plan.answer")
    add_set("Cleo Marsh", reps=4, recorded="2031-02-25", load_kg=30.0, seed=8)
    slip = add_set("Cleo Marsh", reps=4, recorded="2031-03-02", load_kg=300.0, seed=9)
    window.of("plan").sets_changed(frozenset())
    window.settle()
    assert len(questions(window)) == 1
    answer(window, "It is 30 kg")
    assert library.record(slip).load_kg == 30.0
    assert questions(window) == ()
    assert model(window).doc.chosen_line.last.load_kg == 30.0
    window.undo()
    assert library.record(slip).load_kg == 300.0
    assert len(questions(window)) == 1


def test_an_odd_load_that_is_right_counts_from_then_on(window: Hands, add_set, library):
    add_set("Cleo Marsh", reps=4, recorded="2031-02-25", load_kg=30.0, seed=8)
    heavy = add_set("Cleo Marsh", reps=4, recorded="2031-03-02", load_kg=300.0, seed=9)
    # The set is open in Review while the plan asks about it.
    window.open_set(heavy)

    def asked_in_review() -> tuple[str, ...]:
        return tuple(window.review.doc.measured.review.next_time.questions)

    assert len(asked_in_review()) == 1
    window.do("go.plan")
    window.of("plan").sets_changed(frozenset())
    window.settle()
    assert model(window).doc.sheet.lines
    assert len(questions(window)) == 1
    answer(window, "It is right")
    assert questions(window) == ()
    assert library.record(heavy).load_kg == 300.0
    kept = library.record(heavy).notes.settings.seen_by_eye(ENTRY)
    assert kept.saw == "held"
    assert asked_in_review() == ()
    window.undo()
    assert len(questions(window)) == 1
    assert len(asked_in_review()) == 1
    window.redo()
    assert questions(window) == ()
    assert asked_in_review() == ()


def test_a_line_is_dragged_elsewhere(window: Hands, qtbot):
    view, before = window.of("plan").lines, ids(window)
    qtbot.mousePress(view, Qt.MouseButton.LeftButton, pos=QPoint(60, 20))
    qtbot.mouseRelease(view, Qt.MouseButton.LeftButton, pos=QPoint(60, 75))
    window.settle()
    assert ids(window) == before[::-1]


def test_weeks_are_planned_and_sessions_gone_through(window: Hands, library: Library):
    model(window).plan_weeks(4)
    window.settle()
    assert len(plan_of_client(library, "Cleo Marsh").sessions) >= 4
    assert "planned for" in window.head("what")
    here = model(window).doc.sheet.session.on
    window.do("plan.later")
    assert model(window).doc.sheet.session.on > here
    window.do("plan.earlier")
    assert model(window).doc.sheet.session.on == here
    window.undo()
    assert plan_of_client(library, "Cleo Marsh").sessions == ()


def test_the_next_set_is_seen_and_the_plan_answers(window: Hands, add_set):
    before = model(window).doc.sheet.lines[ids(window).index("standing-barbell-curl")].asked
    add_set("Cleo Marsh", reps=6, recorded="2031-03-08", load_kg=30.0, seed=9)
    window.program.library.changed.emit(frozenset())
    window.settle()
    after = model(window).doc.sheet.lines[ids(window).index("standing-barbell-curl")].asked
    assert after != before
    assert after.change == "down"


def test_another_client_is_another_plan(window: Hands):
    window.do("plan.client")
    assert window.head("title") == "Finn Adair"
    assert ids(window) == ["rope-pushdown"]


def test_it_is_taken_along_as_sheet_table_and_calendar(window: Hands, tmp_path: Path):
    window.of("plan").asking.print_to(tmp_path / "s.pdf")
    window.settle()
    assert (tmp_path / "s.pdf").read_bytes()[:4] == b"%PDF"
    assert "standing-barbell-curl" in (tmp_path / "s.csv").read_text()
    assert "Pain is not a training signal" in (tmp_path / "s.html").read_text()
    window.of("plan").asking.send_to(tmp_path / "s.ics")
    window.settle()
    read = icalendar.Calendar.from_ical((tmp_path / "s.ics").read_bytes())
    [event] = read.walk("VEVENT")
    assert "Cleo Marsh" in event["SUMMARY"]
    assert event["DTSTART"].dt.date() == model(window).doc.sheet.session.on
    assert "Standing barbell curl: 30 kg" in event["DESCRIPTION"]


def test_a_moved_session_takes_the_place_of_its_event_and_begins_when_the_client_does(
    window: Hands, library: Library, tmp_path: Path
):
    clients = Clients(library)
    clients.keep(replace(clients.client("Cleo Marsh"), session_at=time(7, 30)))

    def events(name: str) -> dict[str, object]:
        window.of("plan").asking.send_to(tmp_path / name)
        window.settle()
        read = icalendar.Calendar.from_ical((tmp_path / name).read_bytes())
        return {str(e["UID"]): e["DTSTART"].dt for e in read.walk("VEVENT")}

    here = model(window)
    first = here.doc.sheet.session.on
    proposed = events("proposed.ics")
    window.do("plan.more")  # an edit keeps the session in the plan
    window.settle()
    kept = events("kept.ics")
    assert kept == proposed
    assert list(kept.values()) == [datetime.combine(first, time(7, 30))]
    plan = plan_of_client(library, "Cleo Marsh")
    keep_plan(library, "Cleo Marsh", moved(plan, first, first + timedelta(3)), plan)
    window.of("plan").sets_changed(frozenset())
    window.settle()
    here.show_day(first + timedelta(3))
    window.settle()
    later = {uid: at for uid, at in events("moved.ics").items() if uid in kept}
    assert list(later.values()) == [datetime.combine(first + timedelta(3), time(7, 30))]


def test_a_new_session_on_the_day_of_a_moved_one_is_another_event():
    day = date(2031, 3, 3)
    plan = Plan().with_session(PlannedSession(day))
    plan = moved(plan, day, day + timedelta(2)).with_session(PlannedSession(day))
    here, there = plan.sessions
    assert (here.on, there.on) == (day, day + timedelta(2))
    assert there.identity == "2031-03-03"
    assert here.identity == "2031-03-03-2"
    swapped = moved(plan, day, day + timedelta(2))
    assert [s.identity for s in swapped.sessions] == ["2031-03-03", "2031-03-03-2"]
    edited = swapped.with_session(PlannedSession(day, (PlannedLine("rope-pushdown", "locked"),)))
    assert edited.sessions[0].identity == "2031-03-03"
    assert plan_from(plan_document(edited)).sessions[0].identity == "2031-03-03"


def test_a_preference_is_learned_only_once_it_is_confirmed_and_undo_forgets_it(
    window: Hands, library: Library
):
    curl = ids(window).index("standing-barbell-curl")
    model(window).show(model(window).doc.choosing(curl))
    proposed = model(window).doc.chosen_line.asked.sets
    assert not window.can("plan.prefer")
    window.do("plan.more")
    window.do("plan.prefer")
    box = next(w for w in QApplication.topLevelWidgets() if isinstance(w, QMessageBox))
    assert f"{proposed + 1} sets from now on?" in box.text()
    box.button(QMessageBox.StandardButton.Cancel).click()
    window.settle()
    assert preferences(library, "Cleo Marsh") == {}
    window.do("plan.prefer")
    box = [w for w in QApplication.topLevelWidgets() if isinstance(w, QMessageBox)][-1]
    next(b for b in box.buttons() if b.text() == "Keep it").click()
    window.settle()
    assert preferences(library, "Cleo Marsh")["standing-barbell-curl"].sets == proposed + 1
    # The next proposal starts from it, and says so.
    line = model(window).doc.sheet.lines[curl]
    assert line.asked.sets == proposed + 1
    assert "as you keep it for this client" in " ".join(line.asked.reasons)
    window.undo()
    window.undo()
    assert preferences(library, "Cleo Marsh") == {}


def test_a_preference_never_touches_a_stop_an_easier_week_or_the_weight(window: Hands):
    known = model(window).doc.sheet.known
    line = PlannedLine("standing-barbell-curl", known.standards["standing-barbell-curl"].school.id)
    on = model(window).doc.sheet.session.on
    plain = dosed(line, known, on).asked
    own = Override(load_kg=40.0, sets=6, reps=(5, 6), rest_s=240)
    kept = replace(known, preferences={"standing-barbell-curl": own})
    asked = dosed(line, kept, on).asked
    assert (asked.sets, asked.reps, asked.rest_s, asked.load_kg) == (6, (5, 6), 240, plain.load_kg)
    sore = replace(known.client, sore=(SorePlace("left elbow", on),))
    stopped = dosed(line, replace(kept, client=sore), on).asked
    assert stopped.ask_first
    assert stopped.load_kg is None
    easier = dosed(line, replace(kept, tired=(on, on - timedelta(1))), on).asked
    assert easier.change == "deload"
    assert easier.sets < 6


def test_a_changed_line_says_what_of_it_was_proposed_otherwise(window: Hands):
    curl = ids(window).index("standing-barbell-curl")
    model(window).show(model(window).doc.choosing(curl))
    window.do("plan.more")
    drawn = " ".join(window.of("plan").lines.drawn(700, 300).words())
    assert "the coach's own; proposed: 3 sets" in drawn
    window.do("plan.lighter")
    drawn = " ".join(window.of("plan").lines.drawn(700, 300).words())
    assert "the coach's own; proposed: 30 kg, 3 sets" in drawn


def test_the_regions_turn_into_muscles_and_heads(window: Hands):
    here = window.of("plan")
    assert "elbow flexors" in here.regions.drawn(1100, 104).words()
    window.do("plan.heads")
    words = here.regions.drawn(1100, 104).words()
    assert {"biceps", "triceps"} <= set(words)
    assert any("Arms: left" in w for w in words)
    assert here.window_days.text().startswith("Muscles and heads")
    window.do("plan.heads")
    assert here.window_days.text().startswith("Regions")


def card_days(window: Hands) -> dict[str, str]:
    return {c.on.isoformat(): c.state for w in model(window).doc.weeks for c in w.cards}


def test_the_weeks_on_a_board_by_keys(window: Hands, library: Library):
    """Four weeks planned, one session moved a day and a week, opened, and all of it taken back."""
    window.do("plan.board")
    assert set(card_days(window).values()) == {"done", "proposed"}
    window.do("plan.four")
    planned = [d for d, state in card_days(window).items() if state == "planned"]
    assert len(planned) == 4
    assert window.of("plan").weeks_page.board.drawn(1100, 600).words().count("easier week") <= 1
    model(window).show(model(window).doc.choosing_day(date.fromisoformat(planned[0])))
    window.do("plan.day-later")
    later = (date.fromisoformat(planned[0]) + timedelta(1)).isoformat()
    assert card_days(window)[later] == "planned"
    assert planned[0] not in card_days(window)
    window.do("plan.down")
    swapped = (date.fromisoformat(later) + timedelta(7)).isoformat()
    assert card_days(window)[swapped] == "planned"
    window.do("plan.previous")
    window.do("plan.heavier")
    assert model(window).doc.chosen_day == date.fromisoformat(later) + timedelta(1)
    assert "Nothing on this day" in window.of("plan").weeks_page.lines.text()
    window.undo()
    window.undo()
    assert card_days(window)[planned[0]] == "planned"
    model(window).show(model(window).doc.choosing_day(date.fromisoformat(planned[1])))
    window.do("plan.open")
    assert not model(window).doc.weeks_shown
    assert model(window).doc.sheet.session.on == date.fromisoformat(planned[1])
    window.undo()
    assert not plan_of_client(library, "Cleo Marsh").sessions


def test_a_client_without_a_set_has_an_empty_board_and_nothing_to_plan_from(
    window: Hands, library: Library
):
    Clients(library).keep(Client("Nils Corran"))
    model(window).refresh()
    window.settle()
    model(window).choose_client("Nils Corran")
    window.settle()
    window.do("plan.board")
    window.do("plan.four")
    assert "Nothing was done yet" in window.said
    assert not plan_of_client(library, "Nils Corran").sessions
    assert not [c for w in model(window).doc.weeks for c in w.cards]


def test_a_session_is_dragged_to_another_day_and_never_into_the_past(window: Hands):
    window.do("plan.board")
    window.do("plan.four")
    view = window.of("plan").weeks_page.board
    [first, *_] = [date.fromisoformat(d) for d, s in card_days(window).items() if s == "planned"]
    drag(view, first, first + timedelta(2))
    window.settle()
    assert card_days(window)[(first + timedelta(2)).isoformat()] == "planned"
    drag(view, first + timedelta(2), first - timedelta(14))
    window.settle()
    assert card_days(window)[(first + timedelta(2)).isoformat()] == "planned"
    assert "still ahead" in window.said
    done_day = next(date.fromisoformat(d) for d, s in card_days(window).items() if s == "done")
    before = card_days(window)
    drag(view, done_day, first)
    window.settle()
    assert card_days(window) == before


def drag(view, start: date, to: date) -> None:
    """Press on one day of the board and let go on another."""
    shown = {
        day: QPoint(x, y)
        for x in range(110, view.width(), 6)
        for y in range(24, view.height(), 6)
        if (day := day_at(x, y, view.width(), view.height(), view.model.doc.weeks))
    }
    QTest.mousePress(view, Qt.MouseButton.LeftButton, pos=shown[start])  # type: ignore[call-overload]
    QTest.mouseRelease(view, Qt.MouseButton.LeftButton, pos=shown[to])  # type: ignore[call-overload]


def test_a_scheme_of_ones_own_is_kept_used_and_taken_back(window: Hands, library: Library):
    model(window).show(model(window).doc.choosing(ids(window).index("rope-pushdown")))
    window.do("plan.own-scheme")
    dialog = dialog_of(window, SchemeDialog)
    dialog.name.setText("Slow tens")
    dialog.why.setText("Slow")
    dialog.try_accept()
    assert "Give the reason" in dialog.wrong.text()
    dialog.why.setText("Slow lowering finds the muscle at a light weight.")
    dialog.reps.setText("10")
    dialog.try_accept()
    assert "such as 8–12" in dialog.wrong.text()
    dialog.reps.setText("10-12")
    dialog.lowering.setText("4,5")
    dialog.sets.setValue(2)
    dialog.off_sets.setValue(1)
    dialog.off_reps.setText("15–20")
    dialog.off_share.setValue(70)
    dialog.try_accept()
    window.settle()
    line = model(window).doc.chosen_line
    assert line.line.scheme == "slow-tens"
    assert (line.asked.sets, line.asked.tempo.lower_s) == (2, 4.5)
    assert line.asked.back_off.reps == (15, 20)
    kept = schemes_with(library.folder / "schemes.toml")["slow-tens"]
    assert (kept.reps, kept.back_off.share) == ((10, 12), 0.7)
    window.undo()
    window.undo()
    assert not (library.folder / "schemes.toml").exists()
    assert model(window).doc.chosen_line.line.scheme == "double-progression"


def test_a_schemes_file_that_is_none_is_said_and_left_as_it_is(library: Library):
    path = library.folder / "schemes.toml"
    path.write_text("[slow-tens]\nname = 3\n")
    with pytest.raises(BadInput, match=r"schemes.toml: slow-tens.name"):
        keep_scheme(library, "other", {"name": "Other"})
    assert path.read_text() == "[slow-tens]\nname = 3\n"
    path.unlink()
    with pytest.raises(BadInput, match=r"other.why"):
        keep_scheme(library, "other", {"name": "Other"})
    assert not path.exists()


def test_a_kept_setup_goes_to_the_plan_and_its_sheet(
    window: Hands, library: Library, tmp_path: Path
):
    kit = FreeWeight(30.0, "bar")
    for name, words in (
        ("first", "in the rack, pins at hole 4"),
        ("now", "in the rack, pins at hole 6"),
    ):
        keep_setup(
            library, "standing-barbell-curl", "Cleo Marsh", KeptSetup(0, name, words, kit, None)
        )
    model(window).choose_client("Finn Adair")
    window.settle()
    model(window).choose_client("Cleo Marsh")
    window.settle()
    model(window).show(model(window).doc.choosing(ids(window).index("standing-barbell-curl")))
    why = " ".join(window.of("plan").why.drawn(330, 320).words())
    assert "Set up: in the rack, pins at hole 6" in why
    window.of("plan").asking.print_to(tmp_path / "s.pdf")
    window.settle()
    assert "In the rack, pins at hole 6. " in (tmp_path / "s.html").read_text()
    assert "hole 4" not in (tmp_path / "s.html").read_text()
