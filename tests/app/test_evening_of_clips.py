"""An evening of thirty clips: told in few steps, searched by themselves, gone on with, and never
stopped by a bad one."""

from __future__ import annotations

import os
from datetime import UTC, datetime, timedelta
from pathlib import Path

import av
import numpy as np
import pytest
from PyQt6.QtCore import QEvent, QPoint, QPointF, Qt
from PyQt6.QtGui import QEnterEvent
from PyQt6.QtWidgets import QApplication, QLabel

from builders import slow
from clips import SmallFilm, numbered_clip
from guide_arc.app.places.queue.carry import Facts, filled
from guide_arc.app.places.queue.incoming_dialog import IncomingDialog
from guide_arc.app.places.queue.model import row_words
from guide_arc.capture.tracking import simulated
from guide_arc.capture.tracking.people import Person
from guide_arc.core.model.errors import BadInput
from guide_arc.library import searches
from guide_arc.library.clip_sets import ClipDetails, ClipSets
from guide_arc.library.intake import inspect_clip
from guide_arc.library.searches import Search, Searches, search_of, search_text
from guide_arc.library.store import Library
from guide_arc.library.taking_out import remove_set
from guide_arc.standards.catalogue import Catalogue
from hands import Hands, dialog_of, drop, press

Key = Qt.Key
DETAILS = ClipDetails("Esme Rook", "rope-pushdown", "locked", "left", recorded="2031-03-28T11:45")


@pytest.fixture(scope="module")
def thirty(tmp_path_factory: pytest.TempPathFactory) -> list[Path]:
    """Clips as phones name them, of three clients who train one after the other."""
    folder = tmp_path_factory.mktemp("evening")
    begun = datetime(2031, 4, 1, 17, 0)
    out = []
    for i in range(30):
        path = numbered_clip(folder / f"VID_{4200 + 7 * i}.mp4", 12 + i, size=(96, 96))
        at = (begun + timedelta(minutes=4 * i)).timestamp()
        os.utime(path, (at, at))
        out.append(path)
    return out


class Counted:
    """Every step of the coach, counted."""

    def __init__(self, dialog: IncomingDialog) -> None:
        self.dialog, self.count = dialog, 0

    def say(self, row: int, **said: str) -> None:
        form = self.dialog.forms[row][1]
        for name, value in said.items():
            self.count += 1
            if name == "client":
                form.client.setEditText(value)
            elif name == "load":
                form.load.setText(value)
            else:
                box = {"standard": form.standard, "view": form.view}[name]
                assert box is not None
                box.setCurrentIndex(box.findData(value))


# Three exercises of three or four sets each, for each of the three.
PLAN = (
    (
        "Ada Quill",
        (
            ("overhead-press-dumbbell", "front", "10"),
            ("rope-pushdown", "left", "20"),
            ("lateral-raise-dumbbell", "front", "6"),
        ),
    ),
    (
        "Finn Adair",
        (
            ("standing-barbell-curl", "left", "25"),
            ("bent-over-row", "left", "50"),
            ("rope-pushdown", "left", "25"),
        ),
    ),
    (
        "Esme Rook",
        (
            ("lat-pulldown-wide", "back", "35"),
            ("face-pull", "front", "15"),
            ("lateral-raise-dumbbell", "front", "5"),
        ),
    ),
)


@slow
def test_thirty_clips_of_three_clients_take_fewer_than_forty_steps(
    window: Hands, thirty: list[Path], library: Library
) -> None:
    drop(window, *thirty)
    steps = Counted(dialog_of(window, IncomingDialog))
    steps.count += 1  # all of them dropped at once
    wanted = []
    for client, exercises in PLAN:
        for number, (standard, view, load) in enumerate(exercises):
            row = len(wanted)
            said = {"standard": standard, "load": load}
            if number == 0:
                said = {"client": client, **said, "view": view}
            elif view != exercises[number - 1][1]:
                said["view"] = view
            steps.say(row, **said)
            wanted += [(client, standard, view, float(load))] * (4 if number == 0 else 3)
    steps.dialog.ok.click()
    steps.count += 1
    window.settle()
    assert steps.count < 40
    rows = sorted(window.sets.doc.rows, key=lambda r: r.recorded)
    assert [(r.client, r.standard, r.view, r.load_kg) for r in rows] == wanted
    assert len({r.recorded for r in rows}) == 30  # each by its own time of day


def test_each_row_shows_its_clip_and_plays_it_under_the_mouse(
    qtbot, window: Hands, pushdown_film: SmallFilm
) -> None:
    drop(window, pushdown_film.clip.path)
    dialog = dialog_of(window, IncomingDialog)
    window.settle()
    [picture] = dialog.pictures
    assert picture is not None
    assert len(picture.pictures) == 24
    rest = picture.at
    at = QPointF(5, 5)
    QApplication.sendEvent(picture, QEnterEvent(at, at, at))
    qtbot.waitUntil(lambda: picture.at != rest, timeout=5_000)
    QApplication.sendEvent(picture, QEvent(QEvent.Type.Leave))
    assert picture.at == rest
    dialog.reject()


def test_exercise_and_side_are_proposed_from_the_clip_itself(
    window: Hands, pushdown_film: SmallFilm, tmp_path: Path
) -> None:
    unnamed = tmp_path / "VID_1.mp4"
    unnamed.write_bytes(pushdown_film.clip.path.read_bytes())
    drop(window, unnamed)
    dialog = dialog_of(window, IncomingDialog)
    window.settle()
    [(item, form)] = dialog.forms
    assert (item.standard, item.view) == (None, None)
    assert form.details().standard == "rope-pushdown"
    assert form.details().view == "left"
    assert form.view.property("guessed")
    form.view.setCurrentIndex(form.view.findData("right"))
    assert not form.view.property("guessed")
    dialog.reject()


def test_what_is_typed_goes_before_what_a_clip_shows_and_that_before_the_row_above() -> None:
    rows = [
        Facts({"client": "Ada", "standard": "a", "load": "10"}),
        Facts({}, {"standard": "b"}),
        Facts({}, {}, {"standard": "c"}),
        Facts({"client": "Finn"}, {}, {"standard": "c", "view": "left"}),
    ]
    out = filled(rows)
    assert [r["client"].value for r in out] == ["Ada", "Ada", "Ada", "Finn"]
    assert [r["standard"].value for r in out] == ["a", "b", "b", "c"]
    assert [r["load"].value for r in out] == [
        "10",
        None,
        None,
        None,
    ]  # another exercise, another load
    assert [r["standard"].guessed for r in out] == [False, True, True, True]


def test_a_load_is_not_carried_to_another_client() -> None:
    rows = [
        Facts({"client": "Ada", "standard": "a", "load": "10"}),
        Facts({}),
        Facts({"client": "Finn", "standard": "a"}),
    ]
    assert [r["load"].value for r in filled(rows)] == ["10", "10", None]


def test_the_row_above_gives_no_exercise_that_the_movement_can_not_be() -> None:
    seen: dict[str, tuple[str, ...]] = {"standard": ("c", "a")}
    rows = [
        Facts({"client": "Ada", "standard": "b"}),
        Facts({}, {}, {"standard": "c"}, seen),
        Facts({"standard": "a"}),
        Facts({}, {}, {"standard": "c"}, seen),
    ]
    assert [r["standard"].value for r in filled(rows)] == ["b", "c", "a", "a"]


def test_a_cut_off_clip_is_told_before_it_comes_in(window: Hands, tmp_path: Path) -> None:
    data = numbered_clip(tmp_path / "whole.mkv", 240, key_every=10).read_bytes()
    (tmp_path / "cut.mkv").write_bytes(data[: int(0.55 * len(data))])
    drop(window, tmp_path / "cut.mkv")
    dialog = dialog_of(window, IncomingDialog)
    assert any("are missing at its end" in label.text() for label in dialog.findChildren(QLabel))
    dialog.reject()


# Searching


def _clips(library: Library, film: SmallFilm, folder: Path, count: int) -> list[int]:
    """The same film several times, each another file."""
    out = []
    for i in range(count):
        path = folder / f"VID_{i}.mp4"
        path.write_bytes(film.clip.path.read_bytes() + bytes(8 * i))
        out.append(ClipSets(library).add(path, DETAILS)[0])
    return out


@slow
def test_clips_are_searched_by_themselves_and_the_end_is_said(
    window: Hands, pushdown_film: SmallFilm, library: Library, tmp_path: Path
) -> None:
    told: list[str] = []
    window.program.searching.ended.connect(told.append)
    path = tmp_path / "esme-rope-pushdown-left.mp4"
    path.write_bytes(pushdown_film.clip.path.read_bytes())
    drop(window, path)
    dialog = dialog_of(window, IncomingDialog)
    dialog.forms[0][1].client.setEditText("Esme Rook")
    dialog.ok.click()
    window.settle()
    [row] = window.sets.doc.rows
    assert row.summary is not None
    assert told == ["Landmarks found in one clip, which can be reviewed now."]


@slow
def test_a_search_that_was_cut_off_by_closing_goes_on_at_the_next_start(
    open_window, library: Library, pushdown_film: SmallFilm, tmp_path: Path
) -> None:
    ids = _clips(library, pushdown_film, tmp_path, 2)
    Searches(library).want(ids)

    class Closed(Exception):
        pass

    def closing(share: float) -> None:
        if share > 0.2:
            raise Closed

    with pytest.raises(Closed):
        Searches(library).run(closing)
    assert Searches(library).wanted() == ids
    window = open_window()
    window.settle()
    assert Searches(library).wanted() == []
    assert all(row.summary is not None for row in window.sets.doc.rows)


@slow
def test_one_bad_clip_stops_no_other(
    open_window, library: Library, pushdown_film: SmallFilm, tmp_path: Path, monkeypatch
) -> None:
    ids = _clips(library, pushdown_film, tmp_path, 3)
    track = simulated.SimulatedTracker.track
    bad = library.record(ids[1]).clip_hash or ""
    worse = library.record(ids[2]).clip_hash or ""

    def fails(self, clip, marks, progress):
        if clip.path.name.startswith(bad):
            raise BadInput("nobody is in view; mark the joints by hand, or send another clip")
        if clip.path.name.startswith(worse):
            raise ZeroDivisionError
        return track(self, clip, marks, progress)

    monkeypatch.setattr(simulated.SimulatedTracker, "track", fails)
    Searches(library).want(ids)
    window = open_window()
    window.settle()
    rows = {row.id: row for row in window.sets.doc.rows}
    assert rows[ids[0]].summary is not None
    assert "nobody is in view" in row_words(rows[ids[1]])
    assert "mark the joints by hand" in row_words(rows[ids[2]])
    assert "Landmarks found in one clip" in window.said
    assert "2 clips to be marked by hand" in window.said
    assert Searches(library).wanted() == []


@slow
def test_stopping_leaves_the_rest_to_be_marked_by_hand(
    qtbot, open_window, library: Library, pushdown_film: SmallFilm, tmp_path: Path, monkeypatch
) -> None:
    ids = _clips(library, pushdown_film, tmp_path, 2)

    def waits(self, clip, marks, progress):
        while True:
            progress(0.5)

    monkeypatch.setattr(simulated.SimulatedTracker, "track", waits)
    window = open_window()
    Searches(library).want(ids)
    window.program.searching.go_on()
    qtbot.waitUntil(lambda: window.program.jobs.runs("search"), timeout=5_000)
    window.program.jobs.stop("search")
    window.settle()
    assert Searches(library).wanted() == []
    assert {row_words(r).partition(": ")[2] for r in window.sets.doc.rows} == {
        "a clip without landmarks yet: open it to mark them"
    }


def test_who_is_meant_is_asked_with_a_picture(
    qtbot, open_window, library: Library, pushdown_film: SmallFilm, tmp_path: Path, monkeypatch
) -> None:
    [set_id] = _clips(library, pushdown_film, tmp_path, 1)
    people = (Person(10, (60.0, 20.0, 180.0, 230.0)), Person(10, (230.0, 30.0, 330.0, 225.0)))
    Searches(library).keep(set_id, Search("asks", "Two people are in view", people))
    asked: list[object] = []
    window = open_window()
    window.settle()
    assert "say who is meant" in row_words(window.sets.doc.rows[0])
    window.open_set(set_id)
    qtbot.waitUntil(lambda: window.marking_place.view.frames.settled, timeout=10_000)
    place = window.marking_place
    assert place.what_next.text().startswith("2 people are in view.")
    assert window.marking.doc.frame == 10
    monkeypatch.setattr(place, "find_landmarks", asked.append)
    view = place.view
    x, y = view.placed().to_sheet(np.array((280.0, 120.0)))
    qtbot.mouseClick(view, Qt.MouseButton.LeftButton, pos=QPoint(round(x), round(y)))
    window.settle()
    assert window.marking.doc.marks.person == (10, 230.0, 30.0, 330.0, 225.0)
    assert asked == ["pose model"]
    assert window.marking.doc.people == ()


def test_who_is_meant_is_said_by_a_key_and_taken_back(
    qtbot, open_window, library: Library, pushdown_film: SmallFilm, tmp_path: Path, monkeypatch
) -> None:
    [set_id] = _clips(library, pushdown_film, tmp_path, 1)
    people = (Person(4, (60.0, 20.0, 180.0, 230.0)), Person(4, (230.0, 30.0, 330.0, 225.0)))
    Searches(library).keep(set_id, Search("asks", "Two people are in view", people))
    window = open_window()
    window.open_set(set_id)
    monkeypatch.setattr(window.marking_place, "find_landmarks", lambda _name: None)
    press(qtbot, window, Key.Key_1)
    assert window.marking.doc.marks.person == (4, 60.0, 20.0, 180.0, 230.0)
    window.undo()
    assert window.marking.doc.marks.person is None


def test_the_larger_of_two_is_marked_as_meant(
    library: Library, pushdown_film: SmallFilm, tmp_path: Path, monkeypatch
) -> None:
    [set_id] = _clips(library, pushdown_film, tmp_path, 1)

    class Model(searches.PoseModel):  # type: ignore[misc, name-defined]
        people_in_view: tuple[Person, ...] = ()

        def people(self, clip):
            return self.people_in_view

        def why_not(self, clip, marks):
            return None

        def track(self, clip, marks, progress):
            return simulated.SimulatedTracker().track(clip, marks, progress)

    model = Model()
    monkeypatch.setattr(searches, "searcher", lambda _clip: model)
    near, far = Person(3, (60.0, 10.0, 180.0, 230.0)), Person(3, (230.0, 130.0, 260.0, 200.0))
    model.people_in_view = (near, Person(3, (230.0, 20.0, 330.0, 225.0)))
    assert Searches(library).one(set_id) == Search(
        "asks", "Two people are in view", model.people_in_view
    )
    model.people_in_view = (near, far)
    assert Searches(library).one(set_id) == Search()
    assert ClipSets(library).marks(set_id).person == (3, *near.box)
    assert not library.record(set_id).waits_for_landmarks


def test_a_search_is_kept_as_it_is_and_what_cant_be_read_is_none() -> None:
    asks = Search("asks", "Two people are in view", (Person(3, (1.0, 2.0, 3.0, 4.0)),))
    assert search_of(search_text(asks)) == asks
    assert search_of(search_text(Search())) == Search()
    for text in ("{", "[]", '{"state": "asks"}', '{"state": "asks", "words": "", "people": [[1]]}'):
        assert search_of(text) == Search()


def test_what_was_marked_by_hand_meanwhile_is_not_written_over(
    library: Library, pushdown_film: SmallFilm, tmp_path: Path
) -> None:
    [set_id] = _clips(library, pushdown_film, tmp_path, 1)

    def by_hand(share: float) -> None:
        if share > 0.5 and library.record(set_id).waits_for_landmarks:
            ClipSets(library).keep_track(set_id, pushdown_film.filmed.truth, "marked points")

    Searches(library).want([set_id])
    Searches(library).run(by_hand)
    assert library.record(set_id).tracked_by == "marked points"
    assert Searches(library).wanted() == []


def test_what_is_erased_while_it_waits_is_passed_over(
    library: Library, pushdown_film: SmallFilm, tmp_path: Path
) -> None:
    ids = _clips(library, pushdown_film, tmp_path, 2)
    Searches(library).want(ids)
    remove_set(library, ids[0])
    done = Searches(library).run()
    assert (done.found, done.asks, done.wrong) == (1, 0, ())


# When a clip was filmed


@pytest.mark.parametrize(
    ("name", "when"),
    [
        ("VID_20310401_181503", "2031-04-01T18:15"),
        ("PXL_20310401_181503123", "2031-04-01T18:15"),
        ("2031-04-01 18.15.03", "2031-04-01T18:15"),
        ("ada-2031-04-01-overhead-press-dumbbell-front", "2031-04-01"),
        ("IMG_1234567890123456", None),
        ("VID_20311301_181503", None),  # no such month
    ],
)
def test_the_time_of_filming_is_in_the_name(tmp_path: Path, name: str, when: str | None) -> None:
    path = numbered_clip(tmp_path / f"{name}.mp4", size=(96, 96))
    os.utime(path, (datetime(2030, 1, 2, 3, 4).timestamp(),) * 2)
    item = inspect_clip(path, [], Catalogue())
    assert item.recorded == (when or "2030-01-02T03:04")


def test_the_time_of_filming_is_in_the_file(tmp_path: Path) -> None:
    """A copy is written later than the clip was filmed; the phone's own note is of then."""
    plain = numbered_clip(tmp_path / "a.mp4", size=(96, 96))
    noted = tmp_path / "IMG_0042.mp4"
    with av.open(str(plain)) as given, av.open(str(noted), "w") as out:
        out.metadata["creation_time"] = "2031-04-01T16:15:03.000000Z"
        stream = out.add_stream_from_template(given.streams.video[0])
        for packet in given.demux(given.streams.video[0]):
            if packet.dts is not None:
                packet.stream = stream
                out.mux(packet)
    local = datetime(2031, 4, 1, 16, 15, tzinfo=UTC).astimezone()
    assert inspect_clip(noted, [], Catalogue()).recorded == f"{local:%Y-%m-%dT%H:%M}"


def test_a_row_of_the_queue_shows_its_clip(open_window, library: Library, tmp_path: Path) -> None:
    path = numbered_clip(tmp_path / "a.mp4", 12, size=(160, 96))
    ClipSets(library).add(path, DETAILS)
    window = open_window()
    place = window.queue_place
    assert place.card.pictures
    card = place.list.visualRect(place.list.model().index(0, 0))
    viewport = place.list.viewport()
    picture = viewport.grab(card).toImage()
    shown = picture.pixelColor(card.width() - 66, card.height() - 16)
    assert (shown.red(), shown.green(), shown.blue()) == pytest.approx(
        (90, 90, 90), abs=12
    )  # the clip's own grey
