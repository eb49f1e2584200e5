"""Setups that were kept for a client and an exercise."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from datetime import date
from pathlib import Path
from typing import Any

import numpy as np

from guide_arc.core.mechanics.kit import Band, Cable, Kit
from guide_arc.core.mechanics.path_load import USUAL_STATURE_M
from guide_arc.core.model.landmarks import Side
from guide_arc.core.model.standard import Standard
from guide_arc.core.simulate.on_path import path_of
from guide_arc.formats.kit_json import kit_document, kit_from
from guide_arc.library.clients import Clients
from guide_arc.library.store import Library

_KIND = "setup"


@dataclass(frozen=True)
class KeptSetup:
    """words : as a coach says it; bench_deg : over level, None if the standard's own holds;
    since : the day on which it was kept, empty if that is not known"""

    id: int
    name: str
    words: str
    kit: Kit
    bench_deg: float | None
    since: str = ""


def kept_setups(library: Library, standard: str, client: str | None) -> tuple[KeptSetup, ...]:
    """What was kept, the first kept first; nothing without a client."""
    if client is None:
        return ()
    return tuple(_setup(*one) for one in Clients(library).kept(_KIND, client, standard))


def setups_in_words(library: Library, client: str) -> dict[str, str]:
    """By standard the client's kept setup as a coach says it; of several the one kept last."""
    return {
        about: document["words"] for about, document in Clients(library).kept_about(_KIND, client)
    }


def keep_setup(
    library: Library, standard: str, client: str, setup: KeptSetup, before: KeptSetup | None = None
) -> KeptSetup:
    """Keep a setup under its name, in place of `before`; under another name, if that name is taken.
    The setup as it is kept."""
    setup = replace(setup, since=setup.since or date.today().isoformat())
    id, name = Clients(library).keep_beside(
        _KIND, _document(setup), setup.name, _is(before), client=client, about=standard
    )
    return replace(setup, id=id, name=name)


def take_back(library: Library, kept: KeptSetup, before: KeptSetup | None) -> bool:
    """Put what stood before in place of a kept setup; False, without a change, if it was changed
    meanwhile."""
    instead = _document(before) if before is not None else None
    return Clients(library).swap_thing(kept.id, _is(kept), instead)


def _is(setup: KeptSetup | None) -> Callable[[Any], bool]:
    """Whether a document is that setup. Compared as read: older programs wrote it otherwise."""
    return lambda document: setup is not None and _setup(setup.id, setup.name, document) == setup


def _setup(id: int, name: str, document: Any) -> KeptSetup:
    kit, _body = kit_from(document["kit"], Path(name))
    return KeptSetup(
        id, name, document["words"], kit, document["bench_deg"], document.get("since", "")
    )


def _document(setup: KeptSetup) -> dict[str, Any]:
    return {
        "kit": kit_document(setup.kit),
        "words": setup.words,
        "bench_deg": setup.bench_deg,
        "since": setup.since,
    }


def as_set_up(library: Library, plan: Standard, client: str, recorded: str) -> Standard:
    """A standard with its pulley or anchor where the client's kept setup has it, for sets since
    that was kept."""
    kept = [s for s in kept_setups(library, plan.id, client) if s.since <= recorded[:10]]
    kit = kept[-1].kit if kept else None
    if not isinstance(kit, Cable | Band):
        return plan
    stature = Clients(library).client(client).stature_m or USUAL_STATURE_M
    feet = path_of(plan, stature, kept[-1].bench_deg, count=2).feet
    spots = kit.pulley_m if isinstance(kit, Cable) else kit.anchor_m
    side: Side = "left" if "left" in spots else "right"
    out, up, ahead = np.asarray(spots[side]) - feet
    place = (float(out if side == "left" else -out), float(up), float(ahead))
    if isinstance(kit, Cable):
        return replace(plan, pulley_m=place, kit_kept=True)
    return replace(plan, anchor_m=place, kit_kept=True)
