"""What a coach types about a client, and how it is shown to be typed again. Without Qt."""

from __future__ import annotations

import re
from collections.abc import Sequence
from datetime import date
from typing import Final

from guide_arc.core.model.client import PLACES, SIDED, Cleared, Client, SorePlace
from guide_arc.core.model.errors import BadInput, did_you_mean
from guide_arc.core.model.typed_number import with_points

_MOST_WEIGHTS: Final = 400
_KG_PER_LB: Final = 0.45359237
_NUMBER: Final = r"(\d+(?:\.\d+)?)"


def stature_from(text: str) -> float | None:
    """Metres from `1.72`, `1.72 m`, `172 cm` or `5 ft 8 in`; None if nothing is typed."""
    words = with_points(text.strip().lower())
    if not words:
        return None
    feet = re.fullmatch(r"(\d+)\s*(?:ft|')\s*(?:(\d+(?:\.\d+)?)\s*(?:in|\")?)?", words)
    plain = re.fullmatch(r"(\d+(?:\.\d+)?)\s*(m|cm)?", words)
    if feet:
        stature = 0.3048 * float(feet[1]) + 0.0254 * float(feet[2] or 0.0)
    elif plain:
        stature = float(plain[1])
        if plain[2] == "cm" or (plain[2] is None and stature > 3.0):
            stature /= 100.0
    else:
        raise BadInput(
            f"the stature {text.strip()!r} can't be read; write 1.72 m, 172 cm or 5 ft 8 in"
        )
    if not 1.0 <= stature <= 2.5:
        raise BadInput(
            f"a stature of {stature:.2f} m is not possible; stature is between 1.00 and 2.50 m"
        )
    return round(stature, 3)


def stature_words(client: Client) -> str:
    if client.stature_m is None:
        return ""
    if client.length == "cm":
        return f"{client.stature_m:.2f} m"
    inches = round(client.stature_m / 0.0254)
    return f"{inches // 12} ft {inches % 12} in"


def rack_from(text: str, what: str) -> tuple[float, ...]:
    """Kilograms from `2.5 to 30 by 2.5, 34, 38`; pounds where `lb` is behind."""
    words = text.strip().lower()
    if not words:
        return ()
    pounds = "lb" in words
    words = with_points(re.sub(r"(kg|lbs?|\(|\))", "", words))
    out: set[float] = set()
    for part in (p.strip() for p in re.split(r"[;\n,]", words)):
        if not part:
            continue
        row = re.fullmatch(
            rf"{_NUMBER}\s*(?:to|-|–)\s*{_NUMBER}\s*(?:by|in steps of|step)\s*{_NUMBER}", part
        )
        single = re.fullmatch(_NUMBER, part)
        if row:
            first, last, step = (float(n) for n in row.groups())
            if step <= 0 or last < first or (last - first) / step > _MOST_WEIGHTS:
                raise BadInput(
                    f"{what}: “{part}” can't be; the steps go up from the first weight to the last"
                )
            out |= {
                round(first + i * step, 3) for i in range(int((last - first) / step + 1e-9) + 1)
            }
        elif single:
            out.add(float(single[1]))
        else:
            raise BadInput(
                f"{what}: “{part}” can't be read; write 2.5 to 30 by 2.5, and single weights after"
                " commas"
            )
    if pounds:
        out = {round(kg * _KG_PER_LB, 2) for kg in out}
    if any(not 0 < kg <= 1000 for kg in out):
        raise BadInput(f"{what}: weights lie between 0 and 1000 kg")
    return tuple(sorted(out))


def rack_words(rack_kg: Sequence[float]) -> str:
    """The shortest way to type a rack again."""
    parts: list[str] = []
    rest = list(rack_kg)
    while rest:
        run = _run(rest)
        if run >= 3:
            parts.append(f"{rest[0]:g} to {rest[run - 1]:g} by {rest[1] - rest[0]:g}")
        else:
            run = 1
            parts.append(f"{rest[0]:g}")
        del rest[:run]
    return ", ".join(parts)


def _run(weights: list[float]) -> int:
    """How many of the first weights are evenly apart."""
    if len(weights) < 3:
        return len(weights)
    step, n = weights[1] - weights[0], 2
    while n < len(weights) and abs(weights[n] - weights[n - 1] - step) < 1e-6:
        n += 1
    return n


def sore_from(text: str, today: date) -> tuple[SorePlace, ...]:
    """Sore places, one a line: `left elbow from 2031-03-16 to 2031-03-30`; without a day from today
    on."""
    out = []
    for line in (row.strip() for row in text.splitlines()):
        if not line:
            continue
        found = re.fullmatch(
            r"([a-z ]+?)(?:\s+(?:from|since)\s+(\S+))?(?:\s+(?:to|until)\s+(\S+))?", line.lower()
        )
        place = found[1].strip() if found else line
        if not found or place not in (*PLACES, *SIDED):
            raise BadInput(
                f"the sore place {place!r} is not known{did_you_mean(place, (*PLACES, *SIDED))}; "
                f"it is one of {', '.join(PLACES)}, with left or right before it"
            )
        since = _day(found[2]) if found[2] else today
        until = _day(found[3]) if found[3] else None
        if until is not None and until < since:
            raise BadInput(f"{place} was sore until a day before it began")
        out.append(SorePlace(place, since, until))
    return tuple(out)


def sore_words(sore: Sequence[SorePlace]) -> str:
    return "\n".join(
        f"{s.place} from {s.since.isoformat()}" + (f" to {s.until.isoformat()}" if s.until else "")
        for s in sore
    )


_EVERYTHING: Final = "everything"


def cleared_from(text: str, today: date) -> tuple[Cleared, ...]:
    """What a clinician cleared, one a line: `left elbow on 2031-03-16`, `everything`; without a day
    today."""
    out = []
    for line in (row.strip() for row in text.lower().splitlines()):
        if not line:
            continue
        place, _on, day = (part.strip() for part in line.partition(" on "))
        if place not in (*PLACES, *SIDED, _EVERYTHING):
            raise BadInput(
                f"{place!r} can't be cleared{did_you_mean(place, (*PLACES, *SIDED))}; write"
                f" everything, or one of {', '.join(PLACES)}, with left or right before it"
            )
        when = _day(day) if day else today
        if when > today:
            raise BadInput(f"{place} is noted as cleared on {when.isoformat()}, which is to come")
        out.append(Cleared(None if place == _EVERYTHING else place, when))
    return tuple(out)


def cleared_words(cleared: Sequence[Cleared]) -> str:
    return "\n".join(f"{c.place or _EVERYTHING} on {c.on.isoformat()}" for c in cleared)


def days_from(text: str) -> tuple[date, ...]:
    """Days after commas: `2031-03-16, 2031-03-18`."""
    return tuple(sorted({_day(part.strip()) for part in text.split(",") if part.strip()}))


def days_typed(days: Sequence[date]) -> str:
    return ", ".join(day.isoformat() for day in days)


def _day(text: str) -> date:
    try:
        return date.fromisoformat(text)
    except ValueError:
        raise BadInput(f"the day {text!r} can't be read; write it as 2031-03-16") from None
