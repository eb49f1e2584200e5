"""Reading what several commands take: a track, a standard, a tempo, a library."""

from __future__ import annotations

from typing import Annotated

import typer

from guide_arc.core.model.errors import BadInput
from guide_arc.core.model.standard import Standard, Tempo
from guide_arc.core.model.track import LandmarkTrack
from guide_arc.standards.loader import standard
from guide_arc.standards.tempo import parse_tempo

AnyLibrary = Annotated[
    str | None,
    typer.Option(
        "--library", help="Another library than your own: its folder, or a team's address."
    ),
]


def standard_for(track: LandmarkTrack, id: str | None, school: str | None) -> Standard:
    """The standard asked for, or the one that the track itself names."""
    chosen = id or track.facts.standard
    if not chosen:
        raise BadInput(
            "the track names no standard; give one with --standard ID ('guide-arc standards' lists them)"
        )
    return standard(chosen, school)


def tempo_of(text: str | None) -> Tempo | None:
    return None if text is None else parse_tempo(text)
