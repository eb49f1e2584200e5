"""What the places say of a library in which nothing is yet."""

from __future__ import annotations

import pytest


@pytest.mark.parametrize(
    ("place", "words"), [("clients", "No client yet"), ("plan", "nothing to plan")]
)
def test_an_empty_library_says_how_it_begins(open_window, place: str, words: str) -> None:
    window = open_window()
    window.do(f"go.{place}")
    assert words in window.of(place).empty.text()
