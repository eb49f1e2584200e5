"""`guide-arc landmarks`: points followed through a clip, or found by the pose model, as a track."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING, Annotated

import typer

from guide_arc.cli.options import ViewName
from guide_arc.cli.progress import shown_progress
from guide_arc.cli.terminal import say
from guide_arc.core.model.errors import BadInput
from guide_arc.core.model.marks import Marks
from guide_arc.core.model.track import SetFacts
from guide_arc.lazily import lazily

if TYPE_CHECKING:
    from guide_arc.capture.tracking.tracker import Tracker

with lazily():
    from guide_arc.capture.tracking.calibrated import CalibratedPoints
    from guide_arc.capture.tracking.landmarks import landmark_track
    from guide_arc.capture.tracking.pose import PoseModel
    from guide_arc.capture.video.clip import inspect_video
    from guide_arc.formats.marks_json import read_marks
    from guide_arc.formats.track_csv import csv_text
    from guide_arc.formats.track_file import write_track


def landmarks(
    clip: Annotated[Path, typer.Argument(help="A video file.")],
    view: Annotated[ViewName, typer.Option(help="From where the clip was filmed.")],
    marks: Annotated[
        Path | None, typer.Option(help="Marked points as JSON: they are followed through the clip.")
    ] = None,
    pose: Annotated[
        bool, typer.Option("--pose", help="Find the joints by the pose model.")
    ] = False,
    person: Annotated[
        str | None,
        typer.Option(help="With --pose: X,Y,W,H of the person meant on the first frame."),
    ] = None,
    out: Annotated[
        Path | None, typer.Option(help="The track to write; printed when left out.")
    ] = None,
) -> None:
    """Landmarks of a clip as a track."""
    if (marks is None) != pose:
        raise BadInput("give marked points with --marks, or --pose for the pose model, one of them")
    if person is not None and not pose:
        raise BadInput("--person says whom the pose model means; it goes with --pose")
    film = inspect_video(clip)
    if marks is not None:
        asked = read_marks(marks, view.value, film.frames, (film.width, film.height))
    else:
        asked = Marks(view.value, person=_box(person, film.width, film.height))
    tracker: Tracker = PoseModel() if pose else CalibratedPoints()
    why_not = tracker.why_not(film, asked)
    if why_not:
        raise BadInput(f"{clip.name}: {why_not}")
    with shown_progress(f"following {clip.name}") as progress:
        found = tracker.track(film, asked, progress)
    track = landmark_track(found, film, asked, SetFacts(), points_from="pose" if pose else "marks")
    if out is None:
        say(csv_text(track).rstrip("\n"))
    else:
        write_track(track, out)


def _box(
    text: str | None, width: int, height: int
) -> tuple[int, float, float, float, float] | None:
    if text is None:
        return None
    try:
        x, y, w, h = (float(part) for part in text.split(","))
    except ValueError:
        raise BadInput(
            f"the person {text!r} is not four numbers; write X,Y,W,H in pixels, such as"
            " 300,80,220,560"
        ) from None
    if not (w > 1 and h > 1 and 0 <= x < width and 0 <= y < height):
        raise BadInput(f"the box {text} does not lie in the picture of {width} by {height}")
    return 0, x, y, min(x + w, float(width)), min(y + h, float(height))
