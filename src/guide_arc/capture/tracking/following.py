"""Following marked points through a clip.

From each mark the limbs are followed by pyramidal optical flow (Lucas and Kanade 1981; Bouguet 2001),
forward and back again to see whether they return, and held to how they looked before
(`appearance.py`). A joint is where its limbs end. Between two marks it is followed from both. Where
the limbs or the two ways part, or a look fits badly, the point is doubted and the coach asked.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from typing import Final

import cv2
import numpy as np
from numpy.typing import NDArray

from guide_arc.capture.tracking.appearance import Grey, Memory
from guide_arc.capture.tracking.limbs import (
    Limb,
    Spot,
    direction_deg,
    limbs_between,
    loose_points,
)
from guide_arc.capture.tracking.tracker import Progress, Tracked
from guide_arc.capture.video.clip import Clip
from guide_arc.capture.video.frames import every_frame
from guide_arc.core.kinematics.vectors import Array
from guide_arc.core.model.marks import Marks

WORK_WIDTH: Final = 1280
DOUBT_BELOW: Final = 0.5

_CHUNK: Final = 48
_CLOSE_OFF: Final = np.ones((7, 1), dtype=np.uint8)
_BEGIN_EARLIER: Final = np.ones((5, 1), dtype=np.uint8)
# Two ways, or two limbs, that part by this much speak against each other; pixels at work width.
_PART_PX: Final = 5.0
# A limb seen in a picture shortens freely but grows no longer than it is.
_LONGER: Final = 1.18
_LONGER_BY: Final = 0.08
# In one step: a limb this much longer than it is has lost an anchor; one this short shows no direction.
_TORN: Final = 1.25
_SHORT: Final = 0.4
# A limb less sure than this is not heard; one surer than the other is remembered as it looks.
_HEARD: Final = 0.15
_SURE: Final = 0.7
# A limb lost for some frames is looked for now and then, in the directions that it had, so far apart.
_SEARCH_AFTER: Final = 3
_SEARCH_EVERY: Final = 3
_SEARCH_REACH: Final = 5
_BEEN_DEG: Final = 6.0
_HALF_OF_TRUNK: Final = 0.12
_NARROW: Final = 0.5
_HALF_PX: Final = (8, 20)
_USUAL_HALF_PX: Final = 12

Keys = Mapping[str, Mapping[int, Spot]]


class MarkedPoints:
    """The tracker that follows what the coach marked."""

    name = "marked points"

    def why_not(self, clip: Clip, marks: Marks) -> str | None:
        if not marks.points:
            return "nothing is marked yet; click the joints on one frame"
        if max(m.frame for own in marks.points.values() for m in own) >= clip.frames:
            return "the marks belong to another clip; mark the joints on this one"
        return None

    def track(self, clip: Clip, marks: Marks, progress: Progress) -> Tracked:
        """Both ways through the clip; see the module. Raises BadFile where the clip is damaged."""
        names = tuple(marks.points)
        scale = min(1.0, WORK_WIDTH / clip.width)
        keys = {n: {m.frame: scale * np.array([m.x, m.y]) for m in marks.points[n]} for n in names}
        first = min(min(own) for own in keys.values())
        back_from = max(max(own) for own in keys.values())
        steps = clip.frames - first + back_from
        told = 0

        def tell() -> None:
            nonlocal told
            told += 1
            if told % 8 == 0:
                progress(min(told / steps, 1.0))

        half = _half_patch(keys)
        limbs = limbs_between({n: own[min(own)] for n, own in keys.items()}, half)
        memory: dict[str, Memory] = {}
        ways = []
        for frames in (_forward(clip, first), _backward(clip, back_from)):
            way = _Way(names, limbs, keys, memory, half, clip.frames)
            for frame, grey in frames:
                way.step(frame, grey)
                tell()
            ways.append(way)
        position, confidence = _joined(*ways)
        confidence *= _limbs_hold(limbs, names, position, keys)
        doubted = _calm(confidence < DOUBT_BELOW)
        for i, name in enumerate(names):
            for frame, spot in keys[name].items():
                position[frame, i], confidence[frame, i], doubted[frame, i] = spot, 1.0, False
        return Tracked(names, position / scale, np.round(confidence, 2), doubted)


def _half_patch(keys: Keys) -> int:
    """Half the length of a patch along a limb: a share of the trunk."""
    trunks = []
    for side in ("left", "right"):
        shoulder, hip = keys.get(f"{side}_shoulder"), keys.get(f"{side}_hip")
        if shoulder and hip:
            both = shoulder.keys() & hip.keys()
            trunks += [float(np.hypot(*(shoulder[f] - hip[f]))) for f in both]
    half = round(_HALF_OF_TRUNK * max(trunks)) if trunks else _USUAL_HALF_PX
    return int(np.clip(half, *_HALF_PX))


def _prepared(grey: NDArray[np.uint8]) -> Grey:
    """A picture without its light: what is brighter or darker than its surroundings."""
    broad = cv2.boxFilter(grey, cv2.CV_16S, (41, 41))
    flat = cv2.subtract(grey.astype(np.int16), broad)
    out: Grey = cv2.convertScaleAbs(cv2.add(flat, 256), alpha=0.5)
    return out


def _forward(clip: Clip, start: int) -> Iterator[tuple[int, Grey]]:
    for number, grey in every_frame(clip, width=WORK_WIDTH, grey=True, start=start):
        yield number, _prepared(grey)


def _backward(clip: Clip, start: int) -> Iterator[tuple[int, Grey]]:
    """From a frame back to the first, some at a time, so that memory stays flat. Nothing from 0 on."""
    if not start:
        return
    for low in range(start - start % _CHUNK, -1, -_CHUNK):
        high = min(low + _CHUNK, start + 1)
        some = list(every_frame(clip, width=WORK_WIDTH, grey=True, start=low, stop=high))
        for number, grey in reversed(some):
            yield number, _prepared(grey)


class _Anchor:
    """One followed spot: where it is, how fast it goes, how sure it is, how long it is lost."""

    # A look that fits this well leaves no doubt; below the second one the anchor is lost.
    SURE: Final = 0.80
    LOST: Final = 0.45
    _RETURN_PX: Final = 1.2
    _REACH: Final = 5
    _REACH_LOST: Final = 26

    def __init__(self, at: Spot, memory: Memory) -> None:
        self.at, self.memory = at, memory
        self.speed: Spot = np.zeros(2)
        self.confidence = 1.0
        self.lost_for = 0

    def follow(self, grey: Grey, flowed: Spot, returned: float, turn_deg: float) -> None:
        """Settle on a new place, from where the flow took it and where its look fits best there."""
        reach = min(self._REACH + 2 * self.lost_for, self._REACH_LOST)
        seen = self.memory.look(grey, flowed, turn_deg, reach)
        at = flowed
        found = seen.fit > (self.SURE if self.lost_for else self.LOST)
        if found:
            # The better the look fits, the more it says where the anchor is.
            share = 1.0 if self.lost_for else float(np.clip((seen.fit - 0.5) / 0.3, 0.0, 1.0))
            at = flowed + share * np.array([seen.dx, seen.dy])
        high, wide = grey.shape
        inside = bool(0 <= at[0] < wide and 0 <= at[1] < high)
        sure = float(np.clip((seen.fit - self.LOST) / (self.SURE - self.LOST), 0.0, 1.0))
        back = float(np.exp(-((returned / self._RETURN_PX) ** 2)))
        self.confidence = sure if sure > 0.8 else sure * (0.4 + 0.6 * back)
        if not inside or not found:
            self.confidence = min(self.confidence, 0.3) if inside else 0.0
        lost = not inside or not found
        self.speed = np.zeros(2) if lost else 0.5 * (at - self.at)
        self.at = np.clip(at, 0, (wide - 1, high - 1))
        self.lost_for = self.lost_for + 1 if lost else 0


class _Way:
    """One way through the clip, forward or backward, each point set anew at each of its marks."""

    def __init__(  # noqa: PLR0913
        self, names: tuple[str, ...], limbs: tuple[Limb, ...], keys: Keys,
        memory: dict[str, Memory], half: int, frames: int,
    ) -> None:  # fmt: skip
        self.names, self.limbs, self.keys = names, limbs, keys
        self.loose = loose_points(names, limbs)
        self.memory, self.half = memory, half
        self.position: Array = np.full((frames, len(names), 2), np.nan)
        self.confidence: Array = np.zeros((frames, len(names)))
        self.since: Array = np.full((frames, len(names)), np.inf)
        self._place = {n: i for i, n in enumerate(names)}
        self._joints: dict[str, Spot] = {}
        self._marked: dict[str, int] = {}
        self._anchors: dict[str, _Anchor] = {}
        self._longest: dict[Limb, float] = {}
        self._been: dict[Limb, list[tuple[float, float]]] = {}
        self._before: Grey | None = None

    def step(self, frame: int, grey: Grey) -> None:
        sure: dict[str, float] = {}
        if self._before is not None and self._anchors:
            self._follow(self._before, grey)
            sure = self._settle()
            found = [self._search(limb, a, b, sure, grey) for limb, a, b in self._pairs()]
            if any(found):
                sure = self._settle()
        marked = [n for n in self.names if frame in self.keys[n]]
        for name in marked:
            self._joints[name] = self.keys[name][frame].copy()
            self._marked[name] = frame
            sure[name] = 1.0
        if marked:
            self._set_anchors(frozenset(marked), grey)
        elif self._before is not None:
            self._remember(grey)
        for name, spot in self._joints.items():
            i = self._place[name]
            self.position[frame, i] = spot
            self.confidence[frame, i] = sure.get(name, 1.0)
            self.since[frame, i] = abs(frame - self._marked[name])
        self._before = grey

    def _set_anchors(self, marked: frozenset[str], grey: Grey) -> None:
        """Put the anchors of the marked joints where the marks say. A limb needs both its ends."""
        for limb in self.limbs:
            if limb.a in self._joints and limb.b in self._joints and marked & {limb.a, limb.b}:
                ends = self._joints[limb.a], self._joints[limb.b]
                turn = direction_deg(*ends)
                root = {limb.a, limb.b} <= marked
                long = float(np.hypot(*(ends[1] - ends[0])))
                self._longest[limb] = max(long, self._longest.get(limb, 0.0))
                size = (int(np.clip(0.5 * long, 6, self.half)), max(5, round(_NARROW * self.half)))
                for end, at in zip("ab", limb.anchors(*ends), strict=True):
                    self._set(f"{limb.a}-{limb.b}-{end}", at, grey, turn, size, root)
        for name in self.loose:
            if name in marked:
                self._set(name, self._joints[name], grey, 0.0, (self.half, self.half), True)

    def _set(  # noqa: PLR0913
        self, key: str, at: Spot, grey: Grey, turn_deg: float, size: tuple[int, int], root: bool
    ) -> None:
        memory = self.memory.setdefault(key, Memory(*size))
        anchor = _Anchor(at.copy(), memory)
        if key in self._anchors:
            anchor.speed = self._anchors[key].speed
        self._anchors[key] = anchor
        memory.remember(grey, anchor.at, turn_deg, root=root)

    def _pairs(self) -> Iterator[tuple[Limb, _Anchor, _Anchor]]:
        for limb in self.limbs:
            key = f"{limb.a}-{limb.b}"
            if f"{key}-a" in self._anchors:
                yield limb, self._anchors[f"{key}-a"], self._anchors[f"{key}-b"]

    def _follow(self, before: Grey, grey: Grey) -> None:
        for limb, near_a, near_b in self._pairs():
            # A lost anchor is looked for where the joints say it is.
            for anchor, at in zip((near_a, near_b), limb.anchors(self._joints[limb.a], self._joints[limb.b]), strict=True):  # fmt: skip
                if anchor.lost_for > 1:
                    anchor.at = at
        anchors = list(self._anchors.values())
        old = np.array([a.at for a in anchors], dtype=np.float32)[:, None]
        guess = old + np.array([a.speed for a in anchors], dtype=np.float32)[:, None]
        new, returned = _flow(before, grey, old, guess)
        flowed = {id(a): (new[k], float(returned[k])) for k, a in enumerate(anchors)}
        for _limb, near_a, near_b in self._pairs():
            turn = direction_deg(flowed[id(near_a)][0], flowed[id(near_b)][0])
            near_a.follow(grey, *flowed[id(near_a)], turn)
            near_b.follow(grey, *flowed[id(near_b)], turn)
        for name in self.loose:
            if name in self._anchors:
                self._anchors[name].follow(grey, *flowed[id(self._anchors[name])], 0.0)

    def _search(
        self, limb: Limb, near_a: _Anchor, near_b: _Anchor, sure: dict[str, float], grey: Grey
    ) -> bool:
        """Look for a lost limb about the end that is still known, in every direction that it had before;
        whether it was found."""
        lost = min(near_a.lost_for, near_b.lost_for)
        if lost < _SEARCH_AFTER or lost % _SEARCH_EVERY:
            return False
        known = max((limb.a, limb.b), key=lambda n: sure.get(n, 0.0))
        if sure.get(known, 0.0) < _SURE:
            return False
        best: tuple[float, Spot, Spot] | None = None
        for turn, long in self._been.get(limb, []):
            along = long * np.array([np.cos(np.radians(turn)), np.sin(np.radians(turn))])
            a = self._joints[limb.a] if known == limb.a else self._joints[limb.b] - along
            spots = limb.anchors(a, a + along)
            seen = [
                anchor.memory.look(grey, at, turn, _SEARCH_REACH)
                for anchor, at in zip((near_a, near_b), spots, strict=True)
            ]
            fit = min(s.fit for s in seen)
            if fit > _Anchor.SURE and (best is None or fit > best[0]):
                found = [at + np.array([s.dx, s.dy]) for at, s in zip(spots, seen, strict=True)]
                best = fit, found[0], found[1]
        if best is None:
            return False
        for anchor, at in ((near_a, best[1]), (near_b, best[2])):
            anchor.at, anchor.speed, anchor.confidence, anchor.lost_for = at, np.zeros(2), 1.0, 0
        return True

    def _settle(self) -> dict[str, float]:
        """Put each joint where its limbs end; returns how sure that is."""
        said: dict[str, list[tuple[Spot, float]]] = {n: [] for n in self._joints}
        for limb, near_a, near_b in self._pairs():
            ends = limb.ends(near_a.at, near_b.at)
            sure = self._believed(limb, near_a, near_b, float(np.hypot(*(ends[1] - ends[0]))))
            for name, spot in zip((limb.a, limb.b), ends, strict=True):
                said[name].append((spot, sure))
        for name in self.loose:
            if name in self._anchors:
                said[name].append((self._anchors[name].at, self._anchors[name].confidence))
        before = dict(self._joints)
        out = {}
        for name, every in said.items():
            heard = [(spot, sure) for spot, sure in every if sure > _HEARD]
            out[name] = max((sure for _, sure in every), default=0.0)
            if heard:
                weight = np.array([sure for _, sure in heard]) ** 2
                spots = np.array([spot for spot, _ in heard])
                self._joints[name] = (weight[:, None] * spots).sum(axis=0) / weight.sum()
                sure_spots = spots[weight > DOUBT_BELOW**2]
                apart = float(np.hypot(*np.ptp(sure_spots, axis=0))) if len(sure_spots) else 0.0
                out[name] *= float(np.exp(-((apart / (2.0 * _PART_PX)) ** 2)))
        self._carry([n for n in said if out[n] <= _HEARD], before)
        return out

    def _believed(self, limb: Limb, near_a: _Anchor, near_b: _Anchor, long: float) -> float:
        """How sure a limb is of its ends: not at all where it grew longer than it is, and little where it
        is so short in the picture that its direction says nothing."""
        longest = self._longest[limb]
        sure = min(near_a.confidence, near_b.confidence)
        if long > _TORN * longest:
            weaker = min(near_a, near_b, key=lambda anchor: anchor.confidence)
            weaker.lost_for += 1
            return 0.0
        if sure > _SURE:
            self._longest[limb] = max(longest, min(long, 1.02 * longest))
        return sure * float(np.clip(long / (_SHORT * longest), 0.0, 1.0))

    def _carry(self, lost: list[str], before: dict[str, Spot]) -> None:
        """Joints that nothing is heard of go along with the joints that they hang on."""
        for name in lost:
            mates = [
                limb.b if limb.a == name else limb.a
                for limb in self.limbs
                if name in (limb.a, limb.b)
            ]
            moved = [self._joints[m] - before[m] for m in mates if m in before and m not in lost]
            if moved:
                self._joints[name] = before[name] + np.mean(moved, axis=0)

    def _remember(self, grey: Grey) -> None:
        for limb, near_a, near_b in self._pairs():
            if min(near_a.confidence, near_b.confidence) > _SURE:
                turn = direction_deg(near_a.at, near_b.at)
                been = self._been.setdefault(limb, [])
                if all(abs((turn - t + 180.0) % 360.0 - 180.0) > _BEEN_DEG for t, _ in been):
                    ends = limb.ends(near_a.at, near_b.at)
                    been.append((turn, float(np.hypot(*(ends[1] - ends[0])))))
                near_a.memory.remember(grey, near_a.at, turn)
                near_b.memory.remember(grey, near_b.at, turn)


def _flow(
    before: Grey, after: Grey, old: NDArray[np.float32], guess: NDArray[np.float32]
) -> tuple[Array, Array]:
    """(N, 2) where spots went, and (N,) how far from where they were they come back to."""
    criteria = (cv2.TERM_CRITERIA_EPS | cv2.TERM_CRITERIA_COUNT, 20, 0.02)

    def flow(
        a: Grey, b: Grey, start: NDArray[np.float32], first: NDArray[np.float32]
    ) -> tuple[NDArray[np.float32], NDArray[np.bool_]]:
        new, ok, _ = cv2.calcOpticalFlowPyrLK(
            a, b, start, first.copy(), winSize=(21, 21), maxLevel=3, criteria=criteria,
            flags=cv2.OPTFLOW_USE_INITIAL_FLOW,
        )  # fmt: skip
        return new, ok[:, 0] > 0

    new, there = flow(before, after, old, guess)
    back, home = flow(after, before, new, old)
    returned: Array = np.hypot(*(back - old)[:, 0].T).astype(float)
    bad = ~(there & home)
    returned[bad] = np.inf
    new[bad] = guess[bad]
    return new[:, 0].astype(float), returned


def _joined(ahead: _Way, behind: _Way) -> tuple[Array, Array]:
    """Both ways as one: nearer to a mark its way counts more; where the two part, neither is sure."""
    a, b = ahead.position, behind.position
    only_a, only_b = np.isnan(b[..., 0]), np.isnan(a[..., 0])
    # A way's variance grows with the distance from its mark.
    weigh_a = np.where(only_b, 0.0, np.maximum(ahead.confidence, 0.05) ** 2 / (ahead.since + 1.0))
    weigh_b = np.where(only_a, 0.0, np.maximum(behind.confidence, 0.05) ** 2 / (behind.since + 1.0))
    share = (weigh_b / np.maximum(weigh_a + weigh_b, 1e-12))[..., None]
    mixed = (1 - share) * np.nan_to_num(a) + share * np.nan_to_num(b)
    position = np.where((only_a & only_b)[..., None], np.nan, mixed)
    confidence = np.maximum(ahead.confidence, behind.confidence)
    # A way that lost its point says nothing against the other.
    both = np.minimum(ahead.confidence, behind.confidence) > DOUBT_BELOW
    apart = np.nan_to_num(np.hypot(*np.moveaxis(a - b, -1, 0)))
    return position, np.where(both, confidence * np.exp(-((apart / _PART_PX) ** 2)), confidence)


def _limbs_hold(
    limbs: tuple[Limb, ...], names: tuple[str, ...], position: Array, keys: Keys
) -> Array:
    """(F, L) 1 where the limbs that end in a point have a length they can have, less where they grow."""
    out = np.ones(position.shape[:2])
    for limb in limbs:
        i, j = names.index(limb.a), names.index(limb.b)
        long = np.hypot(*(position[:, i] - position[:, j]).T)
        seen = long[np.isfinite(long)]
        if not len(seen):
            continue
        known = [
            float(np.hypot(*(keys[limb.a][f] - keys[limb.b][f])))
            for f in keys[limb.a].keys() & keys[limb.b].keys()
        ]
        most = max([*known, float(np.percentile(seen, 80)), 1.0])
        over = np.maximum(np.nan_to_num(long / most - _LONGER), 0.0)
        holds = np.exp(-((over / _LONGER_BY) ** 2))
        out[:, i], out[:, j] = np.minimum(out[:, i], holds), np.minimum(out[:, j], holds)
    return out


def _calm(doubted: NDArray[np.bool_]) -> NDArray[np.bool_]:
    """Doubts that lie a few frames apart are one, and each begins a little before it is noticed."""
    closed = cv2.morphologyEx(doubted.astype(np.uint8), cv2.MORPH_CLOSE, _CLOSE_OFF)
    return np.asarray(cv2.dilate(closed, _BEGIN_EARLIER), dtype=bool)
