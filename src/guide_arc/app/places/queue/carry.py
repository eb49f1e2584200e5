"""What is filled in for sets on their way in: what the file says, what the clip shows, or what the
row above has."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from typing import Final, NamedTuple

# In the order in which one follows from the other.
FIELDS: Final = ("client", "standard", "school", "tempo", "load", "view")
# What has to be the same as in the row above before a field is taken from there: a load belongs to
# one person's exercise.
_NEEDS: Final[Mapping[str, tuple[str, ...]]] = {
    "client": (),
    "standard": ("client",),
    "view": ("client",),
    "school": ("client", "standard"),
    "tempo": ("client", "standard"),
    "load": ("client", "standard"),
}

# A client's, standard's, school's or view's name, or a tempo or load as typed.
Value = str | None


class Filled(NamedTuple):
    """A field's value, and whether nobody said it."""

    value: Value
    guessed: bool


@dataclass
class Facts:
    """What is known of one set, by field.

    own : given by the coach or the file; sure : seen in the clip; maybe : seen, but not for sure
    could : if it was examined, all possible values of a field; what the row above has is else not
        taken
    """

    own: dict[str, Value] = field(default_factory=dict)
    sure: dict[str, Value] = field(default_factory=dict)
    maybe: dict[str, Value] = field(default_factory=dict)
    could: dict[str, tuple[str, ...]] = field(default_factory=dict)


def filled(rows: Sequence[Facts]) -> list[dict[str, Filled]]:
    """What is in each row. Later rows take from the one above what they do not know
    themselves."""
    out: list[dict[str, Filled]] = []
    above: dict[str, Filled] = {}
    for row in rows:
        now: dict[str, Filled] = {}
        for name in FIELDS:
            now[name] = _one(name, row, now, above)
        out.append(now)
        above = now
    return out


def _one(name: str, row: Facts, now: Mapping[str, Filled], above: Mapping[str, Filled]) -> Filled:
    if name in row.own:
        return Filled(row.own[name], False)
    if name in row.sure:
        return Filled(row.sure[name], True)
    carried = above.get(name)
    same = all(
        now[need].value and now[need].value == above[need].value for need in _NEEDS[name] if above
    )
    if (
        carried is not None
        and carried.value
        and same
        and carried.value in row.could.get(name, (carried.value,))
    ):
        return Filled(carried.value, True)
    return Filled(row.maybe.get(name), True)
