"""Files whose names do not say for certain whose they are wait, and are asked about with a
proposal."""

from __future__ import annotations

from pathlib import Path

import pytest

from builders import filmed
from guide_arc.app.places.queue.incoming_dialog import IncomingDialog
from guide_arc.core.model.client import Client
from guide_arc.formats.track_file import write_track
from guide_arc.library.clients import Clients
from guide_arc.library.store import Library
from hands import Hands, dialog_of


class Clock:
    now = 0.0

    def elapsed(self) -> float:
        return 1000.0 * self.now


@pytest.fixture
def watched(window: Hands, library: Library, tmp_path: Path) -> Path:
    Clients(library).keep(Client("Al Vane"))
    folder = tmp_path / "drop"
    folder.mkdir()
    window.program.drop_folder.choose(str(folder))
    window.settle()
    window.program.drop_folder.timer.stop()
    window.program.drop_folder.clock = Clock()  # type: ignore[assignment]
    return folder


def look(window: Hands) -> None:
    for _ in range(3):
        window.program.drop_folder.clock.now += 5.0  # type: ignore[attr-defined]
        window.program.drop_folder.look()
        window.settle()


def send(folder: Path, name: str, seed: int) -> None:
    write_track(filmed("rope-pushdown", reps=1, seed=seed).track, folder / name)


def test_alice_is_not_al_and_a_word_is_agreed_on(window: Hands, library: Library, watched: Path):
    send(watched, "alice.csv", 1)
    send(watched, "al-clip.csv", 2)
    look(window)
    assert library.count() == 0
    window.do("file.dropped")
    dialog = dialog_of(window, IncomingDialog)
    by_name = {item.name: (form, i) for i, (item, form) in enumerate(dialog.forms)}
    al, at = by_name["al-clip.csv"]
    assert al.client.currentText() == "Al Vane"
    assert al.client.property("guessed")  # shown in grey: nobody said it
    alice, _at = by_name["alice.csv"]
    assert alice.client.currentText() != "Al Vane" or alice.client.property("guessed")
    alice.client.setCurrentText("Alice Reed")
    always = dialog._always[at]
    assert always is not None
    assert always[1] == "al"
    always[0].setChecked(True)
    dialog.try_accept()
    window.settle()
    assert {library.record(i).client for i in library.ids()} == {"Al Vane", "Alice Reed"}
    # From now on a file with that word comes in by itself.
    send(watched, "al-2031-04-02.csv", 3)
    look(window)
    assert library.count() == 3
    assert [library.record(i).client for i in library.ids()].count("Al Vane") == 2
    # Undo of the agreement, and then of the sets: nothing of it is left.
    while window.undo_words:
        window.undo()
    assert library.count() == 0
    assert library.clients() == ["Al Vane"]
    assert Clients(library).client("Al Vane").file_words == ()


def test_the_one_client_there_is_gets_no_strangers_file(
    window: Hands, library: Library, watched: Path
):
    send(watched, "somebody.csv", 1)
    look(window)
    assert library.count() == 0
    assert [p.name for p in window.program.drop_folder.asked] == ["somebody.csv"]


def test_a_loop_of_links_and_a_long_name_do_not_stop_the_folder(
    window: Hands, library: Library, watched: Path
):
    (watched / "al-vane-round.csv").symlink_to(watched / "al-vane-round.csv")
    send(watched, f"al-vane-{'x' * 241}.csv", 1)
    send(watched, "al-vane-good.csv", 2)
    look(window)
    assert library.count() == 2
    assert "al-vane-round.csv" in window.queue_place.quarantined.text()
