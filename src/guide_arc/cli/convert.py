"""`guide-arc convert`: a track from one open form into another."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Annotated

import typer

from guide_arc.cli.options import ViewName
from guide_arc.core.model.errors import BadInput
from guide_arc.core.model.landmarks import KNOWN
from guide_arc.formats.format import Asked
from guide_arc.formats.marker_names import NOT_USED
from guide_arc.formats.registry import format_named, format_to_write, formats, suffixes
from guide_arc.formats.track_file import read_bytes, read_track, write_track

_READ = ", ".join(form.words for form in formats() if form.read is not None)
_WRITTEN = " ".join(dict.fromkeys(s for form in formats() if form.write for s in form.suffixes))


def convert(
    source: Annotated[Path, typer.Argument(help=f"One of {_READ}.")],
    target: Annotated[Path, typer.Argument(help=f"Its ending says the form: {_WRITTEN}")],
    names: Annotated[
        Path | None, typer.Option(help='JSON: {"marker": "landmark"}, for markers named otherwise.')
    ] = None,
    keypoints: Annotated[
        bool, typer.Option("--keypoints", help="Write JSON in the ordering of 17 points.")
    ] = False,
    form: Annotated[
        str | None,
        typer.Option("--form", help="The form by its name, where an ending has several."),
    ] = None,
    view: Annotated[
        ViewName | None, typer.Option(help="The camera's view, for keypoint JSON.")
    ] = None,
    rate: Annotated[
        float | None, typer.Option(help="Pictures a second, for keypoint JSON.")
    ] = None,
) -> None:
    """Read a landmark track in one form and write it in another."""
    chosen = form or ("keypoints" if keypoints else None)
    if chosen is not None:
        format_named(chosen)
    elif format_to_write(target.suffix.lower()) is None:
        raise BadInput(f"{target.name}: its ending must be one of {', '.join(suffixes())}")
    asked = Asked(view.value if view else None, rate)
    write_track(read_track(source, _names(names), asked), target, chosen)


def _names(path: Path | None) -> dict[str, str] | None:
    if path is None:
        return None
    try:
        given = json.loads(read_bytes(path))
    except ValueError:
        given = None
    if not isinstance(given, dict):
        raise BadInput(f'{path.name}: it must hold JSON such as {{"LSHO": "left_shoulder"}}')
    for marker, name in given.items():
        if name not in KNOWN and name != NOT_USED:
            raise BadInput(f"{path.name}: {marker!r} is given as {name!r}, which is no landmark")
    return given
