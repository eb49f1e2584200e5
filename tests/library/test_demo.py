"""The demo library: the scenario, built whole, the same every time."""

from __future__ import annotations

from concurrent.futures import Executor
from dataclasses import replace

import pytest

from builders import slow
from guide_arc.library import demo, demo_film
from guide_arc.library.store import Library

pytestmark = slow


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
        "standing-barbell-curl",
        "lateral-raise-dumbbell",
        "rope-pushdown",
        "seated-row-narrow-low",
        "overhead-press-dumbbell",
        "cable-cross-raise-low",
    } <= used


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
    assert len({demo_film.file_name(f, ".csv") for f in sent}) == 14
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
    monkeypatch.setattr(demo, "add_filmed", lambda *_a, **_k: pytest.fail("added again"))
    monkeypatch.setattr(demo, "_add_clip", lambda *_a, **_k: pytest.fail("added again"))
    demo.ensure_demo_library(built.folder)


class AtOnce(Executor):
    """Helpers that work in this process, one set after the other."""

    def map(self, function, *given):  # type: ignore[override]
        return map(function, *given)


def test_filling_that_was_cut_off_goes_on(tmp_path):
    folder = tmp_path / "demo"
    assert demo.prepare(folder)
    assert not demo.prepare(folder)
    library = Library.open(folder)
    jobs = [(replace(f, reps=3), i) for i, f in enumerate(demo.FILMED) if not f.done][:4]

    def cut_off(share):
        if share > 0.4:
            raise KeyboardInterrupt

    with pytest.raises(KeyboardInterrupt):
        demo.fill(library, "filled", jobs, cut_off, AtOnce())
    first = {row.id for row in library.queue()}
    assert len(first) == 2
    assert demo.fill(library, "filled", jobs, lambda _share: None, AtOnce()) == 2
    assert {row.id for row in library.queue()} > first
    assert len(library.queue()) == 4
    assert all(row.summary for row in library.queue())
    assert demo.fill(library, "filled", jobs, lambda _share: None) == 0
    library.close()


def test_an_older_edition_makes_way(tmp_path):
    folder = tmp_path / "demo"
    folder.mkdir()
    (folder / "edition").write_text("1")
    (folder / "left-over").write_text("x")
    demo.prepare(folder)
    assert not (folder / "left-over").exists()
    assert (folder / "edition").read_text() == demo.EDITION
