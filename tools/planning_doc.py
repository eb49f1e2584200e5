"""Makes docs/planning.md with its pictures: `./run dev python tools/planning_doc.py`."""

from __future__ import annotations

from collections import Counter
from pathlib import Path

import numpy as np

from guide_arc.core.planning.scheme import Scheme
from guide_arc.core.simulate.training import SimulatedClient, Trained, trained_year
from guide_arc.drawings.palette import PAGE
from guide_arc.drawings.shapes import Disc, Drawing, Stroke, Words
from guide_arc.reports.svg import svg
from guide_arc.standards.loader import standard
from guide_arc.standards.schemes import shipped_schemes

DOCS = Path(__file__).resolve().parent.parent / "docs"
RACK = tuple(float(kg) for kg in range(10, 92, 2))
LAYOFF = (30, 34)


def year_of(scheme: Scheme) -> tuple[Trained, ...]:
    plan = standard("kneeling-cable-crunch" if scheme.grows == "reps" else "standing-barbell-curl")
    return trained_year(SimulatedClient(60.0), plan, RACK, scheme, layoff=LAYOFF)


def picture(year: tuple[Trained, ...]) -> Drawing:
    """The load as a staircase over the weeks, easier sessions marked, strength above."""
    out = Drawing(640, 150)
    first = year[0].on
    left, right, floor, roof = 34.0, 628.0, 126.0, 14.0
    loads = [t.asked.load_kg or 0.0 for t in year]
    top = max(max(loads), max(t.strength_kg for t in year)) * 1.05

    def x_of(t: Trained) -> float:
        return left + (right - left) * (t.on - first).days / 364.0

    def y_of(kg: float) -> float:
        return floor - (floor - roof) * kg / top

    for mark in (0.0, 20.0, 40.0, 60.0):
        out.add(Stroke(np.array([(left, y_of(mark)), (right, y_of(mark))]), "rule"))
        out.add(Words(left - 5, y_of(mark) + 4, f"{mark:.0f}", "muted", 10.5, anchor="end"))
    out.add(
        Stroke(np.array([(x_of(t), y_of(t.strength_kg)) for t in year]), "guide", 1.4, dash=True)
    )
    out.add(
        Stroke(
            np.array([(x_of(t), y_of(kg)) for t, kg in zip(year, loads, strict=True)]),
            "actual",
            1.6,
        )
    )
    for t in year:
        if t.asked.change == "deload":
            out.add(Disc(x_of(t), y_of(t.asked.load_kg or 0.0), 3.5, "off"))
    out.add(Words(left, 146, "week 1", "muted", 10.5))
    out.add(Words(right, 146, "week 52", "muted", 10.5, anchor="end"))
    return out


def page() -> str:
    (DOCS / "pictures").mkdir(exist_ok=True)
    parts = [
        "# What the dose engine does over a year",
        "",
        (
            "Made by `./run dev python tools/planning_doc.py`. A simulated client (60 kg once,"
            " fresh; fitness and fatigue that fade on their own time; form that gives way near"
            " failure) trains twice a week on a rack of 2 kg steps, with four weeks away from week"
            " 31 on. Ink is the weight asked, dashed teal what could be lifted once, red dots are"
            " easier sessions. Nothing here is a promise about people: it shows that the engine"
            " neither runs away nor gets stuck, rests when it is due, and comes back after a break."
        ),
        "",
    ]
    for scheme in shipped_schemes().values():
        year = year_of(scheme)
        name = f"planning-{scheme.id}.svg"
        drawn = svg(picture(year), PAGE, f"A year of {scheme.name}")
        (DOCS / "pictures" / name).write_text(drawn + "\n", encoding="utf-8")
        count = Counter(t.asked.change for t in year)
        back = next((t for t in year if (t.on - year[0].on).days >= 7 * LAYOFF[1]), year[-1])
        held = sum(all(f.verdict == "ok" for s in t.done for f in s.findings) for t in year)
        parts += [
            f"## {scheme.name[:1].upper()}{scheme.name[1:]}",
            "",
            f"{scheme.why} {scheme.limits}",
            "",
            f"![The weight over a year](pictures/{name})",
            "",
            (
                f"{len(year)} sessions, form held in {held}. Harder {count['up']}, more reps"
                f" {count['more-reps']}, the same {count['same']}, easier {count['down']}, rest"
                f" {count['deload']}. First session after the break: {back.asked.load_kg:g} kg,"
                f" because {back.asked.reason}."
            ),
            "",
        ]
    return "\n".join(parts)


if __name__ == "__main__":
    (DOCS / "planning.md").write_text(page(), encoding="utf-8")
