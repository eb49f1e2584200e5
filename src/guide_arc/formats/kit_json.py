"""Kit, wishes, loads and setups as the JSON of formats.md, section 7."""

from __future__ import annotations

import itertools
import json
import math
from pathlib import Path
from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict, Field, TypeAdapter, ValidationError, model_validator

from guide_arc.core.kinematics.vectors import Array
from guide_arc.core.mechanics.find_setup import Room, Setup, Wish
from guide_arc.core.mechanics.kit import (
    AnchoredBar,
    Band,
    BodyWeight,
    Cable,
    Chain,
    FreeWeight,
    Kit,
    Machine,
    Place,
)
from guide_arc.core.mechanics.path_load import PathLoad
from guide_arc.core.mechanics.recorded_load import RecordedLoad
from guide_arc.core.mechanics.statics import ArmLoad, Curve
from guide_arc.core.model.landmarks import SIDES, Side
from guide_arc.formats.errors import BadFile
from guide_arc.formats.json_object import read_object

Kilograms = Annotated[float, Field(ge=0, le=2000, allow_inf_nan=False)]
Metres = Annotated[float, Field(ge=-60, le=60, allow_inf_nan=False)]
Length = Annotated[float, Field(gt=0, le=60, allow_inf_nan=False)]
Newtons = Annotated[float, Field(ge=0, le=50000, allow_inf_nan=False)]
Spot = tuple[Metres, Metres, Metres]


class _Part(BaseModel):
    model_config = ConfigDict(extra="forbid")
    body_kg: Annotated[float, Field(gt=0, le=500, allow_inf_nan=False)] | None = None


class _Sides(BaseModel):
    model_config = ConfigDict(extra="forbid")
    left: Spot
    right: Spot


class _Free(_Part):
    pull: Literal["free-weight"]
    kg: Kilograms
    held: Literal["dumbbell", "bar"]

    def kit(self) -> Kit:
        return FreeWeight(self.kg, self.held)


class _Cable(_Part):
    pull: Literal["cable"]
    kg: Kilograms
    pulley_m: Spot | _Sides
    ratio: Annotated[float, Field(gt=0, le=20, allow_inf_nan=False)] = 1.0
    each: bool = False
    friction: Annotated[float, Field(ge=0, le=0.5, allow_inf_nan=False)] = 0.0

    def kit(self) -> Kit:
        return Cable(self.kg, _both(self.pulley_m), self.ratio, self.each, self.friction)


class _Band(_Part):
    pull: Literal["band"]
    anchor_m: Spot | _Sides
    rest_m: Length
    newton_per_m: Annotated[float, Field(gt=0, le=100000, allow_inf_nan=False)] | None = None
    table: list[tuple[Annotated[float, Field(ge=0, le=60)], Newtons]] | None = None

    @model_validator(mode="after")
    def _one_way(self) -> _Band:
        if (self.newton_per_m is None) == (self.table is None):
            raise ValueError("a band has newton_per_m or a table, one of them")
        if self.table is not None and (len(self.table) < 1 or _falls(self.table)):
            raise ValueError("table needs rows whose stretch rises")
        return self

    def kit(self) -> Kit:
        return Band(_both(self.anchor_m), self.rest_m, self.newton_per_m, tuple(self.table or ()))


class _Chain(_Part):
    pull: Literal["chain"]
    kg: Kilograms
    kg_per_m: Kilograms
    length_m: Length
    floor_y_m: Metres

    def kit(self) -> Kit:
        return Chain(self.kg, self.kg_per_m, self.length_m, self.floor_y_m)


class _Bar(_Part):
    pull: Literal["anchored-bar"]
    pivot_m: Spot
    bar_kg: Kilograms
    bar_m: Length
    plates_kg: Kilograms
    plates_at_m: Length

    def kit(self) -> Kit:
        return AnchoredBar(self.pivot_m, self.bar_kg, self.bar_m, self.plates_kg, self.plates_at_m)


class _Body(_Part):
    pull: Literal["body-weight"]
    kg: Kilograms
    assist_kg: Kilograms = 0.0
    support_share: Annotated[float, Field(gt=0, le=1)] = 1.0

    @model_validator(mode="after")
    def _less_help(self) -> _Body:
        if self.assist_kg > self.kg:
            raise ValueError("assist_kg is more than kg; nothing would be left to lift")
        return self

    def kit(self) -> Kit:
        return BodyWeight(self.kg, self.assist_kg, self.support_share)


class _Machine(_Part):
    pull: Literal["machine"]
    table: list[tuple[Annotated[float, Field(ge=-1, le=2)], Newtons]] = Field(min_length=1)
    direction: Literal["path"] = "path"

    @model_validator(mode="after")
    def _rises(self) -> _Machine:
        if _falls(self.table):
            raise ValueError("table needs rows whose share rises")
        return self

    def kit(self) -> Kit:
        return Machine(tuple(self.table))


_Form = Annotated[
    _Free | _Cable | _Band | _Chain | _Bar | _Body | _Machine, Field(discriminator="pull")
]
_KIT: TypeAdapter[Any] = TypeAdapter(_Form)


class _RoomForm(BaseModel):
    model_config = ConfigDict(extra="forbid")
    pulley_heights_m: list[Annotated[float, Field(ge=0, le=10)]] = []
    distance_m: (
        tuple[Annotated[float, Field(ge=0, le=20)], Annotated[float, Field(ge=0, le=20)]] | None
    ) = None
    side_m: tuple[Metres, Metres] | None = None
    bench_deg: list[Annotated[float, Field(ge=-45, le=90)]] = []

    @model_validator(mode="after")
    def _ordered(self) -> _RoomForm:
        for name in ("distance_m", "side_m"):
            pair = getattr(self, name)
            if pair is not None and pair[0] > pair[1]:
                raise ValueError(f"{name} falls; the least comes first")
        return self


class _WishForm(BaseModel):
    model_config = ConfigDict(extra="forbid")
    hardest: Literal["stretched", "middle", "shortened", "even"] | None = None
    no_slack: bool = False
    in_plane: bool = False
    spare: list[Literal["elbow", "shoulder", "wrist"]] = []
    room: _RoomForm = _RoomForm()


def read_kit(path: Path) -> tuple[Kit, float | None]:
    """Kit from its file, and the person's mass, if given. Raises BadFile with the key of
    what is wrong."""
    return kit_from(read_object(path, "kit"), path)


def kit_from(document: Any, path: Path) -> tuple[Kit, float | None]:
    form = _validated(_KIT, document, path, "kit")
    return form.kit(), form.body_kg


def read_wish(path: Path) -> Wish:
    """A wish from its file. Raises BadFile with the key of what is wrong."""
    form: _WishForm = _validated(TypeAdapter(_WishForm), read_object(path, "wish"), path, "wish")
    room = Room(
        tuple(form.room.pulley_heights_m),
        form.room.distance_m,
        form.room.side_m,
        tuple(form.room.bench_deg),
    )
    return Wish(form.hardest, form.no_slack, form.in_plane, tuple(form.spare), room)


def kit_document(kit: Kit) -> dict[str, Any]:
    """Kit as plain values."""
    if isinstance(kit, FreeWeight):
        return {"pull": "free-weight", "kg": kit.kg, "held": kit.held}
    if isinstance(kit, Cable):
        return {
            "pull": "cable",
            "kg": kit.kg,
            "ratio": kit.ratio,
            "pulley_m": _spots(kit.pulley_m),
            "each": kit.each,
            **({"friction": kit.friction} if kit.friction else {}),
        }
    if isinstance(kit, Band):
        own: dict[str, Any] = {
            "pull": "band",
            "anchor_m": _spots(kit.anchor_m),
            "rest_m": kit.rest_m,
        }
        own |= (
            {"newton_per_m": kit.newton_per_m}
            if kit.newton_per_m is not None
            else {"table": [list(r) for r in kit.table]}
        )
        return own
    if isinstance(kit, Chain):
        return {
            "pull": "chain",
            "kg": kit.kg,
            "kg_per_m": kit.kg_per_m,
            "length_m": kit.length_m,
            "floor_y_m": kit.floor_y_m,
        }
    if isinstance(kit, AnchoredBar):
        return {
            "pull": "anchored-bar",
            "pivot_m": list(kit.pivot_m),
            "bar_kg": kit.bar_kg,
            "bar_m": kit.bar_m,
            "plates_kg": kit.plates_kg,
            "plates_at_m": kit.plates_at_m,
        }
    if isinstance(kit, BodyWeight):
        return {
            "pull": "body-weight",
            "kg": kit.kg,
            "assist_kg": kit.assist_kg,
            "support_share": kit.support_share,
        }
    return {"pull": "machine", "table": [list(r) for r in kit.table], "direction": "path"}


def rig_json(load: PathLoad, fibre_pct: float | None) -> str:
    """The load along a standard's path."""
    points = [
        {
            "share": _number(load.path.share[i]),
            "angle_deg": _number(load.path.angle_deg[i]),
            **{side: _arm(load.loads.get(side), i) for side in SIDES},
        }
        for i in range(len(load.path.share))
    ]
    return _text(
        {
            "format": "rig/1",
            "points": points,
            **_curve(load.curve, mean=False),
            "fibre_pct": fibre_pct,
        }
    )


def pull_json(load: RecordedLoad, *, details: bool = False) -> str:
    """The load on a recorded set. details : with the moments' uncertainty and the momentum of each
    lift"""
    frames = [
        {
            "t_s": _number(load.time_s[i]),
            **{side: _recorded_arm(load, side, i, details) for side in SIDES},
        }
        for i in range(len(load.time_s))
    ]
    reps = [
        {
            "number": rep.number,
            "side": rep.side,
            **_curve(curve),
            **({"momentum_pct": _number(momentum)} if details else {}),
        }
        for (rep, curve), momentum in zip(load.curves, load.momentum_pct, strict=True)
    ]
    return _text({"format": "pull/1", "frames": frames, "reps": reps})


def setups_json(setups: tuple[Setup, ...]) -> str:
    """The setups that were found, best first."""
    return _text({"format": "setups/1", "setups": [setup_document(s) for s in setups]})


def setup_document(setup: Setup) -> dict[str, Any]:
    return {
        "kit": kit_document(setup.kit),
        "stand": {"distance_m": _number(setup.distance_m), "side_m": _number(setup.side_m)},
        "bench_deg": _number(setup.bench_deg),
        **_curve(setup.curve, mean=False),
        "least_pct": _number(setup.curve.least_pct),
        "off_plane_deg": _number(setup.load.worst_off_plane_deg),
        "if_off_by_hand": {
            "hardest_moves_deg": _number(setup.moves_deg),
            "least_pct": _number(setup.least_if_off_pct),
        },
        "score": _number(setup.score),
    }


def _curve(curve: Curve, *, mean: bool = True) -> dict[str, Any]:
    hardest = curve.hardest
    out: dict[str, Any] = {
        "hardest": (
            None
            if hardest is None
            else {
                "share": _number(hardest.share),
                "angle_deg": _number(hardest.angle_deg),
                "nm": _number(hardest.nm),
            }
        ),
        "slack": [[_number(a), _number(b)] for a, b in curve.slack],
    }
    if mean:
        out["mean_nm"] = _number(curve.mean_nm)
    return out


def _arm(load: ArmLoad | None, i: int) -> dict[str, Any] | None:
    if load is None:
        return None
    return {
        "force_n": _vector(load.force_n, i),
        "elbow_nm": _vector(load.elbow_nm, i),
        "shoulder_nm": _vector(load.shoulder_nm, i),
        "limb_elbow_nm": _vector(load.limb_elbow_nm, i),
        "limb_shoulder_nm": _vector(load.limb_shoulder_nm, i),
        "against_nm": _number(load.against_nm[i]),
        "lever_m": _number(load.lever_m[i]),
        "off_plane_deg": _number(load.off_plane_deg[i]),
    }


def _recorded_arm(load: RecordedLoad, side: Side, i: int, details: bool) -> dict[str, Any] | None:
    if side not in load.loads or not load.seen[side][i]:
        return None
    own = _arm(load.loads[side], i) or {}
    return {**own, "against_u_nm": _number(load.against_u_nm[side][i])} if details else own


def _vector(values: Array | None, i: int) -> list[float | None] | None:
    return None if values is None else [_number(v) for v in values[i]]


def _number(value: Any) -> float | None:
    if value is None or not math.isfinite(float(value)):
        return None
    return round(float(value), 6)


def _both(spot: Spot | _Sides) -> dict[Side, Place]:
    if isinstance(spot, _Sides):
        return {"left": spot.left, "right": spot.right}
    return {"left": spot, "right": spot}


def _spots(spots: Any) -> Any:
    left, right = ([round(float(v), 4) for v in spots[side]] for side in SIDES)
    return left if left == right else {"left": left, "right": right}


def _falls(rows: list[tuple[float, float]]) -> bool:
    return any(b[0] <= a[0] for a, b in itertools.pairwise(rows))


def _validated(adapter: TypeAdapter[Any], document: Any, path: Path, what: str) -> Any:
    try:
        return adapter.validate_python(document)
    except ValidationError as error:
        first = error.errors()[0]
        where = ".".join(
            str(step)
            for step in first["loc"]
            if not str(step)[:1].isupper() and str(step)[:1] != "_"
        )
        said = first["msg"].removeprefix("Value error, ")
        raise BadFile(f"{where or what}: {said[:1].lower()}{said[1:]}", path=path) from None


def _text(document: Any) -> str:
    return json.dumps(document, indent=1, ensure_ascii=False)
