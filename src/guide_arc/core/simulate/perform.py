"""A simulated client performs a standard before a simulated camera, with the truth next to it."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field, replace
from functools import cached_property
from typing import Any, Final, Literal

import numpy as np

from guide_arc.core.kinematics.anatomy import Anatomy
from guide_arc.core.kinematics.guide import (
    poses_along,
    poses_back,
    returns_elsewhere,
    trunk_along,
)
from guide_arc.core.kinematics.measures.registry import own_sign, spec_of_measure
from guide_arc.core.kinematics.trunk import trunk
from guide_arc.core.kinematics.vectors import Array, length
from guide_arc.core.model.errors import BadInput
from guide_arc.core.model.landmarks import SIDES, Side
from guide_arc.core.model.standard import Standard, Tempo
from guide_arc.core.model.track import CameraPlace, LandmarkTrack, SetFacts
from guide_arc.core.simulate.arm_faults import arm_faults
from guide_arc.core.simulate.camera import IMAGE_SIZE, Camera, record
from guide_arc.core.simulate.faults import checked_faults, moved, reach
from guide_arc.core.simulate.kit import pulleys
from guide_arc.core.simulate.opening import Opening, surroundings
from guide_arc.core.simulate.skeleton import Posture, landmarks
from guide_arc.core.simulate.timing import (
    EVERY,
    USUALLY_VARIED,
    RepPlan,
    one_and_a_half,
    plan_reps,
    share_over,
)
from guide_arc.core.simulate.tracker import kept_frames
from guide_arc.core.simulate.truth import truth_document

_MOST_REPS: Final = 500
_CLOSING_S: Final = 1.5

Scheme = Literal["plain", "one-and-a-half"]
ArmsAtWork = Literal["together", "alternating", "left", "right"]


@dataclass(frozen=True)
class Script:
    """What the client does.

    tempo : None follows the standard's own
    arms : None follows the standard: together, or the left arm where one works
    arm_length : both parts of the arm over a usual body's
    partial : how many short reps (half the range) follow the full ones
    first_hold_s : a hold at the top of the first rep only
    opening : "still" does not move before it starts; "walk-in" walks in, takes the kit, and leaves
    again
    scheme : "one-and-a-half" comes half-way down and up again in each rep even_lowering : lowers at
    one speed, as to a count, instead of with a bell of speed
    varied : how much the reps differ in time, see `timing.plan_reps`
    faults : by check name, see `faults.faults_known`; fault_from : the first rep that has them"""

    reps: int = 10
    tempo: Tempo | None = None
    arms: ArmsAtWork | None = None
    stature_m: float = 1.75
    arm_length: float = 1.0
    partial: int = 0
    first_hold_s: float = 0.0
    opening: Opening = "still"
    opening_s: float = 2.0
    faults: Mapping[str, float] = field(default_factory=dict)
    fault_from: int = 1
    even_lowering: bool = False
    varied: float = USUALLY_VARIED
    scheme: Scheme = "plain"
    load_kg: float | None = None
    recorded: str | None = None

    def __post_init__(self) -> None:
        if not 1 <= self.reps <= _MOST_REPS:
            raise BadInput(f"reps is {self.reps}; it must be from 1 to {_MOST_REPS}")
        if not 1.0 <= self.stature_m <= 2.4:
            raise BadInput(f"the stature is {self.stature_m:g} m; it must be from 1.0 to 2.4")
        object.__setattr__(self, "faults", checked_faults(self.faults))


@dataclass(frozen=True, eq=False)
class Performance:
    """The recorded track, the noise-free landmarks (T, L, 3), and the truth as plain values.

    told : works the truth out, which takes longer than the recording; computed on first use
    """

    track: LandmarkTrack
    exact: Array
    told: Callable[[], dict[str, Any]]

    @cached_property
    def truth(self) -> dict[str, Any]:
        return self.told()


def perform(standard: Standard, script: Script, camera: Camera, seed: int = 0) -> Performance:
    """A recorded set. The same arguments give the same set, to the last digit."""
    rng = np.random.default_rng(seed)
    anatomy = Anatomy(script.stature_m, script.arm_length)
    tempo = script.tempo or standard.tempo
    plans = _plans(standard, script, tempo, rng)
    end = max(plan.end_s for own in plans.values() for plan in own) + _CLOSING_S
    around = surroundings(script.opening, _opening_s(standard, script, tempo), end)
    time_s = np.arange(round((end + around.closing_s) * camera.rate_hz) + 1) / camera.rate_hz
    time_s = time_s[kept_frames(len(time_s), camera.tracker, np.random.default_rng(seed))]
    points = _figure(standard, script, anatomy, plans, time_s, around)
    points |= pulleys(standard, points, _first_lift(plans, time_s), script.faults)
    names = tuple(points)
    exact = np.stack([points[n] for n in names], axis=1)
    seen, confidence = record(exact, names, camera, rng)
    world = camera.view == "none"
    track = LandmarkTrack(
        time_s=np.round(time_s, 6),
        names=names,
        position=np.round(seen, 5 if world else 3),
        confidence=np.round(confidence, 2),
        space="world" if world else "image",
        view=camera.view,
        camera=CameraPlace(between=camera.between),
        image_size=None if world else IMAGE_SIZE,
        facts=SetFacts(
            standard=standard.id,
            load_kg=script.load_kg,
            subject_height_m=script.stature_m,
            recorded=script.recorded,
        ),
    )

    def told() -> dict[str, Any]:
        fine = np.arange(0.0, time_s[-1], 1.0 / 240.0)
        drive = _drive(standard, _figure(standard, script, anatomy, plans, fine, around))
        truth = truth_document(standard, script.faults, plans, fine, drive, script.fault_from)
        truth.update(seed=seed, arms=_arms(standard, script), view=camera.between or camera.view)
        return truth

    return Performance(track, exact, told)


def _opening_s(standard: Standard, script: Script, tempo: Tempo) -> float:
    """The time before the first lift, long enough for a stretch that the standard opens with."""
    if tempo != standard.tempo or not standard.holds.opening_stretch_s:
        return script.opening_s
    held = script.faults.get("hold-missing", 1.1 * standard.holds.opening_stretch_s)
    return max(held, 0.3)


def _first_lift(plans: dict[Side, list[RepPlan]], time_s: Array) -> slice:
    """The frames of the first lift, from start to turn, at least four."""
    first = min((own[0] for own in plans.values()), key=lambda plan: plan.start_s)
    a = int(np.searchsorted(time_s, first.start_s))
    return slice(a, max(int(np.searchsorted(time_s, first.start_s + first.lift_s)), a + 4))


def _arms(standard: Standard, script: Script) -> ArmsAtWork:
    return script.arms or ("left" if standard.arms == "one" else "together")


def _plans(
    standard: Standard, script: Script, tempo: Tempo, rng: np.random.Generator
) -> dict[Side, list[RepPlan]]:
    total = script.reps + script.partial
    far = reach(standard, script.faults, total)
    clean = reach(standard, {}, total)
    far[:, : script.fault_from - 1] = clean[:, : script.fault_from - 1]
    far[:, script.reps :] *= 0.52
    arms = _arms(standard, script)
    active: tuple[Side, ...] = SIDES
    if arms in SIDES:
        active = ("left",) if arms == "left" else ("right",)
    gap = 0.0
    opening_s = _opening_s(standard, script, tempo)
    holds = standard.holds if tempo == standard.tempo else EVERY
    if arms == "alternating":
        probe = plan_reps(tempo, far[0, :1], 0.0, script.faults, np.random.default_rng(0))[0]
        gap = 1.15 * probe.end_s
    plans = plan_reps(
        tempo,
        far[0],
        opening_s,
        script.faults,
        rng,
        gap_s=gap,
        even=script.even_lowering,
        holds=holds,
        varied=script.varied,
    )
    if script.fault_from > 1:
        calm = {k: v for k, v in script.faults.items() if k not in _TIMED}
        early = plan_reps(
            tempo,
            far[0],
            opening_s,
            calm,
            rng,
            gap_s=gap,
            even=script.even_lowering,
            holds=holds,
            varied=script.varied,
        )
        plans = _joined(early, plans, script.fault_from)
    if script.first_hold_s:
        plans = [plans[0], *plans[1:]]
        plans[0] = replace(plans[0], top_s=script.first_hold_s)
        plans = plans[:1] + [replace(p, start_s=p.start_s + script.first_hold_s) for p in plans[1:]]
    out: dict[Side, list[RepPlan]] = {}
    for side in active:
        row = 0 if side == "left" else 1
        shift = (
            0.5 * (plans[0].end_s - plans[0].start_s + gap)
            if arms == "alternating" and row
            else 0.0
        )
        own = [
            replace(p, reach=float(far[row, i]), start_s=p.start_s + shift)
            for i, p in enumerate(plans)
        ]
        out[side] = one_and_a_half(own) if script.scheme == "one-and-a-half" else own
    return out


_TIMED: Final = (
    "too-fast-lower",
    "too-fast-lift",
    "too-slow-lower",
    "too-slow-lift",
    "hold-missing",
    "momentum",
)


def _joined(early: list[RepPlan], late: list[RepPlan], fault_from: int) -> list[RepPlan]:
    out = early[: fault_from - 1]
    shift = (early[fault_from - 1].start_s if fault_from <= len(early) else 0.0) - (
        late[fault_from - 1].start_s if fault_from <= len(late) else 0.0
    )
    return out + [replace(p, start_s=p.start_s + shift) for p in late[fault_from - 1 :]]


def _figure(
    standard: Standard,
    script: Script,
    anatomy: Anatomy,
    plans: dict[Side, list[RepPlan]],
    time_s: Array,
    around: Any,
) -> dict[str, Array]:
    faults = script.faults
    arms: dict[Side, Array] = {}
    bumps: dict[Side, Array] = {}
    shares: dict[Side, Array] = {}
    for side in SIDES:
        own = plans.get(side, [])
        share = share_over(own, time_s)
        faulty = share_over(own[script.fault_from - 1 :], time_s, per_reach=True)
        poses = _poses(standard, side, own, share, time_s)
        poses = arm_faults(standard, anatomy, poses, faulty, faults)
        arms[side] = around.arms(poses, side, time_s)
        bumps[side], shares[side] = faulty, share
    bump = np.maximum(bumps["left"], bumps["right"])
    mirrored = -1.0 if _arms(standard, script) == "right" else 1.0
    trunk = trunk_along(standard, np.maximum(shares["left"], shares["right"]))
    lean, aside, twist, _, rounding = trunk.T
    raised = moved(faults, "shoulders", bump)
    hike = {
        side: 0.01 * trunk_along(standard, share)[:, 3] + raised for side, share in shares.items()
    }
    if "torso-lean" in faults:
        lean = lean + standard.trunk_lean_deg[0] - np.mean(standard.trunk_lean_deg)
        lean = lean - faults["torso-lean"]
    lean = lean + moved(faults, "lean", bump)
    posture = Posture(
        lean_deg=around.lean(lean, time_s),
        side_lean_deg=mirrored * aside + moved(faults, "aside", bump),
        twist_deg=mirrored * twist + moved(faults, "twist", bump),
        hike=hike,
        wrist_deg=6.0 + np.maximum(faults.get("wrist-bend", 6.0) - 6.0, 0.0) * bump,
        place_m=around.place_m(time_s) + _hips_aside(anatomy, faults, bump),
        round_deg=rounding + _rounding(standard, faults) * bump,
    )
    return landmarks(anatomy, standard.base, posture, arms)


def _rounding(standard: Standard, faults: Mapping[str, float]) -> float:
    """Degrees by which the faults round the spine; negative if they arch it, as in an upright
    person."""
    way = -1.0 if standard.base in ("standing", "plank") else 1.0
    return way * faults.get("neutral-back", 0.0) - faults.get("spine-straight", 0.0)


def _hips_aside(anatomy: Anatomy, faults: Mapping[str, float], bump: Array) -> Array:
    """(T, 2) the path of hips that leave their place: ahead."""
    ahead = anatomy.trunk_m * moved(faults, "hips", bump)
    return np.stack((np.zeros_like(ahead), ahead), axis=-1)


def _poses(
    standard: Standard, side: Side, own: list[RepPlan], share: Array, time_s: Array
) -> Array:
    """(T, 7) one arm's poses: up its way, down the same or another way."""
    up = poses_along(standard, share)
    if not returns_elsewhere(standard) or not own:
        return up
    down = poses_back(standard, share)
    if standard.across is None:
        # Each rep turns over to the way down; the next one starts where both ways meet.
        weight = np.zeros(len(time_s))
        for plan in own:
            weight = np.where(time_s >= plan.start_s, plan.returning(time_s), weight)
    else:
        # Each rep passes to the other side and the next one comes back.
        weight = np.zeros(len(time_s))
        for i, plan in enumerate(own):
            weight = weight + (1.0 if i % 2 == 0 else -1.0) * plan.passed(time_s)
        if side == "right":
            weight = 1.0 - weight
    out: Array = (1.0 - weight)[:, None] * up + weight[:, None] * down
    return out


def _drive(standard: Standard, points: dict[str, Array]) -> dict[Side, Array]:
    """The exact driving measure of each side; a shrug's as formats define it, from its lowest."""
    definition = spec_of_measure(standard.drive)
    out: dict[Side, Array] = {}
    for side in SIDES:
        if standard.drive == "shoulder_hike":
            gap = definition.formula(points, side)
            out[side] = 100.0 * (gap[0] - gap) / float(length(trunk(points))[0])
        elif definition.per_side:
            out[side] = _filled(definition.formula(points, side))
        else:
            out[side] = own_sign(standard.drive, side) * definition.formula(points)
    return out


def _filled(measure: Array) -> Array:
    """A measure interpolated where it is not defined, as of an arm that passes overhead."""
    seen = np.flatnonzero(np.isfinite(measure))
    if not len(seen):
        return np.zeros(len(measure))
    out: Array = np.interp(np.arange(len(measure)), seen, measure[seen])
    return out
