"""Setups that were kept for a client and an exercise."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path

from guide_arc.core.mechanics.kit import Kit
from guide_arc.formats.kit_json import kit_document, kit_from
from guide_arc.library.clients import Clients
from guide_arc.library.store import Library

_KIND = "setup"


@dataclass(frozen=True)
class KeptSetup:
    """words : as a coach says it; bench_deg : over level, None where the standard's own holds"""

    id: int
    name: str
    words: str
    kit: Kit
    bench_deg: float | None


def kept_setups(library: Library, standard: str, client: str | None) -> tuple[KeptSetup, ...]:
    """What was kept, the first kept first; nothing without a client."""
    if client is None:
        return ()
    out = []
    for id, name, document in Clients(library).kept(_KIND, client, standard):
        kit, _body = kit_from(document["kit"], Path(name))
        out.append(KeptSetup(id, name, document["words"], kit, document["bench_deg"]))
    return tuple(out)


def keep_setup(library: Library, standard: str, client: str, setup: KeptSetup) -> int:
    """Keep a setup under its name, in place of one of the same name; its id."""
    document = {"kit": kit_document(setup.kit), "words": setup.words, "bench_deg": setup.bench_deg}
    return Clients(library).keep_thing(_KIND, document, client=client, about=standard, name=setup.name)  # fmt: skip
