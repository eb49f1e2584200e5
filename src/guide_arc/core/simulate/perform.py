"""A simulated client performs a standard before a simulated camera, with the truth beside it."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from typing import Any, Final, Literal

import numpy as np

from guide_arc.core.kinematics.anatomy import FOREARM_OVER_UPPER_ARM, Anatomy
from guide_arc.core.kinematics.guide import arm_directions, arm_path, poses_along
from guide_arc.core.kinematics.measures import (
    elbow_flexion,
    shoulder_elevation,
    shoulder_plane,
)
from guide_arc.core.kinematics.vectors import Array
from guide_arc.core.model.errors import BadInput
from guide_arc.core.model.landmarks import SIDES, Side
from guide_arc.core.model.standard import Standard, Tempo
from guide_arc.core.model.track import LandmarkTrack, SetFacts
from guide_arc.core.simulate.camera import IMAGE_SIZE, Camera, record
from guide_arc.core.simulate.faults import checked_faults, reach
from guide_arc.core.simulate.kit import pulleys
from guide_arc.core.simulate.opening import Opening, surroundings
from guide_arc.core.simulate.skeleton import Posture, landmarks
from guide_arc.core.simulate.timing import RepPlan, one_and_a_half, plan_reps
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
    partial : how many short reps (half the range) follow the full ones
    first_hold_s : a hold at the top of the first rep only
    opening : "still" stands and starts; "walk-in" walks in, takes the kit, and leaves again
    scheme : "one-and-a-half" comes half-way down and up again in each rep
    even_lowering : lowers at one speed, as to a count, instead of with a bell of speed
    faults : by check name, see `faults.FAULTS`; fault_from : the first rep that has them
    """

    reps: int = 10
    tempo: Tempo | None = None
    arms: ArmsAtWork | None = None
    stature_m: float = 1.75
    partial: int = 0
    first_hold_s: float = 0.0
    opening: Opening = "still"
    opening_s: float = 2.0
    faults: Mapping[str, float] = field(default_factory=dict)
    fault_from: int = 1
    even_lowering: bool = False
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
    """The recorded track, the noise-free landmarks (T, L, 3), and the truth as plain values."""

    track: LandmarkTrack
    exact: Array
    truth: dict[str, Any]


def perform(
    standard: Standard, script: Script, camera: Camera, seed: int = 0, *, with_truth: bool = True
) -> Performance:
    """A recorded set. The same arguments give the same set, to the last digit.

    with_truth : False leaves `truth` empty, for those who only want the recording
    """
    rng = np.random.default_rng(seed)
    anatomy = Anatomy(script.stature_m)
    tempo = script.tempo or standard.tempo
    plans = _plans(standard, script, tempo, rng)
    end = max(plan.end_s for own in plans.values() for plan in own) + _CLOSING_S
    around = surroundings(script.opening, script.opening_s, end)
    time_s = np.arange(round((end + around.closing_s) * camera.rate_hz) + 1) / camera.rate_hz
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
        image_size=None if world else IMAGE_SIZE,
        facts=SetFacts(
            standard=standard.id,
            load_kg=script.load_kg,
            subject_height_m=script.stature_m,
            recorded=script.recorded,
        ),
    )
    if not with_truth:
        return Performance(track, exact, {})
    fine = np.arange(0.0, time_s[-1], 1.0 / 240.0)
    drive = _drive(standard, _figure(standard, script, anatomy, plans, fine, around))
    truth = truth_document(standard, script.faults, plans, fine, drive, script.fault_from)
    truth.update(seed=seed, arms=_arms(standard, script), view=camera.view)
    return Performance(track, exact, truth)


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
    if arms == "alternating":
        probe = plan_reps(tempo, far[0, :1], 0.0, script.faults, np.random.default_rng(0))[0]
        gap = 1.15 * probe.end_s
    plans = plan_reps(
        tempo, far[0], script.opening_s, script.faults, rng, gap_s=gap, even=script.even_lowering
    )
    if script.fault_from > 1:
        calm = {k: v for k, v in script.faults.items() if k not in _TIMED}
        early = plan_reps(
            tempo, far[0], script.opening_s, calm, rng, gap_s=gap, even=script.even_lowering
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


_TIMED: Final = ("too-fast-lower", "too-fast-lift", "hold-missing", "momentum")


def _joined(early: list[RepPlan], late: list[RepPlan], fault_from: int) -> list[RepPlan]:
    out = early[: fault_from - 1]
    shift = (early[fault_from - 1].start_s if fault_from <= len(early) else 0.0) - (
        late[fault_from - 1].start_s if fault_from <= len(late) else 0.0
    )
    return out + [replace(p, start_s=p.start_s + shift) for p in late[fault_from - 1 :]]


def _figure(  # noqa: PLR0913
    standard: Standard, script: Script, anatomy: Anatomy, plans: dict[Side, list[RepPlan]],
    time_s: Array, around: Any,
) -> dict[str, Array]:  # fmt: skip
    faults = script.faults
    arms: dict[Side, Array] = {}
    bumps: dict[Side, Array] = {}
    for side in SIDES:
        own = plans.get(side, [])
        share = sum((plan.share(time_s) for plan in own), np.zeros(len(time_s)))
        faulty = sum(
            (plan.share(time_s) / plan.reach for plan in own[script.fault_from - 1 :]),
            np.zeros(len(time_s)),
        )
        poses = poses_along(standard, share)
        poses = _arm_faults(standard, anatomy, poses, faulty, faults)
        arms[side] = around.arms(poses, side, time_s)
        bumps[side] = faulty
    bump = np.maximum(bumps["left"], bumps["right"])
    lean = np.full(len(time_s), float(np.mean(standard.trunk_lean_deg)))
    if "torso-lean" in faults:
        lean[:] = standard.trunk_lean_deg[0] - faults["torso-lean"]
    lean -= faults.get("torso-swing", 0.0) * bump
    posture = Posture(
        lean_deg=around.lean(lean, time_s),
        twist_deg=faults.get("torso-twist", 0.0) * bump,
        hike=faults.get("shoulder-hike", 0.0) / 100.0 * bump,
        wrist_deg=6.0 + np.maximum(faults.get("wrist-bend", 6.0) - 6.0, 0.0) * bump,
        place_m=around.place_m(time_s),
    )
    return landmarks(anatomy, standard.base, posture, arms)


def _arm_faults(
    standard: Standard, anatomy: Anatomy, poses: Array, bump: Array, faults: Mapping[str, float]
) -> Array:
    out = poses.copy()
    out[:, 0] += faults.get("upper-arm-drift", 0.0) * bump
    out[:, 2] += faults.get("elbow-bend-change", 0.0) * bump
    if "elbow-low" in faults:
        low = np.degrees(np.arccos(np.clip(faults["elbow-low"] / 100.0, 0.0, 1.0)))
        out[:, 0] += (low - standard.turn.elevation_deg) * bump
    for part, name in (("elbow", "elbow-path"), ("wrist", "hand-path")):
        if name in faults:
            column, shift = _off_path(standard, part, faults[name])
            out[:, column] += shift * bump
    if "end-point" in faults:
        out = _short_of_target(standard, anatomy, out, bump, faults["end-point"])
    out[:, 2] = np.clip(out[:, 2], 0.0, 160.0)
    return out


def _off_path(standard: Standard, part: str, amount_pct: float) -> tuple[int, float]:
    """Which number of the pose to shift at the turn, and by how much, so that the joint leaves
    its guide arc by the asked share of the upper arm."""
    guide = arm_path(standard, 61, beyond=0.15)[part]
    share = np.linspace(0.0, 1.0, 41)
    hangs = standard.turn.elevation_deg < 25.0
    if hangs and part == "wrist":
        column, tried = 3, np.linspace(0.0, 2.5, 201)
    elif hangs or standard.drive == "shoulder_plane":
        column, tried = 0, (1.0 if hangs else -1.0) * np.linspace(0.0, 75.0, 201)
    else:
        column, tried = 1, -np.linspace(0.0, 75.0, 201)
    poses = np.repeat(poses_along(standard, share)[None], len(tried), axis=0)
    poses[..., column] += tried[:, None] * share
    upper, forearm = arm_directions(poses)
    way = upper if part == "elbow" else upper + FOREARM_OVER_UPPER_ARM * forearm
    gaps = np.linalg.norm(way[:, :, None] - guide[None, None], axis=-1).min(axis=-1).max(axis=-1)
    return column, float(tried[int(np.argmin(np.abs(100.0 * gaps - amount_pct)))])


def _short_of_target(
    standard: Standard, anatomy: Anatomy, poses: Array, bump: Array, amount_pct: float
) -> Array:
    """Turn the upper arm away from the target until the hand is the asked share short of it."""
    rule = standard.check("end-point")
    if rule is None:
        raise BadInput(f"{standard.id} in this school has no end-point check to go wrong")
    column = 1 if rule.target == "midline" else 0
    turn = poses_along(standard, np.array([1.0]))
    off = np.linspace(0.0, 75.0, 301)
    tried = np.repeat(turn, len(off), axis=0)
    tried[:, column] -= off
    upper, forearm = arm_directions(tried)
    hand = anatomy.upper_arm_m * upper + (anatomy.forearm_m + anatomy.knuckles_m) * forearm
    if rule.target == "midline":
        missing = hand[:, 0] + anatomy.half_shoulders_m
    else:
        drop = 0.008 * anatomy.stature_m if rule.target == "nose-height" else 0.0
        missing = anatomy.ear_above_shoulder_m - drop - hand[:, 1]
    short = 100.0 * missing / anatomy.trunk_m
    best = off[int(np.argmin(np.abs(short - amount_pct)))]
    out = poses.copy()
    out[:, column] -= best * bump
    return out


def _drive(standard: Standard, points: dict[str, Array]) -> dict[Side, Array]:
    formula = {
        "elbow_flexion": elbow_flexion,
        "shoulder_elevation": shoulder_elevation,
        "shoulder_plane": shoulder_plane,
    }[standard.drive]
    return {side: formula(points, side) for side in SIDES}
