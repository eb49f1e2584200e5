"""How to film: half a page for each exercise, as PDF and as one HTML file."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import Final

import numpy as np
from jinja2 import Environment, PackageLoader, select_autoescape
from markupsafe import Markup

from guide_arc.core.model.landmarks import SIDES
from guide_arc.core.model.standard import Standard
from guide_arc.core.model.track import View
from guide_arc.drawings.filming_sheet import PlacedPhone, picture, plan
from guide_arc.drawings.palette import PAGE
from guide_arc.formats.atomic import write_atomic
from guide_arc.reports.page import typeface_data
from guide_arc.reports.pdf import pdf_of
from guide_arc.reports.svg import svg
from guide_arc.standards.filming import FilmingPlan, PhonePlace, filming_plan

Progress = Callable[[float], None]

# Landmarks of height for most standing people.
_HEIGHT_WORDS: Final = (
    (0.55, "knee"),
    (0.85, "thigh"),
    (1.0, "hip"),
    (1.15, "elbow"),
    (1.35, "chest"),
    (1.5, "shoulder"),
    (9.0, "eye"),
)
GENERAL: Final = (
    (
        "Stand the phone against something heavy so that it neither moves nor leans. Use the usual"
        " lens, no zoom, no filter, 30 or 60 pictures a second."
    ),
    (
        "The whole body stays in the picture from the first to the last rep. Light comes from"
        " behind the phone. Sleeves end above the elbow or fit closely; long hair is tied up."
    ),
    "Start recording, stand still for two seconds, do the set, stand still for two seconds.",
    "Put the phone where nobody steps on it and no weight, cable or bench can hit it.",
)


@dataclass(frozen=True)
class FilmingPage:
    """One exercise's half page, in words and drawings."""

    name: str
    school: str
    lines: tuple[tuple[str, str], ...]
    plan: Markup
    pictures: tuple[Markup, ...]


def write_filming(
    standards: Sequence[Standard], target: Path, progress: Progress = lambda _share: None
) -> Path:
    """Write the sheets atomically to a PDF or an HTML file, chosen by the file extension. Raises
    OSError."""
    html = filming_html(standards, progress)
    data = pdf_of(html) if target.suffix.lower() == ".pdf" else html.encode()
    write_atomic(target, data)
    return target


def filming_html(standards: Sequence[Standard], progress: Progress = lambda _share: None) -> str:
    """The sheets as one HTML file that needs nothing else."""
    sheets = []
    for i, standard in enumerate(standards):
        progress(i / len(standards))
        sheets.append(_sheet(filming_plan(standard)))
    environment = Environment(
        loader=PackageLoader("guide_arc.reports"),
        autoescape=select_autoescape(),
        trim_blocks=True,
        lstrip_blocks=True,
    )
    return environment.get_template("filming.html").render(
        sheets=sheets, general=GENERAL, font=typeface_data(), c=PAGE
    )


def filming_words(place: PhonePlace, standard: Standard) -> str:
    """`From the left, 2.5 m away, lens 1.1 m high (elbow height), phone upright.`"""
    held = "upright" if place.upright else "on its side"
    return (
        f"{_from(place.view, standard)}, {place.distance_m:g} m away, lens {place.height_m:.1f} m"
        f" high ({_height_words(place.height_m)} height), phone {held}."
    )


def _from(view: View, standard: Standard) -> str:
    if view not in SIDES:
        return f"From the {view}"
    return (
        "From the side of the arm that works"
        if standard.arms == "one"
        else "From the left or right"
    )


def _height_words(height_m: float) -> str:
    return next(words for limit, words in _HEIGHT_WORDS if height_m <= limit)


def _sheet(filming: FilmingPlan) -> FilmingPage:
    standard, first, second = filming.standard, filming.first, filming.second
    titles = {rule.name: rule.title for rule in standard.checks}
    count = f"{len(first.shows)} of {len(titles)}"
    lines = [
        ("Phone", f"{filming_words(first, standard)} This shows {count} checks."),
    ]
    if second is not None:
        adds = _listed([titles[n] for n in second.adds])
        lines.append(("Second view", f"{filming_words(second, standard)} It also shows: {adds}."))
    else:
        lines.append(("Second view", "Not needed: no other place shows more."))
    if first.view in SIDES and standard.arms != "one":
        lines.append(
            (
                "Other arm",
                "The arm behind the body is hidden. Film the next set from the other side.",
            )
        )
    if filming.unseen:
        unseen = _listed([titles[n] for n in filming.unseen])
        lines.append(("Not visible", f"{unseen[:1].upper()}{unseen[1:]}."))
    places = [first] + ([second] if second is not None else [])
    phones = [PlacedPhone(i, p.view, p.distance_m, p.upright) for i, p in enumerate(places, 1)]
    cycle = filming.cycle
    lift = next(end for name, _start, end in cycle.phases if name == "lift")
    start, turn = cycle.pose(0.0), cycle.pose(lift)
    pictures = tuple(
        Markup(
            svg(
                picture(start, turn, np.asarray(cycle.extent), p.view, 190, 210, upright=p.upright),
                PAGE,
                f"What the picture from the {p.view} shows",
            )
        )
        for p in places
    )
    drawn = Markup(
        svg(plan(phones, start, 200, 210), PAGE, "The place of the phone, seen from above")
    )
    school = standard.school.name if len(standard.schools) > 1 else ""
    return FilmingPage(standard.name, school, tuple(lines), drawn, pictures)


def _listed(titles: Sequence[str]) -> str:
    return ", ".join(t[:1].lower() + t[1:] for t in titles)
