"""Reading what several commands take: a track, a standard, a tempo, a library."""

from __future__ import annotations

from enum import StrEnum
from pathlib import Path
from typing import Annotated

import typer

from guide_arc.core.model.errors import BadInput
from guide_arc.core.model.standard import Standard, Tempo
from guide_arc.core.model.track import LandmarkTrack
from guide_arc.lazily import lazily
from guide_arc.library.place import FILE, is_team, own_library_folder, was_here
from guide_arc.standards.loader import standard
from guide_arc.standards.tempo import parse_tempo

with lazily():
    from guide_arc.library.database import recordings_in
    from guide_arc.library.errors import BadLibrary
    from guide_arc.library.store import Library


class ViewName(StrEnum):
    """From where a clip was filmed."""

    front = "front"
    back = "back"
    left = "left"
    right = "right"
    front_left = "front-left"
    front_right = "front-right"
    back_left = "back-left"
    back_right = "back-right"


AnyLibrary = Annotated[
    str | None,
    typer.Option(
        "--library", help="Another library than your own: its folder, or a team's address."
    ),
]


def library_at(asked: str | None, *, make: bool = False, patient: bool = False) -> Library:
    """The library that a command is about, open.

    make : if there is none, one may be created; never where one was before
    patient : its writes wait for minutes while another program writes. Raises BadLibrary if there
    is none, or it can't be used."""
    where = asked or own_library_folder()
    if not is_team(where):
        folder = Path(where)
        make = make and not was_here(folder)
        if not make and not (folder / FILE).exists() and not recordings_in(folder):
            raise BadLibrary(
                f"there is no library in {folder}; name its folder with --library, and see that its"
                " disk is there"
            )
    return Library.open(where, make=make, patient=patient)


def standard_for(track: LandmarkTrack, id: str | None, school: str | None) -> Standard:
    """The standard asked for, or the one that the track itself names."""
    chosen = id or track.facts.standard
    if not chosen:
        raise BadInput(
            "the track names no standard; give one with --standard ID ('guide-arc standards' lists"
            " them)"
        )
    return standard(chosen, school)


def tempo_of(text: str | None) -> Tempo | None:
    return None if text is None else parse_tempo(text)
