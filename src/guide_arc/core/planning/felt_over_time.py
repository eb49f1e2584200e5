"""Where it was felt and what was sore, over time."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from typing import Final, Literal

from guide_arc.core.model.client import Client
from guide_arc.core.planning.kept_set import KeptSet
from guide_arc.core.planning.pain import speaks_of_pain

Kind = Literal["on-target", "elsewhere", "pain", "sore"]
# The place used for pain that was marked without one.
NO_PLACE: Final = "pain, place not noted"


@dataclass(frozen=True)
class FeltSpan:
    """One place over the time in which it was named in set after set. until : None if it is not
    over

    with_title : the fault that was measured in most of these sets, in words; empty if there was
        none
    """

    place: str
    kind: Kind
    since: date
    until: date | None
    sets: int
    with_title: str = ""


def felt_spans(client: Client, sets: Sequence[KeptSet], muscle: str) -> tuple[FeltSpan, ...]:
    """What was felt in the sets of one exercise, and the client's sore places, the worst kind
    first.

    sets : oldest first; muscle : the one that the exercise aims at
    """
    out: list[FeltSpan] = []
    named = [s for s in sets if s.felt]
    for place in dict.fromkeys(p for s in named for p in s.felt):
        run: list[KeptSet] = []
        for s in (*named, None):
            if s is not None and place in s.felt:
                run.append(s)
                continue
            if run:
                out.append(_span(place, run, muscle))
            run = []
    out += _flagged(sets)
    out += [FeltSpan(s.place, "sore", s.since, s.until, 0) for s in client.sore]
    order: tuple[Kind, ...] = ("sore", "pain", "elsewhere", "on-target")
    return tuple(sorted(out, key=lambda f: (order.index(f.kind), f.since)))


def _flagged(sets: Sequence[KeptSet]) -> list[FeltSpan]:
    """Runs of sets that were marked with pain without a word of where."""
    out: list[FeltSpan] = []
    run: list[KeptSet] = []
    for s in (*sets, None):
        if s is not None and s.pain and not speaks_of_pain(s.felt):
            run.append(s)
            continue
        if run:
            out.append(FeltSpan(NO_PLACE, "pain", run[0].on, run[-1].on, len(run)))
        run = []
    return out


def _span(place: str, run: list[KeptSet], muscle: str) -> FeltSpan:
    kind: Kind = "on-target" if place == muscle else "elsewhere"
    if speaks_of_pain((place,)):
        kind = "pain"
    titles = [c.title for s in run for c in s.trace.checks if c.verdict == "off"]
    common = max(dict.fromkeys(titles), key=titles.count, default="") if kind != "on-target" else ""
    often = common if titles.count(common) * 2 >= len(run) else ""
    return FeltSpan(place, kind, run[0].on, run[-1].on, len(run), often)
