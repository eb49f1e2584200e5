"""Who is meant: several people in view, told apart and followed, by a model that gives whoever it
finds."""

from __future__ import annotations

from dataclasses import dataclass, field

import numpy as np
import pytest

from guide_arc.capture.tracking.people import Person, clearly_meant, people_in
from guide_arc.capture.tracking.person import TRUNK, FollowedPerson, box_of
from guide_arc.capture.tracking.pose_process import POINTS, How, Landmarks
from guide_arc.capture.video.frames import Picture

WIDE, HIGH = 480, 270
RED, BLUE, GREEN = (200, 40, 40), (40, 60, 200), (40, 180, 60)
# The model's landmarks by their height on a body, head to feet.
_UP = {0: 0.0, 11: 0.2, 12: 0.2, 23: 0.55, 24: 0.55, 25: 0.77, 26: 0.77, 27: 1.0, 28: 1.0}


def _paint(picture: Picture, x: float, y: float, tall: float, colour: tuple[int, int, int]) -> None:
    """A body as a post of one colour, head at (x, y)."""
    half = 0.14 * tall
    a, b = max(0, round(x - half)), max(0, round(x + half))
    picture[max(0, round(y)) : max(0, round(y + tall)), a:b] = colour


def _scene(*people: tuple[float, float, float, tuple[int, int, int]]) -> Picture:
    picture = np.full((HIGH, WIDE, 3), 127, np.uint8)
    for one in people:
        _paint(picture, *one)
    return picture


@dataclass
class Stub:
    """A model of posts: it finds the one with the most pixels, or goes on with the nearest one."""

    hows: list[How] = field(default_factory=list)
    last: float | None = None

    def landmarks(self, picture: Picture, how: How) -> Landmarks:
        self.hows.append(how)
        found = np.full((POINTS, 3), np.nan)
        posts = []
        for colour in (RED, BLUE, GREEN):
            y, x = np.nonzero((picture == colour).all(axis=2))
            if len(x) > 60:
                posts.append(
                    (len(x), float(x.min() + x.max()) / 2, float(np.ptp(x)), y.min(), y.max())
                )
        if not posts:
            return found
        near = self.last if how == "on" else None
        post = max(posts) if near is None else min(posts, key=lambda p: abs(p[1] - near))
        _, middle, wide, top, low = post
        if how != "alone":
            self.last = middle
        found[:] = (middle, top, 0.1)
        for i, up in _UP.items():
            side = 0.0 if i == 0 else (0.4 if i % 2 else -0.4)
            found[i] = (middle + side * wide, top + up * (low - top), 0.95)
        return found


def test_everybody_who_stays_in_view_is_found_the_largest_first() -> None:
    frames = [
        (i, _scene((100, 40, 200, RED), (330, 90, 130, BLUE), (20 + 90 * i, 60, 150, GREEN)))
        for i in range(0, 5, 2)
    ]
    people = people_in(frames, Stub())
    assert len(people) == 2  # who walks by is seen somewhere else each time
    assert people[0].tall > people[1].tall
    assert people[0].box[0] < 100 < people[0].box[2]
    assert not clearly_meant(people)


def test_one_who_is_much_larger_needs_no_question() -> None:
    near = Person(0, (0.0, 0.0, 80.0, 400.0))
    far = Person(0, (200.0, 90.0, 240.0, 200.0))
    assert clearly_meant((near, far))
    assert clearly_meant((near,))
    assert not clearly_meant((near, Person(0, (200.0, 0.0, 280.0, 390.0))))


def test_nobody_is_found_in_an_empty_room() -> None:
    assert people_in([(0, _scene())], Stub()) == ()


def _followed(scenes: list[Picture], box: tuple[float, float, float, float] | None) -> np.ndarray:
    """(F,) where the trunk of the person meant was found, along x."""
    person = FollowedPerson(Stub(), box)
    return np.array([person.see(s)[list(TRUNK), 0].mean() for s in scenes])


def test_the_smaller_of_two_is_followed_by_a_box() -> None:
    scenes = [_scene((100, 20, 220, RED), (330 + i, 90, 140, BLUE)) for i in range(30)]
    x = _followed(scenes, (290.0, 70.0, 380.0, 240.0))
    assert x == pytest.approx([330 + i for i in range(30)], abs=2.0)


def test_the_box_moves_along_with_who_walks_through_the_picture() -> None:
    scenes = [_scene((40, 30, 210, RED), (130 + 5 * i, 110, 120, BLUE)) for i in range(60)]
    x = _followed(scenes, (100.0, 90.0, 160.0, 240.0))
    assert np.isfinite(x).mean() > 0.9
    told = np.isfinite(x)
    assert x[told] == pytest.approx((130 + 5 * np.arange(60))[told], abs=3.0)


def test_somebody_who_walks_in_front_is_never_taken_for_the_person() -> None:
    """A walker in other clothes hides the person, stays a while, and goes on."""
    at = [min(-60 + 12 * i, 240) for i in range(60)] + [240 + 12 * i for i in range(30)]
    scenes = [_scene((240, 70, 150, BLUE), (x, 20, 240, RED)) for x in at]
    x = _followed(scenes, (200.0, 50.0, 280.0, 240.0))
    told = np.isfinite(x)
    hidden = np.abs(np.array(at) - 240) < 15  # the walker is broader: nothing of them shows
    assert not told[hidden].any()  # said as not seen
    assert x[told] == pytest.approx(np.full(told.sum(), 240.0), abs=25.0)
    assert told[-5:].all()  # and found again


def test_a_second_person_without_the_first_is_not_seen_as_them() -> None:
    scenes = [_scene((120, 60, 160, BLUE)) for _ in range(20)] + [_scene((400, 60, 160, RED))] * 40
    x = _followed(scenes, None)
    assert np.isfinite(x[:20]).all()
    assert np.isnan(x[20:]).all()


def test_too_little_of_a_body_is_nobody() -> None:
    found = np.full((POINTS, 3), 0.1)
    assert box_of(found) is None
    assert box_of(np.full((POINTS, 3), np.nan)) is None
