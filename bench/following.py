"""Following marked points on simulated films, against their truth: pixels, degrees, and what is noticed.

    ./run dev python bench/following.py [REPS]     6 when left out, about 20 s of film each

One click a point on the first frame, no correction. A point is lost where it is more than 15 px (5 cm) off in
a film of 1280 by 720; it is noticed where the tracker doubts it. In the last films a board is held before the arm for
half a second, so that points are lost.
"""

from __future__ import annotations

import sys
import tempfile
import time
from pathlib import Path

import cv2
import numpy as np

HERE = Path(__file__).resolve()
sys.path[:0] = [str(HERE.parents[1] / "src"), str(HERE.parents[1] / "tests")]

from clips import SmallFilm
from guide_arc.capture.film.film import Filming, film
from guide_arc.capture.tracking.following import MarkedPoints
from guide_arc.capture.tracking.landmarks import landmark_track
from guide_arc.capture.video.clip import inspect_video
from guide_arc.capture.video.frames import every_frame
from guide_arc.capture.video.writing import writing_clip
from guide_arc.core.kinematics.body import Body
from guide_arc.core.kinematics.cleaning import clean
from guide_arc.core.kinematics.vectors import Array
from guide_arc.core.model.landmarks import SIDES, Side
from guide_arc.core.model.track import SetFacts, View
from guide_arc.core.simulate.perform import Script
from guide_arc.standards.loader import standard

# 5 cm where the person stands: more than half the breadth of an arm.
LOST_PX = 15.0
HARD = {"shake_px": 4.0, "light": 0.3, "blur": 0.5}
FILMS: tuple[tuple[str, View, dict[str, float], bool], ...] = (
    ("standing-barbell-curl", "left", {}, False),
    ("rope-pushdown", "left", HARD, False),
    ("rope-pushdown", "right", {"shake_px": 2.0}, False),
    ("lateral-raise-dumbbell", "front", HARD, False),
    ("lateral-raise-dumbbell", "back", {}, False),
    ("overhead-press-dumbbell", "front", {"blur": 0.5}, False),
    ("one-arm-dumbbell-row", "left", {"shake_px": 2.0}, False),
    ("lying-triceps-extension", "left", {"light": 0.3}, False),
    ("seated-row-narrow-low", "right", HARD, False),
    ("rope-pushdown", "left", {"shake_px": 2.0}, True),
    ("standing-barbell-curl", "right", {}, True),
    ("lateral-raise-dumbbell", "front", {"shake_px": 2.0}, True),
    ("seated-row-narrow-low", "left", {"light": 0.3}, True),
)


def hidden(made: SmallFilm, path: Path) -> SmallFilm:
    """The same film with a board held before the arm three times, half a second each."""
    view = made.filmed.truth.view
    side = view if view in ("left", "right") else "left"
    x, y = made.truth(f"{side}_elbow").mean(axis=0)
    board = np.array(
        [[x - 90, y - 60], [x + 80, y - 60], [x + 80, y + 70], [x - 90, y + 70]]
    ).astype(np.int32)
    starts = [int(share * made.clip.frames) for share in (0.3, 0.5, 0.7)]
    with writing_clip(path, made.clip.width, made.clip.height, preset="ultrafast") as writer:
        for number, picture in every_frame(made.clip):
            if any(start <= number < start + 15 for start in starts):
                cv2.fillPoly(picture, [board], (120, 60, 40))
            writer.add(picture, float(made.clip.time_s[number]))
    return SmallFilm(inspect_video(path), made.filmed)


def degrees(made: SmallFilm, found: object) -> np.ndarray:
    """How far the driving arm's measures are off those of the true landmarks, cleaned alike."""
    marks = made.marks()
    tracks = (landmark_track(found, made.clip, marks, SetFacts()), made.filmed.truth)  # type: ignore[arg-type]
    bodies = [Body(clean(t)) for t in tracks]
    view = made.filmed.truth.view
    sides: tuple[Side, ...] = tuple(s for s in SIDES if view not in SIDES or s == view)
    measures = (
        ("elbow_flexion", "shoulder_elevation") if len(sides) == 1 else ("shoulder_elevation",)
    )
    out: list[Array] = []
    for side in sides:
        for measure in measures:
            found, true = (body.measure(measure, side).value for body in bodies)
            out.append(np.subtract(found, true))
    every = np.abs(np.concatenate(out))
    return every[np.isfinite(every)]


def main(reps: int) -> None:
    pixels, angles, lost_all, noticed_all, doubted_all = [], [], 0, 0, []
    print(
        "film                                    frames  ms   px: median  95 %   deg: median  95 %   lost  noticed  doubted"
    )
    with tempfile.TemporaryDirectory() as folder:
        for i, (id, view, filming, board) in enumerate(FILMS):
            path = Path(folder) / f"{i}.mp4"
            filmed = film(path, standard(id), Script(reps=reps), Filming(view, **filming), 3 + i)  # type: ignore[arg-type]
            made = SmallFilm(inspect_video(path), filmed)
            if board:
                made = hidden(made, Path(folder) / f"{i}b.mp4")
            begun = time.perf_counter()
            found = MarkedPoints().track(made.clip, made.marks(), lambda _share: None)
            ms = 1000 * (time.perf_counter() - begun) / made.clip.frames
            errors = np.stack(
                [
                    np.hypot(*(found.position[:, k] - made.truth(n)).T)
                    for k, n in enumerate(found.names)
                ],
                1,
            )
            off = degrees(made, found)
            lost = errors > LOST_PX
            noticed = int(found.doubted[lost].sum())
            share = f"{100 * noticed / lost.sum():6.1f} %" if lost.any() else "     -  "
            name = f"{id}, {view}{', hidden' if board else ''}{', hard' if filming == HARD else ''}"
            print(
                f"{name:40s} {made.clip.frames:5d} {ms:4.0f}      {np.median(errors):6.2f} {np.percentile(errors, 95):6.2f}       {np.median(off):6.2f} {np.percentile(off, 95):6.2f}  {100 * lost.mean():4.1f} %  {share}  {100 * found.doubted.mean():4.1f} %"
            )
            pixels.append(errors.ravel())
            angles.append(off)
            lost_all += int(lost.sum())
            noticed_all += noticed
            doubted_all.append(found.doubted.mean())
    every, degs = np.concatenate(pixels), np.concatenate(angles)
    print(
        f"all: {np.median(every):.2f} px in the median (2 is asked), {np.percentile(every, 95):.2f} px at 95 %; {np.median(degs):.2f}° and {np.percentile(degs, 95):.2f}°"
    )
    print(
        f"lost {lost_all} samples of {len(every)}, noticed {100 * noticed_all / max(lost_all, 1):.1f} % (95 is asked); doubted {100 * np.mean(doubted_all):.1f} % in all"
    )


if __name__ == "__main__":
    main(int(sys.argv[1]) if len(sys.argv) > 1 else 6)
