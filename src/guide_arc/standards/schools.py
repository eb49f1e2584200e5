"""Which school a set follows where nobody says: by client, by exercise, by coach, or the strict
one."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from guide_arc.core.model.standard import Standard


@dataclass(frozen=True)
class Preference:
    """A school that is preferred.

    client, standard : None means all; one for all clients and all exercises is the coach's own way
    """

    school: str
    client: str | None = None
    standard: str | None = None

    @property
    def rank(self) -> int:
        """A choice for one client's exercise comes before a general one."""
        return 2 * (self.client is not None) + (self.standard is not None)


def preferred_school(preferences: Iterable[Preference], plan: Standard, client: str | None) -> str:
    """The id of the school to start with. A preference counts where the standard has that
    school."""
    known = {s.id for s in plan.schools}
    fitting = [
        p
        for p in preferences
        if p.school in known and p.client in (None, client) and p.standard in (None, plan.id)
    ]
    best = max(fitting, key=lambda p: p.rank, default=None)
    return best.school if best else plan.schools[0].id


def with_preference(preferences: Iterable[Preference], new: Preference) -> tuple[Preference, ...]:
    """The preferences with one added; an earlier one for the same client and exercise goes. A
    coach's own way may name one school for each question, so there only the same school goes."""
    kept = [
        p
        for p in preferences
        if (p.client, p.standard) != (new.client, new.standard)
        or (new.client is None and new.standard is None and p.school != new.school)
    ]
    return (*kept, new)


def without_preference(
    preferences: Iterable[Preference], old: Preference
) -> tuple[Preference, ...]:
    return tuple(p for p in preferences if p != old)
