"""Following marked points, against the truth: pixels, degrees, and what is noticed.

    ./run dev python bench/following.py [REPS]     3 when left out

One click a point on the first frame. A point is off where it is more than 15 px (5 cm) from the
truth in a film of 1280 by 720; it is declared lost where its confidence is below 0.3, and off in
silence where it isn't. Then what confidence is worth, how many corrections a clip needs, and what a
frame costs on one core (the least of three times). The films are the simulated camera's, exposed
for 1/60 s, and puppets cut from photographs (`tests/puppets.py`), which share nothing with it.
"""

from __future__ import annotations

import tempfile
import time
from collections.abc import Mapping
from dataclasses import dataclass
from pathlib import Path
from typing import Any, cast

import cv2
import numpy as np

import harness
from clips import SmallFilm
from guide_arc.capture.film.film import Filming, film
from guide_arc.capture.tracking.following import MarkedPoints
from guide_arc.capture.tracking.tracker import Tracked
from guide_arc.capture.video.clip import Clip, inspect_video
from guide_arc.capture.video.frames import every_frame
from guide_arc.capture.video.writing import writing_clip
from guide_arc.core.kinematics.vectors import Array
from guide_arc.core.model.marks import Mark, Marks
from guide_arc.core.model.track import StatedView, View
from guide_arc.core.simulate.perform import Script
from guide_arc.standards.loader import standard
from puppets import puppet

OFF_PX = 15.0
LOST_BELOW = 0.3
EXPOSURE_S = 1 / 60
MOST_CORRECTIONS = 3
# The least time of so many is the program's own: whatever else the machine does only adds to it.
TIMED = 3
HARD = {"shake_px": 4.0, "light": 0.3}
FILMS: tuple[tuple[str, View, float, Mapping[str, Any], bool], ...] = (
    ("standing-barbell-curl", "left", 24.0, {}, False),
    ("rope-pushdown", "left", 24.0, HARD, False),
    ("rope-pushdown", "right", 30.0, {"shake_px": 2.0, "passers_by": 2}, False),
    ("lateral-raise-dumbbell", "front", 30.0, HARD, False),
    ("lateral-raise-dumbbell", "back", 24.0, {}, False),
    ("overhead-press-dumbbell", "front", 30.0, {"passers_by": 1}, False),
    ("one-arm-dumbbell-row", "left", 24.0, {"shake_px": 2.0}, False),
    ("lying-triceps-extension", "left", 30.0, {"light": 0.3}, False),
    ("seated-row-narrow-low", "right", 24.0, HARD, False),
    ("standing-barbell-curl", "right", 60.0, {}, False),
    ("rope-pushdown", "left", 30.0, {"shake_px": 2.0}, True),
    ("lateral-raise-dumbbell", "front", 30.0, {"shake_px": 2.0}, True),
)
PUPPETS = ((24.0, 1), (30.0, 2), (60.0, 3))


@dataclass(frozen=True, eq=False)
class Case:
    """A clip with its truth, by point, (F, 2)."""

    name: str
    clip: Clip
    view: View
    truth: Mapping[str, Array]

    def marks(self) -> Marks:
        out = Marks(cast(StatedView, self.view))
        for name in self.truth:
            out = self.corrected(out, name, 0)
        return out

    def corrected(self, marks: Marks, name: str, frame: int) -> Marks:
        x, y = self.truth[name][frame]
        return marks.with_mark(name, Mark(frame, float(x), float(y)))

    def errors(self, found: Tracked) -> Array:
        out: Array = np.stack(
            [
                np.hypot(*(found.position[:, i] - self.truth[n]).T)
                for i, n in enumerate(found.names)
            ],
            1,
        )
        return out


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


def cases(folder: Path, reps: int) -> list[Case]:
    out = []
    for i, (id, view, rate, filming, board) in enumerate(FILMS):
        how = Filming(view, rate_hz=rate, blur=min(1.0, rate * EXPOSURE_S), **filming)
        made = folder / f"{i}.mp4"
        done = SmallFilm.of(made, film(made, standard(id), Script(reps=reps), how, 3 + i))
        if board:
            done = hidden(done, folder / f"{i}b.mp4")
        words = [
            id,
            view,
            *(["hard"] if filming is HARD else []),
            *(["passers-by"] if "passers_by" in filming else []),
            *(["hidden"] if board else []),
        ]
        truth = {n: done.truth(n) for n in done.marks().points}
        out.append(Case(", ".join(words), done.clip, view, truth))
    for rate, seed in PUPPETS:
        doll = puppet(folder / f"p{seed}.mp4", rate_hz=rate, seed=seed, seconds=10.0)
        out.append(Case(f"puppet {seed}", doll.clip, doll.view, doll.truth))
    return out


def corrections(case: Case) -> tuple[int | None, int, float]:
    """How many clicks, each on the worst sample, bring 97 % of all to within 15 px or to a declared
    loss with no more than 0.5 % off in silence, None where three do not; and how many bring how
    many within 15 px, up to 97 % or three clicks.
    """
    marks, needed = case.marks(), None
    for clicks in range(MOST_CORRECTIONS + 1):
        found = MarkedPoints().track(case.clip, marks, lambda _share: None)
        errors = case.errors(found)
        right, lost = errors <= OFF_PX, found.confidence < LOST_BELOW
        if needed is None and (right | lost).mean() >= 0.97 and (~right & ~lost).mean() <= 0.005:
            needed = clicks
        if right.mean() >= 0.97 or clicks == MOST_CORRECTIONS:
            break
        frame, point = np.unravel_index(int(errors.argmax()), errors.shape)
        marks = case.corrected(marks, found.names[int(point)], int(frame))
    return needed, clicks, float(right.mean())


def main(reps: int) -> None:
    cv2.setNumThreads(1)
    print(
        "| clip | frames a second | ms a frame | px, median | px, 95 % | within 15 px or declared"
        " lost | off in silence | declared lost | corrections | within 15 px after clicks |"
    )
    print("| --- | --- | --- | --- | --- | --- | --- | --- | --- | --- |")
    every: list[tuple[Array, Array]] = []
    with tempfile.TemporaryDirectory() as folder:
        for case in cases(Path(folder), reps):
            took: list[float] = []
            for _ in range(TIMED):
                begun = time.process_time()
                found = MarkedPoints().track(case.clip, case.marks(), lambda _share: None)
                took.append(1000 * (time.process_time() - begun) / case.clip.frames)
            errors, lost = case.errors(found), found.confidence < LOST_BELOW
            every.append((errors[1:].ravel(), found.confidence[1:].ravel()))
            off = errors > OFF_PX
            needed, clicks, right = corrections(case)
            rate = 1 / float(np.median(np.diff(case.clip.time_s)))
            print(
                f"| {case.name} | {rate:.0f} | {min(took):.0f} | {np.median(errors):.2f} |"
                f" {np.percentile(errors[~lost], 95):.1f} | {100 * (~off | lost).mean():.1f} % |"
                f" {100 * (off & ~lost).mean():.2f} % | {100 * lost.mean():.1f} % |"
                f" {'more than three' if needed is None else needed} | {100 * right:.1f} % after"
                f" {clicks} |",
                flush=True,
            )
    errors, sure = (np.concatenate(own) for own in zip(*every, strict=True))
    off, lost = errors > OFF_PX, sure < LOST_BELOW
    print(
        f"\nall: {np.median(errors):.2f} px in the median (2 is asked),"
        f" {100 * (~off | lost).mean():.1f} % within 15 px or declared lost (97 is asked),"
        f" {100 * (off & ~lost).mean():.2f} % off in silence (0.5 is asked)"
    )
    print("\n| confidence | samples | within 15 px |\n| --- | --- | --- |")
    for low in np.arange(0.0, 1.0, 0.2):
        some = (sure >= low) & (sure < low + 0.2 + 1e-9 * (low > 0.7))
        if some.any():
            print(
                f"| {low:.1f} to {low + 0.2:.1f} | {some.sum()} |"
                f" {100 * (~off)[some].mean():.1f} % |"
            )


if __name__ == "__main__":
    main(harness.number(1, 3))
