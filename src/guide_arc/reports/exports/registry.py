"""All exports: those declared here, and one for each form of a landmark track."""

from __future__ import annotations

from functools import cache

from guide_arc.core.model.declared import declared
from guide_arc.reports.exports.export import Export


@cache
def exports() -> tuple[Export, ...]:
    """In the order in which they are offered."""
    found: list[Export] = list(declared("guide_arc.reports.exports", "EXPORT"))
    found += [e for group in declared("guide_arc.reports.exports", "EXPORTS") for e in group]
    return tuple(sorted(found, key=lambda e: (e.order, e.words)))
