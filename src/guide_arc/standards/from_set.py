"""A standard proposed from a model set: what moved becomes range and key poses, what stayed becomes
checks, the spread of the reps becomes the corridor.

The nearest standard of the catalogue lends what a recording can't show: muscle, kit, cautions, words.
"""

from __future__ import annotations

import copy
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any, Final

import numpy as np

from guide_arc.core.checks.registry import CHECKS
from guide_arc.core.kinematics.body import Body
from guide_arc.core.kinematics.vectors import Array, across, angle_deg, median, span_of, unit
from guide_arc.core.kinematics.views import how_to_see, near_side
from guide_arc.core.mechanics.pull import pulley_is_marked
from guide_arc.core.model.errors import BadInput
from guide_arc.core.model.finding import Finding
from guide_arc.core.model.landmarks import SIDES, Side
from guide_arc.core.model.rep import Rep
from guide_arc.core.model.review import Review
from guide_arc.core.model.standard import TRUNK_DRIVES, Standard
from guide_arc.core.reps.drive import driving
from guide_arc.core.reps.segment import RepSet, find_reps
from guide_arc.core.review.assess import context_of, review_body
from guide_arc.core.review.suggest import suggest
from guide_arc.standards.catalogue import Catalogue
from guide_arc.standards.loader import build
from guide_arc.standards.schema import SCHEMA_VERSION

# A joint that works moves at least this far, degrees.
_WORKS_DEG: Final = 22.0
# An elbow that works by this share of what the arm turns by drives: curls, presses, rows.
_ELBOW_FIRST: Final = 0.7
# What moves by less than this within a rep stayed still: check name to the unit of its own limit.
_STAYS_WITHIN: Final = {
    "upper-arm-drift": 16.0, "elbow-bend-change": 18.0, "torso-swing": 12.0, "torso-twist": 12.0,
    "shoulder-hike": 8.0, "wrist-bend": 40.0,
}  # fmt: skip
# A stay's limit is no tighter than people can hold it.
_LEAST_LIMIT: Final = {
    "upper-arm-drift": 10.0, "elbow-bend-change": 12.0, "torso-swing": 8.0, "torso-twist": 10.0,
    "shoulder-hike": 8.0, "wrist-bend": 30.0, "elbow-path": 22.0, "hand-path": 26.0,
}  # fmt: skip
# How far past the model's own worst rep a limit stands, as a share of that rep's value.
_ROOM: Final = 1.3
_BENDS_DEG: Final = 7.0
_OTHER_WAY_ARMS: Final = 0.18
_UPRIGHT_DEG: Final = 3.0
_HOLD_S: Final = 0.6


@dataclass(frozen=True, eq=False)
class Proposal:
    """raw : the keys of the proposed file; standard : built from it
    review : the model set against it; reps : those of the model set that it rests on, of all whole ones
    stayed : what stayed still, by check name; notes : what the recording could not show
    like : the standard that lent the rest
    """

    raw: dict[str, Any]
    standard: Standard
    review: Review
    reps: tuple[Rep, ...]
    whole: tuple[Rep, ...]
    stayed: tuple[str, ...]
    notes: tuple[str, ...]
    like: Standard


def propose(  # noqa: PLR0913
    body: Body,
    catalogue: Catalogue,
    *,
    id: str,
    name: str,
    like: str | None = None,
    chosen: Callable[[Rep], bool] | None = None,
    progress: Callable[[float], None] = lambda _share: None,
) -> Proposal:
    """Propose a standard from a measured model set.

    body : cleaned with all landmarks; like : the id of the standard to take the rest from, else the
        nearest one; chosen : which reps to go by, else all full ones
    Raises BadInput where no joint works enough, or no rep is found.
    """
    progress(0.0)
    near = _nearest(body, catalogue, like)
    if near.across is not None:
        raise BadInput(
            "a movement that passes from side to side can't be read from a model set; "
            f"copy {near.name!r} and change it instead."
        )
    progress(0.4)
    raw = _skeleton(near, catalogue, id, name)
    notes: list[str] = []
    reps = _by_movement(body, near, raw)
    progress(0.6)
    plan, repset = _cut(body, raw)
    used = tuple(r for r in (repset.reps or reps) if r.full and (chosen is None or chosen(r)))
    if not used:
        raise BadInput(
            "no whole rep was found to go by; choose another set, or mark its reps first."
        )
    _shape(body, raw, plan, used, near, catalogue.raw(near.id))
    _time(raw, used)
    plan, repset = _cut(body, raw)
    used = tuple(r for r in repset.reps if r.full and (chosen is None or chosen(r))) or used
    whole = tuple(r for r in repset.reps if r.full)
    progress(0.75)
    stayed = _checks(body, raw, plan, repset, near, catalogue)
    review = _settled(body, raw, id)
    progress(1.0)
    if body.cleaned.track.view != "none":
        notes.append(
            f"From the {body.cleaned.track.view} only one plane is seen: "
            "the arm's path across it is taken from the nearest standard."
        )
        if used[0].measure != raw["drive"]:
            notes.append(
                "This view foreshortens the working joint: its range is the nearest standard's."
            )
    if len(used) < 3:
        notes.append(f"{len(used)} rep{'s' if len(used) > 1 else ''} say little about the spread.")
    return Proposal(
        raw, build(raw, f"{id}.toml"), review, used, whole, tuple(stayed), tuple(notes), near
    )


def _nearest(body: Body, catalogue: Catalogue, like: str | None) -> Standard:
    if like is not None:
        return catalogue.standard(like)
    choice = suggest(body, [catalogue.standard(i) for i in catalogue.ids()])
    if choice is None:
        raise BadInput("no arm is seen in this recording; a standard needs one.")
    return choice.best.standard


def _skeleton(near: Standard, catalogue: Catalogue, id: str, name: str) -> dict[str, Any]:
    raw = copy.deepcopy(catalogue.raw(near.id))
    raw.update(schema_version=SCHEMA_VERSION, id=id, name=name)
    raw["school"] = [{
        "id": "model-set", "name": "as the model set",
        "why": "Range, path, tempo and limits are those of the model set.",
        "choose_when": "The client is to move as in the model set.",
    }]  # fmt: skip
    raw["holds"] = {}
    return raw


# Range and driving measure


def _by_movement(body: Body, near: Standard, raw: dict[str, Any]) -> tuple[Rep, ...]:
    """Set drive, range and rough poses from what moved; the reps that this gives."""
    working = _working(body, near)
    drive = _drive(body, working, near)
    low, high = _ends(body, drive, working)
    if abs(high - low) < (_WORKS_DEG if drive != "shoulder_hike" else 5.0):
        raise BadInput(
            f"nothing moves enough in this recording to be a lift ({abs(high - low):.0f} at most)."
        )
    rising = _rises(body, drive, near, working, low, high)
    start, turn = (low, high) if rising else (high, low)
    unit_name = "pct" if drive == "shoulder_hike" else "deg"
    raw["drive"] = drive
    raw["range"] = {
        f"from_{unit_name}": _tidy(start), f"to_{unit_name}": _tidy(turn),
        f"tolerance_{unit_name}": 4.0 if unit_name == "pct" else 14.0,
    }  # fmt: skip
    one_seen = len(working) == 1 and near_side(body.cleaned.track.view) is not None
    if drive not in TRUNK_DRIVES and not one_seen and (len(working) == 1) != (raw["arms"] == "one"):
        raw["arms"] = "one" if len(working) == 1 else "both"
    if unit_name == "pct" or near.drive == "shoulder_hike":
        raw["check"] = [
            c for c in raw["check"] if c["name"] not in ("range-short", "range-over", "left-right")
        ]
    if body.cleaned.track.view == "none":
        raw["pose"] = _rough_poses(body, drive, working, start, turn)
    else:
        raw["pose"] = [p for p in raw["pose"] if p["at"] in ("start", "turn")]
        _fit_to_range(raw["pose"], drive, start, turn)
    return _cut(body, raw)[1].reps


def _working(body: Body, near: Standard) -> tuple[Side, ...]:
    """The arms that move; where the trunk does, the side that it works to."""
    if near.drive in TRUNK_DRIVES:
        return tuple(driving(body, near)) or SIDES
    if near.drive == "shoulder_hike":
        return SIDES
    moved = {}
    for side in (s for s in SIDES if body.shows("shoulder_elevation", s)):
        wrist = body.in_trunk(f"{side}_wrist", side)
        seen = wrist[np.isfinite(wrist).all(axis=1)]
        moved[side] = (
            float(np.linalg.norm(np.ptp(np.percentile(seen, (5, 95), axis=0), axis=0)))
            if len(seen)
            else 0.0
        )
    if not moved:
        raise BadInput("no arm is seen in this recording; a standard needs one.")
    most = max(moved.values())
    return tuple(s for s in moved if moved[s] >= 0.35 * most)


def _span(body: Body, measure: str, side: Side) -> float:
    value = body.driven(measure, side).value if body.shows(measure, side) else np.full(1, np.nan)
    value = value[np.isfinite(value)]
    if measure == "shoulder_plane":
        value = np.degrees(np.unwrap(np.radians(value)))
    return float(np.subtract(*np.percentile(value, (92, 8)))) if len(value) > 3 else 0.0


def _drive(body: Body, working: tuple[Side, ...], near: Standard) -> str:
    """The measure that moved: the elbow before the arm's rise before its sweep; the trunk or the
    shoulders only where the nearest standard works by them."""
    if near.drive in (*TRUNK_DRIVES, "shoulder_hike"):
        return near.drive
    view = body.cleaned.track.view
    if view != "none":
        if not any(body.shows(near.drive, s) for s in working):
            how = how_to_see(near.drive, view, working[0])
            raise BadInput(
                f"the {view} view hides the {near.drive.replace('_', ' ')} that {near.name!r} is counted "
                f"by; {how}, or say which standard it is like."
            )
        return near.drive
    spans = {
        m: float(np.mean([_span(body, m, s) for s in working]))
        for m in ("elbow_flexion", "shoulder_elevation", "shoulder_plane")
    }
    if spans.get(near.drive, 0.0) >= max(_WORKS_DEG, 0.4 * max(spans.values())):
        return near.drive
    arm = max(spans["shoulder_elevation"], 0.8 * spans["shoulder_plane"])
    if spans["elbow_flexion"] >= _ELBOW_FIRST * arm:
        return "elbow_flexion"
    if spans["shoulder_elevation"] >= 0.8 * spans["shoulder_plane"]:
        return "shoulder_elevation"
    return "shoulder_plane"


def _ends(body: Body, drive: str, working: tuple[Side, ...]) -> tuple[float, float]:
    """Where the measure usually turns, low and high: the middle of its outer fifths."""
    ends = []
    for side in working:
        value = body.driven(drive, side).value
        value = value[np.isfinite(value)]
        if len(value):
            ends.append(np.percentile(value, (8, 92)))
    if not ends:
        raise BadInput("the working joint is not seen in this recording.")
    low, high = np.mean(ends, axis=0)
    return float(low), float(high)


def _rises(  # noqa: PLR0913
    body: Body, drive: str, near: Standard, working: tuple[Side, ...], low: float, high: float
) -> bool:
    """Whether lifting makes the measure grow: the hand moves away from the pulley, or up against a
    weight; else as in the nearest standard of the same drive."""
    if near.drive == drive:
        return near.range.direction > 0
    side = working[0]
    value = body.driven(drive, side).value
    at_low, at_high = value <= low, value >= high
    hand = body.points[f"{side}_wrist"]
    if pulley_is_marked(body, side):
        pulley = np.nanmedian(body.points[f"{side}_pulley"], axis=0)
        gap = np.linalg.norm(hand - pulley, axis=1)
    else:
        gap = hand[:, 1]
    return bool(np.nanmedian(gap[at_high]) >= np.nanmedian(gap[at_low]))


# Poses


def _rough_poses(
    body: Body, drive: str, working: tuple[Side, ...], start: float, turn: float
) -> list[dict[str, Any]]:
    poses = []
    for at, level in (("start", start), ("turn", turn)):
        arms = []
        for side in working:
            value = body.driven(drive, side).value
            near = np.abs(value - level) <= np.nanpercentile(np.abs(value - level), 20)
            arms.append(_arm_at(body, side, near))
        poses.append(_pose(at, arms))
    _fit_to_range(poses, drive, start, turn)
    key = {"trunk_lean": "lean_deg", "trunk_side_lean": "side_lean_deg"}.get(drive)
    if key:
        for pose, level in zip(poses, (start, turn), strict=True):
            pose["trunk"] = {key: _tidy(level)}
    return poses


def _as_pictured(
    body: Body, near: dict[str, Any], reps: tuple[Rep, ...], side: Side
) -> list[dict[str, Any]]:
    """The nearest standard's ends with what the picture shows of the arm: its rise and the elbow's bend."""
    poses = []
    for at in ("start", "turn"):
        pose = copy.deepcopy(next(p for p in near["pose"] if p["at"] == at))
        moments = [r.start_s if at == "start" else r.turn_s for r in reps]
        for key, measure, most in (
            ("elevation_deg", "shoulder_elevation", 180.0),
            ("elbow_deg", "elbow_flexion", 160.0),
        ):
            seen = (
                [_about(body, measure, t, side) for t in moments]
                if body.shows(measure, side)
                else []
            )
            seen = [v for v in seen if np.isfinite(v)]
            if seen:
                pose["arm"][key] = _tidy(float(np.clip(np.median(seen), 0.0, most)))
        poses.append(pose)
    return poses


def _shape(  # noqa: PLR0913
    body: Body,
    raw: dict[str, Any],
    plan: Standard,
    reps: tuple[Rep, ...],
    near: Standard,
    lent: dict[str, Any],
) -> None:
    """Range, tolerance and key poses from the reps: the ends, the middle where the path bends, and the
    way back where it is another one."""
    sides = _working(body, near)
    start = float(np.median([r.from_deg for r in reps]))
    turn = float(np.median([r.to_deg for r in reps]))
    spread = float(max(np.std([r.from_deg for r in reps]), np.std([r.to_deg for r in reps])))
    unit_name = "pct" if plan.drive == "shoulder_hike" else "deg"
    least = 4.0 if unit_name == "pct" else 12.0
    raw["range"] = {
        f"from_{unit_name}": _tidy(start), f"to_{unit_name}": _tidy(turn),
        f"tolerance_{unit_name}": _tidy(min(max(least, 3.0 * spread + 0.5 * least), 40.0)),
    }  # fmt: skip

    def mean_arm(moment: Callable[[Rep], float]) -> list[tuple[Array, Array]]:
        out = []
        for side in sides:
            own = [r for r in reps if r.side in (side, "both")]
            near = np.zeros(len(body.time_s), dtype=bool)
            for rep in own:
                near[span_of(body.time_s, moment(rep) - 0.08, moment(rep) + 0.08)] = True
            out.append(_arm_at(body, side, near))
        return out

    if reps[0].measure != plan.drive:
        # A picture that foreshortens the driving joint counts reps by another: no range of its own.
        raw["range"] = dict(lent["range"])
        raw["pose"] = copy.deepcopy(lent["pose"])
        return
    if body.cleaned.track.view != "none":
        poses = _as_pictured(body, lent, reps, sides[0])
        _fit_to_range(poses, plan.drive, start, turn)
        _trunk(body, raw, plan, poses, reps)
        raw["pose"] = poses
        return
    poses = [
        _pose("start", mean_arm(lambda r: r.start_s)),
        _pose("turn", mean_arm(lambda r: r.turn_s)),
    ]
    _fit_to_range(poses, plan.drive, start, turn)
    half = {
        "way": _pose("way", mean_arm(lambda r: _half(body, plan, r, lift=True))),
        "back": _pose("back", mean_arm(lambda r: _half(body, plan, r, lift=False))),
    }
    straight = _between(poses[0]["arm"], poses[1]["arm"])
    if _apart(half["way"]["arm"], straight) > _BENDS_DEG:
        poses.insert(1, {**half["way"], "share": 0.5})
    if _apart(half["back"]["arm"], half["way"]["arm"]) > 100.0 * _OTHER_WAY_ARMS:
        poses.append({**half["back"], "share": 0.5})
    _trunk(body, raw, plan, poses, reps)
    raw["pose"] = poses


def _half(body: Body, plan: Standard, rep: Rep, *, lift: bool) -> float:
    """When the driving measure is half-way."""
    side: Side = "right" if rep.side == "right" else "left"
    phase = rep.lift if lift else rep.lower
    window = span_of(body.time_s, phase.start_s, phase.end_s)
    value = body.driven(plan.drive, side).value[window]
    if not np.isfinite(value).any():
        return 0.5 * (phase.start_s + phase.end_s)
    middle = 0.5 * (rep.from_deg + rep.to_deg)
    return float(body.time_s[window][int(np.nanargmin(np.abs(value - middle)))])


def _arm_at(body: Body, side: Side, frames: Array) -> tuple[Array, Array]:
    """Upper arm and forearm (3,) each in the trunk's axes over some frames."""
    elbow = body.in_trunk(f"{side}_elbow", side)[frames]
    wrist = body.in_trunk(f"{side}_wrist", side)[frames]
    upper = np.array([median(c[np.isfinite(c)]) for c in elbow.T])
    fore = np.array([median(c[np.isfinite(c)]) for c in (wrist - elbow).T])
    return upper, fore


def _pose(at: str, arms: list[tuple[Array, Array]]) -> dict[str, Any]:
    upper = unit(np.mean([unit(a[0][None])[0] for a in arms], axis=0)[None])[0]
    fore = unit(np.mean([unit(a[1][None])[0] for a in arms], axis=0)[None])[0]
    if not (np.isfinite(upper).all() and np.isfinite(fore).all()):
        raise BadInput("the arm is not seen at the ends of the lift; choose another recording.")
    down = np.array([[0.0, -1.0, 0.0]])
    bend = float(angle_deg(upper[None], fore[None])[0])
    arm: dict[str, Any] = {
        "elevation_deg": _tidy(float(angle_deg(upper[None], down)[0])),
        "plane_deg": _tidy(float(np.degrees(np.arctan2(upper[2], upper[0])))),
        "elbow_deg": _tidy(float(np.clip(bend, 0.0, 160.0))),
    }
    aside = across(fore[None], upper[None])[0]
    if bend > 5.0:
        arm["forearm_toward"] = [round(float(v), 2) for v in unit(aside[None])[0]]
    return {"at": at, "arm": arm}


def _fit_to_range(poses: list[dict[str, Any]], drive: str, start: float, turn: float) -> None:
    """The driving number of the end poses is that of the range."""
    key = {
        "elbow_flexion": "elbow_deg", "shoulder_elevation": "elevation_deg", "shoulder_plane": "plane_deg",
    }.get(drive)  # fmt: skip
    if key:
        for pose, level in zip(poses, (start, turn), strict=True):
            low = -180.0 if key == "plane_deg" else 0.0
            pose["arm"][key] = _tidy(
                float(np.clip(level, low, 160.0 if key == "elbow_deg" else 180.0))
            )


def _between(a: dict[str, Any], b: dict[str, Any]) -> dict[str, Any]:
    return {k: 0.5 * (a[k] + b[k]) for k in ("elevation_deg", "plane_deg", "elbow_deg")}


def _apart(a: dict[str, Any], b: dict[str, Any]) -> float:
    """Degrees between two poses: of the upper arm's direction and of the elbow's bend."""

    def direction(arm: dict[str, Any]) -> Array:
        e, p = np.radians(arm["elevation_deg"]), np.radians(arm["plane_deg"])
        return np.array([np.sin(e) * np.cos(p), -np.cos(e), np.sin(e) * np.sin(p)])

    turned = float(angle_deg(direction(a)[None], direction(b)[None])[0])
    return max(turned, abs(float(a["elbow_deg"]) - float(b["elbow_deg"])))


def _trunk(  # noqa: PLR0913
    body: Body,
    raw: dict[str, Any],
    plan: Standard,
    poses: list[dict[str, Any]],
    reps: tuple[Rep, ...],
) -> None:
    """The lean that the setup asks for, and the trunk at both ends where it works."""
    lean = body.measure("trunk_lean").value
    inside = np.zeros(len(lean), dtype=bool)
    for rep in reps:
        inside[span_of(body.time_s, rep.start_s, rep.end_s)] = True
    seen = lean[inside & np.isfinite(lean)]
    if not len(seen):
        return
    low, high = np.percentile(seen, (5, 95))
    room = max(4.0, 0.5 * (high - low))
    raw["posture"] = {
        **raw["posture"], "trunk_lean_deg": [_tidy(low - room), _tidy(high + room)],
    }  # fmt: skip
    if plan.drive not in (*TRUNK_DRIVES, "shoulder_hike"):
        return
    ends = {"start": [r.start_s for r in reps], "turn": [r.turn_s for r in reps]}
    for pose in poses:
        if pose["at"] not in ends:
            continue
        own: dict[str, Any] = {}
        for key, measure in (
            ("lean_deg", "trunk_lean"),
            ("side_lean_deg", "trunk_side_lean"),
            ("twist_deg", "trunk_rotation"),
        ):
            at = [_about(body, measure, t) for t in ends[pose["at"]]]
            at = [v for v in at if np.isfinite(v)]
            if at and (key == "lean_deg" or abs(float(np.median(at))) > _UPRIGHT_DEG):
                own[key] = _tidy(float(np.median(at)))
        if plan.drive == "shoulder_hike":
            own["hike_pct"] = max(
                0.0, _tidy(plan.range.from_deg if pose["at"] == "start" else plan.range.to_deg)
            )
        pose["trunk"] = own


def _about(body: Body, measure: str, at_s: float, side: Side | None = None) -> float:
    value = body.measure(measure, side).value[span_of(body.time_s, at_s - 0.1, at_s + 0.1)]
    return float(median(value[np.isfinite(value)]))


# Tempo and checks


def _time(raw: dict[str, Any], reps: tuple[Rep, ...]) -> None:
    """The tempo that the model keeps, in half seconds, and where it holds."""

    def usual(spans: list[float]) -> float:
        return float(np.floor(2.0 * np.median(spans) + 0.3) / 2.0) if spans else 0.0

    top = [r.top_hold.length_s if r.top_hold else 0.0 for r in reps]
    bottom = [r.bottom_hold.length_s if r.bottom_hold else 0.0 for r in reps[:-1]]
    tempo = {
        "lower_s": max(0.5, usual([r.lower.length_s for r in reps])),
        "lift_s": max(0.5, usual([r.lift.length_s for r in reps])),
    }
    for key, spans in (("top_s", top), ("bottom_s", bottom)):
        if spans and min(spans) >= _HOLD_S and usual(spans) >= _HOLD_S:
            tempo[key] = usual(spans)
    raw["tempo"] = tempo


def _checks(  # noqa: PLR0913
    body: Body,
    raw: dict[str, Any],
    plan: Standard,
    repset: RepSet,
    near: Standard,
    catalogue: Catalogue,
) -> list[str]:
    """Checks with limits from the model's own worst rep: what stayed, the corridor, range and timing."""
    words = {c["name"]: c for c in catalogue.raw(near.id)["check"]}
    out: list[dict[str, Any]] = []
    stayed: list[str] = []
    for name, within in _STAYS_WITHIN.items():
        worst = _worst(body, raw, name)
        if worst is None or worst > within or _drives(name, plan.drive):
            continue
        stayed.append(name)
        unit_name = "pct" if name == "shoulder-hike" else "deg"
        out.append(_rule(words, name, unit_name, max(_LEAST_LIMIT[name], _ROOM * worst + 2.0)))
    for name in ("elbow-path", "hand-path"):
        worst = _worst(body, raw, name)
        if worst is not None and plan.drive not in (*TRUNK_DRIVES, "shoulder_hike"):
            out.append(_rule(words, name, "pct", max(_LEAST_LIMIT[name], _ROOM * worst + 4.0)))
    range_unit = "pct" if plan.drive == "shoulder_hike" else "deg"
    tolerance = next(v for k, v in raw["range"].items() if k.startswith("tolerance"))
    out.append(_rule(words, "range-short", range_unit, tolerance))
    out.append(_rule(words, "range-over", range_unit, tolerance + 2.0))
    out += [{"name": n} for n in ("too-fast-lower", "too-fast-lift", "hold-missing")]
    if plan.drive != "shoulder_hike":
        out.append(_rule(words, "momentum", "pct", 68.0))
    if repset.side == "both":
        worst = _worst(body, raw, "left-right")
        out.append(
            _rule(words, "left-right", range_unit, max(tolerance, _ROOM * (worst or 0.0) + 2.0))
        )
    out.append({"name": "fatigue-drift"})
    raw["check"] = out
    return stayed


def _drives(name: str, drive: str) -> bool:
    """Whether a check is about what should move."""
    return {
        "upper-arm-drift": drive in ("shoulder_elevation", "shoulder_plane"),
        "elbow-bend-change": drive == "elbow_flexion",
        "torso-swing": drive in TRUNK_DRIVES, "torso-twist": drive in TRUNK_DRIVES,
        "shoulder-hike": drive in (*TRUNK_DRIVES, "shoulder_hike"),
    }.get(name, False)  # fmt: skip


def _rule(words: dict[str, Any], name: str, unit_name: str, limit: float) -> dict[str, Any]:
    kept = {k: v for k, v in words.get(name, {}).items() if not k.startswith("limit_")}
    return {**kept, "name": name, f"limit_{unit_name}": float(np.ceil(limit))}


def _worst(body: Body, raw: dict[str, Any], name: str) -> float | None:
    """The largest value and uncertainty of a check over the set's full reps; None without any."""
    unit_name = "pct" if name in ("shoulder-hike", "elbow-path", "hand-path") else "deg"
    if name == "left-right" and raw["drive"] == "shoulder_hike":
        unit_name = "pct"
    trial = {**raw, "check": [{"name": name, f"limit_{unit_name}": 170.0}]}
    plan = build(trial, "model set")
    repset = find_reps(body, plan)
    if not repset.reps:
        return None
    measured = body.counted_from(repset.first_lift_s)
    found = CHECKS[name](context_of(measured, repset, plan), plan.checks[0])
    values = [_reach(f) for f in found if f.value is not None]
    return max(values) if values else None


def _reach(f: Finding) -> float:
    return float(f.value or 0.0) + float(f.uncertainty or 0.0)


def _cut(body: Body, raw: dict[str, Any]) -> tuple[Standard, RepSet]:
    trial = {
        **raw,
        "check": [
            {
                "name": "range-short",
                "limit_pct" if raw["drive"] == "shoulder_hike" else "limit_deg": 20.0,
            }
        ],
    }
    plan = build(trial, "model set")
    return plan, find_reps(body, plan)


def _settled(body: Body, raw: dict[str, Any], id: str) -> Review:
    """The model set against its own standard; a check that is not sure of it gets room, one that can't be
    told from this recording goes."""
    for _ in range(4):
        review = review_body(body, build(raw, f"{id}.toml"))[0]
        again = False
        rules = {c["name"]: c for c in raw["check"]}
        for f in review.findings:
            rule = rules.get(f.rule.name)
            if rule is None or f.verdict == "ok":
                continue
            if f.verdict == "cannot-tell" and f.value is None:
                if not _keeps_anyway(f.rule.name):
                    raw["check"].remove(rule)
                    rules.pop(f.rule.name)
                    again = True
                continue
            again |= _give_room(raw, rule, f)
        if not again:
            return review
    return review_body(body, build(raw, f"{id}.toml"))[0]


def _keeps_anyway(name: str) -> bool:
    """Checks that a few reps can't tell but a client's set will."""
    return name in ("fatigue-drift", "left-right", "range-short", "too-fast-lower", "hold-missing")


def _give_room(raw: dict[str, Any], rule: dict[str, Any], f: Finding) -> bool:
    if f.unit == "s":
        part = {"too-fast-lower": "lower_s", "too-fast-lift": "lift_s"}.get(f.rule.name)
        if part:
            raw["tempo"][part] = max(0.3, round(0.8 * raw["tempo"][part], 1))
        else:
            raw["tempo"].pop("top_s", None)
            raw["tempo"].pop("bottom_s", None)
        return True
    key = next((k for k in rule if k.startswith("limit_")), None)
    if key is None:
        key = "limit_pct"
    rule[key] = float(np.ceil(max(_reach(f), f.rule.limit) + 1.0))
    return True


def _tidy(value: float) -> float:
    return round(float(value), 0)
