"""Finding the setup for a wish, and whether the room stands in its way. Without Qt."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from typing import TYPE_CHECKING, Final

from guide_arc.app.contract.job import Job, Lane, alone
from guide_arc.app.places.setup.meaning import not_met
from guide_arc.core.mechanics.find_setup import Room, Setup, Wish
from guide_arc.lazily import lazily

with lazily():
    from guide_arc.app.services import setup_jobs

if TYPE_CHECKING:
    from guide_arc.app.places.setup.model import SetupModel
    from guide_arc.app.places.setup.needs import SetupNeeds

# Where nothing stands in the way of the pull: every height to the ceiling, and as far as a hall is
# wide.
_HEIGHTS_M: Final = tuple(round(0.1 * i, 2) for i in range(27))
_DISTANCE_M: Final = (0.0, 4.0)
_SIDE_M: Final = (-2.0, 2.0)


class Finder:
    """in_the_way : in words what keeps the wish from being met; empty where it is met, or not told
    yet"""

    def __init__(self, setup: SetupModel, program: SetupNeeds) -> None:
        self._setup, self._program = setup, program
        self._for: tuple[Setup, ...] = ()
        self._words = ""

    @property
    def in_the_way(self) -> str:
        return self._words if self._for and self._for is self._setup.found else ""

    def find(self) -> None:
        """The setups that come nearest to the wish in this room; then, where they miss it, whether
        another room would do."""
        setup, plan = self._setup, self._setup.plan
        if plan is None or not (
            setup.can_move or (plan.bench_deg is not None and setup.room.bench_deg)
        ):
            self._program.say(
                "Nothing here can be set otherwise: the kit has no line of pull to move, and no"
                " bench is noted."
            )
            return
        if setup.load is None or setup.load.curve.hardest is None:
            self._program.say(
                "This exercise moves the trunk, not the arm: there is no arm's load to set up for."
            )
            return
        wish = replace(setup.wish, room=setup.room)

        def came(found: tuple[Setup, ...]) -> None:
            self._setup.show_found(found)
            if found and not_met(found[0], wish):
                self._look_elsewhere(found, wish)

        self._start("Finding the setup", wish, came)

    def _look_elsewhere(self, found: tuple[Setup, ...], wish: Wish) -> None:
        def came(freed: tuple[Setup, ...]) -> None:
            best = freed[0] if freed else None
            if best is None or not_met(best, wish):
                self._words = (
                    "No place of the pull meets it on this motion; this is as near as it comes."
                )
            else:
                where = self._setup.words_of(best.kit, best.bench_deg, weight=False)
                self._words = f"The room stands in the way: it would take {where}."
            self._for = found
            self._setup.looked_anew()

        anywhere = Room(_HEIGHTS_M, _DISTANCE_M, _SIDE_M, wish.room.bench_deg)
        self._start("Trying the pull elsewhere", replace(wish, room=anywhere), came, "long")

    def _start(
        self,
        words: str,
        wish: Wish,
        came: Callable[[tuple[Setup, ...]], object],
        lane: Lane = "now",
    ) -> None:
        setup = self._setup
        if setup.kit is None or setup.plan is None:
            return
        own = setup.path if setup.on_rep else None
        work = alone(setup_jobs.find, setup.plan, setup.stature_m, setup.kit, wish, own)
        self._program.start(Job(words, work, "find-setup", lane), came)
