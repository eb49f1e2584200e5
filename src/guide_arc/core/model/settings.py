"""What the coach adds to a recording before it is reviewed: kept apart from what is computed."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final, Literal

from guide_arc.core.model.rep import WorkSide

CorrectionKind = Literal["edge", "delete", "split", "merge", "add", "bounds"]
Edge = Literal["lift-start", "lift-end", "lower-start", "lower-end"]


@dataclass(frozen=True)
class Correction:
    """One change made by hand to the reps that were found.

    It names a moment, not a rep's number, so that it still fits when other reps come or go.

    at_s : "edge": where the boundary stood; "delete", "split", "merge", "add": a moment within
        the rep (or where one is missing); "bounds": where the set starts
    to_s : "edge": where the boundary belongs; "bounds": where the set ends
    edge : which boundary, for "edge" only
    """

    kind: CorrectionKind
    at_s: float
    to_s: float | None = None
    side: WorkSide = "both"
    edge: Edge | None = None

    def __post_init__(self) -> None:
        if (self.kind == "edge") != (self.edge is not None):
            raise ValueError("an edge correction names its edge, and no other does")
        if (self.kind in ("edge", "bounds")) != (self.to_s is not None):
            raise ValueError(f"a correction of kind {self.kind!r} has to_s = {self.to_s}")


@dataclass(frozen=True)
class Settings:
    """What a review is computed with, beside the track, the standard and the tempo.

    corrections : made by hand, in the order in which they were made
    loose_last : how many of the last reps the coach allows to be loose, the spine excepted
    felt : where the client felt the set
    """

    corrections: tuple[Correction, ...] = ()
    loose_last: int = 0
    felt: tuple[str, ...] = ()

    def __post_init__(self) -> None:
        if self.loose_last < 0:
            raise ValueError(f"loose_last is {self.loose_last}; it can't be negative")

    @property
    def bounds(self) -> tuple[float, float] | None:
        """Where the set truly starts and ends, as last marked by hand."""
        marked = [c for c in self.corrections if c.kind == "bounds"]
        return (marked[-1].at_s, marked[-1].to_s or marked[-1].at_s) if marked else None


PLAIN: Final = Settings()
