"""Finding the setup: where to stand and how to set pulley or bench to meet a wish, within a room.

Objective, lower is better, each term 0 if the wish is met: the distance of the hardest point
from the wished third (in shares of the range, doubled) or, for an even load, 100 % less the load at
its weakest point; the share of the lift that is slack (also where nothing is said of the load: a
cable that hangs loose meets no wish); the cable's angle off the arm's plane over 90°; each spared
joint's peak moment over the working joint's, a tenth of it. Discrete notches are tried one by one,
distances by a grid over the room; its best cells are refined by finer grids, many places in one
array, and the best of those by a bounded search (Powell 1964), so that the answer is never worse
than the grid."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Final, Literal, TypeVar

import numpy as np

from guide_arc.core.kinematics.vectors import Array, cross, length
from guide_arc.core.mechanics.kit import HANDS_WIDTH_M, Band, Cable, Kit, force_on
from guide_arc.core.mechanics.path_load import PathLoad, PathOfArms, load_along
from guide_arc.core.mechanics.statics import SLACK_SHARE, Curve, off_plane
from guide_arc.core.model.landmarks import Side
from guide_arc.lazily import lazily, load

with lazily():
    from scipy.optimize import minimize

_S = TypeVar("_S", "Setup", "_Stand")
Where = Literal["stretched", "middle", "shortened", "even"]
Spare = Literal["elbow", "shoulder", "wrist"]
MOST_SETUPS: Final = 5
# More than any setup in which something resists.
_NOTHING_RESISTS: Final = 10.0
_GRID: Final = 17
# Number of cells that are refined, how often, and the grid around the best place; places refined at
# the end.
_CLOSER: Final = 24
_ZOOMS: Final = 3
_ZOOM_GRID: Final = 7
_POLISHED: Final = 8
# Setups nearer to one another than this are one.
_ALIKE_M: Final = 0.12
_ZONES: Final[dict[str, tuple[float, float]]] = {
    "stretched": (0.0, 1 / 3),
    "middle": (1 / 3, 2 / 3),
    "shortened": (2 / 3, 1.0),
}


@dataclass(frozen=True)
class Room:
    """What a room allows: available heights, distances and side offsets of the person, available
    bench angles.

    Distances run from the middle of the hips; None if nothing is said.
    """

    pulley_heights_m: tuple[float, ...] = ()
    distance_m: tuple[float, float] | None = None
    side_m: tuple[float, float] | None = None
    bench_deg: tuple[float, ...] = ()


@dataclass(frozen=True)
class Wish:
    """hardest : where in the range; None for no wish; spare : joints that are to carry little"""

    hardest: Where | None = None
    no_slack: bool = False
    in_plane: bool = False
    spare: tuple[Spare, ...] = ()
    room: Room = Room()


@dataclass(frozen=True, eq=False)
class Setup:
    """One setup with what it comes to. if_off : what 0.10 m in the worst direction changes"""

    kit: Kit
    distance_m: float | None
    side_m: float | None
    height_m: float | None
    bench_deg: float | None
    load: PathLoad
    moves_deg: float
    least_if_off_pct: float
    cost: float

    @property
    def curve(self) -> Curve:
        return self.load.curve

    @property
    def score(self) -> float:
        """1 where every wish is met, towards 0 the less."""
        return 1.0 / (1.0 + self.cost)


def cost_of(load: PathLoad, wish: Wish) -> float:
    """The distance of a setup from a wish, 0 if it is met."""
    path = load.path
    forces = {side: own.force_n[None] for side, own in load.loads.items()}
    return float(_costs(path, forces, wish)[0])


def _costs(path: PathOfArms, forces: Mapping[Side, Array], wish: Wish) -> Array:
    """(N,) the objective for N setups at once. forces : (N, P, 3) on each hand"""
    against: list[Array] = []
    off: list[Array] = []
    peak: dict[str, list[Array]] = {joint: [] for joint in wish.spare}
    for side, force in forces.items():
        arm = path.arms[side]
        moments = {
            "elbow": cross(arm.grip - arm.elbow, force),
            "shoulder": cross(arm.grip - arm.shoulder, force),
            "wrist": cross(arm.grip - arm.wrist, force),
        }
        against.append(-np.einsum("npi,pi->np", moments[path.joint], path.axis[side]))
        if wish.in_plane:
            off.append(np.nan_to_num(off_plane(arm, force)).max(axis=1))
        for joint in wish.spare:
            peak[joint].append(length(moments[joint]).max(axis=1))
    nm = np.mean(against, axis=0)
    most = nm.max(axis=1)
    works = most > 1e-9
    safe = np.where(works, most, 1.0)
    least = np.maximum(nm.min(axis=1) / safe, 0.0)
    # Of setups that meet the wish alike the one that loads more evenly comes first.
    out = 0.02 * (1.0 - least)
    if wish.hardest == "even":
        out += 1.0 - least
    elif wish.hardest is not None:
        low, high = _ZONES[wish.hardest]
        share = path.share[nm.argmax(axis=1)]
        out += 2.0 * np.maximum(np.maximum(low - share, share - high), 0.0)
    if wish.no_slack or wish.hardest is None:
        out += (nm < SLACK_SHARE * safe[:, None]).mean(axis=1)
    if wish.in_plane:
        out += np.max(off, axis=0) / 90.0
    for joint in wish.spare:
        out += 0.1 * np.max(peak[joint], axis=0) / safe
    return np.where(works, out, _NOTHING_RESISTS)


def find_setups(
    paths: Mapping[float | None, PathOfArms], kit: Kit, wish: Wish
) -> tuple[Setup, ...]:
    """The setups that come nearest to a wish, best first, at most five.

    paths : the arms along the standard's path for each bench angle that may be used (None: as the
        standard has it)
    kit : whose pulley or anchor is moved about; other kit only changes with the bench
    """
    found: list[Setup] = []
    rough: list[_Stand] = []
    coarse = {bench: _coarse(path) for bench, path in paths.items()}
    for bench, path in paths.items():
        if isinstance(kit, Cable | Band):
            rough += _over_room(coarse[bench], kit, wish, bench)
        else:
            found.append(_setup(path, kit, wish, bench, None))
    if isinstance(kit, Cable | Band):
        closer = [
            _zoomed(coarse[s.bench_deg], kit, wish, s) for s in sorted(rough, key=_cost)[:_CLOSER]
        ]
        for stand in _distinct(sorted(closer, key=_cost), _POLISHED):
            best = _refined(coarse[stand.bench_deg], kit, wish, stand)
            spot = (best.distance_m, best.height_m, best.side_m)
            found.append(_setup(paths[stand.bench_deg], kit, wish, stand.bench_deg, spot))
    found.sort(key=lambda s: s.cost)
    return tuple(_distinct(found, MOST_SETUPS))


@dataclass(frozen=True)
class _Stand:
    """One place to stand in the room. bounds : of distance and side; cost : by every fifth point of
    the path"""

    bench_deg: float | None
    height_m: float
    distance_m: float
    side_m: float
    cost: float
    bounds: tuple[tuple[float, float], tuple[float, float]]


def _cost(stand: _Stand) -> float:
    return stand.cost


def _distinct(ordered: Sequence[_S], most: int) -> list[_S]:
    """The first of them that lie apart from one another."""
    out: list[_S] = []
    for one in ordered:
        if all(_apart(one, other) for other in out):
            out.append(one)
        if len(out) == most:
            break
    return out


def _over_room(
    coarse: PathOfArms, kit: Cable | Band, wish: Wish, bench: float | None
) -> list[_Stand]:
    """The best cell of each height, and the best of those that lie elsewhere."""
    own = _spot(coarse, kit)
    room = wish.room
    heights = room.pulley_heights_m or (own[1],)
    distances = room.distance_m or (max(own[0] - 0.6, 0.2), own[0] + 0.6)
    sides = room.side_m or (own[2] - 0.4, own[2] + 0.4)
    grid = np.array([(d, s) for d in _steps(distances) for s in _steps(sides)])
    out = []
    for height in heights:
        costs = _over(coarse, kit, wish, height, grid)
        cells = sorted(
            (float(c), float(d), float(s)) for c, (d, s) in zip(costs, grid, strict=True)
        )
        out += [
            _Stand(bench, height, d, s, cost, (distances, sides)) for cost, d, s in _spread(cells)
        ]
    return out


def _zoomed(coarse: PathOfArms, kit: Cable | Band, wish: Wish, stand: _Stand) -> _Stand:
    """The best place of ever finer grids around a place, never outside the room."""
    spans = [high - low for low, high in stand.bounds]
    reach = [span / (_GRID - 1) for span in spans]
    best = stand
    for _ in range(_ZOOMS):
        axes = [
            np.clip(np.linspace(at - by, at + by, _ZOOM_GRID), low, high)
            for at, by, (low, high) in zip(
                (best.distance_m, best.side_m), reach, stand.bounds, strict=True
            )
        ]
        grid = np.stack(np.meshgrid(*axes, indexing="ij"), axis=-1).reshape(-1, 2)
        costs = _over(coarse, kit, wish, stand.height_m, grid)
        i = int(np.argmin(costs))
        if costs[i] < best.cost:
            best = replace(
                best, distance_m=float(grid[i, 0]), side_m=float(grid[i, 1]), cost=float(costs[i])
            )
        reach = [2.0 * by / (_ZOOM_GRID - 1) for by in reach]
    return best


def _steps(bounds: tuple[float, float]) -> Array:
    low, high = bounds
    return np.linspace(low, high, _GRID if high - low > 1e-9 else 1)


def _spread(cells: Sequence[tuple[float, float, float]]) -> list[tuple[float, float, float]]:
    """The best cell, and the best of those that lie elsewhere."""
    out = [cells[0]]
    for cell in cells[1:]:
        if abs(cell[1] - out[0][1]) + abs(cell[2] - out[0][2]) > 2 * _ALIKE_M:
            out.append(cell)
            break
    return out


def _over(path: PathOfArms, kit: Cable | Band, wish: Wish, height: float, stands: Array) -> Array:
    """(N,) the objective for N places, (N, 2) of distance and side, at one height."""
    x, z = float(path.hips[0]), float(path.hips[2]) + _ahead(path, kit) * stands[:, 0]
    one = _one_spot(path, kit)
    spots: dict[Side, Array] = {}
    for side, sign in (("left", 1.0), ("right", 1.0 if one else -1.0)):
        place = np.stack((x + sign * stands[:, 1], np.full(len(stands), height), z), axis=-1)
        spots[side] = place[:, None, :]  # type: ignore[index]
    moved = replace(kit, pulley_m=spots) if isinstance(kit, Cable) else replace(kit, anchor_m=spots)  # type: ignore[arg-type]
    hands = {s: a.grip[None] for s, a in path.arms.items()}
    return _costs(path, force_on(moved, hands, path.share, path.way), wish)


def load_optimiser() -> None:
    """Load the bounded search now; a window and a command start without it."""
    load(minimize)


def _refined(coarse: PathOfArms, kit: Cable | Band, wish: Wish, stand: _Stand) -> _Stand:
    def at(x: Array) -> float:
        return float(_over(coarse, kit, wish, stand.height_m, x[None])[0])

    low, high = np.array(stand.bounds).T
    if (high - low < 1e-9).all():
        return stand
    found = minimize(
        at,
        np.array((stand.distance_m, stand.side_m)),
        method="Powell",
        bounds=stand.bounds,
        options={"maxfev": 24, "xtol": 5e-3, "ftol": 1e-4},
    )
    if found.fun < stand.cost:
        x = np.clip(found.x, low, high)
        return replace(stand, distance_m=float(x[0]), side_m=float(x[1]), cost=float(found.fun))
    return stand


def _coarse(path: PathOfArms, step: int = 5) -> PathOfArms:
    """The same path by every fifth point, its ends included."""
    pick = slice(None, None, step)
    arms = {
        s: replace(
            a,
            shoulder=a.shoulder[pick],
            elbow=a.elbow[pick],
            wrist=a.wrist[pick],
            grip=a.grip[pick],
            knuckles=a.knuckles[pick],
        )
        for s, a in path.arms.items()
    }
    return replace(
        path,
        share=path.share[pick],
        angle_deg=path.angle_deg[pick],
        arms=arms,
        axis={s: a[pick] for s, a in path.axis.items()},
        way={s: w[pick] for s, w in path.way.items()},
    )


def _spot(path: PathOfArms, kit: Cable | Band) -> tuple[float, float, float]:
    """The present place of the kit: distance, height, and side offset (outward for the left)."""
    left = (kit.pulley_m if isinstance(kit, Cable) else kit.anchor_m)["left"]
    return abs(left[2] - float(path.hips[2])), left[1], left[0] - float(path.hips[0])


def _ahead(path: PathOfArms, kit: Cable | Band) -> float:
    left = (kit.pulley_m if isinstance(kit, Cable) else kit.anchor_m)["left"]
    return -1.0 if left[2] < float(path.hips[2]) else 1.0


def _moved(
    path: PathOfArms, kit: Cable | Band, distance: float, height: float, aside: float
) -> Cable | Band:
    """The kit at a distance in front or behind (as in the standard), a height and a side offset;
    mirrored for the right."""
    x, z = float(path.hips[0]), float(path.hips[2]) + _ahead(path, kit) * distance
    spots: dict[Side, tuple[float, float, float]] = {
        "left": (x + aside, height, z),
        "right": (x - aside, height, z),
    }
    if _one_spot(path, kit):
        spots["right"] = spots["left"]
    return replace(kit, pulley_m=spots) if isinstance(kit, Cable) else replace(kit, anchor_m=spots)


def _one_spot(path: PathOfArms, kit: Cable | Band) -> bool:
    """Whether one pulley or anchor serves both hands."""
    now = kit.pulley_m if isinstance(kit, Cable) else kit.anchor_m
    return len(path.arms) > 1 and tuple(now["left"]) == tuple(now["right"])


def _setup(
    path: PathOfArms,
    kit: Kit,
    wish: Wish,
    bench: float | None,
    spot: tuple[float, float, float] | None,
) -> Setup:
    if spot is None or not isinstance(kit, Cable | Band):
        load = load_along(path, kit)
        return Setup(
            kit=kit,
            distance_m=None,
            side_m=None,
            height_m=None,
            bench_deg=bench,
            load=load,
            moves_deg=0.0,
            least_if_off_pct=load.curve.least_pct,
            cost=cost_of(load, wish),
        )
    distance, height, aside = spot
    own = _moved(path, kit, distance, height, aside)
    load = load_along(path, own)
    moves, least = 0.0, load.curve.least_pct
    angle = load.curve.hardest.angle_deg if load.curve.hardest else 0.0
    for by in (
        (HANDS_WIDTH_M, 0, 0),
        (-HANDS_WIDTH_M, 0, 0),
        (0, HANDS_WIDTH_M, 0),
        (0, -HANDS_WIDTH_M, 0),
        (0, 0, HANDS_WIDTH_M),
        (0, 0, -HANDS_WIDTH_M),
    ):
        near = load_along(
            path, _moved(path, kit, distance + by[0], height + by[1], aside + by[2])
        ).curve
        if near.hardest is not None:
            moves = max(moves, abs(near.hardest.angle_deg - angle))
        least = min(least, near.least_pct)
    return Setup(
        kit=own,
        distance_m=distance,
        side_m=aside,
        height_m=height,
        bench_deg=bench,
        load=load,
        moves_deg=moves,
        least_if_off_pct=least,
        cost=cost_of(load, wish),
    )


def _apart(a: Setup | _Stand, b: Setup | _Stand) -> bool:
    if a.bench_deg != b.bench_deg or a.height_m != b.height_m:
        return True
    if a.distance_m is None or b.distance_m is None or a.side_m is None or b.side_m is None:
        return False
    return abs(a.distance_m - b.distance_m) + abs(a.side_m - b.side_m) > _ALIKE_M
