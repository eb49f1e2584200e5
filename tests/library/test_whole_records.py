"""A set, a client, a library: out as files with everything that the coach did, and back as they
went."""

from __future__ import annotations

import json
import zipfile
from dataclasses import replace
from datetime import date, datetime
from pathlib import Path
from typing import Any

import pytest

from guide_arc.cli.main import run
from guide_arc.core.model.client import Client
from guide_arc.core.model.settings import Correction, Settings
from guide_arc.formats.errors import BadFile
from guide_arc.library.bundles import take_bundle, write_set
from guide_arc.library.clients import Clients
from guide_arc.library.evening import note_reviewed
from guide_arc.library.follow_ups import follow_ups, keep_follow_up
from guide_arc.library.own_standards import OwnStandards
from guide_arc.library.records import Decision, SetNotes, SetPart
from guide_arc.library.store import Library
from guide_arc.library.whole_records import take_in, write_client, write_library
from guide_arc.standards.schools import Preference

NOTES = SetNotes(
    {
        "torso-swing/both": Decision(
            "reword", "Stand „still“.", "Marit Engel", "2031-05-01T18:00:00"
        ),
        "wrist-bend/left": Decision("drop", None, "Marit Engel", "2031-05-01T18:00:10"),
    },
    "Slept badly.\nKnee taped.",
    "done",
    True,
    Settings(
        (Correction("delete", 3.5), Correction("edge", 1.0, 1.2, edge="lift-start")),
        2,
        ("front shoulder",),
    ),
)


@pytest.fixture
def other(tmp_path: Path):
    opened = Library.open(tmp_path / "other")
    yield opened
    opened.close()


def test_a_set_comes_back_with_all_that_was_done_to_it(
    library: Library, other: Library, add_set, tmp_path: Path
):
    set_id = add_set("Cleo Marsh", reps=3, recorded="2031-04-30", load_kg=27.5)
    library.change_set(set_id, tempo="3-1-x-0")
    library.keep_notes(set_id, NOTES)
    write_set(library, set_id, tmp_path / "set.zip")
    there, new = take_bundle(other, tmp_path / "set.zip")
    before, after = library.record(set_id), other.record(there)
    assert new
    assert after.notes == NOTES
    assert replace(after, id=before.id) == before
    assert other.track_bytes(there)[0] == library.track_bytes(set_id)[0]
    assert take_bundle(other, tmp_path / "set.zip") == (there, False)


def test_both_sets_of_one_recording_come_back(
    library: Library, other: Library, add_set, tmp_path: Path
):
    set_id = add_set("Cleo Marsh", reps=4)
    parts = [
        SetPart("standing-barbell-curl", "locked-upper-arm", Correction("bounds", 0.0, 6.0)),
        SetPart("standing-barbell-curl", "locked-upper-arm", Correction("bounds", 6.0, 14.0)),
    ]
    for i, one in enumerate(library.split_set(set_id, parts)):
        write_set(library, one, tmp_path / f"{i}.zip")
        assert take_bundle(other, tmp_path / f"{i}.zip")[1]
    assert other.count() == 2


def edited(source: Path, target: Path, **changes: Any) -> Path:
    """A bundle whose set says something else."""
    with zipfile.ZipFile(source) as given, zipfile.ZipFile(target, "w") as out:
        for name in given.namelist():
            data = given.read(name)
            if name == "set.json":
                text = json.dumps({**json.loads(data), **changes})
                data = text.replace('"NAN"', "NaN").encode()
            out.writestr(name, data)
    return target


@pytest.mark.parametrize(
    ("field", "value", "said"),
    [
        ("tempo", "very slow", "LOWER-BOTTOM-LIFT-TOP"),
        ("school", "of-hard-knocks", "school"),
        ("load_kg", "NAN", "its load"),
        ("load_kg", -3, "its load"),
        ("capture_hz", "240", "frame rate"),
        ("client", "n" * 5000, "letters"),
        ("note", "n" * 50_000, "letters"),
        ("note", 7, "no text"),
        ("decisions", {"wrist/left": {"choice": "maybe"}}, "keep, drop or reword"),
        ("decisions", [1, 2], "decisions"),
        ("corrections", [{"kind": "delete", "at_s": "NAN"}], "corrections"),
        ("corrections", [{"kind": "edge", "at_s": 1.0}], "corrections"),
        ("corrections", "none", "corrections"),
        ("loose_last", 10**30, "loose"),
        ("loose_last", True, "loose"),
        ("felt", [[]], "felt"),
    ],
)
def test_what_no_set_can_have_is_refused_in_a_sentence_and_nothing_stored(
    library: Library, add_set, tmp_path: Path, field: str, value: Any, said: str
):
    set_id = add_set("Cleo Marsh", reps=1)
    write_set(library, set_id, tmp_path / "set.zip")
    other = Library.open(tmp_path / "other")
    with pytest.raises(BadFile, match=said):
        take_bundle(other, edited(tmp_path / "set.zip", tmp_path / "bad.zip", **{field: value}))
    assert other.count() == 0
    assert list((other.folder / "tracks").iterdir()) == []
    assert list((other.folder / "unpacking").iterdir()) == []
    other.close()


def test_what_can_not_be_seen_is_left_out_of_names_and_notes(
    library: Library, other: Library, add_set, tmp_path: Path
):
    write_set(library, add_set("Cleo Marsh", reps=1), tmp_path / "set.zip")
    bad = edited(
        tmp_path / "set.zip",
        tmp_path / "bad.zip",
        client="Cleo\x1b[31m\u202e Marsh\n",
        note="one\ttwo\nthree\x07\ud83d",
        source_name="a\x00b\u2066.csv",
        recorded="yesterday",
    )
    record = other.record(take_bundle(other, bad)[0])
    assert record.client == "Cleo [31m Marsh"
    assert record.notes.note == "one\ttwo\nthree \ufffd"
    assert record.source_name == "a b.csv"
    assert date.fromisoformat(record.recorded[:10]) == date.today()


KNOWN = Client("Cleo Marsh", 1.71, goals="strength first", covers_face=True, words="pin works")


def filled(library: Library, add_set: Any) -> tuple[int, int]:
    clients = Clients(library)
    first = add_set("Cleo Marsh", reps=2, recorded="2031-04-30", load_kg=30.0)
    second = add_set("Cleo Marsh", reps=2, recorded="2031-05-02", load_kg=32.5, view="front")
    add_set("Ada Quill", reps=1, recorded="2031-05-03")
    clients.keep(KNOWN)
    clients.keep_words("Cleo Marsh", "torso-swing", "Stand tall.")
    clients.keep_thing("room", {"walls": 4}, name="rehearsal hall")
    library.keep_notes(first, replace(NOTES, pain=False))
    library.join_views(second, first)
    note_reviewed(library, first, 40.0, datetime(2031, 5, 1, 18, 0))
    keep_follow_up(library, "Cleo Marsh", "Ask about the knee", date(2031, 5, 9), first)
    library.keep_setting("coach", "Marit Engel")
    OwnStandards(library).keep_preferences((Preference("locked-upper-arm", client="Cleo Marsh"),))
    return first, second


def test_a_client_s_whole_record_comes_back(
    library: Library, other: Library, add_set, tmp_path: Path
):
    first, _second = filled(library, add_set)
    write_client(library, "Cleo Marsh", tmp_path / "out", lambda _s: None)
    add_one_before(other)  # so that the sets' numbers are others
    taken = take_in(other, tmp_path / "out" / "Cleo Marsh", lambda _s: None)
    assert taken.wrong == []
    there, then = taken.ids
    clients = Clients(other)
    assert clients.client("Cleo Marsh") == KNOWN
    assert clients.own_words("Cleo Marsh") == {"torso-swing": "Stand tall."}
    assert other.record(there).notes == library.record(first).notes
    assert other.shown_with(then) == there
    (ahead,) = follow_ups(other)
    assert (ahead.words, ahead.set_id) == ("Ask about the knee", there)
    assert "Ada Quill" not in other.clients()
    again = take_in(other, tmp_path / "out" / "Cleo Marsh", lambda _s: None)
    assert (again.ids, again.known, again.wrong) == ([], 2, [])
    assert len(follow_ups(other)) == 1


def add_one_before(library: Library) -> None:
    from conftest import adder

    adder(library)("Benno Adair", reps=1, seed=21)


def test_the_whole_library_comes_back_by_the_commands(
    library: Library, add_set, tmp_path: Path, capsys
):
    filled(library, add_set)
    out, into = str(tmp_path / "out"), str(tmp_path / "into")
    assert run(["export", out, "--library", str(library.folder)]) == 0
    assert run(["import", out, "--library", into]) == 0
    assert "3 sets added" in capsys.readouterr().out
    other = Library.open(tmp_path / "into")
    assert sorted(other.clients()) == ["Ada Quill", "Cleo Marsh"]
    assert other.setting("coach") == "Marit Engel"
    assert OwnStandards(other).preferences() == OwnStandards(library).preferences()
    assert [n for _i, n, _d in Clients(other).kept("room")] == ["rehearsal hall"]
    other.close()
    modes = {p.stat().st_mode & 0o077 for p in [tmp_path / "out", *(tmp_path / "out").rglob("*")]}
    assert modes == {0}


def test_one_bad_bundle_stops_no_other(library: Library, other: Library, add_set, tmp_path: Path):
    filled(library, add_set)
    write_library(library, tmp_path / "out", lambda _s: None)
    (tmp_path / "out" / "Cleo Marsh" / "0000-poison.zip").write_bytes(b"PK\x03\x04" + bytes(400))
    (tmp_path / "out" / "Ada Quill" / "kept.json").write_text("[" * 100_000)
    taken = take_in(other, tmp_path / "out", lambda _s: None)
    assert len(taken.ids) == 3
    assert len(taken.wrong) == 2
