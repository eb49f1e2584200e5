"""Whose set a file is: certain by whole words of a full name or an agreed word, otherwise a
proposal to be asked about."""

from __future__ import annotations

from pathlib import Path

import pytest

from builders import filmed
from guide_arc.core.model.client import Client
from guide_arc.formats.track_csv import csv_text
from guide_arc.library.attribution import Attribution, ClientName, attribution, token_of
from guide_arc.library.clients import Clients
from guide_arc.library.intake import Known, inspect_files, said_by_itself
from guide_arc.library.own_standards import OwnStandards
from guide_arc.library.store import Library

CLIENTS = [
    ClientName("Al"),
    ClientName("Ada Quill", ("aq",)),
    ClientName("Cleo Marsh"),
    ClientName("Ünal Đỗ Reyes"),
]


@pytest.mark.parametrize(
    ("file", "client", "proposed"),
    [
        ("alice-curl.csv", "", ""),  # a part of a word is no name
        ("al_2031-04-01.csv", "Al", "Al"),
        ("AL.mp4", "Al", "Al"),
        ("ada-quill_rope-pushdown_left.mp4", "Ada Quill", "Ada Quill"),
        ("AdaQuill 0401.mov", "Ada Quill", "Ada Quill"),
        ("quill, ada.csv", "Ada Quill", "Ada Quill"),
        ("ada.csv", "", "Ada Quill"),  # a first name alone is asked about
        ("2031-04-01 AQ.csv", "Ada Quill", "Ada Quill"),  # agreed on
        ("aquarium.csv", "", ""),
        ("adaquill.csv", "", ""),
        ("unal do reyes.csv", "", "Ünal Đỗ Reyes"),  # đ is a letter of its own
        ("unal-reyes.csv", "", "Ünal Đỗ Reyes"),
        ("ada-and-cleo.csv", "", ""),  # two people: nobody is proposed
        ("ada-quill-and-al.csv", "", "Ada Quill"),
        ("IMG_0412.MOV", "", ""),
    ],
)
def test_whose_a_file_is(file: str, client: str, proposed: str):
    assert attribution(file, CLIENTS) == Attribution(client, proposed)


def test_the_only_client_there_is_gets_nothing_unasked():
    assert attribution("somebody.csv", [ClientName("Ada Quill")]) == Attribution()


def test_a_client_named_like_an_exercise_is_not_named_by_it():
    assert attribution("front-raise-midline-left.mp4", [ClientName("Front")]).client == ""


def test_a_name_within_another_one_is_asked_about():
    two = [ClientName("Cleo"), ClientName("Cleo Marsh")]
    assert attribution("cleo-marsh.csv", two) == Attribution("", "Cleo Marsh")


def test_the_word_that_could_be_agreed_on():
    assert token_of("VID_20310401_zippy_curl.mp4", CLIENTS, "") == "zippy"
    assert token_of("ada-zippy.csv", CLIENTS, "Cleo Marsh") == "zippy"  # ada is somebody else's
    assert token_of("IMG_0412.MOV", CLIENTS, "") == ""


def test_an_uncertain_file_waits_although_it_says_all_else(library: Library, tmp_path: Path):
    Clients(library).keep(Client("Al Vane"))
    names = library.client_names()
    catalogue = OwnStandards(library).catalogue()
    data = csv_text(filmed("rope-pushdown", reps=1).track)
    for name in ("alice.csv", "al.csv", "al-vane.csv"):
        (tmp_path / name).write_text(data)
    good, _bad = inspect_files(
        [tmp_path / n for n in ("alice.csv", "al.csv", "al-vane.csv")], names, catalogue
    )
    known = Known([n.name for n in names], catalogue, (), tuple(names))
    found = {item.name: said_by_itself(item, known) for item in good}
    assert found["alice.csv"] is None
    assert found["al.csv"] is None
    assert found["al-vane.csv"] is not None
    Clients(library).keep(Client("Al Vane", file_words=("al",)))
    (item,), _bad = inspect_files([tmp_path / "al.csv"], library.client_names(), catalogue)
    assert item.client == "Al Vane"
