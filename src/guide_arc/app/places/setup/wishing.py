"""What is wished of the setup, and going through what was found for it."""

from __future__ import annotations

from dataclasses import replace
from typing import Final, Literal

from guide_arc.app.places.setup.document import SetupDocument, spots_of_pull
from guide_arc.core.mechanics.find_setup import Room, Setup, Spare, Where, Wish
from guide_arc.core.mechanics.kit import Cable
from guide_arc.core.model.landmarks import SIDES

Flag = Literal["no_slack", "in_plane"]
_WISHES: Final[tuple[Where | None, ...]] = (None, "stretched", "middle", "shortened", "even")
_SPARES: Final[tuple[tuple[Spare, ...], ...]] = ((), ("elbow",), ("wrist",), ("elbow", "wrist"))


def wishing(doc: SetupDocument, wish: Wish) -> SetupDocument:
    """Another wish: what was found is not for it."""
    return replace(doc, wish=wish, found=(), in_the_way="")


def next_hardest(wish: Wish) -> Wish:
    at = _WISHES.index(wish.hardest)
    return replace(wish, hardest=_WISHES[(at + 1) % len(_WISHES)])


def hardest_or_none(wish: Wish, where: Where) -> Wish:
    """Hardest there, or no wish if that was the wish already."""
    return replace(wish, hardest=None if wish.hardest == where else where)


def flipped(wish: Wish, flag: Flag) -> Wish:
    if flag == "no_slack":
        return replace(wish, no_slack=not wish.no_slack)
    return replace(wish, in_plane=not wish.in_plane)


def next_spare(wish: Wish) -> Wish:
    at = _SPARES.index(wish.spare) if wish.spare in _SPARES else 0
    return replace(wish, spare=_SPARES[(at + 1) % len(_SPARES)])


def spared_or_not(wish: Wish, joint: Spare) -> Wish:
    spare = wish.spare
    kept = tuple(j for j in spare if j != joint)
    return replace(wish, spare=kept if joint in spare else (*spare, joint))


def finding(doc: SetupDocument, found: tuple[Setup, ...]) -> SetupDocument:
    return replace(doc, found=found, chosen=0, in_the_way="")


def choosing(doc: SetupDocument, index: int) -> SetupDocument:
    return replace(doc, chosen=index) if 0 <= index < len(doc.found) else doc


# A setup that takes more of the load away than this meets the wish by doing less.
_MOST_LOST_SHARE: Final = 0.4


def room_for(doc: SetupDocument) -> Room:
    """What the room allows to this kit. The two columns of one station keep their distance."""
    room, kit = doc.room, doc.pull
    if not isinstance(kit, Cable):
        return room
    left, right = (spots_of_pull(kit)[side] for side in SIDES)
    if left[0] == right[0]:
        return room
    return replace(room, side_m=(float(left[0]), float(left[0])))


def with_the_load_first(doc: SetupDocument, found: tuple[Setup, ...]) -> tuple[Setup, ...]:
    """The setups that leave the weight its work before those that take it away; of each the best
    first."""
    now = doc.load.curve.hardest if doc.load is not None else None
    if now is None:
        return found
    least_nm = (1.0 - _MOST_LOST_SHARE) * now.nm

    def takes_it_away(setup: Setup) -> bool:
        hardest = setup.curve.hardest
        return hardest is None or hardest.nm < least_nm

    return tuple(sorted(found, key=takes_it_away))


def why_not(doc: SetupDocument) -> str:
    """Why no setup can be searched for; empty if one can."""
    plan = doc.plan
    benched = plan is not None and plan.bench_deg is not None and bool(doc.room.bench_deg)
    if doc.pull is None and not benched:
        return (
            "Nothing here can be set otherwise: the kit has no line of pull to move, and no bench"
            " is noted."
        )
    if doc.load is None or doc.load.curve.hardest is None:
        return "This exercise moves the trunk, not the arm: there is no arm's load to set up for."
    return ""
