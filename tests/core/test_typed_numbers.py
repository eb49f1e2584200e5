"""Numbers as people type them: comma and point mean the same in every field, whatever the
language."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from guide_arc.core.model.errors import BadInput
from guide_arc.core.model.typed_number import number_from, understood, with_points


@pytest.mark.parametrize(
    ("typed", "unit", "number"),
    [
        ("2.20", "m", 2.2),
        ("2,20 m", "m", 2.2),
        ("12.5°", "°", 12.5),
        ("12,5°", "°", 12.5),
        ("27,5kg", "kg", 27.5),
        ("1.250", "kg", 1.25),
        ("1,250", "kg", 1.25),
        ("1.234,5", "", 1234.5),
        ("1,234.5", "", 1234.5),
        ("1.234.567", "", 1234567.0),
        ("\u22123,5", "", -3.5),
        ("+4", "", 4.0),
        (",5", "", 0.5),
        ("5,", "", 5.0),
        ("1\u202f234,5", "", 1234.5),
        ("1'234.5", "", 1234.5),
    ],
)
def test_a_number_is_read_as_it_is_meant(typed: str, unit: str, number: float):
    assert number_from(typed, unit) == pytest.approx(number)


@pytest.mark.parametrize(
    "typed", ["", "kg", "fast", "1e3", "nan", "inf", "2 to 3", "..", "--3", "1-2", "٣kg x"]
)
def test_what_is_no_number_is_said(typed: str):
    with pytest.raises(BadInput, match="not a number"):
        number_from(typed, "kg")


@given(st.decimals(-99999, 99999, places=3))
def test_point_and_comma_are_the_same(number):
    text = f"{number:.3f}"
    assert number_from(text) == number_from(text.replace(".", ",")) == float(number)


def test_lists_and_ranges_keep_their_parts():
    assert with_points("2,5, 10") == "2.5, 10"
    assert with_points("10,20,30") == "10, 20, 30"
    assert with_points("2,5 to 30 by 2,5") == "2.5 to 30 by 2.5"
    assert with_points("12,5 kg, 1,5 m") == "12.5 kg, 1.5 m"


def test_what_could_be_read_in_two_ways_is_shown():
    assert understood("27,5") == ""
    assert understood("1,250") == "1.25"
    assert understood("1.234,5") == "1234.5"
    assert understood("10,20,30") == "10, 20, 30"
