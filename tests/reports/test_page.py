"""The page for the client: one sheet, plain words, nothing that needs another file."""

from __future__ import annotations

import re
from pathlib import Path
from typing import Any
from xml.etree import ElementTree

import pytest
from pypdf import PdfReader

from builders import measured_set, slow
from guide_arc.core.mechanics.kit import Cable
from guide_arc.core.review.praise import praise_of
from guide_arc.drawings.palette import PAGE
from guide_arc.drawings.shapes import Area, Disc, Drawing, MarkShape, Stroke, Words
from guide_arc.library.records import Decision, SetNotes, SetRecord
from guide_arc.library.setups import KeptSetup
from guide_arc.reports.page import chosen_cues, page_html, reps_words, write_page  # type: ignore[attr-defined]
from guide_arc.reports.svg import svg


def record(**more: Any) -> SetRecord:
    given = {
        "id": 1,
        "client": "Benno Hartz",
        "standard": "standing-barbell-curl",
        "school": "locked-upper-arm",
        "tempo": None,
        "load_kg": 40.0,
        "recorded": "2031-03-24T18:40",
        "source_name": "b.csv",
        "track_hash": "0",
        "frames": 100,
        "duration_s": 30.0,
        "view": "none",
        "notes": SetNotes(),
        **more,
    }
    return SetRecord(**given)


@pytest.fixture(scope="module")
def faulty():
    return measured_set(
        "standing-barbell-curl",
        reps=6,
        load_kg=40.0,
        faults={
            "torso-swing": 20.0,
            "range-short": 35.0,
            "too-fast-lower": 0.8,
            "upper-arm-drift": 30.0,
        },
    )


def plain(html: str) -> str:
    body = re.sub(r"<style>.*?</style>", " ", html, flags=re.S)
    return re.sub(r"\s+", " ", re.sub(r"<[^>]+>", " ", body))


def test_the_page_says_who_what_and_when(faulty):
    words = plain(page_html(record(), faulty, SetNotes(), "Marit Engel"))
    for part in (
        "Benno Hartz",
        "Standing barbell curl",
        "40 kg",
        "6 reps",
        "24 Mar 2031",
        "Marit Engel",
    ):
        assert part in words


def test_what_the_coach_kept_is_on_it_in_the_coachs_words(faulty):
    swing = next(f for f in faulty.review.findings if f.rule.name == "torso-swing")
    drift = next(
        f for f in faulty.review.findings if f.rule.name == "upper-arm-drift" and f.verdict == "off"
    )
    notes = SetNotes(
        {
            swing.key: Decision("reword", "Stand like a tree."),
            drift.key: Decision("drop"),
        },
        "See you on Monday <3",
    )
    words = plain(page_html(record(), faulty, notes, "Marit Engel"))
    assert "Stand like a tree." in words
    assert drift.rule.cue not in words
    assert "One thing to change" in words
    assert "See you on Monday &lt;3" in words


def test_before_any_decision_the_worst_three_are_proposed(faulty):
    cues = chosen_cues(faulty.review, SetNotes())
    assert len(cues) == 3
    assert cues[0].rule.name == "torso-swing"


def test_each_cue_has_its_number_and_a_drawn_picture(faulty):
    html = page_html(record(), faulty, SetNotes(), "Marit Engel")
    words = plain(html)
    assert re.search(r"Torso swings (19|20|21)° \(± 1°; up to 9° is fine\), reps 1–6", words)
    assert html.count('class="pose"') == 3
    for picture in re.findall(r"<svg.*?</svg>", html, flags=re.S):
        ElementTree.fromstring(picture)


def test_the_usual_cautions_and_what_is_next_stand_on_it(faulty):
    words = plain(page_html(record(), faulty, SetNotes(), "Marit Engel"))
    assert "Pain is not a training signal" in words
    assert "diagnoses nothing" in words
    assert "Start light" in words
    assert "Next time: 37.5 kg" in words


def test_a_clean_set_is_praised_and_not_corrected(curl):
    clean = measured_set("rope-pushdown", reps=5)
    words = plain(page_html(record(), clean, SetNotes(), "Marit Engel"))
    assert "Nothing to change" in words
    assert clean.review.standard.praise[0].words in words
    assert len(praise_of(clean.review)) == 3
    assert "Your upper arms stayed where they should." not in {
        p.words for p in praise_of(curl.review)
    }


def test_reps_in_words(front_raise_alternating):
    assert reps_words(front_raise_alternating.review) == "4 reps left and 4 right"
    short = measured_set("lateral-raise-dumbbell", reps=3, partial=2)
    assert reps_words(short.review) == "3 full reps and 2 short"


def test_pdf_and_html_are_written_and_the_pdf_is_one_page_of_selectable_text(
    faulty, tmp_path: Path
):
    target = write_page(tmp_path / "page.pdf", record(), faulty, SetNotes(), "Marit Engel")
    assert sorted(p.name for p in tmp_path.iterdir()) == ["page.html", "page.pdf"]
    reader = PdfReader(target)
    assert len(reader.pages) == 1
    text = reader.pages[0].extract_text()
    assert "Benno Hartz" in text
    assert "Next time: 37.5 kg" in text
    html = (tmp_path / "page.html").read_text()
    assert not re.search(r'(src|href)="(?!data:)', html)
    assert "http" not in html.replace("http://www.w3.org/2000/svg", "")


@slow
@pytest.mark.parametrize(
    "name", ["Wilhelmina Featherstonehaugh-Montgomery of Upper Lanternshire", "李"]
)
def test_the_longest_and_the_shortest_name_stay_on_one_page(faulty, tmp_path: Path, name):
    notes = SetNotes(note="A long note. " * 28)
    target = write_page(tmp_path / "page.pdf", record(client=name), faulty, notes, name)
    assert len(PdfReader(target).pages) == 1


@slow
def test_the_kept_setup_is_drawn_with_its_words_and_stays_away_where_pain_stops(
    faulty, tmp_path: Path
):
    kit = Cable(20.0, {"left": (0.3, 0.4, 0.6), "right": (-0.3, 0.4, 0.6)})
    setup = KeptSetup(1, "low and near", "hole 4, two shoes out", kit, None)
    html = page_html(record(), faulty, SetNotes(), "Marit Engel", setup=setup)
    assert "Your setup: low and near" in plain(html)
    assert "hole 4, two shoes out" in plain(html)
    assert 'aria-label="Your setup: hole 4, two shoes out"' in html
    target = write_page(tmp_path / "p.pdf", record(), faulty, SetNotes(), "Marit Engel", setup)
    assert len(PdfReader(target).pages) == 1
    stopped = page_html(record(), faulty, SetNotes(pain=True), "Marit Engel", setup=setup)
    assert "Your setup" not in stopped
    assert "Your setup" not in page_html(record(), faulty, SetNotes(), "Marit Engel")


def test_every_kind_of_item_becomes_svg():
    import numpy as np

    drawing = Drawing(50, 40)
    line = np.array([[0.0, 0.0], [10.0, 10.0], [np.nan, 1.0]])
    drawing.add(
        Stroke(line, "ink", 3, dash=True),
        Area(line, "off", outline="ink"),
        Disc(5, 5, 2, fill="guide", outline="ink"),
        Words(1, 1, "a < b & c", bold=True),
        *(MarkShape(9, 9, v) for v in ("ok", "near", "off", "cannot-tell")),
    )
    root = ElementTree.fromstring(svg(drawing, PAGE, 'say "hi"'))
    assert root.get("aria-label") == 'say "hi"'
    assert "nan" not in svg(drawing, PAGE, "x")
    assert [t.text for t in root.iter("{http://www.w3.org/2000/svg}text")] == ["a < b & c"]


def test_with_pain_the_first_line_says_stop_and_nothing_is_prescribed(faulty):
    words = plain(page_html(record(), faulty, SetNotes(pain=True), "Marit Engel")).strip()
    assert words.partition("24 Mar 2031 ")[2].startswith("Stop this exercise, and see a licensed")
    assert "Next time: ask first" in words
    after = words.partition("Next time:")[2].partition("Take care")[0]
    assert "kg" not in after
    assert "Tempo" not in after


def test_what_could_not_be_judged_is_not_called_within_its_limit():
    shown = measured_set("lateral-raise-dumbbell", reps=5, view="front")
    words = plain(page_html(record(), shown, SetNotes(), "Marit Engel"))
    assert "Every check was within its limit" not in words
    assert "Could not be judged: " in words
    assert "torso swings" in words
