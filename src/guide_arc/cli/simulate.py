"""`guide-arc simulate`: a recorded set from the simulated camera, with its ground truth."""

from __future__ import annotations

import json
import re
from enum import StrEnum
from pathlib import Path
from typing import Annotated, Any, cast

import typer

from guide_arc.cli.options import tempo_of
from guide_arc.cli.progress import shown_progress
from guide_arc.cli.terminal import say
from guide_arc.core.model.errors import BadInput
from guide_arc.core.model.standard import Standard
from guide_arc.core.model.track import BETWEEN_VIEWS, View
from guide_arc.core.simulate.camera import DISTANCE_M, camera_from
from guide_arc.core.simulate.opening import LEAST_WALK_IN_S
from guide_arc.core.simulate.perform import Script, perform
from guide_arc.core.simulate.tracker import TrackerNoise
from guide_arc.formats.atomic import write_atomic
from guide_arc.formats.track_csv import csv_text
from guide_arc.formats.track_file import track_text
from guide_arc.lazily import lazily
from guide_arc.standards.loader import standard as standard_by_id

with lazily():
    from guide_arc.capture.film.film import Filming, film

_STILL_S = 2.0
# Phones expose a frame for a sixtieth of a second indoors.
_EXPOSED_HZ = 60.0


class CameraName(StrEnum):
    none = "none"
    front = "front"
    back = "back"
    left = "left"
    right = "right"
    front_left = "front-left"
    front_right = "front-right"
    back_left = "back-left"
    back_right = "back-right"


class ArmsName(StrEnum):
    together = "together"
    alternating = "alternating"
    left = "left"
    right = "right"


def simulate(
    standard: Annotated[str, typer.Option(help="The exercise standard to perform.")],
    reps: Annotated[int, typer.Option(help="How many full reps, from 1.")] = 10,
    fault: Annotated[
        list[str] | None,
        typer.Option(help="NAME=AMOUNT in the check's unit; may be given several times."),
    ] = None,
    seed: Annotated[int, typer.Option(help="The same seed gives the same set.", min=0)] = 0,
    view: Annotated[
        CameraName, typer.Option(help="A camera's view, or none for space.")
    ] = CameraName.none,
    noise: Annotated[
        float,
        typer.Option(help="Standard deviation of each axis: metres in space, pixels in a view."),
    ] = 0.0,
    out: Annotated[
        Path | None,
        typer.Option(
            help="Output file (.csv or .json); the truth is written next to it. Without it the"
            " track is printed."
        ),
    ] = None,
    school: Annotated[str | None, typer.Option(help="One of the standard's schools.")] = None,
    tempo: Annotated[str | None, typer.Option(help="LOWER-BOTTOM-LIFT-TOP in seconds.")] = None,
    arms: Annotated[ArmsName | None, typer.Option(help="Which arms work, and how.")] = None,
    partial: Annotated[
        int, typer.Option(help="Short reps after the full ones.", min=0, max=100)
    ] = 0,
    rate: Annotated[float, typer.Option(help="Frames per second.", min=5, max=480)] = 30.0,
    stature: Annotated[float, typer.Option(help="Body height in metres.")] = 1.75,
    drift: Annotated[float, typer.Option(help="Slow drift of each axis, as --noise.", min=0)] = 0.0,
    dropout: Annotated[
        float, typer.Option(help="Share of samples lost, 0 to 0.5.", min=0, max=0.5)
    ] = 0.0,
    first_hold: Annotated[
        float, typer.Option(help="Seconds the first rep is held.", min=0, max=60)
    ] = 0.0,
    walk_in: Annotated[
        bool, typer.Option("--walk-in", help="Walk in, take the kit, and leave again.")
    ] = False,
    load: Annotated[
        float | None, typer.Option(help="Load in kg, noted in the file.", min=0)
    ] = None,
    video: Annotated[
        Path | None,
        typer.Option(help="Film it as this MP4; truth and true landmarks are written next to it."),
    ] = None,
    size: Annotated[str, typer.Option(help="The film's WIDTHxHEIGHT.")] = "1280x720",
    shake: Annotated[float, typer.Option(help="How far the camera wanders, pixels.")] = 0.0,
    light: Annotated[
        float, typer.Option(help="How much the light comes and goes, 0 to 0.9.")
    ] = 0.0,
    blur: Annotated[
        float | None,
        typer.Option(help="Share of the frame's time the shutter is open; 1/60 s when left out."),
    ] = None,
    passers_by: Annotated[
        int, typer.Option(help="People who walk by behind the client in a film.", min=0, max=9)
    ] = 0,
    aside: Annotated[
        float,
        typer.Option(help="Yaw of the camera off its view, degrees.", min=-80, max=80),
    ] = 0.0,
    down: Annotated[
        float, typer.Option(help="Degrees the camera looks down.", min=-30, max=45)
    ] = 0.0,
    roll: Annotated[
        float, typer.Option(help="Tilt of the camera off level, degrees.", min=-30, max=30)
    ] = 0.0,
    distance: Annotated[
        float, typer.Option(help="Metres from the camera to the client.", min=1.5, max=20)
    ] = DISTANCE_M,
    jitter: Annotated[
        float, typer.Option(help="A pose model's noise, which stays, as --noise.", min=0)
    ] = 0.0,
    offset: Annotated[
        float, typer.Option(help="How far its joints stand elsewhere all along, as --noise.", min=0)
    ] = 0.0,
    swapped: Annotated[
        float,
        typer.Option(
            help="Share in which left and right are swapped, in one piece.", min=0, max=0.9
        ),
    ] = 0.0,
) -> None:
    """Record a set with the simulated camera, with its ground truth."""
    if not 0 <= noise < (0.5 if view is CameraName.none else 200):
        unit = "metres in space, so 0.01 is 10 mm" if view is CameraName.none else "pixels"
        raise BadInput(f"the noise is {noise:g}; it is in {unit}")
    script = Script(
        reps=reps,
        tempo=tempo_of(tempo),
        arms=arms.value if arms else None,
        stature_m=stature,
        partial=partial,
        first_hold_s=first_hold,
        opening="walk-in" if walk_in else "still",
        opening_s=LEAST_WALK_IN_S if walk_in else _STILL_S,
        faults=_faults(fault or []),
        load_kg=load,
    )
    plan = standard_by_id(standard, school)
    if video is not None:
        if view.value in BETWEEN_VIEWS:
            raise BadInput(
                f"a clip can't be made from {view.value}; it must be front, back, left or right"
            )
        chosen = cast(View, view.value)
        width, height = _size(size)
        open_share = min(rate / _EXPOSED_HZ, 1.0) if blur is None else blur
        filming = Filming(
            view=chosen,
            width=width,
            height=height,
            rate_hz=rate,
            shake_px=shake,
            light=light,
            blur=open_share,
            passers_by=passers_by,
        )
        _film(video, plan, script, filming, seed)
        if out is None:
            return
    errs = TrackerNoise(jitter, offset, swapped_share=swapped)
    camera = camera_from(
        view.value,
        rate_hz=rate,
        noise=noise,
        drift=drift,
        dropout=dropout,
        roll_deg=roll,
        yaw_deg=aside,
        pitch_deg=down,
        distance_m=distance,
        tracker=errs if errs != TrackerNoise() else None,
    )
    done = perform(plan, script, camera, seed)
    text = track_text(done.track, out or Path("track.csv"))
    if out is None:
        say(text.rstrip("\n"))
        return
    write_atomic(out, text.encode())
    _write_truth(out, done.truth)


def _write_truth(beside: Path, truth: dict[str, Any]) -> None:
    text = json.dumps(truth, indent=1) + "\n"
    write_atomic(beside.with_name(beside.name + ".truth.json"), text.encode())


def _film(target: Path, plan: Standard, script: Script, filming: Filming, seed: int) -> None:
    """The film with its truth: FILE.truth.json, and the landmarks in its pixels as
    FILE.track.csv."""
    with shown_progress(f"filming {target.name}") as progress:
        filmed = film(target, plan, script, filming, seed, progress)
    _write_truth(target, filmed.document)
    write_atomic(target.with_name(target.name + ".track.csv"), csv_text(filmed.truth).encode())


def _size(text: str) -> tuple[int, int]:
    match = re.fullmatch(r"(\d{2,5})x(\d{2,5})", text)
    if not match:
        raise BadInput(f"the size is {text!r}; it must be WIDTHxHEIGHT such as 1280x720")
    return int(match[1]), int(match[2])


def _faults(given: list[str]) -> dict[str, float]:
    out: dict[str, float] = {}
    for text in given:
        name, equals, amount = text.partition("=")
        try:
            if not equals or name in out:
                raise ValueError
            out[name] = float(amount)
        except ValueError:
            raise BadInput(
                f"the fault is {text!r}; it must be NAME=AMOUNT, each name once, such as"
                " torso-swing=20"
            ) from None
    return out
