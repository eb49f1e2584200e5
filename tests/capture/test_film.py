"""The simulated camera's film shows what its truth says."""

from __future__ import annotations

import json
from pathlib import Path

import numpy as np
import pytest

from builders import slow
from clips import SmallFilm, small_film
from guide_arc.capture.film.film import Filming, camera_moves, film, performed
from guide_arc.capture.tracking.simulated import recipe_of
from guide_arc.capture.video.clip import inspect_video
from guide_arc.capture.video.frames import FrameReader
from guide_arc.core.model.errors import BadInput
from guide_arc.core.simulate.perform import Script
from guide_arc.standards.loader import standard


@slow
def test_a_film_has_a_frame_for_each_true_sample(pushdown_film: SmallFilm) -> None:
    truth = pushdown_film.filmed.truth
    assert pushdown_film.clip.frames == truth.frames
    assert np.allclose(pushdown_film.clip.time_s, truth.time_s, atol=1e-3)
    assert (truth.space, truth.view, truth.image_size) == ("image", "left", (640, 360))


def test_the_performer_is_where_the_truth_says(pushdown_film: SmallFilm) -> None:
    with FrameReader(pushdown_film.clip) as reader:
        picture = reader.at(0).astype(int)
    wall = picture[20:60, 260:300].mean(axis=(0, 1))
    for name in ("left_shoulder", "left_elbow", "left_knee"):
        x, y = pushdown_film.truth(name)[0]
        seen = picture[round(y) - 1 : round(y) + 2, round(x) - 1 : round(x) + 2].mean(axis=(0, 1))
        assert np.abs(seen - wall).max() > 25, name
    hand = pushdown_film.truth("left_knuckles")
    assert np.ptp(hand[:, 1]) > 20  # the reps are in it


def test_the_pole_is_a_metre(pushdown_film: SmallFilm) -> None:
    low, high = pushdown_film.filmed.pole
    truth = pushdown_film.truth
    shank_px = np.hypot(*(truth("left_knee") - truth("left_ankle"))[0])
    assert np.hypot(*(low - high)) == pytest.approx(shank_px / (0.246 * 1.75), rel=0.06)


@slow
def test_the_same_order_gives_the_same_film(tmp_path: Path, pushdown_film: SmallFilm) -> None:
    again = small_film(tmp_path / "again.mp4")
    assert np.array_equal(again.filmed.truth.position, pushdown_film.filmed.truth.position)
    with FrameReader(again.clip) as a, FrameReader(pushdown_film.clip) as b:
        assert np.array_equal(a.at(30), b.at(30))


@slow
def test_shake_light_and_blur_change_the_picture_and_the_truth_follows(tmp_path: Path) -> None:
    film_ = small_film(tmp_path / "s.mp4", reps=1, shake_px=4.0, light=0.4, blur=0.6, rate_hz=15.0)
    still = small_film(tmp_path / "t.mp4", reps=1, rate_hz=15.0)
    ankles = film_.truth("left_ankle") - still.truth("left_ankle")
    assert 1.0 < np.abs(ankles).max() < 16.0
    moves = camera_moves(
        Filming("left", 640, 360, 15.0, shake_px=4.0, light=0.4), film_.clip.frames, 5
    )
    assert np.ptp(moves.gain) > 0.2
    with FrameReader(film_.clip) as reader:
        bright = [float(reader.at(i).mean()) for i in range(0, film_.clip.frames, 6)]
    assert np.corrcoef(bright, moves.gain[::6])[0, 1] > 0.8


def test_a_film_says_how_it_was_made(pushdown_film: SmallFilm) -> None:
    recipe = recipe_of(pushdown_film.clip)
    assert recipe is not None
    done, filming, _moves = performed(recipe, standard(recipe["standard"], recipe["school"]))
    assert filming.view == "left"
    assert done.track.frames == pushdown_film.clip.frames
    assert json.loads(pushdown_film.clip.made_by)["seed"] == 5


def test_a_film_needs_a_view_and_possible_numbers(tmp_path: Path) -> None:
    for bad, words in (
        ({"view": "none"}, "needs a view"),
        ({"view": "left", "width": 641}, "even"),
        ({"view": "left", "blur": 2.0}, "blur"),
        ({"view": "left", "rate_hz": 1000.0}, "rate"),
    ):
        with pytest.raises(BadInput, match=words):
            Filming(**bad)
    assert list(tmp_path.iterdir()) == []


def test_a_stopped_film_leaves_no_file(tmp_path: Path) -> None:
    def stop(share: float) -> None:
        if share > 0:
            raise InterruptedError

    with pytest.raises(InterruptedError):
        film(
            tmp_path / "f.mp4",
            standard("rope-pushdown"),
            Script(reps=1),
            Filming("left", 640, 360),
            1,
            stop,
        )
    assert list(tmp_path.iterdir()) == []


@slow
def test_every_view_films_every_kind_of_body(tmp_path: Path) -> None:
    for i, (id, view) in enumerate(
        (("lying-triceps-extension", "right"), ("lateral-raise-dumbbell", "back"))
    ):
        script = Script(reps=1, opening_s=0.3)
        made = film(tmp_path / f"{i}.mp4", standard(id), script, Filming(view, 480, 270), 2)  # type: ignore[arg-type]
        clip = inspect_video(tmp_path / f"{i}.mp4")
        assert clip.frames == made.truth.frames
        inside = (made.truth.position > 0) & (made.truth.position < (480, 270))
        assert inside.all(axis=-1).mean() > 0.9
