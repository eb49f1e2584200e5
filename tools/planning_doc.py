"""Makes docs/planning.md with its pictures: `./run dev python tools/planning_doc.py` (ten
minutes)."""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable
from concurrent.futures import ProcessPoolExecutor
from datetime import timedelta
from functools import partial
from pathlib import Path

import numpy as np

from guide_arc.core.model.standard import Standard
from guide_arc.core.planning.scheme import Scheme
from guide_arc.core.simulate.fixed_policy import best_of
from guide_arc.core.simulate.training import (
    ONE_PHONE,
    START,
    SimulatedClient,
    Trained,
    trained_year,
)
from guide_arc.core.simulate.year_figures import (
    longest_stall,
    progress_kg,
    sessions_to_recover,
    share_held,
)
from guide_arc.drawings.palette import PAGE
from guide_arc.drawings.shapes import Disc, Drawing, Stroke, Words
from guide_arc.reports.svg import svg
from guide_arc.standards.loader import standard
from guide_arc.standards.schemes import shipped_schemes

DOCS = Path(__file__).resolve().parent.parent / "docs"
LAYOFF = (30, 34)
STEPS_KG = (1.0, 2.0, 2.5, 5.0)
LEAST_HELD = 0.85
HEAD = """# What the dose engine does over a year

Made by `./run dev python tools/planning_doc.py`. Nothing here is a promise about people. The page shows that the engine
neither runs away nor gets stuck, that form holds under it, and that it comes back after a break.

**The client.** Six simulated clients who can lift 60 kg once train one exercise twice a week for a year
(`core/simulate/training.py`). Their strength follows fitness and fatigue, which fade on their own time. Form gives way in
the last reps before failure. They stop each set where they believe that the reps in reserve are left, and misjudge that by
0.8 reps (standard deviation). They miss 8 % of the sessions, have a sore elbow for ten days, and are away for four weeks
from week 31 on.

**The recording.** One phone films the first set in 85 % of the sessions; all other sets are only noted. It hides one of
three checks, which the coach's own eye answers, and shows 8 % of the others not at all and 3 % too close to tell. The coach
says yes to steps that the engine asks about.

**The comparison.** The best of 27 fixed policies, found by search on the same clients: 1 to 3 reps in reserve, the next weight
after 1 to 3 full sessions with form held, an easier week every 6 or 9 weeks or never. It sees form as it truly was. Only
policies under which form holds in at least 85 % of the sessions count, and a step of more than a tenth asks as much of them
as of the engine.

## Figures

Means over the six clients; *stall* is the longest of all. *Held*: sessions in which form truly held in every set. *Progress*: what can be lifted once more
at the end of the year than at its beginning, rested, and its share of the best fixed policy's. *Stall*: the most sessions in a row
with the same weight and reps although all was done, form held and nothing had to be checked. *Back*: sessions after
the break until the dose is harder again.

| scheme | rack steps | sessions | held | progress | of the best policy | stall | back |
| --- | --- | --- | --- | --- | --- | --- | --- |
"""
NOTES = """
Schemes that differ only in tempo, holds or order have the figures of the first one: the simulated client does not feel them.
Form holds in at least 85 % of the sessions and progress reaches 90 % of the best policy, with these exceptions:

- *Partials after the last full rep* goes to the last full rep by its nature, so its form holds less often.
- *Circuit* on a rack of 5 kg: it grows by five reps a session up to fifty, and a step of 25 % then asks for 63 reps twice. The fixed policies do
  as many reps as they can from the first session on.
- *Fifteens* on a rack of 5 kg come to 89 %.

On racks of 5 kg a step of more than a tenth waits for two sessions with a quarter more reps, and an easier week goes down by a whole
step. The fixed policies have no lighter weeks and go on after a break where they were.

## Four weeks for six clients

`./run dev python bench/six_clients.py` opens each plan of the demo library, takes the first proposed session, plans four weeks, and writes all
sheets and calendars. That takes 28 keys and clicks, and the program works for 6 s: 1.5 minutes for a coach who needs three seconds for
each key.
"""


def clients() -> list[Callable[[], SimulatedClient]]:
    return [
        partial(SimulatedClient, 60.0, seed=seed, misses=0.08, sore_days=10, phone=ONE_PHONE)
        for seed in range(1, 7)
    ]


def rack(step_kg: float) -> tuple[float, ...]:
    return tuple(10.0 + step_kg * i for i in range(int(80 / step_kg) + 1))


def exercise(scheme: Scheme) -> Standard:
    return standard("kneeling-cable-crunch" if scheme.grows == "reps" else "standing-barbell-curl")


def row(job: tuple[Scheme, float]) -> str:
    """One line of the table: a scheme on a rack."""
    scheme, step_kg = job
    plan, kg = exercise(scheme), rack(step_kg)
    years = [trained_year(make(), plan, kg, scheme, layoff=LAYOFF) for make in clients()]
    _policy, best = best_of(clients(), plan, kg, scheme, LAYOFF, LEAST_HELD)
    back_on = START + timedelta(weeks=LAYOFF[1])
    progress = float(np.mean([progress_kg(y) for y in years]))
    held = float(np.mean([share_held(y) for y in years]))
    return (
        f"| {scheme.name} | {step_kg:g} kg | {np.mean([len(y) for y in years]):.0f} | {100 * held:.0f} % |"
        f" {progress:.1f} kg | {100 * progress / best:.0f} % | {max(map(longest_stall, years))} |"
        f" {np.mean([sessions_to_recover(y, back_on) for y in years]):.1f} |"
    )


def like_the_first(scheme: Scheme) -> tuple[object, ...]:
    """What of a scheme the simulated client feels."""
    dose = scheme.dose(exercise(scheme))
    return (
        exercise(scheme).id,
        dose.reps,
        dose.sets[0],
        scheme.in_reserve,
        scheme.grows,
        scheme.back_off,
    )


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


def section(scheme: Scheme) -> list[str]:
    """A scheme with the first client's year on a rack of 2 kg steps."""
    year = trained_year(clients()[0](), exercise(scheme), rack(2.0), scheme, layoff=LAYOFF)
    name = f"planning-{scheme.id}.svg"
    drawn = svg(picture(year), PAGE, f"A year of {scheme.name}")
    (DOCS / "pictures" / name).write_text(drawn + "\n", encoding="utf-8")
    count = Counter(t.asked.change for t in year)
    back = next((t for t in year if t.on >= START + timedelta(weeks=LAYOFF[1])), year[-1])
    return [
        f"## {scheme.name[:1].upper()}{scheme.name[1:]}",
        "",
        f"{scheme.why} {scheme.limits}",
        "",
        f"![The weight over a year](pictures/{name})",
        "",
        (
            f"{len(year)} sessions. Harder {count['up']}, more reps {count['more-reps']}, the same"
            f" {count['same']}, easier {count['down']}, rest {count['deload']}. First session after the"
            f" break: {back.asked.load_kg:g} kg, because {back.asked.reason}."
        ),
        "",
    ]


def page() -> str:
    (DOCS / "pictures").mkdir(exist_ok=True)
    schemes = list(shipped_schemes().values())
    differ = {like_the_first(s): s for s in reversed(schemes)}
    told = [s for s in schemes if s in differ.values()]
    with ProcessPoolExecutor() as pool:
        rows = list(pool.map(row, [(s, kg) for s in told for kg in STEPS_KG]))
    head = HEAD + "\n".join(rows) + "\n" + NOTES
    parts = [
        head,
        "## The schemes",
        "",
        (
            "The first client on a rack of 2 kg steps. Ink is the weight asked, dashed teal what could"
            " be lifted once, red dots are easier sessions."
        ),
        "",
    ]
    for scheme in schemes:
        parts += section(scheme)
    return "\n".join(parts)


if __name__ == "__main__":
    (DOCS / "planning.md").write_text(page(), encoding="utf-8")
