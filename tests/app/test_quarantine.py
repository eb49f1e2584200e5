"""The drop folder's poison, and the list of what is set aside."""

from __future__ import annotations

from pathlib import Path
from typing import Any

import pytest

from builders import filmed, slow
from guide_arc.app.places.queue.incoming_dialog import IncomingDialog
from guide_arc.app.places.queue.quarantine_dialog import QuarantineDialog
from guide_arc.formats.track_file import write_track
from guide_arc.library import quarantine
from guide_arc.library.store import Library
from hands import Hands, dialog_of


class Clock:
    now = 0.0

    def elapsed(self) -> float:
        return 1000.0 * self.now


@pytest.fixture
def clock() -> Clock:
    return Clock()


def look(window: Hands, clock: Clock) -> None:
    """Time goes by until what has arrived was looked into."""
    for _ in range(3):
        clock.now += 5.0
        window.program.drop_folder.look()
        window.settle()


def watched(window: Hands, folder: Path, clock: Clock) -> None:
    window.program.drop_folder.choose(str(folder))
    window.settle()
    window.program.drop_folder.timer.stop()  # looked into by hand here
    window.program.drop_folder.clock = clock  # type: ignore[assignment]


@pytest.fixture
def drop(tmp_path: Path) -> Path:
    folder = tmp_path / "drop"
    folder.mkdir()
    return folder


def send(folder: Path, name: str, **script: Any) -> Path:
    write_track(filmed("rope-pushdown", **script).track, folder / name)
    return folder / name


def test_poison_in_the_drop_folder_is_listed_and_comes_in_once_it_is_mended(
    library: Library, add_set, window: Hands, drop: Path, clock: Clock
):
    add_set("Finn Adair", "rope-pushdown", reps=1)
    watched(window, drop, clock)
    bad = drop / "finn-adair-bad.csv"
    bad.write_text("# landmark-track: 1\nnothing\n")
    send(drop, "finn-adair-good.csv", reps=2)
    look(window, clock)
    assert library.count() == 2
    assert "finn-adair-bad.csv" in window.queue_place.quarantined.text()
    window.queue_place.quarantined.click()
    window.settle()
    dialog = dialog_of(window, QuarantineDialog)
    ((one, _box),) = dialog.boxes
    assert one.name == "finn-adair-bad.csv"
    assert one.why
    send(drop, "finn-adair-bad.csv", reps=3)
    dialog.try_accept()
    window.settle()
    dialog_of(window, IncomingDialog).try_accept()
    window.settle()
    assert library.count() == 3
    assert quarantine.all_quarantined(library) == []
    assert window.queue_place.quarantined.isHidden()


def test_what_is_left_is_told_of_no_more(
    library: Library, add_set, window: Hands, drop: Path, clock: Clock
):
    watched(window, drop, clock)
    (drop / "bad.csv").write_text("nothing")
    look(window, clock)
    window.do("file.quarantine")
    dialog_of(window, QuarantineDialog).leave.click()
    window.settle()
    assert quarantine.all_quarantined(library) == []
    look(window, clock)
    assert quarantine.all_quarantined(library) == []
    assert (drop / "bad.csv").exists()


@slow
def test_what_waited_to_be_asked_about_is_asked_about_by_the_next_window(
    library: Library, add_set, open_window, drop: Path, clock: Clock
):
    add_set("Finn Adair", "rope-pushdown", reps=1)
    first = open_window()
    watched(first, drop, clock)
    send(drop, "who.csv", reps=2)
    add_set("Ada Quill", "rope-pushdown", reps=3)  # so that the only client is no guess
    look(first, clock)
    assert [p.name for p in first.program.drop_folder.asked] == ["who.csv"]
    first.close()
    again = open_window()
    again.program.drop_folder.timer.stop()
    again.program.drop_folder.clock = clock
    look(again, clock)
    assert [p.name for p in again.program.drop_folder.asked] == ["who.csv"]
    again.do("file.dropped")
    dialog = dialog_of(again, IncomingDialog)
    dialog.forms[0][1].client.setEditText("Ada Quill")
    dialog.try_accept()
    again.settle()
    assert library.count() == 3
    again.close()
    third = open_window()
    third.program.drop_folder.timer.stop()
    third.program.drop_folder.clock = clock
    look(third, clock)
    assert third.program.drop_folder.asked == []


def test_the_list_is_empty_in_words(window: Hands):
    window.do("file.quarantine")
    dialog = dialog_of(window, QuarantineDialog)
    assert dialog.boxes == []
    assert not dialog.leave.isEnabled()
    dialog.reject()
