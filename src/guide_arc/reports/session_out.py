"""A planned session for others: a sheet to print, a table, and calendar entries."""

from __future__ import annotations

import csv
import io
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from pathlib import Path
from uuid import NAMESPACE_URL, uuid5

from icalendar import Calendar, Event
from jinja2 import Environment, PackageLoader, select_autoescape
from markupsafe import Markup

from guide_arc.core.planning.plan import DosedLine, warm_up_words
from guide_arc.core.planning.racks import rack_of, usual_rack
from guide_arc.drawings.days import day_words
from guide_arc.drawings.palette import PAGE
from guide_arc.drawings.session_sheet import timeline
from guide_arc.drawings.words import tempo_words
from guide_arc.formats.atomic import write_atomic
from guide_arc.formats.csv_cells import text_cell
from guide_arc.library.planning import PlanSheet
from guide_arc.reports.filming import filming_words
from guide_arc.reports.page import typeface_data
from guide_arc.reports.pdf import pdf_of
from guide_arc.reports.svg import svg
from guide_arc.standards.cautions import caution_words
from guide_arc.standards.filming import filming_plan

_LB = 0.45359237


@dataclass(frozen=True)
class SheetLine:
    """One line of the sheet that the client takes along."""

    name: str
    setup: str
    dose: str
    tempo: str
    rest: str
    reserve: str
    pair: str
    note: str
    stop: bool
    film: str


def sheet_lines(sheet: PlanSheet) -> list[SheetLine]:
    return [_line(sheet, d) for d in sheet.lines]


def _line(sheet: PlanSheet, d: DosedLine) -> SheetLine:
    asked = d.asked
    low, high = asked.reps
    reps = f"{low}" if low == high else f"{low}–{high}"
    load = f"{_weight(sheet, asked.load_kg)}, " if asked.load_kg is not None else ""
    dose = "ask a licensed clinician first" if asked.ask_first else f"{load}{asked.sets} × {reps}"
    if asked.back_off is not None:
        off = asked.back_off
        dose += f", then {_weight(sheet, off.load_kg)} {off.sets} × {off.reps[0]}–{off.reps[1]}"
    return SheetLine(
        name=d.name,
        setup=_setup(sheet, d),
        dose=dose,
        tempo="" if asked.ask_first else tempo_words(asked.tempo),
        rest="" if asked.ask_first else f"{asked.rest_s} s",
        pair=d.line.pair,
        reserve=asked.reserve_words,
        note=d.line.override.why or asked.reason,
        stop=asked.ask_first,
        film="" if asked.ask_first else filming_words(filming_plan(d.plan).first, d.plan),
    )


def _setup(sheet: PlanSheet, d: DosedLine) -> str:
    """How the exercise is set up; this client's own setup first, where one is kept."""
    own = sheet.known.setups.get(d.plan.id)
    return f"{own[:1].upper()}{own[1:]}. {d.plan.setup}" if own else d.plan.setup


def session_html(sheet: PlanSheet, coach: str) -> str:
    """The sheet as one HTML file that needs nothing else."""
    environment = Environment(
        loader=PackageLoader("guide_arc.reports"),
        autoescape=select_autoescape(),
        trim_blocks=True,
        lstrip_blocks=True,
    )
    todo = [d for d in sheet.lines if not d.asked.ask_first]
    warm = ""
    if todo:
        load = todo[0].asked.load_kg
        rack = rack_of(sheet.known.client, todo[0].plan) or usual_rack(
            todo[0].plan.dose.load_step_kg, load
        )
        warm = warm_up_words(todo[0], rack)
    cautions = dict.fromkeys(c for d in sheet.lines for c in d.plan.cautions)
    picture = svg(
        timeline(700, 110, sheet.lines, sheet.slots, None), PAGE, "The session to scale in time"
    )
    return environment.get_template("session.html").render(
        client=sheet.known.client.name,
        day=day_words(sheet.session.on.isoformat()),
        coach=coach,
        minutes=round(sheet.length_s / 60),
        lines=sheet_lines(sheet),
        warm_up=warm,
        picture=Markup(picture),
        cautions=[caution_words()[c] for c in cautions if c in caution_words()],
        font=typeface_data(),
        c=PAGE,
    )


def write_session(sheet: PlanSheet, target: Path, coach: str) -> Path:
    """Write the sheet as PDF to `target`, as HTML and as CSV next to it, each whole or not at
    all."""
    html = session_html(sheet, coach)
    pdf = pdf_of(html)
    target = target.with_suffix(".pdf")
    write_atomic(target.with_suffix(".html"), html.encode(), mode=0o600)
    write_atomic(target.with_suffix(".csv"), session_csv(sheet).encode(), mode=0o600)
    write_atomic(target, pdf, mode=0o600)
    return target


def session_csv(sheet: PlanSheet) -> str:
    """A row a line, in kilograms and seconds."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(
        [
            "date",
            "standard",
            "name",
            "change",
            "load_kg",
            "sets",
            "reps_low",
            "reps_high",
            "tempo",
            "rest_s",
            "pair",
            "why",
        ]
    )
    for d in sheet.lines:
        asked = d.asked
        load = "" if asked.load_kg is None else f"{asked.load_kg:g}"
        writer.writerow(
            [
                sheet.session.on.isoformat(),
                text_cell(d.plan.id),
                text_cell(d.name),
                asked.change,
                load,
                asked.sets,
                *asked.reps,
                str(asked.tempo),
                asked.rest_s,
                text_cell(d.line.pair),
                text_cell(asked.reason),
            ]
        )
    return out.getvalue()


def calendar(sheets: Sequence[PlanSheet], coach: str, now: datetime | None = None) -> bytes:
    """One event a session, as iCalendar (RFC 5545). The same session gives the same event, also
    after it was moved: what is sent later takes the place of what was sent before."""
    sent = now or datetime.now(UTC)
    found = Calendar()
    found.add("prodid", "-//Guide Arc//sessions//EN")
    found.add("version", "2.0")
    for sheet in sheets:
        name, on = sheet.known.client.name, sheet.session.on
        start = datetime.combine(on, sheet.known.client.session_at)
        event = Event()
        same = f"guide-arc/{name}/{sheet.session.identity}"
        event.add("uid", f"{uuid5(NAMESPACE_URL, same)}@guide-arc")
        event.add("dtstamp", sent)
        event.add("sequence", int(sent.timestamp()) // 60)  # calendars take the higher one
        event.add("dtstart", start)
        event.add("dtend", start + timedelta(seconds=max(sheet.length_s, 600.0)))
        event.add("summary", f"Training: {name}")
        rows = [f"{line.name}: {line.dose}" for line in sheet_lines(sheet)]
        event.add(
            "description",
            "\n".join(
                [*rows, "", "Pain is not a training signal: stop, and see a licensed clinician."]
            ),
        )
        if coach:
            event.add("comment", f"from {coach}")
        found.add_component(event)
    return bytes(found.to_ical())


def _weight(sheet: PlanSheet, kg: float) -> str:
    return f"{kg:g} kg" if sheet.known.client.weight == "kg" else f"{kg / _LB:.0f} lb"
