"""The earlier sets that a set's review and next dose are based on."""

from __future__ import annotations

from datetime import date

from guide_arc.core.model.standard import Standard
from guide_arc.core.planning.history import Past
from guide_arc.core.planning.racks import rack_of
from guide_arc.library.clients import Clients
from guide_arc.library.store import Library
from guide_arc.library.training_logs import logged_sets, with_logged


def past_of(library: Library, set_id: int, standard: Standard) -> Past:
    """What is known of the client when a set is reviewed: the sets before it, filmed or only
    logged, the rack, what is sore. Raises Gone if the set is not there any more."""
    clients, record = Clients(library), library.record(set_id)
    client, at = clients.equipped(clients.client(record.client)), record.recorded
    try:
        on = date.fromisoformat(at[:10])
    except ValueError:
        on = date.min
    sets = clients.sets(client.name, standard.id)
    filmed = [s for s in sets if (s.at, s.id) < (at, set_id)]
    # What is logged of the set's own day may be this very set, or come after it; pain counts.
    every = logged_sets(clients, client.name, standard.id)
    logged = [s for s in every if s.on < on or (s.on == on and s.hurt)]
    return Past(
        tuple(s.done for s in with_logged(filmed, logged, {}) if s.on <= on),
        rack_of(client, standard),
        client.sore,
        on,
        tired=client.tired,
        feel=client.feel,
        cleared=client.cleared,
    )
