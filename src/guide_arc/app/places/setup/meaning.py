"""What a setup means, in plain sentences, and how it is said. Without Qt."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Final

import numpy as np

from guide_arc.core.kinematics.vectors import Array
from guide_arc.core.mechanics.fibres import long_head_words, parts_along
from guide_arc.core.mechanics.find_setup import Room, Setup, Wish
from guide_arc.core.mechanics.kit import Band, Cable, Chain, FreeWeight, Kit
from guide_arc.core.mechanics.path_load import PathLoad, PathOfArms
from guide_arc.core.model.standard import Standard
from guide_arc.drawings.setup_sheet import SHOE_M, curve_words

_OFF_PLANE_FINE_DEG: Final = 10.0
_MUCH_LESS_PCT: Final = 20.0
_SERVED_PCT: Final = 50.0
_ARMS_APART_SHARE: Final = 0.1
_ALIKE_SHARE: Final = 0.05


@dataclass(frozen=True)
class MeaningLine:
    """A sentence of what the setup means, with the shape of its verdict."""

    verdict: str
    words: str
    more: str = ""


def setup_words(
    kit: Kit,
    bench_deg: float | None,
    room: Room,
    path: PathOfArms,
    *,
    weight: bool = True,
    column: str = "",
    benched: bool = True,
) -> str:
    """`hole 8, two and a half shoes out, bench at 60°`. column : the words for the hole, if there
    are several"""
    parts = []
    if isinstance(kit, Cable | Band):
        left = (kit.pulley_m if isinstance(kit, Cable) else kit.anchor_m)["left"]
        parts.append(_height_words(left[1], room, column))
        ahead = left[2] - float(path.hips[2])
        parts.append(f"{_shoes(abs(ahead))} {'ahead' if ahead >= 0 else 'behind'}")
        out = left[0] - float(path.hips[0])
        if abs(out) > 0.07:
            parts.append(f"{_shoes(abs(out))} {'outward' if out > 0 else 'across'}")
    if bench_deg is not None:
        parts.append(f"bench at {bench_deg:g}°" if benched else _lean_words(bench_deg))
    if weight and isinstance(kit, FreeWeight | Cable | Chain):
        parts.append(f"{kit.kg:g} kg")
    return ", ".join(parts) or "as it is"


def _lean_words(bench_deg: float) -> str:
    lean = bench_deg - 90.0
    if abs(lean) < 0.5:
        return "upright"
    return f"leaning {abs(lean):.0f}° {'forward' if lean > 0 else 'back'}"


def _height_words(height_m: float, room: Room, column: str) -> str:
    holes = room.pulley_heights_m
    near = [i for i, h in enumerate(holes, 1) if abs(h - height_m) < 0.026]
    return f"hole {near[0]}{column}" if near else f"{100 * height_m:.0f} cm high"


def meaning(
    load: PathLoad,
    kit: Kit,
    wish: Wish,
    found: Setup | None,
    found_words: str,
    in_the_way: str = "",
) -> tuple[MeaningLine, ...]:
    """What the setup means, in plain sentences. in_the_way : what keeps the wish from being met,
    where that is known"""
    curve = load.curve
    if curve.hardest is None:
        return (
            MeaningLine(
                "cannot-tell",
                "This exercise moves the trunk, not the arm: what the kit asks of an arm's joint"
                " says nothing of it.",
            ),
        )
    out: list[MeaningLine] = []
    if curve.hardest.nm <= 0:
        return (
            MeaningLine(
                "off",
                "As it is, the kit pulls with the lift: nothing resists it.",
                "Stand on the other side, or set the pulley elsewhere.",
            ),
        )
    where = (
        "stretched"
        if curve.hardest.share < 1 / 3
        else "shortened"
        if curve.hardest.share > 2 / 3
        else "in the middle"
    )
    weak = "off" if curve.least_pct < 25 else "near" if curve.least_pct < 50 else "ok"
    out.append(
        MeaningLine(
            weak,
            f"As it is, the {load.path.joint} works hardest at {_at(load)}, {where}.",
            f"{_sentence(_least_words(curve.least_pct))}; {curve.hardest.nm:.0f} N·m at the most,"
            f" {curve.mean_nm:.0f} on average{_half_words(load)}.",
        )
    )
    slack = sum(b - a for a, b in curve.slack)
    if slack > 0.02:
        a, b = curve.slack[0]
        out.append(
            MeaningLine(
                "off",
                f"There is slack for {100 * slack:.0f} % of the way, from {_angle(load, a):.0f}° to"
                f" {_angle(load, b):.0f}°.",
                "There the muscle rests: start the range later, or move the pull.",
            )
        )
    off = load.worst_off_plane_deg
    if isinstance(kit, Cable | Band) and off is not None:
        fine = off <= _OFF_PLANE_FINE_DEG
        out.append(
            MeaningLine(
                "ok" if fine else "near",
                f"The pull leaves the arm's plane by up to {off:.0f}°.",
                (
                    "Up to 10° is fine."
                    if fine
                    else "Off the plane it twists the arm: shift the stand until they are one."
                ),
            )
        )
    if isinstance(kit, Cable) and kit.friction > 0:
        less = 100.0 * (1.0 - (1.0 - kit.friction) / (1.0 + kit.friction))
        out.append(
            MeaningLine(
                "near" if less > _MUCH_LESS_PCT else "ok",
                f"With this friction the hand feels {less:.0f} % less on the way down than on the"
                " way up.",
                "What is shown is the lift.",
            )
        )
    if found is not None and found.curve.hardest is not None:
        out.append(
            MeaningLine(
                "ok" if found.score > 0.8 else "near",
                f"Found: {found_words}.",
                f"{_sentence(curve_words(found.curve))}; a hand's width off:"
                f" {found.moves_deg:.0f}°, {found.least_if_off_pct:.0f} %"
                f" left{_as_hard(kit, curve.hardest.nm, found)}.",
            )
        )
        missed = not_met(found, wish)
        if missed:
            out.append(
                MeaningLine("near", missed, in_the_way or "This is as near as this room comes.")
            )
    return tuple(out)


def fibre_words(elbow: Array, line: str) -> tuple[MeaningLine, ...]:
    """Which parts of the muscle the arm's way runs along. elbow : as `fibres.along` takes it"""
    parts = parts_along(elbow, line)
    if parts:
        told = ", ".join(f"{_part(part)} {pct:.0f} %" for part, pct in parts.items() if pct > 0)
        own = parts.get(line, 0.0)
        return (
            MeaningLine(
                "ok" if own >= _SERVED_PCT else "near",
                f"Along the fibres: {told}.",
                "" if next(iter(parts)) == line else f"Meant is the {_part(line)}.",
            ),
        )
    words = long_head_words(elbow, line)
    first, _, rest = words.partition(": ")
    return (MeaningLine("ok", f"{first}:", rest),) if words else ()


def _part(line: str) -> str:
    return line.replace("-", " ")


_CARE: Final = (
    "Estimates for comparing setups; no medical or safety limit. Check pin, cable, clips, band and"
    " anchor first; the kit's own instructions and rated limits come first."
)
# From so straight an arm on a raise is a long lever, and from so far forward a free trunk carries
# the load.
_LONG_LEVER_DEG: Final = 30.0
_FREE_LEAN_DEG: Final = 30.0
# A trunk that rises by less of its length is lying: what is held then hangs over the face.
_LIES_SHARE: Final = 0.7


def care_words(plan: Standard, points: Mapping[str, Array]) -> str:
    """What this exercise asks to be careful with, then what holds for every kit."""
    wrist, ear = points["left_wrist"], points["left_ear"]
    over = wrist[:, 1] > ear[:, 1]
    out = []
    if bool((over & (wrist[:, 2] < ear[:, 2] - 0.05)).any()):
        out.append("Behind the neck: only where the shoulder goes there freely, and light.")
    elif bool(over.any()) and _lies(points):
        out.append("Above you: a spotter, pins or safety arms where a miss would fall on you.")
    elif bool(over.any()):
        out.append("Overhead: ribs down, and a spotter or pins where a miss would fall on you.")
    if (
        plan.drive != "elbow_flexion"
        and min(plan.start.elbow_deg, plan.turn.elbow_deg) < _LONG_LEVER_DEG
    ):
        out.append("A long lever: a little weight is a lot at the shoulder; start light.")
    if plan.bench_deg is None and max(plan.trunk_lean_deg) > _FREE_LEAN_DEG:
        out.append("The lower back holds the load: brace first, stop when it rounds.")
    return " ".join((*out, _CARE))


def _lies(points: Mapping[str, Array]) -> bool:
    trunk = points["left_shoulder"][0] - points["left_hip"][0]
    return bool(trunk[1] < _LIES_SHARE * np.linalg.norm(trunk))


def _angle(load: PathLoad, share: float) -> float:
    return float(np.interp(share, load.path.share, load.path.angle_deg))


def _half_words(load: PathLoad) -> str:
    """Where, past the hardest point, half of it is left; empty if it never falls that far."""
    against = np.mean([a.against_nm for a in load.loads.values()], axis=0)
    top = int(np.argmax(against))
    below = np.flatnonzero(against[top:] < 0.5 * against[top])
    return f"; half of it at {load.path.angle_deg[top + below[0]]:.0f}°" if len(below) else ""


def arms_words(load: PathLoad) -> tuple[MeaningLine, ...]:
    """What each arm of a recorded rep carries at the most."""
    most = {side: float(np.nanmax(one.against_nm)) for side, one in load.loads.items()}
    if len(most) < 2:
        return ()
    apart = abs(most["left"] - most["right"]) / max(*most.values(), 1e-9)
    told = (
        f"In this rep the left arm carries {most['left']:.0f} N·m at the most, the right"
        f" {most['right']:.0f}."
    )
    return (MeaningLine("ok" if apart < _ARMS_APART_SHARE else "near", told),)


def _as_hard(kit: Kit, now_nm: float, found: Setup) -> str:
    """The weight that makes a found setup as hard as the one now; empty if it is much the same."""
    peak = found.curve.hardest.nm if found.curve.hardest is not None else 0.0
    if (
        not isinstance(kit, FreeWeight | Cable)
        or peak <= 0.0
        or abs(now_nm / peak - 1.0) < _ALIKE_SHARE
    ):
        return ""
    equal_kg = kit.kg * now_nm / peak
    if peak >= now_nm:
        return f"; {equal_kg:.1f} kg is as hard as now, start with less"
    lost = 100.0 * (1.0 - peak / now_nm)
    return f"; the price is {lost:.0f} % of the load: {equal_kg:.1f} kg is as hard as now"


def _at(load: PathLoad) -> str:
    """The angle at the hardest point, with its joint where that is another than the loaded one."""
    assert load.curve.hardest is not None
    of = "" if load.path.angle_of == load.path.joint else f" of the {load.path.angle_of}"
    return f"{load.curve.hardest.angle_deg:.0f}°{of}"


def _least_words(least_pct: float) -> str:
    return (
        "at its weakest nothing is left"
        if least_pct < 1
        else f"never less than {least_pct:.0f} % of that"
    )


def not_met(found: Setup, wish: Wish) -> str:
    """What of the wish the nearest setup does not meet."""
    curve = found.curve
    if curve.hardest is None:
        return ""  # it moves the trunk: there is no arm's load to wish for
    zones = {"stretched": (0.0, 1 / 3), "middle": (1 / 3, 2 / 3), "shortened": (2 / 3, 1.0)}
    parts = []
    if wish.hardest in zones:
        low, high = zones[wish.hardest]
        if not low - 0.01 <= curve.hardest.share <= high + 0.01:
            parts.append(f"hardest {'in the middle' if wish.hardest == 'middle' else wish.hardest}")
    if wish.no_slack and curve.slack:
        parts.append("no slack")
    if wish.in_plane and (found.load.worst_off_plane_deg or 0.0) > _OFF_PLANE_FINE_DEG:
        parts.append("in the arm's plane")
    return f"Not met: {', '.join(parts)}." if parts else ""


_NUMBERS: Final = (
    "no",
    "one",
    "two",
    "three",
    "four",
    "five",
    "six",
    "seven",
    "eight",
    "nine",
    "ten",
)


def _shoes(metres: float) -> str:
    halves = round(2 * metres / SHOE_M)
    if halves < 3:
        return ("at the column", "half a shoe", "one shoe")[halves]
    whole = _NUMBERS[halves // 2] if halves // 2 < len(_NUMBERS) else str(halves // 2)
    return f"{whole} shoes" if halves % 2 == 0 else f"{whole} and a half shoes"


def _sentence(words: str) -> str:
    return words[:1].upper() + words[1:]
