"""Recordings made by editing a performance: landmarks turned, shifted and delayed as a body would
be.

Nothing here knows of the checks or of the faults of the simulated client. A take is a clean
performance in space; each edit turns or moves its landmarks about the joints, with bone lengths
kept, or changes when things happen. What was edited is then seen by a camera, with a noise of its
own: correlated over time and with heavy tails.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import Any

import numpy as np
from numpy.typing import NDArray

from guide_arc.core.model.landmarks import SIDES
from guide_arc.core.model.track import LandmarkTrack, SetFacts, View
from guide_arc.core.simulate.camera import IMAGE_SIZE, Camera, project
from guide_arc.core.simulate.perform import Script, perform
from guide_arc.standards.loader import standard

Array = NDArray[np.float64]
RATE_HZ = 30.0
LOWER_BODY = ("hip", "knee", "ankle", "heel", "foot")
HAND = ("wrist", "thumb", "index", "pinky", "handle")
LEFTWARD = np.array([1.0, 0.0, 0.0])
AHEAD = np.array([0.0, 0.0, 1.0])


@dataclass
class Take:
    """time_s (F,); points: each landmark (F, 3); reps: for each arm, of each rep the frames where
    its lift starts, ends, and where its lowering starts and ends."""

    time_s: Array
    points: dict[str, Array]
    reps: dict[str, list[tuple[int, int, int, int]]]

    def weight(self, when: str, side: str, reps: tuple[int, int] | None = None) -> Array:
        """(F,) 0 to 1: how much of an edit a frame has."""
        out = np.zeros(len(self.time_s))
        if when == "always":
            out[:] = 1.0
            return out
        if when == "start":
            return 1.0 - self.weight("turn", side)
        for number, (a, b, c, d) in enumerate(self.reps[side], 1):
            if reps is not None and not reps[0] <= number <= reps[1]:
                continue
            lift, lower = np.linspace(0, 1, b - a + 1), np.linspace(0, 1, d - c + 1)
            if when == "turn":
                out[a : b + 1] = _smooth(lift)
                out[b : c + 1] = 1.0
                out[c : d + 1] = _smooth(1 - lower)
            elif when == "burst":  # in the first third of the lift
                out[a : b + 1] = np.sin(np.pi * np.clip(lift / 0.4, 0, 1))
            elif when == "lift":
                out[a : b + 1] = np.sin(np.pi * lift)
            elif when == "lower":
                out[c : d + 1] = np.sin(np.pi * lower)
            elif when == "between":  # half-way, on both ways
                out[a : b + 1] = np.sin(np.pi * lift)
                out[c : d + 1] = np.sin(np.pi * lower)
            elif when == "rep":  # all the rep, quickly reached
                out[a : d + 1] = np.minimum(
                    1.0, 6 * np.minimum(np.linspace(0, 1, d - a + 1), np.linspace(1, 0, d - a + 1))
                )
            else:
                raise ValueError(f"unknown moment {when!r}")
        return out

    def move(self, names: list[str], about: Array, axis: Array, angle_rad: Array) -> None:
        """Turn landmarks about a moving point and axis, right-handed, (F,) radians."""
        axis = np.broadcast_to(axis, about.shape)
        unit = axis / np.maximum(np.linalg.norm(axis, axis=1, keepdims=True), 1e-9)
        cos, sin = np.cos(angle_rad)[:, None], np.sin(angle_rad)[:, None]
        for name in names:
            v = self.points[name] - about
            along = unit * (unit * v).sum(axis=1, keepdims=True)
            self.points[name] = about + along + (v - along) * cos + np.cross(unit, v) * sin

    def shift(self, names: list[str], by: Array) -> None:
        for name in names:
            self.points[name] = self.points[name] + by

    # What belongs together

    def has(self, names: list[str]) -> list[str]:
        return [n for n in names if n in self.points]

    def upper_body(self) -> list[str]:
        kept = {f"{s}_{p}" for s in SIDES for p in LOWER_BODY} | {"anchor"}
        return [n for n in self.points if n not in kept and "pulley" not in n and "bench" not in n]

    def arm(self, side: str) -> list[str]:
        return self.has([f"{side}_elbow", *(f"{side}_{p}" for p in HAND)])

    def hand(self, side: str) -> list[str]:
        return self.has([f"{side}_{p}" for p in HAND if p != "wrist"])

    def hips(self) -> Array:
        return 0.5 * (self.points["left_hip"] + self.points["right_hip"])

    def trunk(self) -> Array:
        return 0.5 * (self.points["left_shoulder"] + self.points["right_shoulder"]) - self.hips()


def _smooth(share: Array) -> Array:
    out: Array = share * share * (3 - 2 * share)
    return out


def take(id: str, school: str | None, **script: Any) -> Take:
    """A clean performance to be edited."""
    done = perform(standard(id, school), Script(**script), Camera("none", RATE_HZ), 3)
    points = {n: done.exact[:, i].copy() for i, n in enumerate(done.track.names)}

    def at(s: float) -> int:
        return int(np.argmin(np.abs(done.track.time_s - s)))

    reps: dict[str, list[tuple[int, int, int, int]]] = {"left": [], "right": []}
    for rep in done.truth["reps"]:
        frames = (at(rep["lift"][0]), at(rep["lift"][1]), at(rep["lower"][0]), at(rep["lower"][1]))
        for side in SIDES if rep["side"] == "both" else (rep["side"],):
            reps[side].append(frames)
    return Take(done.track.time_s.copy(), points, reps)


# Edits of the body


def lean(t: Take, deg: float, when: str, side: str, reps: Any) -> None:
    """The upper body turned forward (or back, negative) about the hips."""
    angle = np.radians(deg) * t.weight(when, _either(t), reps)
    t.move(t.upper_body(), t.hips(), LEFTWARD, angle)


def twist(t: Take, deg: float, when: str, side: str, reps: Any) -> None:
    """The upper body turned about the trunk."""
    t.move(t.upper_body(), t.hips(), t.trunk(), np.radians(deg) * t.weight(when, _either(t), reps))


def shrug(t: Take, deg: float, when: str, side: str, reps: Any) -> None:
    """Shoulders and arms up along the trunk, by so many hundredths of its length."""
    for s in _sides(side):
        by = 0.01 * deg * t.trunk() * t.weight(when, _own(t, s), reps)[:, None]
        t.shift([f"{s}_shoulder", *t.arm(s)], by)


def shoulder_turn(t: Take, deg: float, when: str, side: str, reps: Any) -> None:
    """The whole arm forward and up (or back) about the line through the shoulders."""
    for s in _sides(side):
        angle = -np.radians(deg) * t.weight(when, _own(t, s), reps)
        t.move(t.arm(s), t.points[f"{s}_shoulder"], LEFTWARD, angle)


def abduct(t: Take, deg: float, when: str, side: str, reps: Any) -> None:
    """The whole arm out to its side (or in) about the axis through the chest."""
    for s in _sides(side):
        sign = 1.0 if s == "left" else -1.0
        angle = sign * np.radians(deg) * t.weight(when, _own(t, s), reps)
        t.move(t.arm(s), t.points[f"{s}_shoulder"], AHEAD, angle)


def swivel(t: Take, deg: float, when: str, side: str, reps: Any) -> None:
    """The elbow up (or down) about the line from shoulder to wrist, the hand where it was."""
    for s in _sides(side):
        shoulder, elbow = t.points[f"{s}_shoulder"], t.points[f"{s}_elbow"]
        line = t.points[f"{s}_wrist"] - shoulder
        rises = np.sign(np.cross(line, elbow - shoulder)[:, 1])
        angle = np.radians(deg) * rises * t.weight(when, _own(t, s), reps)
        t.move([f"{s}_elbow"], shoulder, line, angle)


def bend(t: Take, deg: float, when: str, side: str, reps: Any) -> None:
    """The elbow bent more (or less), the upper arm where it was."""
    for s in _sides(side):
        shoulder, elbow, wrist = (t.points[f"{s}_{p}"] for p in ("shoulder", "elbow", "wrist"))
        axis = np.cross(elbow - shoulder, wrist - elbow)
        angle = np.radians(deg) * t.weight(when, _own(t, s), reps)
        t.move(t.has([f"{s}_{p}" for p in HAND]), elbow, axis, angle)


def roll(t: Take, deg: float, when: str, side: str, reps: Any) -> None:
    """The forearm out to its side (or in) about the upper arm's own line, as a wide grip has it."""
    for s in _sides(side):
        elbow = t.points[f"{s}_elbow"]
        sign = 1.0 if s == "left" else -1.0
        angle = sign * np.radians(deg) * t.weight(when, _own(t, s), reps)
        t.move(t.has([f"{s}_{p}" for p in HAND]), elbow, t.points[f"{s}_shoulder"] - elbow, angle)


def flatten(t: Take, deg: float, when: str, side: str, reps: Any) -> None:
    """The lowest rib brought so many hundredths of the way onto the line from the hips to the
    neck."""
    hips, neck, rib = t.hips(), t.points["neck"], t.points["mid_spine"]
    line = (neck - hips) / np.linalg.norm(neck - hips, axis=1, keepdims=True)
    on_line = hips + line * ((rib - hips) * line).sum(axis=1, keepdims=True)
    share = 0.01 * deg * t.weight(when, _either(t), reps)[:, None]
    t.points["mid_spine"] = rib + share * (on_line - rib)


def spine(t: Take, deg: float, when: str, side: str, reps: Any) -> None:
    """The back rounded (or arched, negative) at the lowest rib: the rib leaves the line from hips
    to neck, which keep their places, until the two parts of the spine have turned by so much
    more."""
    hips, neck, rib = t.hips(), t.points["neck"], t.points["mid_spine"]
    behind = np.cross(neck - hips, LEFTWARD)
    behind /= np.linalg.norm(behind, axis=1, keepdims=True)

    def bend(at: Array) -> Array:
        a, b = at - hips, neck - at
        size = np.linalg.norm(a, axis=1) * np.linalg.norm(b, axis=1)
        turned = np.degrees(np.arccos(np.clip((a * b).sum(axis=1) / size, -1, 1)))
        out: Array = turned * np.where(np.cross(a, b)[:, 0] < 0, -1.0, 1.0)
        return out

    want = bend(rib) + deg * t.weight(when, _either(t), reps)
    low, high = np.full(len(rib), -0.4), np.full(len(rib), 0.4)
    for _ in range(40):
        middle = 0.5 * (low + high)
        more = bend(rib - behind * middle[:, None]) < want
        low, high = np.where(more, low, middle), np.where(more, middle, high)
    t.points["mid_spine"] = rib - behind * low[:, None]


def lean_from_rib(t: Take, deg: float, when: str, side: str, reps: Any) -> None:
    """All above the lowest rib turned forward (or back, negative) about it."""
    above = [n for n in t.upper_body() if n != "mid_spine"]
    t.move(
        above,
        t.points["mid_spine"].copy(),
        LEFTWARD,
        np.radians(deg) * t.weight(when, _either(t), reps),
    )


def sag(t: Take, deg: float, when: str, side: str, reps: Any) -> None:
    """Hips, and the spine in their proportion, sunk by so many centimetres between shoulders and
    knees."""
    by = np.array([0.0, -0.01 * deg, 0.0]) * t.weight(when, _either(t), reps)[:, None]
    t.shift(["left_hip", "right_hip"], by)
    t.shift(["mid_spine"], 0.6 * by)


def unmarked(t: Take, deg: float, when: str, side: str, reps: Any) -> None:
    """A recording without the points of the spine, as a phone's has it."""
    for name in ("neck", "mid_spine"):
        del t.points[name]


def forearm_turn(t: Take, deg: float, when: str, side: str, reps: Any) -> None:
    """The hand turned about the forearm: positive turns the thumbs in over the top."""
    for s in _sides(side):
        elbow, wrist = t.points[f"{s}_elbow"], t.points[f"{s}_wrist"]
        sign = 1.0 if s == "left" else -1.0
        angle = sign * np.radians(deg) * t.weight(when, _own(t, s), reps)
        t.move(t.hand(s), wrist, wrist - elbow, angle)


def wrist(t: Take, deg: float, when: str, side: str, reps: Any) -> None:
    for s in _sides(side):
        across = t.points[f"{s}_index"] - t.points[f"{s}_pinky"]
        angle = np.radians(deg) * t.weight(when, _own(t, s), reps)
        t.move(t.hand(s), t.points[f"{s}_wrist"], across, angle)


def hand_up(t: Take, deg: float, when: str, side: str, reps: Any) -> None:
    """The hands moved away from the shoulders by so many centimetres, the elbow following
    half-way."""
    for s in _sides(side):
        line = t.points[f"{s}_wrist"] - t.points[f"{s}_shoulder"]
        line = line / np.maximum(np.linalg.norm(line, axis=1, keepdims=True), 1e-9)
        by = 0.01 * deg * line * t.weight(when, _own(t, s), reps)[:, None]
        t.shift([n for n in t.arm(s) if not n.endswith("elbow")], by)
        t.shift([f"{s}_elbow"], 0.5 * by)


def hips_move(t: Take, deg: float, when: str, side: str, reps: Any) -> None:
    """Hips and all above them back (or ahead, negative) by so many centimetres."""
    by = -0.01 * deg * AHEAD * t.weight(when, _either(t), reps)[:, None]
    t.shift([*t.upper_body(), "left_hip", "right_hip"], by)


def idle(t: Take, deg: float, when: str, side: str, reps: Any) -> None:
    """One arm stands still, where it hangs before its first rep, in these reps."""
    frames = t.reps[side]
    first, last = reps or (1, len(frames))
    a = frames[first - 1][0]
    still = a
    for n in t.arm(side):
        rel = t.points[n] - t.points[f"{side}_shoulder"]
        rel[a : frames[last - 1][3] + 1] = rel[still]
        t.points[n] = t.points[f"{side}_shoulder"] + rel
    t.reps[side] = frames[: first - 1] + frames[last:]


def late(t: Take, deg: float, when: str, side: str, reps: Any) -> None:
    """One arm comes so many hundredths of a second after the other."""
    for n in t.arm(side):
        rel = t.points[n] - t.points[f"{side}_shoulder"]
        moved = np.stack(
            [np.interp(t.time_s - 0.01 * deg, t.time_s, rel[:, k]) for k in range(3)], 1
        )
        t.points[n] = t.points[f"{side}_shoulder"] + moved


# Edits of time


def short(t: Take, deg: float, when: str, side: str, reps: Any) -> None:
    """So many hundredths of the way are left out, at the turn or (when = "start") at the start."""
    for s in _sides(side):
        at = np.arange(len(t.time_s), dtype=float)
        gone = 0.01 * deg
        for number, (a, b, c, d) in enumerate(t.reps[s], 1):
            if reps is not None and not reps[0] <= number <= reps[1]:
                continue
            up, down = t_of_share(t, s, a, b), t_of_share(t, s, c, d)
            lift, lower = np.linspace(0, 1, b - a + 1), np.linspace(0, 1, d - c + 1)
            if when == "start":
                at[a : b + 1] = up(gone) + (b - up(gone)) * lift
                at[c : d + 1] = c + (down(1 - gone) - c) * lower
                nxt = t.reps[s][number][0] if number < len(t.reps[s]) else None
                if nxt is not None:
                    at[d : nxt + 1] = down(1 - gone)
            else:
                at[a : b + 1] = a + (up(1 - gone) - a) * lift
                at[b : c + 1] = up(1 - gone)
                at[c : d + 1] = down(gone) + (d - down(gone)) * lower
        _resample(t, s, at)


def t_of_share(t: Take, side: str, a: int, b: int) -> Callable[[float], float]:
    """The frame at which a share of an arm's way is done, by the hand's own way."""
    way = t.points[f"{side}_wrist"] - t.points[f"{side}_shoulder"]
    gone = np.concatenate(
        ([0.0], np.cumsum(np.linalg.norm(np.diff(way[a : b + 1], axis=0), axis=1)))
    )
    return lambda share: float(np.interp(share * gone[-1], gone, np.arange(a, b + 1)))


def _resample(t: Take, side: str, at: Array) -> None:
    base = np.floor(at).astype(int)
    nxt = np.minimum(base + 1, len(at) - 1)
    part = (at - base)[:, None]
    for n in t.arm(side):
        rel = t.points[n] - t.points[f"{side}_shoulder"]
        t.points[n] = t.points[f"{side}_shoulder"] + (1 - part) * rel[base] + part * rel[nxt]


def pace(t: Take, lasts: dict[str, float], reps: Any = None) -> Take:
    """The same movement with phases of other lengths: lift, top, lower, bottom in seconds."""
    frames = t.reps["left"] or t.reps["right"]
    source: list[Array] = [np.arange(0, frames[0][0], dtype=float)]
    new: list[tuple[int, int, int, int]] = []
    count = len(source[0])

    def part(a: int, b: int, seconds: float | None) -> None:
        nonlocal count
        n = (b - a) if seconds is None else max(1, round(seconds * RATE_HZ))
        if seconds is None or b > a:
            source.append(a + (b - a) * np.arange(n) / max(n, 1))
        else:  # a hold where there was none
            source.append(np.full(n, float(a)))
        count += n

    for i, (a, b, c, d) in enumerate(frames):
        mine = reps is None or reps[0] <= i + 1 <= reps[1]
        want = lasts if mine else {}
        at = [count]
        for name, (p, q) in {"lift": (a, b), "top": (b, c), "lower": (c, d)}.items():
            part(p, q, want.get(name))
            at.append(count)
        new.append((at[0], at[1], at[2], at[3]))
        end = frames[i + 1][0] if i + 1 < len(frames) else len(t.time_s)
        part(d, end, want.get("bottom") if i + 1 < len(frames) else None)
    at_frame = np.concatenate(source)
    base = np.minimum(np.floor(at_frame).astype(int), len(t.time_s) - 1)
    nxt, share = np.minimum(base + 1, len(t.time_s) - 1), (at_frame - base)[:, None]
    points = {n: (1 - share) * p[base] + share * p[nxt] for n, p in t.points.items()}
    reps_of = {s: list(new) if t.reps[s] else [] for s in t.reps}
    return replace(t, time_s=np.arange(len(at_frame)) / RATE_HZ, points=points, reps=reps_of)


def _sides(side: str) -> tuple[str, ...]:
    return SIDES if side == "both" else (side,)


def _own(t: Take, side: str) -> str:
    return side if t.reps[side] else _either(t)


def _either(t: Take) -> str:
    return "left" if t.reps["left"] else "right"


EDITS: dict[str, Callable[..., None]] = {
    f.__name__: f
    for f in (
        lean,
        twist,
        shrug,
        shoulder_turn,
        abduct,
        swivel,
        bend,
        roll,
        flatten,
        forearm_turn,
        wrist,
        hand_up,
        spine,
        lean_from_rib,
        sag,
        unmarked,
        hips_move,
        idle,
        late,
        short,
    )
}


def seen(t: Take, view: View, noise: float, seed: int, **facts: Any) -> LandmarkTrack:
    """The take before a camera. noise : standard deviation, millimetres in space and pixels in a
    view"""
    rng = np.random.default_rng(seed)
    names = tuple(n for n in t.points if np.isfinite(t.points[n]).any())
    exact = np.stack([t.points[n] for n in names], axis=1)
    world = view == "none"
    place = exact if world else project(exact, view)
    kick = rng.standard_t(4, place.shape) / np.sqrt(2.0)
    own = np.empty_like(kick)
    own[0] = kick[0]
    for i in range(1, len(kick)):  # half of it goes on from frame to frame
        own[i] = 0.5 * own[i - 1] + np.sqrt(0.75) * kick[i]
    place = place + (0.001 * noise if world else noise) * own
    return LandmarkTrack(
        time_s=t.time_s,
        names=names,
        position=place,
        confidence=np.full(place.shape[:2], 0.9),
        space="world" if world else "image",
        view=view,
        image_size=None if world else IMAGE_SIZE,
        facts=SetFacts(**facts),
    )
