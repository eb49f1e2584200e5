"""A room as a coach keeps it: columns with their holes, the floor to stand on, benches, chains."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field

from guide_arc.core.mechanics.find_setup import Room


@dataclass(frozen=True)
class Column:
    """A column that a pulley slides along. holes_m : over the floor, the lowest first, which is
    hole 1"""

    name: str
    holes_m: tuple[float, ...]


@dataclass(frozen=True)
class HungChain:
    """Chains that hang from a bar. kg : of all of them; length_m : of one, hanging"""

    name: str
    kg: float
    length_m: float

    @property
    def kg_per_m(self) -> float:
        return self.kg / self.length_m


@dataclass(frozen=True)
class TrainingRoom:
    """distance_m, side_m : as in `Room`; bench_deg : the angles that lock
    rack_kg : by kind of kit the weights that are there, for clients without a rack of their own
    """

    columns: tuple[Column, ...] = ()
    distance_m: tuple[float, float] | None = None
    side_m: tuple[float, float] | None = None
    bench_deg: tuple[float, ...] = ()
    chains: tuple[HungChain, ...] = ()
    rack_kg: Mapping[str, tuple[float, ...]] = field(default_factory=dict)

    def column(self, name: str) -> Column | None:
        """The column of a name; the first if there is no such column."""
        return next(
            (c for c in self.columns if c.name == name), self.columns[0] if self.columns else None
        )

    def with_column(self, name: str) -> Room:
        """What the room allows at one of its columns."""
        column = self.column(name)
        return Room(column.holes_m if column else (), self.distance_m, self.side_m, self.bench_deg)
