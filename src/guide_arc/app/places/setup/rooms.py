"""The room that the client trains in: its columns, and what hangs in it. Without Qt."""

from __future__ import annotations

from typing import TYPE_CHECKING

from guide_arc.app.contract.history import Step
from guide_arc.app.contract.job import Job, Task, on_library
from guide_arc.app.services.destinations import ToSetup
from guide_arc.core.mechanics.find_setup import Room
from guide_arc.core.mechanics.kit import Chain, FreeWeight
from guide_arc.core.mechanics.room import Column, HungChain, TrainingRoom
from guide_arc.lazily import lazily

with lazily():
    from guide_arc.app.services import setup_jobs

if TYPE_CHECKING:
    from guide_arc.app.places.setup.model import SetupModel
    from guide_arc.app.places.setup.needs import SetupNeeds

_BAR_KG = 20.0


class Rooms:
    """column : the name of the column that the pulley is on; of one that is not there the first is
    taken"""

    def __init__(self, setup: SetupModel, program: SetupNeeds) -> None:
        self._setup, self._program = setup, program
        self.column = ""

    @property
    def training(self) -> TrainingRoom:
        known = self._setup.known
        return known.training_room if known else TrainingRoom()

    @property
    def room(self) -> Room:
        """What the room allows at the chosen column."""
        return self.training.with_column(self.column)

    @property
    def at(self) -> Column | None:
        return self.training.column(self.column)

    @property
    def column_words(self) -> str:
        """Said of a hole where there are several columns."""
        at = self.at
        return f" of the {at.name}" if at and len(self.training.columns) > 1 else ""

    def next_column(self) -> None:
        columns, at = self.training.columns, self.at
        if at is not None and len(columns) > 1:
            self.column = columns[(columns.index(at) + 1) % len(columns)].name
            self._setup.looked_anew()

    def hang(self, chain: HungChain) -> None:
        """Chains on the bar, with the weight that is on it."""
        setup, kit = self._setup, self._setup.kit
        kg = kit.kg if isinstance(kit, FreeWeight | Chain) else _BAR_KG
        setup.set(
            f"Chains: {chain.name}", Chain(kg, chain.kg_per_m, chain.length_m, 0.0), setup.bench_deg
        )

    def keep(self, room: TrainingRoom) -> None:
        """Keep the room for all who train in it."""
        before, known = self.training, self._setup.known
        name = known.room_name if known else ""

        def task(now: TrainingRoom, since: TrainingRoom) -> Task[str]:
            work = on_library(setup_jobs.keep_room, name, now, since)
            return Task(Job("", work, lane="now"), kept)

        def kept(told: str) -> str:
            self._setup.refresh()
            return told

        forward = task(room, before)

        def first(told: str) -> None:
            if kept(told):
                self._program.say(told)
            self._program.did(
                Step("The room", ToSetup(), lambda: task(before, room), lambda: task(room, before))
            )

        self._program.start(forward.job, first)
