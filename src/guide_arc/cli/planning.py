"""`guide-arc dose` and `guide-arc session`: what to do next, and how long it takes."""

from __future__ import annotations

from pathlib import Path
from typing import Annotated

import typer

from guide_arc.cli.terminal import say
from guide_arc.core.model.prescription import Prescription
from guide_arc.core.planning.dose import next_dose
from guide_arc.core.planning.over_weeks import Weeks, weeks_of
from guide_arc.core.planning.rules import PLAN
from guide_arc.core.planning.session import SessionFigures, figures_of_session
from guide_arc.formats.planning_json import (
    dose_json,
    read_history,
    read_session,
    read_weeks,
    session_json,
    weeks_json,
)
from guide_arc.standards.loader import standard
from guide_arc.standards.tempo import parse_tempo

_CHANGE = {
    "up": "Harder",
    "same": "The same weight",
    "down": "Easier",
    "more-reps": "More reps",
    "deload": "An easier week",
    "stop": "Stop",
}


def dose(
    history: Annotated[Path, typer.Argument(help="What was done of one exercise, as JSON.")],
    json: Annotated[bool, typer.Option("--json", help="Print as JSON.")] = False,
) -> None:
    """The next prescription of one exercise, with its reasons."""
    found = next_dose(read_history(history, standard))
    say(dose_json(found) if json else _dose_words(found))


def weeks(
    history: Annotated[
        Path, typer.Argument(help="What was done of one exercise and measured, as JSON.")
    ],
    json: Annotated[bool, typer.Option("--json", help="Print as JSON.")] = False,
) -> None:
    """Loads at which form held, trends that are more than scatter, and what each cue did."""
    known, sets = read_weeks(history, standard)
    found = weeks_of(known, sets)
    say(weeks_json(found) if json else _weeks_words(found))


def session(
    plan: Annotated[Path, typer.Argument(help="A session's lines, as JSON.")],
    json: Annotated[bool, typer.Option("--json", help="Print as JSON.")] = False,
) -> None:
    """A session's length, time under tension, balance and warnings."""
    planned = read_session(plan, standard, parse_tempo)
    figures = figures_of_session(planned)
    names = [line.standard.name for line in planned.lines]
    say(session_json(figures) if json else _session_words(figures, names))


def _weeks_words(found: Weeks) -> str:
    words = {"better": "getting better", "worse": "getting worse", "none": "no sure change"}
    lines = []
    for trend in found.trends:
        if trend.per_week is None or trend.uncertainty is None:
            few = (
                f"too early to tell: it takes {PLAN.fewest_for_slope} sets from the same side at"
                " about the same load"
            )
            lines.append(f"{trend.measure}: {few}")
        else:
            slope = f"{trend.per_week:+.2g} a week ± {trend.uncertainty:.2g}"
            lines.append(f"{trend.measure}: {words[trend.word]} ({slope})")
    after = {"worked": "it worked", "no-change": "no sure change", "worse": "it got worse since"}
    for cue in found.cues:
        said = after.get(
            cue.word, f"too early to tell: it takes {PLAN.fewest_after_cue} sets after it"
        )
        lines.append(f"cue for {cue.check} on {cue.on}: {said} ({cue.sets_after} sets after it)")
    for load in found.loads:
        held = f"held at {load.held_kg:g} kg" if load.held_kg is not None else "not seen to hold"
        broke = f", broke at {load.broke_kg:g} kg" if load.broke_kg is not None else ""
        lines.append(f"{load.check}: {held}{broke}")
    return "\n".join(lines) or "nothing was measured yet"


def _dose_words(found: Prescription) -> str:
    load = f"{found.load_kg:g} kg, " if found.load_kg is not None else ""
    low, high = found.reps
    number = f"{low}" if low == high else f"{low}–{high}"
    lines = [_CHANGE[found.change]]
    if found.change != "stop":
        rest = f"{found.sets} × {number}, tempo {found.tempo}, {found.rest_s} s of rest"
        lines[0] += f": {load}{rest}"
    lines += [f"  because {reason}" for reason in found.reasons]
    lines.append(f"  what would change it: {found.then}")
    if found.ask is not None:
        lines.append(f"  your decision: {found.ask.load_kg:g} kg next? ({found.ask.why})")
    lines += [f"  question: {question}" for question in found.questions]
    return "\n".join(lines)


def _session_words(figures: SessionFigures, names: list[str]) -> str:
    lines = [
        (
            f"{_minutes(figures.length_s)}: {_minutes(sum(figures.work_s))} of work,"
            f" {_minutes(figures.rest_s)} of rest, {_minutes(figures.under_tension_s)} under"
            " tension"
        ),
        *(
            f"  {name}: {_minutes(work)}, under tension {tension:.0f} s"
            for name, work, tension in zip(names, figures.work_s, figures.tension_s, strict=True)
        ),
        "  " + ", ".join(f"{region}: {sets} sets" for region, sets in figures.regions.items()),
        *(f"  note: {words}" for words in figures.warnings),
    ]
    return "\n".join(lines)


def _minutes(seconds: float) -> str:
    return f"{int(seconds // 60)} min {round(seconds % 60):02d} s"
