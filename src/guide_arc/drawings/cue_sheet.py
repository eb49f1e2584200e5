"""Did the cues work? And felt places: two small sheets of a client's page."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date
from typing import Final

import numpy as np

from guide_arc.core.model.finding import Verdict
from guide_arc.core.planning.cues import Followed, Outcome
from guide_arc.core.planning.felt_over_time import FeltSpan, Kind
from guide_arc.core.planning.rules import PLAN
from guide_arc.drawings.days import short_day
from guide_arc.drawings.shapes import Area, Drawing, MarkShape, Role, Stroke, Words
from guide_arc.drawings.weeks_sheet import change_words

# A cue has three lines, pixels.
ROW: Final = 52.0
_MARK: Final[dict[Outcome, Verdict]] = {
    "worked": "ok",
    "better": "near",
    "no-change": "off",
    "worse": "off",
    "waiting": "cannot-tell",
    "unseen": "cannot-tell",
    "too-soon": "cannot-tell",
}
# What was felt has one.
_FELT_ROW: Final = 22.0
_FELT_ROLE: Final[dict[Kind, Role]] = {
    "sore": "off",
    "pain": "off",
    "elsewhere": "near",
    "on-target": "actual",
}


def outcome_words(f: Followed) -> str:
    """`worked, in one set`, `no change in two sets: say it another way`."""
    count = len(f.after)
    sets = f"{_count(count)} set{'' if count == 1 else 's'}"
    words = {
        "worked": f"worked, seen in {sets}",
        "better": f"better in {sets}, not there yet",
        "no-change": f"no change in {sets}",
        "worse": f"worse after {sets}",
        "waiting": "no set since",
        "unseen": "no set since shows it",
        "too-soon": f"too early to tell after {sets}: it takes {PLAN.fewest_after_cue} like it",
    }[f.outcome]
    return f"{words}: say it another way (W)" if f.say_it_otherwise else words


def _count(n: int) -> str:
    return ("no", "one", "two", "three", "four", "five")[n] if n < 6 else str(n)


def cues_height(cues: Sequence[Followed]) -> float:
    return max(ROW * len(cues), ROW)


def cue_sheet(width: float, cues: Sequence[Followed], chosen: int | None = None) -> Drawing:
    """One row a cue, the latest first."""
    out = Drawing(width, cues_height(cues))
    if not cues:
        out.add(Words(14, 28, "A cue is followed from the set in which it was given.", "muted", 12))
    for i, f in enumerate(cues):
        top = i * ROW
        if i:
            out.add(Stroke(np.array([(12, top), (width - 12, top)]), "rule"))
        if chosen == i:
            out.add(Area(_box(2, top + 2, width - 2, top + ROW - 2), "guide-soft", 0.5))
        out.add(MarkShape(20, top + 22, _MARK[f.outcome], 10))
        change = change_words(f.before, f.after, f.unit)
        out.add(
            Words(
                x=width - 14,
                y=top + 20,
                text=change,
                role="ink",
                size=12.5,
                bold=True,
                anchor="end",
            )
        )
        out.add(Words(36, top + 20, _fitted(f"“{f.said.words}”", width - 170), "ink", 12.5))
        told = f"{short_day(f.given_in.on)}: {outcome_words(f)}"
        role: Role = "off" if f.say_it_otherwise else "muted"
        out.add(Words(36, top + 39, told, role, 11.5))
    return out


def felt_height(spans: Sequence[FeltSpan]) -> float:
    return _FELT_ROW * max(len({_label(s) for s in spans}), 1) + 24.0


def felt_sheet(width: float, spans: Sequence[FeltSpan], first: date, last: date) -> Drawing:
    """A bar for each place over the time in which it was named."""
    out = Drawing(width, felt_height(spans))
    if not spans:
        out.add(Words(14, 18, "No place was noted: neither felt nor sore.", "muted", 12))
        return out
    left, right = 190.0, width - 16.0
    days = max((last - first).days, 1)

    def x_of(day: date) -> float:
        return left + (right - left) * float(np.clip((day - first).days / days, 0.0, 1.0))

    labels = list(dict.fromkeys(_label(s) for s in spans))
    for s in spans:
        top = labels.index(_label(s)) * _FELT_ROW + 4
        role = _FELT_ROLE[s.kind]
        a, b = x_of(s.since), x_of(s.until or last)
        out.add(Area(_box(a - 2, top, max(b, a + 4) + 2, top + 10), role))
        if s.kind in ("sore", "pain"):
            out.add(
                Stroke(
                    np.array([(a - 2, top + 13), (max(b, a + 4) + 2, top + 13)]),
                    role,
                    1.0,
                    dash=True,
                )
            )
    for i, label in enumerate(labels):
        bad = any(_label(s) == label and s.kind in ("sore", "pain") for s in spans)
        out.add(Words(14, i * _FELT_ROW + 14, label, "off" if bad else "ink", 12))
    foot = felt_height(spans) - 6
    out.add(Words(left, foot, short_day(first), "muted", 11))
    out.add(Words(right, foot, short_day(last), "muted", 11, anchor="end"))
    return out


def _label(s: FeltSpan) -> str:
    if s.kind == "sore":
        return f"{s.place}, sore"
    return (
        f"{s.place}, with {s.with_title[:1].lower()}{s.with_title[1:]}" if s.with_title else s.place
    )


def _box(a: float, top: float, b: float, bottom: float) -> np.ndarray:
    return np.array([(a, top), (b, top), (b, bottom), (a, bottom)])


def _fitted(words: str, room: float) -> str:
    most = max(int(room / 6.4), 12)
    return words if len(words) <= most else words[: most - 1].rstrip() + "…"
