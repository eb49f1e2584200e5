"""Playback, review and queue without any widget."""

from __future__ import annotations

from dataclasses import replace as changed
from pathlib import Path

import pytest

from builders import filmed
from desks import UndoneModel
from guide_arc.app.places.review.playback import Playback
from guide_arc.app.services import set_list
from guide_arc.core.model.rep import Span
from guide_arc.formats.track_file import write_track
from guide_arc.library.attribution import ClientName
from guide_arc.library.intake import inspect_files
from guide_arc.library.queue_rows import QueuePage, QueueRow
from guide_arc.library.records import SetNotes, SetRecord
from guide_arc.standards.catalogue import Catalogue

RECORD = SetRecord(
    1,
    "Cleo Marsh",
    "standing-barbell-curl",
    "locked-upper-arm",
    None,
    30.0,
    "2031-03-25",
    "c.csv",
    "0",
    100,
    30.0,
    "none",
    SetNotes(),
)


@pytest.fixture
def playback() -> Playback:
    clock = Playback()
    clock.load(tuple(i * 0.1 for i in range(101)), 0.0)
    return clock


def test_the_clock_stays_within_the_recording(playback):
    playback.go_to(99)
    assert playback.at_s == pytest.approx(10.0)
    playback.go_to(-5)
    assert playback.at_s == 0.0


def test_a_frame_on_and_a_frame_back(playback):
    playback.go_to(5.04)
    playback.step(1)
    assert playback.at_s == pytest.approx(5.1)
    playback.step(-1)
    playback.step(-1)
    assert playback.at_s == pytest.approx(4.9)


def test_half_speed_takes_twice_as_long(playback):
    playback.set_speed(0.5)
    playback.toggle()
    playback.tick(1.0)
    assert playback.at_s == pytest.approx(0.5)


def test_it_stops_at_the_end_and_starts_over(playback):
    playback.go_to(9.9)
    playback.toggle()
    playback.tick(1.0)
    assert not playback.playing
    assert playback.at_s == pytest.approx(10.0)
    playback.toggle()
    assert playback.playing
    assert playback.at_s == 0.0


def test_a_loop_comes_round(playback):
    playback.set_loop(Span(2.0, 3.0))
    assert playback.at_s == pytest.approx(2.0)
    playback.toggle()
    playback.tick(1.3)
    assert playback.at_s == pytest.approx(2.3)


def test_standing_still_makes_no_news(playback):
    news = []
    playback.moved.connect(news.append)
    playback.go_to(3.0)
    playback.go_to(3.0)
    assert news == [3.0]


@pytest.fixture
def model(curl) -> UndoneModel:
    made = UndoneModel()
    made.open(RECORD, curl)
    return made


@pytest.fixture
def saved(model) -> list[SetNotes]:
    return model.desk.notes


def test_opening_chooses_the_worst_and_goes_to_its_moment(model):
    assert model.doc.finding.rule.name == "upper-arm-drift"
    assert model.playback.at_s == pytest.approx(model.doc.finding.at_s)
    assert model.doc.rep.number in model.doc.finding.reps


def test_both_arms_with_one_verdict_stand_once(model):
    names = [f.rule.name for f in model.doc.findings]
    assert names.count("upper-arm-drift") == 1
    assert len(model.doc.spoken_for(model.doc.finding)) == 2


def test_every_decision_is_kept_at_once_with_who_made_it(model, saved):
    model.decide(model.doc.finding, "keep")
    (decision,) = saved[-1].decisions.values()
    assert (decision.choice, decision.decided_by) == ("keep", "Marit Engel")
    assert model.doc.cue(model.doc.finding) == model.doc.finding.rule.cue


def test_deciding_the_same_again_takes_it_back(model):
    model.decide(model.doc.finding, "drop")
    model.decide(model.doc.finding, "drop")
    assert model.doc.decision(model.doc.finding) is None


def test_rewording_keeps_the_coachs_words(model):
    model.decide(model.doc.finding, "reword", "Elbows in.")
    model.decide(model.doc.finding, "keep")
    assert model.doc.cue(model.doc.finding) == "Elbows in."


def test_a_fourth_cue_is_refused_with_the_reason(model):
    said = []
    model.refused.connect(said.append)
    for finding in model.doc.findings[:4]:
        model.decide(finding, "keep")
    assert len(model.doc.kept) == 3
    assert "3 cues are enough" in said[0]


def test_undo_and_redo_walk_through_every_step(model, saved):
    first, second = model.doc.findings[:2]
    model.decide(first, "keep")
    model.decide(second, "drop")
    model.write_note("g")
    model.write_note("go")
    model.write_note("good")
    assert model.undo_words == "Note"
    model.undo()
    assert model.doc.notes.note == ""  # typing on was one step
    model.undo()
    assert model.doc.decision(second) is None
    model.redo()
    assert model.doc.decision(second).choice == "drop"
    model.undo()
    model.undo()
    assert saved[-1] == SetNotes()
    assert model.undo_words is None


def test_reps_are_stepped_and_the_worst_is_found(model):
    assert model.doc.worst_rep.number == 10
    model.choose_rep(model.doc.measured.review.reps[0])
    model.choose_rep(model.doc.stepped_rep(1))
    assert model.doc.rep.number == 2
    model.choose_rep(model.doc.stepped_rep(-1))
    model.choose_rep(model.doc.stepped_rep(-1))
    assert model.doc.rep.number == 1


def test_a_rep_is_looped_until_told_otherwise(model):
    model.choose_rep(model.doc.measured.review.reps[3])
    model.toggle_loop()
    assert model.playback.loop == Span(model.doc.rep.start_s, model.doc.rep.end_s)
    model.choose_rep(model.doc.stepped_rep(1))
    assert model.playback.loop.start_s == pytest.approx(model.doc.rep.start_s)
    model.toggle_loop()
    assert model.playback.loop is None


def test_findings_are_stepped_round(model):
    count = len(model.doc.findings)
    first = model.doc.finding
    for _ in range(count):
        model.choose_finding(model.doc.stepped_finding(1))
    assert model.doc.finding is first


def test_the_figure_turns_where_the_recording_allows_it(model, raise_from_the_front):
    before = model.doc.looking
    model.look(model.doc.turned())
    assert model.doc.looking != before
    said = []
    model.refused.connect(said.append)
    model.open(RECORD, raise_from_the_front)
    model.look(model.doc.turned())
    assert model.doc.looking == "front"
    assert "can't be turned" in said[0]


class AtOnce:
    """A program that does jobs at once."""

    def start(self, job, done, over=None):
        done(job.work.run(lambda _share: None))


def test_the_list_keeps_its_choice_while_it_is_there(monkeypatch):
    rows = tuple(
        QueueRow(i, f"c{i}", "rope-pushdown", None, "2031-01-01", False, "waiting", "none", None)
        for i in (1, 2, 3)
    )
    monkeypatch.setattr(
        set_list,
        "read_page",
        lambda _f, wanted: QueuePage(tuple(r for r in rows if wanted.words in r.client), 3),
    )
    model = set_list.SetList(AtOnce(), Path("nowhere"))  # type: ignore[arg-type]
    model.refresh()
    assert model.doc.chosen == 1
    model.choose(2)
    model.search("2")
    assert model.doc.chosen == 2
    model.search("3")
    assert model.doc.chosen == 3
    model.search("")
    assert model.doc.position(3) == (3, 3)
    assert model.doc.beside(3, -1) == 2
    assert model.doc.beside(3, 1) is None


def test_files_on_their_way_in_are_looked_into(tmp_path: Path):
    write_track(filmed("rope-pushdown", reps=1, load_kg=15.0).track, tmp_path / "cleo_1.csv")
    (tmp_path / "broken.csv").write_text("time_s\n")
    (tmp_path / "notes.txt").write_text("no track")
    good, bad = inspect_files(
        [tmp_path], [ClientName("Ada Quill"), ClientName("Cleo Marsh")], Catalogue()
    )
    assert [(g.client, g.proposed, g.standard, g.load_kg) for g in good] == [
        ("", "Cleo Marsh", "rope-pushdown", 15.0)
    ]
    assert [b.name for b in bad] == ["broken.csv"]
    assert "landmark-track" in bad[0].why


def test_a_movement_without_a_name_is_recognised(tmp_path: Path):
    track = filmed("preacher-curl", reps=3, noise=0.004).track
    write_track(changed(track, facts=changed(track.facts, standard=None)), tmp_path / "a.csv")
    shares: list[float] = []
    (found,), _bad = inspect_files([tmp_path], [], Catalogue(), shares.append)
    assert found.standard is None
    assert found.fits is not None
    assert found.fits.ids[0] == "preacher-curl"
    assert found.fits.sure
    assert len(found.fits.ids) > 2
    assert "better than in" in found.fits.reason
    assert shares == [0.0]
