"""What the coach adds to a recording before it is reviewed: kept apart from what is computed."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Final, Literal

from guide_arc.core.model.rep import WorkSide

CorrectionKind = Literal["edge", "delete", "split", "merge", "add", "bounds", "partials"]
Edge = Literal["lift-start", "lift-end", "lower-start", "lower-end"]


@dataclass(frozen=True)
class Correction:
    """One change made by hand to the reps that were found.

    It names a moment, not a rep's number, so that it still fits when other reps come or go.

    at_s : "edge": where the boundary stood; "delete", "split", "merge", "add": a moment within
        the rep (or where one is missing); "bounds": where the set starts; "partials": where the
        partial reps begin that were asked for after the last full one
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


# What the coach saw with their own eyes: that a check held, or that it broke.
Saw = Literal["held", "broke"]


# In the place of a finding's key: the coach was asked about the entry itself (the load, the day, an
# arm without reps) and says that it is right.
ENTRY: Final = "entry"


@dataclass(frozen=True)
class EyeAnswer:
    """What the coach's own eye says of a finding. finding : its key (check/side); by, at : who said
    so, and when"""

    finding: str
    saw: Saw
    by: str = ""
    at: str = ""


@dataclass(frozen=True)
class Settings:
    """What a review is computed with, next to the track, the standard and the tempo.

    corrections : made by hand, in the order in which they were made
    loose_last : how many of the last reps the coach allows to be loose, the spine excepted
    felt : where the client felt the set
    eye : what the coach saw with their own eyes, each finding once
    """

    corrections: tuple[Correction, ...] = ()
    loose_last: int = 0
    felt: tuple[str, ...] = ()
    eye: tuple[EyeAnswer, ...] = ()

    def __post_init__(self) -> None:
        if self.loose_last < 0:
            raise ValueError(f"loose_last is {self.loose_last}; it can't be negative")

    def seen_by_eye(self, finding: str) -> EyeAnswer | None:
        """What the coach's eye says of a finding, by its key."""
        return next((answer for answer in self.eye if answer.finding == finding), None)

    def with_eye(self, answer: EyeAnswer | None, finding: str) -> Settings:
        """The settings with another answer for a finding, or with none."""
        others = tuple(a for a in self.eye if a.finding != finding)
        return replace(self, eye=others if answer is None else (*others, answer))

    @property
    def partials_from_s(self) -> float | None:
        """Where the partial reps begin that were asked for, as last marked by hand."""
        marked = [c for c in self.corrections if c.kind == "partials"]
        return marked[-1].at_s if marked else None

    @property
    def bounds(self) -> tuple[float, float] | None:
        """Where the set truly starts and ends, as last marked by hand."""
        marked = [c for c in self.corrections if c.kind == "bounds"]
        return (marked[-1].at_s, marked[-1].to_s or marked[-1].at_s) if marked else None


PLAIN: Final = Settings()
