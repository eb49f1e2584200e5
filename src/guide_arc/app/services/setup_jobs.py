"""What is read and done of setups off the window's thread. Each function is a job's work: (library,
progress, …)."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any, Final

from guide_arc.app.contract.job import Progress
from guide_arc.core.mechanics.band_table import MeasuredBand
from guide_arc.core.mechanics.find_setup import Setup, Wish, find_setups, load_optimiser
from guide_arc.core.mechanics.kit import Kit
from guide_arc.core.mechanics.path_load import PathOfArms, loaded_joint
from guide_arc.core.mechanics.room import Column, HungChain, TrainingRoom
from guide_arc.core.model.client import Client
from guide_arc.core.model.standard import Standard
from guide_arc.core.simulate.on_path import path_of
from guide_arc.library.clients import ANY_ROOM, Clients
from guide_arc.library.merging import merged_fields
from guide_arc.library.own_standards import OwnStandards
from guide_arc.library.setups import KeptSetup, keep_setup, kept_setups
from guide_arc.library.setups import take_back as take_setup_back
from guide_arc.library.store import Library
from guide_arc.standards.schools import preferred_school

USUAL_ROOM = TrainingRoom(
    (Column("column", tuple(round(0.1 + 0.1 * i, 2) for i in range(21))),), (0.0, 1.8), (-1.2, 1.2)
)
# Words for what two windows both changed in a room.
_FIELDS: Final = {
    "distance_m": "distance of the column",
    "side_m": "how far to the side it is",
    "bench_deg": "the bench's angles",
    "rack_kg": "the weights",
}


@dataclass(frozen=True)
class KnownForSetup:
    """standards : (id, name); clients : names; client : the chosen one; training_room : where they
    train, and what it is called
    bands : those that were measured, by name; kin : the exercises that are easier or harder ways of
        it
    """

    standards: tuple[tuple[str, str], ...]
    clients: tuple[str, ...]
    client: Client | None
    plan: Standard
    training_room: TrainingRoom
    room_name: str
    kept: tuple[KeptSetup, ...]
    bands: tuple[tuple[str, MeasuredBand], ...] = ()
    kin: tuple[Standard, ...] = ()


def read(
    library: Library,
    progress: Progress,
    standard: str,
    client: str | None,
    school: str | None = None,
) -> KnownForSetup:
    """All that the place shows next to the setup itself. school : None takes what is preferred for
    the client"""
    progress(0.0)
    clients, standards = Clients(library), OwnStandards(library)
    catalogue = standards.catalogue()
    names = tuple(library.clients())
    own = clients.client(client) if client in names and client is not None else None
    name = own.room if own is not None else ""
    rooms = {kept: document for _id, kept, document in clients.kept("room")}
    document = rooms.get(name or ANY_ROOM) or rooms.get(ANY_ROOM)
    plan = catalogue.standard(standard)
    if school not in {s.id for s in plan.schools}:
        school = preferred_school(standards.preferences(), plan, client)
    if school != plan.school.id:
        plan = catalogue.standard(standard, school)
    kin = tuple(catalogue.standard(id) for id in (*plan.easier, *plan.harder) if id in catalogue)
    return KnownForSetup(
        standards=tuple((id, catalogue.standard(id).name) for id in catalogue.ids()),
        clients=names,
        client=own,
        plan=plan,
        training_room=_room(document) if document else USUAL_ROOM,
        room_name=name,
        kept=kept_setups(library, standard, client if own else None),
        bands=tuple((name, _band(document)) for _id, name, document in clients.kept("band")),
        kin=kin,
    )


def keep(
    library: Library,
    progress: Progress,
    standard: str,
    client: str,
    setup: KeptSetup,
    before: KeptSetup | None,
) -> KeptSetup:
    progress(0.0)
    return keep_setup(library, standard, client, setup, before)


def take_back(
    library: Library, progress: Progress, kept: KeptSetup, before: KeptSetup | None
) -> bool:
    progress(0.0)
    return take_setup_back(library, kept, before)


def keep_room(
    library: Library, progress: Progress, name: str, room: TrainingRoom, since: TrainingRoom
) -> str:
    """Keep a room under its name; if empty, the one for clients without a named room. What
    another window changed otherwise meanwhile, as sentences; it stays.

    since : the room from which this one was made
    """
    progress(0.0)
    told = [""]

    def joined(stored: Any) -> Any:
        both = merged_fields(since, room, _room(stored) if stored else since, _FIELDS)
        told[0] = both.words
        return _document(both.value)

    Clients(library).change_kept("room", joined, name=name or ANY_ROOM)
    return told[0]


def _document(room: TrainingRoom) -> dict[str, Any]:
    return {
        "columns": [{"name": c.name, "holes": list(c.holes_m)} for c in room.columns],
        "distance": room.distance_m,
        "side": room.side_m,
        "benches": list(room.bench_deg),
        "rack": {kind: list(weights) for kind, weights in room.rack_kg.items()},
        "chains": [{"name": c.name, "kg": c.kg, "length": c.length_m} for c in room.chains],
    }


def keep_band(
    library: Library, progress: Progress, name: str, band: MeasuredBand, before: MeasuredBand | None
) -> str:
    """Keep a measured band for everybody, in place of `before`; the name that it has now."""
    progress(0.0)
    document = {"rest_m": band.rest_m, "table": [list(row) for row in band.table]}
    _id, now = Clients(library).keep_beside("band", document, name, lambda d: _band(d) == before)
    return now


def _band(document: dict[str, Any]) -> MeasuredBand:
    return MeasuredBand(document["rest_m"], tuple((x, f) for x, f in document["table"]))


def _room(document: dict[str, Any]) -> TrainingRoom:
    distance, side = document["distance"], document["side"]
    # Rooms were kept with the holes of one column without a name.
    columns = document.get("columns") or [{"name": "column", "holes": document.get("heights", [])}]
    return TrainingRoom(
        tuple(Column(c["name"], tuple(c["holes"])) for c in columns if c["holes"]),
        tuple(distance) if distance else None,
        tuple(side) if side else None,
        tuple(document["benches"]),
        tuple(HungChain(c["name"], c["kg"], c["length"]) for c in document.get("chains", ())),
        {kind: tuple(weights) for kind, weights in document.get("rack", {}).items()},
    )


def make_ready(progress: Progress) -> None:
    """Load the optimiser, which takes as long as finding a setup."""
    progress(0.0)
    load_optimiser()


def find(
    progress: Progress,
    plan: Standard,
    stature_m: float,
    kit: Kit,
    wish: Wish,
    path: PathOfArms | None = None,
) -> tuple[Setup, ...]:
    """The setups that come nearest to a wish. path : of a recorded rep; None takes the standard's
    own"""
    progress(0.0)
    if path is not None:
        return find_setups({None: path}, kit, wish)
    benches: tuple[float | None, ...] = (
        wish.room.bench_deg if plan.bench_deg is not None and wish.room.bench_deg else (None,)
    )
    return find_setups(
        {b: path_of(plan, stature_m, b, joint=loaded_joint(plan)) for b in benches}, kit, wish
    )
