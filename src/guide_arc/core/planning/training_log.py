"""What was done without being filmed: the sets of a session as they are noted, and how a line of
text is read as such sets.

    curl 27.5x12x3 @2          27.5 kg, twelve reps, three sets, two reps left in reserve
    row 40x10 40x10 37.5x9     one set after another
    raise 8x12/10              left twelve, right ten
    dip bw x8 bw+10x5          the body alone, then 10 kg more; 0x8 says the same as bw x8
    assisted dip bw-20x8       20 kg of help
    press 60lbx8 pain          pounds; it hurt
"""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from datetime import date
from typing import Final, NamedTuple

from guide_arc.core.model.errors import BadInput
from guide_arc.core.model.typed_number import number_from
from guide_arc.core.planning.history import DoneSet
from guide_arc.core.planning.pain import speaks_of_pain

_KG_PER_POUND: Final = 0.45359237
# What nobody lifts or does in a set or a session is a slip of the keyboard.
_MOST_KG: Final = 1000.0
_MOST_REPS: Final = 500
MOST_SETS: Final = 30
_MOST_RESERVE: Final = 20

_NUMBER: Final = r"\d+(?:[.,]\d+)?"
# The client's own weight, with what is added to it or taken off.
_BODY: Final = rf"bw(?:\s*[+\-−–]\s*{_NUMBER})?"
_SETS: Final = re.compile(
    rf"(?P<load>{_BODY}|{_NUMBER})\s*(?P<unit>kg|lb|lbs)?\s*[x×*]\s*(?P<left>\d+)(?:/(?P<right>\d+))?"
    r"(?:\s*[x×*]\s*(?P<sets>\d+))?",
    re.IGNORECASE,
)
_RESERVE: Final = re.compile(r"@\s*(?P<left>\d+)")
_EXAMPLE: Final = "such as: curl 27.5x12x3 @2"


@dataclass(frozen=True)
class LoggedSet:
    """A set that was done and not filmed. load_kg : of assisted kit, the help

    left_reps, right_reps : full reps of each arm; 0 for one that did not work
    in_reserve : reps that were left, where that was said
    entry_is_right : the coach was asked about the entry, and says it is right
    """

    standard: str
    on: date
    load_kg: float | None
    left_reps: int
    right_reps: int
    in_reserve: int | None = None
    pain: bool = False
    felt: tuple[str, ...] = ()
    entry_is_right: bool = False

    @property
    def hurt(self) -> bool:
        return self.pain or speaks_of_pain(self.felt)

    @property
    def done(self) -> DoneSet:
        """The set as the next dose rests on it: it shows nothing of form."""
        return DoneSet(
            on=self.on,
            load_kg=self.load_kg,
            left_reps=self.left_reps,
            right_reps=self.right_reps,
            pain=self.pain,
            felt=self.felt,
            filmed=False,
            in_reserve=self.in_reserve,
            one_arm=True,
            entry_is_right=self.entry_is_right,
        )


class Named(NamedTuple):
    """An exercise by which a line may name it. words : all that it can be found by; assisted :
    whether its weight is help"""

    id: str
    name: str
    words: str
    assisted: bool = False


def read_line(
    text: str, on: date, offered: Sequence[Named], usual: Iterable[str] = ()
) -> tuple[LoggedSet, ...]:
    """The sets that a line notes.

    usual : ids of exercises, the likeliest first: where several have the words, the first of these
        is meant
    Raises BadInput, with what would be right, for a line that can't be read so, or that may mean
    several exercises.
    """
    found = list(_SETS.finditer(text))
    if not found:
        raise BadInput(f"no weight and reps in “{text.strip()}”; write them {_EXAMPLE}")
    words = text[: found[0].start()].strip()
    rest = _SETS.sub(" ", text[found[0].start() :])
    reserve = [int(m["left"]) for m in _RESERVE.finditer(rest)]
    felt = " ".join(_RESERVE.sub(" ", rest).replace(",", " ").split())
    if reserve and reserve[-1] > _MOST_RESERVE:
        raise BadInput(f"@{reserve[-1]}: reps in reserve are 0 to {_MOST_RESERVE}")
    standard = named_by(words, offered, usual)
    helped = any(n.assisted for n in offered if n.id == standard)
    sets: list[LoggedSet] = []
    for one in found:
        sets += [_set_of(one, standard, on, assisted=helped)] * _count_of(one)
    pain = felt.lower() == "pain" or speaks_of_pain((felt,))
    told = (felt,) if felt and felt.lower() != "pain" else ()
    out = [replace(s, in_reserve=reserve[-1] if reserve else None) for s in sets]
    out[-1] = replace(out[-1], pain=pain, felt=told)
    return tuple(out)


def set_typed(
    standard: str,
    on: date,
    *,
    load: str,
    reps: str,
    reserve: str = "",
    note: str = "",
    assisted: bool = False,
) -> LoggedSet:
    """A set from the fields of a row: `27.5` or `bw+10`, `12` or `12/10`, `2`, and a free word.

    assisted : whether the exercise's weight is help
    Raises BadInput with what would be right.
    """
    text = f"{load.strip() or '0'}x{reps.strip()}"
    one = _SETS.fullmatch(text)
    if one is None or one["sets"] is not None:
        raise BadInput(f"“{reps.strip()}” reps of “{load.strip()}”; write 27.5 and 12, or 12/10")
    found = _set_of(one, standard, on, assisted=assisted)
    left = reserve.strip().lstrip("@")
    if left and not (left.isdecimal() and int(left) <= _MOST_RESERVE):
        raise BadInput(f"“{left}” in reserve; write how many reps were left, 0 to {_MOST_RESERVE}")
    told = note.strip()
    pain = told.lower() == "pain" or speaks_of_pain((told,))
    return replace(
        found,
        load_kg=found.load_kg if load.strip() else None,
        in_reserve=int(left) if left else None,
        pain=pain,
        felt=(told,) if told and told.lower() != "pain" else (),
    )


def _count_of(one: re.Match[str]) -> int:
    count = int(one["sets"] or 1)
    if not 1 <= count <= MOST_SETS:
        raise BadInput(f"“{one[0].strip()}” says {count} sets; 1 to {MOST_SETS} can be noted")
    return count


def _set_of(one: re.Match[str], standard: str, on: date, *, assisted: bool) -> LoggedSet:
    load = _load_of(one, assisted=assisted)
    if (one["unit"] or "").lower().startswith("lb"):
        load = round(load * _KG_PER_POUND, 2)
    left = int(one["left"])
    right = int(one["right"]) if one["right"] is not None else left
    if load > _MOST_KG:
        raise BadInput(f"“{one[0].strip()}” says {load:g} kg; write weight x reps x sets")
    most = max(left, right)
    if most > _MOST_REPS:
        raise BadInput(f"“{one[0].strip()}” says {most} reps; write weight x reps x sets")
    if not most:
        raise BadInput(f"“{one[0].strip()}” says no reps")
    return LoggedSet(standard, on, load, left, right)


def _load_of(one: re.Match[str], *, assisted: bool) -> float:
    """The weight of a set, before its unit. `bw+10` is 10 kg on a belt; `bw-20` is 20 kg of help,
    which only assisted exercises have."""
    typed = one["load"].lower()
    if not typed.startswith("bw"):
        return number_from(typed)
    sign, more = typed[2:].strip()[:1], typed[2:].strip()[1:].strip()
    if not more:
        return 0.0
    if (sign == "+") == assisted:
        right = "bw-20 for 20 kg of help" if assisted else "bw+10 for 10 kg more"
        raise BadInput(f"“{one['load']}” does not fit this exercise; write {right}")
    return number_from(more)


def named_by(words: str, offered: Sequence[Named], usual: Iterable[str] = ()) -> str:
    """The exercise that has all of these words. Raises BadInput if none has, or if it is
    ambiguous."""
    asked = words.lower().split()
    if not asked:
        raise BadInput(f"which exercise? Begin with words of its name, {_EXAMPLE}")
    exact = [n.id for n in offered if words.lower() in (n.id, n.name.lower())]
    if exact:
        return exact[0]
    fit = [n for n in offered if all(word in n.words for word in asked)]
    if not fit:
        raise BadInput(f"no exercise is found by “{words}”; write words of its name, {_EXAMPLE}")
    if len(fit) == 1:
        return fit[0].id
    ids = {n.id for n in fit}
    known = [id for id in usual if id in ids]
    if known:
        return known[0]
    names = ", ".join(n.name for n in fit[:4]) + (", …" if len(fit) > 4 else "")
    raise BadInput(f"“{words}” may be {names}; write one more word")


def noted_of(
    filmed: Sequence[tuple[str, DoneSet]], logged: Iterable[LoggedSet]
) -> tuple[LoggedSet | None, ...]:
    """For each recorded set the logged one that it shows, if any: of the same exercise and day,
    with its weight and about as many reps. No logged set is shown by two recordings. Where fewer
    were noted than filmed, what was noted is no whole session, but what the camera missed.

    filmed : the recorded sets, each with the id of its exercise
    """
    every = tuple(logged)
    recorded = Counter((standard, done.on) for standard, done in filmed)
    noted = Counter((s.standard, s.on) for s in every)
    left = [s for s in every if noted[s.standard, s.on] >= recorded[s.standard, s.on]]
    found: list[LoggedSet | None] = []
    for standard, done in filmed:
        alike = [s for s in left if (s.standard, s.on) == (standard, done.on) and _is_same(s, done)]
        one = min(alike, key=lambda s: abs(s.done.weaker - done.weaker), default=None)
        if one is not None:
            left.remove(one)
        found.append(one)
    return tuple(found)


# A recording may miss a rep at its start or end that was counted in the gym.
_REPS_APART: Final = 2


def _is_same(logged: LoggedSet, done: DoneSet) -> bool:
    same_load = done.load_kg is None or logged.load_kg is None or done.load_kg == logged.load_kg
    return same_load and abs(logged.done.weaker - done.weaker) <= _REPS_APART


def line_of(sets: Sequence[LoggedSet], name: str) -> str:
    """The sets of one exercise as a line that `read_line` reads again."""
    parts = []
    for load, left, right, count in _runs(sets):
        reps = f"{left}" if left == right else f"{left}/{right}"
        parts.append(f"{load:g}x{reps}" + (f"x{count}" if count > 1 else ""))
    last = sets[-1]
    reserve = f" @{last.in_reserve}" if last.in_reserve is not None else ""
    told = [*(["pain"] if last.pain and not last.felt else []), *last.felt]
    return f"{name} {' '.join(parts)}{reserve}{' ' + ' '.join(told) if told else ''}"


def _runs(sets: Sequence[LoggedSet]) -> list[tuple[float, int, int, int]]:
    out: list[tuple[float, int, int, int]] = []
    for s in sets:
        key = (s.load_kg or 0.0, s.left_reps, s.right_reps)
        if out and out[-1][:3] == key:
            out[-1] = (*key, out[-1][3] + 1)
        else:
            out.append((*key, 1))
    return out
