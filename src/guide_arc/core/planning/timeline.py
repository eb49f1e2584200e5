"""A session to scale in time: what happens when, and what each region gets."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from typing import Final, Literal

from guide_arc.core.model.client import Client
from guide_arc.core.planning.kept_set import KeptSet
from guide_arc.core.planning.one_arm import alike, spared_arm
from guide_arc.core.planning.plan import DosedLine, Knowledge, session_of, sore_for
from guide_arc.core.planning.rules import PLAN
from guide_arc.core.planning.session import SessionLine, blocks_of

Kind = Literal["warm-up", "set", "rest", "change"]


@dataclass(frozen=True)
class Slot:
    """One stretch of a session. line : index among the lines that are done; None for the warm-up"""

    kind: Kind
    start_s: float
    end_s: float
    line: int | None = None


def slots_of(lines: Sequence[DosedLine]) -> tuple[Slot, ...]:
    """A session from its first minute to its last: the same sums as its figures."""
    session = session_of(lines)
    if session is None:
        return ()
    out = [Slot("warm-up", 0.0, session.warm_up_s)]
    at = session.warm_up_s
    done = [i for i, d in enumerate(lines) if not d.asked.ask_first]
    index = {id(line): done[i] for i, line in enumerate(session.lines)}

    def add(kind: Kind, seconds: float, line: SessionLine | None) -> None:
        nonlocal at
        if seconds > 0:
            out.append(Slot(kind, at, at + seconds, index[id(line)] if line is not None else None))
        at += seconds

    for n, block in enumerate(blocks_of(session.lines)):
        if n:
            add("change", session.change_s, block[0])
        for line, rest in _in_turn(block):
            add("set", line.work_s / line.sets, line)
            add("rest", rest, line)
    return tuple(out)


def _in_turn(block: tuple[SessionLine, ...]) -> list[tuple[SessionLine, float]]:
    """Each set of a block with the rest after it."""
    if len(block) == 1:
        (line,) = block
        return [(line, line.rest_s if i < line.sets - 1 else 0.0) for i in range(line.sets)]
    a, b = block
    rounds, longer = min(a.sets, b.sets), a if a.sets > b.sets else b
    left = longer.sets - rounds
    out: list[tuple[SessionLine, float]] = []
    for i in range(rounds):
        out.append((a, 0.0))
        last = i == rounds - 1
        out.append((b, (longer.rest_s if left else 0.0) if last else max(a.rest_s, b.rest_s)))
    out += [(longer, longer.rest_s if i < left - 1 else 0.0) for i in range(left)]
    return out


# A session that takes less of the time than this has room for more.
_SHORT_SHARE: Final = 0.6


@dataclass(frozen=True)
class RegionTurn:
    """What a region had and gets.

    done, planned : sets within the window; days : since its last set, None for never; tension_s :
        planned
    resting : the sore place for which all that is known of the region has to wait
    """

    region: str
    done: int
    planned: int
    days: int | None
    neglected: bool
    tension_s: float
    resting: str = ""


def regions_of(
    lines: Sequence[DosedLine], known: Knowledge, on: date, regions: Sequence[str]
) -> tuple[RegionTurn, ...]:
    """Each region over the days that it may go without a set, up to a day."""
    since = on - timedelta(days=known.client.neglect_days)
    out = []
    for region in regions:
        own = [
            s for s in known.sets if _region(s, known) == region and s.on < on and s.on > date.min
        ]
        last = max((s.on for s in own), default=None)
        planned = [d for d in lines if d.plan.region == region and not d.asked.ask_first]
        days = (on - last).days if last else None
        resting = _resting(region, known, on)
        overdue = days is None or days > known.client.neglect_days
        out.append(
            RegionTurn(
                region=region,
                done=sum(s.on >= since for s in own),
                planned=sum(d.asked.sets for d in planned),
                days=days,
                neglected=not planned and overdue and not resting,
                tension_s=sum(d.as_line().under_tension_s for d in planned),
                resting=resting,
            )
        )
    return tuple(out)


def _resting(region: str, known: Knowledge, on: date) -> str:
    """The sore place that stops every exercise of a region; empty if one can be done."""
    own = [p for p in known.standards.values() if p.region == region]
    stopped = [sore_for(p, known, on) for p in own]
    alone = any(spared_arm(p, known.client.sore_on(on)) for p in own)
    return stopped[0][0] if stopped and all(stopped) and not alone else ""


def _region(done: KeptSet, known: Knowledge) -> str:
    plan = known.standards.get(done.standard)
    return plan.region if plan else ""


def advice(
    lines: Sequence[DosedLine],
    turns: Sequence[RegionTurn],
    client: Client,
    length_s: float,
    dropped: Sequence[str],
) -> tuple[str, ...]:
    """What a coach would say of the session as a whole."""
    out: list[str] = []
    most = 60.0 * client.session_min
    if length_s > most:
        out.append(
            f"{length_s / 60:.0f} min are planned and {client.session_min} are there: leave out"
            f" {', '.join(dropped)}."
        )
    front = sum(
        t.planned for t in turns if t.region in ("front-shoulder", "chest-upper", "chest-lower")
    )
    rear = sum(t.planned for t in turns if t.region in ("rear-shoulder", "back", "traps"))
    if front > PLAN.most_of_opposite * max(rear, 0.5):
        out.append(f"Front work outweighs rear {front} to {rear}: more rear sets would even it.")
    elif rear > PLAN.most_of_opposite * max(front, 0.5) and front:
        out.append(f"Rear work outweighs front {rear} to {front}.")
    first_name = client.name.split()[0]
    for region in client.weak:
        own = [d for d in lines if d.plan.region == region]
        if not own:
            out.append(
                f"{region_name(region)} comes first for {first_name} and has no line: add one (A)."
            )
        elif all(d.asked.ask_first for d in own):
            out.append(
                f"{region_name(region)} comes first for {first_name}, and waits for a"
                " clinician's word."
            )
    # A region that was never trained is a choice; one that was, and no longer is, is forgotten.
    forgotten = [t for t in turns if t.neglected and t.days is not None]
    for t in sorted(forgotten, key=lambda t: -(t.days or 0))[:2]:
        out.append(f"{region_name(t.region)} had none for {t.days} days: give it a turn.")
    for label in dict.fromkeys(d.line.pair for d in lines if d.line.pair):
        pair = [d for d in lines if d.line.pair == label]
        if (
            len(pair) == 2
            and all(d.plan.pull == "cable" for d in pair)
            and pair[0].plan.pulley_m != pair[1].plan.pulley_m
        ):
            out.append(
                f"{pair[0].plan.name} and {pair[1].plan.name} take turns, but want the pulley at"
                " two heights."
            )
        if (
            len(pair) == 2
            and all(d.plan.held == "bar" for d in pair)
            and pair[0].asked.load_kg != pair[1].asked.load_kg
        ):
            out.append(
                f"{pair[0].plan.name} and {pair[1].plan.name} take turns on one bar, whose"
                " weight changes each round."
            )
        if len(pair) != 2:
            out.append(f"{pair[0].plan.name} is paired with nothing.")
    if lines and length_s < _SHORT_SHARE * most:
        planned = f"{length_s / 60:.0f} of {client.session_min} min are planned"
        out.append(f"{planned}: G proposes whole sessions.")
    return tuple(out)


def around_sore(lines: Sequence[DosedLine], known: Knowledge, on: date) -> str:
    """Where sore places stop a line: what leaves them alone, in words; empty if none stops."""
    resting = [d for d in lines if d.cautions]
    stopped = list(dict.fromkeys(place for d in resting for place in d.cautions))
    if not stopped:
        return ""
    places = f"the {' and the '.join(stopped)}"
    sore = known.client.sore_on(on)
    alone = next((d for d in resting if spared_arm(d.plan, sore) is not None), None)
    first = ""
    if alone is not None:
        arm = spared_arm(alone.plan, sore)
        first = f"{alone.plan.name}: the {arm} arm can go on by itself (1). "
    taken = {d.plan.id for d in lines}
    offered = [
        p for p in known.standards.values() if p.id not in taken and not sore_for(p, known, on)
    ]
    free = [p.name for p in alike(resting[0].plan, offered)]
    if not free:
        return f"{first}No other exercise leaves {places} alone."
    names = [f"{name[:1].lower()}{name[1:]}" for name in free[:3]]
    more = f" and {len(free) - 3} more" if len(free) > 3 else ""
    verb = "leaves" if len(free) == 1 else "leave"
    return first + (
        f"{', '.join(names)[:1].upper()}{', '.join(names)[1:]}{more} {verb} {places} alone (A adds"
        " one)."
    )


def region_name(region: str) -> str:
    """`Lower chest`, of `chest-lower`"""
    parts = region.split("-")
    words = f"{parts[1]} chest" if parts[0] == "chest" else " ".join(parts)
    return f"{words[:1].upper()}{words[1:]}"
