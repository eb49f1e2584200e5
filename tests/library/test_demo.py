"""The demo library: the scenario, built whole, the same every time."""

from __future__ import annotations

import pytest

from guide_arc.library import demo
from guide_arc.library.store import Library


@pytest.fixture(scope="module")
def built(tmp_path_factory):
    folder = tmp_path_factory.mktemp("demo") / "library"
    demo.ensure_demo_library(folder)
    library = Library.open(folder)
    yield library
    library.close()


def test_fourteen_sets_wait_over_the_first_six_standards(built):
    rows = built.queue(state="waiting")
    assert len(rows) >= 14
    used = {row.standard for row in built.queue(state=None)}
    assert {
        "standing-barbell-curl", "lateral-raise-dumbbell", "rope-pushdown", "seated-row-narrow-low",
        "overhead-press-dumbbell", "cable-cross-raise-low",
    } <= used  # fmt: skip


def test_only_the_made_up_people_are_in_it(built):
    assert built.clients() == [
        "Ada Quill",
        "Benno Hartz",
        "Cleo Marsh",
        "Dario Venn",
        "Esme Rook",
        "Finn Adair",
    ]
    assert built.setting("coach") == "Marit Engel"
    assert all(row.recorded.startswith("2031-") for row in built.queue(state=None))


def test_each_set_is_reviewed_and_the_one_with_pain_comes_first(built):
    rows = built.queue()
    assert all(row.summary is not None for row in rows if row.has_track)
    assert rows[0].pain


def test_one_clip_has_its_landmarks_and_one_waits_for_them(built):
    clips = {row.has_track: row for row in built.queue() if row.has_clip}
    assert set(clips) == {True, False}
    assert clips[True].view == "front"
    assert "shoulder rises" in str(clips[True].summary["line"])
    assert built.record(clips[False].id).waits_for_landmarks


def test_an_evenings_sets_are_all_named_apart():
    sent = demo.sent_sets(14, 3)
    assert len({demo.file_name(f, ".csv") for f in sent}) == 14
    assert sent == demo.sent_sets(14, 3)
    assert sent != demo.sent_sets(14, 4)


def test_the_stories_are_found(built):
    lines = {
        (row.client, row.standard, row.recorded[:10]): row.summary["line"]
        for row in built.queue(state=None)
        if row.summary
    }
    assert "shoulder rises" in lines[("Dario Venn", "lateral-raise-dumbbell", "2031-03-25")]
    assert "midline" in lines[("Esme Rook", "cable-cross-raise-low", "2031-03-24")]
    assert lines[("Benno Hartz", "seated-row-narrow-low", "2031-03-27")] == "all within the limits"


def test_it_is_built_once(built, monkeypatch):
    monkeypatch.setattr(demo, "build", lambda *_a, **_k: pytest.fail("built again"))
    demo.ensure_demo_library(built.folder)
