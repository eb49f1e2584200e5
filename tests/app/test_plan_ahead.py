"""Sets that nobody filmed are noted in the window, asked about where they look like slips, and
taken back."""

from __future__ import annotations

from dataclasses import replace
from datetime import date, timedelta
from pathlib import Path

import pytest
from PyQt6.QtCore import QDate, Qt
from PyQt6.QtWidgets import QApplication, QInputDialog, QLineEdit, QMessageBox

from builders import slow
from guide_arc.app.places.plan.block_dialog import BlockDialog
from guide_arc.app.places.plan.edits import load_stepped
from guide_arc.app.places.plan.practice_dialog import PracticeDialog
from guide_arc.app.places.plan.propose_dialog import ProposeDialog
from guide_arc.app.services.destinations import ToClients, ToPlan
from guide_arc.app.widgets.log_dialog import LogDialog
from guide_arc.core.model.client import Cleared, Client, SorePlace
from guide_arc.core.planning.copying import CopiedSessions
from guide_arc.core.planning.plan import DosedLine, PlannedLine
from guide_arc.core.planning.training_log import LoggedSet
from guide_arc.library.blocks import blocks, keep_block
from guide_arc.library.clients import Clients
from guide_arc.library.planning import plan_of_client
from guide_arc.library.store import Library
from guide_arc.library.training_logs import logged_sets
from guide_arc.library.undoing import do
from hands import Hands, dialog_of, press

CURL, PUSHDOWN = "standing-barbell-curl", "rope-pushdown"
LOAD, REPS, RESERVE, NOTE = 1, 2, 3, 4


@pytest.fixture
def planned(library: Library, add_set, open_window) -> Hands:
    """A client with one filmed set of curls in 2031, and their plan."""
    add_set("Cleo Marsh", reps=12, recorded="2031-05-01", load_kg=30.0)
    window: Hands = open_window()
    window.program.go(ToPlan("Cleo Marsh"))
    window.settle()
    return window


def opened(window: Hands) -> LogDialog:
    window.do("plan.log")
    found: LogDialog = dialog_of(window, LogDialog)
    return found


def fill(dialog: LogDialog, row: int, **cells: str) -> None:
    for name, column in (("load", LOAD), ("reps", REPS), ("reserve", RESERVE), ("note", NOTE)):
        if name in cells:
            item = dialog.table.item(row, column)
            assert item is not None
            item.setText(cells[name])


def keep(window: Hands, dialog: LogDialog) -> None:
    dialog.try_accept()
    window.settle()


def noted(library: Library) -> list[tuple[int, str, float | None, int]]:
    sets = logged_sets(Clients(library), "Cleo Marsh")
    return [(s.on.day, s.standard, s.load_kg, s.left_reps) for s in sets]


def test_the_plan_is_the_form_and_only_the_reps_are_typed(planned: Hands, library: Library):
    dialog = opened(planned)
    sets = planned.of("plan").model.doc.sheet.lines[0].asked.sets
    assert dialog.table.rowCount() == sets
    assert dialog.table.currentColumn() == REPS
    fill(dialog, 0, reps="12")
    fill(dialog, 1, reps="11/10", reserve="1")
    keep(planned, dialog)
    day = planned.of("plan").model.doc.today
    assert [row[:2] for row in noted(library)] == [(day.day, CURL)] * 2
    assert "2 sets noted for Cleo Marsh" in planned.said
    planned.undo()
    assert noted(library) == []
    planned.redo()
    assert len(noted(library)) == 2
    again = opened(planned)
    assert [again.table.item(r, REPS).text() for r in range(2)] == ["12", "11/10"]
    assert again.table.rowCount() == 2


def test_a_line_of_text_becomes_rows_and_a_wrong_one_says_what_would_be_right(
    qtbot, planned: Hands, library: Library
):
    dialog = opened(planned)
    dialog.line.setText("push 40x12")
    qtbot.keyClick(dialog.line, Qt.Key.Key_Return)
    assert "write one more word" in dialog.wrong.text()
    assert dialog.isVisible()
    dialog.line.setText("rope pushdown 40x12x2 @2")
    qtbot.keyClick(dialog.line, Qt.Key.Key_Return)
    assert dialog.wrong.text() == ""
    assert noted(library) == []
    qtbot.keyClick(dialog, Qt.Key.Key_Return, Qt.KeyboardModifier.ControlModifier)
    planned.settle()
    assert [row[1:] for row in noted(library)] == [(PUSHDOWN, 40.0, 12)] * 2


def test_enter_goes_down_the_reps(qtbot, planned: Hands, library: Library):
    dialog = opened(planned)
    for reps in ("12", "11"):
        qtbot.keyClick(dialog.table, reps[0])
        editor = dialog.table.findChildren(QLineEdit)[-1]
        qtbot.keyClicks(editor, reps[1:])
        qtbot.keyClick(editor, Qt.Key.Key_Return)
        QApplication.processEvents()
    keep(planned, dialog)
    assert [row[3] for row in noted(library)] == [12, 11]


def test_a_weight_that_looks_like_a_slip_is_asked_about_once(planned: Hands, library: Library):
    dialog = opened(planned)
    fill(dialog, 0, load="300", reps="8")
    keep(planned, dialog)
    assert "is it 30 kg?" in dialog.wrong.text()
    assert dialog.isVisible()
    fill(dialog, 0, load="3")
    keep(planned, dialog)
    assert "about a tenth" in dialog.wrong.text()
    keep(planned, dialog)
    [one] = logged_sets(Clients(library), "Cleo Marsh")
    assert (one.load_kg, one.entry_is_right) == (3.0, True)
    assert planned.of("plan").model.doc.sheet.lines[0].doubtful == ()


def test_a_slip_in_the_log_is_put_right_from_the_plan(planned: Hands, library: Library):
    log = planned.program.training_log

    log.change(
        "Cleo Marsh",
        date(2031, 5, 3),
        (LoggedSet(CURL, date(2031, 5, 3), 300.0, 8, 8),),
        (),
        ToPlan(),
    )
    planned.settle()
    planned.do("plan.answer")
    box = dialog_of(planned, QMessageBox)
    next(b for b in box.buttons() if b.text() == "It is 30 kg").click()
    planned.settle()
    assert noted(library) == [(3, CURL, 30.0, 8)]
    planned.undo()
    assert noted(library) == [(3, CURL, 300.0, 8)]


def test_pain_that_is_noted_stops_the_line_at_once(planned: Hands, library: Library):
    dialog = opened(planned)
    fill(dialog, 0, reps="6", note="sharp in the left elbow")
    keep(planned, dialog)
    assert planned.of("plan").model.doc.sheet.lines[0].asked.ask_first


def test_a_bad_night_is_noted_with_the_sets_and_taken_back_with_them(
    planned: Hands, library: Library
):
    dialog = opened(planned)
    fill(dialog, 0, reps="9")
    dialog.tired.setChecked(True)
    keep(planned, dialog)
    day = planned.of("plan").model.doc.today
    assert Clients(library).client("Cleo Marsh").tired == (day,)
    assert opened(planned).tired.isChecked()
    planned.undo()
    assert Clients(library).client("Cleo Marsh").tired == ()
    assert noted(library) == []


def test_the_clients_page_counts_what_was_noted_and_has_the_plans_next(
    planned: Hands, library: Library
):
    dialog = opened(planned)
    fill(dialog, 0, reps="6", note="sharp in the left elbow")
    keep(planned, dialog)
    planned.program.go(ToClients(client="Cleo Marsh"))
    planned.settle()
    here = planned.of("clients")
    assert "1 more set was noted and not filmed" in here.says.text()
    assert here.model.doc.sheet.next.ask_first


def test_another_day_is_read_unless_something_was_typed(planned: Hands, library: Library):
    dialog = opened(planned)
    dialog.day.setDate(QDate(2031, 5, 2))
    planned.settle()
    other = dialog_of(planned, LogDialog)
    assert other.sheet.on == date(2031, 5, 2)
    fill(other, 0, reps="9")
    other.day.setDate(QDate(2031, 5, 1))
    assert "Keep these sets first" in other.wrong.text()
    assert other.day.date() == QDate(2031, 5, 2)
    keep(planned, other)
    assert [row[0] for row in noted(library)] == [2]


def test_the_clients_page_leads_to_the_log_by_its_key(qtbot, planned: Hands, library: Library):
    planned.do("go.clients")
    press(qtbot, planned, Qt.Key.Key_D)
    dialog = dialog_of(planned, LogDialog)
    dialog.reject()
    assert noted(library) == []


def test_the_other_arm_goes_on_by_one_key_and_back(qtbot, library: Library, add_set, open_window):
    add_set("Cleo Marsh", "lateral-raise-dumbbell", reps=12, recorded="2031-05-01", load_kg=8.0)
    sore = (SorePlace("left elbow", date(2031, 5, 2)),)
    Clients(library).keep(Client("Cleo Marsh", sore=sore))
    window: Hands = open_window()
    window.program.go(ToPlan("Cleo Marsh"))
    window.settle()
    plan = window.of("plan").model

    def line() -> DosedLine:
        [only] = plan.doc.sheet.lines
        return only

    assert line().asked.ask_first
    assert "the right arm can go on by itself (1)" in " ".join(plan.doc.sheet.advice)
    press(qtbot, window, Qt.Key.Key_1)
    assert line().name.endswith("right arm only")
    assert not line().asked.ask_first
    window.undo()
    assert line().asked.ask_first


def test_the_way_back_is_taken_by_a_yes(qtbot, planned: Hands, library: Library):
    dialog = opened(planned)
    fill(dialog, 0, load="30", reps="6", note="pain")
    keep(planned, dialog)
    plan = planned.of("plan").model
    assert not planned.can("plan.yes")
    day = plan.doc.today
    known = Clients(library).client("Cleo Marsh")
    planned.program.go(ToClients(client="Cleo Marsh"))
    planned.settle()
    planned.of("clients").model.keep(replace(known, cleared=(Cleared(None, day),)))
    planned.settle()
    planned.program.go(ToPlan("Cleo Marsh"))
    planned.settle()
    plan.show_day(day + timedelta(1))
    planned.settle()
    wanted = plan.doc.chosen_line.proposed.ask.load_kg
    assert wanted <= 18.0
    press(qtbot, planned, Qt.Key.Key_Y)
    assert plan.doc.chosen_line.asked.load_kg == wanted


def test_a_whole_session_is_proposed_taken_changed_in_place_and_taken_back(
    qtbot, planned: Hands, library: Library
):
    plan = planned.of("plan").model
    before = [line.plan.id for line in plan.doc.sheet.lines]
    assert "G proposes whole sessions" in " ".join(plan.doc.sheet.advice)
    press(qtbot, planned, Qt.Key.Key_G)
    dialog = dialog_of(planned, ProposeDialog)
    assert len(dialog.buttons) == 2
    dialog.buttons[0].click()
    planned.settle()
    taken = [line.plan.id for line in plan.doc.sheet.lines]
    assert len(taken) >= 4
    first = plan.doc.chosen_line.plan
    press(qtbot, planned, Qt.Key.Key_N)
    second = plan.doc.chosen_line.plan
    assert second.id != first.id
    assert second.region == first.region
    planned.undo()
    assert plan.doc.chosen_line.plan.id == first.id
    planned.undo()
    assert [line.plan.id for line in plan.doc.sheet.lines] == before


@slow
def test_a_session_and_a_week_go_to_another_client(planned: Hands, library: Library, add_set):
    add_set("Finn Adair", PUSHDOWN, reps=8, recorded="2031-05-02")
    planned.do("go.plan")
    plan = planned.of("plan").model
    assert not planned.can("plan.paste")
    planned.do("plan.copy")
    assert "Copied: Cleo Marsh" in planned.said
    plan.choose_client("Finn Adair")
    planned.settle()
    planned.do("plan.paste")
    assert [line.plan.id for line in plan.doc.sheet.lines] == [CURL]
    assert plan.doc.sheet.kept
    planned.undo()
    assert [line.plan.id for line in plan.doc.sheet.lines] == [PUSHDOWN]
    plan.show_weeks(True)
    planned.settle()
    plan.show(plan.doc.choosing_day(date(2031, 5, 2)))
    planned.do("plan.copy")
    assert "week from" in planned.said
    plan.show(plan.doc.choosing_day(plan.doc.today + timedelta(7)))
    planned.do("plan.paste")
    kept = plan.doc.sheet.plan.sessions
    assert [s.on.weekday() for s in kept] == [date(2031, 5, 2).weekday()]
    assert kept[0].lines[0].standard == PUSHDOWN


def test_the_week_of_all_clients_leads_to_a_plan(qtbot, planned: Hands, library: Library, add_set):
    add_set("Finn Adair", PUSHDOWN, reps=8, recorded="2031-05-02")
    log = planned.program.training_log
    day = date(2031, 5, 3)
    log.change("Finn Adair", day, (LoggedSet(PUSHDOWN, day, 20.0, 8, 8),), (), ToPlan())
    planned.settle()
    plan = planned.of("plan").model
    press(qtbot, planned, Qt.Key.Key_W, Qt.KeyboardModifier.ShiftModifier)
    dialog = dialog_of(planned, PracticeDialog)
    by_name = {week.name: week for week in dialog.weeks}
    assert {d.day for d in by_name["Finn Adair"].days} == {2, 3}
    assert "2 sets" not in dialog.sums.text()
    assert "3 sessions done" in dialog.sums.text()
    qtbot.keyClick(dialog, Qt.Key.Key_Right)
    assert dialog.monday == date(2031, 5, 5)
    qtbot.keyClick(dialog, Qt.Key.Key_Left)
    while dialog.weeks[dialog.chosen].name != "Finn Adair":
        qtbot.keyClick(dialog, Qt.Key.Key_Down)
    qtbot.keyClick(dialog, Qt.Key.Key_Return)
    planned.settle()
    assert plan.doc.client == "Finn Adair"


@slow
def test_a_block_goes_into_the_plans_of_several_clients_as_one_step(
    planned: Hands, library: Library, add_set, tmp_path: Path
):
    for seed, name in enumerate(("Finn Adair", "Ada Quill"), 5):
        add_set(name, PUSHDOWN, reps=8, recorded="2031-05-02", load_kg=15.0, seed=seed)
    plan = planned.of("plan").model
    planned.do("plan.keep_block")
    assert "Nothing is planned in these weeks" in planned.said
    planned.do("plan.block")
    assert "There is no block yet" in planned.said
    plan.plan_weeks(4)
    planned.settle()
    plan.edit(load_stepped(plan.doc, 1))
    planned.settle()
    planned.do("plan.keep_block")
    asked = dialog_of(planned, QInputDialog)
    asked.setTextValue("Before the tour")
    asked.accept()
    planned.settle()
    planned.do("plan.block")
    dialog = dialog_of(planned, BlockDialog)
    assert dialog.names == ("Cleo Marsh",)
    for row, name in enumerate(("Ada Quill", "Cleo Marsh", "Finn Adair")):
        item = dialog.clients.item(row)
        assert item.text() == name
        item.setCheckState(
            Qt.CheckState.Unchecked if name == "Cleo Marsh" else Qt.CheckState.Checked
        )
    dialog.begins.setDate(QDate(2031, 6, 4))  # a Wednesday: its week is meant
    dialog.try_accept()
    planned.settle()
    own = {name: plan_of_client(library, name).sessions for name in ("Ada Quill", "Finn Adair")}
    assert len(own["Ada Quill"]) >= 3
    assert [s.on for s in own["Ada Quill"]] == [s.on for s in own["Finn Adair"]]
    assert own["Ada Quill"][0].on >= date(2031, 6, 2)
    assert all(line.override.load_kg is None for s in own["Ada Quill"] for line in s.lines)
    assert "are planned for 2 clients" in planned.said
    planned.undo()
    assert plan_of_client(library, "Ada Quill").sessions == ()
    assert plan_of_client(library, "Finn Adair").sessions == ()
    planned.redo()
    planned.of("plan").many.write_all(("Ada Quill", "Finn Adair", "Cleo Marsh"), tmp_path / "out")
    planned.settle()
    assert "of 3 clients are in" in planned.said
    for name in ("Ada Quill", "Finn Adair", "Cleo Marsh"):
        files = sorted(f.suffix for f in (tmp_path / "out" / name).iterdir())
        assert files == [".csv", ".html", ".ics", ".pdf"]
    calendar = (tmp_path / "out" / "Ada Quill" / "sessions.ics").read_text()
    assert calendar.count("BEGIN:VEVENT") == len(own["Ada Quill"])


def test_a_block_that_is_damaged_hides_no_other(library: Library):
    clients = Clients(library)
    line = PlannedLine(CURL, "locked-upper-arm")
    week = CopiedSessions(((0, (line,)),), "Ada Quill", date(2031, 5, 5), whole_week=True)
    do(library, lambda session: keep_block(session, "Good", week))
    clients.keep_thing("block", {"sessions": "many"}, name="Bad")
    assert [(b.name, b.sessions) for b in blocks(clients)] == [("Good", week)]


def test_more_than_twelve_weeks_are_planned_shown_and_kept_as_a_block(
    planned: Hands, library: Library
):
    planned.do("plan.many-weeks")
    asked = dialog_of(planned, QInputDialog)
    assert asked.intValue() == 16
    asked.setIntValue(20)
    asked.accept()
    planned.settle()
    plan = planned.of("plan").model
    last = max(s.on for s in plan_of_client(library, "Cleo Marsh").sessions)
    assert (last - plan.doc.today).days > 7 * 18
    planned.do("plan.board")
    assert plan.doc.weeks[-1].monday <= last < plan.doc.weeks[-1].monday + timedelta(7)
    planned.do("plan.board")
    planned.do("plan.keep_block")
    block = dialog_of(planned, QInputDialog)
    assert "20 weeks" in block.labelText() or "19 weeks" in block.labelText()
    block.setTextValue("A long one")
    block.accept()
    planned.settle()
    [kept] = blocks(Clients(library))
    assert kept.sessions.sessions[-1][0] > 7 * 17
    planned.undo()
    planned.undo()
    assert plan_of_client(library, "Cleo Marsh").sessions == ()


def test_a_low_window_shows_what_is_remembered_in_place_of_the_sets_pictures(planned: Hands):
    why = planned.of("plan").why
    low, high = (why.drawn(360, height).words() for height in (190, 330))
    assert "Remembered" in low
    assert "Remembered" in high
    assert "1 May" in high
    assert "1 May" not in low
