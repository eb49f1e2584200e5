"""Another kit in place of the one that is there: from the room, or measured by the coach."""

from __future__ import annotations

from dataclasses import replace
from typing import Final

from guide_arc.app.places.setup.document import SetupDocument, spots_of_pull
from guide_arc.core.mechanics.band_table import MeasuredBand
from guide_arc.core.mechanics.kit import Band, Chain, FreeWeight
from guide_arc.core.mechanics.path_load import placed
from guide_arc.core.mechanics.room import HungChain

_BAR_KG: Final = 20.0
# Low and half a metre ahead of the feet, where the kit had no line of pull.
_USUAL_ANCHOR: Final = (0.0, 0.1, 0.5)


def next_column(doc: SetupDocument) -> SetupDocument:
    """The pulley on the next column of the room."""
    columns, at = doc.training_room.columns, doc.training_room.column(doc.column)
    if at is None or len(columns) < 2:
        return doc
    return replace(doc, column=columns[(columns.index(at) + 1) % len(columns)].name)


def with_chains(doc: SetupDocument, chain: HungChain) -> SetupDocument:
    """Chains on the bar, with the weight that is on it."""
    kg = doc.kit.kg if isinstance(doc.kit, FreeWeight | Chain) else _BAR_KG
    return replace(doc, kit=Chain(kg, chain.kg_per_m, chain.length_m, 0.0))


def with_band(doc: SetupDocument, band: MeasuredBand) -> SetupDocument:
    """A measured band in place of the kit, from where the pull comes now."""
    if doc.plan is None:
        return doc
    spots = spots_of_pull(doc.pull) if doc.pull else placed(doc.path, _USUAL_ANCHOR)
    return replace(doc, kit=Band(spots, band.rest_m, None, band.table))
