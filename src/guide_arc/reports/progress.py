"""The progress report of a client: form against load, the weeks, the cues, exercise by exercise."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import Final

from jinja2 import Environment, PackageLoader, select_autoescape
from markupsafe import Markup

from guide_arc.core.planning.pain import STOP
from guide_arc.drawings.course_sheet import PITCH, columns_of, course_sheet
from guide_arc.drawings.cue_sheet import outcome_words
from guide_arc.drawings.days import day_words
from guide_arc.drawings.palette import PAGE
from guide_arc.drawings.shapes import Drawing
from guide_arc.drawings.weeks_sheet import change_words, weeks_sheet
from guide_arc.formats.atomic import write_atomic
from guide_arc.library.client_sheet import ClientSheet
from guide_arc.reports.page import typeface_data
from guide_arc.reports.pdf import pdf_of
from guide_arc.reports.svg import svg

_MOST_COLUMNS: Final = 11
_MOST_MEASURES: Final = 5
_LB: Final = 0.45359237


@dataclass(frozen=True)
class ReportPart:
    """One exercise of the report."""

    name: str
    span: str
    sentences: tuple[str, ...]
    best: str
    course: Markup
    weeks: Markup
    cues: tuple[tuple[str, str, str], ...]


def write_progress(sheets: Sequence[ClientSheet], target: Path, coach: str) -> Path:
    """Write the report as PDF to `target` and as HTML next to it, each atomically."""
    html = progress_html(sheets, coach)
    pdf = pdf_of(html)
    target = target.with_suffix(".pdf")
    write_atomic(target.with_suffix(".html"), html.encode(), mode=0o600)
    write_atomic(target, pdf, mode=0o600)
    return target


def progress_html(sheets: Sequence[ClientSheet], coach: str) -> str:
    """The report as one HTML file that needs nothing else."""
    client = sheets[0].client
    parts = [_part(s) for s in sheets if s.sets]
    days = sorted(d for s in sheets if s.sets for d in s.span)
    last = days[-1] if days else None
    sore = client.sore_on(last) if last else ()
    hurt = any(s.sets and s.sets[-1].hurt for s in sheets)
    environment = Environment(
        loader=PackageLoader("guide_arc.reports"),
        autoescape=select_autoescape(),
        trim_blocks=True,
        lstrip_blocks=True,
    )
    return environment.get_template("progress.html").render(
        client=client.name,
        goals=client.goals,
        coach=coach,
        parts=parts,
        font=typeface_data(),
        c=PAGE,
        span=(
            f"{day_words(days[0].isoformat())} to {day_words(days[-1].isoformat())}" if days else ""
        ),
        stop=STOP if hurt else "",
        sore=", ".join(f"{s.place} (since {day_words(s.since.isoformat())})" for s in sore),
    )


def _part(sheet: ClientSheet) -> ReportPart:
    assert sheet.plan is not None
    columns = columns_of(sheet.course, "sets")
    if len(columns) > _MOST_COLUMNS:
        columns = columns_of(sheet.course, "weeks")
    columns = columns[-_MOST_COLUMNS:]
    width = max(PITCH * len(columns) + 34.0, 300.0)
    course = course_sheet(width, 210.0, columns, 0, None, sheet.course.assisted)
    measures = sheet.measures[:_MOST_MEASURES]
    first, last = sheet.span
    best = sheet.course.best
    words = ""
    if best is not None and best.load_kg is not None:
        words = f"{_weight(sheet, best.load_kg)} × {best.full}, {day_words(best.at)}"
    cues = tuple(
        (
            f.said.words,
            change_words(f.before, f.after, f.unit),
            outcome_words(f).removesuffix(" (W)"),
        )
        for f in sheet.cues[:4]
    )
    return ReportPart(
        name=sheet.plan.name,
        span=f"{day_words(first.isoformat())} to {day_words(last.isoformat())}",
        sentences=sheet.sentences,
        best=words,
        course=_drawn(course, f"Form against load in {sheet.plan.name}"),
        weeks=_drawn(weeks_sheet(520.0, measures), "Over the weeks"),
        cues=cues,
    )


def _weight(sheet: ClientSheet, kg: float) -> str:
    return f"{kg:g} kg" if sheet.client.weight == "kg" else f"{kg / _LB:.0f} lb"


def _drawn(drawing: Drawing, label: str) -> Markup:
    return Markup(svg(drawing, PAGE, label))
