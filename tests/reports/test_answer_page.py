"""The client's page asks, in a real browser of a phone's size, with touches and without a
network."""

from __future__ import annotations

import json
from collections.abc import Iterator
from dataclasses import replace
from html import unescape
from pathlib import Path

import pytest
from pypdf import PdfReader

from browser import Browser, needs_browser
from builders import measured_set, slow
from guide_arc.drawings.shown_set import ShownSet
from guide_arc.formats.answer_json import read_answer
from guide_arc.library.answers import PageKey
from guide_arc.library.records import SetNotes, SetRecord
from guide_arc.reports.answer_form import BODIES
from guide_arc.reports.page import page_html, write_page

KEY = PageKey("ab" * 16, "cd" * 16)
RECORD = SetRecord(
    id=1,
    client="Ada Quill",
    standard="standing-barbell-curl",
    school="locked-upper-arm",
    tempo=None,
    load_kg=20.0,
    recorded="2031-02-03T18:40",
    source_name="a.csv",
    track_hash="0",
    frames=100,
    duration_s=30.0,
    view="none",
    notes=SetNotes(),
)
FILE = "answer-standing-barbell-curl-2031-02-03.json"


@pytest.fixture(scope="module")
def curls() -> ShownSet:
    return measured_set("standing-barbell-curl", reps=3, load_kg=20.0)


@pytest.fixture(scope="module")
def html(curls: ShownSet) -> str:
    return page_html(RECORD, curls, SetNotes(), "Marit Engel", answer=KEY)


@pytest.fixture
def browser(tmp_path: Path) -> Iterator[Browser]:
    opened = Browser(tmp_path)
    yield opened
    opened.close()


@pytest.fixture
def page(browser: Browser, html: str, tmp_path: Path) -> Browser:
    (tmp_path / "page.html").write_text(html)
    browser.open(tmp_path / "page.html")
    return browser


def place(name: str) -> str:
    return f'.place[data-name="{name}"]'


def saved(page: Browser):
    page.tap("#save")
    return read_answer(page.downloaded(FILE))


def test_a_page_without_a_key_asks_nothing(curls: ShownSet) -> None:
    html = page_html(RECORD, curls, SetNotes(), "Marit Engel")
    assert "<form" not in html
    assert "<script" not in html


def test_the_page_is_one_small_file_and_its_pdf_asks_nothing(curls: ShownSet, tmp_path: Path):
    target = write_page(tmp_path / "p.pdf", RECORD, curls, SetNotes(), "Marit Engel", answer=KEY)
    assert target.with_suffix(".html").stat().st_size < 1_000_000
    assert KEY.token in target.with_suffix(".html").read_text()
    words = PdfReader(target).pages[0].extract_text()
    assert "Did anything hurt" not in words
    assert "default-src 'none'" in unescape(target.with_suffix(".html").read_text())


def test_every_place_is_on_both_sides_or_in_the_middle():
    for title, _outline, spots in BODIES:
        names = [s.name for s in spots]
        assert len(set(names)) == len(names)
        for s in spots:
            if s.name.startswith("left "):
                other = next(o for o in spots if o.name == s.name.replace("left", "right", 1))
                assert (other.x, other.y) == (200.0 - s.x, s.y)
                # Seen from the front, the left side is to the right.
                assert (s.x > 100.0) == (title == "Front"), s.name


@needs_browser
@slow
def test_an_answer_by_touch_is_saved_as_a_file(page: Browser):
    page.tap(place("left biceps"))
    page.tap(place("right biceps"))
    page.tap(place("left elbow"))
    page.tap(place("left elbow"))
    page.tap("select[name=left]")
    page.run("document.querySelector('select[name=left]').value = '2'")
    page.type("input[name=sleep]", "6,5")
    page.type(".done input", "22,5")
    page.type(".done label:nth-child(2) input", "12")
    page.tap("#more")
    page.type(".done:nth-child(2) label:nth-child(2) input", "9")
    page.type("textarea[name=words]", "Etwas müde — “ok” <b>")
    got = saved(page)
    assert got.is_intact(KEY.key)
    assert got.page == KEY.token
    assert got.felt == ("biceps",)
    assert got.hurt == ("left elbow",)
    assert got.in_reserve == 2
    assert got.sleep_h == 6.5
    assert [(s.load_kg, s.reps) for s in got.sets] == [(22.5, 12), (None, 9)]
    assert got.words == "Etwas müde — “ok” <b>"
    assert page.said() == []  # nothing was refused by the policy, and nothing failed


@needs_browser
@slow
def test_a_third_tap_takes_a_mark_away_and_keys_mark_as_well(page: Browser):
    for _ in range(3):
        page.tap(place("neck"))
    page.run(
        "const p = document.querySelector(arguments[0]); p.focus();"
        "p.dispatchEvent(new KeyboardEvent('keydown', {key: 'Enter', bubbles: true}))",
        place("belly"),
    )
    assert page.run("return document.getElementById('marked').textContent") == "Felt: belly."
    page.tap("input[value=no]")
    got = saved(page)
    assert (got.felt, got.hurt) == (("abdominals",), ())


@needs_browser
@slow
def test_what_can_not_be_right_is_said_before_anything_is_saved(page: Browser, tmp_path: Path):
    def state() -> str:
        page.tap("#save")
        return page.run("return document.getElementById('state').textContent")

    assert state() == "Please say whether anything hurt."
    page.tap("input[value=yes]")
    page.type(".done input", "22.5")
    assert state() == "Please add the reps to the weight."
    page.type(".done label:nth-child(2) input", "1.5")
    assert state() == "Reps are whole numbers, such as 12."
    assert not (tmp_path / FILE).exists()
    page.run("document.querySelectorAll('.done input').forEach((i) => { i.value = '' })")
    got = saved(page)
    assert got.hurt == ("a place not named",)


@needs_browser
@slow
def test_the_code_to_copy_is_the_same_answer(page: Browser):
    page.tap("input[value=no]")
    page.tap(place("chest"))
    page.tap("#copy")
    code = page.run("return document.getElementById('code').value")
    got = read_answer(f"Hi Marit\n{code}")
    assert got.is_intact(KEY.key)
    assert got.felt == ("chest",)
    assert saved(page).felt == got.felt


@needs_browser
@slow
def test_the_page_reaches_nothing(page: Browser):
    made = page.run(
        "return fetch('https://example.invalid/').then(() => 'reached', () => 'refused')"
    )
    assert made == "refused"
    assert any("Content Security Policy" in line for line in page.said())


@needs_browser
@slow
@pytest.mark.parametrize("size", [(320, 568), (390, 844), (768, 1024)])
@pytest.mark.parametrize("dark", [False, True], ids=["light", "dark"])
def test_the_form_fits_a_phone(html: str, tmp_path: Path, size: tuple[int, int], dark: bool):
    (tmp_path / "page.html").write_text(html)
    phone = Browser(tmp_path, *size, dark=dark)
    try:
        phone.open(tmp_path / "page.html")
        assert phone.run("return document.documentElement.scrollWidth") <= size[0]
        low = phone.run(
            "return [...document.querySelectorAll('#answer button:not([hidden]), #answer select,"
            " #answer input:not([type=radio])')].map((b) => b.getBoundingClientRect().height)"
        )
        assert min(low) >= 40.0  # a finger's width
        colours = phone.run(
            "const s = getComputedStyle(document.querySelector('#answer'));"
            "return [getComputedStyle(document.body).backgroundColor, s.color]"
        )
        assert colours[0] == "rgb(255, 255, 255)"
        assert colours[1] != colours[0]
    finally:
        phone.close()


@needs_browser
@slow
def test_answers_match_the_check_sum_for_texts_of_every_length(page: Browser):
    """The page's own SHA-256 against Python's, around the ends of its blocks."""
    page.tap("input[value=no]")
    for count in (0, 1, 3, 20, 30, 31, 32, 33, 40, 64, 65, 200, 1999):
        page.run("document.querySelector('textarea[name=words]').value = arguments[0]", "ä" * count)
        page.tap("#copy")
        got = read_answer(page.run("return document.getElementById('code').value"))
        assert got.is_intact(KEY.key), count
        assert len(json.loads(got.body)["words"]) == count


def test_a_stopped_set_can_be_answered_too(curls: ShownSet):
    html = page_html(
        replace(RECORD, client="<b>Ada</b>"), curls, SetNotes(pain=True), "M", answer=KEY
    )
    assert "Did anything hurt?" in html
    assert "<b>Ada</b>" not in html
