"""A day of a client's log, with what its session asks for and what is needed to write in it."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date

from guide_arc.core.planning.training_log import LoggedSet, Named
from guide_arc.library.clients import Clients
from guide_arc.library.own_standards import OwnStandards
from guide_arc.library.planning import read_plan
from guide_arc.library.store import Library
from guide_arc.library.training_logs import logged_sets, named_exercises


@dataclass(frozen=True)
class AskedSets:
    """What a session asks of one exercise. sets : how many; reps : so many of each"""

    standard: str
    load_kg: float | None
    sets: int
    reps: int


@dataclass(frozen=True)
class LogSheet:
    """A day of a client's log, and what is needed to write in it.

    logged : what is noted of the day; asked : what the day's session asks for
    offered : all exercises; usual : ids of those that the client does, the last one first
    usual_kg : the usual load by exercise
    tired : whether poor sleep, or soreness all over, is noted for the day
    """

    client: str
    on: date
    logged: tuple[LoggedSet, ...]
    asked: tuple[AskedSets, ...]
    offered: tuple[Named, ...]
    usual: tuple[str, ...]
    usual_kg: dict[str, float]
    tired: bool = False

    def name_of(self, standard: str) -> str:
        return next((n.name for n in self.offered if n.id == standard), standard)


def read_log_sheet(library: Library, client: str, on: date) -> LogSheet:
    """A day as it is noted, with what its session asks for."""
    clients = Clients(library)
    catalogue = OwnStandards(library).catalogue()
    logged = logged_sets(clients, client)
    plan = read_plan(library, client, on)
    usual = dict.fromkeys((*library.exercises_of(client), *(s.standard for s in logged)))
    loads = {id: kg for (name, id), kg in clients.usual_loads().items() if name == client}
    for one in logged:
        if one.load_kg and one.on != on:
            loads.setdefault(one.standard, one.load_kg)
    return LogSheet(
        client=client,
        on=on,
        logged=tuple(s for s in logged if s.on == on),
        asked=tuple(
            AskedSets(d.plan.id, d.asked.load_kg, d.asked.sets, d.asked.reps[1])
            for d in plan.lines
            if not d.asked.ask_first
        ),
        offered=named_exercises(catalogue),
        usual=tuple(usual),
        usual_kg=loads,
        tired=on in plan.known.client.tired,
    )
