"""Where one can go in this window: each place, with what it can be asked to show."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING, ClassVar

if TYPE_CHECKING:
    from guide_arc.app.services.set_jobs import OpenedSet
    from guide_arc.core.mechanics.find_setup import Wish
    from guide_arc.core.mechanics.rep_path import RecordedRep
    from guide_arc.drawings.shown_set import ShownSet


@dataclass(frozen=True)
class ToQueue:
    """set_id : chosen in the list; find : with the cursor in the search"""

    place: ClassVar[str] = "queue"
    set_id: int | None = None
    find: bool = False


@dataclass(frozen=True)
class ToReview:
    """With a set that was opened, or by its number, or with the one that is open or chosen.

    ghost : the set that is shown next to it
    """

    place: ClassVar[str] = "review"
    opened: OpenedSet | None = None
    set_id: int | None = None
    ghost: int | None = None


@dataclass(frozen=True)
class ToMarking:
    """With a clip that was opened, or by its set's number, or with the one that is marked or
    chosen."""

    place: ClassVar[str] = "marking"
    opened: OpenedSet | None = None
    set_id: int | None = None


@dataclass(frozen=True)
class ToStandards:
    """With a standard to look at, or with a set that is a model and the name of what it becomes."""

    place: ClassVar[str] = "standards"
    standard: str | None = None
    school: str | None = None
    model_set: ShownSet | None = None
    name: str = ""


@dataclass(frozen=True)
class ToSetup:
    """wish : what the setup is to be found for; rep : of a recording, to hold it against"""

    place: ClassVar[str] = "setup"
    standard: str | None = None
    client: str | None = None
    wish: Wish | None = None
    rep: RecordedRep | None = None
    school: str | None = None


@dataclass(frozen=True)
class ToClients:
    place: ClassVar[str] = "clients"
    client: str | None = None
    standard: str | None = None


@dataclass(frozen=True)
class ToPlan:
    place: ClassVar[str] = "plan"
    client: str | None = None
