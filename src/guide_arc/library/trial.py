"""What a trial of a library's sets against a standard gives, while it is being changed."""

from __future__ import annotations

import threading
from collections import OrderedDict
from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path
from typing import Final

from guide_arc.core.kinematics.body import Body
from guide_arc.core.kinematics.cleaning import clean
from guide_arc.core.model.errors import BadInput
from guide_arc.core.model.landmarks import ALL
from guide_arc.core.model.standard import Standard
from guide_arc.core.review.assess import review_body
from guide_arc.library.reviewing import school_of
from guide_arc.library.store import Library
from guide_arc.standards.catalogue import Catalogue
from guide_arc.standards.tempo import parse_tempo

_LAST_OF_EACH: Final = 5
_MOST: Final = 12
_KEPT: Final = 24


@dataclass(frozen=True)
class TrialResult:
    """One set against the standard: the checks that are off."""

    set_id: int
    client: str
    off: tuple[str, ...]


class Trials:
    """Measures each set once and keeps it, so that a changed limit is answered at once.

    For one thread at a time; others wait.
    """

    def __init__(self, where: Path | str) -> None:
        self._where = where
        self._bodies: OrderedDict[int, Body] = OrderedDict()
        self._lock = threading.Lock()

    def against(
        self, plan: Standard, catalogue: Catalogue, progress: Callable[[float], None]
    ) -> list[TrialResult]:
        """The latest sets of a standard's id, at most five of each client, against it as it is now.

        Each keeps its own tempo and its own school where that is not the one being looked at.
        """
        with self._lock:
            library = Library.open(self._where)
            try:
                return self._all(library, plan, catalogue, progress)
            finally:
                library.close()

    def _all(
        self,
        library: Library,
        plan: Standard,
        catalogue: Catalogue,
        progress: Callable[[float], None],
    ) -> list[TrialResult]:
        out: list[TrialResult] = []
        count: dict[str, int] = {}
        rows = library.sets_of_standard(plan.id, _MOST)
        for i, (set_id, client) in enumerate(rows):
            progress(i / len(rows))
            count[client] = count.get(client, 0) + 1
            if count[client] > _LAST_OF_EACH:
                continue
            record = library.record(set_id)
            school = school_of(record, catalogue)
            own = plan if plan.school.id == school else catalogue.standard(plan.id, school)
            tempo = parse_tempo(record.tempo) if record.tempo else None
            try:
                review = review_body(
                    self._body(library, set_id), own, tempo, record.notes.settings
                )[0]
            except BadInput:
                continue  # a recording that can't be reviewed says so in the queue
            off = tuple(
                dict.fromkeys(f.rule.name for f in review.with_verdict("off") if not f.allowed)
            )
            out.append(TrialResult(set_id, client, off))
        return out

    def _body(self, library: Library, set_id: int) -> Body:
        if set_id not in self._bodies:
            self._bodies[set_id] = Body(clean(library.track(set_id), ALL))
            while len(self._bodies) > _KEPT:
                self._bodies.popitem(last=False)
        self._bodies.move_to_end(set_id)
        return self._bodies[set_id]


def trial_words(outcomes: list[TrialResult], check: str | None = None) -> str:
    """`3 of Ada’s last 5 sets pass, Benno’s only set passes`: one check, or all of them."""
    by_client: dict[str, list[bool]] = {}
    for o in outcomes:
        holds = check not in o.off if check else not o.off
        by_client.setdefault(o.client, []).append(holds)
    parts = []
    for client, passed in by_client.items():
        first = client.split()[0]
        if len(passed) == 1:
            parts.append(f"{first}’s only set {'passes' if passed[0] else 'does not pass'}")
        else:
            parts.append(f"{sum(passed)} of {first}’s last {len(passed)} sets pass")
    return ", ".join(parts) or "No set in the library follows this standard yet"
