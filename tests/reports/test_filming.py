"""How to film: the advice is true of what the camera sees, and reaches paper, page, export, session
and window."""

from __future__ import annotations

from pathlib import Path

import numpy as np
import pytest
from pypdf import PdfReader

from builders import reviewed, slow, some_of
from guide_arc.cli.main import run
from guide_arc.library.store import Library
from guide_arc.reports.client_folder import write_client_folder
from guide_arc.reports.filming import filming_html
from guide_arc.standards.filming import filming_plan
from guide_arc.standards.loader import shipped, standard
from guide_arc.standards.proof import cycle_of

# The way from the body to the phone, and the picture's left-to-right, in world axes.
AXES = {"front": (2, 1.0, 0), "back": (2, -1.0, 0), "left": (0, 1.0, 2), "right": (0, -1.0, 2)}
HALF_LONG, HALF_SHORT = np.tan(np.radians(32.5)), np.tan(np.radians(19.75))


@pytest.mark.parametrize("id", shipped())
def test_a_phone_that_stands_as_told_has_the_whole_movement_in_its_picture(id):
    filming = filming_plan(standard(id))
    cycle = cycle_of(standard(id))
    for place in filter(None, (filming.first, filming.second)):
        towards, sign, across = AXES[place.view]
        spots = np.concatenate([p for n, p in cycle.points.items() if "pulley" not in n])
        middle = 0.5 * (spots[:, across].min() + spots[:, across].max())
        centre = 0.5 * (spots[:, towards].min() + spots[:, towards].max())
        depth = place.distance_m - sign * (spots[:, towards] - centre)
        beside = np.abs(spots[:, across] - middle) / depth
        # Tilted to the middle of the body, the phone keeps about so much over and under the level
        # of its lens.
        above = (spots[:, 1] - place.height_m) / depth
        tall = above.max() - above.min()
        half = (HALF_SHORT, HALF_LONG) if place.upright else (HALF_LONG, HALF_SHORT)
        assert beside.max() < half[0]
        assert tall < 2.0 * half[1]
        assert 2.5 <= place.distance_m <= 4.5
        assert 0.4 <= place.height_m <= 1.6


@pytest.mark.parametrize("id", some_of(list(shipped())))
def test_what_the_sheet_says_a_phone_shows_is_judged_in_another_clients_set(id):
    filming = filming_plan(standard(id))
    for place in filter(None, (filming.first, filming.second)):
        review, _truth = reviewed(id, reps=6, view=place.view, noise=1.0, seed=77, stature_m=1.83)
        # Of a body seen from one side the other arm is a recording of its own.
        told = {f.rule.name for f in review.findings if f.verdict != "cannot-tell"}
        missed = set(place.shows) - told
        assert len(missed) <= max(1, len(place.shows) // 8), missed


def test_a_second_view_only_adds_what_the_first_hides():
    lateral = filming_plan(standard("lateral-raise-dumbbell"))
    assert (lateral.first.view, lateral.second and lateral.second.view) == ("front", "left")
    assert lateral.second is not None
    assert set(lateral.second.adds).isdisjoint(lateral.first.shows)
    assert "torso-swing" in lateral.second.adds
    assert filming_plan(standard("neutral-curl-one-arm")).second is None


def test_the_sheet_stands_alone_and_two_exercises_fill_a_page(tmp_path: Path, capsys):
    html = filming_html([standard("standing-barbell-curl"), standard("lateral-raise-dumbbell")])
    assert "http" not in html.replace("http://www.w3.org/2000/svg", "")
    for words in ("Standing barbell curl", "2.5 m away", "elbow height", "torso swings"):
        assert words in html
    out = tmp_path / "film.pdf"
    ids = ["standing-barbell-curl", "lateral-raise-dumbbell", "flat-bench-press"]
    assert run(["filming", str(out), *(w for id in ids for w in ("--standard", id))]) == 0
    pages = [page.extract_text() for page in PdfReader(out).pages]
    assert len(pages) == 2
    assert "Standing barbell curl" in pages[0]
    assert "Dumbbell lateral raise" in pages[0]
    assert "For every exercise" in pages[1]
    assert "3 exercises" in capsys.readouterr().out


def test_what_can_not_be_written_is_one_line(tmp_path: Path, capsys):
    assert run(["filming", str(tmp_path / "film.docx")]) == 2
    assert run(["filming", str(tmp_path / "f.html"), "--standard", "standing-barbel-curl"]) == 2
    told = capsys.readouterr().err.splitlines()
    assert len(told) == 2
    assert "standing-barbell-curl" in told[1]


def test_a_clients_export_says_how_to_film_what_they_do_and_comes_in_again(
    library: Library, add_set, tmp_path: Path
):
    add_set("Cleo Marsh", reps=3)
    add_set("Benno Hartz", "lateral-raise-dumbbell", reps=3)
    assert write_client_folder(library, "Cleo Marsh", tmp_path, lambda _s: None) == 1
    folder = tmp_path / "Cleo Marsh"
    assert (folder / "how-to-film.pdf").read_bytes().startswith(b"%PDF")
    html = (folder / "how-to-film.html").read_text()
    assert "Standing barbell curl" in html
    assert "lateral raise" not in html
    assert run(["import", str(folder), "--library", str(tmp_path / "other")]) == 0
    other = Library.open(tmp_path / "other")
    assert [row.client for row in other.queue()] == ["Cleo Marsh"]
    other.close()


@slow
def test_the_window_writes_the_sheet_of_the_chosen_exercise(open_window, tmp_path: Path):
    window = open_window()
    window.do("go.standards")
    window.standards.show(window.standards.doc.choosing("lateral-raise-dumbbell"))
    assert window.can("standards.film")
    window.standards_place.files.write_filming(tmp_path / "film.html")
    window.settle()
    assert "Saved film.html" in window.said
    assert "Dumbbell lateral raise" in (tmp_path / "film.html").read_text()
