"""In a team each client may have a coach, and the queue shows one coach's clients."""

from __future__ import annotations

import pytest
from PyQt6.QtCore import QSettings, Qt

from guide_arc.app.places.clients.known_dialog import KnownDialog
from guide_arc.core.model.client import Client
from guide_arc.library.clients import Clients
from guide_arc.library.queue_rows import QueueFilter, read_page
from guide_arc.library.store import Library
from hands import Hands, dialog_of, press

Key = Qt.Key


@pytest.fixture
def team(library: Library, add_set) -> Library:
    """Ada and Cleo are trained by Marit, Finn by Jonas, Esme by nobody who is named."""
    for n, name in enumerate(("Ada Quill", "Cleo Marsh", "Finn Adair", "Esme Rook")):
        add_set(name, reps=3, seed=n + 1)
    clients = Clients(library)
    for name, coach in (("Ada Quill", "Marit"), ("Cleo Marsh", "Marit"), ("Finn Adair", "Jonas")):
        clients.keep(Client(name, coach=coach))
    return library


def names(window: Hands) -> set[str]:
    return {row.client for row in window.sets.doc.rows}


def test_the_queue_shows_one_coachs_clients_and_how_many_wait(qtbot, team, open_window):
    window = open_window()
    queue = window.of("queue")
    assert queue.coach.isVisibleTo(queue)
    assert [queue.coach.itemText(i) for i in range(queue.coach.count())] == [
        "All coaches",
        "Jonas",
        "Marit",
    ]
    assert len(names(window)) == 4
    press(qtbot, window, Key.Key_C)
    assert names(window) == {"Finn Adair"}
    assert window.head("position").startswith("1 waiting")
    press(qtbot, window, Key.Key_C)
    assert names(window) == {"Ada Quill", "Cleo Marsh"}
    assert window.head("position").startswith("2 waiting")
    window.sets.search("ada")
    window.settle()
    assert names(window) == {"Ada Quill"}


def test_the_choice_is_there_at_the_next_start_and_a_coach_who_left_shows_nothing(
    qtbot, team, open_window, settings: QSettings
):
    window = open_window()
    press(qtbot, window, Key.Key_C)
    again = open_window()
    assert names(again) == {"Finn Adair"}
    Clients(team).keep(Client("Finn Adair"))
    again.sets.refresh()
    again.settle()
    assert names(again) == set()
    assert "Jonas's clients have no waiting set" in again.of("queue").empty.text()
    press(qtbot, again, Key.Key_C)
    press(qtbot, again, Key.Key_C)
    assert len(names(again)) in (2, 4)


def test_without_coaches_there_is_nothing_to_choose(library, add_set, open_window):
    add_set("Ada Quill", reps=3)
    window = open_window()
    queue = window.of("queue")
    assert not queue.coach.isVisibleTo(queue)
    assert not window.can("queue.coach")


def test_a_coach_is_noted_with_what_is_known_and_taken_back(team, open_window):
    window = open_window()
    window.do("go.clients")
    window.of("clients").model.choose("Esme Rook")
    window.settle()
    window.of("clients").asking.ask_what_is_known()
    dialog = dialog_of(window, KnownDialog)
    dialog.coach.setText("  Jonas  Berg ")
    dialog.try_accept()
    window.settle()
    assert Clients(team).client("Esme Rook").coach == "Jonas Berg"
    window.undo()
    assert Clients(team).client("Esme Rook").coach == ""


def test_a_coachs_name_is_no_part_of_a_statement(team):
    page = read_page(team.folder, QueueFilter(coach="x') or 1=1 --"))
    assert page is not None
    assert page.rows == ()
    assert page.waiting == 0
