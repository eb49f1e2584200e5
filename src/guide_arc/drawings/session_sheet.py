"""A session to scale in time, its lines, why each dose is what it is, and what the regions had."""

from __future__ import annotations

import textwrap
from collections.abc import Sequence
from typing import Final

import numpy as np

from guide_arc.core.model.prescription import Change
from guide_arc.core.planning.kept_set import KeptSet
from guide_arc.core.planning.memory import memory_words
from guide_arc.core.planning.plan import DosedLine
from guide_arc.core.planning.timeline import RegionTurn, Slot
from guide_arc.drawings.days import short_day
from guide_arc.drawings.shapes import Area, Disc, Drawing, Role, Stroke, Words

# A line of a session has two rows of words, pixels.
ROW: Final = 52.0
_NAMES: Final = {
    "chest-upper": "upper chest",
    "chest-lower": "lower chest",
    "front-shoulder": "front shoulder",
    "side-shoulder": "side shoulder",
    "rear-shoulder": "rear shoulder",
    "elbow-flexors": "elbow flexors",
}


def timeline(
    width: float,
    height: float,
    lines: Sequence[DosedLine],
    slots: Sequence[Slot],
    chosen: int | None,
) -> Drawing:
    """Every set as long as it takes, the rests between, and the kit's changes."""
    out = Drawing(width, height)
    if not slots:
        out.add(
            Words(
                width / 2,
                height / 2,
                "No line is to be done: add an exercise with A.",
                "muted",
                12.5,
                anchor="middle",
            )
        )
        return out
    total = slots[-1].end_s
    left, right, floor = 14.0, width - 14.0, height - 46.0
    scale = (right - left) / total

    def x_of(seconds: float) -> float:
        return left + seconds * scale

    for slot in slots:
        a, b = x_of(slot.start_s), x_of(slot.end_s)
        if slot.kind == "set":
            role: Role = "guide" if slot.line == chosen else "actual"
            lean = min(2.0, 0.2 * (b - a))
            shape = np.array(
                [(a, floor), (a + lean, floor - 34), (b - lean, floor - 34), (b, floor)]
            )
            out.add(Area(shape, role, 0.9))
        elif slot.kind == "warm-up":
            out.add(Area(_box(a, floor - 9, b, floor), "held"))
        elif slot.kind == "rest":
            out.add(Area(_box(a, floor - 3, b, floor), "held", 0.7))
    out.add(Stroke(np.array([(left, floor), (right, floor)]), "rule"))
    out.add(Words(left, floor + 16, "warm-up", "muted", 11))
    first: dict[int, float] = {}
    for slot in slots:
        if slot.kind == "set" and slot.line is not None:
            first.setdefault(slot.line, slot.start_s)
    starts = sorted(first.items(), key=lambda item: item[1])
    for n, (i, start) in enumerate(starts):
        end = starts[n + 1][1] if n + 1 < len(starts) else total
        room = (end - start) * scale - 6
        most = int(room / 6.2)
        name = lines[i].name
        if most >= 4:
            fitted = name if len(name) <= most else name[: most - 1].rstrip() + "…"
            out.add(
                Words(
                    x_of(start),
                    floor + 16,
                    fitted,
                    "guide" if i == chosen else "muted",
                    11,
                    i == chosen,
                )
            )
    step = 600.0 if total > 1500 else 300.0
    for k in range(int(total / step) + 1):
        word = "0" if k == 0 else f"{k * step / 60:.0f} min"
        out.add(Words(x_of(k * step), floor + 34, word, "faint" if k else "muted", 10.5))
    return out


def lines_height(count: int) -> float:
    return max(ROW * count, ROW)


def lines_sheet(width: float, lines: Sequence[DosedLine], chosen: int | None) -> Drawing:
    """A row a line: which way the dose goes, what, and why."""
    out = Drawing(width, lines_height(len(lines)))
    if not lines:
        out.add(Words(14, 30, "Nothing is planned. A adds an exercise.", "muted", 12.5))
    for i, line in enumerate(lines):
        top = i * ROW
        if i == chosen:
            out.add(Area(_box(1, top + 1, width - 1, top + ROW - 1), "guide-soft", 0.45))
            out.add(Area(_box(1, top + 6, 4, top + ROW - 6), "guide"))
        elif i:
            out.add(Stroke(np.array([(12, top), (width - 12, top)]), "rule"))
        sign(out, 24, top + 25, line.proposed.change)
        pair = f"{line.line.pair}: " if line.line.pair else ""
        dose = dose_words(line)
        out.add(
            Words(
                44,
                top + 21,
                _fitted(pair + line.name, width - 60 - 6.4 * len(dose)),
                "ink",
                13,
                True,
            )
        )
        out.add(
            Words(
                x=width - 14,
                y=top + 21,
                text=dose,
                role="ink",
                size=12.5,
                bold=line.changed,
                anchor="end",
            )
        )
        why = line.proposed.reason
        if line.changed:
            why = f"the coach's own; {_proposed_words(line) or why}"
        bad = line.proposed.change in ("down", "stop", "deload")
        out.add(Words(44, top + 40, _fitted(why, width - 60), "off" if bad else "muted", 11.5))
    return out


def _proposed_words(line: DosedLine) -> str:
    """What was proposed, of what the coach changed; empty where only the reason is theirs."""
    was, now = line.proposed, line.asked
    parts = []
    if was.load_kg != now.load_kg and was.load_kg is not None:
        parts.append(f"{was.load_kg:g} kg")
    if was.sets != now.sets:
        parts.append(f"{was.sets} set{'' if was.sets == 1 else 's'}")
    if was.reps != now.reps:
        parts.append(f"{was.reps[0]}–{was.reps[1]} reps")
    if was.rest_s != now.rest_s:
        parts.append(f"{was.rest_s} s of rest")
    return f"proposed: {', '.join(parts)}" if parts else ""


def sign(out: Drawing, x: float, y: float, change: Change) -> None:
    """Which way a dose goes: an arrow's head up or down, a bar for the same, a cross for stop, a
    plus for reps."""
    if change == "up":
        out.add(Stroke(np.array([(x - 6, y + 3), (x, y - 4), (x + 6, y + 3)]), "guide", 2.0))
    elif change in ("down", "deload"):
        out.add(Stroke(np.array([(x - 6, y - 4), (x, y + 3), (x + 6, y - 4)]), "off", 2.0))
        if change == "deload":
            out.add(Stroke(np.array([(x - 6, y + 7), (x + 6, y + 7)]), "off", 2.0))
    elif change == "stop":
        out.add(Stroke(np.array([(x - 5, y - 5), (x + 5, y + 5)]), "off", 2.2))
        out.add(Stroke(np.array([(x - 5, y + 5), (x + 5, y - 5)]), "off", 2.2))
    elif change == "more-reps":
        out.add(Stroke(np.array([(x - 5, y), (x + 5, y)]), "ink", 2.0))
        out.add(Stroke(np.array([(x, y - 5), (x, y + 5)]), "ink", 2.0))
    else:
        out.add(Stroke(np.array([(x - 6, y), (x + 6, y)]), "ink", 2.0))


def dose_words(line: DosedLine) -> str:
    """`7.5 kg · 3 × 8–12, 2 in reserve · 2-1-1-1 · 60 s`."""
    asked = line.asked
    if asked.ask_first:
        return "ask first"
    low, high = asked.reps
    reps = f"{low}" if low == high else f"{low}–{high}"
    parts = [f"{asked.load_kg:g} kg"] if asked.load_kg is not None else []
    leaving = f", {asked.in_reserve} in reserve" if asked.in_reserve else ""
    parts += [f"{asked.sets} × {reps}{leaving}", str(asked.tempo), f"{asked.rest_s} s"]
    if asked.back_off is not None:
        off = asked.back_off
        parts.insert(2, f"then {off.load_kg:g} kg {off.sets} × {off.reps[0]}–{off.reps[1]}")
    return " · ".join(parts)


# Number of sets of the history above the reasons, and their lower end, pixels.
_SHOWN_SETS: Final = 5
_SETS_DOWN_TO: Final = 90.0
# In a lower sheet what is remembered in words takes the place of the sets' pictures, pixels.
_ROOM_FOR_SETS: Final = 220.0


def _shown_sets(height: float, line: DosedLine, history: Sequence[KeptSet]) -> Sequence[KeptSet]:
    remembered = line.memory is not None and memory_words(line.memory)
    return () if remembered and height < _ROOM_FOR_SETS else history[-_SHOWN_SETS:]


def set_at(
    size: tuple[float, float],
    at: tuple[float, float],
    line: DosedLine,
    history: Sequence[KeptSet],
) -> KeptSet | None:
    """The set of the history that is at a place of `why_sheet`. size : of the sheet; at : x and
    y, pixels"""
    (width, height), (x, y) = size, at
    shown = _shown_sets(height, line, history)
    if not shown or y > _SETS_DOWN_TO:
        return None
    return shown[min(max(int((x - 14) / ((width - 28) / len(shown))), 0), len(shown) - 1)]


def why_sheet(
    width: float,
    height: float,
    line: DosedLine,
    history: Sequence[KeptSet],
    jump: float,
    setup: str = "",
) -> Drawing:
    """Why a dose is what it is: the last sets as arcs, the reasons, and what would change it. setup
    : the client's own"""
    out = Drawing(width, height)
    shown = _shown_sets(height, line, history)
    for i, done in enumerate(shown):
        x = 14 + (i + 0.5) * (width - 28) / max(len(shown), 1)
        _arcs(out, x - 12, 44, done)
        load = f"{done.load_kg:g} kg" if done.load_kg is not None else f"{done.full} reps"
        last = i == len(shown) - 1
        out.add(Words(x=x, y=66, text=load, role="ink", size=12, bold=last, anchor="middle"))
        out.add(Words(x, 82, short_day(done.on), "muted", 10.5, anchor="middle"))
        if done.logged is not None:
            out.add(Words(x, 40, "not filmed", "muted", 10.5, anchor="middle"))
    y = 108.0 if shown else 24.0
    if not history:
        out.add(Words(14, y, "Never done before.", "muted", 12))
        y += 22
    asked = line.proposed.questions
    for reason in (*asked, *line.proposed.reasons)[:3]:
        bad = line.proposed.change in ("stop", "down", "deload")
        if reason in asked:
            out.add(Words(x=19, y=y, text="?", role="near", size=14, bold=True, anchor="middle"))
            reason = f"{reason} (Q to answer)"
        else:
            out.add(Disc(19, y - 4, 3.5, "off" if bad else "actual"))
        for words in _wrapped(reason, int((width - 46) / 6.1))[:3]:
            out.add(Words(32, y, words, "ink", 12))
            y += 16
        y += 5
    if line.proposed.ask is not None and line.asked.load_kg != line.proposed.ask.load_kg:
        ask = line.proposed.ask
        out.add(Words(x=19, y=y, text="?", role="near", size=14, bold=True, anchor="middle"))
        for words in _wrapped(
            f"{ask.load_kg:g} kg next? {ask.why} (Y takes it)", int((width - 46) / 6.1)
        ):
            out.add(Words(32, y, words, "ink", 12))
            y += 16
        y += 5
    if setup:
        for words in _wrapped(f"Set up: {setup}", int((width - 28) / 6.1))[:2]:
            out.add(Words(14, y, words, "guide", 12))
            y += 16
        y += 5
    for place in line.cautions:
        out.add(Disc(19, y - 4, 3.5, outline="off", width=1.5))
        out.add(Words(32, y, f"{place} is sore", "off", 12))
        y += 20
    if jump > 0.1 + 1e-9:
        out.add(
            Words(
                14,
                y,
                f"This is {100 * jump:.0f} % more than last time: are you sure?",
                "off",
                12,
                True,
            )
        )
        y += 20
    told = memory_words(line.memory) if line.memory is not None else ()
    # What would change it comes below, where there is room for both.
    below = 46.0 if height >= _ROOM_FOR_SETS else 4.0
    if told and y < height - 60:
        out.add(Words(14, y + 8, "Remembered", "muted", 11.5))
        y += 26
        for sentence in told:
            rows = _wrapped(sentence, int((width - 28) / 6.1))[:2]
            if y + 16 * len(rows) > height - below:
                break
            for words in rows:
                out.add(Words(14, y, words, "ink", 12))
                y += 16
        y += 8
    if line.proposed.then and y < height - 38:
        out.add(Stroke(np.array([(12, y - 6), (width - 12, y - 6)]), "rule"))
        out.add(Words(14, y + 12, "It changes with", "muted", 11.5))
        for n, words in enumerate(_wrapped(line.proposed.then, int((width - 28) / 6.4))[:2]):
            out.add(Words(14, y + 30 + 16 * n, words, "ink", 12, True))
    return out


def _arcs(out: Drawing, x: float, y: float, done: KeptSet) -> None:
    """A set as quarter rings, one a rep: those that broke in another colour and thinner."""
    turn = np.radians(np.linspace(0, 90, 12))
    reps = [r for r in done.trace.reps if r.full][:14]
    for n, rep in enumerate(reps):
        r = 8.0 + 2.0 * n
        arc = np.stack((x + r * np.sin(turn), y - 26 + r * np.cos(turn) - 0.35 * r), axis=-1)
        role: Role = {"held": "actual", "unseen": "unsure", "broke": "off"}[rep.form]  # type: ignore[assignment]
        out.add(Stroke(arc, role, 0.9 if rep.form == "broke" else 1.4, dash=rep.form == "unseen"))


def regions_sheet(width: float, height: float, turns: Sequence[RegionTurn]) -> Drawing:
    """Sets done and planned by region, with the days since its last one."""
    out = Drawing(width, height)
    floor, pitch = height - 28.0, (width - 20.0) / max(len(turns), 1)
    most = max((t.done + t.planned for t in turns), default=1) or 1
    block = min(5.0, (floor - 8.0) / most)
    for i, turn in enumerate(turns):
        x = 10 + i * pitch
        for n in range(turn.done + turn.planned):
            y = floor - (n + 1) * block
            role: Role = "guide" if n >= turn.done else "actual"
            out.add(Area(_box(x + 2, y + 1.2, x + 28, y + block), role))
        out.add(Stroke(np.array([(x, floor + 1), (x + pitch - 10, floor + 1)]), "rule"))
        days = "never" if turn.days is None else f"{turn.days} d"
        late = turn.neglected and turn.days is not None
        out.add(Words(x + 34, floor - 3, days, "off" if late else "muted", 11.5, late))
        out.add(
            Words(
                x,
                floor + 17,
                _NAMES.get(turn.region, turn.region),
                "off" if late else "ink",
                11.5,
                late,
            )
        )
    return out


def _box(a: float, top: float, b: float, bottom: float) -> np.ndarray:
    return np.array([(a, top), (b, top), (b, bottom), (a, bottom)])


def _fitted(words: str, room: float) -> str:
    most = max(int(room / 6.5), 10)
    return words if len(words) <= most else words[: most - 1].rstrip() + "…"


def _wrapped(words: str, most: int) -> list[str]:
    return textwrap.wrap(words, max(most, 16))
