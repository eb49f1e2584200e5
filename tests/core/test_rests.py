"""Real rests, worked by hand from start times."""

from __future__ import annotations

import pytest

from guide_arc.core.planning.kept_set import KeptSet, SetTrace
from guide_arc.core.planning.rests import rest_words, rests_of


def one(at: str, start_s: float = 2.0, length_s: float = 30.0) -> KeptSet:
    trace = SetTrace("none", "deg", (), (), None, None, None, length_s, start_s, length_s)
    return KeptSet(1, "standing-barbell-curl", "locked-upper-arm", at, 30.0, trace)


def test_a_rest_runs_from_the_last_lower_to_the_next_first_lift():
    # 18:20:00 + 2 s + 30 s ends at 18:20:32; the next first lift is at 18:22:22.
    (rest,) = rests_of([one("2031-03-24T18:20:00"), one("2031-03-24T18:22:20")], 90.0)
    assert rest.seconds == pytest.approx(110.0)
    assert rest.off_s == pytest.approx(20.0)
    assert (
        rest_words([rest])
        == "Rest the last time: 1:50 min where 1:30 min was asked; the longest was 20 s longer."
    )


def test_a_start_to_the_minute_tells_less():
    sets = [one("2031-03-24T18:20"), one("2031-03-24T18:22")]
    (rest,) = rests_of(sets, 120.0)
    assert rest.off_s == 0.0  # 90 s against 120 s, a minute of doubt
    assert "about 1:30 min" in rest_words([rest])
    assert "as far as the start times tell" in rest_words([rest])
    (short,) = rests_of(sets, 240.0)
    assert "2:30 min too short" in rest_words([short])


@pytest.mark.parametrize(
    "at",
    [
        ("2031-03-24", "2031-03-24"),  # no time of day
        ("2031-03-24T18:20", "2031-03-25T18:22"),  # other days
        ("2031-03-24T18:20", "2031-03-24T19:20"),  # another session
        ("2031-03-24T18:20:00", "2031-03-24T18:20:10"),  # one recording within the other
        ("the 24th", "2031-03-24T18:22"),
    ],
)
def test_where_no_rest_can_be_told_none_is_said(at: tuple[str, str]):
    assert rests_of([one(a) for a in at], 90.0) == ()
    assert rest_words(()) == ""


def test_the_last_day_with_a_rest_counts():
    sets = [
        one("2031-03-20T18:00:00"),
        one("2031-03-20T18:02:00"),
        one("2031-03-24T18:00:00"),
        one("2031-03-24T18:02:30"),
        one("2031-03-24T18:05:00"),
        one("2031-03-27T18:00:00"),
    ]
    assert [round(r.seconds) for r in rests_of(sets, 90.0)] == [120, 120]
