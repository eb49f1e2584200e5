"""What one school of an exercise asks otherwise than another: reported whenever a set is judged by
another school, even if the difference is only a limit or a pace that this set meets."""

from __future__ import annotations

from collections.abc import Callable
from typing import Final, TypeVar

from guide_arc.core.checks.registry import spec_of
from guide_arc.core.kinematics.endpoints import TARGETS
from guide_arc.core.kinematics.measures.registry import spec_of_measure
from guide_arc.core.model.standard import ArmPose, Standard, Tempo, TrunkPose
from guide_arc.core.model.units import UNIT, amount

Pose = TypeVar("Pose", ArmPose, TrunkPose)
_PHASES: Final = (
    ("lower_s", "lowering"),
    ("bottom_s", "hold at the bottom"),
    ("lift_s", "lifting"),
    ("top_s", "hold at the end"),
)
_ARMS: Final = {
    "both": "both arms together",
    "either": "one arm or both",
    "one": "one arm at a time",
}
_GRIPS: Final = (
    (0.0, "underhand"),
    (45.0, "half underhand"),
    (90.0, "neutral"),
    (135.0, "half overhand"),
    (180.0, "overhand"),
)
# Of one end of the lift: measure, its words, its unit and its value.
_Parts = tuple[tuple[str, str, str, float], ...]
# A pose closer than this to the other school's is the same one.
_SAME_DEG: Final = 2.0


def what_differs(own: Standard, other: Standard) -> tuple[str, ...]:
    """What `other` asks, each with what `own` asks in brackets; the same exercise as two schools
    see it."""
    found = [
        *_range(own, other),
        *_poses(own, other),
        *_changed(*own.trunk, *other.trunk, _trunk_parts, other.drive),
        *_pace(own.tempo, other.tempo),
        *_holds(own, other),
        *_checks(own, other),
    ]
    if own.arms != other.arms:
        found.append(f"{_ARMS[other.arms]} ({_ARMS[own.arms]})")
    if own.base != other.base:
        found.append(f"{other.base} ({own.base})")
    return tuple(dict.fromkeys(found))


def differs_words(own: Standard, other: Standard) -> str:
    """The same as a sentence."""
    what = what_differs(own, other)
    if not what:
        return f"“{other.school.name}” asks the same of a recording as “{own.school.name}”."
    asks = f"“{other.school.name}” asks, with what “{own.school.name}” asks in brackets"
    return f"{asks}: {'; '.join(what)}."


def _range(own: Standard, other: Standard) -> list[str]:
    a, b = own.range, other.range
    spec = spec_of_measure(other.drive)
    drive, unit = spec.drives, UNIT[spec.unit]
    return [
        f"{drive} {end} {_number(there)}{unit} ({_number(here)}{unit})"
        for end, here, there in (("from", a.from_deg, b.from_deg), ("to", a.to_deg, b.to_deg))
        if abs(here - there) >= _SAME_DEG
    ]


def _poses(own: Standard, other: Standard) -> list[str]:
    ends = [_arm_parts(plan.start) + _arm_parts(plan.turn) for plan in (own, other)]
    out = _changed(own.start, own.turn, other.start, other.turn, _arm_parts, other.drive)
    grips = [tuple(_grip(pose.grip_deg) for pose in (p.start, p.turn)) for p in (own, other)]
    if grips[0] != grips[1]:
        here, there = (a if a == b else f"{a}, turning {b}" for a, b in grips)
        out.append(f"{there} grip ({here})")
    same_ends = ends[0] == ends[1]
    out += [
        f"another path of the arm on the way {way}"
        for way, differs in (("up", own.ways != other.ways), ("down", own.backs != other.backs))
        if differs and same_ends
    ]
    return out


def _changed(
    start: Pose,
    turn: Pose,
    other_start: Pose,
    other_turn: Pose,
    parts: Callable[[Pose], _Parts],
    drive: str,
) -> list[str]:
    """The differences at the two ends of the lift, reported once if both ends change alike."""
    out = []
    ends = zip(parts(start), parts(turn), parts(other_start), parts(other_turn), strict=True)
    for (measure, words, unit, a0), (*_1, a1), (*_2, b0), (*_3, b1) in ends:
        if measure == drive:
            continue
        first, last = (abs(b - a) >= _SAME_DEG for a, b in ((a0, b0), (a1, b1)))
        if first and last and (a0, b0) == (a1, b1):
            out.append(f"{words} {_number(b0)}{unit} throughout ({_number(a0)}{unit})")
            continue
        out += [
            f"{words} {_number(b)}{unit} at the {end} ({_number(a)}{unit})"
            for end, differs, a, b in (("start", first, a0, b0), ("end", last, a1, b1))
            if differs
        ]
    return out


def _number(value: float) -> str:
    return f"{value:.0f}".replace("-", "−")


def _grip(turned_deg: float) -> str:
    return min(_GRIPS, key=lambda g: abs(g[0] - turned_deg))[1]


def _arm_parts(pose: ArmPose) -> _Parts:
    return (
        ("elbow_flexion", "the elbow's bend", "°", pose.elbow_deg),
        ("shoulder_elevation", "the arm's height", "°", pose.elevation_deg),
        ("shoulder_plane", "the arm's sweep", "°", pose.plane_deg),
    )


def _trunk_parts(pose: TrunkPose) -> _Parts:
    return (
        ("trunk_lean", "the torso's lean", "°", pose.lean_deg),
        ("trunk_side_lean", "the lean aside", "°", pose.side_lean_deg),
        ("", "the torso's twist", "°", pose.twist_deg),
        ("shoulder_hike", "the shoulders' rise", " %", pose.hike_pct),
        ("", "the back's rounding", "°", pose.round_deg),
    )


def _pace(own: Tempo, other: Tempo) -> list[str]:
    out = []
    for part, words in _PHASES:
        here, there = getattr(own, part), getattr(other, part)
        if here != there:
            out.append(f"{words} {_seconds(there)} ({_seconds(here)})")
    return out


def _seconds(value: float | None) -> str:
    return "at will" if value is None else f"{value:g} s"


def _holds(own: Standard, other: Standard) -> list[str]:
    out = []
    if own.holds.on != other.holds.on:
        asked = {
            "every": "every rep",
            "first": "the first rep",
            "last": "the last rep",
            "first-and-last": "the first and the last rep",
        }
        out.append(f"holds on {asked[other.holds.on]} ({asked[own.holds.on]})")
    here, there = own.holds.opening_stretch_s, other.holds.opening_stretch_s
    if here != there:
        stretch = "a stretch before the first lift"
        out.append(
            f"{stretch} of {there:g} s ({here:g} s)"
            if here and there
            else (
                f"{stretch} of {there:g} s (none)"
                if there
                else f"no stretch before the first lift ({here:g} s)"
            )
        )
    return out


def _checks(own: Standard, other: Standard) -> list[str]:
    before = {(r.name, r.target, r.at): r for r in own.checks}
    out = []
    for key, rule in ((k, r) for r in other.checks if (k := (r.name, r.target, r.at))):
        old = before.pop(key, None)
        goal = f", to {TARGETS[rule.target].words}" if rule.target in TARGETS else ""
        if old is None:
            out.append(f"“{_lower(rule.title)}” judged as well{goal}")
        elif old.limit != rule.limit:
            spec = spec_of(rule.name)
            unit = spec_of_measure(other.drive).unit if spec.unit == "drive" else spec.unit
            out.append(
                f"“{_lower(rule.title)}”, limit {amount(rule.limit, unit)}"
                f" ({amount(old.limit, unit)})"
            )
    out += [f"“{_lower(rule.title)}” not judged" for rule in before.values()]
    return out


def _lower(title: str) -> str:
    return title[:1].lower() + title[1:]
